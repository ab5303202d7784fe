"""What happened to a project after a version: read from the journal, so that a restart loses no news."""

from __future__ import annotations

from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session

from juxtaform.records import journal
from juxtaform.records.models import JOURNALED, Picture, Project
from juxtaform.studio.workspace import Changed, Row, Workspace, found, pictures_of, plain

MOST_ENTRIES = 2000
"""Who is further behind takes the whole project anew."""


class TooFarBehind(LookupError):
    """The journal cannot bring this version up to now: take the whole project anew."""


def since(ws: Workspace, project_id: str, version: int) -> Changed | None:
    """What happened after a version, as the rows stand now; None for nothing. Raises NotThere, TooFarBehind."""
    with ws.database.reading() as s:
        found(s, Project, project_id)
        last = journal.latest(s, project_id)
        if last.version == version:
            return None
        news = None
        if 0 <= version < last.version:
            news = journal.news_since(s, project_id, version, MOST_ENTRIES)
        if news is None:
            raise TooFarBehind(project_id)
        rows: dict[str, list[Row]] = {}
        gone: dict[str, list[str]] = {}
        for table, ids in news.touched.items():
            there = _rows(s, table, ids)
            if there:
                rows[table] = list(there.values())
            if missing := [i for i in ids if i not in there]:
                gone[table] = missing
        shas = pictures_of(rows)
        pictures = [plain(p) for p in s.scalars(select(Picture).where(Picture.sha.in_(shas)))] if shas else []
        back, forth = journal.next_labels(s, project_id)
        return Changed(project_id, last.version, version, last.label, rows, gone, pictures, back, forth)


def nothing(ws: Workspace, project_id: str) -> Changed:
    """The project's version, and that nothing happened. Raises NotThere."""
    with ws.database.reading() as s:
        found(s, Project, project_id)
        version = journal.latest(s, project_id).version
        return Changed(project_id, version, version, "", {}, {}, [], *journal.next_labels(s, project_id))


def _rows(s: Session, table: str, ids: Sequence[str]) -> dict[str, Row]:
    model = JOURNALED[table]
    found_rows: dict[str, Row] = {}
    for i in range(0, len(ids), 1000):
        found_rows |= {r.id: plain(r) for r in s.scalars(select(model).where(model.id.in_(ids[i : i + 1000])))}  # type: ignore[arg-type]
    return found_rows
