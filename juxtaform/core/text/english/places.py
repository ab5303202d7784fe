"""Where a story is: which phrases tell a place, how surely, and by which words a place goes."""

from __future__ import annotations

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.deeds import Deed
from juxtaform.core.text.english.phrases import Phrase

STAYS = lx.GRAMMAR.words("stays") | {"outside of", "in front of"}
"""Prepositions that say where somebody is."""
COMES = lx.GRAMMAR.words("comes")
"""Prepositions that say where somebody comes to."""
PLACE = "RHWL"
"""The kinds of nouns that are places."""
_AT_WORK = lx.GRAMMAR.words("at work")
"""Deeds done to a place by whoever is in it."""
_FIXTURES = lx.GRAMMAR.words("fixtures")
"""What a room has: the kitchen window tells the kitchen."""
_SPOT = 0.55
"""How surely a fixture, a piece of furniture or a barrier tells a place at most: enough where nothing else does, too little to leave a room for its door."""
HOLLOW = lx.GRAMMAR.words("hollow")
"""Things that can hold somebody, whatever the word means besides."""
_STOREYS, _WHICH_STOREY = frozenset(["floor", "storey"]), frozenset("ground top upper lower".split())
_STANDS_ALONE = frozenset(["bank", "entrance"])
"""Parts that are places where nothing says of what: the far bank."""
_BRINGS = lx.GRAMMAR.words("brings")
_AIMED = lx.GRAMMAR.words("aimed")
"""Deeds that go at something: the place behind `at` is their aim, not where they happen."""


def moving(deed: Deed | None) -> bool:
    """Whether somebody goes or brings something along."""
    return deed is not None and (deed.does("M") > 0.2 or deed.verb in _BRINGS)


def place_key(p: Phrase) -> str:
    """The words by which a place goes: its head with what makes one word with it and whose it is; empty for what is no place."""
    if p.name:
        last = p.name.split()[-1].casefold()
        if is_a_day(p):
            return ""
        return p.name.casefold() if not p.head or p.head == last else ""
    head = p.head
    if head in _STOREYS and (storey := next((d for d in p.described if d in lx.ORDINALS or d in _WHICH_STOREY), "")):
        return f"{storey} {head}"
    if head in lx.PARTS:
        inner = p.of
        if inner is None and head in _STANDS_ALONE:
            return head
        return place_key(inner) if inner is not None and inner is not p else ""
    meaning = lx.meaning(head)
    of_a_place = p.of is not None and p.of is not p and (head in _FIXTURES or meaning.share("D") > 0.5)
    if of_a_place and p.of is not None and lx.meaning(p.of.head).share(f"{PLACE}V") > 0.5:
        return place_key(p.of)  # `at the window of the train`
    if p.compound and head in _FIXTURES and lx.word(p.compound[-1]).share("RH") > 0.5:
        return p.compound[-1]
    own = meaning.share(PLACE)
    if own < 0.1 and p.compound and lx.word(p.compound[-1]).share("RH") > 0.5:
        return p.compound[-1]
    if own < 0.1 and meaning.share("VDONK") < 0.5 and head not in HOLLOW:
        return ""
    words = [*p.compound, head]
    if p.owner is not None and (p.owner.name or p.owner.head) and meaning.share("RHL") > 0.5:
        words.insert(0, f"{(p.owner.name or p.owner.head).casefold()}’s")
    return " ".join(words)


def is_a_day(p: Phrase) -> bool:
    """Whether a name tells when something is: `On Midsummer Eve`."""
    return bool(p.name) and p.prep == "on" and lx.word(p.name.split()[-1].casefold()).share("T") > 0.5


def aimed_at(p: Phrase, deeds: str) -> bool:
    """Whether a deed of some kinds, or one that goes at something, aims at what a phrase means: `He looked at the road`."""
    deed = p.deed
    behind = p.prep == "at" and deed is not None and deed.start < p.start
    return behind and deed is not None and (deed.does(deeds) > 0.5 or deed.verb in _AIMED)


def placed(p: Phrase) -> float:
    """How surely a phrase tells where the picture is, 0..1: somebody is in or at it, comes to it, or it is described as what there is to see."""
    if p.place < 0:
        sure = _placed(p)
        opens = p.role == "at" and p.deed is not None and p.start < p.deed.start and p.prep in STAYS
        p.place = min(sure, _SPOT) if sure and is_spot(p) and not opens else sure
    return p.place


def whole(p: Phrase) -> Phrase:
    """What a phrase is a part of, where its head says only which part: the wood in `the edge of the wood`; else itself."""
    return p.of if p.head in lx.PARTS and p.of is not None else p


def is_spot(p: Phrase) -> bool:
    """Whether a phrase tells a spot in a place and no place of its own: a door, a bed, a fence."""
    target = whole(p)
    return not target.name and (target.head in _FIXTURES or lx.meaning(target.head).share("DK") > 0.5)


def fixture(p: Phrase) -> float:
    """How surely a phrase means something fixed that a place has, or its furniture, 0..1."""
    target = whole(p)
    return 0.0 if target.name else 1.0 if target.head in _FIXTURES else lx.meaning(target.head).share("D")


def _placed(p: Phrase) -> float:
    deed = p.deed
    if p.unreal or (
        deed is not None and (deed.denied or deed.supposed or deed.modal in ("would", "could", "might", "should"))
    ):
        return 0.0
    target = whole(p)
    named = bool(target.name)
    meaning = lx.meaning(target.head)
    strong = 1.0 if named else meaning.share(PLACE)
    if p.role == "at":
        return _at(p, meaning, strong, named=named)
    if named:
        return 0.0
    if p.role == "subject" and deed is not None and strong >= 0.5 and len(deed.subjects) == 1:
        exists = (
            (deed.verb == "be" and p.start > deed.start)
            or deed.verb in ("be", "stand", "lie", "lay", "sit", "smell", "look", "seem")
            or deed.does("I") > 0.4
        )
        return 0.75 if exists and not p.several and p.head not in lx.PARTS else 0.0
    if p.role == "subject" and deed is not None and deed.verb in ("have", "carry") and meaning.share("V") > 0.5:
        return 0.65 if any(lx.meaning(o.head).share("P") > 0.5 for o in deed.objects) else 0.0
    if (
        p.role == "object"
        and deed is not None
        and deed.verb in ("reach", "enter", "cross", "visit", "approach", "explore", "climb", "descend", "mount")
        and (strong >= 0.2 or meaning.share("VD") > 0.5)
    ):
        return 0.85
    if p.role == "object" and deed is not None and p.det == "the" and meaning.share("RH") > 0.8 and not named:
        doing = deed.verb in _AT_WORK
        if doing and any(s.name or s.pronoun or lx.living(s.head) >= 0.3 for s in deed.subjects):
            return 0.7
    if p.role == "is" and deed is not None and strong >= 0.5 and p.det in ("a", "an"):
        return 0.6
    return 0.0


def _at(p: Phrase, meaning: lx.Word, strong: float, *, named: bool) -> float:
    """How surely a phrase behind a preposition tells the place."""
    deed = p.deed
    if (
        p.compound
        and any(lx.word(w).share("RH") > 0.5 for w in p.compound)
        and strong < 0.5
        and p.prep in (*STAYS, *COMES)
    ):
        return 0.6
    if meaning.share("B") > max(0.15, strong) and not named:
        return 0.0
    if aimed_at(p, "VS"):
        return 0.0
    first = deed is None or p.start < deed.start
    alive = (
        deed is None
        or not deed.subjects
        or any(s.pronoun not in ("", "it") or s.name or lx.living(s.head) >= 0.2 for s in deed.subjects)
    )
    carried = (
        deed is not None
        and deed.does("M") < 0.4
        and any(not (o.name or lx.living(o.head) > 0.45 or o.pronoun) and o.start < p.start for o in deed.objects)
    )
    into = deed is not None and any(lx.meaning(o.head).share("B") > 0.5 and o.start < p.start for o in deed.objects)
    inside = p.prep in ("in", "inside", "into", "aboard")
    if p.owning and meaning.share("RH") < 0.3 and meaning.share("B") > 0 and not named:
        return 0.0
    certain = p.det in ("the", "this", "that") or p.owner or p.compound
    if into:
        return 0.0
    if strong < 0.5 and not named:
        if meaning.share("V") > 0.45 and alive and not carried:
            return 0.7 if inside else 0.6 if p.prep in ("on", "onto") else 0.0
        if (
            strong >= 0.1
            and certain
            and alive
            and not carried
            and meaning.share("BTCFPA") < 0.3
            and (
                p.prep in ("in", "at", "on", "into", "through", "across", "along", "over", "under", "inside")
                or (p.prep in COMES and moving(deed))
            )
        ):
            return 0.7
        if inside and meaning.share("D") > 0.5 and not carried and alive:
            return 0.6
        if certain and p.prep in ("in", "on", "at", "into") and alive and meaning.share("ODNV") > 0.5 and not carried:
            return 0.45
        return 0.0
    if not alive and not first:
        return 0.65 if p.prep == "in" and meaning.share("RH") > 0.5 else 0.5 if p.prep in STAYS else 0.0
    if p.prep in STAYS:
        looked = (
            deed is not None
            and deed.does("VS") > 0.5
            and any(o.last + 2 == p.first for o in (*deed.objects, *deed.at) if o is not p)
        )
        if looked and meaning.share("RH") < 0.9:
            return 0.5
        if carried and not named and (meaning.share("RH") < 0.5 or p.prep in ("on", "over")):
            return 0.55
        if deed is not None and deed.perfect and deed.past and not first:
            return 0.4
        return (
            0.9
            if p.prep in ("in", "at", "on", "inside", "through", "along", "across", "under")
            else 0.58
            if first
            else 0.65
        )
    if p.prep in COMES and (moving(deed) or p.prep in ("into", "onto")):
        return 0.85
    return 0.0
