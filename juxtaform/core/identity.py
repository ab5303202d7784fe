"""One appearance of a figure against its model: the light taken out, each trait read, the figure's distance.

Three independent terms make the figure distance: colours (what the common light cannot explain), make-up (shares of
the figure) and local structure. Each is divided by a tolerance calibrated on the references themselves.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from juxtaform.core import tolerances as tol
from juxtaform.core.colour import (
    Floats,
    Pixels,
    distances,
    hex_from_linear,
    linear_from_hex,
    linear_from_srgb8,
    oklab_from_linear,
    srgb_from_linear,
)
from juxtaform.core.figure.ground import Mask
from juxtaform.core.figure.match import Eye
from juxtaform.core.figure.parts import Over, PartStep, part_steps, shared_light, worn_over
from juxtaform.core.figure.who import Identity, Known, identify, pairs_of, seen_look
from juxtaform.core.figure.worn import Worn, main_colours
from juxtaform.core.light import Paints, SceneLight, fit, light_cost, mismatch, refined
from juxtaform.core.palette import palette
from juxtaform.core.regions import Box, Crop, appearance_crop, cut_out, resized, shared_area
from juxtaform.core.structure import agreement, structure
from juxtaform.core.traits import (
    NEAR,
    STRUCTURE_SIDE,
    TRAIT_SIDE,
    FigureModel,
    Trait,
    View,
    belonging,
    hexes,
    nearest_difference,
    part_masks,
)

Verdict = Literal["holds", "changed", "missing", "not_seen"]


@dataclass(frozen=True)
class TraitReading:
    """A trait in one appearance. Colours as hex; `difference` CIEDE2000; shares of the figure 0..1; `region` is where
    it was looked for, in pixels of the picture. `laid` is what the figure laid over its reference shows of it, None where it was not.
    `alone` tells of a changed trait how many of the thread's other pictures there are, none of which shows the seen colour; 0 where some do."""

    name: str
    verdict: Verdict
    expected: tuple[str, ...]
    seen: str | None
    difference: float | None
    allowed: float
    share_expected: float
    share_seen: float
    region: Box
    laid: PartStep | None = None
    alone: int = 0


@dataclass(frozen=True)
class Terms:
    """The raw terms of the figure distance: colour 0..2, make-up 0..1, structure 0..1 (1: nothing agrees)."""

    colour: float
    makeup: float
    structure: float


@dataclass(frozen=True)
class Calibration:
    """What the references show of themselves: allowed CIEDE2000 per trait, and a tolerance for each term."""

    allowed: tuple[float, ...]
    terms: Terms
    structure_trust: float


@dataclass(frozen=True)
class Appearance:
    """The measure of one appearance; `distance` is relative: 1 is the edge of tolerance. `identity` says who it is; None where no
    eye looked. `worn` are the colours that it wears where it lies over its reference."""

    distance: float
    terms: Terms
    light: SceneLight
    traits: tuple[TraitReading, ...]
    nearest_view: str
    others: dict[str, float]
    identity: Identity | None = None
    worn: tuple[Worn, ...] = ()


@dataclass(frozen=True)
class FigureKnown:
    """A figure's model with its calibration."""

    model: FigureModel
    calibration: Calibration
    pairs: tuple[float, ...] = ()

    @cached_property
    def looked_at(self) -> tuple[View, ...]:
        """The views that have a look."""
        return tuple(v for v in self.model.views if v.look is not None)

    @cached_property
    def known(self) -> Known:
        """Its references as they are compared."""
        views = self.looked_at
        looks = tuple(v.look for v in views if v.look is not None)
        return Known(self.model.owner, tuple(v.name for v in views), tuple(v.id for v in views), looks, self.pairs)

    @cached_property
    def familiar(self) -> Floats:
        """The colours (n, 3) of its references, linear light, and those where two of them meet."""
        shown = [main_colours(linear_from_srgb8(look.upright.pixels)[look.upright.figure]) for look in self.known.looks]
        return np.concatenate([self.model.shades, *shown])

    @cached_property
    def masks(self) -> tuple[Mask, ...]:
        """Where the traits are on each looked-at view, (traits, 56, 56) each."""
        return tuple(part_masks(self.model, v) for v in self.looked_at)


STAGE_GROUNDS = ((0.03, 0.08, 0.10), (0.45, 0.34, 0.26))
"""A dark cool and a light warm ground, linear light."""
EXACT = 0.032
"""OKLab distance within which a pixel wears just a trait's colour."""
SHARED_LIGHT = 0.8
"""How much a paint of another figure counts against one of its own when the light on a figure is chosen."""
PAINTS_TO_REFINE = 6
"""A figure of fewer paints cannot tell its own light from a change of paint: it keeps the picture's."""
SUSPICIOUS = 0.85
"""Relative distance from which an appearance is also compared with the rest of the cast."""
BEFORE_LEAST = 0.03
"""Whose mark covers at least this part of another may stand before that figure."""
COLOUR_FLOOR, MAKEUP_FLOOR, STRUCTURE_FLOOR = 0.39, 0.36, 0.93
"""Least tolerances of the terms. Set on the product's own constructed figures in other poses, lights and grounds."""


def known_figure(model: FigureModel, eye: Eye | None = None) -> FigureKnown:
    """Calibrate a model: each view is read against the whole model as though it were an appearance.

    Besides the references as they are, each is staged small on a ground, so that what is lost by scale and by an
    uncertain outline (thin legs, stripes, gaps) is known beforehand and not taken for drift.
    """
    allowed = np.full(len(model.traits), tol.TRAIT_DELTA_E)
    colour, makeup, alike = [], [], []
    loose = Calibration(tuple(allowed.tolist()), Terms(COLOUR_FLOOR, MAKEUP_FLOOR, STRUCTURE_FLOOR), 1.0)
    for i, view in enumerate(model.views):
        for crop in (view.crop, *(_staged(view.crop, ground) for ground in STAGE_GROUNDS)):
            seen_paints = _seen_paints(crop)
            light = fit(model.paints, seen_paints, [])
            reading = _read_crop(crop, seen_paints, model, loose, light, Box(0, 0, 1, 1))
            for t, seen in enumerate(reading.traits):
                if seen.difference is not None and seen.difference < tol.TRAIT_DELTA_E_MOST:
                    most = min(tol.TRAIT_DELTA_E_MOST, tol.TRAIT_SPREAD_FACTOR * seen.difference)
                    allowed[t] = max(allowed[t], most)
            colour.append(reading.colour)
            makeup.append(reading.makeup)
        alike += [agreement(view.structure, other.structure) for j, other in enumerate(model.views) if j != i]
    allowed = np.array([a if t.tolerance is None else t.tolerance for a, t in zip(allowed, model.traits, strict=True)])
    points = float(np.mean([len(v.structure.points) for v in model.views]))
    floor = STRUCTURE_FLOOR if not alike else min(STRUCTURE_FLOOR, 1 - 0.5 * float(np.median(alike)))
    return FigureKnown(
        model,
        Calibration(
            tuple(allowed.tolist()),
            Terms(
                max(COLOUR_FLOOR, 1.2 * float(np.max(colour))),
                max(MAKEUP_FLOOR, 1.2 * float(np.max(makeup))),
                max(0.5, floor),
            ),
            points / (points + 40.0),
        ),
        pairs_of(eye, [v.look for v in model.views if v.look is not None]) if eye else (),
    )


def _staged(crop: Crop, ground: tuple[float, float, float]) -> Crop:
    """A reference's figure at half its working size, on a plain ground of that linear colour."""
    part = crop.figure[..., None]
    page = crop.linear * part + np.array(ground) * (1 - part)
    h, w = crop.figure.shape
    margin_y, margin_x = h // 4 + 2, w // 4 + 2
    canvas = np.empty((h + 2 * margin_y, w + 2 * margin_x, 3))
    canvas[:] = ground
    canvas[margin_y : margin_y + h, margin_x : margin_x + w] = page
    pixels = np.rint(srgb_from_linear(canvas) * 255).astype(np.uint8)
    return appearance_crop(pixels, Box(margin_x, margin_y, w, h), max(24, max(h, w) // 2))


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
    paints = [_seen_paints(crop) for crop in crops]
    models = [known.model for _, known in marks]
    found = []
    for (box, known), crop, own_paints, light in zip(marks, crops, paints, _lights(models, paints), strict=True):
        reading = _read_crop(crop, own_paints, known.model, known.calibration, light, box)
        view, structural = _best_view(pixels, box, known.model)
        terms = Terms(reading.colour, reading.makeup, 1 - structural)
        distance = fused(terms, known.calibration)
        others: dict[str, float] = {}
        looked_at = eye is not None and bool(known.known.looks)
        others_of = [] if looked_at or distance <= SUSPICIOUS else cast or []
        rivals = [c for c in others_of if c.model.owner != known.model.owner]
        for rival in rivals:
            own_light = fit(rival.model.paints, own_paints, [light])
            read = _read_crop(crop, own_paints, rival.model, rival.calibration, own_light, box)
            _, alike = _best_view(pixels, box, rival.model)
            apart = fused(Terms(read.colour, read.makeup, 1 - alike), rival.calibration)
            others[rival.model.owner] = min(apart, others.get(rival.model.owner, apart))
        found.append(Appearance(distance, terms, light, reading.traits, view or reading.nearest_view, others))
    return _looked_at(pixels, marks, found, cast or [], eye) if eye else found


def _looked_at(
    pixels: Pixels,
    marks: list[tuple[Box, FigureKnown]],
    read: list[Appearance],
    cast: list[FigureKnown],
    eye: Eye,
) -> list[Appearance]:
    """The appearances with who each figure is, and what it shows of its traits where it lies over its reference."""
    told, over = list(read), {}
    for i, (box, known) in enumerate(marks):
        if not known.known.looks:
            continue
        who, found = identify(eye, seen_look(eye, pixels, box), known.known, [c.known for c in cast])
        told[i] = replace(told[i], identity=who, nearest_view=known.known.names[who.view])
        look = known.looked_at[who.view].look
        if look is not None and found.redrawn is not None and found.inside is not None:
            over[i] = Over(look.upright, known.masks[who.view], found.redrawn, found.inside)
    for (i, laid), stops in zip(over.items(), shared_light(list(over.values())), strict=True):
        steps = part_steps(laid, stops)
        traits = tuple(replace(t, laid=step) for t, step in zip(told[i].traits, steps, strict=True))
        told[i] = replace(told[i], traits=traits, worn=worn_over(laid, stops, _familiar(marks, i)))
    return told


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


@dataclass(frozen=True)
class _Reading:
    colour: float
    makeup: float
    traits: tuple[TraitReading, ...]
    nearest_view: str


@dataclass(frozen=True)
class _Apart:
    """OKLab distances of a crop's pixels to all paints of a figure and to all its shades, (n, m) each."""

    paints: Floats
    shades: Floats


def _seen_paints(crop: Crop) -> Paints:
    linear, chance = crop.linear.reshape(-1, 3), crop.figure.ravel()
    places = crop.places.reshape(-1, 2)
    weight = 0.03 + chance
    swatches = palette(linear, 14, weight, merge=5.0, lab=crop.lab)
    colours = np.array([s.linear for s in swatches])
    nearest, _ = belonging(crop.lab, colours)
    held = np.maximum(np.bincount(nearest, weight, len(colours)), 1e-9)
    centres = np.stack([np.bincount(nearest, weight * places[:, c], len(colours)) / held for c in (0, 1)], axis=1)
    figure = np.bincount(nearest, chance, len(colours))
    return Paints(colours, np.maximum(figure / max(1e-9, float(figure.sum())), 1e-6), centres)


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


def _read_crop(
    crop: Crop, seen: Paints, model: FigureModel, calibration: Calibration, light: SceneLight, box: Box
) -> _Reading:
    prior = light_cost(np.array([light.gain]), [light])
    colour = max(0.0, float(mismatch(model.paints, seen, [light])[0] - prior[0]))
    canonical = light.taken_out(crop.linear.reshape(-1, 3))
    lab = oklab_from_linear(canonical)
    chance = crop.figure.ravel()
    apart_from = _Apart(
        distances(lab, model.paints.lab),
        distances(lab, oklab_from_linear(model.shades)),
    )
    palette_of = apart_from.paints.argmin(axis=1)
    apart = apart_from.paints[np.arange(len(lab)), palette_of]
    weight = chance * np.clip(1.6 - apart / NEAR, 0.0, 1.0)
    shares = np.bincount(palette_of, weight, len(model.paints.share))
    total = float(shares.sum())
    seen_shares = shares / total if total > 0 else shares
    unexplained = 1 - total / max(1e-9, float(chance.sum()))
    makeup = float(np.sqrt(max(0.0, 1 - np.sqrt(seen_shares * model.paints.share).sum()))) + 0.25 * unexplained
    places = crop.places.reshape(-1, 2)
    mapping = _mapping(model.paints, palette_of, np.where(crop.ground_like.ravel(), 0.0, weight), places)
    traits: dict[int, TraitReading] = {}
    known: list[Floats] = []
    for i in sorted(range(len(model.traits)), key=lambda i: -model.traits[i].share):
        reading = _read_trait(
            model.traits[i],
            calibration.allowed[i],
            model,
            crop,
            canonical,
            lab,
            mapping,
            box,
            light.saturation,
            np.array(known),
            apart_from,
        )
        traits[i] = reading
        if reading.verdict == "changed" and reading.seen:
            known.append(linear_from_hex(reading.seen))
    in_order = tuple(traits[i] for i in range(len(model.traits)))
    return _Reading(colour, makeup, in_order, model.views[0].name)


def _mapping(paints: Paints, owner: NDArray[np.intp], weight: Floats, places: Floats) -> tuple[float, float]:
    """Scale and shift of heights: seen y = scale * reference y + shift, drawn towards 1 and 0 by a prior."""
    held = np.bincount(owner, weight, len(paints.share))
    ys = np.bincount(owner, weight * places[:, 1], len(paints.share)) / np.maximum(held, 1e-9)
    trust = np.minimum(held / max(1e-9, float(held.sum())), paints.share)
    trust = trust / max(1e-9, float(trust.sum()))
    expected = paints.place[:, 1]
    me, ms = float((trust * expected).sum()), float((trust * ys).sum())
    spread = float((trust * (expected - me) ** 2).sum())
    together = float((trust * (expected - me) * (ys - ms)).sum())
    scale = float(np.clip((together + 0.02) / (spread + 0.02), 0.6, 2.2))
    return scale, ms - scale * me


def _read_trait(
    trait: Trait,
    allowed: float,
    model: FigureModel,
    crop: Crop,
    canonical: Floats,
    lab: Floats,
    mapping: tuple[float, float],
    box: Box,
    saturation: float,
    known_changes: Floats,
    apart_from: _Apart,
) -> TraitReading:
    """Read one trait; `known_changes` (m, 3) are the new colours of greater traits, which explain pixels here too."""
    scale, shift = mapping
    places = crop.places.reshape(-1, 2)
    chance = crop.figure.ravel()
    area = float(chance.sum())
    cy, ry = trait.centre[1] * scale + shift, trait.extent[1] * scale + 0.10
    cx, rx = trait.centre[0], trait.extent[0] + 0.14
    across = np.minimum(np.abs(places[:, 0] - cx), np.abs(places[:, 0] - (1 - cx)))
    window = (across <= rx) & (np.abs(places[:, 1] - cy) <= ry)
    wide = (across <= rx + 0.15) & (np.abs(places[:, 1] - cy) <= ry + 0.16)
    x0, x1 = min(cx, 1 - cx) - rx, max(cx, 1 - cx) + rx
    region = Box(
        box.x + box.w * max(0.0, x0),
        box.y + box.h * max(0.0, cy - ry),
        box.w * (min(1.0, x1) - max(0.0, x0)),
        box.h * max(0.02, min(1.0, cy + ry) - max(0.0, cy - ry)),
    )
    expected_px = trait.share * area

    def said(verdict: Verdict, seen: str | None, difference: float | None, share: float) -> TraitReading:
        return TraitReading(
            trait.name,
            verdict,
            tuple(hexes(trait.colours)),
            seen,
            difference,
            allowed,
            trait.share,
            share,
            region,
        )

    out_of_frame = (crop.cut[3] and cy > 0.93) or (crop.cut[1] and cy < 0.07)
    too_faded = saturation < tol.FADED_COLOUR and trait.share < tol.FADED_SHARE * (tol.FADED_COLOUR / saturation) ** 3
    if out_of_frame or too_faded or expected_px < tol.TRAIT_LEAST_PX or not window.any():
        return said("not_seen", None, None, 0.0)
    allowed *= (1 + 1.5 / float(np.sqrt(max(1.0, expected_px)))) / min(1.0, saturation**0.5)
    near = NEAR / min(1.0, saturation**0.5)
    _, to_own = belonging(lab, trait.colours)
    to_rival = _least(apart_from.paints[:, _not_own(model.paints.linear, trait)], len(lab))
    if len(known_changes):
        to_rival = np.minimum(to_rival, belonging(lab, known_changes)[1])
    to_familiar = to_rival
    if trait.share < tol.WHOLE_PART_SHARE:
        to_familiar = np.minimum(to_rival, _least(apart_from.shades[:, _not_own(model.shades, trait)], len(lab)))
    own = wide & (to_own < near) & (to_own < to_rival * 0.9)
    unmoved = (across <= rx) & (np.abs(places[:, 1] - trait.centre[1]) <= ry)
    exact = ((window | unmoved) & (to_own < EXACT) & (chance > 0.3) & ~crop.ground_like.ravel()).astype(np.float64)
    if exact.sum() >= tol.TRAIT_EXACT_SHARE * expected_px:
        seen, difference = _own_colour(trait, canonical, lab, exact)
        return said("holds", hex_from_linear(seen), difference, float(exact.sum()) / area)
    own_weight: Floats = own.astype(np.float64) * np.where(
        crop.ground_like.ravel(), 0.15 * chance, 0.25 + 0.75 * chance
    )
    held = float(own_weight.sum())
    if held >= tol.TRAIT_PRESENT_SHARE * expected_px:
        seen, difference = _own_colour(trait, canonical, lab, own_weight * np.where(window, 1.0, 0.3))
        if difference <= allowed:
            return said("holds", hex_from_linear(seen), difference, held / area)
    strange = (
        window & (to_own >= near * 0.5) & (to_familiar > near * 0.75) & (chance > 0.45) & ~crop.ground_like.ravel()
    )
    possible = (window & (to_own < near) & (to_own < to_rival) & (chance > 0.12)).astype(np.float64)
    if possible.sum() >= 0.6 * expected_px:
        seen, difference = _own_colour(trait, canonical, lab, possible)
        if difference <= allowed:
            return said("holds", hex_from_linear(seen), difference, float(possible.sum()) / area)
    off = (across / max(rx, 1e-6)) ** 2 + ((places[:, 1] - cy) / max(ry, 1e-6)) ** 2
    centred = chance * np.exp(-1.5 * off)
    masks = [strange]
    if trait.share > tol.WHOLE_PART_SHARE:
        masks.append(window & (to_own >= near * 0.5) & (to_familiar > near * 0.75) & (off < 0.5))
    for mask in masks:
        stranger = (
            palette(canonical[mask], 4, centred[mask] + 1e-9, merge=9.0, lab=lab[mask]) if mask.sum() >= 3 else []
        )
        share = stranger[0].share * float(np.maximum(chance[mask], 0.5).sum()) if stranger else 0.0
        if share >= tol.TRAIT_CHANGED_SHARE * expected_px:
            colour = np.array(stranger[0].linear)
            difference = nearest_difference(trait.colours, colour)
            return said(
                "changed" if difference > allowed else "holds", hex_from_linear(colour), difference, share / area
            )
    if held >= tol.TRAIT_PRESENT_SHARE * expected_px:
        seen, difference = _own_colour(trait, canonical, lab, own_weight)
        return said("changed", hex_from_linear(seen), difference, held / area)
    if trait.share > tol.WHOLE_PART_SHARE:
        return said("not_seen", None, None, held / area)  # the body or its main cloth is there, and was read badly
    return said("missing", None, None, held / area)


def _own_colour(trait: Trait, canonical: Floats, lab: Floats, weight: Floats) -> tuple[Floats, float]:
    """The middle colour of a trait's pixels and its difference; of several colours each is read by itself, the seen
    colour is that of the trait's greatest part, the difference their mean by expected parts."""
    here = weight > 0
    canonical, lab, weight = canonical[here], lab[here], weight[here]
    owner, _ = belonging(lab, trait.colours)
    held = np.bincount(owner, weight, len(trait.colours))
    middles = {int(i): _middle(canonical, np.where(owner == i, weight, 0.0)) for i in np.flatnonzero(held > 0)}
    apart = np.array([nearest_difference(trait.colours[i : i + 1], m) for i, m in middles.items()])
    parts = np.array([trait.parts[i] for i in middles])
    return middles[max(middles, key=lambda i: float(trait.parts[i]))], float((parts * apart).sum() / parts.sum())


def _not_own(colours: Floats, trait: Trait) -> NDArray[np.bool_]:
    """Which of some linear-light colours (n, 3) are not a trait's own, (n,)."""
    _, apart = belonging(oklab_from_linear(colours), trait.colours)
    return np.asarray(apart > 0.06)


def _least(distances: Floats, count: int) -> Floats:
    """The least distance of each of `count` pixels to some colours (n, m), infinite where there is none."""
    return np.asarray(distances.min(axis=1)) if distances.shape[1] else np.full(count, np.inf)


def _middle(linear: Floats, weight: Floats) -> Floats:
    """Weighted median per channel of linear-light pixels (n, 3)."""
    held = weight > 0
    values, w = linear[held], weight[held]
    out = np.empty(3)
    for c in range(3):
        order = np.argsort(values[:, c])
        rising = np.cumsum(w[order])
        out[c] = values[order[np.searchsorted(rising, rising[-1] / 2)], c]
    return out


def _best_view(pixels: Pixels, box: Box, model: FigureModel) -> tuple[str, float]:
    if not any(len(v.structure.points) >= 4 for v in model.views):
        return "", 0.0
    seen = structure(resized(cut_out(pixels, box), STRUCTURE_SIDE))
    scores = [agreement(v.structure, seen) for v in model.views]
    best = int(np.argmax(scores))
    return model.views[best].name, scores[best]
