"""Start and stop a MariaDB server of our own: on loopback, with its own data directory, closed to everybody else.

Who may in is said anew at each start, before the server listens: one user of ours, with a random password, on our databases alone;
and the server's root by a socket in a folder that only we may enter.
"""

from __future__ import annotations

import contextlib
import ctypes
import fcntl
import os
import shutil
import signal
import socket
import subprocess
import tempfile
import time
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import pymysql

from juxtaform import private

START_TIMEOUT_S = 120
FLEETING = [
    "--innodb-flush-log-at-trx-commit=0",
    "--innodb-flush-method=nosync",
    "--innodb-doublewrite=OFF",
    "--skip-log-bin",
]
LEAST_FREE_MB = 300
PREDECESSOR_S = 12
"""How long a server that is still shutting down on the same data is waited for."""
USER, HOST, OURS = "juxtaform", "127.0.0.1", "juxtaform"
"""Our user, where it comes from, and how the names of our databases begin."""
PORT = "port"
"""The file that tells where the server of a data directory listens."""
IN_USE = "its data is in use, perhaps by a Juxtaform that already runs; stop that one first."
LONGEST_SOCKET = 100
_PR_SET_PDEATHSIG = 1


class DatabaseTrouble(RuntimeError):
    """The database cannot be had; the message is one clear sentence for the user."""


@dataclass
class MariaDB:
    """A running server; `url(name)` names a database on it."""

    process: subprocess.Popen[bytes]
    port: int
    password: str = field(repr=False)

    def url(self, name: str) -> str:
        return _url(self.password, self.port, name)

    def connection(self, **options: Any) -> pymysql.Connection[Any]:
        """A connection of our user."""
        return pymysql.connect(
            host=HOST, port=self.port, user=USER, password=self.password, ssl_disabled=True, **options
        )

    def create(self, name: str) -> str:
        """Create the database if it is not there; returns its URL. All our databases begin with our name."""
        with contextlib.closing(self.connection()) as connection:
            connection.cursor().execute(
                f"CREATE DATABASE IF NOT EXISTS `{_ours(name)}` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_520_ci"
            )
        return self.url(name)

    def stop(self) -> None:
        """Shut down cleanly."""
        if self.process.poll() is None:
            self.process.terminate()
            try:
                self.process.wait(30)
            except subprocess.TimeoutExpired:
                self.process.kill()


def url_of_running(data: Path, name: str) -> str | None:
    """The URL of a database on the server that runs on `data` already; None where none does."""
    own = data.resolve().parent / f"{data.name}.run"
    try:
        port, password = int((own / PORT).read_text("utf-8")), (own / "password").read_text("utf-8").strip()
        pymysql.connect(host=HOST, port=port, user=USER, password=password, connect_timeout=2).close()
    except (OSError, ValueError, pymysql.Error):
        return None
    return _url(password, port, name)


def _url(password: str, port: int, name: str) -> str:
    return f"mysql+pymysql://{USER}:{password}@{HOST}:{port}/{_ours(name)}?charset=utf8mb4"


def start(data: Path, port: int | None = None, *, lasting: bool = True) -> MariaDB:
    """Start a server on 127.0.0.1 with its data in `data` (made on first use). Data that need not outlive the machine (`lasting` is False)
    is not waited for on the disk. Raises DatabaseTrouble."""
    data = data.resolve()
    server, installer = shutil.which("mariadbd"), shutil.which("mariadb-install-db")
    if not server or not installer:
        raise DatabaseTrouble(
            "MariaDB is not installed: run bin/start, which installs it, or apt-get install mariadb-server."
        )
    data.parent.mkdir(parents=True, exist_ok=True)
    free_mb = shutil.disk_usage(data.parent).free // 2**20
    if free_mb < LEAST_FREE_MB:
        raise DatabaseTrouble(
            f"Only {free_mb} MB are free on the disk of {data.parent}: free at least {LEAST_FREE_MB} MB."
        )
    # A server that starts clears away temporary tables in its folder, those of other servers too: each has a folder of its own.
    temporary = private.folder(data.parent / f"{data.name}.tmp")
    own = private.folder(data.parent / f"{data.name}.run")
    password = private.password(own / "password")
    if data.exists():
        private.folder(data)
    as_root = ["--user=root"] if hasattr(os, "geteuid") and os.geteuid() == 0 else []
    if not (data / "mysql").exists():
        made = subprocess.run(
            [
                installer,
                "--no-defaults",
                f"--datadir={data}",
                f"--tmpdir={temporary}",
                "--auth-root-authentication-method=normal",
                "--skip-test-db",
                *as_root,
            ],
            capture_output=True,
            text=True,
            check=False,
            umask=0o077,
        )
        if made.returncode:
            shutil.rmtree(data, ignore_errors=True)
            raise DatabaseTrouble(
                f"MariaDB could not make its data directory {data}: {_last_line(made.stderr or made.stdout)}"
            )
        private.folder(data)
    log = data.parent / f"{data.name}.log"
    private.close(log)
    lock = _alone(own / "lock")
    doors = private.written(own / "doors.sql", _doors(password))
    try:
        more = as_root if lasting else [*as_root, *FLEETING]
        return _come_up(server, data, temporary, own, password, port, more, log, lock)
    finally:
        os.close(lock)
        doors.unlink(missing_ok=True)


def _alone(lock: Path) -> int:
    """Hold a data directory: the server inherits this lock and keeps it until it ends. Raises DatabaseTrouble."""
    handle = os.open(lock, os.O_RDWR | os.O_CREAT, private.FILE)
    deadline = time.monotonic() + PREDECESSOR_S
    while True:
        try:
            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
            return handle
        except OSError as error:
            if time.monotonic() > deadline:
                os.close(handle)
                raise DatabaseTrouble(f"MariaDB did not come up: {IN_USE}") from error
            time.sleep(0.2)


def _come_up(
    server: str,
    data: Path,
    temporary: Path,
    own: Path,
    password: str,
    port: int | None,
    more: list[str],
    log: Path,
    lock: int,
) -> MariaDB:
    deadline = time.monotonic() + START_TIMEOUT_S
    while True:
        begun = log.stat().st_size if log.exists() else 0
        chosen = port or free_port()
        running = MariaDB(_launched(_command(server, data, temporary, own, chosen, more), log, lock), chosen, password)
        if _answers(running, deadline):
            private.written(own / PORT, str(chosen))
            return running
        if running.process.poll() is None:
            running.stop()
            raise DatabaseTrouble(f"MariaDB did not answer within {START_TIMEOUT_S} seconds. Its log is {log}.")
        if port is None and _port_taken(log, begun):
            continue  # Another program took the free port in the moment before.
        if not _locked(log, begun) or time.monotonic() > deadline - START_TIMEOUT_S + PREDECESSOR_S:
            raise DatabaseTrouble(f"MariaDB did not come up: {_why(log, begun)} Its log is {log}.")
        time.sleep(0.5)


def _doors(password: str) -> str:
    """What is said before the server listens: who may in, and to what."""
    return "\n".join(
        (
            f"DELETE FROM mysql.global_priv WHERE (User, Host) NOT IN (('root', 'localhost'), ('mariadb.sys', 'localhost'), ('{USER}', '{HOST}'));",
            f"DELETE FROM mysql.db WHERE User <> '{USER}';",
            "FLUSH PRIVILEGES;",
            "ALTER USER 'root'@'localhost' IDENTIFIED VIA unix_socket;",
            f"CREATE OR REPLACE USER '{USER}'@'{HOST}' IDENTIFIED BY '{password}';",
            f"GRANT ALL PRIVILEGES ON `{OURS}%`.* TO '{USER}'@'{HOST}';",
            "",
        )
    )


def _ours(name: str) -> str:
    return name if name.startswith(OURS) else f"{OURS}_{name}"


def _command(server: str, data: Path, temporary: Path, own: Path, port: int, more: list[str]) -> list[str]:
    sock = own / "s.sock"
    if len(str(sock)) > LONGEST_SOCKET:
        sock = Path(tempfile.mkdtemp(prefix="juxtaform-")) / "s.sock"
    files = private.folder(own / "files")
    return [
        server,
        "--no-defaults",
        f"--datadir={data}",
        f"--tmpdir={temporary}",
        f"--socket={sock}",
        f"--port={port}",
        "--bind-address=127.0.0.1",
        f"--init-file={own / 'doors.sql'}",
        f"--secure-file-priv={files}",
        "--local-infile=OFF",
        "--character-set-server=utf8mb4",
        "--skip-name-resolve",
        "--max-allowed-packet=256M",
        "--innodb-buffer-pool-size=128M",
        "--performance-schema=OFF",
        "--innodb-flush-log-at-trx-commit=1",
        *more,
    ]


def _launched(command: list[str], log: Path, lock: int) -> subprocess.Popen[bytes]:
    closed = {**os.environ, "UMASK": "0600", "UMASK_DIR": "0700"}
    with os.fdopen(os.open(log, os.O_WRONLY | os.O_CREAT | os.O_APPEND, private.FILE), "ab") as out:
        return subprocess.Popen(
            command,
            stdout=out,
            stderr=out,
            start_new_session=True,
            preexec_fn=end_with_parent,
            env=closed,
            umask=0o077,
            pass_fds=(lock,),
        )


def end_with_parent() -> None:
    """Ask the kernel to stop this process in good order when the one that started it dies."""
    ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGTERM)


def _answers(running: MariaDB, deadline: float) -> bool:
    while time.monotonic() < deadline and running.process.poll() is None:
        with contextlib.suppress(pymysql.Error, OSError):
            running.connection(connect_timeout=2, read_timeout=2).close()
            return running.process.poll() is None
        time.sleep(0.1)
    return False


def free_port() -> int:
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return int(s.getsockname()[1])


def _errors(log: Path, begun: int) -> list[str]:
    with log.open("rb") as file:
        file.seek(begun)
        return [line for line in file.read().decode(errors="replace").splitlines() if "[ERROR]" in line]


def _locked(log: Path, begun: int) -> bool:
    return any("lock" in line.lower() for line in _errors(log, begun))


def _port_taken(log: Path, begun: int) -> bool:
    return any("Address already in use" in line for line in _errors(log, begun))


def _why(log: Path, begun: int) -> str:
    if _locked(log, begun):
        return IN_USE
    if _port_taken(log, begun):
        return "its port is taken by another program; choose another one."
    return _last_line("\n".join(_errors(log, begun))).split("[ERROR]")[-1].strip() + "."


def _last_line(text: str) -> str:
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    return lines[-1] if lines else "no reason given"
