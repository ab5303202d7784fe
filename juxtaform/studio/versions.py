"""Versions of references: replacing one from a shot on, what that makes stale, and what is stale now."""

from __future__ import annotations

from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session

from juxtaform.core.findings import Finding, key_of
from juxtaform.records.models import Bead, Picture, Project, Reference, Shot, Take, Thread, Trait
from juxtaform.studio import measures, plan
from juxtaform.studio.editions import editions_of, in_force
from juxtaform.studio.rows import ProjectRows
from juxtaform.studio.workspace import Changed, NotPossible, Workspace, Writing, found, of_project, stored


def made_from(session: Session, project: Project, shot_ids: Sequence[str]) -> dict[str, list[str]]:
    """For each shot the ids of the references that a picture made now would be made from."""
    order = [s.id for s in plan.in_order(session, project.id)]
    index = {shot: i for i, shot in enumerate(order)}
    references = of_project(session, Reference, project.id)
    editions = editions_of(references, order)
    by_thread: dict[str, list[Reference]] = {}
    for r in references:
        by_thread.setdefault(r.thread_id, []).append(r)
    out: dict[str, list[str]] = {shot: [] for shot in shot_ids}
    for bead in session.scalars(select(Bead).where(Bead.project_id == project.id, Bead.shot_id.in_(shot_ids))):
        own = in_force(by_thread.get(bead.thread_id, []), editions, index[bead.shot_id], bead, bead.costume)
        out[bead.shot_id] += [r.id for r in own]
    return out


def replace_reference(
    ws: Workspace, project_id: str, reference_id: str, sha: str, name: str, from_shot_id: str | None
) -> Changed:
    """Put a new version in a reference's place, everywhere or from a shot on; the old one is kept. Its traits are copied
    when both pictures have the same form; marks in pictures stay as they are."""
    with ws.writing(project_id, "replaced a reference") as w:
        old = found(w.session, Reference, reference_id, project_id)
        thread = found(w.session, Thread, old.thread_id)
        stored(w.session, "The new picture", sha)
        if sha == old.picture_sha:
            raise NotPossible("This is the same picture. Choose another one.")
        if w.session.scalars(
            select(Reference).where(Reference.replaces_id == reference_id, Reference.from_shot_id == from_shot_id)
        ).first():
            raise NotPossible("This version has a newer one already. Replace the newest.")
        where = (
            "everywhere"
            if from_shot_id is None
            else f"from {plan.called(w.session, found(w.session, Shot, from_shot_id, project_id))} on"
        )
        w.name(f"replaced {thread.name}, {old.name}, {where}")
        fresh = Reference(
            project_id=project_id,
            thread_id=old.thread_id,
            picture_sha=sha,
            name=old.name or name[:120],
            costume=old.costume,
            weight=old.weight,
            position=old.position,
            view=old.view,
            anchor=old.anchor,
            replaces_id=old.id,
            from_shot_id=from_shot_id,
        )
        w.add(fresh)
        _copy_traits(w, old, fresh)
    measures.measure(ws, measures.OF_REFERENCES, [sha])
    return w.changed


def would_be_stale(ws: Workspace, project_id: str, reference_id: str, from_shot_id: str | None) -> list[str]:
    """The shots whose picked pictures would become stale if a reference were replaced, in order."""
    with ws.database.session() as s:
        reference = found(s, Reference, reference_id, project_id)
        order = [x.id for x in plan.in_order(s, project_id)]
        index = {shot: i for i, shot in enumerate(order)}
        first = index.get(from_shot_id or "", 0)
        editions = editions_of(of_project(s, Reference, project_id), order)
        hit = {
            t.shot_id
            for t in s.scalars(select(Take).where(Take.project_id == project_id, Take.picked))
            if index.get(t.shot_id, -1) >= first
            and any(editions.at(r, index[t.shot_id]) == reference.id for r in t.made_from.get("references", ()))
        }
        return [shot for shot in order if shot in hit]


def stale_takes(rows: ProjectRows) -> list[Finding]:
    """Picked takes that were made from an older version of a reference than holds at their shot."""
    references = rows.references
    if not any(r.replaces_id for r in references.values()):
        return []
    order = [s.id for s in rows.order]
    editions, index = editions_of(references.values(), order), {shot: i for i, shot in enumerate(order)}
    out = []
    for t in [t for t in rows.takes.values() if t.picked]:
        for old, new in editions.stale(t.made_from.get("references", ()), index.get(t.shot_id, 0)):
            thread = rows.threads[references[old].thread_id]
            out.append(
                Finding(
                    source="take",
                    kind="stale_take",
                    title=f"The picked picture was made from an older {thread.name}",
                    advice="Make it again from the newest reference, or let it stand.",
                    shot=t.shot_id,
                    take=t.id,
                    thread=thread.id,
                    reference=new,
                    key=key_of(f"{t.id} {old} {new}"),
                )
            )
    return sorted(out, key=lambda f: (index.get(f.shot or "", 0), f.thread or ""))


def _copy_traits(w: Writing, old: Reference, fresh: Reference) -> None:
    a, b = found(w.session, Picture, old.picture_sha), found(w.session, Picture, fresh.picture_sha)
    if abs((a.width / a.height) / (b.width / b.height) - 1) > 0.03:
        return
    f = b.width / a.width
    w.add(
        *(
            Trait(
                project_id=t.project_id,
                thread_id=t.thread_id,
                reference_id=fresh.id,
                name=t.name,
                part=t.part,
                colours=list(t.colours),
                x=t.x * f,
                y=t.y * f,
                w=t.w * f,
                h=t.h * f,
                position=t.position,
                outline=[[x * f, y * f] for x, y in t.outline] if t.outline else None,
                tolerance=t.tolerance,
                free=t.free,
                body_x=t.body_x,
                body_y=t.body_y,
            )
            for t in w.session.scalars(select(Trait).where(Trait.reference_id == old.id))
        )
    )
