"""Routes of files out: what is missing, files asked for, stopped, gone on with, fetched and removed."""

from __future__ import annotations

from urllib.parse import quote

from fastapi import APIRouter, Response, UploadFile
from fastapi.responses import FileResponse

from juxtaform.records.rules import DeliveryKind, DeliveryOptions
from juxtaform.studio import coming_in, outgoing
from juxtaform.studio.deliveries import DeliveryView
from juxtaform.studio.outgoing import Outgoing
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, TheDeliveries, Ws, file_answer, out
from juxtaform.web.rows import ChangedOut

router = APIRouter(prefix="/projects/{project_id}", tags=["delivery"], responses=ERRORS)
MEDIA = {
    "pdf": "application/pdf",
    "zip": "application/zip",
    "cbz": "application/vnd.comicbook+zip",
    "mp4": "video/mp4",
    "webm": "video/webm",
    "vtt": "text/vtt; charset=utf-8",
    "srt": "application/x-subrip; charset=utf-8",
    "epub": "application/epub+zip",
    "csv": "text/csv; charset=utf-8",
}


class NewDelivery(Body):
    kind: DeliveryKind
    options: DeliveryOptions = DeliveryOptions()


@router.get("/outgoing", summary="What would go out, and what is missing of it")
def what_goes_out(ws: Ws, project_id: str) -> Outgoing:
    return outgoing.outgoing(ws, project_id)


@router.post("/timeline/file", summary="Lengths and order from an OpenTimelineIO file")
def timeline_in(ws: Ws, project_id: str, file: UploadFile) -> ChangedOut:
    return out(coming_in.timeline_in(ws, project_id, file.file.read()))


@router.post("/captions/file", summary="Words from a WebVTT or SRT file")
def captions_in(ws: Ws, project_id: str, file: UploadFile) -> ChangedOut:
    return out(coming_in.captions_in(ws, project_id, file.file.read()))


@router.get("/deliveries", summary="The files out, the newest first")
def every(deliveries: TheDeliveries, project_id: str) -> list[DeliveryView]:
    return deliveries.all(project_id)


@router.post("/deliveries", summary="Ask for a file", status_code=201)
def ask(deliveries: TheDeliveries, project_id: str, body: NewDelivery) -> DeliveryView:
    return deliveries.ask(project_id, body.kind, body.options)


@router.post("/deliveries/{delivery_id}/stop", summary="Stop a file that is being made")
def stop(deliveries: TheDeliveries, project_id: str, delivery_id: str) -> DeliveryView:
    return deliveries.stop(project_id, delivery_id)


@router.post("/deliveries/{delivery_id}/resume", summary="Go on with a file that was stopped or failed")
def resume(deliveries: TheDeliveries, project_id: str, delivery_id: str) -> DeliveryView:
    return deliveries.resume(project_id, delivery_id)


@router.delete("/deliveries/{delivery_id}", summary="Remove a file", status_code=204, response_class=Response)
def remove(deliveries: TheDeliveries, project_id: str, delivery_id: str) -> None:
    deliveries.remove(project_id, delivery_id)


@router.get(
    "/deliveries/{delivery_id}/file",
    summary="The file itself",
    response_class=FileResponse,
    responses=file_answer("application/octet-stream"),
)
def fetch(deliveries: TheDeliveries, project_id: str, delivery_id: str) -> FileResponse:
    file = deliveries.file(project_id, delivery_id)
    headers = {"Content-Disposition": f"attachment; filename*=UTF-8''{quote(file.name)}"}
    return FileResponse(
        file.path, media_type=MEDIA.get(file.path.suffix[1:], "application/octet-stream"), headers=headers
    )
