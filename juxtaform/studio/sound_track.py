"""All that sounds: where sounds lie, the lines of each shot with their takes, and what is wrong."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np

from juxtaform.core.run.timeline import TimedShot, Timeline
from juxtaform.core.sound.laying import Laid, Piece, Room, lay, rooms, starts
from juxtaform.core.sound.levels import RATE, Holds, Samples, Span
from juxtaform.core.sound.lines import Line, Speeches, told_lines
from juxtaform.core.sound.mix import SamplesOf, may_be_over, mixed
from juxtaform.core.sound.notes import ShotWords, SoundNote, sound_notes
from juxtaform.core.text.voices import as_said
from juxtaform.media import sounds as files
from juxtaform.records.models import Sound, SoundFile
from juxtaform.studio import plan
from juxtaform.studio.rows import ProjectRows
from juxtaform.studio.storytext import words_of
from juxtaform.studio.workspace import Workspace

MOST_OVER_S = 60.0
"""So much of the sequence is mixed to tell where it is too loud."""
LEAST_OVER_DB = 0.05
ONE_PLACE_S = 1.0
"""Places that are nearer to each other are told as one."""


@dataclass(frozen=True)
class SoundHeard:
    """A sound as it lies: how long after its shot it begins, how long its recording is, where in that something is heard, and its highest sample."""

    id: str
    begins_s: float
    seconds: float
    peak: float
    heard: tuple[Span, ...]


@dataclass(frozen=True)
class LineView:
    """A line: its words, who says it (a thread, and a name where no thread has it), and its takes in their order."""

    words: str
    thread_id: str | None
    who: str
    takes: tuple[str, ...]


@dataclass(frozen=True)
class ShotLines:
    """The lines of a shot, and how long it takes until all of its voice is said, in s; 0 without one."""

    shot_id: str
    lines: tuple[LineView, ...]
    said_s: float


@dataclass(frozen=True)
class SoundTrack:
    """All that sounds: sounds as they lie, lines by shot, and what is wrong."""

    sounds: list[SoundHeard] = field(default_factory=list)
    shots: list[ShotLines] = field(default_factory=list)
    notes: list[SoundNote] = field(default_factory=list)


def track(ws: Workspace, project_id: str) -> SoundTrack:
    """All that sounds. Raises NotThere."""
    with ws.database.reading() as s:
        rows = ProjectRows(s, project_id, plan_alone=True)
    return of_rows(ws, rows)


def of_rows(ws: Workspace, rows: ProjectRows) -> SoundTrack:
    """All that sounds, by a project's rows."""
    pieces, timeline = pieces_of(rows), timeline_of(rows)
    holds = {x.id: holds_of(f) for x in rows.sounds.values() if (f := rows.sound_files.get(x.sound_sha))}
    begins = starts(pieces)
    views = [
        SoundHeard(
            x.id,
            begins.get(x.id, x.start_s or 0.0),
            rows.sound_files[x.sound_sha].seconds,
            round(holds[x.id].peak, 4),
            holds[x.id].heard,
        )
        for x in in_order(rows.sounds.values())
        if x.id in holds
    ]
    lines = lines_by_shot(rows)
    room = rooms_of(rows, lines)
    by_shot: defaultdict[str, list[Sound]] = defaultdict(list)
    for x in in_order(rows.sounds.values()):
        if x.kind == "voice":
            by_shot[x.shot_id].append(x)
    shots = [
        ShotLines(
            shot.id,
            tuple(
                LineView(line.words, who, name, tuple(x.id for x in takes_of(by_shot[shot.id], line.words)))
                for line, who, name in lines[shot.id]
            ),
            room[shot.id].said_s if shot.id in room else 0.0,
        )
        for shot in rows.order
        if lines[shot.id] or shot.id in room
    ]
    said = [
        ShotWords(shot.id, i + 1, tuple(line.words for line, _, _ in lines[shot.id]))
        for i, shot in enumerate(rows.order)
    ]
    names = {t.id: t.name for t in rows.threads.values()}
    over = over_full(ws, rows, lay(pieces, timeline), timeline.length_s)
    return SoundTrack(views, shots, sound_notes(pieces, holds, timeline, said, names, over))


def rooms_of(rows: ProjectRows, lines: Mapping[str, Sequence[object]] | None = None) -> dict[str, Room]:
    """How long the voice of each shot takes, and how long there is for it. `lines` by shot, where they are at hand."""
    lines = lines_by_shot(rows) if lines is None else lines
    return rooms(pieces_of(rows), timeline_of(rows), {shot for shot, own in lines.items() if own})


def timeline_of(rows: ProjectRows) -> Timeline:
    """The shots of a project in time, as the run-through plays them."""
    return Timeline([TimedShot(x.id, x.scene_id, x.length_s, x.join, x.join_s) for x in rows.order])  # type: ignore[arg-type]


def pieces_of(rows: ProjectRows) -> list[Piece]:
    """The sounds that are heard, in the order in which the lines of a shot follow each other."""
    return [
        _piece(x, f) for x in in_order(rows.sounds.values()) if x.picked and (f := rows.sound_files.get(x.sound_sha))
    ]


def in_order(sounds: Iterable[Sound]) -> list[Sound]:
    """Sounds by their position within their shots."""
    return sorted(sounds, key=lambda x: (x.shot_id, x.position, x.id))


def _piece(x: Sound, file: SoundFile) -> Piece:
    return Piece(
        x.id,
        x.shot_id,
        x.kind,  # type: ignore[arg-type]
        x.from_s,
        min(file.seconds, x.to_s) if x.to_s is not None else file.seconds,
        x.start_s,
        x.until_shot_id or "",
        x.gain_db,
        x.fade_in_s,
        x.fade_out_s,
        x.thread_id or "",
        x.line,
        holds_of(file).heard,
        x.name,
    )


def holds_of(file: SoundFile) -> Holds:
    """What a sound's file holds."""
    h = file.holds
    return Holds(
        h["peak"], h["loud_dbfs"], tuple((a, b) for a, b in h["heard"]), tuple((a, b) for a, b in h["clipped"])
    )


def lines_by_shot(rows: ProjectRows) -> dict[str, list[tuple[Line, str | None, str]]]:
    """The lines of each shot, each with the thread that says it, where one is known, and a name."""
    text, voicing = rows.text, plan.voicing_of(rows.project, rows.text)
    speeches = Speeches(plan.manuscript_of(rows.project, text)) if voicing.is_script else None
    ids = {t.name.casefold(): t.id for t in rows.threads.values() if t.kind == "character"}
    ids |= {str(a).casefold(): t.id for t in rows.threads.values() if t.kind == "character" for a in t.aliases}
    names = {t.id: t.name for t in rows.threads.values()}
    told: dict[str, list[tuple[Line, str | None, str]]] = {}
    for shot in rows.order:
        stretch = text.stretch(shot)
        lines = speeches.of(*stretch) if speeches and stretch else []
        if not lines:
            spoken = " ".join(shot.spoken.split())
            first = str(shot.speakers[0]) if shot.speakers else ""
            if speeches is not None or not stretch:
                lines = [Line(spoken, names.get(first, first))] if spoken else []
            else:
                lines = told_lines(words_of(shot, text, voicing))
        told[shot.id] = [(x, ids.get(x.who.casefold()), x.who) for x in lines]
    return told


def takes_of(sounds: Iterable[Sound], line: str) -> list[Sound]:
    """The takes of a line, the first one first."""
    wanted = as_said(line)
    return [x for x in sounds if x.kind == "voice" and x.line and as_said(x.line) == wanted]


def over_full(ws: Workspace, rows: ProjectRows, laid: list[Laid], length_s: float) -> list[tuple[Span, float]]:
    """Where the mix goes over full scale, and by how many dB: what may be is mixed, up to some length."""
    shas, samples = {x.id: x.sound_sha for x in rows.sounds.values()}, samples_of(ws, rows)
    over: list[tuple[Span, float]] = []
    left = MOST_OVER_S
    try:
        for start, end in may_be_over(laid, lambda i: ws.sounds.levels(shas[i]), length_s):
            left -= end - start
            if left < 0:
                break
            peak = float(np.abs(mixed(laid, samples, round(start * RATE), round(end * RATE))).max())
            db = 20 * math.log10(max(peak, 1e-9))
            if db > LEAST_OVER_DB and over and start - over[-1][0][1] < ONE_PLACE_S:
                over[-1] = ((over[-1][0][0], end), max(over[-1][1], db))
            elif db > LEAST_OVER_DB:
                over.append(((start, end), db))
    except OSError:  # a file is not there; what goes out says so
        return []
    return over


def samples_of(ws: Workspace, rows: ProjectRows) -> SamplesOf:
    """The samples of a project's sounds, by their ids, each file opened once."""
    shas = {x.id: x.sound_sha for x in rows.sounds.values()}
    opened: dict[str, Samples] = {}

    def of(sound_id: str) -> Samples:
        sha = shas[sound_id]
        if sha not in opened:
            opened[sha] = files.samples(ws.sounds.copy(sha))
        return opened[sha]

    return of
