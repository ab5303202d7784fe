"""Plates drawn: pictures laid out by the core, on white, each with its label."""

from __future__ import annotations

import io
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFont

from juxtaform.core.picture.plate import plate

LABEL_PART = 36
"""A label's height is this part of the plate's longer side: it can still be read when a service halves the plate twice."""


def drawn_plate(
    pictures: Sequence[tuple[NDArray[np.uint8], str]],
    face: bytes | None,
    long_side_px: int = 1536,
    labels: bool = True,
    margin_px: int = 24,
) -> bytes:
    """A PNG of several pictures (h, w, 3) with labels below them; `face` is a TrueType file. Raises ValueError for none."""
    label_px = max(18, long_side_px // LABEL_PART) if labels else 0
    laid = plate([p.shape[1] / p.shape[0] for p, _ in pictures], long_side_px, margin_px, label_px)
    out = Image.new("RGB", (laid.width, laid.height), "white")
    draw = ImageDraw.Draw(out)
    font = ImageFont.truetype(io.BytesIO(face), round(label_px * 0.7)) if face and labels else ImageFont.load_default()
    for (pixels, label), cell in zip(pictures, laid.cells, strict=True):
        out.paste(Image.fromarray(pixels).resize((cell.w, cell.h), Image.Resampling.LANCZOS), (cell.x, cell.y))
        if labels:
            draw.text((cell.x, cell.y + cell.h + 2), _fitting(draw, label, font, cell.w), fill="black", font=font)
    data = io.BytesIO()
    out.save(data, "PNG")
    return data.getvalue()


def _fitting(
    draw: ImageDraw.ImageDraw, words: str, font: ImageFont.FreeTypeFont | ImageFont.ImageFont, room: int
) -> str:
    while words and draw.textlength(words, font=font) > room:
        words = words[:-2].rstrip() + "…" if len(words) > 2 else ""
    return words
