"""Keep a database of our own up: when it dies it is started again, on the same data and port."""

from __future__ import annotations

import logging
import threading
from pathlib import Path

from juxtaform import mariadb
from juxtaform.mariadb import DatabaseTrouble, MariaDB

LOOK_S = 0.5
LEAST_WAIT_S, MOST_WAIT_S = 0.5, 8.0
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
