"""Words drawn into pictures: cards for shots without one, and captions burnt in."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from unicodedata import bidirectional, category

import numpy as np
from fpdf.bidi import BidiParagraph
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFont, features

from juxtaform.formats.fonts import covered_by, script_files, subset_files

Pixels = NDArray[np.uint8]
LETTER_LIGHT, RIM_LIGHT = 235, 30
"""White and near black in the range of video."""
PAPER, INK, LINE = (233, 233, 230), (60, 64, 68), (141, 145, 150)


MARKS = "\u200e\u200f"
"""Marks of direction: they are read and never drawn."""
SHAPED = features.check("raqm") and features.check("fribidi")
"""Whether letters are joined and turned by whoever draws them."""


def as_one(lines: Sequence[str]) -> list[str]:
    """Lines of one text: where the text runs from the right, so does every line, whatever it begins with."""
    first = next((kind for line in lines for c in line if (kind := bidirectional(c)) in ("L", "R", "AL")), "L")
    return [*lines] if first == "L" else [f"{MARKS[1]}{line}" for line in lines]


@dataclass(frozen=True)
class _Run:
    """A part of a line in one face and one direction; none where the letters are turned already."""

    font: ImageFont.FreeTypeFont
    words: str
    direction: str | None

    @property
    def width(self) -> float:
        return self.font.getlength(self.words, direction=self.direction)


class Letters:
    """A face in one size, of all scripts that it has; what no face has is drawn as an empty box."""

    def __init__(self, face: str, weight: int, size: int) -> None:
        self.size, self._weight = size, weight
        self._others: dict[Path, ImageFont.FreeTypeFont] = {}
        self._fonts = [(_weighted(data, size, weight), covered) for data, covered in _subsets(face)]

    def width(self, words: str) -> float:
        return sum(run.width for run in self._runs(words))

    def draw(
        self, pen: ImageDraw.ImageDraw, x: float, y: float, words: str, fill: tuple[int, int, int] | int, **how: object
    ) -> None:
        """Draw words from a point on their base line."""
        for run in self._runs(words):
            pen.text((x, y), run.words, fill=fill, font=run.font, direction=run.direction, anchor="ls", **how)  # type: ignore[arg-type]
            x += run.width

    def lines(self, words: str, width: float) -> list[str]:
        """Words in lines of at most a width; a word that is longer is broken. Every line runs as the whole does."""
        return as_one([*self._broken(words, width)])

    def _broken(self, words: str, width: float) -> list[str]:
        lines: list[str] = []
        line = ""
        for word in words.split():
            longer = f"{line} {word}".strip()
            if self.width(longer) <= width:
                line = longer
                continue
            if line:
                lines.append(line)
            line = word
            while self.width(line) > width and len(line) > 1:
                fit = next((n for n in range(len(line) - 1, 0, -1) if self.width(line[:n]) <= width), 1)
                lines.append(line[:fit])
                line = line[fit:]
        return [*lines, line] if line else lines

    def _runs(self, words: str) -> list[_Run]:
        """Words in parts of one face and one direction each, as they stand from the left (Unicode Standard Annex 9, Bidirectional Algorithm)."""
        parts: list[tuple[ImageFont.FreeTypeFont, bool, list[tuple[int, str]]]] = []
        for seen in BidiParagraph(words, preserve_bn_chars=True).get_reordered_characters():
            if seen.character in MARKS:
                continue
            backwards = seen.embedding_level % 2 == 1
            # Spaces and joiners stand in the face of what they follow.
            follows = parts and (seen.character == " " or category(seen.character) == "Cf")
            font = parts[-1][0] if follows else self._font(seen.character)
            if not parts or parts[-1][:2] != (font, backwards):
                parts.append((font, backwards, []))
            parts[-1][2].append((seen.character_index, seen.character))
        if not SHAPED:
            return [_Run(font, "".join(c for _, c in own), None) for font, _, own in parts]
        # What shapes the letters wants each part as it is read, brackets as they are typed.
        return [
            _Run(font, "".join(words[i] for i, _ in sorted(own)), "rtl" if backwards else "ltr")
            for font, backwards, own in parts
        ]

    def _font(self, letter: str) -> ImageFont.FreeTypeFont:
        own = next((f for f, covered in self._fonts if ord(letter) in covered), None)
        if own is not None or letter == " ":
            return own or self._fonts[0][0]
        known = next((f for path, f in self._others.items() if ord(letter) in covered_by(path)), None)
        if known is not None:
            return known
        for path in script_files(letter):
            self._others[path] = _weighted(path.read_bytes(), self.size, self._weight)
            return self._others[path]
        return self._fonts[0][0]


@lru_cache(maxsize=8)
def _subsets(face: str) -> tuple[tuple[bytes, frozenset[int]], ...]:
    """A face's subsets as they ship, with the letters that each has."""
    return tuple((path.read_bytes(), covered_by(path)) for path in subset_files(face))


def _weighted(data: bytes, size: int, weight: int) -> ImageFont.FreeTypeFont:
    font = ImageFont.truetype(io.BytesIO(data), size)
    values: list[float] = []
    for axis in font.get_variation_axes():
        values.append(weight if axis["name"] in (b"Weight", "Weight") else axis["default"] or 0)
    font.set_variation_by_axes(values)
    return font


@lru_cache(maxsize=16)
def letters(face: str, weight: int, size: int) -> Letters:
    return Letters(face, weight, size)


def card(number: int, words: str, width: int, height: int) -> Pixels:
    """A sheet of paper for a shot without a picture, with its number and what it is to show, as pixels (h, w, 3)."""
    picture = Image.new("RGB", (width, height), PAPER)
    pen = ImageDraw.Draw(picture)
    rim = round(min(width, height) * 0.04)
    pen.rectangle((rim, rim, width - rim - 1, height - rim - 1), outline=LINE, width=max(1, height // 400))
    size = max(10, round(height / 18))
    book, bold = letters("book", 400, size), letters("book", 600, size)
    lines = book.lines(words or "This shot says nothing yet.", width - 6 * rim)[:5]
    top = height / 2 - (len(lines) - 1) * size * 0.675
    told = str(number)
    bold.draw(pen, (width - bold.width(told)) / 2, top - size * 1.8, told, INK)
    for i, line in enumerate(lines):
        book.draw(pen, (width - book.width(line)) / 2, top + i * size * 1.35, line, INK)
    return np.asarray(picture)


@dataclass(frozen=True)
class Overlay:
    """Words to be laid into frames of one size, in planes of light and colour: from which place on, and for the light (h, w) and the colours (h / 2, w / 2)
    what they add and how much of the frame is kept under them, in parts of 256. All numbers are even."""

    top: int
    left: int
    light: tuple[NDArray[np.uint16], NDArray[np.uint16]]
    colour: tuple[NDArray[np.uint16], NDArray[np.uint16]]

    def lay_over(self, planes: tuple[Pixels, Pixels, Pixels]) -> None:
        """Lay the words into a frame's planes."""
        for k, plane in enumerate(planes):
            add, keep = self.colour if k else self.light
            d = 2 if k else 1
            h, w = add.shape
            under = plane[self.top // d : self.top // d + h, self.left // d : self.left // d + w]
            mixed = under.astype(np.uint16)
            mixed *= keep
            mixed += add
            mixed >>= 8
            under[:] = mixed


@lru_cache(maxsize=8)
def caption_overlay(lines: tuple[str, ...], width: int, height: int) -> Overlay:
    """Lines at the foot of frames of an even size: white with a dark rim, so that they are read on any ground."""
    size = max(12, round(height / 20))
    face = letters("sans", 500, size)
    while max(face.width(line) for line in lines) > 0.92 * width and size > 10:
        size = round(size * 0.9)
        face = letters("sans", 500, size)
    top = max(0, round(height - size * (1.1 + 1.3 * len(lines))) // 2 * 2)
    rim = max(2, size // 10)
    cover = Image.new("L", (width, height - top))  # how much is covered, rim and all
    white = Image.new("L", cover.size)  # how much of it is letter
    for i, line in enumerate(reversed(as_one(lines))):
        x, y = (width - face.width(line)) / 2, height - top - size * (1.1 + 1.3 * i)
        face.draw(ImageDraw.Draw(cover), x, y, line, 255, stroke_width=rim, stroke_fill=255)
        face.draw(ImageDraw.Draw(white), x, y, line, 255)
    left, up, right, down = cover.getbbox() or (0, 0, 2, 2)
    left, up = left // 2 * 2, (top + up) // 2 * 2 - top
    right, down = min(width, right + right % 2), down + (down - up) % 2
    strength, letter = (_parts(layer.crop((left, up, right, down))) for layer in (cover, white))
    tone = RIM_LIGHT + (LETTER_LIGHT - RIM_LIGHT) * letter / 256
    light = np.rint(tone * strength).astype(np.uint16), np.asarray(256 - strength, np.uint16)
    half = np.rint(strength.reshape(strength.shape[0] // 2, 2, -1, 2).mean(axis=(1, 3))).astype(np.uint16)
    return Overlay(top + up, left, light, (np.asarray(128 * half, np.uint16), np.asarray(256 - half, np.uint16)))


def _parts(layer: Image.Image) -> NDArray[np.int32]:
    """A layer 0..255 in parts of 256."""
    return (np.asarray(layer, dtype=np.int32) * 257 + 128) // 256
