"""Documents of a word processor (.docx, .odt, .rtf) as plain text: their words and headings alone, without pictures, comments, notes and what was crossed out."""

from __future__ import annotations

import io
import re
import zipfile
import zlib
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Any, Literal
from xml.etree.ElementTree import Element, ParseError
from xml.parsers.expat import ExpatError

import mammoth.docx
from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring
from mammoth import documents as told
from striprtf.striprtf import rtf_to_text

from juxtaform.formats.paged import ART, PAGE

MOST_XML_BYTES = 32 << 20
MOST_TAGS = 300_000
"""Tags that a document may have; each takes about a kilobyte while it is read."""
_RTF, _OLD, _PDF, _ZIP = b"{\\rtf", b"\xd0\xcf\x11\xe0", b"%PDF", b"PK\x03\x04"
_SAVE = "Open it where it was written and save it as .docx, .odt or plain text."
_EMPTY_BETWEEN = 0.3
"""From this share of gaps between paragraphs on, empty ones part them, so that those without stand together: lines of a script, verses."""
_HEADING = re.compile(r"^(?:heading|überschrift|titre|título|encabezado)[ _]?([1-6])$", re.IGNORECASE)
_CONTENTS = re.compile(r"^(?:toc|contents|verzeichnis)[ _]?\d*", re.IGNORECASE)
_CUES = frozenset(["character", "parenthetical"])
"""Styles of a screenplay whose next line belongs to them."""
_O, _T, _S, _TABLE = (
    f"{{urn:oasis:names:tc:opendocument:xmlns:{name}:1.0}}" for name in ("office", "text", "style", "table")
)
_PAGE = re.compile(rf"^(?P<word>{PAGE})s?\.?(?: ?(?:no|nr|number|#)\.?)?$", re.IGNORECASE)
_TEXT = re.compile(r"^(?:text|words|copy|story|narration|manuscript|texte|texto)\b", re.IGNORECASE)
_ART = re.compile(rf"^(?:{ART}|notes?\b)", re.IGNORECASE)
"""Headers of a table that tells a picture book page by page."""
_TAG = re.compile(rb"<[^/]")
MOST_RTF_BYTES = 4 << 20
_PICTURE_DATA = re.compile(rb"[0-9a-fA-F\r\n]{1000,}")
_FIELD = re.compile(r"\\field\s*\{", re.IGNORECASE)
_FONTS_WITHIN = 200_000
_FONT = re.compile(r"\\f(\d{1,5})(?!\d)[^;{}]{0,200}?\\fcharset(\d{1,3})")


class DocumentRefused(ValueError):
    """A document that cannot be read; the message says why and what to do."""


_TORN = (
    *(zipfile.BadZipFile, zlib.error, OSError, EOFError, RuntimeError, NotImplementedError, MemoryError),
    *(ParseError, ExpatError, DefusedXmlException),
    *(ValueError, LookupError, AttributeError, TypeError, OverflowError),
)
"""What reading a document raises that is damaged, locked, or made to do harm."""


@dataclass(frozen=True)
class Line:
    """A paragraph: its words, how deep a heading it is (0 for none), whether it is the next of a counted list, and whether the one after it belongs to it."""

    words: str
    heading: int = 0
    counted: bool = False
    leads: bool = False


def kind_of(data: bytes) -> Literal["docx", "odt", "rtf", ""]:
    """Which document these bytes are; empty for none. Raises DocumentRefused for one that is no text."""
    if data.startswith(_RTF):
        return "rtf"
    if data.startswith(_OLD):
        raise DocumentRefused(f"This is a document of an old kind (.doc). {_SAVE}")
    if data.startswith(_PDF):
        raise DocumentRefused(f"This is a PDF, which does not tell in which order its words are read. {_SAVE}")
    if not data.startswith(_ZIP):
        return ""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            names = set(archive.namelist())
    except (zipfile.BadZipFile, OSError, EOFError, ValueError, NotImplementedError) as error:
        raise DocumentRefused(f"The document is damaged. {_SAVE}") from error
    if "word/document.xml" in names:
        return "docx"
    if "content.xml" in names:
        return "odt"
    raise DocumentRefused("This is an archive and no text. Unpack it and open the story's text alone.")


def words_of(data: bytes, kind: Literal["docx", "odt", "rtf"]) -> str:
    """The words of a document, a paragraph a line or parted by empty lines, its headings behind `#`. Raises DocumentRefused."""
    try:
        lines = {"docx": _of_docx, "odt": _of_odt, "rtf": _of_rtf}[kind](data)
        return _laid_out(lines)
    except DocumentRefused:
        raise
    except _TORN as error:
        raise DocumentRefused(f"The document is damaged, or locked by a password. {_SAVE}") from error


def _laid_out(lines: Sequence[Line]) -> str:
    """Lines as a text: where the writer parted paragraphs by empty ones, those alone part them."""
    worded = [i for i, line in enumerate(lines) if line.words]
    lines = lines[worded[0] : worded[-1] + 1] if worded else []
    full = len(worded)
    gaps = sum(not x.words and bool(y.words) for x, y in pairwise(lines))
    parted = full > 2 and gaps >= _EMPTY_BETWEEN * (full - 1)
    out: list[str] = []
    number = 0
    for before, line in zip((None, *lines), lines, strict=False):
        number = 0 if line.heading else number + line.counted
        if not line.words:
            continue
        if before is not None:
            close = before.leads or (parted and before.words and not (line.heading or before.heading))
            out.append("\n" if close else "\n\n")
        sign = "#" * line.heading + " " if line.heading else f"{number}. " if line.counted else ""
        out.append(sign + line.words)
    return "".join((*out, "\n")) if out else ""


def _table_lines(rows: Sequence[Sequence[Sequence[Line]]]) -> Iterator[Line]:
    """A table's cells one after another; of one that tells a book by its pages the number, the words, and what is to be seen as a note."""
    headers = [" ".join(x.words for x in cell).strip() for cell in rows[0]] if rows else []
    page, text, art = (next((i for i, h in enumerate(headers) if kind.match(h)), -1) for kind in (_PAGE, _TEXT, _ART))
    if page < 0 or text < 0:
        yield from (line for row in rows for cell in row for line in cell)
        return
    word = _PAGE.match(headers[page])
    for row in rows[1:]:
        cells = [*row, *[[]] * len(headers)]
        number = " ".join(x.words for x in cells[page]).strip()
        yield Line(f"{word['word'] if word and number[:1].isdigit() else ''} {number}".strip())
        yield from cells[text]
        seen = " ".join(x.words for x in cells[art] if x.words) if art >= 0 else ""
        if seen:
            yield Line(f"[Art: {seen.replace('[', '(').replace(']', ')')}]")


def _words(pieces: Iterator[str]) -> str:
    """The words of a paragraph: its line breaks stay, all other white space is folded."""
    return "\n".join(" ".join(line.split()) for line in "".join(pieces).split("\n")).strip("\n")


def _checked(data: bytes) -> zipfile.ZipFile:
    """The archive, if what it holds to be read is no more than a document is."""
    archive = zipfile.ZipFile(io.BytesIO(data))
    total = tags = 0
    for entry in archive.infolist():
        if not entry.filename.endswith((".xml", ".rels")):
            continue
        total += entry.file_size
        if total > MOST_XML_BYTES:
            raise DocumentRefused(
                f"The document is larger than {MOST_XML_BYTES >> 20} MB without its pictures. Split it into parts."
            )
        xml = archive.read(entry)
        tags += len(_TAG.findall(xml)) if b"\0" not in xml[:200] else len(xml) // 8
        if tags > MOST_TAGS:
            raise DocumentRefused("The document has more marks than a story has. Save it as plain text.")
        if b"<!DOCTYPE" in xml or b"<!ENTITY" in xml or b"\0" in xml[:200]:
            raise DocumentRefused(f"The document is not written as a word processor writes it. {_SAVE}")
    return archive


def _of_docx(data: bytes) -> list[Line]:
    _checked(data).close()
    return list(_docx_lines(mammoth.docx.read(io.BytesIO(data)).value.children))


def _docx_lines(children: Sequence[Any]) -> Iterator[Line]:
    for x in children:
        if isinstance(x, told.Paragraph):
            style = str(x.style_name or x.style_id or "")
            if _CONTENTS.match(style):
                continue
            heading = _HEADING.match(style)
            counted = x.numbering is not None and x.numbering.is_ordered and str(x.numbering.level_index) == "0"
            yield Line(
                _words(_docx_pieces(x.children)),
                int(heading[1]) if heading else 0,
                counted and not heading,
                style.casefold() in _CUES,
            )
        elif isinstance(x, told.Table):
            rows = [row.children for row in x.children if isinstance(row, told.TableRow)]
            yield from _table_lines([[list(_docx_lines(cell.children)) for cell in row] for row in rows])
        elif hasattr(x, "children"):
            yield from _docx_lines(x.children)


def _docx_pieces(children: Sequence[Any]) -> Iterator[str]:
    for x in children:
        if isinstance(x, told.Text):
            yield str(x.value)
        elif isinstance(x, told.Tab):
            yield " "
        elif isinstance(x, told.Break):
            yield "\n" if x.break_type == "line" else " "
        elif isinstance(x, told.Run) and x.is_strikethrough:
            continue
        elif hasattr(x, "children"):
            yield from _docx_pieces(x.children)


_SKIPPED = frozenset(
    [f"{_T}{name}" for name in ("tracked-changes", "note", "sequence-decls", "variable-decls", "table-of-content")]
    + [f"{_O}{name}" for name in ("annotation", "annotation-end", "forms")]
)
_MARKS = {f"{_T}tab": " ", f"{_T}line-break": "\n", f"{_T}s": " "}


def _of_odt(data: bytes) -> list[Line]:
    with _checked(data) as archive:
        content = fromstring(archive.read("content.xml"))
        styles = fromstring(archive.read("styles.xml")) if "styles.xml" in archive.namelist() else None
    body = content.find(f".//{_O}text")
    if body is None:
        raise DocumentRefused(f"This is no written document. {_SAVE}")
    counting = {
        str(style.get(f"{_S}name"))
        for root in (content, styles)
        if root is not None
        for style in root.iter(f"{_T}list-style")
        if any(x.tag == f"{_T}list-level-style-number" and x.get(f"{_T}level") == "1" for x in style)
    }
    return list(_odt_lines(body, counting, None))


def _odt_lines(parent: Element, counting: set[str], listed: bool | None) -> Iterator[Line]:
    """`listed` tells of what stands in a list whether its items are counted."""
    for x in parent:
        if x.tag in _SKIPPED:
            continue
        if x.tag == f"{_T}h":
            depth = str(x.get(f"{_T}outline-level", "1"))
            yield Line(_words(_odt_pieces(x)), min(6, int(depth)) if depth.isdecimal() else 1)
        elif x.tag == f"{_T}p":
            yield Line(_words(_odt_pieces(x)), counted=bool(listed))
            listed = listed and False
        elif x.tag == f"{_T}list":
            inner = x.get(f"{_T}style-name") in counting if listed is None else False
            yield from _odt_lines(x, counting, inner)
        elif x.tag == f"{_T}list-item":
            yield from _odt_lines(x, counting, listed)
        elif x.tag == f"{_TABLE}table":
            rows = [[c for c in row if c.tag == f"{_TABLE}table-cell"] for row in x.iter(f"{_TABLE}table-row")]
            yield from _table_lines([[list(_odt_lines(cell, counting, None)) for cell in row] for row in rows])
        else:
            yield from _odt_lines(x, counting, listed)


def _odt_pieces(parent: Element) -> Iterator[str]:
    yield re.sub(r"\s+", " ", parent.text or "")
    for x in parent:
        if x.tag not in _SKIPPED:
            yield _MARKS.get(str(x.tag), "")
            yield from _odt_pieces(x)
        yield re.sub(r"\s+", " ", x.tail or "")


def _of_rtf(data: bytes) -> list[Line]:
    data = _PICTURE_DATA.sub(b"", data)
    if len(data) > MOST_RTF_BYTES:
        raise DocumentRefused(
            f"The document has {len(data) >> 20} MB without its pictures; the most is {MOST_RTF_BYTES >> 20}. {_SAVE}"
        )
    raw = data.decode("latin-1")
    fonts = "".join(f"{{\\f{n}\\fcharset{c} A;}}" for n, c in _FONT.findall(raw[:_FONTS_WITHIN]))
    # A table of fonts with nothing but the alphabet of each, and a line's end behind which no addresses of links are looked for: these
    # the library reads slowly, or sets among the words.
    raw = _FIELD.sub("\\\\field\n{", raw.replace("\\fonttbl", "\\colortbl"))
    head = raw.index("\\") + len("\\rtf")
    text = rtf_to_text(f"{raw[:head]}1{{\\fonttbl{fonts}}}{raw[head:].lstrip('0123456789')}", errors="replace")
    whole = text.encode("utf-16-le", "surrogatepass").decode("utf-16-le", "replace")
    return [Line(_words(iter([line]))) for line in whole.split("\n")]
