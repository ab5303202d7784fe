"""Places in an order: rows have positions with room between them, and are spaced anew when the room is used up."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Protocol

LEAST_ROOM = 1e-6


class Placed(Protocol):
    """A row with a position."""

    position: float


def placed(siblings: Sequence[Placed], at: int) -> float:
    """The position for a new row before the sibling of that index (their number: at the end). The siblings come in order, and
    get new positions when there is no room left.

    >>> from types import SimpleNamespace as Row
    >>> rows = [Row(position=0.0), Row(position=1.0), Row(position=1.0)]
    >>> placed(rows, 1)
    0.5
    >>> placed(rows, 2), [r.position for r in rows]
    (2.0, [0.0, 1.0, 3.0])
    """
    if not siblings:
        return 0.0
    if at <= 0:
        return siblings[0].position - 1
    if at >= len(siblings):
        return siblings[-1].position + 1
    low, high = siblings[at - 1].position, siblings[at].position
    if high - low >= LEAST_ROOM:
        return (low + high) / 2
    spaced(siblings, at, 1)
    return float(at)


def spaced(siblings: Sequence[Placed], at: int, room: int) -> None:
    """Space rows anew, a step apart, with room for some rows before the one of index `at`."""
    for i, row in enumerate(siblings):
        row.position = float(i if i < at else i + room)
