"""Migrations run both ways; the journal takes back and makes again."""

import json
from concurrent.futures import ThreadPoolExecutor

import pytest
from sqlalchemy import inspect, select, text
from sqlalchemy.orm.exc import StaleDataError

from juxtaform.records import journal, measures
from juxtaform.records.database import Database
from juxtaform.records.models import Base, Bead, Change, Measure, Project, Scene, Shot, Thread
from juxtaform.records.trouble import trouble_of
from juxtaform.studio.storytext import text_of
from tests.conftest import migrated


def test_migrations_make_the_models_tables_and_take_them_away_again(server):
    database = Database(server.create("migrations"))
    database.migrate()
    made = {t for t in inspect(database.engine).get_table_names() if t != "alembic_version"}
    assert made == set(Base.metadata.tables)
    for name, table in Base.metadata.tables.items():
        assert {c["name"] for c in inspect(database.engine).get_columns(name)} == {c.name for c in table.columns}
        assert {i.name for i in table.indexes} <= {i["name"] for i in inspect(database.engine).get_indexes(name)}
    database.migrate_down("base")
    assert inspect(database.engine).get_table_names() == ["alembic_version"]
    database.migrate()
    database.close()


def test_a_database_of_the_tests_has_the_tables_that_migrations_make(server):
    def told(database: Database) -> list[object]:
        with database.engine.connect() as connection:
            names = connection.exec_driver_sql("SHOW TABLES").scalars().all()
            made = [connection.exec_driver_sql(f"SHOW CREATE TABLE `{n}`").one()[1].splitlines() for n in names]
            lines = [
                sorted(line.rstrip(",") for line in table) for table in made
            ]  # keys that came later stand elsewhere
            return [*lines, connection.exec_driver_sql("SELECT version_num FROM alembic_version").scalar_one()]

    slow, quick = Database(server.create("slow")), [migrated(server), migrated(server)][1]
    slow.migrate()
    assert told(slow) == told(quick)
    slow.close()
    quick.close()


def an_older_project(database: Database, project: str, words: str) -> None:
    """A project's row as a schema had it before a text had parts."""
    given = {
        "id": project,
        "title": "Older",
        "text": words,
        "source": "{}",
        "syntax": "prose",
        "premise": "",
        "tone": "",
        "shape": "three acts",
        "medium": "film",
        "language": "English",
        "audience": "silent",
        "seed_rule": "free",
        "profile": "",
    }
    with database.engine.begin() as connection:
        for column in inspect(database.engine).get_columns("project"):
            name = column["name"]
            if name not in given and not column["nullable"] and column["default"] is None:
                given[name] = "2026-01-01" if name.endswith("_at") else "[]" if "JSON" in str(column["type"]) else "1"
                given[name] = "[]" if str(column["type"]).startswith("LONGTEXT") else given[name]
        names = ", ".join(f"`{n}`" for n in given)
        connection.execute(text(f"INSERT INTO project ({names}) VALUES ({', '.join(f':{n}' for n in given)})"), given)


def test_a_text_in_one_becomes_parts_and_goes_back(server):
    """What each shot covers stays, both ways, over all that came later; nothing from before can be undone."""
    database = Database(server.create("in_one"))
    database.migrate("0007")
    words = "".join(f"The {i}th tide came in and went out.\n\n" for i in range(200)) + "The last stayed."
    places = [(words.index(f"The {i}th"), words.index(f"The {i + 1}th") - 2) for i in range(0, 190, 9)]
    project = "a" * 32
    an_older_project(database, project, words)
    with database.session() as s:
        s.execute(
            text("INSERT INTO scene (id, revision, project_id, position, title) VALUES (:p, 1, :p, 0, '')"),
            {"p": project},
        )
        columns = {c["name"]: c for c in inspect(database.engine).get_columns("shot")}
        for i, (start, end) in enumerate([*places, (None, None)]):
            row = {
                "id": f"{i:032x}",
                "project_id": project,
                "scene_id": project,
                "position": i,
                "span_start": start,
                "span_end": end,
            }
            for name, column in columns.items():
                if name not in row and not column["nullable"] and column["default"] is None:
                    row[name] = {"size": "MS", "angle": "eye level", "move": "static", "length_s": 2}.get(
                        name, "[]" if str(column["type"]).startswith("LONGTEXT") else "1"
                    )
            names = ", ".join(f"`{n}`" for n in row)
            s.execute(text(f"INSERT INTO shot ({names}) VALUES ({', '.join(f':{n}' for n in row)})"), row)
    entry = "INSERT INTO `change` (project_id, version, label, `rows`, undo_id, at) VALUES (:p, 1, 'edited', :r, 1, '2026-01-01')"
    with database.session() as s:
        s.execute(text(entry), {"p": project, "r": json.dumps([["project", project, {"text": ""}, {"text": words}]])})
    database.migrate()
    with database.session() as s:
        story = text_of(s, project)
        assert story.words == words
        assert len(story.ids) > 5
        shots = s.scalars(select(Shot).order_by(Shot.position)).all()
        assert [story.stretch(x) for x in shots] == [*places, None]
        assert journal.next_labels(s, project) == (None, None)
    database.migrate_down("0007")
    with database.session() as s:
        assert s.scalar(text("SELECT text FROM project")) == words
        there = s.execute(text("SELECT span_start, span_end FROM shot ORDER BY position")).all()
        assert [tuple(r) for r in there] == [*places, (None, None)]
    database.migrate()
    database.close()


def test_a_history_from_before_the_one_clock_goes_on_with_what_was_undone(server):
    """Entries with a flag that says undone become entries that say what they take back."""
    database = Database(server.create("older"))
    database.migrate("0004")
    project, scene = "a" * 32, "b" * 32
    row = {"id": scene, "revision": 1, "project_id": project, "position": 0.0, "title": "One"}
    renamed = {**row, "revision": 2, "title": "Two"}
    changes = [("made", [["scene", scene, None, row]], 0), ("renamed", [["scene", scene, row, renamed]], 1)]
    an_older_project(database, project, "")
    with database.engine.begin() as connection:
        connection.execute(
            text(
                "INSERT INTO scene (id, revision, project_id, position, title) VALUES (:id, :revision, :project_id, :position, :title)"
            ),
            row,
        )
        for label, rows, undone in changes:
            connection.execute(
                text(
                    "INSERT INTO `change` (project_id, label, `rows`, undone, at) VALUES (:p, :l, :r, :u, '2026-01-01')"
                ),
                {"p": project, "l": label, "r": json.dumps(rows), "u": undone},
            )
    database.migrate()
    with database.session() as s:
        assert journal.next_labels(s, project) == ("made", "renamed")
        assert [e.label for e in journal.history(s, project)[0]] == ["made"]
        assert journal.redo(s, project).rows[0].after["title"] == "Two"
        assert journal.next_labels(s, project) == ("renamed", None)
        journal.undo(s, project)
        assert journal.undo(s, project).rows[0].after is None
        assert s.scalars(select(Scene).where(Scene.project_id == project)).all() == []
        versions = s.scalars(select(Change.version).where(Change.project_id == project).order_by(Change.id)).all()
        assert versions == list(range(1, 7))
    database.close()


@pytest.fixture
def made(ws):
    with ws.database.session() as s:
        project = Project(title="Journal ‘ö’ 🦀")
        s.add(project)
        s.flush()
        with journal.change(s, project.id, "made a shot") as written:
            scene = Scene(project_id=project.id, position=0.0)
            thread = Thread(project_id=project.id, kind="character", name="Ada", position=0.0)
            s.add_all([scene, thread])
            s.flush()
            shot = Shot(project_id=project.id, scene_id=scene.id, position=0.0, shows="One")
            s.add(shot)
            s.flush()
            s.add(Bead(project_id=project.id, shot_id=shot.id, thread_id=thread.id))
    assert len(written.rows) == 4
    return project.id, shot.id


def shows(ws, shot_id):
    with ws.database.session() as s:
        shot = s.get(Shot, shot_id)
        return shot and shot.shows


def edit(ws, project_id, shot_id, text):
    with ws.database.session() as s, journal.change(s, project_id, f"wrote {text}"):
        s.get(Shot, shot_id).shows = text


def step(ws, project_id, what):
    with ws.database.session() as s:
        return what(s, project_id)


def test_undo_and_redo_walk_through_edits(ws, made):
    project_id, shot_id = made
    edit(ws, project_id, shot_id, "Two")
    edit(ws, project_id, shot_id, "Three")
    assert step(ws, project_id, journal.undo).label == "wrote Three"
    assert shows(ws, shot_id) == "Two"
    step(ws, project_id, journal.undo)
    assert shows(ws, shot_id) == "One"
    step(ws, project_id, journal.redo)
    assert shows(ws, shot_id) == "Two"


def test_undo_of_a_making_takes_children_away_and_redo_brings_them_back_with_their_ids(ws, made):
    project_id, shot_id = made
    step(ws, project_id, journal.undo)
    assert shows(ws, shot_id) is None
    step(ws, project_id, journal.redo)
    assert shows(ws, shot_id) == "One"
    with ws.database.session() as s:
        assert s.scalars(select(Bead).where(Bead.shot_id == shot_id)).one().weight == 0.8


def test_a_new_change_forgets_what_was_undone(ws, made):
    project_id, shot_id = made
    edit(ws, project_id, shot_id, "Two")
    step(ws, project_id, journal.undo)
    edit(ws, project_id, shot_id, "Other")
    with pytest.raises(journal.NothingToUndo):
        step(ws, project_id, journal.redo)


def test_a_change_that_fails_leaves_nothing(ws, made):
    project_id, shot_id = made
    with pytest.raises(RuntimeError), ws.database.session() as s, journal.change(s, project_id, "fails"):
        s.get(Shot, shot_id).shows = "Half"
        s.flush()
        raise RuntimeError
    assert shows(ws, shot_id) == "One"
    with ws.database.session() as s:
        assert journal.next_labels(s, project_id)[0] == "made a shot"


def test_every_edit_raises_the_revision_and_undo_too(ws, made):
    project_id, shot_id = made
    edit(ws, project_id, shot_id, "Two")
    step(ws, project_id, journal.undo)
    with ws.database.session() as s:
        assert s.get(Shot, shot_id).revision == 3


def test_who_measures_the_same_at_the_same_time_agrees(ws):
    def keep(i):
        measures.keep(ws.database, "1", {"one key": f"made by {i}"})
        return i

    with ThreadPoolExecutor(8) as executor:
        assert len(list(executor.map(keep, range(40)))) == 40
    with ws.database.session() as s:
        assert s.get(Measure, "one key").data.startswith("made by ")


def test_a_row_that_somebody_else_wrote_is_not_written_over(server):
    """Whoever would write without holding the project is stopped by the row's revision."""
    database = Database(server.create("written_over"))
    database.migrate()
    with database.session() as s:
        s.add(Project(id="a" * 32, title="First"))
    with pytest.raises(StaleDataError) as caught, database.session() as late:
        mine = late.get(Project, "a" * 32)
        with database.session() as quick:
            theirs = quick.get(Project, "a" * 32)
            theirs.title, theirs.revision = "Theirs", 2
        mine.title, mine.revision = "Mine", 2
    assert trouble_of(caught.value) == "busy"
    with database.session() as s:
        assert s.get(Project, "a" * 32).title == "Theirs"
    database.close()
