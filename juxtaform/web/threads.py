"""Routes of threads, references, traits and beads."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Query, Response, UploadFile
from pydantic import Field

from juxtaform.records.rules import (
    Colours,
    Coordinate,
    CostumeRow,
    Digest,
    Donts,
    Extent,
    Hold,
    Id,
    KeptColour,
    Kind,
    Name,
    OnPicture,
    Outline,
    Part,
    Position,
    Share,
    Short,
    ToneRow,
    ViewName,
    Words,
)
from juxtaform.studio import fitness, modelsheets, threads
from juxtaform.studio.fitness import Fit
from juxtaform.studio.modelsheets import StyleTrial
from juxtaform.studio.values import Box, Facing
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, Ws, attachment, file_answer, out
from juxtaform.web.rows import ChangedOut

router = APIRouter(prefix="/projects/{project_id}", tags=["threads"], responses=ERRORS)
ShotIdList = Annotated[list[Id], Field(min_length=1, max_length=5000)]


class NewThread(Body):
    kind: Kind
    name: Name


class ThreadEdit(Body):
    revision: int | None = None
    name: Name = "?"
    aliases: Annotated[list[Annotated[str, Field(max_length=120)]], Field(max_length=100)] = []
    wording: Words = ""
    short_wording: Words = ""
    must_keep: Annotated[list[Short], Field(max_length=20)] = []
    owner_id: Id | None = None
    costumes: Annotated[list[CostumeRow], Field(max_length=40)] = []
    vocabulary: Annotated[list[Short], Field(max_length=40)] = []
    donts: Donts = []
    tones: Annotated[list[ToneRow], Field(max_length=40)] = []
    kept_colours: Annotated[list[KeptColour], Field(max_length=100)] = []


class NamedPicture(Body):
    sha: Digest
    name: Annotated[str, Field(max_length=255)]


class NewReferences(Body):
    pictures: Annotated[list[NamedPicture], Field(min_length=1, max_length=500)]
    costume: Annotated[str, Field(max_length=80)] = ""


class ReferenceEdit(Body):
    revision: int | None = None
    name: Name = "?"
    costume: Annotated[str, Field(max_length=80)] = ""
    weight: Share = 1.0
    view: ViewName = ""
    anchor: bool = False
    position: Position = 0.0


class BoxIn(Body):
    """Left, top, width and height in pixels of the upright picture."""

    x: Coordinate
    y: Coordinate
    w: Extent
    h: Extent

    def box(self) -> Box:
        return Box(self.x, self.y, self.w, self.h)


class PlaceIn(BoxIn):
    """A box on a picture, with an outline within it if one was drawn."""

    outline: Outline | None = None


class NewTrait(Body):
    name: Annotated[str, Field(min_length=1, max_length=80)]
    part: Part = "figure"
    box: BoxIn
    colours: Colours = []
    outline: Outline | None = None


class TraitEdit(Body):
    revision: int | None = None
    name: Annotated[str, Field(min_length=1, max_length=80)] = "?"
    part: Part = "figure"
    colours: Colours = []
    outline: Outline | None = None
    tolerance: Annotated[float, Field(ge=1, le=60)] | None = None
    free: bool = False
    body_x: Share | None = None
    body_y: Share | None = None
    x: Coordinate = 0.0
    y: Coordinate = 0.0
    w: Extent = 1.0
    h: Extent = 1.0


class Swatch(Body):
    hex: str
    share: float


class Assignment(Body):
    shot_ids: ShotIdList
    on: bool


class BeadEdit(Body):
    """`revisions` of the beads by id, as the editor saw them."""

    shot_ids: ShotIdList
    revisions: Annotated[dict[Id, int], Field(max_length=5000)] = {}
    hold: Hold = "figure"
    weight: Share = 0.8
    costume: Annotated[str, Field(max_length=80)] = ""
    reference_id: Id | None = None
    facing: Facing = ""
    face: Annotated[str, Field(max_length=80)] = ""
    stands: OnPicture | None = None


@router.post("/threads", summary="A new thread")
def make(ws: Ws, project_id: str, body: NewThread) -> ChangedOut:
    return out(threads.make(ws, project_id, body.kind, body.name))


@router.patch("/threads/{thread_id}", summary="Change a thread's names, wording or kept colours")
def edit(ws: Ws, project_id: str, thread_id: str, body: ThreadEdit) -> ChangedOut:
    values = body.model_dump(exclude={"revision"}, exclude_unset=True)
    return out(threads.edit(ws, project_id, thread_id, values, body.revision))


@router.delete("/threads/{thread_id}", summary="Delete a thread")
def remove(ws: Ws, project_id: str, thread_id: str) -> ChangedOut:
    return out(threads.remove(ws, project_id, thread_id))


@router.post("/threads/{thread_id}/references", summary="Add stored pictures to a thread")
def add_references(ws: Ws, project_id: str, thread_id: str, body: NewReferences) -> ChangedOut:
    return out(
        threads.add_references(ws, project_id, thread_id, [(p.sha, p.name) for p in body.pictures], body.costume)
    )


@router.get("/threads/{thread_id}/palette", summary="The palette of a thread's pictures, weighed")
def palette(ws: Ws, project_id: str, thread_id: str) -> list[Swatch]:
    return [Swatch(hex=code, share=share) for code, share in threads.palette_of_style(ws, project_id, thread_id)]


@router.patch("/references/{reference_id}", summary="Change a reference's name, costume or weight")
def edit_reference(ws: Ws, project_id: str, reference_id: str, body: ReferenceEdit) -> ChangedOut:
    values = body.model_dump(exclude={"revision"}, exclude_unset=True)
    return out(threads.edit_reference(ws, project_id, reference_id, values, body.revision))


@router.delete("/references/{reference_id}", summary="Delete a reference")
def remove_reference(ws: Ws, project_id: str, reference_id: str) -> ChangedOut:
    return out(threads.remove_reference(ws, project_id, reference_id))


@router.post("/references/{reference_id}/colours", summary="The main colours inside a box or outline on a reference")
def colours(ws: Ws, project_id: str, reference_id: str, body: PlaceIn) -> list[Swatch]:
    found = threads.colours(ws, project_id, reference_id, body.box(), body.outline)
    return [Swatch(hex=code, share=share) for code, share in found]


@router.post("/references/{reference_id}/traits", summary="A trait on a reference")
def add_trait(ws: Ws, project_id: str, reference_id: str, body: NewTrait) -> ChangedOut:
    return out(
        threads.add_trait(
            ws, project_id, reference_id, body.name, body.part, body.box.box(), body.colours, body.outline
        )
    )


@router.patch("/traits/{trait_id}", summary="Change a trait")
def edit_trait(ws: Ws, project_id: str, trait_id: str, body: TraitEdit) -> ChangedOut:
    values = body.model_dump(exclude={"revision"}, exclude_unset=True)
    return out(threads.edit_trait(ws, project_id, trait_id, values, body.revision))


@router.delete("/traits/{trait_id}", summary="Delete a trait")
def remove_trait(ws: Ws, project_id: str, trait_id: str) -> ChangedOut:
    return out(threads.remove_trait(ws, project_id, trait_id))


@router.put("/threads/{thread_id}/run", summary="Let a thread run through shots, or clear it from them")
def assign(ws: Ws, project_id: str, thread_id: str, body: Assignment) -> ChangedOut:
    return out(threads.assign(ws, project_id, thread_id, body.shot_ids, on=body.on))


@router.patch("/threads/{thread_id}/beads", summary="Set hold, weight, costume or view of beads")
def set_beads(ws: Ws, project_id: str, thread_id: str, body: BeadEdit) -> ChangedOut:
    values = body.model_dump(exclude={"shot_ids", "revisions"}, exclude_unset=True)
    return out(threads.set_beads(ws, project_id, thread_id, body.shot_ids, values, body.revisions))


@router.get("/threads/{thread_id}/fitness", summary="Why references of a thread cannot serve well")
def thread_fitness(ws: Ws, project_id: str, thread_id: str) -> list[Fit]:
    return fitness.of_thread(ws, project_id, thread_id)


@router.get("/threads/{thread_id}/trial", summary="A style with and without each of its pictures, and its words")
def style_trial(ws: Ws, project_id: str, thread_id: str) -> StyleTrial:
    return modelsheets.style_trial(ws, project_id, thread_id)


@router.get(
    "/threads/{thread_id}/plate.png",
    summary="A thread's views on one labelled plate",
    response_class=Response,
    responses=file_answer("image/png"),
)
def plate(
    ws: Ws,
    project_id: str,
    thread_id: str,
    side: Annotated[int, Query(ge=256, le=6000)] = 1536,
    margin: Annotated[int, Query(ge=0, le=200)] = 24,
    costume: Annotated[str | None, Query(max_length=80)] = None,
    labels: bool = True,
) -> Response:
    return _file(modelsheets.plate(ws, project_id, thread_id, side, costume, labels, margin))


@router.get(
    "/threads/{thread_id}/model-sheet.{form}",
    summary="A thread's model sheet, to print",
    response_class=Response,
    responses=file_answer("application/octet-stream"),
)
def model_sheet(ws: Ws, project_id: str, thread_id: str, form: Literal["pdf", "png"]) -> Response:
    return _file(modelsheets.page(ws, project_id, thread_id, form))


@router.get(
    "/threads/{thread_id}/palette.{form}",
    summary="A thread's palette as a file",
    response_class=Response,
    responses=file_answer("text/plain"),
)
def give_palette(ws: Ws, project_id: str, thread_id: str, form: Literal["gpl", "css", "json"]) -> Response:
    return _file(modelsheets.give_palette(ws, project_id, thread_id, form))


@router.post("/threads/{thread_id}/palette", summary="Take in a palette file")
def take_palette(ws: Ws, project_id: str, thread_id: str, file: UploadFile) -> ChangedOut:
    data = file.file.read(1_000_001)
    return out(modelsheets.take_palette(ws, project_id, thread_id, file.filename or "palette", data))


def _file(file: modelsheets.ThreadFile) -> Response:
    return attachment(file.name, file.data, file.media_type)
