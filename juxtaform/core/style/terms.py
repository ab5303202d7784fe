"""A picture's style signature: terms that hold still when the subject or the light changes.

All terms are measured on log2 of linear light, so a change of exposure or a tint (gains per channel) only shifts the
image and drops out; chroma is read as log ratios of channels about their median for the same reason.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import _LINEAR_TABLE, Floats, Pixels
from juxtaform.core.picture.regions import resized

STYLE_SIDE = 448
"""The picture's longer side in px when its style is read."""
EDGE_STOPS = 0.16
"""A step of this many stops per pixel at the working size is an edge."""
LINE_STOPS = 0.55
"""A thin dark valley at least this many stops deep is a drawn line."""

TERMS: tuple[tuple[str, str, float], ...] = (
    ("line_share", "share of drawn line (log2 of 1 + percent)", 0.50),
    ("line_width", "width of line (log2 of wide over narrow)", 0.40),
    ("line_darkness", "darkness of line (stops)", 0.45),
    ("flatness", "share of flat area", 0.10),
    ("modelling", "shading inside shapes (log2 of milli-stops per px)", 0.65),
    ("grain_fine", "fine grain (log2 of milli-stops)", 0.60),
    ("grain_middle", "middle grain (log2 of milli-stops)", 0.60),
    ("grain_coarse", "coarse grain (log2 of milli-stops)", 0.65),
    ("contrast", "contrast (stops between the darkest and lightest 1.5 %)", 0.70),
    ("saturation", "saturation of the strongest colours (log2 of stops of channel ratio)", 0.45),
    ("colours", "number of colours (log2)", 0.75),
    ("edge_softness", "softness of edges (log2)", 0.30),
)
"""Name, meaning with unit, and the prior standard deviation that a change of subject alone gives each term.
Set on constructed pictures of ten subjects in six lights in one hand, widened by half."""

NAMES = tuple(name for name, _, _ in TERMS)
PRIOR = np.array([spread for _, _, spread in TERMS])

_LOG_LINEAR = _LINEAR_TABLE.astype(np.float32)


SIGNATURE_VERSION = "2"


@dataclass(frozen=True, slots=True)
class Signature:
    """The terms of a picture's style, in the order and units of TERMS."""

    values: tuple[float, ...]


def signature(pixels: Pixels) -> Signature:
    """The style signature of an sRGB picture (h, w, 3); working size 448 px on the longer side."""
    small = resized(pixels, STYLE_SIDE)
    linear = _LOG_LINEAR[small]
    tops = np.array([np.percentile(linear[::3, ::3, c], 95) for c in range(3)], dtype=np.float32)
    logs = np.log2(linear + 0.04 * tops + 1e-5)
    grey = np.ascontiguousarray(logs @ np.array([0.25, 0.6, 0.15], dtype=np.float32))
    soft = _blurred(grey, 1.0)
    softer = _blurred(soft, 2.8)
    slope = _slope(grey)
    edge = slope > EDGE_STOPS
    near_edge = cv2.dilate(edge.astype(np.uint8), np.ones((7, 7), np.uint8)) > 0
    calm = ~near_edge
    if calm.mean() < 0.02:
        calm = slope <= np.percentile(slope, 20)
    values = (
        *_line_terms(grey),
        float((slope[calm] < 0.012).mean()) if calm.any() else 0.0,
        _log2_milli(float(np.median(_slope(softer)[calm]))),
        _log2_milli(_spread((grey - soft)[calm])),
        _log2_milli(_spread((soft - softer)[calm])),
        _log2_milli(_spread((softer - _blurred(softer, 6.0))[calm])),
        float(np.subtract(*np.percentile(softer[::2, ::2], [98.5, 1.5]))),
        _saturation(logs),
        _colour_count(logs),
        _edge_softness(grey, soft, edge),
    )
    return Signature(values)


def _blurred(image: NDArray[np.float32], sigma: float) -> NDArray[np.float32]:
    return np.asarray(cv2.GaussianBlur(image, (0, 0), sigma), dtype=np.float32)


def _line_terms(grey: NDArray[np.float32]) -> tuple[float, float, float]:
    def valleys(size: int) -> NDArray[np.float32]:
        kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size))
        return np.asarray(cv2.morphologyEx(grey, cv2.MORPH_CLOSE, kernel) - grey, dtype=np.float32)

    narrow, wide = valleys(3), valleys(9)
    line = wide > LINE_STOPS
    share = float(line.mean())
    depth = float(np.percentile(wide[line], 75)) if share > 5e-4 else LINE_STOPS
    ground = 0.01 * grey.size
    width = np.log2((float(wide[line].sum()) + ground) / (float(narrow[line].sum()) + ground))
    known = min(1.0, share / 0.03)
    return float(np.log2(100 * share + 1.0)), float(width), LINE_STOPS + known * (depth - LINE_STOPS)


def _slope(image: NDArray[np.float32]) -> NDArray[np.float32]:
    """The slope of a picture (h, w) by Sobel's masks, in its own unit per px. Each step is rounded for itself, so that the same picture gives the same bytes
    wherever it lies in memory; OpenCV's own rounds ends of rows otherwise than their middles."""
    around = np.pad(image, 1, mode="reflect")
    across = (around[:-2] + 2 * around[1:-1] + around[2:]) / 8
    down = (around[:, :-2] + 2 * around[:, 1:-1] + around[:, 2:]) / 8
    gx, gy = across[:, 2:] - across[:, :-2], down[2:] - down[:-2]
    return np.asarray(np.sqrt(gx * gx + gy * gy), dtype=np.float32)


def _spread(values: NDArray[np.float32]) -> float:
    """Mean absolute size: unlike the median it still sees grain that is sparse."""
    return float(np.abs(values).mean()) if values.size else 0.0


def _log2_milli(stops: float) -> float:
    return float(np.log2(1000 * stops + 1.0))


def _saturation(logs: NDArray[np.float32]) -> float:
    thin = logs[::2, ::2]
    ratios = np.stack([thin[..., 0] - thin[..., 1], thin[..., 2] - thin[..., 1]], axis=-1).reshape(-1, 2)
    centred = ratios - np.median(ratios, axis=0)
    return float(np.log2(np.percentile(np.hypot(centred[:, 0], centred[:, 1]), 88) + 0.05))


def _colour_count(logs: NDArray[np.float32]) -> float:
    thin = logs[::2, ::2].reshape(-1, 3)
    cells = np.floor((thin - thin.min(axis=0)) / 0.4).astype(np.int64)
    counts = np.bincount(cells[:, 0] * 1024 + cells[:, 1] * 32 + np.minimum(cells[:, 2], 31))
    p = counts[counts > 0] / counts.sum()
    return float(-(p * np.log2(p)).sum())


def _edge_softness(grey: NDArray[np.float32], soft: NDArray[np.float32], edge: NDArray[np.bool_]) -> float:
    if edge.sum() < 50:
        return 0.0
    fine = cv2.Laplacian(grey, cv2.CV_32F)
    coarse = cv2.Laplacian(soft, cv2.CV_32F)
    return float(np.log2((np.abs(coarse[edge]).mean() + 1e-3) / (np.abs(fine[edge]).mean() + 1e-3)))


@dataclass(frozen=True)
class StyleJudgement:
    """Every picture of a sequence against its style.

    `distance` (n,) relative, 1 is the edge of tolerance; `z` (n, k) signed departures from the style in units of each
    term's allowed spread; `centre` and `scale` (k,) in the terms' own units; `whole` tells that the sequence as a
    body stands apart from the references.
    """

    distance: Floats
    z: Floats
    centre: Floats
    scale: Floats
    whole: bool


SCALE_TO_TOLERANCE = 1.75
"""Departure at the edge of tolerance: the root of half the mean square z over all terms (shrunk correlation) and half
that of the three foremost, so that one plain break is not averaged away."""


AT_HOME_LEAST = 0.2
"""Where at least this part of a sequence looks like the references, the rest has left them: the sequence as a body does not
stand apart, however many the others are."""


def judged(sequence: Floats, references: Floats, weights: Floats | None = None) -> StyleJudgement:
    """Judge signatures of a sequence (n, k) against those of the style's references (m, k; m may be 0).

    The centre is the references' weighted mean, drawn towards the median of the pictures that look like them (of all, where
    hardly any does) as far as their number is small;
    scales pool the prior, the references' spread and the sequence's robust spread (MAD, capped, so that a sequence
    that broke cannot excuse itself). Correlation is shrunk towards the identity (O. Ledoit and M. Wolf, "A
    well-conditioned estimator for large-dimensional covariance matrices", J. Multivar. Anal. 88, 2004, in form;
    the intensity is k / (n + k), at least 0.4).
    """
    n, k = len(sequence), sequence.shape[1]
    body = np.median(sequence, axis=0) if n else references.mean(axis=0)
    m = len(references)
    if m:
        w = np.ones(m) if weights is None else np.maximum(weights, 1e-3)
        home = np.average(references, axis=0, weights=w)
        ref_var = np.average((references - home) ** 2, axis=0, weights=w) * m / max(1, m - 1)
    else:
        home, ref_var = body, np.zeros(k)
    mad = 1.4826 * np.median(np.abs(sequence - body), axis=0) if n else np.zeros(k)
    scale = np.sqrt(PRIOR**2 + 0.8 * np.minimum(ref_var, (2 * PRIOR) ** 2) + 0.3 * np.minimum(mad, 1.5 * PRIOR) ** 2)
    at_home = np.sqrt((((sequence - home) / scale) ** 2).mean(axis=1)) < SCALE_TO_TOLERANCE
    if m and at_home.sum() >= 2 and at_home.mean() >= AT_HOME_LEAST:
        body = np.median(sequence[at_home], axis=0)
    offset = (body - home) / scale
    trust = m / (m + 2.0)
    centre = trust * home + (1 - trust) * body if m else body
    whole = m > 0 and float(np.sqrt((offset**2).mean())) > SCALE_TO_TOLERANCE
    if whole:
        centre = body
    z = (sequence - centre) / scale
    pooled = np.clip(np.concatenate([z - np.median(z, axis=0), (references - home) / scale]) if m else z, -2.0, 2.0)
    correlation = _shrunk_correlation(pooled)
    quadratic = np.einsum("ik,kl,il->i", z, np.linalg.inv(correlation), z) / k
    foremost = np.sort(np.minimum(z**2, 40.0), axis=1)[:, -3:].mean(axis=1)
    distance = np.sqrt(0.5 * np.maximum(quadratic, 0.0) + 0.5 * foremost) / SCALE_TO_TOLERANCE
    return StyleJudgement(distance, z, centre, scale, whole)


@dataclass(frozen=True)
class Without:
    """What one picture does to a style: its relative distance from the others (1 is the edge of tolerance), how far the
    style's centre moves when it is taken out (in the same units), and the terms in which it stands apart, foremost first,
    as (name, signed departure in allowed spreads)."""

    distance: float
    shift: float
    terms: tuple[tuple[str, float], ...]

    @property
    def odd(self) -> bool:
        return self.distance > 1.0


def trial(signatures: Sequence[Signature], weights: Sequence[float]) -> list[Without]:
    """A style's signature with and without each of its pictures, so that an odd one shows. Fewer than two pictures have
    nothing to be compared with: their distance is 0."""
    values = np.array([x.values for x in signatures])
    w = np.maximum(np.array(weights, dtype=np.float64), 1e-3)
    out = []
    for i in range(len(values)):
        if len(values) < 2:
            out.append(Without(0.0, 0.0, ()))
            continue
        rest = np.arange(len(values)) != i
        others, weights_left = values[rest], w[rest]
        home = np.average(others, axis=0, weights=weights_left)
        spread = (
            np.average((others - home) ** 2, axis=0, weights=weights_left) if len(others) > 1 else np.zeros(len(PRIOR))
        )
        own = PRIOR**2 + 0.8 * np.minimum(spread, (2 * PRIOR) ** 2)
        scale = np.sqrt(own * (1 + 1 / len(others)))  # One picture against the mean of few: both are uncertain.
        z = (values[i] - home) / scale
        squares = np.minimum(z**2, 40.0)
        distance = np.sqrt(0.5 * squares.mean() + 0.5 * np.sort(squares)[-3:].mean()) / SCALE_TO_TOLERANCE
        moved = (np.average(values, axis=0, weights=w) - home) / scale
        foremost = sorted(zip(NAMES, z.tolist(), strict=True), key=lambda t: -abs(t[1]))[:3]
        shift = float(np.sqrt((moved**2).mean()) / SCALE_TO_TOLERANCE)
        out.append(Without(float(distance), shift, tuple((n, v) for n, v in foremost if abs(v) > 1.0)))
    return out


def _shrunk_correlation(z: Floats) -> Floats:
    n, k = z.shape
    intensity = max(0.4, k / (n + k))
    if n < 3:
        return np.eye(k)
    centred = z - z.mean(axis=0)
    covariance = centred.T @ centred / max(1, n - 1)
    sd = np.sqrt(np.maximum(np.diag(covariance), 0.05))
    correlation = covariance / sd[:, None] / sd[None]
    np.fill_diagonal(correlation, 1.0)
    return np.asarray((1 - intensity) * correlation + intensity * np.eye(k))
