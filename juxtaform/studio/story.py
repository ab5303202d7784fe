"""The story's text: in and out, kept while the plan follows it, and broken down into proposals."""

from __future__ import annotations

from bisect import bisect_left
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from sqlalchemy import select

from juxtaform.core.text.anchoring import Span, anchored
from juxtaform.core.text.breakdown import ProposedScene, ProposedShot, breakdown
from juxtaform.core.text.candidates import Candidate, discovered
from juxtaform.core.text.coverage import Gap, coverage
from juxtaform.core.text.manuscript import PICTURED, Manuscript, Trouble
from juxtaform.core.text.names import NEW, Named, ThreadKind
from juxtaform.core.text.timing import word_count
from juxtaform.formats import texts
from juxtaform.limits import MOST_TEXT
from juxtaform.records.entries import difference
from juxtaform.records.models import Bead, Project, Scene, Shot, Thread, new_id
from juxtaform.studio import plan
from juxtaform.studio.places import placed
from juxtaform.studio.storytext import (
    StoryText,
    Stretch,
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
OVERLAP = 0.5
"""A proposal of which more than this part is covered by settled shots is not made again."""


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
        named = _named(of_project(s, Thread, project_id))
        text, syntax, revision = text_of(s, project_id), project.syntax, project.text_revision
        manuscript = plan.manuscript_of(project, text)
        spans = [(x.id, *stretch) for x in shots if (stretch := text.stretch(x))]
    return Reading(
        revision,
        syntax,
        sum(word_count(p.words) for p in manuscript.passages if p.kind in PICTURED),
        tuple((p.kind, p.start, p.end, p.name) for p in manuscript.passages),
        tuple(coverage(manuscript, spans)),
        tuple(discovered(manuscript, named)) if text.words.strip() else (),
        manuscript.troubles,
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


def propose(
    ws: Workspace, project_id: str, start: int | None = None, end: int | None = None, seen: int | None = None
) -> Changed:
    """Propose scenes and shots for the words that no settled shot covers, in all of the text or in a stretch of it.

    Earlier proposals there are made anew; settled shots are left alone. `seen` is the text's revision that the stretch is of.
    """
    with ws.writing(project_id, "proposed shots") as w:
        project = found(w.session, Project, project_id)
        text = text_of(w.session, project_id)
        if not text.words.strip():
            raise NotPossible("There is no text yet. Paste or type the story first.")
        plan.as_seen(project, seen)
        low, high = start or 0, len(text.words) if end is None else end
        threads = of_project(w.session, Thread, project_id)
        manuscript = plan.manuscript_of(project, text)
        proposed = breakdown(manuscript, _named(threads), plan.pace_of(project))
        emptied = _withdraw(w, project_id, text, low, high)
        count = _Proposer(w, project_id, threads, text, proposed).put(low, high)
        plan.erase_empty_scenes(w, emptied)
        if not count:
            w.name("looked for shots to propose")
        else:
            w.name(f"proposed {count} {'shot' if count == 1 else 'shots'}")
    return w.changed


def accept(ws: Workspace, project_id: str, shot_ids: Sequence[str] | None = None) -> Changed:
    """Settle proposed shots: some, or all of them."""
    with ws.writing(project_id, "accepted shots") as w:
        open_ = [x for x in of_project(w.session, Shot, project_id) if x.status == "proposed"]
        chosen = open_ if shot_ids is None else [x for x in open_ if x.id in set(shot_ids)]
        for shot in chosen:
            shot.status = "settled"
        w.name(f"accepted {plan.called(w.session, chosen[0]) if len(chosen) == 1 else f'{len(chosen)} shots'}")
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


def make_threads(ws: Workspace, project_id: str, wanted: Sequence[tuple[ThreadKind, str]]) -> Changed:
    """Make threads of what the text names, as (kind, name), and let them run through the shots that name them."""
    with ws.writing(project_id, "made threads from the text") as w:
        project = found(w.session, Project, project_id)
        text = text_of(w.session, project_id)
        manuscript = plan.manuscript_of(project, text)
        threads = of_project(w.session, Thread, project_id)
        offered = {(c.kind, c.name): c for c in discovered(manuscript, _named(threads))}
        position = max((t.position for t in threads), default=-1.0)
        made = []
        for kind, name in wanted:
            candidate = offered.get((kind, name))
            if candidate is None:
                continue
            position += 1
            title = name[:1].upper() + name[1:]
            aliases = list(dict.fromkeys(a for a in (name, *candidate.aliases) if a not in (title, title.upper())))
            made.append(Thread(project_id=project_id, kind=kind, name=title, aliases=aliases, position=position))
        if not made:
            raise NotPossible("The text does not name them any more. Read it again.")
        w.add(*made)
        w.name(f"made {made[0].name if len(made) == 1 else f'{len(made)} threads'} from the text")
        _run_through(w, project_id, text, manuscript, [*threads, *made], {t.id for t in made})
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


def _withdraw(w: Writing, project_id: str, text: StoryText, low: int, high: int) -> set[str]:
    """Take back the proposals in a stretch; returns the scenes that they stood in, which stay for new ones."""
    old = [
        x
        for x in of_project(w.session, Shot, project_id)
        if x.status == "proposed" and (covered := text.stretch(x)) and covered.end > low and covered.start < high
    ]
    plan.erase(w, old, keep_scenes=True)
    return {x.scene_id for x in old}


class _Proposer:
    """Puts proposed scenes and shots among those that are there."""

    def __init__(
        self, w: Writing, project_id: str, threads: list[Thread], text: StoryText, proposed: list[ProposedScene]
    ) -> None:
        self.w, self.project_id, self.text, self.proposed = w, project_id, text, proposed
        self.known = {t.id: t for t in threads}
        self.style = [t.id for t in threads if t.kind == "style"][:1]
        self.shots = of_project(w.session, Shot, project_id)
        self.scenes = of_project(w.session, Scene, project_id)
        self.covers = {x.id: stretch for x in self.shots if (stretch := text.stretch(x))}
        self.covered = sorted(self.covers.values())
        self.longest = max((b - a for a, b in self.covered), default=0)
        self.own: defaultdict[str, list[Shot]] = defaultdict(list)
        for x in sorted(self.shots, key=lambda x: x.position):
            self.own[x.scene_id].append(x)
        self.beads: list[Bead] = []

    def put(self, low: int, high: int) -> int:
        made: list[Shot] = []
        for scene in self.proposed:
            held_place: tuple[str, ...] = ()
            fresh = []
            for shot in scene.shots:
                held_place = shot.places or held_place
                if shot.end > low and shot.start < high and self._free(shot) > OVERLAP:
                    fresh.append((shot, held_place))
            if fresh:
                row = self._scene(scene)
                made += [self._shot(row, shot, places) for shot, places in fresh]
        self.w.add(*made)
        self.w.add(*self.beads)
        return len(made)

    def _free(self, shot: ProposedShot) -> float:
        """The part of a proposal's characters that no settled shot covers."""
        taken = 0
        for a, b in self.covered[bisect_left(self.covered, (shot.start - self.longest, 0)) :]:
            if a >= shot.end:
                break
            taken += max(0, min(b, shot.end) - max(a, shot.start))
        return 1 - taken / max(1, shot.end - shot.start)

    def _scene(self, scene: ProposedScene) -> Scene:
        """The scene whose shots cover this one's text, or one with the same heading, or a new one in its place."""
        starts = {
            key: [self.covers[x.id].start for x in shots if x.id in self.covers]
            for key, shots in self.own.items()
            if any(x.id in self.covers for x in shots)
        }
        for row in self.scenes:
            if any(scene.start <= at < max(scene.end, scene.start + 1) for at in starts.get(row.id, [])):
                return row
        for row in self.scenes:
            if row.title == scene.title[:300] and row.id not in starts:
                return row
        later = (i for i, r in enumerate(self.scenes) if starts.get(r.id) and min(starts[r.id]) >= scene.start)
        at = next(later, len(self.scenes))
        row = Scene(project_id=self.project_id, position=placed(self.scenes, at), title=scene.title[:300])
        self.w.add(row)
        self.scenes.insert(at, row)
        return row

    def _shot(self, scene: Scene, proposed: ProposedShot, places: tuple[str, ...]) -> Shot:
        """A proposal right behind the last shot of its scene that begins before it in the text, with its beads."""
        own = self.own[scene.id]
        i = len(own) - 1
        while i >= 0 and ((covered := self.covers.get(own[i].id)) is None or covered.start >= proposed.start):
            i -= 1
        shot = Shot(
            id=new_id(),
            project_id=self.project_id,
            scene_id=scene.id,
            position=placed(own, i + 1),
            shows=proposed.shows,
            size=proposed.size,
            angle=proposed.angle,
            length_s=proposed.length_s,
            spoken=proposed.spoken,
            status="proposed",
            why=proposed.why,
            time=proposed.time,
            speakers=list(dict.fromkeys(line.speaker.removeprefix(NEW) for line in proposed.lines if line.speaker)),
        )
        self.text.cover(shot, proposed.start, proposed.end)
        self.covers[shot.id] = Stretch(proposed.start, proposed.end)
        own.insert(i + 1, shot)
        running = dict.fromkeys(t for t in (*proposed.cast, *places, *proposed.props, *self.style) if t in self.known)
        self.beads += [Bead(project_id=self.project_id, shot_id=shot.id, thread_id=t) for t in running]
        return shot


def _run_through(
    w: Writing, project_id: str, text: StoryText, manuscript: Manuscript, threads: list[Thread], fresh: set[str]
) -> None:
    """Beads of new threads wherever the text of a shot names them, and speakers by id instead of by name."""
    moments = [shot for scene in breakdown(manuscript, _named(threads), candidates=()) for shot in scene.shots]
    names = {w_.casefold(): t.id for t in threads for w_ in (t.name, *t.aliases)}
    for shot in of_project(w.session, Shot, project_id):
        shot.speakers = [names.get(str(x).casefold(), x) for x in shot.speakers]
        covered = text.stretch(shot)
        if covered is None:
            continue
        here = dict.fromkeys(
            t
            for m in moments
            if min(m.end, covered.end) - max(m.start, covered.start) > 0.5 * (m.end - m.start)
            for t in (*m.cast, *m.places, *m.props)
        )
        w.add(*(Bead(project_id=project_id, shot_id=shot.id, thread_id=t) for t in here if t in fresh))


def _named(threads: Sequence[Thread]) -> list[Named]:
    return [
        Named(t.id, t.name, tuple(t.aliases), t.kind)  # type: ignore[arg-type]
        for t in threads
        if t.kind != "style"
    ]
