"""A figure as its references show it: its model, and what they tell of how far its measures may spread."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from juxtaform.core import tolerances as tol
from juxtaform.core.colour.light import Paints, fit
from juxtaform.core.colour.palette import palette
from juxtaform.core.colour.spaces import Floats, linear_from_srgb8, srgb_from_linear
from juxtaform.core.figure.ground import Mask
from juxtaform.core.figure.match import Eye
from juxtaform.core.figure.reading import read_figure, surface
from juxtaform.core.figure.repeats import Pieces, Usual, pieces, usual
from juxtaform.core.figure.structure import agreement
from juxtaform.core.figure.traits import FigureModel, View, belonging, part_masks
from juxtaform.core.figure.who import Known, pairs_of
from juxtaform.core.figure.worn import main_colours
from juxtaform.core.picture.regions import Box, Crop, appearance_crop


@dataclass(frozen=True, slots=True)
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
    usual: tuple[Usual | None, ...] = ()
    """What the references show of each trait, piece by piece."""


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
        return Known(
            self.model.owner,
            tuple(v.name for v in views),
            tuple(v.id for v in views),
            looks,
            self.pairs,
            self.model.name,
        )

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

COLOUR_FLOOR, MAKEUP_FLOOR, STRUCTURE_FLOOR = 0.39, 0.36, 0.93
"""Least tolerances of the terms. Set on the product's own constructed figures in other poses, lights and grounds."""


def known_figure(model: FigureModel, eye: Eye | None = None) -> FigureKnown:
    """Calibrate a model: each view is read against the whole model as though it were an appearance.

    Besides the references as they are, each is staged small on a ground, so that what is lost by scale and by an
    uncertain outline (thin legs, stripes, gaps) is known beforehand and not taken for drift.
    """
    allowed = np.full(len(model.traits), tol.TRAIT_DELTA_E)
    colour, makeup, alike = [], [], []
    seen_pieces: list[list[Pieces]] = [[] for _ in model.traits]
    loose = Calibration(tuple(allowed.tolist()), Terms(COLOUR_FLOOR, MAKEUP_FLOOR, STRUCTURE_FLOOR), 1.0)
    for i, view in enumerate(model.views):
        for crop in (view.crop, *(_staged(view.crop, ground) for ground in STAGE_GROUNDS)):
            paints = seen_paints_of(crop)
            light = fit(model.paints, paints, [])
            on = surface(crop, model, light, Box(0, 0, 1, 1))
            reading = read_figure(on, paints, loose.allowed, light)
            for t, seen in enumerate(reading.traits):
                seen_pieces[t].append(pieces(model.traits[t], on))
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
            tuple(usual(own) for own in seen_pieces),
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


def seen_paints_of(crop: Crop) -> Paints:
    linear, chance = crop.linear.reshape(-1, 3), crop.figure.ravel()
    places = crop.places.reshape(-1, 2)
    weight = 0.03 + chance
    swatches = palette(linear, 14, weight, merge=5.0, lab=crop.lab)
    colours = np.array([s.linear for s in swatches])
    nearest, _ = belonging(crop.lab, colours)
    masses = np.maximum(np.bincount(nearest, weight, len(colours)), 1e-9)
    centres = np.stack([np.bincount(nearest, weight * places[:, c], len(colours)) / masses for c in (0, 1)], axis=1)
    figure = np.bincount(nearest, chance, len(colours))
    return Paints(colours, np.maximum(figure / max(1e-9, float(figure.sum())), 1e-6), centres)
