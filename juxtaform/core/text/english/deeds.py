"""What a sentence tells that is done, and with whom: deeds and the phrases that belong to them."""

from __future__ import annotations

from dataclasses import dataclass, field

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.phrases import Phrase
from juxtaform.core.text.english.tagging import Token


@dataclass(slots=True, eq=False)
class Deed:
    """What is done: the verb's lemma, its subjects and objects, the phrases behind prepositions, and how it is told."""

    verb: str
    start: int
    end: int
    tag: str
    subjects: list[Phrase] = field(default_factory=list)
    objects: list[Phrase] = field(default_factory=list)
    at: list[Phrase] = field(default_factory=list)
    denied: bool = False
    modal: str = ""
    perfect: bool = False
    passive: bool = False
    finite: bool = True
    past: bool = False
    supposed: str = ""
    relative: bool = False
    particles: tuple[str, ...] = ()
    says: bool = False
    says_of: str = ""
    """The adjective behind a verb of being: `late` in `it got late`."""
    gap: Phrase | None = None
    """Whom or what a relative clause speaks of as its object: the bear in `the bear that Mark drew`."""

    def does(self, deeds: str) -> float:
        return lx.word(self.verb).does(deeds)


@dataclass(slots=True)
class Sentence:
    """A sentence: its tokens, phrases and deeds, in order."""

    start: int
    end: int
    tokens: list[Token]
    phrases: list[Phrase]
    deeds: list[Deed]
