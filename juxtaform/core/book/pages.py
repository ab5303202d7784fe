"""Shots laid out as the pages of a book: front matter, singles, halves and spreads in their order, filled up to a whole sheet.

Everything lies on *openings*: the left and the right page that are seen together, in mm from the top left corner of the left page as it is trimmed.
Page 1 is a right-hand page; even pages are left-hand ones, and are seen after a turn.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Literal

from juxtaform.core.book.words import LEADING, MM_PER_PT, lines_in, lines_wide
from juxtaform.core.picture.regions import Box
from juxtaform.core.plan.shots import PageForm

Front = Literal["title", "imprint", "dedication", "blank"]
PageKind = Literal["title", "imprint", "dedication", "blank", "shot"]
Tone = Literal["dark", "light"]
Share = tuple[float, float, float, float]
"""A box as shares of a page (of both pages for a spread): left, top, width, height."""

GAP_MM = 4.0
"""Between a picture and the words beneath it."""
WORDS_WIDE = 0.62
"""Words laid over a picture are this part of a page wide, when nobody says."""
SIDE_BY_SIDE = 2.2
"""From so many times as wide as high on, words stand beside a picture and not beneath it."""
MARGIN = 1.4
"""Pictures that do not bleed keep this many times the safe distance from the edge."""


@dataclass(frozen=True)
class Book:
    """How a book is made; lengths in mm. `multiple` is the number of pages that a sheet takes; words are set in `words_pt` points."""

    trim_w: float = 240.0
    trim_h: float = 160.0
    bleed: float = 3.0
    safe: float = 10.0
    gutter: float = 8.0
    multiple: int = 4
    front: tuple[Front, ...] = ("title", "imprint")
    words_pt: float = 15.0
    dedication: str = ""
    imprint: str = ""


@dataclass(frozen=True)
class BookShot:
    """A shot as a book takes it: the form of its picture (width over height; 0 for none), its words, whether it is a surprise that a turn of the page shall
    hide, and where the user put its words: a box and a tone, or nothing."""

    id: str
    number: int
    form: PageForm
    picture: float
    words: str
    bleed: bool = False
    surprise: bool = False
    words_at: Share | None = None
    tone: Tone | None = None


@dataclass(frozen=True)
class PlacedPicture:
    """A picture in an opening, and which part of it is seen (shares of it)."""

    shot: str
    box: Box
    part: Share


@dataclass(frozen=True)
class PlacedWords:
    """Words in an opening. `over` tells that they lie on the picture; `by_hand` that the user put them there; `page` is that on which they lie, or its left one."""

    shot: str
    words: str
    box: Box
    size_pt: float
    over: bool
    by_hand: bool
    tone: Tone | None = None


@dataclass(frozen=True)
class Page:
    """A page by its number, what it is, and its shots."""

    number: int
    kind: PageKind
    shots: tuple[str, ...] = ()

    @property
    def on_the_right(self) -> bool:
        return self.number % 2 == 1


@dataclass(frozen=True)
class Opening:
    """Two pages that are seen together; one of them is missing at the beginning and the end."""

    left: Page | None
    right: Page | None
    pictures: tuple[PlacedPicture, ...] = ()
    words: tuple[PlacedWords, ...] = ()

    @property
    def shots(self) -> tuple[str, ...]:
        return tuple(dict.fromkeys(s for p in (self.left, self.right) if p for s in p.shots))


@dataclass(frozen=True)
class Layout:
    """A book laid out; `skipped` are pages that stay empty because a spread begins on a left-hand page, `filled` those at the end."""

    book: Book
    openings: tuple[Opening, ...]
    pages: tuple[Page, ...]
    skipped: tuple[int, ...] = ()
    filled: int = 0
    spreads: frozenset[str] = field(default=frozenset())


def paged(shots: Sequence[BookShot], book: Book) -> tuple[list[Page], list[int], int]:
    """The pages in their order, the numbers of those left empty before a spread, and how many are empty at the end.

    >>> pages, empty, filled = paged([BookShot("a", 1, "single", 1.5, ""), BookShot("b", 2, "spread", 3, "")], Book(front=("title",)))
    >>> [(p.number, p.kind) for p in pages], empty, filled
    ([(1, 'title'), (2, 'shot'), (3, 'blank'), (4, 'shot'), (5, 'shot'), (6, 'blank'), (7, 'blank'), (8, 'blank')], [3], 3)
    """
    pages = [Page(i + 1, kind) for i, kind in enumerate(book.front)]
    empty: list[int] = []
    half: BookShot | None = None

    def put(*shots: BookShot) -> None:
        pages.append(Page(len(pages) + 1, "shot", tuple(s.id for s in shots)))

    for shot in shots:
        if half is not None and shot.form != "half":
            put(half)
            half = None
        if shot.form == "half":
            if half is None:
                half = shot
            else:
                put(half, shot)
                half = None
        elif shot.form == "spread":
            if len(pages) % 2 == 0:
                empty.append(len(pages) + 1)
                pages.append(Page(len(pages) + 1, "blank"))
            put(shot)
            put(shot)
        else:
            put(shot)
    if half is not None:
        put(half)
    filled = -len(pages) % max(1, book.multiple)
    pages += [Page(len(pages) + 1 + i, "blank") for i in range(filled)]
    return pages, empty, filled


def laid_out(shots: Sequence[BookShot], book: Book) -> Layout:
    """The whole book with pictures and words in their places."""
    pages, empty, filled = paged(shots, book)
    by_id = {s.id: s for s in shots}
    openings = []
    for left, right in _facing(pages):
        pictures: list[PlacedPicture] = []
        words: list[PlacedWords] = []
        for page in (left, right):
            if page is None or page.kind != "shot":
                continue
            own = [by_id[s] for s in page.shots]
            if own[0].form == "spread":
                if page.on_the_right:
                    continue
                _lay(own[0], Box(0, 0, 2 * book.trim_w, book.trim_h), book, pictures, words)
                continue
            x = book.trim_w if page.on_the_right else 0.0
            for k, shot in enumerate(own):
                high = book.trim_h / 2 if shot.form == "half" else book.trim_h
                _lay(shot, Box(x, k * high, book.trim_w, high), book, pictures, words)
        openings.append(Opening(left, right, tuple(pictures), tuple(words)))
    spreads = frozenset(s.id for s in shots if s.form == "spread")
    return Layout(book, tuple(openings), tuple(pages), tuple(empty), filled, spreads)


def _facing(pages: Sequence[Page]) -> list[tuple[Page | None, Page | None]]:
    found: list[tuple[Page | None, Page | None]] = []
    for page in pages:
        if page.on_the_right:
            if found and found[-1][1] is None and found[-1][0] is not None:
                found[-1] = (found[-1][0], page)
            else:
                found.append((None, page))
        else:
            found.append((page, None))
    return found


def _lay(shot: BookShot, room: Box, book: Book, pictures: list[PlacedPicture], words: list[PlacedWords]) -> None:
    """Lay a shot into its room: a picture that bleeds fills it, another one stands in it with the words beneath."""
    margin = MARGIN * book.safe
    inner = Box(room.x + margin, room.y + margin, room.w - 2 * margin, room.h - 2 * margin)
    filling = shot.bleed or shot.form == "spread"
    hand = shot.words_at
    if filling:
        if shot.picture:
            box = _bled(room, book)
            pictures.append(PlacedPicture(shot.id, box, filled_part(shot.picture, box.w / box.h)))
        if shot.words:
            words.append(_over(shot, room, book))
        return
    if shot.words and shot.picture and hand is None and room.w > SIDE_BY_SIDE * room.h:
        _beside(shot, inner, book, pictures, words)
        return
    below = 0.0
    if shot.words and hand is None:
        below = lines_in(shot.words, inner.w, book.words_pt) * book.words_pt * MM_PER_PT * LEADING + GAP_MM
    if shot.picture:
        high = max(0.25 * inner.h, inner.h - below)
        wide = min(inner.w, high * shot.picture)
        box = Box(inner.x + (inner.w - wide) / 2, inner.y, wide, wide / shot.picture)
        if shot.words and hand is None:
            box = Box(box.x, inner.y + max(0.0, high - box.h) / 2, box.w, box.h)
        else:
            box = Box(box.x, inner.y + (inner.h - box.h) / 2, box.w, box.h)
        pictures.append(PlacedPicture(shot.id, box, (0.0, 0.0, 1.0, 1.0)))
    if shot.words:
        if hand is not None:
            words.append(_over(shot, room, book, over=False))
        else:
            top = inner.y + inner.h - (below - GAP_MM) if shot.picture else inner.y
            words.append(
                PlacedWords(
                    shot.id, shot.words, Box(inner.x, top, inner.w, below - GAP_MM), book.words_pt, False, False
                )
            )


def _beside(shot: BookShot, inner: Box, book: Book, pictures: list[PlacedPicture], words: list[PlacedWords]) -> None:
    """A picture with its words at its right, for rooms that are much wider than high."""
    wide = min(0.6 * inner.w, inner.h * shot.picture)
    box = Box(inner.x, inner.y + (inner.h - wide / shot.picture) / 2, wide, wide / shot.picture)
    pictures.append(PlacedPicture(shot.id, box, (0.0, 0.0, 1.0, 1.0)))
    left = box.x + box.w + 2 * GAP_MM
    room = inner.x + inner.w - left
    high = lines_in(shot.words, room, book.words_pt) * book.words_pt * MM_PER_PT * LEADING
    top = max(inner.y, inner.y + (inner.h - high) / 2)
    words.append(PlacedWords(shot.id, shot.words, Box(left, top, room, high), book.words_pt, False, False))


def _over(shot: BookShot, room: Box, book: Book, *, over: bool = True) -> PlacedWords:
    """Words laid where the user put them, else at the foot of the room, on its left page."""
    if shot.words_at is not None:
        x, y, w, h = shot.words_at
        box = Box(room.x + x * room.w, room.y + y * room.h, w * room.w, h * room.h)
        return PlacedWords(shot.id, shot.words, box, book.words_pt, over, True, shot.tone)
    wide = WORDS_WIDE * book.trim_w - 2 * book.safe
    high = lines_in(shot.words, wide, book.words_pt) * book.words_pt * MM_PER_PT * LEADING
    wide = min(wide, lines_wide(shot.words, wide, book.words_pt))
    margin = MARGIN * book.safe
    return PlacedWords(
        shot.id,
        shot.words,
        Box(room.x + margin, room.y + room.h - margin - high, wide, high),
        book.words_pt,
        over,
        False,
        shot.tone,
    )


def _bled(room: Box, book: Book) -> Box:
    """A room with the bleed at the sides where paper is cut; at the fold there is none."""
    whole = room.w > book.trim_w
    left = book.bleed if room.x == 0 else 0.0
    right = book.bleed if whole or room.x > 0 else 0.0
    top = book.bleed if room.y == 0 else 0.0
    bottom = book.bleed if room.y + room.h >= book.trim_h - 1e-6 else 0.0
    return Box(room.x - left, room.y - top, room.w + left + right, room.h + top + bottom)


def filled_part(picture: float, room: float) -> Share:
    """The part of a picture that fills a room of another form, about its middle; forms are widths over heights.

    >>> filled_part(1.5, 3.0)
    (0.0, 0.25, 1.0, 0.5)
    >>> filled_part(2.0, 1.0)
    (0.25, 0.0, 0.5, 1.0)
    """
    if picture > room:
        wide = room / picture
        return ((1 - wide) / 2, 0.0, wide, 1.0)
    high = picture / room
    return (0.0, (1 - high) / 2, 1.0, high)
