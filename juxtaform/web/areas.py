"""Routes of edits of an area: asked of a service or brought, proved, taken alone; and of takes grown beyond their edges."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Response
from pydantic import Field

from juxtaform.records.rules import AreaRow, Digest, Id, Label, Quality, Words
from juxtaform.studio import areas, edit_proofs
from juxtaform.studio.areas import AreaOrder, GrowthOrder, as_area
from juxtaform.studio.edit_proofs import Grown, Proved
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, TheGauge, TheQueue, Ws, file_answer, out
from juxtaform.web.pictures import FOREVER
from juxtaform.web.rows import ChangedOut
from juxtaform.web.services import Asked

router = APIRouter(prefix="/projects/{project_id}", tags=["takes"], responses=ERRORS)


class AreaOrderIn(Body):
    """An area to be changed, to what, how many tries, by whom and how good."""

    area: AreaRow
    words: Words
    count: Annotated[int, Field(ge=1, le=40)] = 1
    service_id: Id | None = None
    model: Label = ""
    quality: Quality = "draft"


class GrowthIn(Body):
    aspect: Annotated[str, Field(pattern=r"^[1-9]\d{0,2}:[1-9]\d{0,2}$")]
    count: Annotated[int, Field(ge=1, le=40)] = 1
    service_id: Id | None = None
    model: Label = ""
    quality: Quality = "draft"


class Retouched(Body):
    """A picture that was changed elsewhere, already taken in; without an area it was grown beyond its edges."""

    sha: Digest
    name: Annotated[str, Field(min_length=1, max_length=1000)]
    area: AreaRow | None = None


class OnlyIn(Body):
    feather: Annotated[float, Field(ge=0, le=0.2)] | None = None


@router.post("/takes/{take_id}/area", summary="Ask for a take with one area changed", status_code=202)
def order(ws: Ws, queue: TheQueue, project_id: str, take_id: str, body: AreaOrderIn) -> Asked:
    area = as_area(body.area.model_dump())
    wanted = AreaOrder(take_id, area, body.words, body.count, body.service_id or "", body.model, body.quality)
    ids = areas.order(ws, project_id, wanted)
    queue.touched(project_id)
    return Asked(job_ids=ids)


@router.post("/takes/{take_id}/growth", summary="Ask for a take grown to another form", status_code=202)
def grow(ws: Ws, queue: TheQueue, project_id: str, take_id: str, body: GrowthIn) -> Asked:
    wanted = GrowthOrder(take_id, body.aspect, body.count, body.service_id or "", body.model, body.quality)
    ids = areas.grow(ws, project_id, wanted)
    queue.touched(project_id)
    return Asked(job_ids=ids)


@router.post("/takes/{take_id}/retouched", summary="Make a take of a picture that was changed elsewhere")
def bring(ws: Ws, gauge: TheGauge, project_id: str, take_id: str, body: Retouched) -> ChangedOut:
    area = as_area(body.area.model_dump()) if body.area else None
    changed = areas.bring(ws, project_id, take_id, body.sha, body.name, area)
    gauge.want(project_id, [t["id"] for t in changed.rows.get("take", []) if t["parent_id"] == take_id])
    return out(changed)


@router.get("/takes/{take_id}/proof", summary="Whether anything outside an edit's area changed")
def prove(ws: Ws, project_id: str, take_id: str) -> Proved:
    return edit_proofs.prove(ws, project_id, take_id)


@router.get(
    "/takes/{take_id}/proof/map",
    summary="Where outside an edit's area something changed, as a picture",
    responses=file_answer("image/webp"),
)
def prove_map(
    ws: Ws,
    project_id: str,
    take_id: str,
    key: Annotated[str, Query(max_length=80, description="The proof's key.")] = "",
) -> Response:
    headers = FOREVER if key else None
    return Response(edit_proofs.prove_map(ws, project_id, take_id), media_type="image/webp", headers=headers)


@router.post("/takes/{take_id}/only", summary="Make a take of an edit's area alone, the old pixels around it")
def take_only(ws: Ws, gauge: TheGauge, project_id: str, take_id: str, body: OnlyIn) -> ChangedOut:
    changed = edit_proofs.take_only(ws, project_id, take_id, body.feather)
    gauge.want(project_id, [t["id"] for t in changed.rows.get("take", []) if t["revision"] == 1])
    return out(changed)


@router.get("/takes/{take_id}/growth", summary="How what was added to a take matches the rest of it")
def look_at_growth(ws: Ws, project_id: str, take_id: str) -> Grown:
    return edit_proofs.look_at_growth(ws, project_id, take_id)
