"""Who and what a text names that is no thread yet, and the text read in its language."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

from juxtaform.core.text.english.daytime import time_told
from juxtaform.core.text.english.register import Being
from juxtaform.core.text.english.story import Story
from juxtaform.core.text.languages import language_of
from juxtaform.core.text.manuscript import Manuscript
from juxtaform.core.text.names import NEW, Named, ThreadKind, heading_place, time_of_day
from juxtaform.core.text.piece import Piece
from juxtaform.core.text.plain.story import PlainStory


@dataclass(frozen=True)
class Candidate:
    """Somebody or something that a text names and that is no thread yet, with how often it is named. `sure` tells that the story has it: what only might be
    somebody is offered. `members` are the names of those of whom a group is known to consist."""

    kind: ThreadKind
    name: str
    aliases: tuple[str, ...]
    mentions: int
    sure: bool = True
    members: tuple[str, ...] = ()

    def named(self) -> Named:
        return Named(f"{NEW}{self.name}", self.name, self.aliases, self.kind)


_SAID = re.compile(r"[“\"][^“”\"]*[”\"]")
_ANOTHER_DAY = re.compile(
    r"\b(?:daylight|daytime|(?:next|following|other|first|second|third|fourth|fifth|sixth|seventh|last|same|new|every|each|one|all|by|broad|that|market) day|the day (?:was|is))\b",
    re.IGNORECASE,
)
"""What tells that it is day, of all that the word stands in."""
_GREETING = re.compile(r"\bgood (?:morning|day|afternoon|evening|night)\b", re.IGNORECASE)


class ReadStory:
    """A manuscript read in its language: English with its grammar, any other by its names."""

    def __init__(self, manuscript: Manuscript, known: Sequence[Named] = ()) -> None:
        self.language = language_of(manuscript.text)
        self._script = any(p.kind == "character" for p in manuscript.passages)
        self._known = {t.id for t in known}
        self._english = Story(manuscript, known) if self.language.name == "English" else None
        self._plain = None if self._english else PlainStory(manuscript, self.language, known)
        self._names_of_times = _named(self._english.cast.beings.values()) if self._english else None

    def pieces(self, number: int) -> list[Piece]:
        """The sentences and speeches of a scene of the manuscript."""
        story = self._english or self._plain
        assert story is not None
        pieces = story.pieces(number)
        return [replace(p, in_script=True) for p in pieces] if self._script else pieces

    def time(self, words: str, before: str = "") -> str:
        """The time of day that some words tell, else the one `before`; a name tells none (`Dawn opened the door`), and a greeting only where nothing else does."""
        told = self._time(_GREETING.sub(" ", words))
        if told == "day" and self._plain is None and not _ANOTHER_DAY.search(_SAID.sub(" ", words)):
            return before  # `Koos, whose day it was`, `“One day I shall dance,” he said.`
        return told or before or self._time(words)

    def _time(self, words: str) -> str:
        if self._plain is not None:
            return self.language.time(words)
        return time_told(self._names_of_times.sub(" ", words) if self._names_of_times is not None else words)

    def heading_time(self, words: str) -> str:
        """The time of day that a heading tells."""
        return heading_place(words)[1] if self._plain is None else self.language.time(words, heading=True)

    def candidates(self) -> list[Candidate]:
        """Characters, settings and props that the text names and that are not known: sure ones first, then the most mentioned, in each kind."""
        if self._plain is not None:
            found = [Candidate(t.kind, t.name, t.aliases, self._plain.counts[t.id]) for t in self._plain.found]
        else:
            assert self._english is not None
            found = []
            for b in self._english.cast.beings.values():
                if b.known:
                    continue
                aliases = tuple(w for w in b.called if w != b.name)
                if b.kind == "character" and b.name[:1].isupper() and b.name.upper() != b.name:
                    aliases = (b.name.upper(), *aliases)
                found.append(
                    Candidate(
                        b.kind,
                        b.name,
                        tuple(dict.fromkeys(aliases)),
                        b.mentions,
                        b.counted,
                        tuple(m.name for m in b.members),
                    )
                )
        return sorted(
            found, key=lambda c: (("character", "setting", "prop").index(c.kind), not c.sure, -c.mentions, c.name)
        )


def _named(beings: Iterable[Being]) -> re.Pattern[str] | None:
    """The names of characters that are words for a time of day: Dawn, the Night."""
    names = {w for b in beings if b.kind == "character" for w in b.called if w[:1].isupper() and time_of_day(w)}
    return re.compile(rf"\b(?:{'|'.join(map(re.escape, sorted(names)))})\b") if names else None


@lru_cache(maxsize=2)
def story_of(manuscript: Manuscript, known: tuple[Named, ...] = ()) -> ReadStory:
    """The text read; the last ones are remembered."""
    return ReadStory(manuscript, known)


def discovered(manuscript: Manuscript, known: Sequence[Named] = ()) -> list[Candidate]:
    """Characters, settings and props that a text names, those of `known` left out; most mentioned first in each kind."""
    return story_of(manuscript, tuple(known)).candidates()
