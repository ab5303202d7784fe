"""Many rows of the Sheet at once: facts of several shots, a column's range copied, shots copied from another project."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from sqlalchemy import select

from juxtaform.records.models import Bead, Picture, Shot, Thread, new_id
from juxtaform.studio import plan
from juxtaform.studio.places import LEAST_ROOM, spaced
from juxtaform.studio.threads import other_styles
from juxtaform.studio.workspace import Changed, NotPossible, Row, Workspace, edited, found, of_project, stored


@dataclass(frozen=True)
class CopiedBead:
    """What a thread's bead says at one of the copied shots."""

    hold: str = "figure"
    weight: float = 0.8
    costume: str = ""


@dataclass(frozen=True)
class CopiedThread:
    """A bead of a copied shot, its thread by kind and name: ids mean nothing in another project."""

    kind: str
    name: str
    bead: CopiedBead


@dataclass(frozen=True)
class CopiedShot:
    """A copied shot: its facts, and the threads that ran through it."""

    facts: Row
    threads: tuple[CopiedThread, ...]


def edit_shots(
    ws: Workspace, project_id: str, shot_ids: Sequence[str], values: Row, revisions: Mapping[str, int] | None = None
) -> Changed:
    """Set some facts of several shots to the same; `revisions` of shots by id, as the editor saw them. Raises Conflict."""
    with ws.writing(project_id, "edited shots") as w:
        count = len(shot_ids)
        what = " and ".join(sorted(k.removesuffix("_s").replace("_", " ") for k in values))
        w.name(f"set {what} of {count} {'shot' if count == 1 else 'shots'}")
        if values.get("sketch_sha"):
            stored(w.session, "The guide's picture", values["sketch_sha"])
        for i in shot_ids:
            edited(found(w.session, Shot, i, project_id), (revisions or {}).get(i), values)
    return w.changed


def paste_beads(
    ws: Workspace,
    project_id: str,
    thread_id: str,
    first_shot_id: str,
    beads: Sequence[CopiedBead | None],
    length: int = 0,
) -> Changed:
    """Lay a copied range of a column down from a shot on; empty places clear. A longer range is filled by repeating."""
    if not beads:
        raise NotPossible("Nothing was copied. Choose a range of a column and copy it first.")
    with ws.writing(project_id, "pasted a column") as w:
        thread = found(w.session, Thread, thread_id, project_id)
        order = plan.in_order(w.session, project_id)
        at = next((i for i, s in enumerate(order) if s.id == first_shot_id), None)
        if at is None:
            raise NotPossible("The shot to paste at is gone.")
        shots = order[at : at + (length or len(beads))]
        w.name(f"pasted {thread.name} over {len(shots)} {'shot' if len(shots) == 1 else 'shots'}")
        query = select(Bead).where(Bead.thread_id == thread_id, Bead.shot_id.in_([s.id for s in shots]))
        bead_of = {b.shot_id: b for b in w.session.scalars(query)}
        if thread.kind == "style":
            laid = [s.id for i, s in enumerate(shots) if beads[i % len(beads)] is not None]
            w.erase(other_styles(w, thread, laid))
        cleared, made = [], []
        for i, shot in enumerate(shots):
            copied, own = beads[i % len(beads)], bead_of.get(shot.id)
            if copied is None:
                cleared += [own] if own else []
                continue
            values = {"hold": copied.hold, "weight": copied.weight, "costume": copied.costume}
            if own is None:
                made.append(Bead(project_id=project_id, shot_id=shot.id, thread_id=thread_id, **values))
            else:
                edited(own, None, values)
        w.erase(cleared)
        w.add(*made)
    return w.changed


def copied_shots(ws: Workspace, project_id: str, shot_ids: Sequence[str]) -> list[CopiedShot]:
    """Some shots as they can be pasted into this project or another."""
    with ws.database.session() as s:
        threads = {t.id: t for t in of_project(s, Thread, project_id)}
        beads: dict[str, list[Bead]] = {}
        for b in s.scalars(select(Bead).where(Bead.project_id == project_id, Bead.shot_id.in_(shot_ids))):
            beads.setdefault(b.shot_id, []).append(b)
        chosen = set(shot_ids)
        return [
            CopiedShot(
                {k: getattr(shot, k) for k in COPIED_FACTS},
                tuple(
                    CopiedThread(
                        threads[b.thread_id].kind, threads[b.thread_id].name, CopiedBead(b.hold, b.weight, b.costume)
                    )
                    for b in beads.get(shot.id, [])
                ),
            )
            for shot in plan.in_order(s, project_id)
            if shot.id in chosen
        ]


COPIED_FACTS = (
    "shows",
    "size",
    "angle",
    "move",
    "length_s",
    "spoken",
    "motion",
    "sound",
    "music",
    "notes",
    "page_form",
    "bleed",
    "time",
    "aspect",
    "sketch_sha",
    "guide_strength",
    "join",
    "join_s",
)


def paste_shots(ws: Workspace, project_id: str, after_shot_id: str | None, shots: Sequence[CopiedShot]) -> Changed:
    """Put copied shots after a shot (None: at the end). Threads are found by kind and name; missing ones are made."""
    if not shots:
        raise NotPossible("Nothing was copied. Choose shots and copy them first.")
    with ws.writing(project_id, "pasted shots") as w:
        w.name(f"pasted {len(shots)} {'shot' if len(shots) == 1 else 'shots'}")
        order = plan.in_order(w.session, project_id)
        if not order:
            raise NotPossible("This project has no scene yet. Make a first shot, then paste after it.")
        after = next((s for s in order if s.id == after_shot_id), order[-1])
        siblings = [s for s in order if s.scene_id == after.scene_id]
        at = siblings.index(after) + 1
        end = siblings[at].position if at < len(siblings) else after.position + len(shots) + 1
        if (end - after.position) / (len(shots) + 1) < LEAST_ROOM:
            spaced(siblings, at, len(shots))
            end = after.position + len(shots) + 1
        step = (end - after.position) / (len(shots) + 1)
        threads = {(t.kind, t.name.casefold()): t for t in of_project(w.session, Thread, project_id)}
        position = max((t.position for t in threads.values()), default=-1.0)
        sketches = {sha for c in shots if (sha := c.facts.get("sketch_sha"))}
        here = set(w.session.scalars(select(Picture.sha).where(Picture.sha.in_(sketches))))
        made: list[Shot] = []
        beads: list[Bead] = []
        for i, copied in enumerate(shots):
            facts = {k: v for k, v in copied.facts.items() if k in COPIED_FACTS}
            if facts.get("sketch_sha") not in here:
                facts["sketch_sha"] = None
            shot = Shot(
                id=new_id(),
                project_id=project_id,
                scene_id=after.scene_id,
                position=after.position + step * (i + 1),
                **facts,
            )
            made.append(shot)
            for t in copied.threads:
                thread = threads.get((t.kind, t.name.casefold()))
                if thread is None:
                    position += 1
                    thread = Thread(project_id=project_id, kind=t.kind, name=t.name, position=position)
                    w.add(thread)
                    threads[t.kind, t.name.casefold()] = thread
                values = {"hold": t.bead.hold, "weight": t.bead.weight, "costume": t.bead.costume}
                beads.append(Bead(project_id=project_id, shot_id=shot.id, thread_id=thread.id, **values))
        w.add(*made)
        w.add(*beads)
    return w.changed


def order_threads(ws: Workspace, project_id: str, thread_ids: Sequence[str]) -> Changed:
    """Put threads in an order; those that are not named keep theirs behind them."""
    with ws.writing(project_id, "ordered the threads") as w:
        threads = {t.id: t for t in of_project(w.session, Thread, project_id)}
        wanted = [i for i in dict.fromkeys(thread_ids) if i in threads]
        for i, t in enumerate([*wanted, *(t for t in threads if t not in set(wanted))]):
            threads[t].position = float(i)
    return w.changed
