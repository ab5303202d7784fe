"""A sequence's hands against its style: how far each picture is, and where another hand takes over for good."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from juxtaform.core.colour.spaces import Floats
from juxtaform.core.style.drift import Change

EVEN = 64
"""The first so many numbers of a hand are those in which pictures of one hand spread evenly; the rest tell hands apart."""
FIRST = 3
"""The number of first pictures that stand for the style beside its references. Without references all do, up to where another hand takes over."""
BETTER, BETTER_MEAN = 0.7, 1.12
"""This part of the pictures, those nearest to the middle, tells the spread; that of all is about so many times as wide."""
USUAL_SPREAD, USUAL_WEIGHT = 1.35, 3.0
"""The mean distance from their middle of pictures by one hand, over many hands; it counts as this many pictures."""
SPREAD_RANGE = (0.9, 2.4)
"""A style's spread is held between these, however like or unlike its pictures are."""
SPREADS = 2.55
"""A picture this many spreads from the style's middle is by another hand: of 500 clean pictures by day and by night two
went further."""
STEP_LEAST = 1.9
"""A change of hand is told from this many noises on (difference of means, weighed by how many pictures stand on both sides; noise is the
median step from picture to picture). Clean rows of 12 pictures reach 1.4 at most."""
SUSTAINED = 0.7
"""At least this part of the pictures after a change lies nearer to the new middle than to the old one, and as many before it."""
SLIP = 1.5
"""A picture this many times further from both neighbours than these are from each other is a slip."""
RAMP_BETTER = 0.6
"""A change is a slide when a ramp leaves less than this part of the squares that a step leaves."""


@dataclass(frozen=True)
class HandJudgement:
    """`distance` (n,) relative, 1 is the edge of tolerance; `spread` the style's own spread, `set_on` how many pictures told it."""

    distance: Floats
    spread: float
    set_on: int


def hands_judged(sequence: Floats, references: Floats, before: int) -> HandJudgement:
    """Hands of a sequence (n, k) against those of its style (m, k; m may be 0); its first `before` pictures are by one hand but for slips.

    The spread is that of the references and of those pictures that lie nearest to their middle, drawn towards the usual one as far as they are
    few: it shrinks as well as widens.
    """
    own = references.reshape(-1, sequence.shape[1])
    middle = np.median(np.concatenate([own, sequence[: FIRST if len(own) else max(FIRST, before)]]), axis=0)
    away = np.sort(apart(np.concatenate([own, sequence[:before]]), middle))
    nearest = away[: max(FIRST, int(np.ceil(BETTER * len(away))))]
    spread = USUAL_WEIGHT * USUAL_SPREAD + len(nearest) * BETTER_MEAN * float(nearest.mean())
    spread = float(np.clip(spread / (USUAL_WEIGHT + len(nearest)), *SPREAD_RANGE))
    return HandJudgement(apart(sequence, middle) / (SPREADS * spread), spread, len(away))


def apart(hands: Floats, middle: Floats) -> Floats:
    """The distance of each hand (n, k) to a middle (k,): 1 is about that of two pictures by one hand."""
    away = hands - middle
    return np.asarray(np.linalg.norm(away[:, :EVEN], axis=1) + np.linalg.norm(away[:, EVEN:], axis=1))


def change_of_hand(sequence: Floats) -> Change | None:
    """Where another hand takes over and stays, in hands (n, k), or None. At least two pictures stand on both sides.

    The best split by the difference of means, single slips put aside; it is told when that is large against the noise between neighbours, and when the pictures on
    both sides agree with their side one by one.
    """
    n = len(sequence)
    if n < 5:
        return None
    noise = float(np.median(np.linalg.norm(np.diff(sequence, axis=0), axis=1))) / np.sqrt(2)
    if noise <= 0:
        return None

    calm = _without_slips(sequence, noise)

    sums = np.cumsum(calm, axis=0)
    starts = np.arange(2, n - 1)
    step = (sums[-1] - sums[starts - 1]) / (n - starts)[:, None] - sums[starts - 1] / starts[:, None]
    gains = np.linalg.norm(step, axis=1) * np.sqrt(starts * (n - starts) / n) / noise
    start, gain = int(starts[gains.argmax()]), float(gains.max())
    before, after = np.median(sequence[:start], axis=0), np.median(sequence[start:], axis=0)
    nearer = apart(sequence, after) < apart(sequence, before)
    if gain < STEP_LEAST or nearer[start:].mean() < SUSTAINED or (~nearer[:start]).mean() < SUSTAINED:
        return None
    return Change(_kind(sequence, start, after - before), start, n, gain)


def _without_slips(sequence: Floats, noise: float) -> Floats:
    """The hands with those pictures that stand away from both neighbours, which agree, put in the neighbours' middle."""
    calm = sequence.copy()
    for i in range(1, len(sequence) - 1):
        before, here, after = calm[i - 1], sequence[i], sequence[i + 1]
        off = min(np.linalg.norm(here - before), np.linalg.norm(here - after))
        if off > SLIP * max(float(np.linalg.norm(after - before)), noise):
            calm[i] = (before + after) / 2
    return calm


def _kind(sequence: Floats, start: int, way: Floats) -> Literal["step", "slide"]:
    along = sequence @ way / max(1e-9, float(way @ way))
    n = len(along)
    step = np.r_[along[:start] - np.median(along[:start]), along[start:] - np.median(along[start:])]
    best = np.inf
    for first in range(max(1, start - 3), min(start + 1, n - 2)):
        ramp = np.maximum(0.0, np.arange(n) - first + 1.0)
        fitted = np.polynomial.Polynomial.fit(ramp, along, 1)
        best = min(best, float(((along - fitted(ramp)) ** 2).sum()))
    return "slide" if best < RAMP_BETTER * float((step**2).sum()) else "step"
