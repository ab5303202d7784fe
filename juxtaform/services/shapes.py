"""What a picture-making service says (picture-service, version 1): taken as it comes, and believed only within bounds."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from juxtaform.limits import MOST_SIDE_PX

Kind = Literal["picture", "edit", "extension", "clip"]
Quality = Literal["draft", "final"]
State = Literal["queued", "running", "done", "failed", "refused", "cancelled"]
Word = Annotated[str, Field(min_length=1, max_length=80)]
Credits = Annotated[float, Field(ge=0, le=1e6)]
ENDED: frozenset[State] = frozenset({"done", "failed", "refused", "cancelled"})


class Said(BaseModel):
    """Something that a service said; what we do not know of it is left alone."""

    model_config = ConfigDict(extra="ignore", allow_inf_nan=False, frozen=True)


class QualitySaid(Said):
    id: Quality
    side_px: Annotated[int, Field(ge=8, le=MOST_SIDE_PX)]
    credits: Credits


class ModelSaid(Said):
    id: Word
    name: Word
    kinds: Annotated[list[str], Field(max_length=40)]
    aspects: Annotated[
        list[Annotated[str, Field(pattern=r"^[1-9]\d{0,2}:[1-9]\d{0,2}$")]], Field(min_length=1, max_length=80)
    ]
    holds: Annotated[list[Word], Field(max_length=40)] = []
    text_most: Annotated[int, Field(ge=1, le=1_000_000)]
    references_most: Annotated[int, Field(ge=0, le=1000)]
    reference_side_most_px: Annotated[int, Field(ge=8, le=100_000)]
    pictures_most: Annotated[int, Field(ge=1, le=100)]
    seeds: bool = False
    masks: bool = False
    clip_seconds_most: Annotated[float, Field(gt=0, le=3600)] | None = None
    qualities: Annotated[list[QualitySaid], Field(min_length=1, max_length=2)]

    def quality(self, wanted: Quality) -> QualitySaid:
        """The quality of that name, else the only one."""
        return next((q for q in self.qualities if q.id == wanted), self.qualities[0])


class ServiceSaid(Said):
    """What a service can do."""

    name: Word
    version: Literal[1]
    models: Annotated[list[ModelSaid], Field(min_length=1, max_length=60)]
    jobs_at_once: Annotated[int, Field(ge=1, le=1000)]

    def model(self, wanted: str) -> ModelSaid | None:
        """The model of that id; the first where none is named."""
        return next((m for m in self.models if m.id == wanted or not wanted), None)


class ProblemSaid(Said):
    """Problem details (RFC 9457)."""

    title: Annotated[str, Field(max_length=1000)] = ""
    detail: Annotated[str, Field(max_length=4000)] = ""


class ResultSaid(Said):
    sha: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    media_type: Annotated[str, Field(max_length=80)]
    width: Annotated[int, Field(ge=1, le=MOST_SIDE_PX)]
    height: Annotated[int, Field(ge=1, le=MOST_SIDE_PX)]
    seed: Annotated[int, Field(ge=0, le=2**31 - 1)]
    credits: Credits


class JobSaid(Said):
    """A job as it stands."""

    id: Annotated[str, Field(pattern=r"^[A-Za-z0-9._~-]{1,200}$")]
    state: State
    progress: Annotated[float, Field(ge=0, le=1)] = 0.0
    results: Annotated[list[ResultSaid], Field(max_length=100)] = []
    credits: Credits = 0.0
    problem: ProblemSaid | None = None
