"""Text files in and out: bytes to characters and back unharmed, and which syntax a text is in."""

from __future__ import annotations

import codecs
import re
import unicodedata
from dataclasses import dataclass
from typing import Any, Literal

from juxtaform.core.text.manuscript import Manuscript
from juxtaform.formats import comic, documents, fountain, paged, play, prose, shot_list
from juxtaform.limits import MOST_TEXT_BYTES

Syntax = Literal["prose", "fountain"]
MOST_WORDS = 250_000
_MARKS = (
    (codecs.BOM_UTF8, "utf-8"),
    (codecs.BOM_UTF32_LE, "utf-32-le"),
    (codecs.BOM_UTF32_BE, "utf-32-be"),
    (codecs.BOM_UTF16_LE, "utf-16-le"),
    (codecs.BOM_UTF16_BE, "utf-16-be"),
)


class NotText(ValueError):
    """Bytes that are no text; the message says why and what to do."""


@dataclass(frozen=True)
class Source:
    """How a text came in, so that it can go out the same: its encoding, its mark, and its line ends as runs of
    (count, line end)."""

    encoding: str = "utf-8"
    marked: bool = False
    line_ends: tuple[tuple[int, str], ...] = ()

    def as_row(self) -> dict[str, Any]:
        return {"encoding": self.encoding, "marked": self.marked, "line_ends": [list(r) for r in self.line_ends]}

    @classmethod
    def from_row(cls, row: dict[str, Any] | None) -> Source:
        if not row:
            return cls()
        runs = tuple((int(n), str(end)) for n, end in row.get("line_ends", []))
        return cls(str(row.get("encoding", "utf-8")), bool(row.get("marked")), runs)


def decoded(data: bytes) -> tuple[str, Source]:
    """Characters with line feeds only, and how they stood in the file. Raises NotText.

    UTF-8, UTF-16 and UTF-32 with or without a mark, else Windows-1252. Of a word processor's document the words, which go out as UTF-8.
    """
    try:
        if kind := documents.kind_of(data):
            return documents.words_of(data, kind), Source()
    except documents.DocumentRefused as error:
        raise NotText(str(error)) from error
    if len(data) > MOST_TEXT_BYTES:
        raise NotText(
            f"The file has {len(data) / 2**20:.0f} MB; the most is {MOST_TEXT_BYTES // 2**20} MB of text. Split it into parts."
        )
    encoding, marked, body = _encoding_of(data)
    try:
        raw = body.decode(encoding)
    except UnicodeDecodeError as error:
        raise NotText(
            f"The file breaks off in the middle of a character at byte {error.start}. Save it again as UTF-8."
        ) from error
    _refuse_binary(raw)
    return without_carriage_returns(raw), Source(encoding, marked, _line_ends(raw))


def encoded(text: str, source: Source) -> bytes:
    """The bytes of a text as its source was; an unchanged text gives the same bytes. What the encoding cannot hold makes
    it UTF-8."""
    lines = text.split("\n")
    ends = [end for count, end in source.line_ends for _ in range(count)]
    usual = max(source.line_ends, default=(0, "\n"))[1]
    ends = (ends + [usual] * len(lines))[: len(lines) - 1]
    raw = "".join(part for pair in zip(lines, [*ends, ""], strict=True) for part in pair)
    mark = next((m for m, e in _MARKS if e == source.encoding), b"") if source.marked else b""
    try:
        return mark + raw.encode(source.encoding)
    except UnicodeEncodeError:
        return raw.encode("utf-8")


def without_carriage_returns(raw: str) -> str:
    return raw.replace("\r\n", "\n").replace("\r", "\n")


def syntax_of(text: str, name: str = "") -> Syntax:
    """The syntax of a text by its file's name, else by its looks."""
    lower = name.lower()
    if lower.endswith((".fountain", ".spmd")):
        return "fountain"
    if lower.endswith((".md", ".markdown")):
        return "prose"
    if any(kind(text) for kind in (comic.is_comic, shot_list.is_shot_list, paged.is_paged, play.is_play)):
        return "prose"
    return "fountain" if fountain.looks_like_fountain(text) else "prose"


def read(text: str, syntax: Syntax) -> Manuscript:
    """The passages of a text in its syntax."""
    return fountain.read(text) if syntax == "fountain" else prose.read(text)


def _encoding_of(data: bytes) -> tuple[str, bool, bytes]:
    for mark, name in _MARKS:
        if data.startswith(mark):
            return name, True, data[len(mark) :]
    if len(data) >= 4 and b"\0" in data[:400]:
        even, odd = data[:400:2].count(0), data[1:400:2].count(0)
        if odd > 4 * max(1, even):
            return "utf-16-le", False, data
        if even > 4 * max(1, odd):
            return "utf-16-be", False, data
    try:
        data.decode("utf-8")
    except UnicodeDecodeError:
        return ("cp1252" if not set(data) & {0x81, 0x8D, 0x8F, 0x90, 0x9D} else "latin-1"), False, data
    return "utf-8", False, data


def _refuse_binary(raw: str) -> None:
    start = raw[:20000]
    strange = [i for i, c in enumerate(start) if unicodedata.category(c) == "Cc" and c not in "\n\r\t\f\x0b"]
    if "\0" in raw or len(strange) > max(2, len(start) // 500):
        at = raw.find("\0") if "\0" in raw else strange[0]
        line = raw.count("\n", 0, at) + 1
        raise NotText(
            f"This is not text: it holds binary data in line {line}. Save the story as plain text and try again."
        )


def _line_ends(raw: str) -> tuple[tuple[int, str], ...]:
    runs: list[tuple[int, str]] = []
    for found in re.finditer(r"\r\n|\r|\n", raw):
        end = found.group()
        if runs and runs[-1][1] == end:
            runs[-1] = (runs[-1][0] + 1, end)
        else:
            runs.append((1, end))
    return tuple(runs)
