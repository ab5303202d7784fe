"""Routes of the book on paper."""

from __future__ import annotations

from fastapi import APIRouter

from juxtaform.studio import book
from juxtaform.studio.book import BookView
from juxtaform.web.deps import ERRORS, Ws

router = APIRouter(prefix="/projects/{project_id}", tags=["book"], responses=ERRORS)


@router.get("/book", summary="The book as its pages are laid out, and what would go wrong in print")
def view(ws: Ws, project_id: str) -> BookView:
    return book.view(ws, project_id)
