"""The check: it runs in worker processes, tells its progress, can be stopped, and survives a restart."""

from __future__ import annotations

import logging
import threading
import time
from collections.abc import Collection, Mapping, Sequence
from concurrent.futures import BrokenExecutor, Executor
from dataclasses import dataclass, field, replace
from datetime import datetime
from typing import Any, Literal

from pydantic import TypeAdapter
from sqlalchemy import select, update
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session

from juxtaform.core.check.figures import narrowed
from juxtaform.core.check.learned import Band, Lesson, Term, learned, term_of, within
from juxtaform.core.check.measure import MEASURE_VERSION, PictureMeasure
from juxtaform.core.check.sequence import check
from juxtaform.core.check.states import CheckResult, ClipSeen, Company, PlaceHome, PlaceReference, ShotState, StyleHome
from juxtaform.core.clips.reading import READING_VERSION, ClipReading
from juxtaform.core.figure.standing import Place
from juxtaform.core.findings import Finding, asks, key_of
from juxtaform.core.picture.regions import shared_area
from juxtaform.media.network import judges
from juxtaform.records import journal, measures
from juxtaform.records.models import CheckRun, Project, now
from juxtaform.records.trouble import trouble_of
from juxtaform.studio import clip_readings, company, seeking
from juxtaform.studio import sequence as sequences
from juxtaform.studio.measuring import PictureTask, Workers, done_by_workers, measure_task, to_text
from juxtaform.studio.shelf import Shelf
from juxtaform.studio.workspace import Workspace, found

State = Literal["never", "queued", "running", "done", "stopped", "failed"]


@dataclass(frozen=True)
class Outcome:
    """What a check found in the project as it was at `version`; `trouble` tells of pictures that could not be measured, by shot."""

    findings: tuple[Finding, ...] = ()
    result: CheckResult = field(default_factory=lambda: CheckResult(()))
    trouble: dict[str, str] = field(default_factory=dict)
    version: int = 0
    within: tuple[Finding, ...] = ()
    """What departs from our bands and is within those that were learned."""
    from_pictures: tuple[Lesson, ...] = ()
    """What pictures that were kept, and fault marks in pictures, say of how far terms may go."""


@dataclass(frozen=True)
class CheckStatus:
    """Where the latest check stands; `measured` counts pictures that were not known from before."""

    state: State
    done: int = 0
    total: int = 0
    measured: int = 0
    message: str = ""
    at: datetime | None = None


NOT_CHECKED = frozenset({"stet", "library_picture", "duel", "beat", "fault_mark", "service", "trial", "sound"})
"""Tables that no check looks at."""
WHO = ("figure_doubtful", "figure_stranger", "figure_swapped")
"""Findings of who a figure is: one that is let stand says that the figure is right, and others like it are."""
MOST_LOOKED_THROUGH = 500
DATABASE_WAIT_S = 60
log = logging.getLogger("juxtaform")
_OUTCOME = TypeAdapter(Outcome)


class Checker:
    """Runs checks in the background, one at a time a project; made once per server."""

    def __init__(self, ws: Workspace, executor: Executor | None = None) -> None:
        self.ws = ws
        self.workers = ws.workers if executor is None else Workers(executor)
        self._lock = threading.Lock()
        self._stops: dict[str, threading.Event] = {}
        self._threads: dict[str, threading.Thread] = {}
        self._asked_again: set[str] = set()

    def start(self, project_id: str) -> CheckStatus:
        """Queue a check; one that runs already is left to finish, and what changed since it began is checked after it."""
        with self._lock:
            running = self._threads.get(project_id)
            if running and running.is_alive():
                self._asked_again.add(project_id)
                return status(self.ws, project_id)
            self._queue(project_id)
            stop = self._stops[project_id] = threading.Event()
            thread = threading.Thread(
                target=self._run, args=(project_id, stop), daemon=True, name=f"check-{project_id[:6]}"
            )
            self._threads[project_id] = thread
            thread.start()
        return status(self.ws, project_id)

    def stop(self, project_id: str) -> CheckStatus:
        """Stop a check; what is measured already stays measured."""
        if project_id in self._stops:
            self._stops[project_id].set()
        self.wait(project_id)
        return status(self.ws, project_id)

    def wait(self, project_id: str, timeout_s: float = 60) -> None:
        thread = self._threads.get(project_id)
        if thread:
            thread.join(timeout_s)

    def resume(self) -> None:
        """Take up checks that a restart cut off."""
        with self.ws.database.session() as s:
            cut_off = list(s.scalars(select(CheckRun.project_id).where(CheckRun.state.in_(("queued", "running")))))
        for project_id in cut_off:
            self.start(project_id)

    def close(self) -> None:
        for stop in self._stops.values():
            stop.set()
        for thread in list(self._threads.values()):
            thread.join(10)
        self.workers.close()

    def _queue(self, project_id: str) -> None:
        with self.ws.database.session() as s:
            found(s, Project, project_id)
            run = s.get(CheckRun, project_id) or CheckRun(project_id=project_id, state="queued")
            run.state, run.done, run.total, run.measured, run.message, run.at = "queued", 0, 0, 0, "", now()
            s.add(run)

    def _run(self, project_id: str, stop: threading.Event) -> None:
        """Check, and once more whenever it was asked for meanwhile and something has changed."""
        while True:
            checked = self._checked(project_id, stop)
            with self._lock:
                asked = project_id in self._asked_again and not stop.is_set()
                self._asked_again.discard(project_id)
                if not asked or checked is None or not self._queued_again(project_id, checked):
                    self._threads.pop(project_id, None)
                    return

    def _queued_again(self, project_id: str, version: int) -> bool:
        """Queue another check where something has changed since a version that a check would look at."""
        try:
            with self.ws.database.session() as s:
                latest = journal.latest(s, project_id).version
            if holds_until(self.ws, project_id, version) == latest:
                return False
            self._queue(project_id)
        except Exception:
            log.exception("The check of %s, asked for again, was not begun", project_id)
            return False
        return True

    def _checked(self, project_id: str, stop: threading.Event) -> int | None:
        """Check once; the project's version that was looked at, None where the check was stopped or broke off."""
        try:
            outcome = self._measure_and_check(project_id, stop)
        except BrokenExecutor:
            self.workers.drop()
            self._told(
                project_id,
                state="failed",
                message="A measuring process ended (out of memory?). What was measured is kept: check again.",
            )
            return None
        except Exception as error:
            log.exception("The check of %s broke off", project_id)
            self._told(project_id, state="failed", message=f"The check broke off: {error}")
            return None
        if outcome is None:
            self._told(project_id, state="stopped", message="Stopped. What was measured is kept.")
            return None
        self._told(project_id, state="done", message=_left_out(outcome), result=_OUTCOME.dump_json(outcome).decode())
        return outcome.version

    def _measure_and_check(self, project_id: str, stop: threading.Event) -> Outcome | None:
        shelf = Shelf(self.ws.store.root.parent)
        with self.ws.database.reading() as s:
            sequence = sequences.load(s, self.ws.store, project_id)
            version = journal.latest(s, project_id).version
            tasks = {t.key: t for shot in sequence.shots if (t := shot.task)}
            tasks |= {t.key: t for entries in sequence.style_tasks.values() for t, _ in entries}
            tasks |= {t.key: t for _, entries in sequence.places for t, _ in entries}
            kept = ((key, shelf.lay(text)) for key, text in measures.each_known(s, tasks, MEASURE_VERSION))
            known = {key: measure for key, measure in kept if tasks[key].is_answered_by(measure)}
            companies = {c.key: c for shot in sequence.shots if (c := shot.company)}
            met = {k: company.from_text(t) for k, t in measures.known(s, companies, company.COMPANY_VERSION).items()}
            films = {c.key: c for c in sequence.clips.values()}
            readings = {k: clip_readings.reading_of(t) for k, t in measures.known(s, films, READING_VERSION).items()}
            spots = [key for own in sequence.unmarked.values() for _, key in own]
            spotted = seeking.known(s, spots)
        missing = [t for key, t in tasks.items() if key not in known]
        strangers = [c for key, c in companies.items() if key not in met]
        unread = [c for key, c in films.items() if key not in readings]
        known_already = len(known) + len(met) + len(readings)
        total = len(tasks) + len(companies) + len(films)
        self._told(project_id, state="running", done=known_already, total=total)
        trouble: dict[str, str] = {}
        for i, result in enumerate(self._measured(missing, stop)):
            if result.measure is None:
                trouble[result.key] = result.trouble
            else:
                text = to_text(result.measure)
                known[result.key] = shelf.lay(text)
                measures.keep(self.ws.database, MEASURE_VERSION, {result.key: text})
            self._told(project_id, done=known_already + i + 1, measured=i + 1)
            if stop.is_set():
                return None
        looking = (c for c in strangers if not stop.is_set())
        for i, seen in enumerate(self.workers.done(company.meet, looking) if strangers else ()):
            met[seen.key] = seen.places or ()
            if seen.places is not None:
                measures.keep(self.ws.database, company.COMPANY_VERSION, {seen.key: company.to_text(seen.places)})
            self._told(project_id, done=known_already + len(missing) + i + 1)
            if stop.is_set():
                return None
        rolling = (c for c in unread if not stop.is_set())
        # Clips are not where other machines reach pictures.
        for i, read in enumerate(done_by_workers(clip_readings.read_or_say, rolling, self.workers.executor())):
            if read.text is None:
                trouble[read.key] = read.trouble
            else:
                readings[read.key] = clip_readings.reading_of(read.text)
                measures.keep(self.ws.database, READING_VERSION, {read.key: read.text})
            self._told(project_id, done=known_already + len(missing) + len(strangers) + i + 1)
        if stop.is_set():
            return None
        return _outcome(sequence, _Known(known, met, spotted, trouble, readings), version)

    def _measured(self, tasks: list[PictureTask], stop: threading.Event):  # type: ignore[no-untyped-def]
        if not tasks:
            return iter(())
        return self.workers.done(measure_task, (t for t in tasks if not stop.is_set()))

    def _told(self, project_id: str, **values: Any) -> None:
        """Write down how a check stands; a database that is away is waited for."""
        for waited_s in range(DATABASE_WAIT_S + 1):
            try:
                with self.ws.database.session() as s:
                    s.execute(update(CheckRun).where(CheckRun.project_id == project_id).values(at=now(), **values))
                break
            except SQLAlchemyError as error:
                if trouble_of(error) is None or waited_s == DATABASE_WAIT_S:
                    raise
                time.sleep(1)
        self.ws.listeners.wake(project_id)


def status(ws: Workspace, project_id: str) -> CheckStatus:
    """Where the latest check stands. Raises NotThere."""
    with ws.database.session() as s:
        found(s, Project, project_id)
        run = s.get(CheckRun, project_id)
        return _status(run) if run else CheckStatus("never")


def outcome(ws: Workspace, project_id: str) -> Outcome:
    """What the latest finished check found; empty before the first. Raises NotThere."""
    with ws.database.session() as s:
        found(s, Project, project_id)
        return outcome_of(s, project_id)


def outcome_of(s: Session, project_id: str) -> Outcome:
    """What the latest finished check of a project found; empty before the first."""
    run = s.get(CheckRun, project_id)
    return _OUTCOME.validate_json(run.result) if run and run.result else Outcome()


def holds_until(ws: Workspace, project_id: str, version: int) -> int:
    """The version up to which findings of a version still say all: later ones changed nothing that a check looks at."""
    with ws.database.reading() as s:
        news = journal.news_since(s, project_id, version, MOST_LOOKED_THROUGH)
        return version if news is None or not set(news.touched) <= NOT_CHECKED else news.version


def _left_out(outcome: Outcome) -> str:
    """What a finished check could not look at, and what to do; empty when it looked at everything."""
    blind = any(p.appearance.identity is None for t in outcome.result.threads.values() for p in t.figures)
    if not blind:
        return ""
    return "Who the figures are was not looked at: a file of Juxtaform is missing or damaged. Install it again, then check."


def _status(run: CheckRun) -> CheckStatus:
    return CheckStatus(run.state, run.done, run.total, run.measured, run.message, run.at)  # type: ignore[arg-type]


@dataclass(frozen=True)
class _Known:
    """All that was measured for a check, by key: pictures, who else is in them, where those were found whom nobody marked; and pictures and clips that could not be
    measured; and what was read along clips."""

    pictures: dict[str, PictureMeasure]
    met: dict[str, tuple[tuple[Place, ...], ...]]
    spotted: dict[str, tuple[Place, ...]]
    trouble: dict[str, str]
    clips: dict[str, ClipReading]


def _outcome(sequence: sequences.Sequence, known: _Known, version: int) -> Outcome:
    shots = [_shot_state(x, sequence, known) for x in sequence.shots]
    styles = []
    for style in sequence.styles:
        pairs = [(known.pictures[t.key], w) for t, w in sequence.style_tasks[style.id] if t.key in known.pictures]
        signatures, weights = tuple(p.signature for p, _ in pairs), tuple(w for _, w in pairs)
        styles.append(StyleHome(style.id, style.name, signatures, weights, tuple(p.hand for p, _ in pairs if p.hand)))
    places = [
        PlaceHome(
            setting.id,
            setting.name,
            tuple(
                PlaceReference(place, variant)
                for task, variant in tasks
                if task.key in known.pictures and (place := known.pictures[task.key].place) is not None
            ),
        )
        for setting, tasks in sequence.places
    ]
    pictures = {x.shot.id: x.sha for x in sequence.shots}

    def keyed(found: Sequence[Finding]) -> list[Finding]:
        return [replace(f, key=_key(f, pictures, sequence.digests)) for f in found]

    both = judges()

    def checked(accepted: Collection[tuple[str, str]] = ()) -> CheckResult:
        return check(
            shots, styles, sequence.names, sequence.parts, accepted, both, sequence.wanted, places, sequence.cast
        )

    result = checked()
    every = keyed(result.findings)
    stood = [f for f in every if f.kind in WHO and f.key in sequence.stood]
    if stood:
        result = checked({(f.thread or "", f.shot or "") for f in stood})
        left = keyed(result.findings)
        still = {f.key for f in left}
        every = [*left, *(f for f in stood if f.key not in still)]
    from_pictures = [*_marked_wrong(sequence, result), *_kept_anyway(sequence, every)]
    bands = {
        term: band
        for term, band in learned([*sequence.lessons, *from_pictures]).items()
        if term not in sequence.unlearned
    }
    every += keyed(_beyond_narrow_bands(sequence, shots, result, bands))
    # What was decided stays to be seen, whatever the bands say of it.
    decided = [f for f in every if f.key in sequence.decided]
    told, inside = within([f for f in every if f.key not in sequence.decided], bands)
    order = {x.shot.id: i for i, x in enumerate(sequence.shots)}
    told = sorted([*told, *decided], key=lambda f: (asks(f), order[f.shot or ""], -f.severity))
    unmeasured = {x.shot.id: why for x in sequence.shots if (why := _trouble(x, sequence, known))}
    return Outcome(tuple(told), replace(result, findings=()), unmeasured, version, tuple(inside), tuple(from_pictures))


def _shot_state(x: sequences.SequenceShot, sequence: sequences.Sequence, known: _Known) -> ShotState:
    measured_here = x.task is not None and x.task.key in known.pictures
    return ShotState(
        x.shot.id,
        x.number,
        x.shot.shows,
        x.assigned,
        x.style,
        x.marks if measured_here else (),
        known.pictures.get(x.task.key) if x.task else None,
        x.plan,
        _company(x, sequence, known),
        _clip(sequence.clips.get(x.shot.id), known),
    )


def _trouble(x: sequences.SequenceShot, sequence: sequences.Sequence, known: _Known) -> str:
    """Why a shot's picture or clip could not be measured; empty where it was."""
    clip = sequence.clips.get(x.shot.id)
    keys = [task.key for task in (x.task, clip) if task is not None]
    return next((known.trouble[key] for key in keys if key in known.trouble), "")


def _clip(task: clip_readings.ClipTask | None, known: _Known) -> ClipSeen | None:
    """What was read along a shot's clip."""
    if task is None or task.key not in known.clips:
        return None
    return ClipSeen(known.clips[task.key], task.seconds, task.part)


def _company(x: sequences.SequenceShot, sequence: sequences.Sequence, known: _Known) -> tuple[Company, ...]:
    """Who and what was looked for in a shot's picture: the cast where nobody is marked, and those of its figures whom nobody marked."""
    by_thread: dict[str, list[Place]] = {}
    if x.company is not None and x.company.key in known.met:
        for figure, places in zip(x.company.figures, known.met[x.company.key], strict=False):
            by_thread.setdefault(figure.owner, []).extend(places)
    refused = sequence.refused.get(x.shot.id, frozenset())
    unmarked = dict(sequence.unmarked.get(x.shot.id, ()))
    looked = {t for t, key in unmarked.items() if key in known.spotted or t in refused}
    for thread in looked:
        places = known.spotted.get(unmarked[thread], ())
        # Where a character is twice, whoever looks warily says; a prop is looked for in this way alone.
        by_thread.setdefault(thread, []).extend(places if sequence.cast.kinds.get(thread) == "prop" else places[:1])
    looked |= by_thread.keys() - unmarked.keys()
    every = {*by_thread, *unmarked, *(t for t in x.assigned if sequence.colours.get(t))}
    return tuple(
        Company(
            thread,
            tuple(sorted(by_thread.get(thread, ()), key=lambda p: -p.odds)),
            thread in refused,
            tuple(sequence.colours.get(thread, ())),
            thread in looked,
        )
        for thread in sorted(every)
    )


def _beyond_narrow_bands(
    sequence: sequences.Sequence, shots: Sequence[ShotState], result: CheckResult, bands: Mapping[Term, Band]
) -> list[Finding]:
    """What is within our bands and beyond narrower ones that were learned."""
    most: dict[str, dict[str, float]] = {}
    for (thread, term), band in bands.items():
        kind, _, trait = term.partition(":")
        if band.times < 1 and kind == "trait_changed":
            most.setdefault(thread, {})[trait] = band.times
    names, by_id = {n.id: n.name for n in sequence.names}, {x.id: x for x in shots}
    found = []
    for thread, state in result.threads.items():
        if thread in most and state.figures:
            found += narrowed(state, names.get(thread, thread), by_id, sequence.parts, most[thread])
    return found


def _kept_anyway(sequence: sequences.Sequence, found: Collection[Finding]) -> list[Lesson]:
    """What pictures that the illustrator kept as they are say of what departs in them: so far off may stand."""
    return [
        Lesson(term, f.severity, True)
        for f in found
        if f.shot in sequence.kept and f.key not in sequence.decided and (term := term_of(f)) is not None
    ]


def _marked_wrong(sequence: sequences.Sequence, result: CheckResult) -> list[Lesson]:
    """What the illustrator's fault marks say of traits that lie under them: so far off is too far."""
    lessons = []
    for thread, state in result.threads.items():
        for point in state.figures:
            for box in sequence.wrong.get(point.shot, ()):
                under = [
                    t
                    for t in point.appearance.traits
                    if t.difference is not None
                    and shared_area(t.region, box) > 0.3 * min(t.region.w * t.region.h, box.w * box.h)
                ]
                for t in under:
                    lessons.append(
                        Lesson((thread, f"trait_changed:{t.name}"), (t.difference or 0.0) / t.allowed, False)
                    )
    return lessons


def _key(f: Finding, pictures: dict[str, str | None], digests: dict[tuple[str, str], str]) -> str:
    """The same until the finding's picture or its thread's references change."""
    shot = f.shot or ""
    about: str | None = f.evidence[0].measured if f.kind == "named_absent" else pictures.get(shot)
    if f.before is not None:
        about = f"{about} {pictures.get(f.before)}"
    return key_of(f.kind, f.thread, f.shot, f.trait, f.until, about, digests.get((f.thread or "", shot)))
