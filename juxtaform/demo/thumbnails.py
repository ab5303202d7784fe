"""A page of hand-drawn panels for the first shots, as one would scribble them before drawing: pencil on paper, a little askew."""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from juxtaform.core.colour.spaces import Pixels
from juxtaform.demo.paper import rendered

PANELS = 4
_PENCIL = 'fill="none" stroke="#4a4a50" stroke-width="4" stroke-linecap="round" stroke-linejoin="round"'
_FIGURE = "M{x},{y}m-26,0a26,26 0 1 0 52,0a26,26 0 1 0 -52,0m26,26l-34,100h68zm-14,100v44m28,-44v44"
_CRAB = "M{x},{y}m-34,0a34,22 0 1 0 68,0a34,22 0 1 0 -68,0m34,-22a14,14 0 1 0 0.1,0m-34,20l-24,-22m92,22l24,-22"


def page(seed: int = 3) -> Pixels:
    """The page (1300, 1000, 3): two tiers of two panels."""
    rng = np.random.default_rng(seed)
    parts = []
    for i in range(PANELS):
        x, y = 70 + (i % 2) * 600, 70 + (i // 2) * 430
        parts.append(f'<path {_PENCIL} d="{_frame(rng, x, y, 570, 380)}"/>')
        parts.append(f'<path {_PENCIL} d="{_scribble(i, x, y)}"/>')
    body = f'<g transform="rotate(1.2 650 500)">{"".join(parts)}</g>'
    return rendered(
        f'<svg xmlns="http://www.w3.org/2000/svg" width="1300" height="980" viewBox="0 0 1300 980">'
        f'<rect width="1300" height="980" fill="#f3f0e8"/>{body}</svg>'
    )


def _frame(rng: np.random.Generator, x: float, y: float, w: float, h: float) -> str:
    corners = [(x, y), (x + w, y), (x + w, y + h), (x, y + h), (x, y)]
    points = []
    for (ax, ay), (bx, by) in pairwise(corners):
        for k in range(12):
            t = k / 12
            points.append((ax + (bx - ax) * t + rng.normal(0, 1.5), ay + (by - ay) * t + rng.normal(0, 1.5)))
    return "M" + "L".join(f"{px:.1f},{py:.1f}" for px, py in points) + "Z"


def _scribble(which: int, x: float, y: float) -> str:
    horizon = f"M{x + 40},{y + 290}q120,-50 240,-12t240,6"
    figure = _FIGURE.format(x=x + 230, y=y + 130)
    crab = _CRAB.format(x=x + 390, y=y + 320)
    steps = f"M{x + 60},{y + 250}h90v40h90v40h90"
    boats = f"M{x + 60},{y + 330}q50,40 110,0zm160,20q50,40 110,0zm150,-14q50,40 110,0z"
    clock = f"M{x + 420},{y + 110}m-46,0a46,46 0 1 0 92,0a46,46 0 1 0 -92,0m46,-26v26l18,10"
    return " ".join(((steps, figure, crab), (figure, crab, horizon), (figure, boats, horizon), (figure, clock))[which])
