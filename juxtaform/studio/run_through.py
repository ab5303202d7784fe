"""The run-through: the words of each shot as they are read along, and lengths trimmed while it plays."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

from juxtaform.core.run.along import SaidWord, caption_ends, ends_sentence, said_words
from juxtaform.core.sound.aligned import said_in_voice, words_in_voice
from juxtaform.core.sound.laying import Piece, starts
from juxtaform.core.text.timing import SHORTEST_S, balanced
from juxtaform.formats.out.sequence import OutPhrase
from juxtaform.records.models import Project, Scene, Shot
from juxtaform.studio import plan
from juxtaform.studio.plan_notes import PlanNotes, ShotPlanned
from juxtaform.studio.rows import ProjectRows
from juxtaform.studio.sound_track import pieces_of
from juxtaform.studio.storytext import words_of
from juxtaform.studio.workspace import Changed, NotPossible, Workspace, edited, found

LEAST_TRIM_S = 0.05
ALL_THE_TIME_S = 36_000.0


@dataclass(frozen=True)
class ReadAlong:
    """The words of a shot and when each is said at the project's pace: (first character, end, from, to), in s from the shot's beginning. `lines` are the
    counts of words after which a new caption begins; `needs_s` is how long all words take. `in_voice` when a recording says when."""

    shot_id: str
    words: str
    said: tuple[tuple[int, int, float, float], ...]
    lines: tuple[int, ...]
    needs_s: float
    in_voice: bool = False


@dataclass(frozen=True)
class NewLength:
    """A length for a shot, and the revision of the shot that its editor saw."""

    shot_id: str
    length_s: float
    revision: int | None = None


class WordsInTime:
    """The words of shots, and when each is said: by their voice where they have one, else at the project's pace."""

    def __init__(self, rows: ProjectRows) -> None:
        self._text, self._pace = rows.text, plan.pace_of(rows.project)
        self._voicing = plan.voicing_of(rows.project, rows.text)
        pieces = pieces_of(rows)
        self._begins = starts(pieces)
        self._voices: defaultdict[str, list[Piece]] = defaultdict(list)
        for p in pieces:
            if p.kind == "voice":
                self._voices[p.shot].append(p)

    def of(self, shot: Shot, length_s: float) -> tuple[str, list[SaidWord], bool]:
        """The words of a shot of some length, when each is said, and whether a voice says so."""
        words = words_of(shot, self._text, self._voicing)
        paced = said_words(words, length_s, self._pace)
        voices = self._voices[shot.id]
        said = words_in_voice(words, voices, self._begins, paced) if voices else paced
        return words, said, said is not paced

    def phrases(self, shot: Shot, words: str) -> list[OutPhrase]:
        """The sentences of a shot that a voice says, and where in its recording it does."""
        found = []
        for p in self._voices[shot.id]:
            place = words.find(p.line) if p.line else -1
            said = said_in_voice(p.line, p.spans) if place >= 0 else []
            first = 0
            for i, w in enumerate(said):
                if i + 1 == len(said) or ends_sentence(p.line[w.start : w.end]):
                    begin = said[first]
                    found.append(OutPhrase(place + begin.start, place + w.end, p.id, begin.start_s, w.end_s))
                    first = i + 1
        return sorted(found, key=lambda x: x.start)


def _least_s(planned: ShotPlanned) -> float:
    """What a shot needs: its words, or a look at a picture without any."""
    return planned.words_s if planned.spoken_s or planned.told_s else SHORTEST_S


def read_along(ws: Workspace, project_id: str) -> list[ReadAlong]:
    """The words of all shots that have any, in their order. Raises NotThere."""
    with ws.database.reading() as s:
        rows = ProjectRows(s, project_id, plan_alone=True)
    in_time = WordsInTime(rows)
    told = []
    for shot in rows.order:
        words, said, in_voice = in_time.of(shot, ALL_THE_TIME_S)
        if words:
            times = tuple((w.start, w.end, round(w.start_s, 3), round(w.end_s, 3)) for w in said)
            needs_s = times[-1][3] if times else 0.0
            told.append(ReadAlong(shot.id, words, times, caption_ends(words, said), needs_s, in_voice))
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
