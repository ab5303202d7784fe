"""A shot's contact sheet: its takes grouped by what they were made from, each group with what changed from the one that it comes from."""

from __future__ import annotations

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from sqlalchemy import select

from juxtaform.core.brief.lineage import Origin, changes
from juxtaform.core.check.takes import TakeReading
from juxtaform.records.models import Project, Shot, Take, Thread
from juxtaform.studio.gauging import Gauge, sheet_reading
from juxtaform.studio.workspace import Workspace, found, of_project

MOST_CHANGES = 3


@dataclass(frozen=True)
class TakeGroup:
    """Takes that were made from the same: what sets them apart in words, by whom, and the take that they come from (None: from the brief)."""

    title: str
    detail: str
    parent_id: str | None
    take_ids: tuple[str, ...]


@dataclass(frozen=True)
class ContactSheet:
    """A shot's takes in groups, what is read of those that are measured, and how many wait; `message` says what is wrong with measuring."""

    groups: tuple[TakeGroup, ...]
    readings: tuple[TakeReading, ...]
    waiting: int
    message: str


@dataclass(frozen=True)
class LineageStep:
    """A take of a lineage, oldest first, with what changed from the one before it."""

    take_id: str
    number: int
    changes: tuple[str, ...]


def sheet(ws: Workspace, gauge: Gauge, project_id: str, shot_id: str) -> ContactSheet:
    """The contact sheet of a shot. Raises NotThere."""
    with ws.database.reading() as s:
        found(s, Project, project_id)
        found(s, Shot, shot_id, project_id)
        its_takes = list(s.scalars(select(Take).where(Take.shot_id == shot_id).order_by(Take.position, Take.id)))
        names = {t.id: t.name for t in of_project(s, Thread, project_id)}
    reading = sheet_reading(ws, gauge, project_id, shot_id)
    return ContactSheet(
        tuple(_groups(its_takes, names)), reading.takes, reading.waiting, gauge.status(project_id).message
    )


def lineage(ws: Workspace, project_id: str, take_id: str) -> list[LineageStep]:
    """What a take came from, the oldest ancestor first, with what changed at each step. Raises NotThere."""
    with ws.database.reading() as s:
        take = found(s, Take, take_id, project_id)
        its_takes = list(s.scalars(select(Take).where(Take.shot_id == take.shot_id).order_by(Take.position, Take.id)))
        names = {t.id: t.name for t in of_project(s, Thread, project_id)}
        by_id = {t.id: t for t in its_takes}
        line = [take]
        while (parent := by_id.get(line[-1].parent_id or "")) is not None and parent not in line:
            line.append(parent)
    line.reverse()
    number = {t.id: i + 1 for i, t in enumerate(its_takes)}
    steps = [LineageStep(line[0].id, number[line[0].id], ())]
    for before, after in itertools.pairwise(line):
        steps.append(LineageStep(after.id, number[after.id], tuple(_changed(before, after, names))))
    return steps


def origin_of(made_from: Mapping[str, Any]) -> Origin:
    """What a take was made from, as its row keeps it."""
    made = made_from.get("made") or {}
    return Origin(
        dict(made_from.get("phrases") or []),
        {h["thread_id"]: (h["weight"], h["hold"], h.get("costume", "")) for h in made_from.get("held") or []},
        tuple(made_from.get("references") or []) if made else (),
        made.get("service", ""),
        made.get("model", ""),
        made.get("quality", ""),
        made.get("seed"),
        bool(made_from.get("crop")),
        _edited(made_from.get("edit")),
        bool(made_from.get("grown")),
    )


def _edited(edit: Mapping[str, Any] | None) -> str | None:
    """What was changed in an area, in words; None where nothing was."""
    if not edit:
        return None
    return f"{edit.get('words') or 'retouched'}{', the area only' if edit.get('only') else ''}"


def _groups(its_takes: Sequence[Take], names: Mapping[str, str]) -> list[TakeGroup]:
    number = {t.id: i + 1 for i, t in enumerate(its_takes)}
    by_id = {t.id: t for t in its_takes}
    origins = {t.id: origin_of(t.made_from) for t in its_takes}
    groups: dict[tuple[str | None, tuple[object, ...]], list[Take]] = {}
    for t in its_takes:
        groups.setdefault((t.parent_id if t.parent_id in by_id else None, origins[t.id].group()), []).append(t)
    out: list[TakeGroup] = []
    brief: Take | None = None
    for (parent_id, _), own in groups.items():
        first, origin = own[0], origins[own[0].id]
        parent = by_id.get(parent_id or "")
        if origin.crop and parent is not None:
            title = f"Cropped from take {number[parent.id]}"
        elif parent is not None:
            what = [c for c in _changed(parent, first, names) if c != "another seed"] or ["other seeds"]
            title = f"From take {number[parent.id]}: {', '.join(what[:MOST_CHANGES])}"
        elif origin.is_brought:
            title = "Brought by you"
        elif brief is None:
            title = "From the brief"
        else:
            what = [c for c in changes(origins[brief.id], origin, names) if c != "another seed"] or [
                "the same once more"
            ]
            title = ", ".join(what[:MOST_CHANGES])
        if parent is None and not origin.is_brought:
            brief = first
        out.append(
            TakeGroup(
                title[:1].upper() + title[1:],
                _detail([origins[t.id] for t in own]),
                parent_id,
                tuple(t.id for t in own),
            )
        )
    return out


def _changed(before: Take, after: Take, names: Mapping[str, str]) -> list[str]:
    old, new = origin_of(before.made_from), origin_of(after.made_from)
    if new.crop:
        return ["cropped"]
    if new.edit is not None:
        return [f"one area changed: {new.edit}"]
    if new.grown:
        return ["grown beyond its edges"]
    return changes(old, new, names)


def _detail(origins: Sequence[Origin]) -> str:
    first = origins[0]
    if not first.service:
        return ""
    seeds = sorted(o.seed for o in origins if o.seed is not None)
    words = [f"{first.service}, {first.quality}"]
    if seeds:
        in_a_row = len(seeds) > 1 and seeds[-1] - seeds[0] == len(seeds) - 1
        words.append(
            f"seeds {seeds[0]}–{seeds[-1]}"
            if in_a_row
            else f"seed {seeds[0]}"
            if len(seeds) == 1
            else f"{len(seeds)} seeds"
        )
    return " · ".join(words)
