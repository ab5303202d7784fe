"""Sounds mixed: added up with their gains and fades, as the ear hears them and as they go out."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np
from numpy.typing import NDArray

from juxtaform.core.sound.laying import Laid
from juxtaform.core.sound.levels import FULL, PER_S, RATE, Levels, Samples, Span

Mixed = NDArray[np.float32]
SamplesOf = Callable[[str], Samples]
"""The samples of a piece's whole recording, by the piece's id."""


def factor(gain_db: float) -> float:
    """A gain as a factor of the amplitude.

    >>> round(factor(-6.0), 3), factor(0.0)
    (0.501, 1.0)
    """
    return float(10 ** (gain_db / 20))


def gains(laid: Laid, times: NDArray[np.float64]) -> NDArray[np.float32]:
    """By how much a sound is multiplied at some moments of the whole, in s: its gain, and straight ramps where it fades."""
    p = laid.piece
    gain = np.full(times.shape, factor(p.gain_db), dtype=np.float32)
    if p.fade_in_s > 0:
        gain *= np.clip((times - laid.start_s) / p.fade_in_s, 0, 1).astype(np.float32)
    if p.fade_out_s > 0:
        gain *= np.clip((laid.end_s - times) / p.fade_out_s, 0, 1).astype(np.float32)
    return gain


def mixed(laid: Sequence[Laid], samples: SamplesOf, start: int, stop: int) -> Mixed:
    """The samples `start` to `stop` of the whole, (n, 2), full scale ±1; above it nothing is taken away."""
    out = np.zeros((stop - start, 2), dtype=np.float32)
    for x in laid:
        first, last = max(start, round(x.start_s * RATE)), min(stop, round(x.end_s * RATE))
        if first >= last:
            continue
        own = samples(x.piece.id)
        shift = round(x.piece.from_s * RATE) - round(x.start_s * RATE)
        part = own[first + shift : min(len(own), last + shift)]
        if not len(part):
            continue
        gain = gains(x, (first + np.arange(len(part))) / RATE)
        out[first - start : first - start + len(part)] += (
            part * (gain / FULL)[:, None]
        )  # one channel is heard on both sides
    return out


def may_be_over(laid: Sequence[Laid], levels: Callable[[str], Levels], length_s: float) -> list[Span]:
    """Where the mix may go over full scale, in s: where the extremes of what is heard together add up to more. Elsewhere it cannot."""
    steps = round(length_s * PER_S) + 1
    low, high = np.zeros(steps), np.zeros(steps)
    for x in laid:
        first, last = int(x.start_s * PER_S), min(steps, int(np.ceil(x.end_s * PER_S)))
        own = levels(x.piece.id)
        shift = round(x.piece.from_s * PER_S) - first
        part = slice(max(0, first + shift), max(0, min(len(own.rms), last + shift)))
        n = part.stop - part.start
        if n <= 0:
            continue
        gain = gains(x, (first + np.arange(n) + 0.5) / PER_S) / FULL
        # Steps of the sound begin within steps of the whole, so that two of them share one.
        low[first : first + n] += np.minimum(own.low[part], _one_before(own.low, part)) * gain
        high[first : first + n] += np.maximum(own.high[part], _one_before(own.high, part)) * gain
    over = np.maximum(-low, high) > 1.0
    over = np.convolve(over, np.ones(3), mode="same") > 0
    edges = np.flatnonzero(np.diff(np.concatenate([[False], over, [False]]).astype(np.int8)))
    return [(float(a) / PER_S, float(b) / PER_S) for a, b in zip(edges[::2], edges[1::2], strict=True)]


def _one_before(values: NDArray[np.int16], part: slice) -> NDArray[np.int16]:
    """The values one step before those of a part."""
    before: NDArray[np.int16] = values[np.maximum(np.arange(part.start, part.stop) - 1, 0)]
    return before
