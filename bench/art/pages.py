"""Pages of panels made of drawn art: coloured, dark-guttered, without frames, ruled by hand, photographed; what is on them is known."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np

from bench.art.sources import Family, grounds, picture
from bench.art.staging import Rgb, Standing, on_white, random_light, scene
from juxtaform.core.colour.spaces import Floats

PageKind = Literal["drawn", "coloured", "dark gutters", "no frames", "ruled by hand", "photographed"]
KINDS: tuple[PageKind, ...] = ("drawn", "coloured", "dark gutters", "no frames", "ruled by hand", "photographed")
PAPERS = ((255, 255, 255), (250, 246, 236), (238, 228, 206))
GUTTERS = ((196, 178, 140), (150, 180, 190), (214, 160, 150), (120, 130, 96), (90, 96, 140))
DARK = ((8, 8, 10), (24, 22, 34), (44, 34, 28))


@dataclass(frozen=True)
class ArtPage:
    """A page as it comes in; `quads` (n, 4, 2) are its panels in px; `upright` when it was scanned straight."""

    photo: Rgb
    quads: Floats
    upright: bool


def page(kind: PageKind, members: list[Family], seed: int) -> ArtPage:
    """A page of two to nine panels in tiers or columns, filled with scenes by one hand."""
    rng = np.random.default_rng(seed)
    width, height = (int(v) for v in rng.choice([(900, 1270), (1000, 1000), (1240, 900)]))
    photographed = kind == "photographed"
    gutter = float(rng.uniform(0.012, 0.035)) * width
    margin = (
        0.0 if kind in ("coloured", "dark gutters") and rng.random() < 0.25 else gutter * float(rng.uniform(1, 2.5))
    )
    tones = {"dark gutters": DARK, "coloured": GUTTERS}.get(kind, PAPERS)
    tone = tones[rng.integers(len(tones))]
    sheet = np.full((height, width, 3), tone, np.uint8)
    framed = kind in ("drawn", "ruled by hand") or (kind != "no frames" and rng.random() < 0.5)
    quads = []
    for x0, y0, x1, y1 in _layout(rng, margin, margin, width - margin, height - margin, gutter):
        wobble = 0.004 * width if kind == "ruled by hand" else 0.0
        quad = np.array([(x0, y0), (x1, y0), (x1, y1), (x0, y1)]) + rng.uniform(-wobble, wobble, (4, 2))
        _filled(sheet, quad, _content(kind, members, rng, (int(x1 - x0), int(y1 - y0)), tone))
        if framed:
            _frame(sheet, quad, rng, wobble, dark=sum(tone) > 200)
        quads.append(quad)
    told = np.array(quads)
    if photographed:
        sheet, told = _photographed(sheet, told, rng)
    return ArtPage(sheet, told, not photographed)


def _layout(
    rng: np.random.Generator, x0: float, y0: float, x1: float, y1: float, gutter: float
) -> list[tuple[float, float, float, float]]:
    across = y1 - y0 > 0.8 * (x1 - x0)
    found = []
    for a, b in _cuts(rng, *((y0, y1) if across else (x0, x1)), gutter, int(rng.integers(1, 4))):
        c, d = (x0, x1) if across else (y0, y1)
        for e, f in _cuts(rng, c, d, gutter, int(rng.integers(1, 4))):
            found.append((e, a, f, b) if across else (a, e, b, f))
    return found if len(found) > 1 else _layout(rng, x0, y0, x1, y1, gutter)


def _cuts(rng: np.random.Generator, low: float, high: float, gutter: float, count: int) -> list[tuple[float, float]]:
    parts = rng.uniform(0.7, 1.5, count)
    lengths = (high - low - gutter * (count - 1)) * parts / parts.sum()
    found, at = [], low
    for length in lengths:
        found.append((at, at + float(length)))
        at += float(length) + gutter
    return found


def _content(
    kind: PageKind, members: list[Family], rng: np.random.Generator, size: tuple[int, int], tone: tuple[int, int, int]
) -> Rgb:
    """A scene for a panel; on drawn pages a figure on the paper itself, with a few lines."""
    family = members[rng.integers(len(members))]
    drawn = picture(family.pictures[rng.integers(len(family.pictures))])
    if kind in ("drawn", "ruled by hand") and rng.random() < 0.7:
        panel = np.full((size[1], size[0], 3), tone, np.uint8)
        figure = on_white(drawn, 0.0)
        scale = float(rng.uniform(0.4, 0.8)) * min(size[0] / figure.shape[1], size[1] / figure.shape[0])
        small = cv2.resize(figure, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
        h, w = small.shape[:2]
        x, y = int(rng.uniform(0, size[0] - w)), int(rng.uniform(0.2, 1) * (size[1] - h))
        panel[y : y + h, x : x + w] = np.minimum(panel[y : y + h, x : x + w], small)
        level = int(size[1] * rng.uniform(0.65, 0.9))
        cv2.line(panel, (0, level), (size[0], level + int(rng.uniform(-9, 9))), (60, 58, 64), 2, cv2.LINE_AA)
        return panel
    every = grounds()
    standing = Standing(drawn, float(rng.uniform(0.2, 0.8)), 1.0, float(rng.uniform(0.4, 0.9)), bool(rng.integers(2)))
    return scene(every[rng.integers(len(every))], [standing], random_light(rng), size)[0]


def _filled(sheet: Rgb, quad: Floats, content: Rgb) -> None:
    h, w = content.shape[:2]
    corners = np.array([(0, 0), (w, 0), (w, h), (0, h)], np.float32)
    turn = cv2.getPerspectiveTransform(corners, quad.astype(np.float32))
    laid = cv2.warpPerspective(content, turn, (sheet.shape[1], sheet.shape[0]))
    inside = np.zeros(sheet.shape[:2], np.uint8)
    cv2.fillConvexPoly(inside, np.rint(quad).astype(np.int32), 255)
    sheet[inside > 0] = laid[inside > 0]


def _frame(sheet: Rgb, quad: Floats, rng: np.random.Generator, wobble: float, dark: bool) -> None:
    ink = (30, 28, 32) if dark else (226, 222, 214)
    thick = int(rng.integers(2, 5))
    for a, b in zip(quad, np.roll(quad, -1, axis=0), strict=True):
        steps = 12 if wobble else 1
        points = a + (b - a) * np.linspace(0, 1, steps + 1)[:, None]
        points[1:-1] += rng.normal(0, wobble / 3, (steps - 1, 2)) if wobble else 0
        cv2.polylines(sheet, [np.rint(points).astype(np.int32)], False, ink, thick, cv2.LINE_AA)


def _photographed(sheet: Rgb, quads: Floats, rng: np.random.Generator) -> tuple[Rgb, Floats]:
    """On a desk, from a little aside, in uneven light, with grain."""
    height, width = sheet.shape[:2]
    pad = int(rng.uniform(0.03, 0.12) * width)
    corners = np.array([(0, 0), (width, 0), (width, height), (0, height)], np.float32)
    to = corners + rng.uniform(-0.03, 0.03, (4, 2)).astype(np.float32) * width + pad
    angle = np.radians(rng.uniform(-4, 4))
    turn = np.array([[np.cos(angle), np.sin(angle)], [-np.sin(angle), np.cos(angle)]], np.float32)
    to = (to - to.mean(axis=0)) @ turn + to.mean(axis=0)
    matrix = cv2.getPerspectiveTransform(corners, to.astype(np.float32))
    desk = tuple(int(v) for v in rng.uniform(40, 120, 3))
    size = (width + 2 * pad, height + 2 * pad)
    photo = cv2.warpPerspective(sheet, matrix, size, borderMode=cv2.BORDER_CONSTANT, borderValue=desk).astype(
        np.float32
    )
    ys, xs = np.mgrid[0 : size[1], 0 : size[0]]
    side = rng.uniform(-1, 1, 2)
    fall = 1 - rng.uniform(0.1, 0.4) * (
        0.5 + 0.5 * (side[0] * (xs / size[0] - 0.5) + side[1] * (ys / size[1] - 0.5)) * 2
    )
    photo = photo * fall[..., None] + rng.normal(0, 3, photo.shape)
    moved = cv2.perspectiveTransform(quads.reshape(-1, 1, 2), matrix.astype(np.float64)).reshape(-1, 4, 2)
    return np.clip(photo, 0, 255).astype(np.uint8), moved
