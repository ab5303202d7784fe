"""Where along a sequence a lasting change begins: a step, or a slow slide, told apart from single slips."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from juxtaform.core import tolerances as tol
from juxtaform.core.colour.spaces import Floats

SLIDE_DISTANCE = 0.7
"""A slide is told before its last picture leaves tolerance: several pictures in one direction say more than one."""
LIKELIEST = 80
"""The number of parts, of those that end before the sequence does, that are compared in full."""
FINE = 300
"""In sequences up to this long every part is looked at; the work in longer ones grows no faster than they do."""
HUBER = 1.5
"""Residuals past this many units count linearly (P. Huber, Ann. Math. Stat. 35, 1964, eq. 1): one slip is not a trend."""


@dataclass(frozen=True)
class Change:
    """A lasting change: `start` is the first position (0-based) in the changed part, `end` one past its last."""

    kind: Literal["step", "slide"]
    start: int
    end: int
    gain: float


def lasting_change(z: Floats, distance: Floats) -> Change | None:
    """The most believable lasting change in a sequence, or None.

    `z` (n, k): departures in units of tolerated spread; `distance` (n,): relative distances, 1 is the edge of
    tolerance. A step needs at least two positions after it, a slide three. Models are compared by a Huber
    log-likelihood, with log(n) per fitted number and position paid (Schwarz's criterion); the changed part must leave
    tolerance.
    """
    n = len(z)
    if n < 4:
        return None
    z = z / _noise(z)
    plain = _huber(z - np.median(z, axis=0))
    effective = min(z.shape[1], 4)
    price = 0.5 * np.log(n) * (effective + 1) + tol.CHANGE_GAIN
    found: list[tuple[float, Change]] = []
    for start, end in _parts(z):
        inside = z[start:end]
        outside = np.concatenate([z[:start], z[end:]])
        if np.median(distance[start:end]) <= 1.0 or np.median(distance[:start]) >= 1.0:
            continue
        cost = _huber(inside - np.median(inside, axis=0)) + _huber(outside - np.median(outside, axis=0))
        if end < n:
            cost += price * 0.6
        found.append((plain - cost - price, Change("step", start, end, plain - cost - price)))
    slide = _best_slide(z, distance, plain, price)
    if slide:
        found.append((slide.gain, slide))
    if not found:
        return None
    gain, best = max(found, key=lambda pair: pair[0])
    return best if gain > 0 else None


def _parts(z: Floats) -> list[tuple[int, int]]:
    """Parts (start, end) of a sequence that may have changed: those that last to its end, and of those that end before it
    the likeliest by the difference of clipped means, which running sums give for all at once. Of a long sequence only some starts and ends are looked
    at, and of those that last the likeliest besides."""
    n = len(z)
    clipped = np.clip(z - np.median(z, axis=0), -2 * HUBER, 2 * HUBER)
    sums = np.concatenate([np.zeros((1, z.shape[1])), np.cumsum(clipped, axis=0)])
    stride = _stride(n)
    inner: list[tuple[float, int, int]] = []
    for start in range(2, n - 1, stride):
        ends = np.arange(start + 3, n - 1, stride)
        ends = ends[2 * (ends - start) <= n]
        if not len(ends):
            continue
        gain = _gain(sums, np.full(len(ends), start), ends)
        inner += [(float(g), start, int(e)) for g, e in zip(gain, ends, strict=True)]
    best = sorted(inner, reverse=True)[:LIKELIEST]
    every = np.arange(2, n - 1)
    if stride > 1:
        likeliest = every[np.argsort(-_gain(sums, every, np.full(len(every), n)))[:LIKELIEST]]
        every = np.unique(np.concatenate([every[::stride], likeliest]))
    return [*((int(start), n) for start in every), *((start, end) for _, start, end in best)]


def _stride(n: int) -> int:
    """How many positions apart starts and ends are looked at, so that the work grows with the sequence and not with its square."""
    return max(1, -(-n // FINE))


def _gain(sums: Floats, start: NDArray[np.intp], end: NDArray[np.intp]) -> Floats:
    """How far the means inside and outside of parts lie apart, weighed by both sizes, from running sums (n + 1, k)."""
    n = len(sums) - 1
    counts = (end - start)[:, None]
    inside = (sums[end] - sums[start]) / counts
    outside = (sums[n] - sums[end] + sums[start]) / (n - counts)
    return np.asarray(((inside - outside) ** 2).sum(axis=1) * counts[:, 0] * (n - counts[:, 0]) / n)


def _best_slide(z: Floats, distance: Floats, plain: float, price: float) -> Change | None:
    n = len(z)
    best: Change | None = None
    stride = _stride(n)
    last = n - tol.SLIDE_LEAST_SHOTS + 1
    # A slide runs to the end: near it every start counts, far from it some.
    for start in sorted({*range(2, last, stride), *range(max(2, last - FINE // 4), last)}):
        ramp = np.maximum(0.0, np.arange(n) - start + 1.0)
        middle = np.median(z[:start], axis=0)
        rest = z - middle
        slope = np.median(rest[start:] / ramp[start:, None], axis=0)
        fitted = rest - ramp[:, None] * slope
        gain = plain - _huber(fitted) - price
        along = rest[start:] @ (slope / max(1e-9, float(np.linalg.norm(slope))))
        rises = (
            np.all(np.diff(along) > 0.15 * np.abs(along).max() / len(along)) if n - start <= 4 else along[-1] > along[0]
        )
        if (
            rises
            and distance[-1] > SLIDE_DISTANCE
            and np.median(distance[:start]) < 1.0
            and (best is None or gain > best.gain)
        ):
            best = Change("slide", start, n, float(gain))
    return best


def _noise(z: Floats) -> Floats:
    """Spread of each term from one picture to the next (MAD of differences), shrunk half-way to 0.6, shape (k,)."""
    steps = 1.4826 * np.median(np.abs(np.diff(z, axis=0)), axis=0) / np.sqrt(2)
    return np.asarray(np.sqrt(0.5 * 0.6**2 + 0.5 * steps**2))


def _huber(residual: Floats) -> float:
    r = np.abs(residual)
    return float(np.where(r <= HUBER, 0.5 * r**2, HUBER * (r - 0.5 * HUBER)).sum())


USUAL_COUNTS = 4
"""The usual spread of a term counts as so many of a row's own pictures."""
MOST_OF, MOST_OF_NORMAL = 0.8, 1.28
"""A row's own spread is told by how far this part of its pictures is at most; of a normal spread that is so many deviations."""
TERM_EDGE, TERM_NOISE = 2.0, 0.67
"""A term by itself has changed for good where it is so many of the row's own spreads from the row's first pictures, against a noise of so many: clean
rows, 32 constructed and 51 of foreign art, hold within them in line width."""


def own_spread(own: float, count: int, usual: float) -> float:
    """The spread of a row whose `count` pictures show their `own`, drawn towards the usual one as far as they are few; both above 0, in one unit."""
    return float(np.sqrt((USUAL_COUNTS * usual**2 + count * own**2) / (USUAL_COUNTS + count)))


def term_away(values: Floats, spread: float) -> Floats:
    """How far one term of a style (n,), whose usual spread is given, is from its first values in each picture, in spreads (n,).

    The spread is that of the row's own first half as far as it is long enough to tell it: where lines are of one width throughout, a little more is seen.
    """
    first = values[: (len(values) + 1) // 2]
    middle = float(np.median(first)) if len(first) else 0.0
    own = float(np.quantile(np.abs(first - middle), MOST_OF)) / MOST_OF_NORMAL if len(first) else 0.0
    return (values - middle) / own_spread(own, len(first), spread)


def term_change(values: Floats, spread: float) -> tuple[Change, Floats] | None:
    """Where one term of a style (n,) changes up to the end, and how far each picture is from the first ones in spreads (n,; `term_away`), or None."""
    away = term_away(values, spread)
    for way in (1.0, -1.0):
        there = np.maximum(way * away, 0.0)
        change = lasting_change(there[:, None] / TERM_NOISE, there / TERM_EDGE)
        if change and change.end == len(values) and np.median(there[change.start :]) > np.median(there[: change.start]):
            return change, away
    return None


def scalar_change(distance: Floats) -> Change | None:
    """The same for one relative distance per position (a character's drift), shape (n,)."""
    return lasting_change(2.0 * distance[:, None], distance)
