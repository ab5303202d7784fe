"""Routes of the run-through: words read along, and lengths."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter
from pydantic import Field

from juxtaform.records.rules import Id
from juxtaform.studio import run_through
from juxtaform.studio.run_through import NewLength, ReadAlong
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, Ws, out
from juxtaform.web.rows import ChangedOut

router = APIRouter(prefix="/projects/{project_id}", tags=["run-through"], responses=ERRORS)
Length = Annotated[float, Field(ge=0.1, le=3600)]


class LengthOf(Body):
    """A shot's new length; `revision` is the one the editor saw."""

    shot_id: Id
    length_s: Length
    revision: int | None = None


class NewLengths(Body):
    lengths: Annotated[list[LengthOf], Field(min_length=1, max_length=5000)]


class SceneTime(Body):
    target_s: Annotated[float, Field(ge=1, le=36000)]


@router.get("/read-along", summary="The words of each shot, and when each word is said")
def read_along(ws: Ws, project_id: str) -> list[ReadAlong]:
    return run_through.read_along(ws, project_id)


@router.put("/lengths", summary="Give shots other lengths, in one step")
def set_lengths(ws: Ws, project_id: str, body: NewLengths) -> ChangedOut:
    lengths = [NewLength(x.shot_id, x.length_s, x.revision) for x in body.lengths]
    return out(run_through.set_lengths(ws, project_id, lengths))


@router.post("/scenes/{scene_id}/fit", summary="Fit a scene to a time, as nearly as its words allow")
def fit_scene(ws: Ws, project_id: str, scene_id: str, body: SceneTime) -> ChangedOut:
    return out(run_through.fit_scene(ws, project_id, scene_id, body.target_s))
