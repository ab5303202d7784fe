"""Proportions along a figure's thread: an upper part that is too large or too small for the rest, a figure drawn longer or wider than on its references."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from juxtaform.core import tolerances as tol
from juxtaform.core.check.states import Mark, ShotState
from juxtaform.core.colour.spaces import Floats
from juxtaform.core.figure.appearance import Appearance
from juxtaform.core.findings import Evidence, Finding
from juxtaform.core.picture.regions import Box

STEADY = 4.0
"""A proportion is another one from so many times the middle departure of the thread's other pictures on, and at least from its own edge."""
OTHERS_LEAST, OTHERS_AGAINST = 2, 2.0
"""The thread's other pictures say what is usual from so many on; the references, where it is 0, count as so many of them."""
TOLD_LEAST = 0.5
"""Proportions are told where more than this part of the thread's other pictures tells them too: where poses are so unlike that most do not, those
that do are read badly."""
SURELY = 1.4
"""Told is what is so many times as far off; what is nearer is asked: poses, and sprites that are squashed as they leap, come to as much."""
BY_ITSELF = 1.5
"""With fewer other pictures a proportion must be so many times as far off."""
MANY = 100
"""In threads with more pictures than this a picture's own value is left among the others, so that the work grows no faster than they do."""
UPPER_PART = 0.4
VIEWS = frozenset({"high", "low", "bird's eye", "worm's eye", "tilted"})
"""Angles that foreshorten figures."""


@dataclass(frozen=True)
class _Quantity:
    """What is compared, from what on it is another one (log2), its title where it is too large and where it is too small and as a question, and what the
    evidence calls it."""

    name: str
    edge: float
    large: str
    small: str
    asked: str
    ways: tuple[str, str]
    label: str
    told: str


UPPER = _Quantity(
    "upper",
    0.22,
    "{name}'s upper part is too large for the rest",
    "{name}'s upper part is too small for the rest",
    "Is {name}'s upper part too {way} for the rest?",
    ("large", "small"),
    "Upper part against the rest",
    "as large",
)
"""Of 290 right figures of foreign art and of our own, in other poses, none was off by so much, and one by 0.2."""
TALL = _Quantity(
    "tall",
    0.32,
    "{name} is drawn longer and thinner than on the references",
    "{name} is drawn shorter and wider than on the references",
    "Is {name} drawn too {way} for the width?",
    ("long", "short"),
    "Height against width",
    "as tall",
)
"""Three of 307 were off by so much: who crouches, or turns, is shorter for his width."""


def out_of_proportion(
    thread: str, name: str, here: Sequence[tuple[ShotState, Mark, Appearance]]
) -> list[list[Finding]]:
    """What is to be told of each appearance on a thread; the foremost of both quantities where both are off."""
    told: list[list[Finding]] = [[] for _ in here]
    away = {q.name: _beside([_of(seen, q) for _, _, seen in here], q.edge) for q in (UPPER, TALL)}
    for i, (shot, mark, _) in enumerate(here):
        if mark.hold != "figure":
            continue
        off = [(q, x) for q in (UPPER, TALL) if (x := away[q.name][i]) is not None and x.severity > 1]
        if off:
            quantity, by = max(off, key=lambda t: t[1].severity)
            told[i] = [_finding(thread, name, shot, mark, quantity, by)]
    return told


def _of(seen: Appearance, quantity: _Quantity) -> float | None:
    read: float | None = getattr(seen.proportion, quantity.name, None)
    return read


@dataclass(frozen=True)
class _Off:
    """How far a value (log2) is from what is usual, how far it may be, and how many other pictures tell it."""

    by: float
    edge: float
    others: int

    @property
    def severity(self) -> float:
        return abs(self.by) / self.edge


def _beside(values: Sequence[float | None], edge: float) -> list[_Off | None]:
    """Each value beside what the others of the thread usually are."""
    known = np.array([v for v in values if v is not None])
    others = len(known) - 1
    if len(values) > OTHERS_LEAST and others <= TOLD_LEAST * (len(values) - 1):
        return [None] * len(values)
    if others < OTHERS_LEAST:
        return [None if v is None else _Off(v, BY_ITSELF * edge, others) for v in values]
    common = _usual(known) if others > MANY else None
    out: list[_Off | None] = []
    at = 0
    for own in values:
        if own is None:
            out.append(None)
            continue
        middle, unrest = common or _usual(np.delete(known, at))
        out.append(_Off(own - middle * others / (others + OTHERS_AGAINST), max(edge, STEADY * unrest), others))
        at += 1
    return out


def _usual(values: Floats) -> tuple[float, float]:
    """The middle of values, and their middle departure from it."""
    middle = float(np.median(values))
    return middle, float(np.median(np.abs(values - middle)))


def _finding(thread: str, name: str, shot: ShotState, mark: Mark, quantity: _Quantity, off: _Off) -> Finding:
    times = float(2**off.by)
    sure = off.severity > SURELY
    title = quantity.asked if not sure else quantity.large if off.by > 0 else quantity.small
    angle = shot.plan.angle if shot.plan else ""
    reason = f"the angle is {angle}" if angle in VIEWS else ""
    upper = Box(mark.box.x, mark.box.y, mark.box.w, UPPER_PART * mark.box.h)
    return Finding(
        source="check",
        kind="proportion" if sure else "proportion_doubtful",
        thread=thread,
        shot=shot.id,
        title=title.format(name=name, way=quantity.ways[off.by < 0]),
        advice=f"Retake the shot with {name}'s references, or let it stand where the pose or the view explains it.",
        measured=times,
        expected=1.0,
        unit=f"× {quantity.told}",
        severity=off.severity if sure else tol.DOUBT_SEVERITY,
        region=upper if quantity is UPPER else mark.box,
        reason=reason,
        evidence=(
            Evidence(
                quantity.label,
                f"{times:.2f} times {quantity.told}",
                behind=f"log2 {off.by:+.2f}, allowed {off.edge:.2f}".replace("-", "−"),
            ),
            *((Evidence("The plan says", reason),) if reason else ()),
            Evidence("Compared with", f"the references and {off.others} other picture{'s' * (off.others != 1)}"),
        ),
    )
