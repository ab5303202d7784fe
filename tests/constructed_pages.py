"""Pages of hand-drawn panels made from parameters, photographed: wobble, turn, perspective, shadow, noise, no frames."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import cv2
import numpy as np

from juxtaform.core.colour.spaces import Pixels

LAYOUTS: tuple[tuple[tuple[float, ...], ...], ...] = (
    ((1,), (1,)),
    ((1, 1), (1,)),
    ((1, 1), (1, 1)),
    ((2, 1), (1, 2), (1,)),
    ((1, 1, 1), (1, 1, 1)),
    ((1, 2), (1, 1, 1), (2, 1)),
    ((1, 1), (1, 1, 1), (1, 1), (1,)),
    ((1, 1, 1), (1, 1, 1), (1, 1, 1), (1, 1, 1)),
)
"""Tiers from top to bottom, each with the relative widths of its panels."""


@dataclass(frozen=True)
class DrawnPage:
    """A photographed page; `quads` (n, 4, 2) are its panels in reading order (left to right) in the photo's pixels."""

    photo: Pixels
    quads: np.ndarray


def drawn_page(
    rng: np.random.Generator,
    layout: int,
    *,
    frames: bool = True,
    wobble: float = 2.0,
    gaps: int = 0,
    turn: float = 0.0,
    perspective: float = 0.0,
    shadow: float = 0.0,
    noise: float = 2.0,
    desk: bool = False,
    size: tuple[int, int] = (1000, 1400),
) -> DrawnPage:
    """A page of `size` (w, h) px; `turn` in degrees, `perspective` as a part of the side, `shadow` 0..1, `noise` in levels."""
    width, height = size
    page = np.full((height, width, 3), (244, 242, 236), np.uint8)
    margin, gutter = 0.06 * width, 0.03 * width
    tiers = LAYOUTS[layout]
    tall = (height - 2 * margin - gutter * (len(tiers) - 1)) / len(tiers)
    boxes = []
    for t, tier in enumerate(tiers):
        across = width - 2 * margin - gutter * (len(tier) - 1)
        x = margin
        for part in tier:
            w = across * part / sum(tier)
            boxes.append((x, margin + t * (tall + gutter), w, tall))
            x += w + gutter
    for x, y, w, h in boxes:
        if frames:
            _frame(page, rng, x, y, w, h, wobble, gaps)
        else:
            _wash(page, rng, x, y, w, h)
        _sketch(page, rng, x, y, w, h, filled=not frames)
    quads = np.array([[(x, y), (x + w, y), (x + w, y + h), (x, y + h)] for x, y, w, h in boxes], dtype=np.float64)
    return _photographed(page, quads, rng, turn, perspective, shadow, noise, desk)


def _frame(page, rng, x, y, w, h, wobble, gaps) -> None:
    corners = np.array([(x, y), (x + w, y), (x + w, y + h), (x, y + h), (x, y)])
    for a, b in pairwise(corners):
        steps = max(4, int(np.linalg.norm(b - a) / 30))
        points = a + (b - a) * np.linspace(0, 1, steps + 1)[:, None] + rng.normal(0, wobble, (steps + 1, 2))
        holes = set(rng.integers(1, steps, gaps)) if gaps else set()
        for i in range(steps):
            p, q = points[i], points[i + 1]
            if i in holes:
                q = p + (q - p) * 0.72
            cv2.line(page, tuple(int(v) for v in p), tuple(int(v) for v in q), (52, 50, 54), 3, cv2.LINE_AA)


def _sketch(page, rng, x, y, w, h, *, filled) -> None:
    """A figure, a horizon and some hatching; without frames the drawing reaches its panel's edges."""
    ink = (70, 68, 74)
    cx, cy, r = x + w * rng.uniform(0.3, 0.7), y + h * rng.uniform(0.35, 0.5), 0.11 * min(w, h)
    cv2.circle(page, (int(cx), int(cy)), int(r), ink, 2, cv2.LINE_AA)
    cv2.line(page, (int(cx), int(cy + r)), (int(cx), int(min(y + h - 8, cy + 3.4 * r))), ink, 2, cv2.LINE_AA)
    for side in (-1, 1):
        cv2.line(page, (int(cx), int(cy + 1.6 * r)), (int(cx + side * 1.2 * r), int(cy + 2.4 * r)), ink, 2, cv2.LINE_AA)
    level = int(y + h * rng.uniform(0.7, 0.85))
    inset = 2 if filled else 0.12 * w
    cv2.line(page, (int(x + inset), level), (int(x + w - inset), level + int(rng.uniform(-6, 6))), ink, 2, cv2.LINE_AA)


def _wash(page, rng, x, y, w, h) -> None:
    """A frameless panel: a wash of tone with uneven edges, or upright hatching between rough edges."""
    steps = 24
    top = [(x + w * k / steps, y + rng.uniform(0, 5)) for k in range(steps + 1)]
    bottom = [(x + w * k / steps, y + h - rng.uniform(0, 5)) for k in range(steps, -1, -1)]
    if rng.random() < 0.5:
        tone = int(rng.integers(120, 180))
        cv2.fillPoly(page, [np.array(top + bottom, dtype=np.int32)], (tone, tone, tone + 6))
        return
    for k in range(int(w / 9)):
        at = int(x + 9 * k + rng.uniform(0, 3))
        cv2.line(
            page,
            (at, int(y + rng.uniform(0, 6))),
            (at, int(y + h - rng.uniform(0, 6))),
            (120, 120, 126),
            2,
            cv2.LINE_AA,
        )


def _photographed(page, quads, rng, turn, perspective, shadow, noise, desk) -> DrawnPage:
    height, width = page.shape[:2]
    pad = int(0.12 * width) if desk else 0
    corners = np.array([(0, 0), (width, 0), (width, height), (0, height)], dtype=np.float32)
    to = corners + rng.uniform(-1, 1, (4, 2)).astype(np.float32) * perspective * width + pad
    angle = np.radians(turn)
    centre = to.mean(axis=0)
    to = (to - centre) @ np.array(
        [[np.cos(angle), np.sin(angle)], [-np.sin(angle), np.cos(angle)]], np.float32
    ) + centre
    matrix = cv2.getPerspectiveTransform(corners, to.astype(np.float32))
    ground = (96, 74, 58) if desk else (244, 242, 236)
    size = (width + 2 * pad, height + 2 * pad)
    photo = cv2.warpPerspective(page, matrix, size, borderMode=cv2.BORDER_CONSTANT, borderValue=ground).astype(
        np.float32
    )
    if shadow:
        ys, xs = np.mgrid[0 : size[1], 0 : size[0]]
        fall = 1 - shadow * np.clip((xs / size[0] + ys / size[1] - 0.5), 0, 1)
        photo *= fall[..., None]
    photo += rng.normal(0, noise, photo.shape)
    moved = cv2.perspectiveTransform(quads.reshape(-1, 1, 2).astype(np.float64), matrix.astype(np.float64))
    return DrawnPage(np.clip(photo, 0, 255).astype(np.uint8), moved.reshape(-1, 4, 2))


def overlap(a: np.ndarray, b: np.ndarray) -> float:
    """Intersection over union of two convex quads (4, 2)."""
    shared, _ = cv2.intersectConvexConvex(a.astype(np.float32), b.astype(np.float32))
    whole = cv2.contourArea(a.astype(np.float32)) + cv2.contourArea(b.astype(np.float32)) - shared
    return float(shared / whole) if whole > 0 else 0.0


def in_photo(boxes, to_page) -> np.ndarray:
    """Boxes of a straightened page as quads (n, 4, 2) in the photo."""
    quads = np.array(
        [[(b.x, b.y), (b.x + b.w, b.y), (b.x + b.w, b.y + b.h), (b.x, b.y + b.h)] for b in boxes], dtype=np.float64
    )
    back = np.linalg.inv(to_page)
    return cv2.perspectiveTransform(quads.reshape(-1, 1, 2), back).reshape(-1, 4, 2)


CASES = {
    "drawn frames": {},
    "wobbly frames": {"wobble": 5.0, "gaps": 2},
    "turned": {"turn": 4.0},
    "shadow and noise": {"shadow": 0.55, "noise": 7.0},
    "photo on a desk": {"desk": True, "perspective": 0.04, "turn": -3.0, "shadow": 0.3},
    "no frames": {"frames": False},
}


def judged(page: DrawnPage, boxes, to_page, least: float = 0.8) -> tuple[int, int, int]:
    """Hits, false and missed panels at an overlap of at least `least`."""
    found = in_photo(boxes, to_page) if boxes else np.zeros((0, 4, 2))
    left = list(range(len(page.quads)))
    hits = 0
    for quad in found:
        best = max(left, key=lambda i: overlap(quad, page.quads[i]), default=None)
        if best is not None and overlap(quad, page.quads[best]) >= least:
            left.remove(best)
            hits += 1
    return hits, len(found) - hits, len(left)
