"""What a check reads and tells: shots with their measures, and threads along the sequence."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from juxtaform.core.check.measure import PictureMeasure
from juxtaform.core.figure.appearance import Appearance
from juxtaform.core.findings import Finding
from juxtaform.core.picture.regions import Box
from juxtaform.core.style.terms import Signature

Verdict = Literal["holds", "doubtful", "drifts", "swapped"]


@dataclass(frozen=True)
class Mark:
    """Where a thread stands in a shot's picture; `hold` is what of it must hold; `costume` its costume's name."""

    thread: str
    box: Box
    hold: str = "figure"
    costume: str = ""


@dataclass(frozen=True)
class ShotState:
    """One shot as the check sees it: its words, the threads that run through it, its measured picture and marks."""

    id: str
    number: str
    words: str
    assigned: frozenset[str]
    style: str | None
    marks: tuple[Mark, ...] = ()
    picture: PictureMeasure | None = None


@dataclass(frozen=True)
class StyleHome:
    """A style thread: its references' signatures, weights, and hands where an eye looked."""

    id: str
    name: str
    references: tuple[Signature, ...] = ()
    weights: tuple[float, ...] = ()
    hands: tuple[tuple[float, ...], ...] = ()


@dataclass(frozen=True)
class StylePoint:
    """A shot on its style thread: relative distance, verdict, and the terms that depart most, as name and signed z."""

    shot: str
    distance: float
    verdict: Literal["holds", "drifts"]
    foremost: tuple[tuple[str, float], ...]


@dataclass(frozen=True)
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
    change: Literal["step", "slide"] | None = None
    begins: str | None = None
    back_to: str | None = None


@dataclass(frozen=True)
class CheckResult:
    """Findings in shot order, and every measured thread."""

    findings: tuple[Finding, ...]
    threads: dict[str, ThreadState] = field(default_factory=dict)
