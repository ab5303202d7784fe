"""Routes of the story: its text, proposals, frame, hand-drawn pages and tables."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, File, Form, Response, UploadFile
from pydantic import Field

from juxtaform.limits import MOST_TEXT
from juxtaform.records.rules import Coordinate, Digest, Extent, Id, Label, Place, Shape, Syntax, Words
from juxtaform.studio import assist, blocking, projects, proposals, sketches, story, story_frame, tables
from juxtaform.studio.assist import Offers
from juxtaform.studio.sketches import FoundPanels
from juxtaform.studio.story import Reading
from juxtaform.studio.values import Box
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, TextService, Ws, file_answer, out
from juxtaform.web.rows import ChangedOut

router = APIRouter(prefix="/projects/{project_id}", tags=["story"], responses=ERRORS)


class Text(Body):
    """The text as typed; `seen` is the text's revision that the editor saw."""

    text: Annotated[str, Field(max_length=MOST_TEXT)]
    seen: int | None = None


class Typed(Body):
    """Characters of the text from `at` on that give way to others, and the text's revision that the place is of."""

    at: Place
    gone: Place
    put: Annotated[str, Field(max_length=MOST_TEXT)]
    seen: int


class SyntaxIn(Body):
    syntax: Syntax


class Stretch(Body):
    """A stretch of the text in characters, and the text's revision that it is of; all of it when left out."""

    start: Place | None = None
    end: Place | None = None
    seen: int | None = None


class Accepted(Body):
    """Proposed shots to settle; all of them when left out."""

    shot_ids: Annotated[list[Id] | None, Field(max_length=5000)] = None


class Covered(Body):
    """A stretch of the text in characters, and the text's revision that it is of."""

    start: Place
    end: Place
    seen: int | None = None


class Wanted(Body):
    kind: Literal["character", "setting", "prop"]
    name: Annotated[str, Field(max_length=120)]


class WantedThreads(Body):
    threads: Annotated[list[Wanted], Field(min_length=1, max_length=200)]


class FrameWanted(Body):
    shape: Shape


class BeatEdit(Body):
    revision: int | None = None
    title: Annotated[str, Field(max_length=120)] = ""
    purpose: Words = ""
    share: Annotated[float, Field(gt=0, le=1)] = 0.1
    cast: Annotated[list[Label], Field(max_length=60)] = []
    answer: Words = ""


class AfterBeat(Body):
    after: Id | None = None


class BeatStep(Body):
    step: Literal[-1, 1]


class FrameText(Body):
    text: str


class PanelBox(Body):
    x: Coordinate
    y: Coordinate
    w: Extent
    h: Extent


class PanelsTaken(Body):
    """Panels of a page (a stored picture) in the order in which they are read."""

    sha: Digest
    boxes: Annotated[list[PanelBox], Field(min_length=1, max_length=60)]
    scene_id: Id | None = None
    thread_id: Id | None = None


class Sketch(Body):
    sha: Digest | None = None


class Cells(Body):
    """Cells as a spreadsheet copies them, with a header."""

    cells: str
    mend: bool = False
    """Make threads of names that are none, and leave out columns that nothing is known of."""


class ColumnOut(Body):
    header: str
    fact: str
    meaning: str


@router.get("/story", summary="What the text is made of: passages, words in no shot, who and what it names")
def reading(ws: Ws, project_id: str) -> Reading:
    return story.reading(ws, project_id)


@router.put("/text", summary="Keep the text as it is typed; every shot follows its words")
def keep(ws: Ws, project_id: str, body: Text) -> ChangedOut:
    return out(story.keep(ws, project_id, body.text, body.seen))


@router.patch("/text", summary="Keep what was typed at a place of the text; every shot follows its words")
def type_in(ws: Ws, project_id: str, body: Typed) -> ChangedOut:
    return out(story.type_in(ws, project_id, body.at, body.gone, body.put, body.seen))


@router.post("/text/file", summary="A text file becomes the story's text")
def take_in(ws: Ws, project_id: str, file: Annotated[UploadFile, File()]) -> ChangedOut:
    return out(story.take_in(ws, project_id, file.filename or "story.txt", file.file.read()))


@router.get(
    "/text/file",
    summary="The text as it came in, with its encoding and line ends",
    response_class=Response,
    responses=file_answer("text/plain"),
)
def give_out(ws: Ws, project_id: str) -> Response:
    file = story.give_out(ws, project_id)
    return _file(file.data, file.media_type, file.name)


@router.put("/text/syntax", summary="Say whether the text is prose or Fountain")
def set_syntax(ws: Ws, project_id: str, body: SyntaxIn) -> ChangedOut:
    return out(story.set_syntax(ws, project_id, body.syntax))


@router.post("/proposals", summary="Propose shots for the words that no settled shot covers")
def propose(ws: Ws, project_id: str, body: Stretch) -> ChangedOut:
    return out(proposals.propose(ws, project_id, body.start, body.end, body.seen))


@router.post("/proposals/accept", summary="Settle proposed shots")
def accept(ws: Ws, project_id: str, body: Accepted) -> ChangedOut:
    return out(proposals.accept(ws, project_id, body.shot_ids))


@router.put("/shots/{shot_id}/span", summary="Say which words a shot covers")
def span(ws: Ws, project_id: str, shot_id: str, body: Covered) -> ChangedOut:
    return out(story.anchor_again(ws, project_id, shot_id, body.start, body.end, body.seen))


@router.post("/found", summary="Make threads of what the text names")
def make_threads(ws: Ws, project_id: str, body: WantedThreads) -> ChangedOut:
    return out(proposals.make_threads(ws, project_id, [(t.kind, t.name) for t in body.threads]))


@router.post("/frame", summary="Draw up a story frame from premise, tone and cast")
def draw_up(ws: Ws, project_id: str, body: FrameWanted) -> ChangedOut:
    return out(story_frame.draw_up(ws, project_id, body.shape))


@router.post("/beats", summary="An empty beat")
def add_beat(ws: Ws, project_id: str, body: AfterBeat) -> ChangedOut:
    return out(story_frame.add_beat(ws, project_id, body.after))


@router.patch("/beats/{beat_id}", summary="Change a beat")
def edit_beat(ws: Ws, project_id: str, beat_id: str, body: BeatEdit) -> ChangedOut:
    values = body.model_dump(exclude={"revision"}, exclude_unset=True)
    return out(story_frame.edit_beat(ws, project_id, beat_id, values, body.revision))


@router.post("/beats/{beat_id}/move", summary="Move a beat up or down")
def move_beat(ws: Ws, project_id: str, beat_id: str, body: BeatStep) -> ChangedOut:
    return out(story_frame.move_beat(ws, project_id, beat_id, body.step))


@router.delete("/beats/{beat_id}", summary="Drop a beat")
def drop_beat(ws: Ws, project_id: str, beat_id: str) -> ChangedOut:
    return out(story_frame.drop_beat(ws, project_id, beat_id))


@router.get("/frame/text", summary="The frame as a text to write on")
def frame_text(ws: Ws, project_id: str) -> FrameText:
    return FrameText(text=story_frame.into_text(ws, project_id))


@router.post("/beats/{beat_id}/offers", summary="Words for a beat, from the writing service")
def beat_offers(ws: Ws, service: TextService, project_id: str, beat_id: str) -> Offers:
    return assist.for_beat(ws, service, project_id, beat_id)


@router.post("/shots/{shot_id}/offers", summary="Words for a description, from the writing service")
def shot_offers(ws: Ws, service: TextService, project_id: str, shot_id: str) -> Offers:
    return assist.for_description(ws, service, project_id, shot_id)


@router.post("/pages", summary="Find the panels of a photographed page, or the views on a sheet")
def look(
    ws: Ws,
    project_id: str,
    file: Annotated[UploadFile, File()],
    sort: Annotated[Literal["page", "views"], Form()] = "page",
    direction: Annotated[Literal["left to right", "right to left"], Form()] = "left to right",
) -> FoundPanels:
    return sketches.look(ws, file.filename or "page", file.file.read(), sort, direction)


@router.post("/pages/shots", summary="Make a shot of each panel, with its sketch")
def into_shots(ws: Ws, project_id: str, body: PanelsTaken) -> ChangedOut:
    return out(sketches.into_shots(ws, project_id, body.sha, _boxes(body), body.scene_id))


@router.post("/pages/references", summary="Make a reference of each view")
def into_references(ws: Ws, project_id: str, body: PanelsTaken) -> ChangedOut:
    return out(sketches.into_references(ws, project_id, body.sha, _boxes(body), body.thread_id or ""))


@router.post("/shots/{shot_id}/stands", summary="Look for the cast of a shot on its layout guide")
def look_on_guide(ws: Ws, project_id: str, shot_id: str) -> ChangedOut:
    return out(blocking.look_on_guide(ws, project_id, shot_id))


@router.put("/shots/{shot_id}/sketch", summary="Give a shot a sketch, or take it away")
def set_sketch(ws: Ws, project_id: str, shot_id: str, body: Sketch) -> ChangedOut:
    return out(sketches.set_sketch(ws, project_id, shot_id, body.sha))


@router.get("/table/columns", summary="The columns that a table can have")
def columns(ws: Ws, project_id: str) -> list[ColumnOut]:
    projects.there(ws, project_id)
    return [ColumnOut(header=c.header, fact=c.fact, meaning=c.meaning) for c in tables.columns()]


@router.get("/table.csv", summary="The shot list as CSV", response_class=Response, responses=file_answer("text/csv"))
def as_csv(ws: Ws, project_id: str) -> Response:
    return _file(tables.as_csv(ws, project_id), "text/csv; charset=utf-8", "shots.csv")


@router.get(
    "/table.tsv",
    summary="The shot list as cells for a spreadsheet",
    response_class=Response,
    responses=file_answer("text/tab-separated-values"),
)
def as_tabs(ws: Ws, project_id: str) -> Response:
    return Response(tables.as_tabs(ws, project_id), media_type="text/tab-separated-values")


@router.get(
    "/table.pdf",
    summary="The shot list to print, with pictures",
    response_class=Response,
    responses=file_answer("application/pdf"),
)
def as_pdf(ws: Ws, project_id: str) -> Response:
    return _file(tables.as_pdf(ws, project_id), "application/pdf", "shots.pdf")


@router.post("/table", summary="Change shots by pasted cells")
def paste(ws: Ws, project_id: str, body: Cells) -> ChangedOut:
    return out(tables.take_in(ws, project_id, body.cells, body.mend))


@router.post("/table/file", summary="Change shots by a CSV file")
def table_file(ws: Ws, project_id: str, file: Annotated[UploadFile, File()], mend: bool = False) -> ChangedOut:
    return out(tables.take_in(ws, project_id, file.file.read(), mend))


def _boxes(body: PanelsTaken) -> list[Box]:
    return [Box(b.x, b.y, b.w, b.h) for b in body.boxes]


def _file(data: bytes, media_type: str, name: str) -> Response:
    plain = "".join(c if c.isascii() and (c.isalnum() or c in " .-_") else "_" for c in name)
    return Response(data, media_type=media_type, headers={"Content-Disposition": f'attachment; filename="{plain}"'})
