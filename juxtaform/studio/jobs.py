"""Jobs of a project as the user sees and steers them: waiting, paused, moved up, cancelled, tried again, said yes to."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from juxtaform.records.models import Job, Project, now
from juxtaform.studio.workspace import NotPossible, Workspace, found, hold

State = Literal["held", "waiting", "paused", "asking", "running", "done", "failed", "refused", "cancelled"]
Deed = Literal["pause", "resume", "cancel", "up", "again", "approve", "dismiss"]
OPEN: tuple[State, ...] = ("running", "asking", "waiting", "paused", "held")
WRONG: tuple[State, ...] = ("failed", "refused")
MOST_TOLD, MOST_ENDED = 400, 60
"""Open jobs, and ended ones, that are told one by one."""


@dataclass(frozen=True)
class JobView:
    """A job as it stands; `count` pictures are wanted, `taken` came; `message` says why it waits or went wrong."""

    id: str
    shot_id: str
    service_id: str
    service: str
    state: State
    count: int
    taken: int
    progress: float
    expected_credits: float
    credits: float
    message: str
    quality: str
    kind: str
    parent_id: str | None
    trial_id: str | None
    asked_at: datetime
    ended_at: datetime | None
    not_before: datetime | None


@dataclass(frozen=True)
class Queue:
    """A project's queue: how many jobs there are in each state; the open ones in their order, those that went wrong, and the latest done."""

    counts: dict[str, int]
    jobs: tuple[JobView, ...]


def queue(ws: Workspace, project_id: str) -> Queue:
    """A project's queue as it stands. Raises NotThere."""
    with ws.database.reading() as s:
        found(s, Project, project_id)
        of_project = select(Job).where(Job.project_id == project_id)
        counts = s.execute(select(Job.state, func.count()).where(Job.project_id == project_id).group_by(Job.state))
        under_way = of_project.where(Job.state.in_(("running", "asking"))).order_by(Job.position)
        waiting = of_project.where(Job.state.in_(("waiting", "paused", "held"))).order_by(Job.position)
        wrong = of_project.where(Job.state.in_(WRONG)).order_by(Job.ended_at.desc())
        ended = of_project.where(Job.state.in_(("done", "cancelled"))).order_by(Job.ended_at.desc())
        rows = [
            *s.scalars(under_way.limit(MOST_TOLD)),
            *s.scalars(waiting.limit(MOST_TOLD)),
            *s.scalars(wrong.limit(MOST_ENDED)),
            *s.scalars(ended.limit(MOST_ENDED)),
        ]
        return Queue(dict(counts.tuples().all()), tuple(view(r) for r in rows))


def steer(ws: Workspace, project_id: str, deed: Deed, job_ids: Sequence[str] | None = None) -> int:
    """Do something with some jobs, or with all that it can be done with; returns with how many it was done. Raises NotThere, NotPossible."""
    done = ws.database.retried(lambda s: _steered(s, project_id, deed, job_ids))
    ws.listeners.wake(project_id)
    return done


def _steered(s: Session, project_id: str, deed: Deed, job_ids: Sequence[str] | None) -> int:
    hold(s, project_id)
    can = _CAN[deed]
    wanted = select(Job.id).where(Job.project_id == project_id, Job.state.in_(can))
    if job_ids is not None:
        wanted = wanted.where(Job.id.in_(list(job_ids)))
    ids = list(s.scalars(wanted.order_by(Job.position)))
    # Held one by one and looked at again, so that nobody who works on another job is in the way.
    jobs = [job for i in ids if (job := s.get(Job, i, with_for_update=True)) is not None and job.state in can]
    if job_ids is not None and not jobs:
        raise NotPossible("This job has gone on meanwhile: look at how it stands now.")
    if deed == "up":
        _first(s, project_id, jobs)
    else:
        for job in jobs:
            _DEEDS[deed](job)
    return len(jobs)


def view(job: Job) -> JobView:
    """A job as it is told."""
    made = job.made_from.get("made") or {}
    return JobView(
        job.id,
        job.shot_id,
        job.service_id,
        job.service,
        job.state,  # type: ignore[arg-type]
        job.wanted.get("count", 1),
        len(job.taken),
        job.progress,
        job.expected_credits,
        job.credits,
        job.message,
        job.wanted.get("quality", "draft"),
        job.wanted.get("kind", "picture"),
        job.parent_id,
        made.get("trial_id"),
        job.asked_at,
        job.ended_at,
        job.not_before,
    )


def _first(s: Session, project_id: str, jobs: Sequence[Job]) -> None:
    """Move jobs before all others that wait, in the order that they have."""
    first = s.scalar(select(func.min(Job.position)).where(Job.project_id == project_id)) or 0.0
    for i, job in enumerate(reversed(jobs)):
        job.position = first - 1 - i


def _pause(job: Job) -> None:
    job.state = "paused"


def _resume(job: Job) -> None:
    job.state, job.not_before = "waiting", None


def _approve(job: Job) -> None:
    job.state, job.message = "waiting", ""


def _cancel(job: Job) -> None:
    if job.state in ("asking", "running") or job.at:
        job.cancelling = True  # its service is told first
        job.state = "waiting" if job.state in ("paused", "held") else job.state
        job.not_before = None
    else:
        job.state, job.ended_at = "cancelled", now()


def _again(job: Job) -> None:
    """What was never answered goes on under its name, so that nothing is made or paid twice; of what its service ended, the rest is asked for."""
    if job.taken and not job.at:
        job.wanted = {**job.wanted, "count": max(1, job.wanted.get("count", 1) - len(job.taken))}
        job.taken, job.progress = [], 0.0
    job.state, job.message, job.tries, job.not_before, job.ended_at = "waiting", "", 0, None, None


def _dismiss(job: Job) -> None:
    job.state = "cancelled"


_CAN: dict[Deed, tuple[str, ...]] = {
    "pause": ("waiting",),
    "resume": ("paused",),
    "cancel": ("held", "waiting", "paused", "asking", "running"),
    "up": ("waiting", "paused", "held"),
    "again": ("failed", "refused"),
    "approve": ("held",),
    "dismiss": ("failed", "refused"),
}
_DEEDS: dict[Deed, Callable[[Job], None]] = {
    "pause": _pause,
    "resume": _resume,
    "cancel": _cancel,
    "again": _again,
    "approve": _approve,
    "dismiss": _dismiss,
}
