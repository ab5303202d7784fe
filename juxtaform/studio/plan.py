"""The plan: scenes and shots are edited, inserted, deleted, moved, split and merged."""

from __future__ import annotations

from collections.abc import Sequence

from sqlalchemy import func, select, tuple_
from sqlalchemy.orm import Session

from juxtaform.core.text import names
from juxtaform.core.text.manuscript import Manuscript
from juxtaform.core.text.timing import Pace, shot_time
from juxtaform.core.text.voices import Voicing
from juxtaform.formats import texts
from juxtaform.records.models import Bead, FaultMark, Mark, Project, Reference, Scene, Shot, Sound, Take, Thread, Trial
from juxtaform.studio.places import placed, spaced
from juxtaform.studio.storytext import StoryText, text_of
from juxtaform.studio.workspace import Changed, NotPossible, Row, Workspace, Writing, edited, found, of_project, stored


def add_scene(ws: Workspace, project_id: str, title: str) -> Changed:
    """A new scene at the end, with one empty shot."""
    with ws.writing(project_id, "added a scene") as w:
        last = [s.position for s in of_project(w.session, Scene, project_id)]
        scene = Scene(project_id=project_id, position=max(last, default=-1.0) + 1, title=title[:300])
        w.add(scene)
        w.add(Shot(project_id=project_id, scene_id=scene.id, position=0.0))
    return w.changed


def edit_scene(ws: Workspace, project_id: str, scene_id: str, values: Row, revision: int | None) -> Changed:
    with ws.writing(project_id, "renamed a scene") as w:
        edited(found(w.session, Scene, scene_id, project_id), revision, values)
    return w.changed


def edit_shot(ws: Workspace, project_id: str, shot_id: str, values: Row, revision: int | None) -> Changed:
    """Change facts of a shot. Raises Conflict when somebody else changed it meanwhile."""
    with ws.writing(project_id, "edited a shot") as w:
        shot = found(w.session, Shot, shot_id, project_id)
        w.name(f"edited {called(w.session, shot)}")
        if values.get("sketch_sha"):
            stored(w.session, "The guide's picture", values["sketch_sha"])
        edited(shot, revision, {**values, "status": "settled"} if shot.status == "proposed" else values)
    return w.changed


def insert_shot(ws: Workspace, project_id: str, after: str) -> Changed:
    """An empty shot after another one, with the same threads."""
    with ws.writing(project_id, "inserted a shot") as w:
        shot = found(w.session, Shot, after, project_id)
        w.name(f"inserted a shot after {called(w.session, shot)}")
        fresh = Shot(
            project_id=project_id, scene_id=shot.scene_id, position=right_after(w.session, shot), size=shot.size
        )
        w.add(fresh)
        _copy_beads(w, shot, fresh)
    return w.changed


def delete_shots(ws: Workspace, project_id: str, shot_ids: Sequence[str]) -> Changed:
    """Delete shots with their takes and beads; a scene that is left empty goes too."""
    with ws.writing(project_id, "deleted shots") as w:
        shots = [found(w.session, Shot, i, project_id) for i in dict.fromkeys(shot_ids)]
        what = called(w.session, shots[0]) if len(shots) == 1 else f"{len(shots)} shots"
        w.name(f"deleted {what}")
        erase(w, shots)
    return w.changed


def move_shot(ws: Workspace, project_id: str, shot_id: str, step: int) -> Changed:
    """Move a shot one place up (-1) or down (+1), across a scene's edge if it stands there."""
    with ws.writing(project_id, "moved a shot") as w:
        order = in_order(w.session, project_id)
        shot = found(w.session, Shot, shot_id, project_id)
        at = next(i for i, s in enumerate(order) if s.id == shot_id)
        if not 0 <= at + step < len(order):
            raise NotPossible("This shot is already at the end.")
        w.name(f"moved {called(w.session, shot)} {'up' if step < 0 else 'down'}")
        other, old = order[at + step], shot.scene_id
        if other.scene_id == shot.scene_id:
            if shot.position == other.position:
                spaced([s for s in order if s.scene_id == old], 0, 0)
            shot.position, other.position = other.position, shot.position
        else:
            shot.scene_id = other.scene_id
            shot.position = other.position + (1.0 if step < 0 else -1.0)
        w.session.flush()
        erase_empty_scenes(w, {old})
    return w.changed


def split_shot(ws: Workspace, project_id: str, shot_id: str, at: int | None = None, seen: int | None = None) -> Changed:
    """Split a shot in two: at a character of the story's text inside its span, or in the middle between sentences. `seen` is the
    text's revision that the place was chosen in."""
    with ws.writing(project_id, "split a shot") as w:
        shot = found(w.session, Shot, shot_id, project_id)
        w.name(f"split {called(w.session, shot)}")
        project = found(w.session, Project, project_id)
        as_seen(project, seen)
        text, pace = text_of(w.session, project_id), pace_of(project)
        voicing, covered = voicing_of(project, text), text.stretch(shot)
        fresh = Shot(
            project_id=project_id,
            scene_id=shot.scene_id,
            position=right_after(w.session, shot),
            size=shot.size,
            status=shot.status,
        )
        if covered:
            start, end = covered
            cut = at if at is not None and start < at < end else _middle_cut(text.words, start, end)
            if cut is None:
                raise NotPossible("This shot covers a single word: there is nothing to split. Insert a shot instead.")
            for part, a, b in ((shot, start, cut), (fresh, cut, end)):
                part.shows = " ".join(text.words[a:b].split())[:160]
                part.length_s = shot_time(voicing.of(a, b), pace).length_s
            text.cover(shot, start, start + len(text.words[start:cut].rstrip()))
            text.cover(fresh, cut, end)
            fresh.spoken, shot.spoken = _kept_spoken(fresh.shows, shot.spoken), _kept_spoken(shot.shows, shot.spoken)
        else:
            shot.length_s = fresh.length_s = max(1.0, round(shot.length_s / 2, 1))
            fresh.shows = shot.shows
        w.add(fresh)
        _copy_beads(w, shot, fresh)
    return w.changed


def merge_up(ws: Workspace, project_id: str, shot_id: str) -> Changed:
    """Merge a shot into the one before it: words, lengths, takes and threads together."""
    with ws.writing(project_id, "merged shots") as w:
        order = in_order(w.session, project_id)
        at = next((i for i, s in enumerate(order) if s.id == shot_id), 0)
        if at == 0:
            raise NotPossible("This is the first shot: there is none before it to merge with.")
        kept, gone = order[at - 1], order[at]
        w.name(f"merged shots {at} and {at + 1}")
        kept.shows = " ".join(t for t in (kept.shows, gone.shows) if t)
        kept.spoken = " ".join(t for t in (kept.spoken, gone.spoken) if t)
        was_s = kept.length_s
        kept.length_s = round(was_s + gone.length_s, 1)
        kept.speakers = list(dict.fromkeys([*kept.speakers, *gone.speakers]))
        for field in ("motion", "sound", "music", "notes", "lost"):
            setattr(kept, field, " ".join(t for t in (getattr(kept, field), getattr(gone, field)) if t))
        kept.sketch_sha = kept.sketch_sha or gone.sketch_sha
        if gone.status == "settled":
            kept.status = "settled"
        text = text_of(w.session, project_id)
        own, added = text.stretch(kept), text.stretch(gone)
        if added:
            text.cover(kept, *(min(own.start, added.start), max(own.end, added.end)) if own else added)
        running = {b.thread_id for b in w.session.scalars(select(Bead).where(Bead.shot_id == kept.id))}
        picked = w.session.scalars(select(Take).where(Take.shot_id == kept.id, Take.picked)).first()
        for take in w.session.scalars(select(Take).where(Take.shot_id == gone.id)):
            take.shot_id = kept.id
            take.picked = take.picked and picked is None
        for trial in w.session.scalars(select(Trial).where(Trial.shot_id == gone.id)):
            trial.shot_id = kept.id
        _take_sounds(w.session, kept, gone, was_s)
        w.session.flush()
        for bead in list(w.session.scalars(select(Bead).where(Bead.shot_id == gone.id))):
            if bead.thread_id in running:
                w.session.delete(bead)
            else:
                bead.shot_id = kept.id
        w.session.flush()
        scene = gone.scene_id
        w.erase([gone])
        erase_empty_scenes(w, {scene})
    return w.changed


def _take_sounds(session: Session, kept: Shot, gone: Shot, was_s: float) -> None:
    """A shot takes the sounds of the one behind it; those that were put somewhere by hand stay where they were heard."""
    last = max(session.scalars(select(Sound.position).where(Sound.shot_id == kept.id)), default=0.0)
    moved = list(session.scalars(select(Sound).where(Sound.shot_id == gone.id)))
    for i, x in enumerate(sorted(moved, key=lambda x: (x.position, x.id)), 1):
        x.shot_id, x.position = kept.id, last + i
        if x.start_s is not None or x.kind != "voice":
            x.start_s = round(was_s + (x.start_s or 0.0), 3)
    for x in session.scalars(select(Sound).where(Sound.until_shot_id == gone.id)):
        x.until_shot_id = kept.id


def as_seen(project: Project, revision: int | None) -> None:
    """See that places in the text are places in the text as it is. Raises NotPossible."""
    if revision is not None and revision != project.text_revision:
        raise NotPossible(
            "The text was changed meanwhile, so this place is another one now. Do it again on the new text."
        )


def pace_of(project: Project) -> Pace:
    """How a project's text is read."""
    return Pace(project.language, project.audience, project.pace_factor)  # type: ignore[arg-type]


def wanted_pictures(project: Project) -> int | None:
    """How many pictures a book's text should have, where the pages that are wanted tell it: one a spread."""
    if project.medium != "book" or project.target_pages is None:
        return None
    return max(1, project.target_pages // 2)


def manuscript_of(project: Project, text: StoryText) -> Manuscript:
    """A project's text, read as it is written."""
    return texts.read(text.words, "fountain" if project.syntax == "fountain" else "prose")


def voicing_of(project: Project, text: StoryText) -> Voicing:
    """Who says which words of a project's text."""
    return Voicing(manuscript_of(project, text))


def in_order(session: Session, project_id: str) -> list[Shot]:
    """All shots in the order of the story."""
    query = (
        select(Shot)
        .join(Scene, Scene.id == Shot.scene_id)
        .where(Shot.project_id == project_id)
        .order_by(Scene.position, Scene.id, Shot.position, Shot.id)
    )
    return list(session.scalars(query))


def name_words(session: Session, project_id: str) -> frozenset[str]:
    """The words of the names of a project's threads."""
    rows = session.execute(
        select(Thread.name, Thread.aliases).where(Thread.project_id == project_id, Thread.kind != "style")
    )
    return names.name_words(said for name, aliases in rows for said in (name, *aliases))


def called(session: Session, shot: Shot) -> str:
    """A shot in the user's words: `shot 4`."""
    here = session.execute(select(Scene.position, Scene.id).where(Scene.id == shot.scene_id)).one()
    in_scene = (Scene.id == here.id) & (tuple_(Shot.position, Shot.id) < (shot.position, shot.id))
    before = in_scene | (tuple_(Scene.position, Scene.id) < (here.position, here.id))
    query = select(func.count()).select_from(Shot).join(Scene, Scene.id == Shot.scene_id)
    return f"shot {1 + (session.scalar(query.where(Shot.project_id == shot.project_id, before)) or 0)}"


def right_after(session: Session, shot: Shot) -> float:
    """A position right after a shot in its scene."""
    query = select(Shot).where(Shot.scene_id == shot.scene_id).order_by(Shot.position, Shot.id)
    own = list(session.scalars(query))
    return placed(own, own.index(shot) + 1)


def _copy_beads(w: Writing, source: Shot, target: Shot) -> None:
    beads = w.session.scalars(select(Bead).where(Bead.shot_id == source.id))
    w.add(
        *(
            Bead(
                project_id=b.project_id,
                shot_id=target.id,
                thread_id=b.thread_id,
                hold=b.hold,
                weight=b.weight,
                costume=b.costume,
                reference_id=b.reference_id,
            )
            for b in beads
        )
    )


def erase(w: Writing, shots: Sequence[Shot], *, keep_scenes: bool = False) -> None:
    """Erase shots with their takes and beads; scenes that are left empty go too."""
    if not shots:
        return
    ids = [s.id for s in shots]
    scenes = {s.scene_id for s in shots}
    takes = list(w.session.scalars(select(Take).where(Take.shot_id.in_(ids))))
    erase_takes(w, takes)
    w.erase(list(w.session.scalars(select(Trial).where(Trial.shot_id.in_(ids)))))
    _begin_later(w, shots[0].project_id, set(ids))
    w.erase(list(w.session.scalars(select(Bead).where(Bead.shot_id.in_(ids)))))
    w.erase(list(w.session.scalars(select(Sound).where(Sound.shot_id.in_(ids)))))
    _end_before(w, shots[0].project_id, set(ids))
    w.erase(shots)
    if not keep_scenes:
        erase_empty_scenes(w, scenes)


def erase_takes(w: Writing, takes: Sequence[Take]) -> None:
    """Erase takes with their marks; what was made from them is then made from what these were made from."""
    gone = {t.id: t.parent_id for t in takes}
    for model in (Mark, FaultMark):
        w.erase(list(w.session.scalars(select(model).where(model.take_id.in_(gone)))))
    for child in w.session.scalars(select(Take).where(Take.parent_id.in_(gone), Take.id.not_in(gone))):
        while child.parent_id in gone:
            child.parent_id = gone[child.parent_id]
    w.erase(takes)


def _begin_later(w: Writing, project_id: str, gone: set[str]) -> None:
    """References that hold from one of some shots on hold from the next shot that stays."""
    references = [r for r in of_project(w.session, Reference, project_id) if r.from_shot_id in gone]
    if not references:
        return
    order = [s.id for s in in_order(w.session, project_id)]
    for r in references:
        later = order[order.index(r.from_shot_id or "") :]
        r.from_shot_id = next((i for i in later if i not in gone), None)
    w.session.flush()


def _end_before(w: Writing, project_id: str, gone: set[str]) -> None:
    """Sounds that end with one of some shots end with the shot before it that stays."""
    sounds = [x for x in of_project(w.session, Sound, project_id) if x.until_shot_id in gone]
    if not sounds:
        return
    order = [s.id for s in in_order(w.session, project_id)]
    for x in sounds:
        before = order[order.index(x.shot_id) : order.index(x.until_shot_id or "")]
        x.until_shot_id = next((i for i in reversed(before) if i not in gone), x.shot_id)
    w.session.flush()


def erase_empty_scenes(w: Writing, scene_ids: set[str]) -> None:
    """Erase those of some scenes that have no shot."""
    filled = set(w.session.scalars(select(Shot.scene_id).where(Shot.scene_id.in_(scene_ids))))
    w.erase([scene for i in scene_ids - filled if (scene := w.session.get(Scene, i)) is not None])


def _middle_cut(text: str, start: int, end: int) -> int | None:
    """The sentence end nearest the middle of a span, else the word gap nearest to it."""
    middle = (start + end) / 2
    sentences = [i + 2 for i in range(start, end - 3) if text[i] in ".!?…”" and text[i + 1].isspace()]
    gaps = sentences or [i + 1 for i in range(start + 1, end - 1) if text[i].isspace()]
    return min(gaps, key=lambda i: abs(i - middle), default=None)


def _kept_spoken(shows: str, spoken: str) -> str:
    return spoken if spoken and spoken[:20] in shows else ""
