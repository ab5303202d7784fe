"""The shapes of the picture-service protocol, version 1 (docs/picture-service.md), as the Understudy speaks it."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

Sha = Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
Aspect = Annotated[str, Field(pattern=r"^[1-9]\d{0,2}:[1-9]\d{0,2}$")]
Share = Annotated[float, Field(ge=0, le=1)]
Kind = Literal["picture", "edit", "extension", "clip"]
State = Literal["queued", "running", "done", "failed", "refused", "cancelled"]
PictureRole = Literal["character", "prop", "setting", "style", "layout", "first", "last", "base", "mask"]
QualityId = Literal["draft", "final"]

MOST_TEXT, MOST_PICTURES, MOST_REFERENCES = 4000, 8, 24


class Shape(BaseModel):
    model_config = ConfigDict(extra="forbid", strict=True, allow_inf_nan=False)


class Quality(Shape):
    id: QualityId
    side_px: int
    credits: float


class Model(Shape):
    id: str
    name: str
    kinds: list[Kind]
    aspects: list[Aspect]
    holds: list[str]
    text_most: int
    references_most: int
    reference_side_most_px: int
    pictures_most: int
    seeds: bool
    masks: bool
    clip_seconds_most: float | None
    qualities: list[Quality]


class Service(Shape):
    """What a service can do."""

    name: str
    version: Literal[1] = 1
    models: list[Model]
    jobs_at_once: int


class Picture(Shape):
    """A picture that was brought, and what it is for."""

    sha: Sha
    role: PictureRole
    name: Annotated[str, Field(max_length=120)] = ""
    hold: Annotated[str, Field(max_length=24)] = ""
    weight: Share = 1.0
    tall: Annotated[float, Field(gt=0, le=2)] | None = None


class Area(Shape):
    x: Share
    y: Share
    w: Annotated[float, Field(gt=0, le=1)]
    h: Annotated[float, Field(gt=0, le=1)]


class Wanted(Shape):
    """A job as it is asked for."""

    model: Annotated[str, Field(max_length=80)]
    kind: Kind = "picture"
    quality: QualityId = "draft"
    text: Annotated[str, Field(max_length=MOST_TEXT)]
    donts: Annotated[list[Annotated[str, Field(max_length=200)]], Field(max_length=100)] = []
    pictures: Annotated[list[Picture], Field(max_length=MOST_REFERENCES)] = []
    aspect: Aspect = "3:2"
    figure_height: Annotated[float, Field(gt=0, le=2)] | None = None
    count: Annotated[int, Field(ge=1, le=MOST_PICTURES)] = 1
    seed: Annotated[int, Field(ge=0, le=2**31 - 1)] | None = None
    area: Area | None = None
    motion: Annotated[str, Field(max_length=1000)] = ""
    seconds: Annotated[float, Field(gt=0, le=30)] | None = None


class Result(Shape):
    sha: Sha
    media_type: str
    width: int
    height: int
    seed: int
    credits: float


class Problem(Shape):
    """Problem details (RFC 9457)."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str


class Job(Shape):
    """A job as it stands."""

    id: str
    state: State
    progress: Share
    seed: int
    results: list[Result] = []
    credits: float = 0.0
    problem: Problem | None = None
