"""Routes of the book on paper."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Response

from juxtaform.studio import book
from juxtaform.studio.book import BookView
from juxtaform.web.deps import ERRORS, Ws, file_answer

router = APIRouter(prefix="/projects/{project_id}", tags=["book"], responses=ERRORS)


@router.get("/book", summary="The book as its pages are laid out, and what would go wrong in print")
def view(ws: Ws, project_id: str) -> BookView:
    return book.view(ws, project_id)


@router.get("/book/cover", summary="The front of the cover as it is printed", responses=file_answer("image/jpeg"))
def cover(ws: Ws, project_id: str, height: Annotated[int, Query(ge=64, le=1200)] = 480) -> Response:
    return Response(
        book.cover_seen(ws, project_id, height), media_type="image/jpeg", headers={"Cache-Control": "no-cache"}
    )
