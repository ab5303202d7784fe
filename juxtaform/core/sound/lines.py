"""The lines of a shot, as somebody reads them into a microphone: who says them, and their words."""

from __future__ import annotations

import re
from dataclasses import dataclass

from juxtaform.core.text.manuscript import Along, Manuscript

MOST_LETTERS = 220
"""Longer words are said in several goes, each up to a sentence's end: about a breath and a half, a quarter of a minute."""
_SENTENCE = re.compile(r".+?(?:[.!?…]+[”\"'»)]*(?=\s|$)|[。！？]+[”」』）]*|$)", re.DOTALL)
"""Chinese and Japanese sentences stand without a space between them."""


@dataclass(frozen=True)
class Line:
    """Words that are said in one go; `who` is the speaker's name in a script, empty for whoever tells the story."""

    words: str
    who: str = ""


class Speeches:
    """The speeches of a script, found by their place."""

    def __init__(self, manuscript: Manuscript) -> None:
        self._text = manuscript.text
        self._along = Along(p for p in manuscript.passages if p.kind in ("dialogue", "lyric"))

    def of(self, start: int, end: int) -> list[Line]:
        """The speeches in the characters `start`..`end`, each with its speaker."""
        lines: list[Line] = []
        for passage in self._along.touching(start, end):
            said = " ".join(self._text[max(start, passage.start) : min(end, passage.end)].split())
            if said:
                lines.append(Line(said, passage.name))
        return lines


def told_lines(words: str) -> list[Line]:
    """Words that one voice tells, in goes of some sentences.

    >>> [x.words for x in told_lines("The tide woke. It stretched.")]
    ['The tide woke. It stretched.']
    >>> [x.words for x in told_lines("潮は眠っていた。" * 40)][0] == "潮は眠っていた。" * 27
    True
    """
    told = " ".join(words.split())
    goes: list[tuple[int, int]] = []
    for match in _SENTENCE.finditer(told):
        if not match.group().strip():
            continue
        if goes and match.end() - goes[-1][0] < MOST_LETTERS:
            goes[-1] = (goes[-1][0], match.end())
        else:
            goes.append(match.span())
    return [Line(told[a:b].strip()) for a, b in goes]
