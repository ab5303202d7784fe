"""The queue of jobs: asked of their services side by side, each under a lease in the database, so that a server that dies loses nothing,
asks nothing twice and pays nothing twice."""

from __future__ import annotations

import asyncio
import contextlib
import logging
import random
import secrets
import threading
from collections import defaultdict
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field
from datetime import timedelta
from typing import Any

from sqlalchemy import func, or_, select, update
from sqlalchemy.exc import OperationalError, SQLAlchemyError
from sqlalchemy.orm import Session

from juxtaform.media.decode import PictureRefused
from juxtaform.media.store import StoredPicture
from juxtaform.records.database import MOST_TIMES, Done
from juxtaform.records.models import Job, Service, ServiceState, Shot, Take, now
from juxtaform.records.trouble import trouble_of
from juxtaform.services.address import AddressWrong
from juxtaform.services.pictures import Away, Busy, Gone, NotLetIn, PictureService, Refused, Trouble, Untrue
from juxtaform.services.shapes import ENDED, JobSaid, ResultSaid, ServiceSaid
from juxtaform.studio import library, pictures, services
from juxtaform.studio.fitting import fitting_file
from juxtaform.studio.workspace import NotThere, Workspace

LEASE_S = 10.0
"""A job whose server died is taken up again after so many seconds; a server that lives says so of each job in hand three times as often."""
MOST_AT_ONCE = 8
"""Jobs that are asked of one service side by side, however many it would take."""
FIRST_LOOK_S, LAST_LOOK_S, SLOWER = 0.05, 2.0, 1.6
"""A job is looked after soon, then ever more seldom."""
LOOK_S = 2.0
"""The queue looks for itself what there is to do, besides being woken."""
MOST_TRIES = 6
FIRST_REST_S, MOST_REST_S = 2.0, 120.0
"""A service that does not answer is left alone for longer each time, and a job is given up after so many times."""
FULL_DISK_S = 30.0
SLOW_S = 600.0
"""A job that has told nothing new for so long is given up; it can be tried again."""
UNDER_WAY = ("asking", "running")
log = logging.getLogger("juxtaform")


class Cancelled(Exception):
    """The user does not want a job any more."""


@dataclass
class _Worker:
    """Somebody who carries out one service's jobs, one after the other."""

    service_id: str
    job_id: str = ""


@dataclass
class _Held:
    """A job in hand: what of it was known when it was claimed."""

    id: str
    project_id: str
    shot_id: str
    key: str
    at: str
    wanted: dict[str, Any]
    made_from: dict[str, Any]
    parent_id: str | None
    tries: int
    cancelling: bool
    taken: list[str] = field(default_factory=list)
    told: str = ""


class JobQueue:
    """Carries out the jobs of all projects; one for a running server. `came` is told of each take that came, as project and take."""

    def __init__(self, ws: Workspace, came: Callable[[str, str], None] | None = None) -> None:
        self.ws = ws
        self._came = came
        self._lease = secrets.token_hex(16)
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
        self._stamps[project_id] += 1
        self.ws.listeners.wake(project_id)
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
            await asyncio.sleep(LEASE_S / 3)
            if ids := [w.job_id for w in list(self._workers.values()) if w.job_id]:
                with contextlib.suppress(SQLAlchemyError):  # The database is away: the lease may run out meanwhile.
                    await _off(self._held_on, ids)

    def _held_on(self, ids: Sequence[str]) -> None:
        with self.ws.database.session() as s:
            own = update(Job).where(Job.id.in_(ids), Job.lease == self._lease, Job.state.in_(UNDER_WAY))
            s.execute(own.values(leased_until=now() + timedelta(seconds=LEASE_S)))

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
                s.execute(select(Job.service_id, func.count()).where(_due()).group_by(Job.service_id)).tuples().all()
            )
            out = {}
            for service_id, count in counts.items():
                state = s.get(ServiceState, service_id)
                if state is not None and not _rests(state):
                    said = ServiceSaid.model_validate_json(state.can) if state.can else None
                    at_once = min(MOST_AT_ONCE, said.jobs_at_once) if said else 1
                    busy = sum(w.service_id == service_id for w in list(self._workers.values()))
                    out[service_id] = min(at_once, count + busy)
            return out

    async def _work(self, worker: _Worker) -> None:
        """Carry out a service's jobs until there is none, or something is wrong with it."""
        job = await _off(self._claimed, worker)
        if job is None:
            return
        try:
            async with await _off(self._opened, worker.service_id) as service:
                while job is not None:
                    if not await self._carried_out(service, job):
                        return
                    job = None if self._closing else await _off(self._claimed, worker)
        except (Trouble, AddressWrong) as error:
            assert job is not None
            await _off(self._away, job, str(error))
        except asyncio.CancelledError:
            if worker.job_id:
                await _off(self._given_back, worker.job_id)
            raise

    def _opened(self, service_id: str) -> contextlib.AbstractAsyncContextManager[PictureService]:
        with self.ws.database.session() as s:
            service = s.get(Service, service_id)
            if service is None:
                raise Refused("Its service was removed.")
            s.expunge(service)
        return services.opened(self.ws, service)

    async def _carried_out(self, service: PictureService, job: _Held) -> bool:
        """Carry out a job; False where its service should be left alone for now."""
        try:
            await self._through(service, job)
            return True
        except Busy as error:
            await _off(self._rest, job, str(error), error.rest_s)
        except NotLetIn as error:
            await _off(self._rest, job, str(error), MOST_REST_S)
        except Away as error:
            await _off(self._away, job, str(error))
        except Untrue as error:
            await _off(self._ended, job, "failed", str(error))
            return True
        except Refused as error:
            await _off(self._ended, job, "refused", str(error))
            return True
        except NotThere as error:
            await _off(self._ended, job, "failed", str(error))
            return True
        except OSError as error:
            words = f"The picture could not be stored: {error.strerror or error}. Make room on the disk; it is fetched again."
            await _off(self._put_off, job, words, FULL_DISK_S)
            return True
        except OperationalError:
            log.warning("A job waits for the database.")
            await asyncio.sleep(LOOK_S)
        return False

    async def _through(self, service: PictureService, job: _Held) -> None:
        """Ask for a job unless that is done, follow it to its end, and take what comes. Raises Trouble, OSError."""
        if job.cancelling and not job.at:
            await _off(self._ended, job, "cancelled", "")
            return
        if not job.at:
            wanted = await self._brought(service, job)
            at, said = await service.ask(job.key, wanted)
            await _off(self._note, job, at=at, state="running", progress=said.progress, message="", tries=0)
            job.at = at
        else:
            said = await self._asked_after(service, job)
        look_s, quiet_s = FIRST_LOOK_S, 0.0
        told = _news_of(said)
        while True:
            for result in said.results:
                if _name_of(result) not in job.taken:
                    data = await service.picture(result.sha)
                    await _off(self._take, job, result, data)
            if said.state in ENDED:
                break
            await asyncio.sleep(look_s)
            if await _off(self._still_wanted, job, said) is False:
                await service.cancel(job.at)
            quiet_s, look_s = quiet_s + look_s, min(LAST_LOOK_S, look_s * SLOWER)
            said = await self._asked_after(service, job)
            if (now_told := _news_of(said)) != told:
                told, quiet_s = now_told, 0.0
            if quiet_s > SLOW_S:
                raise Away(f"{service.name} has told nothing new for {SLOW_S / 60:.0f} minutes.")
        state = {"done": "done", "failed": "failed", "refused": "refused"}.get(said.state, "cancelled")
        words = said.problem.detail or said.problem.title if said.problem and state in ("failed", "refused") else ""
        await _off(self._ended, job, state, words[:2000] or job.told, said.credits)

    async def _asked_after(self, service: PictureService, job: _Held) -> JobSaid:
        try:
            return await service.job(job.at)
        except Gone as error:
            raise Refused(
                f"{service.name} does not know this job any more. Try it again: it is asked for anew."
            ) from error

    async def _brought(self, service: PictureService, job: _Held) -> dict[str, Any]:
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

    def _claimed(self, worker: _Worker) -> _Held | None:
        """The next job of a service, leased; None when there is none, or the service rests."""
        worker.job_id = ""
        in_hand = [w.job_id for w in list(self._workers.values()) if w.job_id]
        with self.ws.database.session() as s:
            state = s.get(ServiceState, worker.service_id)
            if state is None or _rests(state):
                return None
            of_service = select(Job).where(Job.service_id == worker.service_id).with_for_update(skip_locked=True)
            job = (
                s.scalars(of_service.where(_orphaned(), Job.id.not_in(in_hand)).limit(1)).first()
                or s.scalars(of_service.where(_waiting()).order_by(Job.position).limit(1)).first()
            )
            if job is None:
                return None
            job.state = "running" if job.at else "asking"
            job.lease, job.leased_until = self._lease, now() + timedelta(seconds=LEASE_S)
            held = _Held(
                job.id,
                job.project_id,
                job.shot_id,
                job.key,
                job.at,
                dict(job.wanted),
                dict(job.made_from),
                job.parent_id,
                job.tries,
                job.cancelling,
                list(job.taken),
            )
        worker.job_id = held.id
        self._told(held.project_id)
        return held

    def _still_wanted(self, job: _Held, said: JobSaid) -> bool:
        """Hold on to a job, and write down how it goes; False when the user cancelled it. Raises Away when somebody else has it."""
        with self.ws.database.session() as s:
            row = self._own(s, job)
            moved = (row.progress, row.credits) != (said.progress, row.paid_before + said.credits)
            row.progress, row.credits = said.progress, row.paid_before + said.credits
            row.leased_until = now() + timedelta(seconds=LEASE_S)
            wanted = not row.cancelling
        if moved:
            self._told(job.project_id)
        return wanted

    def _note(self, job: _Held, **values: Any) -> None:
        with self.ws.database.session() as s:
            row = self._own(s, job)
            for key, value in values.items():
                setattr(row, key, value)
        self._told(job.project_id)

    def _take(self, job: _Held, result: ResultSaid, data: bytes) -> None:
        """Make a take of a picture that came, and write down that it is taken, in one."""
        try:
            picture = self.ws.store.put(data)
        except PictureRefused as error:
            raise Untrue(f"What came is no picture that can be taken: {error}") from error
        with self.ws.database.session() as s:
            pictures.keep(s, picture)
        if (picture.width, picture.height) != (result.width, result.height):
            job.told = (
                f"A picture came as {picture.width} × {picture.height} px and not as {result.width} × {result.height}, as the service said. "
                "It was taken as it is."
            )
        with self.ws.writing(job.project_id, "a take came", by_nobody=True) as w:
            row = self._own(w.session, job)
            row.taken = [*row.taken, _name_of(result)]
            take_id = self._made(w.session, job, result, picture)
        job.taken.append(_name_of(result))
        if take_id is None:
            library.seen(
                self.ws, job.project_id, picture.sha, f"{job.made_from['made']['service']}, seed {result.seed}"
            )
            job.told = "Its shot is gone. The picture is in the library."
        elif self._came is not None:
            self._came(job.project_id, take_id)
        self._told(job.project_id)

    def _made(self, s: Session, job: _Held, result: ResultSaid, picture: StoredPicture) -> str | None:
        """The take that a picture became; None when its shot is gone."""
        shot = s.get(Shot, job.shot_id)
        if shot is None or shot.project_id != job.project_id:
            return None
        made = {**job.made_from["made"], "seed": result.seed, "credits": result.credits}
        parent = s.get(Take, job.parent_id) if job.parent_id else None
        last = s.scalar(select(func.max(Take.position)).where(Take.shot_id == shot.id))
        take = Take(
            project_id=job.project_id,
            shot_id=shot.id,
            picture_sha=picture.sha,
            name=f"{made['service']}, seed {result.seed}"[:255],
            picked=False,
            position=-1.0 if last is None else last + 1,
            made_from={**job.made_from, "made": made},
            parent_id=parent.id if parent is not None and parent.project_id == job.project_id else None,
        )
        s.add(take)
        s.flush()
        return take.id

    def _ended(self, job: _Held, state: str, message: str, credits: float | None = None) -> None:
        """A job came to its end; it costs what its service said in the end. One that the service ended itself is asked for anew when it is
        tried again; where the service was untrue, what it has is looked after again, so that it is not paid twice."""
        with self._owning(job) as row:
            row.state, row.message, row.ended_at, row.lease, row.cancelling = state, message, now(), "", False
            row.tries = 0
            if state == "done":
                row.progress = 1.0
            if credits is not None:
                row.credits = row.paid_before + credits
            if state == "refused" or (state == "failed" and credits is not None):
                row.key, row.at, row.paid_before = secrets.token_hex(16), "", row.credits

    def _given_back(self, job_id: str) -> None:
        with self.ws.database.session() as s:
            s.execute(
                update(Job)
                .where(Job.id == job_id, Job.lease == self._lease, Job.state.in_(UNDER_WAY))
                .values(state="waiting", lease="", leased_until=None)
            )

    def _put_off(self, job: _Held, message: str, rest_s: float) -> None:
        """A job waits for better times, without its service being at fault."""
        with self._owning(job) as row:
            row.state, row.message, row.lease = "waiting", message, ""
            row.not_before = now() + timedelta(seconds=rest_s)

    def _rest(self, job: _Held, message: str, rest_s: float) -> None:
        """A service wants to rest, or does not let us in: its jobs wait, none of them is at fault."""
        with self._owning(job) as row:
            row.state, row.message, row.lease = "waiting", message, ""
            self._service_rests(row, message, rest_s)

    def _away(self, job: _Held, message: str) -> None:
        """A service does not answer: it is left alone for a while, and a job that met this often is given up."""
        with self._owning(job) as row:
            row.tries, row.lease, row.message = row.tries + 1, "", message
            if row.tries >= MOST_TRIES:
                row.state, row.ended_at = "failed", now()
                row.message = f"{message} It was tried {row.tries} times. Try again when the service answers."
            else:
                row.state = "waiting"
            rest_s = min(MOST_REST_S, FIRST_REST_S * 2 ** (row.tries - 1))
            row.not_before = now() + timedelta(seconds=rest_s)
            self._service_rests(row, message, min(rest_s, FIRST_REST_S * 4))

    def _service_rests(self, row: Job, message: str, rest_s: float) -> None:
        session = Session.object_session(row)
        assert session is not None
        if (state := session.get(ServiceState, row.service_id)) is not None:
            state.trouble, state.rests_until = message, now() + timedelta(seconds=rest_s)

    @contextmanager
    def _owning(self, job: _Held) -> Iterator[Job]:
        try:
            with self.ws.database.session() as s:
                yield self._own(s, job)
        except Away:
            return  # somebody else has it, or it is gone: theirs to say how it stands
        self._told(job.project_id)

    def _own(self, s: Session, job: _Held) -> Job:
        """The row of a job in hand. Raises Away when the lease was lost."""
        row = s.get(Job, job.id, with_for_update=True)
        if row is None or row.lease != self._lease:
            raise Away("Somebody else went on with this job.")
        return row

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


def _name_of(result: ResultSaid) -> str:
    """What a result is remembered by: two seeds may give the same picture, and are two takes all the same."""
    return f"{result.seed}:{result.sha}"


def _news_of(said: JobSaid) -> tuple[Any, ...]:
    return said.state, said.progress, len(said.results)


def _rests(state: ServiceState) -> bool:
    return state.rests_until is not None and state.rests_until > now()


def _waiting() -> Any:
    return (Job.state == "waiting") & or_(Job.not_before.is_(None), Job.not_before <= now())


def _orphaned() -> Any:
    return Job.state.in_(UNDER_WAY) & (Job.leased_until < now())


def _due() -> Any:
    return or_(_waiting(), _orphaned())
