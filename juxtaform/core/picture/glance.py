"""A picture at a glance: so few numbers that thousands of pictures are held at once, and enough to see that two are nearly one."""

from __future__ import annotations

import base64
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Pixels

ACROSS, DOWN = 32, 22
REACH = 1
"""Two pictures may lie so many cells off each other."""


@dataclass(frozen=True)
class Glance:
    """Luma codes of a picture, (DOWN, ACROSS)."""

    luma: NDArray[np.uint8]

    @staticmethod
    def of(text: str) -> Glance:
        """The glance that `written` wrote."""
        return Glance(np.frombuffer(base64.b64decode(text), np.uint8).reshape(DOWN, ACROSS))

    def written(self) -> str:
        """The glance as text."""
        return base64.b64encode(self.luma.tobytes()).decode()


def glance(pixels: Pixels) -> Glance:
    """An sRGB picture (h, w, 3) at a glance; its form is left out."""
    small = cv2.resize(pixels, (ACROSS, DOWN), interpolation=cv2.INTER_AREA)
    return Glance(np.asarray(cv2.cvtColor(small, cv2.COLOR_RGB2GRAY), np.uint8))


def alike(a: Glance, b: Glance) -> float:
    """The correlation -1..1 of two pictures, the best within a cell's shift.

    >>> flat = Glance(np.zeros((DOWN, ACROSS), np.uint8))
    >>> alike(flat, flat)
    1.0
    """
    best = -1.0
    ours = a.luma.astype(np.float64)[REACH:-REACH, REACH:-REACH].ravel()
    ours -= ours.mean()
    for dy in range(-REACH, REACH + 1):
        for dx in range(-REACH, REACH + 1):
            theirs = b.luma[REACH + dy : DOWN - REACH + dy, REACH + dx : ACROSS - REACH + dx].astype(np.float64).ravel()
            theirs -= theirs.mean()
            size = float(np.linalg.norm(ours) * np.linalg.norm(theirs))
            best = max(
                best, 1.0 if size == 0 and np.array_equal(ours, theirs) else float(ours @ theirs) / max(size, 1e-9)
            )
    return best
