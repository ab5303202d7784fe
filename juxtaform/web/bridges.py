"""Routes of bridges: shots proposed between two, put in or not."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter
from pydantic import Field

from juxtaform.studio import bridges
from juxtaform.studio.bridges import BridgeView
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, TheFindings, Ws, out
from juxtaform.web.rows import ChangedOut

router = APIRouter(prefix="/projects/{project_id}/bridges", tags=["run-through"], responses=ERRORS)


class BridgeKey(Body):
    """A proposed bridge, by its key."""

    key: Annotated[str, Field(min_length=1, max_length=64)]


@router.get("", summary="Shots proposed between two whose cut jars, or of which words outrun the first")
def proposed(ws: Ws, findings: TheFindings, project_id: str) -> list[BridgeView]:
    return bridges.proposed(findings, ws, project_id)


@router.post("", summary="Put a proposed bridge in", status_code=201)
def take_in(ws: Ws, findings: TheFindings, project_id: str, body: BridgeKey) -> ChangedOut:
    return out(bridges.take_in(findings, ws, project_id, body.key))


@router.post("/refuse", summary="Say that no shot is wanted there")
def refuse(ws: Ws, findings: TheFindings, project_id: str, body: BridgeKey) -> ChangedOut:
    return out(bridges.refuse(findings, ws, project_id, body.key))
