"""Jobs in hand: each is leased in the database to the server that carries it out, which alone writes down how it goes and what came of it.
The lease of a server that died runs out, and another goes on with its jobs."""

from __future__ import annotations

import secrets
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field
from datetime import timedelta
from typing import Any

from sqlalchemy import func, or_, select, update
from sqlalchemy.orm import Session

from juxtaform.media.clips import clip_type
from juxtaform.media.decode import PictureRefused
from juxtaform.media.store import StoredPicture
from juxtaform.records.models import Job, ServiceState, Shot, Take, now
from juxtaform.services.pictures import Away, Untrue
from juxtaform.services.shapes import JobSaid, ResultSaid
from juxtaform.studio import clips, library, pictures
from juxtaform.studio.workspace import Workspace

LEASE_S = 10.0
"""A job whose server died is taken up again after so many seconds; a server that lives says so of each job in hand three times as often."""
MOST_TRIES = 6
FIRST_REST_S, MOST_REST_S = 2.0, 120.0
"""A service that does not answer is left alone for longer each time, and a job is given up after so many times."""
UNDER_WAY = ("asking", "running")


@dataclass
class Held:
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


class Leases:
    """The jobs that one server has in hand. `came` is told of each take that came, as project and take; `told` that a project's jobs changed."""

    def __init__(self, ws: Workspace, came: Callable[[str, str], None] | None, told: Callable[[str], None]) -> None:
        self.ws = ws
        self._came = came
        self._told = told
        self._lease = secrets.token_hex(16)

    def claimed(self, service_id: str, in_hand: Sequence[str]) -> Held | None:
        """The next job of a service, leased, that is not one of those in hand; None when there is none, or the service rests."""
        with self.ws.database.session() as s:
            state = s.get(ServiceState, service_id)
            if state is None or rests(state):
                return None
            of_service = select(Job).where(Job.service_id == service_id).with_for_update(skip_locked=True)
            job = (
                s.scalars(of_service.where(_orphaned(), Job.id.not_in(in_hand)).limit(1)).first()
                or s.scalars(of_service.where(_waiting()).order_by(Job.position).limit(1)).first()
            )
            if job is None:
                return None
            job.state = "running" if job.at else "asking"
            job.lease, job.leased_until = self._lease, now() + timedelta(seconds=LEASE_S)
            held = Held(
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
        self._told(held.project_id)
        return held

    def still_wanted(self, job: Held, said: JobSaid) -> bool:
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

    def note(self, job: Held, **values: Any) -> None:
        """Write down more of a job in hand. Raises Away when somebody else has it."""
        with self.ws.database.session() as s:
            row = self._own(s, job)
            for key, value in values.items():
                setattr(row, key, value)
        self._told(job.project_id)

    def take(self, job: Held, result: ResultSaid, data: bytes) -> None:
        """Make a take of a picture that came, and write down that it is taken, in one."""
        try:
            kind = clip_type(data)
            picture = clips.put(self.ws, data, kind) if kind else self.ws.store.put(data)
        except PictureRefused as error:
            raise Untrue(f"What came is no picture that can be taken: {error}") from error
        with self.ws.database.session() as s:
            pictures.keep(s, picture)
        if (picture.width, picture.height) != (result.width, result.height):
            job.told = (
                f"A picture came as {picture.width} × {picture.height} px and not as {result.width} × {result.height}, as the service said. "
                "It was taken as it is."
            )
        ends = clips.ends(self.ws, picture.sha) if kind else clips.Ends()
        with self.ws.writing(job.project_id, "a take came", by_nobody=True) as w:
            row = self._own(w.session, job)
            row.taken = [*row.taken, name_of(result)]
            take_id = self._made(w.session, job, result, picture, ends)
        job.taken.append(name_of(result))
        if take_id is None:
            library.seen(
                self.ws, job.project_id, picture.sha, f"{job.made_from['made']['service']}, seed {result.seed}"
            )
            job.told = "Its shot is gone. The picture is in the library."
        elif self._came is not None:
            self._came(job.project_id, take_id)
        self._told(job.project_id)

    def _made(self, s: Session, job: Held, result: ResultSaid, picture: StoredPicture, ends: clips.Ends) -> str | None:
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
            **vars(ends),
        )
        s.add(take)
        s.flush()
        return take.id

    def ended(self, job: Held, state: str, message: str, credits: float | None = None) -> None:
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

    def given_back(self, job_id: str) -> None:
        """A job waits again as it did, for whoever takes it up next."""
        with self.ws.database.session() as s:
            s.execute(
                update(Job)
                .where(Job.id == job_id, Job.lease == self._lease, Job.state.in_(UNDER_WAY))
                .values(state="waiting", lease="", leased_until=None)
            )

    def put_off(self, job: Held, message: str, rest_s: float) -> None:
        """A job waits for better times, without its service being at fault."""
        with self._owning(job) as row:
            row.state, row.message, row.lease = "waiting", message, ""
            row.not_before = now() + timedelta(seconds=rest_s)

    def rest(self, job: Held, message: str, rest_s: float) -> None:
        """A service wants to rest, or does not let us in: its jobs wait, none of them is at fault."""
        with self._owning(job) as row:
            row.state, row.message, row.lease = "waiting", message, ""
            self._service_rests(row, message, rest_s)

    def away(self, job: Held, message: str) -> None:
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
    def _owning(self, job: Held) -> Iterator[Job]:
        try:
            with self.ws.database.session() as s:
                yield self._own(s, job)
        except Away:
            return  # somebody else has it, or it is gone: theirs to say how it stands
        self._told(job.project_id)

    def _own(self, s: Session, job: Held) -> Job:
        """The row of a job in hand. Raises Away when the lease was lost."""
        row = s.get(Job, job.id, with_for_update=True)
        if row is None or row.lease != self._lease:
            raise Away("Somebody else went on with this job.")
        return row

    def held_on(self, ids: Sequence[str]) -> None:
        """Hold on to jobs in hand for as long as a lease is."""
        with self.ws.database.session() as s:
            own = update(Job).where(Job.id.in_(ids), Job.lease == self._lease, Job.state.in_(UNDER_WAY))
            s.execute(own.values(leased_until=now() + timedelta(seconds=LEASE_S)))


def name_of(result: ResultSaid) -> str:
    """What a result is remembered by: two seeds may give the same picture, and are two takes all the same."""
    return f"{result.seed}:{result.sha}"


def rests(state: ServiceState) -> bool:
    """Whether a service is left alone for now."""
    return state.rests_until is not None and state.rests_until > now()


def _waiting() -> Any:
    return (Job.state == "waiting") & or_(Job.not_before.is_(None), Job.not_before <= now())


def _orphaned() -> Any:
    return Job.state.in_(UNDER_WAY) & (Job.leased_until < now())


def due() -> Any:
    """Jobs that are to be taken up now, as a condition of a query."""
    return or_(_waiting(), _orphaned())
