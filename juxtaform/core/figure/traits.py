"""What makes a figure itself: traits with colours, a place on the figure and an expected share of it."""

from __future__ import annotations

from dataclasses import dataclass, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.light import Paints
from juxtaform.core.colour.palette import palette
from juxtaform.core.colour.spaces import (
    Floats,
    Pixels,
    delta_e_2000,
    distances,
    hex_from_linear,
    lab_from_linear,
    linear_from_srgb,
    linear_from_srgb8,
    oklab_from_linear,
    srgb_from_linear,
)
from juxtaform.core.colour.words import colour_name
from juxtaform.core.figure.ground import Mask
from juxtaform.core.figure.match import Eye
from juxtaform.core.figure.parts import GRID, cover
from juxtaform.core.figure.sheet import Look, look_of
from juxtaform.core.figure.structure import Structure, structure
from juxtaform.core.picture.regions import Box, Crop, Outline, cut_out, plain_ground, reference_crop, resized, within
from juxtaform.core.picture.trunk import SIDE

TRAIT_SIDE = 80
STRUCTURE_SIDE = 144
NEAR = 0.085
"""OKLab distance within which a pixel may belong to a paint: about a shade or a highlight of it."""
THIN_LEFT = 0.12
"""A paint of which less than this part survives one step of erosion is line, not area; it is never judged alone."""

AWAY_MOST = 1.6
"""A pixel is no part of a trait from this many of the trait's extents on."""
LOOK_RIM = 0.06
"""A figure's look has this part of its extent as ground at each side."""

SHADE_CHROMA, SHADE_LIGHTNESS = 0.03, 0.13
"""OKLab distances within which a paint is a shade of a greater one: modelling moves lightness, hardly hue and chroma."""

PROPOSED_LEAST = 0.012
"""A material with less than this share of the figure is not proposed as a trait."""
PART_AT = " part at the "
"""What stands in the name of every trait that is proposed."""
DARKNESS = ("darkest", "second darkest", "third darkest", "fourth darkest", "fifth darkest", "sixth darkest")

MIXED_SHARE = 0.05
MIXED_NEAR = 0.035
MIXED_LEFT = 0.3
"""A paint that is mostly rim and of a smaller share than this, within this OKLab distance of a mixture of two greater ones, is where these
meet, blurred together: no paint of its own."""

Colour = tuple[float, float, float]


@dataclass(frozen=True)
class TraitSpec:
    """A trait as the user states it: its colours in linear light (none: measured), its box on one reference, with an
    outline within the box if one was drawn, and the CIEDE2000 that it may differ by (None: learned from the references)."""

    name: str
    colours: tuple[Colour, ...] = ()
    box: Box | None = None
    picture: int = 0
    part: str = "figure"
    tolerance: float | None = None
    outline: Outline = ()


@dataclass(frozen=True)
class View:
    """One reference picture of a figure: its name, weight 0..1, crop and structure; and its look, where there is an eye."""

    name: str
    weight: float
    crop: Crop
    structure: Structure
    look: Look | None = None
    id: str = ""


@dataclass(frozen=True)
class Trait:
    """A measured trait: its colours (n, 3) linear, their parts of the trait (n,), the trait's share of the figure 0..1,
    and its place on the figure: centre and half extent, each x and y in 0..1 of the figure's box."""

    name: str
    colours: Floats
    parts: Floats
    share: float
    centre: tuple[float, float]
    extent: tuple[float, float]
    part: str
    declared: bool
    tolerance: float | None = None


@dataclass(frozen=True)
class FigureModel:
    """A character as its references show it; `paints` are all its colours, for the light and the figure distance;
    `shades` (n, 3) are these and the mixtures where they meet, which are nothing strange on the figure either.

    A character in two costumes is two figures with the same `owner`."""

    name: str
    owner: str
    traits: tuple[Trait, ...]
    paints: Paints
    shades: Floats
    views: tuple[View, ...]


def reference_view(
    pixels: Pixels, name: str, weight: float = 1.0, box: Box | None = None, eye: Eye | None = None, id: str = ""
) -> View:
    """A view from a reference picture (h, w, 3), its figure cut out of its ground."""
    tight = figure_extent(pixels, box)
    body = resized(cut_out(pixels, tight), STRUCTURE_SIDE)
    look = look_of(eye.trunk, cut_out(pixels, look_box(pixels, box))) if eye else None
    return View(name, weight, reference_crop(pixels, TRAIT_SIDE, box), structure(body, mirrored=True), look, id)


def look_box(pixels: Pixels, box: Box | None = None) -> Box:
    """The part of a reference picture that its look shows: the figure with a rim of its ground."""
    return figure_extent(pixels, box).grown(LOOK_RIM).inside(pixels.shape[1], pixels.shape[0])


def figure_extent(pixels: Pixels, box: Box | None = None) -> Box:
    """The box of the figure on a reference picture: the part that is not plain ground, else all of it."""
    whole = box or Box(0, 0, pixels.shape[1], pixels.shape[0])
    part = cut_out(pixels, whole)
    small = resized(part, TRAIT_SIDE * 2)
    ground = plain_ground(linear_from_srgb8(small))
    if ground is None:
        return whole
    rows, columns = np.flatnonzero(~ground.all(axis=1)), np.flatnonzero(~ground.all(axis=0))
    if len(rows) < 3 or len(columns) < 3:
        return whole
    fx, fy = part.shape[1] / small.shape[1], part.shape[0] / small.shape[0]
    return Box(
        whole.x + columns[0] * fx,
        whole.y + rows[0] * fy,
        (columns[-1] + 1 - columns[0]) * fx,
        (rows[-1] + 1 - rows[0]) * fy,
    )


def figure_model(
    name: str, views: list[View], specs: list[tuple[TraitSpec, Box]] | None = None, owner: str = ""
) -> FigureModel:
    """The model of a figure from its views, and its declared traits, each with the figure's extent on its picture.

    Without declared traits they are proposed from the colours of the reference pictures. Raises ValueError
    when there is no view.
    """
    if not views:
        raise ValueError(f"{name} has no reference picture: add one, best a front view on white.")
    paints, thin, shades = _paints(views)
    if specs:
        traits = tuple(t for spec, extent in specs if (t := _declared(spec, extent, views)) is not None)
    else:
        traits = tuple(_proposed(paints, thin, views))
    return FigureModel(name, owner or name, traits, paints, shades, tuple(views))


def colours_in(pixels: Pixels, box: Box, outline: Outline = (), most: int = 3) -> list[tuple[Colour, float]]:
    """The main colours inside a box, or an outline within it, on a reference picture with their shares, the plain ground
    left out."""
    small = resized(cut_out(pixels, box), TRAIT_SIDE)
    linear = linear_from_srgb8(small).reshape(-1, 3)
    if outline and (inside := within(outline, _centres(small.shape[:2], box))).any():
        linear = linear[inside]
    ground = plain_ground(linear_from_srgb8(resized(pixels, TRAIT_SIDE * 2)))
    weights = np.ones(len(linear))
    if ground is not None:
        rim = linear_from_srgb8(resized(pixels, TRAIT_SIDE * 2))[ground]
        tone = oklab_from_linear(np.median(rim, axis=0))
        away = ((oklab_from_linear(linear) - tone) ** 2).sum(-1) > 0.06**2
        if away.mean() > 0.05:
            weights = away.astype(float)
    found = palette(linear, most + 2, weights, merge=10.0)
    kept = [s for s in found if s.share >= 0.12][:most] or found[:1]
    return [(s.linear, s.share) for s in kept]


def _centres(shape: tuple[int, int], box: Box) -> Floats:
    """The centres (h * w, 2) of a box's pixels when it is drawn at a size of (h, w), in pixels of its picture."""
    ys, xs = np.mgrid[0 : shape[0], 0 : shape[1]]
    x, y = box.x + (xs + 0.5) / shape[1] * box.w, box.y + (ys + 0.5) / shape[0] * box.h
    return np.stack([x.ravel(), y.ravel()], axis=-1)


def belonging(lab: Floats, colours: Floats) -> tuple[NDArray[np.intp], Floats]:
    """For each OKLab pixel (n, 3) the nearest of linear-light `colours` (m, 3) and the OKLab distance to it, (n,) each."""
    apart = distances(lab, oklab_from_linear(colours))
    nearest = apart.argmin(axis=1)
    return nearest, apart[np.arange(len(lab)), nearest]


def _paints(views: list[View]) -> tuple[Paints, NDArray[np.bool_], Floats]:
    linear = np.concatenate([v.crop.linear.reshape(-1, 3) for v in views])
    place = np.concatenate([v.crop.places.reshape(-1, 2) for v in views])
    weight = np.concatenate([v.weight * w / max(1e-9, float(w.sum())) for v in views for w in [_inner(v.crop)]])
    swatches = [s for s in palette(linear, 10, weight, merge=8.0) if s.share >= 0.006] or palette(linear, 1, weight)
    colours = np.array([s.linear for s in swatches])
    nearest, _ = belonging(oklab_from_linear(linear), colours)
    masses = np.maximum(np.bincount(nearest, weight, len(colours)), 1e-9)
    centres = np.stack([np.bincount(nearest, weight * place[:, c], len(colours)) / masses for c in (0, 1)], axis=1)
    left = np.array([_left_by_erosion(views, colours, i) for i in range(len(colours))])
    thin = left < THIN_LEFT
    shares = masses / masses.sum()
    mixed = np.array([_between(colours[i], colours[shares > shares[i]]) for i in range(len(colours))])
    kept = ~((left < MIXED_LEFT) & mixed & (shares < MIXED_SHARE))
    return Paints(colours[kept], shares[kept] / shares[kept].sum(), centres[kept]), thin[kept], colours


def _between(colour: Floats, others: Floats) -> bool:
    """Whether a linear-light colour lies on the line between two of `others` (n, 3), as a blurred edge does.

    Pictures are made smaller in sRGB, so that is where their blurred edges are straight lines.
    """
    seen, ends = srgb_from_linear(colour), srgb_from_linear(others)
    for i in range(len(ends)):
        for j in range(i + 1, len(ends)):
            along = ends[j] - ends[i]
            t = float(np.clip((seen - ends[i]) @ along / max(1e-9, float(along @ along)), 0.0, 1.0))
            nearest = oklab_from_linear(linear_from_srgb(ends[i] + t * along))
            if float(((oklab_from_linear(colour) - nearest) ** 2).sum()) < MIXED_NEAR**2:
                return True
    return False


def _inner(crop: Crop) -> Floats:
    """Chance of figure per pixel, its edge left almost out: there the paints are mixed with the ground."""
    core = np.asarray(cv2.erode(crop.figure, np.ones((3, 3), np.uint8)), dtype=np.float64)
    return np.asarray((0.06 * crop.figure + 0.94 * core).ravel())


def _left_by_erosion(views: list[View], colours: Floats, which: int | NDArray[np.intp]) -> float:
    """The part 0..1 of the area of a paint, or of several together, that survives one step of erosion."""
    before = after = 0
    for view in views:
        nearest, _ = belonging(view.crop.lab, colours)
        mask = np.isin(nearest.reshape(view.crop.figure.shape), which) & (view.crop.figure > 0.5)
        core = mask[1:-1, 1:-1] & mask[:-2, 1:-1] & mask[2:, 1:-1] & mask[1:-1, :-2] & mask[1:-1, 2:]
        before, after = before + int(mask.sum()), after + int(core.sum())
    return after / max(1, before)


def _shades(paints: Paints) -> list[NDArray[np.intp]]:
    """The paints of a figure by material, the greatest first: a paint that modelling made of a greater one goes with it."""
    lab = oklab_from_linear(paints.linear)
    left, found = list(np.argsort(-paints.share)), []
    while left:
        apart = np.abs(lab[left] - lab[left[0]])
        like = (np.hypot(apart[:, 1], apart[:, 2]) < SHADE_CHROMA) & (apart[:, 0] < SHADE_LIGHTNESS)
        found.append(np.array(left)[like])
        left = [i for i, taken in zip(left, like, strict=True) if not taken]
    return found


def _proposed(paints: Paints, thin: NDArray[np.bool_], views: list[View]) -> list[Trait]:
    """A trait for every material that is area and not line, so that together they cover the figure."""
    heaviest = max(views, key=lambda v: v.weight)
    nearest, _ = belonging(heaviest.crop.lab, paints.linear)
    chance = heaviest.crop.figure.ravel()
    places = heaviest.crop.places.reshape(-1, 2)
    found = []
    for group in _shades(paints):
        share = float(paints.share[group].sum())
        chances = chance * np.isin(nearest, group)
        line = thin[group].all() and _left_by_erosion(views, paints.linear, group) < THIN_LEFT
        if line or share < PROPOSED_LEAST or chances.sum() < 6:
            continue
        centre, extent = _placed(places, chances)
        name = f"{colour_name(paints.linear[group[0]])}{PART_AT}{place_name(*centre)}"
        parts = paints.share[group] / share
        found.append(Trait(name, paints.linear[group], parts, share, centre, extent, "figure", declared=False))
    return _told_apart(found)


def _told_apart(traits: list[Trait]) -> list[Trait]:
    """Traits of one name, told apart by how dark they are."""
    out = []
    for trait in traits:
        alike = sorted(
            (t for t in traits if t.name == trait.name), key=lambda t: float(lab_from_linear(t.colours[0])[0])
        )
        at = next(i for i, t in enumerate(alike) if t is trait)
        which = DARKNESS[min(at, len(DARKNESS) - 1)] if at < len(alike) - 1 else "lightest"
        out.append(trait if len(alike) == 1 else replace(trait, name=f"{which} {trait.name}"))
    return out


def _declared(spec: TraitSpec, extent: Box, views: list[View]) -> Trait | None:
    view = views[min(spec.picture, len(views) - 1)]
    linear, chance = view.crop.linear.reshape(-1, 3), view.crop.figure.ravel()
    places = view.crop.places.reshape(-1, 2)
    inside = np.ones(len(linear), dtype=bool)
    if spec.box is not None:
        x0, x1 = (spec.box.x - extent.x) / extent.w, (spec.box.x + spec.box.w - extent.x) / extent.w
        y0, y1 = (spec.box.y - extent.y) / extent.h, (spec.box.y + spec.box.h - extent.y) / extent.h
        inside = (places[:, 0] >= x0) & (places[:, 0] <= x1) & (places[:, 1] >= y0) & (places[:, 1] <= y1)
        if spec.outline:
            at = np.array([extent.x, extent.y]) + places * np.array([extent.w, extent.h])
            drawn = inside & within(spec.outline, at)
            inside = drawn if drawn.any() else inside
        if not inside.any():
            return None
    if spec.colours:
        colours = np.array(spec.colours)
    else:
        swatches = [s for s in palette(linear[inside], 4, chance[inside], merge=10.0) if s.share >= 0.15]
        if not swatches:
            return None
        colours = np.array([s.linear for s in swatches[:2]])
    nearest, apart = belonging(view.crop.lab, colours)
    chances = np.where(inside & (apart < NEAR * 1.3), chance, 0.0)
    area = float(chances.sum())
    if area < 1.0:
        chances = np.where(inside, chance + 1e-6, 0.0)
        area = float(chances.sum()) * 0.5
    parts = np.maximum(np.bincount(nearest, chances, len(colours)), 1e-9)
    centre, half = _placed(places, chances)
    return Trait(
        spec.name,
        colours,
        parts / parts.sum(),
        area / max(1e-9, float(chance.sum())),
        centre,
        half,
        spec.part,
        declared=True,
        tolerance=spec.tolerance,
    )


def _placed(places: Floats, weights: Floats) -> tuple[tuple[float, float], tuple[float, float]]:
    total = max(1e-9, float(weights.sum()))
    cx, cy = (float((places[:, c] * weights).sum() / total) for c in (0, 1))
    sx, sy = (float(np.sqrt(((places[:, c] - m) ** 2 * weights).sum() / total)) for c, m in ((0, cx), (1, cy)))
    return (cx, cy), (max(0.02, 1.8 * sx), max(0.02, 1.8 * sy))


def part_masks(model: FigureModel, view: View) -> Mask:
    """Where on the square of a view's look each trait is, (traits, 56, 56): the part 0..1 of each cell. Every pixel belongs to one trait
    at most: to that whose colours are nearest, and of those that share a colour to that whose place is nearest."""
    assert view.look is not None
    sheet = view.look.upright
    figure = sheet.figure
    if not model.traits or not figure.any():
        return np.zeros((len(model.traits), GRID, GRID), np.float32)
    lab = oklab_from_linear(linear_from_srgb8(sheet.pixels)).reshape(-1, 3)
    own = np.stack([belonging(lab, t.colours)[1] for t in model.traits])
    _, rival = belonging(lab, model.paints.linear)
    ys, xs = np.mgrid[0:SIDE, 0:SIDE]
    rows, columns = np.flatnonzero(figure.any(axis=1)), np.flatnonzero(figure.any(axis=0))
    y = ((ys + 0.5 - rows[0]) / (rows[-1] + 1 - rows[0])).ravel()
    x = ((xs + 0.5 - columns[0]) / (columns[-1] + 1 - columns[0])).ravel()
    away = np.stack([_away(t, x, y) for t in model.traits])
    fits = (own < NEAR) & (own <= rival + 0.01) & (away < AWAY_MOST) & figure.ravel()
    cost = np.where(fits, own / NEAR + 0.5 * away / AWAY_MOST, np.inf)
    best = cost.argmin(axis=0)
    return np.stack([cover(((best == i) & fits[i]).reshape(SIDE, SIDE)) for i in range(len(model.traits))])


def _away(trait: Trait, x: Floats, y: Floats) -> Floats:
    """How far places of a figure, 0..1, are from a trait's: 1 at the edge of its extent; the figure may be turned over."""
    across = np.minimum(np.abs(x - trait.centre[0]), np.abs(x - (1 - trait.centre[0])))
    return np.hypot(across / (trait.extent[0] + 0.08), (y - trait.centre[1]) / (trait.extent[1] + 0.08))


def nearest_difference(colours: Floats, seen: Floats) -> float:
    """Least CIEDE2000 between any of `colours` (n, 3) and one seen colour (3,), all linear light."""
    return float(delta_e_2000(lab_from_linear(colours), lab_from_linear(seen)[None]).min())


def hexes(colours: Floats) -> list[str]:
    return [hex_from_linear(c) for c in colours]


def place_name(x: float, y: float) -> str:
    """Where on a figure a point lies: `top`, `middle`, `bottom` by thirds of its height, y from 0 (top) to 1."""
    return "top" if y < 0.33 else ("middle" if y < 0.67 else "bottom")
