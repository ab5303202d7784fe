"""The book: its pages as they are laid out, how its words are read, and what would go wrong in print."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, replace
from functools import lru_cache
from pathlib import Path

import numpy as np
from PIL import Image

from juxtaform.core.book.cover import Cover, covered, spine_of
from juxtaform.core.book.legible import luminance
from juxtaform.core.book.notes import GIVEN_DPI, MM_PER_INCH, PRINT_DPI, BookNote, book_notes
from juxtaform.core.book.pages import Book, BookShot, Layout, laid_out
from juxtaform.core.book.placing import placed_well
from juxtaform.core.colour.spaces import Floats
from juxtaform.core.picture.regions import Box
from juxtaform.formats.out.book import OutBook
from juxtaform.formats.out.cover import front_jpeg
from juxtaform.media.store import THUMB_SIDES
from juxtaform.records.models import Project, Shot
from juxtaform.records.rules import BookRow
from juxtaform.studio import outgoing, plan
from juxtaform.studio.by_worker import by_worker
from juxtaform.studio.rows import ProjectRows
from juxtaform.studio.storytext import words_of
from juxtaform.studio.workspace import NotThere, Workspace

USUAL_WIDE_MM = 240.0
USUAL_ASPECT = 1.5
HEAD = 0.42
"""The upper part of a figure's box that its head takes; of one as wide as high it is all face."""
FRAMED_CLOSE = ("MCU", "CU", "ECU")


@dataclass(frozen=True)
class BookView:
    """A book as it is shown: how it is made, its openings with pictures and words, and notes."""

    book: Book
    layout: Layout
    notes: tuple[BookNote, ...]
    shas: dict[str, str]
    cover: Cover | None = None


def view(ws: Workspace, project_id: str) -> BookView:
    """The book of a project. Raises NotThere."""
    with ws.database.reading() as s:
        rows = ProjectRows(s, project_id)
    return of_rows(ws, rows)


def of_rows(ws: Workspace, rows: ProjectRows) -> BookView:
    """The book of a project's rows."""
    picked = {t.shot_id: t for t in rows.takes.values() if t.picked}
    shown = {x.id: take.picture_sha if (take := picked.get(x.id)) else x.sketch_sha for x in rows.order}
    shas = {shot: sha for shot, sha in shown.items() if sha and sha in rows.pictures}
    voicing = plan.voicing_of(rows.project, rows.text)
    shots = [
        _shot(x, i + 1, rows, shas, words_of(x, rows.text, voicing))
        for i, x in enumerate(rows.order)
        if x.status != "proposed"
    ]
    book = book_of(rows.project, shots)
    faces = _faces(rows, shas, {take.id: shot for shot, take in picked.items()})
    layout = laid_out(shots, book)
    over = {w.shot for o in layout.openings for w in o.words if w.over or w.by_hand}
    grounds = {
        shot: ground
        for shot in over
        if shot in shas and (ground := _ground(ws.store.thumb_path(shas[shot], THUMB_SIDES[0]))) is not None
    }
    layout, read = placed_well(layout, grounds, faces)
    widths = {shot: rows.pictures[sha].width for shot, sha in shas.items()}
    cover, told = _cover(ws, rows, book, len(layout.pages), shas, faces)
    return BookView(book, layout, (*told, *book_notes(layout, shots, widths, faces, read)), shas, cover)


def _cover(
    ws: Workspace,
    rows: ProjectRows,
    book: Book,
    pages: int,
    shas: dict[str, str],
    faces: dict[str, list[tuple[str, Box]]],
) -> tuple[Cover | None, list[BookNote]]:
    """The cover, where one is wanted, and what would go wrong with it."""
    said = BookRow.model_validate(rows.project.book or {})
    shot = said.cover_shot_id
    if shot is None:
        return None, []
    if shot not in shas:
        what = "has no picture" if shot in rows.shots else "is not there any more"
        title = f"The shot of the cover {what}"
        return None, [BookNote("cover", None, 0, title, "Choose another picture for the cover.")]
    picture = rows.pictures[shas[shot]]
    ground = next((str(code) for code, _ in picture.palette), "#ffffff")
    spine = said.spine if said.spine is not None else spine_of(pages)
    words = (rows.project.title, said.author, said.blurb)
    light = _ground(ws.store.thumb_path(shas[shot], THUMB_SIDES[0]))
    made, read = covered(book, spine, shot, picture.width / picture.height, words, ground, light, faces.get(shot, ()))
    notes = []
    if read is not None and not read.is_good:
        title = f"The title is hard to read on the cover (contrast {read.contrast:.1f})"
        notes.append(BookNote("cover", shot, 0, title, "Choose a picture with a calm place for it."))
    dpi = picture.width * made.picture.part[2] / (made.picture.box.w / MM_PER_INCH)
    if dpi < GIVEN_DPI * PRINT_DPI:
        title = f"The picture of the cover has {dpi:.0f} dpi in print"
        notes.append(BookNote("cover", shot, 0, title, "Make it larger, or choose another one: 300 are wanted."))
    return made, notes


def book_of(project: Project, shots: list[BookShot]) -> Book:
    """How a project's book is made; a trim size that nobody gave takes the form of the pictures."""
    said = BookRow.model_validate(project.book or {})
    wide, _, high = (project.aspect or "").partition(":")
    aspect = float(wide) / float(high) if high and float(high) > 0 and float(wide) > 0 else 0.0
    aspect = aspect or next((x.picture for x in shots if x.picture and x.form == "single"), USUAL_ASPECT)
    trim_w = said.trim_w or (said.trim_h * aspect if said.trim_h else USUAL_WIDE_MM)
    trim_h = said.trim_h or round(trim_w / aspect, 1)
    book = Book(trim_w, trim_h, said.bleed, said.safe, said.gutter, said.multiple, tuple(said.front), said.words_pt)
    return replace(book, dedication=said.dedication, imprint=said.imprint)


def _shot(x: Shot, number: int, rows: ProjectRows, shas: dict[str, str], words: str) -> BookShot:
    picture = rows.pictures.get(shas.get(x.id, ""))
    at = tuple(x.words_at) if x.words_at else None
    return BookShot(
        x.id,
        number,
        x.page_form,  # type: ignore[arg-type]
        picture.width / picture.height if picture else 0.0,
        words,
        x.bleed,
        x.surprise,
        at,
        x.words_tone or None,  # type: ignore[arg-type]
    )


def _faces(rows: ProjectRows, shas: dict[str, str], shot_of: dict[str, str]) -> dict[str, list[tuple[str, Box]]]:
    """Faces in the pictures, by shot: whose, and where in shares of the picture."""
    found: defaultdict[str, list[tuple[str, Box]]] = defaultdict(list)
    for m in rows.marks.values():
        shot, thread = shot_of.get(m.take_id), rows.threads.get(m.thread_id)
        if shot is None or shot not in shas or thread is None or thread.kind != "character":
            continue
        picture = rows.pictures[shas[shot]]
        close = rows.shots[shot].size in FRAMED_CLOSE
        high = m.h if close else min(m.h, max(HEAD * m.h, 0.5 * m.w))
        found[shot].append(
            (thread.name, Box(m.x / picture.width, m.y / picture.height, m.w / picture.width, high / picture.height))
        )
    return dict(found)


@lru_cache(maxsize=2000)
def _ground(thumb: Path) -> Floats | None:
    """The luminance of a thumbnail, which never changes under its name."""
    try:
        with Image.open(thumb) as picture:
            return luminance(np.asarray(picture.convert("RGB")))
    except OSError:
        return None


def cover_seen(ws: Workspace, project_id: str, height_px: int) -> bytes:
    """The front of the cover as it is printed, as JPEG. Raises NotThere."""
    with ws.database.reading() as s:
        rows = ProjectRows(s, project_id)
    cover = of_rows(ws, rows).cover
    if cover is None:
        raise NotThere("This book has no cover yet. Choose a picture for it.")
    return by_worker(ws, front_jpeg, OutBook(outgoing.of_rows(ws, rows), laid_out([], cover.book), cover), height_px)
