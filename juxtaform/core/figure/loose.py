"""Two pictures of a figure in different poses, matched place by place without one transform for the whole."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from juxtaform.core.figure.placing import PLACES_LEAST
from juxtaform.core.figure.sheet import FIGURE_LEAST, Sheet
from juxtaform.core.picture.trunk import unit

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
    if min((s.fine_mask > FIGURE_LEAST).sum() for s in (ours, theirs)) < PLACES_LEAST:
        return 0.0
    (one, from_), (other, to) = _figure_alone(ours), _figure_alone(theirs)
    cosine = (one.reshape(len(one), -1).T @ other.reshape(len(other), -1)).reshape(*from_.shape, *to.shape)
    alike = OWN_WEIGHT * cosine + (1 - OWN_WEIGHT) * _of_neighbours(cosine)
    i, j = np.flatnonzero(from_), np.flatnonzero(to)
    near = alike.reshape(from_.size, to.size)[np.ix_(i, j)]
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


def _of_neighbours(cosine: Grid) -> Grid:
    """For each pair of places the mean over the 8 neighbours of the best cosine within one place; (h, w) places of the one, and as
    many of the other as it has, in and out."""
    best = cosine.copy()
    np.maximum(best[:, :, 1:], cosine[:, :, :-1], out=best[:, :, 1:])
    np.maximum(best[:, :, :-1], cosine[:, :, 1:], out=best[:, :, :-1])
    across = best.copy()
    np.maximum(best[..., 1:], across[..., :-1], out=best[..., 1:])
    np.maximum(best[..., :-1], across[..., 1:], out=best[..., :-1])
    around = np.pad(best, ((1, 1), (1, 1), (1, 1), (1, 1)), constant_values=0.0)
    total = np.zeros_like(cosine)
    h, w, oh, ow = cosine.shape
    for dy, dx in _AROUND:
        total += around[1 + dy : 1 + dy + h, 1 + dx : 1 + dx + w, 1 + dy : 1 + dy + oh, 1 + dx : 1 + dx + ow]
    return np.asarray(total / len(_AROUND), dtype=np.float32)


def _figure_alone(sheet: Sheet) -> tuple[Grid, NDArray[np.bool_]]:
    """The unit numbers of stage 3 where the figure is, with what its neighbours' neighbours need around it, and its mask there."""
    mask = sheet.fine_mask > FIGURE_LEAST
    rows, columns = np.flatnonzero(mask.any(axis=1)), np.flatnonzero(mask.any(axis=0))
    part = tuple(slice(max(0, int(at[0]) - 2), int(at[-1]) + 3) for at in (rows, columns))
    return unit(sheet.maps[0][:, part[0], part[1]]), mask[part]
