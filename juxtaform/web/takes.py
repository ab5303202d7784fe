"""Routes of takes: files in, matches, picks and marks."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Form, UploadFile
from pydantic import Field

from juxtaform.records.rules import FaultKind, Id, Standing
from juxtaform.studio import contact_sheet, fault_marks, library, takes
from juxtaform.studio.contact_sheet import ContactSheet, LineageStep
from juxtaform.studio.takes import Proposal, TakenIn
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, TheGauge, TheSpotter, Ws, out
from juxtaform.web.rows import ChangedOut
from juxtaform.web.threads import BoxIn, NamedPicture

router = APIRouter(prefix="/projects/{project_id}", tags=["takes"], responses=ERRORS)


class Files(Body):
    files: Annotated[list[NamedPicture], Field(max_length=5000)]


class PlacedFile(NamedPicture):
    shot_id: Id


class PlacedFiles(Body):
    files: Annotated[list[PlacedFile], Field(min_length=1, max_length=5000)]


class Replacement(NamedPicture):
    pass


class NewMark(Body):
    thread_id: Id
    box: BoxIn
    revision: int | None = None


class StandingIn(Body):
    take_ids: Annotated[list[Id], Field(min_length=1, max_length=5000)]
    standing: Standing


class NewFault(Body):
    kind: FaultKind
    box: BoxIn
    note: Annotated[str, Field(max_length=200)] = ""


class FaultEdit(Body):
    kind: FaultKind = "other"
    box: BoxIn | None = None
    note: Annotated[str, Field(max_length=200)] = ""
    revision: int | None = None


@router.post("/pictures", summary="Take in one picture file; a bad one is refused with the reason")
def take_in(ws: Ws, project_id: str, file: UploadFile, name: Annotated[str, Form(max_length=1000)]) -> TakenIn:
    taken = takes.take_in(ws, name, file.file.read())
    if taken.sha:
        library.seen(ws, project_id, taken.sha, name)
    return taken


@router.post("/book-pages", summary="Take in every page of a comic archive or a PDF as a picture")
def take_in_book(ws: Ws, project_id: str, file: UploadFile) -> list[TakenIn]:
    pages = takes.take_in_book(ws, file.filename or "Book", file.file.read())
    for page in pages:
        if page.sha:
            library.seen(ws, project_id, page.sha, page.name)
    return pages


@router.post("/takes/propose", summary="Match taken-in files to shots by the numbers in their names")
def propose(ws: Ws, project_id: str, body: Files) -> list[Proposal]:
    return takes.propose(ws, project_id, [(f.name, f.sha) for f in body.files])


@router.post("/takes", summary="Make takes of taken-in files")
def accept(ws: Ws, spotter: TheSpotter, project_id: str, body: PlacedFiles) -> ChangedOut:
    changed = takes.accept(ws, project_id, [(f.name, f.sha, f.shot_id) for f in body.files])
    spotter.look(project_id, takes.new_in(changed))
    return out(changed)


@router.post("/shots/{shot_id}/replace", summary="Add a take and pick it")
def replace_picture(ws: Ws, spotter: TheSpotter, project_id: str, shot_id: str, body: Replacement) -> ChangedOut:
    changed = takes.replace_picture(ws, project_id, shot_id, body.name, body.sha)
    spotter.look(project_id, takes.new_in(changed))
    return out(changed)


@router.post("/takes/{take_id}/pick", summary="Pick a take")
def pick(ws: Ws, project_id: str, take_id: str) -> ChangedOut:
    return out(takes.pick(ws, project_id, take_id))


@router.put("/takes/standing", summary="Keep takes, or put them out")
def stand(ws: Ws, project_id: str, body: StandingIn) -> ChangedOut:
    return out(takes.stand(ws, project_id, body.take_ids, body.standing))


@router.get("/shots/{shot_id}/sheet", summary="A shot's contact sheet: its takes in groups, and how each one holds")
def sheet(ws: Ws, gauge: TheGauge, project_id: str, shot_id: str) -> ContactSheet:
    return contact_sheet.sheet(ws, gauge, project_id, shot_id)


@router.get("/takes/{take_id}/lineage", summary="What a take came from, and what changed at each step")
def lineage(ws: Ws, project_id: str, take_id: str) -> list[LineageStep]:
    return contact_sheet.lineage(ws, project_id, take_id)


@router.post("/takes/{take_id}/faults", summary="Mark a fault in a take")
def mark_fault(ws: Ws, project_id: str, take_id: str, body: NewFault) -> ChangedOut:
    return out(fault_marks.add(ws, project_id, take_id, body.kind, body.box.box(), body.note))


@router.patch("/faults/{fault_mark_id}", summary="Change a fault mark")
def edit_fault(ws: Ws, project_id: str, fault_mark_id: str, body: FaultEdit) -> ChangedOut:
    values = body.model_dump(exclude={"revision", "box"}, exclude_unset=True)
    box = body.box.box() if body.box else None
    return out(fault_marks.edit(ws, project_id, fault_mark_id, values, box, body.revision))


@router.delete("/faults/{fault_mark_id}", summary="Remove a fault mark")
def unmark_fault(ws: Ws, project_id: str, fault_mark_id: str) -> ChangedOut:
    return out(fault_marks.remove(ws, project_id, fault_mark_id))


@router.delete("/takes/{take_id}", summary="Remove a take")
def remove(ws: Ws, project_id: str, take_id: str) -> ChangedOut:
    return out(takes.remove(ws, project_id, take_id))


@router.put("/takes/{take_id}/marks", summary="Say where somebody stands in a take")
def mark(ws: Ws, project_id: str, take_id: str, body: NewMark) -> ChangedOut:
    return out(takes.mark(ws, project_id, take_id, body.thread_id, body.box.box(), body.revision))


@router.delete("/marks/{mark_id}", summary="Remove a mark")
def unmark(ws: Ws, project_id: str, mark_id: str) -> ChangedOut:
    return out(takes.unmark(ws, project_id, mark_id))
