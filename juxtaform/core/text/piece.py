"""A sentence of narration or a speech, with who and what it names: what moments are made of."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from juxtaform.core.text.names import Mention


@dataclass(frozen=True)
class Line:
    """Words spoken in a shot: who speaks (a thread's id, empty when the text does not tell) and what."""

    speaker: str
    words: str


@dataclass(frozen=True)
class Piece:
    """A sentence or a speech. `people` are to be seen in it, `actors` do something, `place` is where it is by all that came before, `new_place` tells that it
    says so itself. `opening` is what it opens with, `dialogue` that it is hardly more than speech, `in_script` that each line of its text is a paragraph, `still` that nothing is done in it; `nouns` are what it names, names left out."""

    start: int
    end: int
    text: str
    begins_paragraph: bool
    speech: bool
    mentions: tuple[Mention, ...] = ()
    lines: tuple[Line, ...] = ()
    people: tuple[str, ...] = ()
    places: tuple[str, ...] = ()
    props: tuple[str, ...] = ()
    actors: tuple[str, ...] = ()
    place: str = ""
    new_place: bool = False
    left_place: bool = False
    stated: float = 0.0
    opening: str = ""
    dialogue: bool = False
    in_script: bool = False
    still: bool = False
    exists: bool = False
    nouns: frozenset[str] = frozenset()

    @cached_property
    def words(self) -> int:
        return len(self.text.split())

    @property
    def lead(self) -> str:
        return self.people[0] if self.people else ""
