"""Routes of many rows of the Sheet at once."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import Field

from juxtaform.records.rules import Hold, Id, Kind, Label, Name, Share
from juxtaform.studio import rowsheet
from juxtaform.studio.rowsheet import CopiedBead, CopiedShot, CopiedThread
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, Ws, out
from juxtaform.web.plan import ShotEdit
from juxtaform.web.rows import ChangedOut

router = APIRouter(prefix="/projects/{project_id}", tags=["sheet"], responses=ERRORS)
Ids = Annotated[list[Id], Field(min_length=1, max_length=5000)]


class ShotsEdit(Body):
    """`revisions` of the shots by id, as the editor saw them."""

    shot_ids: Ids
    values: ShotEdit
    revisions: Annotated[dict[Id, int], Field(max_length=5000)] = {}


class BeadCopy(Body):
    hold: Hold = "figure"
    weight: Share = 0.8
    costume: Label = ""


class BeadsPaste(Body):
    """A copied range of a column (null: no bead there); a greater `length` repeats it."""

    first_shot_id: Id
    beads: Annotated[list[BeadCopy | None], Field(max_length=5000)]
    length: Annotated[int, Field(ge=0, le=5000)] = 0


class ThreadCopy(Body):
    kind: Kind
    name: Name
    bead: BeadCopy = BeadCopy()


class ShotCopy(Body):
    facts: ShotEdit
    threads: Annotated[list[ThreadCopy], Field(max_length=200)] = []


class ShotsPaste(Body):
    after_shot_id: Id | None = None
    shots: Annotated[list[ShotCopy], Field(max_length=2000)]


class Ordered(Body):
    thread_ids: Annotated[list[Id], Field(max_length=1000)]


@router.patch("/shots", summary="Set facts of several shots to the same")
def edit_shots(ws: Ws, project_id: str, body: ShotsEdit) -> ChangedOut:
    values = body.values.model_dump(exclude={"revision"}, exclude_unset=True)
    return out(rowsheet.edit_shots(ws, project_id, body.shot_ids, values, body.revisions))


@router.put("/threads/{thread_id}/column", summary="Lay a copied range of a column down from a shot on")
def paste_beads(ws: Ws, project_id: str, thread_id: str, body: BeadsPaste) -> ChangedOut:
    beads = [None if b is None else CopiedBead(b.hold, b.weight, b.costume) for b in body.beads]
    return out(rowsheet.paste_beads(ws, project_id, thread_id, body.first_shot_id, beads, body.length))


@router.get("/shots/copied", summary="Some shots as they can be pasted into any project")
def copied(ws: Ws, project_id: str, shots: Annotated[list[str], Query()]) -> list[CopiedShot]:
    return rowsheet.copied_shots(ws, project_id, shots)


@router.post("/shots/paste", summary="Put copied shots after a shot")
def paste_shots(ws: Ws, project_id: str, body: ShotsPaste) -> ChangedOut:
    shots = [
        CopiedShot(
            s.facts.model_dump(exclude={"revision", "lost"}, exclude_unset=True),
            tuple(
                CopiedThread(t.kind, t.name, CopiedBead(t.bead.hold, t.bead.weight, t.bead.costume)) for t in s.threads
            ),
        )
        for s in body.shots
    ]
    return out(rowsheet.paste_shots(ws, project_id, body.after_shot_id, shots))


@router.put("/threads/order", summary="Put the threads in an order")
def order(ws: Ws, project_id: str, body: Ordered) -> ChangedOut:
    return out(rowsheet.order_threads(ws, project_id, body.thread_ids))
