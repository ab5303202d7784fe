"""Who stands where in one picture: every figure's likeliest places weighed against each other, one figure to a place."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import product
from math import exp, log
from types import MappingProxyType
from typing import Literal

from juxtaform.core.colour.spaces import Pixels
from juxtaform.core.figure.locate import Candidate, SceneMaps, Template, scene_maps, sighted, templates
from juxtaform.core.figure.match import Eye
from juxtaform.core.figure.sheet import Look, look_of
from juxtaform.core.picture.regions import Box, overlap, shared_area

Answer = Literal["found", "doubtful", "absent"]

FOUND, ABSENT = 0.5, -2.2
"""Log odds from which a figure that is looked for alone is found; below the second nobody like it was seen. In between it is doubtful."""
TOLD, UNSEEN = -0.6, -3.0
"""The same where the figures of a picture are weighed together, each at one place and each place for one: of those that are there more than 0.85 are found,
and of all 0.03 are found where they are not. What is found is still confirmed, and a right place that is asked about costs more than a wrong one that is refused."""
EVEN = -0.4
"""The same where the plan has one figure in a picture and the others are only looked for beside it: who is in the picture is not all known."""
ONE_BODY = 0.25
"""Two boxes of one figure that overlap so much are the same body, seen larger and smaller: where it stands is as sure as both together."""
SHARPER, PLANNED = 1.6, 0.7
"""What the odds of a place count once all claims to it are known, and by how much likelier it is that somebody stands in a picture whom the plan puts there
(the likeliest of eight pairs that were tried, where all figures of scenes are asked for together; foreign art, the half that settings may be tried on)."""
RIVAL = 0.25
"""Whoever has a place with such a chance beside somebody else is named beside them, and it is asked who it is."""
HOLDS = 0.5
"""Whoever has such a chance of the likeliest place of somebody who was not found is named as its holder."""
MOST_TOGETHER = 8
"""So many figures that want the same places are weighed together, the likeliest ones: each more makes three times as many ways to stand."""
ONE_PLACE = 0.5
"""Two boxes that overlap so much are one place."""


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
    with what log odds, and who else claims the place, or has it."""

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


def settled(
    places: Mapping[str, Sequence[Place]],
    marked: Mapping[str, Box] | None = None,
    things: Collection[str] = (),
    beside: Mapping[str, Sequence[Place]] = MappingProxyType({}),
) -> list[Standing]:
    """Where each figure stands, all weighed together: of all ways in which they can stand, each at one of its places or at none and no two at one place, each
    counts as much as the odds of its places say; a figure is found where most of them have it. Nobody is put where the user `marked` somebody else.

    Whom others want the place of, nearly as likely, is asked about, and they are named; who has no other place than somebody's mark is absent, and its holder named.
    Others of the cast, whom nobody expects there, may be looked for `beside` them: they claim places and get no answer.
    Of a figure that is looked for alone nothing is known of who else may stand there, so that it must be surer; so must `things`, which lie and hang where figures are,
    and take no place from them.
    """
    marked = marked or {}
    every = {**beside, **places}
    alone = things if len((every.keys() | marked.keys()) - set(things)) > 1 else places.keys()
    free: dict[str, list[Place]] = {}
    kept_out: dict[str, str | None] = {}
    for figure in every.keys() - marked.keys():
        own = [(p, _holder(p, marked)) for p in every[figure]]
        free[figure] = [p for p, holder in own if holder is None]
        kept_out[figure] = next((holder for p, holder in own if holder is not None and p.odds > ABSENT), None)
    chances: dict[str, list[float]] = {}
    weighed = {f: own for f, own in free.items() if f not in alone}
    told = TOLD if len((places.keys() | marked.keys()) - set(things)) > 1 else EVEN
    for together in _who_want_the_same(weighed):
        chances |= _chances({f: weighed[f] for f in together})
    return [
        _standing(f, weighed, chances, kept_out[f], told) if f in weighed else _alone(f, free[f], kept_out[f])
        for f in places
        if f not in marked
    ]


def _alone(figure: str, places: Sequence[Place], kept_out: str | None) -> Standing:
    best = max(places, key=lambda p: p.odds, default=None)
    if best is None or best.odds < ABSENT:
        return Standing(figure, "absent", None, best.odds if best else ABSENT, kept_out)
    return Standing(figure, "found" if best.odds > FOUND else "doubtful", best.box, best.odds)


def _holder(place: Place, marked: Mapping[str, Box]) -> str | None:
    return next((f for f, box in marked.items() if overlap(box, place.box) > ONE_PLACE), None)


def _who_want_the_same(places: Mapping[str, Sequence[Place]]) -> Iterator[list[str]]:
    """The figures in groups, such that no two of different groups want one place."""
    left = sorted(places)
    while left:
        group, reached = [], [left.pop(0)]
        while reached:
            one = reached.pop()
            group.append(one)
            near = [f for f in left if any(_one_place(p, q) for p in places[one] for q in places[f])]
            reached += near
            left = [f for f in left if f not in near]
        group.sort(key=lambda f: -max((p.odds for p in places[f]), default=ABSENT))
        yield group[:MOST_TOGETHER]
        yield from ([f] for f in group[MOST_TOGETHER:])


def _chances(places: Mapping[str, Sequence[Place]]) -> dict[str, list[float]]:
    """The chance of each place of each figure, 0..1, over all ways in which they can stand."""
    figures = list(places)
    weights = {f: [exp(SHARPER * p.odds + PLANNED) for p in places[f]] for f in figures}
    sums = {f: [0.0] * len(places[f]) for f in figures}
    total = 0.0
    for way in product(*(range(-1, len(places[f])) for f in figures)):
        at = [(f, k) for f, k in zip(figures, way, strict=True) if k >= 0]
        stood = [places[f][k] for f, k in at]
        if any(_one_place(p, q) for i, p in enumerate(stood) for q in stood[:i]):
            continue
        weight = 1.0
        for f, k in at:
            weight *= weights[f][k]
        total += weight
        for f, k in at:
            sums[f][k] += weight
    return {f: [s / total for s in own] for f, own in sums.items()}


def _standing(
    figure: str,
    places: Mapping[str, Sequence[Place]],
    chances: Mapping[str, Sequence[float]],
    kept_out: str | None,
    told: float,
) -> Standing:
    own = chances[figure]
    if not own:
        return Standing(figure, "absent", None, ABSENT, kept_out)
    _, place = max(zip(own, places[figure], strict=True), key=lambda c: c[0])
    chance = sum(c for c, q in zip(own, places[figure], strict=True) if overlap(place.box, q.box) > ONE_BODY)
    odds = _log_odds(chance)
    if _log_odds(sum(own)) < UNSEEN:
        # Where it is likeliest by itself, whoever else has that place.
        by_itself = max(places[figure], key=lambda p: p.odds)
        holder, share = _rival(figure, by_itself, places, chances)
        held = by_itself.odds > ABSENT and share > HOLDS
        return Standing(figure, "absent", None, odds, kept_out or (holder if held else None))
    rival, share = _rival(figure, place, places, chances)
    named = rival if share >= min(RIVAL, chance) else None
    answer: Answer = "found" if odds > told and named is None else "doubtful"
    return Standing(figure, answer, place.box, odds, named)


def _rival(
    figure: str, place: Place, places: Mapping[str, Sequence[Place]], chances: Mapping[str, Sequence[float]]
) -> tuple[str | None, float]:
    """Who else has a place with the greatest chance, and that chance; nobody and 0 where nobody wants it."""
    claims = [
        (c, f)
        for f in places
        if f != figure
        for c, q in zip(chances[f], places[f], strict=True)
        if _one_place(place, q)
    ]
    share, rival = max(claims, default=(0.0, None))
    return rival, share


def _one_place(one: Place, other: Place) -> bool:
    return overlap(one.box, other.box) > ONE_PLACE


def _log_odds(chance: float) -> float:
    chance = min(max(chance, 1e-6), 1 - 1e-6)
    return log(chance / (1 - chance))
