"""What is measured of a picture by itself, each kind once a picture: how well it serves as a reference, its style, what it is like at a
glance, where its figure is. A picture is read once for all that is missing of it."""

from __future__ import annotations

import base64
from collections.abc import Callable, Collection, Iterable, Iterator, Mapping, Sequence
from concurrent.futures import BrokenExecutor
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Generic, TypeVar

import numpy as np
from numpy.typing import NDArray
from pydantic import TypeAdapter
from sqlalchemy.orm import Session

from juxtaform.core.figure.stance import STANCE_VERSION, Stance, stance
from juxtaform.core.picture.fitness import FITNESS_VERSION, Fitness, fitness
from juxtaform.core.picture.likeness import LIKENESS_VERSION, likeness_vector
from juxtaform.core.style.terms import SIGNATURE_VERSION, Signature, signature
from juxtaform.media.decode import PictureRefused
from juxtaform.media.store import PictureStore
from juxtaform.records import measures
from juxtaform.studio.workspace import Workspace

Value = TypeVar("Value")
Pixels = NDArray[np.uint8]

MANY = 6
"""From this number of pictures on, the workers measure them."""


@dataclass(frozen=True)
class Kind(Generic[Value]):
    """Something that is measured of one picture, and how it is kept; `side` is that of the thumbnail that it is read from, None for all
    of the picture."""

    name: str
    version: str
    made: Callable[[Pixels], Value]
    as_text: Callable[[Value], str]
    from_text: Callable[[str], Value]
    side: int | None = None

    def key(self, sha: str) -> str:
        """What it is kept under."""
        return f"{self.name}{self.version}:{sha[:56]}"


def _vector_as_text(vector: NDArray[np.float32]) -> str:
    return base64.b64encode(vector.astype(np.float16).tobytes()).decode()


def _vector_from_text(text: str) -> NDArray[np.float32]:
    return np.frombuffer(base64.b64decode(text), dtype=np.float16).astype(np.float32)


def _kept_as(shape: Any) -> tuple[Callable[[Any], str], Callable[[str], Any]]:
    adapter = TypeAdapter(shape)
    return lambda value: adapter.dump_json(value).decode(), adapter.validate_json


FITNESS: Kind[Fitness] = Kind("fit", FITNESS_VERSION, fitness, *_kept_as(Fitness))
STYLE: Kind[Signature] = Kind("sig", SIGNATURE_VERSION, signature, *_kept_as(Signature))
STANCE: Kind[Stance] = Kind("stance", STANCE_VERSION, stance, *_kept_as(Stance), side=960)
LIKENESS: Kind[NDArray[np.float32]] = Kind(
    "like", LIKENESS_VERSION, likeness_vector, _vector_as_text, _vector_from_text, side=240
)
KINDS: Mapping[str, Kind[Any]] = {kind.name: kind for kind in (FITNESS, STYLE, STANCE, LIKENESS)}
OF_REFERENCES: tuple[Kind[Any], ...] = (FITNESS, STYLE, STANCE)
"""What will be asked of a picture that becomes a reference."""


@dataclass(frozen=True)
class _Task:
    """A picture of a store, and the names of the kinds that are missing of it."""

    root: Path
    sha: str
    kinds: tuple[str, ...]


def known(session: Session, kind: Kind[Value], shas: Iterable[str]) -> dict[str, Value]:
    """What is known of some pictures, by digest."""
    keys = {kind.key(sha): sha for sha in shas}
    texts = measures.known(session, keys, kind.version)
    return {keys[key]: kind.from_text(text) for key, text in texts.items()}


def are_known(session: Session, kind: Kind[Any], shas: Collection[str]) -> set[str]:
    """Those of some pictures of which it is known."""
    keys = {kind.key(sha): sha for sha in shas}
    return {keys[key] for key in measures.are_known(session, keys)} if keys else set()


def of(ws: Workspace, kind: Kind[Value], shas: Collection[str]) -> dict[str, Value]:
    """What is measured of some pictures, by digest; what was missing is measured now. Raises KeyError or PictureRefused for a picture that
    is not in the store as it was."""
    measure(ws, (kind,), shas)
    with ws.database.session() as s:
        return known(s, kind, shas)


def measure(ws: Workspace, kinds: Collection[Kind[Any]], shas: Collection[str]) -> None:
    """Measure what is missing of some pictures, and keep what comes. Raises KeyError or PictureRefused for a picture that is not in the
    store as it was."""
    wanted = {(sha, kind.name): kind.key(sha) for sha in dict.fromkeys(shas) for kind in kinds}
    with ws.database.session() as s:
        there = measures.are_known(s, wanted.values())
    missing: dict[str, list[str]] = {}
    for (sha, name), key in wanted.items():
        if key not in there:
            missing.setdefault(sha, []).append(name)
    tasks = [_Task(ws.store.root, sha, tuple(names)) for sha, names in missing.items()]
    for sha, texts in _made(ws, tasks):
        if isinstance(texts, str):
            raise PictureRefused(texts)
        for name, text in texts.items():
            measures.keep(ws.database, KINDS[name].version, {KINDS[name].key(sha): text})


def _made(ws: Workspace, tasks: Sequence[_Task]) -> Iterator[tuple[str, dict[str, str] | str]]:
    """What comes of tasks; where a worker dies, what it owes is measured here."""
    left = {task.sha: task for task in tasks}
    try:
        if len(tasks) >= MANY:
            for sha, texts in ws.workers.done(_measured, tasks):
                del left[sha]
                yield sha, texts
    except BrokenExecutor:
        ws.workers.drop()
    yield from map(_measured, left.values())


def _measured(task: _Task) -> tuple[str, dict[str, str] | str]:
    """What comes of a task, by the names of its kinds, or why nothing does; runs in a worker process too."""
    store, read, texts = PictureStore(task.root), dict[int | None, Pixels](), dict[str, str]()
    try:
        for name in task.kinds:
            kind = KINDS[name]
            if kind.side not in read:
                read[kind.side] = store.pixels(task.sha) if kind.side is None else store.small(task.sha, kind.side)
            texts[name] = kind.as_text(kind.made(read[kind.side]))
    except PictureRefused as error:
        return task.sha, str(error)
    return task.sha, texts
