"""Routes of projects, bundles, undo and history."""

from __future__ import annotations

import tempfile
from pathlib import Path
from typing import Annotated

from fastapi import APIRouter, Query, Response, UploadFile
from fastapi.responses import FileResponse
from pydantic import Field
from starlette.background import BackgroundTask

from juxtaform.records.rules import (
    MOST_INT,
    Aspect,
    Audience,
    BookRow,
    CastLine,
    Donts,
    FramesPerSecond,
    Id,
    Label,
    Medium,
    ProfileRow,
    Seed,
    SeedRule,
    Title,
    Unlearned,
    Words,
)
from juxtaform.studio import bundles, news, projects
from juxtaform.studio.projects import HistoryEntry, ProjectCard
from juxtaform.web import snapshots
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, Live, Ws, file_answer, out, problem_told
from juxtaform.web.entrance import TheVisitor
from juxtaform.web.rows import ChangedOut, OthersOut, SnapshotOut

router = APIRouter(tags=["projects"], responses=ERRORS)


class NewProject(Body):
    title: Title


class ProjectEdit(Body):
    revision: int | None = None
    title: Title = "?"
    target_s: Annotated[float | None, Field(ge=1, le=36000)] = None
    target_pages: Annotated[int | None, Field(ge=1, le=2000)] = None
    premise: Words = ""
    tone: Annotated[str, Field(max_length=120)] = ""
    frame_cast: Annotated[list[CastLine], Field(max_length=60)] = []
    medium: Medium = "film"
    language: Annotated[str, Field(max_length=24)] = "English"
    audience: Audience = "aloud to children"
    pace_factor: Annotated[float, Field(ge=0.4, le=2.5)] = 1.0
    table_columns: Annotated[list[Label], Field(max_length=40)] = []
    aspect: Aspect = ""
    style_id: Id | None = None
    donts: Donts = []
    seed_rule: SeedRule = "free"
    seed: Seed | None = None
    profile: Label = ""
    profiles: Annotated[list[ProfileRow], Field(max_length=40)] = []
    allowance: Annotated[float | None, Field(ge=0, le=1e9)] = None
    hidden_columns: Annotated[list[Label], Field(max_length=1000)] = []
    print_mm: Annotated[float | None, Field(ge=10, le=5000)] = None
    unlearned: Annotated[list[Unlearned], Field(max_length=1000)] = []
    fps: FramesPerSecond = 24.0
    book: BookRow = BookRow()


class Made(Body):
    id: str


@router.get(
    "/projects/{project_id}/bundle.zip",
    summary="The whole project as one open bundle",
    response_class=Response,
    responses=file_answer("application/zip"),
)
def give_out(ws: Ws, project_id: str) -> Response:
    with tempfile.NamedTemporaryFile(prefix="bundle-", suffix=".zip", delete=False) as out:
        path = Path(out.name)
        try:
            name = bundles.give_out(ws, project_id, out)
        except BaseException:
            path.unlink()
            raise
    headers = {"Content-Disposition": f"attachment; filename*=UTF-8''{name}"}
    return FileResponse(path, media_type="application/zip", headers=headers, background=BackgroundTask(path.unlink))


@router.post("/bundles", summary="Take in a bundle as a project", status_code=201)
def take_in_bundle(ws: Ws, visitor: TheVisitor, file: UploadFile) -> Made:
    return Made(id=bundles.take_in(ws, file.file, file.filename or "The bundle", visitor.account_id))


@router.get("/projects", summary="All projects, newest first")
def shelf(ws: Ws, visitor: TheVisitor) -> list[ProjectCard]:
    return projects.shelf(ws, visitor.account_id)


@router.post("/projects", summary="A new project", status_code=201)
def make(ws: Ws, visitor: TheVisitor, body: NewProject) -> Made:
    return Made(id=projects.make(ws, body.title, visitor.account_id))


@router.get("/projects/{project_id}", summary="Everything of a project", response_model=SnapshotOut)
def snapshot(
    live: Live,
    project_id: str,
    picked_alone: Annotated[
        bool, Query(description="Leave out takes that are not picked; /others gives them.")
    ] = False,
) -> Response:
    return snapshots.whole(live, project_id, picked_alone=picked_alone)


@router.get(
    "/projects/{project_id}/others",
    summary="The takes that are not picked, with their marks and pictures",
    response_model=OthersOut,
)
def others(live: Live, project_id: str) -> Response:
    return snapshots.others(live, project_id)


@router.get(
    "/projects/{project_id}/changes",
    summary="All that happened after a version, as one change",
    responses={410: problem_told("Too far behind: take the whole project anew")},
)
def changes(ws: Ws, project_id: str, after: Annotated[int, Query(ge=0, le=MOST_INT)]) -> ChangedOut:
    return out(news.since(ws, project_id, after) or news.nothing(ws, project_id))


@router.patch("/projects/{project_id}", summary="Rename a project or set its target length")
def edit(ws: Ws, project_id: str, body: ProjectEdit) -> ChangedOut:
    return out(projects.edit(ws, project_id, body.model_dump(exclude={"revision"}, exclude_unset=True), body.revision))


@router.delete("/projects/{project_id}", summary="Delete a project", status_code=204)
def remove(ws: Ws, project_id: str) -> None:
    projects.remove(ws, project_id)


@router.post("/projects/{project_id}/undo", summary="Take back the latest change")
def undo(ws: Ws, project_id: str) -> ChangedOut:
    return out(projects.undo(ws, project_id))


@router.post("/projects/{project_id}/redo", summary="Make the latest undone change again")
def redo(ws: Ws, project_id: str) -> ChangedOut:
    return out(projects.redo(ws, project_id))


@router.get("/projects/{project_id}/history", summary="The latest changes, newest first")
def history(ws: Ws, project_id: str) -> list[HistoryEntry]:
    return projects.history(ws, project_id)


@router.post("/projects/{project_id}/history/{change_id}", summary="Go back (or forth) to the state after a change")
def restore(ws: Ws, project_id: str, change_id: int) -> ChangedOut:
    return out(projects.restore(ws, project_id, change_id))
