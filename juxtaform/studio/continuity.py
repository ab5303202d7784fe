"""A thread's lineup: every appearance beside its anchor, in shot order, with its drift and its traits."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy import select

from juxtaform.core.findings import StylePoint
from juxtaform.core.identity import TraitReading
from juxtaform.core.light import SceneLight
from juxtaform.core.regions import Box
from juxtaform.core.traits import figure_extent
from juxtaform.records.models import Reference, Take, Thread
from juxtaform.studio import checking
from juxtaform.studio.editions import current
from juxtaform.studio.workspace import Workspace, found


@dataclass(frozen=True)
class Anchor:
    """The reference view that counts as true, for one costume: its picture and the figure's box on it."""

    costume: str
    name: str
    sha: str
    box: Box


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
        LineupCell(
            p.shot, shas[p.shot], p.mark.box, p.mark.costume, p.appearance.distance, p.verdict, p.appearance.traits,
            p.appearance.light, p.appearance.light.words(), p.appearance.nearest_view,
        )
        for p in state.figures if p.shot in shas
    ]  # fmt: skip
    return Lineup(thread_id, anchors, tuple(cells), state.change, state.begins, state.back_to)


def _style_cell(point: StylePoint, sha: str) -> LineupCell:
    return LineupCell(point.shot, sha, None, "", point.distance, point.verdict, foremost=point.foremost)


def _anchors(ws: Workspace, kind: str, references: list[Reference]) -> tuple[Anchor, ...]:
    """Of each costume the view that is its anchor, else the heaviest."""
    found_: dict[str, Reference] = {}
    for reference in references:
        held = found_.get(reference.costume)
        if held is None or (reference.anchor, reference.weight) > (held.anchor, held.weight):
            found_[reference.costume] = reference
    anchors = []
    for costume, reference in found_.items():
        pixels = ws.store.pixels(reference.picture_sha)
        whole = Box(0, 0, pixels.shape[1], pixels.shape[0])
        box = figure_extent(pixels) if kind in ("character", "prop") else whole
        anchors.append(Anchor(costume, reference.name, reference.picture_sha, box))
    return tuple(anchors)
