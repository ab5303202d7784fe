"""A project's sequence as its files out are made from it, and what of it is missing."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

from juxtaform.core.plan.shots import framing_words
from juxtaform.core.run.along import captions
from juxtaform.formats.out.sequence import OutPicture, OutSequence, OutShot, ranges
from juxtaform.records.models import Shot
from juxtaform.studio import plan
from juxtaform.studio.rows import ProjectRows
from juxtaform.studio.run_through import words_of
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
    picked = {t.shot_id: t.picture_sha for t in rows.takes.values() if t.picked}
    pace, voicing = plan.pace_of(rows.project), plan.voicing_of(rows.project, rows.text)
    shots = []
    for i, x in enumerate(rows.order):
        if x.status == "proposed":
            continue
        words = words_of(x, rows.text, voicing)
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
                tuple(captions(words, x.length_s, pace)),
                tuple(str(who) for who in x.speakers),
                x.motion,
                x.notes,
                _frame(x.move_start),
                _frame(x.move_end),
                _picture(ws, rows, x, picked.get(x.id)),
                x.page_form,
                x.bleed,
            )
        )
    return OutSequence(
        rows.project.title,
        tuple(shots),
        rows.project.fps,
        _aspect(rows.project.aspect, shots),
        TAGS.get(rows.project.language, "en"),
        rows.project.id,
    )


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
    if proposed := [i + 1 for i, x in enumerate(rows.order) if x.status == "proposed"]:
        what = "Shot" if len(proposed) == 1 else "Shots"
        missing.append(
            f"{what} {ranges(proposed)} {'is' if len(proposed) == 1 else 'are'} only proposed, and left out."
        )
    if not sequence.shots:
        missing.append("There is no shot yet. Plan one on the Sheet first.")
    return Outgoing(len(sequence.shots), round(sequence.timeline.length_s, 3), tuple(missing))


def _picture(ws: Workspace, rows: ProjectRows, shot: Shot, sha: str | None) -> OutPicture | None:
    own = sha or shot.sketch_sha
    known = rows.pictures.get(own or "")
    if own is None or known is None:
        return None
    return OutPicture(str(ws.store.path(own)), known.width, known.height, known.media_type, sketch=sha is None)


def _frame(said: list[float] | None) -> tuple[float, float, float, float] | None:
    return (said[0], said[1], said[2], said[3]) if said else None


def _aspect(said: str, shots: list[OutShot]) -> float:
    """The stage's form: what the project says, else that of the first picture."""
    wide, _, high = said.partition(":")
    if high and float(wide) > 0 and float(high) > 0:
        return float(wide) / float(high)
    first = next((x.picture for x in shots if x.picture), None)
    return first.width / first.height if first else USUAL_ASPECT
