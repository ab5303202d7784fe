"""Which places of a figure's crop are the figure: a soft mask that chooses and weighs places, and cuts nothing out."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Pixels
from juxtaform.core.picture.regions import large_parts, resized

Mask = NDArray[np.float32]
Lab = NDArray[np.float32]

MASK_SIDE = 128
"""A figure's mask is made at so many px."""
RIM_SHARE = 0.03
"""The rim is this part of the shorter side wide; at the sides it goes down to `RIM_HEIGHT`, below there are feet."""
RIM_HEIGHT = 0.6
"""The rim goes down to this part of the height: below it are feet."""
PLAIN_SPREAD = 3.0
"""A rim of which nine tenths lie within this CIELAB distance of its middle is plain: the figure is what differs."""
PLAIN_APART = 6.0
"""On plain ground what differs from it by more than this in CIELAB is the figure."""
RIM_COLOURS = 6
"""The number of main colours that describe a ground that is not plain."""
SURE_GROUND, LIKELY_FIGURE = 4.0, 10.0
"""CIELAB distances to the rim's colours."""
LEAST_SHARE = 0.08
"""A mask smaller than this has failed: the crop's middle is taken instead."""


def rim_colour(pixels: Pixels) -> NDArray[np.uint8]:
    """The median sRGB colour (3,) of a crop's rim."""
    middle = np.median(_rim(_lab(pixels)), axis=0).astype(np.uint8)
    return np.asarray(cv2.cvtColor(np.asarray([[middle]], np.uint8), cv2.COLOR_LAB2RGB)[0, 0])


def figure_mask(pixels: Pixels) -> Mask:
    """The figure's mask 0..1 of a crop (h, w, 3), at the crop's own size.

    On a plain ground what differs from the rim, and what large part in the ground's colour it encloses. Else GrabCut (Rother, Kolmogorov, Blake 2004), started from how far a
    pixel is from all rim colours and from the middle of the crop.
    """
    h, w = pixels.shape[:2]
    return np.asarray(cv2.resize(_small_mask(resized(pixels, MASK_SIDE)), (w, h)), dtype=np.float32)


def _small_mask(small: Pixels) -> Mask:
    h, w = small.shape[:2]
    lab = _lab(small)
    rim = _rim(lab)
    cv2.setRNGSeed(1)
    stop = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_MAX_ITER, 8, 1.0)
    _, _, tones = cv2.kmeans(rim, min(RIM_COLOURS, len(rim)), None, stop, 1, cv2.KMEANS_PP_CENTERS)  # type: ignore[call-overload]
    apart = np.min(np.linalg.norm(lab[:, :, None] - tones[None, None], axis=-1), axis=-1)
    if np.percentile(np.linalg.norm(rim - np.median(rim, axis=0), axis=1), 90) < PLAIN_SPREAD:
        away = apart > PLAIN_APART
        _, labels = cv2.connectedComponents(np.pad(~away, 1, constant_values=True).astype(np.uint8), connectivity=4)
        silhouette = labels[1:-1, 1:-1] != labels[0, 0]
        return np.asarray(away | large_parts(silhouette & ~away, silhouette), dtype=np.float32)
    ys, xs = np.mgrid[:h, :w]
    radius = np.hypot((xs - w / 2) / (w * 0.5), (ys - h * 0.55) / (h * 0.5))
    start = np.full((h, w), cv2.GC_PR_BGD, np.uint8)
    start[((radius < 0.85) & (apart > LIKELY_FIGURE)) | (radius < 0.35)] = cv2.GC_PR_FGD
    start[(apart < SURE_GROUND) & (radius > 0.6)] = cv2.GC_BGD
    t = max(1, int(0.02 * min(h, w)))
    start[:t], start[: h // 2, :t], start[: h // 2, -t:] = cv2.GC_BGD, cv2.GC_BGD, cv2.GC_BGD
    try:
        bgr = np.ascontiguousarray(small[..., ::-1])
        cv2.grabCut(bgr, start, None, np.zeros((1, 65)), np.zeros((1, 65)), 3, cv2.GC_INIT_WITH_MASK)  # type: ignore[call-overload]
    except cv2.error:  # one of both has no pixel to start from
        return np.ones((h, w), np.float32)
    seen = ((start == cv2.GC_FGD) | (start == cv2.GC_PR_FGD)).astype(np.uint8)
    seen = np.asarray(cv2.morphologyEx(seen, cv2.MORPH_OPEN, np.ones((3, 3), np.uint8)), dtype=np.uint8)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(seen)
    if count > 1:
        areas = stats[1:, cv2.CC_STAT_AREA]
        seen = np.isin(labels, 1 + np.flatnonzero(areas > 0.1 * areas.max())).astype(np.uint8)
    if seen.mean() < LEAST_SHARE:
        return np.asarray(radius < 0.9, dtype=np.float32)
    return seen.astype(np.float32)


def _lab(pixels: Pixels) -> Lab:
    """CIELAB as OpenCV has it in 8 bits, all of 0..255."""
    return np.asarray(cv2.cvtColor(pixels, cv2.COLOR_RGB2LAB), dtype=np.float32)


def _rim(lab: Lab) -> Lab:
    h, w = lab.shape[:2]
    t, low = max(2, int(min(h, w) * RIM_SHARE)), int(h * RIM_HEIGHT)
    parts = (lab[:t], lab[:low, :t], lab[:low, -t:])
    return np.ascontiguousarray(np.concatenate([p.reshape(-1, 3) for p in parts]))
