"""How well reference pictures serve, each judged with the thread's other pictures."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from sqlalchemy.orm import Session

from juxtaform.core.brief.references import disagreement, faults, odd_for_style, odd_in_style
from juxtaform.core.brief.versions import Editions
from juxtaform.core.colour.spaces import linear_from_hex
from juxtaform.core.findings import Finding, key_of
from juxtaform.core.picture.fitness import Fitness
from juxtaform.records.models import Project, Reference, Thread, Trait
from juxtaform.studio import measures, plan
from juxtaform.studio.editions import editions_of
from juxtaform.studio.workspace import Workspace, found, of_project


@dataclass(frozen=True)
class Fit:
    """Why a reference cannot serve well; nothing when it can."""

    reference_id: str
    faults: tuple[Finding, ...]


@dataclass(frozen=True)
class JudgedBy:
    """What references are judged by: rows of their project, and which versions of them hold together."""

    project: Project
    threads: Sequence[Thread]
    references: Sequence[Reference]
    traits: Sequence[Trait]
    editions: Editions


def of_thread(ws: Workspace, project_id: str, thread_id: str) -> list[Fit]:
    """The fitness of all references of a thread, measured where needed. Raises NotThere."""
    with ws.database.session() as s:
        found(s, Thread, thread_id, project_id)
        rows = _judged_by(s, project_id)
    shas = {r.picture_sha for r in rows.references if r.thread_id in (thread_id, guiding_style(rows))}
    measures.measure(ws, measures.OF_REFERENCES, shas)
    with ws.database.session() as s:
        ids = {r.id for r in rows.references if r.thread_id == thread_id}
        return [f for f in judged(s, rows) if f.reference_id in ids]


def guiding_style(rows: JudgedBy) -> str | None:
    """The style that references will stand in: the project's usual one, else the only one."""
    styles = [t.id for t in rows.threads if t.kind == "style"]
    return rows.project.style_id or (styles[0] if len(styles) == 1 else None)


def _judged_by(s: Session, project_id: str) -> JudgedBy:
    rows = of_project(s, Reference, project_id)
    editions = editions_of(rows, [x.id for x in plan.in_order(s, project_id)])
    threads, traits = of_project(s, Thread, project_id), of_project(s, Trait, project_id)
    return JudgedBy(found(s, Project, project_id), threads, rows, traits, editions)


def judged(session: Session, rows: JudgedBy) -> list[Fit]:
    """The fitness of references as far as they have been measured, each beside those that hold together with it."""
    known = measures.known(session, measures.FITNESS, {r.picture_sha for r in rows.references})
    output_px = next(
        (p.get("picture_side_px", 0) for p in rows.project.profiles if p["name"] == rows.project.profile), 0
    )
    guide = guiding_style(rows)
    of_guide = [r for r in rows.references if r.thread_id == guide and rows.editions.newest(r.id)]
    style = [known[r.picture_sha] for r in of_guide if r.picture_sha in known]
    out = []
    for thread in rows.threads:
        own = [r for r in rows.references if r.thread_id == thread.id and r.picture_sha in known]
        for r in own:
            found_faults = faults(known[r.picture_sha], thread.kind, output_px, r.view)
            beside = [o for o in own if o.id != r.id and o.costume == r.costume and rows.editions.together(o.id, r.id)]
            if thread.kind == "style":
                found_faults += odd_in_style(known[r.picture_sha], [known[o.picture_sha] for o in beside])
            else:
                found_faults += odd_for_style(known[r.picture_sha], thread.kind, style)
            found_faults += _disagreements(r, beside, rows.traits, known)
            out.append(Fit(r.id, tuple(_about(f, r) for f in found_faults)))
    return out


def _about(fault: Finding, r: Reference) -> Finding:
    """A fault of a reference with whose it is; it says the same while the picture, its part and the words are the same."""
    key = key_of("reference", r.id, r.picture_sha, r.view, fault.kind, fault.title)
    return replace(fault, thread=r.thread_id, reference=r.id, key=key)


def _disagreements(
    own: Reference, others: Sequence[Reference], traits: Sequence[Trait], known: dict[str, Fitness]
) -> list[Finding]:
    """Traits read from other views whose colour is nowhere on this one; a back view has no face."""
    ids = {o.id for o in others}
    disagreements = []
    for t in traits:
        if t.reference_id not in ids or t.free or not t.colours or (own.view == "back" and t.part == "face"):
            continue
        if own.view in ("expression", "detail") and t.part == "outfit":
            continue
        colours = np.array([linear_from_hex(code) for code in t.colours])
        fault = disagreement(t.name, colours, known[own.picture_sha], own.view or own.name)
        if fault is not None:
            disagreements.append(fault)
    return disagreements
