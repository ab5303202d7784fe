"""Fountain, the open screenplay syntax (fountain.io/syntax, version 1.1), as passages; the text itself is kept as it is.

Title page, scene headings (with numbers), action, character, extension, dual dialogue, parenthetical, dialogue, lyrics,
transitions, centred text, emphasis, notes, boneyard, sections, synopses and page breaks.
"""

from __future__ import annotations

import re
from dataclasses import replace

from juxtaform.core.text.manuscript import (
    Manuscript,
    Passage,
    PassageKind,
    Trouble,
    line_number,
    lines_of,
    may_be_title,
)
from juxtaform.formats.headings import is_day

_HEADING = re.compile(r"^(?:INT|EXT|EST|INT\.?/EXT|EXT\.?/INT|I/E)[. ]", re.IGNORECASE)
_SCENE_NUMBER = re.compile(r"\s*#[\w.\-]+#\s*$")
_TRANSITION = re.compile(r"^[^a-z]*TO:$")
_OFF = re.compile(r"\((?:O\.?\s?[SC]\b|V\.?\s?O\b|off)", re.IGNORECASE)
_EXTENSION = re.compile(r"\s*\([^)]*\)")
_BONEYARD = re.compile(r"/\*.*?\*/", re.DOTALL)
_NOTE = re.compile(r"\[\[(?:(?!\n[ \t]?\n).)*?\]\]", re.DOTALL)
_KEY = re.compile(r"^([A-Za-z][A-Za-z ]{0,40}):[ \t]*(.*)$")
_EMPHASIS = re.compile(r"(?<!\\)(\*{1,3}|_)(?=\S)(.{1,400}?)(?<=\S)(?<!\\)\1")
_KNOWN_KEYS = {
    "title",
    "credit",
    "author",
    "authors",
    "source",
    "draft date",
    "date",
    "contact",
    "copyright",
    "notes",
    "revision",
}


def looks_like_fountain(text: str) -> bool:
    """Whether a text reads as a script: it has a title page, or scene headings, or cues with speech below them."""
    start = text.lstrip("\ufeff\n")[:4000]
    if (key := _KEY.match(start.split("\n", 1)[0])) and key.group(1).lower() in _KNOWN_KEYS:
        return True
    lines = text.split("\n")
    headings = sum(1 for i, line in enumerate(lines) if _HEADING.match(line) and (i == 0 or not lines[i - 1].strip()))
    cues = sum(
        1
        for i in range(1, len(lines) - 1)
        if not lines[i - 1].strip() and lines[i + 1].strip() and _is_cue(lines[i].strip())
    )
    return cues >= 2 or (headings >= 1 and cues >= 1)


def read(text: str) -> Manuscript:
    """The passages of a Fountain text. What is never closed is told as a trouble and read as plain words.

    >>> [(p.kind, p.words, p.name) for p in read("EXT. QUAY - DUSK\\n\\nBoats.\\n\\nODA ^\\n(low)\\nNine.").passages]
    [('scene', 'EXT. QUAY - DUSK', ''), ('action', 'Boats.', ''), ('character', 'ODA', 'ODA'), ('parenthetical', 'low', 'ODA'), ('dialogue', 'Nine.', 'ODA')]
    """
    masked, asides, troubles = _masked(text)
    title_page, body = _title_page(masked)
    passages = [Passage("title", 0, body, "", level=0)] if title_page else []
    passages += _Reader(masked, body).passages()
    passages += asides
    passages.sort(key=lambda p: (p.start, p.end))
    if [p.kind for p in passages[:2]] == ["action", "scene"] and may_be_title(passages[0].words):
        first = passages[0]
        passages[0] = Passage("title", first.start, first.end, first.words, level=1)
    return Manuscript(text, tuple(passages), tuple(troubles), tuple(title_page))


def spoken_plainly(words: str) -> str:
    """Words without emphasis marks and escapes, white space folded."""
    plain = words
    while (shorter := _EMPHASIS.sub(r"\2", plain)) != plain:
        plain = shorter
    return " ".join(plain.replace("\\*", "*").replace("\\_", "_").split())


def _masked(text: str) -> tuple[str, list[Passage], list[Trouble]]:
    """The text with boneyard and notes blanked out at the same length, these as passages, and what is not closed."""
    asides: list[Passage] = []
    troubles: list[Trouble] = []

    patterns: tuple[tuple[PassageKind, re.Pattern[str]], ...] = (("boneyard", _BONEYARD), ("note", _NOTE))
    for (kind, pattern), closing in zip(patterns, ("*/", "]]"), strict=True):
        last = (
            text.rfind(closing) + len(closing) if closing in text else 0
        )  # behind it nothing is closed, however often it is opened
        asides += [Passage(kind, m.start(), m.end(), m.group()[2:-2].strip()) for m in pattern.finditer(text, 0, last)]
        text = pattern.sub(lambda m: re.sub(r"[^\n]", " ", m.group()), text[:last]) + text[last:]
    for opening, closing, name in (("/*", "*/", "boneyard"), ("[[", "]]", "note")):
        if (at := text.find(opening)) >= 0:
            troubles.append(
                Trouble(line_number(text, at), f"A {name} is opened with {opening} and never closed with {closing}.")
            )
    return text, asides, troubles


def _title_page(text: str) -> tuple[list[tuple[str, str]], int]:
    """Keys and values at the very beginning, and where the body begins."""
    pairs: list[tuple[str, list[str]]] = []
    for _, end, line in lines_of(text):
        if not line.strip():
            if pairs:
                return [(k, "\n".join(v)) for k, v in pairs], end
            return [], 0
        key = _KEY.match(line)
        if key and not line[0].isspace():
            if not pairs and key.group(1).lower() not in _KNOWN_KEYS:
                return [], 0
            pairs.append((key.group(1), [key.group(2)] if key.group(2) else []))
        elif pairs and line[0].isspace():
            pairs[-1][1].append(line.strip())
        else:
            return [], 0
    return [(k, "\n".join(v)) for k, v in pairs], len(text)


def _is_cue(line: str) -> bool:
    if line.startswith("@"):
        return len(line) > 1
    name = _EXTENSION.sub("", line.rstrip("^ ")).strip()
    return (
        bool(name)
        and not is_day(name)
        and name == name.upper()
        and any(c.isalpha() for c in name)
        and not line.startswith(("#", "!", ">"))
    )


class _Reader:
    """Goes through the lines once, from the body's start."""

    def __init__(self, text: str, body: int) -> None:
        self.lines = [entry for entry in lines_of(text) if entry[0] >= body]
        self.found: list[Passage] = []
        self.block: list[tuple[int, int, str]] = []

    def passages(self) -> list[Passage]:
        i = 0
        while i < len(self.lines):
            i = self._line(i)
        self._close()
        return self.found

    def _line(self, i: int) -> int:
        start, end, line = self.lines[i]
        bare = line.strip()
        blank_before = i == 0 or not self.lines[i - 1][2].strip()
        blank_after = i + 1 >= len(self.lines) or not self.lines[i + 1][2].strip()
        if not bare:
            self._close()
        elif re.match(r"^={3,}$", bare):
            self._put("page_break", start, end, "")
        elif bare.startswith("#"):
            level = len(bare) - len(bare.lstrip("#"))
            self._put("section", start, end, bare.lstrip("#").strip(), level=level)
        elif bare.startswith("=") and not bare.startswith("=="):
            self._put("synopsis", start, end, bare[1:].strip())
        elif bare.startswith("!"):
            self.block.append((start, end, line))
        elif re.match(r"^\.[^.\s]", bare) or (_HEADING.match(bare) and blank_before):
            words = _SCENE_NUMBER.sub("", bare.removeprefix(".")).strip()
            self._put("scene", start, end, words)
        elif bare.startswith(">") and bare.endswith("<"):
            self._put("centred", start, end, bare[1:-1])
        elif bare.startswith(">") or (_TRANSITION.match(bare) and blank_before and blank_after):
            self._put("transition", start, end, bare.lstrip(">").strip())
        elif bare.startswith("~"):
            self._put("lyric", start, end, bare[1:])
        elif blank_before and not blank_after and _is_cue(bare):
            return self._speech(i)
        else:
            self.block.append((start, end, line))
        return i + 1

    def _speech(self, i: int) -> int:
        start, end, line = self.lines[i]
        bare = line.strip()
        dual = bare.endswith("^")
        name = _EXTENSION.sub("", bare.removeprefix("@").rstrip("^ ")).strip()
        off = bool(_OFF.search(bare))
        self._close()
        cue = len(self.found)
        self._put("character", start, end, name, name=name, dual=dual)
        i += 1
        while i < len(self.lines):
            start, end, line = self.lines[i]
            bare = line.strip()
            if not bare and len(line) < 2:
                break
            if bare.startswith("(") and bare.endswith(")"):
                self._put("parenthetical", start, end, bare[1:-1], name=name, dual=dual)
            elif bare.startswith("~"):
                self._put("lyric", start, end, bare[1:], name=name, dual=dual)
            elif bare:
                last = self.found[-1]
                if last.kind == "dialogue" and self.lines[i - 1][1] >= last.end:
                    joined = f"{last.words} {spoken_plainly(bare)}"
                    self.found[-1] = Passage("dialogue", last.start, start + len(line.rstrip()), joined, name, 0, dual)
                else:
                    self._put("dialogue", start, start + len(line.rstrip()), bare, name=name, dual=dual)
            i += 1
        if off:
            self.found[cue:] = [replace(p, off=True) for p in self.found[cue:]]
        return i

    def _put(
        self, kind: PassageKind, start: int, end: int, words: str, name: str = "", level: int = 0, dual: bool = False
    ) -> None:
        self._close()
        self.found.append(Passage(kind, start, end, spoken_plainly(words), name, level, dual))

    def _close(self) -> None:
        if self.block:
            first, last = self.block[0], self.block[-1]
            words = " ".join(line.strip().removeprefix("!") for _, _, line in self.block)
            lead = len(first[2]) - len(first[2].lstrip())
            end = last[0] + len(last[2].rstrip())
            self.block.clear()
            self.found.append(Passage("action", first[0] + lead, end, spoken_plainly(words)))
