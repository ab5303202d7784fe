"""The journal: every change of a project's rows is written down, before and after; undo and redo are entries of it too.

It is the project's one clock. Whoever writes holds the project's row, so entries follow each other without a gap, and what
undo reaches has once been so.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field
from datetime import timedelta
from typing import Any

from sqlalchemy import delete, event, insert, inspect, select, update
from sqlalchemy.orm import Session

from juxtaform.records.entries import Row, RowChange, changed_rows, dumped, loaded, turned_round
from juxtaform.records.models import JOURNALED, Change, Journaled, Project, Take, now
from juxtaform.records.who import at_work

UNNAMED = frozenset({"bead", "mark", "stet", "duel", "library_picture"})
"""Tables to which no other row points: their rows go first, so that others may take their places."""


@dataclass
class Written:
    """What a change did: its version (that of the project when nothing was written), its label and its rows in full."""

    project_id: str
    label: str
    version: int
    deed: str | None = None
    rows: list[RowChange] = field(default_factory=list)


class NothingToUndo(LookupError):
    """The journal has nothing left in that direction."""


class NoProject(LookupError):
    """The project is not there (any more)."""


@dataclass(frozen=True)
class Step:
    """An entry of the journal without its rows."""

    id: int
    version: int
    label: str
    at: Any
    takes_back: int | None
    undo_id: int | None
    redo_id: int | None
    spell_id: int | None
    by: str = ""


STEP = (
    Change.id,
    Change.version,
    Change.label,
    Change.at,
    Change.takes_back,
    Change.undo_id,
    Change.redo_id,
    Change.spell_id,
    Change.by,
)
NO_STEP = Step(0, 0, "", None, None, None, None, None)


def hold(session: Session, project_id: str) -> None:
    """Hold a project until the transaction ends: one writes at a time. Raises NoProject."""
    if session.scalar(select(Project.id).where(Project.id == project_id).with_for_update()) is None:
        raise NoProject("There is no such project.")


def latest(session: Session, project_id: str) -> Step:
    """The newest entry; version 0 before the first."""
    row = session.execute(
        select(*STEP).where(Change.project_id == project_id).order_by(Change.version.desc()).limit(1)
    ).first()
    return Step(*row) if row else NO_STEP


@contextmanager
def change(
    session: Session, project_id: str, label: str, joins_within_s: float = 0.0, *, by_nobody: bool = False
) -> Iterator[Written]:
    """Journal all that the block changes, as one entry with one label; the session is flushed at the end. The project has to be held.

    Without any changed row no entry is written. An entry goes on with the latest one when that has the same label and is not
    older than `joins_within_s`: a spell of typing is taken back in one, not a pause at a time. What is done `by_nobody`, such as a picture
    that came, is no step of undo: undo and redo go on with what they would have done before it.
    """
    last = latest(session, project_id)
    written = Written(project_id, label[:200], last.version + 1)
    seen: dict[tuple[str, str], RowChange] = {}

    def gather(s: Session, *_: object) -> None:
        new, deleted = s.new, s.deleted
        for model in [*new, *s.dirty, *deleted]:
            if not isinstance(model, Journaled):
                continue
            is_new, is_gone = model in new, model in deleted
            if is_new or is_gone or s.is_modified(model):
                _gather(seen, model, written.version, is_new=is_new, is_gone=is_gone)

    event.listen(session, "before_flush", gather)
    try:
        yield written
        session.flush()
    finally:
        event.remove(session, "before_flush", gather)
    written.rows = [r for r in seen.values() if r.before != r.after]
    if not written.rows:
        written.version = last.version
        return
    joins = joins_within_s > 0 and _goes_on(last, written.label, joins_within_s)
    entry = Change(
        project_id=project_id,
        version=written.version,
        label=written.label,
        rows=dumped(written.rows),
        spell_id=(last.spell_id or last.id) if joins else None,
        deed=written.deed,
    )
    session.add(entry)
    session.flush()
    entry.undo_id, entry.redo_id = (last.undo_id, last.redo_id) if by_nobody else (entry.id, None)
    session.flush()


def undo(session: Session, project_id: str, deed: str | None = None) -> Written:
    """Take back the latest change that still stands, by an entry of its own. Raises NothingToUndo, NoProject."""
    hold(session, project_id)
    last = latest(session, project_id)
    if last.undo_id is None:
        raise NothingToUndo("There is nothing to undo.")
    top = step(session, last.undo_id)
    first = step(session, top.spell_id) if top.spell_id else top
    rows = session.scalars(
        select(Change.rows)
        .where(Change.project_id == project_id, Change.version >= first.version, Change.version <= top.version)
        .order_by(Change.version.desc())
    )
    below = _at(session, project_id, first.version - 1)
    parts = [turned_round(loaded(r)) for r in rows]
    return _replayed(session, project_id, last, top, parts, undo_id=below.undo_id, redo_id=None, deed=deed)


def redo(session: Session, project_id: str, deed: str | None = None) -> Written:
    """Make the latest undone change again, by taking its undo back. Raises NothingToUndo, NoProject."""
    hold(session, project_id)
    last = latest(session, project_id)
    if last.redo_id is None:
        raise NothingToUndo("There is nothing to redo.")
    undone = step(session, last.redo_id)
    parts = [turned_round(loaded(session.scalars(select(Change.rows).where(Change.id == undone.id)).one()))]
    below = _at(session, project_id, undone.version - 1)
    return _replayed(
        session, project_id, last, undone, parts, undo_id=undone.takes_back, redo_id=below.redo_id, deed=deed
    )


def begin_anew(session: Session, project_id: str) -> None:
    """Let nothing earlier be undone from here on."""
    hold(session, project_id)
    last = latest(session, project_id)
    session.add(Change(project_id=project_id, version=last.version + 1, label="the history begins", rows="[]"))
    session.flush()


def next_labels(session: Session, project_id: str) -> tuple[str | None, str | None]:
    """The labels of what undo and redo would do next, with who did it where there are accounts."""
    last = latest(session, project_id)
    back = _by_whom(step(session, last.undo_id)) if last.undo_id else None
    forth = _by_whom(step(session, last.redo_id)) if last.redo_id else None
    return back, forth


def _by_whom(s: Step) -> str:
    return f"{s.by}: {s.label}" if s.by else s.label


def step(session: Session, change_id: int) -> Step:
    """An entry by its id."""
    return Step(*session.execute(select(*STEP).where(Change.id == change_id)).one())


def history(session: Session, project_id: str, most: int | None = None) -> tuple[list[Step], list[Step]]:
    """What stands, newest first, and what can be made again, next first; the ends of spells stand for them."""
    entries = session.execute(select(*STEP).where(Change.project_id == project_id).order_by(Change.version))
    steps = [Step(*row) for row in entries]
    if not steps:
        return [], []
    by_id = {s.id: s for s in steps}

    def before(s: Step) -> Step:
        return steps[s.version - 2] if s.version > 1 else NO_STEP

    stands: list[Step] = []
    at = steps[-1].undo_id
    while at is not None and (most is None or len(stands) < most):
        top = by_id[at]
        stands.append(top)
        at = before(by_id[top.spell_id] if top.spell_id else top).undo_id
    undone: list[Step] = []
    at = steps[-1].redo_id
    while at is not None and (most is None or len(undone) < most):
        undone.append(by_id[by_id[at].takes_back or 0])
        at = before(by_id[at]).redo_id
    return stands, undone


def done_before(session: Session, project_id: str, deed: str) -> int | None:
    """The version that a request of that name made; None when it was not done yet."""
    return session.scalar(select(Change.version).where(Change.project_id == project_id, Change.deed == deed))


@dataclass(frozen=True)
class News:
    """What entries touched up to a version: ids of rows by table."""

    version: int
    touched: dict[str, list[str]]


def news_since(session: Session, project_id: str, version: int, most: int) -> News | None:
    """What entries after a version touched; None when these are more than `most`, or the journal has no such version."""
    entries = session.execute(
        select(Change.version, Change.rows)
        .where(Change.project_id == project_id, Change.version > version)
        .order_by(Change.version)
        .limit(most + 1)
    ).all()
    if len(entries) > most or (not entries and latest(session, project_id).version != version):
        return None
    found: dict[str, dict[str, None]] = {}
    for _, text in entries:
        for r in loaded(text):
            found.setdefault(r.table, {})[r.id] = None
    newest = entries[-1].version if entries else version
    return News(newest, {table: list(ids) for table, ids in found.items()})


def _goes_on(last: Step, label: str, within_s: float) -> bool:
    return (
        last.takes_back is None
        and last.undo_id == last.id
        and last.label == label
        and last.by == at_work()
        and last.at >= now() - timedelta(seconds=within_s)
    )


def _at(session: Session, project_id: str, version: int) -> Step:
    row = session.execute(select(*STEP).where(Change.project_id == project_id, Change.version == version)).first()
    return Step(*row) if row else NO_STEP


def _gather(
    seen: dict[tuple[str, str], RowChange], model: Journaled, version: int, *, is_new: bool, is_gone: bool
) -> None:
    columns = inspect(model).mapper.column_attrs
    table = model.__tablename__  # type: ignore[attr-defined]
    for c in columns:
        default = c.columns[0].default
        if is_new and getattr(model, c.key) is None and default is not None:
            arg = default.arg
            setattr(model, c.key, arg(None) if callable(arg) else arg)
    known = seen.get((table, model.id))
    before = None if is_new else {c.key: _committed(model, c.key) for c in columns}
    if known is None and before is not None and not is_gone:
        model.revision = max(before["revision"] + 1, version)
    after = None if is_gone else {c.key: getattr(model, c.key) for c in columns}
    seen[table, model.id] = RowChange(table, model.id, known.before if known else before, after)


def _committed(model: Journaled, key: str) -> Any:
    history = inspect(model).attrs[key].history
    return history.deleted[0] if history.deleted else getattr(model, key)


def _replayed(
    session: Session,
    project_id: str,
    last: Step,
    taken_back: Step,
    parts: Sequence[Sequence[RowChange]],
    undo_id: int | None,
    redo_id: int | None,
    deed: str | None,
) -> Written:
    """Write rows as they were, and an entry that says so. A redo leaves what was to be redone below it."""
    ids: dict[str, dict[str, None]] = {}
    for part in parts:
        for r in part:
            ids.setdefault(r.table, {})[r.id] = None
    now_there = {table: _rows(session, table, list(wanted)) for table, wanted in ids.items()}
    version = last.version + 1
    rows = changed_rows(now_there, parts, version)
    rows += _come_meanwhile(session, rows)
    _write(session, rows)
    session.expire_all()
    label = taken_back.label
    entry = Change(
        project_id=project_id,
        version=version,
        label=label,
        rows=dumped(rows),
        takes_back=taken_back.id,
        undo_id=undo_id,
        redo_id=redo_id,
        deed=deed,
    )
    session.add(entry)
    session.flush()
    if taken_back.takes_back is None:
        entry.redo_id = entry.id
        session.flush()
    return Written(project_id, label, version, deed, rows)


def _come_meanwhile(session: Session, rows: Sequence[RowChange]) -> list[RowChange]:
    """Takes that came by nobody's deed for shots that are to go: they go with them, and come back with them."""
    shots = [r.id for r in rows if r.table == "shot" and r.after is None]
    if not shots:
        return []
    known = {r.id for r in rows}
    takes = [i for i in session.scalars(select(Take.id).where(Take.shot_id.in_(shots))) if i not in known]
    return [RowChange("take", i, row, None) for i, row in _rows(session, "take", takes).items()]


def _rows(session: Session, table: str, ids: Sequence[str]) -> dict[str, Row]:
    model = JOURNALED[table]
    columns = [c.key for c in inspect(model).mapper.column_attrs]
    found: dict[str, Row] = {}
    for i in range(0, len(ids), 1000):
        query = select(*(getattr(model, c) for c in columns)).where(model.id.in_(ids[i : i + 1000]))
        found |= {row.id: dict(zip(columns, row, strict=True)) for row in session.execute(query)}
    return found


def _write(session: Session, rows: Sequence[RowChange]) -> None:
    """Foreign keys stay on: rows that nothing points to go first, then new rows come, parents before children, then rows change,
    then the rest go, children before parents."""
    rank = {name: i for i, name in enumerate(JOURNALED)}
    gone = sorted((r for r in rows if r.after is None), key=lambda r: -rank[r.table])
    come = sorted((r for r in rows if r.before is None and r.after is not None), key=lambda r: rank[r.table])
    for r in gone:
        if r.table in UNNAMED:
            session.execute(delete(JOURNALED[r.table]).where(JOURNALED[r.table].id == r.id))
    for r in come:
        session.execute(insert(JOURNALED[r.table]).values(**(r.after or {})))
    for r in rows:
        if r.before is not None and r.after is not None:
            values = {k: v for k, v in r.after.items() if v != r.before[k]}
            session.execute(update(JOURNALED[r.table]).where(JOURNALED[r.table].id == r.id).values(**values))
    for r in gone:
        if r.table not in UNNAMED:
            session.execute(delete(JOURNALED[r.table]).where(JOURNALED[r.table].id == r.id))
