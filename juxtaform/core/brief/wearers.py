"""Whose a coloured part is by a shot's words: `Tam talks to a sailor in a red coat` tells nothing of Tam's coat."""

from __future__ import annotations

import re
from collections.abc import Sequence

from juxtaform.core.brief.knowledge import ThreadWords
from juxtaform.core.brief.words import Words
from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.deeds import Sentence
from juxtaform.core.text.english.phrases import Phrase
from juxtaform.core.text.lists import word_lists

_LISTS = word_lists("juxtaform.core.brief")
_WEARS = _LISTS.words("wears")
_HOLDS = _LISTS.words("holds clothes")
_INDEFINITE = frozenset(["a", "an", "another", "some"])


def wearer(words: Words, start: int, end: int) -> Phrase | None:
    """The phrase of who has what some characters name; None where the words leave it open."""
    found = words.at(start, end)
    if found is None:
        return None
    s, p = found
    if p.owner is not None:
        return p.owner
    if p.owning:
        return None
    if p.role == "at" and p.prep in ("in", "with"):
        return _described(s, p) or (p.deed.subjects[0] if p.deed is not None and p.deed.subjects else None)
    if p.role == "object" and p.deed is not None and p.deed.verb in _WEARS and p.deed.subjects:
        return p.deed.subjects[0]
    return None


def is_held(words: Words, start: int, end: int) -> bool:
    """Whether some characters name a thing that somebody holds, makes or gets, and nobody wears yet: `Mia holds a blue dress up to her chin`."""
    found = words.at(start, end)
    if found is None or found[1].role != "object" or found[1].deed is None:
        return False
    return found[1].det in _INDEFINITE and found[1].deed.verb in _HOLDS


def _described(s: Sentence, p: Phrase) -> Phrase | None:
    """Who stands right before a phrase behind `in` or `with`, whatever else they are in between: `a man with black hair and a red coat`."""
    before = [q for q in s.phrases if q.last < p.first and q.role != "owner"]
    if not before:
        return None
    q = max(before, key=lambda q: q.last)
    between = [t.low for t in s.tokens[q.last + 1 : p.first]]
    if between == [p.prep] or (len(between) == 2 and between[0] == "," and between[1] == p.prep):
        return q if _is_somebody(q) else _described(s, q) if q.role == "at" and q.prep in ("in", "with") else None
    if between in (["and"], [","], [",", "and"], ["and", p.prep]) and q.role == "at" and q.prep in ("in", "with"):
        return _described(s, q)
    return None


def _is_somebody(p: Phrase) -> bool:
    return bool(p.name or p.pronoun) or lx.living(p.head) >= 0.45


def may_be(p: Phrase, thread: ThreadWords, others: Sequence[ThreadWords]) -> bool:
    """Whether a phrase may mean the one of a thread, by a name or a noun of theirs; a pronoun may mean anybody."""
    if p.pronoun:
        return True
    if p.name:
        return _names(p.name, thread)
    if p.det in _INDEFINITE or (p.several and not p.det):
        return False
    return _tells(p.head, thread) or not (any(_tells(p.head, o) for o in others) or lx.living(p.head) >= 0.45)


def _names(name: str, thread: ThreadWords) -> bool:
    own = {w for n in (thread.named.name, *thread.named.aliases) for w in n.casefold().split()}
    return any(w in own for w in name.casefold().split())


def _tells(head: str, thread: ThreadWords) -> bool:
    """Whether a noun is one of a thread's names or wording."""
    told = " ".join((thread.named.name, *thread.named.aliases, thread.wording)).casefold()
    return re.search(rf"(?<![\w-]){re.escape(head)}s?(?![\w-])", told) is not None
