"""How the takes of one shot stand: each character, the style, and technical faults, on one scale, beside the sequence's pictures."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from juxtaform.core import tolerances as tol
from juxtaform.core.check.measure import PictureMeasure
from juxtaform.core.check.sequence import check
from juxtaform.core.check.states import CheckResult, ShotState, StyleHome
from juxtaform.core.figure.recognition import Judges
from juxtaform.core.findings import Finding
from juxtaform.core.style.terms import NAMES
from juxtaform.core.text.names import Named

Verdict = Literal["holds", "doubtful", "drifts", "swapped", "unseen"]
Fault = Literal["border", "soft", "form"]
ABOUT_FIGURES = frozenset(
    {
        "trait_changed",
        "trait_missing",
        "trait_twice",
        "extra",
        "extra_doubtful",
        "proportion",
        "proportion_doubtful",
        "height",
        "height_doubtful",
        "figure_swapped",
        "figure_stranger",
        "figure_doubtful",
        "figure_drift",
    }
)
SOFTER = 0.9
"""So much softer edges (log2) than the shot's other takes of that size have is the edge of what passes; two takes of one hand differ by a third of it."""
LEAST_BESIDE = 3
"""With fewer takes of a size it is not known how soft they should be."""
OTHER_FORM = 0.02
"""A picture whose width to height is off by more than this part has another form."""
MOST_VALUE = 9.9


@dataclass(frozen=True)
class TakeState:
    """A take as it is judged: its state as a shot's picture (the id is the take's), and the form (width to height) that is wanted."""

    state: ShotState
    unseen: tuple[str, ...] = ()
    form: float | None = None


@dataclass(frozen=True)
class Score:
    """How one thing stands: `of` is a thread's id or a technical fault; `value` is relative, 1 is the edge of tolerance (None: it was not seen);
    `says` are what was found, in words."""

    of: str
    value: float | None
    verdict: Verdict
    says: tuple[str, ...] = ()


@dataclass(frozen=True)
class TakeReading:
    """All scores of a take; `worst` is the highest of them, to sort by."""

    take: str
    figures: tuple[Score, ...]
    style: Score | None
    technical: tuple[Score, ...]
    worst: float


def read_takes(
    takes: Sequence[TakeState],
    beside: Sequence[ShotState],
    styles: Sequence[StyleHome],
    names: Sequence[Named],
    parts: Mapping[tuple[str, str], str] | None = None,
    judges: Judges | None = None,
) -> list[TakeReading]:
    """Read takes that were measured; `beside` are the picked pictures around their shot. A take is held against its references, the sequence and
    the shot's other takes as the check would, so that what it says is what the check will say."""
    if not takes:
        return []
    measured = [t for t in takes if t.state.picture is not None]
    result = check([*beside, *(t.state for t in measured)], styles, names, parts, judges=judges)
    found: defaultdict[str, list[Finding]] = defaultdict(list)
    for f in result.findings:
        found[f.shot or ""].append(f)
    softness = _softness(measured)
    return [_read(t, result, found[t.state.id], softness) for t in measured]


def _read(
    t: TakeState, result: CheckResult, findings: Collection[Finding], softness: Mapping[str, float]
) -> TakeReading:
    take, picture = t.state.id, t.state.picture
    assert picture is not None
    figures = [_figure(m.thread, take, result, findings) for m in t.state.marks]
    figures += [Score(thread, None, "unseen", ("not found in the picture",)) for thread in t.unseen]
    style = _style(t.state.style, take, result, findings)
    technical = tuple(_technical(picture, t.form, softness.get(take)))
    values = [s.value for s in (*figures, *((style,) if style else ()), *technical) if s.value is not None]
    missing = 1.2 if t.unseen else 0.0
    return TakeReading(take, tuple(figures), style, technical, max([*values, missing], default=0.0))


def _figure(thread: str, take: str, result: CheckResult, findings: Collection[Finding]) -> Score:
    point = next(p for p in result.threads[thread].figures if p.shot == take)
    own = [f for f in findings if f.thread == thread and f.kind in ABOUT_FIGURES]
    worst = max([point.distance, *(f.severity for f in own if f.kind.startswith(("trait", "proportion", "height")))])
    if point.verdict in ("swapped", "drifts"):
        worst = max(worst, 1.0)
    return Score(thread, round(min(MOST_VALUE, worst), 2), point.verdict, tuple(f.title for f in own))


def _style(style: str | None, take: str, result: CheckResult, findings: Collection[Finding]) -> Score | None:
    state = result.threads.get(style or "")
    point = next((p for p in state.style if p.shot == take), None) if state else None
    if point is None or style is None:
        return None
    own = tuple(f.title for f in findings if f.thread == style and f.kind in ("style_break", "kept_colour"))
    value = point.distance / tol.STYLE_TOLERANCE
    if value > 1 and not own:
        own = ("unlike the style",)
    return Score(style, round(min(MOST_VALUE, value), 2), "drifts" if value > 1 else "holds", own)


def _technical(picture: PictureMeasure, form: float | None, softer: float | None) -> list[Score]:
    """Technical faults that are there; what is in order is not told."""
    out = []
    if picture.border is not None:
        out.append(Score("border", 1.5, "drifts", ("a printed border",)))
    if softer is not None and softer > SOFTER:
        out.append(
            Score("soft", round(min(MOST_VALUE, softer / SOFTER), 2), "drifts", ("softer than the other takes",))
        )
    off = abs(picture.width / picture.height / form - 1) if form else 0.0
    if off > OTHER_FORM:
        out.append(
            Score(
                "form", round(min(MOST_VALUE, off / OTHER_FORM), 2), "drifts", ("not in the form that was asked for",)
            )
        )
    return out


def _softness(takes: Sequence[TakeState]) -> dict[str, float]:
    """How much softer (log2) each take's edges are than those of the middle take of its size."""
    at = NAMES.index("edge_softness")
    by_size: defaultdict[tuple[int, int], dict[str, float]] = defaultdict(dict)
    for t in takes:
        if t.state.picture is not None:
            p = t.state.picture
            by_size[p.width, p.height][t.state.id] = p.signature.values[at]
    out: dict[str, float] = {}
    for values in by_size.values():
        if len(values) >= LEAST_BESIDE:
            middle = float(np.median(list(values.values())))
            out |= {take: value - middle for take, value in values.items()}
    return out
