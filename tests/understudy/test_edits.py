"""What the Understudy makes of a picture that is there, and what goes wrong with it as a service: edits, forms, clips, weights, troubles, restarts."""

import hashlib
import io
import json
import time

import numpy as np
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from juxtaform.understudy import jobs as working
from juxtaform.understudy.edits import FRAMES_A_SECOND, clip_frames, edited, extended
from juxtaform.understudy.held import Held
from juxtaform.understudy.painting import Sent, cut_out, painted, staged, wandered
from juxtaform.understudy.protocol import Wanted
from juxtaform.understudy.service import PREFIX, make_app
from juxtaform.understudy.slips import drifts, trouble_of
from tests.conftest import LOOK, flat, png
from tests.constructed import reference, scene


@pytest.fixture(scope="module")
def pictures():
    rng = np.random.default_rng(5)
    return scene([], rng, ground=2)[0], scene([], rng, ground=7)[0]


def test_an_edit_changes_its_area_alone(pictures):
    base, other = pictures
    out = edited(base, other, (0.25, 0.25, 0.5, 0.5))
    height, width = base.shape[:2]
    inside = np.zeros((height, width), bool)
    inside[round(0.25 * height) : round(0.75 * height), round(0.25 * width) : round(0.75 * width)] = True
    assert (out[~inside] == base[~inside]).all()
    middle = np.s_[height // 2 - 20 : height // 2 + 20, width // 2 - 20 : width // 2 + 20]
    assert (out[middle] == other[middle]).all()
    assert (edited(base, other, (0.999, 0.999, 0.001, 0.001)) == base).mean() > 0.99


def test_a_picture_grows_around_what_it_was(pictures):
    base = pictures[0]
    height, width = base.shape[:2]
    out = extended(base, width + 200, height)
    assert out.shape == (height, width + 200, 3)
    assert (out[:, 100 : 100 + width] == base).all()
    seam = np.abs(out[:, 99].astype(int) - out[:, 100]).mean()
    assert seam < 12
    assert extended(base, 10, 10).shape == base.shape


def test_a_clip_goes_from_its_first_picture_to_its_last_and_moves_between():
    ground = np.full((120, 200, 3), (60, 90, 120), np.uint8)
    first, last = ground.copy(), ground.copy()
    first[40:80, 40:80] = last[40:80, 70:110] = (220, 180, 60)
    frames = list(clip_frames(first, last, 1.0))
    assert len(frames) == FRAMES_A_SECOND
    assert np.abs(frames[0].astype(int) - first).mean() < 1
    assert np.abs(frames[-1].astype(int) - last).mean() < 1
    middles = [float(np.flatnonzero(f[60, :, 0] > 140)[[0, -1]].mean()) for f in frames if (f[60, :, 0] > 140).any()]
    assert middles[0] < middles[len(middles) // 2] < middles[-1]


def test_a_reference_of_little_weight_holds_little():
    figure, setting = reference(LOOK), np.full((200, 300, 3), (60, 70, 90), np.uint8)

    def made(weight, seed=3):
        sent = [Sent(figure, "character", "Ada", weight), Sent(setting, "setting", "Quay")]
        return painted(staged(sent, seed, 0.9), 300, 200).astype(int)

    full, most, half, little = (made(w) for w in (1.0, 0.8, 0.5, 0.2))
    assert (full == most).all()
    assert 0 < np.abs(half - full).mean() < np.abs(little - full).mean()
    cut = cut_out(figure)
    assert wandered(cut, 0.9, np.random.default_rng(1)) is cut


@pytest.fixture
def app():
    return make_app(tells=True)


def client(app):
    made = TestClient(app, raise_server_exceptions=False)
    made.base_url = made.base_url.join(f"{PREFIX}/")
    return made


def brought(service, data):
    sha = hashlib.sha256(data).hexdigest()
    service.put(f"pictures/{sha}", content=data)
    return sha


def done(service, key, **more):
    body = {"model": "cut-paper", "text": "Ada. Wide shot.", "seed": 7, **more}
    answer = service.post("jobs", json=body, headers={"Idempotency-Key": key})
    assert answer.status_code == 202, answer.text
    while (job := service.get(f"jobs/{answer.json()['id']}").json())["state"] in ("queued", "running"):
        time.sleep(0.02)
    return job


def test_edits_extensions_and_clips_are_made_over_the_protocol(app):
    with client(app) as service:
        base = brought(service, flat((200, 60, 40), (120, 80)))
        last = brought(service, flat((20, 60, 140), (120, 80)))
        area = {"x": 0.2, "y": 0.2, "w": 0.4, "h": 0.4}
        job = done(service, "edit-key-1", kind="edit", pictures=[{"sha": base, "role": "base"}], area=area)
        edit = Image.open(io.BytesIO(service.get(f"pictures/{job['results'][0]['sha']}").content))
        assert edit.size == (120, 80)
        job = done(service, "grow-key-1", kind="extension", aspect="2:1", pictures=[{"sha": base, "role": "base"}])
        assert (job["results"][0]["width"], job["results"][0]["height"]) == (160, 80)
        job = done(
            service,
            "clip-key-1",
            kind="clip",
            seconds=1.5,
            motion="It turns blue.",
            pictures=[{"sha": base, "role": "first"}, {"sha": last, "role": "last"}],
        )
        [clip] = job["results"]
        assert (clip["media_type"], job["credits"]) == ("image/webp", 1.5)
        assert Image.open(io.BytesIO(service.get(f"pictures/{clip['sha']}").content)).n_frames == 18


@pytest.mark.parametrize(
    ("ask", "words"),
    [
        ({"kind": "edit"}, "needs the picture"),
        ({"kind": "edit", "base": True}, "needs its area"),
        ({"kind": "extension"}, "needs the picture"),
        ({"kind": "clip", "seconds": 2}, "first picture"),
    ],
)
def test_what_is_missing_for_them_is_told(app, ask, words):
    with client(app) as service:
        pictures = [{"sha": brought(service, flat()), "role": "base"}] if ask.pop("base", False) else []
        body = {"model": "cut-paper", "text": "", "pictures": pictures, **ask}
        answer = service.post("jobs", json=body, headers={"Idempotency-Key": "key-00001"})
        assert answer.status_code == 422
        assert words in answer.json()["detail"]


def test_a_lineage_that_drifts_slides_farther_with_every_step():
    app = make_app(often=1.0, tells=True, trouble=lambda key: "")
    with client(app) as service:
        setting = brought(service, png(np.dstack([np.full((80, 120), v, np.uint8) for v in (220, 90, 30)])))
        pictures = [{"sha": setting, "role": "setting", "name": "Quay"}]
        base, spread = None, []
        for step in range(4):
            own = [*pictures, {"sha": base, "role": "base"}] if base else pictures
            base = done(service, f"step-key-{step}", pictures=own)["results"][0]["sha"]
            told = app.state.jobs.slips[base]
            assert any(s.kind == "drift" for s in told) == bool(step)
            spread.append(app.state.jobs.generations[base])
        assert spread == [0, 1, 2, 3]
    wanted = Wanted(model="m", text="", pictures=[{"sha": "0" * 64, "role": "character", "name": "Ada"}])
    assert not drifts(wanted, 0.0)
    assert drifts(wanted, 1.0)


def test_troubles_come_by_key_as_often_as_asked():
    often = [trouble_of(f"key-{i}", 0.3) for i in range(400)]
    assert 0.22 < sum(map(bool, often)) / 400 < 0.38
    assert set(often) == {"", "refused", "failed", "slow", "broken", "busy"}
    assert [trouble_of(f"key-{i}", 0.3) for i in range(400)] == often
    assert not any(trouble_of(f"key-{i}", 0.0) for i in range(50))


def test_who_is_asked_too_much_says_when_to_come_again(monkeypatch):
    monkeypatch.setattr(working, "MOST_WAITING", 0)
    with client(make_app()) as service:
        answer = service.post("jobs", json={"model": "cut-paper", "text": ""}, headers={"Idempotency-Key": "key-00001"})
        assert (answer.status_code, answer.headers["retry-after"]) == (429, "2")


def test_jobs_and_pictures_outlive_the_process(tmp_path):
    first = make_app(keep=tmp_path, trouble=lambda key: "")
    with client(first) as service:
        job = done(service, "kept-key-1", count=2)
        data = service.get(f"pictures/{job['results'][0]['sha']}").content
    half = json.loads((tmp_path / "jobs" / f"{job['id']}.json").read_text())
    kept = json.loads(half["job"])
    kept |= {"state": "running", "results": kept["results"][:1], "credits": 1.0, "progress": 0.5}
    (tmp_path / "jobs" / f"{job['id']}.json").write_text(json.dumps({**half, "job": json.dumps(kept)}))
    (tmp_path / "jobs" / "broken.json").write_text("{")
    (tmp_path / "pictures" / "x.part").write_bytes(b"half")
    second = make_app(keep=tmp_path, trouble=lambda key: "")
    with client(second) as service:
        assert service.get(f"pictures/{job['results'][0]['sha']}").content == data
        again = done(service, "kept-key-1", count=2)
        assert (again["id"], again["results"]) == (job["id"], job["results"])
        assert (second.state.jobs.taken, second.state.jobs.made) == (1, 2)
    assert not (tmp_path / "pictures" / "x.part").exists()
    assert not (tmp_path / "jobs" / "broken.json").exists()


@pytest.mark.parametrize("kept", [True, False])
def test_the_oldest_pictures_go_when_there_are_too_many(tmp_path, kept):
    held = Held(tmp_path if kept else None, most_bytes=250)
    shas = [held.put(bytes([i]) * 100)[0] for i in range(4)]
    assert [held.get(s) is not None for s in shas] == [False, False, True, True]
    assert held.put(bytes([3]) * 100) == (shas[3], False)
    assert held.get("0" * 64) is None
