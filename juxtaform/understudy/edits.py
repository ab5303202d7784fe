"""What the Understudy makes of a picture that is there: one area painted anew, the picture grown to another form, a clip from a first to a last."""

from __future__ import annotations

from collections.abc import Iterator

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.understudy.painting import Pixels

FEATHER = 0.02
"""The soft rim of an edit, inside its area, as a part of the picture's longer side."""
FRAMES_A_SECOND = 12
CLIP_SIDE = 480
"""The longer side of a clip in px."""


def edited(
    base: Pixels, painted: Pixels, area: tuple[float, float, float, float], mask: Pixels | None = None
) -> Pixels:
    """The base (h, w, 3) with an area, as parts of it (x, y, w, h), taken from another picture of its size, as far as a mask is white where there is
    one; nothing else changes."""
    height, width = base.shape[:2]
    if mask is not None:
        white = cv2.resize(mask.max(axis=-1), (width, height), interpolation=cv2.INTER_LINEAR)[..., None] / 255.0
        return np.asarray(np.rint(base * (1 - white) + painted * white), dtype=np.uint8)
    x, y, w, h = area
    left, top = round(x * width), round(y * height)
    right, bottom = min(width, round((x + w) * width)), min(height, round((y + h) * height))
    if right <= left or bottom <= top:
        return base
    rim = max(1, round(FEATHER * max(width, height)))
    rows = _ramp(bottom - top, rim)
    columns = _ramp(right - left, rim)
    share = (rows[:, None] * columns[None, :])[..., None]
    out = base.copy()
    part = np.s_[top:bottom, left:right]
    out[part] = np.rint(base[part] * (1 - share) + painted[part] * share).astype(np.uint8)
    return out


def _ramp(length: int, rim: int) -> NDArray[np.float64]:
    """From 0 at both ends to 1 within."""
    at = np.arange(length) + 0.5
    return np.asarray(np.clip(np.minimum(at, length - at) / rim, 0.0, 1.0))


def extended(base: Pixels, width: int, height: int) -> Pixels:
    """The base (h, w, 3) in the middle of a picture of that size and at least its own; what is new is the base turned over at its edges, softened
    with the distance."""
    own_h, own_w = base.shape[:2]
    width, height = max(width, own_w), max(height, own_h)
    top, left = (height - own_h) // 2, (width - own_w) // 2
    sides = (top, height - own_h - top, left, width - own_w - left)
    out = np.asarray(cv2.copyMakeBorder(base, *sides, cv2.BORDER_REFLECT_101), dtype=np.uint8)
    soft = cv2.GaussianBlur(out, (0, 0), max(1.0, 0.01 * max(width, height)))
    far = np.zeros((height, width), np.uint8)
    far[:top] = far[top + own_h :] = far[:, :left] = far[:, left + own_w :] = 1
    share = np.clip(cv2.distanceTransform(far, cv2.DIST_L2, 3) / (0.06 * max(width, height)), 0, 1)[..., None]
    out = np.rint(out * (1 - share) + soft * share).astype(np.uint8)
    out[top : top + own_h, left : left + own_w] = base
    return np.asarray(out, dtype=np.uint8)


def pushed_in(picture: Pixels) -> Pixels:
    """The picture as a camera sees it that came a little closer: what a clip ends with that is to end nowhere else."""
    h, w = picture.shape[:2]
    top, left = max(1, h // 16), max(1, w // 16)
    part = picture[top : h - top, left : w - left]
    return np.asarray(cv2.resize(part, (w, h), interpolation=cv2.INTER_CUBIC), dtype=np.uint8)


def clip_frames(first: Pixels, last: Pixels, seconds: float) -> Iterator[Pixels]:
    """The frames of a clip, `FRAMES_A_SECOND`, from the first picture to the last: what both have moves from where it is in one to where it is in
    the other, and the camera with it (dense optical flow after T. Kroeger et al., Fast Optical Flow using Dense Inverse Search, 2016)."""
    scale = min(1.0, CLIP_SIDE / max(first.shape[:2]))
    size = (max(16, round(first.shape[1] * scale) // 2 * 2), max(16, round(first.shape[0] * scale) // 2 * 2))
    a, b = (cv2.resize(p, size, interpolation=cv2.INTER_AREA) for p in (first, last))
    flow = cv2.DISOpticalFlow.create(cv2.DISOPTICAL_FLOW_PRESET_MEDIUM)
    grey_a, grey_b = (cv2.cvtColor(p, cv2.COLOR_RGB2GRAY) for p in (a, b))
    still = np.zeros((*grey_a.shape, 2), np.float32)
    there, back = flow.calc(grey_a, grey_b, still.copy()), flow.calc(grey_b, grey_a, still.copy())
    columns, rows = np.meshgrid(np.arange(size[0], dtype=np.float32), np.arange(size[1], dtype=np.float32))
    count = max(2, round(seconds * FRAMES_A_SECOND))
    for i in range(count):
        t = i / (count - 1)
        from_a = cv2.remap(
            a, columns - t * there[..., 0], rows - t * there[..., 1], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE
        )
        from_b = cv2.remap(
            b,
            columns - (1 - t) * back[..., 0],
            rows - (1 - t) * back[..., 1],
            cv2.INTER_LINEAR,
            borderMode=cv2.BORDER_REPLICATE,
        )
        yield np.rint(from_a * (1 - t) + from_b * t).astype(np.uint8)
