"""How a line of a shot list begins: the trade's words for the size, the angle and the move of its picture, before what it shows."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import replace

from juxtaform.core.plan.shots import ANGLES, MOVES, SIZES
from juxtaform.core.text.manuscript import READ, Framing, Passage

OTHER_WORDS: Mapping[str, str] = {
    **dict.fromkeys(("extreme wide", "extreme wide shot", "extreme long shot", "els", "xws", "very wide"), "EWS"),
    **dict.fromkeys(
        ("wide", "wide shot", "long shot", "ls", "full shot", "fs", "establishing shot", "establishing", "master shot"),
        "WS",
    ),
    **dict.fromkeys(("medium wide", "medium wide shot", "medium long shot", "mls"), "MWS"),
    **dict.fromkeys(("medium", "medium shot", "mid shot", "mid", "two shot", "2 shot", "three shot", "3 shot"), "MS"),
    **dict.fromkeys(("medium close up", "medium close"), "MCU"),
    **dict.fromkeys(("close", "close up", "closeup", "close shot", "insert"), "CU"),
    **dict.fromkeys(("extreme close up", "xcu", "detail", "macro"), "ECU"),
    **dict.fromkeys(("eyelevel", "normal", "neutral", "straight on"), "eye level"),
    **dict.fromkeys(("high angle", "from above"), "high"),
    **dict.fromkeys(("low angle", "from below"), "low"),
    **dict.fromkeys(
        ("bird's eye view", "birds eye", "birds eye view", "overhead", "top down", "top shot"), "bird's eye"
    ),
    **dict.fromkeys(("worm's eye view", "worms eye", "worms eye view"), "worm's eye"),
    **dict.fromkeys(("ots", "o/s", "over shoulder"), "over the shoulder"),
    **dict.fromkeys(("pov", "subjective"), "point of view"),
    **dict.fromkeys(("canted", "tilted angle"), "tilted"),
    **dict.fromkeys(("none", "no", "fixed", "still", "locked", "locked off", "-", "–"), "static"),
    **dict.fromkeys(("pan left", "pan right", "panning"), "pan"),
    **dict.fromkeys(("tilt up", "tilt down"), "tilt"),
    **dict.fromkeys(("dolly in", "push", "move in", "zoom in", "truck in"), "push in"),
    **dict.fromkeys(("dolly out", "pull back", "move out", "zoom out", "truck out"), "pull out"),
    **dict.fromkeys(("tracking", "tracking shot", "dolly", "follow", "travelling"), "track"),
    **dict.fromkeys(("crane up", "crane down", "jib"), "crane"),
    **dict.fromkeys(("orbit",), "arc"),
}
"""Trade words that others have for a size, an angle or a move."""
_OWN = {c.casefold(): c for c in (*SIZES, *ANGLES, *MOVES)}
_NO_BEGINNING = frozenset(["none", "no", "still", "normal", "neutral", "follow", "push", "close", "-", "–"])
"""Words that stand for a framing in a table's cell, and before a full stop may be the story's own: `Still.`"""
_HEAD = re.compile(r"[ \t]*(?P<words>[^\n.:;!?–—]{2,60}?)(?:[.:;]|[ \t]+[–—-])[ \t]+(?=\S)")
_BARE = re.compile(
    r"[ \t]*(?P<words>(?i:(?:(?:extreme|very|medium|wide|long|full|close|big)[ -]?)*(?:close[- ]?up|shot))|[A-Z]{2,3}|(?i:(?:extreme )?wide))"
    r"(?:[ \t]+(?:on|of|over|von|auf|de|du|sur|sobre)[ \t]+(?=\S)|(?<=[A-Z]{2})[ \t]+(?=[A-Z0-9][\w’' ]))"
)
"""`Close-up of`, `CU on`, `WS Rooftops`."""
_MOVED = re.compile(
    r"[ \t]*(?P<words>track|pan|tilt|dolly|crane|zoom in|zoom out|push in|pull out|pull back)(?:s|ning|ing)?[ \t]+(?:left|right|up|down|in|out|with|along|from|to|past|across|around|over)\b",
    re.IGNORECASE,
)
"""`Track left with the boat`: what moves is also told."""
_SEEN_BY = re.compile(r"POV[ \t]+[A-ZÀ-Þ][\w’'.-]*(?:[ \t][\w’'.-]+){0,2}")
_BETWEEN = re.compile(r"\s*[,/+&]\s*|\s+-\s+")
_SHORT = 4
"""Abbreviations of so many letters count in capitals alone: `MS. Two boys`, not `Ms. Okafor`."""


def trade_word(word: str) -> str:
    """The trade's name of a size, an angle or a move by any word for it; empty where it is none.

    >>> trade_word("Over-Shoulder"), trade_word("els"), trade_word("a boat")
    ('over the shoulder', 'EWS', '')
    """
    plain = word.strip().replace("’", "'").casefold()
    found = _OWN.get(plain) or OTHER_WORDS.get(plain)
    plain = " ".join(plain.replace("-", " ").rstrip(".").split())
    return found or _OWN.get(plain) or OTHER_WORDS.get(plain, "")


def framing_of(words: str) -> Framing | None:
    """How a picture is framed by some words that tell nothing else; None where they are no such words.

    >>> framing_of("CU, low angle"), framing_of("POV Nils"), framing_of("a boat")
    (Framing(size='CU', angle='low', move='', seconds=0.0), Framing(size='', angle='point of view', move='', seconds=0.0), None)
    """
    told = {"size": "", "angle": "", "move": ""}
    for part in _BETWEEN.split(words.strip()):
        name = "point of view" if _SEEN_BY.fullmatch(part) else trade_word(part)
        short = len(part) <= _SHORT and not part.isupper() and part.casefold() not in ("wide", "pan", "tilt", "arc")
        if not name or short or part.casefold() in _NO_BEGINNING:
            return None
        told["size" if name in SIZES else "angle" if name in ANGLES else "move"] = name
    return Framing(told["size"], told["angle"], told["move"])


def begins_framed(words: str) -> tuple[Framing, int] | None:
    """The framing with which some words begin, and where what is shown begins behind it; None where they begin with none.

    >>> [begins_framed(x)[1] for x in ("CU, low angle. A boot.", "WS Rooftops.", "Close-up of a hand.", "Track left with the boat.")]
    [15, 3, 12, 0]
    >>> begins_framed("Ms. Okafor waits."), begins_framed("Wide awake, he sat up.")
    (None, None)
    """
    head = _HEAD.match(words)
    if head is not None and (found := framing_of(head["words"])) is not None:
        return found, head.end()
    if (bare := _BARE.match(words)) is not None:
        found = framing_of(bare["words"])
        return (found, bare.end()) if found is not None else None
    if (moved := _MOVED.match(words)) is not None and (name := trade_word(moved["words"])) in MOVES:
        return Framing(move=name), 0
    return None


def without_framings(
    text: str, passages: Sequence[Passage], panels: Sequence[int]
) -> tuple[list[Passage], tuple[Framing, ...]]:
    """Passages in their order whose pictures' first words leave out how they are framed, and the framing of each picture; as they are where none begins with one."""
    found: dict[int, tuple[Framing, int, int]] = {}
    at = 0
    for number, panel in enumerate(panels):
        while at < len(passages) and (passages[at].start < panel or passages[at].kind not in READ):
            at += 1
        mine = at < len(passages) and (number + 1 == len(panels) or passages[at].start < panels[number + 1])
        if mine and (told := begins_framed(text[passages[at].start : passages[at].end])) is not None:
            found[number] = told[0], at, passages[at].start + told[1]
    if not found:
        return list(passages), ()
    begins = {i: start for _, i, start in found.values()}
    kept = [
        replace(p, start=begins[i], words=" ".join(text[begins[i] : p.end].split())) if i in begins else p
        for i, p in enumerate(passages)
    ]
    return kept, tuple(found[n][0] if n in found else Framing() for n in range(len(panels)))
