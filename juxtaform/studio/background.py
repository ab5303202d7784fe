"""What goes on in the background of a running server: figures are looked for, takes measured, jobs asked of services."""

from __future__ import annotations

from juxtaform.studio.gauging import Gauge
from juxtaform.studio.measuring import Workers
from juxtaform.studio.queue import JobQueue
from juxtaform.studio.spotting import Spotter
from juxtaform.studio.workspace import Workspace


class Background:
    """All of it, on the workers that the check uses too."""

    def __init__(self, ws: Workspace, workers: Workers) -> None:
        self.spotter = Spotter(ws, workers)
        self.gauge = Gauge(ws, workers)
        self.queue = JobQueue(ws, lambda project_id, take_id: self.gauge.want(project_id, [take_id]))

    def start(self) -> None:
        self.queue.start()

    def close(self) -> None:
        self.queue.close()
        self.gauge.close()
        self.spotter.close()
