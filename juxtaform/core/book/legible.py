"""Whether words can be read on a picture, and where on it they are read best."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np

from juxtaform.core.colour.spaces import Floats, Pixels, linear_from_srgb8

Tone = Literal["dark", "light"]
LIGHT: dict[Tone, float] = {"dark": 0.013, "light": 1.0}
"""The relative luminance of words in near black (#1c1e20) and in white."""
LUMA = np.array((0.2126, 0.7152, 0.0722))
"""Relative luminance from linear sRGB (IEC 61966-2-1; WCAG 2.2)."""
CONTRAST_LEAST = 4.5
"""WCAG 2.2, success criterion 1.4.3."""
BUSY_MOST = 0.16
"""From this much change at the scale of letters on (log10 of luminance, root of the mean square), a ground pulls at the words. On constructed grounds: a smooth wash
has 0.003, soft brush marks 0.04, one hard edge across 0.1, hatching or rows of dark windows 0.3."""
NOT_READ = 0.1
"""So much of a ground may give less contrast than wanted: words are read over a spot."""


@dataclass(frozen=True)
class Legibility:
    """How words of a tone are read on a ground: the contrast (1..21) that nine tenths of the ground give at least, and how busy it is."""

    tone: Tone
    contrast: float
    busy: float

    @property
    def is_good(self) -> bool:
        return self.contrast >= CONTRAST_LEAST and self.busy <= BUSY_MOST


def luminance(pixels: Pixels) -> Floats:
    """The relative luminance (h, w), 0..1, of an sRGB picture (h, w, 3)."""
    return np.asarray(linear_from_srgb8(pixels) @ LUMA)


def legibility(ground: Floats, letter_px: float, tone: Tone | None = None) -> Legibility:
    """How words are read on a ground, given by its luminance (h, w); `letter_px` is the height of a small letter on it. Without a tone the better one is told.

    >>> legibility(np.full((40, 80), 0.9), 8).tone, round(legibility(np.full((40, 80), 0.9), 8).contrast, 1)
    ('dark', 15.1)
    """
    if tone is None:
        return max((legibility(ground, letter_px, t) for t in LIGHT), key=lambda found: found.contrast)
    if ground.size == 0:
        return Legibility(tone, 1.0, 0.0)
    busy = float(np.sqrt(np.mean(np.square(_detail(ground, letter_px)))))
    return Legibility(tone, float(np.quantile(_contrast(ground, tone), NOT_READ)), busy)


def _contrast(ground: Floats, tone: Tone) -> Floats:
    """The contrast of words of a tone with every place of a ground."""
    words = LIGHT[tone]
    return (np.maximum(ground, words) + 0.05) / (np.minimum(ground, words) + 0.05)


def _detail(ground: Floats, letter_px: float) -> Floats:
    """The change of a ground at the scale of letters: what is finer than a stroke and what is coarser than a letter is left out."""
    tones = np.log10(ground.astype(np.float32) + 0.05)
    stroke, letter = max(0.4, letter_px / 8), max(1.0, letter_px)
    return np.asarray(cv2.GaussianBlur(tones, (0, 0), stroke) - cv2.GaussianBlur(tones, (0, 0), letter), np.float64)


@dataclass(frozen=True)
class QuietPlace:
    """Where words are read best on a ground: the place of their box (left, top, in px), and how they are read there."""

    x: float
    y: float
    legible: Legibility


def quiet_place(ground: Floats, size: tuple[float, float], letter_px: float, free: Floats) -> QuietPlace | None:
    """The place for a box of words (width, height in px) on a ground (h, w): where contrast is enough and it is calmest, at the foot rather than elsewhere.
    `free` (h, w) is 1 where words may lie, and 0 in the gutter, on faces and near the edge. None where they fit nowhere."""
    h, w = ground.shape
    bw, bh = (max(1, math.ceil(v)) for v in size)
    if bw > w or bh > h:
        return None
    fits = _over_boxes((free < 0.5).astype(np.float64), bw, bh) < 0.5
    if not fits.any():
        return None
    area = bw * bh
    busy = np.sqrt(np.maximum(0.0, _over_boxes(np.square(_detail(ground, letter_px)), bw, bh) / area))
    unread = [_over_boxes((_contrast(ground, tone) < CONTRAST_LEAST).astype(np.float64), bw, bh) for tone in LIGHT]
    short = np.maximum(0.0, np.minimum(*unread) / area - NOT_READ)
    low = 1 - (np.arange(h - bh + 1)[:, None] + bh / 2) / h
    cost = np.where(fits, 2 * short + busy / BUSY_MOST + 0.15 * low, np.inf)
    y, x = np.unravel_index(int(np.argmin(cost)), cost.shape)
    return QuietPlace(float(x), float(y), legibility(ground[y : y + bh, x : x + bw], letter_px))


def _over_boxes(values: Floats, width: int, height: int) -> Floats:
    """The sum of values (h, w) over every box of a size that fits, by its left top corner."""
    whole = cv2.integral(values)
    inside = whole[height:, width:] - whole[:-height, width:] - whole[height:, :-width] + whole[:-height, :-width]
    return np.asarray(inside, np.float64)
