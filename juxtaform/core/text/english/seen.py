"""Whom a sentence shows: who is named and is there, and what names nobody who could be seen."""

from __future__ import annotations

from collections.abc import Sequence

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.deeds import Deed
from juxtaform.core.text.english.phrases import Phrase
from juxtaform.core.text.english.pronouns import Memory
from juxtaform.core.text.english.register import Being
from juxtaform.core.text.english.sentences import Read

TOLD_IN_THE_PAST = 0.7
"""From this share of past deeds on a story is told in the past."""
_GROWS = frozenset(["be", "get", "grow", "become", "turn"])
_OF_THE_DAY = lx.GRAMMAR.words("of the day")
_OF_A_PLACE = lx.GRAMMAR.words("of a place")
_THERE = lx.GRAMMAR.words("there")
_WAITED_FOR = lx.GRAMMAR.words("waited for")
_AWAY = frozenset("outside outdoors".split())
_MISSING = lx.GRAMMAR.words("missing")
_TURNS_UP = lx.GRAMMAR.words("turns up")
_MAIL = lx.GRAMMAR.words("mail")
_GOES_AWAY = lx.GRAMMAR.words("goes away")
_IN_MIND = lx.KNOWN.words("in mind")
_BY_THEM = lx.GRAMMAR.words("by them")


def is_seen(p: Phrase, owned: Phrase | None, memory: Memory, beings: Sequence[Being]) -> bool:
    """Whether whom a phrase names is to be seen by it; `owned` is what is theirs, where the phrase is an owner's."""
    if p.unreal or not beings:
        return False
    deed = p.deed
    if deed is not None and p.role == "subject" and _gone(p, deed):
        return False
    if p.role == "owner":
        own = owned is not None and (lx.meaning(owned.head).share("B") > 0.5 or owned.head in _BY_THEM)
        return owned is not None and own and not owned.unreal
    if p.role in ("called", "beside"):
        return p.role == "beside" or bool(p.name)  # `nobody had ever called him young man`
    if deed is not None and deed.supposed:
        return False
    if p.role == "is":
        return deed is not None and not deed.denied
    if deed is not None and deed.perfect and deed.past and (deed.denied or deed.relative):
        return any(b in r.people for r in memory.recent[-2:] for b in beings)
    if p.role == "object":
        here = any(b in r.people for r in memory.recent[-2:] for b in beings)
        return deed is None or not (deed.denied or (deed.verb in _IN_MIND and not here))
    if p.role == "at":
        if p.prep == "of" and deed is not None and deed.verb == "be" and deed.says_of == "full":
            return not deed.denied  # `The garden was full of foxes`
        if deed is not None and _is_far(p, deed):
            return False
        part = memory.parts.get(id(p))
        if p.prep == "of" and part is not None and part.role == "at" and part.head in lx.PARTS:
            return True  # `On either side of Mia sat a dog`
        if p.prep in ("about", "like", "than", "of", "despite", "without", "except", "towards", "toward"):
            return p.prep in ("towards", "toward")
        if p.prep == "for":
            return deed is not None and deed.verb not in _WAITED_FOR and deed.does("KDOE") > 0.5
        if p.prep == "from":
            return deed is not None and deed.does("HOMV") > 0.4
        return deed is None or not deed.denied
    return True


def kinds_are_nobody(reads: Sequence[Read]) -> None:
    """What a story that is told in the past says of a kind, in the present, is of nobody in it: `goats are made for steps`."""
    deeds = [d for r in reads for d in r.sentence.deeds if d.finite and not d.modal]
    if sum(d.past for d in deeds) < TOLD_IN_THE_PAST * len(deeds):
        return
    for p in (p for r in reads for p in r.sentence.phrases):
        bare = p.several and not (p.det or p.owning or p.owner or p.name or p.pronoun or p.count > 0)
        deed = p.deed
        if bare and p.role == "subject" and deed is not None and deed.finite and not (deed.past or deed.modal):
            p.unreal = p.unreal or "kind"


def weather_is_nobody(reads: Sequence[Read]) -> None:
    """What gets dark or late is nobody: `When it got dark they went home`."""
    its = ((r.sentence.tokens, p) for r in reads for p in r.sentence.phrases if p.pronoun == "it")
    for tokens, p in its:
        deed = p.deed
        if p.role != "subject" or deed is None or deed.verb not in _GROWS:
            continue
        is_time = any(o.role == "is" and lx.word(o.head).share("T") > 0.5 for o in deed.objects)
        there = any(q.prep in ("in", "under", "on", "inside", "outside", "at") for q in deed.at)
        there = there or any(t.low in _THERE for t in tokens if t.start >= deed.end)
        if is_time or deed.says_of in _OF_THE_DAY or (there and deed.says_of in _OF_A_PLACE):
            p.unreal = "weather"


def leaves(read: Read) -> bool:
    """Whether a sentence leaves where it was without saying for where: `Outdoors a bell rang.`"""
    first = read.sentence.tokens[0] if read.sentence.tokens else None
    return first is not None and first.low in _AWAY and first.tag == "R"


def _gone(p: Phrase, deed: Deed) -> bool:
    """Whether it is said that somebody is not there: gone, missing, nowhere."""
    if deed.verb == "go" and deed.passive:
        return True
    if deed.denied and deed.verb in _TURNS_UP:
        return True  # `The cat did not come`
    if deed.verb == "be" and deed.perfect and deed.past and not (deed.at or deed.objects or deed.says_of):
        return True  # `Where Tom had been there was a hat`
    if deed.verb in _GOES_AWAY and deed.perfect and deed.past and not (deed.at or deed.objects or deed.denied):
        return True  # `The thief had already gone`
    return deed.verb in ("be", "go", "seem") and any(w in _MISSING for w in deed.particles)


def _is_far(p: Phrase, deed: Deed) -> bool:
    """Whether somebody behind a preposition is elsewhere: one writes to them, hides from them, has a letter from them."""
    if p.prep == "to":
        return deed.verb == "write"
    return p.prep == "from" and (deed.verb == "hide" or any(o.head in _MAIL for o in deed.objects))
