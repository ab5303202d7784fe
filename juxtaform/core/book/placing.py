"""Words laid where they are read best: on the calm part of a picture, away from faces, the fold and the edge."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace

import cv2
import numpy as np

from juxtaform.core.book.legible import Legibility, legibility, quiet_place
from juxtaform.core.book.pages import Book, Layout, Opening, PlacedPicture, PlacedWords
from juxtaform.core.book.words import MM_PER_PT
from juxtaform.core.colour.spaces import Floats
from juxtaform.core.picture.regions import Box

PX_PER_MM = 1.5
X_HEIGHT = 0.5
"""The height of a small letter, in times the size."""
AROUND_FACES = 0.15


def placed_well(
    layout: Layout, grounds: Mapping[str, Floats], faces: Mapping[str, Sequence[tuple[str, Box]]]
) -> tuple[Layout, dict[str, Legibility]]:
    """The layout with all words that lie over a picture, and that nobody placed by hand, in their best place; and how words over pictures are read, by shot.
    `grounds` are luminances (h, w) of the shots' pictures, `faces` boxes in shares of them."""
    read: dict[str, Legibility] = {}
    openings = []
    for opening in layout.openings:
        words = tuple(_one(w, opening, layout.book, grounds, faces, read) for w in opening.words)
        openings.append(replace(opening, words=words))
    return replace(layout, openings=tuple(openings)), read


def _one(
    words: PlacedWords,
    opening: Opening,
    book: Book,
    grounds: Mapping[str, Floats],
    faces: Mapping[str, Sequence[tuple[str, Box]]],
    read: dict[str, Legibility],
) -> PlacedWords:
    picture = next((p for p in opening.pictures if p.shot == words.shot), None)
    if picture is None or words.shot not in grounds or (not words.over and not words.by_hand):
        return words
    ground = _ground(grounds[words.shot], picture)
    letter_px = X_HEIGHT * words.size_pt * MM_PER_PT * PX_PER_MM
    if not words.by_hand:
        free = _free(ground, picture, book, opening, faces.get(words.shot, ()))
        size = words.box.w * PX_PER_MM, words.box.h * PX_PER_MM
        if (best := quiet_place(ground, size, letter_px, free)) is not None:
            box = Box(picture.box.x + best.x / PX_PER_MM, picture.box.y + best.y / PX_PER_MM, words.box.w, words.box.h)
            words = replace(words, box=box)
    seen = _under(ground, picture, words.box)
    if seen.size:
        read[words.shot] = legibility(seen, letter_px, words.tone)
        words = replace(words, tone=read[words.shot].tone)
    return words


def _ground(luminance: Floats, picture: PlacedPicture) -> Floats:
    """The part of a picture that is seen, in px of the page."""
    h, w = luminance.shape
    x, y, pw, ph = picture.part
    part = luminance[round(y * h) : max(1, round((y + ph) * h)), round(x * w) : max(1, round((x + pw) * w))]
    size = max(2, round(picture.box.w * PX_PER_MM)), max(2, round(picture.box.h * PX_PER_MM))
    return np.asarray(cv2.resize(part, size, interpolation=cv2.INTER_LINEAR), np.float64)


def _under(ground: Floats, picture: PlacedPicture, box: Box) -> Floats:
    """What of the ground lies under a box in mm of the opening; empty where it lies beside the picture."""
    x, y = (box.x - picture.box.x) * PX_PER_MM, (box.y - picture.box.y) * PX_PER_MM
    rows = slice(max(0, round(y)), max(0, round(y + box.h * PX_PER_MM)))
    columns = slice(max(0, round(x)), max(0, round(x + box.w * PX_PER_MM)))
    return ground[rows, columns]


def _free(
    ground: Floats, picture: PlacedPicture, book: Book, opening: Opening, faces: Sequence[tuple[str, Box]]
) -> Floats:
    """1 where words may lie on the ground of a picture, else 0."""
    free = np.zeros_like(ground)
    for page in (opening.left, opening.right):
        if page is None:
            continue
        left = book.trim_w if page.on_the_right else 0.0
        inner, outer = (book.gutter + book.safe / 2, book.safe)
        x0, x1 = (
            (left + inner, left + book.trim_w - outer)
            if page.on_the_right
            else (left + outer, left + book.trim_w - inner)
        )
        _fill(free, picture, Box(x0, book.safe, x1 - x0, book.trim_h - 2 * book.safe), 1.0)
    for _, face in faces:
        x, y, w, h = picture.part
        place = Box(
            picture.box.x + (face.x - x) / w * picture.box.w,
            picture.box.y + (face.y - y) / h * picture.box.h,
            face.w / w * picture.box.w,
            face.h / h * picture.box.h,
        )
        _fill(free, picture, place.grown(AROUND_FACES), 0.0)
    return free


def _fill(free: Floats, picture: PlacedPicture, box: Box, value: float) -> None:
    """Mark the places of a box: free ones inside of it, taken ones with their rim."""
    inner, outer = (math.ceil, math.floor) if value > 0 else (math.floor, math.ceil)
    x, y = (box.x - picture.box.x) * PX_PER_MM, (box.y - picture.box.y) * PX_PER_MM
    rows = slice(max(0, inner(y)), max(0, outer(y + box.h * PX_PER_MM)))
    free[rows, max(0, inner(x)) : max(0, outer(x + box.w * PX_PER_MM))] = value
