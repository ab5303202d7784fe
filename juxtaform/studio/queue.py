"""The queue of jobs: asked of their services side by side, each under a lease in the database, so that a server that dies loses nothing,
asks nothing twice and pays nothing twice."""

from __future__ import annotations

import asyncio
import contextlib
import logging
import random
import threading
from collections import defaultdict
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.exc import OperationalError, SQLAlchemyError

from juxtaform.media.decode import PictureRefused
from juxtaform.records.database import MOST_TIMES, Done
from juxtaform.records.models import Job, Service, ServiceState
from juxtaform.records.trouble import trouble_of
from juxtaform.services.address import AddressWrong
from juxtaform.services.pictures import Away, Busy, Gone, NotLetIn, PictureService, Refused, Trouble, Untrue
from juxtaform.services.shapes import ENDED, JobSaid, ServiceSaid
from juxtaform.studio import leases, services
from juxtaform.studio.fitting import fitting_file
from juxtaform.studio.leases import Held, due, name_of, rests
from juxtaform.studio.workspace import NotThere, Workspace

MOST_AT_ONCE = 8
"""Jobs that are asked of one service side by side, however many it would take."""
FIRST_LOOK_S, LAST_LOOK_S, SLOWER = 0.05, 2.0, 1.6
"""A job is looked after soon, then ever more seldom."""
LOOK_S = 2.0
"""The queue looks for itself what there is to do, besides being woken."""
FULL_DISK_S = 30.0
SLOW_S = 600.0
"""A job that has told nothing new for so long is given up; it can be tried again."""
log = logging.getLogger("juxtaform")


@dataclass
class _Worker:
    """Somebody who carries out one service's jobs, one after the other."""

    service_id: str
    job_id: str = ""


class JobQueue:
    """Carries out the jobs of all projects; one for a running server. `came` is told of each take that came, as project and take."""

    def __init__(self, ws: Workspace, came: Callable[[str, str], None] | None = None) -> None:
        self.ws = ws
        self.leases = leases.Leases(ws, came, self._told)
        self._workers: dict[asyncio.Task[None], _Worker] = {}
        self._stamps: defaultdict[str, int] = defaultdict(int)
        self._loop: asyncio.AbstractEventLoop | None = None
        self._woken: asyncio.Event | None = None
        self._closing = False
        self._thread: threading.Thread | None = None
        self._ready = threading.Event()

    def start(self) -> None:
        """Begin; what a server that died had in hand is taken up once its lease has run out."""
        self._thread = threading.Thread(target=self._run, name="jobs", daemon=True)
        self._thread.start()
        self._ready.wait(10)

    def wake(self) -> None:
        """There is something to do; may be called from any thread."""
        if self._loop is not None and self._woken is not None:
            with contextlib.suppress(RuntimeError):  # The loop has ended.
                self._loop.call_soon_threadsafe(self._woken.set)

    def stamp(self, project_id: str) -> int:
        """Rises whenever a job of a project changed."""
        return self._stamps[project_id]

    def touched(self, project_id: str) -> None:
        """A job of a project changed: whoever listens is told, and the queue looks what there is to do."""
        self._told(project_id)
        self.wake()

    def close(self) -> None:
        """Stop; jobs in hand go back into the queue, to be gone on with by whoever starts next."""
        self._closing = True
        self.wake()
        if self._thread is not None:
            self._thread.join(10)

    def _run(self) -> None:
        try:
            asyncio.run(self._main())
        except Exception:  # The queue must never take the server with it.
            log.exception("The queue of jobs broke off")

    async def _main(self) -> None:
        self._loop, self._woken = asyncio.get_running_loop(), asyncio.Event()
        self._ready.set()
        heart = asyncio.create_task(self._beat())
        while not self._closing:
            self._woken.clear()
            try:
                for service_id, most in (await _off(self._to_do)).items():
                    busy = sum(w.service_id == service_id for w in self._workers.values())
                    for _ in range(most - busy):
                        self._employ(service_id)
            except OperationalError:
                log.warning("The queue of jobs waits for the database.")
            with contextlib.suppress(TimeoutError):
                await asyncio.wait_for(self._woken.wait(), LOOK_S)
        heart.cancel()
        for task in list(self._workers):
            task.cancel()
        await asyncio.gather(*self._workers, return_exceptions=True)

    async def _beat(self) -> None:
        """Hold on to all jobs in hand, however long a picture takes to come."""
        while True:
            await asyncio.sleep(leases.LEASE_S / 3)
            if ids := self._in_hand():
                with contextlib.suppress(SQLAlchemyError):  # The database is away: the lease may run out meanwhile.
                    await _off(self.leases.held_on, ids)

    def _employ(self, service_id: str) -> None:
        worker = _Worker(service_id)
        task = asyncio.create_task(self._work(worker))
        self._workers[task] = worker
        task.add_done_callback(self._left)

    def _left(self, task: asyncio.Task[None]) -> None:
        self._workers.pop(task, None)
        if not task.cancelled() and (error := task.exception()) is not None:
            log.error("A worker of the queue broke off", exc_info=error)

    def _to_do(self) -> dict[str, int]:
        """Services that have jobs to be taken up now, each with how many workers these are for."""
        with self.ws.database.session() as s:
            counts = dict(
                s.execute(select(Job.service_id, func.count()).where(due()).group_by(Job.service_id)).tuples().all()
            )
            out = {}
            for service_id, count in counts.items():
                state = s.get(ServiceState, service_id)
                if state is not None and not rests(state):
                    said = ServiceSaid.model_validate_json(state.can) if state.can else None
                    at_once = min(MOST_AT_ONCE, said.jobs_at_once) if said else 1
                    busy = sum(w.service_id == service_id for w in list(self._workers.values()))
                    out[service_id] = min(at_once, count + busy)
            return out

    async def _work(self, worker: _Worker) -> None:
        """Carry out a service's jobs until there is none, or something is wrong with it."""
        job = await self._next(worker)
        if job is None:
            return
        try:
            async with await _off(self._opened, worker.service_id) as service:
                while job is not None:
                    if not await self._carried_out(service, job):
                        return
                    job = None if self._closing else await self._next(worker)
        except (Trouble, AddressWrong) as error:
            assert job is not None
            await _off(self.leases.away, job, str(error))
        except asyncio.CancelledError:
            if worker.job_id:
                await _off(self.leases.given_back, worker.job_id)
            raise

    async def _next(self, worker: _Worker) -> Held | None:
        worker.job_id = ""
        job = await _off(self.leases.claimed, worker.service_id, self._in_hand())
        worker.job_id = job.id if job else ""
        return job

    def _in_hand(self) -> list[str]:
        return [w.job_id for w in self._workers.values() if w.job_id]

    def _opened(self, service_id: str) -> contextlib.AbstractAsyncContextManager[PictureService]:
        with self.ws.database.session() as s:
            service = s.get(Service, service_id)
            if service is None:
                raise Refused("Its service was removed.")
            s.expunge(service)
        return services.opened(self.ws, service)

    async def _carried_out(self, service: PictureService, job: Held) -> bool:
        """Carry out a job; False where its service should be left alone for now."""
        try:
            await self._through(service, job)
            return True
        except Busy as error:
            await _off(self.leases.rest, job, str(error), error.rest_s)
        except NotLetIn as error:
            await _off(self.leases.rest, job, str(error), leases.MOST_REST_S)
        except Away as error:
            await _off(self.leases.away, job, str(error))
        except Untrue as error:
            await _off(self.leases.ended, job, "failed", str(error))
            return True
        except Refused as error:
            await _off(self.leases.ended, job, "refused", str(error))
            return True
        except NotThere as error:
            await _off(self.leases.ended, job, "failed", str(error))
            return True
        except OSError as error:
            words = f"The picture could not be stored: {error.strerror or error}. Make room on the disk; it is fetched again."
            await _off(self.leases.put_off, job, words, FULL_DISK_S)
            return True
        except OperationalError:
            log.warning("A job waits for the database.")
            await asyncio.sleep(LOOK_S)
        return False

    async def _through(self, service: PictureService, job: Held) -> None:
        """Ask for a job unless that is done, follow it to its end, and take what comes. Raises Trouble, OSError."""
        if job.cancelling and not job.at:
            await _off(self.leases.ended, job, "cancelled", "")
            return
        if not job.at:
            wanted = await self._brought(service, job)
            at, said = await service.ask(job.key, wanted)
            await _off(self.leases.note, job, at=at, state="running", progress=said.progress, message="", tries=0)
            job.at = at
        else:
            said = await self._asked_after(service, job)
        look_s, quiet_s = FIRST_LOOK_S, 0.0
        told = _news_of(said)
        while True:
            for result in said.results:
                if name_of(result) not in job.taken:
                    data = await service.picture(result.sha)
                    await _off(self.leases.take, job, result, data)
            if said.state in ENDED:
                break
            await asyncio.sleep(look_s)
            if await _off(self.leases.still_wanted, job, said) is False:
                await service.cancel(job.at)
            quiet_s, look_s = quiet_s + look_s, min(LAST_LOOK_S, look_s * SLOWER)
            said = await self._asked_after(service, job)
            if (now_told := _news_of(said)) != told:
                told, quiet_s = now_told, 0.0
            if quiet_s > SLOW_S:
                raise Away(f"{service.name} has told nothing new for {SLOW_S / 60:.0f} minutes.")
        state = {"done": "done", "failed": "failed", "refused": "refused"}.get(said.state, "cancelled")
        words = said.problem.detail or said.problem.title if said.problem and state in ("failed", "refused") else ""
        await _off(self.leases.ended, job, state, words[:2000] or job.told, said.credits)

    async def _asked_after(self, service: PictureService, job: Held) -> JobSaid:
        try:
            return await service.job(job.at)
        except Gone as error:
            raise Refused(
                f"{service.name} does not know this job any more. Try it again: it is asked for anew."
            ) from error

    async def _brought(self, service: PictureService, job: Held) -> dict[str, Any]:
        """The body of a job, once all its pictures are at the service, no larger than it takes them."""
        brought, side = [], job.wanted.get("side_most")
        for picture in job.wanted["pictures"]:
            try:
                file = await asyncio.to_thread(fitting_file, self.ws.store, picture["sha"], side)
            except (PictureRefused, FileNotFoundError, KeyError) as error:
                raise Refused(f"A picture of its brief is not in the store as it was: {error}") from error
            await service.bring(file.sha, file.data, file.media_type)
            brought.append({**picture, "sha": file.sha})
        return {**{k: v for k, v in job.wanted.items() if k != "side_most"}, "pictures": brought}

    def _told(self, project_id: str) -> None:
        self._stamps[project_id] += 1
        self.ws.listeners.wake(project_id)


async def _off(work: Callable[..., Done], *args: Any, **more: Any) -> Done:
    """What some work does in a thread of its own; begun again where others were in its way in the database."""
    for left in range(MOST_TIMES, 0, -1):
        try:
            return await asyncio.to_thread(work, *args, **more)
        except SQLAlchemyError as error:
            if trouble_of(error) != "busy" or left == 1:
                raise
            await asyncio.sleep(random.uniform(0.01, 0.08))
    raise AssertionError("unreachable")


def _news_of(said: JobSaid) -> tuple[Any, ...]:
    return said.state, said.progress, len(said.results)
