"""What is done in a shot's own words: how many deeds one body does, and who does something that nobody holds."""

from __future__ import annotations

from collections.abc import Iterator

from juxtaform.core.brief.words import Words
from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.deeds import Deed, Sentence
from juxtaform.core.text.english.phrases import Phrase
from juxtaform.core.text.lists import word_lists

_LISTS = word_lists("juxtaform.core.brief")

_KEEPS_ON = _LISTS.words("keeps on")
"""What goes on while something else is done: it makes no moment of its own."""


def deeds_of_one_body(words: Words) -> int:
    """The most deeds in a sentence that one body does one after another.

    >>> from juxtaform.core.brief.words import read_words
    >>> deeds_of_one_body(read_words("Pell lifts the flap, crawls in and hides the lamp.", frozenset(["Pell"])))
    3
    """
    most = 1
    for _, s in words.sentences:
        by_subject: dict[str, set[tuple[str, ...]]] = {}
        for d in s.deeds:
            if (
                d.finite
                and not d.relative
                and not d.denied
                and not d.supposed
                and d.subjects
                and (d.verb not in _KEEPS_ON or _changes(s, d))
                and not d.modal
            ):
                who = d.subjects[0].name or d.subjects[0].pronoun or d.subjects[0].head
                again = "again" if _behind(s, d) == "again" else ""  # `falls, gets up and falls again`
                by_subject.setdefault(who, set()).add((d.verb, again, *(p.head for p in d.objects)))
        most = max([most, *(len(v) for v in by_subject.values())])
    return most


def _changes(s: Sentence, d: Deed) -> bool:
    """Whether a deed that goes on is one that begins: `sits down`, `stands up`."""
    return _behind(s, d) in ("down", "up")


def _behind(s: Sentence, d: Deed) -> str:
    """The word right behind a deed; empty at the end."""
    return next((t.low for t in s.tokens if t.start >= d.end), "")


DETAILED = 4
"""From so many things told of somebody on they are described: a man with an anchor on his arm and a parrot on his hat."""


_NOT_THERE = _LISTS.words("not there")
_NOT_SEEN = _LISTS.words("not seen")


def _is_in_a_picture(s: Sentence, p: Phrase) -> bool:
    """Whether somebody is drawn there or told of: `a photograph of a man in a hat`."""
    return any(q.of is p for q in s.phrases)


def _end_of_description(s: Sentence, p: Phrase) -> int:
    """Where what stands right behind somebody ends: `a man with black hair and a red coat`."""
    last = p
    for q in sorted(s.phrases, key=lambda q: q.first):
        if q.first <= p.last or q.role == "owner":
            continue
        between = [t.low for t in s.tokens[last.last + 1 : q.first]]
        joined = between in (["and"], [","], [",", "and"], ["and", q.prep]) and last is not p
        if q.role != "at" or not (between == [q.prep] or joined):
            break
        last = q
    return last.end


def described_strangers(words: Words, held: frozenset[str]) -> Iterator[tuple[int, int]]:
    """People who are described and act in the picture, for whom nobody of `held` (nouns and names of threads) stands: start and end of the description."""
    for offset, s in words.sentences:
        for p in s.phrases:
            if (
                p.name
                or p.pronoun
                or p.unreal
                or not (2 <= p.count <= 6 if p.several else p.det in ("a", "an"))
                or p.role not in ("subject", "object", "at")
                or p.deed is None
                or p.deed.supposed
                or (p.role != "subject" and (p.deed.denied or p.prep in _NOT_THERE or p.deed.verb in _NOT_SEEN))
            ):
                continue
            if lx.living(p.head) < 0.6 or {p.head, lx.plural(p.head)} & held or _is_in_a_picture(s, p):
                continue
            before = p.deed.start if p.role == "subject" and p.start < p.deed.start else _end_of_description(s, p)
            more = [q for q in s.phrases if q.role == "at" and q.prep in ("with", "in") and p.end < q.start < before]
            between = sum(1 for q in s.phrases if p.end < q.start < before)
            if lx.meaning(p.head).share("P") < 0.5 and not any(lx.meaning(q.head).share("C") > 0.4 for q in more):
                continue  # an animal, unless it is dressed
            if len(more) >= 1 and (
                len(more) + len(p.described) >= 2 or between >= DETAILED or any(q.described for q in more)
            ):
                last = max((q.end for q in s.phrases if p.end < q.start < before), default=p.end)
                yield offset + p.start, offset + last
