"""A shot's own words, read: its sentences, what is said in them, which of its words are names, and what no picture of it can show."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cached_property, lru_cache

from juxtaform.core.brief.clothes import is_garment
from juxtaform.core.brief.unshown import unshown
from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.deeds import Sentence
from juxtaform.core.text.english.phrases import Phrase
from juxtaform.core.text.english.sentences import loosely, of_grammar
from juxtaform.core.text.languages import ENGLISH, language_of
from juxtaform.core.text.lists import word_lists
from juxtaform.core.text.names import is_common

_LISTS = word_lists("juxtaform.core.brief")

_ABSTRACT = _LISTS.words("abstract")
"""What a thing of the mind is said to be: `Hope is all that she has`."""
_FEW = 12
"""So many small words tell by themselves which language they are."""
_SAID_LEAST = 3
"""Fewer quoted words are no speech: the “tide key”."""
_ONE_EACH = ("face", "head", "back", "mouth", "nose", "body")
"""Parts of a body that everybody has one of."""
MONTHS = _LISTS.words("months")


@dataclass(frozen=True)
class Words:
    """A text's sentences, each with the offset at which it begins, and where somebody's words stand in it; none where the text is not in English."""

    sentences: tuple[tuple[int, Sentence], ...]
    speeches: tuple[tuple[int, int], ...] = ()

    def at(self, start: int, end: int) -> tuple[Sentence, Phrase] | None:
        """The phrase that holds some characters, and its sentence."""
        for offset, s in self.sentences:
            if offset <= start < offset + max(s.end, 1):
                fits = [p for p in s.phrases if p.start + offset <= start and end <= p.end + offset + 2]
                if fits:
                    return s, min(fits, key=lambda p: p.end - p.start)
        return None

    @cached_property
    def unseen(self) -> tuple[tuple[int, int, str], ...]:
        """Clauses that no picture can show, with what keeps them from it: start, end, and the reason."""
        return unshown(self.sentences)

    @cached_property
    def several(self) -> bool:
        """Whether a noun for several people stands in the words: `two children`."""
        return any(
            p.several
            and not p.pronoun
            and not p.unreal
            and lx.living(p.head) >= 0.45
            and lx.meaning(p.head).share("A") < 0.5
            for _, s in self.sentences
            for p in s.phrases
        )

    @cached_property
    def explained(self) -> frozenset[int]:
        """Where a pronoun that owns begins whose owner stands before it in the sentence, by a noun, or is gone: `One mover wipes his
        forehead`, `His cap floats on the waves`."""
        return frozenset(
            offset + t.start
            for offset, s in self.sentences
            for t in s.tokens
            if t.tag == "Y" and t.low in ("his", "her", "their")
            for p in s.phrases
            if (p.end <= t.start and _may_own(p, t.low)) or (p.start == t.start and _is_left(s, p))
        )

    @cached_property
    def loose_bodies(self) -> int:
        """How many are there of whom only a part is told, and nobody's: one for `two yellow eyes`, five for `five faces`."""
        parts = [
            p
            for _, s in self.sentences
            for p in s.phrases
            if lx.meaning(p.head).share("B") > 0.6
            and (p.role in ("subject", "") or not s.deeds)
            and p.det in ("", "a", "an")
            and not (p.owner or p.owning or p.unreal or p.compound)
        ]
        return max((p.count if p.head in _ONE_EACH and p.count else 1 for p in parts), default=0)

    @cached_property
    def it_alone(self) -> bool:
        """Whether `it` stands behind a verb or a preposition, and nothing named before it can be meant."""
        for _, s in self.sentences:
            for p in sorted(s.phrases, key=lambda p: p.start):
                if p.pronoun == "it" and p.role in ("object", "at"):
                    return True
                if not p.pronoun and not p.name and lx.meaning(p.head).share("T") < 0.5:
                    return False
        return False

    @cached_property
    def done_to(self) -> tuple[str, ...]:
        """The pronouns of those to whom something is done by somebody who is named: `the fox does not burn her`."""
        deeds = (d for _, s in self.sentences for d in s.deeds if d.subjects and not d.subjects[0].pronoun)
        return tuple(q.pronoun for d in deeds for q in d.objects if q.pronoun in ("her", "him"))

    @cached_property
    def definite(self) -> frozenset[str]:
        """The nouns with `the` before them."""
        return frozenset(p.head for _, s in self.sentences for p in s.phrases if p.det == "the")

    @cached_property
    def denied(self) -> frozenset[str]:
        """The nouns that the words only deny: `no inspector far and wide`."""
        phrases = [p for _, s in self.sentences for p in s.phrases]
        return frozenset(p.head for p in phrases if p.unreal == "denied") - {p.head for p in phrases if not p.unreal}

    @cached_property
    def deserted(self) -> bool:
        """Whether the words tell that nobody is there, and name nobody: who `they` are then is no question of people."""
        people = [p for _, s in self.sentences for p in s.phrases if p.name or p.pronoun in ("nobody", "none")]
        return bool(people) and all(p.pronoun and not p.name for p in people)

    def is_done(self, start: int) -> bool:
        """Whether the word that begins at a character is a deed and no thing: `Sami drums on a bucket`."""
        tokens = (t for offset, s in self.sentences for t in s.tokens if t.start + offset == start)
        return any(t.tag in "VD" and t.text == t.low for t in tokens)

    def is_name(self, start: int, end: int) -> bool | None:
        """Whether a capital word is a name by its grammar; None where it stands in no sentence that was read."""
        for offset, s in self.sentences:
            for i, t in enumerate(s.tokens):
                if t.start + offset == start:
                    following = s.tokens[i + 1] if i + 1 < len(s.tokens) else None
                    if i == 0 and following is not None and following.tag in "YT" and lx.word(t.low).pos.get("v"):
                        return False
                    if t.tag == "P" and following is not None and lx.word(t.low).total:
                        month = (
                            t.low in MONTHS
                            and bool(lx.lemmas(following.low, "n"))
                            and i + 2 < len(s.tokens)
                            and s.tokens[i + 2].tag in "VD"
                        )
                        if month or (following.tag in "NS" and not lx.lemmas(following.low, "v")):
                            return False
                    after = s.tokens[i + 2] if i + 2 < len(s.tokens) else None
                    if (
                        i == 0
                        and following is not None
                        and following.tag == "B"
                        and after is not None
                        and after.low in _ABSTRACT
                        and lx.word(t.low).pos.get("n")
                    ):
                        return False
                    return t.tag in "PNS" if t.tag not in "NS" else None
        return None


def _is_left(s: Sentence, p: Phrase) -> bool:
    """Whether somebody's clothes lie somewhere, and nothing else in the sentence tells of them."""
    does = p.deed
    return (
        does is not None
        and p.role == "subject"
        and does.verb in _LISTS.words("lies")
        and bool(does.at)
        and is_garment(p.head)
        and sum(t.low in ("he", "his", "him", "she", "her") for t in s.tokens) == 1
    )


def _may_own(p: Phrase, owning: str) -> bool:
    """Whether a noun can be who `his`, `her` or `their` means."""
    if p.name or p.pronoun or p.unreal:
        return False
    if owning == "their":
        return p.several
    sex = lx.word(p.head).sex or ("f" if p.head in lx.FEMALE else "m" if p.head in lx.MALE else "")
    return not p.several and lx.living(p.head) >= 0.45 and sex in ("", "m" if owning == "his" else "f")


@lru_cache(maxsize=4096)
def read_words(text: str, names: frozenset[str]) -> Words:
    """Read a shot's words; `names` are the words of the threads' names."""
    if not _is_english(text):
        return Words(())
    sentences, speeches = loosely(text, names)
    return Words(sentences, tuple((a, b) for a, b in speeches if _is_speech(text[a:b])))


def _is_english(text: str) -> bool:
    """Whether words are English, as far as few of them tell: `Bela says no` has no word that only Spanish has."""
    language = language_of(text)
    if language.name == "English":
        return _may_be_english(text)
    if not language.common:
        return False
    words = re.findall(r"[^\W\d_]+", text)
    small = [w for w in words if w[0].islower() or w.casefold() in language.common]
    return 0 < len(small) <= _FEW and all(is_common(w.casefold()) or of_grammar(w.casefold()) for w in small)


def _may_be_english(text: str) -> bool:
    """Whether English knows at least half of the small words of a few words, which tell too little of their language otherwise (`Armand réfléchit.`)."""
    small = [w for w in re.findall(r"[^\W\d_]+", text) if w[0].islower() and len(w) > 1]
    if len(small) > _FEW or not ENGLISH.common.isdisjoint(small):
        return True
    return 2 * sum(is_common(w) or of_grammar(w) for w in small) >= len(small)


def _is_speech(quoted: str) -> bool:
    """Whether words in quotation marks are said: enough of them, or such as end like something said (`“Lale!”`)."""
    return len(quoted.split()) >= _SAID_LEAST or quoted.rstrip("”\"’'»«“ ")[-1:] in ("!", "?", ",", "…")
