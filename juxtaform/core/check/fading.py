"""Colour that pictures lose, or gain. No light takes it from figures or gives it, so pictures whose figures have less of it than on their references are
greyer, and those whose figures have more are stronger in colour."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from juxtaform.core import tolerances as tol
from juxtaform.core.check.states import ShotState
from juxtaform.core.colour.spaces import Floats, linear_from_hex
from juxtaform.core.figure.appearance import Appearance
from juxtaform.core.figure.worn import colourfulness
from juxtaform.core.style.drift import Change, lasting_change
from juxtaform.core.style.terms import NAMES

SATURATION = NAMES.index("saturation")
NOISE = 0.2
"""How much more or less colour figures of right pictures have than usual (log2). Of 118 foreign pictures by six hands the middle half lies
within 0.05, and three are further than 0.4."""
EDGE = 0.6
"""Several pictures on end whose figures lost this much of their colour (log2; a third), or have so much more of it (half), are unlike the others ..."""
EDGE_ALONE = 0.9
"""... and a single one that lost this much (nearly half)."""
SEEN = 0.25
"""A slide begins with the first picture whose figures lost more than this: less is in right pictures too."""
AGREES = 0.3
"""A picture is greyer when all of it lost at least this part of what its figures lost: who puts on something grey takes nothing from the rest."""
USUAL_FIRST, USUAL_RANGE = 3, (0.65, 1.5)
"""What a figure usually has of its references' colour: the middle of the first half of its pictures, at least so many, held between these parts."""


@dataclass(frozen=True)
class Fading:
    """Colour along a sequence: `kept` (n,) is the part that each picture's figures have of their usual colour, NaN where none tells it; `alone` (n,)
    how far each picture by itself has lost its colours, 1 is where that is told; `change` where lasting loss begins, or lasting gain (`stronger`)."""

    kept: Floats
    alone: Floats
    change: Change | None
    stronger: bool = False


def fading(run: Sequence[ShotState]) -> Fading:
    """How the pictures of a style, which all shots of the run have, lose their colours."""
    saturation = np.array([s.picture.signature.values[SATURATION] for s in run if s.picture is not None])
    kept = _kept_along(run)
    fewer = np.median(saturation) - saturation
    lost = -np.log2(np.maximum(kept, 0.01))
    told = np.isfinite(lost)
    agreeing = np.where(told & (fewer >= AGREES * lost), np.maximum(lost, 0.0) / EDGE_ALONE, 0.0)
    alone, greyer = np.maximum(_grounds_faded(run, fewer), agreeing), _lasting(lost, saturation)
    stronger = None if greyer else _lasting(-lost, -saturation)
    return Fading(kept, alone, greyer or stronger, stronger is not None)


def _lasting(lost: Floats, saturation: Floats) -> Change | None:
    """Where figures lose their colours for longer, among the pictures that tell it; their whole pictures must lose some too. For gain both are turned about."""
    at = np.flatnonzero(np.isfinite(lost))
    own = np.maximum(lost[at], 0.0)
    change = lasting_change(own[:, None] / NOISE, own / EDGE)
    if change is None:
        return None
    seen = np.flatnonzero(own[change.start : change.end - 1] > SEEN)
    if not len(seen):
        return None
    change = replace(change, start=change.start + int(seen[0]))
    part, before = slice(change.start, change.end), slice(0, change.start)
    if np.median(own[part]) <= np.median(own[before]):
        return None
    fewer = np.median(saturation[at][before]) - np.median(saturation[at][part])
    if fewer < AGREES * np.median(own[part]):
        return None
    end = len(lost) if change.end == len(at) else int(at[change.end - 1]) + 1
    return replace(change, start=int(at[change.start]), end=end)


def _kept_along(run: Sequence[ShotState]) -> Floats:
    """The part of their usual colour that the figures of each picture have, all of them (n,): where one has less of its own and another does not, it is 1."""
    by_thread: dict[str, dict[int, float]] = {}
    for i, shot in enumerate(run):
        for mark, seen in zip(shot.marks, shot.picture.appearances if shot.picture else (), strict=False):
            part = colour_kept(seen)
            if part is not None:
                by_thread.setdefault(mark.thread, {})[i] = part
    least, most = np.full(len(run), np.inf), np.full(len(run), -np.inf)
    for parts in by_thread.values():
        first = list(parts.values())[: max(USUAL_FIRST, (len(parts) + 1) // 2)]
        usual = float(np.clip(np.median(first), *USUAL_RANGE))
        for i, part in parts.items():
            least[i], most[i] = min(least[i], part / usual), max(most[i], part / usual)
    return np.where(np.isfinite(least), np.where(most < 1, most, np.maximum(least, 1.0)), np.nan)


def colour_kept(seen: Appearance) -> float | None:
    """How colourful a figure is against its references, 1 is as much; None where no eye looked, or where it has no colour to lose."""
    if not seen.worn:
        return None
    codes = np.array([linear_from_hex(t.expected[0]) for t in seen.traits]).reshape(-1, 3)
    usual = colourfulness(codes, np.array([t.share_expected for t in seen.traits]))
    if usual < tol.FIGURE_COLOURFUL:
        return None
    return colourfulness(np.array([w.linear for w in seen.worn]), np.array([w.share for w in seen.worn])) / usual


def has_colour(seen: Iterable[Appearance]) -> bool:
    """Whether some figure of a picture is as colourful as on its references, or all have no colour there to lose: then only the ground is grey.
    Not so where no eye looked."""
    worn = [a for a in seen if a.worn]
    kept = [part for a in worn if (part := colour_kept(a)) is not None]
    return any(part > tol.FADED_FIGURE for part in kept) if kept else bool(worn)


def _grounds_faded(run: Sequence[ShotState], fewer: Floats) -> Floats:
    """How far each picture of a style has lost its colours by all of it (n,), 1 is where they are gone; 0 where its figures have theirs, and where anything in it is
    colourful, as a small figure on white paper. A picture without figures may be of something grey, and must have lost more."""
    pictures = [s.picture for s in run if s.picture is not None]
    least = np.array([tol.FADED_PICTURE if p.appearances else tol.FADED_GROUND for p in pictures])
    kept = np.array([bool(p.appearances) and has_colour(p.appearances) for p in pictures])
    strong = np.array(
        [colourfulness(np.array([w.linear for w in p.palette]), np.ones(len(p.palette))) for p in pictures]
    )
    kept |= strong > tol.FADED_FIGURE * np.median(strong)
    return np.where(kept, 0.0, np.maximum(0.0, fewer) / least)
