"""What would go wrong in print: a face in the fold, words that cannot be read or are cut off, too few pixels, a surprise that is given away."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from juxtaform.core.book.legible import CONTRAST_LEAST, Legibility
from juxtaform.core.book.pages import BookShot, Layout, Opening, PlacedPicture, PlacedWords
from juxtaform.core.book.words import LEADING, MM_PER_PT, lines_in
from juxtaform.core.picture.regions import Box, shared_area

MM_PER_INCH = 25.4
PRINT_DPI = 300.0
GIVEN_DPI = 0.98
"""So little short of 300 dpi is none."""
CLOSE_TO_FULL = 1.02


@dataclass(frozen=True)
class BookNote:
    """Something that would go wrong: its kind, the shot and page, what and what to do. `box` is where, in mm of the opening."""

    kind: str
    shot: str | None
    page: int
    title: str
    advice: str
    box: Box | None = None


def book_notes(
    layout: Layout,
    shots: Sequence[BookShot],
    widths: Mapping[str, int],
    faces: Mapping[str, Sequence[tuple[str, Box]]],
    read: Mapping[str, Legibility],
) -> list[BookNote]:
    """All notes on a book, in its order. By shot: `widths` of pictures in px, `faces` as (whose, box in shares of the picture), and how words laid over
    pictures are `read`."""
    by_id = {s.id: s for s in shots}
    found: list[BookNote] = []
    for opening in layout.openings:
        for picture in opening.pictures:
            shot, page = by_id[picture.shot], _page(opening, picture.box, layout)
            found += _small(picture, shot, page, widths.get(shot.id))
            found += _in_fold(picture, shot, page, layout, faces.get(shot.id, ()))
        for words in opening.words:
            shot, page = by_id[words.shot], _page(opening, words.box, layout)
            found += _cut_off(words, shot, page, layout)
            found += _unread(words, shot, page, read.get(shot.id))
            found += _on_faces(words, shot, page, opening, faces.get(shot.id, ()))
        found += _given_away(opening, by_id)
    found += _whole(layout, by_id)
    return found


def _page(opening: Opening, box: Box, layout: Layout) -> int:
    on_the_right = box.x + box.w / 2 > layout.book.trim_w
    page = (opening.right if on_the_right else opening.left) or opening.right or opening.left
    return page.number if page else 0


def _small(picture: PlacedPicture, shot: BookShot, page: int, width_px: int | None) -> list[BookNote]:
    if not width_px:
        return []
    dpi = width_px * picture.part[2] / (picture.box.w / MM_PER_INCH)
    if dpi >= GIVEN_DPI * PRINT_DPI:
        return []
    need = round(PRINT_DPI * picture.box.w / MM_PER_INCH / picture.part[2])
    return [
        BookNote(
            "small",
            shot.id,
            page,
            f"The picture of shot {shot.number} has {dpi:.0f} dpi at its size",
            f"Print wants 300: make it {need:,} px wide, or lay it smaller.",
            picture.box,
        )
    ]


def _in_fold(
    picture: PlacedPicture, shot: BookShot, page: int, layout: Layout, faces: Sequence[tuple[str, Box]]
) -> list[BookNote]:
    book = layout.book
    fold = Box(book.trim_w - book.gutter, 0, 2 * book.gutter, book.trim_h)
    if shot.id not in layout.spreads:
        return []
    found = []
    for whose, face in faces:
        place = _placed(face, picture)
        if shared_area(fold, place) > 0.12 * place.w * place.h:
            found.append(
                BookNote(
                    "fold",
                    shot.id,
                    page,
                    f"{whose}’s face lies in the fold",
                    "Move the crop, choose another take, or give the picture a single page: what lies in the fold is bent away.",
                    place,
                )
            )
    return found


def _on_faces(
    words: PlacedWords, shot: BookShot, page: int, opening: Opening, faces: Sequence[tuple[str, Box]]
) -> list[BookNote]:
    picture = next((p for p in opening.pictures if p.shot == shot.id), None)
    if picture is None:
        return []
    for whose, face in faces:
        place = _placed(face, picture)
        if shared_area(words.box, place) > 0.1 * place.w * place.h:
            return [BookNote("face", shot.id, page, f"The words lie on {whose}’s face", "Move the words.", words.box)]
    return []


def _placed(face: Box, picture: PlacedPicture) -> Box:
    """Where a box in shares of a picture lies in the opening."""
    x, y, w, h = picture.part
    box = picture.box
    return Box(
        box.x + (face.x - x) / w * box.w, box.y + (face.y - y) / h * box.h, face.w / w * box.w, face.h / h * box.h
    )


def _cut_off(words: PlacedWords, shot: BookShot, page: int, layout: Layout) -> list[BookNote]:
    book, box = layout.book, words.box
    needed = lines_in(words.words, box.w, words.size_pt) * words.size_pt * MM_PER_PT * LEADING
    box = Box(box.x, box.y, box.w, max(box.h, needed))
    on_both = box.x < book.trim_w < box.x + box.w
    near = box.x < book.trim_w + book.gutter and box.x + box.w > book.trim_w - book.gutter
    if on_both or near:
        return [
            BookNote(
                "words in fold",
                shot.id,
                page,
                f"The words of shot {shot.number} lie in the fold",
                f"Keep them {book.gutter:g} mm away from it.",
                box,
            )
        ]
    left = book.trim_w if box.x >= book.trim_w else 0.0
    safe = Box(left + book.safe, book.safe, book.trim_w - 2 * book.safe, book.trim_h - 2 * book.safe)
    within = box.x >= safe.x - 0.1 and box.y >= safe.y - 0.1 and box.x + box.w <= safe.x + safe.w + 0.1
    if within and box.y + box.h <= safe.y + safe.h + 0.1:
        return []
    if box.h > CLOSE_TO_FULL * safe.h:
        advice = "Make the words smaller, give them more width, or take some out."
    else:
        advice = f"Keep them {book.safe:g} mm away from the edge: what lies nearer may be cut off."
    return [
        BookNote("unsafe", shot.id, page, f"The words of shot {shot.number} lie outside the safe area", advice, box)
    ]


def _unread(words: PlacedWords, shot: BookShot, page: int, read: Legibility | None) -> list[BookNote]:
    if read is None or read.is_good:
        return []
    if read.contrast < CONTRAST_LEAST:
        other = "in white" if read.tone == "dark" else "in black"
        return [
            BookNote(
                "contrast",
                shot.id,
                page,
                f"The words of shot {shot.number} stand out too little from the picture",
                f"Their contrast is {read.contrast:.1f} to 1, at least {CONTRAST_LEAST} is wanted. Move them, or set them {other}.",
                words.box,
            )
        ]
    return [
        BookNote(
            "busy",
            shot.id,
            page,
            f"The words of shot {shot.number} lie on a busy place",
            "Move them to a calmer place of the picture, or leave room for them in it.",
            words.box,
        )
    ]


def _given_away(opening: Opening, by_id: Mapping[str, BookShot]) -> list[BookNote]:
    right = opening.right
    if right is None or opening.left is None:
        return []
    return [
        BookNote(
            "surprise",
            s,
            right.number,
            f"The surprise of shot {by_id[s].number} is given away",
            f"It lies on a right-hand page and is seen beside page {opening.left.number}, before the page is turned. Put it on a left-hand page: add or take out a page before it.",
        )
        for s in right.shots
        if by_id[s].surprise and by_id[s].form != "spread"
    ]


def _whole(layout: Layout, by_id: Mapping[str, BookShot]) -> list[BookNote]:
    found = []
    for number in layout.skipped:
        after = next((p.shots[0] for p in layout.pages if p.number > number and p.shots), None)
        told = f" of shot {by_id[after].number}" if after else ""
        found.append(
            BookNote(
                "empty",
                after,
                number,
                f"Page {number} stays empty",
                f"The spread{told} begins on a left-hand page. Add a single page before it, or make one more of what lies there.",
            )
        )
    if layout.filled and layout.book.multiple > 1:
        what = "1 page is" if layout.filled == 1 else f"{layout.filled} pages are"
        found.append(
            BookNote(
                "filled",
                None,
                len(layout.pages),
                f"{what} empty at the end",
                f"A sheet takes {layout.book.multiple} pages: {len(layout.pages)} in all. Use them, or take pages out.",
            )
        )
    return found
