"""The hand of a picture as a network's first stages see it: how its places differ, whatever they show."""

from __future__ import annotations

from dataclasses import dataclass
from threading import Lock

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Floats, Pixels
from juxtaform.core.picture.trunk import Map, Whitening, scaled

WIDTH, HEIGHT = 512, 288
OUTPUTS = ("stem", "stage1", "stage2", "stage3")
LEAST_SPREAD = 1e-2
"""A statistic spreads at least this much: one that never moved tells nothing by moving a little."""


@dataclass(frozen=True)
class HandNumbers:
    """What the statistics (n,) of a picture become: standardised by `mean` and `scale`, then turned by `even` (n, k), in which
    pictures of one hand spread evenly whatever they show, and by `telling` (n, m), in which hands lie apart. `norms` are the
    middle distances of two pictures of one hand in both."""

    mean: NDArray[np.float32]
    scale: NDArray[np.float32]
    even: NDArray[np.float32]
    telling: NDArray[np.float32]
    norms: tuple[float, float]


@dataclass(frozen=True)
class HandLook:
    """The hand of a picture, and the network's third stage (channels, rows, columns) that it was read from."""

    hand: tuple[float, ...]
    third: Map


class HandEye:
    """The network's stem and first three stages. Threads wait for each other."""

    def __init__(self, network: bytes, numbers: HandNumbers, places: Whitening | None = None) -> None:
        """`network` is an ONNX file with the outputs `OUTPUTS`; `places` whitens its third stage. Raises ValueError when OpenCV cannot read it."""
        try:
            self._net = cv2.dnn.readNetFromONNX(np.frombuffer(network, np.uint8))
        except cv2.error as error:
            raise ValueError("The network's file cannot be read.") from error
        self.numbers, self.places = numbers, places
        self._one_at_a_time = Lock()

    def hand(self, pixels: Pixels) -> tuple[float, ...]:
        """The hand of an sRGB picture (h, w, 3): k + m numbers, of which distances count alone."""
        return self.look(pixels).hand

    def look(self, pixels: Pixels) -> HandLook:
        """The hand of an sRGB picture (h, w, 3), with the map that says what its places show."""
        maps, n = self._maps(pixels), self.numbers
        seen = (_statistics(maps) - n.mean) / n.scale
        scores = np.concatenate([seen @ n.even / n.norms[0], seen @ n.telling / n.norms[1]])
        return HandLook(tuple(round(float(v), 4) for v in scores), maps[-1])

    def statistics(self, pixels: Pixels) -> Floats:
        """Mean and log spread of every channel over the picture, (1024,)."""
        return _statistics(self._maps(pixels))

    def _maps(self, pixels: Pixels) -> list[Map]:
        small = np.asarray(cv2.resize(pixels, (WIDTH, HEIGHT), interpolation=cv2.INTER_AREA), dtype=np.uint8)
        with self._one_at_a_time:
            self._net.setInput(np.ascontiguousarray(scaled(small).transpose(2, 0, 1)[None]))
            return [np.array(o[0], dtype=np.float32) for o in self._net.forward(OUTPUTS)]


def _statistics(maps: list[Map]) -> Floats:
    parts = []
    for seen in maps:
        flat = seen.reshape(seen.shape[0], -1)
        parts += [flat.mean(axis=1), np.log(flat.std(axis=1, ddof=1) + LEAST_SPREAD)]
    return np.asarray(np.concatenate(parts), dtype=np.float64)
