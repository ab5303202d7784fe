"""The plan looked at: what is to look at in it, its lengths, and what each shot needs, kept while rows stay the same."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from itertools import groupby

from juxtaform.core.findings import Finding, key_of
from juxtaform.core.plan.also_here import Peopled, also_here, leaves_out_who_looks_on
from juxtaform.core.plan.grammar import PlanShot, findings_of_plan, findings_of_scene, findings_of_shot
from juxtaform.core.plan.stills import MovingWords, moving_words
from juxtaform.core.text.names import Named, Reader, addressed_in, name_words
from juxtaform.core.text.timing import SHORTEST_S, Balance, Pace, ShotTime, balanced, shot_time
from juxtaform.core.text.voices import Voices, Voicing
from juxtaform.records.models import Bead, Project, Shot
from juxtaform.studio import plan
from juxtaform.studio.rows import ProjectRows
from juxtaform.studio.storytext import StoryText

PAGES = {"half": 0.5, "single": 1.0, "spread": 2.0}
"""Pages that a shot's picture takes in a book."""


@dataclass(frozen=True)
class ShotPlanned:
    """What a shot needs: seconds for its words and deeds, how many of its seconds are spoken and told (the rest is only
    seen), phrases of its description that no still can show, and, while it is a proposal, threads of who may be there without a word."""

    shot_id: str
    words_s: float
    spoken_s: float
    told_s: float
    moving: tuple[MovingWords, ...]
    also: tuple[str, ...]


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

    @property
    def for_plan(self) -> tuple[object, ...]:
        """What the whole plan looks at in a shot."""
        return self.planned.cast, self.planned.places, self.planned.length_s

    @property
    def for_lengths(self) -> tuple[float, ...]:
        """What the plan's lengths are made of."""
        return self.planned.length_s, self.least_s, self.pages, self.needs.spoken_s, self.needs.told_s


@dataclass
class _Scene:
    """The shots of a scene, and what they tell together."""

    shots: tuple[PlanShot, ...]
    findings: list[Finding] = field(default_factory=list)


class PlanNotes:
    """A plan looked at: findings by shot, lengths, and what each shot needs. Shots that did not change are not looked at again."""

    needs: dict[str, ShotPlanned]
    lengths: Lengths

    def __init__(self) -> None:
        self._noted: dict[str, _Noted] = {}
        self._order: list[str] = []
        self._scenes: dict[str, _Scene] = {}
        self._whole: list[Finding] = []
        self._by: tuple[object, ...] = ()
        self._voiced: tuple[int, str] | None = None
        self._voicing: Voicing | None = None
        self._asks = False
        self._reader = Reader([])
        self._words = frozenset[str]()

    def look(self, rows: ProjectRows, changed: Collection[str] | None = None) -> set[str] | None:
        """Look at the plan as its rows stand. Only the facts or beads of the `changed` shots, and the text, are others than last time;
        None for all. Returns the shots of which something else may be told now; None for all."""
        project, threads = rows.project, rows.threads
        cast = tuple(Named(t.id, t.name, tuple(t.aliases)) for t in threads.values() if t.kind == "character")
        kinds = {t.id: t.kind for t in threads.values()}
        names = {t.id: t.name for t in threads.values()}
        pace = plan.pace_of(project)
        words = name_words(said for t in threads.values() if t.kind != "style" for said in (t.name, *t.aliases))
        by = (pace, cast, words, tuple(kinds.items()))
        if by != self._by:
            self._by, self._reader, self._words, changed = by, Reader(list(cast)), words, None
        text = (project.text_revision, project.syntax)
        if text != self._voiced:
            manuscript = plan.manuscript_of(project, rows.text)
            self._voiced, self._voicing = text, Voicing(manuscript)
            self._asks = leaves_out_who_looks_on(manuscript, is_script=self._voicing.is_script)
            if changed is not None:
                heard = (x.id for x in rows.order if self._voices_of(x, rows) != self._noted[x.id].voices)
                changed = {*changed, *heard}
        if changed is None:
            before: dict[str, _Noted] = {}
            self._noted, self._order = {}, [x.id for x in rows.order]
            now = self._order
        else:
            now = [i for i in changed if i in self._noted]
            before = {i: self._noted[i] for i in now}
        for i in now:
            shot = rows.shots[i]
            beads = list(rows.beads_of[i].values())
            self._noted[i] = self._note(shot, self._voices_of(shot, rows), beads, kinds, pace)
        concerned = None if changed is None else set(now)
        if concerned is None or any(self._noted[i].for_lengths != before[i].for_lengths for i in now):
            self.lengths = _lengths(project, [self._noted[i] for i in self._order], pace)
        if concerned is None or any(self._noted[i].for_plan != before[i].for_plan for i in now):
            fresh = self._of_plan(names, kinds)
            concerned = concerned and concerned.union(f.shot or "" for f in (*self._whole, *fresh))
            self._whole = fresh
        concerned = self._look_at_scenes(names, concerned)
        self.needs = {i: self._noted[i].needs for i in self._order}
        for i, also in self._who_else(rows).items():
            self.needs[i] = replace(self.needs[i], also=also)
        return concerned

    def _who_else(self, rows: ProjectRows) -> dict[str, tuple[str, ...]]:
        """Who may be in proposed shots without a word."""
        proposed = {i for i in self._order if rows.shots[i].status == "proposed"}
        if not self._asks or not proposed:
            return {}
        asked = also_here(
            [self._peopled(i, rows.text.covered(rows.shots[i]) if i in proposed else "") for i in self._order]
        )
        return {i: who for i, who in zip(self._order, asked, strict=True) if who and i in proposed}

    def _peopled(self, shot: str, words: str) -> Peopled:
        planned = self._noted[shot].planned
        return Peopled(frozenset(planned.cast), (planned.scene, frozenset(planned.places)), words)

    @property
    def planned(self) -> list[PlanShot]:
        """The shots as the plan's grammar sees them, in their order."""
        return [self._noted[i].planned for i in self._order]

    def findings_at(self, shots: Iterable[str] | None) -> list[Finding]:
        """What is told at some shots, or at all: first by the whole plan, then by the scene, then by the shot."""
        wanted = set(self._order if shots is None else shots)
        scenes = dict.fromkeys(self._noted[i].planned.scene for i in self._order if i in wanted)
        findings = [*self._whole, *(f for scene in scenes for f in self._scenes[scene].findings)]
        findings += (f for i in self._order if i in wanted for f in self._noted[i].own)
        return [f for f in findings if f.shot in wanted]

    def _of_plan(self, names: Mapping[str, str], kinds: Mapping[str, str]) -> list[Finding]:
        shots = [self._noted[i].planned for i in self._order]
        index = {x.id: i for i, x in enumerate(shots)}
        return [replace(f, key=_key(f, shots, index)) for f in findings_of_plan(shots, names, kinds)]

    def _look_at_scenes(self, names: Mapping[str, str], concerned_shots: set[str] | None) -> set[str] | None:
        """Look at the scenes of which shots changed, or at all; returns the shots at which something else may be told."""
        if concerned_shots is None:
            groups = groupby((self._noted[i].planned for i in self._order), key=lambda x: x.scene)
            self._scenes = {scene: _Scene(tuple(shots)) for scene, shots in groups}
            looked = list(self._scenes.values())
        else:
            concerned = {self._noted[i].planned.scene for i in concerned_shots}
            looked = [self._scenes[scene] for scene in concerned]
            for group in looked:
                group.shots = tuple(self._noted[x.id].planned for x in group.shots)
        for group in looked:
            index = {x.id: i for i, x in enumerate(group.shots)}
            before = group.findings
            group.findings = [
                replace(f, key=_key(f, group.shots, index)) for f in findings_of_scene(group.shots, names)
            ]
            if concerned_shots is not None:
                concerned_shots = concerned_shots.union(f.shot or "" for f in (*before, *group.findings))
        return concerned_shots

    def _voices_of(self, shot: Shot, rows: ProjectRows) -> Voices:
        assert self._voicing is not None
        return voices_of(shot, rows.text, self._voicing)

    def _note(self, shot: Shot, voices: Voices, beads: list[Bead], kinds: dict[str, str], pace: Pace) -> _Noted:
        time = shot_time(voices, pace)
        spoken, narrated = _heard(shot.length_s, time)
        planned = _as_planned(shot, beads, kinds, self._reader, self._words)
        return _Noted(
            voices=voices,
            planned=planned,
            needs=ShotPlanned(
                shot.id, time.length_s, spoken, narrated, tuple(moving_words(shot.shows, self._words)), ()
            ),
            least_s=time.length_s if voices != Voices() else min(shot.length_s, SHORTEST_S),
            pages=PAGES.get(shot.page_form, 1.0),
            own=tuple(replace(f, key=_key(f, [planned], {planned.id: 0})) for f in findings_of_shot(planned, kinds)),
        )


def _lengths(project: Project, noted: Sequence[_Noted], pace: Pace) -> Lengths:
    lows = [(n.planned.id, n.planned.length_s, n.least_s) for n in noted]
    total, spoken, narrated = (
        sum(n.planned.length_s for n in noted),
        sum(n.needs.spoken_s for n in noted),
        sum(n.needs.told_s for n in noted),
    )
    return Lengths(
        balance=balanced(lows, project.target_s if project.target_s else total, pace.words_per_minute),
        pages=sum(n.pages for n in noted),
        words_per_minute=round(pace.words_per_minute, 1),
        spoken_s=round(spoken, 1),
        told_s=round(narrated, 1),
        shown_s=round(total - spoken - narrated, 1),
    )


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


def _as_planned(
    shot: Shot, beads: list[Bead], kinds: dict[str, str], reader: Reader, words: frozenset[str]
) -> PlanShot:
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
        {b.thread_id: tuple(b.stands) for b in beads if b.stands},
        words,
    )


def _key(f: Finding, shots: Sequence[PlanShot], index: Mapping[str, int]) -> str:
    """The same while the finding says the same of the same shots in the same words."""
    first = index[f.shot or ""]
    last = index.get(f.until or "", first)
    run = [x.id for x in shots[first : last + 1]]
    shows = shots[first].shows if f.kind in ("moves_in_still", "several_moments") else ""
    return key_of(f.kind, f.thread, *run, f"{f.measured:g}", shows)
