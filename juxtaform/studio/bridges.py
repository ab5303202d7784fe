"""Bridges: shots proposed between two where their cut jars or words outrun the picture; taken in, or not."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise

from juxtaform.core.findings import Finding, key_of
from juxtaform.core.plan.bridges import Around, Bridge, BridgeCause, bridge
from juxtaform.core.plan.shots import Angle, Size
from juxtaform.core.run.along import ends_sentence, said_words
from juxtaform.core.text.timing import shot_time
from juxtaform.records.models import STET, Bead, Shot, Stet
from juxtaform.studio import plan
from juxtaform.studio.findings import Findings
from juxtaform.studio.plan_notes import PlanNotes
from juxtaform.studio.rows import ProjectRows
from juxtaform.studio.sound_track import rooms_of
from juxtaform.studio.storytext import StoryText, text_of
from juxtaform.studio.workspace import Changed, NotThere, Workspace, Writing, found

CAUSES: dict[str, BridgeCause] = {
    "size_leap": "size",
    "line_crossed": "sides",
    "side_leap": "sides",
    "crosses_line": "sides",
    "light_leap": "light",
    "stutter": "stutter",
}
"""What jars at a cut, by the kinds of findings."""
OUTRUN_S = 0.5
"""Words that take so much longer than their picture outrun it."""
REFUSED = "no shot between is wanted here"


@dataclass(frozen=True)
class BridgeView:
    """A shot that is proposed between two: how it is framed, what it shows, whom and what (threads), its length in s, why this one; and `because` why any: the
    titles of what is found there. `findings` are their keys."""

    key: str
    before_id: str
    after_id: str
    size: Size
    angle: Angle
    shows: str
    thread_ids: tuple[str, ...]
    length_s: float
    why: str
    because: tuple[str, ...]
    findings: tuple[str, ...]
    carries_words: bool


def proposed(findings: Findings, ws: Workspace, project_id: str) -> list[BridgeView]:
    """All bridges that are proposed, in the order of the story. Raises NotThere."""
    told = findings.of(project_id, "check", "plan")
    with ws.database.reading() as s:
        rows = ProjectRows(s, project_id)
    return _Proposer(rows, told).all()


class _Proposer:
    def __init__(self, rows: ProjectRows, told: Iterable[Finding]) -> None:
        self._rows = rows
        self._order = [x for x in rows.order if x.status != "proposed"]
        self._next = {x.id: self._order[i + 1] for i, x in enumerate(self._order[:-1])}
        self._previous = {b.id: x for x, b in pairwise(self._order)}
        self._stood = {x.finding_key for x in rows.stets.values() if x.verdict == STET}
        self._notes = PlanNotes()
        self._notes.look(rows)
        self._planned = {x.id: x for x in self._notes.planned}
        self._names = {t.id: t.name for t in rows.threads.values()}
        self._kinds = {t.id: t.kind for t in rows.threads.values()}
        self.voices = rooms_of(rows)
        self._jars = self._jarring(told)

    def all(self) -> list[BridgeView]:
        return [view for view, _ in self.made()]

    def made(self) -> list[tuple[BridgeView, Bridge]]:
        """All bridges, as they are shown and as they were made."""
        return [both for x in self._order if (both := self._after(x)) is not None]

    def _after(self, shot: Shot) -> tuple[BridgeView, Bridge] | None:
        """The bridge between a shot and the next; None where none is needed or wanted."""
        after = self._next.get(shot.id)
        if after is None or shot.bridge or after.bridge:
            return None
        told = self._jars.get((shot.id, after.id), [])
        over_s = self._over(shot)
        causes: list[BridgeCause] = list(dict.fromkeys(CAUSES[f.kind] for f in told))
        if over_s > OUTRUN_S:
            causes.append("words")
        if not causes:
            return None
        key = key_of("bridge", shot.id, after.id, *sorted(causes))
        if key in self._stood:
            return None
        a, b = self._planned[shot.id], self._planned[after.id]
        scene = [self._planned[x.id] for x in self._order if x.scene_id == shot.scene_id]
        made = bridge(Around(a, b, scene, self._props(shot, after), over_s), causes, self._names)
        because = [f.title for f in told]
        if over_s > OUTRUN_S:
            number = self._order.index(shot) + 1
            because.append(f"The words of shot {number} take {over_s:.1f} s longer than its picture is seen")
        view = BridgeView(
            key,
            shot.id,
            after.id,
            made.size,
            made.angle,
            made.shows,
            made.threads,
            made.length_s,
            made.why,
            tuple(because),
            tuple(f.key for f in told if f.key),
            "words" in causes,
        )
        return view, made

    def _over(self, shot: Shot) -> float:
        """By how much a shot's words outrun it, by its voice where it has one, in s."""
        if shot.id in self.voices:
            return self.voices[shot.id].over_s
        needs = self._notes.needs[shot.id]
        return needs.words_s - shot.length_s if needs.spoken_s or needs.told_s else 0.0

    def _props(self, *shots: Shot) -> tuple[str, ...]:
        """Things that run in one of some shots, and are spoken of in what they show first."""
        own = [b.thread_id for x in shots for b in self._rows.beads_of[x.id].values()]
        props = [t for t in dict.fromkeys(own) if self._kinds.get(t) == "prop"]
        said = " ".join(x.shows.casefold() for x in shots)
        return tuple(sorted(props, key=lambda t: self._names[t].casefold() not in said))

    def _jarring(self, told: Iterable[Finding]) -> dict[tuple[str, str], list[Finding]]:
        """What jars at each cut, without what was let stand and what the plan has a reason for."""
        jars: defaultdict[tuple[str, str], list[Finding]] = defaultdict(list)
        for f in told:
            if f.kind not in CAUSES or f.key in self._stood or f.reason or not f.shot:
                continue
            before = f.before or (self._previous[f.shot].id if f.shot in self._previous else None)
            if before is not None and self._next.get(before) is not None and self._next[before].id == f.shot:
                jars[(before, f.shot)].append(f)
        return jars


def take_in(findings: Findings, ws: Workspace, project_id: str, key: str) -> Changed:
    """Put a proposed bridge in as a shot of its own. Raises NotThere, NotPossible."""
    told = findings.of(project_id, "check", "plan")
    with ws.writing(project_id, "put a shot between") as w:
        rows = ProjectRows(w.session, project_id)
        proposer = _Proposer(rows, told)
        view, made = next(((v, m) for v, m in proposer.made() if v.key == key), (None, None))
        if view is None or made is None:
            raise NotThere("This shot is not proposed any more: what it was for is gone. Look at those that are.")
        before = found(w.session, Shot, view.before_id, project_id)
        fresh = Shot(
            project_id=project_id,
            scene_id=before.scene_id,
            position=plan.right_after(w.session, before),
            shows=view.shows,
            size=view.size,
            angle=view.angle,
            length_s=view.length_s,
            time=before.time,
            page_form=before.page_form,
            bridge=True,
            notes=view.why,
        )
        if view.carries_words and before.id not in proposer.voices:
            _share_words(w, rows, before, fresh)
        w.add(fresh)
        _beads(w, rows, before, fresh, view.thread_ids, made.facings)
        w.name(f"put a shot between {plan.called(w.session, before)} and the next")
    return w.changed


def refuse(findings: Findings, ws: Workspace, project_id: str, key: str) -> Changed:
    """Say that no shot is wanted where one is proposed. Raises NotThere."""
    if all(v.key != key for v in proposed(findings, ws, project_id)):
        raise NotThere("This shot is not proposed any more. Look at those that are.")
    with ws.writing(project_id, "wanted no shot between") as w:
        w.add(Stet(project_id=project_id, finding_key=key, reason=REFUSED))
    return w.changed


def _share_words(w: Writing, rows: ProjectRows, before: Shot, fresh: Shot) -> None:
    """Let the words that do not fit the shot before go with the bridge, from a sentence on; where none ends in time, all stay."""
    text = text_of(w.session, before.project_id)
    covered = text.stretch(before)
    if covered is None:
        return
    cut = _cut(text, covered.start, covered.end, before.length_s, rows)
    if cut is None:
        return
    end = covered.start + len(text.words[covered.start : cut].rstrip())
    text.cover(before, covered.start, end)
    text.cover(fresh, cut, covered.end)
    voicing, pace = plan.voicing_of(rows.project, rows.text), plan.pace_of(rows.project)
    fresh.length_s = max(fresh.length_s, shot_time(voicing.of(cut, covered.end), pace).length_s)


def _cut(text: StoryText, start: int, end: int, length_s: float, rows: ProjectRows) -> int | None:
    """Where the sentence begins that is said when the picture is over, as a place in the text."""
    words = text.words[start:end]
    said = said_words(words, 36_000.0, plan.pace_of(rows.project))
    begins = [b for a, b in pairwise(said) if ends_sentence(words[a.start : a.end])]
    if not begins:
        return None
    best = min(begins, key=lambda b: abs(b.start_s - length_s))
    return start + best.start


def _beads(
    w: Writing, rows: ProjectRows, before: Shot, fresh: Shot, thread_ids: Sequence[str], facings: Mapping[str, str]
) -> None:
    """Let those run through the bridge who are in it, as they run through the shot before it; and its style."""
    kinds = {t.id: t.kind for t in rows.threads.values()}
    own = {b.thread_id: b for b in rows.beads_of[before.id].values()}
    wanted = [*thread_ids, *(t for t in own if kinds.get(t) == "style")]
    for thread in dict.fromkeys(wanted):
        like = own.get(thread)
        w.add(
            Bead(
                project_id=fresh.project_id,
                shot_id=fresh.id,
                thread_id=thread,
                facing=facings.get(thread, ""),
                **({"hold": like.hold, "weight": like.weight, "costume": like.costume} if like else {}),
            )
        )
