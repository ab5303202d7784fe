"""The trunk: the first stages of an image network, run on pictures, each place of their maps whitened."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from threading import Lock

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Pixels

Map = NDArray[np.float32]
"""Numbers of every place of a picture: (channels, rows, columns)."""
Maps = tuple[Map, Map, Map]
"""Stage 3 (a place is 8 px), stage 4 and stage 5 (16 px)."""

SIDE = 224
"""Pictures of figures are laid on a square of this many px: the side that the network was trained at."""
OUTPUTS = ("stage3", "stage4", "stage5")


@dataclass(frozen=True)
class Whitening:
    """Mean (n,) of a stage's n channels over drawn art, and the turn (n, k) onto k numbers of about equal spread."""

    mean: NDArray[np.float32]
    turn: NDArray[np.float32]

    @cached_property
    def middle(self) -> NDArray[np.float32]:
        """The turned mean, (k, 1)."""
        return np.asarray(self.turn.T @ self.mean[:, None], dtype=np.float32)


class Trunk:
    """The network with its whitening. A run keeps its state in the network, so threads wait for each other."""

    def __init__(self, network: bytes, scene: bytes, whitening: tuple[Whitening, Whitening, Whitening]) -> None:
        """`network` is an ONNX file with the outputs `OUTPUTS`, `scene` the same as far as stage 4. Raises ValueError when OpenCV cannot read them."""
        self._net, self._scene = network_of(network), network_of(scene)
        self._whitening = whitening
        self._one_at_a_time = Lock()

    def maps(self, pixels: Pixels) -> Maps:
        """The whitened maps of sRGB `pixels` (h, w, 3), h and w multiples of 32."""
        with self._one_at_a_time:
            self._net.setInput(taken(pixels))
            seen = [np.array(o[0]) for o in self._net.forward(OUTPUTS)]
        third, fourth, fifth = (_whitened(one, white) for one, white in zip(seen, self._whitening, strict=True))
        return third, fourth, fifth

    def early(self, pixels: Pixels) -> tuple[Map, Map]:
        """The maps of stages 3 and 4 alone, which cost two thirds of all."""
        with self._one_at_a_time:
            self._scene.setInput(taken(pixels))
            seen = [np.array(o[0]) for o in self._scene.forward(OUTPUTS[:2])]
        third, fourth = (_whitened(one, white) for one, white in zip(seen, self._whitening, strict=False))
        return third, fourth

    def fourth(self, pixels: Pixels) -> Map:
        """The map of stage 4 alone."""
        with self._one_at_a_time:
            self._scene.setInput(taken(pixels))
            seen = np.array(self._scene.forward(OUTPUTS[1])[0])
        return _whitened(seen, self._whitening[1])


def network_of(file: bytes) -> cv2.dnn.Net:
    """A network read from an ONNX file. Raises ValueError when OpenCV cannot read it."""
    try:
        return cv2.dnn.readNetFromONNX(np.frombuffer(file, np.uint8))
    except cv2.error as error:
        raise ValueError("The network's file cannot be read.") from error


def taken(pixels: Pixels) -> NDArray[np.float32]:
    """sRGB 0..255 (h, w, 3) as the network takes it, (1, 3, h, w): (v - 127) / 128, about -1..1."""
    planes = np.empty((1, 3, *pixels.shape[:2]), np.float32)
    np.subtract(pixels.transpose(2, 0, 1), np.float32(127), out=planes[0], dtype=np.float32)
    planes /= 128
    return planes


def unit(vectors: Map) -> Map:
    """Every place's numbers scaled to length 1, so that a dot product is a cosine."""
    return np.asarray(vectors / (np.linalg.norm(vectors, axis=0, keepdims=True) + 1e-8), dtype=np.float32)


def _whitened(seen: Map, white: Whitening) -> Map:
    channels, rows, columns = seen.shape
    flat = white.turn.T @ seen.reshape(channels, -1)
    flat -= white.middle
    return np.asarray(flat.reshape(-1, rows, columns), dtype=np.float32)
