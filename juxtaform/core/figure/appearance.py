"""One appearance of a figure against its model: the light taken out, each trait read, the figure's distance, and who it is.

Three independent terms make the figure distance: colours (what the common light cannot explain), make-up (shares of
the figure) and local structure. Each is divided by a tolerance calibrated on the references themselves.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from juxtaform.core.colour.light import Paints, SceneLight, fit, mismatch, refined
from juxtaform.core.colour.spaces import Floats, Pixels
from juxtaform.core.figure.extras import Extra, extras, surroundings
from juxtaform.core.figure.known import Calibration, FigureKnown, Terms, seen_paints_of
from juxtaform.core.figure.match import Eye
from juxtaform.core.figure.parts import Over, part_steps, shared_light, worn_over
from juxtaform.core.figure.proportion import Proportion, proportion, stature
from juxtaform.core.figure.reading import FigureReading, Surface, TraitReading, read_figure, surface
from juxtaform.core.figure.repeats import again, pieces
from juxtaform.core.figure.sheet import Sheet
from juxtaform.core.figure.structure import agreement, structure
from juxtaform.core.figure.traits import STRUCTURE_SIDE, TRAIT_SIDE, FigureModel
from juxtaform.core.figure.who import Identity, identify, looked_at, seen_look
from juxtaform.core.figure.worn import Worn
from juxtaform.core.picture.regions import Box, Crop, appearance_crop, cut_out, resized, shared_area


@dataclass(frozen=True, slots=True)
class Appearance:
    """The measure of one appearance; `distance` is relative: 1 is the edge of tolerance. `identity` says who it is; None where no
    eye looked. `worn` are the colours that it wears where it lies over its reference, `proportion` how its parts stand to each other there, `stature` how tall it is drawn (px) as it would stand on its reference; None where nothing was laid over; `extras` are what its references do not explain."""

    distance: float
    terms: Terms
    light: SceneLight
    traits: tuple[TraitReading, ...]
    nearest_view: str
    others: dict[str, float]
    identity: Identity | None = None
    worn: tuple[Worn, ...] = ()
    proportion: Proportion | None = None
    stature: float | None = None
    extras: tuple[Extra, ...] = ()


SHARED_LIGHT = 0.8
"""How much a paint of another figure counts against one of its own when the light on a figure is chosen."""
PAINTS_TO_REFINE = 6
"""A figure of fewer paints cannot tell its own light from a change of paint: it keeps the picture's."""
SUSPICIOUS = 0.85
"""Relative distance from which an appearance is also compared with the rest of the cast."""
BEFORE_LEAST = 0.03
"""Whose mark covers at least this part of another may stand before that figure."""


def measure_appearances(
    pixels: Pixels,
    marks: list[tuple[Box, FigureKnown]],
    cast: list[FigureKnown] | None = None,
    eye: Eye | None = None,
) -> list[Appearance]:
    """Measure every marked figure of one picture (h, w, 3) sRGB. The figures of a picture inform each other's light.

    `cast` are the project's figures; an appearance that fits its own badly is also compared with the others, so that a
    swapped figure is known as such. Raises ValueError for a box outside the picture.
    """
    crops = [appearance_crop(pixels, box, TRAIT_SIDE) for box, _ in marks]
    paints = [seen_paints_of(crop) for crop in crops]
    models = [known.model for _, known in marks]
    read = [
        _measured(pixels, _Marked(box, known, crop, own_paints, light), [] if eye and known.known.looks else cast or [])
        for (box, known), crop, own_paints, light in zip(marks, crops, paints, _lights(models, paints), strict=True)
    ]
    return _looked_at(pixels, marks, read, cast or [], eye) if eye else read


@dataclass(frozen=True)
class _Marked:
    """A marked figure as it is read: its crop, the crop's paints, and the light on it."""

    box: Box
    known: FigureKnown
    crop: Crop
    paints: Paints
    light: SceneLight


def _measured(pixels: Pixels, mark: _Marked, cast: list[FigureKnown]) -> Appearance:
    """A figure against its model; one that fits it badly also against those of the `cast`."""
    on = surface(mark.crop, mark.known.model, mark.light, mark.box)
    reading, structural, view = _against(pixels, mark, mark.known, on, mark.light)
    traits = _counted(on, mark.known, reading.traits)
    terms = Terms(reading.colour, reading.makeup, 1 - structural)
    distance = fused(terms, mark.known.calibration)
    others: dict[str, float] = {}
    for rival in cast if distance > SUSPICIOUS else ():
        owner = rival.model.owner
        if owner != mark.known.model.owner:
            light = fit(rival.model.paints, mark.paints, [mark.light])
            theirs = surface(mark.crop, rival.model, light, mark.box)
            read, alike, _ = _against(pixels, mark, rival, theirs, light)
            apart = fused(Terms(read.colour, read.makeup, 1 - alike), rival.calibration)
            others[owner] = min(apart, others.get(owner, apart))
    return Appearance(distance, terms, mark.light, traits, view or reading.nearest_view, others)


def _counted(on: Surface, known: FigureKnown, traits: tuple[TraitReading, ...]) -> tuple[TraitReading, ...]:
    """The traits with which of them are there once more than on the references."""
    usual = known.calibration.usual
    if not usual:
        return traits
    found = [again(t, pieces(t, on), u) for t, u in zip(known.model.traits, usual, strict=True)]
    return tuple(
        replace(t, again=round(more.times, 3), again_at=more.box) if more and t.verdict == "holds" else t
        for t, more in zip(traits, found, strict=True)
    )


def _against(
    pixels: Pixels, mark: _Marked, known: FigureKnown, on: Surface, light: SceneLight
) -> tuple[FigureReading, float, str]:
    """A mark read as some figure under a light, the share of its structure that agrees, and with which view."""
    reading = read_figure(on, mark.paints, known.calibration.allowed, light)
    view, alike = _best_view(pixels, mark.box, known.model)
    return reading, alike, view


CLEARLY_ITSELF = 2.0
"""Who fits their own references with such log odds need not be held against a cast that has changed since."""


def is_clear(seen: Appearance) -> bool:
    """Whether an appearance is so like its own figure that who else there is makes no difference."""
    return seen.distance <= SUSPICIOUS if seen.identity is None else seen.identity.score >= CLEARLY_ITSELF


def _looked_at(
    pixels: Pixels,
    marks: list[tuple[Box, FigureKnown]],
    read: list[Appearance],
    cast: list[FigureKnown],
    eye: Eye,
) -> list[Appearance]:
    """The appearances with who each figure is, and what it shows of its traits where it lies over its reference."""
    readings, over = list(read), {}
    sides: dict[int, tuple[Sheet, bool]] = {}
    for i, (box, known) in enumerate(marks):
        if not known.known.looks:
            continue
        seen = seen_look(eye, pixels, box)
        who, found = identify(eye, seen, known.known, [c.known for c in cast])
        readings[i] = replace(readings[i], identity=who, nearest_view=known.known.names[who.view])
        look = known.looked_at[who.view].look
        if look is not None and found.redrawn is not None and found.inside is not None:
            over[i] = Over(look.upright, known.masks[who.view], found.redrawn, found.inside)
            sides[i] = seen.side(mirrored=found.mirrored), found.mirrored
            if found.maps is not None and found.affine is not None:
                read_there = proportion(look.upright, *found.maps[:2], found.inside)
                part = looked_at(pixels, box)
                tall = stature(look.upright, found.affine, max(part.w, part.h))
                readings[i] = replace(readings[i], proportion=read_there, stature=tall)
    ground = surroundings(pixels, [box for box, _ in marks]) if over else np.zeros((0, 3))
    for (i, laid), stops in zip(over.items(), shared_light(list(over.values())), strict=True):
        steps = part_steps(laid, stops)
        traits = tuple(replace(t, laid=step) for t, step in zip(readings[i].traits, steps, strict=True))
        familiar, (side, mirrored) = _familiar(marks, i), sides[i]
        more = extras(side, looked_at(pixels, marks[i][0]), stops, familiar, ground, mirrored=mirrored)
        readings[i] = replace(readings[i], traits=traits, worn=worn_over(laid, stops, familiar), extras=more)
    return readings


def _familiar(marks: list[tuple[Box, FigureKnown]], at: int) -> Floats:
    """The colours (n, 3) that are nothing strange on a figure: its own, and those of whoever may stand before it."""
    box, known = marks[at]
    before = [
        k.familiar for i, (b, k) in enumerate(marks) if i != at and shared_area(b, box) > BEFORE_LEAST * box.w * box.h
    ]
    return np.concatenate([known.familiar, *before])


def fused(terms: Terms, calibration: Calibration) -> float:
    """One relative distance from the terms: their weighted root mean square, each over its tolerance.

    Structure weighs by how many keypoints the references have: flat art has few.
    """
    limit = calibration.terms
    structural = 1 + (terms.structure - limit.structure) / max(0.05, 1.02 - limit.structure) * 0.25
    parts = np.array([terms.colour / limit.colour, terms.makeup / limit.makeup, max(0.0, structural)])
    weights = np.array([1.0, 0.6, 0.6 * calibration.structure_trust])
    return float(np.sqrt((weights * parts**2).sum() / weights.sum()))


def _lights(models: list[FigureModel], seen: list[Paints]) -> list[SceneLight]:
    """The light on each figure of a picture: what explains all of them is preferred to what explains one alone."""
    own = [fit(model.paints, paints, []) for model, paints in zip(models, seen, strict=True)]
    if len(own) < 2:
        return own
    costs = np.array([mismatch(model.paints, paints, own) for model, paints in zip(models, seen, strict=True)])
    size = np.array([len(model.paints.share) for model in models], dtype=np.float64)
    together = (size[:, None] * costs).sum(axis=0)
    chosen = []
    for i, cost in enumerate(costs):
        others = (together - size[i] * cost) / (size[i] * (len(own) - 1))
        best = int(np.argmin(cost + SHARED_LIGHT * others))
        few = len(models[i].paints.share) < PAINTS_TO_REFINE
        chosen.append(own[best] if few else refined(models[i].paints, seen[i], own[best]))
    return chosen


def _best_view(pixels: Pixels, box: Box, model: FigureModel) -> tuple[str, float]:
    if not any(len(v.structure.points) >= 4 for v in model.views):
        return "", 0.0
    seen = structure(resized(cut_out(pixels, box), STRUCTURE_SIDE))
    scores = [agreement(v.structure, seen) for v in model.views]
    best = int(np.argmax(scores))
    return model.views[best].name, scores[best]
