"""A project's sequence as the check wants it: shots in order, figures with their files, and what each task depends on."""

from __future__ import annotations

import hashlib
import json
from bisect import bisect_right
from collections.abc import Callable, Collection, Iterable, Mapping
from dataclasses import dataclass, field
from itertools import islice

from sqlalchemy import select
from sqlalchemy.orm import Session

from juxtaform.core.brief.delivery import ratio_of
from juxtaform.core.check.learned import Lesson
from juxtaform.core.check.sequence import NOBODY, NOTHING_WANTED, Cast
from juxtaform.core.check.states import Mark as CheckMark
from juxtaform.core.check.states import ShotPlan
from juxtaform.core.check.technical import Wanted
from juxtaform.core.picture.regions import Box
from juxtaform.core.text.names import Named
from juxtaform.media.store import PictureStore
from juxtaform.records.models import (
    STET,
    Bead,
    FaultMark,
    Mark,
    Picture,
    Project,
    Reference,
    Shot,
    Stet,
    Take,
    Thread,
    Trait,
)
from juxtaform.studio.clip_readings import ClipTask, tasks_of
from juxtaform.studio.company import CompanyTask
from juxtaform.studio.editions import editions_of
from juxtaform.studio.measuring import FigureFile, PictureTask, TraitEntry, ViewFile
from juxtaform.studio.plan import in_order
from juxtaform.studio.seeking import place_key
from juxtaform.studio.workspace import found, of_project

SIDE_VIEWS = ("profile", "three-quarter")
"""Views in which a figure looks to one side."""
KEPT = "kept"
"""The standing of a take that the illustrator keeps as it is."""


@dataclass(frozen=True)
class SequenceShot:
    """A shot with its picked picture's task (None without a picture), its marks in the task's order, and its threads."""

    shot: Shot
    number: str
    sha: str | None
    task: PictureTask | None
    marks: tuple[CheckMark, ...]
    mark_ids: tuple[str, ...]
    assigned: frozenset[str]
    style: str | None
    plan: ShotPlan
    company: CompanyTask | None = None


@dataclass(frozen=True)
class Sequence:
    """All that a check reads from the records."""

    shots: list[SequenceShot]
    styles: list[Thread]
    style_tasks: dict[str, list[tuple[PictureTask, float]]]
    names: list[Named]
    parts: dict[tuple[str, str], str]
    digests: dict[tuple[str, str], str]
    stood: frozenset[str] = frozenset()
    """Keys of findings that are let stand."""
    decided: frozenset[str] = frozenset()
    """Keys of findings that somebody decided about: those that are let stand, and those whose pictures are to be made again."""
    wanted: Wanted = NOTHING_WANTED
    places: tuple[tuple[Thread, tuple[tuple[PictureTask, str], ...]], ...] = ()
    """The settings, each with its references and which variant they show."""
    cast: Cast = NOBODY
    colours: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    """The colours of a thread's traits."""
    unmarked: Mapping[str, tuple[tuple[str, str], ...]] = field(default_factory=dict)
    """For shots with characters and props that nobody marked: thread and the key of where it was found, by shot."""
    refused: Mapping[str, frozenset[str]] = field(default_factory=dict)
    """Whom the illustrator said not to be in a shot's picture."""
    lessons: tuple[Lesson, ...] = ()
    unlearned: frozenset[tuple[str, str]] = frozenset()
    wrong: Mapping[str, tuple[Box, ...]] = field(default_factory=dict)
    """Boxes that the illustrator marked as wrong in a shot's picture."""
    kept: frozenset[str] = frozenset()
    """Shots whose picked picture the illustrator kept as it is."""
    clips: Mapping[str, ClipTask] = field(default_factory=dict)
    """The clips that stand in shots' places, by shot."""


MOST_BESIDE = 2
"""So many of the cast who are not assigned to a shot may claim a place in it: each is looked for in half the time that the first takes."""


class SequenceReader:
    """A project's rows as a check wants them; what stands in a shot's place is its picked take, or any other. With `only`, what runs through other
    shots than these is not read."""

    def __init__(
        self,
        session: Session,
        store: PictureStore,
        project_id: str,
        only: Callable[[list[str]], Collection[str]] | None = None,
    ) -> None:
        self.store, self.project_id = store, project_id
        self.threads = {t.id: t for t in of_project(session, Thread, project_id)}
        self.references = of_project(session, Reference, project_id)
        self.traits = of_project(session, Trait, project_id)
        self.order = in_order(session, project_id)
        self.at = {shot.id: i for i, shot in enumerate(self.order)}
        self.forces = _Forces(store, self.threads, self.references, self.traits, [s.id for s in self.order])
        self.beads: dict[str, dict[str, Bead]] = {}
        wanted = select(Bead).where(Bead.project_id == project_id)
        if only is not None:
            wanted = wanted.where(Bead.shot_id.in_(list(only([s.id for s in self.order]))))
        for bead in session.scalars(wanted):
            self.beads.setdefault(bead.shot_id, {})[bead.thread_id] = bead
        self.styles = [t for t in self.threads.values() if t.kind == "style"]
        self._kept = tuple(
            (k["thread_id"], k["hex"])
            for style in self.styles
            for k in style.kept_colours
            if k["thread_id"] in self.threads
        )
        project = found(session, Project, project_id)
        self.aspect, self.wanted = project.aspect, Wanted(project.print_mm)
        self._usual_style = project.style_id if any(t.id == project.style_id for t in self.styles) else None
        self._characters = {t.id for t in self.threads.values() if t.kind == "character"}

    @property
    def names(self) -> list[Named]:
        """All threads that a text can name."""
        return [Named(t.id, t.name, tuple(t.aliases)) for t in self.threads.values() if t.kind != "style"]

    @property
    def parts(self) -> dict[tuple[str, str], str]:
        """Which part of the figure a trait belongs to, by thread and trait."""
        return {(t.thread_id, t.name): t.part for t in self.traits}

    def style_tasks(self) -> dict[str, list[tuple[PictureTask, float]]]:
        """The references of each style, with their weights."""
        last = len(self.order) - 1
        return {
            style.id: [
                (PictureTask(str(self.store.path(r.picture_sha)), r.picture_sha, (), ()), r.weight)
                for r in self.references
                if r.thread_id == style.id and self.forces.holds(r.id, last)
            ]
            for style in self.styles
        }

    def place_tasks(self) -> tuple[tuple[Thread, tuple[tuple[PictureTask, str], ...]], ...]:
        """The settings with their references, each with the variant that it shows."""
        last = len(self.order) - 1
        found = []
        for setting in (t for t in self.threads.values() if t.kind == "setting"):
            # A reference that was replaced half-way still shows the place.
            own = [r for r in self.references if r.thread_id == setting.id]
            held = [r for r in own if any(self.forces.holds(r.id, i) for i in (0, last))] or own
            tasks = tuple(
                (PictureTask(str(self.store.path(r.picture_sha)), r.picture_sha, (), ()), r.costume) for r in held
            )
            found.append((setting, tasks))
        return tuple(found)

    @property
    def cast(self) -> Cast:
        """The kinds of threads that can be in a picture, and how the costume of each figure is called."""
        kinds = {t.id: t.kind for t in self.threads.values() if t.kind in ("character", "prop")}
        every = self.forces.every() if self.order else []
        costumes = {f.id: costume for figures in every for (_, costume), f in figures.items()}
        sides = frozenset(r.picture_sha for r in self.references if r.view in SIDE_VIEWS)
        owners = {t.id: t.owner_id for t in self.threads.values() if t.owner_id}
        return Cast(kinds, costumes, sides, owners)

    def shot(self, index: int, sha: str | None, marks: Collection[MarkAt]) -> SequenceShot:
        """The shot at an index with a picture in its place (None: without one), and who stands where in it."""
        shot, figures = self.order[index], self.forces.figures(index)
        here = self.beads.get(shot.id, {})
        placed = [
            (m, f)
            for m in sorted(marks, key=lambda m: m.thread_id)
            if (f := _figure_for(figures, m.thread_id, here.get(m.thread_id))) is not None
        ]
        task = None
        if sha is not None:
            cast = tuple(
                f
                for (owner, _), f in figures.items()
                if owner in self._characters or any(owner == m.thread_id for m, _ in placed)
            )
            boxes = tuple((f.id, (m.box.x, m.box.y, m.box.w, m.box.h)) for m, f in placed)
            task = PictureTask(str(self.store.path(sha)), sha, boxes, cast, self._kept)
        return SequenceShot(
            shot,
            str(index + 1),
            sha,
            task,
            tuple(_check_mark(m, here.get(m.thread_id)) for m, _ in placed),
            tuple(m.id for m, _ in placed),
            frozenset(here),
            next((t.id for t in self.styles if t.id in here), self._usual_style),
            self._plan(shot, here),
            self._company(sha, figures, marks) if sha is not None else None,
        )

    def _company(
        self, sha: str, figures: Mapping[tuple[str, str], FigureFile], marks: Collection[MarkAt]
    ) -> CompanyTask | None:
        """The whole cast, in every costume, looked for where nobody is marked."""
        cast = tuple(f for (owner, _), f in figures.items() if owner in self._characters)
        taken = tuple((m.box.x, m.box.y, m.box.w, m.box.h) for m in sorted(marks, key=lambda m: m.thread_id))
        return CompanyTask(str(self.store.path(sha)), sha, taken, cast) if cast else None

    def _plan(self, shot: Shot, here: Mapping[str, Bead]) -> ShotPlan:
        places = tuple((t, b.costume) for t, b in sorted(here.items()) if self.threads[t].kind == "setting")
        facings = {t: b.facing for t, b in here.items() if b.facing}
        # A spread takes two pages, so the project's form is not its own.
        asked = shot.aspect or ("" if shot.page_form == "spread" else self.aspect)
        return ShotPlan(
            shot.scene_id,
            shot.size,
            shot.move,
            shot.length_s,
            facings,
            ratio_of(asked) or None,
            places,
            shot.time,
            shot.notes,
            shot.angle,
        )

    def assigned(self, index: int) -> dict[str, FigureFile]:
        """The characters and props assigned to a shot, as their references stand there; without references nobody can be looked for."""
        figures, out = self.forces.figures(index), {}
        for thread_id, bead in self.beads.get(self.order[index].id, {}).items():
            if self.threads[thread_id].kind in ("character", "prop"):
                figure = _figure_for(figures, thread_id, bead)
                if figure is not None:
                    out[thread_id] = figure
        return out

    def beside(self, index: int) -> dict[str, FigureFile]:
        """The first of the cast who are not assigned to a shot, as their references stand there: they may stand where somebody else is looked for."""
        figures, here = self.forces.figures(index), self.beads.get(self.order[index].id, {})
        rest = sorted((t for t in self._characters if t not in here), key=lambda t: (self.threads[t].position, t))
        known = ((t, f) for t in rest if (f := _figure_for(figures, t, None)) is not None)
        return dict(islice(known, MOST_BESIDE))


@dataclass(frozen=True)
class MarkAt:
    """Where a thread stands in a picture; without an id it is not marked by anybody."""

    thread_id: str
    box: Box
    id: str = ""


def marks_of(session: Session, project_id: str, take_ids: Collection[str] | None = None) -> dict[str, list[MarkAt]]:
    """The marks of a project, or of some of its takes, by take."""
    marks: dict[str, list[MarkAt]] = {}
    wanted = select(Mark).where(Mark.project_id == project_id)
    if take_ids is not None:
        wanted = wanted.where(Mark.take_id.in_(list(take_ids)))
    for m in session.scalars(wanted):
        marks.setdefault(m.take_id, []).append(MarkAt(m.thread_id, Box(m.x, m.y, m.w, m.h), m.id))
    return marks


def load(session: Session, store: PictureStore, project_id: str) -> Sequence:
    """Read a project's sequence."""
    reader = SequenceReader(session, store, project_id)
    picked = {t.shot_id: t for t in of_project(session, Take, project_id) if t.picked}
    marks = marks_of(session, project_id)
    shots, unmarked = [], {}
    for i, shot in enumerate(reader.order):
        take = picked.get(shot.id)
        here = marks.get(take.id, []) if take else []
        shots.append(reader.shot(i, take.picture_sha if take else None, here))
        if take is not None:
            marked = {m.thread_id for m in here}
            unmarked[shot.id] = tuple(
                (thread, place_key(take.picture_sha, figure))
                for thread, figure in reader.assigned(i).items()
                if thread not in marked
            )
    decided = of_project(session, Stet, project_id)
    project = found(session, Project, project_id)
    shown = {t.id: t.shot_id for t in picked.values()}
    wrong: dict[str, tuple[Box, ...]] = {}
    for f in of_project(session, FaultMark, project_id):
        if f.take_id in shown:
            wrong[shown[f.take_id]] = (*wrong.get(shown[f.take_id], ()), Box(f.x, f.y, f.w, f.h))
    return Sequence(
        shots,
        reader.styles,
        reader.style_tasks(),
        reader.names,
        reader.parts,
        {(t, shot.id): reader.forces.digest(t, i) for i, shot in enumerate(reader.order) for t in reader.threads},
        frozenset(stet.finding_key for stet in decided if stet.verdict == STET),
        frozenset(stet.finding_key for stet in decided),
        reader.wanted,
        reader.place_tasks(),
        reader.cast,
        {t: tuple(c for x in reader.traits if x.thread_id == t for c in x.colours) for t in reader.threads},
        unmarked,
        {t.shot_id: frozenset(t.not_here) for t in picked.values() if t.not_here},
        lessons_of(decided),
        frozenset((u["thread_id"], u["term"]) for u in project.unlearned),
        wrong,
        frozenset(t.shot_id for t in picked.values() if t.standing == KEPT),
        _clips(session, store, project_id, picked.values()),
    )


def _clips(session: Session, store: PictureStore, project_id: str, picked: Iterable[Take]) -> dict[str, ClipTask]:
    every = select(Picture.sha).join(Take, Take.picture_sha == Picture.sha)
    with_clip = set(session.scalars(every.where(Take.project_id == project_id, Picture.clip.is_not(None))))
    own = [t for t in picked if t.picture_sha in with_clip]
    tasks = tasks_of(session, store, own)
    return {t.shot_id: tasks[t.id] for t in own if t.id in tasks}


def lessons_of(decided: Iterable[Stet]) -> tuple[Lesson, ...]:
    """What was decided about findings, as it teaches how far terms may go."""
    return tuple(
        Lesson((x.thread_id or "", x.term), x.departure, x.verdict == STET)
        for x in decided
        if x.term and x.departure > 0
    )


def assigned_figures(
    session: Session, store: PictureStore, project_id: str, shot_ids: Collection[str]
) -> dict[str, dict[str, FigureFile]]:
    """The characters and props assigned to some shots, by shot and thread, as their references stand there."""
    reader = SequenceReader(session, store, project_id, lambda _: shot_ids)
    return {shot: reader.assigned(reader.at[shot]) for shot in shot_ids if shot in reader.at}


def sought_figures(
    session: Session, store: PictureStore, project_id: str, shot_ids: Collection[str]
) -> dict[str, tuple[dict[str, FigureFile], dict[str, FigureFile]]]:
    """The characters and props assigned to some shots, and the first of the cast who are not, by shot and thread."""
    reader = SequenceReader(session, store, project_id, lambda _: shot_ids)
    known = [(shot, reader.at[shot]) for shot in shot_ids if shot in reader.at]
    return {shot: (reader.assigned(i), reader.beside(i)) for shot, i in known}


class _Forces:
    """The figures as their references stand at each shot; shots between two replacements share theirs."""

    def __init__(
        self,
        store: PictureStore,
        threads: dict[str, Thread],
        references: list[Reference],
        traits: list[Trait],
        order: list[str],
    ) -> None:
        self._store, self._threads, self._references, self._traits = store, threads, references, traits
        self._editions = editions_of(references, order)
        begun = {order.index(r.from_shot_id) for r in references if r.from_shot_id in order}
        self._begins = sorted(begun | {0})
        self._held: dict[int, tuple[dict[tuple[str, str], FigureFile], dict[str, str]]] = {}

    def holds(self, reference: str, index: int) -> bool:
        return self._editions.holds(reference, max(0, index))

    def every(self) -> list[dict[tuple[str, str], FigureFile]]:
        """The figures as they stand from each replacement on."""
        return [self.figures(begin) for begin in self._begins]

    def figures(self, index: int) -> dict[tuple[str, str], FigureFile]:
        return self._at(index)[0]

    def digest(self, thread: str, index: int) -> str:
        """Changes whenever a reference of the thread that holds at the shot does."""
        return self._at(index)[1][thread]

    def _at(self, index: int) -> tuple[dict[tuple[str, str], FigureFile], dict[str, str]]:
        begin = self._begins[bisect_right(self._begins, index) - 1]
        if begin not in self._held:
            here = [r for r in self._references if self._editions.holds(r.id, begin)]
            ids = {r.id for r in here}
            traits = [t for t in self._traits if t.reference_id in ids]
            figures = _figures(self._store, self._threads, here, traits)
            self._held[begin] = figures, {t: _digest(t, here, traits) for t in self._threads}
        return self._held[begin]


def _figures(
    store: PictureStore, threads: dict[str, Thread], references: list[Reference], traits: list[Trait]
) -> dict[tuple[str, str], FigureFile]:
    figures = {}
    for thread in threads.values():
        own = [r for r in references if r.thread_id == thread.id]
        if thread.kind not in ("character", "prop"):
            continue
        for costume in dict.fromkeys(r.costume for r in own):
            views = [r for r in own if r.costume == costume]
            index = {r.id: i for i, r in enumerate(views)}
            entries = tuple(
                TraitEntry(
                    t.name,
                    tuple(t.colours),
                    (t.x, t.y, t.w, t.h),
                    index[t.reference_id],
                    t.part,
                    t.tolerance,
                    tuple((x, y) for x, y in t.outline or ()),
                )
                for t in traits
                if t.thread_id == thread.id and t.reference_id in index and not t.free
            )
            files = tuple(ViewFile(str(store.path(r.picture_sha)), r.picture_sha, r.name, r.weight) for r in views)
            name = f"{thread.id}/{costume}" if costume else thread.id
            figures[thread.id, costume] = FigureFile(name, thread.id, files, entries)
    return figures


def _figure_for(figures: dict[tuple[str, str], FigureFile], thread: str, bead: Bead | None) -> FigureFile | None:
    """The figure in the bead's costume, else in the usual one, else in any; None without references."""
    exact = figures.get((thread, bead.costume if bead else "")) or figures.get((thread, ""))
    return exact or next((f for (owner, _), f in figures.items() if owner == thread), None)


def _check_mark(mark: MarkAt, bead: Bead | None) -> CheckMark:
    return CheckMark(mark.thread_id, mark.box, bead.hold if bead else "figure", bead.costume if bead else "")


def _digest(thread: str, references: list[Reference], traits: list[Trait]) -> str:
    """Changes whenever a reference of the thread does."""
    facts = [[r.picture_sha, r.weight, r.costume] for r in references if r.thread_id == thread]
    facts += [[t.name, t.colours, t.x, t.y, t.w, t.h, t.tolerance, t.outline] for t in traits if t.thread_id == thread]
    return hashlib.sha256(json.dumps(facts).encode()).hexdigest()[:16]
