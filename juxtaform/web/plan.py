"""Routes of the plan: text, scenes and shots."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter
from pydantic import BaseModel, Field

from juxtaform.studio import plan
from juxtaform.web.deps import ERRORS, Ws, out
from juxtaform.web.rows import ChangedOut

router = APIRouter(prefix="/projects/{project_id}", tags=["plan"], responses=ERRORS)

Size = Literal["EWS", "WS", "MWS", "MS", "MCU", "CU", "ECU"]
Angle = Literal["eye level", "high", "low", "bird's eye", "worm's eye", "over the shoulder", "point of view", "tilted"]
Move = Literal["static", "pan", "tilt", "push in", "pull out", "arc", "track", "crane"]


class Text(BaseModel):
    text: str


class SceneTitle(BaseModel):
    title: Annotated[str, Field(max_length=300)]
    revision: int | None = None


class ShotEdit(BaseModel):
    """Facts to change; `revision` is the one the editor saw."""

    revision: int | None = None
    shows: Annotated[str, Field(max_length=4000)] = ""
    size: Size = "MS"
    angle: Angle = "eye level"
    move: Move = "static"
    length_s: Annotated[float, Field(gt=0, le=3600)] = 3.0
    spoken: Annotated[str, Field(max_length=8000)] = ""


class ShotIds(BaseModel):
    shot_ids: Annotated[list[str], Field(min_length=1, max_length=5000)]


class Step(BaseModel):
    step: Literal[-1, 1]


class Cut(BaseModel):
    at: int | None = None


@router.post("/breakdown", summary="Keep a text and make scenes and shots from it")
def from_text(ws: Ws, project_id: str, body: Text) -> ChangedOut:
    return out(plan.from_text(ws, project_id, body.text))


@router.put("/text", summary="Keep the text without touching the plan")
def keep_text(ws: Ws, project_id: str, body: Text) -> ChangedOut:
    return out(plan.keep_text(ws, project_id, body.text))


@router.post("/scenes", summary="A new scene at the end")
def add_scene(ws: Ws, project_id: str, body: SceneTitle) -> ChangedOut:
    return out(plan.add_scene(ws, project_id, body.title))


@router.patch("/scenes/{scene_id}", summary="Rename a scene")
def edit_scene(ws: Ws, project_id: str, scene_id: str, body: SceneTitle) -> ChangedOut:
    return out(plan.edit_scene(ws, project_id, scene_id, {"title": body.title}, body.revision))


@router.patch("/shots/{shot_id}", summary="Change facts of a shot")
def edit_shot(ws: Ws, project_id: str, shot_id: str, body: ShotEdit) -> ChangedOut:
    values = body.model_dump(exclude={"revision"}, exclude_unset=True)
    return out(plan.edit_shot(ws, project_id, shot_id, values, body.revision))


@router.post("/shots/{shot_id}/insert", summary="An empty shot after this one")
def insert_shot(ws: Ws, project_id: str, shot_id: str) -> ChangedOut:
    return out(plan.insert_shot(ws, project_id, shot_id))


@router.post("/shots/delete", summary="Delete shots")
def delete_shots(ws: Ws, project_id: str, body: ShotIds) -> ChangedOut:
    return out(plan.delete_shots(ws, project_id, body.shot_ids))


@router.post("/shots/{shot_id}/move", summary="Move a shot up or down")
def move_shot(ws: Ws, project_id: str, shot_id: str, body: Step) -> ChangedOut:
    return out(plan.move_shot(ws, project_id, shot_id, body.step))


@router.post("/shots/{shot_id}/split", summary="Split a shot in two")
def split_shot(ws: Ws, project_id: str, shot_id: str, body: Cut) -> ChangedOut:
    return out(plan.split_shot(ws, project_id, shot_id, body.at))


@router.post("/shots/{shot_id}/merge-up", summary="Merge a shot into the one before it")
def merge_up(ws: Ws, project_id: str, shot_id: str) -> ChangedOut:
    return out(plan.merge_up(ws, project_id, shot_id))
