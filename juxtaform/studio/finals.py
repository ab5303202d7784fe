"""The final pass: picked drafts made again in full, and each held against its draft."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from sqlalchemy import select
from sqlalchemy.orm import Session

from juxtaform.core.colour.spaces import Floats
from juxtaform.core.picture.regions import Box
from juxtaform.core.takes.finals import Looked, differences
from juxtaform.media.decode import PictureRefused
from juxtaform.records.models import Picture, Project, Take, Thread
from juxtaform.studio import making, remaking, services
from juxtaform.studio.desk import Desk
from juxtaform.studio.gauging import Gauge, pictured
from juxtaform.studio.plan import in_order
from juxtaform.studio.remaking import Remake
from juxtaform.studio.workspace import Changed, NotPossible, Workspace, found, hold, of_project

SMALL = (48, 32)
"""Width and height in px of the grey pictures that are compared."""


@dataclass(frozen=True)
class FinalView:
    """A final and its draft: what makes it another picture (none: it is the draft in full); `ready` once both are measured."""

    shot_id: str
    number: int
    draft_id: str
    final_id: str
    picked: bool
    ready: bool
    differences: tuple[str, ...]


@dataclass(frozen=True)
class FinalPass:
    """Finals beside their drafts, and the shots whose picked draft has no final yet, with what these would cost."""

    finals: tuple[FinalView, ...]
    drafts: tuple[str, ...]
    credits: float


def look(ws: Workspace, gauge: Gauge, project_id: str) -> FinalPass:
    """How the final pass stands. Raises NotThere."""
    with ws.database.reading() as s:
        found(s, Project, project_id)
        order = {x.id: i + 1 for i, x in enumerate(in_order(s, project_id))}
        its_takes = {t.id: t for t in of_project(s, Take, project_id)}
        names = {t.id: t.name for t in of_project(s, Thread, project_id)}
        price = _price(s, project_id)
        pairs = _pairs(its_takes.values(), its_takes, order)
        sizes = {
            p.sha: p
            for p in s.scalars(select(Picture).where(Picture.sha.in_({t.picture_sha for pair in pairs for t in pair})))
        }
        known = pictured(s, ws, project_id, [t for pair in pairs for t in pair])
    if known.waiting:
        gauge.want(project_id, known.waiting)
    views = []
    for draft, final in pairs:
        told: list[str] = []
        ready = draft.id in known.readings and final.id in known.readings
        if ready:
            looked = []
            for t in (draft, final):
                p = sizes[t.picture_sha]
                boxes = {
                    m.thread_id: Box(m.box.x / p.width, m.box.y / p.height, m.box.w / p.width, m.box.h / p.height)
                    for m in known.stands[t.id]
                }
                looked.append(Looked(known.readings[t.id], boxes, _small(ws, t.picture_sha)))
            told = differences(looked[0], looked[1], names)
        views.append(
            FinalView(final.shot_id, order[final.shot_id], draft.id, final.id, final.picked, ready, tuple(told))
        )
    waiting = _waiting(its_takes.values(), order)
    return FinalPass(tuple(views), tuple(waiting), price * len(waiting))


def begin(
    ws: Workspace, project_id: str, shot_ids: Sequence[str] | None = None, service_id: str | None = None
) -> list[str]:
    """Ask for the finals of picked drafts, of some shots or of all that have none; returns the jobs. Raises NotPossible when there is none."""
    with ws.database.session() as s:
        hold(s, project_id)
        order = {x.id: i + 1 for i, x in enumerate(in_order(s, project_id))}
        its_takes = {t.id: t for t in of_project(s, Take, project_id)}
        waiting = [i for i in _waiting(its_takes.values(), order) if shot_ids is None or i in set(shot_ids)]
        if not waiting:
            raise NotPossible("No picked draft waits for its final. Pick drafts that a service made.")
        desk, heights = Desk.read(s, project_id), making.figure_heights(s, project_id)
        jobs = []
        for shot_id in waiting:
            draft = next(t for t in its_takes.values() if t.shot_id == shot_id and t.picked)
            made = draft.made_from["made"]
            service, can = services.offered(s, project_id, service_id or making.service_of(s, project_id, made))
            model = can.model(made["model"]) or can.model("")
            if model is None or not any(q.id == "final" for q in model.qualities):
                raise NotPossible(f"{service.name} makes no finals. Choose another service.")
            wanted = Remake(draft.id, 1, service.id, model.id, "final", same_seed=True)
            jobs += remaking.remade(s, desk, draft, wanted, service, model, heights)
        making.queued(s, project_id, jobs)
        ids = [j.id for j in jobs]
    ws.listeners.wake(project_id)
    return ids


def pick_same(ws: Workspace, gauge: Gauge, project_id: str) -> Changed:
    """Pick every final that is its draft in full. Raises NotPossible when there is none."""
    same = [v for v in look(ws, gauge, project_id).finals if v.ready and not v.differences and not v.picked]
    if not same:
        raise NotPossible("No final that holds waits to be picked.")
    with ws.writing(project_id, f"picked {len(same)} {'final' if len(same) == 1 else 'finals'}") as w:
        for view in same:
            for t in w.session.scalars(select(Take).where(Take.shot_id == view.shot_id)):
                t.picked = t.id == view.final_id
            found(w.session, Take, view.final_id, project_id)
    return w.changed


def _is_draft(t: Take) -> bool:
    return (t.made_from.get("made") or {}).get("quality") == "draft"


def _pairs(takes: Iterable[Take], by_id: Mapping[str, Take], order: Mapping[str, int]) -> list[tuple[Take, Take]]:
    """Drafts with the latest final that was made of each, in the order of the story."""
    latest: dict[str, Take] = {}
    for t in sorted(takes, key=lambda t: t.position):
        made = t.made_from.get("made") or {}
        parent = by_id.get(t.parent_id or "")
        if (
            made.get("quality") == "final"
            and parent is not None
            and _is_draft(parent)
            and t.shot_id in order
            and t.standing != "out"
        ):
            latest[parent.id] = t
    return sorted(((by_id[d], f) for d, f in latest.items()), key=lambda pair: order[pair[1].shot_id])


def _waiting(takes: Iterable[Take], order: Mapping[str, int]) -> list[str]:
    """Shots whose picked take is a draft without a final."""
    takes = list(takes)
    done = {
        t.parent_id for t in takes if (t.made_from.get("made") or {}).get("quality") == "final" and t.standing != "out"
    }
    return sorted(
        (t.shot_id for t in takes if t.picked and _is_draft(t) and t.id not in done and t.shot_id in order),
        key=lambda i: order[i],
    )


def _price(s: Session, project_id: str) -> float:
    try:
        _, can = services.offered(s, project_id, making.service_of(s, project_id, {}))
    except NotPossible:
        return 0.0
    return can.models[0].quality("final").credits


def _small(ws: Workspace, sha: str) -> Floats:
    try:
        pixels = ws.store.small(sha, 240)
    except PictureRefused:
        return np.zeros(SMALL[::-1])
    return np.asarray(
        cv2.resize(cv2.cvtColor(pixels, cv2.COLOR_RGB2GRAY), SMALL, interpolation=cv2.INTER_AREA), dtype=np.float64
    )
