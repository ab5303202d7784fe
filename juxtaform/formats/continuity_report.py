"""A continuity report for somebody who has no Juxtaform: pictures, evidence in plain words, numbers, and what was let stand and why; as PDF and as one
HTML file that needs nothing beside it."""

from __future__ import annotations

import base64
import html
import io
from dataclasses import dataclass

from fpdf import FPDF
from PIL import Image, ImageDraw

from juxtaform.core.findings import Evidence
from juxtaform.formats.fonts import lay_in, words_in

SIDE = 720
"""Pictures of a report are at most so many px wide or high."""
MARGIN_MM, PICTURE_MM = 16.0, 84.0
INK, SOFT, RED, HAIR = (38, 40, 43), (95, 99, 104), (178, 42, 36), (205, 205, 205)


@dataclass(frozen=True)
class ReportPicture:
    """A picture (any format that we store) with what it is, and the box to look at in parts 0..1 of it: left, top, width, height."""

    data: bytes
    caption: str
    box: tuple[float, float, float, float] | None = None


@dataclass(frozen=True)
class ReportEntry:
    """One finding: its shot, title, what to do, evidence, pictures, and what was decided (empty: nothing yet)."""

    shot: str
    title: str
    advice: str
    rows: tuple[Evidence, ...]
    pictures: tuple[ReportPicture, ...]
    decided: str = ""


@dataclass(frozen=True)
class ReportPart:
    """Entries under one heading, with a line of what they have in common."""

    heading: str
    why: str
    entries: tuple[ReportEntry, ...]


@dataclass(frozen=True)
class ContinuityReport:
    """A report: its title, a line a fact about the check, and its parts in the order of weight; `holds` names what was looked at and holds; `nothing` is said where there are no parts; `learned` says
    how far terms may go that the illustrator let go farther."""

    title: str
    facts: tuple[str, ...]
    parts: tuple[ReportPart, ...]
    holds: tuple[str, ...] = ()
    learned: tuple[str, ...] = ()
    nothing: str = "Nothing was found: all that was looked at holds."


def report_html(report: ContinuityReport) -> str:
    """The report as one HTML file; pictures lie in it."""
    told = html.escape
    parts = "".join(_part(p) for p in report.parts) or f"<p>{told(report.nothing)}</p>"
    ends = "".join(
        f"<h2>{told(heading)}</h2><ul>{''.join(f'<li>{told(x)}</li>' for x in lines)}</ul>"
        for heading, lines in (("What holds", report.holds), ("What may vary", report.learned))
        if lines
    )
    facts = "".join(f"<li>{told(f)}</li>" for f in report.facts)
    return (
        f'<!doctype html><html lang="en"><head><meta charset="utf-8"><title>{told(report.title)}: continuity</title>'
        f'<meta name="viewport" content="width=device-width"><style>{STYLE}</style></head><body><main>'
        f"<h1>{told(report.title)}</h1><p class=soft>Continuity report</p><ul class=facts>{facts}</ul>{parts}{ends}</main></body></html>\n"
    )


STYLE = """
:root{color-scheme:light}body{margin:0;background:#f6f6f5;color:#26282b;font:16px/1.5 Georgia,serif}
main{max-width:880px;margin:0 auto;padding:32px 24px}h1{font-size:30px;margin:0}h2{font-size:21px;margin:36px 0 4px;border-top:1px solid #ccc;padding-top:16px}
h3{font-size:17px;margin:20px 0 4px}.soft,figcaption,.behind{color:#5f6368}.facts{padding-left:18px}.why{margin:0 0 8px}
.pictures{display:flex;gap:12px;flex-wrap:wrap}figure{margin:8px 0;flex:1 1 260px;max-width:420px}figure img{width:100%;background:#808080;display:block}
figcaption,.behind{font-size:13px}table{border-collapse:collapse;width:100%;font-size:15px}td{border-bottom:1px solid #ddd;padding:4px 12px 4px 0;vertical-align:top}
.swatch{display:inline-block;width:14px;height:14px;border:1px solid #0003;vertical-align:-2px;margin-right:6px}.decided{border-left:3px solid #26282b;padding-left:10px}
@media print{body{background:#fff}figure,table{break-inside:avoid}}
""".replace("\n", "")


def _part(part: ReportPart) -> str:
    told = html.escape
    why = f"<p class='soft why'>{told(part.why)}</p>" if part.why else ""
    return f"<section><h2>{told(part.heading)}</h2>{why}{''.join(_entry(e, _headed(part, e)) for e in part.entries)}</section>"


def _headed(part: ReportPart, entry: ReportEntry) -> str:
    """What stands over an entry: its shot, and its title where the part has another."""
    return entry.shot if entry.title == part.heading else f"{entry.shot}: {entry.title}"


def _entry(entry: ReportEntry, headed: str) -> str:
    told = html.escape
    pictures = "".join(
        f'<figure><img alt="{told(p.caption)}" src="data:image/jpeg;base64,{base64.b64encode(_jpeg(p)).decode()}">'
        f"<figcaption>{told(p.caption)}</figcaption></figure>"
        for p in entry.pictures
    )
    rows = "".join(
        f"<tr><td>{told(r.label)}</td><td>{_swatch(r)}{told(r.measured)}{f', expected {told(r.expected)}' if r.expected and r.expected != r.measured else ''}"
        f"{f'<div class=behind>{told(r.behind)}</div>' if r.behind else ''}</td></tr>"
        for r in entry.rows
    )
    decided = f"<p class=decided>{told(entry.decided)}</p>" if entry.decided else f"<p>{told(entry.advice)}</p>"
    return (
        f"<article><h3>{told(headed)}</h3><div class=pictures>{pictures}</div><table>{rows}</table>{decided}</article>"
    )


def _swatch(row: Evidence) -> str:
    code = row.measured_hex or row.expected_hex
    return f"<span class=swatch style='background:{html.escape(code)}'></span>" if code else ""


def _jpeg(picture: ReportPicture) -> bytes:
    """The picture small enough to send, the box to look at drawn round in red."""
    seen = Image.open(io.BytesIO(picture.data)).convert("RGB")
    seen.thumbnail((SIDE, SIDE))
    if picture.box is not None:
        x, y, w, h = picture.box
        left, top = max(0.0, x) * seen.width, max(0.0, y) * seen.height
        right, bottom = min(1.0, x + w) * seen.width - 1, min(1.0, y + h) * seen.height - 1
        if right > left and bottom > top:
            ImageDraw.Draw(seen).rectangle((left, top, right, bottom), outline=RED, width=3)
    out = io.BytesIO()
    seen.save(out, "JPEG", quality=84)
    return out.getvalue()


def report_pdf(report: ContinuityReport) -> bytes:
    """The report as PDF, upright A4."""
    pdf = _Pages(report.title, words_in(report))
    pdf.add_page()
    pdf.words(report.title, "bookbold", 20, INK, 9)
    pdf.words("Continuity report", "book", 11, SOFT, 6)
    for fact in report.facts:
        pdf.words(fact, "book", 11, INK, 5.5)
    if not report.parts:
        pdf.words(report.nothing, "book", 11, INK, 6)
    for part in report.parts:
        pdf.part(part)
    for heading, lines in (("What holds", report.holds), ("What may vary", report.learned)):
        if lines:
            pdf.heading(heading)
            for line in lines:
                pdf.words(line, "book", 11, INK, 5.5)
    return bytes(pdf.output())


class _Pages(FPDF):
    def __init__(self, title: str, words: str) -> None:
        super().__init__("P", "mm", "A4")
        self.words_of_title = title
        self.set_margin(MARGIN_MM)
        self.set_auto_page_break(True, MARGIN_MM)
        self.set_title(f"{title}: continuity")
        lay_in(self, {"book": ("book", 400), "bookbold": ("book", 650)}, "book", words)

    def footer(self) -> None:
        self.set_y(-12)
        self.set_font("book", size=9)
        self.set_text_color(*SOFT)
        self.cell(0, 5, f"{self.words_of_title} · page {self.page_no()}", align="C")

    def words(self, text: str, face: str, size: float, colour: tuple[int, int, int], line: float) -> None:
        self.set_font(face, size=size)
        self.set_text_color(*colour)
        self.set_x(MARGIN_MM)
        self.multi_cell(self.w - 2 * MARGIN_MM, line, text, align="L", new_x="LMARGIN", new_y="NEXT")

    def heading(self, text: str) -> None:
        self._room(30)
        self.ln(5)
        self.set_draw_color(*HAIR)
        self.line(MARGIN_MM, self.get_y(), self.w - MARGIN_MM, self.get_y())
        self.ln(2)
        self.words(text, "bookbold", 14, INK, 7)

    def part(self, part: ReportPart) -> None:
        # A heading goes with its first entry: its pictures and three rows.
        self._room(105 if part.entries and part.entries[0].pictures else 50)
        self.heading(part.heading)
        if part.why:
            self.words(part.why, "book", 10.5, SOFT, 5)
        for entry in part.entries:
            self.entry(entry, _headed(part, entry))

    def entry(self, entry: ReportEntry, headed: str) -> None:
        shown = [(_jpeg(p), p.caption) for p in entry.pictures[:2]]
        tall = 0.0
        sizes = []
        for data, _ in shown:
            wide, high = Image.open(io.BytesIO(data)).size
            scale = min(PICTURE_MM / wide, 62.0 / high)
            sizes.append((wide * scale, high * scale))
            tall = max(tall, high * scale)
        self._room(tall + 14 + 5.5 * len(entry.rows[:3]))
        self.ln(2)
        self.words(headed, "bookbold", 11.5, INK, 6)
        top = self.get_y() + 1
        for i, ((data, caption), (w, h)) in enumerate(zip(shown, sizes, strict=True)):
            x = MARGIN_MM + i * (PICTURE_MM + 8)
            self.image(io.BytesIO(data), x, top, w, h)
            self.set_xy(x, top + h + 0.5)
            self.set_font("book", size=9)
            self.set_text_color(*SOFT)
            self.cell(PICTURE_MM, 4, caption)
        if shown:
            self.set_y(top + tall + 5.5)
        for row in entry.rows:
            self._row(row)
        self.ln(1)
        self.words(entry.decided or entry.advice, "book", 11, INK, 5.5)

    def _row(self, row: Evidence) -> None:
        said = row.measured + (f", expected {row.expected}" if row.expected and row.expected != row.measured else "")
        code = row.measured_hex or row.expected_hex
        self._room(10)
        self.set_font("book", size=10.5)
        self.set_text_color(*INK)
        self.set_x(MARGIN_MM)
        self.cell(66, 5, row.label[:60])
        if code:
            self.set_fill_color(*(int(code[i : i + 2], 16) for i in (1, 3, 5)))
            self.rect(self.get_x(), self.get_y() + 0.9, 3.2, 3.2, "F")
            self.set_x(self.get_x() + 4.5)
        self.multi_cell(self.w - MARGIN_MM - self.get_x(), 5, said, align="L", new_x="LMARGIN", new_y="NEXT")
        if row.behind:
            self.set_font("book", size=8.5)
            self.set_text_color(*SOFT)
            self.set_x(MARGIN_MM + 66)
            self.multi_cell(self.w - 2 * MARGIN_MM - 66, 4, row.behind, align="L", new_x="LMARGIN", new_y="NEXT")

    def _room(self, tall: float) -> None:
        if self.get_y() + tall > self.h - MARGIN_MM:
            self.add_page()
