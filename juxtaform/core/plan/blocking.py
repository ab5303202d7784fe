"""Where the figures of a shot are to stand, as its plan has it: boxes on the picture, and the words for them."""

from __future__ import annotations

from collections.abc import Mapping
from itertools import combinations

Stand = tuple[float, float, float, float]
"""A box as shares of the picture's width and height: left, top, width, height."""

LEFT, RIGHT = 0.4, 0.6
"""A figure whose middle is before the first is on the left, after the second on the right."""
FURTHER = 0.1
"""A figure whose feet are so much higher on the picture than the nearest one's, in shares of its height, is further back."""
SMALL = 0.3
"""A single figure that takes less of the picture's height is small in it."""
HIGH, LOW = 0.45, 0.6
"""A figure that ends above the first stands high up; one that begins below the second is low down."""
APART = 0.08
"""Two figures whose middles are so far from each other, in shares of the width, have an order from left to right."""


def where_each_stands(stands: Mapping[str, Stand]) -> dict[str, str]:
    """Words for where each named figure is on the picture; two on one side are told by each other.

    >>> where_each_stands({"Pell": (0.1, 0.3, 0.2, 0.6), "Oda": (0.7, 0.4, 0.1, 0.3)})
    {'Pell': 'on the left in front', 'Oda': 'on the right, further back'}
    >>> where_each_stands({"Pell": (0.7, 0.1, 0.08, 0.2)})
    {'Pell': 'small and high up on the right'}
    >>> where_each_stands({"Oda": (0.25, 0.2, 0.15, 0.7), "Pell": (0.1, 0.2, 0.15, 0.7)})
    {'Oda': 'on the left, to the right of Pell', 'Pell': 'on the left'}
    """
    nearest = max((_feet(box) for box in stands.values()), default=0.0)
    deep = any(_feet(box) < nearest - FURTHER for box in stands.values())
    words: dict[str, str] = {}
    last: dict[str, str] = {}
    for name, box in sorted(stands.items(), key=lambda s: _middle(s[1])):
        side = _side(_middle(box))
        said = _height(box) + side
        if len(stands) == 1 and box[3] < SMALL:
            said = f"small and {said}" if said != side else f"small {said}"
        if side in last:
            said += f", to the right of {last[side]}"
        last[side] = name
        if deep:
            said += ", further back" if _feet(box) < nearest - FURTHER else " in front"
        words[name] = said
    return {name: words[name] for name in stands}


def changed_sides(before: Mapping[str, Stand], after: Mapping[str, Stand]) -> tuple[str, ...]:
    """Two who stand in one order from left to right in a shot, and in the other order in the next; nobody where all keep theirs.

    >>> changed_sides({"a": (0, 0, 0.2, 1), "b": (0.7, 0, 0.2, 1)}, {"a": (0.6, 0, 0.2, 1), "b": (0.1, 0, 0.2, 1)})
    ('a', 'b')
    """
    for one, other in combinations([w for w in before if w in after], 2):
        first, then = (_middle(x[other]) - _middle(x[one]) for x in (before, after))
        if first * then < 0 and min(abs(first), abs(then)) > APART:
            return one, other
    return ()


def _middle(box: Stand) -> float:
    return box[0] + box[2] / 2


def _feet(box: Stand) -> float:
    return box[1] + box[3]


def _side(x: float) -> str:
    return "on the left" if x < LEFT else "on the right" if x > RIGHT else "in the middle"


def _height(box: Stand) -> str:
    return "high up " if _feet(box) < HIGH else "low down " if box[1] > LOW else ""
