"""Who is to be seen by a shot's own words: by name, by pronoun, by a noun of their wording; and who is only spoken of."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from juxtaform.core.brief import Member, Phrase
from juxtaform.core.lexicon import ANIMATE, GENDER
from juxtaform.core.names import Reader

_SPOKEN_OF = re.compile(
    r"\b(?:without|minus|except|instead of|unlike|no|not|never|"
    r"(?:wait|look|search|listen|call|long|ask|shout)(?:s|ed|ing)? (?:out )?(?:for|after)|(?:think|dream|speak|talk|know|tell)(?:s|ing)? (?:of|about)|"
    r"miss(?:es|ed|ing)?|remember(?:s|ed|ing)?|(?:portrait|picture|photo|photograph|painting|drawing|sketch|statue|name|story|"
    r"memory|voice|shadow|footsteps|absence) of|(?:letter|note|message|word|gift|parcel|postcard) (?:from|to|for)|"
    r"named after|belong(?:s|ing)? to|meant for|left by|signed by|written by|off-?screen|unseen)\s+(?:the\s+|old\s+|little\s+)*$",
    re.IGNORECASE,
)
_SEEN_FROM_FAR = re.compile(
    r"\b(?:towards?|beyond|far from|away from|looks? (?:at|over|out over|out at)|view (?:of|over)|map of|(?:picture|painting|photo|postcard|drawing|model) of|"
    r"thinks? of|dreams? of|on (?:the|her|his|their) way to|back to|door (?:to|of)|path to|stairs to|sign (?:to|for)|window onto|"
    r"in the distance,?)\s+(?:the\s+)?$",
    re.IGNORECASE,
)
_GONE = re.compile(
    r"^(?:['’]s)?\s+(?:(?:is|are|was|were|has|have|had)\s+)?(?:long\s+)?(?:gone|away|absent|missing|nowhere|already left|left|off-?screen|"
    r"unseen|not (?:there|here|in|yet|to be seen)|out of (?:sight|frame|shot|the picture)|\(O\.?S\.?\))",
    re.IGNORECASE,
)
_OWNED = re.compile(r"^(?:['’]s|(?<=s)['’])\s+(?:[\w-]+\s+){0,2}?([\w-]+)", re.IGNORECASE)
_BODY = frozenset(
    """hand hands face eye eyes foot feet boot boots head hair back arm arms shoulder shoulders finger fingers mouth lips
    nose ear ears knee knees leg legs claw claws paw paws tail wing wings beak silhouette shadowed profile smile profile
    reflection""".split()
)
_TOGETHER = re.compile(
    r"\b(?:they|them|their|themselves|both|everyone|everybody|all (?:of them|three|four|five|six)|the (?:two|three|four|five|six)|together|each other|one another|"
    r"the (?:others|friends|children|crew|family|pair|couple|group|company|travellers|companions|sisters|brothers|twins|band|team))\b",
    re.IGNORECASE,
)
_ONE = {
    "she": "f", "her": "f", "hers": "f", "herself": "f", "he": "m", "his": "m", "him": "m", "himself": "m", "it": "", "its": "",
}  # fmt: skip
_SINGLE = re.compile(r"\b(she|her|hers|herself|he|his|him|himself)\b", re.IGNORECASE)
_SOMEBODY = re.compile(
    r"\b(?:somebody|someone|a (?:small |tall |lone |dark |single )?(?:figure|silhouette|person|stranger|child|shape)|"
    r"(?:a |two |one |small |old |bare )*(?:hands?|feet|eyes?|face|fingers|boots|claws?|paws?)(?= (?:on|at|in|lift|hold|reach|turn|grip|press|open|touch|point|rest|around|under|above|close|stare|look|tap|peer)))",
    re.IGNORECASE,
)


@dataclass(frozen=True)
class Presence:
    """Who the words speak of: `named` in order, `seen` those who are to be seen, `spans` where each is named (phrase,
    start, end), and what else in the words can stand for somebody."""

    named: tuple[str, ...]
    seen: tuple[str, ...]
    spans: Mapping[str, list[tuple[str, int, int]]]
    text: str
    together: bool
    singles: tuple[str, ...]
    somebody: bool
    nouns: frozenset[str]

    def unspoken(self, members: Sequence[Member]) -> Iterator[Member]:
        """Those of the cast for whom nothing in the words stands: no name, noun, pronoun or plural."""
        missing = [m for m in members if m.id not in self.seen]
        left_out = [m for m in missing if m.id in self.named]
        rest = [m for m in missing if m.id not in self.named and not self.speaks_of(m)]
        yield from left_out
        if self.together:
            return
        someone_named = any(m.id in self.seen for m in members)
        for sex in self.singles:
            who = next((m for m in rest if _sex(m.wording, m.name) in (sex, "")), None)
            fits_named = any(m.id in self.seen and _sex(m.wording, m.name) in (sex, "") for m in members)
            if who is not None and not fits_named:
                rest.remove(who)
        if self.somebody and rest and not someone_named:
            rest = rest[1:]
        yield from rest

    def speaks_of(self, m: Member) -> bool:
        """Whether a noun of a member's wording or name (the crab, the girl, the key) stands in the words."""
        return bool(self.nouns & _nouns(f"{m.name} {m.wording} {m.short}", m.kind == "prop", m.name))


def presence(reader: Reader, own: Sequence[Phrase], kinds: Mapping[str, str]) -> Presence:
    """Read a shot's own words."""
    spans: dict[str, list[tuple[str, int, int]]] = {}
    seen: dict[str, None] = {}
    for p in own:
        for m in reader.mentions(p.text):
            spans.setdefault(m.id, []).append((p.key, m.start, m.end))
            if not _only_spoken_of(p.text, m.start, m.end, kinds[m.id]):
                seen.setdefault(m.id, None)
    for thread, held in spans.items():
        if thread in seen and len(held) > 1:
            spans[thread] = sorted(held, key=lambda s: _only_spoken_of(next(p.text for p in own if p.key == s[0]), s[1], s[2], kinds[thread]))  # fmt: skip
    text = " ".join(p.text for p in own)
    return Presence(
        tuple(spans), tuple(seen), spans, text, bool(_TOGETHER.search(text)),
        tuple(dict.fromkeys(_ONE[m.group().casefold()] for m in _SINGLE.finditer(text))), bool(_SOMEBODY.search(text)),
        frozenset(re.findall(r"[a-z][\w-]+", text.casefold())),
    )  # fmt: skip


def _only_spoken_of(text: str, start: int, end: int, kind: str) -> bool:
    """Whether a mention is of somebody who is not in the picture: waited for, gone, or the owner of a thing."""
    before, after = text[max(0, start - 40) : start], text[end : end + 48]
    if kind == "setting":
        return bool(_SEEN_FROM_FAR.search(before))
    if _SPOKEN_OF.search(before) or _GONE.match(after):
        return True
    if kind != "character":
        return False
    owned = _OWNED.match(after)
    return bool(owned) and not any(
        w in _BODY for w in re.findall(r"[a-z]+", (owned.group() if owned else "").casefold())
    )


@lru_cache(maxsize=2048)
def _nouns(words: str, is_prop: bool, name: str) -> frozenset[str]:
    """Nouns that stand for somebody of that wording: what they are, not what they wear."""
    plain = re.findall(r"[a-z][\w-]+", words.casefold())
    if is_prop:
        return frozenset([name.casefold().split()[-1]]) if name else frozenset()
    found = [w for w in plain if w in ANIMATE or w.removesuffix("s") in ANIMATE]
    return frozenset(found[:3])


@lru_cache(maxsize=2048)
def _sex(wording: str, name: str) -> str:
    words = re.findall(r"[a-z]+", f"{name} {wording}".casefold())
    for w in words:
        if w in GENDER:
            return GENDER[w]
        if w in ("she", "her"):
            return "f"
        if w in ("he", "his"):
            return "m"
    return ""
