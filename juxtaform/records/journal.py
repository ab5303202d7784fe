"""The journal: every change of a project's rows is written down, before and after; undo and redo replay it."""

from __future__ import annotations

import json
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any

from sqlalchemy import delete, event, insert, inspect, select, text, update
from sqlalchemy.orm import Session

from juxtaform.records.models import JOURNALED, Change, Journaled, now

Row = dict[str, Any]


@dataclass(frozen=True)
class RowChange:
    """One row before and after; None where it did not or does not exist."""

    table: str
    id: str
    before: Row | None
    after: Row | None


@dataclass
class Written:
    """What a change did: its journal id, its label and its rows."""

    project_id: str
    label: str
    rows: list[RowChange] = field(default_factory=list)
    change_id: int = 0


class NothingToUndo(LookupError):
    """The journal has nothing left in that direction."""


@contextmanager
def change(session: Session, project_id: str, label: str, joins_within_s: float = 0.0) -> Iterator[Written]:
    """Journal all that the block changes, as one entry with one label; the session is flushed at the end.

    Without any changed row no entry is written. An entry joins the latest one when that has the same label and is not
    older than `joins_within_s`: typing is one change, not one a pause.
    """
    written = Written(project_id, label[:200])
    seen: dict[tuple[str, str], RowChange] = {}

    def gather(s: Session, *_: object) -> None:
        new, deleted = s.new, s.deleted
        for model in [*new, *s.dirty, *deleted]:
            if not isinstance(model, Journaled):
                continue
            is_new, is_gone = model in new, model in deleted
            if is_new or is_gone or s.is_modified(model):
                _gather(seen, model, is_new=is_new, is_gone=is_gone)

    event.listen(session, "before_flush", gather)
    try:
        yield written
        session.flush()
    finally:
        event.remove(session, "before_flush", gather)
    written.rows = [r for r in seen.values() if r.before != r.after]
    if written.rows:
        _forget_undone(session, project_id)
        if joins_within_s and (latest := _joinable(session, project_id, written.label, joins_within_s)):
            latest.rows, latest.at = _dumped(_one_after_another(_loaded(latest.rows), written.rows)), now()
            written.change_id = latest.id
            return
        entry = Change(project_id=project_id, label=written.label, rows=_dumped(written.rows))
        session.add(entry)
        session.flush()
        written.change_id = entry.id


def _joinable(session: Session, project_id: str, label: str, within_s: float) -> Change | None:
    latest = session.scalars(
        select(Change).where(Change.project_id == project_id).order_by(Change.id.desc()).limit(1)
    ).first()
    fresh = latest is not None and latest.at >= now() - timedelta(seconds=within_s)
    return latest if fresh and latest is not None and latest.label == label else None


def _one_after_another(first: list[RowChange], then: list[RowChange]) -> list[RowChange]:
    rows = {(r.table, r.id): r for r in first}
    for r in then:
        held = rows.get((r.table, r.id))
        rows[r.table, r.id] = RowChange(r.table, r.id, held.before if held else r.before, r.after)
    return [r for r in rows.values() if r.before != r.after]


def _gather(seen: dict[tuple[str, str], RowChange], model: Journaled, *, is_new: bool, is_gone: bool) -> None:
    columns = inspect(model).mapper.column_attrs
    table = model.__tablename__  # type: ignore[attr-defined]
    for c in columns:
        default = c.columns[0].default
        if is_new and getattr(model, c.key) is None and default is not None:
            arg = default.arg
            setattr(model, c.key, arg(None) if callable(arg) else arg)
    before = None if is_new else {c.key: _committed(model, c.key) for c in columns}
    if not is_new and not is_gone:
        model.revision = (before or {}).get("revision", 0) + 1
    after = None if is_gone else {c.key: getattr(model, c.key) for c in columns}
    known = seen.get((table, model.id))
    seen[table, model.id] = RowChange(table, model.id, known.before if known else before, after)


def _committed(model: Journaled, key: str) -> Any:
    history = inspect(model).attrs[key].history
    return history.deleted[0] if history.deleted else getattr(model, key)


def undo(session: Session, project_id: str) -> Written:
    """Take back the latest change that still stands. Raises NothingToUndo."""
    entry = session.scalars(
        select(Change).where(Change.project_id == project_id, ~Change.undone).order_by(Change.id.desc()).limit(1)
    ).first()
    if entry is None:
        raise NothingToUndo("There is nothing to undo.")
    entry.undone = True
    rows = [RowChange(r.table, r.id, r.after, r.before) for r in _loaded(entry.rows)]
    return _replayed(session, entry, rows)


def redo(session: Session, project_id: str) -> Written:
    """Make the latest undone change again. Raises NothingToUndo."""
    entry = session.scalars(
        select(Change).where(Change.project_id == project_id, Change.undone).order_by(Change.id).limit(1)
    ).first()
    if entry is None:
        raise NothingToUndo("There is nothing to redo.")
    entry.undone = False
    return _replayed(session, entry, _loaded(entry.rows))


def next_labels(session: Session, project_id: str) -> tuple[str | None, str | None]:
    """The labels of what undo and redo would do next."""
    back = select(Change.label).where(Change.project_id == project_id, ~Change.undone).order_by(Change.id.desc())
    forth = select(Change.label).where(Change.project_id == project_id, Change.undone).order_by(Change.id)
    return session.scalars(back.limit(1)).first(), session.scalars(forth.limit(1)).first()


def _replayed(session: Session, entry: Change, rows: list[RowChange]) -> Written:
    """Write the rows as they were: gone rows first, so that others may take their places, then the rest."""
    rank = {name: i for i, name in enumerate(JOURNALED)}
    told = [r for r in rows if r.after is None]
    with _links_unchecked(session):
        for row in told:
            session.execute(delete(JOURNALED[row.table]).where(JOURNALED[row.table].id == row.id))
        for row in sorted((r for r in rows if r.after is not None), key=lambda r: rank[r.table]):
            model, values = JOURNALED[row.table], dict(row.after or {})
            if row.before is None:
                session.execute(insert(model).values(**values))
            else:
                current = session.scalar(select(model.revision).where(model.id == row.id)) or 0
                values["revision"] = current + 1
                session.execute(update(model).where(model.id == row.id).values(**values))
            told.append(RowChange(row.table, row.id, row.before, values))
        session.flush()
    session.expire_all()
    return Written(entry.project_id, entry.label, told, entry.id)


@contextmanager
def _links_unchecked(session: Session) -> Iterator[None]:
    """Between two states whose links all hold, a row may go while another still points to it: a scene, whose last shot moves to the
    scene before in the same change."""
    session.execute(text("SET SESSION foreign_key_checks = 0"))
    try:
        yield
    finally:
        session.execute(text("SET SESSION foreign_key_checks = 1"))


def _forget_undone(session: Session, project_id: str) -> None:
    session.execute(delete(Change).where(Change.project_id == project_id, Change.undone))


def _dumped(rows: list[RowChange]) -> str:
    return json.dumps([[r.table, r.id, r.before, r.after] for r in rows], default=_plain, ensure_ascii=False)


def _plain(value: object) -> object:
    if isinstance(value, datetime):
        return {"utc": value.isoformat()}
    raise TypeError(f"{type(value).__name__} cannot be journaled")


def _loaded(text: str) -> list[RowChange]:
    return [RowChange(t, i, _revived(b), _revived(a)) for t, i, b, a in json.loads(text)]


def _revived(row: Row | None) -> Row | None:
    if row is None:
        return None
    return {k: datetime.fromisoformat(v["utc"]) if isinstance(v, dict) and "utc" in v else v for k, v in row.items()}
