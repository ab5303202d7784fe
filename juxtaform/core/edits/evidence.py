"""The proof of an edit as a picture: the area washed in blue, what changed outside it striped in red."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Pixels
from juxtaform.core.edits.area import Mask
from juxtaform.core.edits.proof import BLOCK, CHANGED, PROOF_SIDE, EditProof
from juxtaform.core.picture.regions import resized

BLUE, RED = np.array([47, 134, 184]), np.array([217, 48, 37])
STRIPE_PX = 6


def proof_map(before: Pixels, mask: Mask, proof: EditProof) -> Pixels:
    """The earlier picture (h, w, 3), at most 960 px, paler, with the area and what changed outside it."""
    small = resized(before, PROOF_SIDE)
    h, w = small.shape[:2]
    grey = small.mean(axis=-1, keepdims=True)
    paler = 0.55 * small + 0.25 * grey + 0.2 * 255
    area = cv2.resize(mask, (w, h), interpolation=cv2.INTER_AREA)[..., None] * 0.55
    out = paler * (1 - area) + BLUE * area
    strengths = np.array(proof.strengths, np.float32).reshape(-1, proof.columns)
    blocks: NDArray[np.float32] = np.repeat(np.repeat(strengths, BLOCK, axis=0), BLOCK, axis=1)[:h, :w]
    soft = cv2.GaussianBlur((blocks > CHANGED).astype(np.float32), (0, 0), BLOCK / 2)
    # At least a spot of some size, so that a single block is seen.
    grown = cv2.dilate(soft, np.ones((BLOCK, BLOCK), np.uint8))
    ys, xs = np.mgrid[0:h, 0:w]
    stripe = ((xs + ys) // STRIPE_PX) % 2 == 0
    part = (np.clip(grown * 1.6, 0, 1) * np.where(stripe, 0.95, 0.45))[..., None]
    return np.asarray(np.rint(np.clip(out * (1 - part) + RED * part, 0, 255)), dtype=np.uint8)
