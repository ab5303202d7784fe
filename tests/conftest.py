"""A real MariaDB of the tests' own, a workspace on it, and small real picture files."""

from __future__ import annotations

import atexit
import io
import itertools
import threading
import time
from collections.abc import Callable, Iterator, Sequence
from contextlib import ExitStack, contextmanager
from dataclasses import replace
from functools import cache
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import uvicorn
from anyio.from_thread import BlockingPortal, start_blocking_portal
from argon2 import PasswordHasher
from fastapi import FastAPI
from fastapi.testclient import TestClient
from PIL import Image
from sqlalchemy import event

from juxtaform import mariadb
from juxtaform.listening import listening_on
from juxtaform.media.store import PictureStore
from juxtaform.records.database import Database
from juxtaform.records.models import JOURNALED, Project
from juxtaform.studio import plan, projects, proposals, secrets, story, takes, threads
from juxtaform.studio.checking import Checker
from juxtaform.studio.gauging import Gauge
from juxtaform.studio.measuring import pool
from juxtaform.studio.storytext import text_of
from juxtaform.studio.workspace import Workspace, found, of_project, plain
from juxtaform.web.app import Entrance, create_app
from tests.constructed import Look, random_pose, reference, scene
from tests.drawn import keep_drawings

keep_drawings()
_names = (f"test_{i}" for i in itertools.count())
LOOK = Look("#b4532a", "#efc09c", "#dba326", "#3b3f73", "#2f7d4f", "#c8322b", extra_form=0)


@pytest.fixture(scope="session", autouse=True)
def real_hasher() -> Iterator[PasswordHasher]:
    """The hasher of the house, in whose place tests have a quick one: they sign in some hundred times, and a hash is made to cost."""
    real, nobody = secrets._hasher, secrets._nobody
    secrets._hasher = PasswordHasher(time_cost=1, memory_cost=2048, parallelism=1)
    secrets._nobody = secrets._hasher.hash("nobody")
    yield real
    secrets._hasher, secrets._nobody = real, nobody


@pytest.fixture(scope="session")
def server(tmp_path_factory) -> Iterator[mariadb.MariaDB]:
    running = mariadb.start(tmp_path_factory.mktemp("db") / "data", lasting=False)
    yield running
    running.stop()


_tables: list[str] = []


def tables_of(database: Database) -> list[str]:
    """The statements that make the tables of a database as they stand, and what its schema is called."""
    with database.engine.begin() as connection:
        names = connection.exec_driver_sql("SHOW TABLES").scalars().all()
        made = [connection.exec_driver_sql(f"SHOW CREATE TABLE `{n}`").one()[1] for n in names]
        version = connection.exec_driver_sql("SELECT version_num FROM alembic_version").scalar_one()
    return [*made, f"INSERT INTO alembic_version VALUES ('{version}')"]


def with_tables(server: mariadb.MariaDB, tables: Sequence[str]) -> Database:
    """A new database with such tables, at once: migrations take a second and more."""
    database = Database(server.create(next(_names)))
    with database.engine.begin() as connection:
        connection.exec_driver_sql("SET foreign_key_checks = 0")
        for statement in tables:
            connection.exec_driver_sql(statement.replace("%", "%%"))
        connection.exec_driver_sql("SET foreign_key_checks = 1")
    return database


def migrated(server: mariadb.MariaDB) -> Database:
    """A database of its own with all tables. The first one comes up by its migrations."""
    if _tables:
        return with_tables(server, _tables)
    database = Database(server.create(next(_names)))
    database.migrate()
    _tables.extend(tables_of(database))
    return database


@pytest.fixture(scope="session")
def ws(server, tmp_path_factory) -> Iterator[Workspace]:
    database = migrated(server)
    yield Workspace(database, PictureStore(tmp_path_factory.mktemp("pictures")))
    database.close()


@pytest.fixture(scope="session")
def checker(ws) -> Iterator[Checker]:
    with pool() as executor:
        made = Checker(ws, executor)
        yield made
        made.close()


@contextmanager
def empty_workspace(server: mariadb.MariaDB, root: Path) -> Iterator[Workspace]:
    """A workspace on a database of its own, migrated and empty."""
    database = migrated(server)
    try:
        yield Workspace(database, PictureStore(root))
    finally:
        database.close()


@pytest.fixture
def project(ws) -> str:
    return projects.make(ws, "A test")


@cache
def _loop() -> BlockingPortal:
    ways = ExitStack()
    atexit.register(ways.close)
    return ways.enter_context(start_blocking_portal())


def client_on(app: FastAPI, **options: Any) -> TestClient:
    """A client on an application. All answer in one event loop: by itself a client makes a thread and a loop for every question."""
    client = TestClient(app, **{"base_url": "http://127.0.0.1", **options})
    client.portal = _loop()
    return client


@cache
def documented() -> dict[str, Any]:
    """The API's own document: to make it takes seconds."""
    return create_app(None, None).openapi()  # type: ignore[arg-type]


def client_of(ws: Workspace, checker: Checker, **options: Any) -> TestClient:
    """A client on the application, as a page of its own would be."""
    return client_on(create_app(ws, checker), **options)


@contextmanager
def served(
    ws: Workspace,
    checker: Checker,
    more: Callable[[FastAPI], object] = lambda app: None,
    entrance: Entrance | None = None,
) -> Iterator[str]:
    """The application on a real port, with what else a test adds to it; its address."""
    app = create_app(ws, checker, entrance)
    more(app)
    listening = listening_on(0)
    config = uvicorn.Config(app, log_level="critical", timeout_graceful_shutdown=1)
    server = uvicorn.Server(config)
    running = threading.Thread(target=server.run, kwargs={"sockets": [listening]}, daemon=True)
    running.start()
    try:
        yield f"http://127.0.0.1:{listening.getsockname()[1]}"
    finally:
        server.should_exit = True
        running.join(120)  # Whoever ends late would stop what the next test checks.


def plan_from(ws: Workspace, project: str, text: str) -> None:
    """Keep a text and settle the shots proposed from it."""
    story.keep(ws, project, text)
    proposals.propose(ws, project)
    proposals.accept(ws, project, [s["id"] for s in rows(ws, project, "shot")])


def png(pixels: np.ndarray, **options: object) -> bytes:
    """A file of the picture, packed quickly: tests write very many."""
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, "PNG", **{"compress_level": 1, **options})
    return out.getvalue()


def flat(code: tuple[int, int, int] = (200, 60, 40), size: tuple[int, int] = (64, 48)) -> bytes:
    """A small picture of one colour with a dot, so that different colours are different files."""
    pixels = np.full((size[1], size[0], 3), code, np.uint8)
    pixels[10:14, 10:14] = 255
    return png(pixels)


def row(ws: Workspace, project: str, table: str, index: int = 0) -> dict:
    return rows(ws, project, table)[index]


def rows(ws: Workspace, project: str, table: str) -> list[dict]:
    """A table's rows; shots in the order of the story."""
    with ws.database.reading() as s:
        if table == "project":
            return [plain(found(s, Project, project))]
        told = plan.in_order(s, project) if table == "shot" else of_project(s, JOURNALED[table], project)
        return [plain(r) for r in told]


def statements(ws: Workspace, deed: Callable[[], object]) -> int:
    """How often a deed asks the database."""
    count = 0

    def counted(*_: object) -> None:
        nonlocal count
        count += 1

    event.listen(ws.database.engine, "before_cursor_execute", counted)
    try:
        deed()
    finally:
        event.remove(ws.database.engine, "before_cursor_execute", counted)
    return count


def joined(parts: list[dict]) -> str:
    """The text that its parts are."""
    return "".join(p["words"] for p in sorted(parts, key=lambda p: p["position"]))


def text_in(ws: Workspace, project: str) -> str:
    return joined(projects.snapshot(ws, project).rows["text_part"])


def covered_in(ws: Workspace, project: str) -> list[str | None]:
    """The words that each shot covers, in the order of the story."""
    with ws.database.session() as s:
        text = text_of(s, project)
        return [text.covered(x) if text.stretch(x) else None for x in plan.in_order(s, project)]


def measured_takes(ws: Workspace, checker: Checker, project: str, take_ids: list[str]) -> None:
    """Measure some takes, as the server does when they come."""
    gauge = Gauge(ws, checker.workers)
    gauge.want(project, take_ids)
    until = time.monotonic() + 300
    while gauge.status(project).done < len(take_ids) and time.monotonic() < until:
        time.sleep(0.1)
    gauge.close()


class Staged:
    """A project with one character in four shots: pictures drawn, marked and assigned; shot 3 has a recoloured coat."""

    def __init__(self, ws: Workspace) -> None:
        self.ws = ws
        self.project = projects.make(ws, "Staged")
        text = "# One\nAda came in.\n# Two\nAda sat down.\n# Three\nAda stood up.\n# Four\nAda left."
        threads.make(ws, self.project, "character", "Ada")
        threads.make(ws, self.project, "style", "Paper")
        plan_from(ws, self.project, text)
        self.ada, self.style = (t["id"] for t in rows(ws, self.project, "thread"))
        rng = np.random.default_rng(3)
        for i, pixels in enumerate((reference(LOOK), reference(LOOK, random_pose(rng)))):
            taken = takes.take_in(ws, f"ada{i}.png", png(pixels))
            threads.add_references(ws, self.project, self.ada, [(taken.sha, f"view {i}")], "")
        for g in (5, 6, 7):
            taken = takes.take_in(ws, f"style{g}.png", png(scene([], rng, ground=g)[0]))
            threads.add_references(ws, self.project, self.style, [(taken.sha, f"style {g}")], "")
        self.shots = [s["id"] for s in rows(ws, self.project, "shot")]
        assert len(self.shots) == 4
        self.pictures, self.boxes = [], []
        for i in range(4):
            look = replace(LOOK, coat="#6b4a8c") if i == 2 else LOOK
            picture, [box] = scene([look], rng, ground=(0, 2, 5, 8)[i], scale=1.0)
            self.pictures.append(png(picture))
            self.boxes.append(box)
        self.good_third, [self.good_box] = scene([LOOK], np.random.default_rng(3), ground=5, scale=1.0)
        files = [(f"p{i + 1}.png", str(takes.take_in(ws, f"p{i + 1}.png", d).sha)) for i, d in enumerate(self.pictures)]
        takes.accept(ws, self.project, [(n, sha, self.shots[i]) for i, (n, sha) in enumerate(files)])
        for take in rows(ws, self.project, "take"):
            takes.mark(ws, self.project, take["id"], self.ada, self.boxes[self.shots.index(take["shot_id"])])
