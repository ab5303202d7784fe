"""Two pictures of a figure in different poses, matched place by place without one transform for the whole."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from juxtaform.core.figure.placing import FIGURE_LEAST, PLACES_LEAST
from juxtaform.core.figure.sheet import FINE, Sheet
from juxtaform.core.figure.trunk import unit

OWN_WEIGHT = 0.5
"""How much of a pair's likeness is its own cosine; the rest is that of its neighbours."""
MOVED_ALIKE = 2
"""Neighbours moved alike when their matches lie at most this many places off each other's."""

Grid = NDArray[np.float32]
_AROUND = [(dy, dx) for dy in (-1, 0, 1) for dx in (-1, 0, 1) if dy or dx]


def loose_likeness(ours: Sheet, theirs: Sheet) -> float:
    """About 0..1: the mean likeness of mutual nearest places at stage 3, each weighed by how many of its neighbours
    moved alike.

    A pair of places is as alike as its cosine and, for each of the 8 neighbours of the one, the best cosine with the
    places within one around the same neighbour of the other.
    """
    from_, to = (s.fine_mask > FIGURE_LEAST for s in (ours, theirs))
    if min(from_.sum(), to.sum()) < PLACES_LEAST:
        return 0.0
    one, other = unit(ours.maps[0]), unit(theirs.maps[0])
    cosine = (one.reshape(len(one), -1).T @ other.reshape(len(other), -1)).reshape(FINE, FINE, FINE, FINE)
    alike = OWN_WEIGHT * cosine + (1 - OWN_WEIGHT) * _of_neighbours(cosine)
    flat = alike.reshape(FINE * FINE, FINE * FINE)
    i, j = np.flatnonzero(from_.ravel()), np.flatnonzero(to.ravel())
    held = flat[np.ix_(i, j)]
    best, back = held.argmax(axis=1), held.argmax(axis=0)
    mutual = np.flatnonzero(back[best] == np.arange(len(i)))
    if not len(mutual):
        return 0.0
    start, end = i[mutual], j[best[mutual]]
    moved = np.full((FINE + 2, FINE + 2, 2), np.nan)
    moved[start // FINE + 1, start % FINE + 1] = np.stack(
        [end // FINE - start // FINE, end % FINE - start % FINE], axis=1
    )
    own = moved[start // FINE + 1, start % FINE + 1]
    with np.errstate(invalid="ignore"):
        agree = [
            np.abs(moved[start // FINE + 1 + dy, start % FINE + 1 + dx] - own).max(axis=1) <= MOVED_ALIKE
            for dy, dx in _AROUND
        ]
    weight = np.mean(agree, axis=0)
    value = held[mutual, best[mutual]]
    return float((weight * value).sum() / min(len(i), len(j)))


def _of_neighbours(cosine: Grid) -> Grid:
    """For each pair of places the mean over the 8 neighbours of the best cosine within one place, (s, s, s, s)."""
    best = cosine.copy()
    np.maximum(best[:, :, 1:], cosine[:, :, :-1], out=best[:, :, 1:])
    np.maximum(best[:, :, :-1], cosine[:, :, 1:], out=best[:, :, :-1])
    across = best.copy()
    np.maximum(best[..., 1:], across[..., :-1], out=best[..., 1:])
    np.maximum(best[..., :-1], across[..., 1:], out=best[..., :-1])
    around = np.pad(best, ((1, 1), (1, 1), (1, 1), (1, 1)), constant_values=0.0)
    total = np.zeros_like(cosine)
    for dy, dx in _AROUND:
        total += around[1 + dy : 1 + dy + FINE, 1 + dx : 1 + dx + FINE, 1 + dy : 1 + dy + FINE, 1 + dx : 1 + dx + FINE]
    return np.asarray(total / len(_AROUND), dtype=np.float32)
