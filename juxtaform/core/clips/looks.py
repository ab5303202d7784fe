"""What the networks see at a clip's beginning and end, and between them only where these are unlike: who a figure is, and whose hand it is."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cache

import numpy as np

from juxtaform.core.colour.spaces import Floats, Pixels
from juxtaform.core.figure.match import Eye, match
from juxtaform.core.figure.sheet import Look, look_of
from juxtaform.core.style.hand import HandEye
from juxtaform.core.style.hands import apart

KEPT_MOST = 48
"""So many frames are kept at most for a later look, evenly along the clip."""
SAME = 2.0
"""From this score on (log odds) a figure is itself, and no second look is needed."""
PERSON = -0.5
"""Below this it is somebody else. Set on drawn figures that walk, turn and talk: the same one has 3 and more wherever it is followed well, another one of the same
hand 1 at most, in the middle -2."""
SHAPE = 1.2
"""The same for the score that it would have in the right colours: somebody in other colours is nobody else."""
USUAL, USUAL_SHAPE = 4.0, 3.0
"""The usual scores of a figure beside its own beginning."""
BEGINNING, BESIDE = 3, 3
"""The first part of a clip (one of so many) shows the figure in more poses: so many of them are looked at besides, each while it is itself beyond doubt."""
HAND = 2.6
"""The distance of hands at which another one draws. Set on the same clips: what moves brings 2 at most, other hands and blur 3 and more."""
LOOK_TWICE = 1.3
"""Below this one look at each end is enough."""
NEARER_COSTS = 1.0
"""What comes nearer shows itself otherwise: the distance allowed grows by so much for each doubling, as a part."""


@dataclass(frozen=True)
class Eyes:
    """What looks at figures, and what tells hands apart; None where the networks are missing."""

    figure: Eye | None = None
    hand: HandEye | None = None


NO_EYES = Eyes()


class Kept:
    """Frames of a clip for a later look: evenly spaced, the first and the last always among them."""

    def __init__(self) -> None:
        self._stride, self._count = 1, 0
        self._frames: dict[int, Pixels] = {}
        self._last: Pixels | None = None

    def add(self, frame: Pixels) -> None:
        """The next measured frame."""
        if self._count % self._stride == 0:
            self._frames[self._count] = frame
        self._last = frame
        self._count += 1
        if len(self._frames) > KEPT_MOST:
            self._stride *= 2
            self._frames = {k: p for k, p in self._frames.items() if k % self._stride == 0}

    def frames(self) -> dict[int, Pixels]:
        """The kept frames by their number among the measured ones, in order."""
        if self._last is None:
            return {}
        return {**self._frames, self._count - 1: self._last}


@dataclass(frozen=True)
class Looked:
    """How far what was looked at is from the beginning, by measured frame, 1 is the edge of what holds; `begins` is the first frame beyond it that was looked at."""

    drift: dict[int, float]
    begins: int | None = None


def along(looked: Looked, count: int) -> Floats:
    """The drift of every measured frame (count,): between those that were looked at as far as they say on both sides."""
    if not looked.drift:
        return np.zeros(count)
    at = sorted(looked.drift)
    return np.interp(np.arange(count), at, [looked.drift[k] for k in at])


def person(eye: Eye, frames: dict[int, Pixels], crop_of: Callable[[int], Pixels | None]) -> Looked:
    """Whether a figure is the same at the end of a clip as at its beginning; where not, from which frame on. `crop_of` is the figure's picture in a measured frame
    with a rim of ground, None where it is not seen."""
    seen = [k for k in frames if crop_of(k) is not None]
    if len(seen) < 2:
        return Looked({})

    @cache
    def beginning(k: int) -> Look:
        return look_of(eye.trunk, _there(crop_of(k)))

    @cache
    def turned(k: int) -> Look:
        return look_of(eye.trunk, _there(crop_of(k)), mirror=True)

    @cache
    def poses() -> tuple[int, ...]:
        """Other poses of the beginning, each like one before it."""
        known = [seen[0]]
        early = seen[1 : max(2, len(seen) // BEGINNING)]
        for k in early[:: max(1, len(early) // BESIDE)][:BESIDE]:
            if max(match(eye, beginning(b), turned(k)).score for b in known) >= SAME:
                known.append(k)
        return tuple(known[1:])

    def unlike(b: int, other: Look) -> tuple[float, float]:
        """How far a look is from one of the beginning, and its score."""
        found = match(eye, beginning(b), other)
        return apart_by(found.score, eye.judge.shape(found.terms)), found.score

    @cache
    def drift(k: int) -> float:
        least, score = unlike(seen[0], beginning(k))
        if score >= SAME or k == seen[0]:
            return least
        for b in (seen[0], *poses()):
            far, score = unlike(b, turned(k))
            least = min(least, far)
            if score >= SAME:
                break
        return least

    looked = _looked(seen, drift)
    if looked.begins is not None and drift(seen[1]) > 1:
        return Looked({})  # it is not even like itself a moment later: there is nothing to hold on to
    return looked


def apart_by(score: float, shape: float) -> float:
    """How far a figure is from its beginning by its score and by that in the right colours (log odds), 1 is the edge of what holds."""
    return max(0.0, min((USUAL - score) / (USUAL - PERSON), (USUAL_SHAPE - shape) / (USUAL_SHAPE - SHAPE)))


def _there(crop: Pixels | None) -> Pixels:
    assert crop is not None
    return crop


def hand(eye: HandEye, frames: dict[int, Pixels], seen: Sequence[int], nearer: Callable[[int], float]) -> Looked:
    """Whether the same hand draws at the end of a clip as at its beginning; where not, from which frame on. Only frames that are `seen` count; `nearer` is how
    many times as large things are in a frame as at first."""
    whole = frozenset(seen)
    seen = [k for k in frames if k in whole]
    if len(seen) < 2:
        return Looked({})

    @cache
    def of(k: int) -> Floats:
        return np.array(eye.hand(frames[k]))

    def far(own: Floats, home: Floats, k: int) -> float:
        allowed = HAND * (1 + NEARER_COSTS * abs(float(np.log2(max(0.1, nearer(k))))))
        return float(apart(own[None], home)[0]) / allowed

    @cache
    def drift(k: int) -> float:
        one = far(of(k), of(seen[0]), k)
        if one * HAND < LOOK_TWICE:
            return one
        i = seen.index(k)
        beside = seen[i - 1] if i > 1 else seen[min(len(seen) - 1, i + 1)]
        return far((of(k) + of(beside)) / 2, (of(seen[0]) + of(seen[1])) / 2, k)

    return _looked(seen, drift)


def _looked(seen: Sequence[int], drift: Callable[[int], float]) -> Looked:
    """The end first; where its last two looks are beyond the edge (one may be unlucky), halving finds where that begins."""
    told = {seen[0]: 0.0}
    for k in seen[:0:-1][:2]:
        told[k] = max(0.0, drift(k))
        if told[k] <= 1:
            return Looked(told)
    holds, beyond = 0, len(seen) - 1
    while beyond - holds > 1:
        middle = (holds + beyond) // 2
        if seen[middle] not in told:
            told[seen[middle]] = max(0.0, drift(seen[middle]))
        if told[seen[middle]] > 1:
            beyond = middle
        else:
            holds = middle
    return Looked(told, seen[beyond])
