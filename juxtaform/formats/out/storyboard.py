"""The storyboard on paper: one, four, six or nine pictures a page, each with its words, framing and the move drawn on it."""

from __future__ import annotations

import io
import math
from collections.abc import Sequence
from pathlib import Path

import numpy as np
from fpdf import FPDF
from PIL import Image

from juxtaform.core.picture.regions import resized
from juxtaform.core.run.moves import Frame
from juxtaform.formats.fonts import lay_in
from juxtaform.formats.out.lettering import card
from juxtaform.formats.out.parts import in_parts, joined
from juxtaform.formats.out.sequence import Going, OutSequence, OutShot
from juxtaform.media.decode import PictureRefused, decoded_file

MARGIN_MM, GAP_MM, HEAD_MM = 12.0, 7.0, 9.0
LAYOUTS = {1: (1, 1), 4: (2, 2), 6: (3, 2), 9: (3, 3)}
"""Columns and rows of a page, by pictures a page."""
WORDS_MM = {1: 42.0, 4: 24.0, 6: 30.0, 9: 18.0}
DPI = 200
PART_PAGES = 10
"""Pages that are drawn at once."""
INK, SOFT, BLUE = (38, 40, 43), (95, 99, 104), (30, 107, 152)


def storyboard(sequence: OutSequence, a_page: int, to: Path, going: Going) -> None:
    """Write the storyboard as PDF on landscape A4. Raises Stopped, ValueError for another number of pictures a page than 1, 4, 6 or 9."""
    if a_page not in LAYOUTS:
        raise ValueError("A page takes 1, 4, 6 or 9 pictures.")
    pages = max(1, math.ceil(len(sequence.shots) / a_page))
    words = " ".join([sequence.title, *(f"{x.scene} {x.shows} {x.words}" for x in sequence.shots)])

    def drawn(shots: Sequence[OutShot], first: int) -> _Board:
        board = _Board(sequence, pages, first // a_page, words)
        scene = sequence.shots[first - 1].scene if first else None
        if not shots:
            board.add_page()
        for k, shot in enumerate(shots):
            going.done(first + k, len(sequence.shots))
            board.place(shot, k % a_page, a_page, shot.scene if shot.scene != scene else "")
            scene = shot.scene
        return board

    made = in_parts(sequence.shots, PART_PAGES * a_page, f"storyboard-{a_page}", drawn, going)
    joined(made, to, sequence.title, sequence.language)


class _Board(FPDF):
    """Some pages of a storyboard, `before` of them lying before these."""

    def __init__(self, sequence: OutSequence, pages: int, before: int, words: str) -> None:
        super().__init__("L", "mm", "A4")
        self.sequence, self.before = sequence, before
        self.title_words, self.pages_in_all = sequence.title, pages
        self.set_margin(MARGIN_MM)
        self.set_auto_page_break(False)
        self.set_title(sequence.title)
        self.set_creator("Juxtaform")
        lay_in(self, {"book": ("book", 400), "bookbold": ("book", 650), "sans": ("sans", 400)}, "book", words)

    def header(self) -> None:
        self._put(MARGIN_MM, MARGIN_MM - 3, self.title_words, "bookbold", 12, INK)
        told = f"{self.before + self.page_no()} of {self.pages_in_all}"
        self.set_font("sans", size=8)
        self._put(self.w - MARGIN_MM - self.get_string_width(told), MARGIN_MM - 2.4, told, "sans", 8, SOFT)

    def place(self, shot: OutShot, place: int, a_page: int, scene: str) -> None:
        """Draw a shot at a place of its page, the first of which begins a page."""
        if place == 0:
            self.add_page()
        columns, rows = LAYOUTS[a_page]
        wide = (self.w - 2 * MARGIN_MM - (columns - 1) * GAP_MM) / columns
        high = (self.h - 2 * MARGIN_MM - HEAD_MM - (rows - 1) * GAP_MM) / rows
        x = MARGIN_MM + (place % columns) * (wide + GAP_MM)
        y = MARGIN_MM + HEAD_MM + (place // columns) * (high + GAP_MM)
        room = high - WORDS_MM[a_page]
        form = self.sequence.aspect
        if shot.picture:
            form = shot.picture.width / shot.picture.height
        w, h = (wide, wide / form) if wide / form <= room else (room * form, room)
        self.image(_printed(self.sequence, shot, w, h), x, y, w, h)
        self.set_draw_color(*SOFT)
        self.set_line_width(0.15)
        self.rect(x, y, w, h)
        if shot.picture and shot.move != "static":
            self._move(shot.frames, x, y, w, h)
        below = y + h + 1.2
        told = f"{shot.number}"
        self._put(x, below, told, "bookbold", 11, INK)
        facts = " · ".join(
            p for p in (shot.framing, "" if shot.move == "static" else shot.move, f"{shot.length_s:g} s", scene) if p
        )
        self.set_font("bookbold", size=11)
        start = x + self.get_string_width(told) + 2
        self._put(start, below + 0.7, self._fitting(facts, "sans", 7.5, x + wide - start), "sans", 7.5, SOFT)
        self.set_xy(x, below + 5.6)
        left = y + high - (below + 5.6)
        self._lines(shot.shows, "sans", 8.5, x, wide, left * (0.5 if shot.words else 1.0))
        self.set_y(self.get_y() + 0.8)
        self._lines(shot.words, "book", 9, x, wide, y + high - self.get_y())

    def _move(self, frames: tuple[Frame, Frame], x: float, y: float, w: float, h: float) -> None:
        """The first frame solid, the last one dashed, and an arrow between their middles."""
        self._pencil(frames, x, y, w, h, (255, 255, 255), 1.1)  # a light rim, so that it is seen on dark pictures
        self._pencil(frames, x, y, w, h, BLUE, 0.5)

    def _pencil(
        self,
        frames: tuple[Frame, Frame],
        x: float,
        y: float,
        w: float,
        h: float,
        colour: tuple[int, int, int],
        mm: float,
    ) -> None:
        self.set_draw_color(*colour)
        self.set_line_width(mm)
        middles = []
        for k, (fx, fy, fw, fh) in enumerate(frames):
            self.set_dash_pattern(*((1.6, 1.2) if k else (0, 0)))
            self.rect(x + fx * w, y + fy * h, fw * w, fh * h)
            middles.append((x + (fx + fw / 2) * w, y + (fy + fh / 2) * h))
        self.set_dash_pattern()
        (ax, ay), (bx, by) = middles
        far = math.hypot(bx - ax, by - ay)
        if far > 3:
            self.line(ax, ay, bx, by)
            ux, uy = (bx - ax) / far, (by - ay) / far
            for side in (-1, 1):
                self.line(bx, by, bx - 2.4 * ux + side * 1.2 * uy, by - 2.4 * uy - side * 1.2 * ux)

    def _lines(self, words: str, face: str, size: float, x: float, wide: float, room: float) -> None:
        """Words in as many lines as there is room for; what does not fit ends in three dots."""
        if not words:
            return
        self.set_font(face, size=size)
        self.set_text_color(*(INK if face == "book" else SOFT))
        tall = size * 0.43
        found = self.multi_cell(wide, tall, words, dry_run=True, output="LINES")
        lines = [str(line) for line in found] if isinstance(found, list) else []
        most = max(1, int(room / tall))
        if len(lines) > most:
            lines = [*lines[: most - 1], f"{lines[most - 1].rstrip('. ')} …"]
        for line in lines:
            self.set_x(x)
            self.cell(wide, tall, line, new_x="LMARGIN", new_y="NEXT")

    def _fitting(self, words: str, face: str, size: float, wide: float) -> str:
        self.set_font(face, size=size)
        if self.get_string_width(words) <= wide:
            return words
        while words and self.get_string_width(f"{words} …") > wide:
            words = words[:-1].rstrip()
        return f"{words} …"

    def _put(self, x: float, y: float, words: str, face: str, size: float, colour: tuple[int, int, int]) -> None:
        self.set_font(face, size=size)
        self.set_text_color(*colour)
        self.set_xy(x, y)
        self.cell(0, size * 0.4, words)


def _printed(sequence: OutSequence, shot: OutShot, w_mm: float, h_mm: float) -> io.BytesIO:
    """A shot's picture, no larger than print shows it, as JPEG."""
    side = round(max(w_mm, h_mm) / 25.4 * DPI)
    out = io.BytesIO()
    Image.fromarray(_pixels(sequence, shot, side)).save(out, "JPEG", quality=88)
    return out


def _pixels(sequence: OutSequence, shot: OutShot, side: int) -> np.ndarray:
    if shot.picture:
        try:
            return resized(decoded_file(Path(shot.picture.path)), side)
        except (PictureRefused, OSError):
            pass
    width = side if sequence.aspect >= 1 else round(side * sequence.aspect)
    return card(shot.number, shot.shows, width, round(width / sequence.aspect))
