"""Routes of the light table: colours under the loupe, and pictures pegged on each other."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter
from pydantic import Field

from juxtaform.records.rules import Digest, Id
from juxtaform.studio import light_table
from juxtaform.studio.light_table import MOST_PICTURES, Pegged, Pinned, Place, TakeLight, UnderLoupe
from juxtaform.studio.values import SceneLight
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, Ws

router = APIRouter(prefix="/projects/{project_id}", tags=["light table"], responses=ERRORS)
Factor = Annotated[float, Field(ge=0.01, le=100)]
Px = Annotated[float, Field(ge=-1e6, le=1e6)]


class LightIn(Body):
    """Gains of linear red, green and blue; factors of saturation and contrast."""

    gain: tuple[Factor, Factor, Factor]
    saturation: Factor = 1.0
    contrast: Factor = 1.0


class LoupePlace(Body):
    sha: Digest
    x: Px
    y: Px
    radius: Annotated[float, Field(ge=0, le=400)] = 4
    light: LightIn | None = None

    def place(self) -> Place:
        light = SceneLight(**self.light.model_dump()) if self.light else None
        return Place(self.sha, self.x, self.y, self.radius, light)


class Loupe(Body):
    places: Annotated[list[LoupePlace], Field(min_length=1, max_length=MOST_PICTURES)]


class SomeTakes(Body):
    take_ids: Annotated[list[Id], Field(max_length=MOST_PICTURES)]


class PinnedIn(Body):
    sha: Digest
    take_id: Id | None = None


class PegIn(Body):
    thread_id: Id | None = None
    on: Literal["figure", "head", "picture"] = "figure"
    pictures: Annotated[list[PinnedIn], Field(min_length=1, max_length=MOST_PICTURES)]


@router.post("/loupe", summary="The colours of the same place in several pictures, and how far they are apart")
def loupe(ws: Ws, project_id: str, body: Loupe) -> list[UnderLoupe]:
    return light_table.read_colours(ws, project_id, [p.place() for p in body.places])


@router.post("/lights", summary="The light of the scene in some takes, where it was measured")
def lights(ws: Ws, project_id: str, body: SomeTakes) -> list[TakeLight]:
    return light_table.lights(ws, project_id, body.take_ids)


@router.post(
    "/pegs", summary="How pictures are laid on the first one, so that a figure or its head lies on the same spot"
)
def pegs(ws: Ws, project_id: str, body: PegIn) -> Pegged:
    pinned = [Pinned(p.sha, p.take_id) for p in body.pictures]
    return light_table.peg(ws, project_id, body.thread_id or "", body.on, pinned)
