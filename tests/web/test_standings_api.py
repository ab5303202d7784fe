"""Who stands where, over the API: looked for when pictures come in, proposed, confirmed in one step, refused, and asked anew."""

import numpy as np
import pytest

from juxtaform.core.picture.regions import Box, overlap
from juxtaform.studio import takes, threads
from juxtaform.studio.measuring import Workers
from juxtaform.studio.spotting import Spotter
from tests.conftest import LOOK, Staged, client_of, png, rows
from tests.constructed import random_look, reference, scene


@pytest.fixture(scope="module")
def client(ws, checker):
    return client_of(ws, checker)


@pytest.fixture(scope="module")
def spotter(client) -> Spotter:
    return client.app.state.background.spotter


@pytest.fixture
def staged(ws):
    return Staged(ws)


def take_of(staged, number):
    return next(t for t in rows(staged.ws, staged.project, "take") if t["shot_id"] == staged.shots[number - 1])


def unmarked(staged, *numbers):
    wanted = {take_of(staged, n)["id"] for n in numbers}
    for mark in rows(staged.ws, staged.project, "mark"):
        if mark["take_id"] in wanted:
            takes.unmark(staged.ws, staged.project, mark["id"])


def waiting(client, staged, **query):
    return client.get(f"/api/projects/{staged.project}/standings", params=query).json()


def looked(client, spotter, staged):
    told = client.post(f"/api/projects/{staged.project}/standings/look", json={}).json()
    assert told["total"] >= 1
    spotter.wait(staged.project)
    return waiting(client, staged)


def iou(box, other):
    return overlap(Box(**box), other)


def test_where_somebody_stands_is_proposed_and_confirmed_in_one_step(client, spotter, staged):
    unmarked(staged, 1, 2)
    before = waiting(client, staged)
    assert (before["takes"], before["unseen"]) == ([], 2)
    told = looked(client, spotter, staged)
    assert told["unseen"] == 0
    boxes = []
    for t in told["takes"]:
        [ada] = t["figures"]
        number = next(n for n in (1, 2) if take_of(staged, n)["id"] == t["take_id"])
        assert ada["figure"] == staged.ada
        assert ada["answer"] in ("found", "doubtful")
        assert iou(ada["box"], staged.boxes[number - 1]) > 0.5
        boxes.append({"take_id": t["take_id"], "thread_id": staged.ada, "box": ada["box"]})
    assert len(boxes) == 2
    made = client.post(f"/api/projects/{staged.project}/standings/confirm", json={"boxes": boxes}).json()
    assert made["label"] == "marked Ada in 2 pictures"
    assert {m["take_id"] for m in made["rows"]["mark"]} == {b["take_id"] for b in boxes}
    assert waiting(client, staged)["takes"] == []
    again = client.post(f"/api/projects/{staged.project}/standings/confirm", json={"boxes": boxes}).json()
    assert not again["rows"].get("mark")
    assert client.post(f"/api/projects/{staged.project}/undo").json()["label"] == "marked Ada in 2 pictures"
    assert len(waiting(client, staged)["takes"]) == 2


def test_a_no_is_kept_undone_and_taken_back_by_a_mark(client, spotter, staged):
    unmarked(staged, 4)
    assert len(looked(client, spotter, staged)["takes"]) == 1
    take = take_of(staged, 4)
    base = f"/api/projects/{staged.project}"
    said = client.post(
        f"{base}/takes/{take['id']}/not-here", json={"thread_id": staged.ada, "revision": take["revision"]}
    )
    assert said.json()["rows"]["take"][0]["not_here"] == [staged.ada]
    assert waiting(client, staged)["takes"] == []
    stale = client.post(f"{base}/takes/{take['id']}/not-here", json={"thread_id": staged.ada, "revision": 99})
    assert stale.status_code == 200, "who says the same again is not in conflict"
    client.post(f"{base}/undo")
    assert len(waiting(client, staged)["takes"]) == 1
    client.post(f"{base}/redo")
    box = {"x": 5, "y": 5, "w": 60, "h": 80}
    put = client.put(f"{base}/takes/{take['id']}/marks", json={"thread_id": staged.ada, "box": box}).json()
    assert put["rows"]["take"][0]["not_here"] == []
    style = client.post(f"{base}/takes/{take['id']}/not-here", json={"thread_id": staged.style})
    assert style.status_code == 422


def test_pictures_that_come_in_are_looked_through_by_themselves(client, spotter, staged):
    base = f"/api/projects/{staged.project}"
    picture, [box] = scene([LOOK], np.random.default_rng(9), ground=7, scale=1.0)
    taken = client.post(f"{base}/pictures", files={"file": ("new.png", png(picture))}, data={"name": "new.png"}).json()
    file = {"name": "new.png", "sha": taken["sha"], "shot_id": staged.shots[0]}
    made = client.post(f"{base}/takes", json={"files": [file]}).json()
    [take] = made["rows"]["take"]
    assert not take["picked"]
    spotter.wait(staged.project)
    assert waiting(client, staged)["takes"] == [], "only picked takes are told unless asked for"
    [told] = waiting(client, staged, take_id=take["id"])["takes"]
    assert iou(told["figures"][0]["box"], box) > 0.5
    assert client.get(f"{base}/standings", params={"take_id": "no id"}).status_code == 422


def test_a_picture_that_is_gone_from_the_store_harms_no_other(client, spotter, staged):
    unmarked(staged, 2, 3)
    path = staged.ws.store.path(take_of(staged, 3)["picture_sha"])
    kept = path.read_bytes()
    path.write_bytes(b"no picture")
    try:
        told = looked(client, spotter, staged)
    finally:
        path.write_bytes(kept)
    assert [t["take_id"] for t in told["takes"]] == [take_of(staged, 2)["id"]]
    assert (told["unseen"], bool(told["status"]["message"])) == (1, True)
    assert told["status"]["done"] == told["status"]["total"]


def test_looking_can_be_stopped_and_a_stranger_project_is_not_there(client, ws, staged):
    unmarked(staged, 1, 2, 4)
    stopped = Spotter(ws, Workers())
    stopped.look(staged.project)
    status = stopped.stop(staged.project)
    assert status.done == status.total
    stopped.workers.close()
    assert client.post("/api/projects/nobody/standings/look", json={}).status_code == 404
    assert client.get("/api/projects/nobody/standings").status_code == 404
    box = {"take_id": "0" * 32, "thread_id": staged.ada, "box": {"x": 1, "y": 1, "w": 9, "h": 9}}
    base = f"/api/projects/{staged.project}/standings"
    assert client.post(f"{base}/confirm", json={"boxes": [box]}).status_code == 404
    outside = {**box, "take_id": take_of(staged, 1)["id"], "box": {"x": 9999, "y": 1, "w": 9, "h": 9}}
    assert client.post(f"{base}/confirm", json={"boxes": [outside]}).status_code == 422
    assert not [m for m in rows(ws, staged.project, "mark") if m["take_id"] == outside["take_id"]]


def test_the_cast_is_found_on_the_layout_guide_once_and_who_is_not_there_is_said(client, staged):
    base = f"/api/projects/{staged.project}"
    shot = staged.shots[0]

    def guide(data):
        taken = client.post(f"{base}/pictures", files={"file": ("g.png", data)}, data={"name": "g.png"}).json()
        client.put(f"{base}/shots/{shot}/sketch", json={"sha": taken["sha"]})
        return taken

    looked_for = f"{base}/shots/{shot}/stands"
    assert "no layout guide" in client.post(looked_for).json()["detail"]
    guide(png(np.full((300, 400, 3), 240, np.uint8)))
    assert "Place them by hand" in client.post(looked_for).json()["detail"]
    picture, [box] = scene([LOOK], np.random.default_rng(9), ground=7, scale=1.0)
    height, width = picture.shape[:2]
    guide(png(picture))
    told = client.post(looked_for).json()
    assert told["label"] == "placed 1 figure as on the guide"
    [bead] = told["rows"]["bead"]
    x, y, w, h = bead["stands"]
    assert overlap(Box(x * width, y * height, w * width, h * height), box) > 0.5
    assert "all who have references are placed" in client.post(looked_for).json()["detail"]
    client.post(f"{base}/undo")
    assert [b["stands"] for b in rows(staged.ws, staged.project, "bead") if b["id"] == bead["id"]] == [None]


def test_who_is_planned_and_not_marked_is_asked_about_by_the_check_until_it_is_said(client, checker, spotter, staged):
    """Nobody like Ada is found, as when somebody else stands in her place; a check that looked at marks alone would say that she holds."""
    base = f"/api/projects/{staged.project}"
    picture = np.tile(np.linspace(90, 200, 900).astype(np.uint8)[None, :, None], (600, 1, 3))
    taken = client.post(f"{base}/pictures", files={"file": ("p4.png", png(picture))}, data={"name": "p4.png"}).json()
    made = client.post(f"{base}/shots/{staged.shots[3]}/replace", json={"sha": taken["sha"], "name": "p4.png"}).json()
    [take] = [t for t in made["rows"]["take"] if t["picked"]]
    for mark in rows(staged.ws, staged.project, "mark"):
        if mark["take_id"] == take["id"]:
            takes.unmark(staged.ws, staged.project, mark["id"])

    def asked():
        checker.start(staged.project)
        checker.wait(staged.project, 120)
        groups = client.get(f"{base}/findings").json()["groups"]
        told = [f for g in groups for f in g["findings"] if f["source"] == "check"]
        return [f for f in told if f["kind"] in ("unmarked_doubtful", "figure_missing")]

    [waits] = asked()
    assert (waits["kind"], waits["shot"], waits["thread"]) == ("unmarked_doubtful", staged.shots[3], staged.ada)
    looked(client, spotter, staged)
    [unseen] = asked()
    assert unseen["title"] == "Is Ada in this picture? Nobody like Ada was found"
    assert unseen["key"] == waits["key"], "an answer holds, whatever is found meanwhile"
    client.post(f"{base}/takes/{take['id']}/not-here", json={"thread_id": staged.ada})
    [missing] = asked()
    assert missing["kind"] == "figure_missing"
    client.put(f"{base}/threads/{staged.ada}/run", json={"shot_ids": [staged.shots[3]], "on": False})
    assert asked() == []


def test_where_the_plan_has_one_figure_others_of_the_cast_claim_places_too(client, spotter, staged, ws):
    [bo] = (t["id"] for t in threads.make(ws, staged.project, "character", "Bo").rows["thread"])
    stranger = png(reference(random_look(np.random.default_rng(11))))
    threads.add_references(ws, staged.project, bo, [(takes.take_in(ws, "bo.png", stranger).sha, "front")], "")
    unmarked(staged, 1)
    told = looked(client, spotter, staged)
    [take] = [t for t in told["takes"] if t["take_id"] == take_of(staged, 1)["id"]]
    assert [f["figure"] for f in take["figures"]] == [staged.ada]
    assert take["figures"][0]["answer"] == "found"
    assert spotter.status(staged.project).done == spotter.status(staged.project).total
    # Bo in Ada's place: the plan says Ada, the picture shows Bo, and Bo is named.
    picture, _ = scene([random_look(np.random.default_rng(11))], np.random.default_rng(4), ground=2, scale=1.0)
    sha = str(takes.take_in(ws, "swapped.png", png(picture)).sha)
    takes.accept(ws, staged.project, [("swapped.png", sha, staged.shots[1])])
    [swapped] = [t for t in rows(ws, staged.project, "take") if t["picture_sha"] == sha]
    takes.pick(ws, staged.project, swapped["id"])
    told = looked(client, spotter, staged)
    [figure] = next(t["figures"] for t in told["takes"] if t["take_id"] == swapped["id"])
    assert figure["answer"] != "found"
