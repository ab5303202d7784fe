"""What is told of a clip: how it drifts along its frames, where it slips, and what to cut."""

from __future__ import annotations

import hashlib
import json
from dataclasses import dataclass
from pathlib import Path

from pydantic import TypeAdapter
from sqlalchemy import select
from sqlalchemy.orm import Session

from juxtaform.core.clips.looks import Eyes
from juxtaform.core.clips.reading import (
    EVERY,
    READ_SIDE,
    READING_VERSION,
    ClipReading,
    Kind,
    Still,
    Track,
    read_clip,
)
from juxtaform.core.colour.spaces import linear_from_hex
from juxtaform.core.colour.words import colour_name
from juxtaform.core.picture.regions import Box, resized
from juxtaform.media import clips
from juxtaform.media.decode import decoded_file
from juxtaform.media.network import figure_eye, hand_eye, network_digest
from juxtaform.records import measures
from juxtaform.records.models import Mark, Picture, Take, Thread
from juxtaform.studio.by_worker import by_worker
from juxtaform.studio.clips import file_of
from juxtaform.studio.workspace import Workspace, found

SHOWN_FLICKER = 3
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


def told(ws: Workspace, project_id: str, take_id: str) -> ClipTold:
    """What is told of a take's clip; read now unless it is known. Raises NotThere, NotPossible."""
    with ws.database.reading() as s:
        take = found(s, Take, take_id, project_id)
        picture = found(s, Picture, take.picture_sha)
        marks = _boxes(s, take.id)
        still = _still(s, take)
        still_marks = _boxes(s, still.id) if still else {}
        names = {t.id: t.name for t in s.scalars(select(Thread).where(Thread.id.in_(marks)))}
        facts, size = dict(picture.clip or {}), (picture.width, picture.height)
        still_sha = still.picture_sha if still else ""
    path, kind = file_of(ws, take.picture_sha)
    key = f"clip{READING_VERSION}:{_digest([take.picture_sha, marks, still_sha, still_marks, network_digest()])}"
    with ws.database.reading() as s:
        known = measures.known(s, [key], READING_VERSION).get(key)
    if known is None:
        still_path = str(ws.store.path(still_sha)) if still_sha else ""
        known = by_worker(ws, read_task, str(path), kind, size, marks, still_path, still_marks)
        with ws.database.session() as s:
            measures.keep(s, key, READING_VERSION, known)
    return _told(_READINGS.validate_json(known), names, float(facts["seconds"]))


def read_task(
    path: str,
    kind: str,
    size: tuple[int, int],
    marks: dict[str, list[float]],
    still_path: str,
    still_marks: dict[str, list[float]],
) -> str:
    """A clip's reading as JSON; runs in a worker process. Raises PictureRefused, ValueError."""
    f = min(1.0, READ_SIDE / max(size))
    boxes = {name: Box(*(v * f for v in box)) for name, box in marks.items()}
    still = None
    if still_path:
        whole = decoded_file(Path(still_path))
        small = resized(whole, READ_SIDE)
        g = small.shape[1] / whole.shape[1]
        still = Still(small, {n: Box(*(v * g for v in b)) for n, b in still_marks.items()})
    eyes = Eyes(figure_eye(), hand_eye())
    return _READINGS.dump_json(read_clip(clips.read_through(Path(path), kind), boxes, still, eyes)).decode()


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
    words = [_slips(t) for t in tracks if t.begins_s is not None]
    words += [f"{_first_up(t.name)} is not as in the still." for t in tracks if t.still is not None and t.still > 1]
    notes = tuple(
        f"{t.name} leaves the picture at {t.leaves_s:.1f} s and is not judged after that."
        for t in tracks
        if t.leaves_s is not None
    )
    flicker = tuple(round(i * per_frame, 2) for i, _ in reading.flicker)
    if len(flicker) >= SHOWN_FLICKER:
        words.append(f"The light flickers in {len(flicker)} frames, first at {flicker[0]:.1f} s.")
    begins = when(reading.begins)
    end = seconds if begins is None or begins < EVERY * per_frame else max(2 * per_frame, begins - per_frame)
    return ClipTold(
        tuple(round(i * per_frame, 3) for i in reading.frames),
        tracks,
        flicker,
        tuple(words),
        notes,
        (0.0, round(end, 3)),
        seconds,
    )


def _slips(t: TrackTold) -> str:
    """What slips, and from when on."""
    since = f"from {t.begins_s:.1f} s on."
    if t.kind == "person":
        return f"This is not {t.name} any more {since}"
    if t.kind == "colours":
        return f"Several of {t.name}'s colours are others {since} Is this still {t.name}?"
    if t.kind == "colour" and t.was and t.now:
        was, now = (colour_name(linear_from_hex(c)) for c in (t.was, t.now))
        return f"{_first_up(t.name)}'s {was} {f'turns {now}' if was != now else 'is another one'} {since}"
    said = {"pale": "The colours fade", "loud": "The colours become stronger", "hand": "The style is another one"}
    return f"{said.get(t.kind, f'{_first_up(t.name)} slips')} {since}"


def _first_up(words: str) -> str:
    return words[:1].upper() + words[1:]


def _still(s: Session, clip: Take) -> Take | None:
    """The take that a clip is held against: the one that it was made from, else the shot's picked picture that is no clip."""
    parent = s.get(Take, clip.parent_id) if clip.parent_id else None
    candidates = [parent] if parent else []
    candidates += list(s.scalars(select(Take).where(Take.shot_id == clip.shot_id, Take.picked, Take.id != clip.id)))
    return next((t for t in candidates if not found(s, Picture, t.picture_sha).clip), None)


def _boxes(s: Session, take_id: str) -> dict[str, list[float]]:
    marks = s.scalars(select(Mark).where(Mark.take_id == take_id).order_by(Mark.thread_id))
    return {m.thread_id: [m.x, m.y, m.w, m.h] for m in marks}


def _digest(value: object) -> str:
    return hashlib.sha256(json.dumps(value, sort_keys=True).encode()).hexdigest()[:48]
