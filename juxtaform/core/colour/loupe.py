"""What a loupe reads: the colour of a small round place, and how far two such colours are apart."""

from __future__ import annotations

import numpy as np

from juxtaform.core.colour.spaces import Floats, Pixels, delta_e_2000, lab_from_linear, linear_from_srgb8

APART = ((1.0, "the same to the eye"), (2.5, "hardly seen"), (5.0, "seen side by side"), (12.0, "plainly seen"))
"""CIEDE2000 up to which two colours are told so. About 1 is a just noticeable step (G. Sharma et al., 2005); 2.3 was found for unlike
fields (M. Mahy et al., Color Res. Appl. 19, 1994); the rest is rounded from there."""


def colour_at(pixels: Pixels, x: float, y: float, radius: float) -> Floats:
    """The mean linear light (3,) of the pixels of a picture (h, w, 3) whose middles lie within `radius` px of a place; at least of the
    pixel there. Raises ValueError for a place outside the picture.

    >>> colour_at(np.full((9, 9, 3), 188, np.uint8), 4.5, 4.5, 2).round(2).tolist()
    [0.5, 0.5, 0.5]
    """
    height, width = pixels.shape[:2]
    if not (0 <= x < width and 0 <= y < height):
        raise ValueError(f"The place {x:.0f}, {y:.0f} lies outside the picture of {width} × {height} px.")
    r = max(0.0, radius)
    x0, y0 = max(0, int(x - r)), max(0, int(y - r))
    part = pixels[y0 : min(height, int(y + r) + 1), x0 : min(width, int(x + r) + 1)]
    ys, xs = np.mgrid[0 : part.shape[0], 0 : part.shape[1]]
    within = (xs + x0 + 0.5 - x) ** 2 + (ys + y0 + 0.5 - y) ** 2 <= r**2
    within[int(y) - y0, int(x) - x0] = True
    return np.asarray(linear_from_srgb8(part[within]).mean(axis=0))


def apart(one: Floats, other: Floats) -> float:
    """CIEDE2000 between two linear-light colours, shape (3,)."""
    return float(delta_e_2000(lab_from_linear(one), lab_from_linear(other)))


def apart_in_words(delta: float) -> str:
    """How far two colours are apart, as an eye says it.

    >>> apart_in_words(2.1), apart_in_words(31)
    ('hardly seen', 'another colour')
    """
    return next((words for most, words in APART if delta <= most), "another colour")
