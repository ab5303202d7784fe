"""Whether a picture can serve as a reference: its figure's size, focus, ground, completeness, number, and colourfulness.

Nothing here looks for a human face: illustrated animals and machines are figures like any other.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.palette import palette
from juxtaform.core.colour.spaces import (
    Floats,
    Pixels,
    linear_from_srgb8,
    oklab_from_linear,
)
from juxtaform.core.picture.regions import plain_ground, resized

FITNESS_VERSION = "2"
SIDE = 320
FOCUS_SIDE = 900

CUT_SHARE = 0.04
"""A figure that covers more than this of a side of the picture is cut off there."""
SECOND_FIGURE = 0.3
"""Another body on the plain ground with at least this part of the largest one's area is a second figure."""


@dataclass(frozen=True)
class Fitness:
    """What is measured of a reference picture: size in px; the figure's share of height and width and its height in px (None
    without a plain ground); sides where it is cut off; how many figures; blur effect 0..1; strong chroma (OKLab); the main
    colours of the figure (hex codes are left to the caller) as linear RGB with shares."""

    width: int
    height: int
    plain: bool
    figure_height: float | None
    figure_width: float | None
    figure_px: int | None
    cut: tuple[str, ...]
    figures: int
    blur: float
    chroma: float
    paints: tuple[tuple[float, float, float, float], ...]


def fitness(pixels: Pixels) -> Fitness:
    """Measure a picture (h, w, 3) in sRGB."""
    h, w = pixels.shape[:2]
    small = resized(pixels, SIDE)
    linear = linear_from_srgb8(small)
    ground = plain_ground(linear)
    if ground is None:
        ground = _all_but_a_little(linear)
    body: NDArray[np.bool_] | None = None
    figures = 0
    cut: tuple[str, ...] = ()
    tall = wide = None
    if ground is not None:
        body = _opened(~ground)
        figures, box = _bodies(body)
        if figures:
            y0, y1, x0, x1 = box
            tall, wide = (y1 - y0) / small.shape[0], (x1 - x0) / small.shape[1]
            cut = _cut_sides(body)
            if {"left", "right"} <= set(cut) or len(cut) > 2:  # What spans the picture is a part of the ground.
                ground, tall, wide, cut, figures = None, None, None, (), 0
    lab = oklab_from_linear(linear)
    inside = body if body is not None and body.any() else np.ones(lab.shape[:2], dtype=bool)
    chroma = np.hypot(lab[..., 1], lab[..., 2])
    strong = np.sort(chroma.ravel())[-max(1, chroma.size // 4) :]
    paints = palette(linear[inside], 8)
    return Fitness(
        w,
        h,
        ground is not None,
        tall,
        wide,
        None if tall is None else round(tall * h),
        cut,
        figures,
        round(blur_effect(resized(pixels, FOCUS_SIDE)), 4),
        float(strong.mean()),
        tuple((*p.linear, p.share) for p in paints),
    )


def blur_effect(pixels: Pixels, size: int = 11) -> float:
    """How soft a picture (h, w, 3) is, 0 (crisp) to 1: how little its steps lose when it is blurred once more.

    Source: F. Crété-Roffet, T. Dolmiere, P. Ladret and M. Nicolas, "The blur effect: perception and estimation with a new
    no-reference perceptual blur metric", Proc. SPIE 6492, 2007. The larger of both directions is taken; a picture without
    steps counts as crisp.
    """
    grey = cv2.cvtColor(np.ascontiguousarray(pixels), cv2.COLOR_RGB2GRAY).astype(np.float32)
    effects = []
    for axis in (0, 1):
        kernel = (1, size) if axis == 0 else (size, 1)
        soft = cv2.blur(grey, kernel)
        sharp_step, soft_step = np.abs(np.diff(grey, axis=axis)), np.abs(np.diff(soft, axis=axis))
        lost = np.maximum(0.0, sharp_step - soft_step)
        total = float(sharp_step.sum())
        effects.append((total - float(lost.sum())) / total if total > 1e-3 * grey.size else 0.0)
    return max(effects)


def _all_but_a_little(linear: Floats) -> NDArray[np.bool_] | None:
    """The ground of a picture that is nothing but ground save for a very small figure; None for others."""
    lab = oklab_from_linear(linear)
    near = ((lab - np.median(lab.reshape(-1, 3), axis=0)) ** 2).sum(-1) < 0.05**2
    return near if 0.97 < near.mean() < 0.9995 else None


def _opened(mask: NDArray[np.bool_]) -> NDArray[np.bool_]:
    return np.asarray(cv2.morphologyEx(mask.astype(np.uint8), cv2.MORPH_OPEN, np.ones((3, 3), np.uint8)) > 0)


def _bodies(mask: NDArray[np.bool_]) -> tuple[int, tuple[int, int, int, int]]:
    """How many separate bodies a figure mask holds, parts that lie close counted as one, and the largest one's box."""
    reach = max(3, mask.shape[0] // 40)
    joined = cv2.dilate(mask.astype(np.uint8), np.ones((reach, reach), np.uint8))
    count, labels, stats, _ = cv2.connectedComponentsWithStats(joined, connectivity=8)
    if count < 2:
        return 0, (0, 0, 0, 0)
    areas = np.array([float((mask & (labels == i)).sum()) for i in range(1, count)])
    largest = int(areas.argmax()) + 1
    x, y, w, h = (int(v) for v in stats[largest, :4])
    return int((areas >= SECOND_FIGURE * areas.max()).sum()), (y, y + h, x, x + w)


def _cut_sides(mask: NDArray[np.bool_]) -> tuple[str, ...]:
    sides = (("top", mask[0]), ("bottom", mask[-1]), ("left", mask[:, 0]), ("right", mask[:, -1]))
    return tuple(name for name, line in sides if line.mean() > CUT_SHARE)
