"""Whole pictures worked over as by another hand: posterised and inked, brushed, hatched, softened, grained."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

Rgb = NDArray[np.uint8]
SEEN_LEAST = 5.0
"""The mean change of a picture's 8-bit values by which anybody sees another hand."""


def inked(pixels: Rgb) -> Rgb:
    """Few flat tones, and dark lines along edges."""
    smooth = cv2.bilateralFilter(pixels, 9, 50, 7)
    flat = (np.rint(smooth / 48.0) * 48).clip(0, 255)
    grey = cv2.cvtColor(pixels, cv2.COLOR_RGB2GRAY)
    edge = cv2.dilate(cv2.Canny(grey, 60, 150), np.ones((2, 2), np.uint8))
    return np.where(edge[..., None] > 0, 20, flat).astype(np.uint8)


def brushed(pixels: Rgb) -> Rgb:
    """Wide strokes: every place takes the mean of its calmest neighbourhood (Kuwahara et al. 1976)."""
    seen, r = pixels.astype(np.float32), 5
    mean = cv2.boxFilter(seen, -1, (r, r))
    spread = (cv2.boxFilter(seen**2, -1, (r, r)) - mean**2).sum(axis=-1)
    best, out = np.full(spread.shape, np.inf, np.float32), seen.copy()
    for dy in (-r // 2, r // 2):
        for dx in (-r // 2, r // 2):
            s = np.roll(spread, (dy, dx), (0, 1))
            m = np.roll(mean, (dy, dx), (0, 1))
            out = np.where((s < best)[..., None], m, out)
            best = np.minimum(best, s)
    return np.rint(out).astype(np.uint8)


def hatched(pixels: Rgb, rng: np.random.Generator) -> Rgb:
    """Slanted strokes, denser in the dark, on paler colour."""
    h, w = pixels.shape[:2]
    stroke = cv2.filter2D(rng.normal(0, 1, (h, w)).astype(np.float32), -1, np.eye(11, dtype=np.float32) / 11)
    stroke = stroke / (stroke.std() + 1e-6)
    dark = 1 - cv2.cvtColor(pixels, cv2.COLOR_RGB2GRAY).astype(np.float32) / 255
    paler = 255 - (255 - pixels.astype(np.float32)) * 0.75
    return np.clip(paler + (stroke * 38 * (0.3 + dark))[..., None], 0, 255).astype(np.uint8)


def softened(pixels: Rgb) -> Rgb:
    """Edges run, as on wet paper."""
    soft = cv2.GaussianBlur(pixels, (0, 0), 2.4)
    return np.clip(soft.astype(np.float32) * 0.85 + 34, 0, 255).astype(np.uint8)


def painted_over(pixels: Rgb, rng: np.random.Generator) -> Rgb:
    """One of these, by chance, of those that can be seen: wide strokes change nothing of a picture that is flat already."""
    tried = [inked(pixels), brushed(pixels), hatched(pixels, rng), softened(pixels)]
    apart = [float(np.abs(t.astype(np.int16) - pixels).mean()) for t in tried]
    seen = [t for t, a in zip(tried, apart, strict=True) if a > SEEN_LEAST]
    return seen[int(rng.integers(len(seen)))] if seen else hatched(pixels, rng)
