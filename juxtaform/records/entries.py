"""What an entry of the journal says of rows, and how it is kept: of a changed row only what changed, of a long text only where."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import JSON, inspect

from juxtaform.records.models import JOURNALED, as_utc

Row = dict[str, Any]
LONG = 200
"""Texts longer than this are kept as the place that changed."""


@dataclass(frozen=True)
class RowChange:
    """One row before and after; None where it did not or does not exist. As loaded, a changed row has its changed columns alone,
    and a long text in it is a Splice."""

    table: str
    id: str
    before: Row | None
    after: Row | None


@dataclass(frozen=True)
class Splice:
    """What stands in a text from a place on: `here` of one state takes the place of `there`, its other state."""

    at: int
    here: str
    there: str


class JournalBroken(RuntimeError):
    """An entry does not fit the rows that it is about."""


def dumped(rows: Sequence[RowChange]) -> str:
    """Rows before and after, as JSON text."""
    return json.dumps([_told(r) for r in rows], default=_plain, ensure_ascii=False)


def loaded(text: str) -> list[RowChange]:
    return [RowChange(table, key, *_revived(table, before, after)) for table, key, before, after in json.loads(text)]


def turned_round(rows: Sequence[RowChange]) -> list[RowChange]:
    """The same changes the other way."""
    return [RowChange(r.table, r.id, r.after, r.before) for r in reversed(rows)]


def changed_rows(
    there: Mapping[str, Mapping[str, Row]], parts: Sequence[Sequence[RowChange]], version: int
) -> list[RowChange]:
    """Rows in full before and after, when loaded changes are made one part after another to the rows that are `there`, as
    {table: {id: row}}. Each changed row gets a revision that it never had. Raises JournalBroken."""
    state: dict[tuple[str, str], Row | None] = {}
    for part in parts:
        for r in part:
            row = (r.table, r.id)
            row_now = state[row] if row in state else there[r.table].get(r.id)
            state[row] = _made(r, row_now)
    out = []
    for (table, key), after in state.items():
        before = there[table].get(key)
        if before is None and after is None:
            continue
        if after is not None:
            after = {**after, "revision": max((before or after)["revision"] + 1, version)}
        out.append(RowChange(table, key, before, after))
    return out


def _made(r: RowChange, row: Row | None) -> Row | None:
    if r.after is None:
        return None
    if r.before is None:
        return dict(r.after)
    if row is None:
        raise JournalBroken(f"The {r.table} {r.id} is gone, and an entry of the journal changes it.")
    return {**row, **{k: _spliced(v, row[k]) if isinstance(v, Splice) else v for k, v in r.after.items()}}


def _spliced(s: Splice, text: str) -> str:
    end = s.at + len(s.there)
    if text[s.at : end] != s.there:
        raise JournalBroken("A text is not as the journal has it.")
    return text[: s.at] + s.here + text[end:]


def _told(r: RowChange) -> list[Any]:
    if r.before is None or r.after is None:
        return [r.table, r.id, r.before, r.after]
    before: Row = {}
    after: Row = {}
    for k, old in r.before.items():
        new = r.after[k]
        if old == new:
            continue
        if isinstance(old, str) and isinstance(new, str) and max(len(old), len(new)) > LONG:
            at, was, came = difference(old, new)
            before[k], after[k] = {"at": at, "text": was}, {"at": at, "text": came}
        else:
            before[k], after[k] = old, new
    return [r.table, r.id, before, after]


def difference(old: str, new: str) -> tuple[int, str, str]:
    """Where two texts begin to differ, and what stands there in each up to where they agree again.

    >>> difference("The tide came back.", "The tide went back.")
    (9, 'came', 'went')
    """
    most = min(len(old), len(new))
    low, high = 0, most
    while low < high:
        middle = (low + high + 1) // 2
        if old[:middle] == new[:middle]:
            low = middle
        else:
            high = middle - 1
    start, low, high = low, 0, most - low
    while low < high:
        middle = (low + high + 1) // 2
        if old[len(old) - middle :] == new[len(new) - middle :]:
            low = middle
        else:
            high = middle - 1
    return start, old[start : len(old) - low], new[start : len(new) - low]


def _revived(table: str, before: Row | None, after: Row | None) -> tuple[Row | None, Row | None]:
    plain = _plain_columns(table)
    if before is not None and after is not None:
        for k in [k for k in before if k in plain and isinstance(before[k], dict) and "at" in before[k]]:
            was, came = before[k], after[k]
            before[k] = Splice(was["at"], was["text"], came["text"])
            after[k] = Splice(came["at"], came["text"], was["text"])
    for row in (before, after):
        for k, v in (row or {}).items():
            if isinstance(v, dict) and k in plain and "utc" in v and row is not None:
                row[k] = as_utc(datetime.fromisoformat(v["utc"]))
    return before, after


def _plain_columns(table: str) -> set[str]:
    """Columns that hold no JSON: an object there is one of ours."""
    return {c.key for c in inspect(JOURNALED[table]).columns if not isinstance(c.type, JSON)}


def _plain(value: object) -> object:
    if isinstance(value, datetime):
        return {"utc": value.isoformat()}
    raise TypeError(f"{type(value).__name__} cannot be journaled")
