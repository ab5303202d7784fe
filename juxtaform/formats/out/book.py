"""The book as a PDF for print, with bleed and trim boxes, and as a dummy to print at home, fold and staple."""

from __future__ import annotations

import io
import json
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

import cv2
import numpy as np
import pikepdf
from fpdf import FPDF
from PIL import Image

from juxtaform.core.book.cover import Cover
from juxtaform.core.book.pages import Layout, Opening, Page, PlacedPicture, PlacedWords
from juxtaform.core.book.words import LEADING, MM_PER_PT
from juxtaform.core.picture.regions import Box
from juxtaform.formats.fonts import lay_in
from juxtaform.formats.out.lettering import card
from juxtaform.formats.out.parts import in_parts, joined
from juxtaform.formats.out.sequence import Going, OutSequence, OutShot
from juxtaform.media.decode import PictureRefused, decoded_file

DPI = 300
MM_PER_INCH = 25.4
PT_PER_MM = 72 / MM_PER_INCH
A4 = (297.0, 210.0)
PART_PAGES = 48
"""Pages that are drawn at once."""
EDGE_MM = 8.0
"""What home printers leave white at the edge."""
INK, WHITE, SOFT = (28, 30, 32), (255, 255, 255), (95, 99, 104)


@dataclass(frozen=True)
class OutBook:
    """A sequence laid out on pages."""

    sequence: OutSequence
    layout: Layout
    cover: Cover | None = None

    @property
    def words(self) -> str:
        """All words that are printed."""
        made = self.layout.book
        covers = f"{self.cover.title} {self.cover.author} {self.cover.blurb}" if self.cover else ""
        return " ".join(
            [covers, self.sequence.title, made.dedication, made.imprint, *(x.words for x in self.sequence.shots)]
        )


def book_pdf(book: OutBook, to: Path, going: Going) -> list[int]:
    """Write the pages for print, one after another, each with its bleed; returns the numbers of shots whose picture could not be read. Raises Stopped."""
    pages = _pages(book.layout)
    told = going.kept("unread.json")
    unread: list[int] = json.loads(told.read_text()) if told.exists() else []

    def drawn(some: Sequence[tuple[Opening, Page]], first: int) -> FPDF:
        printer = Printer(book)
        for k, (opening, page) in enumerate(some):
            going.done(first + k, len(pages))
            printer.page(opening, page)
        unread.extend(n for n in printer.troubled if n not in unread)
        told.write_text(json.dumps(unread))
        return printer.pdf

    edge = book.layout.book.bleed * PT_PER_MM

    def boxed(page: pikepdf.Page) -> None:
        """Say where a page is cut (TrimBox) and how far it bleeds (BleedBox), as ISO 32000-1, 14.11.2 has it."""
        _, _, width, height = (float(v) for v in page.mediabox)
        page.bleedbox = pikepdf.Array([0, 0, width, height])
        page.trimbox = pikepdf.Array([edge, edge, width - edge, height - edge])

    joined(in_parts(pages, PART_PAGES, "book", drawn, going), to, book.sequence.title, book.sequence.language, boxed)
    return sorted(unread)


def dummy_pdf(book: OutBook, to: Path, going: Going) -> list[int]:
    """Write the pages two by two on both sides of A4, in the order in which they follow each other once the sheets are laid into each other and folded.
    Raises Stopped."""
    whole = going.kept("pages.pdf")
    troubled: list[int] = []
    if not whole.exists():
        half = going.kept("pages-half.pdf")
        troubled = book_pdf(book, half, going)
        half.rename(whole)
    made = book.layout.book
    scale = min((A4[0] - 2 * EDGE_MM) / (2 * made.trim_w), (A4[1] - 2 * EDGE_MM) / made.trim_h, 1.0)
    wide, high = made.trim_w * scale * PT_PER_MM, made.trim_h * scale * PT_PER_MM
    left_edge, foot = A4[0] / 2 * PT_PER_MM, (A4[1] * PT_PER_MM - high) / 2
    with pikepdf.open(whole) as source, pikepdf.open(io.BytesIO(_fold_mark())) as mark, pikepdf.new() as sheets:
        for sides in folded(len(source.pages)):
            sheet = sheets.add_blank_page(page_size=(A4[0] * PT_PER_MM, A4[1] * PT_PER_MM))
            for x, number in zip((left_edge - wide, left_edge), sides, strict=True):
                if number is not None:  # a page is laid by what is left of it when it is trimmed
                    sheet.add_overlay(source.pages[number - 1], pikepdf.Rectangle(x, foot, x + wide, foot + high))
            sheet.add_overlay(mark.pages[0], pikepdf.Rectangle(*(float(v) for v in sheet.mediabox)))
        sheets.save(to)
    return troubled


def folded(count: int) -> list[tuple[int | None, int | None]]:
    """The pages on each side of the sheets of a booklet, left and right, the outermost sheet first; None for a page beyond the last.

    >>> folded(4)
    [(4, 1), (2, 3)]
    >>> folded(6)
    [(None, 1), (2, None), (6, 3), (4, 5)]
    """
    whole = count + -count % 4
    sides = []
    for sheet in range(whole // 4):
        low, high = 2 * sheet + 1, whole - 2 * sheet
        sides += [(high, low), (low + 1, high - 1)]
    return [(a if a <= count else None, b if b <= count else None) for a, b in sides]


def _pages(layout: Layout) -> list[tuple[Opening, Page]]:
    return [(o, p) for o in layout.openings for p in (o.left, o.right) if p is not None]


class Printer:
    """Draws pages one after another, as wide as the book is cut unless told otherwise."""

    def __init__(self, book: OutBook, width_mm: float | None = None) -> None:
        self._book, self._made = book, book.layout.book
        self._shots = {x.id: x for x in book.sequence.shots}
        self.troubled: list[int] = []
        made = self._made
        self.pdf = FPDF("P", "mm", ((width_mm or made.trim_w) + 2 * made.bleed, made.trim_h + 2 * made.bleed))
        self.pdf.set_auto_page_break(False)
        self.pdf.set_margin(0)
        self.pdf.c_margin = 0
        self.pdf.set_title(book.sequence.title)
        self.pdf.set_lang(book.sequence.language)
        self.pdf.set_creator("Juxtaform")
        lay_in(self.pdf, {"book": ("book", 400), "bookbold": ("book", 600)}, "book", book.words)

    def page(self, opening: Opening, page: Page) -> None:
        made = self._made
        self.pdf.add_page()
        left = made.trim_w if page.on_the_right else 0.0
        shown = Box(left - made.bleed, -made.bleed, made.trim_w + 2 * made.bleed, made.trim_h + 2 * made.bleed)
        if page.kind in ("title", "imprint", "dedication"):
            self._front(page)
        for picture in opening.pictures:
            self.picture(picture, shown, page.shots)
        for words in opening.words:
            if words.box.x < shown.x + shown.w - made.bleed and words.box.x + words.box.w > shown.x + made.bleed:
                self._words(words, shown)

    def picture(self, picture: PlacedPicture, shown: Box, shots: Sequence[str]) -> None:
        """The part of a picture that lies on a page, in 300 dpi at most."""
        box = picture.box
        x0, x1 = max(box.x, shown.x), min(box.x + box.w, shown.x + shown.w)
        y0, y1 = max(box.y, shown.y), min(box.y + box.h, shown.y + shown.h)
        if (
            x1 - x0 < 0.5
            or y1 - y0 < 0.5
            or (box.w <= self._made.trim_w + 2 * self._made.bleed and picture.shot not in shots)
        ):
            return
        px, py, pw, ph = picture.part
        part = Box(
            px + (x0 - box.x) / box.w * pw,
            py + (y0 - box.y) / box.h * ph,
            (x1 - x0) / box.w * pw,
            (y1 - y0) / box.h * ph,
        )
        data = self._printed(self._shots[picture.shot], part, x1 - x0, y1 - y0)
        self.pdf.image(data, x0 - shown.x, y0 - shown.y, x1 - x0, y1 - y0, alt_text=self._shots[picture.shot].shows)

    def _printed(self, shot: OutShot, part: Box, w_mm: float, h_mm: float) -> io.BytesIO:
        pixels = self._pixels(shot)
        h, w = pixels.shape[:2]
        cut = pixels[
            round(part.y * h) : max(1, round((part.y + part.h) * h)),
            round(part.x * w) : max(1, round((part.x + part.w) * w)),
        ]
        most = round(w_mm / MM_PER_INCH * DPI)
        if cut.shape[1] > 1.05 * most:
            size = (most, max(1, round(h_mm / MM_PER_INCH * DPI)))
            cut = np.asarray(cv2.resize(cut, size, interpolation=cv2.INTER_AREA), np.uint8)
        out = io.BytesIO()
        Image.fromarray(np.ascontiguousarray(cut)).save(out, "JPEG", quality=92, subsampling=0)
        return out

    def _pixels(self, shot: OutShot) -> np.ndarray:
        if shot.picture is not None:
            try:
                return decoded_file(Path(shot.picture.path))
            except (PictureRefused, OSError):
                if shot.number not in self.troubled:
                    self.troubled.append(shot.number)
        return card(shot.number, shot.shows, 1200, 800)

    def _words(self, words: PlacedWords, shown: Box) -> None:
        self.pdf.set_font("book", size=words.size_pt)
        self.pdf.set_text_color(*(WHITE if words.tone == "light" else INK))
        line = words.size_pt * MM_PER_PT * LEADING
        align = "L" if words.over or words.by_hand else "C"
        self.pdf.set_xy(words.box.x - shown.x, words.box.y - shown.y)
        self.pdf.multi_cell(words.box.w, line, words.words, align=align)

    def _front(self, page: Page) -> None:
        made, pdf = self._made, self.pdf
        wide = made.trim_w * 0.76
        x = made.bleed + (made.trim_w - wide) / 2
        pdf.set_text_color(*INK)
        if page.kind == "title":
            self._middle(self._book.sequence.title, "bookbold", 30, x, wide)
        elif page.kind == "dedication" and made.dedication:
            self._middle(made.dedication, "book", 14, x, wide)
        elif page.kind == "imprint" and made.imprint:
            margin = made.bleed + 1.4 * made.safe
            pdf.set_font("book", size=8)
            pdf.set_text_color(*SOFT)
            line = 8 * MM_PER_PT * LEADING
            found = pdf.multi_cell(
                made.trim_w - 2.8 * made.safe, line, made.imprint, dry_run=True, output="LINES", align="L"
            )
            count = len(found) if isinstance(found, list) else 1
            pdf.set_xy(margin, made.bleed + made.trim_h - 1.4 * made.safe - count * line)
            pdf.multi_cell(made.trim_w - 2.8 * made.safe, line, made.imprint, align="L")

    def _middle(self, words: str, face: str, size: float, x: float, wide: float) -> None:
        self.pdf.set_font(face, size=size)
        line = size * MM_PER_PT * 1.25
        found = self.pdf.multi_cell(wide, line, words, dry_run=True, output="LINES", align="C")
        count = len(found) if isinstance(found, list) else 1
        self.pdf.set_xy(x, (self.pdf.h - count * line) / 2)
        self.pdf.multi_cell(wide, line, words, align="C")


def _fold_mark() -> bytes:
    """A sheet with a dashed line at its top and its foot, where it is folded."""
    pdf = FPDF("L", "mm", "A4")
    pdf.add_page()
    pdf.set_draw_color(*SOFT)
    pdf.set_line_width(0.2)
    pdf.set_dash_pattern(1.5, 1.5)
    for y in (0.0, A4[1] - 6):
        pdf.line(A4[0] / 2, y, A4[0] / 2, y + 6)
    return bytes(pdf.output())
