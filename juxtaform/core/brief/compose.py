"""The brief of a shot: its words and pictures, composed from the plan in one fixed order, every phrase with its source.

The order is what the picture shows, its cast with costume and hold, props, setting, style, framing, palette, what to leave
out, and the technical line. A phrase has a key that stays the same while the plan changes, so that hand edits lie on top
of it and are told apart from it when it changes underneath.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from juxtaform.core.colour.spaces import linear_from_hex
from juxtaform.core.colour.words import colour_name
from juxtaform.core.plan.shots import framing_words

PhraseKind = Literal["action", "cast", "prop", "setting", "style", "framing", "palette", "dont", "technical"]
Role = Literal["view", "style", "guide", "first", "last"]

NEED: dict[str, int] = {
    "action": 100,
    "extra": 95,
    "cast": 90,
    "ends": 88,
    "costume": 85,
    "setting": 80,
    "variant": 75,
    "style": 70,
    "words": 68,
    "prop": 65,
    "framing": 60,
    "keep": 55,
    "donts": 45,
    "hold": 40,
    "palette": 30,
    "technical": 20,
}
"""How much a brief needs each phrase, by the first part of its key: the least needed is dropped first."""
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


@dataclass(frozen=True)
class Tone:
    """A colour with a role: `lead`, `other`, `ground`, or `reserved` for one thread."""

    hex: str
    role: str
    reserved_for: str = ""


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


@dataclass(frozen=True)
class Phrase:
    """A piece of a brief: a key that lasts, what it is, its words, where they come from, and the thread they speak of; of a list, its `items`.

    `plain` are the words before a hand edit (None: not edited); `outdated` that these changed after the edit was made.
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

    @property
    def text(self) -> str:
        """The words as they go out: one line for each part of the order."""
        return "\n".join(" ".join(p.text for p in line) for _, line in self.lines())

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

    >>> pell = Member("p", "character", "Pell", "Pell, nine: copper hair, mustard coat.", hold="face", weight=0.9)
    >>> brief = composed(BriefShot("s", "1", "Pell sits on the step.", "WS", "low", (pell,), aspect="3:2"))
    >>> print(brief.text)
    Pell sits on the step.
    Pell, nine: copper hair, mustard coat. Hold Pell's face alone, 90 %; clothes may change.
    Wide shot, low angle.
    Picture 3:2.
    """
    phrases = [*_action(shot), *_members(shot), *_style(shot), *_framing(shot), *_rest(shot)]
    orphans: tuple[Edit, ...] = ()
    if edits:
        phrases, orphans = _edited(phrases, edits, shot.number)
    return Brief(shot.id, shot.number, tuple(phrases), _pictures(shot), orphans)


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


def _action(shot: BriefShot) -> list[Phrase]:
    phrases = [Phrase("action", "action", sentence(shot.shows), f"Shot {shot.number}, what the picture shows")]
    if shot.ends:
        leads = {"first": "It goes on from the first frame.", "last": "It leads to the last frame."}
        one = shot.ends[0].role if len(shot.ends) == 1 else ""
        words = leads.get(one, "It leads from the first frame to the last one.")
        phrases.append(Phrase("ends", "action", words, " and ".join(p.label for p in shot.ends)))
    return phrases


def _members(shot: BriefShot) -> Iterator[Phrase]:
    for kind in ("character", "prop", "setting"):
        for m in shot.members:
            if m.kind == kind:
                yield from _member(m)


@lru_cache(maxsize=4096)
def _member(m: Member) -> tuple[Phrase, ...]:
    part: PhraseKind = "cast" if m.kind == "character" else m.kind
    text = _named(m.wording or m.short or m.name, m.name)
    short = _named(m.short, m.name) if m.short and m.wording else ""
    out = [
        Phrase(
            f"{part}:{m.id}", part, text, f"{m.name}, fixed wording" if m.wording else f"{m.name}, name", m.id, short
        )
    ]
    if m.costume or m.costume_wording:
        key = "variant" if m.kind == "setting" else "costume"
        words = sentence(m.costume_wording or (m.costume if m.kind == "setting" else f"{m.name} wears: {m.costume}"))
        out.append(Phrase(f"{key}:{m.id}", part, words, f"{m.name}, {m.costume or 'usual'}", m.id))
    if m.must_keep:
        out.append(Phrase(f"keep:{m.id}", part, f"Always: {', '.join(m.must_keep)}.", f"{m.name}, never without", m.id))
    if (words := _hold_words(m)) and (m.views or m.hold not in DEFAULT_HOLDS):
        out.append(Phrase(f"hold:{m.id}", part, words, f"{m.name}, hold and weight at this shot", m.id))
    return tuple(out)


def _hold_words(m: Member) -> str:
    share = f"{round(m.weight * 100)} %"
    own = f"{m.name}'" if m.name.endswith("s") else f"{m.name}'s"
    match m.hold:
        case "face":
            return f"Hold {own} face alone, {share}; clothes may change."
        case "outfit":
            return f"Hold {own} outfit alone, {share}."
        case "light":
            return f"Hold the light of {m.name} alone, {share}."
        case "layout":
            return f"Hold the layout of {m.name} alone, {share}."
    return f"Hold all of {m.name}, {share}."


def _style(shot: BriefShot) -> Iterator[Phrase]:
    if shot.style is not None:
        yield from _style_words(shot.style)


@lru_cache(maxsize=256)
def _style_words(style: StyleWords) -> tuple[Phrase, ...]:
    out = []
    if style.wording or not style.vocabulary:
        out.append(
            Phrase(
                f"style:{style.id}", "style", sentence(style.wording or style.name), f"{style.name}, wording", style.id
            )
        )
    if style.vocabulary:
        words = sentence(", ".join(style.vocabulary))
        out.append(Phrase(f"words:{style.id}", "style", words, f"{style.name}, vocabulary", style.id))
    return tuple(out)


def _framing(shot: BriefShot) -> list[Phrase]:
    return [
        Phrase(
            "framing", "framing", sentence(framing_words(shot.size, shot.angle)), f"Shot {shot.number}, size and angle"
        )
    ]


def _rest(shot: BriefShot) -> Iterator[Phrase]:
    if shot.style is not None and (tones := _tones(shot)):
        yield Phrase("palette", "palette", tones, f"{shot.style.name}, palette", shot.style.id)
    donts = tuple(dict.fromkeys([*shot.donts, *(shot.style.donts if shot.style else ())]))
    if donts:
        yield Phrase(
            "donts", "dont", f"Without: {', '.join(donts)}.", "Don'ts of the project and the style", items=donts
        )
    technical = [f"picture {shot.aspect}"] if shot.aspect else []
    technical += [f"seed {shot.seed}"] if shot.seed is not None else []
    if technical:
        yield Phrase("technical", "technical", sentence(", ".join(technical)), "Project defaults")


def _tones(shot: BriefShot) -> str:
    assert shot.style is not None
    here = {m.id: m.name for m in shot.members}
    return _tone_words(
        shot.style.tones,
        tuple((t.reserved_for, here[t.reserved_for]) for t in shot.style.tones if t.reserved_for in here),
    )


@lru_cache(maxsize=1024)
def _tone_words(tones: tuple[Tone, ...], here: tuple[tuple[str, str], ...]) -> str:
    said = {"lead": "Lead colours", "other": "other colours", "ground": "grounds"}
    names = dict(here)
    parts = []
    for role, words in said.items():
        own = [f"{colour_name(linear_from_hex(t.hex))} {t.hex}" for t in tones if t.role == role]
        if own:
            parts.append(f"{words} {', '.join(own)}")
    for t in tones:
        if t.role == "reserved":
            name = f"{colour_name(linear_from_hex(t.hex))} {t.hex}"
            parts.append(
                f"{name} for {names[t.reserved_for]} alone" if t.reserved_for in names else f"no {name} in this picture"
            )
    return sentence("; ".join(parts)) if parts else ""


def _pictures(shot: BriefShot) -> tuple[Picture, ...]:
    views = [v for m in shot.members for v in m.views]
    style = list(shot.style.pictures) if shot.style else []
    return (*views, *style, *([shot.guide] if shot.guide else []), *shot.ends)


def _named(wording: str, name: str) -> str:
    """A wording that says whose it is, as a sentence."""
    words = wording.strip()
    if not words or name.casefold() in words.casefold():
        return sentence(words or name)
    return sentence(f"{name}: {words}")


@lru_cache(maxsize=8192)
def sentence(words: str) -> str:
    """Words as one sentence: blanks made even, a capital first, a full stop last.

    >>> sentence("  stone steps   down to a harbour ")
    'Stone steps down to a harbour.'
    """
    plain = " ".join(words.split())
    if not plain:
        return ""
    plain = plain[0].upper() + plain[1:]
    return plain if plain[-1] in ".!?…:”\"'" else plain + "."
