"""A project sent whole: every row is made into JSON once and kept for as long as it stays the same."""

from __future__ import annotations

from collections.abc import Iterable

from fastapi import Response
from pydantic import TypeAdapter

from juxtaform.records import journal
from juxtaform.records.models import APART, JOURNALED, Base, Journaled
from juxtaform.studio.live import LiveProject, LiveProjects
from juxtaform.studio.rows import ProjectRows
from juxtaform.web.rows import PictureRow, Rows

_PICTURE = TypeAdapter(PictureRow)
_ROW = {
    table: TypeAdapter(Rows.model_fields[table].annotation.__args__[0])  # type: ignore[union-attr]
    for table in JOURNALED
    if table not in APART
}
OF_TAKES = ("take", "mark", "fault_mark")


def whole(projects: LiveProjects, project_id: str, *, picked_alone: bool) -> Response:
    """The whole project, or with the picked takes alone. Raises NotThere."""
    with projects.at(project_id) as (live, rows, session):
        back, forth = journal.next_labels(session, project_id)
        tables, pictures = live.once(("whole", picked_alone), lambda: _whole(live, rows, picked_alone=picked_alone))
        return _answer(
            project_id=project_id,
            version=rows.version,
            rows=tables,
            pictures=pictures,
            undo_label=back,
            redo_label=forth,
        )


def _whole(live: LiveProject, rows: ProjectRows, *, picked_alone: bool) -> tuple[bytes, bytes]:
    """All tables, and the pictures that they name."""
    tables = [_table(live, t, rows.table(t)) for t in _ROW if not (picked_alone and t in OF_TAKES)]
    if picked_alone:
        tables += [_table(live, t, of) for t, of in _of_takes(rows, picked=True).items()]
    shas = rows.shas() if not picked_alone else _shas(rows)
    return b"{" + b",".join(tables) + b"}", _pictures(live, rows, shas)


def others(projects: LiveProjects, project_id: str) -> Response:
    """The takes that are not picked, with their marks and pictures. Raises NotThere."""
    with projects.at(project_id) as (live, rows, _):
        takes = _of_takes(rows, picked=False)
        tables = [_table(live, t, of) for t, of in takes.items()]
        shas = {t.picture_sha for t in rows.takes.values() if not t.picked}
        return _answer(version=rows.version, rows=b"{" + b",".join(tables) + b"}", pictures=_pictures(live, rows, shas))


def _of_takes(rows: ProjectRows, *, picked: bool) -> dict[str, list[Journaled]]:
    takes = {t.id: t for t in rows.takes.values() if t.picked == picked}
    return {
        "take": list(takes.values()),
        "mark": [m for m in rows.marks.values() if m.take_id in takes],
        "fault_mark": [m for m in rows.fault_marks.values() if m.take_id in takes],
    }


def _shas(rows: ProjectRows) -> set[str]:
    left = {t.picture_sha for t in rows.takes.values() if t.picked}
    left |= {r.picture_sha for r in rows.references.values()}
    return left | {x.sketch_sha for x in rows.shots.values() if x.sketch_sha}


def _table(live: LiveProject, table: str, rows: Iterable[Journaled]) -> bytes:
    adapter = _ROW[table]

    def made(row: Base) -> bytes:
        return adapter.dump_json(adapter.validate_python(row, from_attributes=True))

    parts = b",".join(live.of_row(r, r.id, made) for r in rows)
    return b'"%s":[%s]' % (table.encode(), parts)


def _pictures(live: LiveProject, rows: ProjectRows, shas: Iterable[str]) -> bytes:
    def made(row: Base) -> bytes:
        return _PICTURE.dump_json(_PICTURE.validate_python(row, from_attributes=True))

    shown = (rows.pictures[sha] for sha in shas if sha in rows.pictures)
    return b"[%s]" % b",".join(live.of_row(p, p.sha, made) for p in shown)


def _answer(**parts: object) -> Response:
    text = TypeAdapter(object)
    fields = [
        b'"%s":%s' % (name.encode(), part if isinstance(part, bytes) else text.dump_json(part))
        for name, part in parts.items()
    ]
    return Response(b"{" + b",".join(fields) + b"}", media_type="application/json")
