"""The story frame: beats proposed from a premise, filled, reordered and dropped by the writer; help from a writing
service over the open text-assist protocol."""

from __future__ import annotations

from juxtaform.core.plan.story_frame import SHAPES, CastMember, Shape, story_frame
from juxtaform.records.models import Beat, Project
from juxtaform.studio.places import placed, spaced
from juxtaform.studio.workspace import Changed, NotPossible, Row, Workspace, edited, found, of_project


def draw_up(ws: Workspace, project_id: str, shape: str) -> Changed:
    """Beats in a shape from the project's premise, tone and cast. What was answered is kept beside the new beats."""
    if shape not in SHAPES:
        raise NotPossible(f"There is no shape “{shape}”. Choose one of: {', '.join(SHAPES)}.")
    with ws.writing(project_id, f"drew up a frame in {shape}") as w:
        project = found(w.session, Project, project_id)
        cast = [CastMember(str(c.get("name", "")), str(c.get("line", ""))) for c in project.frame_cast]
        old = of_project(w.session, Beat, project_id)
        answered = [b for b in old if b.answer.strip()]
        w.erase([b for b in old if not b.answer.strip()])
        project.shape = shape
        chosen: Shape = shape
        beats = story_frame(project.premise, project.tone, cast, chosen)
        start = max((b.position for b in answered), default=-1.0) + 1
        w.add(
            *(
                Beat(
                    project_id=project_id,
                    position=start + i,
                    title=b.title,
                    purpose=b.purpose,
                    share=b.share,
                    cast=list(b.cast),
                    question=b.question,
                )
                for i, b in enumerate(beats)
            )
        )
    return w.changed


def edit_beat(ws: Workspace, project_id: str, beat_id: str, values: Row, revision: int | None) -> Changed:
    with ws.writing(project_id, "edited a beat") as w:
        beat = found(w.session, Beat, beat_id, project_id)
        edited(beat, revision, values)
        w.name(f"edited the beat {beat.title}")
    return w.changed


def add_beat(ws: Workspace, project_id: str, after: str | None) -> Changed:
    """An empty beat after another one, or at the end."""
    with ws.writing(project_id, "added a beat") as w:
        beats = of_project(w.session, Beat, project_id)
        at = next((i for i, b in enumerate(beats) if b.id == after), len(beats) - 1)
        w.add(Beat(project_id=project_id, position=placed(beats, at + 1), title="A beat", share=0.1))
    return w.changed


def move_beat(ws: Workspace, project_id: str, beat_id: str, step: int) -> Changed:
    with ws.writing(project_id, "moved a beat") as w:
        beats = of_project(w.session, Beat, project_id)
        at = next((i for i, b in enumerate(beats) if b.id == beat_id), -1)
        if at < 0 or not 0 <= at + step < len(beats):
            raise NotPossible("This beat is already at the end.")
        a, b = beats[at], beats[at + step]
        if a.position == b.position:
            spaced(beats, 0, 0)
        a.position, b.position = b.position, a.position
        w.name(f"moved the beat {a.title}")
    return w.changed


def drop_beat(ws: Workspace, project_id: str, beat_id: str) -> Changed:
    with ws.writing(project_id, "dropped a beat") as w:
        beat = found(w.session, Beat, beat_id, project_id)
        w.name(f"dropped the beat {beat.title}")
        w.erase([beat])
    return w.changed


def into_text(ws: Workspace, project_id: str) -> str:
    """The frame as a text to write on: a heading a beat, what was answered below it. Raises NotPossible without beats."""
    with ws.database.session() as s:
        beats = of_project(s, Beat, project_id)
    if not beats:
        raise NotPossible("There is no frame yet. Draw one up first.")
    parts = []
    for b in beats:
        parts.append(f"# {b.title}\n\n{b.answer.strip() or f'<!-- {b.question} -->'}")
    return "\n\n".join(parts) + "\n"
