"""One picture fitted to another of the same subject: place, size, light and sharpness, by what lies outside an area.

What this takes out is what resampling, a change of exposure and recompression do to a whole picture.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Floats, Pixels

Plane = NDArray[np.float32]
Bools = NDArray[np.bool_]

SIDES = (192, 480, 960)
"""The longer side in px of the pictures that the place is found on, coarse to fine."""
ECC_STEPS, ECC_LEAST = 60, 1e-6
BLURS = (0.0, 0.4, 0.6, 0.8, 1.0, 1.3, 1.7, 2.2)
"""Blurs (standard deviation in px of the working size) by which the sharper picture is tried."""
LIT_PIXELS = 20_000
HUBER = 1.5
"""Residuals beyond so many spreads count less when the light is fitted (P. J. Huber, Robust Statistics, 1981)."""
CLIPPED = (3.0, 252.0)
"""Codes at the ends of the scale tell nothing of a change of light."""
LOST = 6.0
"""Codes that are left on average by a place that is not the right one; the right one leaves less, even of a poor JPEG."""
PEG_SIDE = 960
"""The longer side in px at which pictures are laid on each other to be looked at."""
FEATURE_SIDE, FEATURES, RATIO, AGREE_LEAST = 640, 1500, 0.8, 10
"""Features are looked for at this size, at most so many; a match is one that is plainly nearer than the next; so many must agree."""
SHARED_LEAST = 0.2
"""Pictures that have less of a page in common show no common subject: a few alike places do not lay one on the other."""
SHIFT_MOST = 0.2
PLAIN = 0.25
"""Codes that spread less than this (squared) are of one tone."""


@dataclass(frozen=True)
class GlobalFit:
    """How the later picture was laid on the earlier one. `affine` (2, 3) leads from px of the earlier picture's working size to px of the later one's,
    both resized to the same; `light` (3, 4) makes the later one's sRGB codes out of the earlier one's; `blur` is how much softer the later
    picture is (px of the working size, below 0: sharper)."""

    affine: Floats
    light: Floats
    blur: float

    @property
    def shift_px(self) -> float:
        """How far the middle of the picture was moved, in px of the working size."""
        return float(np.hypot(*self.affine[:, 2]))

    @property
    def stops(self) -> float:
        """How much lighter the later picture is, in stops about: log2 of what middle grey became (sRGB codes, gamma 2.2)."""
        grey = self.light @ np.array([128.0, 128.0, 128.0, 1.0])
        return float(2.2 * np.log2(max(1.0, grey.mean()) / 128.0))


def fitted(before: Pixels, after: Pixels, outside: Bools) -> tuple[Plane, Plane, Bools, GlobalFit]:
    """Lay `after` on `before` (both (h, w, 3), the same size) by what lies `outside` (h, w). Returns both as sRGB codes made alike, where both are
    there, and the fit."""
    affine = _found(before, after, outside)
    laid, there = _warped(after, affine)
    counted = outside & there
    light = _lit(before, laid, counted)
    even = _apply(light, before)
    blur, one, other = _sharpened(even, laid.astype(np.float32), counted)
    return one, other, there, GlobalFit(affine, light, blur)


def laid_on(ground: Pixels, over: Pixels) -> Floats:
    """How a picture lies on another one of the same subject: the affine transform (2, 3) from px of `over` to px of `ground` (both (h, w, 3), of any size)
    that makes most of both agree. Where nothing does, it only fills the other's page."""
    h, w = ground.shape[:2]
    f = min(w / over.shape[1], h / over.shape[0])
    page = np.array([[f, 0, (w - f * over.shape[1]) / 2], [0, f, (h - f * over.shape[0]) / 2]])
    size = (max(16, round(w * PEG_SIDE / max(h, w))), max(16, round(h * PEG_SIDE / max(h, w))))
    g = size[0] / w
    found = _by_features(ground, over)
    if found is not None and _covered(over, found * g, size).mean() > SHARED_LEAST:
        page = found
    one = np.asarray(cv2.resize(ground, size, interpolation=cv2.INTER_AREA), dtype=np.uint8)
    filled = cv2.warpAffine(over, page * g, size, flags=cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    there = _covered(over, page * g, size)
    affine = _placed(one, np.asarray(filled, dtype=np.uint8), there)
    affine[:, 2] /= g
    back = np.linalg.inv(np.vstack([affine, [0, 0, 1]]))
    return np.asarray((back @ np.vstack([page, [0, 0, 1]]))[:2])


def _covered(over: Pixels, affine: Floats, size: tuple[int, int]) -> Bools:
    """Which pixels of a page a picture covers."""
    return np.asarray(cv2.warpAffine(np.full(over.shape[:2], 255, np.uint8), affine, size) > 250)


def _by_features(ground: Pixels, over: Pixels) -> Floats | None:
    """The similarity transform that most matching places agree on (D. G. Lowe, Distinctive image features from scale-invariant keypoints, 2004; RANSAC);
    None where too few do."""
    seen = []
    for pixels in (over, ground):
        f = min(1.0, FEATURE_SIDE / max(pixels.shape[:2]))
        size = (max(16, round(pixels.shape[1] * f)), max(16, round(pixels.shape[0] * f)))
        small = cv2.cvtColor(cv2.resize(pixels, size, interpolation=cv2.INTER_AREA), cv2.COLOR_RGB2GRAY)
        points, numbers = cv2.SIFT.create(FEATURES, contrastThreshold=0.02).detectAndCompute(small, None)
        if numbers is None or len(points) < AGREE_LEAST:
            return None
        seen.append((np.array([p.pt for p in points], np.float32) / f, numbers))
    (from_, ours), (to, theirs) = seen
    pairs = cv2.BFMatcher(cv2.NORM_L2).knnMatch(ours, theirs, k=2)
    good = [p[0] for p in pairs if len(p) == 2 and p[0].distance < RATIO * p[1].distance]
    if len(good) < AGREE_LEAST:
        return None
    cv2.setRNGSeed(1)
    affine, agree = cv2.estimateAffinePartial2D(
        from_[[m.queryIdx for m in good]], to[[m.trainIdx for m in good]], ransacReprojThreshold=4.0, maxIters=3000
    )
    if affine is None or int(np.asarray(agree).sum()) < AGREE_LEAST:
        return None
    return np.asarray(affine, dtype=np.float64)


def _grey(pixels: Pixels) -> NDArray[np.float32]:
    return np.asarray(cv2.cvtColor(pixels, cv2.COLOR_RGB2GRAY), dtype=np.float32)


def _found(before: Pixels, after: Pixels, outside: Bools) -> Floats:
    """Where the later picture lies: near where the earlier one does, or, where that explains little, where matching places say."""
    near = _placed(before, after, outside)
    one = _grey(before)
    laid, there = _warped(after, near)
    left = _left(one[outside & there], _grey(laid)[outside & there])
    if left < LOST or (found := _by_features(before, after)) is None:
        return near
    start = np.linalg.inv(np.vstack([found, [0, 0, 1]]))[:2]
    far = _placed(before, after, outside, start)
    laid, there = _warped(after, far)
    counted = outside & there
    return far if counted.any() and _left(one[counted], _grey(laid)[counted]) < 0.5 * left else near


def _placed(before: Pixels, after: Pixels, outside: Bools, start: Floats | None = None) -> Floats:
    """The affine transform with the best enhanced correlation (G. D. Evangelidis, E. Z. Psarakis, Parametric Image Alignment using Enhanced
    Correlation Coefficient Maximization, IEEE PAMI 30, 2008), coarse to fine, from a `start`; the start itself where it brings nothing, or none at all without one."""
    height, width = before.shape[:2]
    first = np.eye(2, 3) if start is None else start
    affine = first.astype(np.float32)
    at = 1.0
    for side in SIDES:
        f = min(1.0, side / max(height, width))
        size = (max(16, round(width * f)), max(16, round(height * f)))
        one, other = (cv2.resize(_grey(p), size, interpolation=cv2.INTER_AREA) for p in (before, after))
        seen = cv2.resize(outside.astype(np.uint8) * 255, size, interpolation=cv2.INTER_NEAREST)
        affine[:, 2] *= f / at
        at = f
        stop = (cv2.TERM_CRITERIA_EPS | cv2.TERM_CRITERIA_COUNT, ECC_STEPS, ECC_LEAST)
        try:
            _, found = cv2.findTransformECC(one, other, affine.copy(), cv2.MOTION_AFFINE, stop, seen, 5)
        except cv2.error:  # It does not converge on pictures without anything to hold on to.
            continue
        found = np.asarray(found, dtype=np.float32)
        if np.abs(found[:, :2] - first[:, :2]).max() < 0.2 and np.hypot(
            *(found[:, 2] - f * first[:, 2])
        ) < SHIFT_MOST * max(size):
            affine = found  # type: ignore[assignment]
    affine[:, 2] /= at
    exact = affine.astype(np.float64)
    return exact if start is not None or _better(before, after, outside, exact) else np.eye(2, 3)


def _better(before: Pixels, after: Pixels, outside: Bools, affine: Floats) -> bool:
    """Whether laying the picture by the transform leaves less difference than leaving it as it is."""
    laid, there = _warped(after, affine)
    counted = outside & there
    if not counted.any() or counted.sum() < 0.5 * outside.sum():
        return False
    one = _grey(before)[counted]
    return _left(one, _grey(laid)[counted]) < 0.97 * _left(one, _grey(after)[counted])


def _left(one: NDArray[np.float32], other: NDArray[np.float32]) -> float:
    """What a straight line between the codes of two pictures leaves; the lower nine tenths, so that a real change somewhere does not decide."""
    kept = np.ones(len(one), dtype=bool)
    off = np.zeros_like(one)
    for _ in range(3):
        slope, base = _line(one[kept], other[kept])
        off = np.abs(slope * one + base - other)
        kept = off <= np.quantile(off, 0.9)
    return float(off[kept].mean())


def _line(one: NDArray[np.float32], other: NDArray[np.float32]) -> tuple[float, float]:
    """Slope and base of the straight line that leaves the least squares; a plain area has no slope of its own."""
    mean, to = float(one.mean()), float(other.mean())
    away = (one - mean).astype(np.float64)
    spread = float((away**2).mean())
    slope = float((away * (other - to)).mean()) / spread if spread > PLAIN else 1.0
    return slope, to - slope * mean


def _trimmed(values: NDArray[np.float32]) -> float:
    kept = np.sort(values)[: max(1, int(0.9 * values.size))]
    return float(kept.mean())


def _warped(pixels: Pixels, affine: Floats) -> tuple[Pixels, Bools]:
    height, width = pixels.shape[:2]
    if np.array_equal(affine, np.eye(2, 3)):
        return pixels, np.ones((height, width), dtype=bool)
    how = cv2.INTER_CUBIC | cv2.WARP_INVERSE_MAP
    laid = cv2.warpAffine(pixels, affine, (width, height), flags=how, borderMode=cv2.BORDER_REPLICATE)
    inside = cv2.warpAffine(
        np.full((height, width), 255, np.uint8), affine, (width, height), flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    )
    return np.asarray(laid, dtype=np.uint8), np.asarray(cv2.erode(inside, np.ones((5, 5), np.uint8)) > 250)


def _lit(before: Pixels, after: Pixels, counted: Bools) -> Floats:
    """The matrix (3, 4) of codes that explains most pixels, by iterated weights."""
    one, other = before[counted].astype(np.float64), after[counted].astype(np.float64)
    if len(one) > LIT_PIXELS:
        chosen = np.random.default_rng(1).choice(len(one), LIT_PIXELS, replace=False)
        one, other = one[chosen], other[chosen]
    usable = ((other > CLIPPED[0]) & (other < CLIPPED[1])).all(axis=1)
    one, other = one[usable], other[usable]
    same = np.eye(3, 4)
    if len(one) < 100:
        return same
    rows = np.column_stack([one, np.ones(len(one))])
    # Where colours are few the matrix is held near the one that changes nothing.
    hold = np.diag([20.0, 20.0, 20.0, 1.0]) * np.sqrt(len(one))
    weights = np.ones(len(one))
    light = same
    for _ in range(12):
        w = weights[:, None]
        light = np.linalg.solve((rows * w).T @ rows + hold, (rows * w).T @ other + hold @ same.T).T
        off = np.linalg.norm(rows @ light.T - other, axis=1)
        spread = max(0.5, 1.4826 * float(np.median(off)))
        weights = np.minimum(1.0, HUBER * spread / np.maximum(off, 1e-9))
    return np.asarray(light)


def _apply(light: Floats, pixels: Pixels) -> Plane:
    flat = pixels.reshape(-1, 3).astype(np.float32) @ light[:, :3].T.astype(np.float32) + light[:, 3].astype(np.float32)
    return np.asarray(np.clip(flat, 0, 255).reshape(pixels.shape), dtype=np.float32)


def _sharpened(one: Plane, other: Plane, counted: Bools) -> tuple[float, Plane, Plane]:
    """The sharper of both made as soft as the other."""
    best = (np.inf, 0.0, one, other)
    for sign in (1, -1):
        for sigma in BLURS:
            a, b = (one, other) if not sigma else (_soft(one, sigma), other) if sign > 0 else (one, _soft(other, sigma))
            left = _trimmed(np.abs(a - b).max(axis=-1)[counted])
            # Blur makes all differences smaller; it has to bring more than that.
            if left * (1 + 0.04 * sigma) < best[0]:
                best = (left * (1 + 0.04 * sigma), sign * sigma, a, b)
            elif sigma:
                break
    return best[1], best[2], best[3]


def _soft(plane: Plane, sigma: float) -> Plane:
    return np.asarray(cv2.GaussianBlur(plane, (0, 0), sigma), dtype=np.float32)
