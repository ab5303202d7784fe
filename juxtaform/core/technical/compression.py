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
LINES = 70
"""The percentile of an offset's lines that counts: flat parts show no blocks, and a few drawn edges are no grid."""
CALM_STEP = 0.3
"""The step in codes from line to line that even a plain picture is taken to have."""
HARD = 40
"""From so many codes within a block's reach on, an edge is hard enough to ring."""
TIMES_AWAY = 2.0
"""Plain areas beside edges are so many times as restless as those away from them, or it is the grain of paper and hatching, not ringing."""


@dataclass(frozen=True, slots=True)
class Compression:
    """`blocks`: how much larger the steps at block edges are than those elsewhere, as a part of the picture's usual step; `blocks_sure` the same in their own spread. `ringing`: unrest
    in codes of plain areas beside hard edges, above that of plain areas away from them."""

    blocks: float
    blocks_sure: float
    ringing: float


def compression(tiles: Sequence[Tile]) -> Compression:
    """Read what compression left. Blocks are looked for on all eight offsets of their grid, both ways, as what is above the lines beside (after Z. Wang, A. Bovik and B. Evans, "Blind
    measurement of blocking artifacts in images", ICIP 2000), ringing as the unrest that plain areas have near hard edges alone."""
    lines: list[list[float]] = [[] for _ in range(BLOCK)]
    levels = []
    for tile in tiles:
        for luma, begin in ((tile.luma, tile.x), (tile.luma.T, tile.y)):
            step = _steps(luma)
            levels.append(step)
            for i, above in enumerate(step - np.convolve(step, np.array([0.5, 0.0, 0.5]), mode="same")):
                lines[(i + begin) % BLOCK].append(float(above))
    # A block's edge comes back at every eighth line, a drawn one does not: most lines of an offset must have it. Where all is restless it is not seen.
    phase = np.array([np.percentile(own, LINES) if own else 0.0 for own in lines])
    unrest = float(np.median(np.concatenate(levels))) + CALM_STEP
    at = int(phase.argmax())
    others = np.delete(phase, at)
    lead = float(phase[at] - np.median(others))
    sure = lead / (float(others.std()) + 0.02)
    return Compression(round(lead / unrest, 3), round(sure, 2), round(_ringing(tiles), 3))


def _steps(luma: Luma) -> Floats:
    """The mean step in codes from each line to the next."""
    return np.asarray(np.minimum(np.abs(np.diff(luma.astype(np.int16), axis=1)), STEP_MOST).mean(axis=0))


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
    beside_mean, far_mean = (float(np.minimum(v, STEP_MOST).mean()) for v in (beside_all, far_all))
    return beside_mean - far_mean if beside_mean >= TIMES_AWAY * far_mean else 0.0
