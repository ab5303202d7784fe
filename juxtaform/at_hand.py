"""The database and the pictures in a folder, for the server and for commands that do one thing; nothing of the web is loaded for them."""

from __future__ import annotations

import contextlib
import os
import tempfile
from collections.abc import Iterator
from pathlib import Path

from sqlalchemy import make_url
from sqlalchemy.exc import ArgumentError

from juxtaform import private
from juxtaform.keeper import Keeper
from juxtaform.listening import CannotStart
from juxtaform.mariadb import OURS, DatabaseTrouble, url_of_running
from juxtaform.media.store import PictureStore
from juxtaform.records.database import Database
from juxtaform.studio.workspace import Workspace

DATABASE_VARIABLE = "JUXTAFORM_DATABASE"
DIALECT = "mysql+pymysql"


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


@contextlib.contextmanager
def at_hand(var: Path) -> Iterator[Workspace]:
    """The workspace in `var`, with its database up, for a command that does one thing. Raises CannotStart, also where there is none: a command that
    was given the wrong folder must not begin an empty one there."""
    if not os.environ.get(DATABASE_VARIABLE) and not (var / "mariadb").exists():
        raise CannotStart(f"There is no Juxtaform in {var.absolute()}. Give the folder of yours with --var.")
    with _url_at_hand(var) as url:
        ws = opened(url, var)
        try:
            yield ws
        finally:
            ws.database.close()


@contextlib.contextmanager
def database_at_hand(var: Path) -> Iterator[Database]:
    """The database alone, as it is. Raises CannotStart."""
    with _url_at_hand(var) as url:
        database = Database(url)
        try:
            yield database
        finally:
            database.close()


@contextlib.contextmanager
def _url_at_hand(var: Path) -> Iterator[str]:
    """The URL of the database: of a server that runs on `var` already, or of one that is started for this."""
    os.umask(0o077)
    made_folder(var)
    running = None if os.environ.get(DATABASE_VARIABLE) else url_of_running(var / "mariadb", OURS)
    with contextlib.nullcontext(running) if running else running_database(var) as url:
        yield url


def made_folder(var: Path) -> None:
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


def _first_line(error: Exception) -> str:
    """What the database said, in its first line; a driver's numbers and brackets are left out."""
    cause = getattr(error, "orig", error)
    words = cause.args[1] if len(getattr(cause, "args", ())) > 1 else cause
    return (str(words).splitlines() or [type(error).__name__])[0]
