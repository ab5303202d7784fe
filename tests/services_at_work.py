"""The Understudy at work for tests: on a real port, with troubles that a test chooses, and services that lie."""

from __future__ import annotations

import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import replace
from typing import Any

import uvicorn
from fastapi import FastAPI

from juxtaform.listening import listening_on
from juxtaform.studio import services, takes, threads
from juxtaform.studio.queue import JobQueue
from juxtaform.studio.workspace import Workspace
from juxtaform.understudy.service import make_app
from tests.conftest import LOOK, plan_from, png, row, rows
from tests.constructed import reference

ADA = replace(LOOK, coat="#a83f5c", hair="#3c4a8a")
"""Another Ada than that of other tests, so that her pictures are not measured already."""
STORY = "# One\nAda waits on the quay.\n# Two\nAda looks at the sea.\n# Three\nAda goes home."


@contextmanager
def running(app: FastAPI) -> Iterator[str]:
    """An application on a real port; its address."""
    listening = listening_on(0)
    server = uvicorn.Server(uvicorn.Config(app, log_level="critical", timeout_graceful_shutdown=1))
    thread = threading.Thread(target=server.run, kwargs={"sockets": [listening]}, daemon=True)
    thread.start()
    try:
        yield f"http://127.0.0.1:{listening.getsockname()[1]}"
    finally:
        server.should_exit = True
        thread.join(10)


@contextmanager
def understudy(**how: Any) -> Iterator[tuple[str, FastAPI]]:
    """An Understudy on a port: its address, and the application, whose jobs can be looked at."""
    app = make_app("", **how)
    with running(app) as address:
        yield address, app


@contextmanager
def queue_of(ws: Workspace, **how: Any) -> Iterator[JobQueue]:
    """A queue at work."""
    queue = JobQueue(ws, **how)
    queue.start()
    try:
        yield queue
    finally:
        queue.close()


def with_ada(ws: Workspace, project: str, text: str = STORY) -> list[str]:
    """Shots of a text with Ada in all of them, who has a reference; returns the shots."""
    threads.make(ws, project, "character", "Ada")
    ada = row(ws, project, "thread")["id"]
    sha = takes.take_in(ws, "ada.png", png(reference(ADA))).sha
    assert sha
    threads.add_references(ws, project, ada, [(sha, "front")], "")
    plan_from(ws, project, text)
    return [s["id"] for s in rows(ws, project, "shot")]


def with_service(ws: Workspace, project: str, address: str, token: str = "") -> str:
    """A service at an address; returns its id."""
    services.add(ws, project, f"At {address}", address, token)
    return row(ws, project, "service", -1)["id"]


def soon(true: Callable[[], object], timeout_s: float = 20.0) -> None:
    """Wait until something is so."""
    begun = time.monotonic()
    while not true():
        waited = time.monotonic() - begun
        assert waited < timeout_s, "it did not come about in time"
        time.sleep(min(0.2, 0.02 + waited / 10))  # To ask takes time from what is waited for.
