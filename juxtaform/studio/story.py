"""The story's text: in and out, kept while the plan follows it, and broken down into proposals."""

from __future__ import annotations

from bisect import bisect_left
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

from juxtaform.core.text.anchoring import Span, anchored
from juxtaform.core.text.breakdown import ProposedScene, ProposedShot, breakdown
from juxtaform.core.text.candidates import Candidate, discovered
from juxtaform.core.text.coverage import Gap, coverage
from juxtaform.core.text.manuscript import PICTURED, Manuscript, Trouble
from juxtaform.core.text.names import NEW, Named, ThreadKind
from juxtaform.core.text.timing import word_count
from juxtaform.formats import texts
from juxtaform.limits import MOST_TEXT
from juxtaform.records.models import Bead, Project, Scene, Shot, Thread, new_id
from juxtaform.studio import plan
from juxtaform.studio.places import placed
from juxtaform.studio.workspace import Changed, Conflict, NotPossible, Row, Workspace, Writing, found, of_project

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
        text, syntax, revision = project.text, project.syntax, project.text_revision
        manuscript = plan.manuscript_of(project)
    spans = [(x.id, x.span_start, x.span_end) for x in shots if x.span_start is not None and x.span_end is not None]
    return Reading(
        revision,
        syntax,
        sum(word_count(p.words) for p in manuscript.passages if p.kind in PICTURED),
        tuple((p.kind, p.start, p.end, p.name) for p in manuscript.passages),
        tuple(coverage(manuscript, spans)),
        tuple(discovered(manuscript, named)) if text.strip() else (),
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
    return _keep(ws, project_id, text, seen, "edited the text", {})


def give_out(ws: Workspace, project_id: str) -> TextFile:
    """The text as it came in, with its encoding and line ends."""
    with ws.database.session() as s:
        project = found(s, Project, project_id)
        data = texts.encoded(project.text, texts.Source.from_row(project.source))
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
        if not project.text.strip():
            raise NotPossible("There is no text yet. Paste or type the story first.")
        plan.as_seen(project, seen)
        low, high = start or 0, len(project.text) if end is None else end
        threads = of_project(w.session, Thread, project_id)
        manuscript = plan.manuscript_of(project)
        proposed = breakdown(manuscript, _named(threads), plan.pace_of(project))
        emptied = _withdraw(w, project_id, low, high)
        count = _Proposer(w, project_id, threads, proposed).put(low, high)
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
        text = project.text
        shot = found(w.session, Shot, shot_id, project_id)
        words = text[max(0, start) : end]
        if not words.strip():
            raise NotPossible("A shot covers at least one word. Delete the shot if it covers none.")
        lead = len(words) - len(words.lstrip())
        shot.span_start, shot.span_end = max(0, start) + lead, max(0, start) + len(words.rstrip())
        shot.lost = ""
        w.name(f"{plan.called(w.session, shot)} covers other words")
    return w.changed


def make_threads(ws: Workspace, project_id: str, wanted: Sequence[tuple[ThreadKind, str]]) -> Changed:
    """Make threads of what the text names, as (kind, name), and let them run through the shots that name them."""
    with ws.writing(project_id, "made threads from the text") as w:
        project = found(w.session, Project, project_id)
        manuscript = plan.manuscript_of(project)
        held = of_project(w.session, Thread, project_id)
        offered = {(c.kind, c.name): c for c in discovered(manuscript, _named(held))}
        position = max((t.position for t in held), default=-1.0)
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
        _run_through(w, project_id, manuscript, [*held, *made], {t.id for t in made})
    return w.changed


def _keep(ws: Workspace, project_id: str, text: str, seen: int | None, label: str, values: Row) -> Changed:
    if len(text) > MOST_TEXT:
        raise NotPossible(f"The text has {len(text):,} characters; the most is {MOST_TEXT:,}. Split it into parts.")
    if "\0" in text:
        raise NotPossible("This is not text: it holds binary data. Save the story as plain text and try again.")
    text = texts.without_carriage_returns(text)
    with ws.writing(project_id, label, TYPING_S if label == "edited the text" else 0.0) as w:
        project = found(w.session, Project, project_id)
        if seen is not None and seen != project.text_revision and text != project.text:
            raise Conflict("project", {"text": text}, {"text": project.text, "text_revision": project.text_revision})
        if text != project.text:
            _follow(w, project_id, project.text, text)
            if not project.text.strip() and "syntax" not in values:
                values = {**values, "syntax": texts.syntax_of(text)}
            project.text = text
            project.text_revision += 1
        for key, value in values.items():
            setattr(project, key, value)
    return w.changed


def _follow(w: Writing, project_id: str, old: str, new: str) -> None:
    shots = {x.id: x for x in of_project(w.session, Shot, project_id)}
    spans = [
        Span(x.id, x.span_start, x.span_end)
        for x in shots.values()
        if x.span_start is not None and x.span_end is not None
    ]
    kept, lost = anchored(old, new, sorted(spans, key=lambda p: p.start))
    for a in kept:
        shots[a.id].span_start, shots[a.id].span_end = a.start, a.end
    gone = [shots[x.id] for x in lost if shots[x.id].status == "proposed"]
    for x in lost:
        shot = shots[x.id]
        shot.span_start = shot.span_end = None
        shot.lost = x.words[:4000]
    for shot in shots.values():
        if shot.lost and shot.span_start is None and (at := new.find(shot.lost)) >= 0:
            shot.span_start, shot.span_end, shot.lost = at, at + len(shot.lost), ""
    plan.erase(w, [x for x in gone if x.span_start is None])


def _withdraw(w: Writing, project_id: str, low: int, high: int) -> set[str]:
    """Take back the proposals in a stretch; returns the scenes that they stood in, which stay for new ones."""
    old = [
        x
        for x in of_project(w.session, Shot, project_id)
        if x.status == "proposed"
        and x.span_start is not None
        and x.span_end is not None
        and x.span_end > low
        and x.span_start < high
    ]
    plan.erase(w, old, keep_scenes=True)
    return {x.scene_id for x in old}


class _Proposer:
    """Puts proposed scenes and shots among those that are there."""

    def __init__(self, w: Writing, project_id: str, threads: list[Thread], proposed: list[ProposedScene]) -> None:
        self.w, self.project_id, self.proposed = w, project_id, proposed
        self.known = {t.id: t for t in threads}
        self.style = [t.id for t in threads if t.kind == "style"][:1]
        self.shots = of_project(w.session, Shot, project_id)
        self.scenes = of_project(w.session, Scene, project_id)
        self.covered = sorted(
            (x.span_start, x.span_end) for x in self.shots if x.span_start is not None and x.span_end is not None
        )
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
            key: [x.span_start for x in shots if x.span_start is not None]
            for key, shots in self.own.items()
            if any(x.span_start is not None for x in shots)
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
        while i >= 0 and ((start := own[i].span_start) is None or start >= proposed.start):
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
            span_start=proposed.start,
            span_end=proposed.end,
            status="proposed",
            why=proposed.why,
            time=proposed.time,
            speakers=list(dict.fromkeys(line.speaker.removeprefix(NEW) for line in proposed.lines if line.speaker)),
        )
        own.insert(i + 1, shot)
        running = dict.fromkeys(t for t in (*proposed.cast, *places, *proposed.props, *self.style) if t in self.known)
        self.beads += [Bead(project_id=self.project_id, shot_id=shot.id, thread_id=t) for t in running]
        return shot


def _run_through(w: Writing, project_id: str, manuscript: Manuscript, threads: list[Thread], fresh: set[str]) -> None:
    """Beads of new threads wherever the text of a shot names them, and speakers by id instead of by name."""
    moments = [shot for scene in breakdown(manuscript, _named(threads), candidates=()) for shot in scene.shots]
    names = {w_.casefold(): t.id for t in threads for w_ in (t.name, *t.aliases)}
    for shot in of_project(w.session, Shot, project_id):
        shot.speakers = [names.get(str(x).casefold(), x) for x in shot.speakers]
        if shot.span_start is None or shot.span_end is None:
            continue
        here = dict.fromkeys(
            t
            for m in moments
            if min(m.end, shot.span_end) - max(m.start, shot.span_start) > 0.5 * (m.end - m.start)
            for t in (*m.cast, *m.places, *m.props)
        )
        w.add(*(Bead(project_id=project_id, shot_id=shot.id, thread_id=t) for t in here if t in fresh))


def _named(threads: Sequence[Thread]) -> list[Named]:
    return [
        Named(t.id, t.name, tuple(t.aliases), t.kind)  # type: ignore[arg-type]
        for t in threads
        if t.kind != "style"
    ]
