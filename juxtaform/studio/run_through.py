"""The run-through: the words of each shot as they are read along, and lengths trimmed while it plays."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from juxtaform.core.run.along import caption_ends, said_words
from juxtaform.core.text.timing import SHORTEST_S, balanced
from juxtaform.core.text.voices import Voicing
from juxtaform.records.models import Project, Scene, Shot
from juxtaform.studio import plan
from juxtaform.studio.plan_notes import PlanNotes, ShotPlanned
from juxtaform.studio.rows import ProjectRows
from juxtaform.studio.storytext import StoryText
from juxtaform.studio.workspace import Changed, NotPossible, Workspace, edited, found

LEAST_TRIM_S = 0.05
ALL_THE_TIME_S = 36_000.0


@dataclass(frozen=True)
class ReadAlong:
    """The words of a shot and when each is said at the project's pace: (first character, end, from, to), in s from the shot's beginning. `lines` are the
    counts of words after which a new caption begins; `needs_s` is how long all words take."""

    shot_id: str
    words: str
    said: tuple[tuple[int, int, float, float], ...]
    lines: tuple[int, ...]
    needs_s: float


@dataclass(frozen=True)
class NewLength:
    """A length for a shot, and the revision of the shot that its editor saw."""

    shot_id: str
    length_s: float
    revision: int | None = None


def words_of(shot: Shot, text: StoryText, voicing: Voicing) -> str:
    """The words that go with a shot's picture: those that it covers, and what is spoken besides."""
    stretch = text.stretch(shot)
    covered = " ".join(text.covered(shot).split())
    spoken = " ".join(shot.spoken.split())
    said = voicing.of(*stretch).spoken if stretch else ""
    return covered if any(_letters(spoken) in _letters(x) for x in (said, covered)) else f"{covered} {spoken}".strip()


def _least_s(planned: ShotPlanned) -> float:
    """What a shot needs: its words, or a look at a picture without any."""
    return planned.words_s if planned.spoken_s or planned.told_s else SHORTEST_S


def same_words(one: str, other: str) -> bool:
    """Whether two texts say the same, whatever their marks and capitals."""
    return _letters(one) == _letters(other)


def _letters(words: str) -> str:
    """Words without their marks: what is spoken stands in the text in speech marks, with a comma for a full stop."""
    return " ".join(re.findall(r"\w+", words.casefold()))


def read_along(ws: Workspace, project_id: str) -> list[ReadAlong]:
    """The words of all shots that have any, in their order. Raises NotThere."""
    with ws.database.reading() as s:
        rows = ProjectRows(s, project_id, plan_alone=True)
    pace, voicing, told = plan.pace_of(rows.project), plan.voicing_of(rows.project, rows.text), []
    for shot in rows.order:
        if words := words_of(shot, rows.text, voicing):
            said = said_words(words, ALL_THE_TIME_S, pace)
            times = tuple((w.start, w.end, round(w.start_s, 3), round(w.end_s, 3)) for w in said)
            told.append(ReadAlong(shot.id, words, times, caption_ends(words, said), times[-1][3] if times else 0.0))
    return told


def set_lengths(ws: Workspace, project_id: str, lengths: Sequence[NewLength]) -> Changed:
    """Give shots other lengths in one step. Raises Conflict when somebody else changed one of them meanwhile."""
    with ws.writing(project_id, "trimmed the run-through") as w:
        for new in lengths:
            shot = found(w.session, Shot, new.shot_id, project_id)
            edited(shot, new.revision, {"length_s": round(new.length_s, 3)})
        if len(lengths) == 1:
            w.name(f"trimmed {plan.called(w.session, found(w.session, Shot, lengths[0].shot_id, project_id))}")
    return w.changed


def fit_scene(ws: Workspace, project_id: str, scene_id: str, target_s: float) -> Changed:
    """Set the lengths of a scene's shots so that it takes a time, as nearly as its words allow."""
    with ws.writing(project_id, "fitted a scene to a time") as w:
        scene = found(w.session, Scene, scene_id, project_id)
        notes = PlanNotes()
        rows = ProjectRows(w.session, project_id, plan_alone=True)
        notes.look(rows)
        shots = [x for x in rows.order if x.scene_id == scene_id]
        if not shots:
            raise NotPossible("This scene has no shot yet. Plan one on the Sheet first.")
        pace = plan.pace_of(found(w.session, Project, project_id))
        needs = [(x.id, x.length_s, _least_s(notes.needs[x.id])) for x in shots]
        balance = balanced(needs, target_s, pace.words_per_minute)
        trims = [t for t in balance.trims if abs(t.proposed_s - t.length_s) >= LEAST_TRIM_S]
        if not trims:
            least = f" Its words need {balance.least_s:g} s." if balance.least_s > target_s else ""
            raise NotPossible(f"“{scene.title or 'This scene'}” cannot come nearer to {target_s:g} s.{least}")
        lengths = {i: length for i, length, _ in needs} | {t.shot: t.proposed_s for t in trims}
        if balance.least_s <= target_s:  # what rounding left over goes to the shot that has most room
            roomy = max(trims, key=lambda t: t.proposed_s).shot
            lengths[roomy] = round(lengths[roomy] + target_s - sum(lengths.values()), 3)
        for shot in shots:
            edited(shot, None, {"length_s": lengths[shot.id]})
        w.name(f"fitted “{scene.title or 'a scene'}” to {target_s:g} s")
    return w.changed
