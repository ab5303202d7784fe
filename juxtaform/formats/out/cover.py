"""The cover as a PDF for print, back, spine and front on one sheet, and its front as a picture."""

from __future__ import annotations

import io
from pathlib import Path

import pikepdf
import pypdfium2

from juxtaform.core.book.cover import AUTHOR_PART, GAP_MM, SPINE_WORDS_MM, Cover
from juxtaform.core.book.words import LEADING, MM_PER_PT
from juxtaform.core.picture.regions import Box
from juxtaform.formats.out.book import INK, PT_PER_MM, WHITE, OutBook, Printer
from juxtaform.formats.out.sequence import Going

BLURB_PT = 13.0
Colour = tuple[int, int, int]


class NoCover(ValueError):
    """The book has no cover; the message says what to do."""


def cover_pdf(book: OutBook, to: Path, going: Going) -> list[int]:
    """Write the cover, with its bleed; returns the numbers of shots whose picture could not be read. Raises NoCover."""
    cover = _cover(book)
    data, unread = _drawn(book, cover)
    edge, high = cover.book.bleed * PT_PER_MM, (cover.book.trim_h + 2 * cover.book.bleed) * PT_PER_MM
    with pikepdf.open(io.BytesIO(data)) as pdf:
        page = pdf.pages[0]
        wide = float(page.mediabox[2])
        page.bleedbox = pikepdf.Array([0, 0, wide, high])
        page.trimbox = pikepdf.Array([edge, edge, wide - edge, high - edge])
        pdf.save(to)
    going.done(1, 1)
    return unread


def front_jpeg(book: OutBook, height_px: int) -> bytes:
    """The front as it is cut, as JPEG. Raises NoCover."""
    cover = _cover(book)
    made = cover.book
    scale = height_px / (made.trim_h * PT_PER_MM)
    document = pypdfium2.PdfDocument(_drawn(book, cover)[0])
    try:
        sheet = document[0].render(scale=scale).to_pil()
    finally:
        document.close()
    per_mm = PT_PER_MM * scale
    left, top = made.bleed + made.trim_w + cover.spine_mm, made.bleed
    corners = (left, top, left + made.trim_w, top + made.trim_h)
    x0, y0, x1, y1 = (round(v * per_mm) for v in corners)
    out = io.BytesIO()
    sheet.crop((x0, y0, x1, y1)).convert("RGB").save(out, "JPEG", quality=90)
    return out.getvalue()


def _cover(book: OutBook) -> Cover:
    if book.cover is None:
        raise NoCover("The book has no cover yet. Choose a picture for it in the dummy.")
    return book.cover


def _drawn(book: OutBook, cover: Cover) -> tuple[bytes, list[int]]:
    printer = Printer(book, cover.width_mm)
    _Sheet(printer, cover, book.sequence.title).draw()
    return bytes(printer.pdf.output()), printer.troubled


class _Sheet:
    """Draws back, spine and front on one page."""

    def __init__(self, printer: Printer, cover: Cover, title: str) -> None:
        self._printer, self._pdf, self._cover, self._title = printer, printer.pdf, cover, title
        self._front = cover.book.bleed + cover.book.trim_w + cover.spine_mm
        """Where the front begins."""

    def draw(self) -> None:
        cover, pdf, made = self._cover, self._pdf, self._cover.book
        pdf.add_page()
        pdf.set_fill_color(*bytes.fromhex(cover.ground[1:]))
        pdf.rect(0, 0, pdf.w, pdf.h, style="F")
        # In an opening the right page begins at the trim's width.
        shown = Box(made.trim_w - self._front, -made.bleed, pdf.w, pdf.h)
        self._printer.picture(cover.picture, shown, [cover.shot])
        self._titled(shown)
        tone = WHITE if cover.tone == "light" else INK
        if cover.blurb:
            wide = 0.66 * made.trim_w
            left, top = made.bleed + (made.trim_w - wide) / 2, made.bleed + 0.3 * made.trim_h
            self._put(cover.blurb, "book", BLURB_PT, left, top, wide, tone)
        if cover.spine_mm >= SPINE_WORDS_MM:
            self._spine(tone)

    def _titled(self, shown: Box) -> None:
        words = self._cover.title
        tone = WHITE if words.tone == "light" else INK
        x, y = words.box.x - shown.x, words.box.y - shown.y
        below = self._put(words.words, "bookbold", words.size_pt, x, y, words.box.w, tone)
        if self._cover.author:
            self._put(self._cover.author, "book", AUTHOR_PART * words.size_pt, x, below + GAP_MM, words.box.w, tone)

    def _put(self, words: str, face: str, size: float, x: float, y: float, wide: float, tone: Colour) -> float:
        """Put words in lines; returns where the next line would begin."""
        self._pdf.set_font(face, size=size)
        self._pdf.set_text_color(*tone)
        self._pdf.set_xy(x, y)
        self._pdf.multi_cell(wide, size * MM_PER_PT * LEADING * 0.88, words, align="L", new_x="LEFT", new_y="NEXT")
        return float(self._pdf.get_y())

    def _spine(self, tone: Colour) -> None:
        """Title and author down the spine, as books stand in English and most other languages: read with the head to the right."""
        cover, pdf = self._cover, self._pdf
        size = min(16.0, 0.55 * cover.spine_mm / MM_PER_PT)
        pdf.set_font("bookbold", size=size)
        pdf.set_text_color(*tone)
        middle = cover.book.bleed + cover.book.trim_w + cover.spine_mm / 2
        top = cover.book.bleed + 1.6 * cover.book.safe
        with pdf.rotation(-90, middle, top):
            pdf.set_xy(middle, top - size * MM_PER_PT / 2)
            pdf.cell(cover.book.trim_h, size * MM_PER_PT, f"{self._title}   {cover.author}".strip())
