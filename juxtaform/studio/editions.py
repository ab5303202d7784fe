"""Which version of a reference is in force at which shot."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from sqlalchemy.orm import Session

from juxtaform.core.brief.versions import Edition, Editions
from juxtaform.records.models import Bead, Reference
from juxtaform.studio import plan
from juxtaform.studio.workspace import of_project


def editions_of(references: Iterable[Reference], order: Sequence[str]) -> Editions:
    """The versions among a project's references; `order` are its shots' ids."""
    index = {shot: i for i, shot in enumerate(order)}
    return Editions([Edition(r.id, r.thread_id, r.replaces_id, index.get(r.from_shot_id or "", 0)) for r in references])


def in_force(
    references: Iterable[Reference], editions: Editions, index: int, bead: Bead | None, costume: str
) -> list[Reference]:
    """The references of one thread that hold at a shot in a costume: the pinned view alone if one is, else the anchor first."""
    valid = [r for r in references if editions.holds(r.id, index)]
    if bead is not None and bead.reference_id is not None:
        pinned = editions.at(bead.reference_id, index)
        if chosen := [r for r in valid if r.id == pinned]:
            return chosen
    own = [r for r in valid if r.costume == costume] or [r for r in valid if not r.costume]
    return sorted(own, key=lambda r: (not r.anchor, r.position))


def current(session: Session, project_id: str, thread_id: str) -> list[Reference]:
    """A thread's references as they hold at the last shot: the newest versions."""
    rows = of_project(session, Reference, project_id)
    order = [x.id for x in plan.in_order(session, project_id)]
    editions = editions_of(rows, order)
    return [r for r in rows if r.thread_id == thread_id and editions.holds(r.id, max(0, len(order) - 1))]
