"""Letters in a picture: where a network that finds text sees some."""

from __future__ import annotations

from dataclasses import dataclass
from threading import Lock

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Pixels
from juxtaform.core.picture.regions import Box, cut_out, halved, resized
from juxtaform.core.picture.trunk import network_of

SIDE = 448
"""The picture's longer side in px as the network sees it: letters of two hundredths of it are found."""
SEEN = 0.3
"""From this chance on a place is part of lettering."""
SURE = 0.72
"""A patch whose places have at least this chance on the whole is lettering."""
PATCH_LEAST = 24
"""Smaller patches, in px of the picture as the network sees it, are specks."""
GROWN = 0.12
"""The network sees the heart of letters; their rim is so much farther out."""
RUNS_LEAST = 5
"""A line through a word of three letters or more crosses so many strokes."""
LONG_LEAST = 1.3
"""Words are so much longer than they are high."""
TALL_LEAST = 2.0
"""From so many times as high as wide on a patch is read downwards."""
RIMS, CLOSE_SIDES = (0.4, 0.8), (320, 224)
"""A patch is looked at again with so much of its size around it at each side, at so many px."""
PATCHES_MOST = 12
"""So many patches are looked at again, the surest ones: a page of words is one whichever of them are counted."""
AGAIN_LEAST = 0.4
"""Letters are seen again in this part of a patch's width at one of these sizes at least."""
MEAN = np.array((0.485, 0.456, 0.406), dtype=np.float32)
SPREAD = np.array((0.229, 0.224, 0.225), dtype=np.float32)
"""Of the blue, green and red of the pictures that the network was trained on."""


@dataclass(frozen=True, slots=True)
class Lettering:
    """A patch of letters in px of the picture, and the chance 0..1 that it is one."""

    box: Box
    chance: float


class LetterEye:
    """A network that says of every place how likely it is part of text. Threads wait for each other."""

    def __init__(self, network: bytes) -> None:
        """`network` is an ONNX file of differentiable binarization (M. Liao et al., AAAI 2020). Raises ValueError when OpenCV cannot read it."""
        self._net = network_of(network)
        self._one_at_a_time = Lock()

    def lettering(self, pixels: Pixels) -> tuple[Lettering, ...]:
        """The lettering of an sRGB picture (h, w, 3), surest first; of a page full of words, a part of it."""
        height, width = pixels.shape[:2]
        w, h = _multiples(width, height, SIDE)
        chance = self._chances(_of_size(halved(pixels, SIDE), w, h))
        count, labels, stats, _ = cv2.connectedComponentsWithStats((chance > SEEN).astype(np.uint8), connectivity=8)
        found = []
        for i in range(1, count):
            x, y, bw, bh, area = (int(v) for v in stats[i])
            sure = float(chance[labels == i].mean())
            if area >= PATCH_LEAST and sure >= SURE:
                box = Box(x * width / w, y * height / h, bw * width / w, bh * height / h)
                seen = box.grown(GROWN).inside(width, height)
                if is_written(cut_out(pixels, seen)):
                    found.append(Lettering(seen, round(sure, 3)))
        surest = sorted(found, key=lambda f: -f.chance)[:PATCHES_MOST]
        return tuple(f for f in surest if self._seen_again(pixels, f.box))

    def _seen_again(self, pixels: Pixels, box: Box) -> bool:
        """Whether a patch is letters from nearer or farther too: a word is one at any size, teeth, a dotted shadow or two faces side by side at one alone."""
        for rim in RIMS:
            around = box.grown(rim).inside(pixels.shape[1], pixels.shape[0])
            crop = cut_out(pixels, around)
            for side in CLOSE_SIDES:
                w, h = _multiples(crop.shape[1], crop.shape[0], side)
                chance = self._chances(_of_size(crop, w, h))
                left, top = (box.x - around.x) / around.w * w, (box.y - around.y) / around.h * h
                right, bottom = left + box.w / around.w * w, top + box.h / around.h * h
                there = chance[int(top) : int(bottom) + 1, int(left) : int(right) + 1]
                if there.size and float((there.max(axis=0) > SEEN).mean()) >= AGAIN_LEAST:
                    return True
        return False

    def _chances(self, pixels: Pixels) -> NDArray[np.float32]:
        # The network was trained on pictures whose channels come blue first.
        scaled = (pixels[..., ::-1].astype(np.float32) / 255 - MEAN) / SPREAD
        with self._one_at_a_time:
            self._net.setInput(np.ascontiguousarray(scaled.transpose(2, 0, 1)[None]))
            return spread_out(np.array(self._net.forward()[0], dtype=np.float32))


def _multiples(width: int, height: int, side: int) -> tuple[int, int]:
    """The size in multiples of 32 px at which the longer side is about `side`."""
    w, h = (max(32, round(v * side / max(width, height) / 32) * 32) for v in (width, height))
    return w, h


def _of_size(pixels: Pixels, width: int, height: int) -> Pixels:
    smaller = width * height < pixels.shape[0] * pixels.shape[1]
    how = cv2.INTER_AREA if smaller else cv2.INTER_LINEAR
    return np.asarray(cv2.resize(pixels, (width, height), interpolation=how), np.uint8)


def spread_out(sixteen: NDArray[np.float32]) -> NDArray[np.float32]:
    """The chances (4 h, 4 w) of a picture whose every place (h, w) has sixteen (16, h, w): those of its quarters, each with its own four."""
    _, h, w = sixteen.shape
    return np.ascontiguousarray(sixteen.reshape(2, 2, 2, 2, h, w).transpose(4, 0, 2, 5, 1, 3).reshape(4 * h, 4 * w))


def is_written(patch: Pixels) -> bool:
    """Whether a patch (h, w, 3) holds a row of strokes, as a word does and a lamp or a pair of spectacles does not: lines along it cross many."""
    if patch.shape[0] > patch.shape[1] * TALL_LEAST:
        patch = np.ascontiguousarray(patch.transpose(1, 0, 2))
    if patch.shape[1] < LONG_LEAST * patch.shape[0]:
        return False
    grey = np.asarray(cv2.cvtColor(resized(patch, 320), cv2.COLOR_RGB2GRAY), np.uint8)
    _, halves = cv2.threshold(grey, 0, 1, cv2.THRESH_BINARY + cv2.THRESH_OTSU)
    reach = np.ones((max(3, grey.shape[0] // 2 | 1),) * 2, np.uint8)
    strokes = max((cv2.morphologyEx(grey, m, reach) for m in (cv2.MORPH_BLACKHAT, cv2.MORPH_TOPHAT)), key=np.mean)
    thin = (strokes > np.percentile(strokes, 95) / 2).astype(np.uint8)
    return max(_crossed(np.asarray(halves, np.uint8)), _crossed(thin)) >= RUNS_LEAST


def _crossed(ink: NDArray[np.uint8]) -> float:
    """How many strokes the lines through the middle of a row of letters (h, w) cross, the middle line of them."""
    top = round(0.3 * len(ink))
    lines = ink[top : max(top + 1, round(0.7 * len(ink)))]
    return float(np.median((np.abs(np.diff(lines.astype(np.int8), axis=1)) > 0).sum(axis=1) / 2))
