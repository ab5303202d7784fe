"""A project's sequence as its files out are made from it, and what of it is missing."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, replace
from pathlib import Path

from juxtaform.core.plan.shots import framing_words
from juxtaform.core.run.along import captions
from juxtaform.core.sound.laying import lay
from juxtaform.formats.out.sequence import OutClip, OutPicture, OutSequence, OutShot, OutSound, ranges
from juxtaform.records.models import Shot, Take
from juxtaform.studio.rows import ProjectRows
from juxtaform.studio.run_through import WordsInTime
from juxtaform.studio.sound_track import pieces_of
from juxtaform.studio.workspace import Workspace

TAGS = {
    "English": "en",
    "Dutch": "nl",
    "Finnish": "fi",
    "French": "fr",
    "German": "de",
    "Italian": "it",
    "Polish": "pl",
    "Portuguese": "pt",
    "Spanish": "es",
    "Swedish": "sv",
    "Turkish": "tr",
}
"""Tags of languages (BCP 47)."""
USUAL_ASPECT = 1.5


@dataclass(frozen=True)
class Outgoing:
    """What goes out: shots, how long they take, and what is missing, a sentence each."""

    shots: int
    length_s: float
    missing: tuple[str, ...]


def sequence_of(ws: Workspace, project_id: str) -> OutSequence:
    """The settled shots of a project as they go out. Raises NotThere."""
    with ws.database.reading() as s:
        rows = ProjectRows(s, project_id)
    return of_rows(ws, rows)


def of_rows(ws: Workspace, rows: ProjectRows) -> OutSequence:
    """The settled shots of a project's rows as they go out."""
    picked = {t.shot_id: t for t in rows.takes.values() if t.picked}
    in_time = WordsInTime(rows)
    shots = []
    for i, x in enumerate(rows.order):
        if x.status == "proposed":
            continue
        words, said, in_voice = in_time.of(x, x.length_s)
        shots.append(
            OutShot(
                x.id,
                i + 1,
                rows.scenes[x.scene_id].title,
                x.shows,
                framing_words(x.size, x.angle),
                x.move,
                x.length_s,
                x.join,  # type: ignore[arg-type]
                x.join_s,
                words,
                tuple(captions(words, x.length_s, said=said)),
                tuple(str(who) for who in x.speakers),
                x.motion,
                x.notes,
                _frame(x.move_start),
                _frame(x.move_end),
                _picture(ws, rows, x, picked.get(x.id)),
                x.page_form,
                x.bleed,
                phrases=tuple(in_time.phrases(x, words)) if in_voice else (),
            )
        )
    made = OutSequence(
        rows.project.title,
        tuple(shots),
        rows.project.fps,
        _aspect(rows.project.aspect, shots),
        TAGS.get(rows.project.language, "en"),
        rows.project.id,
    )
    return replace(made, sounds=_sounds(ws, rows, made))


def _sounds(ws: Workspace, rows: ProjectRows, sequence: OutSequence) -> tuple[OutSound, ...]:
    numbers, names = {x.id: x.number for x in sequence.shots}, {t.id: t.name for t in rows.threads.values()}
    out = []
    for laid in lay(pieces_of(rows), sequence.timeline):
        sha = rows.sounds[laid.piece.id].sound_sha
        file = rows.sound_files[sha]
        out.append(
            OutSound(
                laid,
                str(ws.sounds.path(sha)),
                str(ws.sounds.copy(sha)),
                file.media_type,
                file.seconds,
                names.get(laid.piece.who, ""),
                numbers[laid.piece.shot],
            )
        )
    return tuple(out)


def outgoing(ws: Workspace, project_id: str) -> Outgoing:
    """What goes out, and what is missing. Raises NotThere."""
    with ws.database.reading() as s:
        rows = ProjectRows(s, project_id)
    sequence = of_rows(ws, rows)
    told: dict[str, list[int]] = defaultdict(list)
    for x in sequence.shots:
        if x.picture is None:
            told["No picture for"].append(x.number)
        elif x.picture.sketch:
            told["Only a sketch for"].append(x.number)
        if not x.shows and x.picture is None:
            told["Neither picture nor description for"].append(x.number)
    missing = [f"{what} {'shot' if len(n) == 1 else 'shots'} {ranges(n)}." for what, n in told.items()]
    if said := [x.laid.piece.name for x in sequence.sounds if not Path(x.copy).exists()]:
        missing.append(
            f"The file of {'“' + said[0] + '”' if len(said) == 1 else f'{len(said)} sounds'} is not in the store."
        )
    if proposed := [i + 1 for i, x in enumerate(rows.order) if x.status == "proposed"]:
        what = "Shot" if len(proposed) == 1 else "Shots"
        missing.append(
            f"{what} {ranges(proposed)} {'is' if len(proposed) == 1 else 'are'} only proposed, and left out."
        )
    if not sequence.shots:
        missing.append("There is no shot yet. Plan one on the Sheet first.")
    return Outgoing(len(sequence.shots), round(sequence.timeline.length_s, 3), tuple(missing))


def _picture(ws: Workspace, rows: ProjectRows, shot: Shot, take: Take | None) -> OutPicture | None:
    own = take.picture_sha if take else shot.sketch_sha
    known = rows.pictures.get(own or "")
    if own is None or known is None:
        return None
    clip = None
    if take is not None and known.clip:
        start, end = take.trim or (0.0, known.clip["seconds"])
        clip = OutClip(str(ws.store.clip_path(own)), known.clip["media_type"], start, end)
    path = str(ws.store.path(own))
    return OutPicture(path, known.width, known.height, known.media_type, sketch=take is None, clip=clip)


def _frame(said: list[float] | None) -> tuple[float, float, float, float] | None:
    return (said[0], said[1], said[2], said[3]) if said else None


def _aspect(said: str, shots: list[OutShot]) -> float:
    """The stage's form: what the project says, else that of the first picture."""
    wide, _, high = said.partition(":")
    if high and float(wide) > 0 and float(high) > 0:
        return float(wide) / float(high)
    first = next((x.picture for x in shots if x.picture), None)
    return first.width / first.height if first else USUAL_ASPECT
