"""What is read along a clip: how far the style and each character drift from its beginning (or from its still), and how its light flickers."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Floats, Pixels, linear_from_srgb8, oklab_from_linear
from juxtaform.core.picture.regions import Box, cut_out, resized
from juxtaform.core.style.terms import PRIOR, signature

READING_VERSION = "1"
EVERY = 4
"""Every so many frames one is measured in full; the light of all is read."""
READ_SIDE = 320
"""The longer side in px at which frames are read."""
STYLE_SIDE = 208
"""And at which their style is: within one clip small pictures tell as much, and decoding stays what costs."""
FLOW_SIDE = 192
"""The longer side in px at which a figure is followed from one measured frame to the next."""
CELLS = 12
"""A figure's box is compared cell by cell, so many a side."""
FIRST = 3
"""The clip's own beginning is that of its first measured frames."""
STYLE_TOLERANCE, FIGURE_TOLERANCE = 1.0, 0.055
"""How far the style may go (root mean square of its terms, in spreads that a change of subject alone gives: a clip's subject changes less), and a
figure (the upper quarter of its cells, OKLab distance): set on clips made in the house, above what motion alone brings."""
FLICKER_STOPS = 0.05
"""A frame whose light departs so much from the middle of its neighbours flickers: about 3.5 %, which an eye sees in a flash."""
GRID = (6, 8)
STARTS = 0.6
"""A slip begins where drift leaves this part of its edge: motion alone brings half of it."""
LASTS = 3
"""A slip lasts for so many measured frames, or to the end."""


@dataclass(frozen=True)
class Frame:
    """A frame of a clip: its luma codes on the coarse grid `GRID`, and of every so many frames (`EVERY`) its pixels at the reading size."""

    luma: NDArray[np.uint8]
    pixels: Pixels | None = None


@dataclass(frozen=True)
class Track:
    """How far something drifts along a clip, relative: 1 is the edge of what holds, for each measured frame. `begins` is the first frame from
    which on it does not hold; `still` how far the clip's first frame is from its still (None: there is none)."""

    name: str
    drift: tuple[float, ...]
    begins: int | None
    still: float | None = None


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


def read_clip(frames: Iterator[Frame], boxes: Mapping[str, Box], still: Still | None = None) -> ClipReading:
    """Read a clip's frames, all of one size, in which figures begin in `boxes` (px of the frames at the reading size). Raises ValueError for a clip
    without frames."""
    lights: list[Floats] = []
    at: list[int] = []
    terms: list[Floats] = []
    cells: dict[str, list[Floats]] = {name: [] for name in boxes}
    follow = _Follow(boxes)
    sharp: list[float] = []
    count = 0
    for i, frame in enumerate(frames):
        count = i + 1
        lights.append(_light(frame.luma))
        if frame.pixels is None:
            continue
        at.append(i)
        terms.append(_style(frame.pixels))
        sharp.append(_sharpness(frame.pixels))
        for name, box in follow.to(frame.pixels).items():
            cells[name].append(_cells(frame.pixels, box))
    if not at:
        raise ValueError("There is no frame in this clip.")
    style = _track("style", _style_drift(terms, still), at)
    figures = tuple(_track(name, _figure_drift(name, own, still), at) for name, own in cells.items())
    return ClipReading(tuple(at), count, style, figures, _flicker(lights), tuple(sharp), follow.seen)


def _style(pixels: Pixels) -> Floats:
    return np.array(signature(resized(pixels, STYLE_SIDE)).values)


def _track(name: str, drift: tuple[Floats, float | None], at: list[int]) -> Track:
    values, still = drift
    return Track(name, tuple(round(float(v), 3) for v in values), _begins(values, at), still)


def _begins(drift: Floats, at: list[int]) -> int | None:
    """Where drift that goes beyond its edge, and stays there, left what it was before: a slide begins before it is plain."""
    beyond = drift > 1
    for k in np.flatnonzero(beyond):
        if beyond[k : k + LASTS].all() and (beyond[k:].mean() > 0.8):
            while k > 0 and drift[k - 1] > STARTS:
                k -= 1
            return at[k]
    return None


def _style_drift(terms: list[Floats], still: Still | None) -> tuple[Floats, float | None]:
    rows = np.array(terms)
    middle = np.median(rows[:FIRST], axis=0)
    drift = np.sqrt((((rows - middle) / PRIOR) ** 2).mean(axis=1)) / STYLE_TOLERANCE
    if still is None:
        return drift, None
    own = _style(still.pixels)
    return drift, round(float(np.sqrt((((middle - own) / PRIOR) ** 2).mean()) / STYLE_TOLERANCE), 3)


def _figure_drift(name: str, cells: list[Floats], still: Still | None) -> tuple[Floats, float | None]:
    base = np.median(np.array(cells[:FIRST]), axis=0)
    drift = np.array([_apart(base, c) for c in cells])
    if still is None or name not in still.boxes:
        return drift, None
    return drift, round(_apart(_cells(still.pixels, still.boxes[name]), base), 3)


def _apart(one: Floats, other: Floats) -> float:
    """How far the cells of a figure are from those of another look: each from the nearest within one cell, the common change of light taken out, the
    upper quarter of them."""
    shift = np.median(other - one, axis=(0, 1))
    padded = np.pad(one + shift, ((1, 1), (1, 1), (0, 0)), mode="edge")
    near = np.stack([padded[y : y + CELLS, x : x + CELLS] for y in range(3) for x in range(3)])
    off = np.sqrt(((near - other[None]) ** 2).sum(axis=-1)).min(axis=0)
    return float(np.quantile(off, 0.75)) / FIGURE_TOLERANCE


def _cells(frame: Pixels, box: Box) -> Floats:
    small = cv2.resize(cut_out(frame, box), (CELLS, CELLS), interpolation=cv2.INTER_AREA)
    return np.asarray(oklab_from_linear(linear_from_srgb8(np.asarray(small, dtype=np.uint8))))


def _light(luma: NDArray[np.uint8]) -> Floats:
    """The light of luma codes, in stops."""
    return np.asarray(np.log2(linear_from_srgb8(luma) + 0.01))


def _flicker(lights: list[Floats]) -> tuple[tuple[int, float], ...]:
    """Frames whose light all over the picture departs from the middle of their neighbours: what moves departs here and there alone."""
    if len(lights) < 3:
        return ()
    rows = np.array(lights)
    off = rows[1:-1] - (rows[:-2] + rows[2:]) / 2
    common = np.median(off, axis=(1, 2))
    return tuple((int(i) + 1, round(float(common[i]), 3)) for i in np.flatnonzero(np.abs(common) > FLICKER_STOPS))


def _sharpness(frame: Pixels) -> float:
    """How much there is to see of fine detail: the spread of the Laplacian (J. L. Pech-Pacheco et al., Diatom autofocusing in brightfield microscopy,
    2000)."""
    grey = cv2.cvtColor(frame, cv2.COLOR_RGB2GRAY)
    return round(float(cv2.Laplacian(grey, cv2.CV_32F).std()), 3)


class _Follow:
    """Figures followed along a clip by the middle of the flow inside their boxes (T. Kroeger et al., Fast Optical Flow using Dense Inverse Search,
    2016)."""

    def __init__(self, boxes: Mapping[str, Box]) -> None:
        self._boxes = dict(boxes)
        self._before: NDArray[np.uint8] | None = None
        self._flow = cv2.DISOpticalFlow.create(cv2.DISOPTICAL_FLOW_PRESET_ULTRAFAST)
        self._seen: dict[str, list[tuple[float, float, float, float]]] = {name: [] for name in boxes}

    @property
    def seen(self) -> dict[str, tuple[tuple[float, float, float, float], ...]]:
        return {name: tuple(own) for name, own in self._seen.items()}

    def to(self, frame: Pixels) -> dict[str, Box]:
        """Where the figures are in the next measured frame (px of it)."""
        if not self._boxes:
            return {}
        h, w = frame.shape[:2]
        f = min(1.0, FLOW_SIDE / max(h, w))
        small = cv2.resize(frame, (max(32, round(w * f)), max(32, round(h * f))), interpolation=cv2.INTER_AREA)
        grey = np.asarray(cv2.cvtColor(small, cv2.COLOR_RGB2GRAY), dtype=np.uint8)
        if self._before is not None:
            still = np.zeros((*grey.shape, 2), np.float32)
            moved = np.asarray(self._flow.calc(self._before, grey, still), dtype=np.float32)
            self._boxes = {name: _carried(box, moved, f, w, h) for name, box in self._boxes.items()}
        self._before = grey
        for name, b in self._boxes.items():
            self._seen[name].append((round(b.x / w, 4), round(b.y / h, 4), round(b.w / w, 4), round(b.h / h, 4)))
        return self._boxes


def _carried(box: Box, flow: NDArray[np.float32], f: float, width: int, height: int) -> Box:
    part = flow[
        max(0, int(box.y * f)) : max(1, int((box.y + box.h) * f)),
        max(0, int(box.x * f)) : max(1, int((box.x + box.w) * f)),
    ].reshape(-1, 2)
    if not len(part):
        return box
    dx, dy = np.median(part, axis=0) / f
    try:
        return Box(
            min(width - 4.0, max(0.0, box.x + float(dx))), min(height - 4.0, max(0.0, box.y + float(dy))), box.w, box.h
        ).inside(width, height)
    except ValueError:
        return box
