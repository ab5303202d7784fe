"""The hand of a picture as a network's first stages see it: how its places differ, whatever they show."""

from __future__ import annotations

from dataclasses import dataclass
from threading import Lock

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Floats, Pixels
from juxtaform.core.picture.trunk import Map, Whitening, network_of, taken

WIDTH, HEIGHT = 512, 288
STAGES = {"stem": 2, "stage1": 2, "stage2": 4, "stage3": 8}
"""The stages that a hand is read from, with how many px of the picture a place has at each side."""
OUTPUTS = (*(f"{stage}_{kind}" for stage in STAGES for kind in ("mean", "squares")), "stage3")
"""Of every stage the mean and the sum of squares of each channel over all places, and the last stage itself."""
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
        self._net = network_of(network)
        self.numbers, self.places = numbers, places
        self._one_at_a_time = Lock()

    def hand(self, pixels: Pixels) -> tuple[float, ...]:
        """The hand of an sRGB picture (h, w, 3): k + m numbers, of which distances count alone."""
        return self.look(pixels).hand

    def look(self, pixels: Pixels) -> HandLook:
        """The hand of an sRGB picture (h, w, 3), with the map that says what its places show."""
        (statistics, third), n = self._seen(pixels), self.numbers
        seen = (statistics - n.mean) / n.scale
        scores = np.concatenate([seen @ n.even / n.norms[0], seen @ n.telling / n.norms[1]])
        return HandLook(tuple(round(float(v), 4) for v in scores), third)

    def statistics(self, pixels: Pixels) -> Floats:
        """Mean and log spread of every channel over the picture, (1024,)."""
        return self._seen(pixels)[0]

    def _seen(self, pixels: Pixels) -> tuple[Floats, Map]:
        """The statistics, and the third stage."""
        small = np.asarray(cv2.resize(pixels, (WIDTH, HEIGHT), interpolation=cv2.INTER_AREA), dtype=np.uint8)
        with self._one_at_a_time:
            self._net.setInput(taken(small))
            *sums, third = (np.array(o[0], dtype=np.float32) for o in self._net.forward(OUTPUTS))
        parts: list[Floats] = []
        for px, mean, squares in zip(STAGES.values(), sums[::2], sums[1::2], strict=True):
            places, m = WIDTH * HEIGHT // px**2, mean.ravel().astype(np.float64)
            variance = np.maximum(0.0, squares.ravel() - places * m**2) / (places - 1)
            parts += [m, np.log(np.sqrt(variance) + LEAST_SPREAD)]
        return np.concatenate(parts), third
