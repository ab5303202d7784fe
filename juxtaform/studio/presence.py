"""Who is where: which windows are open on a project, in which view and at which shot. Held in memory, and told to the others."""

from __future__ import annotations

import threading
from collections import defaultdict
from dataclasses import dataclass

from juxtaform.studio.workspace import Listeners

MOST_WINDOWS = 500
"""Windows that are told of in one project; who comes later is not told of."""


@dataclass(frozen=True)
class Here:
    """A window: whose it is (empty where there are no accounts), its view, and the shot that it is at."""

    window: str
    name: str = ""
    account_id: str = ""
    view: str = ""
    shot_id: str | None = None


class Presence:
    """The windows of all projects of one server."""

    def __init__(self, listeners: Listeners) -> None:
        self._listeners = listeners
        self._lock = threading.Lock()
        self._windows: dict[str, dict[str, Here]] = defaultdict(dict)
        self._stamps: dict[str, int] = defaultdict(int)

    def stamp(self, project_id: str) -> int:
        """Counts what happened, so that a listener knows whether to look."""
        return self._stamps.get(project_id, 0)

    def of(self, project_id: str) -> list[Here]:
        """The windows that are open on a project, in the order in which they came."""
        with self._lock:
            return list(self._windows.get(project_id, {}).values())

    def came(self, project_id: str, here: Here) -> None:
        """A window opened; where it is told already, that stays."""
        with self._lock:
            windows = self._windows[project_id]
            if here.window in windows or len(windows) >= MOST_WINDOWS:
                return
            windows[here.window] = here
            self._stamps[project_id] += 1
        self._listeners.nudge(project_id)

    def moved(self, project_id: str, here: Here) -> None:
        """A window is somewhere else; one that is not open is not told of."""
        with self._lock:
            windows = self._windows.get(project_id, {})
            if windows.get(here.window) in (None, here):
                return
            windows[here.window] = here
            self._stamps[project_id] += 1
        self._listeners.nudge(project_id)

    def left(self, project_id: str, window: str) -> None:
        """A window closed."""
        with self._lock:
            windows = self._windows.get(project_id, {})
            if windows.pop(window, None) is None:
                return
            if not windows:
                del self._windows[project_id]
            self._stamps[project_id] += 1
        self._listeners.nudge(project_id)
