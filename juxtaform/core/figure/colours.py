"""Colours of a frame's figure against a reference's, one common light taken out, place by place."""

from __future__ import annotations

import cv2
import numpy as np

from juxtaform.core.colour.spaces import Floats, Pixels, oklab_from_linear
from juxtaform.core.figure.ground import Mask
from juxtaform.core.figure.sheet import FINE, Sheet, cells

DARK = 0.01
"""Linear light below which a ratio says nothing."""
TINT_MOST = 0.8
EXPOSURE = (-3.0, 1.5)
"""Stops that a scene's light may move one channel against the others, and all of them: a moonlit night, a bright noon.
More is paint: a stranger in green is not tinted until he fits."""
CELLS_LEAST = 8
"""Fewer cells than this tell no common light."""
OWN_LEAST = 0.5
"""A cell counts when at least this part of it is the figure."""
NOT_LAID = (0.12, 0.2)
"""Steps of the whole colour, and of hue and chroma, where nothing placed the figure: as for strangers."""


def common_light(ours: Floats, theirs: Floats) -> Floats:
    """Stops per channel (3,) that turn linear-light colours `ours` (n, 3) into `theirs`, place by place, within what a
    scene's light may do."""
    return bounded(np.median(np.log2((theirs + DARK) / (ours + DARK)), axis=0))


def bounded(stops: Floats) -> Floats:
    """Stops per channel (3,) brought within what a scene's light may do."""
    exposure = float(stops.mean())
    return np.asarray(np.clip(exposure, *EXPOSURE) + np.clip(stops - exposure, -TINT_MOST, TINT_MOST))


def steps(ours: Floats, theirs: Floats, stops: Floats, reach: int = 1) -> tuple[Floats, Floats]:
    """The OKLab distance of each place of `ours` (h, w, 3) linear to the nearest colour within `reach` places of `theirs` in that light,
    and that of hue and chroma alone; (h, w) each."""
    h, w = ours.shape[:2]
    own = oklab_from_linear(ours)
    other = oklab_from_linear(np.clip(theirs / 2.0**stops, 0, 1.2))
    padded = np.pad(other, ((reach, reach), (reach, reach), (0, 0)), constant_values=9.0)
    span = range(2 * reach + 1)
    apart = np.stack([own - padded[y : y + h, x : x + w] for y in span for x in span])
    whole, hue = np.linalg.norm(apart, axis=-1), np.linalg.norm(apart[..., 1:], axis=-1)
    return whole.min(axis=0), hue.min(axis=0)


def laid_over(ours: Sheet, redrawn: Pixels, inside: Mask) -> tuple[float, float]:
    """The median steps of a figure redrawn over its reference, of the whole colour and of hue and chroma; `inside` (224, 224) tells where it has
    picture."""
    there = np.asarray(cv2.resize(inside, (FINE, FINE), interpolation=cv2.INTER_AREA))
    where = (ours.fine_mask > OWN_LEAST) & (there > OWN_LEAST)
    if where.sum() < CELLS_LEAST:
        return NOT_LAID
    own, other = ours.cells, cells(redrawn)
    whole, hue = steps(own, other, common_light(own[where], other[where]))
    return float(np.median(whole[where])), float(np.median(hue[where]))
