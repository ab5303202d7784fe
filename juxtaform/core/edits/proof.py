"""Proof of an edit: where outside its area a picture changed, after all that is harmless is taken out, beside the noise of the pair itself."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Pixels, delta_e_2000, lab_from_linear, linear_from_srgb
from juxtaform.core.edits.area import Mask
from juxtaform.core.edits.fit import Bools, Plane, fitted
from juxtaform.core.picture.regions import Box, resized

PROOF_VERSION = "1"
PROOF_SIDE = 960
"""The longer side in px at which two pictures are compared."""
BLOCK = 8
"""The side in px of the blocks whose differences are counted."""
RIM = 0.012
"""Around the area nothing is counted so far (a part of the longer side): whoever blends in a part needs a seam."""
CODES = np.array([255.0, 127.5, 127.5], np.float32)
EVEN_PX = 1.2
"""Both pictures are made even with this blur before they are compared (standard deviation in px)."""
REACH_PX = 1
"""What lies one px beside its place is in its place: resampling moves edges by less."""
FLOOR_LEAST = 0.35
"""The noise of two equal pictures in codes: rounding to 8 bits."""
CHANGED = 6.5
"""A block stands out when it differs by so many noises: set on pairs made in the house, above what recompression alone brought (6.0)."""
GROUPS, GROUP_LEAST = 24, 40
"""Blocks are put into so many groups by their unrest, each of at least so many."""
REPAINTED_FLOOR = 3.0
"""The noise of a pair, in codes, from which the whole picture is said to have been painted anew: twice what JPEG at quality 60 leaves."""
MOST_PLACES = 12


@dataclass(frozen=True)
class ChangedPlace:
    """Where outside the area something changed, in px of the earlier picture: by how much (CIEDE2000 of the mean colours of its strongest block), and
    how many noises that is."""

    box: Box
    delta: float
    strength: float


@dataclass(frozen=True)
class EditProof:
    """What an edit did outside its area. `strength` is the strongest change there in noises of the pair itself; `floor` that noise (codes, in
    even parts); `places` where it stands out, the strongest first; `share` the part of the outside that changed; `fit` what was harmless;
    `strengths` a map of noises, a row of blocks after the other, `columns` wide."""

    strength: float
    floor: float
    places: tuple[ChangedPlace, ...]
    share: float
    shift_px: float
    stops: float
    blur: float
    resized: bool
    strengths: tuple[float, ...]
    columns: int

    @property
    def changed(self) -> bool:
        return bool(self.places)


def proof(before: Pixels, after: Pixels, mask: Mask) -> EditProof:
    """Compare a picture (h, w, 3) with what an edit of the masked area (h, w) made of it, of any size. Raises ValueError when nearly all of the
    picture lies in the area."""
    one, other, outside = brought(before, after, mask)
    if outside.mean() < 0.02:
        raise ValueError("The area is nearly all of the picture: nothing is left to compare.")
    a, b, there, fit = fitted(one, other, outside)
    counted = outside & there
    off = _apart(_even(a), _even(b))
    noise, floor = _noise(off, a, b, counted)
    strengths = np.asarray(_blocks(off, counted) / noise, dtype=np.float32)
    places = _places(strengths, a, b, before.shape[1] / one.shape[1])
    seen = ~np.isnan(strengths)
    return EditProof(
        float(np.nanmax(strengths)) if seen.any() else 0.0,
        floor,
        places,
        float((strengths[seen] > CHANGED).mean()) if seen.any() else 0.0,
        fit.shift_px * before.shape[1] / one.shape[1],
        fit.stops,
        fit.blur,
        before.shape != after.shape,
        tuple(round(float(v), 2) if np.isfinite(v) else -1.0 for v in strengths.ravel()),
        strengths.shape[1],
    )


def brought(before: Pixels, after: Pixels, mask: Mask) -> tuple[Pixels, Pixels, Bools]:
    """Both pictures at the working size, and what lies outside the area and its rim."""
    one = resized(before, PROOF_SIDE)
    h, w = one.shape[:2]
    how = cv2.INTER_AREA if after.shape[0] > h else cv2.INTER_CUBIC
    other = np.asarray(cv2.resize(after, (w, h), interpolation=how), dtype=np.uint8)
    inside = cv2.resize(mask, (w, h), interpolation=cv2.INTER_AREA) > 0.004
    rim = 2 * max(1, round(RIM * max(h, w))) + 1
    grown = cv2.dilate(inside.astype(np.uint8), cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (rim, rim)))
    return one, other, grown == 0


def _even(codes: Plane) -> Plane:
    """What is left when grain is averaged: compression and resampling take grain away unevenly, a change of a thing moves the mean."""
    return np.asarray(cv2.GaussianBlur(codes, (0, 0), EVEN_PX), dtype=np.float32)


def _codes(codes: Plane) -> Plane:
    """Luma and chroma codes, chroma by half: the noise of a picture file lives there, and compression takes chroma twice as coarsely (ITU-T T.81,
    annex K). In CIELAB a dark colour's rounding would look like a change."""
    return np.asarray(cv2.cvtColor(np.ascontiguousarray(codes / 255.0, dtype=np.float32), cv2.COLOR_RGB2YCrCb)) * CODES


def _apart(a: Plane, b: Plane) -> NDArray[np.float32]:
    """How far each pixel's codes lie from the range of its neighbours in the other picture, both ways the larger: what only moved by
    a pixel is not apart, a thin line that came or went is."""
    one, other = _codes(a), _codes(b)
    return np.maximum(_beyond(one, other), _beyond(other, one))


def _beyond(one: Plane, other: Plane) -> NDArray[np.float32]:
    around = np.ones((2 * REACH_PX + 1, 2 * REACH_PX + 1), np.uint8)
    most, least = cv2.dilate(other, around), cv2.erode(other, around)
    over = np.maximum(one - most, 0) + np.maximum(least - one, 0)
    return np.asarray(np.sqrt((over**2).sum(axis=-1)), dtype=np.float32)


def _noise(off: NDArray[np.float32], a: Plane, b: Plane, counted: Bools) -> tuple[NDArray[np.float32], float]:
    """How much each block is expected to differ: what most blocks of its unrest do. Compression and resampling differ more where there is more to
    see, so blocks are put into groups by their own unrest. Returns the noise of each block, and that of the calmest."""
    unrest = _blocks(_slope(a) + _slope(b), counted)
    differs = _blocks(off, counted)
    known = np.isfinite(differs)
    order = np.argsort(unrest[known])
    parts = np.array_split(order, min(GROUPS, max(1, len(order) // GROUP_LEAST)))
    values, unrests = differs[known], unrest[known]
    at = np.array([float(unrests[p].mean()) for p in parts])
    # More unrest never means less noise.
    levels = np.maximum.accumulate([max(FLOOR_LEAST, _typical(values[p])) for p in parts])
    # Beyond the last group noise grows with the unrest.
    expected = np.interp(unrests, at, levels) * np.maximum(1.0, unrests / max(1e-6, at[-1]))
    noise = np.full(differs.shape, np.nan, np.float32)
    noise[known] = expected
    return noise, float(levels[0])


def _typical(values: NDArray[np.float32]) -> float:
    """A level that most values keep below: middle and spread of the lower three quarters, so that a change of a quarter does not raise it."""
    if not values.size:
        return 0.0
    middle = float(np.median(values))
    spread = float(np.quantile(values, 0.75) - middle) / 0.6745
    return middle + spread


def _slope(codes: Plane) -> NDArray[np.float32]:
    grey = cv2.cvtColor(np.ascontiguousarray(codes), cv2.COLOR_RGB2GRAY)
    return np.asarray(
        cv2.magnitude(cv2.Sobel(grey, cv2.CV_32F, 1, 0, scale=1 / 8), cv2.Sobel(grey, cv2.CV_32F, 0, 1, scale=1 / 8))
    )


def _blocks(plane: NDArray[np.float32], counted: Bools) -> NDArray[np.float32]:
    """The mean of every block over its counted pixels; NaN where fewer than half are counted."""
    h, w = plane.shape
    rows, columns = -(-h // BLOCK), -(-w // BLOCK)
    padded = np.zeros((2, rows * BLOCK, columns * BLOCK), np.float32)
    padded[0, :h, :w] = plane * counted
    padded[1, :h, :w] = counted
    total, count = padded.reshape(2, rows, BLOCK, columns, BLOCK).sum(axis=(2, 4))
    return np.where(count >= BLOCK * BLOCK / 2, total / np.maximum(count, 1), np.nan).astype(np.float32)


def _places(strengths: NDArray[np.float32], a: Plane, b: Plane, scale: float) -> tuple[ChangedPlace, ...]:
    stands_out = np.nan_to_num(strengths, nan=0.0) > CHANGED
    joined = cv2.dilate(stands_out.astype(np.uint8), np.ones((3, 3), np.uint8))
    count, labels = cv2.connectedComponents(joined, connectivity=8)
    found = []
    for i in range(1, count):
        own = stands_out & (labels == i)
        rows, columns = np.nonzero(own)
        x0, y0, x1, y1 = columns.min(), rows.min(), columns.max() + 1, rows.max() + 1
        wide, high = min(x1 * BLOCK, a.shape[1]) - x0 * BLOCK, min(y1 * BLOCK, a.shape[0]) - y0 * BLOCK
        at = np.flatnonzero(own.ravel())[int(np.argmax(strengths[own]))]
        box = Box(*(float(v * scale) for v in (x0 * BLOCK, y0 * BLOCK, wide, high)))
        delta = _delta(a, b, int(at) // strengths.shape[1], int(at) % strengths.shape[1])
        found.append(ChangedPlace(box, delta, float(strengths[own].max())))
    return tuple(sorted(found, key=lambda p: -p.strength)[:MOST_PLACES])


def _delta(a: Plane, b: Plane, row: int, column: int) -> float:
    """CIEDE2000 between the mean colours of a block in both pictures."""
    part = np.s_[row * BLOCK : (row + 1) * BLOCK, column * BLOCK : (column + 1) * BLOCK]
    one, other = (linear_from_srgb(p[part] / 255.0).reshape(-1, 3).mean(axis=0) for p in (a, b))
    return float(delta_e_2000(lab_from_linear(one), lab_from_linear(other)))
