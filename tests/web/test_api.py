"""The API over real HTTP semantics: the journey, problem details, who may ask."""

import pytest

from tests.conftest import client_of, flat


@pytest.fixture(scope="module")
def client(ws, checker):
    return client_of(ws, checker)


@pytest.fixture
def project(client):
    made = client.post("/api/projects", json={"title": "By API"}).json()["id"]
    client.post(f"/api/projects/{made}/threads", json={"kind": "character", "name": "Ada"})
    client.put(f"/api/projects/{made}/text", json={"text": "# One\nAda came.\n# Two\nAda left the house."})
    client.post(f"/api/projects/{made}/proposals", json={})
    client.post(f"/api/projects/{made}/proposals/accept", json={})
    return f"/api/projects/{made}"


def shots(client, project):
    rows = client.get(project).json()["rows"]
    place = {s["id"]: s["position"] for s in rows["scene"]}
    return sorted(rows["shot"], key=lambda s: (place[s["scene_id"]], s["position"]))


def test_a_change_tells_its_rows_and_what_undo_would_do(client, project):
    shot = shots(client, project)[0]
    changed = client.patch(f"{project}/shots/{shot['id']}", json={"shows": "New", "revision": shot["revision"]}).json()
    assert changed["rows"]["shot"][0]["shows"] == "New"
    assert changed["undo_label"] == "edited shot 1"
    undone = client.post(f"{project}/undo").json()
    assert undone["rows"]["shot"][0]["shows"] == shot["shows"]
    assert undone["redo_label"] == "edited shot 1"
    assert [h["label"] for h in client.get(f"{project}/history").json()][-1] == "made Ada"


def test_a_conflict_is_a_409_with_both_states(client, project):
    shot = shots(client, project)[0]
    url = f"{project}/shots/{shot['id']}"
    client.patch(url, json={"shows": "First", "revision": shot["revision"]})
    answer = client.patch(url, json={"shows": "Second", "revision": shot["revision"]})
    assert answer.status_code == 409
    assert answer.headers["content-type"] == "application/problem+json"
    assert (answer.json()["theirs"]["shows"], answer.json()["mine"]["shows"]) == ("First", "Second")


@pytest.mark.parametrize(
    ("method", "path", "body", "status"),
    [
        ("get", "/api/projects/none", None, 404),
        ("post", "/api/projects", {"title": ""}, 422),
        ("put", "{p}/text", {"text": "a\0b"}, 422),
        ("post", "{p}/threads", {"kind": "hero", "name": "X"}, 422),
        ("patch", "{p}/shots/none", {"shows": "x"}, 404),
        ("patch", "{p}/shots/{s}", {"length_s": -1}, 422),
        ("patch", "{p}/shots/{s}", {"size": "HUGE"}, 422),
        ("post", "{p}/stets", {"finding_key": "x", "reason": " "}, 422),
        ("get", "/api/pictures/none/thumb", None, 404),
        ("get", "/api/pictures/" + "0" * 64, None, 404),
    ],
)
def test_bad_requests_are_problem_details_that_say_what_is_wrong(client, project, method, path, body, status):
    path = path.replace("{p}", project).replace("{s}", shots(client, project)[0]["id"])
    answer = client.request(method, path, json=body)
    assert answer.status_code == status
    assert answer.json()["detail"]
    assert answer.headers["content-type"] == "application/problem+json"


def test_pictures_come_in_are_matched_taken_and_served(client, project):
    files = {"p10.png": flat((1, 9, 9)), "p2.png": flat((2, 9, 9)), "p1.png": flat((3, 9, 9)), "note.txt": b"hello"}
    taken = {
        n: client.post(f"{project}/pictures", files={"file": ("f", d)}, data={"name": n}).json()
        for n, d in files.items()
    }
    assert taken["note.txt"]["sha"] is None
    good = [{"name": n, "sha": t["sha"]} for n, t in taken.items() if t["sha"]]
    proposals = {p["name"]: p["shot_id"] for p in client.post(f"{project}/takes/propose", json={"files": good}).json()}
    ids = [s["id"] for s in shots(client, project)]
    assert proposals == {"p1.png": ids[0], "p2.png": ids[1], "p10.png": None}
    placed = [{**f, "shot_id": proposals[f["name"]]} for f in good if proposals[f["name"]]]
    changed = client.post(f"{project}/takes", json={"files": placed}).json()
    assert len(changed["pictures"]) == 2
    sha = taken["p1.png"]["sha"]
    assert client.get(f"/api/pictures/{sha}").content == files["p1.png"]
    thumb = client.get(f"/api/pictures/{sha}/thumb?side=100")
    assert "immutable" in thumb.headers["cache-control"]
    light = client.get(f"/api/pictures/{sha}/crop?x=0&y=0&w=30&h=30&light=0.5,0.5,0.5,1,1")
    assert light.headers["content-type"] == "image/webp"
    assert client.get(f"/api/pictures/{sha}/crop?x=900&y=0&w=30&h=30").status_code == 422


def test_only_this_machine_is_answered_and_only_our_pages_may_change(client, project):
    assert client.get("/api/projects", headers={"host": "evil.example"}).status_code == 400
    foreign = client.post(f"{project}/undo", headers={"origin": "http://evil.example"})
    assert foreign.status_code == 403
    for origin in ("https://127.0.0.1", "http://127.0.0.1:81", "null", "http://localhost"):
        assert client.post(f"{project}/undo", headers={"origin": origin}).status_code == 403
    assert client.get("/api/projects", headers={"host": "testserver"}).status_code == 400
    assert client.post(f"{project}/undo", headers={"origin": "http://127.0.0.1"}).status_code == 200


def test_every_route_has_a_summary_and_a_typed_answer(client):
    for path, operations in client.get("/api/openapi.json").json()["paths"].items():
        for method, operation in operations.items():
            assert operation.get("summary"), (method, path)
            answers = [c for code, c in operation["responses"].items() if code.startswith("2")]
            typed = any(
                "schema" in media and media["schema"] for a in answers for media in a.get("content", {}).values()
            )
            assert (
                typed
                or "204" in operation["responses"]
                or "/pictures/" in path
                or "/clips/" in path
                or "/sounds/" in path
                or "/events" in path
            ), (method, path)
