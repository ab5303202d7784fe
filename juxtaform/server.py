"""Run the server: database up, tables migrated, demo loaded on first start, web on loopback."""

from __future__ import annotations

import contextlib
import logging
import os
import shutil
import signal
import socket
import tempfile
from collections.abc import Iterator
from logging.handlers import RotatingFileHandler
from pathlib import Path

import uvicorn
from sqlalchemy import make_url
from sqlalchemy.exc import ArgumentError

from juxtaform import private
from juxtaform.demo import made, script
from juxtaform.demo.load import load as load_demo
from juxtaform.keeper import Keeper, UnderstudyKeeper
from juxtaform.mariadb import DatabaseTrouble
from juxtaform.media.store import PictureStore
from juxtaform.records.database import Database
from juxtaform.studio import housekeeping, projects
from juxtaform.studio.checking import Checker
from juxtaform.studio.workspace import Workspace
from juxtaform.web.app import create_app

DATABASE_VARIABLE = "JUXTAFORM_DATABASE"
DIALECT = "mysql+pymysql"
LEAST_FREE_MB = 300
LOG_BYTES, LOGS_KEPT = 4 << 20, 3
MOST_PORT = 65535


class CannotStart(RuntimeError):
    """The server cannot start; the message is one clear sentence."""


@contextlib.contextmanager
def running_understudy(var: Path) -> Iterator[tuple[str, str]]:
    """The address and the token of the picture-making service that ships, which is kept up."""
    try:
        keeper = UnderstudyKeeper(var)
    except OSError as error:
        raise CannotStart(str(error)) from error
    try:
        yield keeper.service
    finally:
        keeper.stop()


@contextlib.contextmanager
def running_database(var: Path) -> Iterator[str]:
    """The URL of the database: one that already runs (from the environment), or our own in `var`, which is kept up."""
    given = os.environ.get(DATABASE_VARIABLE)
    if given:
        yield _address(given)
        return
    try:
        keeper = Keeper(var / "mariadb")
        url = keeper.server.create("juxtaform")
    except DatabaseTrouble as error:
        raise CannotStart(str(error)) from error
    try:
        yield url
    finally:
        keeper.stop()


def _address(given: str) -> str:
    """The database that the environment names. Raises CannotStart without ever telling its password."""
    form = f"{DIALECT}://user:password@host:3306/name"
    try:
        url = make_url(given)
    except (ArgumentError, ValueError):
        raise CannotStart(f"{DATABASE_VARIABLE} is no address of a database. It has the form {form}.") from None
    if url.drivername not in (DIALECT, "mysql", "mariadb", "mariadb+pymysql") or not url.database or not url.host:
        raise CannotStart(
            f"{DATABASE_VARIABLE} does not name a MariaDB, its host and its database: it has the form {form}."
        )
    if "@" in url.host:
        raise CannotStart(
            f"The password in {DATABASE_VARIABLE} has signs that an address gives a meaning: write @ as %40, / as %2F."
        )
    return url.set(drivername=DIALECT).render_as_string(hide_password=False)


def opened(url: str, var: Path) -> Workspace:
    """A workspace on a database, migrated. Raises CannotStart."""
    database = Database(url)
    try:
        database.migrate()
    except Exception as error:
        database.close()
        named = make_url(url)
        raise CannotStart(
            f"The database {named.database} at {named.host} cannot be used: {_first_line(error)}"
        ) from error
    return Workspace(database, PictureStore(private.folder(var / "pictures")))


def serve(var: Path, port: int, *, demo: bool) -> None:
    """Serve on 127.0.0.1 until interrupted. Raises CannotStart."""
    os.umask(0o077)
    _made(var)
    free_mb = shutil.disk_usage(var).free // 2**20
    if free_mb < LEAST_FREE_MB:
        raise CannotStart(f"Only {free_mb} MB are free on the disk of {var}: free at least {LEAST_FREE_MB} MB.")
    listening = listening_on(port)
    signal.signal(signal.SIGTERM, signal.default_int_handler)
    _log_to(var / "juxtaform.log")
    with running_database(var) as url, running_understudy(var) as understudy:
        ws = opened(url, var)
        ws.understudy = understudy
        if cleaned := housekeeping.clean(ws):
            print(cleaned, flush=True)
        checker = Checker(ws)
        if demo and not projects.shelf(ws):
            script.load(ws)
            project = load_demo(ws, lambda line: print(line, flush=True))
            made.make_takes(ws, project, lambda line: print(line, flush=True))
            print("Checking it …", flush=True)
            checker.start(project)
            checker.wait(project, 300)
        print(f"Juxtaform is at http://127.0.0.1:{listening.getsockname()[1]}  (Ctrl-C stops it)", flush=True)
        config = uvicorn.Config(
            create_app(ws, checker), log_level="warning", timeout_graceful_shutdown=2, server_header=False
        )
        try:
            uvicorn.Server(config).run(sockets=[listening])
        except KeyboardInterrupt:
            pass
        finally:
            checker.close()
            ws.database.close()


def _made(var: Path) -> None:
    """The folder for everything, ours alone when it is new."""
    try:
        if not var.exists():
            private.folder(var)
        with tempfile.TemporaryFile(dir=var):
            pass
    except OSError as error:
        raise CannotStart(
            f"{var} cannot be used as the folder for the database and pictures: {error.strerror}. Give another with --var."
        ) from error


def _log_to(path: Path) -> None:
    """Write our log to a file of our own, and warnings to the screen."""
    private.close(path)
    kept = RotatingFileHandler(path, maxBytes=LOG_BYTES, backupCount=LOGS_KEPT, encoding="utf-8")
    kept.setFormatter(logging.Formatter("%(asctime)s %(levelname)s %(message)s"))
    logger = logging.getLogger("juxtaform")
    logger.handlers = [kept, logging.StreamHandler()]
    logger.propagate = False


def listening_on(port: int) -> socket.socket:
    """A socket of ours on loopback; port 0 is any free one. Raises CannotStart."""
    if not 0 <= port <= MOST_PORT:
        raise CannotStart(f"{port} is no port: give a number from 1 to {MOST_PORT}, or 0 for a free one.")
    # Named as TCP, so that answers leave at once: asyncio turns waiting for more off (TCP_NODELAY) for such sockets alone.
    s = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
    s.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        s.bind(("127.0.0.1", port))
    except PermissionError as error:
        s.close()
        raise CannotStart(f"Port {port} is not for everybody: start with --port and a number from 1024 on.") from error
    except OSError as error:
        s.close()
        raise CannotStart(
            f"Port {port} is in use: stop what runs there, or start with --port and another number."
        ) from error
    s.listen(128)
    return s


def _first_line(error: Exception) -> str:
    """What the database said, in its first line; a driver's numbers and brackets are left out."""
    cause = getattr(error, "orig", error)
    words = cause.args[1] if len(getattr(cause, "args", ())) > 1 else cause
    return (str(words).splitlines() or [type(error).__name__])[0]
