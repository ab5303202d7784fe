"""Pictures held open: decoded once and halved again and again, so that any part of a large one is read quickly at any size."""

from __future__ import annotations

import io
import threading
from collections import OrderedDict
from collections.abc import Callable

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image

Pixels = NDArray[np.uint8]

TILE = 512
"""The side of a tile in px; it has one row and column more, which the next ones have too, so that no seam is seen between them."""
SMALLEST = 256
"""Halving ends at the level whose longer side is at most this."""
MOST_OPEN_PIXELS = 60_000_000
"""Pictures are held open as long as they have no more pixels together; the one that was read last always is."""
TILE_QUALITY = 93


class Pyramids:
    """Pictures of a store, held open while they are looked at. Level 0 is the whole picture, each next one half as large."""

    def __init__(self, pixels: Callable[[str], Pixels], most: int = MOST_OPEN_PIXELS) -> None:
        """`pixels` gives a picture's sRGB pixels (h, w, 3) by its digest; what it raises passes through."""
        self._pixels, self._most = pixels, most
        self._open: OrderedDict[str, tuple[Pixels, ...]] = OrderedDict()
        self._opening: dict[str, threading.Lock] = {}
        self._lock = threading.Lock()

    def levels(self, sha: str) -> tuple[Pixels, ...]:
        """A picture and its halvings. Whoever asks while another opens it waits for that one."""
        with self._lock:
            if (known := self._touched(sha)) is not None:
                return known
            opening = self._opening.setdefault(sha, threading.Lock())
        with opening:
            with self._lock:
                if (known := self._touched(sha)) is not None:
                    return known
            levels = halved(self._pixels(sha))
            with self._lock:
                self._open[sha] = levels
                self._opening.pop(sha, None)
                self._close_some()
        return levels

    def tile(self, sha: str, level: int, column: int, row: int) -> bytes:
        """A tile as JPEG with all of its colours. Raises IndexError for one that is not there."""
        levels = self.levels(sha)
        if not 0 <= level < len(levels):
            raise IndexError(level)
        top, left = row * TILE, column * TILE
        part = levels[level][top : top + TILE + 1, left : left + TILE + 1]
        if row < 0 or column < 0 or not part.size:
            raise IndexError((column, row))
        out = io.BytesIO()
        Image.fromarray(part).save(out, "JPEG", quality=TILE_QUALITY, subsampling=0)
        return out.getvalue()

    def whole(self, sha: str) -> Pixels:
        """A picture's own pixels."""
        return self.levels(sha)[0]

    def _touched(self, sha: str) -> tuple[Pixels, ...] | None:
        if sha in self._open:
            self._open.move_to_end(sha)
        return self._open.get(sha)

    def _close_some(self) -> None:
        while len(self._open) > 1 and sum(v[0].shape[0] * v[0].shape[1] for v in self._open.values()) > self._most:
            self._open.popitem(last=False)


def halved(pixels: Pixels) -> tuple[Pixels, ...]:
    """A picture (h, w, 3) and its halvings, each the mean of 2 x 2 px of the one before; sides are rounded up.

    >>> [level.shape[:2] for level in halved(np.zeros((700, 1001, 3), np.uint8))]
    [(700, 1001), (350, 501), (175, 251)]
    """
    levels = [pixels]
    while max(levels[-1].shape[:2]) > SMALLEST:
        h, w = levels[-1].shape[:2]
        size = (max(1, -(-w // 2)), max(1, -(-h // 2)))
        levels.append(np.asarray(cv2.resize(levels[-1], size, interpolation=cv2.INTER_AREA), dtype=np.uint8))
    return tuple(levels)
