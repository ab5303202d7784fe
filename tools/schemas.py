"""Make `tests/records/schemas`: a project's data as each released schema held it, by taking a full one down step by step.

    python -m tools.schemas

Only the schema that is new is added: what is there is what was released, and is never made again.
"""

from __future__ import annotations

import gzip
import json
import tempfile
from pathlib import Path

import pyotp
from alembic.script import ScriptDirectory

from juxtaform import mariadb
from juxtaform.media.store import PictureStore
from juxtaform.records import dump
from juxtaform.records.database import Database
from juxtaform.studio import accounts, invitations, second, showings, shown, tokens
from juxtaform.studio.shown import NewNote
from juxtaform.studio.workspace import Workspace
from tests.people import PASSWORD, joins, person
from tests.small import Small

SCHEMAS = Path(__file__).parents[1] / "tests" / "records" / "schemas"


def main() -> None:
    SCHEMAS.mkdir(exist_ok=True)
    with tempfile.TemporaryDirectory() as home:
        server = mariadb.start(Path(home) / "data", lasting=False)
        try:
            database = Database(server.create("schemas"))
            database.migrate()
            with_people(Workspace(database, PictureStore(Path(home) / "pictures")))
            script = ScriptDirectory.from_config(database.alembic())
            for step in script.walk_revisions():
                path = SCHEMAS / f"{step.revision}.json.gz"
                if not path.exists():
                    path.write_bytes(gzip.compress(json.dumps(held(database), ensure_ascii=False).encode(), mtime=0))
                    print(f"made {path.name}")
                if step.down_revision:
                    database.migrate_down(str(step.down_revision))
            database.close()
        finally:
            server.stop()


def with_people(ws: Workspace) -> None:
    """A full project with who works on it and who saw it."""
    small = Small(ws)
    mira = person(ws, "mira", keeper=True)
    joins(ws, small.project, mira, "owner")
    accounts.sign_in(ws, "mira", PASSWORD, "", "", "a browser")
    code = pyotp.TOTP(second.offer(ws, mira.id).secret).now()
    second.confirm(ws, mira.id, code)
    tokens.make(ws, mira.id, "a script", "read", small.project, 30)
    invitations.to_project(ws, small.project, "reviewer", mira.id)
    secret, _ = showings.make(ws, small.project, "To Ines", "Look.", 14)
    done = shown.open_by(ws, secret, "", "")
    shown.note(ws, done.showing_id, done.cookie, NewNote(small.ids["shot_id"], "Her boots!", "Ines", [0.5, 0.5]))
    shown.say(ws, done.showing_id, done.cookie, small.ids["shot_id"], "change", "Ines")
    shown.sign(ws, done.showing_id, done.cookie, "Ines", "Lovely.")


def held(database: Database) -> dict[str, list[dict[str, object]]]:
    """All rows of all tables."""
    with database.engine.connect() as connection:
        return {t: list(dump.rows(connection, t)) for t in dump.tables(connection)}


if __name__ == "__main__":
    main()
