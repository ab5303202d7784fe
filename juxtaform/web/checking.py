"""Routes of the check: start, stop, how it stands, lineups."""

from __future__ import annotations

from fastapi import APIRouter, Response

from juxtaform.studio import checking, continuity
from juxtaform.studio.checking import CheckStatus
from juxtaform.studio.continuity import Lineup
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, TheChecker, Ws

router = APIRouter(prefix="/projects/{project_id}", tags=["check"], responses=ERRORS)


class ThreadSummary(Body):
    """How a thread stands: shots measured, and where a lasting change begins."""

    thread_id: str
    measured: int
    begins: str | None


class CheckOut(Body):
    """How the latest check stands: pictures that could not be measured (by shot), its threads, and the project's version that it holds for."""

    status: CheckStatus
    trouble: dict[str, str]
    threads: list[ThreadSummary]
    version: int


@router.post("/check", summary="Start a check; only what changed is measured", status_code=202)
def start(checker: TheChecker, project_id: str) -> CheckStatus:
    return checker.start(project_id)


@router.post("/check/stop", summary="Stop the check; what is measured is kept")
def stop(checker: TheChecker, project_id: str) -> CheckStatus:
    return checker.stop(project_id)


@router.get("/check", summary="How the latest check stands")
def stands(ws: Ws, project_id: str) -> CheckOut:
    outcome = checking.outcome(ws, project_id)
    return CheckOut(
        status=checking.status(ws, project_id),
        trouble=outcome.trouble,
        threads=[
            ThreadSummary(thread_id=t.thread, measured=t.measured, begins=t.begins)
            for t in outcome.result.threads.values()
        ],
        version=checking.holds_until(ws, project_id, outcome.version),
    )


@router.get("/lineups/{thread_id}", summary="A thread's appearances side by side")
def lineup(ws: Ws, project_id: str, thread_id: str) -> Lineup:
    return continuity.lineup(ws, project_id, thread_id)


@router.get(
    "/lineups/{thread_id}/pictures/{shot_id}",
    summary="Three squares side by side: a figure's reference, the figure laid over it, and where both differ",
)
def laid_over(ws: Ws, project_id: str, thread_id: str, shot_id: str) -> Response:
    data = continuity.laid_over(ws, project_id, thread_id, shot_id)
    return Response(data, media_type="image/webp", headers={"Cache-Control": "private, max-age=3600"})
