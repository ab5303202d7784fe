"""The evidence of who a figure is, to be looked at: its picture redrawn over the reference, and where both differ."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Pixels
from juxtaform.core.figure.ground import rim_colour
from juxtaform.core.figure.sheet import COARSE, CROP_SIDE, on_square
from juxtaform.core.figure.who import AROUND, Evidence
from juxtaform.core.picture.regions import Box, cut_out, resized
from juxtaform.core.picture.trunk import SIDE

DIFFERS, AGREES = 0.35, 0.65
"""Cosines at which a place is told as another, and as the same; between them the mark fades."""
RED = np.array([217, 48, 37])
STRIPE_PX = 6
"""The width of a red stripe in px of the square."""


@dataclass(frozen=True)
class Laid:
    """Three squares of 224 px, sRGB: the reference, the frame's figure in its place, and the reference with red stripes where the
    figure differs."""

    reference: Pixels
    redrawn: Pixels
    differs: Pixels

    @property
    def strip(self) -> Pixels:
        """The three squares side by side, (224, 672, 3)."""
        return np.concatenate([self.reference, self.redrawn, self.differs], axis=1)


def laid(reference: Pixels, frame: Pixels, box: Box, evidence: Evidence) -> Laid:
    """The squares of a reference's crop (h, w, 3) and the figure in `box` of a frame."""
    ours = _square(reference)
    theirs = _square(cut_out(frame, box.grown(AROUND).inside(frame.shape[1], frame.shape[0])))
    if evidence.mirrored:
        theirs = np.ascontiguousarray(theirs[:, ::-1])
    affine = np.array(evidence.affine).reshape(2, 3)
    affine[:, 2] *= SIDE / COARSE
    how = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    redrawn = cv2.warpAffine(theirs, affine, (SIDE, SIDE), flags=how, borderMode=cv2.BORDER_REPLICATE)
    return Laid(ours, np.asarray(redrawn, dtype=np.uint8), _striped(ours, evidence))


def _square(crop: Pixels) -> Pixels:
    small = np.ascontiguousarray(resized(crop, CROP_SIDE))
    return on_square(small, rim_colour(small))


def _striped(reference: Pixels, evidence: Evidence) -> Pixels:
    cosine = np.array([np.nan if v is None else v for v in evidence.likeness], dtype=np.float32).reshape(COARSE, COARSE)
    other = np.nan_to_num(np.clip((AGREES - cosine) / (AGREES - DIFFERS), 0, 1), nan=0.0)
    strength: NDArray[np.float32] = np.asarray(cv2.resize(other, (SIDE, SIDE), interpolation=cv2.INTER_CUBIC)).clip(
        0, 1
    )
    ys, xs = np.mgrid[0:SIDE, 0:SIDE]
    stripe = ((xs + ys) // (STRIPE_PX // 2)) % 2 == 0
    grey = reference.mean(axis=-1, keepdims=True)
    paler = 255 - (255 - (0.5 * grey + 0.5 * reference)) * 0.75
    part = (strength * np.where(stripe, 0.95, 0.12))[..., None]
    return np.asarray(np.rint(paler * (1 - part) + RED * part), dtype=np.uint8)
