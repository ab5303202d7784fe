"""Comments of a showing as web annotations, given out and taken in."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from juxtaform.formats import annotations as form
from juxtaform.formats.annotations import AnnotationsWrong, Remark
from juxtaform.records.showings import Showing, ShowingNote
from juxtaform.studio import frozen, showings, shown
from juxtaform.studio.frozen import Frozen, FrozenShot
from juxtaform.studio.shown import NewNote
from juxtaform.studio.workspace import NotPossible, NotThere, Workspace


@dataclass(frozen=True)
class RemarksTaken:
    """How many annotations became comments, how many were here already, and why others were left out."""

    taken: int
    known: int
    left_out: list[str]


def given_out(s: Session, showing: Showing) -> dict[str, Any]:
    """All comments and verdicts of a showing as one AnnotationPage."""
    pictures = {x.id: x.sha or "" for x in frozen.read(showings.newest(s, showing.id).frozen).shots}
    remarks = [
        Remark(
            n.id,
            n.words,
            n.name,
            n.shot_id,
            pictures.get(n.shot_id, ""),
            n.place,
            at_s=n.at_s,
            answers=n.parent_id or "",
            at=n.made_at,
        )
        for n in showings.notes_of(s, showing.id)
    ]
    return form.as_page(showing.title, remarks, [(w.shot_id, w.name, w.says) for w in showings.words_of(s, showing.id)])


def of_project(ws: Workspace, project_id: str, showing_id: str) -> dict[str, Any]:
    """The annotations of a project's showing. Raises NotThere."""
    with ws.database.reading() as s:
        return given_out(s, _showing(s, project_id, showing_id))


def take_in(ws: Workspace, project_id: str, showing_id: str, data: bytes) -> RemarksTaken:
    """Make comments of annotations; those that were taken in before, or are ours, are left. Raises NotThere, NotPossible."""
    try:
        told = form.read(data)
    except AnnotationsWrong as error:
        raise NotPossible(str(error)) from error
    with ws.database.session() as s:
        showing = _showing(s, project_id, showing_id)
        edition = showings.newest(s, showing_id)
        here = frozen.read(edition.frozen)
        shots = {x.id for x in here.shots}
        rows = s.execute(select(ShowingNote.id, ShowingNote.origin).where(ShowingNote.showing_id == showing_id)).all()
        ids = {form.urn_of(i): i for i, _ in rows} | {origin: i for i, origin in rows if origin}
        taken, known, left_out = 0, 0, list(told.left_out)
        for r in told.remarks:
            if r.id and r.id in ids:
                known += 1
                continue
            try:
                made = shown.add_note(s, showing, edition.number, shots, _as_new(r, here, ids), r.name)
            except (NotThere, NotPossible) as error:
                left_out.append(f"“{r.words[:40]}”: {error}")
                continue
            taken += 1
            if r.id:
                ids[r.id] = made.id
        return RemarksTaken(taken, known, left_out)


def _as_new(r: Remark, here: Frozen, ids: dict[str, str]) -> NewNote:
    if r.answers:
        parent = ids.get(r.answers)
        if parent is None:
            raise NotThere("What it answers is not here.")
        return NewNote("", r.words, parent_id=parent, origin=r.id)
    shot = _shot_of(r, here)
    place = r.place
    if place and r.in_px:
        width, height = max(1, shot.width), max(1, shot.height)
        place = [place[0] / width, place[1] / height, place[2] / width, place[3] / height]
    if place and not all(0 <= v <= 1 for v in place):
        raise NotPossible("Its place lies outside of the picture.")
    return NewNote(shot.id, r.words, place=place, at_s=r.at_s, origin=r.id)


def _shot_of(r: Remark, here: Frozen) -> FrozenShot:
    for x in here.shots:
        if x.id == r.shot or (r.picture and x.sha == r.picture):
            return x
    raise NotThere("It is about a shot that this showing does not have.")


def _showing(s: Session, project_id: str, showing_id: str) -> Showing:
    showing = s.get(Showing, showing_id)
    if showing is None or showing.project_id != project_id:
        raise NotThere("This showing is not there any more.")
    return showing
