"""What parts the panels of a page: paper, or one colour of any kind, as it lies between them and round them."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Floats, Pixels

Mask = NDArray[np.bool_]

WORK_SIDE = 1100
INK = 0.78
"""Against the paper beside it, ink is darker than this part."""
SLIVER = 0.025
"""Ink that reaches no deeper than this from the page's edge, of its side, is the ground beside the page."""
RIM = 0.012
"""The outermost part of a page, of its longer side, where its margin would be."""
RIM_SHARE = 0.3
"""One colour holds at least this part of the rim if it is the margin's."""
LINE_SHARE = 0.97
"""A row or column lies in a gutter when so much of it is of one colour."""
ONE_COLOUR = 6.0
"""CIELAB distance within which two tones are one."""
LIT = 30.0
"""The light on a page may move a gutter's lightness (L*) this far."""
FAR = 5.0
"""From this CIELAB distance on, or four times the gutter's own grain, a place is drawn on."""
ALONG = 3
"""Rows and columns are read at every third pixel."""
SAMPLED = 4000
"""About so many colours say which are common."""
MOST = 3
"""The number of colours that are tried."""


@dataclass(frozen=True)
class Gutter:
    """A colour that may part panels: its CIELAB tone, the part 0..1 of the page's rim that is of it (0 for little), and the
    page's CIELAB colours (h, w, 3)."""

    tone: Floats
    of_rim: float
    lab: NDArray[np.float32]

    @cached_property
    def ink(self) -> Mask:
        """Where the page is not of the colour, (h, w)."""
        return _drawn_on(self.lab, self.tone)


def gutters(small: Pixels) -> list[Gutter]:
    """The colours that may lie between the panels of a page (h, w, 3): that of its rim, and those of rows and columns
    that are of one colour from side to side."""
    soft = cv2.GaussianBlur(small, (0, 0), 0.8)
    lab = np.asarray(cv2.cvtColor(soft.astype(np.float32) / 255, cv2.COLOR_RGB2LAB), dtype=np.float32)
    found: list[Gutter] = []
    for tone, of_rim in [*_rim_tones(lab), *((t, 0.0) for t in _line_tones(lab))]:
        if all(np.linalg.norm(tone - known.tone) > ONE_COLOUR for known in found):
            found.append(Gutter(tone, of_rim, lab))
    return found[:MOST]


def _rim_tones(lab: NDArray[np.float32]) -> list[tuple[Floats, float]]:
    """The colours of much of the rim, each with its share."""
    wide = max(2, round(RIM * max(lab.shape[:2])))
    rim = np.concatenate(
        [p.reshape(-1, 3) for p in (lab[:wide], lab[-wide:], lab[wide:-wide, :wide], lab[wide:-wide, -wide:])]
    )
    return [(tone, share) for tone, share in _modes(rim, 2) if share > RIM_SHARE]


def _line_tones(lab: NDArray[np.float32]) -> list[Floats]:
    """The colours of rows and columns of one colour, the most common first."""
    found = []
    for lines in (lab[:, ::ALONG], lab.transpose(1, 0, 2)[:, ::ALONG]):
        middle = np.median(lines, axis=1)
        away = np.linalg.norm(lines - middle[:, None], axis=2)
        plain = (away < ONE_COLOUR).mean(axis=1) > LINE_SHARE
        found.append(middle[plain])
    every = np.concatenate(found)
    return [tone for tone, _ in _modes(every, MOST)] if len(every) >= 3 else []


def _modes(colours: NDArray[np.float32], most: int) -> list[tuple[Floats, float]]:
    """The most common colours among some (n, 3), each with the share that is near it."""
    colours = colours[:: max(1, len(colours) // SAMPLED)]
    cells = np.floor(colours / ONE_COLOUR).astype(np.int64)
    _, which, counts = np.unique(cells, axis=0, return_inverse=True, return_counts=True)
    found: list[tuple[Floats, float]] = []
    for cell in np.argsort(-counts)[: 3 * most]:
        tone = np.median(colours[which.ravel() == cell], axis=0)
        near = np.linalg.norm(colours - tone, axis=1) < ONE_COLOUR
        tone = np.asarray(np.median(colours[near], axis=0), dtype=np.float64)
        if all(np.linalg.norm(tone - known) > ONE_COLOUR for known, _ in found):
            found.append((tone, float(near.mean())))
    return sorted(found, key=lambda f: -f[1])[:most]


def _drawn_on(lab: NDArray[np.float32], tone: Floats) -> Mask:
    """Where a page is not of a tone, its light evened out; everywhere when hardly anything is of it."""
    hue = np.hypot(lab[..., 1] - tone[1], lab[..., 2] - tone[2])
    like = (hue < FAR + ONE_COLOUR) & (np.abs(lab[..., 0] - tone[0]) < LIT)
    light = _lightness(lab[..., 0], like, float(tone[0]))
    away = np.hypot(hue, lab[..., 0] - light)
    near = away < FAR
    if near.mean() < 0.01:
        return np.ones(lab.shape[:2], dtype=bool)
    grain = float(np.median(away[near])) * 1.5
    ink = (away > max(FAR, 4 * grain)).astype(np.uint8)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(ink, connectivity=8)
    kept = np.zeros(count, dtype=bool)
    kept[1:] = stats[1:, cv2.CC_STAT_AREA] >= 12
    return np.asarray(kept[labels])


def _lightness(seen: NDArray[np.float32], like: Mask, tone: float) -> NDArray[np.float32]:
    """The lightness of a tone over a page as light falls on it: a square surface through the places like it."""
    h, w = seen.shape
    ys, xs = np.nonzero(like[::4, ::4])
    if len(ys) < 200:
        return np.full((h, w), tone, np.float32)
    x, y, value = xs * 4 / w - 0.5, ys * 4 / h - 0.5, seen[::4, ::4][ys, xs]
    basis = np.stack([np.ones_like(x), x, y, x * x, x * y, y * y], axis=1)
    # The gutter is a mode, not a mean: begin at the tone, and keep what lies near the surface each time.
    fitted = np.array([tone, 0, 0, 0, 0, 0], dtype=np.float64)
    for reach in (LIT, 15.0, 8.0, 5.0):
        kept = np.abs(value - basis @ fitted) < reach
        if kept.sum() < 200:
            break
        fitted = np.linalg.lstsq(basis[kept], value[kept], rcond=None)[0]
    gx, gy = np.linspace(-0.5, 0.5, w, dtype=np.float32)[None], np.linspace(-0.5, 0.5, h, dtype=np.float32)[:, None]
    a, b, c, d, e, f = (float(v) for v in fitted)
    return np.asarray(a + b * gx + c * gy + d * gx * gx + e * gx * gy + f * gy * gy, dtype=np.float32)


def inks(small: Pixels, grounds: Sequence[Gutter]) -> Iterator[Mask]:
    """Where the page is drawn on: as whatever is not of a colour that may part panels, and as ink on lit paper."""
    for ground in grounds:
        yield _without_slivers(ground.ink)
    yield _without_slivers(ink_on_paper(small))


def _without_slivers(ink: Mask) -> Mask:
    """Ink without what the page's own edge shows of the ground that it lies on."""
    cleared = ink.copy()
    for turned in (cleared, cleared[::-1], cleared.T, cleared.T[::-1]):  # views: clearing them clears the page
        deep = round(SLIVER * turned.shape[0])
        reach = np.where(turned[:deep].all(axis=0), 0, turned[:deep].argmin(axis=0))
        turned[:deep][np.arange(deep)[:, None] < reach[None]] = False
    return cleared


def ink_on_paper(small: Pixels) -> Mask:
    """Where a page is drawn on, its light evened out."""
    grey = np.asarray(cv2.cvtColor(small, cv2.COLOR_RGB2GRAY), dtype=np.uint8)
    size = max(15, max(grey.shape) // 28) | 1
    paper = cv2.morphologyEx(grey, cv2.MORPH_CLOSE, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size)))
    paper = cv2.GaussianBlur(paper, (0, 0), size / 3)
    soft = cv2.GaussianBlur(grey, (0, 0), 0.8).astype(np.float32)
    level = soft / np.maximum(paper, 1)
    noise = float(np.median(np.abs(level - np.median(level))))
    lines = level < min(INK, 1 - 4 * noise)
    ink = (lines | (soft < INK * _paper_light(grey))).astype(np.uint8)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(ink, connectivity=8)
    big = np.zeros(count, dtype=bool)
    big[1:] = stats[1:, cv2.CC_STAT_AREA] >= 12
    return np.asarray(big[labels])


def _paper_light(grey: NDArray[np.uint8]) -> NDArray[np.float32]:
    """The light on a page as a smooth surface (a cubic fitted to the brightest parts of a grid, washes left out), (h, w)."""
    h, w = grey.shape
    rows, columns = 18, 14
    cells = [
        (
            r,
            c,
            float(
                np.percentile(
                    grey[r * h // rows : (r + 1) * h // rows : 2, c * w // columns : (c + 1) * w // columns : 2], 92
                )
            ),
        )
        for r in range(rows)
        for c in range(columns)
    ]
    at = np.array([((c + 0.5) / columns - 0.5, (r + 0.5) / rows - 0.5) for r, c, _ in cells])
    seen = np.array([value for _, _, value in cells])
    kept = seen > 0.75 * np.percentile(seen, 90)
    terms = [(i, j) for i in range(4) for j in range(4 - i)]
    basis = np.stack([at[:, 0] ** i * at[:, 1] ** j for i, j in terms], axis=1)
    fitted = np.zeros(len(terms))
    for _ in range(4):
        if kept.sum() < 2 * len(terms):
            return np.full((h, w), float(np.percentile(seen, 90)), np.float32)
        fitted = np.linalg.lstsq(basis[kept], seen[kept], rcond=None)[0]
        kept = seen > 0.93 * (basis @ fitted)
    x, y = np.linspace(-0.5, 0.5, w, dtype=np.float32), np.linspace(-0.5, 0.5, h, dtype=np.float32)
    surface = sum(np.outer(y**j, x**i) * float(f) for (i, j), f in zip(terms, fitted, strict=True))
    return np.clip(np.asarray(surface, dtype=np.float32), 40, 255)
