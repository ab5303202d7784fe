"""Pictures pegged on a figure: laid so that the same figure, or the same head, lies on the same spot."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from juxtaform.core.colour.spaces import Floats, Pixels
from juxtaform.core.figure.match import Eye, match
from juxtaform.core.figure.sheet import COARSE, look_of
from juxtaform.core.picture.regions import Box, cut_out
from juxtaform.core.picture.trunk import SIDE

Affine = tuple[float, float, float, float, float, float]
"""A transform of places, two rows of three: x' = a x + b y + c, y' = d x + e y + f."""

AROUND = 0.06
"""Each side of a box is moved outwards by this part, so that the figure's rim is ground."""
PLACED_LEAST = 0.15
"""A transform that places less of a figure than this says little; the boxes are laid on each other then."""
SCALE_MOST, TURN_MOST = 1.35, 0.25
"""How much a transform may differ from the boxes' own scale, and turn (radians): more is no peg but a mistake."""
OFF_MOST = 0.25
"""How far a transform may put the middle of the box beside that of the other box, as a part of that box's longer side."""


@dataclass(frozen=True)
class Peg:
    """How a picture is laid on another: from px of its own to px of the other, and by what: its places, or the boxes alone."""

    affine: Affine
    by: Literal["places", "boxes"]


def pegged(eye: Eye | None, ground: Pixels, box: Box, over: Pixels, over_box: Box) -> Peg:
    """How the figure in `over_box` of a picture (h, w, 3) is laid on that in `box` of another. Raises ValueError for a box outside its
    picture."""
    plain = by_boxes(box, over_box)
    if eye is None:
        return Peg(_flat(plain), "boxes")
    one, to_one = _crop(ground, box)
    other, to_other = _crop(over, over_box)
    seen = match(eye, look_of(eye.trunk, one), look_of(eye.trunk, other))
    if seen.affine is None or seen.terms.share < PLACED_LEAST:
        return Peg(_flat(plain), "boxes")
    from_one = np.vstack([seen.affine, [0, 0, 1]])
    from_one[:2, 2] *= SIDE / COARSE
    laid = to_one @ np.linalg.inv(from_one) @ np.linalg.inv(to_other)
    return Peg(_flat(laid), "places") if _near(laid, plain, box, over_box) else Peg(_flat(plain), "boxes")


def by_boxes(box: Box, over: Box) -> Floats:
    """The transform (3, 3) that lays one box on another: the same middle line, the same top, as high as it.

    >>> by_boxes(Box(10, 10, 20, 40), Box(0, 0, 10, 20)).tolist()
    [[2.0, 0.0, 10.0], [0.0, 2.0, 10.0], [0.0, 0.0, 1.0]]
    """
    f = box.h / over.h
    x, y = box.x + box.w / 2 - f * (over.x + over.w / 2), box.y - f * over.y
    return np.array([[f, 0.0, x], [0.0, f, y], [0.0, 0.0, 1.0]])


def _crop(pixels: Pixels, box: Box) -> tuple[Pixels, Floats]:
    """A figure's crop, and the transform (3, 3) from places of its square to places of the picture."""
    around = box.grown(AROUND).inside(pixels.shape[1], pixels.shape[0])
    crop = cut_out(pixels, around)
    h, w = crop.shape[:2]
    f = max(h, w) / SIDE
    left, top = (SIDE - w / f) / 2, (SIDE - h / f) / 2
    return crop, np.array([[f, 0, int(around.x) - left * f], [0, f, int(around.y) - top * f], [0, 0, 1]])


def _near(laid: Floats, plain: Floats, box: Box, over: Box) -> bool:
    """Whether a transform does about what the boxes do."""
    scale = np.hypot(laid[0, 0], laid[1, 0]) / plain[0, 0]
    turn = abs(np.arctan2(laid[1, 0], laid[0, 0]))
    middle = laid @ [over.x + over.w / 2, over.y + over.h / 2, 1]
    off = np.hypot(middle[0] - box.x - box.w / 2, middle[1] - box.y - box.h / 2) / max(box.w, box.h)
    return bool(1 / SCALE_MOST < scale < SCALE_MOST and turn < TURN_MOST and off < OFF_MOST)


def _flat(affine: Floats) -> Affine:
    a, b, c, d, e, f = (round(float(v), 5) for v in affine[:2].ravel())
    return a, b, c, d, e, f
