"""How like two pictures are at a glance: where which colours lie, and how edges run there."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Pixels, linear_from_srgb8, oklab_from_linear
from juxtaform.core.picture.regions import resized

LIKENESS_VERSION = "1"
SIDE, GRID, DIRECTIONS = 96, 4, 4
SIZE = GRID * GRID * (3 + DIRECTIONS) + 16
COLOUR_WEIGHT, EDGE_WEIGHT, CHROMA_WEIGHT = 1.0, 0.7, 0.6
"""Layout of colour counts most, then the run of edges, then which colours there are wherever they lie."""

Vectors = NDArray[np.float32]


def likeness_vector(pixels: Pixels) -> Vectors:
    """A picture (h, w, 3) as a unit vector of `SIZE` numbers: the dot product of two is their likeness, -1..1.

    Mean OKLab and orientation of gradients over a grid of 4 x 4, and a histogram of hue and chroma; each part is made even
    (its mean taken out, its length set) so that no part drowns the others.
    """
    small = resized(pixels, SIDE)
    lab = oklab_from_linear(linear_from_srgb8(small)).astype(np.float32)
    colour = cv2.resize(lab, (GRID, GRID), interpolation=cv2.INTER_AREA).reshape(-1, 3)
    colour = (colour - [0.6, 0.0, 0.0]) * [1.0, 2.5, 2.5]
    gx, gy = cv2.Sobel(lab[..., 0], cv2.CV_32F, 1, 0), cv2.Sobel(lab[..., 0], cv2.CV_32F, 0, 1)
    slope, angle = np.hypot(gx, gy), np.arctan2(gy, gx) % np.pi
    which = np.minimum((angle / np.pi * DIRECTIONS).astype(int), DIRECTIONS - 1)
    edges = np.stack(
        [
            cv2.resize(np.where(which == d, slope, 0).astype(np.float32), (GRID, GRID), interpolation=cv2.INTER_AREA)
            for d in range(DIRECTIONS)
        ]
    )
    chroma, hue = np.hypot(lab[..., 1], lab[..., 2]), np.arctan2(lab[..., 2], lab[..., 1]) % (2 * np.pi)
    cells = (hue / (2 * np.pi) * 8).astype(int) % 8 + 8 * (chroma > 0.09)
    hues = np.bincount(cells.ravel(), weights=np.minimum(chroma, 0.2).ravel(), minlength=16)
    parts = [
        _even(colour.ravel()) * COLOUR_WEIGHT,
        _even(np.sqrt(edges).ravel()) * EDGE_WEIGHT,
        _even(np.sqrt(hues)) * CHROMA_WEIGHT,
    ]
    whole = np.concatenate(parts).astype(np.float32)
    return whole / max(1e-6, float(np.linalg.norm(whole)))


def most_alike(vectors: Vectors, query: Vectors, most: int) -> tuple[NDArray[np.intp], Vectors]:
    """The rows of `vectors` (n, SIZE) most like `query` (SIZE,), best first, with their likeness.

    >>> rows, like = most_alike(np.eye(3, dtype=np.float32), np.array([0, 1, 0.5], dtype=np.float32), 2)
    >>> rows.tolist(), like.tolist()
    ([1, 2], [1.0, 0.5])
    """
    like = vectors @ query
    most = min(most, len(like))
    if most <= 0:
        return np.zeros(0, dtype=np.intp), np.zeros(0, dtype=np.float32)
    best = np.argpartition(-like, most - 1)[:most]
    best = best[np.argsort(-like[best], kind="stable")]
    return best, like[best]


def colour_shares(
    palettes: NDArray[np.float64], shares: NDArray[np.float64], wanted: NDArray[np.float64]
) -> NDArray[np.float64]:
    """How much of each picture is in a colour: palettes (n, k, 3) in OKLab with shares (n, k), the colour (3,); 0..1.

    A colour counts in full when it is the same and fades to nothing over about an OKLab distance of 0.12.
    """
    apart = ((palettes - wanted) ** 2).sum(axis=-1)
    return np.asarray((shares * np.exp(-apart / 0.06**2)).sum(axis=-1))


def _even(part: NDArray[np.floating[Any]]) -> Vectors:
    return np.asarray(part / max(1e-3, float(np.linalg.norm(part))), dtype=np.float32)
