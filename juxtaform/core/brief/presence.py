"""Who is to be seen by a shot's own words: by name, by pronoun, by a noun of their wording; and who is only spoken of."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from juxtaform.core.brief.clauses import is_depicted, standing
from juxtaform.core.brief.compose import Member, Phrase
from juxtaform.core.brief.left_out import Weighing
from juxtaform.core.brief.unnamed import Unnamed, unnamed
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
_COUNTING = lx.DETERMINERS | lx.OWNING | frozenset(lx.NUMBERS)


@dataclass(frozen=True)
class Presence:
    """Who the words speak of: `named` in order, `seen` those who are to be seen, `absent` those whom the words put elsewhere, `gone` who is gone from there,
    `spans` where each is named (phrase, start, end), and what else in the words can stand for somebody (`unnamed`)."""

    named: tuple[str, ...]
    seen: tuple[str, ...]
    absent: frozenset[str]
    gone: frozenset[str]
    spans: Mapping[str, list[tuple[str, int, int]]]
    unnamed: Unnamed
    nothing_shown: bool

    def unspoken(self, members: Sequence[Member]) -> Iterator[Member]:
        """Those of the cast for whom nothing in the words stands (no name, noun, pronoun or plural), or whom they put elsewhere."""
        yield from (m for m in members if m.id in self.absent)
        here = [m for m in members if m.id not in self.absent]
        yield from Weighing.of(self.unnamed, here, self.named).left_out()


def presence(
    reader: Reader, own: Sequence[Phrase], kinds: Mapping[str, str], attached: frozenset[str] = frozenset()
) -> Presence:
    """Read a shot's own words; a common word at a sentence's start is the name of somebody `attached`."""
    spans: dict[str, list[tuple[str, int, int]]] = {}
    seen: dict[str, None] = {}
    absent: set[str] = set()
    gone: set[str] = set()
    drawn: set[str] = set()
    placed = any(kinds.get(i) == "setting" for i in attached)
    names = reader.words
    for p in own:
        words = read_words(p.text, names)
        for m in reader.mentions(p.text, certain=attached, judge=words.is_name):
            how = _how(p.text, m.start, m.end, kinds[m.id], words)
            if how == "no name" or (
                _several(p.text[m.start : m.end], reader.threads[m.id])
                and (
                    kinds[m.id] in ("setting", "character") or (kinds[m.id] == "prop" and _uncounted(p.text[: m.start]))
                )
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
            if how in ("absent", "gone"):
                absent.add(m.id)
            if how == "gone":
                gone.add(m.id)
    return Presence(
        tuple(spans),
        tuple(seen),
        frozenset(absent - set(seen)),
        frozenset(gone - set(seen)),
        spans,
        unnamed(tuple(p.text for p in own), names),
        all(_nothing_shown(p.text, read_words(p.text, names)) for p in own),
    )


def _nothing_shown(text: str, words: Words) -> bool:
    """Whether no picture can show anything of some words: all of them are told so, or what is done in each of their sentences is."""
    if sum(end - start for start, end, _ in words.unseen) >= len(text.strip()) - 1:
        return True
    sentences = [(offset, s) for offset, s in words.sentences if s.tokens]
    return bool(sentences) and all(
        bool(s.deeds)
        and not any(p.name for p in s.phrases)
        and any(a <= offset + s.deeds[0].start and b >= offset + s.end - 1 for a, b, _ in words.unseen)
        for offset, s in sentences
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
    if told in ("absent", "gone", "no name", "spoken of", "owner"):
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
