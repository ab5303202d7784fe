"""Who stands where in one picture: every figure's likeliest places weighed against each other, one figure to a place."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from juxtaform.core.colour.spaces import Pixels
from juxtaform.core.figure.locate import Candidate, SceneMaps, Template, scene_maps, sighted, templates
from juxtaform.core.figure.match import Eye
from juxtaform.core.figure.sheet import Look, look_of
from juxtaform.core.picture.regions import Box, overlap, shared_area

Answer = Literal["found", "doubtful", "absent"]

FOUND, ABSENT = 0.6, -2.2
"""Log odds from which a figure is found; below the second nobody like it was seen. In between it is doubtful."""
ONE_PLACE = 0.5
"""Two boxes that overlap so much are one place."""
CLOSE = 2.0
"""Who claims a place with so much less is named beside who has it."""


@dataclass(frozen=True)
class Sought:
    """A figure to look for: the looks of its references and how each votes."""

    looks: tuple[Look, ...]
    votes: tuple[tuple[Template, ...], ...]


@dataclass(frozen=True, slots=True)
class Place:
    """Where a figure may stand, and the log odds that it does; the best place of a picture comes first."""

    box: Box
    odds: float


@dataclass(frozen=True)
class Standing:
    """What is said of one figure: found, doubtful or absent (which is never sure: it may be half hidden), where unless it is absent,
    with what log odds, and who else claims the place."""

    figure: str
    answer: Answer
    box: Box | None
    odds: float
    rival: str | None = None


def sought(eye: Eye, crops: Sequence[Pixels]) -> Sought:
    """A figure from crops (h, w, 3) of its reference pictures, each with a rim of ground."""
    looks = tuple(look_of(eye.trunk, c) for c in crops)
    return Sought(looks, tuple(templates(eye.trunk, look.upright) for look in looks))


def seen_places(eye: Eye, pixels: Pixels, figures: Sequence[Sought]) -> list[tuple[Place, ...]]:
    """The likeliest places of each figure in a picture (h, w, 3)."""
    scenes: tuple[SceneMaps, ...] = scene_maps(eye.trunk, pixels)
    found = []
    for figure in figures:
        sights = sighted(eye, pixels, scenes, figure.looks, figure.votes)
        places = [Place(s.box, eye.places.odds(s.values)) for s in sights]
        found.append(tuple(sorted(places, key=lambda p: -p.odds)))
    return found


WARY_SIDE = 448
"""The side at which somebody is looked for whom nobody expects: figures of a sixth of the width and more."""
WARY_VOTE = 0.45
"""The vote that a place needs before somebody unexpected is looked at twice there: of those who are there nearly all have it, of others half."""
COVERED = 0.45
"""A place of which so much lies within a box is that box's."""


def other_places(eye: Eye, pixels: Pixels, figures: Sequence[Sought], taken: Sequence[Box]) -> list[tuple[Place, ...]]:
    """The places of figures that nobody expects in a picture (h, w, 3), outside the boxes that are `taken`; most figures have none."""
    scenes = scene_maps(eye.trunk, pixels, (WARY_SIDE,))

    def free(one: Candidate) -> bool:
        return all(not covers(b, one.box) for b in taken)

    found = []
    for figure in figures:
        sights = sighted(eye, pixels, scenes, figure.looks, figure.votes, free, WARY_VOTE)
        places = [Place(s.box, eye.places.odds(s.values)) for s in sights]
        found.append(
            tuple(sorted((p for p in places if not any(covers(b, p.box) for b in taken)), key=lambda p: -p.odds))
        )
    return found


def covers(taken: Box, place: Box) -> bool:
    """Whether a place is that of somebody who stands in a box."""
    return max(shared_area(taken, place) / (place.w * place.h), overlap(taken, place)) >= COVERED


def settled(places: Mapping[str, Sequence[Place]], marked: Mapping[str, Box] | None = None) -> list[Standing]:
    """One figure to a place: the strongest claim goes first, and nobody is put where the user `marked` somebody else.

    Whoever loses a place gets their next one, if it is any good; who has it and who lost it narrowly name each other.
    """
    taken: dict[str, Box] = dict(marked or {})
    standings: dict[str, Standing] = {}
    claims = sorted(
        ((p.odds, figure, p.box) for figure, own in places.items() for p in own), key=lambda c: (-c[0], c[1])
    )
    lost: dict[str, tuple[float, str, Box]] = {}
    for odds, figure, box in claims:
        if figure in standings or figure in taken:
            continue
        holder = next((f for f, b in taken.items() if overlap(b, box) > ONE_PLACE), None)
        if holder is None:
            if figure in lost and odds < FOUND:
                continue
            answer = _answer(odds)
            standings[figure] = Standing(figure, answer, None if answer == "absent" else box, odds)
            if answer != "absent":
                taken[figure] = box
        elif figure not in lost:
            lost[figure] = odds, holder, box
    for figure, (odds, holder, box) in lost.items():
        if figure not in standings and odds > ABSENT:
            known = holder not in standings
            standings[figure] = Standing(
                figure, "absent" if known else "doubtful", None if known else box, odds, holder
            )
        if holder in standings and standings[holder].odds - odds < CLOSE and odds > ABSENT:
            had = standings[holder]
            standings[holder] = Standing(holder, "doubtful", had.box, had.odds, had.rival or figure)
    return [
        standings.get(f, Standing(f, "absent", None, max((p.odds for p in own), default=ABSENT)))
        for f, own in places.items()
        if f not in (marked or {})
    ]


def _answer(odds: float) -> Answer:
    return "found" if odds > FOUND else "absent" if odds < ABSENT else "doubtful"
