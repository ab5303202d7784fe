"""How much room words take, by the widths of letters of a book face: enough to lay them out before a printer's face is at hand."""

from __future__ import annotations

import unicodedata

MM_PER_PT = 25.4 / 72
LEADING = 1.42
"""From line to line, in times the size: the usual for words read aloud from a distance."""
_NARROW, _WIDE = set("iljtfrI.,;:'’‘|!()[]“”\" "), set("mwMW@—")
_WIDTHS = {"narrow": 0.31, "wide": 0.86, "capital": 0.66, "usual": 0.53, "full": 1.0}
"""Parts of the size; a little more than Literata has, so that a line that is laid here fits in print."""


def width_of(words: str, size_pt: float) -> float:
    """The width of some words in mm.

    >>> round(width_of("the tide", 15), 1)
    17.8
    """
    return sum(_letter(c) for c in words) * size_pt * MM_PER_PT


def lines_in(words: str, width_mm: float, size_pt: float) -> int:
    """How many lines words take in a width; at least one where there are any."""
    return len(_broken(words, width_mm, size_pt))


def lines_wide(words: str, width_mm: float, size_pt: float) -> float:
    """The width in mm of the longest of these lines."""
    return max((width_of(line, size_pt) for line in _broken(words, width_mm, size_pt)), default=0.0)


def _broken(words: str, width_mm: float, size_pt: float) -> list[str]:
    lines: list[str] = []
    for passage in words.split("\n"):
        line = ""
        for word in passage.split():
            longer = f"{line} {word}".strip()
            if line and width_of(longer, size_pt) > width_mm:
                lines.append(line)
                line = word
            else:
                line = longer
            while width_of(line, size_pt) > width_mm and len(line) > 1:
                fit = next((n for n in range(len(line) - 1, 0, -1) if width_of(line[:n], size_pt) <= width_mm), 1)
                lines.append(line[:fit])
                line = line[fit:]
        if line:
            lines.append(line)
    return lines


def _letter(letter: str) -> float:
    if letter in _NARROW:
        return _WIDTHS["narrow"]
    if letter in _WIDE:
        return _WIDTHS["wide"]
    if unicodedata.east_asian_width(letter) in "WF":
        return _WIDTHS["full"]
    if unicodedata.combining(letter):
        return 0.0
    return _WIDTHS["capital"] if letter.isupper() else _WIDTHS["usual"]
