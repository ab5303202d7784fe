"""The rows of a project as the screen sees them."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field

Kind = Literal["character", "setting", "style", "prop"]
Hold = Literal["figure", "face", "outfit", "place", "light", "layout"]
Hex = Annotated[str, Field(pattern=r"^#[0-9a-fA-F]{6}$")]


class Row(BaseModel):
    id: str
    revision: int


class ProjectRow(Row):
    title: str
    text: str
    target_s: float | None


class SceneRow(Row):
    position: float
    title: str


class ShotRow(Row):
    scene_id: str
    position: float
    shows: str
    size: str
    angle: str
    move: str
    length_s: float
    spoken: str
    span_start: int | None
    span_end: int | None


class KeptColour(BaseModel):
    """A colour of a style that only one character may wear."""

    thread_id: str
    hex: Hex


class ThreadRow(Row):
    kind: Kind
    name: str
    aliases: list[str]
    wording: str
    kept_colours: list[KeptColour]
    position: float


class ReferenceRow(Row):
    thread_id: str
    picture_sha: str
    name: str
    costume: str
    weight: float
    position: float


class TraitRow(Row):
    thread_id: str
    reference_id: str
    name: str
    part: Literal["figure", "face", "outfit"]
    colours: list[Hex]
    x: float
    y: float
    w: float
    h: float
    position: float


class BeadRow(Row):
    shot_id: str
    thread_id: str
    hold: Hold
    weight: float
    costume: str
    reference_id: str | None


class TakeRow(Row):
    shot_id: str
    picture_sha: str
    name: str
    picked: bool
    position: float


class MarkRow(Row):
    take_id: str
    thread_id: str
    x: float
    y: float
    w: float
    h: float


class StetRow(Row):
    finding_key: str
    reason: str


class PictureRow(BaseModel):
    sha: str
    width: int
    height: int
    palette: list[tuple[str, float]]


class Rows(BaseModel):
    """Rows by table; a table that is left out did not change."""

    project: list[ProjectRow] = []
    scene: list[SceneRow] = []
    shot: list[ShotRow] = []
    thread: list[ThreadRow] = []
    reference: list[ReferenceRow] = []
    trait: list[TraitRow] = []
    bead: list[BeadRow] = []
    take: list[TakeRow] = []
    mark: list[MarkRow] = []
    stet: list[StetRow] = []


class ChangedOut(BaseModel):
    """What a change did: rows that are there now, ids that are gone by table, and what undo and redo would do next."""

    project_id: str
    change_id: int
    label: str
    rows: Rows
    gone: dict[str, list[str]]
    pictures: list[PictureRow]
    undo_label: str | None
    redo_label: str | None


class SnapshotOut(BaseModel):
    project_id: str
    change_id: int
    rows: Rows
    pictures: list[PictureRow]
    undo_label: str | None
    redo_label: str | None


class Problem(BaseModel):
    """RFC 9457 problem details; a conflict carries both states."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    mine: dict[str, object] | None = None
    theirs: dict[str, object] | None = None
