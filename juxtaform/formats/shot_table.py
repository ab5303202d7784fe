"""The shot list as a table: CSV (RFC 4180) out and in, and tab-separated cells as spreadsheets copy and paste them.

A row a shot, a header first. `Id` names the shot for good; a row without one is a new shot. Empty cells are empty facts.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from juxtaform.core.plan.shots import ANGLES, MOVES, PAGE_FORMS, SIZES
from juxtaform.formats.cells import plain_cell, safe_cell
from juxtaform.formats.framing import trade_word
from juxtaform.limits import MOST_TABLE_BYTES, MOST_TABLE_ROWS

Cells = dict[str, str]

_RULED, _PIPE = re.compile(r"\|?(?:\s*:?-+:?\s*\|)*\s*:?-+:?\s*\|?"), re.compile(r"(?<!\\)\|")
"""The second line of a table of Markdown, and what parts its cells."""
MOST_SEED = 2**31 - 1


class TableWrong(ValueError):
    """A table that cannot be read; the message names the line (from 1, the header is line 1) and the column."""


@dataclass(frozen=True)
class Column:
    """A column: its header, the fact that it holds, what it means, and how a cell becomes the fact (None: only told, never
    read back)."""

    header: str
    fact: str
    meaning: str
    read: Callable[[str], Any] | None


def _one_of(choices: Sequence[str]) -> Callable[[str], str]:
    own = {c.casefold(): c for c in choices}

    def read(cell: str) -> str:
        name = own.get(cell.strip().casefold()) or trade_word(cell)
        if name not in choices:
            raise ValueError(f"“{cell}” is none of: {', '.join(choices)}")
        return name

    return read


_SECONDS = re.compile(
    r"(?:(?P<minutes>\d{1,2}):)?(?P<seconds>\d{1,4}(?:[.,]\d+)?)\s*(?:s|secs?\.?|seconds?)?", re.IGNORECASE
)


def _seconds(cell: str) -> float:
    told = _SECONDS.fullmatch(cell.strip())
    try:
        value = 60 * int(told["minutes"] or 0) + float(told["seconds"].replace(",", ".")) if told else float(cell)
    except ValueError as error:
        raise ValueError(f"“{cell}” is no number of seconds") from error
    if not 0 < value <= 3600:
        raise ValueError(f"“{cell}” is not between 0 and 3600 seconds")
    return value


def _yes(cell: str) -> bool:
    word = cell.strip().casefold()
    if word not in ("yes", "no", ""):
        raise ValueError(f"“{cell}” is neither yes nor no")
    return word == "yes"


def _form(cell: str) -> str:
    word = cell.strip()
    if word and (not re.fullmatch(r"\d+(\.\d+)?:\d+(\.\d+)?", word) or len(word) > 12):
        raise ValueError(f"“{cell[:40]}” is no form such as 3:2")
    return word


_PAGES = re.compile(r"(?:pages?|pp?\.?)?\s*\d{1,4}(?P<two>\s*(?:[-–—/&+]|and|to)\s*\d{1,4})?", re.IGNORECASE)


def _page(cell: str) -> str:
    """A page's form; a number alone is one page, two numbers are a spread."""
    word = " ".join(cell.casefold().replace("-", " ").split())
    if pages := _PAGES.fullmatch(cell.strip()):
        return "spread" if pages["two"] else "single"
    if re.fullmatch(r"(?:double|double page|double spread|double page spread|full spread)", word):
        return "spread"
    return "single" if word in ("full page", "single page", "full") else _one_of(PAGE_FORMS)(cell)


def _seed(cell: str) -> int | None:
    word = cell.strip()
    if not word:
        return None
    if not word.isascii() or not word.isdigit() or int(word) > MOST_SEED:
        raise ValueError(f"“{cell[:40]}” is no whole number from 0 to {MOST_SEED}")
    return int(word)


def _listed(cell: str) -> list[str]:
    return [name.strip() for name in cell.split(";") if name.strip()]


COLUMNS: tuple[Column, ...] = (
    Column("Number", "number", "The shot's number in the order of the story; told, not read.", None),
    Column("Scene", "scene", "The scene's heading; a new heading begins a new scene.", str.strip),
    Column("Shows", "shows", "What the picture shows.", str.strip),
    Column("Size", "size", f"One of {', '.join(SIZES)}.", _one_of(SIZES)),
    Column("Angle", "angle", f"One of {', '.join(ANGLES)}.", _one_of(ANGLES)),
    Column("Move", "move", f"One of {', '.join(MOVES)}.", _one_of(MOVES)),
    Column("Length", "length_s", "Seconds, a point or a comma for the fraction.", _seconds),
    Column("Spoken", "spoken", "The words spoken over it.", str.strip),
    Column("Motion", "motion", "What moves.", str.strip),
    Column("Sound", "sound", "Sound cues.", str.strip),
    Column("Music", "music", "Music cues.", str.strip),
    Column("Notes", "notes", "Notes.", str.strip),
    Column("Characters", "character", "Names of characters in it, with semicolons.", _listed),
    Column("Settings", "setting", "Names of settings, with semicolons.", _listed),
    Column("Styles", "style", "Names of styles, with semicolons.", _listed),
    Column("Props", "prop", "Names of props, with semicolons.", _listed),
    Column("Page", "page_form", f"For books: one of {', '.join(PAGE_FORMS)}.", _page),
    Column("Bleed", "bleed", "For books: yes or no.", _yes),
    Column("Form", "aspect", "The picture's form, as 3:2; empty: the project's.", _form),
    Column("Seed", "seed", "The seed for whoever makes the picture; empty: by the project's rule.", _seed),
    Column("Don'ts", "donts", "What the picture must not have, with semicolons.", _listed),
    Column("Words", "words", "The words of the story that it covers; told, not read.", None),
    Column("Id", "id", "Names the shot for good; leave it out for a new shot.", str.strip),
)
BY_FACT = {c.fact: c for c in COLUMNS}
OTHER_HEADERS: Mapping[str, str] = {
    **dict.fromkeys(("shot", "shot no", "shot number", "shot #", "no", "nr", "#"), "number"),
    **dict.fromkeys(
        ("description", "action", "picture", "visual", "visuals", "image", "illustration", "art", "art notes"), "shows"
    ),
    **dict.fromkeys(("shot size", "framing", "shot type", "type"), "size"),
    **dict.fromkeys(("camera angle",), "angle"),
    **dict.fromkeys(("camera", "camera move", "camera movement", "movement"), "move"),
    **dict.fromkeys(("duration", "time", "seconds", "secs", "sec"), "length_s"),
    **dict.fromkeys(("dialogue", "dialog", "text", "voice over", "voiceover", "vo", "words spoken"), "spoken"),
    **dict.fromkeys(("sounds", "sfx", "sound effects"), "sound"),
    **dict.fromkeys(("note", "remarks", "comments", "comment"), "notes"),
    **dict.fromkeys(("character", "cast", "who"), "character"),
    **dict.fromkeys(("setting", "location", "locations", "place", "where"), "setting"),
    **dict.fromkeys(("style",), "style"),
    **dict.fromkeys(("prop",), "prop"),
    **dict.fromkeys(("don’ts", "donts"), "donts"),
}
"""What tables of others call a column, and its fact."""
BY_HEADER = {w: BY_FACT[fact] for w, fact in OTHER_HEADERS.items()} | {c.header.casefold(): c for c in COLUMNS}
HEADERS = tuple(c.header for c in COLUMNS)


@dataclass(frozen=True)
class TableRow:
    """A row as read: its line (from 1) and its facts; facts whose columns are not in the table are not in it either."""

    line: int
    facts: dict[str, Any]


@dataclass(frozen=True)
class Table:
    """A table as read: its rows, and headers of columns that nothing is known of."""

    rows: list[TableRow]
    unknown: list[str]


def chosen(headers: Sequence[str]) -> list[Column]:
    """Columns by their headers, in that order; all of them for none. Raises TableWrong for an unknown one."""
    unknown = [h for h in headers if h.casefold() not in BY_HEADER]
    if unknown:
        raise TableWrong(f"There is no column “{unknown[0]}”. Columns are: {', '.join(HEADERS)}.")
    return [BY_HEADER[h.casefold()] for h in headers] or list(COLUMNS)


def write_csv(rows: Sequence[Cells], headers: Sequence[str] = ()) -> bytes:
    """The table as CSV in UTF-8 with a byte-order mark (spreadsheets need it), lines ended by CRLF."""
    return b"\xef\xbb\xbf" + _written(rows, headers, csv.excel, "\r\n").encode("utf-8")


def write_tabs(rows: Sequence[Cells], headers: Sequence[str] = ()) -> str:
    """The table as tab-separated cells, quoted as spreadsheets do."""
    return _written(rows, headers, csv.excel_tab, "\n")


def read_table(data: bytes | str) -> Table:
    """A CSV or tab-separated table, or one of Markdown, with a header. Raises TableWrong, naming line and column; nothing is half read."""
    if len(data) > MOST_TABLE_BYTES:
        raise TableWrong(f"The table has more than {MOST_TABLE_BYTES >> 20} MB. Take it in in parts.")
    text = data if isinstance(data, str) else _text(data)
    text = text.removeprefix("\ufeff")
    if not text.strip():
        raise TableWrong("The table is empty. It needs a header and a row a shot.")
    text = _without_pipes(text)
    first = text.lstrip("\r\n").split("\n", 1)[0]
    delimiter = "\t" if "\t" in first else (";" if first.count(";") > first.count(",") else ",")
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=delimiter, strict=True)
    try:
        header = next(reader)
        columns = _header(header)
        rows = []
        line = reader.line_num + 1
        for cells in reader:
            if any(c.strip() for c in cells):
                rows.append(_row(columns, [plain_cell(c) for c in cells], line))
            if len(rows) > MOST_TABLE_ROWS:
                raise TableWrong(f"The table has more than {MOST_TABLE_ROWS:,} rows. Take it in in parts.")
            line = reader.line_num + 1
    except csv.Error as error:
        raise TableWrong(
            f"Line {reader.line_num}: not a table that can be read ({error}). Save it again as CSV."
        ) from error
    if not rows:
        raise TableWrong("The table has a header and no rows.")
    return Table(rows, [h for h, column in zip(_names(header), columns, strict=True) if column is None and h])


def _written(rows: Sequence[Cells], headers: Sequence[str], dialect: type[csv.Dialect], end: str) -> str:
    columns = chosen(headers)
    out = io.StringIO(newline="")
    writer = csv.writer(out, dialect=dialect, lineterminator=end)
    writer.writerow([c.header for c in columns])
    for row in rows:
        writer.writerow([safe_cell(row.get(c.fact, "")) for c in columns])
    return out.getvalue()


def _text(data: bytes) -> str:
    for encoding in ("utf-8-sig", "utf-16") if data[:2] in (b"\xff\xfe", b"\xfe\xff") else ("utf-8-sig", "cp1252"):
        try:
            return data.decode(encoding)
        except UnicodeDecodeError:
            continue
    raise TableWrong("The table is in no known encoding. Save it as CSV in UTF-8.")


def _without_pipes(text: str) -> str:
    """A table of Markdown as tab-separated cells, a line a line; other text as it is."""
    lines = text.strip("\r\n").splitlines()
    if len(lines) < 2 or "|" not in lines[0] or not _RULED.fullmatch(lines[1].strip()):
        return text
    rows = [[c.strip().replace("\\|", "|") for c in _PIPE.split(line.strip().strip("|"))] for line in lines]
    rows[1] = []
    out = io.StringIO(newline="")
    csv.writer(out, dialect=csv.excel_tab, lineterminator="\n").writerows(rows)
    return out.getvalue()


def _names(header: Sequence[str]) -> list[str]:
    return [h.strip().rstrip(".:") for h in header]


def _header(header: Sequence[str]) -> list[Column | None]:
    """The columns of a header; None for one that nothing is known of."""
    names = _names(header)
    columns = [BY_HEADER.get(h.casefold()) for h in names]
    if not any(c is not None and c.fact in ("id", "shows") for c in columns):
        unknown = [h for h, column in zip(names, columns, strict=True) if column is None]
        if unknown:
            raise TableWrong(f"Line 1: there is no column “{unknown[0][:60]}”. Columns are: {', '.join(HEADERS)}.")
        raise TableWrong("Line 1: the table needs the column “Id” (to change shots) or “Shows” (to make new ones).")
    facts = [c.fact if c is not None else "" for c in columns]
    twice = [h for i, h in enumerate(names) if facts[i] and facts[i] in facts[:i]]
    if twice:
        raise TableWrong(f"Line 1: the column “{twice[0][:60]}” stands twice.")
    return columns


def _row(columns: Sequence[Column | None], cells: Sequence[str], line: int) -> TableRow:
    if len(cells) > len(columns) and any(c.strip() for c in cells[len(columns) :]):
        raise TableWrong(
            f"Line {line}: {len(cells)} cells for {len(columns)} columns. A cell with a comma needs quotes."
        )
    facts: dict[str, Any] = {}
    for column, cell in zip(columns, [*cells, *[""] * len(columns)], strict=False):
        if column is None or column.read is None:
            continue
        if not cell.strip() and column.fact in ("size", "angle", "move", "length_s", "page_form"):
            continue
        try:
            facts[column.fact] = column.read(cell)
        except ValueError as error:
            raise TableWrong(f"Line {line}, column “{column.header}”: {error}.") from error
    return TableRow(line, facts)
