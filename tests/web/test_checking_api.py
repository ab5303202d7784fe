"""The API of the check: started, stopped, told with its findings and lineups, let stand; and the pictures that evidence shows."""

import io

import pytest
from PIL import Image

from tests.conftest import Staged, client_of


@pytest.fixture(scope="module")
def client(ws, checker):
    return client_of(ws, checker)


@pytest.fixture(scope="module")
def checked(ws, checker, client):
    staged = Staged(ws)
    assert client.post(f"/api/projects/{staged.project}/check").json()["state"] in ("queued", "running")
    checker.wait(staged.project, 900)
    return staged, f"/api/projects/{staged.project}"


def test_before_a_check_nothing_is_told(client, ws):
    made = client.post("/api/projects", json={"title": "Unchecked"}).json()["id"]
    told = client.get(f"/api/projects/{made}/findings").json()
    assert (told["status"]["state"], told["findings"], told["threads"]) == ("never", [], [])
    assert client.post(f"/api/projects/{made}/check/stop").status_code == 200


def test_findings_come_with_evidence_and_what_was_measured(client, checked):
    staged, base = checked
    told = client.get(f"{base}/findings").json()
    assert told["status"]["state"] == "done"
    [found] = told["findings"]
    finding = found["finding"]
    assert (finding["kind"], finding["shot"], finding["thread"]) == ("trait_changed", staged.shots[2], staged.ada)
    assert finding["unit"] == "ΔE00"
    assert finding["measured"] > finding["expected"] > 0
    assert any(e["measured_hex"] for e in finding["evidence"])
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
    key = client.get(f"{base}/findings").json()["findings"][0]["key"]
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
