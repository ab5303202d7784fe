"""What in a shot's own words can stand for somebody who is not named: a pronoun, a plural, a noun of their wording, a part of a body."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise

from juxtaform.core.brief.clothes import is_garment
from juxtaform.core.brief.compose import Member
from juxtaform.core.brief.stylewords import HUE
from juxtaform.core.brief.words import Words, read_words
from juxtaform.core.text.english import lexicon as lx

_GENERIC = {"man": "m", "boy": "m", "gentleman": "m", "lad": "m", "woman": "f", "girl": "f", "lady": "f"}
"""Nouns for anybody of a sex, whatever their wording says that they are."""
_COMMON = lx.DETERMINERS | lx.OWNING | lx.PREPOSITIONS | lx.LINKS | lx.USUAL
"""Words of which none tells whose something is."""
_TOGETHER = re.compile(
    r"^only (?=(?-i:[A-Z]))|^same\b|\bas before\b|\bthe same (?:again|view|picture|shot)\b|\bno(?:body| one) but\b|\b(?:both|everyone|everybody|all (?:of them|three|four|five|six)|the (?:two|three|four|five|six)|together|each other|one another|"
    r"the (?:others|friends|children|crew|family|pair|couple|group|company|travellers|companions|sisters|brothers|twins|band|team))\b",
    re.IGNORECASE,
)
_THEY = re.compile(r"\b(?:they|them|their|themselves)\b", re.IGNORECASE)
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
    r"\b(?:a|another|two) (?:\w+ ){0,2}(?:hands?|feet|foot|eyes?|face|claws?|paws?|figure|silhouette)(?=,? \w)|\b(?:with|to|at|for|by|behind|beside|of) (?:someone|somebody)\b",
    re.IGNORECASE,
)
"""A part of somebody who is not named, whoever else is: `behind his back a small hand reaches for the lamp`."""


@dataclass(frozen=True)
class Unnamed:
    """What can stand for somebody: several `together`, or meant by `they` or by a noun for `several`, the sexes of pronouns that no noun explains (`singles`; of those that
    do something, `doing`; of those to whom it is done, `others`), `somebody` whoever it is, or `somebody_else` than those named, `it` without a thing before it, the words'
    `nouns`, those that no thread is named by (`things`), those that are `definite`, `pairs` of words on end, `generic` nouns by sex, `one_of_several`, the colours of a hand
    or a tail that is nobody's (`tinted`), parts of a `body`, and who does what is done (`acts`)."""

    together: bool
    they: bool
    several: bool
    singles: tuple[str, ...]
    doing: tuple[str, ...]
    others: tuple[str, ...]
    somebody: int
    somebody_else: bool
    it: bool
    nouns: frozenset[str]
    things: frozenset[str]
    definite: frozenset[str]
    pairs: frozenset[tuple[str, str]]
    generic: tuple[str, ...]
    one_of_several: bool
    tinted: frozenset[str]
    body: bool
    acts: frozenset[str]
    """Of `nothing` (no deed is told), `things` (alone), `living` (somebody, by a noun), `nobody`."""
    length: int

    def speaks_of(self, m: Member) -> bool:
        """Whether a noun of a member's wording or name (the crab, the girl, the key) stands in the words, or two words on end of its wording (a red fez), or
        of a prop the part that its wording tells of (the spout)."""
        if self.pairs & _pairs(m.wording) or (m.kind == "prop" and self.definite & parts_of(m.wording)):
            return True
        wanted = _nouns(f"{m.name} {m.wording} {m.short}", m.kind == "prop", m.name)
        return bool(self.nouns & wanted) or any(
            f"{w}s" in self.nouns or lx.plural(w) in self.nouns or lx.singular(w) in self.nouns for w in wanted
        )


def _of_things(text: str, m: re.Match[str]) -> bool:
    """Whether `both` tells of two things and of nobody: `both poles in one hand`."""
    following = re.match(r" (?:the |her |his |their )?([a-z]+)", text[m.end() : m.end() + 40])
    head = lx.singular(following[1]) if following and m.group().casefold() == "both" else ""
    return bool(head) and bool(lx.meaning(head).kinds) and lx.living(head) < 0.2


@lru_cache(maxsize=4096)
def unnamed(texts: tuple[str, ...], names: frozenset[str]) -> Unnamed:
    """Read a shot's own words; `names` are the words of the threads' names."""
    text = " ".join(texts)
    read = [read_words(t, names) for t in texts]
    pairs = _pairs(text)
    named = {n.casefold() for n in names}
    plain = frozenset(re.findall(r"[a-z][\w-]+", text.casefold())).difference(*(w.denied for w in read))
    return Unnamed(
        together=any(
            m.group().split()[-1].casefold() not in named and not _of_things(text, m) for m in _TOGETHER.finditer(text)
        ),
        they=_they(texts, read),
        several=any(w.several for w in read),
        singles=tuple(
            dict.fromkeys(
                _ONE[(m.group(1) or m.group(2)).casefold()]
                for t, w in zip(texts, read, strict=True)
                for m in _SINGLE.finditer(t)
                if m.start() not in w.explained
            )
        ),
        doing=tuple(_ONE[w] for w in ("she", "he") if w in plain),
        others=tuple(_ONE[pronoun] for w in read for pronoun in w.done_to),
        somebody=max([int(bool(_SOMEBODY.search(text))), *(w.loose_bodies for w in read)]),
        somebody_else=bool(_SOMEBODY_ELSE.search(text)),
        it=any(w.it_alone for w in read),
        nouns=plain,
        things=plain - named,
        definite=frozenset[str]().union(*(w.definite for w in read)),
        pairs=pairs,
        generic=tuple(s for w, s in _GENERIC.items() if w in plain),
        one_of_several=bool(_ONE_OF_SEVERAL.search(text)),
        tinted=frozenset(a for a, b in pairs if a in HUE and lx.meaning(b).share("B") > 0.4),
        body=any(lx.meaning(_one(w)).share("B") > 0.6 for w in plain),
        acts=_acts(read),
        length=len(text.split()),
    )


def _acts(read: Sequence[Words]) -> frozenset[str]:
    """Who does what is done in some words, those aside who are named or meant by a pronoun."""
    sentences = [s for w in read for _, s in w.sentences]
    subjects = [p for s in sentences for d in s.deeds for p in d.subjects[:1]]
    plain = [p for p in subjects if not p.name and not p.pronoun]
    told = {
        "nothing": not any(s.deeds for s in sentences),
        "things": bool(subjects) and len(plain) == len(subjects) and all(lx.living(p.head) < 0.3 for p in plain),
        "living": any(lx.living(p.head) >= 0.45 for p in plain),
        "nobody": any(p.pronoun in ("nobody", "none") for s in sentences for p in s.phrases),
    }
    return frozenset(who for who, holds in told.items() if holds)


def _they(texts: Sequence[str], read: Sequence[Words]) -> bool:
    """Whether `they` means people whom nothing else in the words names."""
    return any(
        m.start() not in w.explained
        for t, w in zip(texts, read, strict=True)
        if not w.deserted
        for m in _THEY.finditer(t)
    )


@lru_cache(maxsize=2048)
def parts_of(wording: str) -> frozenset[str]:
    """The things that a wording names."""
    words = (lx.singular(w) for w in re.findall(r"[a-z][\w-]+", wording.casefold()))
    return frozenset(w for w in words if lx.meaning(w).share("OKNF") > 0.5 and lx.word(w).pos.get("n"))


@lru_cache(maxsize=2048)
def things_of(wording: str) -> frozenset[str]:
    """The things that somebody has about them by their wording and does not wear: the matchbox of a dormouse in a matchbox."""
    return frozenset(w for w in parts_of(wording) if not is_garment(w) and lx.meaning(w).share("OKF") > 0.5)


@lru_cache(maxsize=2048)
def _pairs(text: str) -> frozenset[tuple[str, str]]:
    """Words on end that tell of something: the second of them can be a thing, the first can be said of it."""
    words = re.findall(r"[a-z][\w-]*|[^\sa-z]", text.casefold())
    return frozenset(
        (a, _one(b))
        for a, b in pairwise(words)
        if len(a) > 2 < len(b) and a not in _COMMON and lx.word(_one(b)).share("BCO") > 0.3
    )


@lru_cache(maxsize=2048)
def _nouns(words: str, is_prop: bool, name: str) -> frozenset[str]:
    """Nouns that stand for somebody of that wording: what they are, not what they wear."""
    plain = re.findall(r"[a-z][\w-]+", words.casefold())
    if is_prop:
        return frozenset([name.casefold().split()[-1]]) if name else frozenset()
    found = [w for w in plain if lx.living(lx.singular(w)) >= 0.45 and lx.word(lx.singular(w)).total]
    return frozenset(found[:3])


def _one(noun: str) -> str:
    """A noun for one of several; `shoes` too, which the list has as a word of its own."""
    return next(iter(lx.lemmas(noun, "n")[::-1]), lx.singular(noun))


def is_several(m: Member) -> bool:
    """Whether a thread is several: the twins, the geese."""
    last = m.name.split()[-1].casefold() if m.name.split() else ""
    one = lx.singular(last)
    return last != one and bool(lx.word(one).pos.get("n"))


@lru_cache(maxsize=2048)
def coats_of(wording: str) -> frozenset[str]:
    """The colours that a wording gives somebody all over: a pink octopus."""
    words = re.findall(r"[a-z][\w-]*", wording.casefold())
    return frozenset(a for a, b in pairwise(words) if a in HUE and lx.meaning(b).share("PA") > 0.2)


@lru_cache(maxsize=2048)
def sex_of(wording: str, name: str) -> str:
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
