"""Words read along: when each word of a shot is said, and the words in lines as they stand below a picture."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from juxtaform.core.text.timing import COMMA_S, PARAGRAPH_S, STOP_S, Pace

_SYLLABIC = r"\u3040-\u30ff\u3400-\u9fff\uf900-\ufaff"
"""Kana and Chinese characters, which stand without spaces: each is said like a short word."""
_SAID = re.compile(rf"[{_SYLLABIC}][^\s\w]*|[^\s{_SYLLABIC}]+")
_SYLLABLE = re.compile(rf"[{_SYLLABIC}]")
_LETTERS = re.compile(r"[^\W_]")
_COMMA = re.compile(r"[,;:–—]")
_STOP = re.compile(r"[.!?…。！？]+")

LINE_MOST = 42
"""Characters of a line of subtitles; more are hard to read in one look (the usual rule of broadcasters)."""
LINES = 2
SYLLABLE = 0.4
"""A character of these scripts takes so much of a word's time."""


@dataclass(frozen=True)
class SaidWord:
    """A word as it stands in the text, `start` to `end` in characters, and from when to when it is said, in s from the shot's beginning."""

    start: int
    end: int
    start_s: float
    end_s: float


@dataclass(frozen=True)
class Caption:
    """Some words that stand below the picture together, in s from the shot's beginning."""

    words: str
    start_s: float
    end_s: float


def said_words(text: str, length_s: float, pace: Pace | None = None) -> list[SaidWord]:
    """When each word of a text is said. Words take time by their letters, sentences and commas have pauses; all of it is said faster if the shot is too
    short for its words, and not slower if it is longer.

    >>> [round(w.end_s, 2) for w in said_words("The tide woke.", 10.0, Pace())]
    [0.4, 0.89, 1.38]
    """
    p = pace or Pace()
    found = list(_SAID.finditer(text))
    weights = [_weight(m.group()) for m in found]
    if not sum(weights):
        return []
    said_s = sum(SYLLABLE if _SYLLABLE.match(m.group()) else 1.0 for m, w in zip(found, weights, strict=True) if w)
    said_s *= 60 / p.words_per_minute
    per = said_s / sum(weights)
    at, words, stood = 0.0, [], 0.0
    for match, weight in zip(found, weights, strict=True):
        start = at + stood
        at = start + weight * per
        words.append((match.start(), match.end(), start, at))
        stood = _pause(match.group(), text[match.end() :]) / p.factor
    needed = at + stood
    scale = min(1.0, length_s / needed) if needed > 0 else 1.0
    return [SaidWord(a, b, s * scale, e * scale) for a, b, s, e in words]


def captions(
    text: str,
    length_s: float,
    pace: Pace | None = None,
    most: int = LINE_MOST * LINES,
    said: Sequence[SaidWord] | None = None,
) -> list[Caption]:
    """A shot's words in captions of at most `most` characters, which end at a sentence or a comma where they can. The last one stands until the shot ends.
    `said` tells when a voice says each word; none: they are said at a pace.

    >>> [c.words for c in captions("The tide woke. It stretched, and it remembered the whole of the wide sea.", 8.0, most=40)]
    ['The tide woke. It stretched,', 'and it remembered the whole', 'of the wide sea.']
    """
    words = said_words(text, length_s, pace) if said is None else said
    groups = _grouped(text, words, most)
    out = []
    for i, group in enumerate(groups):
        start = min(group[0].start_s, length_s)
        end = min(groups[i + 1][0].start_s, length_s) if i + 1 < len(groups) else length_s
        out.append(Caption(" ".join(text[group[0].start : group[-1].end].split()), start, max(end, start)))
    return out


def caption_ends(text: str, words: Sequence[SaidWord], most: int = LINE_MOST * LINES) -> tuple[int, ...]:
    """After how many words each caption of a text ends.

    >>> text = "The tide woke. It stretched, and it remembered the whole of the wide sea."
    >>> caption_ends(text, said_words(text, 8.0), 40)
    (5, 10, 14)
    """
    ends, count = [], 0
    for group in _grouped(text, words, most):
        count += len(group)
        ends.append(count)
    return tuple(ends)


def in_lines(words: str, most: int = LINE_MOST) -> list[str]:
    """Words in lines of at most `most` characters, of about equal length.

    >>> in_lines("and it remembered the whole of the wide sea and the moon", 42)
    ['and it remembered the whole', 'of the wide sea and the moon']
    """
    parts = [(m.group(), words[m.end() : m.end() + 1].isspace()) for m in _SAID.finditer(words)]
    whole = sum(len(part) + spaced for part, spaced in parts)
    count = max(1, -(-whole // most))
    wanted = whole / count
    lines: list[str] = []
    line, gap = "", ""
    for part, spaced in parts:
        longer = line + gap + part
        if line and (len(longer) > most or (len(lines) < count - 1 and len(longer) > wanted + len(part) / 2)):
            lines.append(line)
            line = part
        else:
            line = longer
        gap = " " if spaced else ""
    return [*lines, line] if line else lines


def ends_sentence(word: str) -> bool:
    """Whether a sentence ends with a word, as it stands with its marks.

    >>> ends_sentence("woke.”"), ends_sentence("woke,")
    (True, False)
    """
    return bool(_STOP.search(word[-2:]))


def _grouped(text: str, words: Sequence[SaidWord], most: int) -> list[list[SaidWord]]:
    groups: list[list[SaidWord]] = []
    rest = list(words)
    while rest:
        left = rest[-1].end - rest[0].start
        room = min(float(most), 1.25 * left / -(-left // most))  # about equal parts, so that no word is left alone
        fit = next((i for i, w in enumerate(rest) if i and w.end - rest[0].start > room), len(rest))
        if fit < len(rest):
            fit = _better_end([text[w.start : w.end] for w in rest[:fit]])
        groups.append(rest[:fit])
        rest = rest[fit:]
    return groups


def _better_end(words: Sequence[str]) -> int:
    """How many of some words to take: up to a sentence's end in the second half, else up to a comma in the last third, else all."""
    for mark, least in ((_STOP, 0.5), (_COMMA, 0.6)):
        for count in range(len(words), max(1, round(least * len(words))) - 1, -1):
            if mark.search(words[count - 1][-2:]):
                return count
    return len(words)


def _weight(word: str) -> float:
    """How long a word takes beside others: by its letters, the shortest like one of two."""
    letters = len(_LETTERS.findall(word))
    return float(max(2, letters)) + 1 if letters else 0.0


def _pause(word: str, after: str) -> float:
    pause = STOP_S if _STOP.search(word[-3:]) else COMMA_S if _COMMA.search(word[-2:]) else 0.0
    return pause + (PARAGRAPH_S if re.match(r"\s*\n\s*\n", after) else 0.0)
