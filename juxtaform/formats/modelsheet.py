"""A model sheet as PDF, and the same page as PNG."""

from __future__ import annotations

import io
import tempfile
from collections.abc import Callable, Sequence
from functools import lru_cache
from pathlib import Path

from fpdf import FPDF
from PIL import Image, ImageDraw, ImageFont

from juxtaform.core.picture.modelsheet import HEIGHT_MM, PT_MM, WHOLE, WIDTH_MM, Item, Patch, Rule, Shown
from juxtaform.formats.fonts import truetype

DPI = 200
INK, SOFT, RULE = "#26282b", "#5f6368", "#9fb9c8"
PictureOf = Callable[[str], bytes]


def width_mm(words: str, size: float, bold: bool) -> float:
    """The width of words in our face, in mm."""
    return _measuring(bold).getlength(words) / 100 * size * PT_MM


def as_pdf(items: Sequence[Item], picture_of: PictureOf, title: str) -> bytes:
    """The page as PDF; the same items give the same bytes but for the date."""
    pdf = FPDF("L", "mm", "A4")
    pdf.set_auto_page_break(False)
    pdf.set_title(title)
    pdf.add_page()
    with tempfile.TemporaryDirectory() as folder:
        for style, weight in (("", 400), ("B", 700)):
            path = Path(folder) / f"sans{style}.ttf"
            path.write_bytes(truetype("sans", weight) or b"")
            pdf.add_font("sans", style, str(path))
    for item in items:
        if isinstance(item, Shown):
            pdf.image(_part(picture_of, item), item.x, item.y, item.w, item.h)
        elif isinstance(item, Rule):
            pdf.set_draw_color(*_rgb(RULE))
            pdf.set_line_width(0.15)
            pdf.line(item.x, item.y, item.x + item.w, item.y)
        elif isinstance(item, Patch):
            pdf.set_fill_color(*_rgb(item.hex))
            pdf.rect(item.x, item.y, item.w, item.h, "F")
        else:
            pdf.set_font("sans", "B" if item.bold else "", item.size)
            pdf.set_text_color(*_rgb(SOFT if item.soft else INK))
            pdf.text(item.x, item.y, item.text)
    return bytes(pdf.output())


def as_png(items: Sequence[Item], picture_of: PictureOf) -> bytes:
    """The page as PNG at 200 dpi."""
    mm = DPI / 25.4
    page = Image.new("RGB", (round(WIDTH_MM * mm), round(HEIGHT_MM * mm)), "white")
    draw = ImageDraw.Draw(page)
    for item in items:
        if isinstance(item, Shown):
            size = (max(1, round(item.w * mm)), max(1, round(item.h * mm)))
            shown = _part(picture_of, item).resize(size, Image.Resampling.LANCZOS)
            page.paste(shown, (round(item.x * mm), round(item.y * mm)))
        elif isinstance(item, Rule):
            draw.line((item.x * mm, item.y * mm, (item.x + item.w) * mm, item.y * mm), fill=RULE)
        elif isinstance(item, Patch):
            draw.rectangle((item.x * mm, item.y * mm, (item.x + item.w) * mm, (item.y + item.h) * mm), fill=item.hex)
        else:
            font = _face(item.bold, item.size * DPI / 72)
            draw.text((item.x * mm, item.y * mm), item.text, font=font, fill=SOFT if item.soft else INK, anchor="ls")
    out = io.BytesIO()
    page.save(out, "PNG", dpi=(DPI, DPI))
    return out.getvalue()


def _part(picture_of: PictureOf, item: Shown) -> Image.Image:
    """The part of a picture that is shown."""
    with Image.open(io.BytesIO(picture_of(item.key))) as picture:
        whole = picture.convert("RGB")
    if item.part == WHOLE:
        return whole
    w, h = whole.size
    left, top, right, bottom = item.part
    return whole.crop(
        (
            round(left * w),
            round(top * h),
            max(round(left * w) + 1, round(right * w)),
            max(round(top * h) + 1, round(bottom * h)),
        )
    )


@lru_cache(maxsize=2)
def _measuring(bold: bool) -> ImageFont.FreeTypeFont:
    return _face(bold, 100)


@lru_cache(maxsize=32)
def _face(bold: bool, px: float) -> ImageFont.FreeTypeFont:
    return ImageFont.truetype(io.BytesIO(truetype("sans", 700 if bold else 400) or b""), px)


def _rgb(code: str) -> tuple[int, int, int]:
    return int(code[1:3], 16), int(code[3:5], 16), int(code[5:7], 16)
