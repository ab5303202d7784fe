"""The brief of a shot: its words and pictures, composed from the plan in one fixed order, every phrase with its source.

The order is what the picture shows, its cast with costume and hold, props, setting, style, framing, palette, what to leave
out, and the technical line. A phrase has a key that stays the same while the plan changes, so that hand edits lie on top
of it and are told apart from it when it changes underneath.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from juxtaform.core.brief.clothes import tells_of
from juxtaform.core.brief.light import on_figures
from juxtaform.core.brief.saying import (
    clothed,
    hold_words,
    look_words,
    none_of,
    sentence,
    the,
    told_of,
    verb_for,
    with_article,
    worn,
)
from juxtaform.core.brief.stylewords import HUE, colour_words, hue_of_name
from juxtaform.core.colour.spaces import linear_from_hex
from juxtaform.core.colour.words import colour_name
from juxtaform.core.plan.blocking import Stand, where_each_stands
from juxtaform.core.plan.shots import framing_words
from juxtaform.core.text.listing import listed

PhraseKind = Literal["action", "cast", "prop", "setting", "style", "framing", "palette", "dont", "technical"]
Weights = Literal["data", "words", "numbers"]
"""How a service is told how strongly something holds: beside the text alone, in words, or as a number in the text."""
Role = Literal["view", "style", "guide", "first", "last"]

NEED: dict[str, int] = {
    "action": 100,
    "extra": 95,
    "cast": 90,
    "count": 86,
    "ends": 88,
    "costume": 85,
    "setting": 80,
    "variant": 75,
    "style": 70,
    "words": 68,
    "prop": 65,
    "framing": 60,
    "light": 58,
    "room": 57,
    "layout": 56,
    "keep": 55,
    "donts": 45,
    "hold": 40,
    "styled": 35,
    "palette": 30,
    "technical": 20,
}
"""How much a brief needs each phrase, by the first part of its key: the least needed is dropped first."""
PLACEHOLDERS: dict[str, PhraseKind] = {
    "shows": "action",
    "cast": "cast",
    "props": "prop",
    "place": "setting",
    "style": "style",
    "framing": "framing",
    "palette": "palette",
    "without": "dont",
    "technical": "technical",
}
"""What a template names, and the part of a brief that stands in its place; `pictures` lists those that go along."""
DEFAULT_HOLDS = ("figure", "place")


@dataclass(frozen=True)
class Picture:
    """A picture that goes out with a brief: what it is for, whose, its digest, and how strongly it holds (0..1)."""

    role: Role
    sha: str
    label: str
    weight: float
    thread: str = ""
    reference: str = ""
    anchor: bool = False


@dataclass(frozen=True)
class Member:
    """A character, prop or setting in a shot: its fixed wording (long and short), costume or variant with words of its own,
    what of it holds and how strongly, what must never go missing, whose it is, and its views."""

    id: str
    kind: Literal["character", "prop", "setting"]
    name: str
    wording: str = ""
    short: str = ""
    costume: str = ""
    costume_wording: str = ""
    hold: str = "figure"
    weight: float = 0.8
    must_keep: tuple[str, ...] = ()
    owner: str = ""
    views: tuple[Picture, ...] = ()
    facing: str = ""
    """Where it looks on the screen: left, right, camera, away; empty when nobody says."""
    face: str = ""
    """What face it makes, in the user's words."""
    stands: Stand | None = None
    """Where it stands on the picture, as the plan has it."""
    common: bool = False
    """Whether the story calls a character by a noun and not by a name: the wolf."""


@dataclass(frozen=True)
class Tone:
    """A colour with a role: `lead`, `other`, `ground`, or `reserved` for one thread, with that thread's wording, which has a word for it."""

    hex: str
    role: str
    reserved_for: str = ""
    its_wording: str = ""


@dataclass(frozen=True)
class StyleWords:
    """A style: its wording, vocabulary, palette with roles, what it never has, and its weighed pictures."""

    id: str
    name: str
    wording: str = ""
    vocabulary: tuple[str, ...] = ()
    tones: tuple[Tone, ...] = ()
    donts: tuple[str, ...] = ()
    pictures: tuple[Picture, ...] = ()


@dataclass(frozen=True)
class BriefShot:
    """All that a shot's brief is composed from."""

    id: str
    number: str
    shows: str
    size: str = "MS"
    angle: str = "eye level"
    members: tuple[Member, ...] = ()
    style: StyleWords | None = None
    guide: Picture | None = None
    aspect: str = ""
    donts: tuple[str, ...] = ()
    seed: int | None = None
    ends: tuple[Picture, ...] = ()
    """The picture that it leads away from, and that which it leads to: its first and its last frame."""
    room: str = ""
    """Where the picture has to stay quiet for the text of the page: `at the bottom`, `in the upper left`."""
    fold: bool = False
    """Whether the picture goes over the fold between two pages."""


@dataclass(frozen=True)
class Phrase:
    """A piece of a brief: a key that lasts, what it is, its words, where they come from, and the thread they speak of; of a list, its `items`.

    `plain` are the words before a hand edit (None: not edited); `outdated` that these changed after the edit was made. `shows` are the pictures that the
    words point to, and `pointing` the words with `{}` for their numbers: these are known when it is known which pictures go along.
    """

    key: str
    kind: PhraseKind
    text: str
    source: str
    thread: str = ""
    short: str = ""
    plain: str | None = None
    outdated: bool = False
    items: tuple[str, ...] = ()
    shows: tuple[Picture, ...] = ()
    pointing: str = ""
    weight: float | None = None

    @property
    def need(self) -> int:
        return NEED[self.key.split(":", 1)[0]]


@dataclass(frozen=True)
class Edit:
    """A hand edit of a phrase: its words when it was edited, and what they became (empty: left out)."""

    key: str
    was: str
    now: str


@dataclass(frozen=True)
class Brief:
    """A shot's words as phrases in order, and the pictures that go with them."""

    shot: str
    number: str
    phrases: tuple[Phrase, ...]
    pictures: tuple[Picture, ...]
    orphans: tuple[Edit, ...] = ()
    template: str = ""

    @property
    def text(self) -> str:
        """The words as they go out: by the template, else one line for each part of the order."""
        if self.template:
            return self._by_template()
        return "\n".join(" ".join(p.text for p in line) for _, line in self.lines())

    def _by_template(self) -> str:
        """The template with each part in its place; lines that nothing is left of go."""
        parts = {
            name: " ".join(p.text for p in self.phrases if p.text and p.kind == kind)
            for name, kind in PLACEHOLDERS.items()
        }
        parts["pictures"] = " ".join(f"Picture {i}: {p.label}." for i, p in enumerate(self.pictures, 1))
        lines = []
        for line in self.template.splitlines():
            filled = re.sub(r"\{(\w+)\}", lambda m: parts.get(m.group(1), m.group()), line)
            if filled.strip() and (
                re.search(r"\{\w+\}", line) is None or any(parts.get(n) for n in re.findall(r"\{(\w+)\}", line))
            ):
                lines.append(" ".join(filled.split()))
        return "\n".join(lines)

    @property
    def own(self) -> list[Phrase]:
        """The words that the shot itself has: what the picture shows, and what was added by hand."""
        return [p for p in self.phrases if p.key in ("action", "extra") and p.text]

    def lines(self) -> Iterator[tuple[PhraseKind, list[Phrase]]]:
        """The phrases that have words, by part of the order."""
        line: list[Phrase] = []
        for p in self.phrases:
            if not p.text:
                continue
            if line and line[-1].kind != p.kind:
                yield line[0].kind, line
                line = []
            line.append(p)
        if line:
            yield line[0].kind, line


def composed(shot: BriefShot, edits: Sequence[Edit] = ()) -> Brief:
    """The brief of a shot with the user's edits on top.

    >>> view = Picture("view", "ab", "Pell, front", 0.9, "p")
    >>> pell = Member("p", "character", "Pell", "Pell, nine: copper hair, mustard coat.", hold="face", weight=0.9, views=(view,))
    >>> brief = composed(BriefShot("s", "1", "Pell sits on the step.", "WS", "low", (pell,), aspect="3:2"))
    >>> print(brief.text)
    Pell sits on the step. One figure is to be seen: Pell.
    Pell, nine: copper hair, mustard coat. The face is the one in picture 1; the clothes may be others.
    Wide shot, low angle.
    Picture 3:2.
    """
    pictures = _pictures(shot)
    phrases = pointed(
        [*_action(shot), *_members(shot), *_light(shot), *_style(shot), *_framing(shot), *_rest(shot)], pictures
    )
    orphans: tuple[Edit, ...] = ()
    if edits:
        phrases, orphans = _edited(phrases, edits, shot.number)
    return Brief(shot.id, shot.number, tuple(phrases), pictures, orphans)


def pointed(
    phrases: Sequence[Phrase], pictures: Sequence[Picture], *, plate: bool = False, weights: Weights = "data"
) -> list[Phrase]:
    """Phrases with the numbers of the pictures that they point to, from 1 in the order in which these go along; without their pictures they say nothing.
    On a plate all views are one picture, the first. Hand edits stay as they are.
    """
    numbers: dict[tuple[str, str, str, str], int] = {}
    views = sum(p.role == "view" for p in pictures) if plate else 0
    after = 0
    for picture in pictures:
        if views and picture.role == "view":
            numbers[_as_key(picture)] = 1
            continue
        after += 1
        numbers.setdefault(_as_key(picture), after + (1 if views else 0))
    out = []
    for p in phrases:
        if p.pointing:
            found = list(dict.fromkeys(numbers[k] for k in map(_as_key, p.shows) if k in numbers))
            text = p.pointing.format(_numbered(found)) if found else ""
            text = text[:1].upper() + text[1:] + (_weighed(p.weight, weights) if text and p.weight is not None else "")
            if p.plain is None and text != p.text:
                p = replace(p, text=text)
        out.append(p)
    return out


def _weighed(weight: float, how: Weights) -> str:
    """How strongly something holds, as a service wants to be told."""
    if how == "words":
        return f" Keep to it {'exactly' if weight >= 0.85 else 'closely' if weight >= 0.55 else 'loosely'}."
    return f" Weight {weight:.2f}." if how == "numbers" else ""


def _as_key(p: Picture) -> tuple[str, str, str, str]:
    return p.role, p.sha, p.thread, p.reference


def _numbered(numbers: Sequence[int]) -> str:
    """Pictures by their numbers.

    >>> _numbered([2]), _numbered([1, 2, 5])
    ('picture 2', 'pictures 1, 2 and 5')
    """
    if len(numbers) == 1:
        return f"picture {numbers[0]}"
    return f"pictures {', '.join(map(str, numbers[:-1]))} and {numbers[-1]}"


def _edited(phrases: list[Phrase], edits: Sequence[Edit], number: str) -> tuple[list[Phrase], tuple[Edit, ...]]:
    by_key = {e.key: e for e in edits}
    out = []
    for p in phrases:
        edit = by_key.pop(p.key, None)
        if edit is not None and edit.now != p.text:
            kept = tuple(x for x in p.items if x in edit.now)
            p = replace(p, text=edit.now, plain=p.text, outdated=edit.was != p.text, items=kept)
        out.append(p)
    extra = by_key.pop("extra", None)
    if extra is not None and extra.now:
        at = 1 if out and out[0].key == "action" else 0
        out.insert(at, Phrase("extra", "action", extra.now, f"Shot {number}, words added by hand", plain=""))
    return out, tuple(by_key.values())


_COUNTS = ("No", "One", "Two", "Three", "Four", "Five", "Six", "Seven", "Eight", "Nine", "Ten")
_LOOKS = {
    "left": "looking to the left",
    "right": "looking to the right",
    "camera": "looking out of the picture",
    "away": "with the back to us",
}


def _action(shot: BriefShot) -> list[Phrase]:
    phrases = [Phrase("action", "action", sentence(shot.shows), f"Shot {shot.number}, what the picture shows")]
    cast = [m for m in shot.members if m.kind == "character"]
    if cast:
        where = where_each_stands({m.name: m.stands for m in cast if m.stands})
        who = [", ".join(_placed(m, where.get(m.name, ""))) for m in cast]
        named = "; ".join(who) if any("," in w for w in who) and len(who) > 1 else listed(who)
        count = _COUNTS[len(cast)] if len(cast) < len(_COUNTS) else str(len(cast))
        words = f"{count} figure{' is' if len(cast) == 1 else 's are'} to be seen: {named}."
        faces = [f"The face of {the(m, first=False)}: {m.face.strip().rstrip('.')}." for m in cast if m.face.strip()]
        told = f"Shot {shot.number}, its cast, where they stand and look and with what face"
        phrases.append(Phrase("count", "action", " ".join([words, *faces]), told))
    if shot.ends:
        leads = {"first": "It goes on from {}, its first frame.", "last": "It leads to {}, its last frame."}
        one = shot.ends[0].role if len(shot.ends) == 1 else ""
        words = leads.get(one, "It leads from the first to the last of {}.")
        phrases.append(
            Phrase("ends", "action", "", " and ".join(p.label for p in shot.ends), shows=shot.ends, pointing=words)
        )
    return phrases


def _placed(m: Member, where: str) -> list[str]:
    """A figure with where it stands and looks, in parts between which commas stand."""
    looks = _LOOKS.get(m.facing, "")
    who = the(m, first=False)
    return [f"{who} {where}", *([looks] if looks else [])] if where else [f"{who} {looks}".strip()]


def _members(shot: BriefShot) -> Iterator[Phrase]:
    owners = {m.id: m for m in shot.members if m.kind == "character"}
    for kind in ("character", "prop", "setting"):
        for m in shot.members:
            if m.kind == kind:
                owner = owners.get(m.owner) if kind == "prop" else None
                # Without words of its own there is nothing to say of it but that it is there, which the words before say; some can be written.
                bare = not (m.wording or m.short)
                said = bare and (kind == "character" or (kind == "prop" and tells_of(shot.shows, m.name)))
                yield from _member(m, said=said, told=owner is not None and _tells(owner, m.name))


def _tells(owner: Member, thing: str) -> bool:
    """Whether the owner's words tell of a thing already."""
    return tells_of(" ".join([worn(owner), owner.costume_wording, *owner.must_keep]), thing)


@lru_cache(maxsize=4096)
def _member(m: Member, *, said: bool = False, told: bool = False) -> tuple[Phrase, ...]:
    """What a brief says of somebody; `said` where that they are there is all, and the words before say it, `told` where their owner's words tell of them."""
    part: PhraseKind = "cast" if m.kind == "character" else m.kind
    out = []
    if not told:
        wording = worn(m)
        text = "" if said else told_of(m, wording or m.short or m.name)
        short = told_of(m, m.short) if m.short and m.wording else ""
        out.append(
            Phrase(
                f"{part}:{m.id}",
                part,
                text,
                f"{m.name}, fixed wording" if m.wording else f"{m.name}, name",
                m.id,
                short,
            )
        )
    if m.costume or m.costume_wording:
        key = "variant" if m.kind == "setting" else "costume"
        out.append(Phrase(f"{key}:{m.id}", part, clothed(m), f"{m.name}, {m.costume or 'usual'}", m.id))
    missing = [k for k in m.must_keep if not tells_of(f"{worn(m)} {m.costume_wording}", k)]
    if missing:
        out.append(
            Phrase(
                f"keep:{m.id}",
                part,
                f"{the(m)} always {verb_for(m, 'has', 'have')} {listed([with_article(k) for k in missing])}.",
                f"{m.name}, never without",
                m.id,
            )
        )
    if m.views:
        out.append(
            Phrase(
                f"hold:{m.id}",
                part,
                "",
                f"{m.name}, hold at this shot",
                m.id,
                shows=m.views,
                pointing=hold_words(m),
                weight=m.weight,
            )
        )
    return tuple(out)


def _light(shot: BriefShot) -> Iterator[Phrase]:
    """What the light of the place does to who is in it."""
    place = next((m for m in shot.members if m.kind == "setting"), None)
    if place is None or not any(m.kind == "character" for m in shot.members):
        return
    told = f"{place.costume_wording} {place.wording}"
    if re.search(r"\b(?:light|lit|lamplight|candlelight)\b", told, re.IGNORECASE):
        return
    if words := on_figures(place.costume_wording or place.costume, place.name, place.wording):
        yield Phrase("light", "setting", sentence(words), f"{place.name}, its light on the figures", place.id)


def _style(shot: BriefShot) -> Iterator[Phrase]:
    if shot.style is not None:
        yield from _style_words(shot.style)
        if shot.style.pictures:
            yield Phrase(
                f"styled:{shot.style.id}",
                "style",
                "",
                f"{shot.style.name}, what its pictures are for",
                shot.style.id,
                shows=shot.style.pictures,
                pointing="Take the way it is drawn and coloured from {}, and nobody and no place.",
            )


@lru_cache(maxsize=256)
def _style_words(style: StyleWords) -> tuple[Phrase, ...]:
    out = []
    if style.wording or not style.vocabulary:
        out.append(
            Phrase(
                f"style:{style.id}", "style", sentence(style.wording or style.name), f"{style.name}, wording", style.id
            )
        )
    more = [w for w in style.vocabulary if w.casefold() not in style.wording.casefold()]
    if more:
        words = sentence(look_words(more))
        out.append(
            Phrase(f"words:{style.id}", "style", words, f"{style.name}, vocabulary", style.id, items=tuple(more))
        )
    return tuple(out)


def _framing(shot: BriefShot) -> list[Phrase]:
    out = [
        Phrase(
            "framing", "framing", sentence(framing_words(shot.size, shot.angle)), f"Shot {shot.number}, size and angle"
        )
    ]
    if shot.guide is not None:
        words = "{} is a rough layout: everything stands where it stands there; none of its lines are kept."
        out.append(Phrase("layout", "framing", "", shot.guide.label, shows=(shot.guide,), pointing=words))
    if shot.room or shot.fold:
        parts = [
            f"Keep the picture quiet {shot.room}, for the text" if shot.room else "",
            "Nothing that matters lies in the middle, where the fold is" if shot.fold else "",
        ]
        out.append(
            Phrase("room", "framing", " ".join(sentence(p) for p in parts if p), f"Shot {shot.number}, its page")
        )
    return out


def _rest(shot: BriefShot) -> Iterator[Phrase]:
    if shot.style is not None and (tones := _tones(shot)):
        yield Phrase("palette", "palette", tones, f"{shot.style.name}, palette", shot.style.id)
    donts = tuple(dict.fromkeys([*shot.donts, *(shot.style.donts if shot.style else ())]))
    if donts:
        yield Phrase("donts", "dont", sentence(none_of(donts)), "Don'ts of the project and the style", items=donts)
    technical = [f"picture {shot.aspect}"] if shot.aspect else []
    technical += [f"seed {shot.seed}"] if shot.seed is not None else []
    if technical:
        yield Phrase("technical", "technical", sentence(", ".join(technical)), "Project defaults")


def _tones(shot: BriefShot) -> str:
    assert shot.style is not None
    here = {m.id: m.name for m in shot.members}
    away = {t.reserved_for: t.its_wording for t in shot.style.tones if t.reserved_for not in here}
    own = (
        *((m.id, colour_words(f"{worn(m)} {m.costume_wording} {m.wording}")) for m in shot.members),
        *((thread, colour_words(wording)) for thread, wording in away.items()),
    )
    return _tone_words(
        shot.style.tones,
        tuple((t.reserved_for, here[t.reserved_for]) for t in shot.style.tones if t.reserved_for in here),
        own,
    )


@lru_cache(maxsize=1024)
def _tone_words(
    tones: tuple[Tone, ...], here: tuple[tuple[str, str], ...], own: tuple[tuple[str, tuple[str, ...]], ...]
) -> str:
    """The palette in words; a colour that is kept for somebody goes by the word that their wording has for it, whether they are here or not."""
    said = {"lead": "Lead colours", "other": "other colours", "ground": "grounds"}
    names, words = dict(here), dict(own)

    def called(tone: Tone) -> str:
        usual = colour_name(linear_from_hex(tone.hex))
        hue = hue_of_name(usual)
        return next((w for w in words.get(tone.reserved_for, ()) if hue and HUE.get(w) == hue), usual)

    parts = []
    for role, before in said.items():
        coloured = [f"{called(t)} {t.hex}" for t in tones if t.role == role]
        if coloured:
            parts.append(f"{before} {', '.join(coloured)}")
    for t in tones:
        if t.role == "reserved":
            name = f"{called(t)} {t.hex}"
            parts.append(
                f"{name} for {names[t.reserved_for]} alone" if t.reserved_for in names else f"no {name} in this picture"
            )
    return sentence("; ".join(parts)) if parts else ""


def _pictures(shot: BriefShot) -> tuple[Picture, ...]:
    views = [v for kind in ("character", "prop", "setting") for m in shot.members if m.kind == kind for v in m.views]
    style = list(shot.style.pictures) if shot.style else []
    return (*views, *style, *([shot.guide] if shot.guide else []), *shot.ends)
