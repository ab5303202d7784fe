"""The story's text: in and out, and kept while the plan follows it."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from sqlalchemy import select

from juxtaform.core.text.anchoring import Span, anchored
from juxtaform.core.text.candidates import Candidate, story_of
from juxtaform.core.text.coverage import Gap, coverage
from juxtaform.core.text.manuscript import PICTURED, Trouble
from juxtaform.core.text.moments import SURE
from juxtaform.core.text.names import Named
from juxtaform.core.text.timing import word_count
from juxtaform.formats import texts
from juxtaform.limits import MOST_TEXT
from juxtaform.records.entries import difference
from juxtaform.records.models import Project, Shot, Thread
from juxtaform.studio import plan
from juxtaform.studio.storytext import (
    TextShape,
    cover_nothing,
    rewritten,
    shape_of,
    text_of,
    words_between,
)
from juxtaform.studio.workspace import Changed, Conflict, NotPossible, Row, Workspace, Writing, found, of_project

TYPED = "edited the text"
TYPING_S = 45.0
"""Edits of the text that follow each other within this time are one change in the history."""


@dataclass(frozen=True)
class Reading:
    """What the text is made of: passages (kind, start, end, speaker), words in no shot or in two, who and what it names
    that is no thread yet, what is broken in it, and its count of words."""

    text_revision: int
    syntax: str
    words: int
    passages: tuple[tuple[str, int, int, str], ...]
    gaps: tuple[Gap, ...]
    found: tuple[Candidate, ...]
    troubles: tuple[Trouble, ...]
    language: str
    """The language in which the text is read; empty for one of which only names are read."""
    speech: str
    """The marks that the text has around speech."""
    sure_from: float
    """The confidence from which a proposal is accepted together with all others."""
    panels: int
    """How many panels a comic script numbers; 0 in any other text."""
    pages: int
    """How many pages or spreads the manuscript of a picture book numbers; 0 in any other text."""
    parts: int
    """How many numbered parts that are no pages a text has: counted beats, the lines of a shot list."""


@dataclass(frozen=True)
class TextFile:
    """A text on its way out: its bytes as they came in, and a name."""

    name: str
    data: bytes
    media_type: str


def reading(ws: Workspace, project_id: str) -> Reading:
    """Read the text as it stands. Raises NotThere."""
    with ws.database.session() as s:
        project = found(s, Project, project_id)
        shots = of_project(s, Shot, project_id)
        named = named_of(of_project(s, Thread, project_id))
        text, syntax, revision = text_of(s, project_id), project.syntax, project.text_revision
        manuscript = plan.manuscript_of(project, text)
        spans = [(x.id, *stretch) for x in shots if (stretch := text.stretch(x))]
    story = story_of(manuscript, tuple(named)) if text.words.strip() else None
    return Reading(
        revision,
        syntax,
        sum(word_count(p.words) for p in manuscript.passages if p.kind in PICTURED),
        tuple((p.kind, p.start, p.end, p.name) for p in manuscript.passages),
        tuple(coverage(manuscript, spans)),
        tuple(story.candidates()) if story else (),
        manuscript.troubles,
        story.language.name if story else "",
        manuscript.habit.words,
        SURE,
        0 if manuscript.by_pages else len(manuscript.panels),
        len(manuscript.panels) if manuscript.by_pages and not manuscript.in_parts else 0,
        len(manuscript.panels) if manuscript.in_parts else 0,
    )


def take_in(ws: Workspace, project_id: str, name: str, data: bytes) -> Changed:
    """A text file becomes the story's text; the plan is anchored to it anew. Raises NotPossible for what is no text."""
    try:
        text, source = texts.decoded(data)
    except texts.NotText as error:
        raise NotPossible(str(error)) from error
    if not text.strip():
        raise NotPossible("The file holds no text. Choose another, or paste the story.")
    return _keep(
        ws, project_id, text, None, "took in a text", {"syntax": texts.syntax_of(text, name), "source": source.as_row()}
    )


def keep(ws: Workspace, project_id: str, text: str, seen: int | None = None) -> Changed:
    """Keep the text as it is typed; every shot's span follows its words. `seen` is the text's revision that the editor
    saw: Conflict when somebody else wrote meanwhile."""
    return _keep(ws, project_id, text, seen, TYPED, {})


def type_in(ws: Workspace, project_id: str, at: int, gone: int, put: str, seen: int) -> Changed:
    """Let `gone` characters from `at` on give way to `put`, as it is typed; every shot follows its words. `seen` is the text's revision
    that the place is of: Conflict when somebody else wrote meanwhile."""
    put = _as_text(put)
    with ws.writing(project_id, TYPED, TYPING_S) as w:
        project = found(w.session, Project, project_id)
        if seen != project.text_revision:
            theirs = {"text": text_of(w.session, project_id).words, "text_revision": project.text_revision}
            raise Conflict("project", {"text": put}, theirs)
        old = shape_of(w.session, project_id)
        if at + gone > old.places.length:
            raise NotPossible(f"The text has {old.places.length:,} characters: there is no such place in it.")
        length = old.places.length - gone + len(put)
        if length > MOST_TEXT:
            raise NotPossible(_too_long(length))
        if not old.places.length:
            project.syntax = texts.syntax_of(put)
        if gone or put:
            _write(w, project, old, at, gone, put)
    return w.changed


def give_out(ws: Workspace, project_id: str) -> TextFile:
    """The text as it came in, with its encoding and line ends."""
    with ws.database.session() as s:
        project = found(s, Project, project_id)
        data = texts.encoded(text_of(s, project_id).words, texts.Source.from_row(project.source))
        ending = ".fountain" if project.syntax == "fountain" else ".txt"
        return TextFile(f"{project.title}{ending}", data, "text/plain")


def set_syntax(ws: Workspace, project_id: str, syntax: str) -> Changed:
    """Say how the text is to be read: prose (with Markdown), or Fountain."""
    with ws.writing(project_id, f"read the text as {syntax}") as w:
        found(w.session, Project, project_id).syntax = syntax
    return w.changed


def anchor_again(
    ws: Workspace, project_id: str, shot_id: str, start: int, end: int, seen: int | None = None
) -> Changed:
    """Say which words a shot covers; `seen` is the text's revision that they are of. Raises NotPossible for an empty or impossible
    stretch, or one of an older text."""
    with ws.writing(project_id, "covered other words") as w:
        project = found(w.session, Project, project_id)
        plan.as_seen(project, seen)
        text = text_of(w.session, project_id)
        shot = found(w.session, Shot, shot_id, project_id)
        words = text.words[max(0, start) : end]
        if not words.strip():
            raise NotPossible("A shot covers at least one word. Delete the shot if it covers none.")
        lead = len(words) - len(words.lstrip())
        text.cover(shot, max(0, start) + lead, max(0, start) + len(words.rstrip()))
        shot.lost = ""
        w.name(f"{plan.called(w.session, shot)} covers other words")
    return w.changed


def _keep(ws: Workspace, project_id: str, words: str, seen: int | None, label: str, values: Row) -> Changed:
    words = _as_text(words)
    if len(words) > MOST_TEXT:
        raise NotPossible(_too_long(len(words)))
    with ws.writing(project_id, label, TYPING_S if label == TYPED else 0.0) as w:
        project = found(w.session, Project, project_id)
        old = text_of(w.session, project_id)
        if seen is not None and seen != project.text_revision and words != old.words:
            raise Conflict("project", {"text": words}, {"text": old.words, "text_revision": project.text_revision})
        if words != old.words:
            if not old.words.strip() and "syntax" not in values:
                values = {**values, "syntax": texts.syntax_of(words)}
            at, gone, put = difference(old.words, words)
            _write(w, project, old, at, len(gone), put)
        for key, value in values.items():
            setattr(project, key, value)
    return w.changed


def _as_text(words: str) -> str:
    """Words as a text keeps them. Raises NotPossible for what is none."""
    if "\0" in words:
        raise NotPossible("This is not text: it holds binary data. Save the story as plain text and try again.")
    return texts.without_carriage_returns(words)


def _too_long(length: int) -> str:
    return f"The text has {length:,} characters; the most is {MOST_TEXT:,}. Split it into parts."


def _write(w: Writing, project: Project, old: TextShape, at: int, gone: int, put: str) -> None:
    """Write a text where it changed, and let every shot follow its words. Only the shots that begin or end in the parts that changed
    are looked at, unless words of theirs are gone and may stand elsewhere."""
    first, last = old.places.touched(at, gone)
    ids = old.ids[first:last]
    near = (Shot.project_id == project.id) & (Shot.start_part_id.in_(ids) | Shot.end_part_id.in_(ids))
    shots = {x.id: x for x in w.session.scalars(select(Shot).where(near))} if ids else {}
    spans = _spans(old, shots.values())
    parts = old.reached(first, last)
    low, high = min([parts.start, *(x.start for x in spans)]), max([parts.end, *(x.end for x in spans)])
    was = words_between(w.session, old, low, high)
    now = was[: at - low] + put + was[at - low + gone :]
    new = rewritten(w, project.id, old, at, gone, put)
    kept, lost = anchored(was, now, [Span(x.id, x.start - low, x.end - low) for x in spans])
    if lost:
        shots = {x.id: x for x in of_project(w.session, Shot, project.id)}
        now = words_between(w.session, new, 0, new.places.length)
        was = now[:at] + was[at - low : at - low + gone] + now[at + len(put) :]
        low = 0
        kept, lost = anchored(was, now, _spans(old, shots.values()))
    for a in kept:
        new.cover(shots[a.id], low + a.start, low + a.end)
    for gap in lost:
        cover_nothing(shots[gap.id])
        shots[gap.id].lost = gap.words[:4000]
    _come_back(w, project.id, new)
    homeless = [shots[gap.id] for gap in lost if shots[gap.id].start_part_id is None]
    plan.erase(w, [x for x in homeless if x.status == "proposed"])
    project.text_revision += 1


def _come_back(w: Writing, project_id: str, text: TextShape) -> None:
    """Let shots whose words were gone cover them where they stand again."""
    homeless = (Shot.project_id == project_id) & (Shot.lost != "") & Shot.start_part_id.is_(None)
    shots = w.session.scalars(select(Shot).where(homeless)).all()
    words = words_between(w.session, text, 0, text.places.length) if shots else ""
    for shot in shots:
        if (at := words.find(shot.lost)) >= 0:
            text.cover(shot, at, at + len(shot.lost))
            shot.lost = ""


def _spans(text: TextShape, shots: Iterable[Shot]) -> list[Span]:
    spans = [Span(x.id, *stretch) for x in shots if (stretch := text.stretch(x))]
    return sorted(spans, key=lambda s: s.start)


def named_of(threads: Sequence[Thread]) -> list[Named]:
    """Threads as the text names them; a style is named by none."""
    return [
        Named(t.id, t.name, tuple(t.aliases), t.kind)  # type: ignore[arg-type]
        for t in threads
        if t.kind != "style"
    ]
