"""What a recording holds: its level step by step, where something is heard, and where it clips. Samples are int16 (n, channels) at `RATE`."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Samples = NDArray[np.int16]
RATE = 48_000
"""Samples a second of every working copy; what broadcast and film use."""
PER_S = 100
"""Steps a second of the levels: a hundredth is the shortest sound that is heard as one of its own."""
FULL = 32_767
SILENT_DBFS = -65.0
"""A recording whose loud parts stay below this has nothing in it: a quiet room through a good microphone lies about here."""
ABOVE_NOISE_DB = 8.0
"""Speech and steps stand out from the noise of their recording by at least this much."""
RANGE_DB = 45.0
"""What lies more than this below the loud parts is not heard beside them."""
NOISE_SPREAD_DB, NOISE_BELOW_DB = 1.5, 11.0
"""The noise of a room is as loud all the time, and clearly softer than what is recorded in it; soft music is neither."""
JOINED_S = 0.12
"""A shorter pause lies within a word: the closure of a plosive lasts up to a tenth of a second."""
LEAST_HEARD_S = 0.03
CLIPPED_RUN, CLIPPED_DROP = 3, 16
"""A clipped wave stays at full scale for some samples, and gets there by a step; a wave that just reaches it comes and goes smoothly."""

Span = tuple[float, float]


@dataclass(frozen=True)
class Levels:
    """A recording step by step: `low` and `high` are its extreme samples, `rms` its strength, int16 each, `PER_S` steps a second."""

    low: NDArray[np.int16]
    high: NDArray[np.int16]
    rms: NDArray[np.int16]

    @property
    def seconds(self) -> float:
        return len(self.rms) / PER_S


@dataclass(frozen=True)
class Holds:
    """What a recording holds: its highest sample, 0..1; how loud its loud parts are (dBFS); from when to when something is heard, and where it clips, in s."""

    peak: float
    loud_dbfs: float
    heard: tuple[Span, ...]
    clipped: tuple[Span, ...]

    @property
    def silent(self) -> bool:
        return not self.heard


def levels_of(blocks: Iterator[Samples]) -> tuple[Levels, tuple[Span, ...]]:
    """The levels of a recording that comes in blocks of whole steps (the last one may be shorter), and where it clips."""
    step = RATE // PER_S
    parts: list[NDArray[np.int16]] = []
    clipped: list[Span] = []
    at = 0
    for block in blocks:
        clipped += [((at + a) / RATE, (at + b) / RATE) for a, b in _clipped_runs(block)]
        at += len(block)
        short = -len(block) % step
        whole = np.pad(block, ((0, short), (0, 0))) if short else block
        cells = whole.reshape(len(whole) // step, -1)
        strength = np.sqrt(np.mean(np.square(cells, dtype=np.float32), axis=1))
        parts.append(np.stack([cells.min(axis=1), cells.max(axis=1), strength.astype(np.int16)], axis=1))
    all_parts = np.concatenate(parts) if parts else np.zeros((0, 3), dtype=np.int16)
    return Levels(all_parts[:, 0], all_parts[:, 1], all_parts[:, 2]), tuple(_joined(clipped, 0.2))


def held(levels: Levels, clipped: tuple[Span, ...] = ()) -> Holds:
    """What a recording holds, by its levels.

    >>> quiet = np.zeros(50, dtype=np.int16)
    >>> loud = np.full(50, 8000, dtype=np.int16)
    >>> rms = np.concatenate([quiet, loud, quiet])
    >>> held(Levels(-rms, rms, rms)).heard
    ((0.5, 1.0),)
    """
    if not len(levels.rms):
        return Holds(0.0, -120.0, (), ())
    peak = float(max(int(levels.high.max()), -int(levels.low.min()))) / FULL
    dbfs = 20 * np.log10(np.maximum(levels.rms, 1).astype(np.float64) / FULL)
    softest, noise, soft, loud = (float(v) for v in np.percentile(dbfs, [2, 5, 8, 95]))
    loudest = float(dbfs.max())
    loud = max(loud, loudest - 10)  # a single word in a long silence
    if loudest < SILENT_DBFS:
        return Holds(peak, loud, (), clipped)
    is_noise = soft - softest < NOISE_SPREAD_DB and loud - noise > NOISE_BELOW_DB
    level = max(noise + ABOVE_NOISE_DB if is_noise else -120.0, loud - RANGE_DB, SILENT_DBFS)
    spans = _joined(_spans(dbfs > level), JOINED_S)
    return Holds(peak, loud, tuple(s for s in spans if s[1] - s[0] >= LEAST_HEARD_S), clipped)


def _spans(on: NDArray[np.bool_]) -> list[Span]:
    edges = np.flatnonzero(np.diff(np.concatenate([[False], on, [False]]).astype(np.int8)))
    return [(float(a) / PER_S, float(b) / PER_S) for a, b in zip(edges[::2], edges[1::2], strict=True)]


def _joined(spans: list[Span], gap_s: float) -> list[Span]:
    out: list[Span] = []
    for start, end in sorted(spans):
        if out and start - out[-1][1] < gap_s:
            out[-1] = (out[-1][0], max(end, out[-1][1]))
        else:
            out.append((start, end))
    return out


def _clipped_runs(block: Samples) -> list[tuple[int, int]]:
    runs: list[tuple[int, int]] = []
    for channel in range(block.shape[1]):
        x = block[:, channel].astype(np.int32)
        for sign in (1, -1):
            full = x * sign >= FULL - 1
            if not full.any():
                continue
            edges = np.flatnonzero(np.diff(np.concatenate([[False], full, [False]]).astype(np.int8)))
            for a, b in zip(edges[::2], edges[1::2], strict=True):
                if b - a < CLIPPED_RUN:
                    continue
                around = [abs(int(x[i] - x[a])) for i in (a - 1, b) if 0 <= i < len(x)]
                if not around or max(around) >= CLIPPED_DROP:
                    runs.append((int(a), int(b)))
    return runs
