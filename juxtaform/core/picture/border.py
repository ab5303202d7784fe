"""A printed border or letterbox: bands of one colour along the sides that end in a straight step."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from juxtaform.core import tolerances as tol
from juxtaform.core.colour.spaces import Floats, Pixels, lab_from_srgb8, linear_from_srgb8
from juxtaform.core.picture.regions import Box, resized

BORDER_SIDE = 240
"""The picture's longer side in px when its border is looked for."""
UNIFORM_LAB = 3.0
"""A band is of one colour when its rows spread less than this in CIELAB."""
STEP_LAB = 6.0
"""A band ends where three quarters of the next row differ from it by at least this in CIELAB."""


@dataclass(frozen=True, slots=True)
class Border:
    """Widths of the bands left, top, right and bottom in pixels of the picture, and their colour in linear light."""

    left: float
    top: float
    right: float
    bottom: float
    linear: tuple[float, float, float]

    def inner(self, width: int, height: int) -> Box:
        """What is left of a picture of that size inside the border."""
        return Box(self.left, self.top, width - self.left - self.right, height - self.top - self.bottom)


def printed_border(pixels: Pixels) -> Border | None:
    """The border of an sRGB picture (h, w, 3): all four sides, or two opposite ones (letterbox); None without one."""
    small = resized(pixels, BORDER_SIDE)
    factor = pixels.shape[1] / small.shape[1]
    lab = lab_from_srgb8(small)
    h, w = lab.shape[:2]
    least = max(2, round(min(h, w) * tol.BORDER_LEAST))
    sides = _bands(lab, (0, 0), (0, 0))
    # Again, each pair between the other two: a deep foot hides part of where the sides end.
    sides = _bands(lab, (sides["top"][0], sides["bottom"][0]), (sides["left"][0], sides["right"][0]))
    wide = {name: t for name, (t, _) in sides.items() if t >= least}
    four = len(wide) == 4
    upright, across = {"top", "bottom"} <= set(wide), {"left", "right"} <= set(wide)
    if not (four or upright or across):
        return None
    kept = wide if four else {n: wide[n] for n in (("top", "bottom") if upright else ("left", "right"))}
    tones = np.array([sides[n][1] for n in kept])
    if np.abs(tones - tones.mean(axis=0)).max() > UNIFORM_LAB * 2:
        return None
    if not four and max(kept.values()) > 1.4 * min(kept.values()):
        return None
    row = small[0] if "top" in kept else small[:, 0]
    colour = np.median(linear_from_srgb8(row), axis=0)
    size = {n: kept.get(n, 0) * factor for n in ("left", "top", "right", "bottom")}
    return Border(**size, linear=(float(colour[0]), float(colour[1]), float(colour[2])))


def _bands(lab: Floats, rows: tuple[int, int], columns: tuple[int, int]) -> dict[str, tuple[int, Floats]]:
    """The bands of all sides; those left and right are looked for between so many `rows` of bands, the others between `columns`."""
    h, w = lab.shape[:2]
    tall, wide = round(h * tol.BORDER_MOST), round(w * tol.BORDER_MOST)
    upright = lab[:, columns[0] : w - columns[1]]
    level = lab[rows[0] : h - rows[1]].transpose(1, 0, 2)
    return {
        "top": _band(upright, tall),
        "bottom": _band(upright[::-1], tall),
        "left": _band(level, wide),
        "right": _band(level[::-1], wide),
    }


def _band(lab: Floats, most: int) -> tuple[int, Floats]:
    """How many first rows are one colour, if they end in a step along most of their length; and that colour."""
    tone = np.median(lab[0], axis=0)
    inset = max(1, lab.shape[1] // 5)
    middle = lab[:, inset : lab.shape[1] - inset]
    away = np.sqrt(((middle[: most + 2] - tone) ** 2).sum(-1))
    plain = np.percentile(away, 96, axis=1) < UNIFORM_LAB
    count = int(np.argmin(plain)) if not plain.all() else len(plain)
    if count == 0 or count > most:
        return 0, tone
    after = away[min(count + 1, len(away) - 1)]
    return (count, tone) if (after > STEP_LAB).mean() > 0.75 else (0, tone)
