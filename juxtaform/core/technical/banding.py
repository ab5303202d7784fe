"""Banding: what should be a smooth change of tone falls into visible steps."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from juxtaform.core.technical.tiles import Luma, Tile

EVERY = 8
"""Every so many rows and columns are read."""
STEP_LEAST, STEP_MOST = 2, 24
"""Codes from which a step is seen in a smooth area, and up to which it is one: what is larger was drawn. A gradient in 8 bits steps by one."""
WIDE_LEAST = 5
"""A band is flat for at least so many px."""
STEPS_LEAST = 4
"""So many steps one after another, all up or all down, are a staircase."""


@dataclass(frozen=True, slots=True)
class Banding:
    """The share 0..1 of rows and columns that are staircases, and the middle step in codes."""

    share: float
    step: float


def banding(tiles: Sequence[Tile]) -> Banding:
    """Read staircases along the rows and columns of the tiles, a channel at a time, for each channel steps at places of its own; the channel with most of
    them is told."""
    best = Banding(0.0, 0.0)
    for channel in range(3):
        spans, read = 0, 0
        steps: list[float] = []
        for tile in tiles:
            codes = tile.pixels[..., channel]
            for part in (codes[::EVERY], codes.T[::EVERY]):
                span, own = _staircases(np.ascontiguousarray(part))
                spans += span
                steps += own
                read += part.size
        share = round(spans / max(1, read), 4)
        if share > best.share:
            best = Banding(share, float(np.median(steps)))
    return best


def _staircases(codes: Luma) -> tuple[int, list[float]]:
    """The px within staircases along the rows, and the heights of their steps."""
    columns = codes.shape[1]
    change = np.diff(codes.astype(np.int16), axis=1)
    row, at = np.nonzero(change)
    if len(row) < STEPS_LEAST:
        return 0, []
    height = change[row, at]
    same_row = row[1:] == row[:-1]
    gap = np.where(same_row, np.diff(at), 0)
    before = np.concatenate([[0], gap])
    after = np.concatenate([gap, [0]])
    # A staircase's first step has a flat before it and its last a flat behind it, up to the picture's edge.
    before = np.where(before == 0, at + 1, before)
    after = np.where(after == 0, columns - 1 - at, after)
    fits = (
        (np.abs(height) >= STEP_LEAST) & (np.abs(height) <= STEP_MOST) & (before >= WIDE_LEAST) & (after >= WIDE_LEAST)
    )
    sign = np.where(fits, np.sign(height), 0)
    new = np.concatenate([[True], (sign[1:] != sign[:-1]) | ~same_row | (sign[1:] == 0)])
    run = np.cumsum(new) - 1
    count = np.bincount(run, weights=sign != 0)
    first, last = np.flatnonzero(new), np.concatenate([np.flatnonzero(new)[1:] - 1, [len(new) - 1]])
    long = count >= STEPS_LEAST
    span = int((at[last][long] - at[first][long]).sum())
    return span, [float(v) for v in np.abs(height)[long[run] & fits]]
