"""What is on a figure, or touches it, in a colour that neither its references nor the picture's ground show: a hat that nobody asked for, a sleeve turned violet.

Where the figure lies over its reference its light is known. Without that light, pixels that are unlike every colour of the references, and unlike every
colour of the ground, are looked at piece by piece. A thing is plain: most of a piece has one colour. What a pose uncovers (the inside of a mouth, ground
between an arm and a body) mixes several.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.palette import palette
from juxtaform.core.colour.spaces import Floats, Pixels, linear_from_srgb8, oklab_from_linear
from juxtaform.core.figure.ground import RIM_HEIGHT
from juxtaform.core.figure.sheet import FIGURE_LEAST, Sheet
from juxtaform.core.figure.worn import main_colours
from juxtaform.core.picture.regions import Box
from juxtaform.core.picture.trunk import SIDE

HUE_TWICE = np.array([1.0, 2.0, 2.0])
"""OKLab tells light from dark twice as finely as it tells hues apart: both of its colour axes count twice here, so that a shadow is less of another colour than
a hue is."""
UNLIKE = 0.11
"""Distance (OKLab, `HUE_TWICE`) to the nearest colour of the references from which a pixel is looked at."""
OFF_GROUND = 0.12
"""... and to the nearest colour of the ground, where the figure's mask does not hold it: a hat may be left out of the mask."""
ONE_COLOUR = 0.09
"""Pixels within this distance of a piece's middle colour have that colour."""
SHARE_LEAST, ATTACHED_LEAST, PLAIN_LEAST, SOLID_LEAST, APART_LEAST, FROM_GROUND_LEAST = 0.015, 0.2, 0.5, 0.4, 0.11, 0.04
"""What a piece must have at least to be kept: see `Extra`; `SOLID_LEAST` is the part of its box that it fills."""
MOST = 4
"""So many pieces of a figure are kept, the largest first."""
GROUND_SIDE, GROUND_COLOURS, GROUND_PIXELS = 240, 24, 4000
"""The ground's main colours are found on a picture of about so many px a side, on so many pixels at most."""
RIM = 0.045
"""The rim of a figure's crop is this part of its shorter side wide."""

Where = NDArray[np.bool_]


@dataclass(frozen=True, slots=True)
class Extra:
    """A piece of a figure in a colour that its references do not show: its middle colour (linear light without the scene's), its `share` of the figure's area, its
    distances (OKLab, `HUE_TWICE`) `apart` from the nearest colour of the references and `from_ground` from that of the ground, the part of its rim where the figure in its
    own colours lies (`attached`, 0..1), the part of it that has its middle colour (`plain`, 0..1), and where it is in the picture."""

    linear: tuple[float, float, float]
    share: float
    apart: float
    from_ground: float
    attached: float
    plain: float
    box: Box


def surroundings(pixels: Pixels, boxes: Sequence[Box]) -> Floats:
    """The main colours (n, 3) of a picture outside of some boxes, linear light in the scene's light; none where the boxes leave nothing."""
    h, w = pixels.shape[:2]
    step = max(1, round(max(h, w) / GROUND_SIDE))
    small = pixels[::step, ::step]
    free = np.ones(small.shape[:2], dtype=bool)
    for b in boxes:
        free[
            max(0, int(b.y / step)) : int((b.y + b.h) / step) + 1, max(0, int(b.x / step)) : int((b.x + b.w) / step) + 1
        ] = False
    left = small[free]
    if len(left) < GROUND_COLOURS:
        return np.zeros((0, 3))
    seen = linear_from_srgb8(left[:: max(1, len(left) // GROUND_PIXELS)])
    return np.array([c.linear for c in palette(seen, GROUND_COLOURS, merge=3.0)]).reshape(-1, 3)


def extras(
    side: Sheet, looked_at: Box, stops: Floats, familiar: Floats, ground: Floats, *, mirrored: bool
) -> tuple[Extra, ...]:
    """The pieces of a figure that its references do not explain, the largest first.

    `side` is its square as it was laid over the reference, `mirrored` where it was turned over for that; `looked_at` what of the picture the square shows; `stops` (3,) the
    light on it, per channel; `familiar` (n, 3) the colours of its references and `ground` (m, 3) those of the picture around it, linear light."""
    part = side.pixels[1::2, 1::2]
    inside: Where = side.inside[1::2, 1::2] > 0.5
    mask = np.asarray(cv2.resize(side.fine_mask, inside.shape[::-1], interpolation=cv2.INTER_LINEAR) > FIGURE_LEAST)
    seen = linear_from_srgb8(part)
    plain_light = np.clip(seen / 2.0**stops, 0, 1.2)
    lab = twice(oklab_from_linear(plain_light))
    apart = _nearest(lab, inside, np.clip(familiar, 0, 1.2))
    around = np.concatenate([ground, main_colours(seen[_rim(inside)])])
    from_ground = _nearest(twice(oklab_from_linear(seen)), inside, around)
    off_ground = mask | (from_ground > OFF_GROUND)
    unlike = (apart > UNLIKE) & off_ground
    own = (apart < UNLIKE) & inside & off_ground
    area = max(1.0, float((mask | own).sum()))
    whole = cv2.morphologyEx(unlike.astype(np.uint8), cv2.MORPH_CLOSE, _THREE)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(whole, connectivity=4)
    found = []
    for i in range(1, count):
        x, y, w, h, size = (int(v) for v in stats[i])
        if size < SHARE_LEAST * area or size < SOLID_LEAST * w * h:
            continue
        piece = labels == i
        strange = piece & unlike
        colour = np.median(lab[strange], axis=0)
        rim = (cv2.dilate(piece.astype(np.uint8), _THREE) > 0) & ~piece
        if (rim & ~inside).any() or not rim.any():
            continue  # it goes on beyond the mark
        red, green, blue = (round(float(v), 4) for v in np.median(plain_light[strange], axis=0))
        one = Extra(
            linear=(red, green, blue),
            share=round(size / area, 4),
            apart=round(float(np.median(apart[strange])), 4),
            from_ground=round(float(np.median(from_ground[strange])), 4),
            attached=round(float((rim & own).sum() / rim.sum()), 3),
            plain=round(float((np.linalg.norm(lab[piece] - colour, axis=1) < ONE_COLOUR).mean()), 3),
            box=_in_picture((x, y, w, h), looked_at, mirrored=mirrored),
        )
        if (
            one.attached >= ATTACHED_LEAST
            and one.plain >= PLAIN_LEAST
            and one.apart >= APART_LEAST
            and one.from_ground >= FROM_GROUND_LEAST
        ):
            found.append(one)
    return tuple(sorted(found, key=lambda e: -e.share)[:MOST])


_THREE = np.ones((3, 3), np.uint8)


def twice(lab: Floats) -> Floats:
    """OKLab colours (..., 3) with their colour axes doubled."""
    return np.asarray(lab * HUE_TWICE)


def _nearest(lab: Floats, where: Where, colours: Floats) -> Floats:
    """The distance (h, w) of each pixel (h, w, 3), as `twice` has it, to the nearest of some colours (n, 3) in linear light; 0 but `where` it is asked."""
    out = np.zeros(where.shape)
    pixels = lab[where].astype(np.float32)
    others = twice(oklab_from_linear(colours)).astype(np.float32)
    squared = np.einsum("nc,nc->n", others, others) - 2 * pixels @ others.T
    out[where] = np.sqrt(np.maximum(squared.min(axis=1, initial=np.inf) + np.einsum("nc,nc->n", pixels, pixels), 0.0))
    return out


def _rim(inside: Where) -> Where:
    """The rim of a crop, but for its lower part, where feet are."""
    rows, columns = np.flatnonzero(inside.any(axis=1)), np.flatnonzero(inside.any(axis=0))
    top, left, right = int(rows[0]), int(columns[0]), int(columns[-1]) + 1
    wide = max(1, round(RIM * min(len(rows), len(columns))))
    rim = inside.copy()
    rim[top + wide :, left + wide : right - wide] = False
    rim[top + int(RIM_HEIGHT * len(rows)) :] = False
    return rim


def _in_picture(piece: Iterable[int], looked_at: Box, *, mirrored: bool) -> Box:
    """Where a box (x, y, width, height) on the halved square lies in the picture."""
    x, y, w, h = piece
    half = SIDE // 2
    scale = max(looked_at.w, looked_at.h) / half
    left, top = (half - looked_at.w / scale) / 2, (half - looked_at.h / scale) / 2
    x = half - x - w if mirrored else x
    return Box(looked_at.x + scale * (x - left), looked_at.y + scale * (y - top), scale * w, scale * h)
