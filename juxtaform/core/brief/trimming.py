"""A brief fitted to what a service takes: least needed words first shortened, then dropped; pictures chosen; all of it told."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from juxtaform.core.brief.compose import DEFAULT_HOLDS, Brief, Member, Phrase, Picture, Weights, pointed


@dataclass(frozen=True)
class Profile:
    """What a service takes: characters of text and number of pictures (0: any), the longest side of a picture in px (0: any),
    the holds and aspect ratios that it knows (empty: any), whether the cast's views go out as one plate, the template of its text (empty: the usual order),
    how it wants to be told how strongly something holds, and how a motion brief goes to it."""

    name: str
    text_limit: int = 0
    picture_limit: int = 0
    picture_side_px: int = 0
    holds: tuple[str, ...] = ()
    aspects: tuple[str, ...] = ()
    plate: bool = False
    template: str = ""
    weights: Weights = "data"
    motion: Literal["sentences", "fields"] = "sentences"


ANYTHING = Profile("No limits")
PROFILES: tuple[Profile, ...] = (
    ANYTHING,
    Profile("Long brief, four pictures", 1500, 4, 2048),
    Profile("Short brief, two pictures", 480, 2, 1024, ("figure", "face", "place"), ("1:1", "3:2", "2:3", "16:9")),
    Profile("One plate", 900, 2, 1536, plate=True),
    Profile("Words alone", 1200, -1),
)
"""Profiles to begin with; a picture limit of -1 takes none."""


@dataclass(frozen=True)
class Left:
    """Something that a service's limits left out or changed, in words, and the phrase or picture it was."""

    what: str
    why: str
    key: str = ""


@dataclass(frozen=True)
class Fitted:
    """A brief as a service gets it, what was left out, and what cannot be helped: words over the limit, holds and an aspect
    ratio that it does not know."""

    brief: Brief
    left: tuple[Left, ...]
    over: int
    unknown_holds: tuple[str, ...]
    unknown_aspect: str


def fitted(brief: Brief, profile: Profile, members: Sequence[Member] = (), aspect: str = "") -> Fitted:
    """Fit a brief to a profile. What was edited by hand and what the picture shows are never dropped.

    >>> from juxtaform.core.brief.compose import BriefShot, composed
    >>> cut = fitted(composed(BriefShot("s", "1", "Pell sits.", aspect="3:2")), Profile("tiny", 40))
    >>> cut.brief.text.replace(chr(10), " / "), [x.what for x in cut.left], cut.over
    ('Pell sits. / Medium shot, eye level.', ['Picture 3:2.'], 0)
    """
    left: list[Left] = []
    pictures = _chosen(brief.pictures, profile, left)
    phrases = pointed(brief.phrases, pictures, plate=profile.plate, weights=profile.weights)
    if profile.text_limit:
        phrases = _shortened(phrases, profile.text_limit, left)
        phrases = _dropped(phrases, profile.text_limit, left)
    out = replace(brief, phrases=tuple(phrases), pictures=pictures, template=profile.template)
    unknown = tuple(
        m.id
        for m in members
        if profile.holds and m.hold not in profile.holds and m.hold not in DEFAULT_HOLDS and m.views
    )
    over = max(0, len(out.text) - profile.text_limit) if profile.text_limit else 0
    strange = aspect if aspect and profile.aspects and aspect not in profile.aspects else ""
    return Fitted(out, tuple(left), over, unknown, strange)


def _length(phrases: Sequence[Phrase]) -> int:
    """Characters of the text that the phrases make: they are joined by one blank or line feed each."""
    lengths = [len(p.text) for p in phrases if p.text]
    return sum(lengths) + max(0, len(lengths) - 1)


def _shortened(phrases: list[Phrase], limit: int, left: list[Left]) -> list[Phrase]:
    over = _length(phrases) - limit
    for i in sorted(range(len(phrases)), key=lambda i: (phrases[i].need, -i)):
        p = phrases[i]
        if over <= 0:
            break
        if p.short and p.plain is None and len(p.short) < len(p.text):
            over -= len(p.text) - len(p.short)
            phrases[i] = replace(p, text=p.short)
            left.append(Left(p.text, f"The short wording goes out: {p.short}", p.key))
    return phrases


def _dropped(phrases: list[Phrase], limit: int, left: list[Left]) -> list[Phrase]:
    over = _length(phrases) - limit
    gone = set()
    for p in sorted(phrases, key=lambda p: p.need):
        if over <= 0 or p.need >= 95:
            break
        if p.text and p.plain is None:
            gone.add(p.key)
            over -= len(p.text) + 1
            left.append(Left(p.text, f"Least needed of what is over {limit} characters", p.key))
    return [p for p in phrases if p.key not in gone]


def _chosen(pictures: Sequence[Picture], profile: Profile, left: list[Left]) -> tuple[Picture, ...]:
    if not profile.picture_limit:
        return tuple(pictures)
    room = max(0, profile.picture_limit)
    views = [p for p in pictures if p.role == "view"]
    others = [p for p in pictures if p.role != "view"]
    if profile.plate and views and room:
        chosen = [*views, *_by_need(others)[: room - 1]]
    else:
        chosen = _by_need(pictures)[:room]
    kept = set(map(id, chosen))
    why = (
        "The service takes no pictures"
        if not room
        else f"The service takes {room} {'picture' if room == 1 else 'pictures'}"
    )
    left += [Left(p.label, why, p.reference or p.sha) for p in pictures if id(p) not in kept]
    return tuple(p for p in pictures if id(p) in kept)


def _by_need(pictures: Sequence[Picture]) -> list[Picture]:
    """First and last frames, then one view of each of the cast, the style's heaviest picture, the guide, the style's others, other views."""
    seen: set[str] = set()
    ranked = []
    for p in sorted(pictures, key=lambda p: (not p.anchor, -p.weight)):
        if p.role in ("first", "last"):
            ranked.append((-1, -p.weight, p))
            continue
        first = p.role != "guide" and p.thread not in seen
        seen.add(p.thread)
        place = {"view": 0 if first else 4, "style": 1 if first else 3, "guide": 2}[p.role]
        ranked.append((place, -p.weight, p))
    return [p for _, _, p in sorted(ranked, key=lambda r: r[:2])]
