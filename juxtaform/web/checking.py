"""Routes of the check: start, stop, findings, lineups, stets."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Response
from pydantic import Field

from juxtaform.studio import checking, continuity
from juxtaform.studio.checking import CheckStatus, KeyedFinding
from juxtaform.studio.continuity import Lineup
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, TheChecker, Ws, out
from juxtaform.web.rows import ChangedOut

router = APIRouter(prefix="/projects/{project_id}", tags=["check"], responses=ERRORS)


class ThreadSummary(Body):
    """How a thread stands: shots measured, and where a lasting change begins."""

    thread_id: str
    measured: int
    begins: str | None


class Found(Body):
    """The latest findings, pictures that could not be measured (by shot), and the project's version that was looked at."""

    status: CheckStatus
    findings: list[KeyedFinding]
    trouble: dict[str, str]
    threads: list[ThreadSummary]
    version: int


class NewStet(Body):
    finding_key: Annotated[str, Field(max_length=64)]
    reason: Annotated[str, Field(max_length=1000)]
    revision: int | None = None


@router.post("/check", summary="Start a check; only what changed is measured", status_code=202)
def start(checker: TheChecker, project_id: str) -> CheckStatus:
    return checker.start(project_id)


@router.post("/check/stop", summary="Stop the check; what is measured is kept")
def stop(checker: TheChecker, project_id: str) -> CheckStatus:
    return checker.stop(project_id)


@router.get("/findings", summary="What the latest check found")
def findings(ws: Ws, project_id: str) -> Found:
    outcome = checking.outcome(ws, project_id)
    return Found(
        status=checking.status(ws, project_id),
        findings=list(outcome.findings),
        trouble=outcome.trouble,
        threads=[
            ThreadSummary(thread_id=t.thread, measured=len(t.style) + len(t.figures), begins=t.begins)
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


@router.post("/stets", summary="Let a finding stand, with a reason")
def stet(ws: Ws, project_id: str, body: NewStet) -> ChangedOut:
    return out(checking.stet(ws, project_id, body.finding_key, body.reason, body.revision))


@router.delete("/stets/{stet_id}", summary="Take a stet back")
def unstet(ws: Ws, project_id: str, stet_id: str) -> ChangedOut:
    return out(checking.unstet(ws, project_id, stet_id))
