"""Who is to be seen by a shot's own words: by name, by pronoun, by a noun of their wording; and who is only spoken of."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise

from juxtaform.core.brief.clauses import is_depicted, standing
from juxtaform.core.brief.compose import Member, Phrase
from juxtaform.core.brief.stylewords import HUE
from juxtaform.core.brief.words import Words, read_words
from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.lists import word_lists
from juxtaform.core.text.names import Named, Reader

_LISTS = word_lists("juxtaform.core.brief")

_SPOKEN_OF = re.compile(
    r"\b(?:without|minus|except|instead of|unlike|no|not|never|"
    r"(?:wait|look|search|listen|call|long|ask|shout)(?:s|ed|ing)? (?:out )?(?:for|after)|(?:think|dream|speak|talk|know|tell)(?:s|ing)? (?:of|about)|"
    r"miss(?:es|ed|ing)?|remember(?:s|ed|ing)?|(?:portrait|picture|photo|photograph|painting|drawing|sketch|statue|name|story|"
    r"memory|voice|shadow|footsteps|absence) of|(?:letter|note|message|word|gift|parcel|postcard) (?:from|to|for)|"
    r"named after|belong(?:s|ing)? to|meant for|left by|lost (?:his|her|their|its|the)|forgot(?:ten)? (?:his|her|their|its|the)|signed by|written by|off-?screen|unseen)\s+(?:the\s+|old\s+|little\s+)*$",
    re.IGNORECASE,
)
_SEEN_FROM_FAR = re.compile(
    r"\b(?:towards?|beyond|far from|away from|looks? (?:at|over|out over|out at|over at|across at|up at|down at|back at)|view (?:of|over)|map of|(?:picture|painting|photo|postcard|drawing|model) of|"
    r"thinks? of|dreams? of|on (?:the|her|his|their) way to|back to|door (?:to|of)|path to|stairs to|sign (?:to|for)|window onto|"
    r"in the distance,?)\s+(?:the\s+)?$",
    re.IGNORECASE,
)
_GONE = re.compile(
    r"^(?:['’]s)?(?:,\s+who)?\s+(?:(?:has|have|had)\s+(?:already\s+)?left\b|(?:(?:is|are|was|were|has|have|had)\s+)?(?:long\s+|already\s+)?(?:gone|away|absent|missing|nowhere|off-?screen|"
    r"unseen|not (?:there|here|in|yet|to be seen)|out of (?:sight|frame|shot|the picture)|\(O\.?S\.?\)))",
    re.IGNORECASE,
)
_OWNED = re.compile(r"(?:['’]s|(?<=s)['’])\s+(?:[\w-]+\s+){0,2}?([\w-]+)", re.IGNORECASE)
_BODY = _LISTS.words("shown with them")
_GENERIC = {"man": "m", "boy": "m", "gentleman": "m", "lad": "m", "woman": "f", "girl": "f", "lady": "f"}
"""Nouns for anybody of a sex, whatever their wording says that they are."""
_COMMON = lx.DETERMINERS | lx.OWNING | lx.PREPOSITIONS | lx.LINKS | lx.USUAL
"""Words of which none tells whose something is."""
_COUNTING = lx.DETERMINERS | lx.OWNING | frozenset(lx.NUMBERS)
_TOGETHER = re.compile(
    r"^only (?=(?-i:[A-Z]))|\bno(?:body| one) but\b|\b(?:they|them|their|themselves|both|everyone|everybody|all (?:of them|three|four|five|six)|the (?:two|three|four|five|six)|together|each other|one another|"
    r"the (?:others|friends|children|crew|family|pair|couple|group|company|travellers|companions|sisters|brothers|twins|band|team))\b",
    re.IGNORECASE,
)
_ONE = {
    "she": "f",
    "her": "f",
    "hers": "f",
    "herself": "f",
    "he": "m",
    "his": "m",
    "him": "m",
    "himself": "m",
    "it": "",
    "its": "",
}
_SINGLE = re.compile(r"\b(she|her|hers|herself|he|his|him|himself)\b|(?:^|[.!?;]\s+)(it)\b", re.IGNORECASE)
_SOMEBODY = re.compile(
    r"\b(?:somebody|someone|a (?:small |tall |lone |dark |single )?(?:figure|silhouette|person|stranger|child|shape)|"
    r"(?:a |two |one |small |old |bare )*(?:hands?|feet|eyes?|face|fingers|boots|claws?|paws?)(?= (?:on|at|in|lift|hold|reach|turn|grip|press|open|touch|point|rest|around|under|above|close|stare|look|tap|peer)))",
    re.IGNORECASE,
)
_ONE_OF_SEVERAL = re.compile(
    r"\b(?:the (?:[a-z]+est|first|second|third|fourth|fifth|sixth|seventh|last|other)|one of them|another)(?=\s*(?:[.,;:!?—–]|$|of them\b|has\b|is\b))",
    re.IGNORECASE,
)
"""One of a thread that is several: `squeaks the smallest`."""
_SOMEBODY_ELSE = re.compile(
    r"\b(?:a|another|two) (?:\w+ ){0,2}(?:hands?|feet|foot|eyes?|face|claws?|paws?|figure|silhouette)(?= \w)",
    re.IGNORECASE,
)
"""A part of somebody who is not named, whoever else is: `behind his back a small hand reaches for the lamp`."""


@dataclass(frozen=True)
class Presence:
    """Who the words speak of: `named` in order, `seen` those who are to be seen, `absent` those whom the words put elsewhere,
    `spans` where each is named (phrase, start, end), and what else in the words can stand for somebody."""

    named: tuple[str, ...]
    seen: tuple[str, ...]
    absent: frozenset[str]
    spans: Mapping[str, list[tuple[str, int, int]]]
    together: bool
    singles: tuple[str, ...]
    others: tuple[str, ...]
    somebody: bool
    somebody_else: bool
    it: bool
    nothing_shown: bool
    nouns: frozenset[str]
    definite: frozenset[str]
    pairs: frozenset[tuple[str, str]]
    generic: tuple[str, ...]
    one_of_several: bool
    tinted: frozenset[str]
    """The colours of a hand, an arm or a tail that is nobody's who is named."""

    def unspoken(self, members: Sequence[Member]) -> Iterator[Member]:
        """Those of the cast for whom nothing in the words stands (no name, noun, pronoun or plural), or whom they put elsewhere."""
        yield from (m for m in members if m.id in self.absent)
        rest = [m for m in members if m.id not in self.named and not self.speaks_of(m)]
        if self.together:
            return
        for sex in self.singles:
            sexes = {_sex(m.wording, m.name) for m in members if m.id in self.named}
            exact = next((m for m in rest if sex and _sex(m.wording, m.name) == sex), None)
            if sex in sexes or (not exact and "" in sexes):
                continue
            fits = (sex, "") if sex else ("",)
            who = exact or next((m for m in rest if _sex(m.wording, m.name) in fits), None)
            if who is not None:
                rest.remove(who)
        for sex in self.others:
            if any(m.id in self.named and _sex(m.wording, m.name) == sex for m in members):
                continue
            who = next((m for m in rest if _sex(m.wording, m.name) == sex), None)
            if who is not None:
                rest.remove(who)
        for sex in self.generic:
            who = next((m for m in rest if _sex(m.wording, m.name) == sex), None)
            if who is not None:
                rest.remove(who)
        if self.one_of_several:
            rest = [m for m in rest if not _is_several(m)]
        for colour in self.tinted:
            tinted = [m for m in members if colour in _coats(m.wording)]
            if len(tinted) == 1 and tinted[0] in rest:
                rest.remove(tinted[0])
        if self.somebody_else or (self.somebody and not any(m.id in self.named for m in members)):
            rest = rest[1:]
        yield from rest

    def speaks_of(self, m: Member) -> bool:
        """Whether a noun of a member's wording or name (the crab, the girl, the key) stands in the words, or two words on end of its wording (a red fez), or
        of a prop the part that its wording tells of (the spout)."""
        if self.pairs & _pairs(m.wording) or (m.kind == "prop" and self.definite & _parts(m.wording)):
            return True
        wanted = _nouns(f"{m.name} {m.wording} {m.short}", m.kind == "prop", m.name)
        return bool(self.nouns & wanted) or any(
            f"{w}s" in self.nouns or lx.plural(w) in self.nouns or lx.singular(w) in self.nouns for w in wanted
        )


def presence(
    reader: Reader, own: Sequence[Phrase], kinds: Mapping[str, str], attached: frozenset[str] = frozenset()
) -> Presence:
    """Read a shot's own words; a common word at a sentence's start is the name of somebody `attached`."""
    spans: dict[str, list[tuple[str, int, int]]] = {}
    seen: dict[str, None] = {}
    absent: set[str] = set()
    drawn: set[str] = set()
    placed = any(kinds.get(i) == "setting" for i in attached)
    names = reader.words
    for p in own:
        words = read_words(p.text, names)
        for m in reader.mentions(p.text, certain=attached, judge=words.is_name):
            how = _how(p.text, m.start, m.end, kinds[m.id], words)
            if how == "no name" or (
                _several(p.text[m.start : m.end], reader.threads[m.id])
                and (kinds[m.id] == "setting" or (kinds[m.id] == "prop" and _uncounted(p.text[: m.start])))
            ):
                continue
            if is_depicted(words, m.start, m.end):
                drawn.add(m.id)
            if how == "seen" and m.id in drawn and m.id not in seen and p.text[m.start : m.end][:1].islower():
                how = "absent"
            if how == "spoken of" and kinds[m.id] == "setting" and not placed:
                how = "seen"
            if how == "seen" and any(a <= m.start < b for a, b, _ in words.unseen):
                how = "spoken of"
            places = spans.setdefault(m.id, [])
            if how == "seen" and m.id not in seen:
                seen[m.id] = None
                places.insert(0, (p.key, m.start, m.end))
            else:
                places.append((p.key, m.start, m.end))
            if how == "absent":
                absent.add(m.id)
    text = " ".join(p.text for p in own)
    read = [read_words(p.text, names) for p in own]
    return Presence(
        tuple(spans),
        tuple(seen),
        frozenset(absent - set(seen)),
        spans,
        bool(_TOGETHER.search(text)) or any(w.several for w in read),
        tuple(dict.fromkeys(_ONE[(m.group(1) or m.group(2)).casefold()] for m in _SINGLE.finditer(text))),
        tuple(_ONE[pronoun] for w in read for pronoun in w.done_to),
        bool(_SOMEBODY.search(text)) or any(w.loose_part for w in read),
        bool(_SOMEBODY_ELSE.search(text)),
        any(w.it_alone for w in read),
        all(_nothing_shown(p.text, w) for p, w in zip(own, read, strict=True)),
        (plain := frozenset(re.findall(r"[a-z][\w-]+", text.casefold()))),
        frozenset[str]().union(*(w.definite for w in read)),
        _pairs(text),
        tuple(s for w, s in _GENERIC.items() if w in plain),
        bool(_ONE_OF_SEVERAL.search(text)),
        frozenset(a for a, b in _pairs(text) if a in HUE and lx.meaning(b).share("B") > 0.4),
    )


def _nothing_shown(text: str, words: Words) -> bool:
    """Whether no picture can show anything of some words."""
    return sum(end - start for start, end, _ in words.unseen) >= len(text.strip()) - 1


@lru_cache(maxsize=2048)
def _parts(wording: str) -> frozenset[str]:
    """The things that a wording names."""
    words = (lx.singular(w) for w in re.findall(r"[a-z][\w-]+", wording.casefold()))
    return frozenset(w for w in words if lx.meaning(w).share("OKNF") > 0.5 and lx.word(w).pos.get("n"))


@lru_cache(maxsize=2048)
def _pairs(text: str) -> frozenset[tuple[str, str]]:
    """Words on end that tell of something: the second of them can be a thing, the first can be said of it."""
    words = re.findall(r"[a-z][\w-]*|[^\sa-z]", text.casefold())
    return frozenset(
        (a, lx.singular(b))
        for a, b in pairwise(words)
        if len(a) > 2 < len(b) and a not in _COMMON and lx.word(lx.singular(b)).share("BCO") > 0.3
    )


def _several(words: str, named: Named) -> bool:
    """Whether words name several of what a setting or a prop is one of: the wagons beside a wagon."""
    low = words.casefold()
    return low.endswith("s") and low not in {w.casefold() for w in (named.name, *named.aliases)}


def _uncounted(before: str) -> bool:
    """Whether no number and no word like `the` stands before a noun: `full of umbrellas`, not `two baskets`."""
    word = re.search(r"([a-z]+)\s+$", before.casefold())
    return word is None or word.group(1) not in _COUNTING


def _how(text: str, start: int, end: int, kind: str, words: Words) -> str:
    """How a mention speaks of somebody, by its clause and by the words around it."""
    told = standing(words, start, end, kind)
    if told in ("absent", "no name", "spoken of", "owner"):
        return told
    around = _spoken_of(text, start, end, kind)
    return around if told is None or around == "absent" else told


def _spoken_of(text: str, start: int, end: int, kind: str) -> str:
    """How a mention speaks of somebody: `seen` in the picture, `absent` (waited for, gone), or `owner` of a thing in it."""
    before, after = text[max(0, start - 40) : start], text[end : end + 48]
    if kind == "setting":
        return "absent" if _SEEN_FROM_FAR.search(before) else "seen"
    if _SPOKEN_OF.search(before) or _GONE.match(after):
        return "absent"
    owned = _OWNED.match(text, end) if kind == "character" else None
    if owned is None or any(w in _BODY for w in re.findall(r"[a-z]+", owned.group().casefold())):
        return "seen"
    return "owner"


@lru_cache(maxsize=2048)
def _nouns(words: str, is_prop: bool, name: str) -> frozenset[str]:
    """Nouns that stand for somebody of that wording: what they are, not what they wear."""
    plain = re.findall(r"[a-z][\w-]+", words.casefold())
    if is_prop:
        return frozenset([name.casefold().split()[-1]]) if name else frozenset()
    found = [w for w in plain if lx.living(lx.singular(w)) >= 0.45 and lx.word(lx.singular(w)).total]
    return frozenset(found[:3])


def _is_several(m: Member) -> bool:
    """Whether a thread is several: the twins, the geese."""
    last = m.name.split()[-1].casefold() if m.name.split() else ""
    return last != lx.singular(last)


@lru_cache(maxsize=2048)
def _coats(wording: str) -> frozenset[str]:
    """The colours that a wording gives somebody all over: a pink octopus."""
    words = re.findall(r"[a-z][\w-]*", wording.casefold())
    return frozenset(a for a, b in pairwise(words) if a in HUE and lx.meaning(b).share("PA") > 0.2)


@lru_cache(maxsize=2048)
def _sex(wording: str, name: str) -> str:
    words = re.findall(r"[a-z]+", f"{name} {wording}".casefold())
    for w in words:
        kin = lx.KIN.get(w, w)
        if sex := "f" if kin in lx.FEMALE else "m" if kin in lx.MALE else lx.word(w).sex:
            return sex
    for w in words:
        if w in ("she", "her"):
            return "f"
        if w in ("he", "his"):
            return "m"
    return ""
