"""What is read along a clip: how far the style and each character drift from its beginning (or from its still), and how its light flickers."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.clips.colours import Recoloured, Worn, nothing_worn, recoloured, unlike, worn
from juxtaform.core.clips.common import Common
from juxtaform.core.clips.follow import GONE, SIDE, Follow, Motion, Seen
from juxtaform.core.clips.looks import HAND, NO_EYES, Beside, Eyes, Kept, Looked, Painted, along, apart_by, hand
from juxtaform.core.colour.spaces import Floats, Pixels, hex_from_linear, linear_from_srgb8
from juxtaform.core.figure.match import Eye, match
from juxtaform.core.figure.sheet import look_of
from juxtaform.core.figure.standing import FOUND, seen_places, sought
from juxtaform.core.picture.regions import Box, cut_out, resized, shared_area
from juxtaform.core.style.hands import apart
from juxtaform.core.style.terms import PRIOR, signature

READING_VERSION = "2"
EVERY, A_SECOND, MOST_BETWEEN = 4, 6, 10
"""Of 24 frames a second every fourth is measured in full: about six a second, and never fewer than one in so many; the light of all is read."""
READ_SIDE = 320
"""The longer side in px at which frames are read."""
STYLE_SIDE = 208
"""And at which their style is, where no network looks."""
FIRST = 3
"""The clip's own beginning is that of its first measured frames."""
STYLE_TOLERANCE = 1.0
"""How far the style may go by its terms alone (root mean square, in spreads that a change of subject alone gives)."""
COLOUR_TOLERANCE = 0.5
"""How much less or more colourful everything may become (natural log of the ratio): scene lights bring a third."""
FLICKER_STOPS = 0.05
"""A frame whose light departs so much from its neighbours flickers: about 3.5 %, which an eye sees in a flash."""
FLICKERS_IN = 0.35
"""... in all of the picture but for this part: what moves departs here and there alone."""
FLICKERS_TOLD = 3
"""A frame or two that flash may be meant; so many are told."""
GRID = (6, 8)
STARTS = 0.6
"""A slip begins where drift leaves this part of its edge."""
LASTS = 3
"""A slip lasts for so many measured frames, or to the end."""
INSIDE_LEAST = 0.6
"""A figure of whose box less is inside the picture has left it, or is leaving."""
PLAIN, WHOLE = 0.55, 0.97
"""The colours of a figure's parts are told in so much of the first frame's light at least, and where so much of its box is inside the picture."""
DARKEST = 0.3
"""In less light than this part of the first frame's a clip fades out: nothing is told of how things look."""
LEAST_PX = 16
"""A smaller figure shows nothing of who it is."""
RIM = 0.06
"""A figure is looked at with this part of its box around it."""

Kind = Literal["", "person", "colour", "colours", "pale", "loud", "hand"]
"""What slips: it is somebody else; a part has another colour; several parts have; all colours fade, or become stronger; another hand draws."""


@dataclass(frozen=True)
class Frame:
    """A frame of a clip: its luma codes on the coarse grid `GRID`, and of every so many frames (`every`) its pixels at the reading size."""

    luma: NDArray[np.uint8]
    pixels: Pixels | None = None


def every(frame_s: float) -> int:
    """Every how many frames one is measured in full, where a frame is seen for `frame_s`.

    >>> [every(1 / rate) for rate in (8, 12, 24, 60)]
    [1, 2, 4, 10]
    """
    return min(MOST_BETWEEN, max(1, round(1 / (A_SECOND * max(1e-3, frame_s)))))


@dataclass(frozen=True)
class Track:
    """How far something drifts along a clip, relative: 1 is the edge of what holds, for each measured frame. `begins` is the first frame from
    which on it does not hold, `kind` what slips there, `was` and `now` a part's old and new colour (sRGB codes); `leaves` the first frame of the last
    part in which a figure is out of the picture; `still` how far the clip's first frame is from its still (None: there is none)."""

    name: str
    drift: tuple[float, ...]
    begins: int | None
    still: float | None = None
    kind: Kind = ""
    was: str = ""
    now: str = ""
    leaves: int | None = None


@dataclass(frozen=True)
class ClipReading:
    """What is read of a clip: the measured frames' numbers, its style, its characters (by the names that they were given), the frames that flicker
    with how much (stops), each measured frame's sharpness, and each figure's box along the clip (parts of the frame)."""

    frames: tuple[int, ...]
    count: int
    style: Track
    figures: tuple[Track, ...]
    flicker: tuple[tuple[int, float], ...]
    sharpness: tuple[float, ...]
    boxes: Mapping[str, tuple[tuple[float, float, float, float], ...]]

    @property
    def begins(self) -> int | None:
        """The first frame from which on something does not hold."""
        found = [t.begins for t in (self.style, *self.figures) if t.begins is not None]
        return min(found) if found else None


@dataclass(frozen=True)
class Still:
    """The picture that a clip is to go with, at the reading size, and where figures stand in it (px of it)."""

    pixels: Pixels
    boxes: Mapping[str, Box]


def read_clip(
    frames: Iterator[Frame], boxes: Mapping[str, Box], still: Still | None = None, eyes: Eyes = NO_EYES
) -> ClipReading:
    """Read a clip's frames, all of one size, in which figures begin in `boxes` (px of the frames at the reading size). Raises ValueError for a clip
    without frames."""
    lights: list[Floats] = []
    measured = _Measured(boxes, terms=eyes.hand is None)
    at: list[int] = []
    for i, frame in enumerate(frames):
        lights.append(_light(frame.luma))
        if frame.pixels is not None:
            at.append(i)
            measured.add(frame.pixels)
    if not at:
        raise ValueError("There is no frame in this clip.")
    style = measured.style(at, eyes, still)
    figures = tuple(measured.figure(name, at, eyes, still, style) for name in boxes)
    return ClipReading(
        tuple(at),
        len(lights),
        style,
        figures,
        _flicker(lights),
        tuple(measured.sharp),
        {name: tuple(_parts(s.box, *measured.size) for s in own) for name, own in measured.seen.items()},
    )


class _Measured:
    """The measured frames of a clip, and what each of them says."""

    def __init__(self, boxes: Mapping[str, Box], *, terms: bool) -> None:
        self._boxes = dict(boxes)
        self._motion, self._common = Motion(), Common()
        self._follow: Follow | None = None
        self._kept = Kept()
        self._terms: list[Floats] | None = [] if terms else None
        self._dark: list[bool] = []
        self._lights: list[float] = []
        self._colour: list[float] = []
        self._worn: dict[str, list[Worn]] = {name: [] for name in boxes}
        self.seen: dict[str, list[Seen]] = {name: [] for name in boxes}
        self.sharp: list[float] = []
        self.size = (1, 1)
        """Width and height of the frames that are followed."""
        self._scale = 1.0

    def add(self, frame: Pixels) -> None:
        """The next measured frame."""
        step = self._motion.to(frame)
        h, w = step.small.shape[:2]
        if self._follow is None:
            self.size, self._scale = (w, h), w / frame.shape[1]
            self._follow = Follow({name: box.scaled(self._scale) for name, box in self._boxes.items()})
        before = [own[-1].box for own in self.seen.values() if own]
        self._common.to(step, [b.grown(RIM) for b in before])
        light = self._common.light
        self._lights.append(float(light.mean()))
        self._dark.append(self._lights[-1] < DARKEST)
        self._colour.append(self._common.colour)
        for name, seen in self._follow.to(step).items():
            self.seen[name].append(seen)
            gone = self._gone(seen) or self._dark[-1]
            self._worn[name].append(nothing_worn() if gone else worn(step.small, seen.box, light))
        if self._terms is not None:
            self._terms.append(_terms(frame))
        self.sharp.append(_sharpness(frame))
        self._kept.add(frame)

    def style(self, at: list[int], eyes: Eyes, still: Still | None) -> Track:
        """How the style drifts: by the hand at both ends, and by how colourful everything is."""
        pale = np.abs(np.array(self._colour)) / COLOUR_TOLERANCE
        if self._terms is not None:
            return self._by_terms(at, pale, still)
        assert eyes.hand
        frames = self._kept.frames()
        whole = [k for k in range(len(at)) if not self._dark[k] and all(self._there(n, k) for n in self.seen)]
        looked = hand(eyes.hand, frames, whole, self._nearer)
        drift = np.maximum(pale, along(looked, len(at)))
        begins = _begins(pale)
        kind = self._paler() if begins is not None else ""
        if looked.begins is not None and (begins is None or looked.begins < begins):
            begins, kind = _back(drift, looked.begins), kind or "hand"
        apart_from = None
        if still is not None:
            home = np.array(eyes.hand.hand(still.pixels))
            apart_from = round(float(apart(np.array(eyes.hand.hand(frames[0]))[None], home)[0]) / HAND, 3)
        return _track("style", drift, None if begins is None else at[begins], apart_from, kind)

    def _paler(self) -> Kind:
        return "pale" if self._colour[-1] < 0 else "loud"

    def _by_terms(self, at: list[int], pale: Floats, still: Still | None) -> Track:
        """The same without a network: by the terms of each frame against the first ones."""
        assert self._terms is not None
        rows = np.array(self._terms)
        middle = np.median(rows[:FIRST], axis=0)
        drift = np.maximum(pale, np.sqrt((((rows - middle) / PRIOR) ** 2).mean(axis=1)) / STYLE_TOLERANCE)
        begins = _begins(drift)
        kind: Kind = "" if begins is None else self._paler() if pale[begins:].max() > 1 else "hand"
        own = _terms(still.pixels) if still else None
        apart_from = None if own is None else round(float(np.sqrt((((middle - own) / PRIOR) ** 2).mean())), 3)
        return _track("style", drift, None if begins is None else at[begins], apart_from, kind)

    def figure(self, name: str, at: list[int], eyes: Eyes, still: Still | None, style: Track) -> Track:
        """How a figure drifts: who it is at both ends, and the colours that it wears. What the style's slip explains is not told of it."""
        colours = recoloured(self._worn[name])
        frames = self._kept.frames()
        looked = Looked({})
        if eyes.figure:
            beside = Beside(
                eyes.figure, frames, lambda k: self._crop(name, frames[k], k), lambda k: self._plainly(name, k)
            )
            looked = beside.person()
            if looked.begins is not None and colours.begins is None and self._found_again(name, eyes.figure, frames):
                looked = Looked({})
            if looked.begins is None and colours.begins is None:
                colours = _as_colours(beside.painted(), len(at)) or colours
        drift = np.maximum(colours.drift, along(looked, len(at)))
        begins, kind = _first_of(colours, looked)
        if (
            kind in ("colour", "colours")
            and style.begins is not None
            and (begins or 0) >= at.index(style.begins) - LASTS
        ):
            begins, kind, drift = None, "", along(looked, len(at))
        known = kind == "colour" and colours.was is not None and colours.now is not None
        return Track(
            name,
            _rounded(drift),
            None if begins is None else at[begins],
            self._apart_from_still(name, frames[0], eyes.figure, still),
            kind,
            hex_from_linear(colours.was) if known and colours.was is not None else "",
            hex_from_linear(colours.now) if known and colours.now is not None else "",
            self._leaves(name, at),
        )

    def _there(self, name: str, k: int) -> bool:
        seen = self.seen[name][k]
        return seen.there > GONE and not self._gone(seen)

    def _gone(self, seen: Seen) -> bool:
        return seen.left or _inside(seen.box, *self.size) < INSIDE_LEAST

    def _plainly(self, name: str, k: int) -> bool:
        """Whether all of a figure is in the picture, in a light in which colours can be told."""
        return self._lights[k] > PLAIN and _inside(self.seen[name][k].box, *self.size) > WHOLE

    def _nearer(self, k: int) -> float:
        """How many times as large the largest figure is in a measured frame as at first."""
        own = max(self.seen.values(), key=lambda s: s[0].box.w * s[0].box.h, default=None)
        return 1.0 if own is None else float(np.sqrt(own[k].box.w * own[k].box.h / (own[0].box.w * own[0].box.h)))

    def _crop(self, name: str, frame: Pixels, k: int) -> Pixels | None:
        """A figure's picture with a rim of ground; None where it is out of the picture, or too dark to see."""
        seen = self.seen[name][k]
        if self._dark[k] or self._gone(seen):
            return None
        return _cut(frame, seen.box.scaled(1 / self._scale))

    def _found_again(self, name: str, eye: Eye, frames: Mapping[int, Pixels]) -> bool:
        """Whether a figure that does not look itself where it was followed to is found when all of the last frame is looked over: then it was lost on the way, and
        nothing is known of who it is there."""
        first = self._crop(name, frames[0], 0)
        last = max(k for k in frames if self._crop(name, frames[k], k) is not None)
        if first is None:
            return False
        (places,) = seen_places(eye, frames[last], [sought(eye, [first])])
        return any(p.odds > FOUND for p in places)

    def _apart_from_still(self, name: str, first: Pixels, eye: Eye | None, still: Still | None) -> float | None:
        if still is None or name not in still.boxes:
            return None
        small, box = _followed(still.pixels, still.boxes[name])
        colours = unlike(worn(small, box, np.ones(3)), self._worn[name][0])
        own, there = self._crop(name, first, 0), _cut(still.pixels, still.boxes[name])
        if eye is None or own is None or there is None:
            return round(colours, 3)
        found = match(eye, look_of(eye.trunk, there), look_of(eye.trunk, own, mirror=True))
        return round(max(colours, apart_by(found.score, eye.judge.shape(found.terms))), 3)

    def _leaves(self, name: str, at: list[int]) -> int | None:
        out = [self._gone(s) for s in self.seen[name]]
        if not out[-1]:
            return None
        return at[max((k + 1 for k, gone in enumerate(out) if not gone), default=0)]


def _as_colours(painted: Painted, count: int) -> Recoloured | None:
    """A part in another colour as the networks saw it, as what the figure's colours tell; None where none is."""
    if painted.looked.begins is None:
        return None
    return Recoloured(np.array(along(painted.looked, count)), painted.looked.begins, painted.was, painted.now)


def _first_of(colours: Recoloured, looked: Looked) -> tuple[int | None, Kind]:
    """Where a figure slips, and what: somebody else has other colours too, and these tell better when they came."""
    if looked.begins is None:
        return colours.begins, "" if colours.begins is None else "colour" if colours.one else "colours"
    if colours.begins is None:
        return looked.begins, "person"
    return colours.begins, "person"


def _track(name: str, drift: Floats, begins: int | None, still: float | None, kind: Kind) -> Track:
    return Track(name, _rounded(drift), begins, still, kind if begins is not None else "")


def _rounded(drift: Floats) -> tuple[float, ...]:
    return tuple(round(float(v), 3) for v in drift)


def _cut(pixels: Pixels, box: Box) -> Pixels | None:
    """A box's picture with a rim of ground; None for one in which nobody could be seen."""
    h, w = pixels.shape[:2]
    wide = box.grown(RIM)
    if shared_area(wide, Box(0, 0, w, h)) <= 0 or min(wide.w, wide.h) < LEAST_PX:
        return None
    part = cut_out(pixels, wide.inside(w, h))
    return part if min(part.shape[:2]) >= LEAST_PX else None


def _followed(pixels: Pixels, box: Box) -> tuple[Pixels, Box]:
    """A picture and a box in it at the side at which clips are followed."""
    small = resized(pixels, SIDE)
    return small, box.scaled(small.shape[1] / pixels.shape[1])


def _terms(pixels: Pixels) -> Floats:
    return np.array(signature(resized(pixels, STYLE_SIDE)).values)


def _inside(box: Box, width: int, height: int) -> float:
    """The part of a box that lies in the picture."""
    whole = Box(0, 0, width, height)
    return shared_area(box, whole) / max(1e-9, box.w * box.h)


def _parts(box: Box, width: int, height: int) -> tuple[float, float, float, float]:
    """A box in parts of its frame, cut to it."""
    x, y = min(1.0, max(0.0, box.x / width)), min(1.0, max(0.0, box.y / height))
    right, bottom = min(1.0, max(0.0, (box.x + box.w) / width)), min(1.0, max(0.0, (box.y + box.h) / height))
    return round(x, 4), round(y, 4), round(right - x, 4), round(bottom - y, 4)


def _begins(drift: Floats) -> int | None:
    """Where drift that goes beyond its edge, and stays there, left what it was before: a slide begins before it is plain."""
    beyond = drift > 1
    for k in np.flatnonzero(beyond):
        if beyond[k : k + LASTS].all() and beyond[k:].mean() > 0.8:
            return _back(drift, int(k))
    return None


def _back(drift: Floats, k: int) -> int:
    """Where drift that is beyond its edge at `k` left what it was before."""
    while k > 1 and drift[k - 1] > STARTS:
        k -= 1
    return k


def _light(luma: NDArray[np.uint8]) -> Floats:
    """The light of luma codes, in stops."""
    return np.asarray(np.log2(linear_from_srgb8(luma) + 0.01))


def _flicker(lights: Sequence[Floats]) -> tuple[tuple[int, float], ...]:
    """Frames that are lighter or darker all over than both their neighbours, or than those around them for two frames on end: a fade or a lamp that goes on is
    neither."""
    if len(lights) < 3:
        return ()
    rows = np.array(lights).reshape(len(lights), -1)
    back, on = rows[1:-1] - rows[:-2], rows[1:-1] - rows[2:]
    alone = _all_over(np.where(np.sign(back) == np.sign(on), np.sign(back) * np.minimum(np.abs(back), np.abs(on)), 0.0))
    wide = np.concatenate([rows[:1], rows[:1], rows, rows[-1:], rows[-1:]])
    around = np.median(np.stack([wide[k : k + len(rows)] for k in range(5)]), axis=0)
    short = _all_over((rows - around)[1:-1])
    off = np.where(np.abs(alone) > np.abs(short), alone, short)
    return tuple((int(i) + 1, round(float(off[i]), 3)) for i in np.flatnonzero(np.abs(off) > FLICKER_STOPS))


def _all_over(off: Floats) -> Floats:
    """How far frames (n, places) depart in one direction in nearly all of their places, (n,)."""
    low, high = np.quantile(off, FLICKERS_IN, axis=1), np.quantile(off, 1 - FLICKERS_IN, axis=1)
    return np.asarray(np.where(low > 0, low, np.where(high < 0, high, 0.0)))


def _sharpness(frame: Pixels) -> float:
    """How much there is to see of fine detail: the spread of the Laplacian (J. L. Pech-Pacheco et al., Diatom autofocusing in brightfield microscopy,
    2000)."""
    grey = cv2.cvtColor(frame, cv2.COLOR_RGB2GRAY)
    return round(float(cv2.Laplacian(grey, cv2.CV_32F).std()), 3)
