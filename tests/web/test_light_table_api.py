"""The light table's routes: tiles, colours under the loupe, lights of scenes, pegs."""

import io

import numpy as np
import pytest
from PIL import Image

from juxtaform.studio import takes
from tests.conftest import Staged, client_of, measured_takes, png, rows


@pytest.fixture(scope="module")
def staged(ws, checker):
    made = Staged(ws)
    takes_by_shot = {t["shot_id"]: t["id"] for t in rows(ws, made.project, "take")}
    measured_takes(ws, checker, made.project, [takes_by_shot[s] for s in made.shots[:2]])
    return made


@pytest.fixture(scope="module")
def client(ws, checker):
    with client_of(ws, checker) as made:
        yield made


@pytest.fixture(scope="module")
def large(ws):
    """A picture of 1300 x 900 px that is another colour everywhere."""
    ys, xs = np.mgrid[0:900, 0:1300]
    pixels = np.stack([xs * 255 // 1299, ys * 255 // 899, (xs + ys) % 256], axis=-1).astype(np.uint8)
    return str(takes.take_in(ws, "large.png", png(pixels)).sha), pixels


def tile(client, sha, *at):
    got = client.get(f"/api/pictures/{sha}/tile", params=dict(zip(("level", "column", "row"), at, strict=True)))
    return np.asarray(Image.open(io.BytesIO(got.content))) if got.status_code == 200 else got.status_code


def test_tiles_are_the_picture_and_each_level_half_of_it(client, large):
    sha, pixels = large
    first = tile(client, sha, 0, 1, 1)
    assert first.shape == (388, 513, 3)
    assert np.abs(first.astype(int) - pixels[512:, 512:1025]).mean() < 3
    assert tile(client, sha, 0, 2, 0).shape == (513, 276, 3)
    assert tile(client, sha, 1, 0, 0).shape == (450, 513, 3)
    assert [tile(client, sha, *at) for at in ((0, 3, 0), (9, 0, 0), (0, 0, 2))] == [404, 404, 404]
    assert tile(client, "0" * 64, 0, 0, 0) == 404
    assert client.get(f"/api/pictures/{sha}/tile?column=-1").status_code == 422


def test_the_loupe_reads_the_same_place_with_and_without_the_light(client, staged, large):
    sha, pixels = large
    places = [
        {"sha": sha, "x": 100.5, "y": 200.5, "radius": 0},
        {"sha": sha, "x": 900.5, "y": 200.5, "radius": 0, "light": {"gain": [0.5, 0.5, 0.5]}},
        {"sha": sha, "x": -3, "y": 2},
    ]
    one, other, outside = client.post(f"/api/projects/{staged.project}/loupe", json={"places": places}).json()
    assert one["hex"] == "#{:02x}{:02x}{:02x}".format(*pixels[200, 100])
    assert one["apart"] is None
    assert one["even_hex"] is None
    assert other["words"] == "another colour"
    assert other["even_hex"] > other["hex"]
    assert other["even_apart"] != other["apart"]
    assert outside["hex"] is None
    assert outside["apart"] is None
    gone = client.post(f"/api/projects/{staged.project}/loupe", json={"places": [{"sha": "0" * 64, "x": 1, "y": 1}]})
    assert gone.status_code == 404


def test_the_lights_of_measured_takes_are_told(client, staged):
    takes_by_shot = {t["shot_id"]: t["id"] for t in rows(staged.ws, staged.project, "take")}
    ids = [takes_by_shot[s] for s in staged.shots]
    told = client.post(f"/api/projects/{staged.project}/lights", json={"take_ids": ids}).json()
    assert {t["take_id"] for t in told} == set(ids[:2])
    assert all("stop" in t["words"] for t in told)


def test_pictures_are_pegged_on_a_figure_that_stands_in_them(client, staged):
    by_shot = {t["shot_id"]: t for t in rows(staged.ws, staged.project, "take")}
    first, second = (by_shot[s] for s in staged.shots[:2])
    reference = rows(staged.ws, staged.project, "reference")[0]["picture_sha"]
    body = {
        "thread_id": staged.ada,
        "on": "head",
        "pictures": [
            {"sha": first["picture_sha"], "take_id": first["id"]},
            {"sha": second["picture_sha"], "take_id": second["id"]},
            {"sha": reference},
        ],
    }
    told = client.post(f"/api/projects/{staged.project}/pegs", json=body).json()["pegs"]
    assert told[0]["affine"] == [1, 0, 0, 0, 1, 0]
    box, there = staged.boxes[0], staged.boxes[1]
    a, b, c, d, e, f = told[1]["affine"]
    head = np.array([there.x + there.w / 2, there.y + 0.12 * there.h, 1])
    assert (
        np.hypot(
            a * head[0] + b * head[1] + c - box.x - box.w / 2, d * head[0] + e * head[1] + f - box.y - 0.12 * box.h
        )
        < 0.15 * box.h
    )
    assert told[2] is not None
    agree = {"on": "picture", "pictures": body["pictures"][:2]}
    same = client.post(f"/api/projects/{staged.project}/pegs", json={**agree, "pictures": [agree["pictures"][0]] * 2})
    assert same.json()["pegs"][1]["affine"] == pytest.approx([1, 0, 0, 0, 1, 0], abs=0.1)
    body["thread_id"] = staged.style
    body["pictures"] = body["pictures"][:2]
    assert client.post(f"/api/projects/{staged.project}/pegs", json=body).status_code == 422
