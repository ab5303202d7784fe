"""Fault marks: what is wrong in a take's picture, and where."""

from __future__ import annotations

from juxtaform.core.picture.regions import Box
from juxtaform.records.models import FaultMark, Picture, Take
from juxtaform.studio.workspace import Changed, NotPossible, Row, Workspace, edited, found


def add(ws: Workspace, project_id: str, take_id: str, kind: str, box: Box, note: str = "") -> Changed:
    """Mark a fault in a take. Raises NotPossible for a place outside its picture, NotThere."""
    with ws.writing(project_id, f"marked a fault: {kind}") as w:
        take = found(w.session, Take, take_id, project_id)
        cut = _inside(box, found(w.session, Picture, take.picture_sha))
        w.add(
            FaultMark(
                project_id=project_id, take_id=take_id, kind=kind, note=_note(note), x=cut.x, y=cut.y, w=cut.w, h=cut.h
            )
        )
    return w.changed


def edit(
    ws: Workspace, project_id: str, fault_mark_id: str, values: Row, box: Box | None, revision: int | None = None
) -> Changed:
    """Change a mark's kind, words or place. Raises Conflict, NotPossible, NotThere."""
    with ws.writing(project_id, "changed a fault mark") as w:
        mark = found(w.session, FaultMark, fault_mark_id, project_id)
        if "note" in values:
            values = {**values, "note": _note(values["note"])}
        if box is not None:
            take = found(w.session, Take, mark.take_id, project_id)
            cut = _inside(box, found(w.session, Picture, take.picture_sha))
            values = {**values, "x": cut.x, "y": cut.y, "w": cut.w, "h": cut.h}
        edited(mark, revision, values)
    return w.changed


def remove(ws: Workspace, project_id: str, fault_mark_id: str) -> Changed:
    """Take a fault mark away. Raises NotThere."""
    with ws.writing(project_id, "removed a fault mark") as w:
        w.erase([found(w.session, FaultMark, fault_mark_id, project_id)])
    return w.changed


def _note(words: str) -> str:
    return " ".join(words.split())[:200]


def _inside(box: Box, picture: Picture) -> Box:
    try:
        return box.inside(picture.width, picture.height)
    except ValueError as error:
        raise NotPossible(str(error)) from error
