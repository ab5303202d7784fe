"""Routes of clips: the files, their frames, what is read along them, trims, frames out, and clips asked of a service."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Response
from fastapi.responses import FileResponse
from pydantic import Field

from juxtaform.records.rules import Id, Label, Quality, Seconds
from juxtaform.studio import clip_readings, clip_sounds, clips
from juxtaform.studio.clip_readings import ClipTold
from juxtaform.studio.clips import ClipOrder
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, TheGauge, TheQueue, Ws, file_answer, out
from juxtaform.web.pictures import FOREVER
from juxtaform.web.rows import ChangedOut
from juxtaform.web.services import Asked

files = APIRouter(prefix="/clips", tags=["clips"], responses=ERRORS)
router = APIRouter(prefix="/projects/{project_id}/takes/{take_id}", tags=["clips"], responses=ERRORS)


class TrimIn(Body):
    """From when to when a clip is shown, in s; none: all of it."""

    part: tuple[Seconds, Seconds] | None = None
    revision: int | None = None


class FrameOut(Body):
    """A frame that is to become a take: when it is, the sharpest near it, and of another shot if one is given."""

    at_s: Seconds
    sharpest: bool = False
    shot_id: Id | None = None


class ClipIn(Body):
    seconds: Annotated[float, Field(gt=0, le=60)]
    last_take_id: Id | None = None
    service_id: Id | None = None
    model: Label = ""
    quality: Quality = "draft"


@files.get("/{sha}", summary="A clip's own file, by its first frame", response_class=FileResponse)
def whole(ws: Ws, sha: str) -> FileResponse:
    path, kind = clips.file_of(ws, sha)
    return FileResponse(path, media_type=kind, headers=FOREVER)


@files.get("/{sha}/film", summary="A clip as a browser plays it, by its first frame", response_class=FileResponse)
def film(ws: Ws, sha: str) -> FileResponse:
    path, kind = clips.film_of(ws, sha)
    return FileResponse(path, media_type=kind, headers=FOREVER)


@files.get("/{sha}/frame", summary="A clip's frame at a time", responses=file_answer("image/webp"))
def frame(
    ws: Ws,
    sha: str,
    at: Annotated[float, Query(ge=0, le=3600)] = 0.0,
    side: Annotated[int, Query(ge=16, le=1920)] = 960,
) -> Response:
    return Response(clips.frame(ws, sha, at, side), media_type="image/webp", headers=FOREVER)


@files.get("/{sha}/strip", summary="A clip's frames beside each other", responses=file_answer("image/webp"))
def strip(
    ws: Ws, sha: str, count: Annotated[int, Query(ge=2, le=40)] = 12, side: Annotated[int, Query(ge=16, le=320)] = 120
) -> Response:
    return Response(clips.strip(ws, sha, count, side), media_type="image/webp", headers=FOREVER)


@router.get("/clip", summary="How a clip holds along its frames, and from when to when")
def told(ws: Ws, project_id: str, take_id: str) -> ClipTold:
    return clip_readings.told(ws, project_id, take_id)


@router.put("/trim", summary="Show a part of a clip")
def trim(ws: Ws, project_id: str, take_id: str, body: TrimIn) -> ChangedOut:
    return out(clips.trim(ws, project_id, take_id, body.part, body.revision))


@router.post("/frame", summary="Make a take of one frame of a clip")
def frame_out(ws: Ws, gauge: TheGauge, project_id: str, take_id: str, body: FrameOut) -> ChangedOut:
    changed = clips.frame_out(ws, project_id, take_id, body.at_s, body.shot_id, body.sharpest)
    gauge.want(project_id, [t["id"] for t in changed.rows.get("take", []) if t["revision"] == 1])
    return out(changed)


@router.post("/sound", summary="Lay what is heard in a clip on its shot")
def sound(ws: Ws, project_id: str, take_id: str) -> ChangedOut:
    return out(clip_sounds.lay(ws, project_id, take_id))


@router.post("/clip", summary="Ask for a clip that begins with a take's picture", status_code=202)
def order(ws: Ws, queue: TheQueue, project_id: str, take_id: str, body: ClipIn) -> Asked:
    wanted = ClipOrder(take_id, body.seconds, body.last_take_id or "", body.service_id or "", body.model, body.quality)
    ids = clips.order(ws, project_id, wanted)
    queue.touched(project_id)
    return Asked(job_ids=ids)
