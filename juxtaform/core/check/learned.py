"""Tolerances learned: how far a thread may go in a term, from what the illustrator let stand and what they marked as wrong."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from juxtaform.core.check import heights, proportions
from juxtaform.core.findings import Finding

LEARNS = frozenset(
    {
        "trait_changed",
        "trait_missing",
        "style_break",
        "size_leap",
        "side_leap",
        "light_leap",
        "palette_leap",
        "stutter",
        "rhythm",
        "soft",
        "compressed",
        "banding",
        "place_changed",
        "extra",
        "proportion",
        "height",
    }
)
"""Kinds whose band moves. Who somebody is, which place it is and what nobody planned are never let pass by habit: each is looked at by itself."""
ASKED = {
    "extra_doubtful": ("extra", 1.0),
    "proportion_doubtful": ("proportion", proportions.SURELY),
    "height_doubtful": ("height", heights.SURELY),
}
"""Questions of which no decision says how far their term may go, the kind that is told of it, and from which departure on it is told: where a band goes beyond that, they are not asked."""
PRIOR_SPREAD = 0.45
"""How far (natural log) a project's band usually lies from ours: three quarters to one and a half times."""
SLACK = 0.18
"""How sharply (natural log) one decision divides what is let stand from what is not: the eye is not the same every day."""
EXCEPTION = 0.3
"""The chance that a decision is about one picture alone (a joke, a dream, a fault that nobody sees there) and says nothing of the others."""
BEYOND = 1.1
"""A band ends this much beyond the farthest that was accepted."""
MOST, LEAST = 3.0, 0.5
"""A band never widens or narrows more than this, whatever was decided."""

Term = tuple[str, str]
"""A thread's id (empty: the sequence's own) and what of it: a kind, and a trait after a colon."""


@dataclass(frozen=True)
class Lesson:
    """One decision: a term that departed so far (1 is the edge of our band) was accepted, or was not."""

    term: Term
    departure: float
    accepted: bool


@dataclass(frozen=True)
class Band:
    """How far a term may go, as a multiple of what it might before; and from how many decisions of each sort."""

    times: float
    accepted: int
    refused: int

    @property
    def moved(self) -> bool:
        """Whether the term may vary otherwise than before, as far as words tell."""
        return _how_much(self.times) != AS_BEFORE

    def words(self, what: str) -> str:
        """The band in words.

        >>> Band(2.04, 6, 0).words("the hat")
        'After 6 accepted, the hat may vary twice as much.'
        """
        seen = [f"{n} {w}" for n, w in ((self.accepted, "accepted"), (self.refused, "marked as wrong")) if n]
        return f"After {' and '.join(seen)}, {what} may vary {_how_much(self.times)}."


def term_of(f: Finding) -> Term | None:
    """The term that a finding is about, if one can be learned from it.

    >>> term_of(Finding(source="check", kind="figure_swapped", title="", advice="", thread="a")) is None
    True
    """
    return held_by(f) if f.kind in LEARNS else None


def held_by(f: Finding) -> Term | None:
    """The term whose band holds a finding back where it goes so far, if there can be one: that of what is told, for a question about the same."""
    kind, _ = ASKED.get(f.kind, (f.kind, 0.0))
    return (f.thread or "", f"{kind}:{f.trait}") if kind in LEARNS else None


def learned(lessons: Iterable[Lesson]) -> dict[Term, Band]:
    """The band of each term: the most likely one, given a normal prior on its log about ours and of every decision a logistic doubt and the chance that it is an
    exception (maximum a posteriori, on a grid)."""
    by: dict[Term, list[Lesson]] = defaultdict(list)
    for lesson in lessons:
        by[lesson.term].append(lesson)
    grid = np.linspace(np.log(LEAST), np.log(MOST), 180)
    bands = {}
    for term, own in by.items():
        weight = -0.5 * (grid / PRIOR_SPREAD) ** 2
        for one in own:
            over = (grid - np.log(max(one.departure, 0.05))) / SLACK
            agrees = 1 / (1 + np.exp(-over if one.accepted else over))
            weight = weight + np.log(EXCEPTION + (1 - EXCEPTION) * agrees)
        times = float(np.exp(grid[int(weight.argmax())]))
        # What was let stand shows how far it may go, and nothing of what lies beyond; so with what was marked.
        accepted = [x.departure for x in own if x.accepted]
        refused = [x.departure for x in own if not x.accepted]
        times = min(times, max(1.0, BEYOND * max(accepted, default=MOST)))
        times = max(times, min(1.0, min(refused, default=LEAST) / BEYOND))
        bands[term] = Band(round(times, 2), sum(x.accepted for x in own), sum(not x.accepted for x in own))
    return bands


def within(findings: Sequence[Finding], bands: Mapping[Term, Band]) -> tuple[list[Finding], list[Finding]]:
    """What is still told by the learned bands, and what is within them."""
    told: list[Finding] = []
    inside: list[Finding] = []
    for f in findings:
        _, departure = ASKED.get(f.kind, ("", f.severity))
        term = held_by(f)
        band = bands.get(term) if term else None
        (inside if band is not None and departure <= band.times else told).append(f)
    return told, inside


AS_BEFORE = "as before"
_WORDS = (
    (0.6, "half as much"),
    (0.85, "less than before"),
    (1.15, AS_BEFORE),
    (1.45, "a little more"),
    (1.8, "half as much again"),
    (2.3, "twice as much"),
)


def _how_much(times: float) -> str:
    return next(
        (words for edge, words in _WORDS if times < edge),
        "three times as much" if times > 2.7 else "two and a half times as much",
    )
