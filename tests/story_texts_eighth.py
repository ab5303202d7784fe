"""Thirty-one made-up stories broken down by hand, as lines of `texts/eighth.txt`: where it is, who is to be seen, what is told. No number is set on them."""

from __future__ import annotations

from pathlib import Path

from tests.story_texts import Told


def _told() -> list[Told]:
    found = []
    for part in (Path(__file__).parent / "texts" / "eighth.txt").read_text("utf-8").split("\n# "):
        name, *lines = part.removeprefix("# ").strip().splitlines()
        moments = (line.split(" | ", 2) for line in lines)
        found.append(Told(name, "prose", tuple((words, who, where) for where, who, words in moments)))
    return found


_ALL = _told()
KEPT = tuple(_ALL[::3])
"""Only counted."""
LOOKED_AT = tuple(t for t in _ALL if t not in KEPT)
"""What went wrong in them was looked at after their first reading."""
