"""Drawn figures in other proportions."""

from __future__ import annotations

from collections.abc import Callable

import cv2
import numpy as np

from bench.art.staging import Rgba

HEAD = 0.4
"""The upper part of a figure that is drawn larger or smaller."""


def _headed(seen: Rgba, times: float) -> Rgba:
    """A figure whose upper part is so many times as large."""
    cut = int(HEAD * seen.shape[0])
    head = cv2.resize(
        seen[:cut], None, fx=times, fy=times, interpolation=cv2.INTER_AREA if times < 1 else cv2.INTER_LINEAR
    )
    wide = max(head.shape[1], seen.shape[1])
    page = np.zeros((head.shape[0] + seen.shape[0] - cut, wide, 4), np.uint8)
    for part, top in ((head, 0), (seen[cut:], head.shape[0])):
        left = (wide - part.shape[1]) // 2
        page[top : top + part.shape[0], left : left + part.shape[1]] = part
    return page


def _stretched(seen: Rgba, times: float) -> Rgba:
    """A figure so many times as tall for its width."""
    h, w = seen.shape[:2]
    size = (w, max(1, int(h * times))) if times > 1 else (max(1, int(w / times)), h)
    return np.asarray(cv2.resize(seen, size, interpolation=cv2.INTER_LINEAR), dtype=np.uint8)


RESHAPED: dict[str, Callable[[Rgba], Rgba]] = {
    "upper part 1.3 times": lambda seen: _headed(seen, 1.3),
    "upper part 1.6 times": lambda seen: _headed(seen, 1.6),
    "upper part 0.7 times": lambda seen: _headed(seen, 0.7),
    "0.7 times as tall": lambda seen: _stretched(seen, 0.7),
    "1.4 times as tall": lambda seen: _stretched(seen, 1.4),
}
"""In which proportions a figure is drawn."""
