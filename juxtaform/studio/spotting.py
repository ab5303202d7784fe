"""Who stands where in a picture that came in: looked for in worker processes, proposed as boxes, confirmed or refused by the user."""

from __future__ import annotations

import functools
from collections.abc import Collection, Sequence
from dataclasses import dataclass
from pathlib import Path

from sqlalchemy import ColumnElement, select
from sqlalchemy.orm import Session

from juxtaform.core.figure.standing import Place, Standing, seen_places, settled
from juxtaform.core.picture.regions import Box
from juxtaform.media.decode import PictureRefused, decoded_file
from juxtaform.media.network import figure_eye
from juxtaform.records.models import Mark, Picture, Project, Take, Thread
from juxtaform.studio import seeking, takes
from juxtaform.studio.lines import Line, Lines
from juxtaform.studio.measuring import FigureFile
from juxtaform.studio.seeking import heaviest, place_key, sought_of
from juxtaform.studio.sequence import sought_figures
from juxtaform.studio.workspace import Changed, NotPossible, Workspace, edited, found, of_project


@dataclass(frozen=True)
class SpotTask:
    """A picture and the figures to look for in it."""

    path: str
    sha: str
    figures: tuple[FigureFile, ...]


@dataclass(frozen=True)
class Spotted:
    """The places of each figure of a task, by key; `trouble` says why there are none."""

    places: dict[str, tuple[Place, ...]]
    trouble: str = ""


@dataclass(frozen=True)
class SpotStatus:
    """How looking goes: pictures looked through, of how many; `message` is empty when nothing is wrong."""

    done: int = 0
    total: int = 0
    message: str = ""


@dataclass(frozen=True)
class TakeStandings:
    """What waits for the user's word in a take: a proposal for every assigned figure that is neither marked nor refused."""

    take_id: str
    figures: tuple[Standing, ...]


@dataclass(frozen=True)
class Standings:
    """What is proposed in some takes, and how many takes have not been looked through yet."""

    takes: tuple[TakeStandings, ...]
    unseen: int
    status: SpotStatus


@dataclass(frozen=True)
class _Wanted:
    """A take, whom to look for in it, where others are marked, and who else of the cast may stand there: asked of those pictures alone that
    show one character, where nobody else's claim is known."""

    take: Take
    figures: dict[str, FigureFile]
    marked: dict[str, Box]
    beside: dict[str, FigureFile]

    @functools.cached_property
    def keys(self) -> dict[str, str]:
        """The key of each figure's places, those of `beside` too."""
        return {t: place_key(self.take.picture_sha, f) for t, f in (*self.figures.items(), *self.beside.items())}


class Spotter(Lines):
    """Looks through pictures in the background, a project's one after another; made once per server."""

    NAME = "spot"
    ENDED = "A process that looks at pictures ended (out of memory?). Look again."
    BROKE_OFF = "Looking for who stands where broke off"

    def look(self, project_id: str, take_ids: Sequence[str] | None = None) -> SpotStatus:
        """Look for whom the plan puts into some takes, or into all picked ones. Raises NotThere."""
        with self.ws.database.reading() as s:
            found(s, Project, project_id)
            query = select(Take.id).where(Take.project_id == project_id)
            chosen = Take.picked if take_ids is None else Take.id.in_(list(take_ids))
            ids = list(s.scalars(query.where(chosen)))
        self._put(project_id, ids)
        self._tell(project_id)
        return self.status(project_id)

    def stop(self, project_id: str) -> SpotStatus:
        """Look no further; what was found is kept. Raises NotThere."""
        with self.ws.database.reading() as s:
            found(s, Project, project_id)
        self._stop(project_id)
        return self.status(project_id)

    def status(self, project_id: str) -> SpotStatus:
        with self._lock:
            line = self._lines.get(project_id)
            return SpotStatus(line.done, line.total, line.message) if line else SpotStatus()

    def _work(self, project_id: str, line: Line, batch: Sequence[str]) -> None:
        with self.ws.database.reading() as s:
            wanted = _wanted(s, self.ws, project_id, Take.id.in_(list(batch)))
            known = seeking.known(s, [key for w in wanted for key in w.keys.values()])
        asked = set(known)
        tasks = []
        for w in wanted:
            every = w.figures | w.beside
            missing = {key: every[t] for t, key in w.keys.items() if key not in asked}
            if missing:
                asked |= missing.keys()
                path = str(self.ws.store.path(w.take.picture_sha))
                tasks.append(SpotTask(path, w.take.picture_sha, tuple(missing.values())))
        self._counted(project_id, line, len(batch) - len(tasks))
        if not tasks:
            return
        going = (t for t in tasks if not line.stopped)
        for result in self.workers.done(spot, going):
            if result.trouble:
                line.message = result.trouble
            seeking.keep(self.ws.database, result.places)
            self._counted(project_id, line, 1)

    def _counted(self, project_id: str, line: Line, done: int) -> None:
        line.done += done
        self._tell(project_id)


def standings(ws: Workspace, project_id: str, status: SpotStatus, also: Collection[str] = ()) -> Standings:
    """What is proposed in all picked takes, and in `also`. Raises NotThere."""
    with ws.database.reading() as s:
        found(s, Project, project_id)
        wanted = _wanted(s, ws, project_id, Take.picked | Take.id.in_(list(also)))
        known = seeking.known(s, [key for w in wanted for key in w.keys.values()])
        props = {t.id for t in of_project(s, Thread, project_id) if t.kind == "prop"}
    by_take, unseen = [], 0
    for w in wanted:
        unseen += any(w.keys[thread] not in known for thread in w.figures)
        seen = {thread: known[key] for thread, key in w.keys.items() if key in known}
        places = {thread: own for thread, own in seen.items() if thread in w.figures}
        beside = {thread: own for thread, own in seen.items() if thread in w.beside}
        if places:
            by_take.append(TakeStandings(w.take.id, tuple(settled(places, w.marked, props, beside))))
    return Standings(tuple(by_take), unseen, status)


def confirm(ws: Workspace, project_id: str, boxes: Sequence[tuple[str, str, Box]]) -> Changed:
    """Mark figures where they stand, as (take, thread, box), in one step. Whom somebody marked meanwhile stays where they are."""
    with ws.writing(project_id, "marked") as w:
        # Read at once, so that a thousand boxes are no thousand questions; whatever is not among these rows is not there.
        marked = {(m.take_id, m.thread_id) for m in of_project(w.session, Mark, project_id)}
        its_takes = {t.id: t for t in of_project(w.session, Take, project_id)}
        names = {t.id: t.name for t in of_project(w.session, Thread, project_id)}
        shas = {its_takes[take_id].picture_sha for take_id, _, _ in boxes if take_id in its_takes}
        sizes = {p.sha: p for p in w.session.scalars(select(Picture).where(Picture.sha.in_(shas)))}
        marks = []
        for take_id, thread_id, box in boxes:
            take = its_takes.get(take_id) or found(w.session, Take, take_id, project_id)
            name = names.get(thread_id) or found(w.session, Thread, thread_id, project_id).name
            if (take_id, thread_id) in marked:
                continue
            marked.add((take_id, thread_id))
            marks.append((name, takes.new_mark(take, thread_id, sizes[take.picture_sha], box)))
        w.add(*(m for _, m in marks))
        pictures = len({m.take_id for _, m in marks})
        who = marks[0][0] if len({name for name, _ in marks}) == 1 else f"{len(marks)} figures"
        w.name(f"marked {who}" + (f" in {pictures} pictures" if pictures > 1 else ""))
    return w.changed


def refuse(ws: Workspace, project_id: str, take_id: str, thread_id: str, revision: int | None = None) -> Changed:
    """Say that a figure is not in a picture: nothing is proposed for it there any more."""
    with ws.writing(project_id, "said who is not there") as w:
        take, thread = found(w.session, Take, take_id, project_id), found(w.session, Thread, thread_id, project_id)
        if thread.kind not in ("character", "prop"):
            raise NotPossible("Only characters and props stand in a place of a picture.")
        w.name(f"said that {thread.name} is not in a picture")
        edited(take, revision, {"not_here": list(dict.fromkeys([*take.not_here, thread_id]))})
    return w.changed


def spot(task: SpotTask) -> Spotted:
    """Look for figures in one picture; runs in a worker process and never raises for a bad picture."""
    eye = figure_eye()
    if eye is None:
        return Spotted({}, "Nobody can be looked for: a file of Juxtaform is missing or damaged. Install it again.")
    try:
        pixels = decoded_file(Path(task.path))
        figures = [sought_of(tuple(heaviest(f.views))) for f in task.figures]
        places = seen_places(eye, pixels, figures)
        return Spotted({place_key(task.sha, f): p for f, p in zip(task.figures, places, strict=True)})
    except (PictureRefused, ValueError) as error:
        return Spotted({}, str(error))


def _wanted(s: Session, ws: Workspace, project_id: str, chosen: ColumnElement[bool]) -> list[_Wanted]:
    """Those of the chosen takes with figures that are neither marked nor refused."""
    some = list(s.scalars(select(Take).where(Take.project_id == project_id, chosen).order_by(Take.position, Take.id)))
    marked: dict[str, dict[str, Box]] = {}
    ids = select(Take.id).where(Take.project_id == project_id, chosen)
    for m in s.scalars(select(Mark).where(Mark.project_id == project_id, Mark.take_id.in_(ids))):
        marked.setdefault(m.take_id, {})[m.thread_id] = Box(m.x, m.y, m.w, m.h)
    sought = sought_figures(s, ws.store, project_id, {t.shot_id for t in some})
    cast = {t.id for t in of_project(s, Thread, project_id) if t.kind == "character"}
    found_takes = []
    for take in some:
        own = marked.get(take.id, {})
        assigned, others = sought.get(take.shot_id, ({}, {}))
        figures = {thread: f for thread, f in assigned.items() if thread not in own and thread not in take.not_here}
        alone = len(cast & (figures.keys() | own.keys())) == 1 and bool(cast & figures.keys())
        beside = {thread: f for thread, f in others.items() if alone and thread not in take.not_here}
        if figures:
            found_takes.append(_Wanted(take, figures, own, beside))
    return found_takes
