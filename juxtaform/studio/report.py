"""The continuity report of a project: what the check found, in the order of a review, with pictures and what was decided."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from juxtaform.core.findings import Finding
from juxtaform.formats.continuity_report import (
    ContinuityReport,
    ReportEntry,
    ReportPart,
    ReportPicture,
    report_html,
    report_pdf,
)
from juxtaform.media.store import THUMB_SIDES
from juxtaform.records.models import STET, Project, Stet, Take
from juxtaform.studio import checking, clips
from juxtaform.studio.findings import AGAIN, Findings
from juxtaform.studio.review import review
from juxtaform.studio.rows import ProjectRows
from juxtaform.studio.workspace import NotPossible, NotThere, Workspace, found

PLAIN_S = 0.4
"""What slips in a clip is plain so much later."""


@dataclass(frozen=True)
class Report:
    """A report's file: its bytes, media type and the name to keep it under."""

    data: bytes
    media_type: str
    name: str


def as_pdf(ws: Workspace, findings: Findings, project_id: str) -> Report:
    """The report as PDF. Raises NotThere."""
    made = composed(ws, findings, project_id)
    return Report(report_pdf(made), "application/pdf", f"{made.title}, continuity.pdf")


def as_html(ws: Workspace, findings: Findings, project_id: str) -> Report:
    """The report as one HTML file. Raises NotThere."""
    made = composed(ws, findings, project_id)
    return Report(report_html(made).encode(), "text/html", f"{made.title}, continuity.html")


def composed(ws: Workspace, findings: Findings, project_id: str) -> ContinuityReport:
    """The report as it stands. Raises NotThere."""
    status = checking.status(ws, project_id)
    if status.at is None or status.state == "never":
        with ws.database.reading() as s:
            title = found(s, Project, project_id).title
        unchecked = "Nothing was checked yet. Check the pictures, then make the report again."
        return ContinuityReport(title, (), (), nothing=unchecked)
    seen = review(findings, project_id)
    by_key = {f.key: f for f in findings.of(project_id, "check")}
    with ws.database.reading() as s:
        rows = ProjectRows(s, project_id)
        outcome = checking.outcome_of(s, project_id)
    page = _Page(ws, rows)
    parts = tuple(
        ReportPart(g.title, g.why, tuple(page.entry(by_key[k]) for k in g.keys if k in by_key)) for g in seen.groups
    )
    stood = sum(1 for x in rows.stets.values() if x.finding_key in by_key and x.verdict == STET)
    again = sum(1 for x in rows.stets.values() if x.finding_key in by_key and x.verdict != STET)
    open_ = len(by_key) - stood - again
    pictured = sum(1 for t in rows.takes.values() if t.picked)
    facts = (
        f"Checked on {status.at:%d %B %Y}: {pictured} pictures of {len(rows.order)} shots.",
        f"{len(by_key)} {'finding' if len(by_key) == 1 else 'findings'}: {stood} let stand, {again} to be made again, {open_} open.",
    )
    told = {f.thread for f in by_key.values()}
    holds = tuple(
        f"{rows.threads[t].name} holds in {n} {'picture' if n == 1 else 'pictures'}."
        for t, state in outcome.result.threads.items()
        if t in rows.threads and t not in told and (n := state.measured)
    )
    return ContinuityReport(rows.project.title, facts, parts, holds, tuple(b.words for b in seen.bands if b.used))


class _Page:
    """Entries of one project's report."""

    def __init__(self, ws: Workspace, rows: ProjectRows) -> None:
        self._ws, self._rows = ws, rows
        self._numbers = {shot.id: i + 1 for i, shot in enumerate(rows.order)}
        self._picked: Mapping[str, Take] = {t.shot_id: t for t in rows.takes.values() if t.picked}
        self._decided: Mapping[str, Stet] = {x.finding_key: x for x in rows.stets.values()}

    def entry(self, f: Finding) -> ReportEntry:
        shot = f"Shot {self._numbers.get(f.shot or '', '?')}"
        if f.until in self._numbers and f.until != f.shot:
            shot = f"Shots {self._numbers.get(f.shot or '', '?')} to {self._numbers[f.until]}"
        said = _said(self._decided.get(f.key))
        return ReportEntry(shot, f.title, f.advice, f.evidence, tuple(self._pictures(f)), said)

    def _pictures(self, f: Finding) -> list[ReportPicture]:
        if f.at_s is not None:
            return [p for p in (self._of_shot(f.shot or ""), self._of_clip(f.shot or "", f.at_s)) if p is not None]
        first = self._reference(f)
        if f.before is not None or f.back_to is not None:
            first = self._of_shot(f.before or f.back_to or "")
        own = self._of_shot(f.shot or "", f)
        return [p for p in (first, own) if p is not None]

    def _of_shot(self, shot: str, f: Finding | None = None) -> ReportPicture | None:
        take = self._picked.get(shot)
        if take is None:
            return None
        box = None
        picture = self._rows.pictures.get(take.picture_sha)
        if f is not None and f.region is not None and picture is not None:
            r = f.region
            box = (r.x / picture.width, r.y / picture.height, r.w / picture.width, r.h / picture.height)
        return self._shown(take.picture_sha, f"Shot {self._numbers.get(shot, '?')}", box)

    def _of_clip(self, shot: str, at_s: float) -> ReportPicture | None:
        """A shot's clip a little after a time: what slips there is plain by then."""
        take = self._picked.get(shot)
        if take is None:
            return None
        later = at_s + PLAIN_S
        try:
            return ReportPicture(
                clips.frame(self._ws, take.picture_sha, later, THUMB_SIDES[-1]), f"At {later:.1f} s", None
            )
        except (NotThere, NotPossible):
            return None

    def _reference(self, f: Finding) -> ReportPicture | None:
        """The reference that a finding on a thread is held against: the anchor in the costume or variant of the shot."""
        bead = next((b for b in self._rows.beads.values() if b.shot_id == f.shot and b.thread_id == f.thread), None)
        own = [r for r in self._rows.references.values() if r.thread_id == f.thread]
        worn = [r for r in own if r.costume == (bead.costume if bead else "")] or own
        best = max(worn, key=lambda r: (r.anchor, r.weight), default=None)
        return self._shown(best.picture_sha, f"Reference: {best.name}", None) if best else None

    def _shown(self, sha: str, caption: str, box: tuple[float, float, float, float] | None) -> ReportPicture | None:
        try:
            return ReportPicture(self._ws.store.thumb_path(sha, THUMB_SIDES[-1]).read_bytes(), caption, box)
        except OSError:
            return None


def _said(decided: Stet | None) -> str:
    if decided is None:
        return ""
    if decided.verdict == STET:
        return f"Let stand: {decided.reason}"
    return "To be made again." if decided.reason == AGAIN else f"To be made again: {decided.reason}"
