"""Run the server: database up, tables migrated, demo loaded on first start, web on loopback."""

from __future__ import annotations

import contextlib
import logging
import os
import shutil
import signal
import socket
from collections.abc import Iterator
from logging.handlers import QueueHandler, QueueListener, RotatingFileHandler, SysLogHandler
from pathlib import Path
from queue import SimpleQueue
from urllib.parse import urlsplit

import uvicorn
from fastapi import FastAPI

from juxtaform import private
from juxtaform.at_hand import made_folder, opened, running_database
from juxtaform.demo import made, script
from juxtaform.demo.load import load as load_demo
from juxtaform.demo.seen import by_a_viewer
from juxtaform.keeper import BackupKeeper, UnderstudyKeeper
from juxtaform.limits import RESTING_S
from juxtaform.listening import CannotStart, listening_on
from juxtaform.reach import PLAIN_WARNING, CannotReach, Reach, open_once_somebody_is_known
from juxtaform.services.scanner import Scanner
from juxtaform.studio import housekeeping, invitations, projects
from juxtaform.studio.checking import Checker
from juxtaform.studio.workspace import Workspace
from juxtaform.web.app import create_app

LEAST_FREE_MB = 300
LOG_VARIABLE, SYSLOG_PORT = "JUXTAFORM_LOG", 514
SCANNER_VARIABLE = "JUXTAFORM_SCANNER"
LOG_BYTES, LOGS_KEPT = 4 << 20, 3


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


def serve(
    var: Path, port: int, *, demo: bool, reach: Reach | None = None, backup: tuple[Path, float] | None = None
) -> None:
    """Serve on 127.0.0.1, and where it is to be reached from elsewhere, until interrupted. Raises CannotStart."""
    reach = reach or Reach()
    os.umask(0o077)
    made_folder(var)
    free_mb = shutil.disk_usage(var).free // 2**20
    if free_mb < LEAST_FREE_MB:
        raise CannotStart(f"Only {free_mb} MB are free on the disk of {var}: free at least {LEAST_FREE_MB} MB.")
    scanner = _scanner()
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
            by_a_viewer(ws, project, lambda line: print(line, flush=True))
            print("Checking it …", flush=True)
            checker.start(project)
            checker.wait(project, 300)
        own = f"http://127.0.0.1:{listening.getsockname()[1]}"
        app = create_app(ws, checker, reach.entrance(), scanner)
        app.state.own_address = own
        outside = None
        backups = BackupKeeper(var, *backup) if backup else None
        try:
            outside = open_once_somebody_is_known(app, reach, listening.getsockname()[1])
            _say_where(ws, app, reach, own)
            config = uvicorn.Config(
                app,
                log_level="warning",
                timeout_graceful_shutdown=2,
                timeout_keep_alive=RESTING_S,
                server_header=False,
                proxy_headers=bool(reach.public),
            )
            uvicorn.Server(config).run(sockets=[listening])
        except CannotReach as error:
            raise CannotStart(str(error)) from error
        except KeyboardInterrupt:
            pass
        finally:
            if outside:
                outside.stop()
            if backups:
                backups.stop()
            checker.close()
            ws.database.close()


def _say_where(ws: Workspace, app: FastAPI, reach: Reach, own: str) -> None:
    """Print the address, and the way to the first account where one is needed."""
    print(f"Juxtaform is at {own}  (Ctrl-C stops it)", flush=True)
    if not reach.from_elsewhere:
        return
    if not (reach.public or reach.certificate):
        print(PLAIN_WARNING, flush=True)
    if not app.state.doorkeeper.has_accounts():
        print(f"Make the first account: {reach.origin or own}/enter#{invitations.first(ws)}", flush=True)
        print("This link opens once, within 24 hours. Until then nobody comes in from elsewhere.", flush=True)


def _scanner() -> Scanner | None:
    """The scanner that the environment names. Raises CannotStart."""
    given = os.environ.get(SCANNER_VARIABLE)
    try:
        return Scanner.at(given) if given else None
    except ValueError as error:
        raise CannotStart(f"{error} {SCANNER_VARIABLE} has the form icap://127.0.0.1:1344/scan.") from error


def _elsewhere(where: str) -> SysLogHandler:
    """What sends our log to another machine too, or to this one's own collector (syslog). Raises CannotStart."""
    form = f"{LOG_VARIABLE} names a collector of logs as udp://host:514, tcp://host:514 or a socket such as /dev/log."
    to = urlsplit(where)
    try:
        if where.startswith("/"):
            if not Path(where).is_socket():
                raise OSError("there is no such socket")
            made = SysLogHandler(where)
        elif to.scheme in ("udp", "tcp") and to.hostname:
            kind = socket.SOCK_STREAM if to.scheme == "tcp" else socket.SOCK_DGRAM
            made = SysLogHandler((to.hostname, to.port or SYSLOG_PORT), socktype=kind)
        else:
            raise CannotStart(form)
    except (OSError, ValueError) as error:
        raise CannotStart(f"The log cannot be sent to {where}: {error}. {form}") from error
    made.setFormatter(logging.Formatter("juxtaform: %(levelname)s %(message)s"))
    made.setLevel(logging.INFO)
    return made


def _log_to(path: Path) -> None:
    """Write our log to a file of our own, and warnings to the screen."""
    private.close(path)
    kept = RotatingFileHandler(path, maxBytes=LOG_BYTES, backupCount=LOGS_KEPT, encoding="utf-8")
    kept.setFormatter(logging.Formatter("%(asctime)s %(levelname)s %(message)s"))
    logger = logging.getLogger("juxtaform")
    logger.handlers = [kept, logging.StreamHandler()]
    if where := os.environ.get(LOG_VARIABLE):
        # A collector that stands still holds up a thread of its own, and nobody who works here.
        waiting: SimpleQueue[logging.LogRecord] = SimpleQueue()
        QueueListener(waiting, _elsewhere(where)).start()
        logger.addHandler(QueueHandler(waiting))
    logger.propagate = False
