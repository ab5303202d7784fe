"""Picture files matched to shots by the numbers in their names, in natural order."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

_NUMBER = re.compile(r"(\d+)\s*([a-z])?(?![a-z])", re.IGNORECASE)
_TAKE = re.compile(r"(?:^|[\s_.\-])(?:t|take|v|ver|version|alt)[\s_.\-]*(\d+)\s*$", re.IGNORECASE)


@dataclass(frozen=True)
class Match:
    """A file's place: the shot it belongs to (an index into the shots, None for no match) and why."""

    name: str
    shot: int | None
    reason: str


def natural_key(name: str) -> tuple[tuple[int, int, str], ...]:
    """A sort key under which numbers inside names count as numbers.

    >>> sorted(["p10.png", "p2.png", "P1.png"], key=natural_key)
    ['P1.png', 'p2.png', 'p10.png']
    """
    parts = re.split(r"(\d+)", name.casefold())
    return tuple((0, int(p), "") if p.isdigit() else (1, 0, p) for p in parts if p)


def matched(names: Sequence[str], numbers: Sequence[str]) -> list[Match]:
    """Match file names to shots numbered `numbers` (such as `1`, `3b`), in natural order of the names.

    A name's shot number is the one number position that varies over the files and fits the shots best; a trailing
    take mark (`t2`, `v3`, `take 4`) is set aside. Without any number that fits, files go to the shots in order, but
    only when there are exactly as many.

    >>> [m.shot for m in matched(["p10.png", "p2.png", "p03b.png"], [str(n) for n in range(1, 13)] + ["3b"])]
    [1, 12, 9]
    """
    ordered = sorted(names, key=natural_key)
    index = {n.casefold(): i for i, n in enumerate(numbers)}
    stems = [_TAKE.sub("", _stem(name)) for name in ordered]
    found = [[(int(m.group(1)), (m.group(2) or "").lower()) for m in _NUMBER.finditer(stem)] for stem in stems]
    column = _column(found, index)
    matches = []
    for name, numbers_in in zip(ordered, found, strict=True):
        hit = (
            _look_up(numbers_in[column], index)
            if column is not None and -len(numbers_in) <= column < len(numbers_in)
            else None
        )
        if hit is not None:
            number, letter = numbers_in[column or 0]
            matches.append(Match(name, hit, f"number {number}{letter} in its name"))
        else:
            matches.append(Match(name, None, "no shot has a number found in its name"))
    if not any(m.shot is not None for m in matches) and len(ordered) == len(numbers):
        return [Match(name, i, "by order of names") for i, name in enumerate(ordered)]
    return matches


def _stem(name: str) -> str:
    base = re.split(r"[\\/]", name)[-1]
    return base.rsplit(".", 1)[0] if "." in base.lstrip(".") else base


def _look_up(number: tuple[int, str], index: dict[str, int]) -> int | None:
    value, letter = number
    exact = index.get(f"{value}{letter}")
    return exact if exact is not None else index.get(str(value))


def _column(found: list[list[tuple[int, str]]], index: dict[str, int]) -> int | None:
    """The position of the shot number: most files that fit, then most different shots; counted from the end too."""
    best: tuple[tuple[int, int, int], int] | None = None
    longest = max((len(numbers) for numbers in found), default=0)
    for column in [*range(longest), *(-c for c in range(1, longest + 1))]:
        hits = [_look_up(numbers[column], index) for numbers in found if -len(numbers) <= column < len(numbers)]
        kept = Counter(h for h in hits if h is not None)
        rank = (len(kept), sum(kept.values()), 1 if column < 0 else 0)
        if kept and (best is None or rank > best[0]):
            best = (rank, column)
    return best[1] if best else None
