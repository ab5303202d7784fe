"""How tall two figures stand beside each other: whoever is suddenly a head taller, or half as tall, beside somebody than in the other pictures."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np

from juxtaform.core import tolerances as tol
from juxtaform.core.check.proportions import MANY, VIEWS
from juxtaform.core.check.states import Mark, ShotState
from juxtaform.core.colour.spaces import Floats
from juxtaform.core.findings import Evidence, Finding
from juxtaform.core.picture.regions import Box

EDGE = 0.3
"""Two figures stand otherwise beside each other from so much on (log2 of their heights; a quarter more). On drawn pictures heights are read to 0.05."""
SURELY = 1.4
"""Told is what is so many times as far off; what is nearer is asked: a step farther back makes as much."""
MOST_OF, STEADY = 0.8, 2.5
"""A pair's unrest is how far this part of its other pictures lie from their middle at most; what is other than usual is so many times as far."""
OTHERS_LEAST, ANY_SIZE, BY_CHANCE = 4, 0.75, 0.01
"""The other pictures say what is usual from so many on, and where they lie so near to each other that figures in any size, whose heights differ by up to the second (log2) either
way, would do so by chance less often than the third."""
ONE_GROUND = 0.12
"""Feet that lie at most this part of the larger one's height apart stand equally far away: at eye level size differs by as much as feet do."""
WHOLE = (0.75, 1.33)
"""A mark that is lower than the first part of its figure's height is of a part of it, or of somebody who sits; where it is higher than the second, the height is read badly."""
PLACED_LEAST = 0.15
"""A height is read where one transform places at least this much of the figure: below it they are matched loosely."""
AT_EDGE = 0.01
"""Feet so near the picture's lower edge (part of its height) may be cut off."""


@dataclass(frozen=True)
class _Stands:
    """A whole figure in a picture: its height there as it would stand on its reference, and where its feet are (px)."""

    mark: Mark
    height: float
    feet: float


@dataclass(frozen=True)
class _Beside:
    """A pair in a shot: how much taller the first is than the second (log2), how much taller than usual, and from what on that is another relation."""

    shot: int
    pair: tuple[str, str]
    usual: float
    by: float
    edge: float
    others: int

    @property
    def severity(self) -> float:
        return abs(self.by) / self.edge


def unequal_heights(
    shots: Sequence[ShotState], titles: Mapping[str, str], apart: Collection[tuple[str, str]] = ()
) -> list[Finding]:
    """Findings about figures that stand otherwise beside each other than in the pair's other pictures. `apart` are marked figures, as (shot, thread), whose height says
    nothing: somebody else, or out of proportion."""
    seen: dict[tuple[str, str], list[tuple[int, float]]] = {}
    standing: list[dict[str, _Stands]] = []
    for i, shot in enumerate(shots):
        here = {} if shot.plan and shot.plan.angle in VIEWS else _standing(shot, apart)
        standing.append(here)
        for a, b in combinations(sorted(here), 2):
            if abs(here[a].feet - here[b].feet) <= ONE_GROUND * max(here[a].height, here[b].height):
                seen.setdefault((a, b), []).append((i, float(np.log2(here[a].height / here[b].height))))
    off: dict[int, list[_Beside]] = {}
    for pair, values in seen.items():
        for beside in _compared(pair, values):
            if beside.severity > 1:
                off.setdefault(beside.shot, []).append(beside)
    return [
        _finding(shots[i], standing[i], thread, beside, titles)
        for i in sorted(off)
        for thread, beside in _whose(off[i])
    ]


def _standing(shot: ShotState, apart: Collection[tuple[str, str]]) -> dict[str, _Stands]:
    """Whoever stands whole in a shot's picture, by thread; who is marked twice is left out."""
    if shot.picture is None:
        return {}
    found: dict[str, _Stands] = {}
    threads = [m.thread for m in shot.marks]
    for mark, seen in zip(shot.marks, shot.picture.appearances, strict=False):
        feet = mark.box.y + mark.box.h
        placed = seen.identity is not None and seen.identity.share >= PLACED_LEAST
        whole = seen.stature is not None and WHOLE[0] <= mark.box.h / seen.stature <= WHOLE[1]
        cut = feet > (1 - AT_EDGE) * shot.picture.height
        known = (shot.id, mark.thread) not in apart and threads.count(mark.thread) == 1 and mark.hold == "figure"
        if seen.stature is not None and placed and whole and known and not cut:
            found[mark.thread] = _Stands(mark, seen.stature, feet)
    return found


def _compared(pair: tuple[str, str], values: Sequence[tuple[int, float]]) -> list[_Beside]:
    """Each picture of a pair beside what its other pictures usually are; in long stories its own stays among them, so that the work grows no faster."""
    known = np.array([v for _, v in values])
    others = len(known) - 1
    if others < OTHERS_LEAST:
        return []
    common = _usual(known) if others > MANY else None
    found = []
    for at, (shot, value) in enumerate(values):
        middle, unrest = common or _usual(np.delete(known, at))
        if _by_chance(unrest, others) > BY_CHANCE:
            continue
        found.append(_Beside(shot, pair, middle, value - middle, max(EDGE, STEADY * unrest), others))
    return found


def _usual(values: Floats) -> tuple[float, float]:
    """The middle of values, and how far most of them lie from it at most."""
    middle = float(np.median(values))
    return middle, float(np.quantile(np.abs(values - middle), MOST_OF))


def _by_chance(unrest: float, others: int) -> float:
    """How likely it is, about, that most of so many heights lie so near to their middle when they are spread evenly: one of them is the middle, and any may be left out."""
    return float(others * min(1.0, unrest / ANY_SIZE) ** (MOST_OF * others - 1))


def _whose(off: Sequence[_Beside]) -> list[tuple[str, _Beside]]:
    """Whose height it is that is off, with the pair that shows it most: of several pairs, whoever is in most of them; of one pair, who is larger than usual."""
    left, found = list(off), []
    while left:
        weight: dict[str, float] = {}
        for b in left:
            for thread in b.pair:
                weight[thread] = weight.get(thread, 0.0) + b.severity
        larger = {b.pair[0 if b.by > 0 else 1] for b in left}
        thread = max(weight, key=lambda t: (round(weight[t], 6), t in larger, t))
        own = [b for b in left if thread in b.pair]
        found.append((thread, max(own, key=lambda b: b.severity)))
        left = [b for b in left if thread not in b.pair]
    return found


def _finding(
    shot: ShotState, standing: Mapping[str, _Stands], thread: str, off: _Beside, titles: Mapping[str, str]
) -> Finding:
    other = off.pair[off.pair.index(thread) - 1]
    way = 1.0 if off.pair[0] == thread else -1.0
    times, now = 2 ** (way * off.by), 2 ** (way * (off.usual + off.by))
    name, beside = titles.get(thread, thread), titles.get(other, other)
    size, sure = "large" if times > 1 else "small", off.severity > SURELY
    return Finding(
        source="check",
        kind="height" if sure else "height_doubtful",
        thread=thread,
        shot=shot.id,
        title=f"{name} is too {size} beside {beside}" if sure else f"Is {name} too {size} beside {beside}?",
        advice=f"Retake the shot, or let it stand where {name} stands {'nearer' if times > 1 else 'farther away'}, or where the story wants it.",
        measured=times,
        expected=1.0,
        unit="× as tall as usual",
        severity=off.severity if sure else tol.DOUBT_SEVERITY,
        region=_around(standing[thread].mark.box, standing[other].mark.box),
        evidence=(
            Evidence(
                f"{name}'s height",
                f"{now:.2f} × {beside}'s",
                behind=f"log2 {way * off.by:+.2f} from usual, allowed {off.edge:.2f}".replace("-", "−"),
            ),
            Evidence(
                f"In {off.others} other pictures",
                f"{2 ** (way * off.usual):.2f} × {beside}'s",
                behind="Where both stand whole on one ground",
            ),
        ),
    )


def _around(a: Box, b: Box) -> Box:
    """The box around two boxes."""
    x, y = min(a.x, b.x), min(a.y, b.y)
    return Box(x, y, max(a.x + a.w, b.x + b.w) - x, max(a.y + a.h, b.y + b.h) - y)
