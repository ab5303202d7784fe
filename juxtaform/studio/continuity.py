"""A thread's lineup: every appearance beside its anchor, in shot order, with its drift and its traits."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass

from sqlalchemy import select

from juxtaform.core.check.states import FigurePoint, StylePoint
from juxtaform.core.colour.light import SceneLight
from juxtaform.core.figure.evidence import laid
from juxtaform.core.figure.reading import TraitReading
from juxtaform.core.figure.traits import look_box
from juxtaform.core.picture.regions import Box, cut_out
from juxtaform.records.models import Picture, Reference, Take, Thread
from juxtaform.studio import checking, measures
from juxtaform.studio.editions import current
from juxtaform.studio.workspace import NotThere, Workspace, found


@dataclass(frozen=True)
class Anchor:
    """The reference view that counts as true, for one costume: its picture and the figure's box on it."""

    costume: str
    name: str
    sha: str
    box: Box


@dataclass(frozen=True)
class LaidKey:
    """Tells that a figure was laid over a reference: `reference` is that reference's picture, `key` changes with what was measured."""

    reference: str
    key: str


@dataclass(frozen=True)
class LineupCell:
    """One shot on the thread: its picture, the figure's box (none for a style), distance, verdict, traits, light."""

    shot_id: str
    sha: str
    box: Box | None
    costume: str
    distance: float
    verdict: str
    traits: tuple[TraitReading, ...] = ()
    light: SceneLight | None = None
    light_words: str = ""
    nearest_view: str = ""
    foremost: tuple[tuple[str, float], ...] = ()
    laid: LaidKey | None = None


@dataclass(frozen=True)
class Lineup:
    """A thread side by side; `begins` is the shot where a lasting change begins."""

    thread_id: str
    anchors: tuple[Anchor, ...]
    cells: tuple[LineupCell, ...]
    change: str | None
    begins: str | None
    back_to: str | None


def lineup(ws: Workspace, project_id: str, thread_id: str) -> Lineup:
    """The lineup of a thread as of the latest finished check. Raises NotThere."""
    state = checking.outcome(ws, project_id).result.threads.get(thread_id)
    with ws.database.session() as s:
        thread = found(s, Thread, thread_id, project_id)
        anchors = _anchors(ws, thread.kind, current(s, project_id, thread_id))
        picked = select(Take.shot_id, Take.picture_sha).where(Take.project_id == project_id, Take.picked)
        shas = dict(s.execute(picked).tuples().all())
    if state is None:
        return Lineup(thread_id, anchors, (), None, None, None)
    cells = [_style_cell(p, shas[p.shot]) for p in state.style if p.shot in shas]
    cells += [
        LineupCell(p.shot, shas[p.shot], None, p.variant, p.distance, p.verdict) for p in state.places if p.shot in shas
    ]
    cells += [
        LineupCell(
            p.shot,
            shas[p.shot],
            p.mark.box,
            p.mark.costume,
            p.distance,
            p.verdict,
            p.appearance.traits,
            p.appearance.light,
            p.appearance.light.words(),
            p.appearance.nearest_view,
            laid=_laid_key(p),
        )
        for p in state.figures
        if p.shot in shas
    ]
    return Lineup(thread_id, anchors, tuple(cells), state.change, state.begins, state.back_to)


def laid_over(ws: Workspace, project_id: str, thread_id: str, shot_id: str) -> bytes:
    """A figure's evidence as WebP, three squares side by side: its reference, its picture laid over it, and where both differ. Raises
    NotThere for a figure that was not laid over a reference by the latest check."""
    state = checking.outcome(ws, project_id).result.threads.get(thread_id)
    with ws.database.session() as s:
        found(s, Thread, thread_id, project_id)
        picked = select(Take.picture_sha).where(Take.project_id == project_id, Take.shot_id == shot_id, Take.picked)
        sha = s.scalars(picked).first()
    point = next((p for p in state.figures if p.shot == shot_id), None) if state else None
    who = point.appearance.identity if point else None
    if point is None or who is None or who.evidence is None or sha is None:
        raise NotThere("This figure was not laid over a reference. Check again.")
    try:
        reference = ws.store.pixels(who.reference)
        shown = laid(cut_out(reference, look_box(reference)), ws.store.pixels(sha), point.mark.box, who.evidence)
    except (KeyError, OSError, ValueError) as error:
        raise NotThere("The picture was replaced since the check. Check again.") from error
    return ws.store.as_webp(shown.strip)


def _laid_key(point: FigurePoint) -> LaidKey | None:
    who = point.appearance.identity
    if who is None or who.evidence is None:
        return None
    depends_on = f"{who.reference} {point.mark.box} {who.evidence.affine}"
    return LaidKey(who.reference, hashlib.sha256(depends_on.encode()).hexdigest()[:12])


def _style_cell(point: StylePoint, sha: str) -> LineupCell:
    return LineupCell(point.shot, sha, None, "", point.distance, point.verdict, foremost=point.foremost)


def _anchors(ws: Workspace, kind: str, references: list[Reference]) -> tuple[Anchor, ...]:
    """Of each costume the view that is its anchor, else the heaviest."""
    found_: dict[str, Reference] = {}
    for reference in references:
        best = found_.get(reference.costume)
        if best is None or (reference.anchor, reference.weight) > (best.anchor, best.weight):
            found_[reference.costume] = reference
    shas = [r.picture_sha for r in found_.values()]
    stances = measures.of(ws, measures.STANCE, shas) if kind in ("character", "prop") else {}
    with ws.database.session() as s:
        sizes = {p.sha: (p.width, p.height) for p in s.scalars(select(Picture).where(Picture.sha.in_(shas)))}
    boxes = {sha: stances[sha].box(*sizes[sha]) if sha in stances else Box(0, 0, *sizes[sha]) for sha in shas}
    anchors = []
    for costume, reference in found_.items():
        anchors.append(Anchor(costume, reference.name, reference.picture_sha, boxes[reference.picture_sha]))
    return tuple(anchors)
