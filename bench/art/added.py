"""Drawn figures with a thing that they never have: a hat, a bag, a band, in a colour that is not theirs."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from bench.art.staging import Rgba
from juxtaform.core.colour.spaces import delta_e_2000, lab_from_srgb8

ADDED = {"a small thing": 0.05, "a thing": 0.1, "a large thing": 0.16}
"""Which part of the figure's area it has."""
OTHER_COLOUR = 25.0
"""CIEDE2000 from its colour to nearly all of the figure."""


def with_a_thing(seen: Rgba, rng: np.random.Generator, share: float) -> tuple[Rgba, tuple[float, float]]:
    """A figure with a hat, a bag or a band, outlined and a little shaded, and where its middle is (0..1 of the new picture)."""
    inside = seen[..., 3] > 128
    size = float(np.sqrt(share * inside.sum()))
    colour = _other_colour(seen[..., :3][inside], rng)
    edge = int(0.9 * size) + 4
    page = np.pad(seen, ((edge, edge), (edge, edge), (0, 0)))
    thing = (_hat, _bag, _band)[rng.integers(3)](page[..., 3] > 128, size, rng)
    tall = int(np.ptp(np.flatnonzero((page[..., 3] > 128).any(axis=1))))
    inner = cv2.erode(thing.astype(np.uint8), np.ones((3, 3), np.uint8), iterations=max(1, tall // 150)) > 0
    down = np.mgrid[: thing.shape[0], : thing.shape[1]][0][thing]
    shade = 1.06 - 0.15 * (down - down.min()) / max(1, np.ptp(down))
    page[thing, :3] = np.clip(colour[None] * shade[:, None], 0, 255)
    page[thing & ~inner, :3] = (0.45 * colour).astype(np.uint8)
    page[thing, 3] = 255
    shown = page[..., 3] > 40
    rows, columns = np.flatnonzero(shown.any(axis=1)), np.flatnonzero(shown.any(axis=0))
    part = slice(rows[0], rows[-1] + 1), slice(columns[0], columns[-1] + 1)
    ys, xs = np.nonzero(thing[part])
    out = np.ascontiguousarray(page[part])
    return out, (float(xs.mean() / out.shape[1]), float(ys.mean() / out.shape[0]))


def _other_colour(own: NDArray[np.uint8], rng: np.random.Generator) -> NDArray[np.float64]:
    """A strong colour, sRGB, that a figure has hardly anywhere; the one farthest from it where none is far enough."""
    lab = lab_from_srgb8(own[::7])
    best = (-1.0, np.zeros(3))
    for _ in range(60):
        hsv = np.array([[[rng.integers(180), rng.integers(110, 256), rng.integers(70, 250)]]], np.uint8)
        tried = cv2.cvtColor(hsv, cv2.COLOR_HSV2RGB)[0, 0]
        away = float(np.quantile(delta_e_2000(np.broadcast_to(lab_from_srgb8(tried), lab.shape), lab), 0.02))
        best = max(best, (away, tried.astype(np.float64)), key=lambda b: b[0])
        if away > OTHER_COLOUR:
            break
    return best[1]


def _across(figure: NDArray[np.bool_], part: float) -> tuple[float, float, float]:
    """The height (px) at a part of a figure, the middle there, and how wide it is there."""
    rows = np.flatnonzero(figure.any(axis=1))
    y = rows[0] + part * (rows[-1] - rows[0])
    row = np.flatnonzero(figure[int(y) - 2 : int(y) + 3].any(axis=0))
    return float(y), float(row[0] + row[-1]) / 2, float(row[-1] - row[0])


def _drawn(figure: NDArray[np.bool_], points: list[tuple[float, float]]) -> NDArray[np.bool_]:
    page = np.zeros(figure.shape, np.uint8)
    cv2.fillPoly(page, [np.rint(np.array(points)).astype(np.int32)], (1,))
    return page > 0


def _hat(figure: NDArray[np.bool_], size: float, rng: np.random.Generator) -> NDArray[np.bool_]:
    y, x, _ = _across(figure, 0.08)
    corners = ((-0.8, 0.0), (0.8, 0.0), (0.45, -0.9), (-0.45, -0.9))
    return _drawn(figure, [(x + a * size, y + b * size) for a, b in corners])


def _bag(figure: NDArray[np.bool_], size: float, rng: np.random.Generator) -> NDArray[np.bool_]:
    y, x, wide = _across(figure, float(rng.uniform(0.45, 0.7)))
    x += float(rng.uniform(-0.3, 0.3)) * wide
    turns = np.linspace(0, 2 * np.pi, 40)
    return _drawn(figure, [(x + 0.6 * size * np.cos(t), y + 0.53 * size * np.sin(t)) for t in turns])


def _band(figure: NDArray[np.bool_], size: float, rng: np.random.Generator) -> NDArray[np.bool_]:
    y, x, across = _across(figure, float(rng.uniform(0.3, 0.6)))
    wide = min(across, 2.2 * size)
    tall = size * size / max(wide, 1.0)
    return _drawn(figure, [(x + a * wide / 2, y + b * tall / 2) for a, b in ((-1, -1), (1, -1), (1, 1), (-1, 1))])
