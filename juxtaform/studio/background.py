"""What goes on in the background of a running server: figures are looked for, takes measured, jobs asked of services."""

from __future__ import annotations

from datetime import timedelta

from sqlalchemy import select

from juxtaform.records.models import Job, Take, now
from juxtaform.studio.deliveries import Deliveries
from juxtaform.studio.gauging import Gauge
from juxtaform.studio.measuring import Workers
from juxtaform.studio.queue import JobQueue
from juxtaform.studio.spotting import Spotter
from juxtaform.studio.workspace import Workspace

LATELY_H = 24.0
"""Takes of jobs that ended within so many hours are looked at again at the start."""


class Background:
    """All of it, on the workers that the check uses too."""

    def __init__(self, ws: Workspace, workers: Workers) -> None:
        self._ws = ws
        self.spotter = Spotter(ws, workers)
        self.gauge = Gauge(ws, workers)
        self.deliveries = Deliveries(ws, workers)
        self.queue = JobQueue(ws, lambda project_id, take_id: self.gauge.want(project_id, [take_id]))

    def start(self) -> None:
        """Begin; what came lately and was not measured before a server ended is measured now."""
        self.queue.start()
        self.deliveries.start()
        for project_id, take_ids in _came_lately(self._ws).items():
            self.gauge.want(project_id, take_ids)

    def close(self) -> None:
        self.queue.close()
        self.gauge.close()
        self.deliveries.close()
        self.spotter.close()


def _came_lately(ws: Workspace) -> dict[str, list[str]]:
    """Takes that services made lately, by project."""
    with ws.database.reading() as s:
        recent = select(Job.shot_id).where(Job.ended_at >= now() - timedelta(hours=LATELY_H)).distinct()
        rows = s.execute(select(Take.project_id, Take.id).where(Take.shot_id.in_(recent)).order_by(Take.position))
        out: dict[str, list[str]] = {}
        for project_id, take_id in rows:
            out.setdefault(project_id, []).append(take_id)
        return out
