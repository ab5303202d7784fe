"""All that is measured of one picture: style, palette, border, figures, and colours kept for one character."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from juxtaform.core.colour.light import common_light
from juxtaform.core.colour.palette import Swatch, palette
from juxtaform.core.colour.spaces import Floats, Pixels, linear_from_srgb8, oklab_from_linear
from juxtaform.core.figure.appearance import Appearance, measure_appearances
from juxtaform.core.figure.known import FigureKnown
from juxtaform.core.figure.match import Eye
from juxtaform.core.picture.border import Border, printed_border
from juxtaform.core.picture.glance import glance
from juxtaform.core.picture.regions import Box, cut_out, resized
from juxtaform.core.place.ground import PlaceMap, place_map
from juxtaform.core.style.hand import HandEye
from juxtaform.core.style.terms import Signature, signature
from juxtaform.core.technical.lettering import LetterEye
from juxtaform.core.technical.technical import Technical, technical

MEASURE_VERSION = "20"
"""Raise this whenever a measure changes: cached measures of older versions are then taken again."""

PALETTE_SIDE = 72
"""The picture's longer side in px when its main colours are read: every colour of a twentieth of it is there."""
ROLE_SIDE = 128
"""The longer side in px when colours that are kept for figures are looked for."""
FEW_SIDE = 448
"""The longer side in px from which tones of cells and a glance are read."""
ROLE_NEAR = 0.06
"""OKLab distance within which a pixel wears a colour that is kept for somebody."""


@dataclass(frozen=True)
class KeptColour:
    """A colour of the style's palette that is kept for one figure; linear light."""

    figure: str
    linear: tuple[float, float, float]


@dataclass(frozen=True, slots=True)
class RoleReading:
    """How much of the picture outside its owner wears a kept colour: share 0..1 and where the most of it stands."""

    figure: str
    share: float
    region: Box | None


@dataclass(frozen=True)
class PictureMeasure:
    """The measure of one picture of `width` x `height` px; `appearances` in the order of the marks; `hand` is empty where no eye looked; `cast`
    names the figures that the marked ones were also held against; `place` is its ground in cells, inside a border; `glance` what `picture.glance` wrote."""

    width: int
    height: int
    signature: Signature
    palette: tuple[Swatch, ...]
    border: Border | None
    appearances: tuple[Appearance, ...]
    roles: tuple[RoleReading, ...]
    hand: tuple[float, ...] = ()
    cast: str = ""
    technical: Technical | None = None
    place: PlaceMap | None = None
    glance: str | None = None

    @property
    def inner(self) -> Box:
        """What of the picture lies inside its printed border; all of it without one."""
        whole = Box(0, 0, self.width, self.height)
        return self.border.inner(self.width, self.height) if self.border else whole


def measure_picture(
    pixels: Pixels,
    marks: list[tuple[Box, FigureKnown]],
    cast: list[FigureKnown] | None = None,
    kept: list[KeptColour] | None = None,
    eye: Eye | None = None,
    hand_eye: HandEye | None = None,
    letters: LetterEye | None = None,
) -> PictureMeasure:
    """Measure an sRGB picture (h, w, 3) with its marked figures; without an `eye` nothing says who they are, without
    `letters` nobody looks for lettering. Raises ValueError for a
    mark outside the picture."""
    height, width = pixels.shape[:2]
    border = printed_border(pixels)
    within = border.inner(width, height) if border else None
    inner = cut_out(pixels, within) if within else pixels
    seen = hand_eye.look(inner) if hand_eye else None
    few = resized(inner, FEW_SIDE)
    if within:
        marks = [(_seen_part(box, within), known) for box, known in marks]
    appearances = measure_appearances(pixels, marks, cast, eye)
    return PictureMeasure(
        width,
        height,
        signature(inner),
        tuple(picture_palette(inner)),
        border,
        tuple(appearances),
        tuple(_roles(pixels, marks, appearances, kept or [])),
        seen.hand if seen else (),
        technical=technical(pixels, letters, within),
        place=place_map(seen.third, hand_eye.places, few) if seen and hand_eye and hand_eye.places else None,
        glance=glance(few).written(),
    )


SEEN_LEAST = 0.4
"""A mark of which less lies inside the border was drawn for another picture: it is left as it is."""


def _seen_part(box: Box, within: Box) -> Box:
    """The part of a figure's box that a printed border or bars leave to be seen."""
    x, y = max(box.x, within.x), max(box.y, within.y)
    w, h = min(box.x + box.w, within.x + within.w) - x, min(box.y + box.h, within.y + within.h) - y
    return Box(x, y, w, h) if min(w, h) > 2 and w * h >= SEEN_LEAST * box.w * box.h else box


def picture_palette(pixels: Pixels, most: int = 6) -> list[Swatch]:
    """The main colours of an sRGB picture (h, w, 3)."""
    return palette(linear_from_srgb8(resized(pixels, PALETTE_SIDE)).reshape(-1, 3), most)


def _roles(
    pixels: Pixels, marks: list[tuple[Box, FigureKnown]], appearances: list[Appearance], kept: list[KeptColour]
) -> list[RoleReading]:
    if not kept or not appearances:
        return []
    light = common_light([a.light for a in appearances])
    small = resized(pixels, ROLE_SIDE)
    f = small.shape[1] / pixels.shape[1]
    lab = oklab_from_linear(light.taken_out(linear_from_srgb8(small)))
    found = []
    for colour in kept:
        worn: Floats = ((lab - oklab_from_linear(np.array(colour.linear))) ** 2).sum(-1) < ROLE_NEAR**2
        for box, known in marks:
            if known.model.owner == colour.figure:
                b = box.grown(0.08)
                worn[
                    max(0, int(b.y * f)) : int((b.y + b.h) * f) + 1, max(0, int(b.x * f)) : int((b.x + b.w) * f) + 1
                ] = False
        share = float(worn.mean())
        region = None
        if share > 0:
            rows, columns = np.nonzero(worn)
            x0, x1 = np.percentile(columns, [5, 95])
            y0, y1 = np.percentile(rows, [5, 95])
            region = Box(float(x0 / f), float(y0 / f), float((x1 - x0 + 1) / f), float((y1 - y0 + 1) / f))
        found.append(RoleReading(colour.figure, share, region))
    return found
