"""Crops that rescue a picture: the faults stay outside, heads stay whole, as much of it as may be is left."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import product

from juxtaform.core.picture.regions import Box, head_of, overlap, shared_area
from juxtaform.core.plan.shots import FIGURE_HEIGHTS

MOST_FAULTS = 8
"""With more faults than these the largest are left out; a picture with so many is made anew."""
HEAD_MARGIN = 0.04
"""The room that a head keeps to the crop's edge, as a part of the crop's height."""
LEAST_LEFT = 0.12
"""A crop with less of the picture's area is none."""
ONE_CROP = 0.85
"""Crops that overlap so much are one."""
PRINT_DPI = 300.0
MM_PER_INCH = 25.4
FRAMING_COSTS, CUT_COSTS, DPI_COSTS = 0.5, 0.4, 0.35
"""What a size closer (log2 of how much larger figures become), a figure cut by the edge, and half the wanted dpi cost beside the area lost (1)."""


@dataclass(frozen=True)
class Rescue:
    """A crop in px of the picture; `left` is the part of its area that is left, `dpi` what it has at the print width (None: no width given), `closer`
    log2 of how much larger figures become, `size` the shot size that this makes, and `cut` the figures whose bodies its edge cuts."""

    box: Box
    left: float
    dpi: float | None
    closer: float
    size: str
    cut: tuple[str, ...]
    cost: float


def rescues(
    width: int,
    height: int,
    aspect: float,
    faults: Sequence[Box],
    figures: Sequence[tuple[str, Box]],
    *,
    inner: Box | None = None,
    size: str = "MS",
    print_mm: float | None = None,
    most: int = 6,
) -> list[Rescue]:
    """Crops of a picture in a form (width to height), the least costly first; none where no crop leaves every fault out and every head whole.

    `figures` are whom the plan wants and where they stand; `inner` is what lies inside a printed border; `size` is the shot's size. Raises
    ValueError for a form that is none.
    """
    if not 0 < aspect < math.inf:
        raise ValueError(f"{aspect} is no form.")
    room = inner or Box(0, 0, width, height)
    heads = [head_of(box) for _, box in figures]
    bad = sorted(faults, key=lambda f: -f.w * f.h)[:MOST_FAULTS]
    found = [
        _judged(crop, width, height, figures, size, print_mm)
        for free in _free(room, bad)
        for crop in _crops(free, aspect, heads, [b for _, b in figures])
        if crop.w * crop.h >= LEAST_LEFT * width * height and all(_holds(crop, head, room) for head in heads)
    ]
    out: list[Rescue] = []
    for rescue in sorted(found, key=lambda r: r.cost):
        if all(overlap(rescue.box, other.box) < ONE_CROP for other in out):
            out.append(rescue)
        if len(out) == most:
            break
    return out


def _free(room: Box, faults: Sequence[Box]) -> Iterator[Box]:
    """The rectangles within a room that touch no fault and cannot be made larger on a side without touching one."""
    right, bottom = room.x + room.w, room.y + room.h
    lefts = sorted({room.x, *(f.x + f.w for f in faults if room.x < f.x + f.w < right)})
    rights = sorted({right, *(f.x for f in faults if room.x < f.x < right)})
    tops = sorted({room.y, *(f.y + f.h for f in faults if room.y < f.y + f.h < bottom)})
    bottoms = sorted({bottom, *(f.y for f in faults if room.y < f.y < bottom)})
    free: list[Box] = []
    for x0, x1, y0, y1 in product(lefts, rights, tops, bottoms):
        if x1 - x0 < 8 or y1 - y0 < 8:
            continue
        box = Box(x0, y0, x1 - x0, y1 - y0)
        if not any(shared_area(box, f) > 0 for f in faults):
            free.append(box)
    for box in free:
        if not any(other is not box and _within(box, other) for other in free):
            yield box


def _within(a: Box, b: Box) -> bool:
    return b.x <= a.x and b.y <= a.y and a.x + a.w <= b.x + b.w and a.y + a.h <= b.y + b.h and a.w * a.h < b.w * b.h


def _crops(free: Box, aspect: float, heads: Sequence[Box], bodies: Sequence[Box]) -> Iterator[Box]:
    """The largest crops of a form within a rectangle, slid to where they may hold figures best."""
    w = min(free.w, free.h * aspect)
    h = w / aspect
    slack_x, slack_y = free.w - w, free.h - h
    places = {0.0, 0.5, 1.0}
    if slack_x > 1:
        for b in (*heads, *bodies):
            places |= {
                _part(b.x + b.w / 2 - w / 2, free.x, slack_x),
                _part(b.x, free.x, slack_x),
                _part(b.x + b.w - w, free.x, slack_x),
            }
    elif slack_y > 1:
        for b in (*heads, *bodies):
            places |= {_part(b.y - HEAD_MARGIN * h, free.y, slack_y), _part(b.y + b.h - h, free.y, slack_y)}
    for place in sorted(places):
        yield Box(free.x + slack_x * place, free.y + slack_y * place, w, h)


def _part(at: float, begin: float, slack: float) -> float:
    return min(1.0, max(0.0, (at - begin) / slack))


def _holds(crop: Box, head: Box, room: Box) -> bool:
    """Whether a head is whole inside a crop; one that the picture's own edge cuts need not be more than it is."""
    margin = HEAD_MARGIN * crop.h
    x0, y0 = max(head.x, room.x), max(head.y, room.y)
    x1, y1 = min(head.x + head.w, room.x + room.w), min(head.y + head.h, room.y + room.h)
    top = crop.y <= y0 - margin or crop.y <= room.y + 0.5
    return top and crop.x <= x0 + 0.5 and x1 <= crop.x + crop.w + 0.5 and y1 <= crop.y + crop.h + 0.5


def _judged(
    crop: Box, width: int, height: int, figures: Sequence[tuple[str, Box]], size: str, print_mm: float | None
) -> Rescue:
    left = crop.w * crop.h / (width * height)
    closer = math.log2(height / crop.h)
    wanted = FIGURE_HEIGHTS.get(size, 1.0) * height / crop.h
    nearest = min(FIGURE_HEIGHTS, key=lambda s: abs(math.log(FIGURE_HEIGHTS[s] / wanted)))
    dpi = crop.w / (print_mm / MM_PER_INCH) if print_mm else None
    cut = tuple(name for name, b in figures if shared_area(b, crop) < 0.98 * b.w * b.h)
    cost = (
        (1 - left)
        + FRAMING_COSTS * closer
        + CUT_COSTS * sum(1 - shared_area(b, crop) / (b.w * b.h) for _, b in figures)
    )
    if dpi is not None:
        cost += DPI_COSTS * max(0.0, math.log2(PRINT_DPI / dpi))
    return Rescue(crop, left, dpi, closer, nearest, cut, cost)
