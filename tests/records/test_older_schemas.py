"""Every schema that was released comes up with its data: what it held is there afterwards, and can be worked on."""

import gzip
import json
from pathlib import Path

import pytest
from alembic.script import ScriptDirectory

from juxtaform.media.store import PictureStore
from juxtaform.records import dump
from juxtaform.records.database import Database
from juxtaform.studio import plan, projects
from juxtaform.studio.workspace import Workspace
from tests.conftest import _names, rows, tables_of, text_in, with_tables

SCHEMAS = sorted((Path(__file__).parent / "schemas").glob("*.json.gz"))
KEPT = {
    "shot": ("id", "shows", "size", "length_s", "status"),
    "thread": ("id", "kind", "name", "wording"),
    "take": ("id", "shot_id", "picture_sha", "picked"),
    "mark": ("id", "take_id", "thread_id", "x", "w"),
    "reference": ("id", "thread_id", "picture_sha", "name"),
    "trait": ("id", "name", "x", "h"),
    "scene": ("id", "title"),
}


@pytest.fixture(scope="module")
def tables(server):
    """The tables of every schema, by its name, as one database had them on its way up."""
    database = Database(server.create(next(_names)))
    made = {}
    for path in SCHEMAS:
        database.migrate(path.name[:4])
        made[path.name[:4]] = tables_of(database)
    database.close()
    return made


@pytest.mark.parametrize("path", SCHEMAS, ids=[p.name[:4] for p in SCHEMAS])
def test_an_older_schema_comes_up_with_its_data(server, tables, tmp_path, path):
    held = json.loads(gzip.decompress(path.read_bytes()))
    database = with_tables(server, tables[path.name[:4]])
    with database.engine.begin() as connection:
        for table, kept in held.items():
            dump.put_back(connection, table, kept)
    database.migrate()
    ws = Workspace(database, PictureStore(tmp_path))
    [project] = held["project"]
    p = project["id"]
    now = projects.snapshot(ws, p).rows
    assert now["project"][0]["title"] == project["title"]
    for table, columns in KEPT.items():
        there = {r["id"]: r for r in now[table]}
        for row in held.get(table, []):
            for column in columns:
                if column in row:
                    same = there[row["id"]][column]
                    assert (same == row[column]) or (same is bool(row[column])), (table, column)
        assert len(there) == len(held.get(table, []))
    words = project.get("text") or "".join(
        r["words"] for r in sorted(held.get("text_part", []), key=lambda r: r["position"])
    )
    assert text_in(ws, p) == words
    shot = now["shot"][0]
    notes = lambda: next(r["notes"] for r in rows(ws, p, "shot") if r["id"] == shot["id"])  # noqa: E731
    plan.edit_shot(ws, p, shot["id"], {"notes": "After the upgrade."}, None)
    assert notes() == "After the upgrade."
    projects.undo(ws, p)
    assert notes() == shot["notes"]
    database.close()


def test_there_is_data_of_each_schema(server):
    database = Database(server.create(next(_names)))
    script = ScriptDirectory.from_config(database.alembic())
    assert {p.name[:4] for p in SCHEMAS} == {s.revision for s in script.walk_revisions()}
    database.close()
