"""Work done by a distributed engine: a Dask scheduler that runs already, and workers that it has (`juxtaform worker`)."""

from __future__ import annotations

import itertools
import logging
import threading
import time
from collections.abc import Callable, Iterable, Iterator
from typing import TYPE_CHECKING, Any, TypeVar

import juxtaform
from juxtaform.core.check.measure import MEASURE_VERSION
from juxtaform.media.network import network_digest

if TYPE_CHECKING:
    from distributed import Client, Future

Task = TypeVar("Task")
Done = TypeVar("Done")
BATCH = 6
"""Tasks that go out together. A worker opens one picture at a time, so that memory does not grow with it; what comes back is small."""
BATCHES_AHEAD = 2
"""Batches of each worker that are on their way: stopping waits for no more."""
REACH_S, AGAIN_S, LOOK_S, LOST_S = 10.0, 60.0, 2.0, 30.0
log = logging.getLogger("juxtaform")


def signature() -> tuple[str, str, str]:
    """What two machines must agree in, so that they measure the same."""
    return juxtaform.__version__, str(MEASURE_VERSION), network_digest()


def done_together(job: Callable[[Task], Done], tasks: list[Task]) -> list[Done]:
    """A batch, one after the other; runs in a worker."""
    return [job(task) for task in tasks]


class Far:
    """The workers of a scheduler. Who is not reached is asked again after a while."""

    def __init__(self, address: str) -> None:
        self.address = address
        self._client: Client | None = None
        self._not_before = 0.0
        self._lock = threading.Lock()

    def is_reached(self) -> bool:
        """Whether there are workers that measure as we do."""
        with self._lock:
            if self._client is not None and self._client.status == "running" and self._threads():
                return True
            if time.monotonic() < self._not_before:
                return False
            self._drop()
            try:
                self._client = self._connected()
            except Exception as error:  # Whatever the network says.
                log.warning("The scheduler %s cannot be used: %s. Pictures are measured here.", self.address, error)
                self._drop()
                self._not_before = time.monotonic() + AGAIN_S
                return False
            return True

    def done(self, job: Callable[[Task], Done], tasks: Iterable[Task], left: list[Task]) -> Iterator[Done]:
        """What comes of tasks, in order of completion. Tasks that nobody answers for any more are put into `left`, and no others are taken."""
        client, waiting = self._client, iter(tasks)
        seen_at = time.monotonic()
        running: dict[Future[Any], list[Task]] = {}
        try:
            while True:
                room = max(1, self._threads()) * BATCHES_AHEAD
                while len(running) < room and (batch := list(itertools.islice(waiting, BATCH))):
                    assert client is not None
                    running[client.submit(done_together, job, batch, pure=False)] = batch
                if not running:
                    return
                if self._is_working(client, running):
                    seen_at = time.monotonic()
                elif time.monotonic() - seen_at > LOST_S:
                    raise RuntimeError(f"nobody has worked there for {LOST_S:g} s")
                for future in [f for f in running if f.done()]:
                    results = future.result()
                    del running[future]
                    yield from results
        except GeneratorExit:
            self._cancel(running)
            raise
        except Exception as error:  # The scheduler or all its workers are gone, or a batch kills each of them.
            log.warning("The scheduler %s was lost: %s", self.address, error)
            self._cancel(running)
            left.extend(task for batch in running.values() for task in batch)
            with self._lock:
                self._not_before = time.monotonic() + AGAIN_S
                self._drop()

    def _is_working(self, client: Any, running: Iterable[Future[Any]]) -> bool:
        """Wait a little for one of some batches; whether it came, or somebody is there who works on it. Raises for a line that was cut."""
        from distributed import wait

        try:
            with client.as_current():
                wait(list(running), timeout=LOOK_S, return_when="FIRST_COMPLETED")
            return True
        except TimeoutError:
            if client.status != "running":
                raise RuntimeError("the line was cut") from None
            return bool(self._threads())

    def close(self) -> None:
        with self._lock:
            self._drop()

    def _connected(self) -> Client:
        from distributed import Client

        client = Client(self.address, timeout=REACH_S, set_as_default=False, name="juxtaform")
        try:
            told = client.run(signature)
            if not told:
                raise RuntimeError("it has no workers yet; start juxtaform worker")
            others = [where for where, theirs in told.items() if tuple(theirs) != signature()]
            if others:
                raise RuntimeError(f"{', '.join(others)} run another version of Juxtaform and would measure otherwise")
        except BaseException:
            client.close(1)
            raise
        return client

    def _threads(self) -> int:
        """How many pictures the workers measure at once."""
        if self._client is None:
            return 0
        try:
            return sum(self._client.nthreads().values())
        except Exception:  # The scheduler is gone; whoever waits for it hears so.
            return 0

    def _cancel(self, running: dict[Future[Any], list[Task]]) -> None:
        try:
            if self._client is not None and running:
                self._client.cancel(list(running))
        except Exception as error:
            log.info("What was asked of %s could not be taken back: %s", self.address, error)

    def _drop(self) -> None:
        client, self._client = self._client, None
        if client is not None:
            try:
                client.close(1)
            except Exception as error:
                log.info("The line to %s was cut: %s", self.address, error)
