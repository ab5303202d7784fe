"""Constructed truth: figures and pictures drawn from parameters, so that what is wrong in them is known."""

from __future__ import annotations

import io
import re
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
import resvg_py
from numpy.typing import NDArray
from PIL import Image

from juxtaform.core.colour.spaces import (
    delta_e_2000,
    lab_from_linear,
    linear_from_hex,
    linear_from_oklab,
    linear_from_srgb8,
    oklab_from_linear,
    srgb_from_linear,
)
from juxtaform.core.figure.appearance import Appearance
from juxtaform.core.figure.known import FigureKnown, known_figure
from juxtaform.core.figure.reading import TraitReading
from juxtaform.core.figure.traits import TraitSpec, figure_extent, figure_model, reference_view
from juxtaform.core.picture.regions import Box
from juxtaform.demo import places
from juxtaform.demo.cast import Pose
from juxtaform.demo.paper import Hand, Piece, Placed, blob, box, ellipse, limb, lit, polygon, rendered, svg

Pixels = NDArray[np.uint8]
PAINTS = (
    "#b4532a",
    "#2a2326",
    "#d9b36a",
    "#f3f0ea",
    "#6b4a8c",
    "#c8322b",
    "#2f7d4f",
    "#2c6fc4",
    "#dba326",
    "#456a70",
    "#e08fa6",
    "#7c8a3a",
    "#8a5a3c",
    "#3b3f73",
    "#58b3a6",
    "#a8a8b0",
)
SKINS = ("#efc09c", "#c98d66", "#7b4a30", "#f6d9c4")
EYES = "#1d1f24"
PARTS = ("hair", "skin", "coat", "legs", "boots", "extra")


@dataclass(frozen=True)
class Look:
    """A figure's parameters: a colour per part, a hair form, and an extra (hat, scarf, bag or none)."""

    hair: str
    skin: str
    coat: str
    legs: str
    boots: str
    extra: str
    hair_form: int = 0
    coat_form: int = 0
    extra_form: int = 0
    has_extra: bool = True
    extra_again: float = 0.0
    """How large a second one of the extra is, where there is one."""
    extra_size: float = 1.0
    """How large the extra is, about its middle."""
    head: float = 1.0
    """How large the head is, about the neck, with its hair and its cap."""


def random_look(rng: np.random.Generator) -> Look:
    hair, coat, legs, boots, extra = (PAINTS[i] for i in rng.choice(len(PAINTS), 5, replace=False))
    forms = [int(rng.integers(3)) for _ in range(3)]
    return Look(hair, SKINS[rng.integers(len(SKINS))], coat, legs, boots, extra, *forms)


def lookalike(look: Look, rng: np.random.Generator) -> Look:
    """Another person of the same kind: two paints and one form differ, all else is shared."""
    changed = [str(p) for p in rng.choice(["hair", "coat", "legs", "boots", "extra"], 2, replace=False)]
    used = {look.hair, look.coat, look.legs, look.boots, look.extra}
    free = [p for p in PAINTS if p not in used]
    fresh = dict(zip(changed, (str(c) for c in rng.choice(free, 2, replace=False)), strict=True))
    form = str(rng.choice(["hair_form", "coat_form", "extra_form"]))
    return replace(look, **fresh, **{form: (getattr(look, form) + 1) % 3})


def paints_unlike(own: list[str], least: float = 18.0) -> list[str]:
    """The paints that are another colour (CIEDE2000) than all of some."""
    theirs = lab_from_linear(np.array([linear_from_hex(c) for c in own]))
    return [p for p in PAINTS if float(delta_e_2000(lab_from_linear(linear_from_hex(p)), theirs).min()) > least]


def figure(look: Look, pose: Pose) -> tuple[Piece, ...]:
    """The figure in a box of 200 x 400 units."""
    hairs = (
        blob((42, 96), (60, 36), (140, 36), (158, 96), (154, 150), (46, 150)),
        blob((48, 90), (60, 30), (140, 30), (152, 90), (168, 230), (32, 230)),
        blob((50, 80), (40, 40), (100, 10), (160, 40), (150, 80), (100, 60)),
    )
    coats = (
        blob((70, 150), (130, 150), (150, 230), (168, 322), (100, 332), (32, 322), (50, 230)),
        polygon((62, 150), (138, 150), (146, 262), (54, 262)),
        blob((60, 150), (140, 150), (180, 290), (100, 270), (20, 290)),
    )
    size, neck = look.head, (100.0, 146.0)

    def of_head(d: str) -> str:
        return _moved(d, (neck, neck), size) if size != 1 else d

    def round_in_head(x: float, y: float, rx: float, ry: float) -> str:
        return ellipse(neck[0] + size * (x - neck[0]), neck[1] + size * (y - neck[1]), size * rx, size * ry)

    pieces = [Piece(of_head(hairs[look.hair_form]), look.hair)]
    for side in (-1, 1):
        x = 100 + side * pose.stride
        pieces += [Piece(box(x - 13, 250, 26, 110), look.legs)]
        pieces += [
            Piece(blob((x - 19, 328), (x + 17, 328), (x + 21 + 9 * side, 398), (x - 22 + 9 * side, 398)), look.boots)
        ]
    for side, angle in ((-1, pose.left), (1, pose.right)):
        sleeve, hand = limb(100 + side * 38, 172, 92, side * angle, 19, 15)
        pieces += [Piece(ellipse(hand[0], hand[1] + 3, 14), look.skin), Piece(sleeve, look.coat)]
    pieces += [Piece(coats[look.coat_form], look.coat), Piece(round_in_head(100, 98, 47, 49), look.skin)]
    pieces += [Piece(of_head(blob((50, 92), (60, 42), (140, 42), (150, 92), (120, 66), (80, 66))), look.hair)]
    for x in (82, 118):
        pieces.append(Piece(round_in_head(x, 104, 5.5, 7), EYES, lift=0))
    extras = (
        polygon((44, 62), (156, 62), (128, 8), (72, 8)),
        blob((58, 142), (142, 142), (148, 172), (118, 170), (122, 230), (98, 228), (96, 172), (54, 172)),
        blob((122, 210), (172, 206), (178, 266), (120, 270)),
    )
    if look.has_extra:
        extra = extras[look.extra_form]
        if look.extra_size != 1:
            middle = EXTRA_AGAIN[look.extra_form][0]
            extra = _moved(extra, (middle, middle), look.extra_size)
        pieces.append(Piece(extra if look.extra_form else of_head(extra), look.extra))
    if look.extra_again:
        second = _moved(extras[look.extra_form], EXTRA_AGAIN[look.extra_form], look.extra_again)
        pieces.append(Piece(second, look.extra))
    return tuple(pieces)


EXTRA_AGAIN = (((100, 35), (100, 265)), ((100, 185), (100, 300)), ((145, 240), (45, 250)))
"""The middle of each extra, and where a second one lies: a cap at the knees, a scarf below the first, a bag on the other side."""


def _moved(d: str, to: tuple[tuple[float, float], tuple[float, float]], scale: float) -> str:
    """A path moved from one point to another, and made larger or smaller there."""
    (x0, y0), (x1, y1) = to
    return re.sub(
        r"(-?\d+\.\d),(-?\d+\.\d)",
        lambda m: f"{x1 + scale * (float(m[1]) - x0):.1f},{y1 + scale * (float(m[2]) - y0):.1f}",
        d,
    )


def random_pose(rng: np.random.Generator) -> Pose:
    return Pose(
        float(rng.uniform(5, 110)), float(rng.uniform(5, 110)), float(rng.uniform(16, 34)), float(rng.uniform(-6, 6))
    )


GROUNDS = (
    lambda: places.steps(),
    lambda: places.steps(dawn=True, shift=-60),
    lambda: places.lamp_room(),
    lambda: places.cave(),
    lambda: places.stairs_down(),
    lambda: places.still_life(0),
    lambda: places.still_life(1),
    lambda: places.still_life(2),
    lambda: places.still_life(3),
    lambda: places.cave(80, awake=True),
)
LIGHTS = (
    (1.0, 1.0, 1.0),
    (0.95, 0.74, 0.62),
    (0.36, 0.46, 0.72),
    (1.1, 0.9, 0.8),
    (0.55, 0.6, 0.8),
    (0.22, 0.28, 0.45),
)
SIZE = (900, 600)


def reference(look: Look, pose: Pose | None = None) -> Pixels:
    """The figure alone on white, front view."""
    return rendered(svg((), (Placed(figure(look, pose or Pose()), 60, 40, 1.0),), 320, 480))


def marked_parts(look: Look) -> list[tuple[TraitSpec, Box]]:
    """The parts of a figure as somebody marks them on its front view: where the picture is another one when the part has another colour."""
    picture = reference(look)
    extent, specs = figure_extent(picture), []
    for part in PARTS:
        other = reference(replace(look, **{part: "#ff00ff"}))
        rows, columns = np.nonzero((picture != other).any(axis=-1))
        if not len(rows):
            continue
        x, y = float(columns.min()), float(rows.min())
        box = Box(x, y, float(columns.max() + 1) - x, float(rows.max() + 1) - y)
        specs.append((TraitSpec(part.capitalize(), (linear_from_hex(getattr(look, part)),), box), extent))
    return specs


@lru_cache(maxsize=64)
def ground_picture(which: int, hand: Hand, line: float = 1.0) -> Pixels:
    """A ground without figures, drawn once."""
    page = _lined(svg(GROUNDS[which](), (), 1200, 800, seed=which + 1, hand=hand), line)
    zoom = f'width="{SIZE[0]}" height="{SIZE[1]}" viewBox="0 0 1200 800"'
    return rendered(page.replace('width="1200" height="800" viewBox="0 0 1200 800"', zoom, 1))


def repainted(pixels: Pixels, times: complex) -> Pixels:
    """A picture with the hue of every pixel, a complex number of OKLab, multiplied: below 1 it is greyer, of length 1 all hues turn."""
    lab = oklab_from_linear(linear_from_srgb8(pixels))
    hue = (lab[..., 1] + 1j * lab[..., 2]) * times
    lab[..., 1], lab[..., 2] = hue.real, hue.imag
    return np.rint(255 * srgb_from_linear(np.clip(linear_from_oklab(lab), 0, 1))).astype(np.uint8)


def contrasted(pixels: Pixels, times: float) -> Pixels:
    """A picture with so many times its contrast: the lightness of every pixel (OKLab) stands that much further from the picture's mean."""
    lab = oklab_from_linear(linear_from_srgb8(pixels))
    lab[..., 0] = (lab[..., 0].mean() + times * (lab[..., 0] - lab[..., 0].mean())).clip(0, 1)
    return np.rint(255 * srgb_from_linear(np.clip(linear_from_oklab(lab), 0, 1))).astype(np.uint8)


def _lined(page: str, times: float) -> str:
    """A page whose outlines are so many times as wide."""
    return page.replace('stroke-width="4.5"', f'stroke-width="{4.5 * times:.2f}"')


def laid_on(ground: Pixels, placed: tuple[Placed, ...], hand: Hand, line: float = 1.0) -> Pixels:
    """Pieces drawn over a ground, their outlines so many times as wide."""
    page = _lined(svg((), placed, 1200, 800, hand=hand), line)
    zoom = f'width="{SIZE[0]}" height="{SIZE[1]}" viewBox="0 0 1200 800"'
    page = page.replace('width="1200" height="800" viewBox="0 0 1200 800"', zoom, 1)
    layer = np.asarray(Image.open(io.BytesIO(bytes(resvg_py.svg_to_bytes(svg_string=page)))).convert("RGBA"))
    alpha = layer[..., 3:].astype(np.float64) / 255
    return np.rint(layer[..., :3] * alpha + ground * (1 - alpha)).astype(np.uint8)


def scene(
    looks: list[Look],
    rng: np.random.Generator,
    light: tuple[float, float, float] = (1.0, 1.0, 1.0),
    ground: int | None = None,
    hand: Hand = "paper",
    scale: float | tuple[float, ...] | None = None,
    line: float = 1.0,
) -> tuple[Pixels, list[Box]]:
    """A picture of the figures in a random place, each in a random pose, scale and side, outlines so many times as wide; returns their boxes too. Figures with scales of their
    own stand on one ground."""
    which = int(rng.integers(len(GROUNDS))) if ground is None else ground
    placed, boxes = [], []
    for i, look in enumerate(looks):
        s = scale[i] if isinstance(scale, tuple) else scale or float(rng.uniform(0.5, 1.15))
        x = 150 + 850 / max(1, len(looks)) * i + float(rng.uniform(0, 120))
        y = (770 if isinstance(scale, tuple) else 790 - float(rng.uniform(0, 50))) - 400 * s
        placed.append(Placed(figure(look, random_pose(rng)), x, y, s, mirrored=bool(rng.integers(2))))
        boxes.append((x - 14 * s, y - 2 * s, 228 * s, 406 * s))
    bare = ground_picture(which, hand, line)
    picture = laid_on(bare, tuple(placed), hand, line) if placed else bare
    f = SIZE[0] / 1200
    found = [Box(x * f, y * f, w * f, h * f).inside(*SIZE) for x, y, w, h in boxes]
    return lit(picture, light), found


def recoloured_look(look: Look, part: str, rng: np.random.Generator, least: float = 18.0) -> Look:
    """The same figure with one part in another paint, at least `least` away in CIEDE2000."""
    old = lab_from_linear(linear_from_hex(getattr(look, part)))
    far = [p for p in PAINTS if float(delta_e_2000(lab_from_linear(linear_from_hex(p)), old)) > least]
    return replace(look, **{part: str(rng.choice(far))})


def model_of(look: Look, rng: np.random.Generator, name: str = "figure") -> FigureKnown:
    """The figure's calibrated model from two reference pictures, traits proposed."""
    views = [reference_view(reference(look), "front"), reference_view(reference(look, random_pose(rng)), "other pose")]
    return known_figure(figure_model(name, views))


def told(appearance: Appearance) -> list[TraitReading]:
    """The traits of an appearance that are reported."""
    return [t for t in appearance.traits if t.verdict in ("changed", "missing")]


def about(trait: TraitReading, code: str) -> bool:
    """Whether a trait's expected colour is that paint."""
    paint = lab_from_linear(linear_from_hex(code))
    return min(float(delta_e_2000(lab_from_linear(linear_from_hex(e)), paint)) for e in trait.expected) < 9
