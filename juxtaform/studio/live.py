"""Projects as they stand, held in memory and brought up to date by the journal; shared by all who read them."""

from __future__ import annotations

import threading
import time
from collections import OrderedDict
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from typing import Any, TypeVar

from sqlalchemy.orm import Session

from juxtaform.records.models import Base
from juxtaform.studio import checking, news
from juxtaform.studio.checking import CheckStatus
from juxtaform.studio.rows import ProjectRows, Touched
from juxtaform.studio.workspace import Changed, NotThere, Workspace

Made = TypeVar("Made")

MOST_PROJECTS = 12
"""The number of projects that are held; the one that nobody asked for longest goes first."""
MOST_KEPT = 2000
"""Rows that were touched are kept for a follower up to so many; then it begins anew."""
LOOK_AGAIN_S = 20.0
"""Seconds after which the journal is read even when nobody in this process has written."""


@dataclass
class Follower:
    """What happened to a project's rows since it was last asked; None where that is too much to say."""

    touched: Touched | None = None

    def take(self) -> Touched | None:
        since, self.touched = self.touched, {}
        return since


@dataclass
class LiveProject:
    """One project; its rows are read and changed under its lock alone."""

    lock: threading.RLock = field(default_factory=threading.RLock)
    rows: ProjectRows | None = None
    followers: list[Follower] = field(default_factory=list)
    woken: bool = True
    heard_at: float = 0.0
    check: CheckStatus = field(default_factory=lambda: CheckStatus("never"))
    _made: dict[tuple[str, str], tuple[Base, Any]] = field(default_factory=dict)
    _said: dict[object, Any] = field(default_factory=dict)
    _beside: dict[type, Any] = field(default_factory=dict)

    def follow(self) -> Follower:
        """From now on told what happens to the rows."""
        follower = Follower()
        self.followers.append(follower)
        return follower

    def of_row(self, row: Any, key: str, make: Callable[[Any], Made]) -> Made:
        """What is made of a row, made once for as long as the row stays the same."""
        kept = self._made.get((row.__tablename__, key))
        if kept is None or kept[0] is not row:
            kept = self._made[row.__tablename__, key] = row, make(row)
        made: Made = kept[1]
        return made

    def once(self, key: object, make: Callable[[], Made]) -> Made:
        """What is made of the project as it stands, made once until something happens."""
        if key not in self._said:
            self._said[key] = make()
        made: Made = self._said[key]
        return made

    def kept(self, kind: type[Made], make: Callable[[], Made]) -> Made:
        """What somebody keeps beside the rows, made when it is first asked for."""
        if kind not in self._beside:
            self._beside[kind] = make()
        made: Made = self._beside[kind]
        return made

    def catch_up(self, session: Session, project_id: str) -> ProjectRows:
        """The rows as they are now. Raises NotThere."""
        touched = self.rows.catch_up(session) if self.rows is not None else None
        if self.rows is None or touched is None:
            self.rows = ProjectRows(session, project_id)
            self._made, self._said = {}, {}
        elif touched:
            self._said = {}
        session.expunge_all()  # The rows outlive the transaction, however it ends.
        if touched != {}:
            for f in self.followers:
                f.touched = None if touched is None or f.touched is None else _both(f.touched, touched)
        return self.rows


class LiveProjects:
    """The projects of a running server."""

    def __init__(self, ws: Workspace) -> None:
        self._ws = ws
        self._lock = threading.Lock()
        self._projects: OrderedDict[str, LiveProject] = OrderedDict()
        ws.listeners.follow(self._wake)

    @contextmanager
    def at(self, project_id: str) -> Iterator[tuple[LiveProject, ProjectRows, Session]]:
        """A project as it is now, nobody else's while this lasts; what is read with the session is of the same moment. Raises NotThere."""
        live = self._live(project_id)
        with live.lock, self._ws.database.reading() as s:
            try:
                rows = live.catch_up(s, project_id)
            except NotThere:
                with self._lock:
                    self._projects.pop(project_id, None)
                raise
            yield live, rows, s

    def heard(self, project_id: str, after: int) -> tuple[Changed | None, CheckStatus]:
        """What happened after a version, None for nothing, and how the check stands: read once however many listen. Raises NotThere,
        TooFarBehind."""
        live = self._live(project_id)
        with live.lock:
            if live.woken or time.monotonic() - live.heard_at > LOOK_AGAIN_S:
                live.woken = False
                live._said = {}
                live.check = checking.status(self._ws, project_id)
                live.heard_at = time.monotonic()
            return live.once(("news", after), lambda: news.since(self._ws, project_id, after)), live.check

    def said(self, project_id: str, key: object, make: Callable[[], Made]) -> Made:
        """What is made of news, made once until the next."""
        live = self._live(project_id)
        with live.lock:
            return live.once(key, make)

    def _live(self, project_id: str) -> LiveProject:
        with self._lock:
            live = self._projects.setdefault(project_id, LiveProject())
            self._projects.move_to_end(project_id)
            while len(self._projects) > MOST_PROJECTS:
                self._projects.popitem(last=False)
            return live

    def _wake(self, project_id: str) -> None:
        with self._lock:
            live = self._projects.get(project_id)
        if live is not None:
            live.woken = True


def _both(first: Touched, then: Touched) -> Touched | None:
    """What was touched in two steps; None where that is too much to keep for somebody who does not ask."""
    touched = {t: [*first.get(t, []), *then.get(t, [])] for t in dict.fromkeys((*first, *then))}
    return touched if sum(map(len, touched.values())) <= MOST_KEPT else None
