"""Many people for a long time on one project, and pictures measured by a distributed engine; the parts that docs/scale.md counts with."""

from __future__ import annotations

import os
import subprocess
import sys
import threading
import time
from concurrent.futures import ProcessPoolExecutor
from contextlib import contextmanager
from multiprocessing import get_context
from pathlib import Path
from tempfile import TemporaryDirectory

import httpx
import numpy as np
import psutil
from sqlalchemy import text

from bench.work import filled_project, workspace
from juxtaform.media.store import PictureStore
from juxtaform.studio import measuring, takes
from juxtaform.studio.checking import Checker
from juxtaform.studio.measuring import PictureTask, Workers, done_by_workers, measure_task, pool, to_text
from tests.conftest import png, served
from tests.constructed import scene

SOAK_VARIABLE, SOAK_MINUTES, PEOPLE = "JUXTAFORM_SOAK_MINUTES", 30.0, 50
RESTED = httpx.Limits(keepalive_expiry=2.0)
"""A client lets a resting connection go before the server does: otherwise the two may cross."""
FAR_PICTURES = int(os.environ.get("JUXTAFORM_FAR_PICTURES", "1000"))
FAR_PART = 100


def soak() -> None:
    """50 people on a project of 1,000 shots for half an hour: each listens, edits, moves about and falls asleep now and then. Answers stay
    quick, memory stays flat, every window ends with what the server has."""
    minutes = float(os.environ.get(SOAK_VARIABLE, SOAK_MINUTES))
    own = psutil.Process()
    with workspace() as ws:
        project, ids = filled_project(ws, 1000)
        crowd = ProcessPoolExecutor(1, mp_context=get_context("spawn"))
        with served(ws, Checker(ws)) as address, crowd as elsewhere:
            going = elsewhere.submit(_soaked, address, project, ids, minutes * 60)
            seen: list[tuple[float, float]] = []
            begun = time.monotonic()
            while not going.done():
                seen.append((time.monotonic() - begun, own.memory_info().rss / 2**20))
                time.sleep(2)
            late, made, apart = going.result()
    warm = [mb for at, mb in seen if at > minutes * 60 * 0.2]
    third = len(warm) // 3
    first, last = float(np.median(warm[:third])), float(np.median(warm[-third:]))
    print(f"{PEOPLE} people for {minutes:g} minutes: {made} answers, 95 % within {late:.0f} ms")
    print(
        f"memory of the server: {first:.0f} MB in the first third, {last:.0f} MB in the last: {last / first:.2f} x (wanted: flat)"
    )
    print(f"windows that ended otherwise than the server: {apart} of {PEOPLE}")


def _soaked(address: str, project: str, ids: list[str], seconds: float) -> tuple[float, int, int]:
    times: list[float] = []
    apart = 0
    lock, all_wrote = threading.Lock(), threading.Barrier(PEOPLE)
    stop_writing = time.monotonic() + seconds

    def one(k: int) -> None:
        nonlocal apart
        rng = np.random.default_rng(k)
        with httpx.Client(base_url=address, timeout=120, limits=RESTED) as client:
            version = client.get(f"/api/projects/{project}").json()["version"]
            shown: dict[str, str] = {}

            def catch_up() -> None:
                nonlocal version
                told = client.get(f"/api/projects/{project}/changes", params={"after": version})
                if told.status_code == 410:
                    whole = client.get(f"/api/projects/{project}").json()
                    version = whole["version"]
                    shown.update({s["id"]: s["shows"] for s in whole["rows"]["shot"]})
                    return
                changed = told.json()
                version = max(version, changed["version"])
                shown.update({s["id"]: s["shows"] for s in changed["rows"].get("shot", [])})

            while time.monotonic() < stop_writing:
                # Some fall asleep for a minute, and catch up exactly.
                time.sleep(60.0 if rng.random() < 0.02 else float(rng.uniform(3, 7)))
                shot = ids[int(rng.integers(len(ids)))]
                begun = time.perf_counter()
                client.patch(
                    f"/api/projects/{project}/shots/{shot}", json={"shows": f"Person {k} at {time.time():.3f}"}
                )
                client.put(f"/api/projects/{project}/here", json={"window": f"w{k}", "view": "sheet", "shot_id": shot})
                catch_up()
                with lock:
                    times.append(1000 * (time.perf_counter() - begun) / 3)
            # Nobody writes any more when they look whether all is told: who slept at the end wrote late.
            all_wrote.wait(180)
            catch_up()
            whole = {s["id"]: s["shows"] for s in client.get(f"/api/projects/{project}").json()["rows"]["shot"]}
            with lock:
                apart += any(whole[shot] != words for shot, words in shown.items())

    crowd = [threading.Thread(target=one, args=(k,)) for k in range(PEOPLE)]
    for t in crowd:
        t.start()
    for t in crowd:
        t.join()
    return float(np.percentile(times, 95)), 3 * len(times), apart


def far_against_here() -> None:
    """1,000 pictures measured by two workers of a scheduler on this machine, against two local processes; a part here and the same part there in
    turns, so that a machine whose speed sways is as slow for both."""
    with TemporaryDirectory() as home:
        store = PictureStore(Path(home) / "pictures")
        tasks = _tasks(store, FAR_PICTURES)
        here_s, far_s, here, far = 0.0, 0.0, {}, {}
        with pool() as executor, _engine(Path(home), measuring.workers()) as address:
            list(done_by_workers(measure_task, tasks[:8], executor))  # The networks are read.
            os.environ[measuring.SCHEDULER_VARIABLE] = address
            workers = Workers()
            list(workers.done(measure_task, tasks[:24]))  # Each has read its networks.
            for at in range(0, len(tasks), FAR_PART):
                part = tasks[at : at + FAR_PART]
                taken, told = _timed(done_by_workers(measure_task, part, executor))
                here_s, here = here_s + taken, here | told
                taken, told = _timed(workers.done(measure_task, part))
                far_s, far = far_s + taken, far | told
            workers.close()
            del os.environ[measuring.SCHEDULER_VARIABLE]
    print(
        f"{len(tasks)} pictures: {here_s:.1f} s here, {far_s:.1f} s by the engine: {far_s / here_s:.2f} x (wanted: under 1.15)"
    )
    print(f"the same to the byte: {here == far}")


def parts() -> None:
    """What docs/scale.md counts with: bytes in the database and the store, seconds and bytes of a picture's measure."""
    with workspace() as ws:
        project, ids = filled_project(ws, 1000)
        rng = np.random.default_rng(3)
        page = scene([], rng, ground=3)[0]
        big = np.repeat(np.repeat(page, 3, axis=0), 3, axis=1)[:2048, :3072]
        noise = rng.integers(-12, 12, big.shape)
        data = png(np.clip(big.astype(np.int16) + noise, 0, 255).astype(np.uint8))
        begun = time.perf_counter()
        taken = takes.take_in(ws, "a.png", data)
        in_s = time.perf_counter() - begun
        own, thumbs = len(data), sum(p.stat().st_size for p in ws.store.root.glob("??/*.webp"))
        task = PictureTask(str(ws.store.path(str(taken.sha))), str(taken.sha), (), ())
        measure_task(task)
        begun = time.process_time()
        measure = measure_task(task)
        measure_s = time.process_time() - begun
        assert measure.measure is not None
        with ws.database.session() as s:
            s.execute(text("ANALYZE TABLE shot, text_part, `change`, bead, scene, project"))
            rows = s.execute(
                text(
                    "SELECT table_name, data_length, index_length FROM information_schema.tables WHERE table_schema = DATABASE()"
                )
            ).all()
        whole = sum(d + i for _, d, i in rows)
        print(
            f"a project of {len(ids)} shots: {whole / 2**20:.1f} MB in the database ({sum(i for _, _, i in rows) / 2**20:.1f} MB of it indexes)"
        )
        print(
            f"a picture of {big.shape[1]} x {big.shape[0]}: {own / 2**20:.1f} MB, thumbnails {thumbs / 1024:.0f} kB, taken in in {in_s:.2f} s"
        )
        print(
            f"its measure: {measure_s:.2f} s of one core; {len(to_text(measure.measure)) / 1024:.1f} kB kept; project {project[:8]}"
        )


def _tasks(store: PictureStore, count: int) -> list[PictureTask]:
    rng = np.random.default_rng(5)
    page = scene([], rng, ground=4)[0]
    found = []
    for i in range(count):
        part = page[: 360 + i % 40, : 540 + i % 60].copy()
        part[:8, :8] = (i % 256, i // 256, 40)
        sha = store.put(png(part)).sha
        found.append(PictureTask(str(store.path(sha)), sha, (), ()))
    return found


def _timed(results: object) -> tuple[float, dict[str, str]]:
    begun = time.perf_counter()
    found = {m.key: to_text(m.measure) for m in results}  # type: ignore[attr-defined]
    return time.perf_counter() - begun, found


@contextmanager
def _engine(home: Path, count: int):  # type: ignore[no-untyped-def]
    """A scheduler with workers, processes of their own."""
    scheduler = [
        sys.executable,
        "-m",
        "distributed.cli.dask_scheduler",
        "--host",
        "127.0.0.1",
        "--port",
        "0",
        "--no-dashboard",
    ]
    with _said(scheduler, "Scheduler at:") as said:
        address = next(w for w in said.split() if w.startswith("tcp://"))
        worker = [
            sys.executable,
            "-m",
            "juxtaform.cli",
            "worker",
            address,
            "--processes",
            str(count),
            "--copies",
            str(home / "copies"),
        ]
        with _said(worker, "measure pictures for"):
            yield address


@contextmanager
def _said(command: list[str], ready: str):  # type: ignore[no-untyped-def]
    started = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
    assert started.stdout is not None
    line = next((line for line in started.stdout if ready in line), "")
    threading.Thread(target=lambda: list(started.stdout or ()), daemon=True).start()
    try:
        yield line
    finally:
        started.terminate()
        started.wait()
