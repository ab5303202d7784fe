"""The cover: a picture that fills its front, the title where it is read best, a spine as thick as the pages, and words on the back."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from juxtaform.core.book.legible import Legibility, Tone
from juxtaform.core.book.pages import Book, BookShot, Opening, PlacedPicture, PlacedWords, laid_out
from juxtaform.core.book.placing import placed_well
from juxtaform.core.book.words import LEADING, MM_PER_PT, lines_in
from juxtaform.core.colour.spaces import Floats, linear_from_hex
from juxtaform.core.picture.regions import Box, shared_area

TITLE_SIZES, TITLE_WIDE = (34.0, 28.0, 23.0), (0.62, 0.84, 0.42)
"""A title is set as large as it finds a calm place, in points; how wide, as a part of the front."""
GAP_MM = 1.5
AUTHOR_PART = 0.42
"""The author's name is set so much smaller than the title."""
SHEET_MM, BOARD_MM = 0.16, 1.5
"""The thickness of a sheet of picture-book paper (150 g/m²), and what the binding adds."""
STAPLED_MOST = 48
"""A booklet of no more pages is stapled through its fold and has no spine."""
SPINE_WORDS_MM = 6.0
"""On a narrower spine no words can be read."""
LIGHT_GROUND = 0.18


@dataclass(frozen=True)
class Cover:
    """A cover in mm: how its book is made, how thick its spine is, its front as a page on the right of an opening, what stands on it, and the colour of spine
    and back."""

    book: Book
    spine_mm: float
    shot: str
    picture: PlacedPicture
    title: PlacedWords
    author: str
    blurb: str
    ground: str

    @property
    def width_mm(self) -> float:
        """Front, spine and back, as they are cut."""
        return 2 * self.book.trim_w + self.spine_mm

    @property
    def tone(self) -> Tone:
        """The tone of words on spine and back."""
        r, g, b = linear_from_hex(self.ground)
        return "dark" if 0.2126 * r + 0.7152 * g + 0.0722 * b > LIGHT_GROUND else "light"

    @property
    def opening(self) -> Opening:
        """The front as the right page of an opening."""
        return Opening(None, None, (self.picture,), (self.title,))


def spine_of(pages: int) -> float:
    """How thick the spine of a book of so many pages is, in mm; 0 for one that is stapled.

    >>> spine_of(32), spine_of(120)
    (0.0, 11.1)
    """
    return 0.0 if pages <= STAPLED_MOST else round(pages / 2 * SHEET_MM + BOARD_MM, 1)


def covered(
    book: Book,
    spine_mm: float,
    shot: str,
    form: float,
    words: tuple[str, str, str],
    ground: str,
    luminance: Floats | None = None,
    faces: Sequence[tuple[str, Box]] = (),
) -> tuple[Cover, Legibility | None]:
    """The cover of a book with a shot's picture (`form` is its width over height), `words` being title, author and the words on the back, `ground` the colour of
    spine and back; and how the title is read, where the picture's `luminance` (h, w) is known. The title keeps off `faces` (in shares of the picture)."""
    title, author, blurb = words
    front = laid_out([BookShot(shot, 1, "single", form, "", bleed=True)], replace(book, front=(), multiple=1))
    opening = front.openings[0]
    grounds = {shot: luminance} if luminance is not None else {}
    tried: list[tuple[PlacedWords, Legibility | None]] = []
    for size in TITLE_SIZES:
        for part in TITLE_WIDE:
            block = _block(title, author, size, part, book, shot)
            one = replace(front, openings=(replace(opening, words=(block,)),))
            laid, read = placed_well(one, grounds, {shot: list(faces)})
            tried.append((laid.openings[0].words[0], read.get(shot)))
            if _is_good(*tried[-1], opening.pictures[0], faces):
                break
        else:
            continue
        break
    else:
        tried = [max(tried, key=lambda t: t[1].contrast if t[1] else 0.0)]
    words_laid, legible = tried[-1]
    return Cover(book, spine_mm, shot, opening.pictures[0], words_laid, author, blurb, ground), legible


def _block(title: str, author: str, size_pt: float, part: float, book: Book, shot: str) -> PlacedWords:
    """The title with room for the author beneath it, at the head of the front until a better place is found."""
    wide = part * book.trim_w
    small = AUTHOR_PART * size_pt
    high = lines_in(title, wide, size_pt) * size_pt * MM_PER_PT * LEADING
    if author:
        high += lines_in(author, wide, small) * small * MM_PER_PT * LEADING + GAP_MM
    box = Box(1.5 * book.trim_w - wide / 2, 1.4 * book.safe, wide, high)
    return PlacedWords(shot, title, box, size_pt, True, False)


def _is_good(
    words: PlacedWords, read: Legibility | None, picture: PlacedPicture, faces: Sequence[tuple[str, Box]]
) -> bool:
    """Whether a title is read where it lies, and lies on nobody's face."""
    px, py, pw, ph = picture.part
    for _, f in faces:
        x, y = picture.box.x + (f.x - px) / pw * picture.box.w, picture.box.y + (f.y - py) / ph * picture.box.h
        if shared_area(words.box, Box(x, y, f.w / pw * picture.box.w, f.h / ph * picture.box.h)) > 0:
            return False
    return read is None or read.is_good
