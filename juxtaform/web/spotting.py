"""Routes of who stands where: look, what is proposed, confirm, refuse."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import Field

from juxtaform.records.rules import Id
from juxtaform.studio import spotting
from juxtaform.studio.spotting import SpotStatus, Standings
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, TheSpotter, Ws, out
from juxtaform.web.rows import ChangedOut
from juxtaform.web.threads import BoxIn

router = APIRouter(prefix="/projects/{project_id}", tags=["who stands where"], responses=ERRORS)
MOST_TAKES = 5000


class TheseTakes(Body):
    take_ids: Annotated[list[Id], Field(max_length=MOST_TAKES)] | None = None


class ConfirmedBox(Body):
    take_id: Id
    thread_id: Id
    box: BoxIn


class ConfirmedBoxes(Body):
    boxes: Annotated[list[ConfirmedBox], Field(min_length=1, max_length=20_000)]


class NotHere(Body):
    thread_id: Id
    revision: int | None = None


@router.get("/standings", summary="Boxes that wait for the user's word, in all picked takes and in those named")
def standings(
    ws: Ws,
    spotter: TheSpotter,
    project_id: str,
    take_id: Annotated[list[Id], Query(max_length=200)] = [],  # noqa: B006
) -> Standings:
    return spotting.standings(ws, project_id, spotter.status(project_id), set(take_id))


@router.post(
    "/standings/look",
    summary="Look for whom the plan puts into some takes, or into all picked ones; what is known is not looked for again",
    status_code=202,
)
def look(spotter: TheSpotter, project_id: str, body: TheseTakes) -> SpotStatus:
    return spotter.look(project_id, body.take_ids)


@router.post("/standings/stop", summary="Look no further; what was found is kept")
def stop(spotter: TheSpotter, project_id: str) -> SpotStatus:
    return spotter.stop(project_id)


@router.post("/standings/confirm", summary="Mark figures where they stand, in one step")
def confirm(ws: Ws, project_id: str, body: ConfirmedBoxes) -> ChangedOut:
    return out(spotting.confirm(ws, project_id, [(b.take_id, b.thread_id, b.box.box()) for b in body.boxes]))


@router.post("/takes/{take_id}/not-here", summary="Say that a figure is not in a picture")
def not_here(ws: Ws, project_id: str, take_id: str, body: NotHere) -> ChangedOut:
    return out(spotting.refuse(ws, project_id, take_id, body.thread_id, body.revision))
