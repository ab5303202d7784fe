"""Several pictures laid out as one labelled plate: rows of one height each, filled from edge to edge."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise


@dataclass(frozen=True)
class Cell:
    """Where a picture stands on a plate, in px; its label stands below it, as high as the plate's label height."""

    x: int
    y: int
    w: int
    h: int


@dataclass(frozen=True)
class Plate:
    """A plate's size in px and its cells in the order of the pictures."""

    width: int
    height: int
    cells: tuple[Cell, ...]
    label_px: int


def plate(forms: Sequence[float], long_side_px: int = 1536, margin_px: int = 24, label_px: int = 28) -> Plate:
    """Lay out pictures of some forms (width over height), in order, on a plate with a given longer side.

    The break into rows is the one whose plate comes nearest to a square, so that no picture is much smaller than need be.
    Raises ValueError for no picture.

    >>> p = plate([1.0, 1.0, 1.0, 1.0], 1000, 20, 0)
    >>> (p.width, p.height), [(c.x, c.y, c.w) for c in p.cells]
    ((1000, 1000), [(20, 20, 470), (510, 20, 470), (20, 510, 470), (510, 510, 470)])
    """
    if not forms:
        raise ValueError("A plate needs at least one picture.")
    best = min((_in_rows(forms, n, margin_px, label_px) for n in range(1, len(forms) + 1)), key=_squareness)
    width, height, cells = best
    count, inner = len({c.y for c in cells}), 1000.0
    for _ in range(4):  # Margins and labels do not scale: a few steps meet the longer side to a pixel or two.
        inner *= (long_side_px - 2 * margin_px) / (max(width, height) - 2 * margin_px)
        width, height, cells = _in_rows(forms, count, margin_px, label_px, round(inner))
    return Plate(width, height, cells, label_px)


def _squareness(laid: tuple[int, int, tuple[Cell, ...]]) -> float:
    width, height, _ = laid
    return max(width, height) / min(width, height)


def _in_rows(
    forms: Sequence[float], count: int, margin: int, label: int, inner_px: int = 1000
) -> tuple[int, int, tuple[Cell, ...]]:
    """Width, height and cells when the pictures stand in so many rows of one width."""
    cells: list[Cell] = []
    y = margin
    for row in _split(forms, count):
        room = inner_px - margin * (len(row) - 1)
        high = room / sum(row)
        x = float(margin)
        for form in row:
            cells.append(Cell(round(x), round(y), round(x + form * high) - round(x), round(high)))
            x += form * high + margin
        y += round(high) + label + margin
    return inner_px + 2 * margin, round(y), tuple(cells)


def _split(forms: Sequence[float], count: int) -> list[list[float]]:
    """The forms in so many runs of as nearly the same total as their order allows, none empty."""
    total, bounds, width = sum(forms), [0], 0.0
    for i, form in enumerate(forms[:-1]):
        width += form
        left_pictures, left_rows = len(forms) - i - 1, count - len(bounds)
        due = width >= total * len(bounds) / count - form / 2
        if left_rows > 0 and (due or left_pictures == left_rows):
            bounds.append(i + 1)
    bounds.append(len(forms))
    return [list(forms[a:b]) for a, b in pairwise(bounds)]
