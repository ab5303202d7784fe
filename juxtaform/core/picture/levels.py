"""Heights on a figure that a model sheet draws common lines at: shoulders and waist, read from its outline."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

NECK = (0.12, 0.55)
"""A neck lies between these parts of a figure's height: a child of picture books is half head."""
NECK_NARROWER = 0.8
"""A neck is at most this part as wide as the head above it; who has none gets no lines but head and ground."""
SHOULDERS = 0.8
"""Shoulders begin where the outline is this part as wide as it is within a fifth of the height below the neck."""


@dataclass(frozen=True)
class Levels:
    """Heights as parts of the figure's, from its top (0) to the ground (1)."""

    shoulders: float
    waist: float


def levels(figure: NDArray[np.bool_]) -> Levels | None:
    """The levels of a figure that stands upright, from where it is (h, w), cut to its extent; None where its outline has no neck.

    >>> body = np.zeros((100, 60), dtype=bool)
    >>> body[:30, 15:45] = body[30:34, 25:35] = body[34:, 5:55] = True
    >>> levels(body).shoulders
    0.34
    """
    height = figure.shape[0]
    wide = figure.sum(axis=1).astype(np.float64)
    first, last = int(NECK[0] * height), int(NECK[1] * height)
    if last - first < 4:
        return None
    neck = first + int(np.argmin(wide[first:last]))
    head = float(wide[:neck].max(initial=0.0))
    reach = min(height, neck + max(2, height // 5))
    below = float(wide[neck:reach].max(initial=0.0))
    if head <= 0 or wide[neck] > NECK_NARROWER * head or wide[neck] > NECK_NARROWER * below:
        return None
    shoulders = neck + int(np.argmax(wide[neck:reach] >= SHOULDERS * below))
    left = height - shoulders
    low, high = shoulders + int(0.2 * left), shoulders + int(0.55 * left)
    waist = low + int(np.argmin(wide[low:high])) if high > low else shoulders + left // 3
    return Levels(shoulders / height, waist / height)
