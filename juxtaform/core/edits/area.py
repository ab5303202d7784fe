"""The area of a picture that may change: brushed, outlined or boxed, with a soft rim."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.picture.regions import Box

Mask = NDArray[np.float32]
"""How much of each pixel may change, 0..1, shape (h, w)."""

MOST_SHAPES, MOST_POINTS = 200, 2000


@dataclass(frozen=True)
class Shape:
    """A form drawn on a picture, its points as parts of the picture's width and height: the corners of a box or an outline, or the middle
    of a brush of `radius` (a part of the longer side). What is `rubbed` is taken out of what was drawn before."""

    kind: Literal["brush", "outline", "box"]
    points: tuple[tuple[float, float], ...]
    radius: float = 0.0
    rubbed: bool = False


@dataclass(frozen=True)
class Area:
    """Forms drawn one after the other, and the width of the soft rim as a part of the picture's longer side; the rim lies inside."""

    shapes: tuple[Shape, ...]
    feather: float = 0.01


def mask_of(area: Area, width: int, height: int) -> Mask:
    """The area as a mask (height, width). Raises ValueError when nothing is left of it.

    >>> mask_of(Area((Shape("box", ((0.0, 0.0), (0.5, 1.0))),), 0.0), 8, 4).sum()
    np.float32(16.0)
    """
    hard = np.zeros((height, width), np.uint8)
    for shape in area.shapes:
        _draw(hard, shape, 0 if shape.rubbed else 255)
    if not hard.any():
        raise ValueError("The area is empty. Draw where the picture may change.")
    rim = area.feather * max(width, height)
    if rim < 1:
        return np.asarray(hard > 127, dtype=np.float32)
    # The picture's own edge is no rim: what lies there may change up to it.
    inside = cv2.copyMakeBorder(hard, 1, 1, 1, 1, cv2.BORDER_REPLICATE)
    far = cv2.distanceTransform(inside, cv2.DIST_L2, 5)[1:-1, 1:-1]
    return np.asarray(np.clip(far / rim, 0, 1), dtype=np.float32)


def box_of(mask: Mask) -> Box:
    """The smallest box in px that holds a mask."""
    rows, columns = np.flatnonzero(mask.any(axis=1)), np.flatnonzero(mask.any(axis=0))
    return Box(float(columns[0]), float(rows[0]), float(columns[-1] - columns[0] + 1), float(rows[-1] - rows[0] + 1))


def _draw(hard: NDArray[np.uint8], shape: Shape, value: int) -> None:
    height, width = hard.shape
    points = np.array(shape.points, dtype=np.float64) * (width, height)
    if shape.kind == "box":
        (x0, y0), (x1, y1) = np.sort(points[[0, -1]], axis=0).round().astype(int)
        hard[max(0, y0) : max(0, y1), max(0, x0) : max(0, x1)] = value
    elif shape.kind == "outline":
        cv2.fillPoly(hard, [points.round().astype(np.int32)], value)
    else:
        thick = max(1, round(2 * shape.radius * max(width, height)))
        line: Sequence[NDArray[np.int32]] = [points.round().astype(np.int32)]
        cv2.polylines(hard, line, False, value, thick)
        for x, y in (points[0], points[-1]):
            cv2.circle(hard, (round(x), round(y)), max(1, thick // 2), value, -1)
