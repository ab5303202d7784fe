"""Routes of what there is to look at: findings of every room, and stets."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Response
from pydantic import Field, TypeAdapter

from juxtaform.studio import findings
from juxtaform.studio.findings import FindingsSince
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, TheFindings, Ws, out
from juxtaform.web.rows import ChangedOut

router = APIRouter(prefix="/projects/{project_id}", tags=["findings"], responses=ERRORS)
_SINCE = TypeAdapter(FindingsSince)


class NewStet(Body):
    finding_key: Annotated[str, Field(max_length=64)]
    reason: Annotated[str, Field(max_length=1000)]
    revision: int | None = None


@router.get(
    "/findings",
    summary="All that there is to look at, from every room, or what changed of it",
    response_model=FindingsSince,
)
def since(
    findings: TheFindings,
    project_id: str,
    after: Annotated[str, Query(max_length=40, description="The mark of the answer that the asker has.")] = "",
) -> Response:
    return Response(findings.answer(project_id, after, _json), media_type="application/json")


def _json(answer: FindingsSince) -> bytes:
    return _SINCE.dump_json(answer, exclude_defaults=True)


@router.post("/stets", summary="Let a finding stand, with a reason")
def stet(findings: TheFindings, project_id: str, body: NewStet) -> ChangedOut:
    return out(findings.stet(project_id, body.finding_key, body.reason, body.revision))


@router.delete("/stets/{stet_id}", summary="Take a stet back")
def unstet(ws: Ws, project_id: str, stet_id: str) -> ChangedOut:
    return out(findings.unstet(ws, project_id, stet_id))
