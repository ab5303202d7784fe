"""A shot between two others, where their cut jars or words outrun their pictures: what it shows, and from where, as the plan's own grammar has it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import product
from typing import Literal, get_args

from juxtaform.core.plan.grammar import PlanShot, findings_of_scene
from juxtaform.core.plan.shots import SIZES, Angle, Facing, Size, framing_words

BridgeCause = Literal["size", "sides", "light", "stutter", "words"]
LENGTH_S = 2.0
"""A picture is taken in in no less (see `core/text/timing.py`); a bridge is to be no longer than it has to."""
STEP_COSTS = (3.0, 0.0, 0.2, 1.5, 3.0, 4.0, 5.0)
"""By how many sizes it lies from a neighbour: the same size is a jump cut, a step or two are smooth, more leaps at the eye (the thirty-per-cent rule)."""
ANGLES: tuple[Angle, ...] = ("eye level", "high", "low", "over the shoulder")
ANGLE_COST = 0.3
FINDING_COST = 2.0
SAME_COST = 0.5
UNEVEN_COST = 0.1
OF_SUBJECT: dict[str, tuple[Size, ...]] = {
    "place": ("EWS", "WS"),
    "thing": ("CU", "ECU"),
    "face": ("MCU", "CU", "MS"),
    "front": ("MS", "MCU", "MWS", "CU"),
    "all": get_args(Size),
}
"""Sizes that show a subject: a place from afar, a thing from near, somebody's face so that it is read."""


@dataclass(frozen=True)
class Bridge:
    """A shot that is proposed between two: how it is framed, what and whom it shows (thread ids), how long it is, and why."""

    before: str
    after: str
    causes: tuple[BridgeCause, ...]
    size: Size
    angle: Angle
    shows: str
    threads: tuple[str, ...]
    facings: Mapping[str, Facing]
    length_s: float
    why: str


@dataclass(frozen=True)
class Around:
    """What is known of the place: both neighbours, the shots of the scene in which the first one lies, threads by kind (ids of those that run in either),
    and by how much words outrun the first picture, in s."""

    before: PlanShot
    after: PlanShot
    scene: Sequence[PlanShot]
    props: tuple[str, ...] = ()
    over_s: float = 0.0


def bridge(around: Around, causes: Sequence[BridgeCause], names: Mapping[str, str]) -> Bridge:
    """The bridge for a cut that jars for some causes. Each subject that would do is tried in each size and angle; the one is taken with which the scene's
    grammar (`findings_of_scene`) finds least, and whose steps in size to both neighbours are smoothest.

    >>> ada = ("ada",)
    >>> a, b = PlanShot("1", "s", "EWS", 3.0, "", ada), PlanShot("2", "s", "CU", 3.0, "", ada)
    >>> found = bridge(Around(a, b, [a, b]), ["size"], {"ada": "Ada"})
    >>> found.size, found.shows
    ('MWS', 'Ada.')
    """
    tried = [
        (_cost(around, subject, size, angle, causes), order, subject, size, angle)
        for order, subject in enumerate(_subjects(around, causes, names))
        for size, angle in product(OF_SUBJECT[subject.kind], ANGLES)
        if angle != "over the shoulder" or len(subject.cast) > 1
    ]
    _, _, subject, size, angle = min(tried, key=lambda t: (round(t[0] + 0.4 * t[1], 6), t[1]))
    length = max(LENGTH_S, round(around.over_s, 1)) if "words" in causes else LENGTH_S
    return Bridge(
        around.before.id,
        around.after.id,
        tuple(causes),
        size,
        angle,
        subject.shows,
        subject.threads,
        dict.fromkeys(subject.cast, "camera") if subject.kind == "front" else {},
        length,
        _why(around, size, angle, causes, subject),
    )


@dataclass(frozen=True)
class _Subject:
    """What a bridge may show."""

    kind: str
    shows: str
    cast: tuple[str, ...] = ()
    places: tuple[str, ...] = ()
    props: tuple[str, ...] = ()
    does: str = ""

    @property
    def threads(self) -> tuple[str, ...]:
        return (*self.cast, *self.props, *self.places)


def _subjects(around: Around, causes: Sequence[BridgeCause], names: Mapping[str, str]) -> list[_Subject]:
    """What would do, the best first."""
    a, b = around.before, around.after
    places = a.places or b.places
    where = f", {names[places[0]]}" if places and places[0] in names else ""
    both = tuple(t for t in a.cast if t in b.cast)
    subjects: list[_Subject] = []
    if "sides" in causes:
        turned = tuple(t for t in both if {a.facings.get(t, ""), b.facings.get(t, "")} == {"left", "right"}) or both
        if turned:
            subjects.append(
                _Subject(
                    "front",
                    f"{_named(turned, names)}, seen from the front{where}.",
                    turned,
                    places,
                    (),
                    "looks along the line",
                )
            )
    if "light" in causes and places:
        subjects.append(
            _Subject("place", f"{names[places[0]]}, nobody there.", (), places, (), "shows the light that comes")
        )
    if "words" in causes or "stutter" in causes:
        listening = tuple(t for t in a.cast if t not in a.speakers) if a.speakers else ()
        if listening and len(a.cast) > 1:
            subjects.append(
                _Subject(
                    "face",
                    f"{_named(listening[:1], names)} listening{where}.",
                    listening[:1],
                    places,
                    (),
                    "shows who listens",
                )
            )
        for prop in around.props[:2]:
            subjects.append(
                _Subject("thing", f"{names[prop]}, close.", (), places, (prop,), "shows a thing that is spoken of")
            )
        if places:
            subjects.append(_Subject("place", f"{names[places[0]]}, wide.", (), places, (), "shows where we are"))
    if both or a.cast:
        cast = both or a.cast
        subjects.append(_Subject("all", f"{_named(cast, names)}{where}.", cast, places, (), "keeps who is there"))
    if not subjects:
        place = names[places[0]] if places and places[0] in names else ""
        subjects.append(_Subject("all", f"{place}." if place else "", (), places))
    return subjects


def _cost(around: Around, subject: _Subject, size: Size, angle: Angle, causes: Sequence[BridgeCause]) -> float:
    a, b = around.before, around.after
    steps = [abs(SIZES.index(size) - SIZES.index(x.size)) for x in (a, b) if x.size in SIZES]
    if subject.kind in ("thing", "place"):  # nobody is seen in both, so that nobody leaps
        cost = SAME_COST * steps.count(0)
    else:
        cost = sum(STEP_COSTS[s] for s in steps) + (UNEVEN_COST * abs(steps[0] - steps[1]) if len(steps) == 2 else 0.0)
    if (angle != "eye level" and "stutter" not in causes) or (angle == a.angle and "stutter" in causes):
        cost += ANGLE_COST
    between = PlanShot("between", a.scene, size, LENGTH_S, subject.shows, subject.cast, subject.places, (), angle)
    if subject.kind == "front":
        between = replace(between, facings=dict.fromkeys(subject.cast, "camera"))
    at = next((i for i, x in enumerate(around.scene) if x.id == a.id), len(around.scene) - 1)
    scene = [*around.scene[: at + 1], between, *around.scene[at + 1 :]]
    # What the grammar found before is found with every candidate alike.
    return cost + FINDING_COST * len(findings_of_scene(scene, {}))


def _why(around: Around, size: Size, angle: Angle, causes: Sequence[BridgeCause], subject: _Subject) -> str:
    a, b = around.before, around.after
    words = framing_words(size, angle)
    parts = [f"{words[0].upper()}{words[1:]}"]
    if a.size in SIZES and b.size in SIZES and size not in (a.size, b.size):
        lies = sorted((a.size, b.size), key=SIZES.index)
        inside = SIZES.index(lies[0]) < SIZES.index(size) < SIZES.index(lies[1])
        parts.append(
            f"between {a.size} and {b.size}"
            if inside
            else f"another size than {a.size}{'' if a.size == b.size else ' and ' + b.size}"
        )
    if subject.does:
        parts.append(subject.does)
    if "words" in causes:
        parts.append(f"carries the {around.over_s:.1f} s of words that do not fit before")
    return ", ".join(parts) + "."


def _named(threads: Sequence[str], names: Mapping[str, str]) -> str:
    return " and ".join(names.get(t, "somebody") for t in threads[:3])
