"""A thread's model sheet as one landscape page: where its words, pictures and colours stand, in millimetres."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

WIDTH_MM, HEIGHT_MM, MARGIN_MM = 297.0, 210.0, 14.0
COLUMN_MM, GAP_MM = 82.0, 6.0
LABEL_MM = 5.0
TURNED_SHARE = 0.66
"""Where details stand below them, the whole figures take this part of the height."""
TITLE_PT, HEAD_PT, TEXT_PT, NOTE_PT = 24.0, 9.0, 10.5, 8.0
LEAD = 1.32
PT_MM = 25.4 / 72

Width = Callable[[str, float, bool], float]
"""The width in mm of words in a size (pt), bold or not."""


@dataclass(frozen=True)
class Words:
    """A line of words: the left end of its base line, its size in pt, and whether it is bold or soft."""

    x: float
    y: float
    text: str
    size: float
    bold: bool = False
    soft: bool = False


Part = tuple[float, float, float, float]
"""A part of a picture: left, top, right, bottom as parts of its width and height."""
WHOLE: Part = (0.0, 0.0, 1.0, 1.0)


@dataclass(frozen=True)
class Shown:
    """A picture, named by its key, in its place; of it only a part."""

    x: float
    y: float
    w: float
    h: float
    key: str
    part: Part = WHOLE


@dataclass(frozen=True)
class Rule:
    """A thin line across."""

    x: float
    y: float
    w: float


@dataclass(frozen=True)
class Patch:
    """A patch of one colour."""

    x: float
    y: float
    w: float
    h: float
    hex: str


Item = Words | Shown | Patch | Rule


@dataclass(frozen=True)
class SheetPicture:
    """A view: a key, its label, its form (width over height), and whether it is the anchor; `figure` is where the whole figure stands on it,
    None for a detail or a place. `levels` are heights of the figure with their names, from its top (0) to the ground (1)."""

    key: str
    label: str
    form: float
    anchor: bool = False
    figure: Part | None = None
    levels: tuple[tuple[str, float], ...] = ()

    @property
    def figure_form(self) -> float:
        """The form of the figure alone."""
        left, top, right, bottom = self.figure or WHOLE
        return self.form * (right - left) / max(1e-6, bottom - top)


@dataclass(frozen=True)
class SheetFacts:
    """What a model sheet shows: a title, a line below it, sections of text as (heading, words), colours as (name, hex),
    pictures, and the line at the foot."""

    title: str
    kind: str
    sections: tuple[tuple[str, str], ...]
    colours: tuple[tuple[str, str], ...]
    pictures: tuple[SheetPicture, ...]
    foot: str = ""


def model_sheet(facts: SheetFacts, width_of: Width) -> list[Item]:
    """The items of the page. What does not fit the text column is cut with an ellipsis; pictures always fit.

    >>> page = model_sheet(SheetFacts("Pell", "character", (("Wording", "Nine."),), (), ()), lambda t, s, b: 0.2 * s * len(t))
    >>> [i.text for i in page if isinstance(i, Words)]
    ['Pell', 'character', 'Wording', 'Nine.']
    """
    items: list[Item] = [
        Words(MARGIN_MM, MARGIN_MM + 8, facts.title, TITLE_PT, bold=True),
        Words(MARGIN_MM, MARGIN_MM + 14, facts.kind, NOTE_PT, soft=True),
    ]
    items += _column(facts, width_of)
    items += _pictures(facts.pictures, width_of)
    if facts.foot:
        items.append(Words(MARGIN_MM, HEIGHT_MM - MARGIN_MM + 4, facts.foot, NOTE_PT, soft=True))
    return items


def wrapped(words: str, size: float, room: float, width_of: Width, bold: bool = False) -> list[str]:
    """Words broken into lines that fit a width in mm."""
    lines, line = [], ""
    for word in words.split():
        longer = f"{line} {word}".strip()
        if line and width_of(longer, size, bold) > room:
            lines.append(line)
            line = word
        else:
            line = longer
    return [*lines, line] if line else lines


def _column(facts: SheetFacts, width_of: Width) -> list[Item]:
    y, floor = MARGIN_MM + 24.0, HEIGHT_MM - MARGIN_MM - 6
    out: list[Item] = []
    swatch_rows = (len(facts.colours) + 1) // 2
    text_floor = floor - (swatch_rows * 9.0 + 6.0 if facts.colours else 0.0)
    for heading, words in facts.sections:
        if not words or y + 10 > text_floor:
            continue
        out.append(Words(MARGIN_MM, y, heading, HEAD_PT, bold=True, soft=True))
        y += HEAD_PT * PT_MM * LEAD + 1
        lines = wrapped(words, TEXT_PT, COLUMN_MM, width_of)
        step = TEXT_PT * PT_MM * LEAD
        room = max(1, int((text_floor - y) / step))
        for i, line in enumerate(lines[:room]):
            cut = i == room - 1 and len(lines) > room
            out.append(Words(MARGIN_MM, y, f"{line[:-1]} …" if cut else line, TEXT_PT))
            y += step
        y += 3
    if facts.colours:
        y += 2
        half = COLUMN_MM / 2
        for i, (name, code) in enumerate(facts.colours):
            x, top = MARGIN_MM + (i % 2) * half, y + (i // 2) * 9.0
            if top + 8 > floor:
                break
            out.append(Patch(x, top, 8, 6.5, code))
            label = wrapped(name, NOTE_PT, half - 11, width_of)[:1]
            out.append(Words(x + 10, top + 2.8, label[0] if label else "", NOTE_PT))
            out.append(Words(x + 10, top + 6.2, code, NOTE_PT, soft=True))
    return out


def _pictures(pictures: Sequence[SheetPicture], width_of: Width) -> list[Item]:
    if not pictures:
        return []
    left, top = MARGIN_MM + COLUMN_MM + 2 * GAP_MM, MARGIN_MM
    wide, high = WIDTH_MM - MARGIN_MM - left, HEIGHT_MM - 2 * MARGIN_MM - 2
    ordered = sorted(pictures, key=lambda p: not p.anchor)
    turned = [p for p in ordered if p.figure is not None]
    if len(turned) > 1:
        rest = [p for p in ordered if p.figure is None]
        share = TURNED_SHARE if rest else 1.0
        out = _turnaround(turned, left, top, wide, high * share, width_of)
        below = top + high * share + GAP_MM
        return out + (_rows(rest, left, below, wide, top + high - below, width_of) if rest else [])
    out = []
    if ordered[0].anchor and len(ordered) > 1 and ordered[0].form < 1.2:
        share = min(0.45 * wide, (high - 6) * ordered[0].form)
        out += _rows(ordered[:1], left, top, share, high, width_of)
        left, wide, ordered = left + share + GAP_MM, wide - share - GAP_MM, ordered[1:]
    return out + _rows(ordered, left, top, wide, high, width_of)


def _turnaround(
    views: Sequence[SheetPicture], left: float, top: float, wide: float, high: float, width_of: Width
) -> list[Item]:
    """Views of a figure in one scale, on one ground: as many rows as show them largest, with common lines across each."""
    best, rows = 0.0, [list(views)]
    for n in range(1, len(views) + 1):
        size = -(-len(views) // n)
        split = [list(views[i : i + size]) for i in range(0, len(views), size)]
        room = (high - GAP_MM * (len(split) - 1)) / len(split) - LABEL_MM
        fits = [(wide - GAP_MM * (len(row) - 1)) / sum(p.figure_form for p in row) for row in split]
        if (tall := min(room, *fits)) > best:
            best, rows = tall, split
    out: list[Item] = []
    names = next((p.levels for p in views if p.levels), ())
    y = top
    for row in rows:
        taken = sum(p.figure_form * best for p in row) + GAP_MM * (len(row) - 1)
        x = left + max(0.0, wide - taken) / 2
        for p in row:
            w = p.figure_form * best
            line = next(iter(wrapped(p.label, NOTE_PT, w + GAP_MM, width_of)), "")
            at = max(left, x + (w - width_of(line, NOTE_PT, False)) / 2)
            out.append(Shown(x, y, w, best, p.key, p.figure or WHOLE))
            out.append(Words(at, y + best + 3.6, line, NOTE_PT, soft=True))
            x += w + GAP_MM
        for name, level in (("", 0.0), *names, ("", 1.0)):
            out.append(Rule(left, y + level * best, wide))
            if name:
                out.append(Words(left, y + level * best - 0.8, name, NOTE_PT - 1, soft=True))
        y += best + LABEL_MM + GAP_MM
    return out


def _rows(
    pictures: Sequence[SheetPicture], left: float, top: float, wide: float, high: float, width_of: Width
) -> list[Item]:
    """Pictures in the number of columns that shows them largest."""
    label = LABEL_MM
    best, columns = 0.0, 1
    for n in range(1, len(pictures) + 1):
        rows = -(-len(pictures) // n)
        cell_w, cell_h = (wide - GAP_MM * (n - 1)) / n, (high - GAP_MM * (rows - 1)) / rows - label
        area = sum(min(cell_w, cell_h * p.form) * min(cell_h, cell_w / p.form) for p in pictures)
        if cell_h > 0 and area > best:
            best, columns = area, n
    rows = -(-len(pictures) // columns)
    cell_w, cell_h = (wide - GAP_MM * (columns - 1)) / columns, (high - GAP_MM * (rows - 1)) / rows - label
    out: list[Item] = []
    for i, p in enumerate(pictures):
        x, y = left + (i % columns) * (cell_w + GAP_MM), top + (i // columns) * (cell_h + label + GAP_MM)
        w, h = min(cell_w, cell_h * p.form), min(cell_h, cell_w / p.form)
        shown = Shown(x + (cell_w - w) / 2, y + (cell_h - h) / 2, w, h, p.key)
        line = next(iter(wrapped(p.label, NOTE_PT, cell_w, width_of)), "")
        centred = x + max(0.0, cell_w - width_of(line, NOTE_PT, False)) / 2
        out += [shown, Words(centred, shown.y + h + 3.6, line, NOTE_PT, soft=True)]
    return out
