"""Boxes on pictures, crops at a working size, and which pixels of a crop are the figure."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Floats, Pixels, linear_from_srgb8, oklab_from_linear

Outline = tuple[tuple[float, float], ...]
"""Corners of a closed outline in pixels of a picture."""

ENCLOSED_LEAST = 0.08
"""What has the ground's colour and is enclosed belongs to the figure when it is at least this part of it."""
PLAIN_GROUND_SHARE = 0.6
"""A ground is plain when one colour holds at least this part of the rim of a reference picture."""


@dataclass(frozen=True, slots=True)
class Box:
    """A rectangle in pixels of a picture: left edge, top edge, width, height."""

    x: float
    y: float
    w: float
    h: float

    def inside(self, width: int, height: int) -> Box:
        """This box cut to a picture of that size; raises ValueError when nothing is left."""
        x0, y0 = max(0.0, self.x), max(0.0, self.y)
        x1, y1 = min(float(width), self.x + self.w), min(float(height), self.y + self.h)
        if x1 - x0 < 2 or y1 - y0 < 2:
            raise ValueError(
                f"The box at {self.x:.0f}, {self.y:.0f} lies outside the picture of {width} × {height} px."
            )
        return Box(x0, y0, x1 - x0, y1 - y0)

    def scaled(self, by: float) -> Box:
        """This box on the picture at another size."""
        return Box(self.x * by, self.y * by, self.w * by, self.h * by)

    def grown(self, part: float) -> Box:
        """This box with each side moved outwards by `part` of the box's size."""
        return Box(self.x - self.w * part, self.y - self.h * part, self.w * (1 + 2 * part), self.h * (1 + 2 * part))


HEAD_PART = 0.34
"""The upper part of a standing figure's box that holds its head."""


def head_of(figure: Box) -> Box:
    """The upper part of a figure's box, where its head is."""
    return Box(figure.x, figure.y, figure.w, min(figure.h, max(figure.h * HEAD_PART, min(figure.w, figure.h))))


def shared_area(a: Box, b: Box) -> float:
    """The area that two boxes share, in px²."""
    w = min(a.x + a.w, b.x + b.w) - max(a.x, b.x)
    h = min(a.y + a.h, b.y + b.h) - max(a.y, b.y)
    return max(0.0, w) * max(0.0, h)


def overlap(a: Box, b: Box) -> float:
    """The part 0..1 of two boxes' union that both cover."""
    both = shared_area(a, b)
    return both / (a.w * a.h + b.w * b.h - both)


@dataclass(frozen=True)
class Crop:
    """A box's pixels at a working size.

    `linear` (h, w, 3) linear light; `figure` (h, w) the chance 0..1 that a pixel is the figure; `ground_like` (h, w)
    where a colour stands more often outside the box than in its figure; `cut` tells at which sides the picture's own
    edge cuts the box: left, top, right, bottom.
    """

    linear: Floats
    figure: Floats
    ground_like: NDArray[np.bool_]
    cut: tuple[bool, bool, bool, bool]

    @cached_property
    def places(self) -> Floats:
        """Centre of each pixel in the box, shape (h, w, 2): x and y, 0..1."""
        h, w = self.figure.shape
        ys, xs = np.mgrid[0:h, 0:w]
        return np.stack([(xs + 0.5) / w, (ys + 0.5) / h], axis=-1)

    @cached_property
    def lab(self) -> Floats:
        """OKLab of each pixel, shape (h * w, 3)."""
        return oklab_from_linear(self.linear.reshape(-1, 3))


def within(outline: Outline, points: Floats) -> NDArray[np.bool_]:
    """Which of `points` (n, 2), in pixels, lie inside a closed outline; shape (n,).

    The even-odd rule (Hormann and Agathos 2001, The point in polygon problem for arbitrary polygons): a ray to the
    right crosses the outline an odd number of times. Raises ValueError for fewer than three corners.

    >>> within(((0, 0), (10, 0), (0, 10)), np.array([[2.0, 2.0], [8.0, 8.0]])).tolist()
    [True, False]
    """
    if len(outline) < 3:
        raise ValueError(f"An outline needs three corners or more; this one has {len(outline)}.")
    x, y = points[:, :1], points[:, 1:]
    ax, ay = np.asarray(outline, dtype=np.float64).T
    bx, by = np.roll(ax, -1), np.roll(ay, -1)
    straddles = (ay > y) != (by > y)
    with np.errstate(divide="ignore", invalid="ignore"):
        crossing = ax + (y - ay) * (bx - ax) / (by - ay)
    return np.asarray((straddles & (x < crossing)).sum(axis=1) % 2 == 1)


def resized(pixels: Pixels, long_side: int) -> Pixels:
    """`pixels` (h, w, 3) with the longer side at most `long_side`, area-averaged; never enlarged."""
    pixels = halved(pixels, long_side)
    h, w = pixels.shape[:2]
    scale = long_side / max(h, w)
    if scale >= 1:
        return pixels
    size = (max(1, round(w * scale)), max(1, round(h * scale)))
    return np.asarray(cv2.resize(pixels, size, interpolation=cv2.INTER_AREA), dtype=np.uint8)


def halved(pixels: Pixels, least: int) -> Pixels:
    """`pixels` (h, w, 3) halved as long as the longer side stays at least `least`: exact halves take the library's fast path. The odd last row or column
    is left out."""
    h, w = pixels.shape[:2]
    while max(h, w) >= 2 * least and min(h, w) >= 4:
        pixels = np.asarray(
            cv2.resize(pixels[: h // 2 * 2, : w // 2 * 2], (w // 2, h // 2), interpolation=cv2.INTER_AREA),
            dtype=np.uint8,
        )
        h, w = pixels.shape[:2]
    return pixels


def cut_out(pixels: Pixels, box: Box) -> Pixels:
    """The pixels of `box`, rounded to whole pixels, of a picture (h, w, 3)."""
    b = box.inside(pixels.shape[1], pixels.shape[0])
    x0, y0 = int(b.x), int(b.y)
    return pixels[y0 : max(y0 + 2, round(b.y + b.h)), x0 : max(x0 + 2, round(b.x + b.w))]


def appearance_crop(pixels: Pixels, box: Box, long_side: int) -> Crop:
    """The crop of a figure in a picture; a rim outside the box is taken as certain ground."""
    height, width = pixels.shape[:2]
    tight = box.inside(width, height)
    loose = tight.grown(0.12).inside(width, height)
    scale = min(1.0, long_side / max(tight.w, tight.h))
    outer = resized(cut_out(pixels, loose), max(4, round(max(loose.w, loose.h) * scale)))
    h, w = outer.shape[:2]
    fx, fy = w / loose.w, h / loose.h
    x0, y0 = round((tight.x - loose.x) * fx), round((tight.y - loose.y) * fy)
    x1, y1 = max(x0 + 2, round(x0 + tight.w * fx)), max(y0 + 2, round(y0 + tight.h * fy))
    linear = linear_from_srgb8(outer)
    rim = np.ones((h, w), dtype=bool)
    rim[y0:y1, x0:x1] = False
    figure, ground_like = _figure_chance(oklab_from_linear(linear), rim)
    margin = 1.5
    cut = (
        tight.x <= margin,
        tight.y <= margin,
        tight.x + tight.w >= width - margin,
        tight.y + tight.h >= height - margin,
    )
    return Crop(linear[y0:y1, x0:x1], figure[y0:y1, x0:x1], ground_like[y0:y1, x0:x1], cut)


def reference_crop(pixels: Pixels, long_side: int, box: Box | None = None) -> Crop:
    """The crop of the figure on a reference picture, cut to the figure's own extent when its ground is plain."""
    whole = cut_out(pixels, box) if box else pixels
    small = resized(whole, long_side * 2)
    linear = linear_from_srgb8(small)
    mask = plain_ground(linear)
    if mask is None:
        if box:
            return appearance_crop(pixels, box, long_side)
        shrunk = resized(small, long_side)
        linear = linear_from_srgb8(shrunk)
        h, w = shrunk.shape[:2]
        rim = np.ones((h, w), dtype=bool)
        rim[h // 20 + 1 : h - h // 20 - 1, w // 20 + 1 : w - w // 20 - 1] = False
        return Crop(linear, *_figure_chance(oklab_from_linear(linear), rim), (False,) * 4)
    rows, columns = np.flatnonzero(~mask.all(axis=1)), np.flatnonzero(~mask.all(axis=0))
    if len(rows) < 3 or len(columns) < 3:
        return Crop(linear, np.ones(mask.shape), np.zeros(mask.shape, dtype=bool), (False,) * 4)
    window = (slice(rows[0], rows[-1] + 1), slice(columns[0], columns[-1] + 1))
    tight, figure = small[window], (~mask[window]).astype(np.uint8) * 255
    tight, figure = resized(np.ascontiguousarray(tight), long_side), resized(np.ascontiguousarray(figure), long_side)
    return Crop(linear_from_srgb8(tight), figure / 255.0, figure < 64, (False,) * 4)


def plain_ground(linear: Floats) -> NDArray[np.bool_] | None:
    """Where a plain ground shows, (h, w): pixels near the rim's main colour that are joined to the rim, and enclosed
    pixels of just that colour, as between an arm and a body; but not a large part, as a white shirt on white.

    Returns None when no one colour holds most of the rim.
    """
    lab = oklab_from_linear(linear)
    h, w = lab.shape[:2]
    t = max(1, min(h, w) // 40)
    rim = np.concatenate(
        [lab[:t].reshape(-1, 3), lab[-t:].reshape(-1, 3), lab[:, :t].reshape(-1, 3), lab[:, -t:].reshape(-1, 3)]
    )
    middle = np.median(rim, axis=0)
    for _ in range(2):
        near = ((rim - middle) ** 2).sum(-1) < 0.05**2
        if not near.any():
            return None
        middle = rim[near].mean(axis=0)
    if near.mean() < PLAIN_GROUND_SHARE:
        return None
    alike = (((lab - middle) ** 2).sum(-1) < 0.03**2).astype(np.uint8)
    _, labels = cv2.connectedComponents(np.pad(alike, 1, constant_values=1), connectivity=4)
    ground = np.asarray(labels[1:-1, 1:-1] == labels[0, 0])
    enclosed = (((lab - middle) ** 2).sum(-1) < 0.012**2) & ~ground
    ground = ground | (enclosed & ~large_parts(enclosed, ~ground))
    return None if ground.mean() > 0.985 else ground


def large_parts(enclosed: NDArray[np.bool_], silhouette: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Which of some enclosed pixels (h, w) in the ground's colour are the figure's: a shirt, a ghost, as they are a large part of all
    that the ground does not reach; the gap between an arm and a body is small."""
    count, labels, stats, _ = cv2.connectedComponentsWithStats(enclosed.astype(np.uint8), connectivity=4)
    large = 1 + np.flatnonzero(stats[1:, cv2.CC_STAT_AREA] > ENCLOSED_LEAST * silhouette.sum())
    return np.asarray(np.isin(labels, large)) if count > 1 else np.zeros_like(enclosed)


def _figure_chance(lab: Floats, rim: NDArray[np.bool_]) -> tuple[Floats, NDArray[np.bool_]]:
    """Chance of figure per pixel from how often its colour (OKLab cells) stands inside the box against the rim.

    Bayes with a centred prior: boxes are drawn round figures, so their middle is figure more often than their corners.
    """
    h, w = rim.shape
    inner = ~rim
    cells = np.floor(lab / 0.03).astype(np.int64) + 80
    _, index = np.unique(cells[..., 0] * 40000 + cells[..., 1] * 200 + cells[..., 2], return_inverse=True)
    index = index.reshape(h, w)
    count = int(index.max()) + 1
    rows, columns = np.flatnonzero(inner.any(axis=1)), np.flatnonzero(inner.any(axis=0))
    cy, cx = (rows[0] + rows[-1]) / 2, (columns[0] + columns[-1]) / 2
    ry, rx = max(1.0, len(rows) / 2), max(1.0, len(columns) / 2)
    ys, xs = np.mgrid[0:h, 0:w]
    radius = np.sqrt(((ys - cy) / ry) ** 2 + ((xs - cx) / rx) ** 2)
    prior = np.where(inner, np.clip(1.25 - 0.75 * radius, 0.15, 0.9), 0.02)
    ground = np.bincount(index[rim], minlength=count) / max(1, int(rim.sum())) if rim.any() else np.zeros(count)
    chance, ratio = prior, np.ones(count)
    for _ in range(2):
        inside = np.where(inner, chance, 0.0)
        figure = np.bincount(index.ravel(), inside.ravel(), count) / max(1e-9, float(inside.sum()))
        ratio = (figure + 1e-4) / (ground + 1e-4)
        odds = prior / (1 - prior) * np.clip(ratio[index], 0.015, 20.0)
        chance = odds / (1 + odds)
    soft = np.asarray(cv2.blur(np.where(inner, chance, 0.0), (3, 3)))
    return np.clip(soft, 0.0, 1.0), np.asarray(ratio[index] < 1.0)
