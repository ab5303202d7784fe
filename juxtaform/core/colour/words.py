"""Plain words for a colour, for proposals and findings."""

from __future__ import annotations

import numpy as np

from juxtaform.core.colour.spaces import Floats, oklab_from_linear

_HUES = (
    (12, "pink"),
    (38, "red"),
    (62, "orange"),
    (92, "amber"),
    (114, "yellow"),
    (130, "lime"),
    (160, "green"),
    (222, "teal"),
    (248, "sky blue"),
    (280, "blue"),
    (312, "violet"),
    (340, "purple"),
    (361, "pink"),
)
"""Upper edges of hue names in degrees of OKLab hue."""


def colour_name(linear: Floats) -> str:
    """A short everyday name of a linear-light colour, shape (3,).

    >>> from juxtaform.core.colour.spaces import linear_from_hex
    >>> [colour_name(linear_from_hex(c)) for c in ("#d9a326", "#7a7a3a", "#1f6f78", "#f4f4f2", "#5b2a4e")]
    ['amber', 'olive', 'teal', 'white', 'dark purple']
    """
    lightness, a, b = (float(v) for v in oklab_from_linear(linear))
    chroma = float(np.hypot(a, b))
    hue = float(np.degrees(np.arctan2(b, a)) % 360)
    if chroma < 0.025:
        return _grey(lightness)
    name = next(word for edge, word in _HUES if hue < edge)
    if name in ("red", "orange", "amber") and lightness < 0.55 and chroma < 0.13:
        return "dark brown" if lightness < 0.38 else "brown"
    if name in ("orange", "amber", "red") and lightness > 0.7 and chroma < 0.11:
        return "buff"
    if name in ("yellow", "lime") and lightness < 0.66:
        return "olive"
    if chroma < 0.05:
        return f"{name}-grey"
    if lightness < 0.42:
        return f"dark {name}"
    return f"pale {name}" if lightness > 0.85 else name


def _grey(lightness: float) -> str:
    for edge, word in ((0.22, "black"), (0.45, "dark grey"), (0.72, "grey"), (0.93, "light grey")):
        if lightness < edge:
            return word
    return "white"
