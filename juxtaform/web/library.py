"""Routes of the library: search, tags, and the bin."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Query
from pydantic import Field

from juxtaform.records.rules import MOST_INT, Digest, Id
from juxtaform.studio import library, taste
from juxtaform.studio.library import LibraryPart, Search
from juxtaform.studio.taste import Round
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, Ws, out
from juxtaform.web.rows import ChangedOut

router = APIRouter(prefix="/projects/{project_id}/library", tags=["library"], responses=ERRORS)
Ids = Annotated[list[Id], Field(min_length=1, max_length=5000)]
Tag = Annotated[str, Field(min_length=1, max_length=60)]


class Tagging(Body):
    ids: Ids
    add: Annotated[list[Tag], Field(max_length=40)] = []
    remove: Annotated[list[Tag], Field(max_length=40)] = []


class Binning(Body):
    ids: Ids
    binned: bool


@router.get("", summary="Search the library; best answers first, else newest first")
def search(
    ws: Ws,
    project_id: str,
    words: Annotated[str, Query(max_length=200)] = "",
    colour: Annotated[str, Query(pattern=r"^$|^#[0-9a-fA-F]{6}$")] = "",
    like: Annotated[str, Query(pattern=r"^$|^[0-9a-f]{64}$")] = "",
    thread: Annotated[str, Query(max_length=32)] = "",
    tag: Annotated[str, Query(max_length=60)] = "",
    binned: bool = False,
    offset: Annotated[int, Query(ge=0, le=MOST_INT)] = 0,
    limit: Annotated[int, Query(ge=1, le=500)] = 200,
) -> LibraryPart:
    return library.search(ws, project_id, Search(words, colour, like, thread, tag, binned), offset, limit)


@router.post("/tags", summary="Add tags to pictures, or take them off")
def tag(ws: Ws, project_id: str, body: Tagging) -> ChangedOut:
    return out(library.tag(ws, project_id, body.ids, body.add, body.remove))


@router.post("/bin", summary="Put pictures in the bin, or take them out")
def put_in_bin(ws: Ws, project_id: str, body: Binning) -> ChangedOut:
    return out(library.put_in_bin(ws, project_id, body.ids, binned=body.binned))


class Choice(Body):
    left: Digest
    right: Digest
    chosen: Literal["left", "right", "skip"]


class ToStyle(Body):
    thread_id: Id
    tag: Annotated[str, Field(max_length=60)] = ""


@router.get("/taste", summary="The next pair of a taste round, and the ranking so far")
def standing(ws: Ws, project_id: str, tag: Annotated[str, Query(max_length=60)] = "") -> Round:
    return taste.standing(ws, project_id, tag)


@router.post("/taste", summary="Pick one of two pictures, or skip them")
def choose(ws: Ws, project_id: str, body: Choice) -> ChangedOut:
    return out(taste.choose(ws, project_id, body.left, body.right, body.chosen))


@router.post("/taste/style", summary="Give a style the proposed pictures with their weights")
def to_style(ws: Ws, project_id: str, body: ToStyle) -> ChangedOut:
    return out(taste.to_style(ws, project_id, body.thread_id, body.tag))
