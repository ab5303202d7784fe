"""What is done to the plan by what it needs: lengths from words and to a target, other framings, words that move taken out of a still."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence

from sqlalchemy.orm import Session

from juxtaform.core.plan.framings import Framing, alternatives
from juxtaform.core.plan.stills import moved
from juxtaform.core.text.timing import shot_time
from juxtaform.core.text.voices import Voices
from juxtaform.records.models import Bead, Project, Shot, Thread
from juxtaform.studio import plan
from juxtaform.studio.plan_notes import PlanNotes, voices_of
from juxtaform.studio.rows import ProjectRows
from juxtaform.studio.storytext import text_of
from juxtaform.studio.workspace import Changed, NotPossible, Row, Workspace, at_revision, edited, found, of_project


def move_to_motion(ws: Workspace, project_id: str, shot_id: str) -> Changed:
    """Take the moving words out of a still description and into the motion note."""
    with ws.writing(project_id, "moved words to the motion note") as w:
        shot = found(w.session, Shot, shot_id, project_id)
        still, motion = moved(shot.shows, shot.motion, plan.name_words(w.session, project_id))
        if still == shot.shows:
            raise NotPossible("Nothing can be moved without leaving the picture empty. Write what stands still.")
        shot.shows, shot.motion = still, motion
        w.name(f"moved words of {plan.called(w.session, shot)} to its motion note")
    return w.changed


def framings(ws: Workspace, project_id: str, shot_id: str) -> list[Framing]:
    """Other ways to look at a shot's moment, those that differ from its neighbours first."""
    with ws.database.session() as s:
        shot = found(s, Shot, shot_id, project_id)
        order = plan.in_order(s, project_id)
        at = next(i for i, x in enumerate(order) if x.id == shot_id)
        before = order[at - 1].size if at else None
        after = order[at + 1].size if at + 1 < len(order) else None
        kinds = {t.id: t.kind for t in of_project(s, Thread, project_id)}
        cast = sum(kinds.get(b.thread_id) == "character" for b in _beads(s, project_id)[shot_id])
        now = Framing(shot.size, shot.angle, shot.move, "")
        return alternatives(now, cast, speech=bool(shot.spoken), before=before, after=after)


def keep_framings(
    ws: Workspace, project_id: str, shot_id: str, kept: Sequence[Row], picked: int | None, revision: int | None = None
) -> Changed:
    """Keep framings beside a shot, as takes of the plan; the picked one becomes the shot's, the old one is kept. Raises Conflict."""
    with ws.writing(project_id, "kept framings") as w:
        shot = found(w.session, Shot, shot_id, project_id)
        offers = [dict(f) for f in kept]
        at_revision(shot, revision, {"framings": offers})
        w.name(f"kept framings of {plan.called(w.session, shot)}")
        if picked is not None:
            if not 0 <= picked < len(offers):
                raise NotPossible("There is no such framing any more. Open the shot again.")
            chosen = offers.pop(picked)
            offers.insert(0, {"size": shot.size, "angle": shot.angle, "move": shot.move, "why": "as it was"})
            shot.size, shot.angle, shot.move = chosen["size"], chosen["angle"], chosen["move"]
            w.name(f"framed {plan.called(w.session, shot)} another way")
        seen: set[tuple[str, str, str]] = {(shot.size, shot.angle, shot.move)}
        shot.framings = [
            f
            for f in offers
            if (k := (f["size"], f["angle"], f["move"])) not in seen and not seen.add(k)  # type: ignore[func-returns-value]
        ][:8]
    return w.changed


def time_from_words(ws: Workspace, project_id: str, shot_ids: Sequence[str] | None = None) -> Changed:
    """Set lengths from the words at the project's pace: of some shots, or of all."""
    with ws.writing(project_id, "set lengths from the words") as w:
        project = found(w.session, Project, project_id)
        text = text_of(w.session, project_id)
        pace, voicing, chosen = plan.pace_of(project), plan.voicing_of(project, text), set(shot_ids or ())
        for shot in of_project(w.session, Shot, project_id):
            voices = voices_of(shot, text, voicing)
            if voices != Voices() and (shot_ids is None or shot.id in chosen):
                shot.length_s = shot_time(voices, pace).length_s
    return w.changed


def fit_to_target(ws: Workspace, project_id: str) -> Changed:
    """Set the lengths that meet the target as nearly as the words allow."""
    with ws.writing(project_id, "fitted the lengths to the target") as w:
        notes = PlanNotes()
        notes.look(ProjectRows(w.session, project_id, plan_alone=True))
        if not notes.lengths.balance.trims:
            raise NotPossible("The lengths meet the target already, or no target is set.")
        for trim in notes.lengths.balance.trims:
            edited(found(w.session, Shot, trim.shot, project_id), None, {"length_s": trim.proposed_s})
    return w.changed


def _beads(s: Session, project_id: str) -> dict[str, list[Bead]]:
    by: defaultdict[str, list[Bead]] = defaultdict(list)
    for bead in of_project(s, Bead, project_id):
        by[bead.shot_id].append(bead)
    return by
