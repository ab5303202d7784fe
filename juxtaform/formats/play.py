"""A play: each line says who speaks before a colon, what is done stands between, often in brackets."""

from __future__ import annotations

import re
from collections import Counter

from juxtaform.core.text.manuscript import Passage, PassageKind, lines_of, may_be_title
from juxtaform.formats.comic import goes_on, said
from juxtaform.formats.paged import LABEL

_LINE = re.compile(
    r"^[ \t]*(?P<name>[A-ZÀ-Þ][\w.'’\-]*(?:[ \t]{1,9}[A-ZÀ-Þ0-9][\w.'’\-]*){0,3})[ \t]{0,9}(?P<how>\([^)\n]{1,60}\))?[ \t]{0,9}[:：][ \t]+(?P<words>\S.*)$"
)
_CAST = re.compile(
    r"^\W*(?:(?:the )?(?:cast|characters|persons|people)(?: (?:of characters|of the play|in the play|in order of \w+))?|dramatis person(?:ae|æ)|personen|rollen|personnages|personajes)\W*$",
    re.IGNORECASE,
)
"""The line above the list of who is in the play."""
_BRACKETS = "()[] \t\n"
LEAST_LINES, LEAST_SHARE = 4, 0.3
"""So many lines, and so large a part of all, say who speaks."""


def is_play(text: str) -> bool:
    """Whether a text is a play: many of its lines say who speaks, and two at least speak more than once.

    >>> is_play("MOSS: Where?\\nFERN: Down.\\nMOSS: Why?\\nFERN: Wait."), is_play("Note: it rained. She said: no.")
    (True, False)
    """
    lines = [line for _, _, line in lines_of(text) if line.strip()]
    names = Counter(m["name"] for line in lines if (m := _speech(line)))
    several = sum(n > 1 for n in names.values())
    count = names.total()
    return several >= 2 and count >= LEAST_LINES and count >= LEAST_SHARE * len(lines)


def _speech(line: str) -> re.Match[str] | None:
    return None if LABEL.match(line) else _LINE.match(line)


def read(text: str) -> list[Passage]:
    """The passages of a play: names, what they say, and what is done, without its brackets."""
    found: list[Passage] = []
    block: list[tuple[int, int]] = []
    speaks = False
    listing = False  # of who is in it, from its line to the first gap behind a name

    def close() -> None:
        if not block:
            return
        start, end = block[0][0], block[-1][1]
        block.clear()
        words = text[start:end]
        start, end = start + len(words) - len(words.lstrip(_BRACKETS)), end - len(words) + len(words.rstrip(_BRACKETS))
        words = " ".join(text[start:end].split())
        title = not found and not listing and may_be_title(words)
        if words:
            kind: PassageKind = "title" if title else "note" if listing else "action"
            found.append(Passage(kind, start, end, words, level=int(title)))

    for start, _, line in lines_of(text):
        begins, stops = start + len(line) - len(line.lstrip()), start + len(line.rstrip())
        if _CAST.match(line):
            close()
            listing, speaks = True, False
            block.append((begins, stops))
        elif listing and (begins < stops or len(block) == 1):
            block += [(begins, stops)] * (begins < stops)
        elif begins >= stops:
            close()
            listing = speaks = False
        elif spoken := _speech(line):
            close()
            found += said(spoken, start)
            speaks = True
        elif speaks and line.strip()[0] not in "([":
            found[-1:] = goes_on(found[-1], begins, stops, line)
        else:
            speaks = False
            block.append((begins, stops))
    close()
    return found
