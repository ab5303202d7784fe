"""Colour and contrast that pictures lose, or gain. No light takes them from figures or gives them, so pictures whose figures have less of them than on their
references are greyer and paler, and those whose figures have more are stronger."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from juxtaform.core import tolerances as tol
from juxtaform.core.check.states import ShotState
from juxtaform.core.colour.spaces import LUMINANCE, Floats, linear_from_hex
from juxtaform.core.figure.appearance import Appearance
from juxtaform.core.figure.worn import colourfulness
from juxtaform.core.style.drift import Change, lasting_change, own_spread
from juxtaform.core.style.terms import NAMES

SATURATION, CONTRAST = NAMES.index("saturation"), NAMES.index("contrast")
NOISE = 0.2
"""How much more or less colour figures of right pictures have than usual (log2). Of 118 foreign pictures by six hands the middle half lies
within 0.05, and three are further than 0.4. Contrast holds as still."""
EDGE = 0.6
"""Several pictures on end whose figures lost this much of their colour (log2; a third), or have so much more of it (half), are unlike the others ..."""
EDGE_ALONE = 0.9
"""... and a single one that lost this much (nearly half)."""
USUAL_DEPARTURE, STEADINESS = 0.1, (0.65, 1.5)
"""These hold for rows whose right pictures depart by the first in the middle (log2); where a row's own are steadier, or less steady, less
is told, or more is needed, within this range."""
SEEN = 0.25
"""A slide begins with the first picture whose figures lost more than this: less is in right pictures too."""
GROWS_LEAST, GROWS = 3, 1.6
"""Contrast slides where at least so many pictures lose it, the later half so many times as much as the earlier."""
VEILED, VEILED_COLOUR = 0.6, 0.8
"""Figures that keep less than these parts of their contrast and of their colour are seen through something."""
AGREES = 0.3
"""A picture is greyer when all of it lost at least this part of what its figures lost: who puts on something grey takes nothing from the rest."""
FIGURE_CONTRAST, CONTRAST_TOE = 0.3, 0.1
"""A figure whose paints differ by less than the first (stops) has no contrast to lose; of the second, of its mean luminance, nothing is darker: black outlines come and go."""
USUAL_FIRST, USUAL_RANGE = 3, (0.65, 1.5)
"""What a figure usually has of its references' colour: the middle of the first half of its pictures, at least so many, held between these parts."""


@dataclass(frozen=True)
class Fading:
    """Colour and contrast along a sequence: `kept` and `contrast` (n,) are the parts that each picture's figures have of their usual ones, NaN where none
    tells it; `alone` (n,) how far each picture by itself has lost its colours, 1 is where that is told; `change` where lasting loss begins, or lasting gain (`stronger`)."""

    kept: Floats
    contrast: Floats
    alone: Floats
    change: Change | None
    stronger: bool = False

    @property
    def furthest(self) -> Floats:
        """Of colour and contrast the one that is further from usual, picture by picture (n,), NaN where nothing tells either."""
        both = np.stack([self.kept, self.contrast], axis=1)
        far = np.nan_to_num(np.abs(np.log2(np.maximum(both, 0.01))), nan=-1.0)
        return np.asarray(both[np.arange(len(both)), far.argmax(axis=1)])

    @property
    def veiled(self) -> NDArray[np.bool_]:
        """In which pictures (n,) a fog or a night takes colour and contrast alike from the figures."""
        return (self.contrast < VEILED) & (np.nan_to_num(self.kept, nan=0.0) < VEILED_COLOUR)


def fading(run: Sequence[ShotState]) -> Fading:
    """How the pictures of a style, which all shots of the run have, lose their colours and their contrast."""
    terms = np.array([s.picture.signature.values for s in run if s.picture is not None])[:, [SATURATION, CONTRAST]]
    kept, contrast = _along(run, colour_kept), _along(run, contrast_kept)
    fewer = np.median(terms[:, 0]) - terms[:, 0]
    lost = -np.log2(np.maximum(np.stack([kept, contrast], axis=1), 0.01))
    greyer = lost[:, 0] - np.maximum(np.nan_to_num(lost[:, 1]), 0.0)
    told = np.isfinite(kept)
    agreeing = np.where(told & (fewer >= AGREES * greyer), np.maximum(greyer, 0.0) / EDGE_ALONE, 0.0)
    alone = np.maximum(_grounds_faded(run, fewer), agreeing)
    paler = _lasting(np.stack([greyer, lost[:, 1]], axis=1), terms)
    if paler is not None and not paler.of_colour and not _grows(lost[paler.change.start : paler.change.end, 1]):
        paler = _lasting(np.stack([greyer, np.full(len(lost), np.nan)], axis=1), terms)
    stronger = None if paler else _lasting(-lost, -terms)
    found = paler or stronger
    return Fading(kept, contrast, alone, found.change if found else None, stronger is not None)


@dataclass(frozen=True)
class _Lasting:
    change: Change
    of_colour: bool


def _lasting(lost: Floats, terms: Floats) -> _Lasting | None:
    """Where figures lose colour or contrast (n, 2) for longer, among the pictures that tell either, and whether it is colour more than contrast; their whole pictures
    (n, 2) must lose some of it too. For gain both are turned about."""
    at, whole = np.flatnonzero(np.isfinite(lost).any(axis=1)), len(lost)
    lost, terms = lost[at], terms[at]
    own = np.maximum(np.nan_to_num(lost), 0.0)
    told = own / np.array([_steadiness(column) for column in lost.T])
    change = lasting_change(told / NOISE, told.max(axis=1, initial=0.0) / EDGE)
    if change is None:
        return None
    seen = np.flatnonzero(told[change.start : change.end - 1].max(axis=1) > SEEN)
    if not len(seen):
        return None
    start = change.start + int(seen[0])
    less = np.median(own[start : change.end], axis=0)
    fewer = np.median(terms[:start], axis=0) - np.median(terms[start : change.end], axis=0)
    agrees = (less > np.median(own[:start], axis=0)) & (fewer >= AGREES * less) & (less >= less.max() / 2)
    if not agrees.any():
        return None
    end = whole if change.end == len(at) else int(at[change.end - 1]) + 1
    return _Lasting(replace(change, start=int(at[start]), end=end), bool(less[0] >= less[1]))


def _grows(lost: Floats) -> bool:
    """Whether contrast is lost more and more: a fog, or the veil of a night, takes it at once and as much in all of its pictures."""
    known = lost[np.isfinite(lost)]
    if len(known) < GROWS_LEAST:
        return False
    half = len(known) // 2
    return bool(np.median(known[-half:]) > GROWS * max(0.0, float(np.median(known[:half]))))


def _steadiness(lost: Floats) -> float:
    """How much the figures of this row differ among themselves, as a part of how much others do: by the first half of the pictures that tell it."""
    known = np.abs(lost[np.isfinite(lost)])
    first = known[: (len(known) + 1) // 2]
    if not len(first):
        return 1.0
    own = own_spread(float(np.median(first)), len(first), USUAL_DEPARTURE)
    return float(np.clip(own / USUAL_DEPARTURE, *STEADINESS))


def _along(run: Sequence[ShotState], measure: Callable[[Appearance], float | None]) -> Floats:
    """The part of their usual colour, or contrast, that the figures of each picture have, all of them (n,): where one has less of its own and another does not, it is 1."""
    by_thread: dict[str, dict[int, float]] = {}
    for i, shot in enumerate(run):
        for mark, seen in zip(shot.marks, shot.picture.appearances if shot.picture else (), strict=False):
            part = measure(seen)
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
    return _kept(seen, colourfulness, tol.FIGURE_COLOURFUL)


def contrast_kept(seen: Appearance) -> float | None:
    """How far apart a figure's light and dark paints lie against its references, 1 is as far; None where no eye looked, or where they hardly differ."""
    return _kept(seen, contrast, FIGURE_CONTRAST)


def _kept(seen: Appearance, measure: Callable[[Floats, Floats], float], least: float) -> float | None:
    if not seen.worn:
        return None
    codes = np.array([linear_from_hex(t.expected[0]) for t in seen.traits]).reshape(-1, 3)
    usual = measure(codes, np.array([t.share_expected for t in seen.traits]))
    if usual < least:
        return None
    return measure(np.array([w.linear for w in seen.worn]), np.array([w.share for w in seen.worn])) / usual


def contrast(linear: Floats, shares: Floats) -> float:
    """How far apart colours (n, 3) in linear light lie in lightness, each with its share: the standard deviation of log2 luminance (Rec. 709), in stops, with a tenth of
    their mean for a toe. A common gain does not change it."""
    if shares.sum() <= 0:
        return 0.0
    part, light = shares / shares.sum(), linear @ LUMINANCE
    stops = np.log2(light + CONTRAST_TOE * float(part @ light) + 1e-6)
    return float(np.sqrt(part @ (stops - part @ stops) ** 2))


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
