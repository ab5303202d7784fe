"""What the plan says of itself: findings, lengths against the target, other framings, words that move in a still."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import groupby

from sqlalchemy.orm import Session

from juxtaform.core.findings import Finding, key_of
from juxtaform.core.plan.framings import Framing, alternatives
from juxtaform.core.plan.grammar import PlanShot, findings_of_plan, findings_of_scene, findings_of_shot
from juxtaform.core.plan.stills import MovingWords, moved, moving_words
from juxtaform.core.text.names import Named, Reader, addressed_in
from juxtaform.core.text.timing import SHORTEST_S, Balance, Pace, ShotTime, balanced, shot_time
from juxtaform.core.text.voices import Voices, Voicing
from juxtaform.records.models import Bead, Project, Shot, Thread
from juxtaform.studio import plan
from juxtaform.studio.rows import ProjectRows
from juxtaform.studio.storytext import StoryText, text_of
from juxtaform.studio.workspace import Changed, NotPossible, Row, Workspace, at_revision, edited, found, of_project

PAGES = {"half": 0.5, "single": 1.0, "spread": 2.0}
"""Pages that a shot's picture takes in a book."""


@dataclass(frozen=True)
class ShotPlanned:
    """What a shot needs: seconds for its words and deeds, how many of its seconds are spoken and told (the rest is only
    seen), and phrases of its description that no still can show."""

    shot_id: str
    words_s: float
    spoken_s: float
    told_s: float
    moving: tuple[MovingWords, ...]


@dataclass(frozen=True)
class Lengths:
    """The plan's lengths as they stand against the target; its seconds are spoken by the cast, told, or only shown."""

    balance: Balance
    pages: float
    words_per_minute: float
    spoken_s: float
    told_s: float
    shown_s: float


@dataclass(frozen=True)
class _Noted:
    """What is kept of a shot while its row, its beads and the text stay the same; its own findings have their keys."""

    voices: Voices
    planned: PlanShot
    needs: ShotPlanned
    least_s: float
    pages: float
    own: tuple[Finding, ...]


class PlanNotes:
    """A plan looked at: findings, lengths, and what each shot needs. Shots that did not change are not looked at again."""

    findings: list[Finding]
    needs: dict[str, ShotPlanned]
    lengths: Lengths

    def __init__(self) -> None:
        self._noted: dict[str, _Noted] = {}
        self._scenes: dict[str, tuple[tuple[PlanShot, ...], list[Finding]]] = {}
        self._by: tuple[object, ...] = ()
        self._voiced: tuple[int, str] | None = None
        self._voicing: Voicing | None = None
        self._reader = Reader([])

    def look(self, held: ProjectRows, changed: Collection[str] | None = None) -> None:
        """Look at the plan as its rows stand. Only the facts or beads of the `changed` shots are others than last time; None for all."""
        project, threads = held.project, held.threads
        cast = tuple(Named(t.id, t.name, tuple(t.aliases)) for t in threads.values() if t.kind == "character")
        kinds = {t.id: t.kind for t in threads.values()}
        pace, order = plan.pace_of(project), held.order
        by = (pace, cast, tuple(kinds.items()))
        if by != self._by:
            self._by, self._reader = by, Reader(list(cast))
            self._noted, self._scenes, changed = {}, {}, None
        if changed is None:
            self._noted = {}
        text = (project.text_revision, project.syntax)
        if text != self._voiced:
            self._voiced, self._voicing = text, plan.voicing_of(project, held.text)
            if changed is not None:
                changed = {*changed, *(x.id for x in order if self._voices_of(x, held) != self._noted[x.id].voices)}
        for x in order if changed is None else [held.shots[i] for i in changed if i in held.shots]:
            beads = list(held.beads_of[x.id].values())
            self._noted[x.id] = self._note(x, self._voices_of(x, held), beads, kinds, pace)
        noted = [self._noted[x.id] for x in order]
        names = {t.id: t.name for t in threads.values()}
        shots = [n.planned for n in noted]
        index = {x.id: i for i, x in enumerate(shots)}
        told = [replace(f, key=_key(f, shots, index)) for f in findings_of_plan(shots, names, kinds)]
        for _, group in groupby(shots, key=lambda x: x.scene):
            told += self._of_scene(tuple(group), names)
        told += (f for n in noted for f in n.own)
        self.findings = sorted(told, key=lambda f: index[f.shot or ""])
        self.needs = {x.id: n.needs for x, n in zip(shots, noted, strict=True)}
        self.lengths = _lengths(project, noted, pace)

    def _of_scene(self, shots: tuple[PlanShot, ...], names: Mapping[str, str]) -> list[Finding]:
        known = self._scenes.get(shots[0].id)
        if known is not None and known[0] == shots:
            return known[1]
        index = {x.id: i for i, x in enumerate(shots)}
        found = [replace(f, key=_key(f, shots, index)) for f in findings_of_scene(shots, names)]
        self._scenes[shots[0].id] = shots, found
        return found

    def _voices_of(self, shot: Shot, held: ProjectRows) -> Voices:
        assert self._voicing is not None
        return voices_of(shot, held.text, self._voicing)

    def _note(self, shot: Shot, voices: Voices, beads: list[Bead], kinds: dict[str, str], pace: Pace) -> _Noted:
        time = shot_time(voices, pace)
        spoken, told = _heard(shot.length_s, time)
        planned = _as_planned(shot, beads, kinds, self._reader)
        return _Noted(
            voices=voices,
            planned=planned,
            needs=ShotPlanned(shot.id, time.length_s, spoken, told, tuple(moving_words(shot.shows))),
            least_s=time.length_s if voices != Voices() else min(shot.length_s, SHORTEST_S),
            pages=PAGES.get(shot.page_form, 1.0),
            own=tuple(replace(f, key=_key(f, [planned], {planned.id: 0})) for f in findings_of_shot(planned, kinds)),
        )


def _lengths(project: Project, noted: Sequence[_Noted], pace: Pace) -> Lengths:
    lows = [(n.planned.id, n.planned.length_s, n.least_s) for n in noted]
    total, spoken, told = (
        sum(n.planned.length_s for n in noted),
        sum(n.needs.spoken_s for n in noted),
        sum(n.needs.told_s for n in noted),
    )
    return Lengths(
        balance=balanced(lows, project.target_s if project.target_s else total, pace.words_per_minute),
        pages=sum(n.pages for n in noted),
        words_per_minute=round(pace.words_per_minute, 1),
        spoken_s=round(spoken, 1),
        told_s=round(told, 1),
        shown_s=round(total - spoken - told, 1),
    )


def move_to_motion(ws: Workspace, project_id: str, shot_id: str) -> Changed:
    """Take the moving words out of a still description and into the motion note."""
    with ws.writing(project_id, "moved words to the motion note") as w:
        shot = found(w.session, Shot, shot_id, project_id)
        still, motion = moved(shot.shows, shot.motion)
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


def _heard(length_s: float, needs: ShotTime) -> tuple[float, float]:
    """How many of a shot's seconds are spoken, and told."""
    spoken = min(length_s, needs.spoken_s)
    return round(spoken, 1), round(min(length_s - spoken, needs.told_s), 1)


def voices_of(shot: Shot, text: StoryText, voicing: Voicing) -> Voices:
    """Who says the words of a shot: those that it covers, and spoken words that were added to it."""
    covered = text.stretch(shot)
    voices = voicing.of(*covered) if covered else Voices()
    added = shot.spoken.strip() and " ".join(shot.spoken.split()) not in voices.spoken
    return replace(voices, spoken=shot.spoken) if added else voices


def _as_planned(shot: Shot, beads: list[Bead], kinds: dict[str, str], reader: Reader) -> PlanShot:
    cast = tuple(b.thread_id for b in beads if kinds.get(b.thread_id) == "character")
    places = tuple(b.thread_id for b in beads if kinds.get(b.thread_id) == "setting")
    facings = {b.thread_id: b.facing for b in beads if b.facing}
    return PlanShot(
        shot.id,
        shot.scene_id,
        shot.size,
        shot.length_s,
        shot.shows,
        cast,
        places,
        tuple(str(x) for x in shot.speakers),
        shot.angle,
        facings,  # type: ignore[arg-type]
        tuple(addressed_in(shot.spoken, reader)) if shot.spoken else (),
    )


def _key(f: Finding, shots: Sequence[PlanShot], index: Mapping[str, int]) -> str:
    """The same while the finding says the same of the same shots in the same words."""
    first = index[f.shot or ""]
    last = index.get(f.until or "", first)
    run = [x.id for x in shots[first : last + 1]]
    shows = shots[first].shows if f.kind in ("moves_in_still", "several_moments") else ""
    return key_of(f.kind, f.thread, *run, f"{f.measured:g}", shows)
