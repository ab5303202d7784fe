"""What is told of a clip: how it drifts along its frames, where it slips, and what to cut."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Collection, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, TypeVar

from pydantic import TypeAdapter
from sqlalchemy import select
from sqlalchemy.orm import InstrumentedAttribute, Session

from juxtaform.core.clips.looks import Eyes
from juxtaform.core.clips.reading import (
    FLICKERS_TOLD,
    READ_SIDE,
    READING_VERSION,
    ClipReading,
    Kind,
    Still,
    Track,
    read_clip,
)
from juxtaform.core.clips.words import slips
from juxtaform.core.picture.regions import Box, resized
from juxtaform.media import clips
from juxtaform.media.decode import PictureRefused, decoded_file
from juxtaform.media.network import figure_eye, hand_eye, network_digest
from juxtaform.media.store import PictureStore
from juxtaform.records import measures
from juxtaform.records.models import Mark, Picture, Take, Thread
from juxtaform.studio.by_worker import by_worker
from juxtaform.studio.workspace import NotThere, Workspace, found

Row = TypeVar("Row")
_READINGS = TypeAdapter(ClipReading)


@dataclass(frozen=True)
class TrackTold:
    """How something drifts along a clip: for each measured frame, relative (1 is the edge); from when on it slips, in s, and what slips, with the colour that a part
    had and the one that it has; when a figure leaves the picture, and where it is in each measured frame until then (x, y, w, h in parts of the frame); and how far the
    clip's beginning is from the still. `thread_id` is None for the style."""

    thread_id: str | None
    name: str
    drift: tuple[float, ...]
    begins_s: float | None
    still: float | None
    kind: Kind
    was: str
    now: str
    leaves_s: float | None
    boxes: tuple[tuple[float, float, float, float], ...]


@dataclass(frozen=True)
class ClipTold:
    """What is told of a clip: when its measured frames are, how each thread drifts, frames that flicker, in words what is wrong and what is not judged, and from
    when to when it holds."""

    times: tuple[float, ...]
    tracks: tuple[TrackTold, ...]
    flicker: tuple[float, ...]
    words: tuple[str, ...]
    notes: tuple[str, ...]
    proposed: tuple[float, float]
    seconds: float


@dataclass(frozen=True)
class ClipTask:
    """A clip to be read: where it and the still that it goes with lie, and who is marked in both (x, y, w, h in px); `key` changes with what it depends on."""

    key: str
    path: str
    kind: str
    size: tuple[int, int]
    marks: dict[str, list[float]]
    still_path: str = ""
    still_marks: dict[str, list[float]] = field(default_factory=dict)
    seconds: float = 0.0
    part: tuple[float, float] = (0.0, 0.0)


@dataclass(frozen=True)
class ClipRead:
    """What came of a task: the reading as JSON, or why there is none."""

    key: str
    text: str | None
    trouble: str = ""


def told(ws: Workspace, project_id: str, take_id: str) -> ClipTold:
    """What is told of a take's clip; read now unless it is known. Raises NotThere, NotPossible."""
    with ws.database.reading() as s:
        take = found(s, Take, take_id, project_id)
        task = tasks_of(s, ws.store, [take]).get(take.id)
        if task is None:
            raise NotThere("There is no such clip.")
        names = {t.id: t.name for t in s.scalars(select(Thread).where(Thread.id.in_(task.marks)))}
        known = measures.known(s, [task.key], READING_VERSION).get(task.key)
    if known is None:
        known = by_worker(ws, read_task, task)
        measures.keep(ws.database, READING_VERSION, {task.key: known})
    return _told(reading_of(known), names, task.seconds)


def reading_of(text: str) -> ClipReading:
    """A reading from its JSON."""
    return _READINGS.validate_json(text)


def tasks_of(s: Session, store: PictureStore, clips_of: Sequence[Take]) -> dict[str, ClipTask]:
    """What is to be read of takes' clips, by take; those are left out that have none, or whose file is gone. So many queries for one as for all."""
    parents = {t.id: t for t in _some(s, Take, Take.id, {t.parent_id for t in clips_of if t.parent_id})}
    shown: dict[str, list[Take]] = {}
    for t in _some(s, Take, Take.shot_id, {t.shot_id for t in clips_of}):
        if t.picked:
            shown.setdefault(t.shot_id, []).append(t)
    near = {
        t.id: [*([parents[t.parent_id]] if t.parent_id in parents else []), *shown.get(t.shot_id, [])] for t in clips_of
    }
    shas = {t.picture_sha for t in (*clips_of, *(x for own in near.values() for x in own))}
    pictures = {p.sha: p for p in _some(s, Picture, Picture.sha, shas)}
    # A clip is held against the take that it was made from, else against the shot's picked picture: whichever is no clip.
    stills = {
        t.id: next((x for x in near[t.id] if x.id != t.id and not pictures[x.picture_sha].clip), None) for t in clips_of
    }
    boxes: dict[str, dict[str, list[float]]] = {}
    marked = {*stills, *(x.id for x in stills.values() if x)}
    for m in sorted(_some(s, Mark, Mark.take_id, marked), key=lambda m: m.thread_id):
        boxes.setdefault(m.take_id, {})[m.thread_id] = [m.x, m.y, m.w, m.h]
    found = {}
    for t in clips_of:
        still = stills[t.id]
        task = _task(
            store, t, pictures[t.picture_sha], boxes.get(t.id, {}), still, boxes.get(still.id, {}) if still else {}
        )
        if task is not None:
            found[t.id] = task
    return found


def _some(s: Session, model: type[Row], column: InstrumentedAttribute[Any], values: Collection[str]) -> list[Row]:
    """The rows with one of some values in a column."""
    return list(s.scalars(select(model).where(column.in_(values)))) if values else []


def _task(
    store: PictureStore,
    take: Take,
    picture: Picture,
    marks: dict[str, list[float]],
    still: Take | None,
    still_marks: dict[str, list[float]],
) -> ClipTask | None:
    if not picture.clip:
        return None
    try:
        path = store.clip_path(take.picture_sha)
    except KeyError:
        return None
    if not path.exists():
        return None
    still_sha = still.picture_sha if still else ""
    seconds = float(picture.clip["seconds"])
    says = [take.picture_sha, marks, still_sha, still_marks, network_digest()]
    return ClipTask(
        f"clip{READING_VERSION}:{_digest(says)}",
        str(path),
        str(picture.clip["media_type"]),
        (picture.width, picture.height),
        marks,
        str(store.path(still_sha)) if still_sha else "",
        still_marks,
        seconds,
        (float(take.trim[0]), float(take.trim[1])) if take.trim else (0.0, seconds),
    )


def read_or_say(task: ClipTask) -> ClipRead:
    """A clip's reading for a check; runs in a worker process and never raises for a bad file."""
    try:
        return ClipRead(task.key, read_task(task))
    except (PictureRefused, OSError, ValueError) as error:
        return ClipRead(task.key, None, f"The clip cannot be read: {error}")


def read_task(task: ClipTask) -> str:
    """A clip's reading as JSON; runs in a worker process. Raises PictureRefused, ValueError."""
    f = min(1.0, READ_SIDE / max(task.size))
    boxes = {name: Box(*(v * f for v in box)) for name, box in task.marks.items()}
    still = None
    if task.still_path:
        whole = decoded_file(Path(task.still_path))
        small = resized(whole, READ_SIDE)
        g = small.shape[1] / whole.shape[1]
        still = Still(small, {n: Box(*(v * g for v in b)) for n, b in task.still_marks.items()})
    eyes = Eyes(figure_eye(), hand_eye())
    return _READINGS.dump_json(read_clip(clips.read_through(Path(task.path), task.kind), boxes, still, eyes)).decode()


def _told(reading: ClipReading, names: dict[str, str], seconds: float) -> ClipTold:
    per_frame = seconds / max(1, reading.count)

    def when(at: int | None) -> float | None:
        return None if at is None else round(at * per_frame, 2)

    def track(t: Track, thread: str | None, name: str) -> TrackTold:
        boxes = reading.boxes.get(t.name, ())
        here = tuple(b for b, at in zip(boxes, reading.frames, strict=False) if t.leaves is None or at < t.leaves)
        return TrackTold(thread, name, t.drift, when(t.begins), t.still, t.kind, t.was, t.now, when(t.leaves), here)

    tracks = tuple(track(t, t.name, names.get(t.name, "?")) for t in reading.figures)
    tracks = (*tracks, track(reading.style, None, "the style"))
    words = [f"{_first_up(slips(t.name, t.kind, t.was, t.now, t.begins_s))}." for t in tracks if t.begins_s is not None]
    words += [f"{_first_up(t.name)} is not as in the still." for t in tracks if t.still is not None and t.still > 1]
    notes = tuple(
        f"{t.name} leaves the picture at {t.leaves_s:.1f} s and is not judged after that."
        for t in tracks
        if t.leaves_s is not None
    )
    flicker = tuple(round(i * per_frame, 2) for i, _ in reading.flicker)
    if len(flicker) >= FLICKERS_TOLD:
        words.append(f"The light flickers in {len(flicker)} frames, first at {flicker[0]:.1f} s.")
    begins = when(reading.begins)
    second = when(reading.frames[1]) if len(reading.frames) > 1 else None
    end = seconds if begins is None or begins < (second or 0.0) else max(2 * per_frame, begins - per_frame)
    return ClipTold(
        tuple(round(i * per_frame, 3) for i in reading.frames),
        tracks,
        flicker,
        tuple(words),
        notes,
        (0.0, round(end, 3)),
        seconds,
    )


def _first_up(words: str) -> str:
    return words[:1].upper() + words[1:]


def _digest(value: object) -> str:
    return hashlib.sha256(json.dumps(value, sort_keys=True).encode()).hexdigest()[:48]
