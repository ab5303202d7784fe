"""Live events of a project: what happened after a version, read from the journal, and how the check stands."""

from __future__ import annotations

import asyncio
import contextlib
import time
from collections.abc import AsyncIterator, Iterator
from dataclasses import replace
from functools import partial
from typing import Annotated

from fastapi import APIRouter, Depends, Header, Query
from fastapi.concurrency import run_in_threadpool
from fastapi.sse import EventSourceResponse, ServerSentEvent
from pydantic import Field, TypeAdapter
from sqlalchemy.exc import OperationalError

from juxtaform.records.rules import Id
from juxtaform.studio import news, projects
from juxtaform.studio.checking import CheckStatus
from juxtaform.studio.live import LOOK_AGAIN_S
from juxtaform.studio.presence import Here, Presence
from juxtaform.studio.spotting import SpotStatus
from juxtaform.studio.workspace import Changed, NotThere
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, Live, ShowingNews, TheBackground, ThePresence, Ws, out
from juxtaform.web.entrance import TheVisitor, Visitor, see_role

router = APIRouter(tags=["projects"], responses=ERRORS)
_CHECK = TypeAdapter(CheckStatus)
_SPOTTING = TypeAdapter(SpotStatus)
DATABASE_AWAY_S = 2.0
ROLE_AGAIN_S = 15.0
"""Whoever was taken out of a project hears of it no longer than so."""


_HERE = TypeAdapter(list[Here])


class At(Body):
    """Where a window is."""

    window: Annotated[str, Field(min_length=1, max_length=64)]
    view: Annotated[str, Field(max_length=20)] = ""
    shot_id: Id | None = None


def _there(ws: Ws, project_id: str) -> str:
    projects.there(ws, project_id)
    return project_id


@router.get(
    "/projects/{project_id}/events",
    summary="Live events (server-sent): `changed` with all that happened, `check` with its progress, `standings` with how many pictures were looked through, `jobs` when the queue changed, `gauged` when takes were measured, `deliveries` when files out went on, `anew` when who asks is too far behind, `shown` when somebody said something of a showing, `here` with the windows that are open and where they are, `gone` when the project is deleted",
    response_class=EventSourceResponse,
)
async def events(
    ws: Ws,
    live: Live,
    background: TheBackground,
    presence: ThePresence,
    showing_news: ShowingNews,
    visitor: TheVisitor,
    project_id: Annotated[str, Depends(_there)],
    after: Annotated[int, Query(description="The version that the listener has.", ge=-1)] = -1,
    window: Annotated[
        str, Query(description="A name for the listening window, by which others see it.", max_length=64)
    ] = "",
    last_event_id: Annotated[str, Header(description="The version that the listener has, when it comes again.")] = "",
) -> AsyncIterator[ServerSentEvent]:
    loop, woken = asyncio.get_running_loop(), asyncio.Event()
    at = (
        int(last_event_id) if last_event_id.isascii() and last_event_id.isdigit() and len(last_event_id) < 10 else after
    )
    last_status: CheckStatus | None = None
    seen_at = time.monotonic()
    spotted, queue, gauge = SpotStatus(), background.queue, background.gauge
    jobs_at, gauged_at = queue.stamp(project_id), gauge.stamp(project_id)
    delivered_at = background.deliveries.stamp(project_id)

    def wake() -> None:
        with contextlib.suppress(RuntimeError):  # The loop has ended: nobody listens any more.
            loop.call_soon_threadsafe(woken.set)

    here_at, shown_at = -1, showing_news.stamp(project_id)
    with ws.listeners.listening(project_id, wake), _seen(presence, project_id, as_here(visitor, window)):
        while True:
            woken.clear()
            try:
                if visitor.person and time.monotonic() - seen_at > ROLE_AGAIN_S:
                    await run_in_threadpool(see_role, ws, visitor, project_id, "reviewer")
                    seen_at = time.monotonic()
                changed, status = await run_in_threadpool(live.heard, project_id, at)
            except news.TooFarBehind:
                yield ServerSentEvent(event="anew", raw_data="{}")
                return
            except NotThere:
                yield ServerSentEvent(event="gone", raw_data="{}")
                return
            except OperationalError:
                await asyncio.sleep(DATABASE_AWAY_S)
                continue
            if changed is not None:
                data = await run_in_threadpool(
                    live.said, project_id, ("event", at, changed.version), partial(_told, changed)
                )
                at = changed.version
                yield ServerSentEvent(event="changed", raw_data=data, id=str(at))
            if status != last_status:
                last_status = status
                yield ServerSentEvent(event="check", raw_data=_CHECK.dump_json(status).decode())
            if (looked := background.spotter.status(project_id)) != spotted:
                spotted = looked
                yield ServerSentEvent(event="standings", raw_data=_SPOTTING.dump_json(looked).decode())
            if (stamp := queue.stamp(project_id)) != jobs_at:
                jobs_at = stamp
                yield ServerSentEvent(event="jobs", raw_data=str(stamp))
            if (stamp := gauge.stamp(project_id)) != gauged_at:
                gauged_at = stamp
                yield ServerSentEvent(event="gauged", raw_data=str(stamp))
            if (stamp := background.deliveries.stamp(project_id)) != delivered_at:
                delivered_at = stamp
                yield ServerSentEvent(event="deliveries", raw_data=str(stamp))
            if (stamp := showing_news.stamp(project_id)) != shown_at:
                shown_at = stamp
                yield ServerSentEvent(event="shown", raw_data=str(stamp))
            if window and (stamp := presence.stamp(project_id)) != here_at:
                here_at = stamp
                yield ServerSentEvent(event="here", raw_data=_HERE.dump_json(presence.of(project_id)).decode())
            try:
                await asyncio.wait_for(woken.wait(), LOOK_AGAIN_S)
            except TimeoutError:
                continue


@router.put(
    "/projects/{project_id}/here", summary="Say in which view and at which shot a window is; who is where comes back"
)
def here(
    presence: ThePresence, visitor: TheVisitor, project_id: Annotated[str, Depends(_there)], body: At
) -> list[Here]:
    presence.moved(project_id, replace(as_here(visitor, body.window), view=body.view, shot_id=body.shot_id))
    return presence.of(project_id)


@contextlib.contextmanager
def _seen(presence: Presence, project_id: str, here: Here) -> Iterator[None]:
    """While this lasts, others see a window."""
    if not here.window:
        yield
        return
    presence.came(project_id, here)
    try:
        yield
    finally:
        presence.left(project_id, here.window)


def as_here(visitor: Visitor, window: str) -> Here:
    """A window of whoever asks."""
    person = visitor.person
    return Here(window, person.name if person else "", person.id if person else "")


def _told(changed: Changed) -> str:
    return out(changed).model_dump_json(exclude_unset=True)
