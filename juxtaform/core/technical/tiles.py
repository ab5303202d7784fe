"""Parts of a picture at its own resolution: enough of it to read what resizing would hide, and never more than so much."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Pixels

Luma = NDArray[np.uint8]

TILE = 256
"""A tile's side in px; a multiple of 8, as the blocks of JPEG and of most video are."""
ACROSS = 3
"""So many tiles each way; a smaller picture is read whole."""


@dataclass(frozen=True)
class Tile:
    """A part of a picture: its sRGB codes (h, w, 3), its luma codes (h, w) 0..255, and where its left top corner lies in the picture."""

    pixels: Pixels
    luma: Luma
    x: int
    y: int


def tiles_of(pixels: Pixels) -> list[Tile]:
    """Tiles of an sRGB picture (h, w, 3), spread evenly, each beginning at a multiple of 8 px."""
    height, width = pixels.shape[:2]
    found = []
    for y in _begins(height):
        for x in _begins(width):
            part = np.ascontiguousarray(pixels[y : y + TILE, x : x + TILE])
            found.append(Tile(part, np.asarray(cv2.cvtColor(part, cv2.COLOR_RGB2GRAY), np.uint8), x, y))
    return found


def _begins(length: int) -> list[int]:
    if length <= ACROSS * TILE:
        return list(range(0, max(1, length - 7), TILE))
    step = (length - TILE) / (ACROSS - 1)
    return [int(i * step) // 8 * 8 for i in range(ACROSS)]
