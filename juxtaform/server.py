"""Run the server: database up, tables migrated, demo loaded on first start, web on loopback."""

from __future__ import annotations

import contextlib
import os
import shutil
import signal
import socket
from collections.abc import Iterator
from pathlib import Path

import uvicorn

from juxtaform import mariadb
from juxtaform.demo import script
from juxtaform.demo.load import load as load_demo
from juxtaform.mariadb import DatabaseTrouble
from juxtaform.media.store import PictureStore
from juxtaform.records.database import Database
from juxtaform.studio import projects
from juxtaform.studio.checking import Checker
from juxtaform.studio.workspace import Workspace
from juxtaform.web.app import create_app

DATABASE_VARIABLE = "JUXTAFORM_DATABASE"
LEAST_FREE_MB = 300


class CannotStart(RuntimeError):
    """The server cannot start; the message is one clear sentence."""


@contextlib.contextmanager
def running_database(var: Path) -> Iterator[str]:
    """The URL of the database: one that already runs (from the environment), or our own in `var`."""
    given = os.environ.get(DATABASE_VARIABLE)
    if given:
        yield given
        return
    try:
        server = mariadb.start(var / "mariadb")
        url = server.create("juxtaform")
    except DatabaseTrouble as error:
        raise CannotStart(str(error)) from error
    try:
        yield url
    finally:
        server.stop()


def opened(url: str, var: Path) -> Workspace:
    """A workspace on a database, migrated. Raises CannotStart."""
    database = Database(url)
    try:
        database.migrate()
    except Exception as error:
        database.close()
        raise CannotStart(f"The database at {_without_password(url)} cannot be used: {_first_line(error)}") from error
    return Workspace(database, PictureStore(var / "pictures"))


def serve(var: Path, port: int, *, demo: bool) -> None:
    """Serve on 127.0.0.1 until interrupted. Raises CannotStart."""
    var.mkdir(parents=True, exist_ok=True)
    free_mb = shutil.disk_usage(var).free // 2**20
    if free_mb < LEAST_FREE_MB:
        raise CannotStart(f"Only {free_mb} MB are free on the disk of {var}: free at least {LEAST_FREE_MB} MB.")
    listening = _listening(port)
    signal.signal(signal.SIGTERM, signal.default_int_handler)
    with running_database(var) as url:
        ws = opened(url, var)
        checker = Checker(ws)
        if demo and not projects.shelf(ws):
            script.load(ws)
            project = load_demo(ws, lambda line: print(line, flush=True))
            print("Checking it …", flush=True)
            checker.start(project)
            checker.wait(project, 300)
        print(f"Juxtaform is at http://127.0.0.1:{listening.getsockname()[1]}  (Ctrl-C stops it)", flush=True)
        config = uvicorn.Config(create_app(ws, checker), log_level="warning", timeout_graceful_shutdown=2)
        try:
            uvicorn.Server(config).run(sockets=[listening])
        except KeyboardInterrupt:
            pass
        finally:
            checker.close()
            ws.database.close()


def _listening(port: int) -> socket.socket:
    s = socket.socket()
    s.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        s.bind(("127.0.0.1", port))
    except OSError as error:
        s.close()
        raise CannotStart(
            f"Port {port} is in use: stop what runs there, or start with --port and another number."
        ) from error
    s.listen(128)
    return s


def _without_password(url: str) -> str:
    return url.split("@", 1)[-1]


def _first_line(error: Exception) -> str:
    return str(getattr(error, "orig", error)).splitlines()[0]
