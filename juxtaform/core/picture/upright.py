"""A photographed or scanned page, seen from straight above: a sheet's edges, or the tilt of its gutters and lines."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Floats, Pixels
from juxtaform.core.picture.gutters import WORK_SIDE, Gutter, Mask, gutters, inks
from juxtaform.core.picture.regions import resized

DESK_SHARE = 0.75
"""A photo's rim is of the desk's colour by at least this part when a sheet lies on it."""
BESIDE_MOST = 0.03
"""No more than this part of what is not desk lies beside the sheet."""
SOLID = 0.96
"""A sheet fills at least this part of its hull."""
GUTTERS_LEAST = 0.012
"""Gutters run through when this part of rows and columns is empty."""
LINE_LEAST, SAME_LEAN, AGREED = 0.03, 0.75, 0.5
"""Lines count from this part of the page's longer side on; so many degrees apart they lean alike; so much of them must agree."""
PAGE_LEAST = 0.3
"""A sheet of paper that lies on a desk fills at least this part of the photo."""


@dataclass(frozen=True)
class Page:
    """A straightened page: its pixels (h, w, 3), and `to_page`, the 3 x 3 homography from the photo's pixels to its own."""

    pixels: Pixels
    to_page: Floats


def straightened(photo: Pixels) -> Page:
    """The page of a photo (h, w, 3) seen from straight above: the sheet's edges when it lies on a darker or coloured
    ground, else the tilt of its longest lines. Raises ValueError for a picture under 64 px."""
    height, width = photo.shape[:2]
    if min(height, width) < 64:
        raise ValueError(f"The photo is {width} x {height} px: too small to find panels on.")
    small = resized(photo, WORK_SIDE)
    scale = small.shape[1] / width
    grounds = gutters(small)
    plain = next((g for g in grounds if g.of_rim > DESK_SHARE), None)
    if plain is not None:
        corners = _sheet_on(plain.ink)
    else:
        corners = None if _runs_through(grounds) else _sheet(small)
    if corners is not None:
        return _warped(photo, corners / scale)
    angle = _tilt(small, grounds)
    if abs(angle) < 0.3:
        return Page(photo, np.eye(3))
    turn = np.vstack([cv2.getRotationMatrix2D((width / 2, height / 2), angle, 1.0), [0, 0, 1]])
    border = tuple(
        int(v) for v in np.median(photo[:: max(1, height // 50), :: max(1, width // 50)].reshape(-1, 3), axis=0)
    )
    turned = cv2.warpAffine(photo, turn[:2], (width, height), borderMode=cv2.BORDER_CONSTANT, borderValue=border)
    return Page(np.asarray(turned, dtype=np.uint8), np.asarray(turn))


def _runs_through(grounds: Sequence[Gutter]) -> bool:
    """Whether a colour runs through a picture from side to side: then it is a page's gutter, and no desk round a sheet."""
    return any(_empty_share(g.ink, 0.0) > GUTTERS_LEAST / 3 for g in grounds)


def _sheet_on(ink: Mask) -> Floats | None:
    """The four corners of a sheet that lies on a ground of one colour, whatever is on the sheet; `ink` is what is not ground."""
    h, w = ink.shape
    count, labels, stats, _ = cv2.connectedComponentsWithStats(ink.astype(np.uint8), connectivity=8)
    if count < 2:
        return None
    largest = 1 + int(stats[1:, cv2.CC_STAT_AREA].argmax())
    contours, _ = cv2.findContours((labels == largest).astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_SIMPLE)
    outline = max(contours, key=cv2.contourArea)
    hull = np.asarray(cv2.convexHull(outline), dtype=np.int32)
    beside = ink.astype(np.uint8)
    cv2.fillConvexPoly(beside, hull, 0)
    if beside.sum() > BESIDE_MOST * ink.sum() or cv2.contourArea(outline) < SOLID * cv2.contourArea(hull):
        return None  # its ground parts it: no sheet on a desk, but panels on a page
    return _corners(hull, h, w)


def _sheet(small: Pixels) -> Floats | None:
    """The four corners of a sheet that lies on another ground, clockwise from the top left, or None."""
    lab = cv2.cvtColor(cv2.GaussianBlur(small, (0, 0), 2.0), cv2.COLOR_RGB2LAB).astype(np.float32)
    h, w = lab.shape[:2]
    rim = np.concatenate(
        [lab[:4].reshape(-1, 3), lab[-4:].reshape(-1, 3), lab[:, :4].reshape(-1, 3), lab[:, -4:].reshape(-1, 3)]
    )
    middle = lab[h // 4 : -h // 4, w // 4 : -w // 4].reshape(-1, 3)
    bright = np.percentile(middle[:, 0], 70)
    if bright - np.median(rim[:, 0]) < 18:
        return None
    level, _ = cv2.threshold(lab[..., 0].astype(np.uint8), 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)
    bright_part = np.asarray(lab[..., 0] > min(float(level), float(bright) - 12), dtype=np.uint8)
    size = max(5, max(h, w) // 60) | 1
    paper = cv2.morphologyEx(bright_part, cv2.MORPH_CLOSE, np.ones((size, size), np.uint8))
    contours, _ = cv2.findContours(paper, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_SIMPLE)
    largest = max(contours, key=cv2.contourArea, default=None)
    if largest is None or cv2.contourArea(largest) < PAGE_LEAST * h * w:
        return None
    return _corners(np.asarray(cv2.convexHull(largest), dtype=np.int32), h, w)


def _corners(hull: NDArray[np.int32], h: int, w: int) -> Floats | None:
    """The four corners of a hull that is a sheet of paper seen a little aslant; None for any other form."""
    around = cv2.arcLength(hull, True)
    for loose in (0.02, 0.03, 0.05, 0.08):
        corners = cv2.approxPolyDP(hull, loose * around, True).reshape(-1, 2).astype(np.float64)
        if len(corners) == 4:
            area = cv2.contourArea(corners.astype(np.float32))
            touches = sum(bool(x < 3 or y < 3 or x > w - 4 or y > h - 4) for x, y in corners)
            if area > PAGE_LEAST * h * w and touches <= 2 and area > 0.85 * cv2.contourArea(hull):
                return _clockwise(corners)
            return None
    return None


def _clockwise(corners: Floats) -> Floats:
    total, apart = corners.sum(axis=1), corners[:, 0] - corners[:, 1]
    return np.array(
        [corners[total.argmin()], corners[apart.argmax()], corners[total.argmax()], corners[apart.argmin()]]
    )


def _warped(photo: Pixels, corners: Floats) -> Page:
    a, b, c, d = corners
    width = round(max(np.linalg.norm(b - a), np.linalg.norm(c - d)))
    height = round(max(np.linalg.norm(d - a), np.linalg.norm(c - b)))
    target = np.array([[0, 0], [width, 0], [width, height], [0, height]], dtype=np.float32)
    to_page = cv2.getPerspectiveTransform(corners.astype(np.float32), target)
    seen = cv2.warpPerspective(photo, to_page, (width, height), flags=cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    return Page(np.asarray(seen, dtype=np.uint8), np.asarray(to_page, dtype=np.float64))


def _tilt(small: Pixels, grounds: Sequence[Gutter]) -> float:
    """Degrees by which a page leans, within 8: the turn that shows most empty rows and columns between drawings, for the colour
    that parts them best, tried around that of its long lines; that of the lines where no gutter runs through."""
    lines = _lean_of_lines(small)
    tried = sorted({0.0, *(lines + d for d in (-0.5, 0.0, 0.5)), *np.arange(-8, 8.1, 1.0)}, key=abs)
    drawn = list(inks(small, grounds))
    seen = [{angle: _empty_share(ink, angle) for angle in tried} for ink in drawn]
    which = max(range(len(seen)), key=lambda i: max(seen[i].values()))
    empty, ink = seen[which], drawn[which]
    best = max(tried, key=lambda angle: empty[angle])
    if empty[best] < GUTTERS_LEAST:
        return lines
    for fine in (0.5, -0.5, 0.25, -0.25):
        turned = best + fine
        empty[turned] = _empty_share(ink, turned)
        if empty[turned] > empty[best] + 0.002:
            best = turned
    return best if empty[best] > 1.2 * empty[0.0] + 0.004 else 0.0


def _empty_share(ink: Mask, angle: float) -> float:
    """The part of rows and columns inside the drawn area that are empty when the page is turned by some degrees."""
    small = cv2.resize(ink.astype(np.uint8) * 255, None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA)
    h, w = small.shape
    turn = cv2.getRotationMatrix2D((w / 2, h / 2), angle, 1.0)
    turned = np.asarray(cv2.warpAffine(small, turn, (w, h)), dtype=np.uint8) > 100
    share = 0.0
    for axis in (0, 1):
        full = np.asarray(turned.sum(axis=axis) > 1)
        at = np.flatnonzero(full)
        if len(at) > 10:
            share += 0.5 * float((~full[at[0] : at[-1]]).mean())
    return share


def _lean_of_lines(small: Pixels) -> float:
    """Degrees by which long lines lean from upright and level, within 12; 0 unless most of their length agrees.

    Segments by R. Grompone von Gioi et al., "LSD: a line segment detector", IPOL 2012.
    """
    grey = cv2.cvtColor(small, cv2.COLOR_RGB2GRAY)
    found = cv2.createLineSegmentDetector(cv2.LSD_REFINE_STD).detect(grey)[0]
    if found is None:
        return 0.0
    ends = np.asarray(found, dtype=np.float64).reshape(-1, 4)
    angle = np.degrees(np.arctan2(ends[:, 3] - ends[:, 1], ends[:, 2] - ends[:, 0]))
    lean = (angle + 45) % 90 - 45
    length = np.hypot(ends[:, 2] - ends[:, 0], ends[:, 3] - ends[:, 1])
    kept = (np.abs(lean) < 12) & (length > LINE_LEAST * max(grey.shape))
    if kept.sum() < 4:
        return 0.0
    lean, length = lean[kept], length[kept]
    agreed = np.array([length[np.abs(lean - at) < SAME_LEAN].sum() for at in lean])
    at = lean[agreed.argmax()]
    near = np.abs(lean - at) < SAME_LEAN
    if agreed.max() < AGREED * length.sum():
        return 0.0
    return float(np.average(lean[near], weights=length[near]))
