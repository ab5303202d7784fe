"""Measure pictures in worker processes: tasks that name files, results that can be kept."""

from __future__ import annotations

import functools
import hashlib
import itertools
import json
import logging
import multiprocessing
import os
import tempfile
import threading
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import Executor, Future, ProcessPoolExecutor, as_completed
from dataclasses import asdict, dataclass, replace
from multiprocessing import get_context
from multiprocessing.connection import wait
from pathlib import Path
from typing import TypeVar

import cv2
from pydantic import TypeAdapter

from juxtaform.core.check.measure import MEASURE_VERSION, KeptColour, PictureMeasure, measure_picture
from juxtaform.core.colour.spaces import linear_from_hex
from juxtaform.core.figure.appearance import is_clear
from juxtaform.core.figure.known import FigureKnown, known_figure
from juxtaform.core.figure.traits import TraitSpec, figure_extent, figure_model, reference_view
from juxtaform.core.picture.regions import Box
from juxtaform.media.decode import PictureRefused, decoded_file
from juxtaform.media.network import figure_eye, hand_eye, letter_eye, network_digest
from juxtaform.studio.far import Far

SCHEDULER_VARIABLE = "JUXTAFORM_SCHEDULER"
# Its routines choose their way by where a picture lies in memory, and their last bits with it: what is measured would not be the same twice.
cv2.ipp.setUseIPP(False)
log = logging.getLogger("juxtaform")
Task = TypeVar("Task")
Done = TypeVar("Done")
_MEASURES = TypeAdapter(PictureMeasure)


@dataclass(frozen=True)
class ViewFile:
    """A reference picture of a figure: where it lies, its digest, name, weight and the figure's box on it if given."""

    path: str
    sha: str
    name: str
    weight: float
    box: tuple[float, float, float, float] | None = None


@dataclass(frozen=True)
class TraitEntry:
    """A declared trait: colours as hex, its box on the view of that index, an outline within it if drawn."""

    name: str
    colours: tuple[str, ...]
    box: tuple[float, float, float, float] | None
    view: int
    part: str = "figure"
    tolerance: float | None = None
    outline: tuple[tuple[float, float], ...] = ()


@dataclass(frozen=True)
class FigureFile:
    """A figure (a character in a costume) with its views and declared traits."""

    id: str
    owner: str
    views: tuple[ViewFile, ...]
    traits: tuple[TraitEntry, ...] = ()

    @functools.cached_property
    def digest(self) -> str:
        """Depends on everything that the model depends on, and not on where files lie."""
        return digest_of(
            [
                self.id,
                self.owner,
                [[v.sha, v.name, v.weight, v.box] for v in self.views],
                [asdict(t) for t in self.traits],
            ]
        )


@dataclass(frozen=True)
class PictureTask:
    """One picture to measure, with its marks as (figure id, box) and the colours kept for figures as (figure id, hex)."""

    path: str
    sha: str
    marks: tuple[tuple[str, tuple[float, float, float, float]], ...]
    figures: tuple[FigureFile, ...]
    kept: tuple[tuple[str, str], ...] = ()

    @functools.cached_property
    def cast(self) -> str:
        """Names the figures that are not marked here, and that the marked ones are held against."""
        marked = {figure for figure, _ in self.marks}
        return digest_of(sorted(f.digest for f in self.figures if f.id not in marked))[:16] if marked else ""

    def is_answered_by(self, measure: PictureMeasure) -> bool:
        """Whether a measure kept under this key still answers: the cast is the same, or makes no difference."""
        return measure.cast == self.cast or all(is_clear(a) for a in measure.appearances)

    @functools.cached_property
    def key(self) -> str:
        """The cache key: the same picture with the same marks, measured with the same references of those who are marked."""
        marked = {figure for figure, _ in self.marks}
        figures = sorted(f.digest for f in self.figures if f.id in marked)
        kept = sorted(self.kept) if self.marks else []
        return digest_of([MEASURE_VERSION, network_digest(), self.sha, self.marks, figures, kept])


@dataclass(frozen=True)
class Measured:
    """What came of a task: the measure, or why there is none."""

    key: str
    measure: PictureMeasure | None
    trouble: str = ""


def workers() -> int:
    """As many worker processes as there are cores for this process, at most eight."""
    return max(1, min(8, len(os.sched_getaffinity(0))))


LONGEST_FOLDER = 60
"""A socket's path has 107 bytes at most, of which its own folder and name take some forty."""


def pool() -> ProcessPoolExecutor:
    """Worker processes, one thread of computation each: libraries that start more on their own only get in each other's way. They begin as copies of a
    process that has read all the code and has no threads, so that one is there at once, and they share its memory; where the temporary folder's
    name is too long for that process's socket, each begins by itself."""
    for name in ("OPENBLAS_NUM_THREADS", "OMP_NUM_THREADS", "OPENCV_FOR_THREADS_NUM"):
        os.environ.setdefault(name, "1")  # read when a worker starts
    if len(os.fsencode(tempfile.gettempdir())) > LONGEST_FOLDER:
        return ProcessPoolExecutor(workers(), mp_context=get_context("spawn"), initializer=_quiet_worker)
    context = get_context("forkserver")
    context.set_forkserver_preload(["juxtaform.studio.background", "juxtaform.studio.sounds"])
    return ProcessPoolExecutor(workers(), mp_context=context, initializer=_quiet_worker)


class Workers:
    """The server's worker processes: made when they are first needed, and made anew after one of them died. Where the environment names a
    scheduler, pictures are measured by its workers, on whatever machines these are."""

    def __init__(self, executor: Executor | None = None) -> None:
        self._executor = executor
        self._own = executor is None
        self._far: Far | None = None
        self._lock = threading.Lock()

    def executor(self) -> Executor:
        """Processes on this machine."""
        with self._lock:
            if self._executor is None:
                self._executor = pool()
            return self._executor

    def done(self, job: Callable[[Task], Done], tasks: Iterable[Task], ahead: int = 0) -> Iterator[Done]:
        """What comes of tasks that need nothing but the pictures that they name, in order of completion. What workers elsewhere do not do,
        because they are not reached (any more), is done here."""
        tasks = iter(tasks)
        far = self._far_workers()
        if far is None:
            yield from done_by_workers(job, tasks, self.executor(), ahead)
            return
        left: list[Task] = []
        yield from far.done(job, tasks, left)
        if left:
            log.warning("The workers elsewhere are not reached: %s tasks and what follows are done here.", len(left))
            yield from done_by_workers(job, itertools.chain(left, tasks), self.executor(), ahead)

    def drop(self) -> None:
        """Forget processes that died."""
        with self._lock:
            if self._own:
                self._executor = None

    def close(self) -> None:
        with self._lock:
            far, self._far = self._far, None
        if far is not None:
            far.close()
        if not self._own:
            return
        with self._lock:
            executor, self._executor = self._executor, None
        if executor is not None:
            executor.shutdown(cancel_futures=True)

    def _far_workers(self) -> Far | None:
        address = os.environ.get(SCHEDULER_VARIABLE, "")
        if not address:
            return None
        with self._lock:
            if self._far is None:
                self._far = Far(address)
        return self._far if self._far.is_reached() else None


def done_by_workers(
    job: Callable[[Task], Done], tasks: Iterable[Task], executor: Executor, ahead: int = 0
) -> Iterator[Done]:
    """What comes of tasks, in order of completion; only a few are handed out ahead, so that stopping is quick."""
    waiting = iter(tasks)
    most = ahead or workers() * 2
    running: set[Future[Done]] = set()
    while True:
        for task in waiting:
            running.add(executor.submit(job, task))
            if len(running) >= most:
                break
        if not running:
            return
        first = next(as_completed(running))
        running.discard(first)
        yield first.result()


def measure_task(task: PictureTask) -> Measured:
    """Measure one picture; runs in a worker process and never raises for a bad picture or mark."""
    try:
        pixels = decoded_file(Path(task.path))
        marked = {figure for figure, _ in task.marks}
        known = {f.id: _known(f) for f in task.figures} if marked else {}
        marks = [(Box(*box), known[figure]) for figure, box in task.marks]
        kept = []
        for figure, code in task.kept:
            r, g, b = linear_from_hex(code)
            kept.append(KeptColour(figure, (float(r), float(g), float(b))))
        measure = measure_picture(pixels, marks, list(known.values()), kept, figure_eye(), hand_eye(), letter_eye())
        return Measured(task.key, replace(measure, cast=task.cast))
    except (PictureRefused, ValueError) as error:
        return Measured(task.key, None, str(error))


def to_text(measure: PictureMeasure) -> str:
    """A measure as JSON text for the cache."""
    return _MEASURES.dump_json(measure).decode()


def from_text(text: str) -> PictureMeasure:
    return _MEASURES.validate_json(text)


_models: dict[str, FigureKnown] = {}


def _known(figure: FigureFile) -> FigureKnown:
    """The figure's model, made once per worker and digest."""
    key = figure.digest
    if key not in _models:
        if len(_models) > 200:
            _models.clear()
        pictures = [decoded_file(Path(v.path)) for v in figure.views]
        boxes = [Box(*v.box) if v.box else None for v in figure.views]
        eye = figure_eye()
        views = [
            reference_view(p, v.name, v.weight, b, eye, v.sha)
            for p, v, b in zip(pictures, figure.views, boxes, strict=True)
        ]
        specs = []
        for t in figure.traits:
            colours = []
            for code in t.colours:
                r, g, b = linear_from_hex(code)
                colours.append((float(r), float(g), float(b)))
            box = Box(*t.box) if t.box else None
            extent = figure_extent(pictures[t.view], boxes[t.view])
            specs.append((TraitSpec(t.name, tuple(colours), box, t.view, t.part, t.tolerance, t.outline), extent))
        _models[key] = known_figure(figure_model(figure.id, views, specs, figure.owner), eye)
    return _models[key]


def _quiet_worker() -> None:
    cv2.setNumThreads(1)
    threading.Thread(target=_end_with_parent, daemon=True).start()


def _end_with_parent() -> None:
    """A worker whose server is gone, however it went, ends at once."""
    parent = multiprocessing.parent_process()
    if parent is not None:
        wait([parent.sentinel])
        os._exit(1)


def digest_of(value: object) -> str:
    return hashlib.sha256(json.dumps(value, sort_keys=True, default=list).encode()).hexdigest()
