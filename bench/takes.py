"""Takes by the hundred: the queue against a bare loop of requests, a contact sheet of 200 takes against 12, a take's measures on screen."""

from __future__ import annotations

import hashlib
import statistics
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager

import httpx
import numpy as np
from fastapi import FastAPI, Request, Response
from sqlalchemy import insert, select

from bench.screens import PAINTED, _page
from bench.speed import planned_project, workspace
from juxtaform.media.store import PictureStore
from juxtaform.records.models import Take, new_id
from juxtaform.studio import contact_sheet, jobs, making, services, takes, threads
from juxtaform.studio.checking import Checker
from juxtaform.studio.gauging import Gauge, _Laid
from juxtaform.studio.gauging import gauge as gauge_one
from juxtaform.studio.making import Order
from juxtaform.studio.queue import JobQueue
from juxtaform.studio.workspace import Workspace
from tests.conftest import flat, png, rows
from tests.constructed import reference
from tests.services_at_work import ADA, understudy

JOBS = 1000
MODEL = {
    "id": "m",
    "name": "At once",
    "kinds": ["picture"],
    "aspects": ["3:2"],
    "holds": [],
    "text_most": 4000,
    "references_most": 4,
    "reference_side_most_px": 4096,
    "pictures_most": 4,
    "seeds": True,
    "clip_seconds_most": None,
    "qualities": [{"id": "draft", "side_px": 640, "credits": 1.0}],
}


def at_once() -> FastAPI:
    """A service that has every picture ready: each job is done with the answer to its asking."""
    app = FastAPI()
    rng = np.random.default_rng(1)
    held: dict[str, bytes] = {}
    done: dict[str, dict[str, object]] = {}

    @app.get("/picture-service/v1/")
    def can() -> dict[str, object]:
        return {"name": "At once", "version": 1, "models": [MODEL], "jobs_at_once": 8}

    @app.post("/picture-service/v1/jobs", status_code=202)
    async def ask(request: Request, response: Response) -> dict[str, object]:
        key = request.headers["idempotency-key"]
        seed = (await request.json())["seed"]
        data = flat(tuple(int(v) for v in rng.integers(0, 255, 3)), (640, 426))  # type: ignore[arg-type]
        data += len(done).to_bytes(4, "big")  # bytes behind the end of a PNG make each file another one
        sha = hashlib.sha256(data).hexdigest()
        held[sha] = data
        result = {"sha": sha, "media_type": "image/png", "width": 640, "height": 426, "seed": seed, "credits": 1.0}
        done[key] = {"id": key, "state": "done", "progress": 1.0, "results": [result], "credits": 1.0}
        response.headers["Location"] = f"/picture-service/v1/jobs/{key}"
        return done[key]

    @app.get("/picture-service/v1/jobs/{key}")
    def job(key: str) -> dict[str, object]:
        return done[key]

    @app.get("/picture-service/v1/pictures/{sha}")
    def picture(sha: str) -> Response:
        return Response(held[sha], media_type="image/png")

    return app


@contextmanager
def _served_apart(app_of: str) -> Iterator[str]:
    """An application of this file in a process of its own, so that it takes no time from who asks it."""
    code = (
        "import uvicorn; from juxtaform.listening import listening_on; import bench.takes as t;"
        "l = listening_on(0); print(l.getsockname()[1], flush=True);"
        f"uvicorn.Server(uvicorn.Config(t.{app_of}(), log_level='critical')).run(sockets=[l])"
    )
    process = subprocess.Popen([sys.executable, "-c", code], stdout=subprocess.PIPE, text=True)
    try:
        assert process.stdout is not None
        yield f"http://127.0.0.1:{int(process.stdout.readline())}"
    finally:
        process.kill()


def queue_against_a_bare_loop() -> None:
    """1,000 jobs through the queue against a service that answers at once, beside a bare loop of the same requests and store writes."""
    with workspace() as ws, _served_apart("at_once") as address:
        project, ids = planned_project(ws, JOBS)
        services.add(ws, project, "At once", address)
        service = rows(ws, project, "service")[0]["id"]
        begun = time.perf_counter()
        store = PictureStore(ws.store.root.parent / "bare")
        with httpx.Client(trust_env=False) as client:
            for i in range(JOBS):
                body = {"model": "m", "text": f"Shot {i}.", "seed": i, "count": 1}
                headers = {"Idempotency-Key": f"bare-{i}"}
                job = client.post(f"{address}/picture-service/v1/jobs", json=body, headers=headers).json()
                store.put(client.get(f"{address}/picture-service/v1/pictures/{job['results'][0]['sha']}").content)
        bare = time.perf_counter() - begun
        making.make(ws, project, Order(tuple(ids), 1, service, as_it_is=True))
        queue = JobQueue(ws)
        begun = time.perf_counter()
        queue.start()
        while jobs.queue(ws, project).counts.get("done", 0) < JOBS:
            time.sleep(0.25)
        own = time.perf_counter() - begun
        queue.close()
        with ws.database.session() as s:
            came = len(list(s.scalars(select(Take.id).where(Take.project_id == project))))
    print(f"{JOBS} jobs: bare loop {bare:.1f} s, queue {own:.1f} s, {came} takes: {own / bare:.2f} times (wanted < 2)")


def contact_sheet_of_two_hundred() -> None:
    """The first paint of a contact sheet of 200 takes against one of 12, each the middle of five openings."""
    with workspace() as ws:
        paints = {}
        made = {}
        for count in (12, 200):
            project, ids = planned_project(ws, 12)
            shas = [
                str(takes.take_in(ws, f"{i}.png", flat((i % 250, 90, i // 250), (640, 426))).sha) for i in range(count)
            ]
            with ws.database.session() as s:
                s.execute(
                    insert(Take),
                    [
                        {
                            "id": new_id(),
                            "revision": 1,
                            "project_id": project,
                            "shot_id": ids[0],
                            "picture_sha": sha,
                            "name": f"{i}.png",
                            "picked": i == 0,
                            "position": float(i),
                            "made_from": {},
                            "not_here": [],
                            "standing": "",
                            "parent_id": None,
                        }
                        for i, sha in enumerate(shas)
                    ],
                )
            made[count] = project
        with _page(ws) as page:
            for count, project in made.items():
                times = []
                for _ in range(6):
                    page.driver.get("about:blank")
                    page.open(f"/p/{project}/takes")
                    times.append(page.driver.execute_async_script(PAINTED, "[data-contact-sheet] [data-take] img"))
                paints[count] = statistics.median(times[1:])
    print(
        f"contact sheet, first paint: 12 takes {paints[12]:.0f} ms, 200 takes {paints[200]:.0f} ms: {paints[200] / paints[12]:.2f} times (wanted < 1.5)"
    )


def _measuring(ws: Workspace, project: str, shots: list[str], service: str, queue: JobQueue) -> list[float]:
    """How long measuring takes of takes that nobody has measured, one after the other in this process."""
    queue.leases._came = None
    making.make(ws, project, Order(tuple(shots), 1, service, as_it_is=True))
    queue.wake()
    while any(j.state in ("waiting", "asking", "running") for j in jobs.queue(ws, project).jobs):
        time.sleep(0.05)
    with ws.database.reading() as s:
        fresh = list(s.scalars(select(Take).where(Take.project_id == project, Take.shot_id.in_(shots))))
        tasks = [t for x in fresh if (t := _Laid(s, ws, project, [x]).task(x)) is not None]
    times = []
    for task in tasks:
        begun = time.perf_counter()
        gauge_one(task)
        times.append(time.perf_counter() - begun)
    return times[1:]


def measures_on_screen() -> None:
    """How long after a take came its measures can be read, against what measuring it takes, with the workers warm."""
    with workspace() as ws, understudy() as (address, _):
        project, ids = planned_project(ws, 12)
        threads.make(ws, project, "character", "Ada")
        ada = rows(ws, project, "thread")[0]["id"]
        sha = str(takes.take_in(ws, "ada.png", png(reference(ADA))).sha)
        threads.add_references(ws, project, ada, [(sha, "front")], "")
        threads.assign(ws, project, ada, ids, on=True)
        services.add(ws, project, "Understudy", address)
        service = rows(ws, project, "service")[0]["id"]
        checker = Checker(ws)
        gauge = Gauge(ws, checker.workers)
        came: dict[str, float] = {}
        ready: dict[str, float] = {}
        queue = JobQueue(ws, lambda p, t: (came.__setitem__(t, time.perf_counter()), gauge.want(p, [t]))[0])
        queue.start()
        try:
            for shot in ids[:8]:
                making.make(ws, project, Order((shot,), 1, service, as_it_is=True))
                queue.wake()
                until = time.perf_counter() + 60
                while time.perf_counter() < until:
                    told = contact_sheet.sheet(ws, gauge, project, shot)
                    for r in told.readings:
                        ready.setdefault(r.take, time.perf_counter())
                    if told.readings and not told.waiting:
                        break
                    time.sleep(0.02)
            waits = [ready[t] - came[t] for t in ready][2:]
            alone = _measuring(ws, project, ids[8:], service, queue)
        finally:
            queue.close()
            gauge.close()
            checker.close()
    screen, measuring = statistics.median(waits), statistics.median(alone)
    print(
        f"a take's measures: readable {screen:.2f} s after it came, measuring {measuring:.2f} s: {screen / measuring:.2f} times (wanted < 2)"
    )
