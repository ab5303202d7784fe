"""Panels on an upright page, found and put in reading order.

Light is evened out by dividing by the paper's own brightness (a grey closing), ink is what stays dark. A drawn frame
seals its panel off from the page's margin, so panels are what a flood from the margin cannot reach; gaps in wobbly
frames are bridged step by step, as little as needed. Where frames are not drawn, white gutters part the panels
(recursive X-Y cut; G. Nagy and S. Seth, "Hierarchical representation of optically scanned documents", ICPR 1984).
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Pixels, linear_from_srgb8
from juxtaform.core.picture.gutters import WORK_SIDE, Mask, gutters, ink_on_paper, inks
from juxtaform.core.picture.regions import Box, plain_ground, resized, shared_area

Direction = Literal["left to right", "right to left"]

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
"""When two ways to see a page explain it alike, the one with more panels is right."""
RIM_OF_FRAME = 0.012
"""A panel's frame may reach this far beyond it, as a part of its size."""
COVERED_WELL = 0.6
"""Panels that cover this part of a page explain it as well as any."""
ALONE = 0.6
"""One panel explains a page less than several do."""
SPECKS = 0.004
"""A row or column with less ink than this is empty."""


def panels(page: Pixels, direction: Direction = "left to right") -> list[Box]:
    """The panels of an upright page (h, w, 3) in reading order, in its pixels; empty when there are none."""
    small = resized(page, WORK_SIDE)
    factor = page.shape[1] / small.shape[1]
    seen = list(inks(small, gutters(small)))
    tried = [(_islands(ink), ink) for ink in seen]
    if max(_explained(found, ink) for found, ink in tried) < WELL_EXPLAINED:
        tried += [(_parted_or_sealed(ink), ink) for ink in seen]
    found = max(tried, key=lambda t: _explained(*t))[0]
    ordered = reading_order(found, direction)
    return [Box(b.x * factor, b.y * factor, b.w * factor, b.h * factor) for b in ordered]


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
    if any(shared_area(a, b) > 0.1 * min(a.w * a.h, b.w * b.h) for i, a in enumerate(found) for b in found[:i]):
        return 0.0
    covered = sum(b.w * b.h for b in found) / ink.size
    empty = 1.0 - float(ink[beside].mean()) if beside.any() else 0.0
    left_out = float(ink[beside].sum()) / max(1, int(ink.sum()))
    worth = (1 - left_out) ** 2 * empty**4 * min(1.0, covered / COVERED_WELL) * (1.0 if len(found) > 1 else ALONE)
    return worth + MORE * min(len(found), 12)


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
        found += [b for b in fresh if not any(shared_area(b, k) > 0.1 * min(b.w * b.h, k.w * k.h) for k in found)]
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
    figure = ink_on_paper(small) if ground is None else ~ground
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
    inside = [b for b in framed if shared_area(b, cell) > 0.8 * b.w * b.h]
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
                if shared_area(a, b) > 0.5 * min(a.w * a.h, b.w * b.h):
                    x0, y0 = min(a.x, b.x), min(a.y, b.y)
                    boxes[i] = Box(x0, y0, max(a.x + a.w, b.x + b.w) - x0, max(a.y + a.h, b.y + b.h) - y0)
                    del boxes[j]
                    merged = True
                    break
            if merged:
                break
    return boxes
