"""Only the area of an edit taken: the old pixels put back outside, with a soft seam."""

from __future__ import annotations

import cv2
import numpy as np

from juxtaform.core.colour.spaces import Pixels, linear_from_srgb8, srgb_from_linear
from juxtaform.core.edits.area import Mask
from juxtaform.core.edits.fit import GlobalFit, fitted
from juxtaform.core.edits.proof import PROOF_SIDE, brought

BAND_ROWS = 256
"""Rows that are blended at once, so that a large picture is not held as floats."""


def only_inside(before: Pixels, after: Pixels, mask: Mask) -> Pixels:
    """The earlier picture (h, w, 3) with the masked area (h, w) of the later one, which is laid in its place and brought into its light. Outside the
    mask not one code differs from the earlier picture; the rim is blended in linear light."""
    one, other, outside = brought(before, after, mask)
    fit = fitted(one, other, outside)[-1] if outside.mean() >= 0.02 else None
    laid = _laid(before, after, fit)
    out = before.copy()
    for top in range(0, before.shape[0], BAND_ROWS):
        rows = np.s_[top : top + BAND_ROWS]
        part = mask[rows]
        if not part.any():
            continue
        share = part[..., None].astype(np.float64)
        blended = linear_from_srgb8(before[rows]) * (1 - share) + linear_from_srgb8(laid[rows]) * share
        codes = np.rint(srgb_from_linear(blended) * 255).astype(np.uint8)
        out[rows] = np.where(part[..., None] > 0, codes, before[rows])
    return out


def _laid(before: Pixels, after: Pixels, fit: GlobalFit | None) -> Pixels:
    """The later picture at the earlier one's size, in its place and light."""
    h, w = before.shape[:2]
    how = cv2.INTER_AREA if after.shape[0] > h else cv2.INTER_CUBIC
    laid = np.asarray(cv2.resize(after, (w, h), interpolation=how) if after.shape[:2] != (h, w) else after, np.uint8)
    if fit is None:
        return laid
    affine = fit.affine.copy()
    affine[:, 2] *= max(1.0, max(h, w) / PROOF_SIDE)
    if not np.allclose(affine, np.eye(2, 3)):
        warp = cv2.INTER_CUBIC | cv2.WARP_INVERSE_MAP
        laid = np.asarray(cv2.warpAffine(laid, affine, (w, h), flags=warp, borderMode=cv2.BORDER_REPLICATE), np.uint8)
    if abs(fit.light - np.eye(3, 4)).max() < 0.02:
        return laid
    # The light leads from the earlier picture's codes to the later one's: it is taken back.
    back = np.linalg.inv(fit.light[:, :3])
    out = np.empty_like(laid)
    for top in range(0, h, BAND_ROWS):
        rows = np.s_[top : top + BAND_ROWS]
        out[rows] = np.rint(np.clip((laid[rows] - fit.light[:, 3]) @ back.T, 0, 255)).astype(np.uint8)
    return out
