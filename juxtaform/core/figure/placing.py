"""Places of one figure matched with places of another, and the one similarity transform that places most of them."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.figure.ground import Mask
from juxtaform.core.figure.sheet import COARSE, FIGURE_LEAST, FINE, Sheet
from juxtaform.core.picture.trunk import SIDE, Map

Affine = NDArray[np.float64]

PLACES_LEAST, MATCHES_LEAST = 6, 4
COSINE_LEAST = 0.2
"""A match of places below this cosine is none."""
SMALLEST, LARGEST, TURN_MOST = 0.45, 2.2, 0.7
"""Scale and turn (radians, about 40 degrees) of a figure against its reference."""
COARSE_REACH, FINE_REACH = 1.3, 1.2
"""How many places a match may lie off the common transform."""
FINE_WINDOW = 3
"""The second matching looks this many places around where the first one put everything."""


@dataclass(frozen=True)
class Placed:
    """A similarity transform (2, 3) from places of the reference to places of the frame's figure, and the share 0..1 of
    places that it explains, each weighed by its cosine."""

    affine: Affine
    share: float


@dataclass(frozen=True)
class Pairs:
    """Places that are each other's nearest: middles (m, 2) as x, y in the reference (`ours`) and in the frame's figure (`theirs`), and their cosines (m,);
    `most` is how many there could be."""

    ours: NDArray[np.float32]
    theirs: NDArray[np.float32]
    cosine: NDArray[np.float32]
    most: int


def mutual(
    reference: Map, reference_mask: Mask, seen: Map, seen_mask: Mask, window: int = 0, least: float = COSINE_LEAST
) -> Pairs | None:
    """Mutual nearest neighbours by cosine, from `least` on; None when there are too few.

    Maps are (n, s, s) of unit length, masks (s, s). With a `window` only places that far apart are matched.
    """
    side = reference.shape[1]
    ours, theirs = (np.flatnonzero(m.ravel() > FIGURE_LEAST) for m in (reference_mask, seen_mask))
    if min(len(ours), len(theirs)) < PLACES_LEAST:
        return None
    cosine = reference.reshape(len(reference), -1).T[ours] @ seen.reshape(len(seen), -1)[:, theirs]
    if window:
        cosine[_apart(side, window)[np.ix_(ours, theirs)]] = -1.0
    best, back = cosine.argmax(axis=1), cosine.argmax(axis=0)
    highest = cosine[np.arange(len(ours)), best]
    both = np.flatnonzero((back[best] == np.arange(len(ours))) & (highest > least))
    if len(both) < MATCHES_LEAST:
        return None
    from_, to = (np.stack([i % side, i // side], axis=1).astype(np.float32) for i in (ours, theirs))
    return Pairs(from_[both] + 0.5, to[best[both]] + 0.5, highest[both], min(len(ours), len(theirs)))


def placed(
    reference: Map, reference_mask: Mask, seen: Map, seen_mask: Mask, reach: float, window: int = 0
) -> Placed | None:
    """The transform that places most mutual neighbours, by RANSAC; None when too few agree."""
    pairs = mutual(reference, reference_mask, seen, seen_mask, window)
    if pairs is None:
        return None
    cv2.setRNGSeed(1)
    affine, inliers = cv2.estimateAffinePartial2D(pairs.ours, pairs.theirs, ransacReprojThreshold=reach, maxIters=1500)
    if affine is None:
        return None
    scale, turn = np.hypot(affine[0, 0], affine[1, 0]), abs(np.arctan2(affine[1, 0], affine[0, 0]))
    if not SMALLEST < scale < LARGEST or turn > TURN_MOST:
        return None
    agreement = pairs.cosine[np.asarray(inliers).ravel() > 0].sum()
    return Placed(np.asarray(affine), float(agreement) / pairs.most)


@lru_cache(maxsize=4)
def _apart(side: int, window: int) -> NDArray[np.bool_]:
    """Which places of a square of `side` places lie more than `window` apart in rows or columns, (side², side²)."""
    rows, columns = np.divmod(np.arange(side * side), side)
    return np.asarray((np.abs(rows[:, None] - rows) > window) | (np.abs(columns[:, None] - columns) > window))


def coarsely(reference: Sheet, seen: Sheet) -> Placed | None:
    """The transform between two sheets at 14 x 14 places."""
    return placed(reference.coarse, reference.coarse_mask, seen.coarse, seen.coarse_mask, COARSE_REACH)


def redrawn(seen: Sheet, affine: Affine) -> tuple[NDArray[np.uint8], Mask]:
    """A figure's picture drawn in the reference's place by a transform of coarse places, and where there is picture."""
    exact = affine.copy()
    exact[:, 2] *= SIDE / COARSE
    how = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    pixels = cv2.warpAffine(seen.pixels, exact, (SIDE, SIDE), flags=how, borderMode=cv2.BORDER_REPLICATE)
    inside = cv2.warpAffine(seen.inside, exact, (SIDE, SIDE), flags=how, borderValue=0)
    return np.asarray(pixels, dtype=np.uint8), np.asarray(inside, dtype=np.float32)


def refined(affine: Affine, reference: Sheet, maps_of_redrawn: Map, inside: Mask) -> Affine | None:
    """The transform made more exact at 28 x 28 places, from the redrawn picture's fine map; None when that places little."""
    seen = np.asarray(cv2.resize(inside, (FINE, FINE)), dtype=np.float32)
    more = placed(reference.fine, reference.fine_mask * seen, maps_of_redrawn, seen, FINE_REACH, FINE_WINDOW)
    if more is None:
        return None
    in_coarse = more.affine * np.array([[1, 1, COARSE / FINE], [1, 1, COARSE / FINE]])
    return np.asarray(affine @ np.vstack([in_coarse, [0, 0, 1]]))
