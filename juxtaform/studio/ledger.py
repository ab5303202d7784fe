"""The ledger: what jobs cost, by shot, scene, service and day; what is left of the month, and for how many shots that is enough."""

from __future__ import annotations

import csv
import io
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from juxtaform.core.takes.forecast import Forecast, forecast
from juxtaform.formats.cells import safe_cell
from juxtaform.records.models import Job, Project, Scene, Shot, Take, now
from juxtaform.studio.plan import in_order
from juxtaform.studio.workspace import Workspace, found, of_project

OPEN = ("waiting", "paused", "asking", "running")
"""States of jobs that will cost what is expected of them; those that wait for a yes do not."""


@dataclass(frozen=True)
class Month:
    """A calendar month (UTC) of a project: credits spent, bound by jobs that are under way, and allowed (None: no limit)."""

    begins: datetime
    spent: float
    bound: float
    allowance: float | None

    @property
    def left(self) -> float | None:
        """What is left of the allowance; below zero when it is overdrawn."""
        return None if self.allowance is None else self.allowance - self.spent - self.bound


def month(s: Session, project_id: str) -> Month:
    """How the month that is on stands. Raises nothing for a project that is not there."""
    begins = now().replace(day=1, hour=0, minute=0, second=0, microsecond=0)
    of_project = select(func.coalesce(func.sum(Job.credits), 0.0)).where(Job.project_id == project_id)
    spent = s.scalar(of_project.where(Job.asked_at >= begins)) or 0.0
    owed = select(func.coalesce(func.sum(Job.expected_credits - Job.credits), 0.0))
    bound = s.scalar(owed.where(Job.project_id == project_id, Job.state.in_(OPEN))) or 0.0
    allowance = s.scalar(select(Project.allowance).where(Project.id == project_id))
    return Month(begins, float(spent), max(0.0, float(bound)), allowance)


@dataclass(frozen=True)
class Line:
    """What was spent on something: a shot, a scene, a service or a day; `takes` are pictures that came."""

    id: str
    name: str
    jobs: int
    takes: int
    credits: float


@dataclass(frozen=True)
class Ledger:
    """What was spent, on what, and what is still to be spent: `left` are shots without a picked picture, `until` the shot up to which the month's
    allowance lasts, surely and likely (None: no allowance, or nothing can be foretold)."""

    month: Month
    by_shot: tuple[Line, ...]
    by_scene: tuple[Line, ...]
    by_service: tuple[Line, ...]
    by_day: tuple[Line, ...]
    credits: float
    takes: int
    left: int
    forecast: Forecast | None
    surely_until: str | None
    likely_until: str | None
    told: str


def ledger(ws: Workspace, project_id: str) -> Ledger:
    """A project's ledger. Raises NotThere."""
    with ws.database.reading() as s:
        found(s, Project, project_id)
        jobs = _spent(s, project_id)
        order = in_order(s, project_id)
        scenes = {x.id: x for x in of_project(s, Scene, project_id)}
        its_takes = of_project(s, Take, project_id)
        picked = {t.shot_id for t in its_takes if t.picked}
        good = [t for t in its_takes if t.made_from.get("made") and (t.picked or t.standing == "kept")]
        chosen = dict.fromkeys(t.shot_id for t in good)
        this_month = month(s, project_id)
    number = {x.id: i + 1 for i, x in enumerate(order)}
    scene_of = {x.id: x.scene_id for x in order}
    shots: dict[str, list[Job]] = defaultdict(list)
    for job in jobs:
        shots[job.shot_id].append(job)
    by_scene: dict[str, list[Job]] = defaultdict(list)
    for shot_id, own in shots.items():
        by_scene[scene_of.get(shot_id, "")] += own
    by_service: dict[str, list[Job]] = defaultdict(list)
    by_day: dict[str, list[Job]] = defaultdict(list)
    for job in jobs:
        by_service[job.service].append(job)
        by_day[job.asked_at.date().isoformat()].append(job)
    kept = [i for i in chosen if i in shots]
    costs = [sum(j.credits for j in shots[i]) for i in kept]
    takes = [sum(len(j.taken) for j in shots[i]) for i in kept]
    left = [x for x in order if x.status == "settled" and x.id not in picked]
    told = forecast(costs, takes, len(left), this_month.left)
    surely, likely = (_until(n, left, number) for n in ((told.surely, told.likely) if told else (None, None)))
    return Ledger(
        this_month,
        tuple(
            _line(i, f"Shot {number[i]}" if i in number else "Shots that are gone", own)
            for i, own in sorted(shots.items(), key=lambda e: number.get(e[0], 1 << 30))
        ),
        tuple(
            _line(i, scenes[i].title or "A scene without a title" if i in scenes else "Shots that are gone", own)
            for i, own in by_scene.items()
        ),
        tuple(_line(name, name, own) for name, own in sorted(by_service.items())),
        tuple(_line(day, day, own) for day, own in sorted(by_day.items(), reverse=True)),
        sum(j.credits for j in jobs),
        sum(len(j.taken) for j in jobs),
        len(left),
        told,
        surely,
        likely,
        _told(this_month, told, len(left), surely, likely),
    )


def as_csv(ws: Workspace, project_id: str) -> str:
    """Every job that cost something or brought something, a row each. Raises NotThere."""
    with ws.database.reading() as s:
        found(s, Project, project_id)
        jobs = _spent(s, project_id)
        order = in_order(s, project_id)
        scenes = {x.id: x.title for x in of_project(s, Scene, project_id)}
    number = {x.id: i + 1 for i, x in enumerate(order)}
    scene_of = {x.id: scenes.get(x.scene_id, "") for x in order}
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\r\n")
    rows.writerow(
        [
            "Asked at",
            "Shot",
            "Scene",
            "Service",
            "Model",
            "Quality",
            "Seed",
            "Takes wanted",
            "Takes came",
            "State",
            "Credits",
        ]
    )
    for j in jobs:
        made = j.made_from.get("made") or {}
        rows.writerow(
            [
                j.asked_at.isoformat(timespec="seconds"),
                number.get(j.shot_id, ""),
                safe_cell(scene_of.get(j.shot_id, "")),
                safe_cell(j.service),
                safe_cell(str(made.get("model", ""))),
                made.get("quality", ""),
                made.get("seed", ""),
                j.wanted.get("count", 1),
                len(j.taken),
                j.state,
                f"{j.credits:g}",
            ]
        )
    return out.getvalue()


def _spent(s: Session, project_id: str) -> list[Job]:
    jobs = s.scalars(select(Job).where(Job.project_id == project_id).order_by(Job.asked_at, Job.position))
    return [j for j in jobs if j.credits or j.taken]


def _line(key: str, name: str, jobs: Sequence[Job]) -> Line:
    return Line(key, name, len(jobs), sum(len(j.taken) for j in jobs), sum(j.credits for j in jobs))


def _until(lasts: int | None, left: Sequence[Shot], number: Mapping[str, int]) -> str | None:
    """The shot up to which a budget lasts: empty where it does not last for one."""
    if lasts is None:
        return None
    return str(number[left[lasts - 1].id]) if 0 < lasts <= len(left) else ""


def _told(this: Month, told: Forecast | None, left: int, surely: str | None, likely: str | None) -> str:
    """What is left and for how long that is enough, in a sentence."""
    if not left:
        return "Every shot has its picture."
    if told is None:
        return f"{left} shots are left. What they will cost is foretold once three shots have a made picture that is picked or kept."
    cost = f"{left} {'shot is' if left == 1 else 'shots are'} left: {told.low:.0f} to {told.high:.0f} credits, by {told.takes:.1f} takes a kept picture so far."
    if this.left is None:
        return cost
    if told.surely == left:
        return f"{cost} This month's {max(0.0, this.left):.0f} credits are enough for all."
    if not likely:
        return f"{cost} This month's {max(0.0, this.left):.0f} credits are not enough for the next shot."
    sure = f"shot {surely}" if surely else "none surely"
    return f"{cost} This month's {this.left:.0f} credits are enough until {sure}{f', likely until shot {likely}' if likely != surely else ''}."
