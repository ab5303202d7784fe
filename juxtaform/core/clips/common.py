"""What becomes otherwise all over a clip's picture: its light, and how colourful it is. Read from one measured frame to the next along the flow, so that
neither what moves nor a camera that moves looks like it."""

from __future__ import annotations

from collections.abc import Collection

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.clips.follow import Flow, Step
from juxtaform.core.colour.spaces import Floats, Pixels, linear_from_srgb8, oklab_from_linear
from juxtaform.core.picture.regions import Box

EACH = 48
"""About so many places are looked at along the picture's shorter side."""
FEWEST = 20
"""Fewer places than this tell nothing."""
DARK = 0.004
"""Added to linear light before its logarithm: what is darker is black."""
STEADY = 0.12
"""What flowed here has the light that it had, the common change taken out, within so much (log of luma): elsewhere the flow was lost."""
TINT_MOST = 1.6
"""One channel of the light changes at most so many times as much as the mean of all: what goes further is no light."""
PALE, COLOURFUL, BLACK = 0.02, 0.05, 0.15
"""Added to the colourfulness of a place; what has less in both frames has no colour to lose; what is darker (OKLab) shows none."""
COLOURED_LEAST = 0.05
"""Of the places that are looked at at least this part must have a colour."""
ALIKE = 0.1
"""The middle half of the places agrees within so much, or within the change itself."""
BLUR = (3, 3)


class Common:
    """`light` is the gain of linear light since the first frame, (3,); `colour` the log of how many times as colourful things are as at first; `nearer` how
    many times as large."""

    def __init__(self) -> None:
        self.light: Floats = np.ones(3)
        self.colour = 0.0
        self._before: tuple[Pixels, NDArray[np.float32]] | None = None

    def to(self, step: Step, figures: Collection[Box]) -> None:
        """The next measured frame; `figures` are where they stood in the one before, px of it."""
        seen = _colourfulness(step.small)
        if self._before is not None and step.moved is not None:
            small, colour = self._before
            at, to = _steady(small, step.small, step.moved, figures)
            if len(at[0]) >= FEWEST:
                self.light = self.light * _gain(small[at], step.small[to])
                self.colour += _log_ratio(colour[at], seen[to])
        self._before = (step.small, seen)


Places = tuple[NDArray[np.intp], NDArray[np.intp]]


def _steady(before: Pixels, after: Pixels, moved: Flow, figures: Collection[Box]) -> tuple[Places, Places]:
    """Places of the ground (rows, columns) in a frame and where they are in the next one, those that are seen in both and are the same thing there."""
    h, w = before.shape[:2]
    step = max(1, min(h, w) // EACH)
    y, x = np.mgrid[step // 2 : h : step, step // 2 : w : step].reshape(2, -1)
    to = np.rint(np.stack([x, y], axis=1) + moved[y, x]).astype(np.intp)
    kept = (to[:, 0] >= 0) & (to[:, 0] < w) & (to[:, 1] >= 0) & (to[:, 1] < h)
    for b in figures:
        kept &= ~((x > b.x) & (x < b.x + b.w) & (y > b.y) & (y < b.y + b.h))
    at, to = np.stack([y, x], axis=1)[kept], to[kept][:, ::-1]
    change = _luma(after[to[:, 0], to[:, 1]]) - _luma(before[at[:, 0], at[:, 1]])
    same = np.abs(change - np.median(change)) < STEADY if len(change) else np.zeros(0, bool)
    at, to = at[same], to[same]
    return (at[:, 0], at[:, 1]), (to[:, 0], to[:, 1])


def _luma(pixels: Pixels) -> Floats:
    return np.asarray(np.log(pixels @ np.array([0.299, 0.587, 0.114]) / 255 + 0.08))


def _gain(before: Pixels, after: Pixels) -> Floats:
    """The gain of linear light (3,) between pixels (n, 3): the median, no channel far from the mean of all."""
    one, other = linear_from_srgb8(before), linear_from_srgb8(after)
    logs = np.median(np.log((other + DARK) / (one + DARK)), axis=0)
    return np.asarray(np.exp(np.clip(logs, logs.mean() - np.log(TINT_MOST), logs.mean() + np.log(TINT_MOST))))


def _colourfulness(pixels: Pixels) -> NDArray[np.float32]:
    """How colourful each place is, whatever light falls on it: chroma over lightness."""
    lab = oklab_from_linear(linear_from_srgb8(pixels)).astype(np.float32)
    light = cv2.blur(np.ascontiguousarray(lab[..., 0]), BLUR)
    chroma = cv2.blur(np.hypot(lab[..., 1], lab[..., 2]), BLUR)
    return np.asarray(np.where(light > BLACK, chroma / (light + 0.1), 0.0), np.float32)


def _log_ratio(one: NDArray[np.float32], other: NDArray[np.float32]) -> float:
    """The log of how many times as colourful places became, where they became so alike; 0 where few of them have a colour."""
    kept = np.maximum(one, other) > COLOURFUL
    if kept.sum() < max(FEWEST, COLOURED_LEAST * kept.size):
        return 0.0
    low, middle, high = np.quantile(np.log((other[kept] + PALE) / (one[kept] + PALE)), (0.25, 0.5, 0.75))
    return float(middle) if high - low < max(ALIKE, abs(middle)) else 0.0
