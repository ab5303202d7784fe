"""Takes are measured as they come: who stands where, how each character, the style and the picture itself hold; and read shot by shot."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace

from sqlalchemy import select
from sqlalchemy.orm import Session

from juxtaform.core.check.measure import MEASURE_VERSION, PictureMeasure
from juxtaform.core.check.states import ShotState, StyleHome
from juxtaform.core.check.takes import TakeReading, TakeState, read_takes
from juxtaform.core.figure.standing import Place, settled
from juxtaform.core.picture.regions import Box
from juxtaform.media.network import judges
from juxtaform.records import measures
from juxtaform.records.models import Project, Take
from juxtaform.studio import seeking
from juxtaform.studio.lines import Line, Lines
from juxtaform.studio.measuring import (
    FigureFile,
    Measured,
    PictureTask,
    Workers,
    from_text,
    measure_task,
    to_text,
)
from juxtaform.studio.seeking import place_key
from juxtaform.studio.sequence import MarkAt, SequenceReader, SequenceShot, marks_of
from juxtaform.studio.spotting import SpotTask, Spotted, spot
from juxtaform.studio.workspace import Workspace, found

BESIDE = 12
"""Takes are held against the picked pictures of so many shots before and after theirs."""


@dataclass(frozen=True)
class GaugeTask:
    """A take's picture to look through and to measure: whom to look for, what is known of places, who is marked, and the measure's task before its
    marks are known. `ids` are the figures' ids by thread."""

    take_id: str
    spot: SpotTask
    places: tuple[tuple[str, tuple[Place, ...]], ...]
    marked: tuple[tuple[str, tuple[float, float, float, float]], ...]
    ids: tuple[tuple[str, str], ...]
    keys: tuple[tuple[str, str], ...]
    task: PictureTask
    props: frozenset[str] = frozenset()
    """Threads whose figures a marked one is held against only where they stand too."""


@dataclass(frozen=True)
class Gauged:
    """What came of a task: the places that were looked for, by key, and the measure."""

    take_id: str
    spotted: Spotted
    measured: Measured


@dataclass(frozen=True)
class GaugeStatus:
    """How many takes are measured and how many wait; `message` says what is wrong."""

    done: int = 0
    total: int = 0
    message: str = ""


@dataclass(frozen=True)
class SheetReading:
    """What is read of a shot's takes, and how many of them are still to be measured."""

    takes: tuple[TakeReading, ...]
    waiting: int


class Gauge(Lines):
    """Measures takes in the background, a project's one batch after another; one for a running server."""

    NAME = "gauge"
    ENDED = "A process that looks at pictures ended (out of memory?). Open the shot again to go on."
    BROKE_OFF = "Measuring takes broke off"

    def __init__(self, ws: Workspace, workers: Workers) -> None:
        super().__init__(ws, workers)
        self._stamps: defaultdict[str, int] = defaultdict(int)
        self._troubled: set[str] = set()

    def want(self, project_id: str, take_ids: Sequence[str]) -> None:
        """Measure some takes, unless they are being measured or could not be measured."""
        with self._lock:
            line = self._lines.get(project_id)
            under_way = set(line.under_way) if line else set()
        self._put(project_id, [i for i in take_ids if i not in under_way and i not in self._troubled])

    def status(self, project_id: str) -> GaugeStatus:
        with self._lock:
            line = self._lines.get(project_id)
            return GaugeStatus(line.done, line.total, line.message) if line else GaugeStatus()

    def stamp(self, project_id: str) -> int:
        """Rises whenever takes of a project were measured."""
        return self._stamps[project_id]

    def _work(self, project_id: str, line: Line, batch: Sequence[str]) -> None:
        with self.ws.database.reading() as s:
            its_takes = list(s.scalars(select(Take).where(Take.project_id == project_id, Take.id.in_(batch))))
            laid = _Laid(s, self.ws, project_id, its_takes)
            tasks = [task for t in its_takes if (task := laid.task(t)) is not None]
            tasks += [GaugeTask("", SpotTask("", "", ()), (), (), (), (), task) for task in laid.missing_styles()]
        line.done += len(batch) - len(tasks)
        going = (t for t in tasks if not line.stopped)
        for result in self.workers.done(gauge, going):
            seeking.keep(self.ws.database, result.spotted.places)
            if result.measured.measure is not None:
                measures.keep(
                    self.ws.database, MEASURE_VERSION, {result.measured.key: to_text(result.measured.measure)}
                )
            if result.measured.measure is None or result.spotted.trouble:
                self._troubled.add(result.take_id)
                line.message = result.measured.trouble or result.spotted.trouble
            line.done += 1
            self._tell(project_id)

    def _tell(self, project_id: str) -> None:
        self._stamps[project_id] += 1
        super()._tell(project_id)


def sheet_reading(ws: Workspace, gauge: Gauge, project_id: str, shot_id: str) -> SheetReading:
    """What is read of a shot's takes; those that are not measured yet are measured from now on. Raises NotThere."""
    with ws.database.reading() as s:
        found(s, Project, project_id)
        its_takes = list(
            s.scalars(
                select(Take)
                .where(Take.project_id == project_id, Take.shot_id == shot_id)
                .order_by(Take.position, Take.id)
            )
        )
        laid = _Laid(s, ws, project_id, its_takes, beside=shot_id)
        known = laid.known()
        waiting = [t.id for t in its_takes if t.id not in known]
        readings = laid.read(s, known)
    if waiting:
        gauge.want(project_id, waiting)
    return SheetReading(tuple(readings), len(waiting))


class _Laid:
    """Some takes laid out to be measured and read, with what is known of their places."""

    def __init__(
        self,
        s: Session,
        ws: Workspace,
        project_id: str,
        its_takes: Sequence[Take],
        beside: str = "",
        reader: SequenceReader | None = None,
    ) -> None:
        """With `beside`, a shot, what is picked around it is read too; a `reader` that has read the project is used again."""
        self._session, self._ws = s, ws
        own = {t.shot_id for t in its_takes}

        def near(order: list[str]) -> set[str]:
            at = order.index(beside) if beside in order else 0
            return own | set(order[max(0, at - BESIDE) : at + 1 + BESIDE]) if beside else own

        self.reader = reader or SequenceReader(s, ws.store, project_id, near)
        self.takes = [t for t in its_takes if t.shot_id in self.reader.at]
        self._beside = beside
        self._props = frozenset(t.id for t in self.reader.threads.values() if t.kind == "prop")
        self._around = self._picked(s) if beside else []
        self.marks = marks_of(s, project_id, [t.id for t in (*self.takes, *self._around)])
        self.sought = {shot: self.reader.assigned(self.reader.at[shot]) for shot in {t.shot_id for t in self.takes}}
        keys = [key for t in self.takes for key in self._keys(t).values()]
        self._places = seeking.known(s, keys)
        self._style_tasks = self.reader.style_tasks()

    def _figures(self, t: Take) -> dict[str, FigureFile]:
        """Whom to look for in a take: assigned, not marked, and not said to be absent."""
        marked = {m.thread_id for m in self.marks.get(t.id, ())}
        return {
            thread: f
            for thread, f in self.sought[t.shot_id].items()
            if thread not in marked and thread not in t.not_here
        }

    def _keys(self, t: Take) -> dict[str, str]:
        return {thread: place_key(t.picture_sha, f) for thread, f in self._figures(t).items()}

    def _stands(self, t: Take) -> tuple[list[MarkAt], list[str]] | None:
        """Who stands where, marked or found, and who was not found; None where it was not looked for yet."""
        keys = self._keys(t)
        if any(key not in self._places for key in keys.values()):
            return None
        own = self.marks.get(t.id, [])
        standings = settled(
            {thread: self._places[key] for thread, key in keys.items()},
            {m.thread_id: m.box for m in own},
            self._props,
        )
        stands = [*own, *(MarkAt(x.figure, x.box) for x in standings if x.box is not None)]
        return stands, [x.figure for x in standings if x.box is None]

    def stands(self, t: Take) -> list[MarkAt]:
        """Who stands where in a take; those who are marked alone where it was not looked through yet."""
        stands = self._stands(t)
        return stands[0] if stands else self.marks.get(t.id, [])

    def _shot(self, t: Take, marks: Collection[MarkAt]) -> SequenceShot:
        return self.reader.shot(self.reader.at[t.shot_id], t.picture_sha, marks)

    def known(self) -> dict[str, tuple[SequenceShot, PictureMeasure, list[str]]]:
        """Takes that are measured: their states, measures, and who was not found in them."""
        shots = {
            t.id: (self._shot(t, stands[0]), stands[1]) for t in self.takes if (stands := self._stands(t)) is not None
        }
        tasks = {shot.task.key: shot.task for shot, _ in shots.values() if shot.task}
        kept = _kept(self._session, tasks)
        return {
            take: (shot, kept[shot.task.key], unseen)
            for take, (shot, unseen) in shots.items()
            if shot.task is not None and shot.task.key in kept
        }

    def known_as_marked(self, its_takes: Sequence[Take]) -> dict[str, PictureMeasure]:
        """The measures of takes as the check takes them, with their marks alone."""
        tasks = {
            t.id: task
            for t in its_takes
            if t.shot_id in self.reader.at and (task := self._shot(t, self.marks.get(t.id, ())).task) is not None
        }
        kept = _kept(self._session, {task.key: task for task in tasks.values()})
        return {take: kept[task.key] for take, task in tasks.items() if task.key in kept}

    def task(self, t: Take) -> GaugeTask | None:
        """What is to be done for a take; None when it is measured."""
        stands = self._stands(t)
        if stands is not None:
            task = self._shot(t, stands[0]).task
            if task is not None and _kept(self._session, {task.key: task}):
                return None
        keys, figures = self._keys(t), self._figures(t)
        missing = tuple(f for thread, f in figures.items() if keys[thread] not in self._places)
        base = self._shot(t, self.marks.get(t.id, ())).task
        assert base is not None
        every = self._shot(
            t,
            [
                MarkAt(thread, Box(0, 0, 8, 8))
                for thread in {*figures, *(m.thread_id for m in self.marks.get(t.id, ()))}
            ],
        )
        assert every.task is not None
        ids = tuple(zip((m.thread for m in every.marks), (figure for figure, _ in every.task.marks), strict=True))
        marked = tuple((m.thread_id, (m.box.x, m.box.y, m.box.w, m.box.h)) for m in self.marks.get(t.id, ()))
        return GaugeTask(
            t.id,
            SpotTask(base.path, t.picture_sha, missing),
            tuple((thread, self._places[key]) for thread, key in keys.items() if key in self._places),
            marked,
            ids,
            tuple(keys.items()),
            replace(every.task, marks=()),
            self._props,
        )

    def missing_styles(self) -> list[PictureTask]:
        """References of styles that are not measured."""
        tasks = {t.key: t for entries in self._style_tasks.values() for t, _ in entries}
        kept = _kept(self._session, tasks)
        return [t for key, t in tasks.items() if key not in kept]

    def read(
        self, s: Session, known: Mapping[str, tuple[SequenceShot, PictureMeasure, list[str]]]
    ) -> list[TakeReading]:
        """Takes that are measured, read beside the picked pictures around their shot."""
        if not known:
            return []
        style_tasks = {t.key: t for entries in self._style_tasks.values() for t, _ in entries}
        around = [self._shot(t, self.marks.get(t.id, ())) for t in self._around]
        tasks = style_tasks | {x.task.key: x.task for x in around if x.task}
        kept = _kept(s, tasks)
        styles = []
        for style in self.reader.styles:
            pairs = [(kept[t.key], weight) for t, weight in self._style_tasks[style.id] if t.key in kept]
            styles.append(
                StyleHome(
                    style.id,
                    style.name,
                    tuple(p.signature for p, _ in pairs),
                    tuple(w for _, w in pairs),
                    tuple(p.hand for p, _ in pairs if p.hand),
                )
            )
        beside = [_state(x, x.shot.id, kept[x.task.key]) for x in around if x.task and x.task.key in kept]
        states = []
        for take, (shot, measure, unseen) in known.items():
            aspect = shot.shot.aspect or self.reader.aspect
            states.append(TakeState(_state(shot, take, measure), tuple(unseen), _form(aspect)))
        return read_takes(states, beside, styles, self.reader.names, self.reader.parts, judges())

    def _picked(self, s: Session) -> list[Take]:
        """The picked takes of the shots around, in order."""
        if self._beside not in self.reader.at:
            return []
        at = self.reader.at[self._beside]
        order = self.reader.order
        near = [x.id for x in order[max(0, at - BESIDE) : at] + order[at + 1 : at + 1 + BESIDE]]
        picked = s.scalars(select(Take).where(Take.shot_id.in_(near), Take.picked))
        return sorted(picked, key=lambda t: self.reader.at[t.shot_id])


def gauge(task: GaugeTask) -> Gauged:
    """Look for whom a take's picture should show, and measure it with them; runs in a worker process and never raises for a bad picture."""
    spotted = spot(task.spot) if task.spot.figures else Spotted({})
    keys = dict(task.keys)
    places = {
        **dict(task.places),
        **{thread: spotted.places[key] for thread, key in keys.items() if key in spotted.places},
    }
    boxes = {thread: Box(*box) for thread, box in task.marked}
    stands = {**boxes, **{x.figure: x.box for x in settled(places, boxes, task.props) if x.box is not None}}
    figures = tuple(f for f in task.task.figures if f.owner not in task.props or f.owner in stands)
    ids = dict(task.ids)
    marks = tuple(
        (ids[thread], (box.x, box.y, box.w, box.h)) for thread, box in sorted(stands.items()) if thread in ids
    )
    return Gauged(task.take_id, spotted, measure_task(replace(task.task, marks=marks, figures=figures)))


def _state(shot: SequenceShot, name: str, measure: PictureMeasure) -> ShotState:
    return ShotState(name, shot.number, "", shot.assigned, shot.style, shot.marks, measure)


def _kept(s: Session, tasks: Mapping[str, PictureTask]) -> dict[str, PictureMeasure]:
    kept = {key: from_text(text) for key, text in measures.known(s, tasks, MEASURE_VERSION).items()}
    return {key: measure for key, measure in kept.items() if tasks[key].is_answered_by(measure)}


def _form(aspect: str) -> float | None:
    if not aspect:
        return None
    wide, high = (float(v) for v in aspect.split(":"))
    return wide / high if wide > 0 and high > 0 else None


@dataclass(frozen=True)
class Pictured:
    """Some takes as they are known: who stands where in each, what is read of those that are measured, and those that are not."""

    stands: dict[str, list[MarkAt]]
    readings: dict[str, TakeReading]
    waiting: list[str]


def pictured(s: Session, ws: Workspace, project_id: str, its_takes: Sequence[Take]) -> Pictured:
    """What is known of takes of any shots; the project is read once for all of them."""
    reader = SequenceReader(s, ws.store, project_id)
    by_shot: defaultdict[str, list[Take]] = defaultdict(list)
    for t in its_takes:
        by_shot[t.shot_id].append(t)
    stands: dict[str, list[MarkAt]] = {}
    readings: dict[str, TakeReading] = {}
    for shot_id, own in by_shot.items():
        laid = _Laid(s, ws, project_id, own, shot_id, reader)
        stands |= {t.id: laid.stands(t) for t in own}
        readings |= {r.take: r for r in laid.read(s, laid.known())}
    return Pictured(stands, readings, [t.id for t in its_takes if t.id not in readings])


def who_stands(s: Session, ws: Workspace, project_id: str, take: Take) -> list[MarkAt]:
    """Who stands where in a take: marked, or found where nobody is marked."""
    return _Laid(s, ws, project_id, [take]).stands(take)


def measures_of(s: Session, ws: Workspace, project_id: str, its_takes: Sequence[Take]) -> dict[str, PictureMeasure]:
    """What is measured of some takes, by take: with all who stand there, else with those who are marked. Takes that are not measured yet are left
    out."""
    laid = _Laid(s, ws, project_id, its_takes)
    out = {take: measure for take, (_, measure, _) in laid.known().items()}
    return laid.known_as_marked([t for t in its_takes if t.id not in out]) | out
