"""How wide a picture's edges are, in px of its own resolution."""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np

from juxtaform.core.technical.tiles import Tile

AROUND = 13
"""An edge's contrast is the range of codes within this many px (a side) of it."""
CONTRAST_LEAST = 40.0
"""Edges of fewer codes are grain or shading."""
SOBEL = 8
"""The sum of a Sobel kernel's weights on one side: the slope in codes per px is what it gives over this."""
EDGES_LEAST = 40
"""A picture with fewer edge px says nothing of its sharpness."""


def edge_width(tiles: Sequence[Tile]) -> float | None:
    """The width of a picture's sharper edges in px: an edge's contrast over its steepest slope (as in P. Marziliano et al., "A no-reference perceptual
    blur metric", ICIP 2002, read from ranges instead of along lines). The quarter of its edges that are sharpest count, so that a soft ground behind
    something sharp makes no soft picture. None where there are too few edges."""
    kernel = np.ones((AROUND, AROUND), np.uint8)
    widths = []
    for tile in tiles:
        grey = tile.luma
        span = cv2.subtract(cv2.dilate(grey, kernel), cv2.erode(grey, kernel))
        # Squares of whole numbers below 2^24: float32 holds them exactly, so that which px is a ridge is the same on every machine.
        gx, gy = (cv2.Sobel(grey, cv2.CV_16S, *d).astype(np.float32) for d in ((1, 0), (0, 1)))
        steep = gx * gx + gy * gy
        ridge = (steep >= cv2.dilate(steep, np.ones((3, 3), np.uint8))) & (span >= CONTRAST_LEAST) & (steep > SOBEL**2)
        if ridge.any():
            widths.append(span[ridge] / (np.sqrt(steep[ridge]) / np.float32(SOBEL)))
    seen = np.concatenate(widths) if widths else np.zeros(0)
    return float(np.percentile(seen, 25)) if len(seen) >= EDGES_LEAST else None
