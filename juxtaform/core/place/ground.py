"""The ground of a picture in cells: what the network sees in each, and its tone; so few numbers that a whole project's are held at once."""

from __future__ import annotations

import base64
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Pixels, linear_from_srgb8
from juxtaform.core.picture.trunk import Map, Whitening, unit

ROWS, COLUMNS = 8, 14
"""Cells of a picture, whatever its form."""
STOP = 12.0
"""Tones are kept in twelfths of a stop."""
DARKEST = 2.0**-10
"""Linear light below which everything is black."""


@dataclass(frozen=True, slots=True)
class PlaceMap:
    """A picture's cells, row by row, as text: `numbers` the network's unit vector of each as signed bytes, `tones` log2 of its linear red, green and blue
    in twelfths of a stop."""

    numbers: str
    tones: str

    def read(self) -> tuple[NDArray[np.float32], NDArray[np.float32]]:
        """Unit vectors (cells, n) and tones in stops (cells, 3)."""
        cells = ROWS * COLUMNS
        numbers = np.frombuffer(base64.b64decode(self.numbers), np.int8).reshape(cells, -1).astype(np.float32)
        tones = np.frombuffer(base64.b64decode(self.tones), np.int8).reshape(cells, 3).astype(np.float32) / np.float32(
            STOP
        )
        return numbers / np.maximum(1e-6, np.linalg.norm(numbers, axis=1, keepdims=True)), tones


def place_map(third: Map, white: Whitening, pixels: Pixels) -> PlaceMap:
    """The cells of an sRGB picture (h, w, 3), of which the network's third stage (channels, rows, columns) is given."""
    channels = len(third)
    # Cells are means, and whitening is linear: it is done on the few, not on the many.
    small = np.stack([cv2.resize(one, (COLUMNS, ROWS), interpolation=cv2.INTER_AREA) for one in third])
    seen = white.turn.T @ (small.reshape(channels, -1) - white.mean[:, None])
    numbers = np.round(
        unit(np.asarray(seen.reshape(-1, ROWS, COLUMNS), np.float32)).reshape(-1, ROWS * COLUMNS).T * 127
    )
    tones = np.log2(
        np.maximum(
            linear_from_srgb8(np.asarray(cv2.resize(pixels, (COLUMNS, ROWS), interpolation=cv2.INTER_AREA), np.uint8)),
            DARKEST,
        )
    )
    coded = np.clip(np.round(tones.reshape(-1, 3) * STOP), -127, 127)
    return PlaceMap(_text(numbers), _text(coded))


def _text(values: NDArray[np.floating]) -> str:
    return base64.b64encode(np.ascontiguousarray(values.astype(np.int8)).tobytes()).decode()
