"""What a thread's words and traits say of its colours, time and weather, and where a shot's words say otherwise."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache

from juxtaform.core.brief.compose import Member
from juxtaform.core.brief.light import (
    SEASON,
    TIME,
    WEATHER,
    all_seasons,
    all_times,
    all_weathers,
    season_at,
    time_at,
    weather_at,
)
from juxtaform.core.brief.stylewords import COLOUR_WORD, HUE, disagree
from juxtaform.core.text.lists import word_lists
from juxtaform.core.text.tokens import tokens

_LISTS = word_lists("juxtaform.core.brief")

_BODY = _LISTS.words("body")
_NOT_NOW = re.compile(
    r"\b(?:good|last|every|since|until|till|the other|yesterday|tomorrow|one|(?:wait|hop|long)(?:s|ed|ing)? for|after|all|for the|to the)\s+(?:the\s+)?$",
    re.IGNORECASE,
)
_AGREE = {
    frozenset(p)
    for p in (
        ("at dawn", "in the morning"),
        ("in the morning", "by day"),
        ("at noon", "by day"),
        ("in the afternoon", "by day"),
    )
}
_WEATHERS_AGREE = {frozenset(p) for p in (("in rain", "in a storm"), ("in rain", "in fog"), ("in snow", "in a storm"))}


@dataclass(frozen=True)
class Worded:
    """A member's own name, id, the hues of its parts as (noun, colour word, hue), what of its usual clothes the costume
    puts off as (noun, hue), and its times of day, weathers and seasons."""

    thread: str
    name: str
    hues: tuple[tuple[str, str, str], ...]
    put_off: tuple[tuple[str, str], ...]
    costume: str
    times: tuple[str, ...]
    weathers: tuple[str, ...]
    seasons: tuple[str, ...] = ()
    is_place: bool = False

    @staticmethod
    def of(m: Member, traits: Sequence[tuple[str, str]] = ()) -> Worded:
        """Read a member's wording, costume and traits (noun, hue); a costume's words go before the usual ones, which then
        tell of hair and skin alone."""
        hues: dict[str, tuple[str, str]] = {}
        usual = dict(worded_colours(m.wording))
        for noun, word in usual.items():
            if not m.costume or noun in _BODY:
                hues[noun] = (word, HUE[word])
        hues |= {noun: (word, HUE[word]) for noun, word in worded_colours(m.costume_wording)}
        for noun, hue in traits:
            if noun not in hues:
                hues[noun] = (hue, hue)
        rows = tuple((n, w, h) for n, (w, h) in hues.items())
        off = tuple((n, HUE[w]) for n, w in usual.items() if m.costume and n not in hues)
        if m.kind != "setting":
            return Worded(m.id, m.name, rows, off, m.costume, (), ())
        clothes = m.costume_wording or m.costume
        times = all_times(clothes) or all_times(m.name) or all_times(m.wording)
        weathers = all_weathers(clothes) or all_weathers(m.wording)
        seasons = all_seasons(clothes) or all_seasons(m.wording)
        return Worded(m.id, m.name, rows, (), m.costume, times, weathers, seasons, is_place=True)


@dataclass(frozen=True)
class ColourFight:
    """A colour word against a part of somebody: the words at `start`..`end`, whose, and what was expected."""

    start: int
    end: int
    words: str
    thread: str
    owner: str
    expected: str
    put_off: bool = False
    """Whether it is of the usual clothes, where a costume is worn."""


@lru_cache(maxsize=4096)
def worded_colours(words: str) -> tuple[tuple[str, str], ...]:
    """(noun, colour word) for each coloured thing in a wording: the last noun before the phrase ends.

    >>> worded_colours("Pell: copper hair in a short bob, mustard oilskin coat, green boots.")
    (('hair', 'copper'), ('coat', 'mustard'), ('boots', 'green'))
    """
    found = []
    for m in COLOUR_WORD.finditer(words):
        rest = re.match(r"(?:-coloured|-colored)?((?:\s+[a-z][a-z-]*){1,3})", words[m.end() :])
        if not rest:
            continue
        nouns = []
        for w in rest.group(1).split():
            if w in _LINKS:
                break
            nouns.append(w)
        if nouns and nouns[-1] not in HUE:
            found.append((nouns[-1], m.group(1).casefold()))
    return tuple(found)


_LINKS = _LISTS.words("links")


_HUE_WORDS = frozenset(w.split("-")[0] for w in HUE)


def colour_fights(text: str, members: Sequence[Worded]) -> Iterator[ColourFight]:
    """Colour words on a part of somebody that has another colour. Where two have such a part the nearest name before it
    decides; if none does, a word that suits either is no fight."""
    if tokens(text).isdisjoint(_HUE_WORDS):
        return
    for m in COLOUR_WORD.finditer(text):
        for noun, end in _things_of(text, m.start(), m.end()):
            having = [(w, n, word, hue) for w in members for n, word, hue in w.hues if _same(n, noun)]
            if not having:
                for w in members:
                    if any(_same(n, noun) and not disagree(m.group(1), hue) for n, hue in w.put_off):
                        yield ColourFight(
                            m.start(), end[1], text[m.start() : end[1]], w.thread, w.name, w.costume, True
                        )
                continue
            owner = _owner(text, m.start(), [w for w, *_ in having])
            meant = [h for h in having if owner is None or h[0].thread == owner.thread]
            said = m.group(1).casefold()
            covered = (
                end[0] < m.start()
                and text[m.end() :].lstrip().startswith("with ")
                and all(w.is_place for w, *_ in meant)
            )
            if meant and not covered and all(disagree(said, hue) for *_, hue in meant):
                who, n, word, _ = meant[0]
                start, stop = min(m.start(), end[0]), max(m.end(), end[1])
                yield ColourFight(start, stop, text[start:stop], who.thread, who.name, f"{word} {n}")
            break


def _things_of(text: str, start: int, end: int) -> Iterator[tuple[str, tuple[int, int]]]:
    """Nouns that a colour word may speak of: up to three words behind it, the subject of `is` before it, or the noun before it in `her coat black as coal`."""
    at = end
    for _ in range(3):
        w = re.match(r"(?:-coloured|-colored)?\s+([a-z][a-z-]*)", text[at:])
        if not w or w.group(1) in _LINKS:
            break
        yield w.group(1), (at + w.start(1), at + w.end(1))
        at += w.end()
    said = re.search(
        r"\b([a-z][a-z-]*)\s+(?:is|are|was|were|looks?|turns?|blinks?|flashes|ha(?:s|ve) turned|turned|ha(?:s|ve) gone|gone|now)\s+(?:now\s+|a\s+|all\s+)?$",
        text[:start],
    )
    if said:
        yield said.group(1), (said.start(1), said.end(1))
    beside = re.search(r"\b([a-z][a-z-]*),\s+$", text[:start])
    if beside and re.match(r"\s+(?:with|as|like|from)\b", text[end:]):
        yield beside.group(1), (beside.start(1), beside.end(1))
    bare = re.search(r"\b(?:his|her|its|their)\s+([a-z][a-z-]*)\s+(?:all\s+|now\s+)?$", text[:start])
    if bare and re.match(r"\s+(?:as|like|from)\b|\s*[,.;]", text[end:]):
        yield bare.group(1), (bare.start(1), bare.end(1))


_HAIR = _LISTS.words("worn hair")


def _same(a: str, b: str) -> bool:
    """Whether two nouns mean one part: `boot` and `boots`, `hair` and `braids`."""
    return a == b or a.removesuffix("s") == b.removesuffix("s") or {a, b} <= _HAIR


def _owner(text: str, at: int, having: Sequence[Worded]) -> Worded | None:
    if len(having) == 1:
        return having[0]
    near = [(text.rfind(w.name, 0, at), w) for w in having]
    best = max(near, key=lambda n: n[0])
    return best[1] if best[0] >= 0 else None


def time_fights(text: str, place: Worded) -> Iterator[tuple[int, int, str, str]]:
    """Words for another time of day than the place has: start, end, the words, and the place's time."""
    if not place.times:
        return
    for m in TIME.finditer(text):
        said = time_at(m)
        if _NOT_NOW.search(text[max(0, m.start() - 16) : m.start()]) or re.match(
            r"[- ]?(?:before|after|train|boat|ferry|sky lantern|paper|watch|school)\b", text[m.end() : m.end() + 16]
        ):
            continue
        if said not in place.times and not any(frozenset((said, t)) in _AGREE for t in place.times):
            yield m.start(), m.end(), m.group(), place.times[0]


def season_fights(text: str, place: Worded) -> Iterator[tuple[int, int, str, str]]:
    """Words for another season than the place has; snow is winter's where summer is told."""
    known = place.seasons or tuple("in winter" for w in place.weathers if w == "in snow")
    for m in SEASON.finditer(text) if known else ():
        said = season_at(m)
        if said not in known and not _NOT_NOW.search(text[max(0, m.start() - 16) : m.start()]):
            yield m.start(), m.end(), m.group(), known[0] if place.seasons else "in snow"
    if place.seasons == ("in summer",):
        for m in WEATHER.finditer(text):
            if weather_at(m) == "in snow":
                yield m.start(), m.end(), m.group(), "in summer"


def weather_fights(text: str, place: Worded) -> Iterator[tuple[int, int, str, str]]:
    """Words for weather that cannot be together with the place's."""
    if not place.weathers:
        return
    for m in WEATHER.finditer(text):
        said = weather_at(m)
        if said not in place.weathers and not any(frozenset((said, w)) in _WEATHERS_AGREE for w in place.weathers):
            yield m.start(), m.end(), m.group(), place.weathers[0]
