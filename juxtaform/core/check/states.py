"""What a check reads and tells: shots with their measures, and threads along the sequence."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

from juxtaform.core.check.measure import PictureMeasure
from juxtaform.core.clips.reading import ClipReading
from juxtaform.core.figure.appearance import Appearance
from juxtaform.core.figure.standing import Place
from juxtaform.core.findings import Finding
from juxtaform.core.picture.regions import Box
from juxtaform.core.place.ground import PlaceMap
from juxtaform.core.style.terms import Signature

Verdict = Literal["holds", "doubtful", "drifts", "swapped"]


@dataclass(frozen=True, slots=True)
class Mark:
    """Where a thread stands in a shot's picture; `hold` is what of it must hold; `costume` its costume's name."""

    thread: str
    box: Box
    hold: str = "figure"
    costume: str = ""


@dataclass(frozen=True, slots=True)
class ShotPlan:
    """What the plan says of a shot: its scene, size, move, length, where those in it look (by thread), the form wanted (width to height), the places that it
    plays at as (thread, variant), whether it is a step in time, the planner's own notes, and its angle."""

    scene: str = ""
    size: str = ""
    move: str = "static"
    length_s: float = 0.0
    facings: Mapping[str, str] = field(default_factory=dict)
    aspect: float | None = None
    places: tuple[tuple[str, str], ...] = ()
    time: str = ""
    notes: str = ""
    angle: str = ""


@dataclass(frozen=True, slots=True)
class Company:
    """A thread looked for in a picture: its likeliest places there, surest first; `refused` that the illustrator said it is not there; `colours` of its
    traits as hex; `looked` whether anybody looked for it."""

    thread: str
    places: tuple[Place, ...] = ()
    refused: bool = False
    colours: tuple[str, ...] = ()
    looked: bool = True


@dataclass(frozen=True, slots=True)
class ClipSeen:
    """A clip in a shot's place: what was read along it, how long it is, and from when to when it is shown (s)."""

    reading: ClipReading
    seconds: float
    part: tuple[float, float]

    def when(self, frame: int | None) -> float | None:
        """When a frame is seen, in s; None for none."""
        return None if frame is None else frame * self.seconds / max(1, self.reading.count)

    def shows(self, at_s: float) -> bool:
        """Whether a time lies in the part that is shown."""
        return self.part[0] <= at_s < self.part[1]


@dataclass(frozen=True, slots=True)
class ShotState:
    """One shot as the check sees it: its words, the threads that run through it, its measured picture and marks, what the plan says
    of it, who was looked for in it, and its clip, if it has one."""

    id: str
    number: str
    words: str
    assigned: frozenset[str]
    style: str | None
    marks: tuple[Mark, ...] = ()
    picture: PictureMeasure | None = None
    plan: ShotPlan | None = None
    company: tuple[Company, ...] = ()
    clip: ClipSeen | None = None


@dataclass(frozen=True)
class StyleHome:
    """A style thread: its references' signatures, weights, and hands where an eye looked."""

    id: str
    name: str
    references: tuple[Signature, ...] = ()
    weights: tuple[float, ...] = ()
    hands: tuple[tuple[float, ...], ...] = ()


@dataclass(frozen=True)
class PlaceReference:
    """A setting's reference: its ground, and which variant of the setting it shows (empty: the usual one)."""

    place: PlaceMap
    variant: str = ""


@dataclass(frozen=True)
class PlaceHome:
    """A setting and its references."""

    id: str
    name: str
    references: tuple[PlaceReference, ...] = ()


@dataclass(frozen=True, slots=True)
class PlacePoint:
    """A shot on its setting's thread; `distance` is relative: 1 is where it is asked whether it is the place at all; `likeness` of the grounds 0..1."""

    shot: str
    distance: float
    likeness: float
    verdict: Verdict
    variant: str = ""


@dataclass(frozen=True, slots=True)
class StylePoint:
    """A shot on its style thread: relative distance, verdict, the terms that depart most, as name and signed z, the part that its figures
    keep of their usual colour (or contrast, in a change of both), where they tell it, whether it is these that depart, and whether something veils its figures."""

    shot: str
    distance: float
    verdict: Literal["holds", "drifts"]
    foremost: tuple[tuple[str, float], ...]
    kept: float | None = None
    of_colour: bool = False
    veiled: bool = False


@dataclass(frozen=True, slots=True)
class FigurePoint:
    """A shot on a character's thread; `distance` is relative: 1 is where it is told as somebody else."""

    shot: str
    mark: Mark
    appearance: Appearance
    verdict: Verdict
    distance: float


@dataclass(frozen=True)
class ThreadState:
    """A thread along the sequence; `begins` is where a lasting change begins, `back_to` the shot before it."""

    thread: str
    style: tuple[StylePoint, ...] = ()
    figures: tuple[FigurePoint, ...] = ()
    places: tuple[PlacePoint, ...] = ()
    change: Literal["step", "slide"] | None = None
    begins: str | None = None
    back_to: str | None = None

    @property
    def measured(self) -> int:
        """In how many shots the thread was measured."""
        return len(self.style) + len(self.figures) + len(self.places)


@dataclass(frozen=True)
class CheckResult:
    """Findings in shot order, and every measured thread."""

    findings: tuple[Finding, ...]
    threads: dict[str, ThreadState] = field(default_factory=dict)
