"""Panels on a photographed or scanned page: the page straightened, its panels found, put in reading order.

Light is evened out by dividing by the paper's own brightness (a grey closing), ink is what stays dark. A drawn frame
seals its panel off from the page's margin, so panels are what a flood from the margin cannot reach; gaps in wobbly
frames are bridged step by step, as little as needed. Where frames are not drawn, white gutters part the panels
(recursive X-Y cut; G. Nagy and S. Seth, "Hierarchical representation of optically scanned documents", ICPR 1984).
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour import Floats, Pixels, linear_from_srgb8
from juxtaform.core.gutters import Gutter, Mask, gutters
from juxtaform.core.regions import Box, plain_ground, resized

Direction = Literal["left to right", "right to left"]

WORK_SIDE = 1100
INK = 0.78
"""Against the paper beside it, ink is darker than this part."""
PANEL_LEAST, PANEL_MOST = 0.012, 0.95
"""A panel's part of the page's area."""
GUTTER_LEAST = 0.012
"""A gutter without frames is at least this part of the page's longer side."""
SLENDER = 0.16
"""A panel's shorter side is more than this part of its longer one; less is hatching."""
FILLED_LEAST = 0.72
"""A panel fills at least this part of its box: it is a rectangle, if a wobbly one."""
BRIDGES = (1, 9, 15, 23, 31)
"""Gaps of so many working pixels in a frame are bridged, the least that does."""
ISTHMUS_PX = 3
"""Land no wider than this does not join two islands."""
ISLAND_FILLED = 0.9
"""An island that is a panel fills at least this part of its box."""
WELL_EXPLAINED = 0.95
"""Panels that explain a page so well need no other try."""
BRIDGE_PX = 7
"""A gap in a line is bridged by ink this wide: hands do not go on just where they stopped."""
SINGLE_LINE = 10
"""A gap up to this many working pixels is one drawn line, not a gutter."""
FRAME_PX = 8
"""A hand-ruled frame strays so many working pixels from its panel's box."""
MORE = 0.004
"""Of two ways to see a page that explain it alike, the one with more panels is right."""
RIM_OF_FRAME = 0.012
"""So far beyond a panel, of its size, its frame may reach."""
COVERED_WELL = 0.6
"""Panels that cover this part of a page explain it as well as any."""
ALONE = 0.6
"""One panel explains a page less than several do."""
SLIVER = 0.025
"""Ink that reaches no deeper than this from the page's edge, of its side, is the ground beside the page."""
SPECKS = 0.004
"""A row or column with less ink than this is empty."""
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


def panels(page: Pixels, direction: Direction = "left to right") -> list[Box]:
    """The panels of an upright page (h, w, 3) in reading order, in its pixels; empty when there are none."""
    small = resized(page, WORK_SIDE)
    factor = page.shape[1] / small.shape[1]
    inks = list(_inks(small, gutters(small)))
    tried = [(_islands(ink), ink) for ink in inks]
    if max(_explained(found, ink) for found, ink in tried) < WELL_EXPLAINED:
        tried += [(_parted_or_sealed(ink), ink) for ink in inks]
    found = max(tried, key=lambda t: _explained(*t))[0]
    ordered = reading_order(found, direction)
    return [Box(b.x * factor, b.y * factor, b.w * factor, b.h * factor) for b in ordered]


def _inks(small: Pixels, grounds: Sequence[Gutter]) -> Iterator[Mask]:
    """Where the page is drawn on: as whatever is not of a colour that may part panels, and as ink on lit paper."""
    for ground in grounds:
        yield _without_slivers(ground.ink)
    yield _without_slivers(_ink(small))


def _without_slivers(ink: Mask) -> Mask:
    """Ink without what the page's own edge shows of the ground that it lies on."""
    cleared = ink.copy()
    for turned in (cleared, cleared[::-1], cleared.T, cleared.T[::-1]):  # views: clearing them clears the page
        deep = round(SLIVER * turned.shape[0])
        reach = np.where(turned[:deep].all(axis=0), 0, turned[:deep].argmin(axis=0))
        turned[:deep][np.arange(deep)[:, None] < reach[None]] = False
    return cleared


def _parted_or_sealed(ink: Mask) -> list[Box]:
    """Panels that gutters part, or that drawn lines seal off where they touch."""
    framed = _framed(ink)
    cells = _parted(ink) or [Box(0, 0, ink.shape[1], ink.shape[0])]
    found = [b for cell in cells for b in _settled(cell, framed, ink, alone=len(cells) == 1)]
    return [] if len(found) == 1 and not framed else found


def _explained(found: list[Box], ink: Mask) -> float:
    """How well panels explain a page, 0..1: by what they cover, how empty the page is beside them, and how little they leave out."""
    if not found:
        return 0.0
    beside = np.ones(ink.shape, dtype=bool)
    for b in found:
        _cleared(beside, b, FRAME_PX)
    if any(_shared(a, b) > 0.1 * min(a.w * a.h, b.w * b.h) for i, a in enumerate(found) for b in found[:i]):
        return 0.0
    covered = sum(b.w * b.h for b in found) / ink.size
    empty = 1.0 - float(ink[beside].mean()) if beside.any() else 0.0
    left_out = float(ink[beside].sum()) / max(1, int(ink.sum()))
    told = (1 - left_out) ** 2 * empty**4 * min(1.0, covered / COVERED_WELL) * (1.0 if len(found) > 1 else ALONE)
    return told + MORE * min(len(found), 12)


def _islands(ink: Mask) -> list[Box]:
    """Panels as forms that the ground goes round, whatever is in them. Gaps in frames are bridged by as little as does: who is an
    island already is taken off the page, so that no bridge leads to it."""
    found: list[Box] = []
    left = ink.copy()
    for reach in BRIDGES:
        wall = _bridged(left, reach)
        ground = np.pad(1 - wall, 1, constant_values=1).astype(np.uint8)
        _, labels = cv2.connectedComponents(ground, connectivity=4)
        land = (labels != labels[0, 0])[1:-1, 1:-1].astype(np.uint8)
        land = np.asarray(cv2.morphologyEx(land, cv2.MORPH_OPEN, np.ones((ISTHMUS_PX, ISTHMUS_PX), np.uint8)), np.uint8)
        fresh = _rectangles(land)
        for b in fresh:
            _cleared(left, b)
        found += [b for b in fresh if not any(_shared(b, k) > 0.1 * min(b.w * b.h, k.w * k.h) for k in found)]
        if _explained(found, ink) > WELL_EXPLAINED:
            break
    return found


def _cleared(page: Mask, box: Box, around: float = 0.0) -> None:
    """Empty a page where a box and its frame are, and so many px around."""
    b = box.grown(RIM_OF_FRAME)
    x0, y0, x1, y1 = b.x - around, b.y - around, b.x + b.w + around, b.y + b.h + around
    page[max(0, int(y0)) : int(y1) + 1, max(0, int(x0)) : int(x1) + 1] = False


def _rectangles(land: NDArray[np.uint8]) -> list[Box]:
    """The forms of a map of land (h, w) that are upright rectangles, if wobbly ones."""
    h, w = land.shape
    count, labels, stats, _ = cv2.connectedComponentsWithStats(land, connectivity=4)
    found = []
    for i in range(1, count):
        x, y, bw, bh, area = (int(v) for v in stats[i])
        if area < FILLED_LEAST * PANEL_LEAST * h * w or bw * bh > PANEL_MOST * h * w:
            continue
        box, filled = _extent(labels[y : y + bh, x : x + bw] == i)
        if filled >= ISLAND_FILLED and min(box.w, box.h) > max(0.05 * max(h, w), SLENDER * max(box.w, box.h)):
            found.append(Box(x + box.x, y + box.y, box.w, box.h))
    return found


def views_on(sheet: Pixels) -> list[Box]:
    """The separate figures on a sheet (h, w, 3) with a plain ground, row by row, in its pixels; small labels are left out."""
    small = resized(sheet, WORK_SIDE)
    factor = sheet.shape[1] / small.shape[1]
    ground = plain_ground(linear_from_srgb8(small))
    figure = _ink(small) if ground is None else ~ground
    reach = max(3, WORK_SIDE // 140)
    joined = cv2.morphologyEx(figure.astype(np.uint8), cv2.MORPH_CLOSE, np.ones((reach, reach), np.uint8))
    _, _, stats, _ = cv2.connectedComponentsWithStats(joined, connectivity=8)
    boxes = [Box(*(float(v) for v in row[:4])) for row in stats[1:] if row[4] > 0.0008 * figure.size]
    boxes = _merged(boxes)
    if not boxes:
        return []
    tallest = float(np.percentile([b.h for b in boxes], 80))
    kept = [b for b in boxes if b.h > 0.35 * tallest]
    return [Box(b.x * factor, b.y * factor, b.w * factor, b.h * factor) for b in reading_order(kept, "left to right")]


def reading_order(boxes: Sequence[Box], direction: Direction = "left to right") -> list[Box]:
    """Boxes in the order in which a page is read: cut into tiers from top to bottom where nothing stands across, a tier
    into columns, and so on.

    >>> [b.x for b in reading_order([Box(60, 0, 40, 40), Box(0, 0, 50, 40), Box(0, 50, 100, 40)])]
    [0, 60, 0]
    """
    if len(boxes) < 2:
        return list(boxes)
    for across in (True, False):
        groups = _split(boxes, across)
        if len(groups) > 1:
            if not across and direction == "right to left":
                groups = groups[::-1]
            return [b for group in groups for b in reading_order(group, direction)]
    side = 1 if direction == "left to right" else -1
    return sorted(boxes, key=lambda b: (b.y + b.h / 2, side * b.x))


def _settled(cell: Box, framed: list[Box], ink: Mask, *, alone: bool) -> list[Box]:
    """What stands in a cell between white gutters: the framed panels in it where they make it up, what they leave over if
    that is as large, or the cell itself. Where a page has white gutters, pieces that only lines part are hatching."""
    inside = [b for b in framed if _shared(b, cell) > 0.8 * b.w * b.h]
    covered = sum(b.w * b.h for b in inside) / (cell.w * cell.h)
    if len(inside) == 1 and covered > 0.8:
        return inside
    gutters = any(_gap(a, b) > SINGLE_LINE for i, a in enumerate(inside) for b in inside[:i])
    if len(inside) < 2 or not (gutters or alone):
        return [cell]
    rest = np.zeros_like(ink)
    rows, columns = slice(int(cell.y), int(cell.y + cell.h) + 1), slice(int(cell.x), int(cell.x + cell.w) + 1)
    rest[rows, columns] = ink[rows, columns]
    for b in inside:
        grown = b.grown(0.04)
        rest[max(0, int(grown.y)) : int(grown.y + grown.h) + 1, max(0, int(grown.x)) : int(grown.x + grown.w) + 1] = (
            False
        )
    usual = float(np.median([b.w * b.h for b in inside]))
    loose = [b for b in _parted(rest) if b.w * b.h > 0.35 * usual]
    whole = covered + sum(b.w * b.h for b in loose) / (cell.w * cell.h)
    return [*inside, *loose] if whole > 0.55 else [cell]


def _gap(a: Box, b: Box) -> float:
    """The distance between two boxes that stand side by side, 0 for others."""
    across = max(a.x, b.x) - min(a.x + a.w, b.x + b.w)
    down = max(a.y, b.y) - min(a.y + a.h, b.y + b.h)
    if across > 0 > down:
        return across if across < 0.5 * min(a.w, b.w) else 0.0
    return down if down > 0 > across and down < 0.5 * min(a.h, b.h) else 0.0


def _shared(a: Box, b: Box) -> float:
    """The area that two boxes share."""
    w = min(a.x + a.w, b.x + b.w) - max(a.x, b.x)
    h = min(a.y + a.h, b.y + b.h) - max(a.y, b.y)
    return max(0.0, w) * max(0.0, h)


def _split(boxes: Sequence[Box], across: bool) -> list[list[Box]]:
    """Groups that nothing stands across, a fifth of the smaller box's size of overlap allowed."""

    def span(b: Box) -> tuple[float, float]:
        return (b.y, b.y + b.h) if across else (b.x, b.x + b.w)

    ordered = sorted(boxes, key=lambda b: span(b)[0])
    groups = [[ordered[0]]]
    reach = span(ordered[0])[1]
    for b in ordered[1:]:
        start, end = span(b)
        least = min(end - start, min(span(o)[1] - span(o)[0] for o in groups[-1]))
        if start > reach - 0.2 * least:
            groups.append([b])
            reach = end
        else:
            groups[-1].append(b)
            reach = max(reach, end)
    return groups


def _ink(small: Pixels) -> Mask:
    """Where a page is drawn on, its light evened out."""
    grey = np.asarray(cv2.cvtColor(small, cv2.COLOR_RGB2GRAY), dtype=np.uint8)
    size = max(15, max(grey.shape) // 28) | 1
    paper = cv2.morphologyEx(grey, cv2.MORPH_CLOSE, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size)))
    paper = cv2.GaussianBlur(paper, (0, 0), size / 3)
    soft = cv2.GaussianBlur(grey, (0, 0), 0.8).astype(np.float32)
    level = soft / np.maximum(paper, 1)
    noise = float(np.median(np.abs(level - np.median(level))))
    lines = level < min(INK, 1 - 4 * noise)
    ink = (lines | (soft < INK * _paper_light(grey))).astype(np.uint8)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(ink, connectivity=8)
    big = np.zeros(count, dtype=bool)
    big[1:] = stats[1:, cv2.CC_STAT_AREA] >= 12
    return np.asarray(big[labels])


def _paper_light(grey: NDArray[np.uint8]) -> NDArray[np.float32]:
    """The light on a page as a smooth surface (a cubic fitted to the brightest parts of a grid, washes left out), (h, w)."""
    h, w = grey.shape
    rows, columns = 18, 14
    cells = [
        (r, c, float(np.percentile(grey[r * h // rows : (r + 1) * h // rows : 2, c * w // columns : (c + 1) * w // columns : 2], 92)))
        for r in range(rows)
        for c in range(columns)
    ]  # fmt: skip
    at = np.array([((c + 0.5) / columns - 0.5, (r + 0.5) / rows - 0.5) for r, c, _ in cells])
    seen = np.array([value for _, _, value in cells])
    kept = seen > 0.75 * np.percentile(seen, 90)
    terms = [(i, j) for i in range(4) for j in range(4 - i)]
    basis = np.stack([at[:, 0] ** i * at[:, 1] ** j for i, j in terms], axis=1)
    fitted = np.zeros(len(terms))
    for _ in range(4):
        if kept.sum() < 2 * len(terms):
            return np.full((h, w), float(np.percentile(seen, 90)), np.float32)
        fitted = np.linalg.lstsq(basis[kept], seen[kept], rcond=None)[0]
        kept = seen > 0.93 * (basis @ fitted)
    x, y = np.linspace(-0.5, 0.5, w, dtype=np.float32), np.linspace(-0.5, 0.5, h, dtype=np.float32)
    surface = sum(np.outer(y**j, x**i) * float(f) for (i, j), f in zip(terms, fitted, strict=True))
    return np.clip(np.asarray(surface, dtype=np.float32), 40, 255)


def _framed(ink: Mask) -> list[Box]:
    """Panels that drawn lines seal off from the margin; gaps are bridged by as little as gives the most panels."""
    best: list[Box] = []
    score = 0.0
    for reach in BRIDGES:
        found = _sealed(_bridged(ink, reach), reach)
        covered = sum(b.w * b.h for b in found) / ink.size
        value = covered + 0.02 * min(len(found), 12) - 0.003 * reach
        if found and value > score + 0.01:
            best, score = found, value
    return best


def _bridged(ink: Mask, reach: int) -> NDArray[np.uint8]:
    """Ink with gaps up to `reach` px along its upright and level lines closed; what would fill a gutter is left open."""
    wall = ink.astype(np.uint8)
    bridged = wall.copy()
    for size in ((BRIDGE_PX, reach), (reach, BRIDGE_PX)):
        if reach <= BRIDGE_PX:
            break
        closed = np.asarray(cv2.morphologyEx(wall, cv2.MORPH_CLOSE, np.ones(size[::-1], np.uint8)), dtype=np.uint8)
        count, labels, stats, _ = cv2.connectedComponentsWithStats(closed & (1 - wall), connectivity=4)
        short = np.zeros(count, dtype=np.uint8)
        short[1:] = (stats[1:, 2] <= 2 * size[0]) & (stats[1:, 3] <= 2 * size[1])
        bridged |= short[labels]
    return bridged


def _sealed(wall: NDArray[np.uint8], reach: int) -> list[Box]:
    h, w = wall.shape
    open_ground = np.pad(1 - wall, 1, constant_values=1).astype(np.uint8)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(open_ground, connectivity=4)
    outside = labels[0, 0]
    found: list[tuple[Box, float]] = []
    for i in range(1, count):
        x, y, bw, bh, area = (int(v) for v in stats[i])
        if i == outside or area < 0.25 * PANEL_LEAST * h * w or bw * bh > PANEL_MOST * h * w:
            continue
        part = labels[y : y + bh, x : x + bw] == i
        box, _ = _extent(part)
        holes = cv2.morphologyEx(part.astype(np.uint8), cv2.MORPH_CLOSE, np.ones((9, 9), np.uint8))
        _, filled = _extent(holes > 0)
        found.append((Box(x - 1 + box.x, y - 1 + box.y, box.w, box.h), filled))
    joined = _joined_pieces(found)
    return [
        b
        for b, filled in joined
        if filled >= FILLED_LEAST
        and b.w * b.h > PANEL_LEAST * h * w
        and min(b.w, b.h) > max(0.05 * max(h, w), SLENDER * max(b.w, b.h))
    ]


def _joined_pieces(pieces: list[tuple[Box, float]]) -> list[tuple[Box, float]]:
    """Pieces of one panel that a single drawn line parts (a horizon from frame to frame) become one, as long as that makes
    no panel much larger than the others are."""
    pieces = list(pieces)
    joined = True
    while joined:
        joined = False
        for i, (a, fa) in enumerate(pieces):
            for j in range(i + 1, len(pieces)):
                b, fb = pieces[j]
                if not _neighbours(a, b):
                    continue
                x0, y0 = min(a.x, b.x), min(a.y, b.y)
                union = Box(x0, y0, max(a.x + a.w, b.x + b.w) - x0, max(a.y + a.h, b.y + b.h) - y0)
                others = [p.w * p.h for k, (p, _) in enumerate(pieces) if k not in (i, j)]
                most = 1.5 * max(others, default=0.0)
                if union.w * union.h > most:
                    continue
                area = union.w * union.h
                pieces[i] = (union, (fa * a.w * a.h + fb * b.w * b.h + SINGLE_LINE * max(a.w, a.h)) / area)
                del pieces[j]
                joined = True
                break
            if joined:
                break
    return pieces


def _neighbours(a: Box, b: Box) -> bool:
    """Whether two boxes stand side by side with no more than a line between them, and are as long there as each other."""
    for one, two in ((a, b), (Box(a.y, a.x, a.h, a.w), Box(b.y, b.x, b.h, b.w))):
        apart = max(one.y, two.y) - min(one.y + one.h, two.y + two.h)
        shared = min(one.x + one.w, two.x + two.w) - max(one.x, two.x)
        if -4 <= apart <= SINGLE_LINE and shared > 0.85 * max(one.w, two.w):
            return True
    return False


def _extent(part: Mask) -> tuple[Box, float]:
    """The box of a part without its wobbles: rows and columns that it fills by more than a third."""
    if not part.any():
        return Box(0, 0, max(1, part.shape[1]), max(1, part.shape[0])), 0.0
    rows = np.flatnonzero(part.mean(axis=1) > 0.35 * part.mean(axis=1).max())
    columns = np.flatnonzero(part.mean(axis=0) > 0.35 * part.mean(axis=0).max())
    y0, y1, x0, x1 = int(rows[0]), int(rows[-1]) + 1, int(columns[0]), int(columns[-1]) + 1
    return Box(x0, y0, x1 - x0, y1 - y0), float(part[y0:y1, x0:x1].mean())


def _parted(ink: Mask) -> list[Box]:
    """Panels that only white gutters part (recursive X-Y cut)."""
    long = max(ink.shape)
    gutter = max(4, int(GUTTER_LEAST * long))
    found: list[Box] = []

    def cut(x0: int, y0: int, x1: int, y1: int) -> None:
        part = ink[y0:y1, x0:x1]
        rows, columns = np.flatnonzero(part.any(axis=1)), np.flatnonzero(part.any(axis=0))
        if not len(rows) or not len(columns):
            return
        y0, y1, x0, x1 = y0 + int(rows[0]), y0 + int(rows[-1]) + 1, x0 + int(columns[0]), x0 + int(columns[-1]) + 1
        part = ink[y0:y1, x0:x1]
        widest: tuple[int, int, bool] | None = None
        for across in (True, False):
            empty = np.asarray(part.mean(axis=1 if across else 0) < SPECKS)
            for start, end in _runs(empty):
                if end - start >= gutter and (widest is None or end - start > widest[1] - widest[0]):
                    widest = (start, end, across)
        if widest is None:
            if (x1 - x0) * (y1 - y0) > PANEL_LEAST * ink.size and min(x1 - x0, y1 - y0) > 0.05 * long:
                found.append(Box(x0, y0, x1 - x0, y1 - y0))
        elif widest[2]:
            cut(x0, y0, x1, y0 + widest[0])
            cut(x0, y0 + widest[1], x1, y1)
        else:
            cut(x0, y0, x0 + widest[0], y1)
            cut(x0 + widest[1], y0, x1, y1)

    cut(0, 0, ink.shape[1], ink.shape[0])
    return found


def _runs(flags: Mask) -> list[tuple[int, int]]:
    edges = np.flatnonzero(np.diff(np.concatenate([[0], flags.astype(np.int8), [0]])))
    return [(int(a), int(b)) for a, b in zip(edges[::2], edges[1::2], strict=True)]


def _merged(boxes: list[Box]) -> list[Box]:
    """Boxes that overlap by more than half of the smaller become one."""
    merged = True
    while merged:
        merged = False
        for i, a in enumerate(boxes):
            for j in range(i + 1, len(boxes)):
                b = boxes[j]
                if _shared(a, b) > 0.5 * min(a.w * a.h, b.w * b.h):
                    x0, y0 = min(a.x, b.x), min(a.y, b.y)
                    boxes[i] = Box(x0, y0, max(a.x + a.w, b.x + b.w) - x0, max(a.y + a.h, b.y + b.h) - y0)
                    del boxes[j]
                    merged = True
                    break
            if merged:
                break
    return boxes


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
    inks = list(_inks(small, grounds))
    seen = [{angle: _empty_share(ink, angle) for angle in tried} for ink in inks]
    which = max(range(len(seen)), key=lambda i: max(seen[i].values()))
    empty, ink = seen[which], inks[which]
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
