"""The Understudy speaks picture-service: what its document says, nothing twice, nothing made that was cancelled, every error in words."""

import hashlib
import io
import json
from pathlib import Path

import pytest
from fastapi.testclient import TestClient
from PIL import Image

from juxtaform.understudy import jobs as working
from juxtaform.understudy.service import PREFIX, make_app, openapi
from tests.conftest import LOOK, flat, png
from tests.constructed import reference

DOCUMENT = Path(__file__).parents[2] / "docs" / "picture-service.openapi.json"


@pytest.fixture
def service():
    with TestClient(make_app(), raise_server_exceptions=False) as client:
        client.base_url = client.base_url.join(f"{PREFIX}/")
        yield client


def brought(service, data):
    sha = hashlib.sha256(data).hexdigest()
    assert service.put(f"pictures/{sha}", content=data).status_code in (200, 201)
    return sha


def asked(service, key="key-00001", **more):
    body = {"model": "cut-paper", "text": "Ada on the step. Wide shot.", "seed": 7, **more}
    return service.post("jobs", json=body, headers={"Idempotency-Key": key})


def finished(service, job_id):
    """The last of what a job tells as it goes."""
    with service.stream("GET", f"jobs/{job_id}/events") as answer:
        told = [json.loads(line[5:]) for line in answer.iter_lines() if line.startswith("data:")]
    return told


def test_the_document_is_what_the_service_speaks():
    assert DOCUMENT.read_text("utf-8") == openapi()
    assert json.loads(openapi())["openapi"].startswith("3.1")


def test_a_job_is_taken_told_as_it_goes_and_hands_over_its_pictures_by_hash(service):
    figure, place = brought(service, png(reference(LOOK))), brought(service, flat((30, 90, 110)))
    pictures = [{"sha": figure, "role": "character", "name": "Ada"}, {"sha": place, "role": "setting", "name": "Quay"}]
    answer = asked(service, pictures=pictures, count=3, aspect="16:9")
    assert answer.status_code == 202
    job = answer.json()
    assert answer.headers["location"] == f"{PREFIX}/jobs/{job['id']}"
    told = finished(service, job["id"])
    assert [t["progress"] for t in told] == sorted(t["progress"] for t in told)
    done = told[-1]
    assert (done["state"], done["credits"], [r["seed"] for r in done["results"]]) == ("done", 3.0, [7, 8, 9])
    for result in done["results"]:
        data = service.get(f"pictures/{result['sha']}").content
        assert hashlib.sha256(data).hexdigest() == result["sha"]
        assert Image.open(io.BytesIO(data)).size == (result["width"], result["height"]) == (640, 360)
    assert len({r["sha"] for r in done["results"]}) == 3
    again = asked(service, "key-00002", pictures=pictures, count=3, aspect="16:9").json()
    assert finished(service, again["id"])[-1]["results"] == done["results"]


def test_the_same_key_is_the_same_job_and_costs_once(service):
    first, second = asked(service).json(), asked(service).json()
    assert first["id"] == second["id"]
    finished(service, first["id"])
    jobs = service.app.state.jobs
    assert (jobs.taken, jobs.made, jobs.credits) == (1, 1, 1.0)
    other = asked(service, text="Bo in the cave.")
    assert (other.status_code, other.json()["status"]) == (409, 409)
    assert jobs.taken == 1


def test_a_seed_left_out_is_chosen_and_told(service):
    job = asked(service, seed=None).json()
    assert finished(service, job["id"])[-1]["results"][0]["seed"] == job["seed"]


def test_a_final_is_the_draft_in_full(service):
    figure = brought(service, png(reference(LOOK)))
    pictures = [{"sha": figure, "role": "character", "name": "Ada"}]
    sizes = {}
    for i, quality in enumerate(("draft", "final")):
        job = asked(service, f"key-q{i:04d}", quality=quality, pictures=pictures).json()
        [result] = finished(service, job["id"])[-1]["results"]
        picture = Image.open(io.BytesIO(service.get(f"pictures/{result['sha']}").content)).convert("RGB")
        sizes[quality] = (picture.size, picture.resize((30, 20), Image.Resampling.BOX).tobytes(), result["credits"])
    assert sizes["draft"][0] < sizes["final"][0]
    assert (sizes["draft"][2], sizes["final"][2]) == (1.0, 4.0)
    apart = [abs(a - b) for a, b in zip(sizes["draft"][1], sizes["final"][1], strict=True)]
    assert sum(apart) / len(apart) < 4


def test_a_cancelled_job_makes_no_more(service, monkeypatch):
    real, jobs = working.painted, service.app.state.jobs
    ids = []

    def slow(*args, **kwargs):
        service.delete(f"jobs/{ids[0]}")
        return real(*args, **kwargs)

    held = jobs._pool.submit(lambda: ids or __import__("time").sleep(0.2))
    monkeypatch.setattr(working, "painted", slow)
    jobs._pool.submit(held.result)
    ids.append(asked(service, count=5).json()["id"])
    told = finished(service, ids[0])[-1]
    assert told["state"] == "cancelled"
    assert len(told["results"]) == told["credits"] == 1


def test_what_fails_is_told_and_costs_nothing(service, monkeypatch):
    monkeypatch.setattr(working, "painted", lambda *_, **__: 1 / 0)
    told = finished(service, asked(service).json()["id"])[-1]
    assert (told["state"], told["credits"], told["results"]) == ("failed", 0.0, [])
    assert "could not be made" in told["problem"]["detail"]


@pytest.mark.parametrize(
    ("ask", "status", "words"),
    [
        ({"model": "other"}, 422, "no model"),
        ({"kind": "clip"}, 422, "needs its first picture"),
        ({"pictures": [{"sha": "0" * 64, "role": "character"}]}, 422, "was not brought"),
        ({"count": 99}, 422, "count"),
        ({"aspect": "wide"}, 422, "aspect"),
        ({"spell": "x"}, 422, "spell"),
        ({"text": "x" * 5000}, 422, "text"),
    ],
)
def test_what_cannot_be_done_says_why_and_is_not_taken(service, ask, status, words):
    answer = asked(service, **ask)
    assert answer.status_code == status
    assert answer.headers["content-type"] == "application/problem+json"
    assert words in answer.json()["detail"]
    assert service.app.state.jobs.taken == 0


def test_pictures_are_taken_under_their_own_hash_alone(service):
    data = flat((1, 2, 3))
    sha = hashlib.sha256(data).hexdigest()
    assert service.head(f"pictures/{sha}").status_code == 404
    assert [service.put(f"pictures/{sha}", content=data).status_code for _ in range(2)] == [201, 200]
    assert service.head(f"pictures/{sha}").status_code == 200
    assert "another SHA-256" in service.put(f"pictures/{sha}", content=data + b"x").json()["detail"]
    words = b"<html>no picture</html>"
    refused = service.put(f"pictures/{hashlib.sha256(words).hexdigest()}", content=words)
    assert "no PNG" in refused.json()["detail"]


def test_with_a_token_it_answers_to_nobody_else():
    with TestClient(make_app(token="sésame")) as client:
        assert client.get(f"{PREFIX}/").status_code == 401
        told = client.get(f"{PREFIX}/", headers={"Authorization": "Bearer sésame".encode()})
        assert told.json()["name"] == "Understudy"


def test_jobs_that_are_not_there_are_no_jobs(service):
    assert service.get("jobs/none").status_code == service.delete("jobs/none").status_code == 404
    assert service.post("jobs", json={"model": "cut-paper", "text": "x"}).status_code == 422
