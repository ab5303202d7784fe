"""Keep what we start up: when the database or the Understudy dies it is started again, on the same data and port."""

from __future__ import annotations

import logging
import os
import subprocess
import sys
import threading
import time
from pathlib import Path

from juxtaform import mariadb, private
from juxtaform.mariadb import DatabaseTrouble, MariaDB

LOOK_S = 0.5
STOP_S = 5.0
LEAST_WAIT_S, MOST_WAIT_S = 0.5, 8.0
BACKUP_LOOK_S, BACKUP_AGAIN_S = 30.0, 600.0
log = logging.getLogger("juxtaform")


class Keeper:
    """A database that is kept up until `stop`. Raises DatabaseTrouble when it does not come up at first."""

    def __init__(self, data: Path) -> None:
        self._data = data
        self._stopping = threading.Event()
        self.server: MariaDB = mariadb.start(data)
        # The server ends with the thread that started it; this one lives as long as it is to.
        self._thread = threading.Thread(target=self._keep, name="database", daemon=True)
        self._thread.start()

    def stop(self) -> None:
        """Shut the database down, and do not start it again."""
        self._stopping.set()
        self._thread.join(2 * LOOK_S + mariadb.START_TIMEOUT_S)
        self.server.stop()

    def _keep(self) -> None:
        wait = LEAST_WAIT_S
        while not self._stopping.wait(LOOK_S):
            if self.server.process.poll() is None:
                continue
            log.warning("MariaDB ended (exit code %s). It is started again.", self.server.process.returncode)
            try:
                self.server = mariadb.start(self._data, self.server.port)
                wait = LEAST_WAIT_S
                log.warning("MariaDB runs again.")
            except DatabaseTrouble as error:
                log.error("%s Trying again.", error)
                self._stopping.wait(wait)
                wait = min(MOST_WAIT_S, 2 * wait)


class UnderstudyKeeper:
    """The Understudy, a process of its own on loopback that ends with us; `service` is its address and token. Raises OSError when it does not
    come up at first."""

    def __init__(self, var: Path) -> None:
        self._folder = private.folder(var / "understudy")
        self._token = private.password(self._folder / "token")
        self._stopping = threading.Event()
        self._started = threading.Event()
        self._trouble: OSError | None = None
        self._port = 0
        # It ends with the thread that started it; this one lives as long as it is to.
        self._thread = threading.Thread(target=self._keep, name="understudy", daemon=True)
        self._thread.start()
        self._started.wait()
        if self._trouble is not None:
            raise self._trouble

    @property
    def service(self) -> tuple[str, str]:
        return f"http://127.0.0.1:{self._port}", self._token

    def stop(self) -> None:
        """End it, and do not start it again."""
        self._stopping.set()
        self._thread.join(2 * LOOK_S + STOP_S)

    def _keep(self) -> None:
        try:
            process = self._run()
        except OSError as error:
            self._trouble = error
            return
        finally:
            self._started.set()
        wait = LEAST_WAIT_S
        while not self._stopping.wait(LOOK_S):
            if process.poll() is None:
                continue
            log.warning("The Understudy ended (exit code %s). It is started again.", process.returncode)
            try:
                process = self._run()
                wait = LEAST_WAIT_S
            except OSError as error:
                log.error("%s Trying again.", error)
                self._stopping.wait(wait)
                wait = min(MOST_WAIT_S, 2 * wait)
        process.terminate()
        try:
            process.wait(STOP_S)
        except subprocess.TimeoutExpired:
            process.kill()

    def _run(self) -> subprocess.Popen[str]:
        """Start it on the port that it had, and wait until it says where it is."""
        command = [
            sys.executable,
            "-m",
            "juxtaform.cli",
            "understudy",
            "--port",
            str(self._port),
            "--keep",
            str(self._folder),
            "--tells",
        ]
        process = subprocess.Popen(
            command,
            env={**os.environ, "JUXTAFORM_UNDERSTUDY_TOKEN": self._token},
            stdin=subprocess.DEVNULL,
            stdout=subprocess.PIPE,
            text=True,
            start_new_session=True,
            preexec_fn=mariadb.end_with_parent,
        )
        assert process.stdout is not None
        said = process.stdout.readline()
        if "http://127.0.0.1:" not in said:
            process.kill()
            raise OSError(f"The Understudy did not start: {said.strip() or 'it said nothing'}.")
        self._port = int(said.split("http://127.0.0.1:")[1].split("/")[0])
        return process


class BackupKeeper:
    """Backups in a file, every so many hours for as long as the server runs; the first one at once if the last is older than that. Each is made
    by a process of its own, so that nobody waits for it."""

    def __init__(self, var: Path, file: Path, every_h: float) -> None:
        self._var, self._file, self._every_s = var, file, every_h * 3600
        self._stopping = threading.Event()
        self._thread = threading.Thread(target=self._keep, name="backup", daemon=True)
        self._thread.start()

    def stop(self) -> None:
        """Begin no other one; one that is under way is ended, and leaves the file as it was."""
        self._stopping.set()
        self._thread.join(2 * STOP_S)

    def _keep(self) -> None:
        while not self._stopping.wait(min(BACKUP_LOOK_S, self._every_s / 4)):
            if self._is_due():
                self._back_up()

    def _is_due(self) -> bool:
        try:
            return time.time() - self._file.stat().st_mtime >= self._every_s
        except FileNotFoundError:
            return True

    def _back_up(self) -> None:
        command = [sys.executable, "-m", "juxtaform.cli", "backup", str(self._file), "--var", str(self._var)]
        process = subprocess.Popen(
            command, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, preexec_fn=mariadb.end_with_parent
        )
        while process.poll() is None:
            if self._stopping.wait(LOOK_S):
                process.terminate()
        said = (process.stdout.read() if process.stdout else "").strip()
        if process.returncode:
            log.error("The backup to %s failed (exit code %s): %s", self._file, process.returncode, said)
            self._stopping.wait(min(BACKUP_AGAIN_S, self._every_s))
        else:
            log.info("%s", said)
