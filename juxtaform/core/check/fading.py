"""Colour that pictures lose. No light takes it from figures, so pictures whose figures have less of it than on their references are greyer."""

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
"""Several pictures on end whose figures lost this much of their colour (log2; a third) are greyer than the others ..."""
EDGE_ALONE = 0.9
"""... and a single one that lost this much (nearly half)."""
AGREES = 0.3
"""A picture is greyer when all of it lost at least this part of what its figures lost: who puts on something grey takes nothing from the rest."""
USUAL, USUAL_LEAST = 75.0, 0.65
"""What a figure usually has of its references' colour: this percentile of its pictures, and at least this part, should most be greyer."""


@dataclass(frozen=True)
class Fading:
    """Colour lost along a sequence: `kept` (n,) is the part that each picture's figures keep of their usual colour, NaN where none tells it; `alone` (n,)
    how far each picture by itself has lost its colours, 1 is where that is told; `change` where lasting loss begins."""

    kept: Floats
    alone: Floats
    change: Change | None


def fading(run: Sequence[ShotState]) -> Fading:
    """How the pictures of a style, which all shots of the run have, lose their colours."""
    saturation = np.array([s.picture.signature.values[SATURATION] for s in run if s.picture is not None])
    kept = _kept_along(run)
    fewer = np.median(saturation) - saturation
    lost = -np.log2(np.maximum(kept, 0.01))
    told = np.isfinite(lost)
    agreeing = np.where(told & (fewer >= AGREES * lost), np.maximum(lost, 0.0) / EDGE_ALONE, 0.0)
    return Fading(kept, np.maximum(_grounds_faded(run, fewer), agreeing), _lasting(lost, saturation))


def _lasting(lost: Floats, saturation: Floats) -> Change | None:
    """Where figures lose their colours for longer, among the pictures that tell it; their whole pictures must lose some too."""
    at = np.flatnonzero(np.isfinite(lost))
    own = lost[at]
    change = lasting_change(own[:, None] / NOISE, own / EDGE)
    if change is None:
        return None
    part, before = slice(change.start, change.end), slice(0, change.start)
    if np.median(own[part]) <= np.median(own[before]):
        return None
    fewer = np.median(saturation[at][before]) - np.median(saturation[at][part])
    if fewer < AGREES * np.median(own[part]):
        return None
    end = len(lost) if change.end == len(at) else int(at[change.end - 1]) + 1
    return replace(change, start=int(at[change.start]), end=end)


def _kept_along(run: Sequence[ShotState]) -> Floats:
    """The part of their usual colour that figures keep in each picture (n,): of several that of whichever keeps most."""
    by_thread: dict[str, dict[int, float]] = {}
    for i, shot in enumerate(run):
        for mark, seen in zip(shot.marks, shot.picture.appearances if shot.picture else (), strict=False):
            part = colour_kept(seen)
            if part is not None:
                by_thread.setdefault(mark.thread, {})[i] = part
    kept = np.full(len(run), np.nan)
    for parts in by_thread.values():
        usual = max(float(np.percentile(list(parts.values()), USUAL)), USUAL_LEAST)
        for i, part in parts.items():
            kept[i] = np.fmax(kept[i], part / usual)
    return kept


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
