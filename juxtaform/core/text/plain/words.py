"""The words of a narration, and what stands behind words that are spoken: a deed of saying, and who is meant by what follows it."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from juxtaform.core.text.english.tagging import SAID
from juxtaform.core.text.languages import Grammar, Language

_WORD = re.compile(r"(?:[ldjmtsnc]|qu|jusqu|lorsqu|puisqu)['’](?=\w)|[^\W_]+(?:[-'’][^\W_]+)*", re.IGNORECASE)
_WHOLE = re.compile(r"[^\W_]+(?:[-'’][^\W_]+)*")
_STOPS = re.compile(r"[.!?…:;\n]|" + SAID)
_GERMAN_ADJECTIVE = re.compile(r"[a-zäöüß]{3,}(?:e|en|er|es|em)")
_BEHIND_SAYING = 3
"""How many words may stand between a deed of saying and who does it."""


@dataclass(frozen=True, slots=True)
class Word:
    """A word at `start`..`end` of the text; `low` is it in small letters, an elided one without its mark. `gap` is what stands before it, `begins` that a sentence may begin with it."""

    start: int
    end: int
    text: str
    low: str
    gap: str
    begins: bool

    @property
    def capital(self) -> bool:
        return self.text[0].isupper()


def words_of(told: str, start: int, end: int, language: Language) -> list[Word]:
    """The words of a passage of narration, in which a mark stands for what is said."""
    pattern = _WORD if language.says_inside_speech else _WHOLE
    found: list[Word] = []
    at = start
    for m in pattern.finditer(told, start, end):
        gap = told[at : m.start()]
        begins = not found or bool(_STOPS.search(gap))
        if re.search(r"(?<![\w])\w{1,4}\.\s*$", told[max(start, at - 5) : m.start()]) and found:
            shortened = language.grammar and found[-1].low in language.grammar.abbreviations
            begins = begins and not shortened
        found.append(Word(m.start(), m.end(), m.group(), m.group().lower().rstrip("'’"), gap, begins))
        at = m.end()
    return found


def noun_at(words: Sequence[Word], i: int, language: Language) -> int | None:
    """The noun of the phrase whose first word, an article or the like, is the one at `i`."""
    grammar = language.grammar
    if grammar is None or i >= len(words) or words[i].low not in grammar.determiners:
        return None
    for j in range(i + 1, min(i + 4, len(words))):
        w = words[j]
        if w.begins or "," in w.gap:
            return None
        if language.nouns_have_capitals:
            if w.capital:
                return j
            if not _GERMAN_ADJECTIVE.fullmatch(w.low) or w.low in grammar.saying:
                return None
        elif (
            w.low in grammar.describes_first
            and j + 1 < len(words)
            and not words[j + 1].begins
            and words[j + 1].low not in grammar.closed
        ):
            continue
        elif w.low in grammar.closed or w.capital:
            return None
        else:
            return j
    return None


@dataclass(frozen=True, slots=True)
class Tag:
    """Who says what stands before: the word with which they are named, its first and its last, or a pronoun; nobody where the deed alone is told."""

    first: int
    last: int
    pronoun: str = ""


def saying_at(words: Sequence[Word], i: int, language: Language, *, behind_speech: bool = True) -> Tag | None:
    """What the words from `i` on tell of who speaks, where they tell it: `sagte die Wolke`, `demanda-t-elle`, `gritó Lucía`. Directly behind a speech any deed is one of saying."""
    grammar = language.grammar
    if grammar is None or i >= len(words):
        return None
    if words[i].low in ("s", "se") and i + 1 < len(words):
        i += 1
    verb, *rest = words[i].low.split("-")
    if words[i].capital or (verb not in grammar.saying and not (behind_speech and verb not in grammar.closed)):
        return None
    if rest:
        return Tag(i, i, grammar.pronouns.get(rest[-1], ""))
    for j in range(i + 1, min(i + 1 + _BEHIND_SAYING, len(words))):
        w = words[j]
        if w.begins or re.search(r"[,(–—]", w.gap):
            break
        if w.low in grammar.pronouns and w.low not in grammar.determiners:
            return Tag(j, j, grammar.pronouns[w.low])
        noun = noun_at(words, j, language)
        if noun is not None:
            return Tag(j, noun)
        if w.capital or w.low in grammar.ranks or w.low in grammar.titles:
            return Tag(j, j)
        if w.low in grammar.determiners:
            break
    return Tag(i, i) if verb in grammar.saying else None


def runs_of_names(words: Sequence[Word], language: Language) -> Iterator[tuple[int, int]]:
    """Where words with a capital stand together, a small word of a name between them counted: first and last of each run.

    A word that begins a sentence is counted where it is a title, or stands alone.
    """
    grammar = language.grammar
    i = 0
    while i < len(words):
        w = words[i]
        if not w.capital or len(w.text) < 2:
            i += 1
            continue
        last = i
        known = grammar is not None and (w.low in grammar.titles or w.low in grammar.ranks)
        if not w.begins or known:
            while (step := _next_of_name(words, last, grammar)) is not None:
                last = step
        yield i, last
        i = last + 1


def _next_of_name(words: Sequence[Word], last: int, grammar: Grammar | None) -> int | None:
    for j in (last + 1, last + 2, last + 3):
        if j >= len(words) or (words[j].gap.strip(" ") and not (words[j].gap == ". " and not words[j].begins)):
            return None
        if words[j].capital:
            return j
        if grammar is None or words[j].low not in grammar.particles:
            return None
    return None
