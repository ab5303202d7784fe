"""Work that goes on in the background: each project has a line of its own, done a batch after another, so that a big one keeps nobody else waiting."""

from __future__ import annotations

import logging
import threading
from collections.abc import Sequence
from concurrent.futures import BrokenExecutor
from dataclasses import dataclass, field

from sqlalchemy.exc import SQLAlchemyError

from juxtaform.studio.measuring import Workers
from juxtaform.studio.workspace import Workspace

CLOSING_S = 10.0
log = logging.getLogger("juxtaform")


@dataclass
class Line:
    """What waits of a project, what is under way, and how far it is; `message` says what is wrong."""

    waiting: list[str] = field(default_factory=list)
    under_way: list[str] = field(default_factory=list)
    done: int = 0
    total: int = 0
    message: str = ""
    stopped: bool = False
    thread: threading.Thread | None = None


class Lines:
    """The lines of all projects, for one kind of work; one for a running server. Whoever does the work says in `_work` what comes of a batch."""

    NAME = "line"
    ENDED = "A process that looks at pictures ended (out of memory?). Try again."
    BROKE_OFF = "It broke off"

    def __init__(self, ws: Workspace, workers: Workers) -> None:
        self.ws, self.workers = ws, workers
        self._lock = threading.Lock()
        self._lines: dict[str, Line] = {}
        self._closed = False

    def wait(self, project_id: str, timeout_s: float = 120) -> None:
        """Wait until a project's line is empty."""
        line = self._lines.get(project_id)
        thread = line.thread if line else None
        if thread:
            thread.join(timeout_s)

    def close(self) -> None:
        self._closed = True
        for project_id in list(self._lines):
            self._stop(project_id, CLOSING_S)

    def _put(self, project_id: str, ids: Sequence[str]) -> None:
        """Put ids at the end of a line, unless they wait there already."""
        with self._lock:
            line = self._lines.setdefault(project_id, Line())
            fresh = [i for i in dict.fromkeys(ids) if i not in line.waiting]
            if line.thread is None:
                line.done, line.total, line.message, line.stopped = 0, 0, "", False
            line.waiting += fresh
            line.total += len(fresh)
            if fresh and line.thread is None and not self._closed:
                line.thread = threading.Thread(
                    target=self._run, args=(project_id, line), daemon=True, name=f"{self.NAME}-{project_id[:6]}"
                )
                line.thread.start()

    def _stop(self, project_id: str, timeout_s: float = 120) -> None:
        with self._lock:
            if (line := self._lines.get(project_id)) is not None:
                line.stopped = True
                line.total -= len(line.waiting)
                line.waiting.clear()
        self.wait(project_id, timeout_s)

    def _run(self, project_id: str, line: Line) -> None:
        while True:
            with self._lock:
                batch, line.waiting, line.stopped = line.waiting, [], False
                line.under_way = batch
                if not batch:
                    line.thread, line.done = None, line.total
                    break
            before = line.done
            try:
                self._work(project_id, line, batch)
            except BrokenExecutor:
                self.workers.drop()
                line.message = self.ENDED
            except (SQLAlchemyError, OSError, LookupError, RuntimeError) as error:
                if not self._closed:
                    log.exception("%s of %s: %s", self.NAME, project_id, self.BROKE_OFF)
                line.message = f"{self.BROKE_OFF}: {error}"
            line.done = before + len(batch)
            self._tell(project_id)
        self._tell(project_id)

    def _work(self, project_id: str, line: Line, batch: Sequence[str]) -> None:
        raise NotImplementedError

    def _tell(self, project_id: str) -> None:
        """How a project's line stands has changed."""
        self.ws.listeners.wake(project_id)
