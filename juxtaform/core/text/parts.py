"""A long text in parts, so that a letter typed concerns one of them: parts end where lines do, and joined they are the text."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import accumulate

USUAL = 800
"""Characters from which on a part ends with the line."""
MOST = 1600
"""Characters at which a part ends with the word where the line is longer."""
GROWN = 3200
"""Characters above which a part that was typed into is cut."""


@dataclass(frozen=True)
class Place:
    """A character of a text: the index of its part, and how many characters of the part come before it."""

    part: int
    at: int


def parted(text: str) -> list[str]:
    r"""A text in parts of some lines each; an empty text has none.

    >>> [len(p) for p in parted("A line.\n" * 250)]
    [800, 800, 400]
    """
    parts: list[str] = []
    part = ""
    for line in text.splitlines(keepends=True):
        while len(part) + len(line) > MOST:
            room = MOST - len(part)
            cut = line.rfind(" ", 0, room) + 1 or (0 if part else room)
            parts.append(part + line[:cut])
            part, line = "", line[cut:]
        part += line
        if len(part) >= USUAL:
            parts.append(part)
            part = ""
    return [*parts, part] if part else parts


def remade(words: str, at: int, gone: int, put: str) -> list[str]:
    """Some parts, told by their words, when `gone` characters from `at` on give way to `put`: one part while that is not too long.

    >>> remade("One. ", 5, 0, "And a half. ")
    ['One. And a half. ']
    """
    new = words[:at] + put + words[at + gone :]
    return [new] if new and len(new) <= GROWN else parted(new)


class Parts:
    """Places of a text told by its parts. `lengths` are those of its parts, in order."""

    def __init__(self, lengths: Sequence[int]) -> None:
        self._ends = list(accumulate(lengths))
        self._starts = [0, *self._ends[:-1]]

    @property
    def length(self) -> int:
        """Characters of the whole text."""
        return self._ends[-1] if self._ends else 0

    def offset(self, part: int, at: int) -> int:
        """Where a place of a part stands in the whole text."""
        return self._starts[part] + at

    def touched(self, at: int, gone: int) -> tuple[int, int]:
        """The parts (the last one left out) that change when `gone` characters from `at` on are replaced. What is put at the end of a
        part belongs to it. Raises ValueError for a place outside of the text.

        >>> Parts([5, 5]).touched(5, 0), Parts([5, 5]).touched(4, 2)
        ((0, 1), (0, 2))
        """
        if not 0 <= at <= at + gone <= self.length:
            raise ValueError(f"a text of {self.length} characters has no place {at} with {gone} after it")
        last = len(self._ends) - 1
        first, end = (min(bisect_left(self._ends, x), last) for x in (at, at + gone))
        return max(0, first), end + 1

    def start(self, offset: int) -> Place:
        """The part that holds the character at an offset. Raises ValueError outside of the text."""
        if not 0 <= offset < self.length:
            raise ValueError(f"a text of {self.length} characters has no character {offset}")
        part = bisect_right(self._ends, offset)
        return Place(part, offset - self._starts[part])

    def end(self, offset: int) -> Place:
        """The part that holds the last character before an offset. Raises ValueError outside of the text."""
        if not 0 < offset <= self.length:
            raise ValueError(f"a text of {self.length} characters has no character before {offset}")
        part = bisect_left(self._ends, offset)
        return Place(part, offset - self._starts[part])
