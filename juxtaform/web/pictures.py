"""Routes of pictures: the files themselves, thumbnails and crops. A digest never changes its bytes, so all are cached."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Response
from fastapi.responses import FileResponse

from juxtaform.media.decode import PictureRefused, media_type
from juxtaform.studio.values import Box, SceneLight
from juxtaform.studio.workspace import NotPossible, NotThere
from juxtaform.web.deps import ERRORS, Ws, file_answer

router = APIRouter(prefix="/pictures", tags=["pictures"], responses=ERRORS)
Px = Annotated[float, Query(allow_inf_nan=False)]
Level = Annotated[int, Query(ge=0, le=12)]
At = Annotated[int, Query(ge=0, le=64)]
FOREVER = {"Cache-Control": "private, max-age=31536000, immutable"}


@router.get("/{sha}", summary="A picture's own file", response_class=FileResponse)
def whole(ws: Ws, sha: str) -> FileResponse:
    try:
        path = ws.store.path(sha)
        with path.open("rb") as file:
            kind = media_type(file.read())
    except (KeyError, OSError) as error:
        raise NotThere("There is no such picture.") from error
    return FileResponse(path, media_type=kind, headers=FOREVER)


@router.get("/{sha}/thumb", summary="A thumbnail", response_class=FileResponse)
def thumb(ws: Ws, sha: str, side: Annotated[int, Query(ge=1, le=4000)] = 240) -> FileResponse:
    try:
        path = ws.store.thumb_path(sha, side)
    except KeyError as error:
        raise NotThere("There is no such picture.") from error
    if not path.exists():
        raise NotThere("There is no such picture.")
    return FileResponse(path, media_type="image/webp", headers=FOREVER)


@router.get("/{sha}/crop", summary="A box on a picture, with a scene light taken out if one is given")
def crop(
    ws: Ws,
    sha: str,
    x: Px,
    y: Px,
    w: Px,
    h: Px,
    side: Annotated[int, Query(ge=16, le=1600)] = 300,
    light: Annotated[
        str,
        Query(
            pattern=r"^$|^(\d{1,6}(\.\d{1,9})?,){4}\d{1,6}(\.\d{1,9})?$",
            description="Gains of red, green, blue; saturation; contrast.",
        ),
    ] = "",
) -> Response:
    out: SceneLight | None = None
    if light:
        r, g, b, saturation, contrast = (max(0.01, float(v)) for v in light.split(","))
        out = SceneLight((r, g, b), saturation, contrast)
    try:
        data = ws.store.crop(sha, Box(x, y, w, h), side, out)
    except (KeyError, OSError) as error:
        raise NotThere("There is no such picture.") from error
    except ValueError as error:
        raise NotPossible(str(error)) from error
    return Response(data, media_type="image/webp", headers=FOREVER)


@router.get(
    "/{sha}/tile",
    summary="A tile of 512 px of a picture; each next level is half as large",
    responses=file_answer("image/jpeg"),
)
def tile(ws: Ws, sha: str, level: Level = 0, column: At = 0, row: At = 0) -> Response:
    try:
        data = ws.pyramids.tile(sha, level, column, row)
    except (KeyError, IndexError, PictureRefused) as error:
        raise NotThere("There is no such part of a picture.") from error
    return Response(data, media_type="image/jpeg", headers=FOREVER)
