"""Sounds on the sequence: taken in, laid on shots, recorded line by line, and lengths that follow the voice."""

from __future__ import annotations

import hashlib
import math
import shutil
from collections.abc import Sequence
from concurrent.futures import BrokenExecutor
from concurrent.futures import TimeoutError as TooLong
from dataclasses import asdict, dataclass
from pathlib import Path

import numpy as np
from sqlalchemy import func, select
from sqlalchemy.dialects.mysql import insert

from juxtaform.core.plan.shots import SoundKind
from juxtaform.core.sound.laying import TAIL_S, Laid, lay
from juxtaform.core.sound.levels import RATE, Span
from juxtaform.core.sound.mix import factor, mixed
from juxtaform.limits import MOST_SOUND_BYTES, MOST_SOUND_WORK_S, MOST_SOUNDS
from juxtaform.media import sounds as files
from juxtaform.media.sounds import SoundFacts, SoundRefused
from juxtaform.records.models import Project, Shot, Sound, SoundFile, now
from juxtaform.studio import plan
from juxtaform.studio.rows import ProjectRows
from juxtaform.studio.sound_track import (
    holds_of,
    over_full,
    pieces_of,
    rooms_of,
    samples_of,
    takes_of,
    timeline_of,
)
from juxtaform.studio.workspace import Changed, NotPossible, NotThere, Row, Workspace, edited, found

MOST_PART_S = 30.0
MOST_DOWN_DB = 24.0
TAKE_AFTER = 0.001
"""Takes of a line follow each other within its place."""


@dataclass(frozen=True)
class NewSound:
    """A sound that is to lie on a shot; `place` is the line's among those of its shot, from 0."""

    shot_id: str
    name: str
    kind: SoundKind
    line: str = ""
    thread_id: str | None = None
    start_s: float | None = None
    until_shot_id: str | None = None
    place: int | None = None


def take_in(ws: Workspace, data: bytes) -> str:
    """Keep a sound in the store; returns its digest. Raises NotPossible with the reason."""
    kind = files.sound_type(data)
    if kind is None:
        raise NotPossible("This is no sound that is read here. Use WAV, FLAC, MP3, OGG or M4A.")
    if len(data) > MOST_SOUND_BYTES:
        raise NotPossible(
            f"The sound has {len(data) >> 20} MB; the most is {MOST_SOUND_BYTES >> 20} MB. Use FLAC or MP3."
        )
    sha = hashlib.sha256(data).hexdigest()
    with ws.database.session() as s:
        if s.get(SoundFile, sha) is not None and ws.sounds.has(sha):
            return sha
    facts = _read(ws, sha, data, kind)
    values = {
        "sha": sha,
        "media_type": facts.media_type,
        "channels": facts.channels,
        "seconds": facts.seconds,
        "bytes": len(data),
        "holds": asdict(facts.holds),
        "added_at": now(),
    }
    with ws.database.session() as s:
        row = insert(SoundFile).values(**values)
        s.execute(row.on_duplicate_key_update(sha=row.inserted.sha))
    return sha


def _read(ws: Workspace, sha: str, data: bytes, kind: str) -> SoundFacts:
    room = ws.sounds.room(sha)
    try:
        (room / "sound").write_bytes(data)
        reading = ws.workers.executor().submit(read_task, str(room), kind)
        facts = reading.result(2 * MOST_SOUND_WORK_S)
        ws.sounds.settle(sha, room)
        return facts
    except SoundRefused as error:
        raise NotPossible(str(error)) from error
    except TooLong as error:
        raise NotPossible("The sound takes too long to read. Export it shorter.") from error
    except BrokenExecutor as error:
        ws.workers.drop()
        raise NotPossible("The sound broke the reader. Save or export it again.") from error
    finally:
        shutil.rmtree(room, ignore_errors=True)


def read_task(room: str, kind: str) -> SoundFacts:
    """Runs in a worker process, so that a hostile file harms nobody else. Raises SoundRefused."""
    return files.opened(Path(room) / "sound", kind, Path(room) / "wav", Path(room) / "levels")


def add(ws: Workspace, project_id: str, data: bytes, new: NewSound) -> Changed:
    """Take a sound in and lay it on a shot; another take of a line is picked at once. Raises NotThere, NotPossible."""
    with ws.database.reading() as s:
        found(s, Shot, new.shot_id, project_id)
        count = s.scalar(select(func.count()).select_from(Sound).where(Sound.project_id == project_id)) or 0
    if count >= MOST_SOUNDS:
        raise NotPossible(f"{MOST_SOUNDS:,} sounds lie on this sequence already. Remove takes that you do not need.")
    sha = take_in(ws, data)
    with ws.writing(project_id, "laid a sound") as w:
        shot = found(w.session, Shot, new.shot_id, project_id)
        own = list(w.session.scalars(select(Sound).where(Sound.shot_id == shot.id)))
        earlier = takes_of(own, new.line) if new.kind == "voice" and new.line else []
        for other in earlier:
            other.picked = False
        last = max((x.position for x in own), default=0.0)
        fresh = Sound(
            project_id=project_id,
            shot_id=shot.id,
            sound_sha=sha,
            name=new.name[:255],
            kind=new.kind,
            thread_id=new.thread_id,
            line=new.line,
            start_s=earlier[-1].start_s if earlier else new.start_s,
            until_shot_id=new.until_shot_id,
            gain_db=earlier[-1].gain_db if earlier else 0.0,
            position=earlier[-1].position + TAKE_AFTER
            if earlier
            else new.place + 1
            if new.place is not None
            else last + 1,
        )
        called = plan.called(w.session, shot)
        w.name(f"recorded a line of {called}" if new.line else f"laid “{new.name[:60]}” on {called}")
        w.add(fresh)
    return w.changed


def edit(ws: Workspace, project_id: str, sound_id: str, values: Row, revision: int | None = None) -> Changed:
    """Change where a sound lies and how it sounds. Raises NotThere, NotPossible, Conflict."""
    with ws.writing(project_id, "changed a sound") as w:
        x = found(w.session, Sound, sound_id, project_id)
        seconds = found(w.session, SoundFile, x.sound_sha).seconds
        if values.get("to_s") is not None:
            values = {**values, "to_s": min(values["to_s"], seconds)}
        if values.get("from_s", 0.0) >= seconds:
            raise NotPossible(f"“{x.name}” is only {seconds:.1f} s long.")
        edited(x, revision, values)
        w.name(f"changed “{x.name[:60]}”")
    return w.changed


def remove(ws: Workspace, project_id: str, sound_id: str) -> Changed:
    """Take a sound off; of a line's takes the last one that is left is heard instead. Raises NotThere."""
    with ws.writing(project_id, "removed a sound") as w:
        x = found(w.session, Sound, sound_id, project_id)
        w.name(f"removed “{x.name[:60]}”")
        own = [o for o in w.session.scalars(select(Sound).where(Sound.shot_id == x.shot_id)) if o.id != x.id]
        left = takes_of(own, x.line) if x.line else []
        if x.picked and left and not any(o.picked for o in left):
            left[-1].picked = True
        w.erase([x])
    return w.changed


def pick(ws: Workspace, project_id: str, sound_id: str) -> Changed:
    """Of the takes of a line let this one be heard. Raises NotThere."""
    with ws.writing(project_id, "picked a take of a line") as w:
        x = found(w.session, Sound, sound_id, project_id)
        own = w.session.scalars(select(Sound).where(Sound.shot_id == x.shot_id))
        for other in takes_of(own, x.line) if x.line else []:
            other.picked = other.id == x.id
        x.picked = True
    return w.changed


def take_silence_off(ws: Workspace, project_id: str, sound_id: str, revision: int | None = None) -> Changed:
    """Let a sound begin just before the first thing that is heard and end just after the last. Raises NotThere, NotPossible, Conflict."""
    with ws.writing(project_id, "took silence off a sound") as w:
        x = found(w.session, Sound, sound_id, project_id)
        file = found(w.session, SoundFile, x.sound_sha)
        heard = holds_of(file).heard
        if not heard:
            raise NotPossible(f"Nothing is heard in “{x.name}”. Record it again.")
        start, end = max(0.0, heard[0][0] - 0.1), min(file.seconds, heard[-1][1] + 0.15)
        edited(x, revision, {"from_s": round(start, 3), "to_s": round(end, 3)})
        w.name(f"took the silence off “{x.name[:60]}”")
    return w.changed


def turn_down(ws: Workspace, project_id: str, at_s: float) -> Changed:
    """Turn down what is not a voice and is heard around a moment, just so far that it fits wherever it makes the whole too loud; where there are voices alone,
    all of them. Raises NotPossible."""
    with ws.writing(project_id, "turned sounds down") as w:
        rows = ProjectRows(w.session, project_id, plan_alone=True)
        timeline = timeline_of(rows)
        laid = lay(pieces_of(rows), timeline)
        spans = [s for s, _ in over_full(ws, rows, laid, timeline.length_s)]
        here = next((_heard(laid, s) for s in spans if s[0] <= at_s <= s[1]), [])
        if not here:
            raise NotPossible("Nothing is too loud there any more.")
        softer = [x for x in here if x.piece.kind != "voice"]
        by = _fitting(ws, rows, laid, softer, spans) if softer else None
        if by is None:
            softer = here
            by = _fitting(ws, rows, laid, here, spans) or MOST_DOWN_DB
        for x in softer:
            sound = found(w.session, Sound, x.piece.id, project_id)
            sound.gain_db = round(max(-60.0, sound.gain_db - by), 1)
        names = ", ".join(f"“{x.piece.name[:40]}”" for x in softer[:2])
        w.name(f"turned {names}{' and others' if len(softer) > 2 else ''} down by {by:g} dB")
    return w.changed


def _heard(laid: list[Laid], span: Span) -> list[Laid]:
    return [x for x in laid if x.start_s < span[1] and x.end_s > span[0]]


def _fitting(ws: Workspace, rows: ProjectRows, laid: list[Laid], softer: list[Laid], spans: list[Span]) -> float | None:
    """By how many dB some sounds are to be turned down for all to fit in those spans in which one of them is heard; None when that is not enough."""
    samples, turned, most = samples_of(ws, rows), {x.piece.id for x in softer}, 0.0
    for span in spans:
        here = _heard(laid, span)
        if not turned & {x.piece.id for x in here}:
            continue
        start, stop = round(span[0] * RATE), round(span[1] * RATE)
        stays = mixed([x for x in here if x.piece.id not in turned], samples, start, stop)
        turns = mixed([x for x in here if x.piece.id in turned], samples, start, stop)
        steps = range(1, round(2 * MOST_DOWN_DB) + 1)
        by = next((k / 2 for k in steps if float(np.abs(stays + turns * factor(-k / 2)).max()) <= 1.0), None)
        if by is None:
            return None
        most = max(most, by)
    return most


def follow_voice(
    ws: Workspace, project_id: str, shot_ids: Sequence[str] | None = None, *, shorten: bool = False
) -> Changed:
    """Give shots (none named: all) the time that their voice takes, to a whole frame, where it may not run on over silent ones; with `shorten` also less than they have.
    Raises NotPossible."""
    with ws.writing(project_id, "let lengths follow the voice") as w:
        project = found(w.session, Project, project_id)
        rooms = rooms_of(ProjectRows(w.session, project_id, plan_alone=True))
        wanted = rooms if shot_ids is None else {i: rooms[i] for i in shot_ids if i in rooms}
        if not wanted:
            raise NotPossible("No voice lies on these shots yet. Record their lines first.")
        changed = 0
        for shot_id, room in wanted.items():
            shot = found(w.session, Shot, shot_id, project_id)
            over = room.over_s > 1e-6
            need = shot.length_s + room.over_s + TAIL_S if over else room.said_s + TAIL_S
            length = round(math.ceil(need * project.fps - 1e-6) / project.fps, 3)
            if over or (shorten and length < shot.length_s - 1e-6):
                shot.length_s = length
                changed += 1
        if not changed:
            raise NotPossible("Every shot has the time that its voice takes.")
        w.name(
            f"gave {changed} {'shot' if changed == 1 else 'shots'} the time of {'its' if changed == 1 else 'their'} voice"
        )
    return w.changed


def file_of(ws: Workspace, sha: str) -> tuple[Path, str]:
    """Where a sound's own bytes lie, and its media type. Raises NotThere."""
    with ws.database.reading() as s:
        row = s.get(SoundFile, sha)
    if row is None or not ws.sounds.has(sha):
        raise NotThere("There is no such sound.")
    return ws.sounds.path(sha), row.media_type


def part(ws: Workspace, sha: str, start_s: float, seconds: float) -> bytes:
    """A part of a sound's working copy as WAV. Raises NotThere."""
    try:
        own = files.samples(ws.sounds.copy(sha))
    except (KeyError, OSError) as error:
        raise NotThere("There is no such sound.") from error
    first = min(len(own), round(start_s * RATE))
    return files.as_wav(np.asarray(own[first : first + round(min(seconds, MOST_PART_S) * RATE)]))
