"""The ledger: what jobs cost, by shot, scene, service and day; what is left of the month, and for how many shots that is enough."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from juxtaform.records.models import Job, Project, now

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
