"""Showings: made, frozen anew and taken back by who works on a project; opened, looked at and answered by whoever has the link."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Request, Response, UploadFile
from fastapi.responses import FileResponse, JSONResponse
from pydantic import Field

from juxtaform.formats.annotations import MEDIA_TYPE
from juxtaform.records.showings import Says
from juxtaform.studio import annotations as annotated
from juxtaform.studio import showings, shown
from juxtaform.studio.annotations import RemarksTaken
from juxtaform.studio.showings import NoteView, ShowingCard, SignView, WordView
from juxtaform.studio.shown import NewNote, Shown
from juxtaform.web import clips, pictures
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, ShowingNews, Ws, file_answer
from juxtaform.web.entrance import address_of, is_secure

router = APIRouter(tags=["showings"], responses=ERRORS)
PLAIN, SECURE = "juxtaform-shown", "__Secure-juxtaform-shown"
FOR_NOW = {"Cache-Control": "private, max-age=300"}
Name = Annotated[str, Field(max_length=80)]
Part = Annotated[float, Field(ge=0, le=1)]


class NewShowing(Body):
    title: Annotated[str, Field(max_length=200)] = ""
    words: Annotated[str, Field(max_length=4000)] = ""
    days: Annotated[int, Field(ge=1, le=366)] = 14
    passphrase: Annotated[str, Field(max_length=200)] = ""


class MadeShowing(Body):
    """A showing; the path of its link is told this once."""

    path: str
    showing: ShowingCard


class AnswerIn(Body):
    words: Annotated[str, Field(max_length=4000)]


class OpenBy(Body):
    secret: Annotated[str, Field(max_length=200)]
    passphrase: Annotated[str, Field(max_length=200)] = ""


class OpenedOut(Body):
    showing_id: str


class NoteIn(Body):
    shot_id: Annotated[str, Field(max_length=32)]
    words: Annotated[str, Field(max_length=4000)]
    name: Name = ""
    place: Annotated[list[Part], Field(min_length=2, max_length=4)] | None = None
    at_s: Annotated[float, Field(ge=0, le=36_000)] | None = None
    parent_id: Annotated[str, Field(max_length=32)] | None = None


class WordIn(Body):
    says: Says | None
    name: Name = ""


class SignOff(Body):
    name: Name = ""
    words: Annotated[str, Field(max_length=4000)] = ""


@router.get("/projects/{project_id}/showings", summary="What is shown by links, and what was said of it")
def of_project(ws: Ws, project_id: str) -> list[ShowingCard]:
    return showings.of(ws, project_id)


@router.post(
    "/projects/{project_id}/showings",
    summary="Freeze the sequence and make a link to it; it is told this once",
    status_code=201,
)
def make(ws: Ws, project_id: str, body: NewShowing) -> MadeShowing:
    secret, card = showings.make(ws, project_id, body.title, body.words, body.days, body.passphrase)
    return MadeShowing(path=f"/show#{secret}", showing=card)


@router.post(
    "/projects/{project_id}/showings/{showing_id}/freeze",
    summary="Show the sequence as it stands now under the same link",
)
def freeze(ws: Ws, news: ShowingNews, project_id: str, showing_id: str) -> ShowingCard:
    card = showings.freeze_anew(ws, project_id, showing_id)
    news.happened(ws, project_id)
    return card


@router.post(
    "/projects/{project_id}/showings/{showing_id}/revoke", summary="Let a link show nothing any more", status_code=204
)
def revoke(ws: Ws, news: ShowingNews, project_id: str, showing_id: str) -> None:
    showings.revoke(ws, project_id, showing_id)
    news.happened(ws, project_id)


@router.delete(
    "/projects/{project_id}/showings/{showing_id}", summary="Delete a showing with what was said of it", status_code=204
)
def remove(ws: Ws, news: ShowingNews, project_id: str, showing_id: str) -> None:
    showings.remove(ws, project_id, showing_id)
    news.happened(ws, project_id)


@router.post("/projects/{project_id}/notes/{note_id}/answers", summary="Answer a viewer's comment", status_code=201)
def answer(ws: Ws, news: ShowingNews, project_id: str, note_id: str, body: AnswerIn) -> NoteView:
    made = showings.answer(ws, project_id, note_id, body.words)
    news.happened(ws, project_id)
    return made


@router.get(
    "/projects/{project_id}/showings/{showing_id}/annotations",
    summary="What was said as web annotations",
    response_class=Response,
    responses=file_answer(MEDIA_TYPE),
)
def give_out(ws: Ws, project_id: str, showing_id: str) -> Response:
    page = annotated.of_project(ws, project_id, showing_id)
    return JSONResponse(
        page, media_type=MEDIA_TYPE, headers={"Content-Disposition": "attachment; filename=comments.jsonld"}
    )


@router.post("/projects/{project_id}/showings/{showing_id}/annotations", summary="Take in web annotations as comments")
def take_in(ws: Ws, news: ShowingNews, project_id: str, showing_id: str, file: UploadFile) -> RemarksTaken:
    taken = annotated.take_in(ws, project_id, showing_id, file.file.read())
    news.happened(ws, project_id)
    return taken


@router.post("/shown/open", summary="Open a showing by its link", responses={429: ERRORS["default"]})
def open_by(ws: Ws, request: Request, response: Response, body: OpenBy) -> OpenedOut:
    done = shown.open_by(ws, body.secret, body.passphrase, address_of(request))
    response.set_cookie(
        _name(request),
        done.cookie,
        path=f"/api/shown/{done.showing_id}",
        secure=is_secure(request),
        httponly=True,
        samesite="strict",
        max_age=366 * 86400,
    )
    return OpenedOut(showing_id=done.showing_id)


@router.get("/shown/{showing_id}", summary="What a showing shows, and what was said of it")
def look(ws: Ws, request: Request, showing_id: str) -> Shown:
    return shown.look(ws, showing_id, _cookie(request))


@router.get("/shown/{showing_id}/pictures/{sha}", summary="A picture of a showing", response_class=FileResponse)
def picture(ws: Ws, request: Request, showing_id: str, sha: str) -> FileResponse:
    shown.see_picture(ws, showing_id, _cookie(request), sha)
    return _for_now(pictures.whole(ws, sha))


@router.get(
    "/shown/{showing_id}/pictures/{sha}/thumb",
    summary="A thumbnail of a showing's picture",
    response_class=FileResponse,
)
def thumb(
    ws: Ws, request: Request, showing_id: str, sha: str, side: Annotated[int, Field(ge=1, le=4000)] = 960
) -> FileResponse:
    shown.see_picture(ws, showing_id, _cookie(request), sha)
    return _for_now(pictures.thumb(ws, sha, side))


@router.get("/shown/{showing_id}/clips/{sha}", summary="A clip of a showing", response_class=FileResponse)
def clip(ws: Ws, request: Request, showing_id: str, sha: str) -> FileResponse:
    shown.see_picture(ws, showing_id, _cookie(request), sha)
    return _for_now(clips.film(ws, sha))


@router.get(
    "/shown/{showing_id}/sound",
    summary="All that sounds in a showing",
    response_class=FileResponse,
    responses=file_answer("audio/mp4"),
)
def sound(ws: Ws, request: Request, showing_id: str) -> FileResponse:
    return FileResponse(shown.sound(ws, showing_id, _cookie(request)), media_type="audio/mp4", headers=FOR_NOW)


@router.post(
    "/shown/{showing_id}/notes",
    summary="Comment on a shot, a place of its picture or a moment, or answer",
    status_code=201,
)
def note(ws: Ws, news: ShowingNews, request: Request, showing_id: str, body: NoteIn) -> NoteView:
    project, made = shown.note(ws, showing_id, _cookie(request), NewNote(**body.model_dump()))
    news.happened(ws, project)
    return made


@router.put("/shown/{showing_id}/shots/{shot_id}/word", summary="Say good or change of a shot, or take it back")
def say(ws: Ws, news: ShowingNews, request: Request, showing_id: str, shot_id: str, body: WordIn) -> list[WordView]:
    project, words = shown.say(ws, showing_id, _cookie(request), shot_id, body.says, body.name)
    news.happened(ws, project)
    return words


@router.post("/shown/{showing_id}/signs", summary="Sign off what is shown", status_code=201)
def sign(ws: Ws, news: ShowingNews, request: Request, showing_id: str, body: SignOff) -> list[SignView]:
    project, signs = shown.sign(ws, showing_id, _cookie(request), body.name, body.words)
    news.happened(ws, project)
    return signs


def _name(request: Request) -> str:
    return SECURE if is_secure(request) else PLAIN


def _cookie(request: Request) -> str:
    return request.cookies.get(_name(request), "")


def _for_now(answer: FileResponse) -> FileResponse:
    """What may be taken back is kept for a short while only."""
    answer.headers["Cache-Control"] = FOR_NOW["Cache-Control"]
    return answer
