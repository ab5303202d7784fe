"""A story's text and what each passage of it is: heading, narration, speech, note.

Offsets are characters of the text as it stands; the passages never change the text, so that it can be given back
unharmed.
"""

from __future__ import annotations

import re
from bisect import bisect_right
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from juxtaform.core.text.speech import Habit, habit_of, said

PassageKind = Literal[
    "title",
    "section",
    "scene",
    "action",
    "character",
    "parenthetical",
    "dialogue",
    "lyric",
    "transition",
    "centred",
    "art",
    "synopsis",
    "note",
    "boneyard",
    "page_break",
]
TITLE_WORDS = 12
_ENDS = re.compile(r"""[.!?…:;,。！？]["'”’»)\]]*$""")
PICTURED: frozenset[PassageKind] = frozenset({"action", "dialogue", "lyric", "centred"})
"""The passages that pictures cover; the others speak about the story."""
READ: frozenset[PassageKind] = PICTURED | {"art"}
"""The passages that tell what is to be seen: `art` is a note of it, whose words nobody reads."""


@dataclass(frozen=True)
class Passage:
    """A stretch `start`..`end` of the text. `words` is what it says without its marks; `name` the speaker of a cue or a
    speech; `level` the depth of a section; `dual` marks speech that is said at the same time as the one before,
    `off` a voice of somebody who is not to be seen."""

    kind: PassageKind
    start: int
    end: int
    words: str
    name: str = ""
    level: int = 0
    dual: bool = False
    off: bool = False


class Along:
    """Passages in their order, each found by its place without going past those before it."""

    def __init__(self, passages: Iterable[Passage]) -> None:
        self._passages = tuple(passages)
        self._ends = [p.end for p in self._passages]

    def touching(self, start: int, end: int) -> Iterator[Passage]:
        """The passages that have something of the characters `start`..`end`.

        >>> along = Along(Passage("action", i, i + 10, "") for i in (0, 10, 20))
        >>> [p.start for p in along.touching(10, 21)]
        [10, 20]
        """
        for at in range(bisect_right(self._ends, start), len(self._passages)):
            if self._passages[at].start >= end:
                break
            yield self._passages[at]


@dataclass(frozen=True)
class Trouble:
    """Something in a text that does not hold together: its line (from 1) and what to do."""

    line: int
    message: str


@dataclass(frozen=True)
class Framing:
    """How a text says that a picture is framed, by the trade's names, and how many seconds it lasts; empty or 0 where it does not say."""

    size: str = ""
    angle: str = ""
    move: str = ""
    seconds: float = 0.0


@dataclass(frozen=True)
class Manuscript:
    """A text with its passages in order, and what is broken in it. `panels` are where it says itself that a picture begins, as a comic script does,
    and the manuscript of a picture book; `forms` are then those of its pages (`single`, `spread`, or empty where it is not told), `framings` those of
    its pictures, where a shot list tells them."""

    text: str
    passages: tuple[Passage, ...]
    troubles: tuple[Trouble, ...] = ()
    title_page: tuple[tuple[str, str], ...] = ()
    panels: tuple[int, ...] = ()
    forms: tuple[str, ...] = ()
    framings: tuple[Framing, ...] = ()

    @property
    def by_pages(self) -> bool:
        """Whether the text is told page by page, or in numbered parts."""
        return bool(self.forms)

    @property
    def in_parts(self) -> bool:
        """Whether the text is told in numbered parts that are no pages: counted beats, a shot list."""
        return self.by_pages and not any(self.forms)

    @cached_property
    def habit(self) -> Habit:
        """How this text marks what somebody says."""
        return habit_of(self.text)

    def said(self, start: int, end: int) -> list[tuple[int, int]]:
        """Where somebody's words stand between `start` and `end`, marks and all."""
        return said(self.text, self.habit, start, end)

    @cached_property
    def _said(self) -> dict[int, list[tuple[int, int]]]:
        return {p.start: self.said(p.start, p.end) for p in self.passages if p.kind in PICTURED and not p.name}

    def said_in(self, passage: Passage) -> list[tuple[int, int]]:
        """Where somebody's words stand in a passage of narration, found once."""
        return self._said.get(passage.start, [])

    def scenes(self) -> Iterator[tuple[Passage | None, list[Passage]]]:
        """Each scene's heading (None before the first) and its passages; scenes without either are left out."""
        heading: Passage | None = None
        passages: list[Passage] = []
        for passage in self.passages:
            if passage.kind == "scene":
                if heading or any(p.kind in READ for p in passages):
                    yield heading, passages
                heading, passages = passage, []
            else:
                passages.append(passage)
        if heading or any(p.kind in READ for p in passages):
            yield heading, passages


def may_be_title(words: str) -> bool:
    """Whether words that stand alone above a text may be its title: a few, without an end mark.

    >>> may_be_title("The Night Bus"), may_be_title("It rained.")
    (True, False)
    """
    return 0 < len(words.split()) <= TITLE_WORDS and not has_end_mark(words)


def has_end_mark(words: str) -> bool:
    """Whether words end as a sentence or a part of one does."""
    return bool(_ENDS.search(words))


def lines_of(text: str) -> Iterator[tuple[int, int, str]]:
    r"""Start, end and words of each line, the line end left out.

    >>> list(lines_of("a\nbc"))
    [(0, 1, 'a'), (2, 4, 'bc')]
    """
    at = 0
    for line in text.split("\n"):
        yield at, at + len(line), line
        at += len(line) + 1


def line_number(text: str, at: int) -> int:
    """The line of an offset, from 1."""
    return text.count("\n", 0, at) + 1
