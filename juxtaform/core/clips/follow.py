"""Figures followed along a clip: by the flow of what moves with them, and by the colours that they have and the ground has not."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Floats, Pixels
from juxtaform.core.picture.regions import Box

Flow = NDArray[np.float32]
"""Where each pixel of a frame went: (h, w, 2), px in x and y."""

SIDE = 192
"""The longer side in px at which a clip is followed from one measured frame to the next."""
BINS = 12
"""Colours are counted in so many steps of each channel."""
ROOM, STEPS = 0.4, 17
"""How far a figure is looked for around where the flow leads, in parts of its box, and at how many places a side."""
FAR = 1.0
"""What it costs to be somewhere else than where the flow leads: this part of what a box holds, for a whole box's way, squared."""
NEAR, AROUND = 0.1, 0.5
"""What lies between these parts of a box around it is taken for its ground."""
SURE = 0.5
"""A pixel is a figure's when its colour is seen as often in it as around it."""
STRETCH = 1.15
"""From one measured frame to the next a box grows or shrinks by this at most."""
KEPT = 0.9
"""A figure's own colours are learned on slowly: so much of what is known stays with every frame."""
GONE = 0.3
"""A figure is not followed on where less than this part of its own colours is left."""
OUT, FADING = 0.05, 0.6
"""A figure has left when its box reached beyond an edge of the picture that it did not reach at first, by this part of its size, and less than so much of its own
colours is left. It is not followed on then."""
FEWEST = 24
"""Fewer pixels than this tell no way."""


@dataclass(frozen=True)
class Step:
    """A measured frame at the side at which clips are followed, and how what was seen before came here; `moved` is None for the first one."""

    small: Pixels
    moved: Flow | None


@dataclass(frozen=True)
class Seen:
    """Where a figure is in a frame (px of it), how much of its own colours is there (1 is as at first), and whether it has left the picture."""

    box: Box
    there: float
    left: bool = False


class Motion:
    """The flow from each measured frame to the next (T. Kroeger et al., Fast Optical Flow using Dense Inverse Search, 2016)."""

    def __init__(self) -> None:
        self._before: NDArray[np.uint8] | None = None
        self._flow = cv2.DISOpticalFlow.create(cv2.DISOPTICAL_FLOW_PRESET_ULTRAFAST)

    def to(self, frame: Pixels) -> Step:
        """The next measured frame (h, w, 3)."""
        h, w = frame.shape[:2]
        f = min(1.0, SIDE / max(h, w))
        size = (max(32, round(w * f)), max(32, round(h * f)))
        small = np.asarray(cv2.resize(frame, size, interpolation=cv2.INTER_AREA), np.uint8)
        grey = np.asarray(cv2.cvtColor(small, cv2.COLOR_RGB2GRAY), dtype=np.uint8)
        before, self._before = self._before, grey
        if before is None:
            return Step(small, None)
        still = np.zeros((*grey.shape, 2), np.float32)
        return Step(small, np.asarray(self._flow.calc(before, grey, still), np.float32))


@dataclass
class _One:
    """A figure that is followed: its box, how often each colour is seen in it (BINS³,), where in its box the middle of its colours is (parts of it), and how many
    pixels have them in the first frame; `beyond` tells which edges of the picture it reaches over at first, `left` whether it is gone over another one."""

    box: Box
    own: Floats
    middle: tuple[float, float] = (0.5, 0.5)
    first: float = 0.0
    beyond: tuple[bool, ...] = ()
    left: bool = False


class Follow:
    """Figures that begin in `boxes`, px of the first step's frame."""

    def __init__(self, boxes: Mapping[str, Box]) -> None:
        self._boxes = dict(boxes)
        self._ones: dict[str, _One] = {}

    def to(self, step: Step) -> dict[str, Seen]:
        """Where each figure is in the next measured frame."""
        if not self._boxes:
            return {}
        codes = _codes(step.small)
        if not self._ones:
            self._ones = {name: _begun(codes, box) for name, box in self._boxes.items()}
            return {name: Seen(box, 1.0) for name, box in self._boxes.items()}
        return {name: self._on(one, codes, step.moved) for name, one in self._ones.items()}

    @staticmethod
    def _on(one: _One, codes: NDArray[np.intp], moved: Flow | None) -> Seen:
        if one.left:
            return Seen(one.box, 0.0, left=True)
        led = _led(one.box, moved, _weights(codes, one.own, one.box)) if moved is not None else one.box
        weight = _weights(codes, one.own, led)
        box = _settled(weight, _best(weight, led), one.middle)
        there = _held(weight, box) / one.first
        if there > GONE:
            one.box = box
            one.own = KEPT * one.own + (1 - KEPT) * _counted(codes, box, weight > SURE)
        crosses = _beyond(one.box, *codes.shape)
        one.left = there < FADING and any(now and not first for now, first in zip(crosses, one.beyond, strict=True))
        return Seen(one.box, there, one.left)


def within(box: Box, height: int, width: int) -> tuple[slice, slice]:
    """The rows and columns of a picture that a box covers; empty where it lies outside."""
    y, x = min(height, max(0, round(box.y))), min(width, max(0, round(box.x)))
    return (
        slice(y, max(y, min(height, round(box.y + box.h)))),
        slice(x, max(x, min(width, round(box.x + box.w)))),
    )


def _begun(codes: NDArray[np.intp], box: Box) -> _One:
    weight = _weights(codes, _counted(codes, box), box)
    own = _counted(codes, box, weight > SURE)
    weight = _weights(codes, own, box)
    return _One(box, own, _middle(weight, box), max(8.0, _held(weight, box)), _beyond(box, *codes.shape))


def _beyond(box: Box, height: int, width: int) -> tuple[bool, ...]:
    """Which edges of a picture a box reaches over: left, top, right, bottom."""
    return (
        box.x < -OUT * box.w,
        box.y < -OUT * box.h,
        box.x + box.w > width + OUT * box.w,
        box.y + box.h > height + OUT * box.h,
    )


def _codes(pixels: Pixels) -> NDArray[np.intp]:
    steps = pixels.astype(np.intp) * BINS // 256
    return np.asarray((steps[..., 0] * BINS + steps[..., 1]) * BINS + steps[..., 2])


def _counted(codes: NDArray[np.intp], box: Box, where: NDArray[np.bool_] | None = None) -> Floats:
    """How often each colour is seen in a box, or where it is also `where`."""
    part = within(box, *codes.shape)
    seen = codes[part] if where is None else codes[part][where[part]]
    return np.bincount(seen.ravel(), minlength=BINS**3) / max(1, seen.size)


def _weights(codes: NDArray[np.intp], own: Floats, box: Box) -> Floats:
    """How surely each pixel is the figure's, 0..1: by how often its colour is seen in the figure and around it."""
    ring = np.bincount(codes[within(box.grown(AROUND), *codes.shape)].ravel(), minlength=BINS**3).astype(float)
    ring -= np.bincount(codes[within(box.grown(NEAR), *codes.shape)].ravel(), minlength=BINS**3)
    ring /= max(1.0, ring.sum())
    sure = own / (own + ring + 1e-4)
    return np.asarray(np.where(own > 0, sure, 0.0)[codes])


def _led(box: Box, moved: Flow, weight: Floats) -> Box:
    """Where the flow of a figure's pixels leads its box, and how much larger or smaller (Z. Kalal et al., Forward-Backward Error, 2010: the median of
    their ways and of how their distances grow)."""
    part = within(box, *weight.shape)
    flow, sure = moved[part].reshape(-1, 2), np.flatnonzero(weight[part].ravel() > SURE)
    if len(sure) < FEWEST:
        sure = np.arange(len(flow))
    if len(sure) < FEWEST:
        return box
    sure = sure[:: max(1, len(sure) // 200)]
    dx, dy = np.median(flow[sure], axis=0)
    columns = part[1].stop - part[1].start
    at = np.stack([sure % columns, sure // columns], axis=1).astype(float)
    s = float(np.clip(_grown(at, at + flow[sure]), 1 / STRETCH, STRETCH))
    return Box(box.x + float(dx) - box.w * (s - 1) / 2, box.y + float(dy) - box.h * (s - 1) / 2, box.w * s, box.h * s)


def _grown(at: Floats, to: Floats) -> float:
    """How much further apart points (n, 2) are than they were, the median of pairs."""
    half = len(at) // 2
    before = np.linalg.norm(at[:half] - at[half : 2 * half], axis=1)
    after = np.linalg.norm(to[:half] - to[half : 2 * half], axis=1)
    far = before > max(1.0, 0.25 * float(before.max()))
    return float(np.median(after[far] / before[far])) if far.any() else 1.0


def _best(weight: Floats, led: Box) -> Box:
    """The place near `led` of a box of its size that holds the most of a figure."""
    h, w = weight.shape
    whole = np.zeros((h + 1, w + 1))
    whole[1:, 1:] = weight.cumsum(axis=0).cumsum(axis=1)
    reach = np.linspace(-ROOM, ROOM, STEPS)
    x, y = led.x + reach[None] * led.w, led.y + reach[:, None] * led.h
    left, right = (np.clip(np.rint(x + k * led.w), 0, w).astype(int) for k in (0, 1))
    top, bottom = (np.clip(np.rint(y + k * led.h), 0, h).astype(int) for k in (0, 1))
    held = whole[bottom, right] - whole[top, right] - whole[bottom, left] + whole[top, left]
    near = 1 - FAR * (reach[None] ** 2 + reach[:, None] ** 2)
    i, j = np.unravel_index(int((held * near).argmax()), held.shape)
    return Box(float(x[0, j]), float(y[i, 0]), led.w, led.h)


def _middle(weight: Floats, box: Box) -> tuple[float, float]:
    """The middle of a figure's colours around a box, in parts of it."""
    part = within(box.grown(NEAR), *weight.shape)
    seen = weight[part] ** 2
    total = float(seen.sum())
    if total < 4:
        return 0.5, 0.5
    x = float(seen.sum(axis=0) @ np.arange(part[1].start, part[1].stop)) / total
    y = float(seen.sum(axis=1) @ np.arange(part[0].start, part[0].stop)) / total
    return (x - box.x) / box.w, (y - box.y) / box.h


def _settled(weight: Floats, box: Box, middle: tuple[float, float]) -> Box:
    """The box moved so that a figure's colours lie in it as they did at first (D. Comaniciu and P. Meer, Mean Shift, 2002)."""
    for _ in range(3):
        x, y = _middle(weight, box)
        box = Box(box.x + (x - middle[0]) * box.w, box.y + (y - middle[1]) * box.h, box.w, box.h)
    return box


def _held(weight: Floats, box: Box) -> float:
    return float(weight[within(box, *weight.shape)].sum())
