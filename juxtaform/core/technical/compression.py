"""What compression left in a picture: steps at the edges of blocks, and ringing beside hard edges."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from juxtaform.core.colour.spaces import Floats
from juxtaform.core.technical.tiles import Luma, Tile

BLOCK = 8
"""The side of a block of JPEG in px."""
STEP_MOST = 12.0
"""A larger step between neighbours is drawn; it counts as one of so many codes."""
HARD = 40
"""From so many codes within a block's reach on, an edge is hard enough to ring."""
CALM = 1.5
"""Where most of a neighbourhood differs by less than so many codes from its median, something plain was drawn."""


@dataclass(frozen=True)
class Compression:
    """`blocks`: how much larger, in codes, the steps at block edges are than those elsewhere; `blocks_sure` the same in their own spread. `ringing`: unrest
    in codes of plain areas beside hard edges, above that of plain areas away from them."""

    blocks: float
    blocks_sure: float
    ringing: float


def compression(tiles: Sequence[Tile]) -> Compression:
    """Read what compression left. Blocks are looked for on all eight offsets of their grid, both ways (after Z. Wang, A. Bovik and B. Evans, "Blind
    measurement of blocking artifacts in images", ICIP 2000), ringing as the unrest that plain areas have near hard edges alone."""
    steps = np.stack([_steps(t.luma, 1, t.x) + _steps(t.luma.T, 1, t.y) for t in tiles]) / 2
    second = np.stack([_steps(t.luma, 2, t.x) + _steps(t.luma.T, 2, t.y) for t in tiles]) / 2
    phase = (steps - 0.5 * second).mean(axis=0)
    at = int(phase.argmax())
    others = np.delete(phase, at)
    lead = float(phase[at] - np.median(others))
    return Compression(round(lead, 3), round(lead / (float(others.std()) + 0.02), 2), round(_ringing(tiles), 3))


def _steps(luma: Luma, reach: int, begin: int) -> Floats:
    """The mean step between neighbours `reach` px apart, by where on a grid of blocks the first lies (8,)."""
    whole = luma.astype(np.int16)
    step = np.minimum(np.abs(whole[:, reach:] - whole[:, :-reach]), STEP_MOST).mean(axis=0)
    place = (np.arange(len(step)) + begin + (reach - 1)) % BLOCK
    return np.asarray(np.bincount(place, step, BLOCK) / np.maximum(1, np.bincount(place, minlength=BLOCK)))


def _ringing(tiles: Sequence[Tile]) -> float:
    near, away = [], []
    reach = np.ones((2 * BLOCK - 1, 2 * BLOCK - 1), np.uint8)
    wide = np.ones((5 * BLOCK + 1, 5 * BLOCK + 1), np.uint8)
    for tile in tiles:
        grey = tile.luma
        still = cv2.medianBlur(grey, 5)
        unrest = cv2.absdiff(grey, still)
        edge = (cv2.morphologyEx(still, cv2.MORPH_GRADIENT, np.ones((3, 3), np.uint8)) > HARD / 2).astype(np.uint8)
        touched = cv2.dilate(edge, np.ones((7, 7), np.uint8)) > 0
        beside = (cv2.dilate(edge, reach) > 0) & ~touched
        far = cv2.dilate(edge, wide) == 0
        near.append(unrest[beside])
        away.append(unrest[far])
    beside_all, far_all = np.concatenate(near), np.concatenate(away)
    if len(beside_all) < 400 or len(far_all) < 400:
        return 0.0
    return float(np.minimum(beside_all, STEP_MOST).mean() - np.minimum(far_all, STEP_MOST).mean())
