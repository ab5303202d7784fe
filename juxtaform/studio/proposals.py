"""What is proposed from the text: scenes and shots among those that are there, and threads of what it names."""

from __future__ import annotations

from bisect import bisect_left
from collections import defaultdict
from collections.abc import Sequence

from juxtaform.core.text.breakdown import ProposedScene, ProposedShot, breakdown, told_in
from juxtaform.core.text.candidates import discovered
from juxtaform.core.text.manuscript import Manuscript
from juxtaform.core.text.moments import SURE
from juxtaform.core.text.names import NEW, ThreadKind
from juxtaform.records.models import Bead, Project, Scene, Shot, Thread, new_id
from juxtaform.studio import plan
from juxtaform.studio.places import placed
from juxtaform.studio.story import named_of
from juxtaform.studio.storytext import StoryText, Stretch, text_of
from juxtaform.studio.workspace import Changed, NotPossible, Workspace, Writing, found, of_project

OVERLAP = 0.5
"""A proposal of which more than this part is covered by settled shots is not made again."""


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
        proposed = breakdown(
            manuscript,
            named_of(threads),
            plan.pace_of(project),
            medium=project.medium,
            wanted=plan.wanted_pictures(project),
        )
        emptied = _withdraw(w, project_id, text, low, high)
        count = _Proposer(w, project_id, threads, text, proposed).put(low, high)
        plan.erase_empty_scenes(w, emptied)
        if not count:
            w.name("looked for shots to propose")
        else:
            w.name(f"proposed {count} {'shot' if count == 1 else 'shots'}")
    return w.changed


def accept(ws: Workspace, project_id: str, shot_ids: Sequence[str] | None = None) -> Changed:
    """Settle proposed shots: some, or all of which it is sure that they begin where they do. Raises NotPossible when none is."""
    with ws.writing(project_id, "accepted shots") as w:
        open_ = [x for x in of_project(w.session, Shot, project_id) if x.status == "proposed"]
        wanted = None if shot_ids is None else set(shot_ids)
        chosen = [x for x in open_ if (x.sure >= SURE if wanted is None else x.id in wanted)]
        if wanted is None and open_ and not chosen:
            raise NotPossible(
                "No proposal is sure of its beginning. Look at each: accept it, or merge it with the one before."
            )
        for shot in chosen:
            shot.status = "settled"
        w.name(f"accepted {plan.called(w.session, chosen[0]) if len(chosen) == 1 else f'{len(chosen)} shots'}")
    return w.changed


def make_threads(ws: Workspace, project_id: str, wanted: Sequence[tuple[ThreadKind, str]]) -> Changed:
    """Make threads of what the text names, as (kind, name), and let them run through the shots that name them."""
    with ws.writing(project_id, "made threads from the text") as w:
        project = found(w.session, Project, project_id)
        text = text_of(w.session, project_id)
        manuscript = plan.manuscript_of(project, text)
        threads = of_project(w.session, Thread, project_id)
        offered = {(c.kind, c.name): c for c in discovered(manuscript, named_of(threads))}
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
        # Rows tell what they hold slowly, and each scene is looked for among all: what is asked of them lies beside them.
        self.order = [r.id for r in self.scenes]
        self.titles = {r.id: r.title for r in self.scenes}
        self.starts = {key: starts for key, own in self.own.items() if (starts := self._starts(own))}
        self.made_scenes: list[Scene] = []
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
        for rows in (self.made_scenes, made, self.beads):
            self.w.add(*rows)
        return len(made)

    def _starts(self, shots: list[Shot]) -> list[int]:
        return [self.covers[x.id].start for x in shots if x.id in self.covers]

    def _free(self, shot: ProposedShot) -> float:
        """The part of a proposal's characters that no settled shot covers."""
        taken = 0
        for at in range(bisect_left(self.covered, (shot.start - self.longest, 0)), len(self.covered)):
            a, b = self.covered[at]
            if a >= shot.end:
                break
            taken += max(0, min(b, shot.end) - max(a, shot.start))
        return 1 - taken / max(1, shot.end - shot.start)

    def _scene(self, scene: ProposedScene) -> Scene:
        """The scene whose shots cover this one's text, or one with the same heading, or a new one in its place."""
        title, end = scene.title[:300], max(scene.end, scene.start + 1)
        for at, key in enumerate(self.order):
            if any(scene.start <= start < end for start in self.starts.get(key, ())):
                return self.scenes[at]
        for at, key in enumerate(self.order):
            if self.titles[key] == title and key not in self.starts:
                return self.scenes[at]
        later = (i for i, key in enumerate(self.order) if key in self.starts and min(self.starts[key]) >= scene.start)
        at = next(later, len(self.scenes))
        row = Scene(id=new_id(), project_id=self.project_id, position=placed(self.scenes, at), title=title)
        self.order.insert(at, row.id)
        self.titles[row.id] = title
        self.made_scenes.append(row)
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
            move=proposed.move or "static",
            length_s=proposed.length_s,
            spoken=proposed.spoken,
            status="proposed",
            why=proposed.why,
            sure=round(proposed.sure, 3),
            time=proposed.time,
            page_form=proposed.page_form or "single",
            speakers=list(dict.fromkeys(line.speaker.removeprefix(NEW) for line in proposed.lines if line.speaker)),
        )
        self.text.cover(shot, proposed.start, proposed.end)
        self.covers[shot.id] = Stretch(proposed.start, proposed.end)
        self.starts.setdefault(scene.id, []).append(proposed.start)
        own.insert(i + 1, shot)
        running = dict.fromkeys(t for t in (*proposed.cast, *places, *proposed.props, *self.style) if t in self.known)
        self.beads += [Bead(project_id=self.project_id, shot_id=shot.id, thread_id=t) for t in running]
        return shot


def _run_through(
    w: Writing, project_id: str, text: StoryText, manuscript: Manuscript, threads: list[Thread], fresh: set[str]
) -> None:
    """Beads of new threads wherever the text of a shot names them, and speakers by id instead of by name."""
    names = {w_.casefold(): t.id for t in threads for w_ in (t.name, *t.aliases)}
    shots = of_project(w.session, Shot, project_id)
    for shot in shots:
        shot.speakers = [names.get(str(x).casefold(), x) for x in shot.speakers]
    covered = [(shot, stretch) for shot in shots if (stretch := text.stretch(shot)) is not None]
    told = told_in(manuscript, named_of(threads), [(c.start, c.end) for _, c in covered])
    w.add(
        *(
            Bead(project_id=project_id, shot_id=shot.id, thread_id=t)
            for (shot, _), here in zip(covered, told, strict=True)
            for t in here
            if t in fresh
        )
    )
