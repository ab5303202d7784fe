"""The queue: takes come, once each and paid once, whatever happens to the server, the service or the shot."""

import asyncio
import hashlib
import time
from contextlib import ExitStack
from typing import Annotated

import pytest
from fastapi import FastAPI, Header, HTTPException, Response
from fastapi.testclient import TestClient
from sqlalchemy import select

from juxtaform.records.models import Job, ServiceState
from juxtaform.studio import jobs, leases, making, plan, projects, queue, services
from juxtaform.studio.making import Order
from juxtaform.studio.workspace import NotPossible
from juxtaform.understudy import jobs as painter
from juxtaform.understudy.service import PREFIX, make_app
from tests.conftest import flat, row, rows
from tests.services_at_work import queue_of, running, soon, understudy, with_ada, with_service


@pytest.fixture(autouse=True)
def quick(monkeypatch):
    monkeypatch.setattr(leases, "LEASE_S", 0.6)
    monkeypatch.setattr(leases, "FIRST_REST_S", 0.05)
    monkeypatch.setattr(leases, "MOST_REST_S", 0.2)
    monkeypatch.setattr(queue, "FULL_DISK_S", 0.2)
    monkeypatch.setattr(queue, "LOOK_S", 0.1)
    monkeypatch.setattr(painter, "SLOW_S", 1.0)


def states(ws, project):
    return [j.state for j in jobs.queue(ws, project).jobs]


def ended(ws, project):
    soon(lambda: not (set(states(ws, project)) - {"done", "failed", "refused", "cancelled"}), 60)
    return jobs.queue(ws, project).jobs


def ordered(ws, project, service, shots, count=2, **more):
    return making.make(ws, project, Order(tuple(shots), count, service, as_it_is=True, **more))


def test_takes_come_with_all_that_they_were_made_from(ws, project):
    with understudy() as (address, app), queue_of(ws):
        shots = with_ada(ws, project)
        service = with_service(ws, project, address)
        ordered(ws, project, service, shots[:2], 3)
        assert {j.state for j in ended(ws, project)} == {"done"}
        its_takes = rows(ws, project, "take")
        assert len(its_takes) == 6
        assert not any(t["picked"] for t in its_takes)
        origin = its_takes[0]["made_from"]
        assert origin["made"]["model"] == "cut-paper"
        assert origin["made"]["credits"] == 1.0
        assert [h["thread_id"] for h in origin["held"]] == [row(ws, project, "thread")["id"]]
        assert origin["references"] == [row(ws, project, "reference")["id"]]
        assert dict(origin["phrases"])["action"]
        seeds = [t["made_from"]["made"]["seed"] for t in its_takes if t["shot_id"] == shots[0]]
        assert seeds == list(range(seeds[0], seeds[0] + 3))
        assert (app.state.jobs.taken, app.state.jobs.made) == (2, 6)
        assert ws.store.path(its_takes[0]["picture_sha"]).exists()


def test_a_take_that_comes_is_no_step_of_undo_and_goes_with_an_undone_shot(ws, project):
    with understudy() as (address, _), queue_of(ws):
        with_ada(ws, project)
        service = with_service(ws, project, address)
        plan.insert_shot(ws, project, rows(ws, project, "shot")[-1]["id"])
        label = projects.history(ws, project)[0].label
        ordered(ws, project, service, [rows(ws, project, "shot")[-1]["id"]], 2)
        ended(ws, project)
        assert len(rows(ws, project, "take")) == 2
        assert projects.history(ws, project)[0].label == label
        projects.undo(ws, project)
        assert rows(ws, project, "take") == []
        projects.redo(ws, project)
        assert len(rows(ws, project, "take")) == 2


def test_an_order_whose_answer_was_lost_is_not_taken_twice(ws, project):
    with understudy() as (address, _):
        shots = with_ada(ws, project)
        service = with_service(ws, project, address)
        first, again = (ordered(ws, project, service, shots, 2, order_id="order-0001") for _ in range(2))
        assert first == again
        assert len(states(ws, project)) == 3
        assert len(ordered(ws, project, service, shots, 2, order_id="order-0002")) == 3
        assert len(states(ws, project)) == 6


def test_a_server_that_dies_asks_and_pays_nothing_twice(ws, project):
    """The queue is cut off at every step in turn, without a word to the database; the next one goes on."""
    with understudy() as (address, app):
        shots = with_ada(ws, project)
        service = with_service(ws, project, address)
        for step in ("note", "take", "ended", "still_wanted", "claimed"):
            dying = queue.JobQueue(ws)

            async def die(*_):
                raise asyncio.CancelledError

            real = getattr(dying.leases, step)

            def cut_off(*args, real=real, step=step, dying=dying, **more):
                if step == "claimed":
                    real(*args, **more)
                dying.leases.given_back = lambda job: None  # type: ignore[method-assign]
                dying._closing = True
                raise asyncio.CancelledError

            setattr(dying.leases, step, cut_off)
            before = len(rows(ws, project, "take"))
            ordered(ws, project, service, shots[:1], 2)
            dying.start()
            soon(lambda dying=dying: dying._closing or states(ws, project)[0] == "done")
            dying.close()
            with queue_of(ws):
                ended(ws, project)
            assert len(rows(ws, project, "take")) == before + 2, step
        assert app.state.jobs.made == len(rows(ws, project, "take")) == 10
        assert app.state.jobs.taken == 5
        with ws.database.session() as s:
            assert sum(s.scalars(select(Job.credits).where(Job.project_id == project))) == app.state.jobs.credits


def test_a_service_that_is_away_does_not_stop_the_others(ws, project):
    with understudy() as (address, _), queue_of(ws):
        shots = with_ada(ws, project)
        with understudy() as (gone, _):
            away = with_service(ws, project, gone)
        good = with_service(ws, project, address)
        ordered(ws, project, away, shots[:1], 1)
        ordered(ws, project, good, shots[1:], 1)
        told = {j.service_id: j for j in ended(ws, project)}
        assert told[good].state == "done"
        assert told[away].state == "failed"
        assert "cannot be reached" in told[away].message
        assert "Try again" in told[away].message
        view = next(v for v in services.views(ws, project) if v.service_id == away)
        assert "cannot be reached" in view.trouble


@pytest.mark.parametrize(
    ("trouble", "state", "words"), [("refused", "refused", "not allowed"), ("failed", "failed", "fell ill")]
)
def test_what_a_service_ends_says_why_and_is_tried_again_under_a_new_key(ws, project, trouble, state, words):
    keys = []

    def once(key):
        keys.append(key)
        return trouble if len(keys) == 1 else ""

    with understudy(trouble=once) as (address, app), queue_of(ws) as working:
        shots = with_ada(ws, project)
        ordered(ws, project, with_service(ws, project, address), shots[:1], 2)
        [job] = ended(ws, project)
        assert (job.state, job.credits) == (state, 0.0)
        assert words in job.message
        assert jobs.steer(ws, project, "again", [job.id]) == 1
        working.touched(project)
        soon(lambda: states(ws, project) == ["done"])
        assert len(set(keys)) == 2
        assert app.state.jobs.made == len(rows(ws, project, "take")) == 2


def test_a_broken_answer_is_not_taken_and_costs_nothing_more_when_tried_again(ws, project):
    with understudy(trouble=lambda key: "broken") as (address, app), queue_of(ws) as working:
        shots = with_ada(ws, project)
        ordered(ws, project, with_service(ws, project, address), shots[:1], 2)
        [job] = ended(ws, project)
        assert job.state == "failed"
        assert "another picture than it said" in job.message
        assert jobs.steer(ws, project, "again", [job.id]) == 1
        working.touched(project)
        soon(lambda: states(ws, project) == ["done"])
        assert app.state.jobs.taken == 1
        assert app.state.jobs.made == len(rows(ws, project, "take")) == 2


def test_a_service_that_is_busy_is_asked_again_when_it_said(ws, project, monkeypatch):
    with understudy(trouble=lambda key: "busy") as (address, app), queue_of(ws):
        shots = with_ada(ws, project)
        ordered(ws, project, with_service(ws, project, address), shots[:1], 1)
        soon(lambda: "asked again" in jobs.queue(ws, project).jobs[0].message)
        assert [j.state for j in ended(ws, project)] == ["done"]
        assert app.state.jobs.taken == 1


def test_jobs_wait_are_paused_moved_up_and_cancelled(ws, project):
    with understudy() as (address, app):
        shots = with_ada(ws, project)
        ids = ordered(ws, project, with_service(ws, project, address), shots, 1)
        assert len(ids) == len(shots) == 3
        assert jobs.steer(ws, project, "pause") == 3
        assert jobs.steer(ws, project, "resume", ids[1:]) == 2
        jobs.steer(ws, project, "up", [ids[2]])
        assert [j.id for j in jobs.queue(ws, project).jobs] == [ids[2], ids[0], ids[1]]
        jobs.steer(ws, project, "cancel", [ids[1]])
        with pytest.raises(NotPossible, match="gone on"):
            jobs.steer(ws, project, "pause", [ids[1]])
        with queue_of(ws):
            soon(lambda: app.state.jobs.made == 1 and "running" not in states(ws, project))
            soon(lambda: sorted(states(ws, project)) == ["cancelled", "done", "paused"])
        assert [t["shot_id"] for t in rows(ws, project, "take")] == [shots[2]]


def test_a_running_job_is_cancelled_at_its_service(ws, project):
    with understudy(trouble=lambda key: "slow") as (address, app), queue_of(ws) as working:
        shots = with_ada(ws, project)
        [job] = ordered(ws, project, with_service(ws, project, address), shots[:1], 2)
        soon(lambda: app.state.jobs.taken == 1)
        jobs.steer(ws, project, "cancel", [job])
        working.touched(project)
        assert [j.state for j in ended(ws, project)] == ["cancelled"]
        assert app.state.jobs.made == 0


def test_what_is_over_the_allowance_waits_for_a_yes(ws, project):
    with understudy() as (address, _), queue_of(ws) as working:
        shots = with_ada(ws, project)
        service = with_service(ws, project, address)
        projects.edit(ws, project, {"allowance": 5.0}, None)
        order = Order(tuple(shots), 2, service, as_it_is=True)
        offer = making.offer(ws, project, order)
        assert (offer.credits, offer.over, offer.month.left) == (6.0, 1.0, 5.0)
        making.make(ws, project, order)
        soon(lambda: sorted(states(ws, project)) == ["done", "done", "held"])
        assert len(rows(ws, project, "take")) == 4
        held = next(j for j in jobs.queue(ws, project).jobs if j.state == "held")
        assert "allowance" in held.message
        jobs.steer(ws, project, "approve", [held.id])
        working.touched(project)
        assert {j.state for j in ended(ws, project)} == {"done"}
        with ws.database.session() as s:
            assert making.ledger.month(s, project).left == -1.0


def test_a_picture_whose_shot_is_gone_lies_in_the_library(ws, project):
    with understudy() as (address, _):
        shots = with_ada(ws, project)
        ordered(ws, project, with_service(ws, project, address), shots[:1], 1)
        plan.delete_shots(ws, project, shots[:1])
        with queue_of(ws):
            [job] = ended(ws, project)
        assert (job.state, job.credits) == ("done", 1.0)
        assert "in the library" in job.message


def test_preflight_holds_back_what_is_to_be_mended(ws, project):
    with understudy() as (address, _):
        shots = with_ada(ws, project)
        service = with_service(ws, project, address)
        plan.edit_shot(ws, project, shots[0], {"shows": "Ada runs and jumps and waves."}, None)
        offer = making.offer(ws, project, Order(tuple(shots), 1, service))
        held = {x.shot_id: x.held_back for x in offer.shots}
        assert held[shots[0]]
        free = [x.shot_id for x in offer.shots if not x.held_back]
        assert offer.credits == len(free)
        if not free:
            with pytest.raises(NotPossible, match="preflight"):
                making.make(ws, project, Order(tuple(shots), 1, service))


def test_a_disk_that_is_full_loses_nothing(ws, project, monkeypatch):
    real, full = ws.store.put, [True]

    def put(data):
        if full[0]:
            raise OSError(28, "No space left on device")
        return real(data)

    with understudy() as (address, app), queue_of(ws):
        shots = with_ada(ws, project)
        monkeypatch.setattr(ws.store, "put", put)
        ordered(ws, project, with_service(ws, project, address), shots[:1], 2)
        soon(lambda: "Make room" in jobs.queue(ws, project).jobs[0].message)
        full[0] = False
        assert [j.state for j in ended(ws, project)] == ["done"]
        assert app.state.jobs.made == len(rows(ws, project, "take")) == 2


def test_a_removed_service_forgets_its_token_and_its_waiting_jobs(ws, project):
    with understudy() as (address, _):
        shots = with_ada(ws, project)
        service = with_service(ws, project, address, "secret-token")
        ordered(ws, project, service, shots[:1], 1)
        services.remove(ws, project, service)
        assert states(ws, project) == ["cancelled"]
        with ws.database.session() as s:
            assert s.get(ServiceState, service) is None
        projects.undo(ws, project)
        [view] = services.views(ws, project)
        assert not view.has_token


def test_another_server_on_the_same_database_leaves_leased_jobs_alone(ws, project):
    with understudy(trouble=lambda key: "slow") as (address, app), ExitStack() as both:
        shots = with_ada(ws, project)
        ordered(ws, project, with_service(ws, project, address), shots, 1)
        both.enter_context(queue_of(ws))
        both.enter_context(queue_of(ws))
        assert {j.state for j in ended(ws, project)} == {"done"}
        assert app.state.jobs.taken == 3
        assert len(rows(ws, project, "take")) == 3


def test_the_same_seed_is_not_asked_for_again(ws, project):
    with understudy() as (address, _), queue_of(ws):
        shots = with_ada(ws, project)
        service = with_service(ws, project, address)
        projects.edit(ws, project, {"seed_rule": "one", "seed": 7}, None)
        ordered(ws, project, service, shots[:1], 2)
        ended(ws, project)
        ordered(ws, project, service, shots[:1], 2)
        ended(ws, project)
        assert sorted(t["made_from"]["made"]["seed"] for t in rows(ws, project, "take")) == [7, 8, 9, 10]


def lying(job_of, picture_of=lambda sha: flat(), status=200):
    """A service that says what it likes of its jobs and pictures."""
    app = FastAPI()
    can = make_app()
    asked = []

    @app.get(f"{PREFIX}/")
    def about():
        return TestClient(can).get(f"{PREFIX}/").json()

    @app.api_route(f"{PREFIX}/pictures/{{sha}}", methods=["HEAD", "PUT"])
    def bring(sha: str):
        return Response(status_code=200)

    @app.get(f"{PREFIX}/pictures/{{sha}}")
    def picture(sha: str):
        return Response(picture_of(sha))

    @app.post(f"{PREFIX}/jobs", status_code=202)
    def ask(response: Response, idempotency_key: Annotated[str, Header()]):
        if status != 200:
            raise HTTPException(status)
        asked.append(idempotency_key)
        response.headers["Location"] = f"{PREFIX}/jobs/1"
        return job_of()

    @app.get(f"{PREFIX}/jobs/1")
    def job():
        return job_of()

    app.state.asked = asked
    return app


def result_of(data, **more):
    sha = hashlib.sha256(data).hexdigest()
    return {"sha": sha, "media_type": "image/png", "width": 64, "height": 48, "seed": 3, "credits": 1.0, **more}


def done_with(*results, state="done"):
    return lambda: {
        "id": "1",
        "state": state,
        "progress": 1.0,
        "results": list(results),
        "credits": float(len(results)),
    }


PAGE = b"<!doctype html><title>Not a picture</title>" + b" " * 400


@pytest.mark.parametrize(
    ("job_of", "data", "words"),
    [
        (done_with(result_of(PAGE)), PAGE, "no picture that can be taken"),
        (done_with(result_of(flat())), PAGE, "digest is wrong"),
        (lambda: {"id": "../x", "state": "done"}, b"", "does not speak picture-service"),
        (lambda: {"id": "1", "state": "married"}, b"", "state"),
        (done_with(result_of(flat(), seed=-1)), flat(), "seed"),
        (done_with(result_of(flat(), width=10**9)), flat(), "width"),
        (lambda: {"id": "1", "state": "done", "results": [], "credits": -5}, b"", "credits"),
    ],
)
def test_what_a_lying_service_sends_is_not_taken_and_said(ws, project, job_of, data, words):
    with running(lying(job_of, lambda sha: data)) as address, queue_of(ws):
        shots = with_ada(ws, project)
        ordered(ws, project, with_service(ws, project, address), shots[:1], 1)
        [job] = ended(ws, project)
        assert (job.state, rows(ws, project, "take")) == ("failed", [])
        assert words in job.message


def test_a_picture_of_another_size_is_taken_as_it_is_and_that_is_said(ws, project):
    data = flat((9, 80, 120))
    with running(lying(done_with(result_of(data, width=640)), lambda sha: data)) as address, queue_of(ws):
        shots = with_ada(ws, project)
        ordered(ws, project, with_service(ws, project, address), shots[:1], 1)
        [job] = ended(ws, project)
        assert job.state == "done"
        assert "came as 64 × 48 px and not as 640 × 48" in job.message
        assert len(rows(ws, project, "take")) == 1


def test_a_wrong_token_lets_all_jobs_of_that_service_wait_and_says_so(ws, project):
    app = lying(done_with(), status=401)
    with running(app) as address, queue_of(ws):
        shots = with_ada(ws, project)
        service = with_service(ws, project, address)
        ordered(ws, project, service, shots, 1)
        soon(lambda: any("token" in j.message for j in jobs.queue(ws, project).jobs))
        assert set(states(ws, project)) == {"waiting"}
        assert "Give its token anew" in services.views(ws, project)[0].trouble
        assert app.state.asked == []


def test_a_job_that_never_ends_is_given_up_and_can_be_tried_again(ws, project, monkeypatch):
    monkeypatch.setattr(queue, "SLOW_S", 0.2)
    stuck = lambda: {"id": "1", "state": "running", "progress": 0.1}  # noqa: E731
    with running(lying(stuck)) as address, queue_of(ws):
        shots = with_ada(ws, project)
        ordered(ws, project, with_service(ws, project, address), shots[:1], 1)
        [job] = ended(ws, project)
        assert job.state == "failed"
        assert "nothing new" in job.message


def test_a_slow_picture_is_not_fetched_by_two(ws, project):
    """A picture that takes longer to come than a lease lasts: whoever fetches it holds on, here and on another server."""
    fetched = []

    def slowly(sha):
        fetched.append(sha)
        time.sleep(2.0)
        return data

    data = flat((70, 80, 190))
    with running(lying(done_with(result_of(data)), slowly)) as address, ExitStack() as both:
        shots = with_ada(ws, project)
        ordered(ws, project, with_service(ws, project, address), shots[:1], 1)
        both.enter_context(queue_of(ws))
        both.enter_context(queue_of(ws))
        assert [j.state for j in ended(ws, project)] == ["done"]
        assert len(fetched) == len(rows(ws, project, "take")) == 1
