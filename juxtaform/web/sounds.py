"""Routes of sounds: files in, where they lie, takes of lines, lengths that follow the voice, and what is wrong."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Form, Query, Response, UploadFile
from fastapi.responses import FileResponse
from pydantic import Field

from juxtaform.records.rules import Fade, FileName, Gain, Id, Seconds, Words
from juxtaform.studio import sound_track, sounds
from juxtaform.studio.sound_track import SoundTrack
from juxtaform.studio.sounds import NewSound
from juxtaform.studio.values import SoundKind
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, Ws, file_answer, out
from juxtaform.web.pictures import FOREVER
from juxtaform.web.rows import ChangedOut

files = APIRouter(prefix="/sounds", tags=["sounds"], responses=ERRORS)
router = APIRouter(prefix="/projects/{project_id}", tags=["sounds"], responses=ERRORS)
Start = Annotated[float, Field(ge=-3600, le=3600)]


class SoundEdit(Body):
    """What of a sound is to be other than it is; what is left out stays."""

    shot_id: Id | None = None
    name: FileName | None = None
    kind: SoundKind | None = None
    thread_id: Id | None = None
    line: Words | None = None
    start_s: Start | None = None
    from_s: Seconds | None = None
    to_s: Seconds | None = None
    until_shot_id: Id | None = None
    gain_db: Gain | None = None
    fade_in_s: Fade | None = None
    fade_out_s: Fade | None = None
    revision: int | None = None


class SeenSound(Body):
    revision: int | None = None


class FollowVoice(Body):
    """Shots that are to have the time of their voice; none named: all. With `shorten` they lose what they do not need."""

    shot_ids: Annotated[list[Id], Field(max_length=5000)] | None = None
    shorten: bool = False


class TooLoud(Body):
    """A moment of the whole at which the sounds are too loud together."""

    at_s: Annotated[float, Field(ge=0, le=1e6)]


MAY_BE_NONE = frozenset({"thread_id", "start_s", "to_s", "until_shot_id"})


@router.get(
    "/sound-track", summary="All that sounds: where, the lines of each shot with their takes, and what is wrong"
)
def track(ws: Ws, project_id: str) -> SoundTrack:
    return sound_track.track(ws, project_id)


@router.post("/sounds", summary="Take in a sound file, or a recorded line, and lay it on a shot", status_code=201)
def add(
    ws: Ws,
    project_id: str,
    file: UploadFile,
    shot_id: Annotated[Id, Form()],
    name: Annotated[str, Form(max_length=255)] = "",
    kind: Annotated[SoundKind, Form()] = "effect",
    line: Annotated[str, Form(max_length=16_000)] = "",
    thread_id: Annotated[Id | None, Form()] = None,
    start_s: Annotated[float | None, Form(ge=-3600, le=3600, allow_inf_nan=False)] = None,
    until_shot_id: Annotated[Id | None, Form()] = None,
    place: Annotated[int | None, Form(ge=0, le=1000)] = None,
) -> ChangedOut:
    new = NewSound(shot_id, name or file.filename or "Sound", kind, line, thread_id, start_s, until_shot_id, place)
    return out(sounds.add(ws, project_id, file.file.read(), new))


@router.patch("/sounds/{sound_id}", summary="Change where a sound lies and how it sounds")
def edit(ws: Ws, project_id: str, sound_id: str, body: SoundEdit) -> ChangedOut:
    values = body.model_dump(exclude_unset=True, exclude={"revision"})
    values = {k: v for k, v in values.items() if v is not None or k in MAY_BE_NONE}
    return out(sounds.edit(ws, project_id, sound_id, values, body.revision))


@router.delete("/sounds/{sound_id}", summary="Take a sound off")
def remove(ws: Ws, project_id: str, sound_id: str) -> ChangedOut:
    return out(sounds.remove(ws, project_id, sound_id))


@router.post("/sounds/{sound_id}/pick", summary="Of the takes of a line let this one be heard")
def pick(ws: Ws, project_id: str, sound_id: str) -> ChangedOut:
    return out(sounds.pick(ws, project_id, sound_id))


@router.post("/sounds/{sound_id}/trim-silence", summary="Take the silence off at both ends")
def trim_silence(ws: Ws, project_id: str, sound_id: str, body: SeenSound) -> ChangedOut:
    return out(sounds.take_silence_off(ws, project_id, sound_id, body.revision))


@router.post("/follow-voice", summary="Let lengths follow the voice")
def follow_voice(ws: Ws, project_id: str, body: FollowVoice) -> ChangedOut:
    return out(sounds.follow_voice(ws, project_id, body.shot_ids, shorten=body.shorten))


@router.post("/turn-down", summary="Turn sounds down where they are too loud together")
def turn_down(ws: Ws, project_id: str, body: TooLoud) -> ChangedOut:
    return out(sounds.turn_down(ws, project_id, body.at_s))


@files.get("/{sha}", summary="A sound's own file", response_class=FileResponse)
def whole(ws: Ws, sha: str) -> FileResponse:
    path, kind = sounds.file_of(ws, sha)
    return FileResponse(path, media_type=kind, headers=FOREVER)


@files.get(
    "/{sha}/levels",
    summary="A sound's levels: lowest and highest sample and strength, 16 bits each, a hundred times a second",
    response_class=FileResponse,
)
def levels(ws: Ws, sha: str) -> FileResponse:
    path, _ = sounds.file_of(ws, sha)
    return FileResponse(path.with_suffix(".levels"), media_type="application/octet-stream", headers=FOREVER)


@files.get("/{sha}/part", summary="A part of a sound as WAV", responses=file_answer("audio/wav"))
def part(
    ws: Ws,
    sha: str,
    start: Annotated[float, Query(ge=0, le=3600)] = 0.0,
    seconds: Annotated[float, Query(gt=0, le=30)] = 20.0,
) -> Response:
    return Response(sounds.part(ws, sha, start, seconds), media_type="audio/wav", headers=FOREVER)
