"""Two pictures of a figure in different poses, matched place by place without one transform for the whole."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from juxtaform.core.figure.placing import PLACES_LEAST
from juxtaform.core.figure.sheet import FIGURE_LEAST, Sheet
from juxtaform.core.picture.trunk import Map

OWN_WEIGHT = 0.5
"""How much of a pair's likeness is its own cosine; the rest is that of its neighbours."""
MOVED_ALIKE = 2
"""Neighbours moved alike when their matches lie at most this many places off each other's."""

_AROUND = [(dy, dx) for dy in (-1, 0, 1) for dx in (-1, 0, 1) if dy or dx]
_RIM = -2.0
"""Less than any cosine: what lies around a square's places."""


def loose_likeness(ours: Sheet, theirs: Sheet) -> float:
    """About 0..1: the mean likeness of mutual nearest places at stage 3, each weighed by how many of its neighbours
    moved alike.

    A pair of places is as alike as its cosine and, for each of the 8 neighbours of the one, the best cosine with the
    places within one around the same neighbour of the other.
    """
    if min((s.fine_mask > FIGURE_LEAST).sum() for s in (ours, theirs)) < PLACES_LEAST:
        return 0.0
    (one, from_), (other, to) = ours.alone, theirs.alone
    i, j = np.flatnonzero(from_), np.flatnonzero(to)
    near = alike(one, other, i, j)
    best, back = near.argmax(axis=1), near.argmax(axis=0)
    mutual = np.flatnonzero(back[best] == np.arange(len(i)))
    if not len(mutual):
        return 0.0
    start, end = (np.stack(np.divmod(at, s.shape[1]), axis=1) for at, s in ((i[mutual], from_), (j[best[mutual]], to)))
    moved = np.full((from_.shape[0] + 2, from_.shape[1] + 2, 2), np.nan)
    moved[start[:, 0] + 1, start[:, 1] + 1] = end - start
    own = end - start
    with np.errstate(invalid="ignore"):
        agree = [
            np.abs(moved[start[:, 0] + 1 + dy, start[:, 1] + 1 + dx] - own).max(axis=1) <= MOVED_ALIKE
            for dy, dx in _AROUND
        ]
    weight = np.mean(agree, axis=0)
    value = near[mutual, best[mutual]]
    return float((weight * value).sum() / min(len(i), len(j)))


def alike(one: Map, other: Map, i: NDArray[np.intp], j: NDArray[np.intp]) -> NDArray[np.float32]:
    """How alike the places `i` of one figure (n, h, w) and `j` of the other (n, oh, ow) are, their neighbours told with them: (len(i), len(j)).

    The pairs of places lie in one row with a rim around either figure, so that a step to a neighbour is one step along the row, for all pairs at once; what
    wraps around ends up in the rim.
    """
    (n, h, w), (_, oh, ow) = one.shape, other.shape
    shape = (h + 2, w + 2, oh + 2, ow + 2)
    pairs = np.full(shape, _RIM, np.float32)
    pairs[1:-1, 1:-1, 1:-1, 1:-1] = (one.reshape(n, -1).T @ other.reshape(n, -1)).reshape(h, w, oh, ow)
    down, right = (ow + 2) * (oh + 2) * (w + 2), (ow + 2) * (oh + 2)
    other_down, other_right = ow + 2, 1
    at = _in_row(i, w, down, right)[:, None] + _in_row(j, ow, other_down, other_right)
    row = pairs.ravel()
    own = row[at]
    for step in (other_right, other_down):
        row = _best_within(row, step)
    best = row.reshape(shape)
    for axis in range(4):
        sides = np.moveaxis(best, axis, 0)
        sides[0], sides[-1] = 0.0, 0.0
    total = row
    for step in (down + other_down, right + other_right):
        total = _sum_within(total, step)
    neighbours = (total[at] - row[at]) / np.float32(len(_AROUND))
    return np.asarray(OWN_WEIGHT * own + (1 - OWN_WEIGHT) * neighbours, dtype=np.float32)


def _in_row(places: NDArray[np.intp], width: int, down: int, right: int) -> NDArray[np.intp]:
    """Where places of a figure `width` places wide lie in a row of pairs in which a step down and one to the right are so long."""
    rows, columns = np.divmod(places, width)
    return np.asarray((rows + 1) * down + (columns + 1) * right)


def _best_within(row: NDArray[np.float32], step: int) -> NDArray[np.float32]:
    """The largest of every number and those one step before and after it."""
    best = row.copy()
    np.maximum(best[step:], row[:-step], out=best[step:])
    np.maximum(best[:-step], row[step:], out=best[:-step])
    return best


def _sum_within(row: NDArray[np.float32], step: int) -> NDArray[np.float32]:
    """The sum of every number and those one step before and after it."""
    total = row.copy()
    total[step:] += row[:-step]
    total[:-step] += row[step:]
    return total
