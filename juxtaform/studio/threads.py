"""Threads: characters, settings, styles and props, with reference pictures and traits; and where they run."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from sqlalchemy import select

from juxtaform.core.colour.palette import palette_of_palettes
from juxtaform.core.colour.spaces import hex_from_linear, linear_from_hex
from juxtaform.core.figure.traits import colours_in
from juxtaform.core.picture.regions import Box
from juxtaform.records.models import Bead, Mark, Picture, Project, Reference, Shot, Sound, Thread, Trait, Trial
from juxtaform.studio import measures
from juxtaform.studio.editions import current
from juxtaform.studio.workspace import (
    Changed,
    NotPossible,
    NotThere,
    Row,
    Workspace,
    Writing,
    edited,
    found,
    of_project,
    stored,
)

KINDS = ("character", "setting", "style", "prop")


def make(ws: Workspace, project_id: str, kind: str, name: str) -> Changed:
    """A new thread."""
    name = " ".join(name.split())[:120]
    if not name:
        raise NotPossible("Give it a name first.")
    with ws.writing(project_id, f"made {name}") as w:
        last = [t.position for t in of_project(w.session, Thread, project_id)]
        w.add(Thread(project_id=project_id, kind=kind, name=name, position=max(last, default=-1.0) + 1))
    return w.changed


def edit(ws: Workspace, project_id: str, thread_id: str, values: Row, revision: int | None) -> Changed:
    with ws.writing(project_id, "edited a thread") as w:
        thread = found(w.session, Thread, thread_id, project_id)
        w.name(f"edited {thread.name}")
        if values.get("owner_id"):
            found(w.session, Thread, values["owner_id"], project_id)
        edited(thread, revision, values)
    return w.changed


def remove(ws: Workspace, project_id: str, thread_id: str) -> Changed:
    """Delete a thread with its references, traits, beads and marks."""
    with ws.writing(project_id, "deleted a thread") as w:
        thread = found(w.session, Thread, thread_id, project_id)
        w.name(f"deleted {thread.name}")
        for model in (Mark, Bead, Trait, Reference):
            w.erase(list(w.session.scalars(select(model).where(model.thread_id == thread_id))))
        project = found(w.session, Project, project_id)
        if project.style_id == thread_id:
            project.style_id = None
        for other in of_project(w.session, Thread, project_id):
            if other.owner_id == thread_id:
                other.owner_id = None
            if any(k["thread_id"] == thread_id for k in other.kept_colours):
                other.kept_colours = [k for k in other.kept_colours if k["thread_id"] != thread_id]
        for trial in w.session.scalars(select(Trial).where(Trial.thread_id == thread_id)):
            trial.thread_id = None
        for said in w.session.scalars(select(Sound).where(Sound.thread_id == thread_id)):
            said.thread_id = None
        w.erase([thread])
    return w.changed


def add_references(
    ws: Workspace, project_id: str, thread_id: str, pictures: Sequence[tuple[str, str]], costume: str
) -> Changed:
    """Add stored pictures, as (digest, name), to a thread, and measure how fit they are: preflight asks for it."""
    with ws.writing(project_id, "added references") as w:
        thread = found(w.session, Thread, thread_id, project_id)
        stored(w.session, "The reference picture", *(sha for sha, _ in pictures))
        count = len(pictures)
        w.name(f"added {count} {'reference' if count == 1 else 'references'} to {thread.name}")
        positions = list(w.session.scalars(select(Reference.position).where(Reference.thread_id == thread_id)))
        first = max(positions, default=-1.0) + 1
        w.add(
            *(
                Reference(
                    project_id=project_id,
                    thread_id=thread_id,
                    picture_sha=sha,
                    name=name[:120],
                    costume=costume[:80],
                    position=first + i,
                )
                for i, (sha, name) in enumerate(pictures)
            )
        )
    measures.measure(ws, measures.OF_REFERENCES, [sha for sha, _ in pictures])
    return w.changed


def edit_reference(ws: Workspace, project_id: str, reference_id: str, values: Row, revision: int | None) -> Changed:
    with ws.writing(project_id, "edited a reference") as w:
        reference = found(w.session, Reference, reference_id, project_id)
        if values.get("anchor"):
            w.name(f"made {reference.name} the anchor")
            same = select(Reference).where(
                Reference.thread_id == reference.thread_id,
                Reference.costume == reference.costume,
                Reference.id != reference_id,
            )
            for other in w.session.scalars(same):
                other.anchor = False
        edited(reference, revision, values)
    return w.changed


def remove_reference(ws: Workspace, project_id: str, reference_id: str) -> Changed:
    """Delete a reference with the traits that were read from it."""
    with ws.writing(project_id, "deleted a reference") as w:
        reference = found(w.session, Reference, reference_id, project_id)
        w.erase(list(w.session.scalars(select(Trait).where(Trait.reference_id == reference_id))))
        for bead in w.session.scalars(select(Bead).where(Bead.reference_id == reference_id)):
            bead.reference_id = None
        for newer in w.session.scalars(select(Reference).where(Reference.replaces_id == reference_id)):
            newer.replaces_id = reference.replaces_id
        w.session.flush()
        w.erase([reference])
    return w.changed


def colours(
    ws: Workspace, project_id: str, reference_id: str, box: Box, outline: Sequence[tuple[float, float]] | None = None
) -> list[tuple[str, float]]:
    """The main colours inside a box, or an outline within it, on a reference, as (hex, share)."""
    with ws.database.session() as s:
        sha = found(s, Reference, reference_id, project_id).picture_sha
    try:
        found_there = colours_in(ws.store.pixels(sha), box, tuple(outline or ()))
        return [(hex_from_linear(c), round(share, 3)) for c, share in found_there]
    except ValueError as error:
        raise NotPossible(str(error)) from error


def add_trait(
    ws: Workspace,
    project_id: str,
    reference_id: str,
    name: str,
    part: str,
    box: Box,
    hexes: list[str],
    outline: Sequence[tuple[float, float]] | None = None,
) -> Changed:
    """A trait on a reference picture; without colours the main ones inside its box are taken."""
    chosen = _checked(hexes) or [code for code, _ in colours(ws, project_id, reference_id, box, outline)]
    with ws.writing(project_id, f"added the trait {name}") as w:
        reference = found(w.session, Reference, reference_id, project_id)
        positions = list(w.session.scalars(select(Trait.position).where(Trait.thread_id == reference.thread_id)))
        w.add(
            Trait(
                project_id=project_id,
                thread_id=reference.thread_id,
                reference_id=reference_id,
                name=name[:80],
                part=part,
                colours=chosen,
                x=box.x,
                y=box.y,
                w=box.w,
                h=box.h,
                position=max(positions, default=-1.0) + 1,
                outline=[list(p) for p in outline] if outline else None,
            )
        )
    return w.changed


def edit_trait(ws: Workspace, project_id: str, trait_id: str, values: Row, revision: int | None) -> Changed:
    if "colours" in values:
        values = {**values, "colours": _checked(values["colours"])}
    with ws.writing(project_id, "edited a trait") as w:
        trait = found(w.session, Trait, trait_id, project_id)
        w.name(f"edited the trait {trait.name}")
        edited(trait, revision, values)
    return w.changed


def remove_trait(ws: Workspace, project_id: str, trait_id: str) -> Changed:
    with ws.writing(project_id, "deleted a trait") as w:
        trait = found(w.session, Trait, trait_id, project_id)
        w.name(f"deleted the trait {trait.name}")
        w.erase([trait])
    return w.changed


def assign(ws: Workspace, project_id: str, thread_id: str, shot_ids: Sequence[str], *, on: bool) -> Changed:
    """Let a thread run through shots, or clear it from them."""
    with ws.writing(project_id, "assigned") as w:
        thread = found(w.session, Thread, thread_id, project_id)
        count = len(shot_ids)
        w.name(f"{'assigned' if on else 'cleared'} {thread.name}, {count} {'shot' if count == 1 else 'shots'}")
        own = set(w.session.scalars(select(Shot.id).where(Shot.project_id == project_id, Shot.id.in_(shot_ids))))
        here = [i for i in dict.fromkeys(shot_ids) if i in own]
        if not here:
            raise NotThere("These shots are not there any more. Somebody may have deleted them; undo brings them back.")
        beads = _beads(w, thread_id, here)
        if on and thread.kind == "style":
            w.erase(other_styles(w, thread, here))
        if on:
            w.add(*(Bead(project_id=project_id, shot_id=i, thread_id=thread_id) for i in here if i not in beads))
        else:
            w.erase(list(beads.values()))
    return w.changed


def set_beads(
    ws: Workspace,
    project_id: str,
    thread_id: str,
    shot_ids: Sequence[str],
    values: Row,
    revisions: Mapping[str, int] | None = None,
) -> Changed:
    """Set hold, weight, costume or view of a thread's beads over some shots; `revisions` of beads by id, as the editor saw them.
    Raises Conflict."""
    with ws.writing(project_id, "set beads") as w:
        thread = found(w.session, Thread, thread_id, project_id)
        what = " and ".join(sorted({"reference_id": "view", "stands": "the place"}.get(k, k) for k in values))
        w.name(f"set {what} of {thread.name}, {len(shot_ids)} {'shot' if len(shot_ids) == 1 else 'shots'}")
        if (
            values.get("reference_id")
            and found(w.session, Reference, values["reference_id"], project_id).thread_id != thread_id
        ):
            raise NotPossible(f"This view is not one of {thread.name}. Choose one of its own.")
        for bead in _beads(w, thread_id, shot_ids).values():
            edited(bead, (revisions or {}).get(bead.id), values)
    return w.changed


def palette_of_style(ws: Workspace, project_id: str, thread_id: str) -> list[tuple[str, float]]:
    """A thread's palette from its newest pictures, weighed, as (hex, share)."""
    with ws.database.session() as s:
        found(s, Thread, thread_id, project_id)
        weights = [(r.picture_sha, r.weight) for r in current(s, project_id, thread_id)]
        query = select(Picture.sha, Picture.palette).where(Picture.sha.in_([sha for sha, _ in weights]))
        palettes: dict[str, list[Any]] = dict(s.execute(query).tuples().all())
    swatches = [(linear_from_hex(code), share * weight) for sha, weight in weights for code, share in palettes[sha]]
    return [(s.hex, round(s.share, 4)) for s in palette_of_palettes(swatches, 10)]


def other_styles(w: Writing, thread: Thread, shot_ids: Sequence[str]) -> list[Bead]:
    """The beads of other styles at some shots: a shot has one style."""
    query = (
        select(Bead)
        .join(Thread, Thread.id == Bead.thread_id)
        .where(Bead.shot_id.in_(shot_ids), Thread.kind == "style", Thread.id != thread.id)
    )
    return list(w.session.scalars(query))


def _beads(w: Writing, thread_id: str, shot_ids: Sequence[str]) -> dict[str, Bead]:
    query = select(Bead).where(Bead.thread_id == thread_id, Bead.shot_id.in_(shot_ids))
    return {b.shot_id: b for b in w.session.scalars(query)}


def _checked(hexes: list[str]) -> list[str]:
    try:
        return [hex_from_linear(linear_from_hex(code)) for code in hexes]
    except ValueError as error:
        raise NotPossible(str(error)) from error
