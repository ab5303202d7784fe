"""One figure's traits read in one picture, its light taken out: where each is looked for, and what is there."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from juxtaform.core import tolerances as tol
from juxtaform.core.colour.light import Paints, SceneLight, light_cost, mismatch
from juxtaform.core.colour.palette import palette
from juxtaform.core.colour.spaces import Floats, distances, hex_from_linear, linear_from_hex, oklab_from_linear
from juxtaform.core.figure.parts import PartStep
from juxtaform.core.figure.traits import NEAR, FigureModel, Trait, belonging, hexes, nearest_difference
from juxtaform.core.picture.regions import Box, Crop

Verdict = Literal["holds", "changed", "missing", "not_seen"]
Flags = NDArray[np.bool_]


@dataclass(frozen=True, slots=True)
class TraitReading:
    """A trait in one appearance. Colours as hex; `difference` CIEDE2000; shares of the figure 0..1; `region` is where
    it was looked for, in pixels of the picture. `laid` is what the figure laid over its reference shows of it, None where it was not.
    `alone` tells of a changed trait how many of the thread's other pictures there are, none of which shows the seen colour; 0 where some do.
    `again` is how many times as much of it there is as on the references, where it is there once more, `again_at` where; 0 where it is not."""

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
    again: float = 0.0
    again_at: Box | None = None


@dataclass(frozen=True)
class FigureReading:
    """A figure's traits in one picture, and how far its colours (0..2) and their shares (0..1) are from the model's."""

    colour: float
    makeup: float
    traits: tuple[TraitReading, ...]
    nearest_view: str


@dataclass(frozen=True)
class Surface:
    """The pixels (n) of a mark as a figure's reading sees them: under the light of its reference, with the distances (n, m) of their
    colours to the model's paints and shades in OKLab, and what maps heights of the reference to heights here (scale, shift)."""

    model: FigureModel
    crop: Crop
    box: Box
    canonical: Floats
    lab: Floats
    saturation: float
    to_paints: Floats
    to_shades: Floats

    @cached_property
    def chance(self) -> Floats:
        return self.crop.figure.ravel()

    @cached_property
    def ground_like(self) -> Flags:
        return self.crop.ground_like.ravel()

    @cached_property
    def places(self) -> Floats:
        return self.crop.places.reshape(-1, 2)

    @cached_property
    def area(self) -> float:
        return float(self.chance.sum())

    @cached_property
    def paint_of(self) -> NDArray[np.intp]:
        """The nearest paint of each pixel."""
        return np.asarray(self.to_paints.argmin(axis=1))

    @cached_property
    def painted(self) -> Floats:
        """How much of each pixel is the figure in its own paints."""
        apart = self.to_paints[np.arange(len(self.lab)), self.paint_of]
        return self.chance * np.clip(1.6 - apart / NEAR, 0.0, 1.0)

    @cached_property
    def heights(self) -> tuple[float, float]:
        """Scale and shift: seen y = scale * reference y + shift, drawn towards 1 and 0 by a prior."""
        weight, paints = np.where(self.ground_like, 0.0, self.painted), self.model.paints
        masses = np.bincount(self.paint_of, weight, len(paints.share))
        ys = np.bincount(self.paint_of, weight * self.places[:, 1], len(paints.share)) / np.maximum(masses, 1e-9)
        trust = np.minimum(masses / max(1e-9, float(masses.sum())), paints.share)
        trust = trust / max(1e-9, float(trust.sum()))
        expected = paints.place[:, 1]
        me, ms = float((trust * expected).sum()), float((trust * ys).sum())
        spread = float((trust * (expected - me) ** 2).sum())
        together = float((trust * (expected - me) * (ys - ms)).sum())
        scale = float(np.clip((together + 0.02) / (spread + 0.02), 0.6, 2.2))
        return scale, ms - scale * me


EXACT = 0.032
"""OKLab distance within which a pixel wears just a trait's colour."""


def surface(crop: Crop, model: FigureModel, light: SceneLight, box: Box) -> Surface:
    """A mark's pixels with the light on them taken out."""
    canonical = light.taken_out(crop.linear.reshape(-1, 3))
    lab = oklab_from_linear(canonical)
    return Surface(
        model=model,
        crop=crop,
        box=box,
        canonical=canonical,
        lab=lab,
        saturation=light.saturation,
        to_paints=distances(lab, model.paints.lab),
        to_shades=distances(lab, oklab_from_linear(model.shades)),
    )


def read_figure(on: Surface, seen: Paints, allowed: tuple[float, ...], light: SceneLight) -> FigureReading:
    """Read every trait of a figure on a mark's surface, the greatest first: what a greater one changed to explains pixels of the smaller ones.
    `seen` are the mark's paints, `allowed` the CIEDE2000 that each trait may differ by, `light` is that which the surface had taken out."""
    model = on.model
    prior = light_cost(np.array([light.gain]), [light])
    colour = max(0.0, float(mismatch(model.paints, seen, [light])[0] - prior[0]))
    traits: dict[int, TraitReading] = {}
    changes: list[Floats] = []
    for i in sorted(range(len(model.traits)), key=lambda i: -model.traits[i].share):
        traits[i] = reading = read_trait(model.traits[i], allowed[i], on, np.array(changes))
        if reading.verdict == "changed" and reading.seen:
            changes.append(linear_from_hex(reading.seen))
    return FigureReading(colour, _makeup(on), tuple(traits[i] for i in range(len(model.traits))), model.views[0].name)


def _makeup(on: Surface) -> float:
    """How far the shares of the paints are from the model's (Hellinger distance), with what no paint explains."""
    expected = on.model.paints.share
    shares = np.bincount(on.paint_of, on.painted, len(expected))
    total = float(shares.sum())
    seen = shares / total if total > 0 else shares
    unexplained = 1 - total / max(1e-9, on.area)
    return float(np.sqrt(max(0.0, 1 - np.sqrt(seen * expected).sum()))) + 0.25 * unexplained


@dataclass(frozen=True)
class _Place:
    """Where a trait is looked for on a surface: across and down from its middle, the figure turned over or not."""

    across: Floats
    down: Floats
    x: float
    y: float
    reach_x: float
    reach_y: float

    @cached_property
    def window(self) -> Flags:
        return (self.across <= self.reach_x) & (self.down <= self.reach_y)

    @cached_property
    def wide(self) -> Flags:
        return (self.across <= self.reach_x + 0.15) & (self.down <= self.reach_y + 0.16)

    @cached_property
    def off(self) -> Floats:
        """Squared distance from its middle: 1 at the edge of where it is looked for."""
        return (self.across / max(self.reach_x, 1e-6)) ** 2 + (self.down / max(self.reach_y, 1e-6)) ** 2

    def region(self, box: Box) -> Box:
        left, right = min(self.x, 1 - self.x) - self.reach_x, max(self.x, 1 - self.x) + self.reach_x
        top, bottom = max(0.0, self.y - self.reach_y), min(1.0, self.y + self.reach_y)
        x = max(0.0, left)
        return Box(
            box.x + box.w * x, box.y + box.h * top, box.w * (min(1.0, right) - x), box.h * max(0.02, bottom - top)
        )


def _place_of(trait: Trait, on: Surface) -> _Place:
    scale, shift = on.heights
    x, y = trait.centre[0], trait.centre[1] * scale + shift
    across = np.minimum(np.abs(on.places[:, 0] - x), np.abs(on.places[:, 0] - (1 - x)))
    down = np.abs(on.places[:, 1] - y)
    return _Place(across, down, x, y, trait.extent[0] + 0.14, trait.extent[1] * scale + 0.10)


@dataclass(frozen=True)
class _Seen:
    """What stands in a trait's place: the verdict, the seen colour as hex with its difference, and its pixels."""

    verdict: Verdict
    colour: str | None = None
    difference: float | None = None
    pixels: float = 0.0


def read_trait(trait: Trait, allowed: float, on: Surface, changes: Floats) -> TraitReading:
    """Read one trait; `changes` (m, 3) are the new colours of greater traits, which explain pixels here too."""
    place = _place_of(trait, on)
    expected_px = trait.share * on.area
    allowed_here, seen = allowed, _Seen("not_seen")
    if _to_be_seen(trait, place, on, expected_px):
        allowed_here *= (1 + 1.5 / float(np.sqrt(max(1.0, expected_px)))) / min(1.0, on.saturation**0.5)
        seen = _seen(trait, place, on, changes, allowed_here, expected_px)
    return TraitReading(
        name=trait.name,
        verdict=seen.verdict,
        expected=tuple(hexes(trait.colours)),
        seen=seen.colour,
        difference=seen.difference,
        allowed=allowed_here,
        share_expected=trait.share,
        share_seen=seen.pixels / on.area if seen.pixels else 0.0,
        region=place.region(on.box),
    )


def _to_be_seen(trait: Trait, place: _Place, on: Surface, expected_px: float) -> bool:
    """Whether a trait can be judged at all: within the picture, large enough, and not faded away."""
    out_of_frame = (on.crop.cut[3] and place.y > 0.93) or (on.crop.cut[1] and place.y < 0.07)
    faded = on.saturation < tol.FADED_COLOUR
    too_faded = faded and trait.share < tol.FADED_SHARE * (tol.FADED_COLOUR / on.saturation) ** 3
    return not (out_of_frame or too_faded or expected_px < tol.TRAIT_LEAST_PX) and bool(place.window.any())


def _seen(trait: Trait, place: _Place, on: Surface, changes: Floats, allowed: float, expected_px: float) -> _Seen:
    near = NEAR / min(1.0, on.saturation**0.5)
    _, to_own = belonging(on.lab, trait.colours)
    to_rival = least(on.to_paints[:, not_own(on.model.paints.linear, trait)], len(on.lab))
    if len(changes):
        to_rival = np.minimum(to_rival, belonging(on.lab, changes)[1])
    unmoved = (place.across <= place.reach_x) & (np.abs(on.places[:, 1] - trait.centre[1]) <= place.reach_y)
    exact = (place.window | unmoved) & (to_own < EXACT) & (on.chance > 0.3) & ~on.ground_like
    if exact.sum() >= tol.TRAIT_EXACT_SHARE * expected_px:
        return _holding(trait, on, exact.astype(np.float64), float(exact.sum()))

    own = place.wide & (to_own < near) & (to_own < to_rival * 0.9)
    own_weight: Floats = own * np.where(on.ground_like, 0.15 * on.chance, 0.25 + 0.75 * on.chance)
    mass = float(own_weight.sum())
    is_there = mass >= tol.TRAIT_PRESENT_SHARE * expected_px
    if is_there:
        found = _holding(trait, on, own_weight * np.where(place.window, 1.0, 0.3), mass)
        if found.difference is not None and found.difference <= allowed:
            return found
    possible = (place.window & (to_own < near) & (to_own < to_rival) & (on.chance > 0.12)).astype(np.float64)
    if possible.sum() >= 0.6 * expected_px:
        found = _holding(trait, on, possible, float(possible.sum()))
        if found.difference is not None and found.difference <= allowed:
            return found

    for colour, pixels in _strangers(trait, place, on, to_own, to_rival, near):
        if pixels >= tol.TRAIT_CHANGED_SHARE * expected_px:
            difference = nearest_difference(trait.colours, colour)
            return _Seen("changed" if difference > allowed else "holds", hex_from_linear(colour), difference, pixels)
    if is_there:
        found = _holding(trait, on, own_weight, mass)
        return _Seen("changed", found.colour, found.difference, mass)
    if trait.share > tol.WHOLE_PART_SHARE:
        return _Seen("not_seen", pixels=mass)  # the body or its main cloth is there, and was read badly
    return _Seen("missing", pixels=mass)


def _strangers(
    trait: Trait, place: _Place, on: Surface, to_own: Floats, to_rival: Floats, near: float
) -> Iterator[tuple[Floats, float]]:
    """Colours in a trait's place that neither it nor anything else of the figure explains, with their pixels; of a great trait also
    what stands nearer its middle."""
    to_familiar = to_rival
    if trait.share < tol.WHOLE_PART_SHARE:
        to_familiar = np.minimum(to_rival, least(on.to_shades[:, not_own(on.model.shades, trait)], len(on.lab)))
    unexplained = place.window & (to_own >= near * 0.5) & (to_familiar > near * 0.75)
    masks = [unexplained & (on.chance > 0.45) & ~on.ground_like]
    if trait.share > tol.WHOLE_PART_SHARE:
        masks.append(unexplained & (place.off < 0.5))
    centred = on.chance * np.exp(-1.5 * place.off)
    for mask in masks:
        if mask.sum() < 3:
            continue
        first = palette(on.canonical[mask], 4, centred[mask] + 1e-9, merge=9.0, lab=on.lab[mask])[0]
        yield np.array(first.linear), first.share * float(np.maximum(on.chance[mask], 0.5).sum())


def _holding(trait: Trait, on: Surface, weight: Floats, pixels: float) -> _Seen:
    """A trait seen in its own colours: the middle colour of its pixels and its difference; of several colours each is read by itself, the
    seen colour is that of the trait's greatest part, the difference their mean by expected parts."""
    here = weight > 0
    canonical, weight = on.canonical[here], weight[here]
    owner, _ = belonging(on.lab[here], trait.colours)
    masses = np.bincount(owner, weight, len(trait.colours))
    middles = {int(i): _middle(canonical, np.where(owner == i, weight, 0.0)) for i in np.flatnonzero(masses > 0)}
    apart = np.array([nearest_difference(trait.colours[i : i + 1], m) for i, m in middles.items()])
    parts = np.array([trait.parts[i] for i in middles])
    greatest = middles[max(middles, key=lambda i: float(trait.parts[i]))]
    return _Seen("holds", hex_from_linear(greatest), float((parts * apart).sum() / parts.sum()), pixels)


def not_own(colours: Floats, trait: Trait) -> Flags:
    """Which of some linear-light colours (n, 3) are not a trait's own, (n,)."""
    _, apart = belonging(oklab_from_linear(colours), trait.colours)
    return np.asarray(apart > 0.06)


def least(distances: Floats, count: int) -> Floats:
    """The least distance of each of `count` pixels to some colours (n, m), infinite where there is none."""
    return np.asarray(distances.min(axis=1)) if distances.shape[1] else np.full(count, np.inf)


def _middle(linear: Floats, weight: Floats) -> Floats:
    """Weighted median per channel of linear-light pixels (n, 3)."""
    weighty = weight > 0
    return np.quantile(linear[weighty], 0.5, axis=0, method="inverted_cdf", weights=weight[weighty])
