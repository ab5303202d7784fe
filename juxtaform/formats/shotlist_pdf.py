"""The shot list on paper: landscape A4, a row a shot with its picture, our own faces."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass

from fpdf import FPDF
from PIL import Image

from juxtaform.formats.fonts import lay_in, words_in
from juxtaform.formats.shot_table import Cells, chosen

PICTURE_MM = 34.0
MARGIN_MM = 12.0
WIDTHS = {
    "shows": 62,
    "spoken": 46,
    "words": 46,
    "motion": 34,
    "notes": 34,
    "sound": 28,
    "music": 28,
    "length_s": 14,
    "size": 13,
    "number": 15,
    "angle": 22,
    "move": 16,
}
USUAL_MM = 26.0
DEFAULT = ("Number", "Shows", "Size", "Angle", "Move", "Length", "Spoken", "Characters", "Settings")
LINE_MM = 4.1


@dataclass(frozen=True)
class PrintedShot:
    """A shot's cells and its picture (any format that we store), or None."""

    cells: Cells
    picture: bytes | None


def shot_list_pdf(title: str, shots: Sequence[PrintedShot], headers: Sequence[str] = ()) -> bytes:
    """A PDF of the shot list in some columns (the usual ones for none); scenes have a line of their own."""
    columns = [c for c in chosen(headers or DEFAULT) if c.fact not in ("id", "scene")]
    pdf = _Sheet(title, words_in([title, *(x.cells for x in shots)]))
    room = pdf.w - 2 * MARGIN_MM - PICTURE_MM - 4
    wanted = [float(WIDTHS.get(c.fact, USUAL_MM)) for c in columns]
    widths = [w * room / sum(wanted) for w in wanted]
    pdf.columns = [(c.header, w) for c, w in zip(columns, widths, strict=True)]
    pdf.add_page()
    scene: str | None = None
    for shot in shots:
        if shot.cells.get("scene") != scene:
            scene = shot.cells.get("scene", "")
            pdf.scene(scene or "Scene")
        pdf.shot([_told(c.fact, shot.cells.get(c.fact, "")) for c in columns], widths, shot.picture)
    return bytes(pdf.output())


def _told(fact: str, cell: str) -> str:
    return f"{cell} s" if fact == "length_s" and cell else cell


class _Sheet(FPDF):
    def __init__(self, title: str, words: str) -> None:
        super().__init__("L", "mm", "A4")
        self.title_words = title
        self.columns: list[tuple[str, float]] = []
        self.set_margin(MARGIN_MM)
        self.set_auto_page_break(False)
        self.set_title(title)
        lay_in(self, {"book": ("book", 400), "bookbold": ("book", 650), "sans": ("sans", 400)}, "book", words)

    def header(self) -> None:
        self.set_y(MARGIN_MM - 3)
        self.set_font("bookbold", size=13)
        self.set_text_color(38, 40, 43)
        self.cell(0, 7, self.title_words)
        self.set_font("sans", size=8)
        self.set_text_color(95, 99, 104)
        self.set_xy(-MARGIN_MM - 30, MARGIN_MM - 3)
        self.cell(30, 7, f"page {self.page_no()}", align="R")
        y = MARGIN_MM + 6
        x = MARGIN_MM + PICTURE_MM + 4
        for name, width in self.columns:
            self.set_xy(x, y)
            self.cell(width, 4, name)
            x += width
        self.set_draw_color(150, 150, 150)
        self.line(MARGIN_MM, y + 5, self.w - MARGIN_MM, y + 5)
        self.set_y(y + 6.5)

    def scene(self, words: str) -> None:
        self._room(12)
        self.set_font("bookbold", size=10)
        self.set_text_color(38, 40, 43)
        self.set_x(MARGIN_MM)
        self.multi_cell(self.w - 2 * MARGIN_MM, 5.5, words, new_x="LMARGIN", new_y="NEXT")
        self.ln(0.5)

    def shot(self, cells: Sequence[str], widths: Sequence[float], picture: bytes | None) -> None:
        self.set_font("book", size=9)
        lines = [self._lines(c, w - 2) for c, w in zip(cells, widths, strict=True)]
        most = int((self.h - 2 * MARGIN_MM - 16) / LINE_MM)
        kept = [found[:most] for found in lines]
        tall = max(PICTURE_MM * 0.667 if picture else 10.0, LINE_MM * max((len(k) for k in kept), default=1)) + 3
        self._room(tall)
        top = self.get_y()
        if picture:
            self._picture(picture, top)
        x = MARGIN_MM + PICTURE_MM + 4
        self.set_text_color(38, 40, 43)
        for found, width in zip(kept, widths, strict=True):
            self.set_xy(x, top)
            self.multi_cell(width - 2, LINE_MM, "\n".join(found), align="L")
            x += width
        self.set_draw_color(205, 205, 205)
        self.line(MARGIN_MM, top + tall - 1.2, self.w - MARGIN_MM, top + tall - 1.2)
        self.set_y(top + tall)

    def _lines(self, words: str, width: float) -> list[str]:
        found = self.multi_cell(width, LINE_MM, words, dry_run=True, output="LINES")
        return [str(line) for line in found] if isinstance(found, list) else []

    def _picture(self, data: bytes, top: float) -> None:
        seen = Image.open(io.BytesIO(data)).convert("RGB")
        seen.thumbnail((480, 480))
        out = io.BytesIO()
        seen.save(out, "JPEG", quality=85)
        scale = min(PICTURE_MM / seen.width, PICTURE_MM * 0.667 / seen.height)
        self.image(out, MARGIN_MM, top, seen.width * scale, seen.height * scale)

    def _room(self, tall: float) -> None:
        if self.get_y() + tall > self.h - MARGIN_MM:
            self.add_page()
