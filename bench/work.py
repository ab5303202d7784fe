"""Work that fits the edit: what one change costs in a big project against a small one, each pair in the same run."""

from __future__ import annotations

import statistics
import threading
import time
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from itertools import count
from multiprocessing import get_context

import httpx
import numpy as np
from sqlalchemy import insert

from bench.speed import planned_project, workspace
from juxtaform.records.models import Bead, Take, new_id
from juxtaform.studio import plan, projects, proposals, story, takes, threads
from juxtaform.studio.checking import Checker
from juxtaform.studio.workspace import Workspace
from juxtaform.web.app import Entrance
from tests.conftest import flat, served
from tests.people import accounts_cookie, joins, person
from tests.story_texts import TEXTS

THREADS, ROUNDS = 20, 25
_number = count()


def filled_project(ws: Workspace, shots: int) -> tuple[str, list[str]]:
    """A project with some shots, 20 threads, ten beads and a picked picture a shot; fifty words of text a shot."""
    project, ids = planned_project(ws, shots)
    for k in range(THREADS):
        threads.make(ws, project, ("character", "setting", "style", "prop")[k // 5], f"Name{chr(65 + k)}")
    rows = projects.snapshot(ws, project).rows["thread"]
    style = [r["id"] for r in rows if r["kind"] == "style"]
    others = [r["id"] for r in rows if r["kind"] != "style"]
    rng = np.random.default_rng(3)
    shas = [str(takes.take_in(ws, f"{i}.png", flat((i * 20, 90, 10))).sha) for i in range(12)]
    with ws.database.session() as s:
        beads, taken = [], []
        for i, shot in enumerate(ids):
            for thread in [style[i % 5], *(others[k] for k in rng.permutation(len(others))[:9])]:
                held = {"hold": "figure", "weight": 0.8, "costume": "", "reference_id": None, "facing": ""}
                beads.append(
                    {"id": new_id(), "revision": 1, "project_id": project, "shot_id": shot, "thread_id": thread, **held}
                )
            made = {
                "picture_sha": shas[i % 12],
                "name": f"{i}.png",
                "picked": True,
                "position": float(i),
                "made_from": {},
            }
            taken.append(
                {"id": new_id(), "revision": 1, "project_id": project, "shot_id": shot, "not_here": [], **made}
            )
        s.execute(insert(Bead), beads)
        s.execute(insert(Take), taken)
    with ws.writing(project, "wrote") as w:
        for i, shot in enumerate(plan.in_order(w.session, project)):
            shot.shows = (
                f"Name{chr(65 + i % 5)} waits on step {i}, where the water ought to be, and looks at the boats."
            )
    return project, ids


def _timed(what: Callable[[], object], rounds: int = ROUNDS) -> float:
    """The usual time of something in milliseconds."""
    what()
    times = []
    for _ in range(rounds):
        begun = time.perf_counter()
        what()
        times.append(1000 * (time.perf_counter() - begun))
    return statistics.median(times)


def one_edit() -> None:
    """One field of one shot edited, with all that an open window then asks, in 1,000 shots against 10."""
    told = {}
    with workspace() as ws:
        made = {n: filled_project(ws, n) for n in (10, 1000)}
        with served(ws, Checker(ws)) as address, httpx.Client(base_url=address, timeout=60) as client:
            for n, (project, ids) in made.items():
                base, mark = f"/api/projects/{project}", ""

                def edit(shot: str = ids[n // 2], base: str = base) -> None:
                    answer = client.patch(f"{base}/shots/{shot}", json={"notes": f"Note {next(_number)}"})
                    assert answer.status_code == 200

                def reads(base: str = base) -> None:
                    nonlocal mark
                    got = client.get(f"{base}/findings", params={"after": mark})
                    mark = got.json()["mark"]

                def both(shot: str = ids[n // 2], base: str = base) -> None:
                    client.patch(f"{base}/shots/{shot}", json={"shows": f"NameA waits on step {next(_number)}."})
                    reads(base)

                reads()
                told[n] = (_timed(edit), _timed(both))
                print(
                    f"{n} shots: a note edited {told[n][0]:.1f} ms; words edited and what a window asks {told[n][1]:.1f} ms"
                )
    print(
        f"one edit with what a window asks, 1,000 shots against 10: {told[1000][1] / told[10][1]:.2f} x (wanted: under 2)"
    )


def snapshot_against_bare_json() -> None:
    """The snapshot of 1,000 shots against a bare route that sends the same JSON, in CPU time of the process."""
    import json

    from starlette.requests import Request
    from starlette.responses import Response
    from starlette.routing import Route

    with workspace() as ws:
        project, _ = filled_project(ws, 1000)
        checker = Checker(ws)
        held: dict[str, bytes] = {}

        def bare_json(_: Request) -> Response:
            return Response(json.dumps(held["data"]), media_type="application/json")

        with (
            served(
                ws,
                checker,
                lambda app: app.router.routes.insert(0, Route("/bare", bare_json)),
            ) as address,
            httpx.Client(base_url=address, timeout=60) as client,
        ):
            path = f"/api/projects/{project}?picked_alone=true"
            held["data"] = client.get(path).json()

            def cpu(url: str) -> float:
                begun = time.process_time()
                for _ in range(5):
                    client.get(url)
                return (time.process_time() - begun) / 5

            cpu(path), cpu("/bare")
            whole, bare = min(cpu(path) for _ in range(3)), min(cpu("/bare") for _ in range(3))
            print(
                f"the snapshot of 1,000 shots: {whole / bare:.2f} x a bare route with the same JSON (wanted: 1.3); {1000 * whole:.0f} ms of CPU"
            )


def a_letter() -> None:
    """A letter typed into 50,000 words against 500, on the server."""
    told = {}
    base_text = "\n\n".join(t.text for t in TEXTS if t.syntax == "prose")
    with workspace() as ws, served(ws, Checker(ws)) as address, httpx.Client(base_url=address, timeout=60) as client:
        for words in (500, 50_000):
            project = projects.make(ws, f"{words} words")
            text = "\n\n".join([base_text] * max(1, round(words / len(base_text.split()))))
            text = text if words > 1000 else " ".join(base_text.split(" ")[:500])
            story.keep(ws, project, text)
            proposals.propose(ws, project, None, None)
            seen = client.get(f"/api/projects/{project}").json()["rows"]["project"][0]["text_revision"]

            def letter(address: str = f"/api/projects/{project}/text", at: int = len(text) // 2) -> None:
                nonlocal seen
                got = client.patch(address, json={"at": at, "gone": 0, "put": "a", "seen": seen})
                assert got.status_code == 200, got.text
                seen = got.json()["rows"]["project"][0]["text_revision"]

            told[words] = _timed(letter)
            print(f"{words} words: a letter {told[words]:.0f} ms")
    print(f"a letter in 50,000 words against 500: {told[50_000] / told[500]:.2f} x (wanted: under 1.5)")


def fifty_people() -> None:
    """50 people who edit and read one project of 1,000 shots against one: 95 % of answers within."""
    with workspace() as ws:
        project, ids = filled_project(ws, 1000)
        crowd = ProcessPoolExecutor(1, mp_context=get_context("spawn"))
        with served(ws, Checker(ws)) as address, crowd as elsewhere:
            told = {n: elsewhere.submit(_people, address, project, ids, n).result() for n in (1, 50)}
    for people, (late, made) in told.items():
        print(f"{people} people: 95 % of answers within {late:.0f} ms, {made} edits and reads")
    print(f"50 people against one: p95 {told[50][0] / told[1][0]:.1f} x (wanted: under 3)")


def _people(address: str, project: str, ids: list[str], people: int, seconds: float = 20.0) -> tuple[float, int]:
    """Everybody opens the project; then everybody edits a shot every five seconds and reads what changed; returns the 95th percentile of the
    answers to edits and reads in ms, and how many there were."""
    times: list[float] = []
    everybody = threading.Barrier(people)

    def one(k: int) -> None:
        rng = np.random.default_rng(k)
        with httpx.Client(base_url=address, timeout=60) as client:
            mark = client.get(f"/api/projects/{project}/findings").json()["mark"]
            everybody.wait()
            until = time.monotonic() + seconds
            while time.monotonic() < until:
                time.sleep(float(rng.uniform(3, 7)))
                shot = ids[int(rng.integers(len(ids)))]
                begun = time.perf_counter()
                client.patch(f"/api/projects/{project}/shots/{shot}", json={"shows": f"NameB on step {next(_number)}."})
                middle = time.perf_counter()
                mark = client.get(f"/api/projects/{project}/findings", params={"after": mark}).json()["mark"]
                times.extend([1000 * (middle - begun), 1000 * (time.perf_counter() - middle)])

    crowd = [threading.Thread(target=one, args=(k,)) for k in range(people)]
    for t in crowd:
        t.start()
    for t in crowd:
        t.join()
    return float(np.percentile(times, 95)), len(times)


def signed_in() -> None:
    """What it costs to know who reads: the same reads signed in, and on a server where nobody has an account, one after the other in turn."""
    with workspace() as ws:
        project, _ = filled_project(ws, 200)
        mark = projects.snapshot(ws, project).version
        reads = {"a project": "", "what changed": f"/changes?after={mark}", "what there is to look at": "/findings"}
        with served(ws, Checker(ws)) as plain, httpx.Client(base_url=plain, timeout=60) as before:
            before_s = {what: _each(before, f"/api/projects/{project}{path}") for what, path in reads.items()}
            mira = person(ws, "mira", keeper=True)
            joins(ws, project, mira, "owner")
            with (
                served(ws, Checker(ws), entrance=Entrance()) as guarded,
                httpx.Client(base_url=guarded, timeout=60, cookies={"juxtaform": accounts_cookie(ws, mira)}) as after,
            ):
                for what, path in reads.items():
                    after_s = _each(after, f"/api/projects/{project}{path}")
                    print(f"{what}, signed in: {after_s / before_s[what]:.2f} x without accounts (wanted: under 1.1)")


def _each(client: httpx.Client, path: str, times: int = 120) -> float:
    """The middle time of a read in s."""
    taken = []
    for _ in range(times):
        begun = time.perf_counter()
        assert client.get(path).status_code == 200
        taken.append(time.perf_counter() - begun)
    return statistics.median(taken)
