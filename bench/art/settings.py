"""Stories at two places whose grounds are wallpapers: twelve pictures, of which one shows the other place and one a place that nobody named."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from bench.art.sequences import cut_of, readable
from bench.art.sources import families, grounds
from bench.art.staging import SIZE, Rgb, Rgba, Standing, random_light, scene
from juxtaform.core.check.measure import measure_picture
from juxtaform.core.check.places import place_threads
from juxtaform.core.check.states import Mark, PlaceHome, PlaceReference, ShotPlan, ShotState
from juxtaform.core.picture.regions import Box
from juxtaform.core.place.ground import PlaceMap
from juxtaform.media.network import hand_eye

EACH = 6
"""Pictures at each of both places."""
RIGHT, OTHER, UNKNOWN = "right", "the other place", "a place that nobody named"


@dataclass(frozen=True)
class Seen:
    """A picture of a place: what it truly shows, and what is told of it, or nothing."""

    shows: str
    told: str


def story_at_two_places(seed: int, references: int, last: bool) -> list[Seen]:
    """What is told of each picture; a place has so many references, the first of which shows all of it."""
    rng = np.random.default_rng(seed)
    own = [g for i, g in enumerate(grounds()) if (i % 2 == 1) == last]
    here, there, elsewhere = (own[i] for i in rng.permutation(len(own))[:3])
    figures = _figures(rng, last)
    homes = [
        PlaceHome(name, name, tuple(PlaceReference(_map(g if k == 0 else cut_of(g, rng))) for k in range(references)))
        for name, g in (("Here", here), ("There", there))
    ]
    plan = ["Here"] * EACH + ["There"] * EACH
    shows = [here] * EACH + [there] * EACH
    wrong = {int(rng.integers(1, EACH)): OTHER, int(rng.integers(EACH + 1, 2 * EACH)): UNKNOWN}
    for i, what in wrong.items():
        shows[i] = there if what == OTHER else elsewhere
    shots = [_shot(i, place, _staged(g, figures, rng)) for i, (place, g) in enumerate(zip(plan, shows, strict=True))]
    _, findings = place_threads(homes, shots)
    told = {f.shot: f.kind for f in reversed(findings)}
    return [Seen(wrong.get(i, RIGHT), told.get(shot.id, "nothing")) for i, shot in enumerate(shots)]


def _figures(rng: np.random.Generator, last: bool) -> list[Rgba]:
    many = [f for f in families(last) if len(f.pictures) >= 3]
    found = [readable(a) for a in many[int(rng.integers(len(many)))].pictures[:4]]
    return [p for p in found if p is not None]


def _staged(ground: Rgb, figures: Sequence[Rgba], rng: np.random.Generator) -> tuple[Rgb, list[Box]]:
    """A part of a ground with somebody before it, in some light."""
    standing = []
    if figures:
        seen = figures[int(rng.integers(len(figures)))]
        x, foot, height = (float(rng.uniform(*span)) for span in ((0.2, 0.8), (0.85, 0.98), (0.35, 0.65)))
        standing = [Standing(seen, x, foot, height, bool(rng.integers(2)))]
    return scene(cut_of(ground, rng), standing, random_light(rng))


def _map(ground: Rgb) -> PlaceMap:
    seen = measure_picture(
        np.asarray(cv2.resize(ground, SIZE, interpolation=cv2.INTER_AREA), np.uint8), [], hand_eye=hand_eye()
    )
    assert seen.place
    return seen.place


def _shot(i: int, place: str, staged: tuple[Rgb, list[Box]]) -> ShotState:
    pixels, boxes = staged
    seen = measure_picture(pixels, [], hand_eye=hand_eye())
    marks = tuple(Mark("somebody", b) for b in boxes)
    plan = ShotPlan(place, "MS", places=((place, ""),))
    return ShotState(f"s{i}", str(i + 1), "", frozenset([place]), None, marks, seen, plan)
