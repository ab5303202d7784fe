"""Files out: asked for, made in worker processes one after another, stopped and gone on with, and fetched."""

from __future__ import annotations

import contextlib
import json
import logging
import shutil
import threading
import time
from collections import defaultdict
from collections.abc import Sequence
from concurrent.futures import BrokenExecutor
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import Any, Literal

from sqlalchemy import select, update

from juxtaform.records.models import Delivery, Project, new_id, now
from juxtaform.records.rules import DeliveryKind, DeliveryOptions
from juxtaform.studio import book, outgoing
from juxtaform.studio.lines import Line, Lines
from juxtaform.studio.measuring import Workers
from juxtaform.studio.producing import DeliveryTask, Produced, produce
from juxtaform.studio.rows import ProjectRows
from juxtaform.studio.workspace import NotPossible, NotThere, Workspace, found

State = Literal["waiting", "running", "done", "stopped", "failed"]
LOOK_S = 0.2
GRACE_S = 3600.0
"""Another server may be at work: a younger folder is left alone."""
MOST_KEPT = 60
"""A project keeps so many files out; who wants more removes some."""
log = logging.getLogger("juxtaform")


@dataclass(frozen=True)
class DeliveryView:
    """A file out as it stands: `done` of `total` steps; `message` says what is wrong, or what is not as it should be in a whole file."""

    id: str
    kind: DeliveryKind
    options: DeliveryOptions
    state: State
    done: int
    total: int
    message: str
    name: str
    bytes: int
    asked_at: datetime
    ended_at: datetime | None


@dataclass(frozen=True)
class DeliveryFile:
    """Where a whole file lies, and the name to keep it under."""

    path: Path
    name: str


class Deliveries(Lines):
    """Makes files out in the background, a project's one after another; one for a running server."""

    NAME = "delivery"
    BROKE_OFF = "Making a file broke off"

    def __init__(self, ws: Workspace, workers: Workers) -> None:
        super().__init__(ws, workers)
        self.root = ws.store.root.parent / "deliveries"
        self._stamps: defaultdict[str, int] = defaultdict(int)
        self._stopping: set[str] = set()
        self._told_lock = threading.Lock()

    def start(self) -> None:
        """Go on with what a restart cut off; folders that no row names are cleaned away."""
        with self.ws.database.session() as s:
            named = set(s.scalars(select(Delivery.id)))
            rows = s.execute(
                select(Delivery.project_id, Delivery.id)
                .where(Delivery.state.in_(("waiting", "running")))
                .order_by(Delivery.asked_at)
            ).all()
        for folder in self.root.glob("*"):
            if folder.name not in named and time.time() - folder.stat().st_mtime > GRACE_S:
                shutil.rmtree(folder, ignore_errors=True)
        for project_id, delivery_id in rows:
            (self._folder(delivery_id) / "stop").unlink(missing_ok=True)
            self._put(project_id, [delivery_id])

    def stamp(self, project_id: str) -> int:
        """Rises whenever a file of a project went on."""
        return self._stamps[project_id]

    def all(self, project_id: str) -> list[DeliveryView]:
        """A project's files out, the newest first. Raises NotThere."""
        with self.ws.database.reading() as s:
            found(s, Project, project_id)
            query = select(Delivery).where(Delivery.project_id == project_id)
            return [_view(d) for d in s.scalars(query.order_by(Delivery.asked_at.desc(), Delivery.id))]

    def ask(self, project_id: str, kind: DeliveryKind, options: DeliveryOptions) -> DeliveryView:
        """Ask for a file. Raises NotThere, NotPossible."""
        with self.ws.database.session() as s:
            found(s, Project, project_id)
            query = select(Delivery.id).where(Delivery.project_id == project_id)
            if len(s.scalars(query).all()) >= MOST_KEPT:
                raise NotPossible(f"{MOST_KEPT} files are kept already. Remove some that you have fetched.")
            row = Delivery(id=new_id(), project_id=project_id, kind=kind, options=options.model_dump())
            s.add(row)
            s.flush()
            view = _view(row)
        self._put(project_id, [view.id])
        self._tell(project_id)
        return view

    def stop(self, project_id: str, delivery_id: str) -> DeliveryView:
        """Stop a file that is being made; what is made of it is kept, so that it can be gone on with. Raises NotThere, NotPossible."""
        view = self._one(project_id, delivery_id)
        if view.state not in ("waiting", "running"):
            raise NotPossible("This file is not being made.")
        folder = self._folder(delivery_id)
        folder.mkdir(parents=True, exist_ok=True)
        self._stopping.add(delivery_id)
        (folder / "stop").touch()
        self._write(project_id, delivery_id, state="stopped", ended_at=now())
        return self._one(project_id, delivery_id)

    def resume(self, project_id: str, delivery_id: str) -> DeliveryView:
        """Go on with a file that was stopped or failed. Raises NotThere, NotPossible."""
        view = self._one(project_id, delivery_id)
        if view.state not in ("stopped", "failed"):
            raise NotPossible("This file is made, or being made.")
        self._stopping.discard(delivery_id)
        (self._folder(delivery_id) / "stop").unlink(missing_ok=True)
        self._write(project_id, delivery_id, state="waiting", message="", ended_at=None)
        self._put(project_id, [delivery_id])
        return self._one(project_id, delivery_id)

    def remove(self, project_id: str, delivery_id: str) -> None:
        """Remove a file, or stop it and remove what is made of it. Raises NotThere."""
        view = self._one(project_id, delivery_id)
        if view.state in ("waiting", "running"):
            with contextlib.suppress(NotPossible):  # it came to its end meanwhile
                view = self.stop(project_id, delivery_id)
        with self.ws.database.session() as s:
            s.delete(found_delivery(s, project_id, delivery_id))
        with self._lock:
            line = self._lines.get(project_id)
            under_way = line is not None and delivery_id in (*line.waiting, *line.under_way)
        if view.state in ("done", "failed") or not under_way:  # else whoever makes it clears away when it has stopped
            shutil.rmtree(self._folder(delivery_id), ignore_errors=True)
        self._tell(project_id)

    def file(self, project_id: str, delivery_id: str) -> DeliveryFile:
        """A whole file. Raises NotThere."""
        view = self._one(project_id, delivery_id)
        path = self._folder(delivery_id) / view.name
        if view.state != "done" or not view.name or not path.is_file():
            raise NotThere("This file is not there. Make it again.")
        return DeliveryFile(path, view.name)

    def _one(self, project_id: str, delivery_id: str) -> DeliveryView:
        with self.ws.database.reading() as s:
            return _view(found_delivery(s, project_id, delivery_id))

    def _folder(self, delivery_id: str) -> Path:
        return self.root / delivery_id

    def _work(self, project_id: str, line: Line, batch: Sequence[str]) -> None:
        for delivery_id in batch:
            if line.stopped or self._closed:
                return
            try:
                view = self._one(project_id, delivery_id)
                if view.state in ("waiting", "running"):
                    self._make(project_id, view)
                    self._one(project_id, delivery_id)
            except NotThere:  # removed meanwhile: nobody writes there any more
                shutil.rmtree(self._folder(delivery_id), ignore_errors=True)

    def _make(self, project_id: str, view: DeliveryView) -> None:
        folder = self._folder(view.id)
        (folder / "progress").unlink(missing_ok=True)
        self._write(project_id, view.id, state="running", done=0, total=0, message="")
        with self.ws.database.reading() as s:
            rows = ProjectRows(s, project_id)  # pages and pictures of one moment
        paper = book.of_rows(self.ws, rows) if view.kind in ("book", "dummy", "epub", "cover", "cbz") else None
        layout, cover = (paper.layout, paper.cover) if paper else (None, None)
        task = DeliveryTask(view.kind, view.options, outgoing.of_rows(self.ws, rows), str(folder), layout, cover)
        try:
            made = self._waited(project_id, view.id, task)
        except BrokenExecutor:
            self.workers.drop()
            made = Produced(
                trouble="The process that made it ended (out of memory?). Go on; what was made so far is kept."
            )
        if made is None or view.id in self._stopping or made.stopped:
            return
        path = folder / made.name
        state = "failed" if made.trouble else "done"
        size = path.stat().st_size if state == "done" else 0
        self._write(
            project_id,
            view.id,
            state=state,
            message=made.trouble or made.note,
            name=made.name,
            bytes=size,
            ended_at=now(),
        )

    def _waited(self, project_id: str, delivery_id: str, task: DeliveryTask) -> Produced | None:
        """What comes of a task; None when the server closes before."""
        asked = self.workers.executor().submit(produce, task)
        folder, told = Path(task.folder), (0, 0)
        while not asked.done():
            time.sleep(LOOK_S)
            if self._closed:
                folder.mkdir(parents=True, exist_ok=True)
                (folder / "stop").touch()
            told_now = _progress(folder)
            if told_now != told and not self._closed:
                told = told_now
                self._write(project_id, delivery_id, done=told[0], total=told[1])
        made = asked.result()
        if self._closed and made.stopped:
            (folder / "stop").unlink(missing_ok=True)  # the next start goes on with it
            return None
        return made

    def _write(self, project_id: str, delivery_id: str, **values: Any) -> None:
        with self.ws.database.session() as s:
            query = update(Delivery).where(Delivery.id == delivery_id)
            if delivery_id in self._stopping and values.get("state") != "stopped":
                query = query.where(Delivery.state != "stopped")
            s.execute(query.values(**values))
        self._tell(project_id)

    def _tell(self, project_id: str) -> None:
        with self._told_lock:
            self._stamps[project_id] += 1
        super()._tell(project_id)


def found_delivery(s: Any, project_id: str, delivery_id: str) -> Delivery:
    """A file out of a project. Raises NotThere."""
    row: Delivery | None = s.get(Delivery, delivery_id)
    if row is None or row.project_id != project_id:
        raise NotThere("There is no such file any more.")
    return row


def _view(d: Delivery) -> DeliveryView:
    return DeliveryView(
        d.id,
        d.kind,  # type: ignore[arg-type]
        DeliveryOptions.model_validate(d.options),
        d.state,  # type: ignore[arg-type]
        d.done or 0,
        d.total or 0,
        d.message or "",
        d.name or "",
        d.bytes or 0,
        d.asked_at or now(),
        d.ended_at,
    )


def _progress(folder: Path) -> tuple[int, int]:
    with contextlib.suppress(OSError, ValueError):
        done, total = json.loads((folder / "progress").read_text())
        return int(done), int(total)
    return 0, 0
