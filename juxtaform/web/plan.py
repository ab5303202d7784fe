"""Routes of the plan: text, scenes and shots."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter
from pydantic import Field

from juxtaform.records.rules import (
    Aspect,
    Digest,
    Donts,
    FrameBox,
    FramingRow,
    Id,
    JoinSeconds,
    OnPage,
    Place,
    Seed,
    Share,
    Words,
    WordsTone,
)
from juxtaform.studio import plan, planning
from juxtaform.studio.values import Angle, Framing, Join, Move, PageForm, Size
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, Ws, out
from juxtaform.web.rows import ChangedOut

router = APIRouter(prefix="/projects/{project_id}", tags=["plan"], responses=ERRORS)


class SceneTitle(Body):
    title: Annotated[str, Field(max_length=300)]
    revision: int | None = None


class ShotEdit(Body):
    """Facts to change; `revision` is the one the editor saw."""

    revision: int | None = None
    shows: Words = ""
    size: Size = "MS"
    angle: Angle = "eye level"
    move: Move = "static"
    length_s: Annotated[float, Field(gt=0, le=3600)] = 3.0
    spoken: Words = ""
    speakers: Annotated[list[Annotated[str, Field(max_length=200)]], Field(max_length=200)] = []
    motion: Words = ""
    move_start: FrameBox | None = None
    move_end: FrameBox | None = None
    sound: Words = ""
    music: Words = ""
    notes: Words = ""
    page_form: PageForm = "single"
    bleed: bool = False
    sketch_sha: Digest | None = None
    guide_strength: Share = 0.5
    aspect: Aspect = ""
    donts: Donts = []
    seed: Seed | None = None
    join: Join = "cut"
    join_s: JoinSeconds = 0.6
    words_at: OnPage | None = None
    words_tone: WordsTone = ""
    surprise: bool = False
    lost: Literal[""] = ""


class ShotIds(Body):
    shot_ids: Annotated[list[Id], Field(min_length=1, max_length=5000)]


class Step(Body):
    step: Literal[-1, 1]


class Cut(Body):
    """A place in the text, and the text's revision that it is of."""

    at: Place | None = None
    seen: int | None = None


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
    return out(plan.split_shot(ws, project_id, shot_id, body.at, body.seen))


@router.post("/shots/{shot_id}/merge-up", summary="Merge a shot into the one before it")
def merge_up(ws: Ws, project_id: str, shot_id: str) -> ChangedOut:
    return out(plan.merge_up(ws, project_id, shot_id))


class KeptFramings(Body):
    """Framings kept beside a shot; `picked` is the one that becomes the shot's."""

    framings: Annotated[list[FramingRow], Field(max_length=12)]
    picked: Annotated[int, Field(ge=0, le=12)] | None = None
    revision: int | None = None


class SomeShots(Body):
    """Some shots, or all of them when left out."""

    shot_ids: Annotated[list[Id] | None, Field(max_length=5000)] = None


@router.post("/shots/{shot_id}/to-motion", summary="Move what no still can show to the motion note")
def to_motion(ws: Ws, project_id: str, shot_id: str) -> ChangedOut:
    return out(planning.move_to_motion(ws, project_id, shot_id))


@router.get("/shots/{shot_id}/framings", summary="Other ways to look at a shot's moment")
def framings(ws: Ws, project_id: str, shot_id: str) -> list[Framing]:
    return planning.framings(ws, project_id, shot_id)


@router.put("/shots/{shot_id}/framings", summary="Keep framings beside a shot, and pick one")
def keep_framings(ws: Ws, project_id: str, shot_id: str, body: KeptFramings) -> ChangedOut:
    rows = [f.model_dump() for f in body.framings]
    return out(planning.keep_framings(ws, project_id, shot_id, rows, body.picked, body.revision))


@router.post("/plan/time", summary="Set lengths from the words at the project's pace")
def time_from_words(ws: Ws, project_id: str, body: SomeShots) -> ChangedOut:
    return out(planning.time_from_words(ws, project_id, body.shot_ids))


@router.post("/plan/fit", summary="Set the lengths that meet the target as nearly as the words allow")
def fit(ws: Ws, project_id: str) -> ChangedOut:
    return out(planning.fit_to_target(ws, project_id))
