"""What there is to look at in a project, from every room: kept by version, and redone for what changed."""

from __future__ import annotations

import secrets
from collections import defaultdict
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field
from typing import Any, TypeVar

from sqlalchemy import select
from sqlalchemy.orm import Session

from juxtaform.core.check.learned import Lesson, term_of
from juxtaform.core.findings import Finding, Source
from juxtaform.records.models import RETAKE, STET, CheckRun, Stet
from juxtaform.studio import briefs, checking, measures, showings
from juxtaform.studio.desk import Desk, profiles_of
from juxtaform.studio.live import Follower, LiveProjects
from juxtaform.studio.plan_notes import Lengths, PlanNotes, ShotPlanned
from juxtaform.studio.rows import ProjectRows, Touched, only_facts
from juxtaform.studio.versions import stale_takes
from juxtaform.studio.workspace import Changed, NotPossible, NotThere, Workspace, edited, found

AGAIN = "to be made again"
"""The reason of a retake that nobody gave one for."""
STALE_BY = frozenset({"take", "reference", "shot", "scene", "thread"})

Shown = TypeVar("Shown")
Group = tuple[Source, str | None]
"""Findings are kept by where they were found and the shot that they are told at."""


@dataclass(frozen=True)
class FindingGroup:
    """All findings of one source at one shot (None: of the whole project); none when what was there is gone."""

    source: Source
    shot: str | None
    findings: tuple[Finding, ...]


@dataclass(frozen=True)
class CheckFound:
    """What the latest check found, what of it lies within bands that were learned, and what pictures and marks in them teach."""

    findings: tuple[Finding, ...]
    within: tuple[Finding, ...]
    from_pictures: tuple[Lesson, ...]


@dataclass(frozen=True)
class FindingsSince:
    """What there is to look at as of `version`. With `anew` the groups are all there are; else they are those that changed since what the
    asker has. `mark` is to be named when asking again."""

    version: int
    mark: str
    anew: bool
    groups: tuple[FindingGroup, ...]
    shots: tuple[ShotPlanned, ...]
    lengths: Lengths


@dataclass
class _Looked:
    """One project as it was last looked at; `stamps` tell when a group, or what a shot needs, last changed."""

    follower: Follower
    epoch: str = field(default_factory=lambda: secrets.token_hex(4))
    serial: int = 0
    desk: Desk | None = None
    notes: PlanNotes = field(default_factory=PlanNotes)
    check_at: object = None
    said_at: object = None
    within: tuple[Finding, ...] = ()
    from_pictures: tuple[Lesson, ...] = ()
    groups: dict[Group, tuple[Finding, ...]] = field(default_factory=dict)
    needs: dict[str, ShotPlanned] = field(default_factory=dict)
    stamps: dict[Group | str, int] = field(default_factory=dict)
    answers: dict[int, bytes] = field(default_factory=dict)
    answers_of: int = -1

    def known(self, mark: str) -> int:
        """How much somebody has who names a mark; -1 for nothing."""
        epoch, _, serial = mark.partition(":")
        is_ours = epoch == self.epoch and serial.isascii() and serial.isdigit()
        return min(int(serial), self.serial) if is_ours else -1

    def put(self, source: Source, findings: Iterable[Finding], shots: Iterable[str | None] | None = None) -> None:
        """Take what a source tells now, of some shots or of all."""
        fresh: defaultdict[str | None, list[Finding]] = defaultdict(list)
        for f in findings:
            fresh[f.shot].append(f)
        where = {shot for s, shot in self.groups if s == source} | set(fresh) if shots is None else set(shots)
        for shot in where:
            now = tuple(fresh.get(shot, ()))
            if self.groups.get((source, shot), ()) != now:
                self.stamps[source, shot] = self.serial
                self.groups[source, shot] = now

    def need(self, needs: dict[str, ShotPlanned]) -> None:
        for shot, now in needs.items():
            if self.needs.get(shot) is not now and self.needs.get(shot) != now:
                self.stamps[shot] = self.serial
        self.needs = needs


class Findings:
    """What there is to look at in the projects of a running server."""

    def __init__(self, ws: Workspace, live: LiveProjects | None = None) -> None:
        self._ws = ws
        self._live = live or LiveProjects(ws)

    def answer(self, project_id: str, after: str, make: Callable[[FindingsSince], bytes]) -> bytes:
        """What `since` tells, made into an answer once for all who ask for the same. Raises NotThere."""
        with self._up_to_date(project_id) as looked:
            if looked.answers_of != looked.serial:
                looked.answers_of, looked.answers = looked.serial, {}
            known = looked.known(after)
            if known not in looked.answers:
                looked.answers[known] = make(self._since(looked, known))
            return looked.answers[known]

    def since(self, project_id: str, after: str = "") -> FindingsSince:
        """What there is to look at, or what changed of it since an answer with that mark. Raises NotThere."""
        with self._up_to_date(project_id) as looked:
            return self._since(looked, looked.known(after))

    def _since(self, looked: _Looked, known: int) -> FindingsSince:
        assert looked.desk is not None
        return FindingsSince(
            version=looked.desk.rows.version,
            mark=f"{looked.epoch}:{looked.serial}",
            anew=known < 0,
            groups=tuple(
                FindingGroup(source, shot, found_there)
                for (source, shot), found_there in looked.groups.items()
                if (found_there or known >= 0) and looked.stamps[source, shot] > known
            ),
            shots=tuple(n for shot, n in looked.needs.items() if looked.stamps[shot] > known),
            lengths=looked.notes.lengths,
        )

    def of(self, project_id: str, *sources: Source) -> list[Finding]:
        """All findings of some sources, or of all, in the order of the story. Raises NotThere."""
        with self._up_to_date(project_id) as looked:
            assert looked.desk is not None
            order = {shot.id: i for i, shot in enumerate(looked.desk.rows.order)}
            wanted = [
                (order.get(shot or "", -1), group)
                for (source, shot), group in looked.groups.items()
                if not sources or source in sources
            ]
            return [f for _, group in sorted(wanted, key=lambda w: w[0]) for f in group]

    def lengths(self, project_id: str) -> tuple[Lengths, dict[str, ShotPlanned]]:
        """The plan's lengths, and what each shot needs. Raises NotThere."""
        with self._up_to_date(project_id) as looked:
            return looked.notes.lengths, looked.notes.needs

    def brief(self, project_id: str, shot_id: str, profile: str | None = None) -> briefs.ShotBrief:
        """One shot's brief with what is to look at in it. Raises NotThere."""
        with self._up_to_date(project_id) as looked:
            assert looked.desk is not None
            return briefs.at_desk(looked.desk, shot_id, profile)

    def title(self, project_id: str, key: str) -> str | None:
        """What stands under a key, by its words; None for nothing."""
        with self._up_to_date(project_id) as looked:
            for group in looked.groups.values():
                for f in group:
                    if f.key == key:
                        return f.title
            desk = looked.desk
            assert desk is not None
            for profile in profiles_of(desk.project):
                for brief in briefs.all_briefs(desk, profile.name):
                    for f in brief.findings:
                        if f.key == key:
                            return f.title
        return None

    def stet(self, project_id: str, key: str, reason: str, revision: int | None = None) -> Changed:
        """Let a finding stand, with a reason; the reason of one that stands can be changed. Raises NotThere for what nobody found,
        Conflict."""
        return self._decided(project_id, [key], STET, reason, lambda _: revision)

    def decide(
        self,
        project_id: str,
        keys: Sequence[str],
        verdict: str,
        reason: str = "",
        seen: Mapping[str, int] | None = None,
    ) -> Changed:
        """Decide about findings in one step: let them stand, for one reason, or put their shots down for a retake. `seen` are the revisions of what the
        editor knows to be decided, by finding; what somebody else decided meanwhile is a Conflict. Without them it is decided anew. Raises NotThere
        for what nobody found."""
        return self._decided(project_id, keys, verdict, reason, lambda key: None if seen is None else seen.get(key, 0))

    def _decided(
        self, project_id: str, keys: Sequence[str], verdict: str, reason: str, revision: Callable[[str], int | None]
    ) -> Changed:
        reason = " ".join(reason.split()) or (AGAIN if verdict == RETAKE else "")
        if not reason:
            raise NotPossible("Say in a word why it may stand; whoever comes after you will ask.")
        keys = list(dict.fromkeys(keys))
        told = {f.key: f for f in self.of(project_id)}
        titles = {k: told[k].title if k in told else self.title(project_id, k) for k in keys}
        deed = "let stand" if verdict == STET else "put down for a retake"
        what = titles[keys[0]] or "a finding" if len(keys) == 1 else f"{len(keys)} findings"
        with self._ws.writing(project_id, f"{deed}: {what}") as w:
            decided = select(Stet).where(Stet.project_id == project_id, Stet.finding_key.in_(keys))
            rows = {row.finding_key: row for row in w.session.scalars(decided)}
            for key in keys:
                taught = _taught(told.get(key))
                if key in rows:
                    again = taught if not rows[key].term else {}
                    edited(rows[key], revision(key), {"reason": reason, "verdict": verdict, **again})
                elif titles[key] is None:
                    raise NotThere("There is no such finding any more. Check again, and look at what is found now.")
                else:
                    w.add(Stet(project_id=project_id, finding_key=key, reason=reason, verdict=verdict, **taught))
        return w.changed

    def shown(self, project_id: str, show: Callable[[CheckFound, ProjectRows], Shown]) -> Shown:
        """What is made of all that the check found and the project's rows, both of one moment; the rows are nobody else's while this lasts. Raises
        NotThere."""
        with self._up_to_date(project_id) as looked:
            assert looked.desk is not None
            every = tuple(f for (source, _), group in looked.groups.items() if source == "check" for f in group)
            return show(CheckFound(every, looked.within, looked.from_pictures), looked.desk.rows)

    @contextmanager
    def _up_to_date(self, project_id: str) -> Iterator[_Looked]:
        with self._live.at(project_id) as (live, rows, session):
            looked = live.kept(_Looked, lambda: _Looked(follower=live.follow()))
            self._catch_up(session, rows, looked)
            yield looked

    def _catch_up(self, s: Session, rows: ProjectRows, looked: _Looked) -> None:
        desk, touched = looked.desk, looked.follower.take()
        if desk is None or touched is None or measures.are_known(s, measures.FITNESS, desk.unmeasured):
            looked.serial += 1
            self._anew(s, looked, rows)
        elif touched:
            looked.serial += 1
            self._some(s, looked, desk, touched)
        said = showings.mark_of(s, rows.project.id)
        if said != looked.said_at or (touched is None or "shot" in touched or "take" in touched):
            looked.said_at = said
            looked.serial += 1
            looked.put("viewer", showings.findings(s, rows))
        at = s.scalar(select(CheckRun.at).where(CheckRun.project_id == rows.project.id))
        if at != looked.check_at:
            looked.check_at = at
            looked.serial += 1
            outcome = checking.outcome_of(s, rows.project.id)
            looked.put("check", outcome.findings)
            looked.within, looked.from_pictures = outcome.within, outcome.from_pictures

    def _anew(self, s: Session, looked: _Looked, rows: ProjectRows) -> None:
        looked.desk = desk = Desk(s, rows)
        self._look_at_plan(looked, rows, None)
        looked.put("brief", (f for b in briefs.all_briefs(desk) for f in b.findings))
        looked.put("reference", desk.faults)
        looked.put("take", stale_takes(rows))

    def _look_at_plan(self, looked: _Looked, rows: ProjectRows, changed: set[str] | None) -> None:
        shots = looked.notes.look(rows, changed)
        looked.put("plan", looked.notes.findings_at(shots), shots)
        looked.need(looked.notes.needs)

    def _some(self, s: Session, looked: _Looked, desk: Desk, touched: Touched) -> None:
        shots = only_facts(touched)
        if shots is None:
            self._anew(s, looked, desk.rows)
            return
        desk.changed(shots)
        if shots or "text_part" in touched:
            self._look_at_plan(looked, desk.rows, shots)
            places = sorted({i for shot in shots if (i := desk.at.get(shot)) is not None})
            around = sorted({j for i in places for j in (i, i + 1) if j < len(desk.ids)})
            limits = desk.profile()
            findings = [f for i in around for f in briefs.looked_at(desk, i, limits).findings]
            looked.put("brief", findings, [desk.ids[i] for i in around])
        if not STALE_BY.isdisjoint(touched):
            looked.put("take", stale_takes(desk.rows))


def _taught(f: Finding | None) -> dict[str, Any]:
    """What a decision about a finding teaches, as columns of its row: nothing where its kind cannot be learned."""
    term = term_of(f) if f is not None and f.source == "check" else None
    if f is None or term is None:
        return {"thread_id": None, "term": "", "departure": 0.0}
    return {"thread_id": term[0] or None, "term": term[1][:120], "departure": round(min(f.severity, 1e5), 3)}


def unstet(ws: Workspace, project_id: str, stet_id: str) -> Changed:
    """Take back what was decided about a finding."""
    with ws.writing(project_id, "took a decision back") as w:
        row = found(w.session, Stet, stet_id, project_id)
        w.name("took a stet back" if row.verdict == STET else "took a retake back")
        w.erase([row])
    return w.changed


def let_stand(ws: Workspace, project_id: str) -> set[str]:
    """The keys of all findings of a project that were let stand."""
    with ws.database.session() as s:
        stood = select(Stet.finding_key).where(Stet.project_id == project_id, Stet.verdict == STET)
        return set(s.scalars(stood))
