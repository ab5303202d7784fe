"""Routes of a review: findings in groups, decisions about several at once, and the report."""

from __future__ import annotations

from typing import Annotated, Literal
from urllib.parse import quote

from fastapi import APIRouter, Response
from pydantic import Field

from juxtaform.studio import report, review
from juxtaform.studio.report import Report
from juxtaform.studio.review import Review
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, TheFindings, Ws, attachment, file_answer, out
from juxtaform.web.rows import ChangedOut

router = APIRouter(prefix="/projects/{project_id}", tags=["findings"], responses=ERRORS)


class NewDecision(Body):
    finding_keys: Annotated[
        list[Annotated[str, Field(min_length=1, max_length=64)]], Field(min_length=1, max_length=2000)
    ]
    verdict: Literal["stet", "retake"]
    reason: Annotated[str, Field(max_length=1000)] = ""
    seen: Annotated[
        dict[str, int] | None,
        Field(max_length=2000, description="Revisions of what the editor knows to be decided, by finding"),
    ] = None


@router.get("/review", summary="What the check found, in groups with one cause, and the bands that were learned")
def groups(findings: TheFindings, project_id: str) -> Review:
    return review.review(findings, project_id)


@router.post("/decisions", summary="Let findings stand, or put their shots down for a retake, in one step")
def decide(findings: TheFindings, project_id: str, body: NewDecision) -> ChangedOut:
    return out(findings.decide(project_id, body.finding_keys, body.verdict, body.reason, body.seen))


@router.get(
    "/continuity-report.pdf",
    summary="The continuity report as PDF",
    response_class=Response,
    responses=file_answer("application/pdf"),
)
def as_pdf(ws: Ws, findings: TheFindings, project_id: str) -> Response:
    return _file(report.as_pdf(ws, findings, project_id))


@router.get(
    "/continuity-report.html",
    summary="The continuity report as one HTML file",
    response_class=Response,
    responses=file_answer("text/html"),
)
def as_html(ws: Ws, findings: TheFindings, project_id: str) -> Response:
    return _file(report.as_html(ws, findings, project_id))


def _file(made: Report) -> Response:
    return attachment(quote(made.name), made.data, made.media_type)
