"""What every route needs."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import Depends, Request, Response

from juxtaform.studio.accounts import Doorkeeper
from juxtaform.studio.assist import service_address
from juxtaform.studio.background import Background
from juxtaform.studio.checking import Checker
from juxtaform.studio.deliveries import Deliveries
from juxtaform.studio.findings import Findings
from juxtaform.studio.gauging import Gauge
from juxtaform.studio.live import LiveProjects
from juxtaform.studio.presence import Presence
from juxtaform.studio.queue import JobQueue
from juxtaform.studio.showings import News
from juxtaform.studio.spotting import Spotter
from juxtaform.studio.workspace import Changed, Workspace
from juxtaform.web.problems import MEDIA_TYPE
from juxtaform.web.rows import ChangedOut


def _workspace(request: Request) -> Workspace:
    ws: Workspace = request.app.state.workspace
    return ws


def _checker(request: Request) -> Checker:
    checker: Checker = request.app.state.checker
    return checker


def _background(request: Request) -> Background:
    background: Background = request.app.state.background
    return background


def _doorkeeper(request: Request) -> Doorkeeper:
    doorkeeper: Doorkeeper = request.app.state.doorkeeper
    return doorkeeper


def _presence(request: Request) -> Presence:
    presence: Presence = request.app.state.presence
    return presence


def _showing_news(request: Request) -> News:
    news: News = request.app.state.showing_news
    return news


ShowingNews = Annotated[News, Depends(_showing_news)]
ThePresence = Annotated[Presence, Depends(_presence)]
Keeper = Annotated[Doorkeeper, Depends(_doorkeeper)]
TheBackground = Annotated[Background, Depends(_background)]


def _spotter(background: TheBackground) -> Spotter:
    return background.spotter


def _queue(background: TheBackground) -> JobQueue:
    return background.queue


def _gauge(background: TheBackground) -> Gauge:
    return background.gauge


def _deliveries(background: TheBackground) -> Deliveries:
    return background.deliveries


def _live(request: Request) -> LiveProjects:
    live: LiveProjects = request.app.state.live
    return live


def _findings(request: Request) -> Findings:
    findings: Findings = request.app.state.findings
    return findings


def _text_service(request: Request) -> str:
    own = getattr(request.app.state, "own_address", None) or f"http://127.0.0.1:{request.scope['server'][1]}"
    return service_address(f"{own}/understudy")


TextService = Annotated[str, Depends(_text_service)]
Ws = Annotated[Workspace, Depends(_workspace)]
TheChecker = Annotated[Checker, Depends(_checker)]
Live = Annotated[LiveProjects, Depends(_live)]
TheFindings = Annotated[Findings, Depends(_findings)]
TheDeliveries = Annotated[Deliveries, Depends(_deliveries)]
TheGauge = Annotated[Gauge, Depends(_gauge)]
TheQueue = Annotated[JobQueue, Depends(_queue)]
TheSpotter = Annotated[Spotter, Depends(_spotter)]


def problem_told(description: str) -> dict[str, Any]:
    """An answer of problem details, as the API's document tells it. It names the shape and does not work it out anew, as FastAPI
    would for each of six answers of each route: that took a second and a half of every start."""
    return {"description": description, "content": {MEDIA_TYPE: {"schema": {"$ref": "#/components/schemas/Problem"}}}}


ERRORS: dict[int | str, dict[str, Any]] = {
    401: problem_told("Nobody is known by what was sent along: sign in, or send a token"),
    403: problem_told("Whoever asks is known and may not"),
    404: problem_told("Not there (any more)"),
    409: problem_told("Somebody else changed it meanwhile; both states are told"),
    422: problem_told("Not possible; the detail says why and what to do"),
    "default": problem_told("Too large, the database away or busy, the disk full; in words"),
}


def out(changed: Changed) -> ChangedOut:
    return ChangedOut.model_validate(changed, from_attributes=True)


def file_answer(media_type: str) -> dict[int | str, dict[str, Any]]:
    return {200: {"content": {media_type: {"schema": {"type": "string", "format": "binary"}}}}}


def attachment(name: str, data: bytes, media_type: str) -> Response:
    """A file to be saved; its name is percent-encoded (RFC 6266)."""
    headers = {"Content-Disposition": f"attachment; filename*=UTF-8''{name}"}
    return Response(data, media_type=media_type, headers=headers)
