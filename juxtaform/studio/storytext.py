"""A project's text in its parts, and which words of it each shot covers."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from functools import cached_property
from typing import NamedTuple

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from juxtaform.core.text.parts import Parts, parted, remade
from juxtaform.core.text.voices import Voicing, as_said
from juxtaform.records.models import Shot, TextPart, new_id
from juxtaform.studio.places import LEAST_ROOM, spaced
from juxtaform.studio.workspace import Writing, of_project


class Stretch(NamedTuple):
    """Characters `start` up to `end` of a text."""

    start: int
    end: int


class TextShape:
    """The parts of a text by their ids and lengths: enough to tell places in it."""

    def __init__(self, ids: Sequence[str], lengths: Sequence[int]) -> None:
        self.ids, self.lengths = list(ids), list(lengths)
        self.places = Parts(self.lengths)
        self._at = {part: i for i, part in enumerate(self.ids)}

    def stretch(self, shot: Shot) -> Stretch | None:
        """The characters that a shot covers; None when it covers none."""
        first, last = self._at.get(shot.start_part_id or ""), self._at.get(shot.end_part_id or "")
        if first is None or last is None or shot.start_at is None or shot.end_at is None:
            return None
        return Stretch(self.places.offset(first, shot.start_at), self.places.offset(last, shot.end_at))

    def cover(self, shot: Shot, start: int, end: int) -> None:
        """Let a shot cover some characters. Raises ValueError for places outside of the text."""
        first, last = self.places.start(start), self.places.end(end)
        shot.start_part_id, shot.start_at = self.ids[first.part], first.at
        shot.end_part_id, shot.end_at = self.ids[last.part], last.at

    def reached(self, first: int, last: int) -> Stretch:
        """The characters of some parts, the last one left out."""
        begin = self.places.offset(first, 0) if first < len(self.ids) else self.places.length
        return Stretch(begin, begin + sum(self.lengths[first:last]))


class StoryText(TextShape):
    """A text as its parts stand."""

    def __init__(self, parts: Iterable[TextPart]) -> None:
        self._parts = sorted(parts, key=lambda p: (p.position, p.id))
        super().__init__([p.id for p in self._parts], [len(p.words) for p in self._parts])

    @cached_property
    def words(self) -> str:
        """The whole text."""
        return "".join(p.words for p in self._parts)

    def covered(self, shot: Shot) -> str:
        """The words that a shot covers."""
        stretch = self.stretch(shot)
        return self.words[stretch.start : stretch.end] if stretch else ""


def text_of(session: Session, project_id: str) -> StoryText:
    """A project's text."""
    return StoryText(of_project(session, TextPart, project_id))


def shape_of(session: Session, project_id: str) -> TextShape:
    """The parts of a project's text, whose words are not read."""
    query = select(TextPart.id, func.char_length(TextPart.words)).where(TextPart.project_id == project_id)
    rows = session.execute(query.order_by(TextPart.position, TextPart.id)).all()
    return TextShape([r[0] for r in rows], [r[1] for r in rows])


def words_between(session: Session, shape: TextShape, start: int, end: int) -> str:
    """Some characters of a text; no part is read but those that hold them."""
    if start >= end:
        return ""
    first, last = shape.places.start(start).part, shape.places.end(end).part
    ids = shape.ids[first : last + 1]
    query = select(TextPart.id, TextPart.words).where(TextPart.id.in_(ids))
    words_of = {r.id: r.words for r in session.execute(query)}
    begin = shape.places.offset(first, 0)
    return "".join(words_of[i] for i in ids)[start - begin : end - begin]


def rewritten(w: Writing, project_id: str, shape: TextShape, at: int, gone: int, put: str) -> TextShape:
    """Let `gone` characters of a text from `at` on give way to `put`; returns the text as it is then. Shots are not made to follow.
    Raises ValueError for a place outside of the text."""
    first, last = shape.places.touched(at, gone)
    ids = shape.ids[first:last]
    rows = {p.id: p for p in w.session.scalars(select(TextPart).where(TextPart.id.in_(ids)))} if ids else {}
    old = [rows[i] for i in ids]
    now = remade("".join(p.words for p in old), at - shape.reached(first, last).start, gone, put)
    for part, words in zip(old, now, strict=False):
        part.words = words
    fresh = [TextPart(id=new_id(), project_id=project_id, words=words) for words in now[len(old) :]]
    if fresh:
        _place(w.session, project_id, shape, first + len(old), fresh)
        w.session.add_all(fresh)
    for part in old[len(now) :]:
        w.session.delete(part)
    kept = [*(p.id for p in old[: len(now)]), *(p.id for p in fresh)]
    return TextShape(
        [*shape.ids[:first], *kept, *shape.ids[last:]],
        [*shape.lengths[:first], *map(len, now), *shape.lengths[last:]],
    )


def cover_nothing(shot: Shot) -> None:
    """Let a shot cover no words."""
    shot.start_part_id = shot.start_at = shot.end_part_id = shot.end_at = None


def first_parts(project_id: str, words: str) -> list[TextPart]:
    """The rows of a text that is written for the first time."""
    return [
        TextPart(id=new_id(), project_id=project_id, position=float(i), words=part)
        for i, part in enumerate(parted(words))
    ]


def _place(session: Session, project_id: str, shape: TextShape, at: int, fresh: Sequence[TextPart]) -> None:
    """Give new parts their places before the part of that index."""
    beside = shape.ids[max(0, at - 1) : at + 1]
    query = select(TextPart.id, TextPart.position).where(TextPart.id.in_(beside))
    position_of = {r.id: r.position for r in session.execute(query)}
    before = position_of[shape.ids[at - 1]] if at else None
    after = position_of[shape.ids[at]] if at < len(shape.ids) else None
    low = before if before is not None else -1.0 if after is None else after - len(fresh) - 1
    step = (after - low) / (len(fresh) + 1) if after is not None else 1.0
    for i, part in enumerate(fresh):
        part.position = low + step * (i + 1)
    if step < LEAST_ROOM:
        parts = of_project(session, TextPart, project_id)
        spaced([*parts[:at], *fresh, *parts[at:]], 0, 0)


def words_of(shot: Shot, text: StoryText, voicing: Voicing) -> str:
    """The words that go with a shot's picture: those that it covers, and what is spoken besides."""
    stretch = text.stretch(shot)
    covered = voicing.beside(*stretch) if stretch else ""
    spoken = " ".join(shot.spoken.split())
    said = voicing.of(*stretch).spoken if stretch else ""
    return covered if any(as_said(spoken) in as_said(x) for x in (said, covered)) else f"{covered} {spoken}".strip()
