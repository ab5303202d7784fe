"""The API of the check: started, stopped, told with its findings and lineups, let stand; and the pictures that evidence shows."""

import io
from concurrent.futures import ThreadPoolExecutor

import numpy as np
import pytest
from PIL import Image

from juxtaform.studio import checking, measuring, takes, threads
from juxtaform.studio.checking import Checker
from tests.conftest import Staged, client_of, png, rows
from tests.constructed import Look, reference, scene

TIM = Look("#2a2326", "#7b4a30", "#6b4a8c", "#456a70", "#8a5a3c", "#f3f0ea", hair_form=1, coat_form=2, extra_form=1)
STRANGER = Look(
    "#58b3a6", "#f6d9c4", "#2f7d4f", "#a8a8b0", "#c8322b", "#2c6fc4", hair_form=2, coat_form=1, extra_form=2
)


@pytest.fixture(scope="module")
def client(ws, checker):
    return client_of(ws, checker)


@pytest.fixture(scope="module")
def checked(ws, checker, client):
    staged = Staged(ws)
    assert client.post(f"/api/projects/{staged.project}/check").json()["state"] in ("queued", "running")
    checker.wait(staged.project, 900)
    return staged, f"/api/projects/{staged.project}"


def found_by_check(client, base):
    groups = client.get(f"{base}/findings").json()["groups"]
    return [f for g in groups if g["source"] == "check" for f in g["findings"]]


def test_before_a_check_nothing_is_told(client, ws):
    made = client.post("/api/projects", json={"title": "Unchecked"}).json()["id"]
    told = client.get(f"/api/projects/{made}/check").json()
    assert (told["status"]["state"], told["trouble"], told["threads"]) == ("never", {}, [])
    assert client.post(f"/api/projects/{made}/check/stop").status_code == 200


def test_findings_come_with_evidence_and_what_was_measured(client, checked):
    staged, base = checked
    told = client.get(f"{base}/check").json()
    assert told["status"]["state"] == "done"
    [finding] = found_by_check(client, base)
    assert (finding["kind"], finding["shot"], finding["thread"]) == ("trait_changed", staged.shots[2], staged.ada)
    assert finding["unit"] == "ΔE00"
    assert finding["measured"] > finding["expected"] > 0
    assert any(e.get("measured_hex") for e in finding["evidence"])
    assert {t["thread_id"]: t["measured"] for t in told["threads"]}[staged.ada] == 4


def test_a_lineup_has_a_cell_for_each_appearance_and_its_anchor(client, checked):
    staged, base = checked
    line = client.get(f"{base}/lineups/{staged.ada}").json()
    assert [c["shot_id"] for c in line["cells"]] == staged.shots
    assert [c["verdict"] for c in line["cells"]] == ["holds", "holds", "drifts", "holds"]
    assert line["anchors"][0]["box"]["w"] > 0
    style = client.get(f"{base}/lineups/{staged.style}").json()
    assert all(c["box"] is None for c in style["cells"])
    assert client.get(f"{base}/lineups/nobody").status_code == 404


def test_a_finding_is_let_stand_with_a_reason_and_the_stet_taken_back(client, checked):
    _, base = checked
    key = found_by_check(client, base)[0]["key"]
    assert client.post(f"{base}/stets", json={"finding_key": key, "reason": "  "}).status_code == 422
    made = client.post(f"{base}/stets", json={"finding_key": key, "reason": "her best coat"}).json()
    stet = made["rows"]["stet"][0]
    assert (stet["finding_key"], stet["reason"]) == (key, "her best coat")
    assert client.delete(f"{base}/stets/{stet['id']}").json()["gone"]["stet"] == [stet["id"]]
    assert client.delete(f"{base}/stets/{stet['id']}").status_code == 404


@pytest.mark.parametrize(
    ("query", "status", "shown"),
    [
        ("x=0&y=0&w=100&h=100", 200, (1.0, None)),
        ("x=-50&y=-50&w=100&h=100", 200, (1.0, None)),
        ("x=0&y=0&w=100&h=50&side=64", 200, (2.0, 64)),
        ("x=0&y=0&w=100&h=100&light=0.5,0.5,0.5,1,1", 200, (1.0, None)),
        ("x=0&y=0&w=100&h=100&light=nonsense", 422, None),
        ("x=0&y=0&w=100&h=100&side=9", 422, None),
        ("x=99999&y=0&w=100&h=100", 422, None),
        ("x=0&y=0&w=100", 422, None),
        ("x=nan&y=0&w=100&h=100", 422, None),
    ],
)
def test_a_crop_is_cut_lit_and_sized_as_asked(client, checked, query, status, shown):
    staged, base = checked
    sha = client.get(f"{base}/lineups/{staged.ada}").json()["cells"][0]["sha"]
    answer = client.get(f"/api/pictures/{sha}/crop?{query}")
    assert answer.status_code == status
    if shown is None:
        assert answer.json()["detail"]
        return
    assert "immutable" in answer.headers["cache-control"]
    size = Image.open(io.BytesIO(answer.content)).size
    assert size[0] / size[1] == pytest.approx(shown[0], rel=0.05)
    if shown[1]:
        assert max(size) == shown[1]


@pytest.mark.parametrize("path", ["{}", "{}/thumb", "{}/crop?x=0&y=0&w=9&h=9"])
@pytest.mark.parametrize("sha", ["none", "0" * 64, "A" * 64])
def test_a_picture_that_is_not_there_is_a_404_whatever_it_is_called(client, path, sha):
    answer = client.get(f"/api/pictures/{path.format(sha)}")
    assert answer.status_code in (404, 422)
    assert answer.json()["detail"]


def test_the_figure_is_shown_laid_over_its_reference(client, checked):
    staged, base = checked
    cell = client.get(f"{base}/lineups/{staged.ada}").json()["cells"][0]
    assert cell["laid"]["reference"] in {r["picture_sha"] for r in rows(staged.ws, staged.project, "reference")}
    got = client.get(f"{base}/lineups/{staged.ada}/pictures/{staged.shots[0]}")
    assert got.status_code == 200
    assert Image.open(io.BytesIO(got.content)).size == (3 * 224, 224)


def test_what_was_not_laid_over_anything_is_a_404(client, checked):
    staged, base = checked
    assert client.get(f"{base}/lineups/{staged.style}/pictures/{staged.shots[0]}").status_code == 404
    assert client.get(f"{base}/lineups/{staged.ada}/pictures/{'0' * 32}").status_code == 404


def test_a_stranger_is_told_as_a_stranger_and_without_talk_of_traits(client, ws, checker):
    staged = Staged(ws)
    base = f"/api/projects/{staged.project}"
    threads.make(ws, staged.project, "character", "Tim")
    [tim] = [t["id"] for t in rows(ws, staged.project, "thread") if t["name"] == "Tim"]
    taken = takes.take_in(ws, "tim.png", png(reference(TIM)))
    threads.add_references(ws, staged.project, tim, [(str(taken.sha), "front")], "")
    for shot, look, ground in ((1, TIM, 3), (3, STRANGER, 6)):
        page, [box] = scene([look], np.random.default_rng(shot), ground=ground, scale=1.0)
        taken = takes.take_in(ws, f"other{shot}.png", png(page))
        takes.replace_picture(ws, staged.project, staged.shots[shot], f"other{shot}.png", str(taken.sha))
        [take] = [t for t in rows(ws, staged.project, "take") if t["shot_id"] == staged.shots[shot] and t["picked"]]
        takes.mark(ws, staged.project, take["id"], staged.ada, box)
    client.post(f"{base}/check")
    checker.wait(staged.project, 900)
    told = found_by_check(client, base)
    by_shot = {shot: [f for f in told if f["shot"] == shot and f["thread"] == staged.ada] for shot in staged.shots}
    [swapped] = by_shot[staged.shots[1]]
    assert (swapped["kind"], swapped["title"]) == ("figure_swapped", "This is not Ada; it looks most like Tim")
    [stranger] = by_shot[staged.shots[3]]
    assert stranger["kind"] == "figure_stranger"
    assert stranger["title"].startswith("This is not Ada")
    assert any(e["label"] == "Band set on" for e in stranger["evidence"])
    assert [f["kind"] for f in by_shot[staged.shots[2]]] == ["trait_changed"]
    assert by_shot[staged.shots[0]] == []
    _a_stranger_that_is_let_stand_is_right(client, checker, staged, base)


def _a_stranger_that_is_let_stand_is_right(client, checker, staged, base):
    key = next(f["key"] for f in found_by_check(client, base) if f["kind"] == "figure_stranger")
    client.post(f"{base}/stets", json={"finding_key": key, "reason": "She is in disguise"})
    client.post(f"{base}/check")
    checker.wait(staged.project, 900)
    told = found_by_check(client, base)
    assert key in {f["key"] for f in told}, "what is let stand can still be seen"
    [swapped] = [f for f in told if f["kind"] == "figure_swapped"]
    assert any("that you let stand" in str(e.values()) for e in swapped["evidence"])


def test_a_check_without_the_network_says_so_and_does_what_it_can(ws, monkeypatch):
    monkeypatch.setattr(measuring, "figure_eye", lambda: None)
    staged = Staged(ws)
    blind = Checker(ws, ThreadPoolExecutor(1))
    blind.start(staged.project)
    blind.wait(staged.project, 900)
    told = checking.status(ws, staged.project)
    assert told.state == "done"
    assert told.message.startswith("Who the figures are was not looked at")
    kinds = {f.kind for f in checking.outcome(ws, staged.project).findings}
    assert kinds == {"trait_changed"}


def test_findings_are_reviewed_in_groups_decided_at_once_and_reported(client, checked):
    _, base = checked
    found = found_by_check(client, base)
    groups = client.get(f"{base}/review").json()["groups"]
    assert sorted(k for g in groups for k in g["keys"]) == sorted(f["key"] for f in found)
    keys = [f["key"] for f in found]
    done = client.post(f"{base}/decisions", json={"finding_keys": keys, "verdict": "retake"}).json()
    assert {s["verdict"] for s in done["rows"]["stet"]} == {"retake"}
    for kind, begins in (("pdf", b"%PDF"), ("html", b"<!doctype html>")):
        answer = client.get(f"{base}/continuity-report.{kind}")
        assert answer.content.startswith(begins)
        assert f"continuity.{kind}" in answer.headers["content-disposition"]
    assert client.post(f"{base}/decisions", json={"finding_keys": [], "verdict": "retake"}).status_code == 422
    assert client.post(f"{base}/decisions", json={"finding_keys": keys, "verdict": "stet"}).status_code == 422
    client.post(f"{base}/undo")
