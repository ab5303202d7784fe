"""What the networks see at a clip's beginning and end, and between them only where these are unlike: who a figure is, and whose hand it is."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache, cached_property

import numpy as np
from scipy.ndimage import label

from juxtaform.core.colour.spaces import Floats, Pixels
from juxtaform.core.figure.colours import common_light, steps
from juxtaform.core.figure.ground import Mask
from juxtaform.core.figure.match import Eye, Match, match
from juxtaform.core.figure.parts import CELL_LEAST, INSIDE_LEAST, REACH, cover, grid
from juxtaform.core.figure.sheet import Look, Sheet, look_of
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
BEGINNING, BESIDE, MORE_BESIDE = 3, 3, 8
"""The first part of a clip (one of so many) shows the figure in more poses: so many of them are looked at besides, each while it is itself beyond doubt; and so
many where a part seems to be in another colour."""
HAND = 2.6
"""The distance of hands at which another one draws. Set on the same clips: what moves brings 2 at most, other hands and blur 3 and more."""
LOOK_TWICE = 1.3
"""Below this one look at each end is enough."""
ENDS = 4
"""So many of the last frames tell of a part in another colour: the middle of them counts."""
HUE_STEP = 0.05
"""From this OKLab distance of hue and chroma on a cell is in another colour, the light taken out."""
PAINTED = 0.018
"""The largest piece in another hue that a pose may bring, as a part of the figure. Set on drawn figures that walk and talk: 24 of 24 stay below, 6 of 12 with a part painted over do not."""
PIECES_LEAST = 30
"""A figure with fewer cells that can be compared tells nothing."""
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


@dataclass(frozen=True)
class Painted:
    """How far a part of a figure is in another colour, by measured frame, 1 is the edge of what holds; from which frame on; and its colours then and now, linear light (3,)."""

    looked: Looked
    was: Floats | None = None
    now: Floats | None = None


class Beside:
    """A figure along a clip beside its own beginning. `crop_of` is its picture in a measured frame with a rim of ground, None where it is not seen; `plainly` tells whether
    all of it is seen there, in a light in which colours can be told."""

    def __init__(
        self,
        eye: Eye,
        frames: Mapping[int, Pixels],
        crop_of: Callable[[int], Pixels | None],
        plainly: Callable[[int], bool],
    ) -> None:
        self._eye, self._crop_of = eye, crop_of
        self._seen = [k for k in frames if crop_of(k) is not None]
        self._plain = [k for k in self._seen if plainly(k)]
        self._looks: dict[tuple[int, bool], Look] = {}
        self._matches: dict[tuple[int, int, bool], Match] = {}

    def person(self) -> Looked:
        """Whether it is the same figure at the end of the clip as at its beginning; where not, from which frame on."""
        seen = self._seen
        if len(seen) < 2:
            return Looked({})

        @cache
        def drift(k: int) -> float:
            least, score = self._unlike(seen[0], k, mirror=False)
            if score >= SAME or k == seen[0]:
                return least
            for b in (seen[0], *self._poses):
                far, score = self._unlike(b, k, mirror=True)
                least = min(least, far)
                if score >= SAME:
                    break
            return least

        looked = _looked(seen, drift)
        if looked.begins is not None and drift(seen[1]) > 1:
            return Looked({})  # it is not even like itself a moment later: there is nothing to hold on to
        return looked

    def painted(self) -> Painted:
        """Whether a part of the figure is in another colour at the end of the clip, where it lies over its beginning; from which frame on."""
        if len(self._plain) < 2 * ENDS or self._plain[0] != self._seen[0]:
            return Painted(Looked({}))
        ends = self._plain[: -ENDS - 1 : -1]
        first = next((c for k in ends if (c := self._changed(k, self._poses)) is not None), None)
        if first is None or first.part <= PAINTED:
            return Painted(Looked({}))
        told = [c for k in ends if (c := self._changed(k, self._more_poses)) is not None]
        if len(told) < 2 or float(np.median([c.part for c in told])) <= PAINTED:
            return Painted(Looked({}))

        drift = {self._plain[0]: 0.0, ends[0]: float(np.median([c.part for c in told])) / PAINTED}
        holds, beyond = 0, len(self._plain) - 1
        while beyond - holds > 1:
            middle = (holds + beyond) // 2
            near = (self._changed(k, self._more_poses) for k in self._plain[middle : min(middle + 2, beyond)])
            far = max((c.part for c in near if c is not None), default=0.0) / PAINTED
            drift[self._plain[middle]] = far
            holds, beyond = (holds, middle) if far > 1 else (middle, beyond)
        largest = max(told, key=lambda c: c.part)
        return Painted(Looked(drift, self._plain[beyond]), largest.was, largest.now)

    def _changed(self, k: int, poses: Sequence[int]) -> Changed | None:
        """What of the figure in a frame is in another colour than where it lies over the pose of its beginning that it is most like; None where it is like none."""
        over = self._seen[0]
        found = self._match(over, k, mirror=False)
        if found.score < SAME or poses is not self._poses:
            for b in (self._seen[0], *poses):
                other = self._match(b, k, mirror=True)
                if other.score > found.score:
                    found, over = other, b
        if found.score < SAME or found.redrawn is None or found.inside is None:
            return None
        return changed(self._look(over, mirror=False).upright, found.redrawn, found.inside)

    @cached_property
    def _more_poses(self) -> tuple[int, ...]:
        """All of the beginning, for a second look."""
        early = self._seen[1 : max(2, len(self._seen) // BEGINNING)]
        return tuple(early[:: max(1, len(early) // MORE_BESIDE)])

    @cached_property
    def _poses(self) -> tuple[int, ...]:
        """Other poses of the beginning, each like one before it."""
        known = [self._seen[0]]
        early = self._seen[1 : max(2, len(self._seen) // BEGINNING)]
        for k in early[:: max(1, len(early) // BESIDE)][:BESIDE]:
            if max(self._match(b, k, mirror=True).score for b in known) >= SAME:
                known.append(k)
        return tuple(known[1:])

    def _unlike(self, b: int, k: int, *, mirror: bool) -> tuple[float, float]:
        """How far a frame's figure is from one of the beginning, and its score."""
        found = self._match(b, k, mirror=mirror)
        return apart_by(found.score, self._eye.judge.shape(found.terms)), found.score

    def _match(self, b: int, k: int, *, mirror: bool) -> Match:
        if (b, k, mirror) not in self._matches:
            self._matches[b, k, mirror] = match(self._eye, self._look(b, mirror=False), self._look(k, mirror=mirror))
        return self._matches[b, k, mirror]

    def _look(self, k: int, *, mirror: bool) -> Look:
        if (k, mirror) not in self._looks:
            self._looks[k, mirror] = look_of(self._eye.trunk, _there(self._crop_of(k)), mirror=mirror)
        return self._looks[k, mirror]


@dataclass(frozen=True)
class Changed:
    """The largest piece of a figure that is in another colour than on its reference: what part of the figure it is, and its colours there and now, linear light (3,)."""

    part: float
    was: Floats
    now: Floats


def changed(reference: Sheet, drawn: Pixels, inside: Mask) -> Changed | None:
    """The largest piece in another hue, the light of all of it taken out; `drawn` (224, 224, 3) is the figure in the reference's place. None where too little of it is seen."""
    own, other = grid(reference.pixels), grid(drawn)
    there = (cover(inside) > INSIDE_LEAST) & (cover(reference.figure) > CELL_LEAST)
    if there.sum() < PIECES_LEAST:
        return None
    stops = common_light(own[there], other[there])
    _, hue = steps(own, other, stops, REACH)
    pieces, count = label((hue > HUE_STEP) & there)
    if not count:
        return Changed(0.0, np.zeros(3), np.zeros(3))
    sizes = np.bincount(pieces.ravel())[1:]
    piece = pieces == 1 + int(sizes.argmax())
    plain = np.clip(other / 2.0**stops, 0, 1)
    return Changed(float(sizes.max() / there.sum()), np.median(own[piece], axis=0), np.median(plain[piece], axis=0))


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
