"""A figure's proportions against the reference that it lies over: how large its upper part is for the rest, and how tall it is for its width."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import cv2
import numpy as np

from juxtaform.core.colour.spaces import Floats
from juxtaform.core.figure.ground import Mask
from juxtaform.core.figure.placing import Pairs, mutual
from juxtaform.core.figure.sheet import FIGURE_LEAST, FINE, Sheet, finely
from juxtaform.core.picture.trunk import Map

UPPER = (0.2, 0.3, 0.4, 0.5)
"""Parts of the reference's height that are tried as the upper part: where heads end differs from figure to figure. Two neighbours must say the same."""
WINDOW = 5
"""Places (of 28) are matched this far around where the common transform put everything: a head half as large again moves its rim by three."""
SURE = 0.3
"""A match of places below this cosine says nothing of proportions."""
PAIRS_LEAST, AGREEING_LEAST = 12, 0.4
"""A part's size is told by at least so many pairs that one transform explains, at least this part of all of them."""
TALL_LEAST = 20
"""Height for width is told by at least so many."""
REACH = 1.2
"""How many places a pair may lie off its part's transform."""
TRIES = 800


@dataclass(frozen=True, slots=True)
class Proportion:
    """Against the reference: `upper` is log2 of how many times as large the upper part is for the rest, `tall` log2 of how many times as tall the figure
    is for its width; 0 is as there, None where too little goes together to tell."""

    upper: float | None = None
    tall: float | None = None


def proportion(reference: Sheet, third: Map, fourth: Map, inside: Mask) -> Proportion | None:
    """The proportions of a figure that is redrawn in a reference's place, by the maps of what is drawn there; `inside` (224, 224) is where there is picture. None where too few places go together."""
    seen = np.asarray(cv2.resize(inside, (FINE, FINE)), dtype=np.float32)
    pairs = mutual(reference.fine, reference.fine_mask * seen, finely(third, fourth), seen, WINDOW, SURE)
    if pairs is None:
        return None
    rows = np.flatnonzero((reference.fine_mask > FIGURE_LEAST).any(axis=1))
    height = rows[-1] + 1 - rows[0]
    ratios = [_ratio(pairs, rows[0] + part * height) for part in UPPER]
    return Proportion(_agreed(ratios), _tall(pairs))


def stature(reference: Sheet, affine: Floats, square: float) -> float:
    """How tall, in px of the picture, a figure is drawn that lies over a reference: the reference's figure by the scale of the transform (2, 3) from its coarse places to those
    of the frame's square, whose side is `square` px. Raised arms and bent knees do not change it."""
    rows = np.flatnonzero((reference.fine_mask > FIGURE_LEAST).any(axis=1))
    part = (rows[-1] + 1 - rows[0]) / FINE
    return float(part * square * np.hypot(affine[0, 0], affine[1, 0]))


def _ratio(pairs: Pairs, cut: float) -> float | None:
    """How much larger what lies above a row is drawn than what lies below it (log2)."""
    above = pairs.ours[:, 1] < cut
    upper, lower = (_scale(pairs.ours[part], pairs.theirs[part]) for part in (above, ~above))
    return None if upper is None or lower is None else float(np.log2(upper / lower))


def _scale(ours: Map, theirs: Map) -> float | None:
    if len(ours) < PAIRS_LEAST:
        return None
    cv2.setRNGSeed(1)
    affine, agree = cv2.estimateAffinePartial2D(ours, theirs, ransacReprojThreshold=REACH, maxIters=TRIES)
    if affine is None or agree.sum() < PAIRS_LEAST or agree.mean() < AGREEING_LEAST:
        return None
    return float(np.hypot(affine[0, 0], affine[1, 0]))


def _agreed(ratios: list[float | None]) -> float | None:
    """The ratio that two neighbouring cuts agree on at least, the largest such one; None where no two tell any."""
    told = [
        np.sign(a) * min(abs(a), abs(b)) * (a * b > 0) for a, b in pairwise(ratios) if a is not None and b is not None
    ]
    return float(max(told, key=abs)) if told else None


def _tall(pairs: Pairs) -> float | None:
    cv2.setRNGSeed(1)
    affine, agree = cv2.estimateAffine2D(pairs.ours, pairs.theirs, ransacReprojThreshold=REACH, maxIters=TRIES)
    if affine is None or agree.sum() < TALL_LEAST or agree.mean() < AGREEING_LEAST:
        return None
    across, down = np.hypot(affine[0, 0], affine[1, 0]), np.hypot(affine[0, 1], affine[1, 1])
    return float(np.log2(max(down, 1e-3) / max(across, 1e-3)))
