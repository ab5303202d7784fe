"""What goes wrong is what is told, by seed, and nothing else is touched."""

from dataclasses import replace

import cv2
import numpy as np
import pytest
from fastapi.testclient import TestClient

from juxtaform.understudy.painting import Sent, painted, staged
from juxtaform.understudy.service import PREFIX, make_app
from juxtaform.understudy.slips import OF_FIGURES, OF_PICTURES, Slip, chosen, marred, staged_wrong
from tests.conftest import LOOK
from tests.constructed import Look, reference
from tests.understudy.test_service import asked, finished

OTHER = Look("#2a2326", "#7b4a30", "#6b4a8c", "#456a70", "#8a5a3c", "#f3f0ea", hair_form=1, coat_form=2, extra_form=1)
W, H = 480, 320


@pytest.fixture(scope="module")
def scene():
    setting = np.full((H, W, 3), (30, 90, 110), np.uint8)
    sent = [Sent(reference(LOOK), "character", "Ada"), Sent(reference(OTHER), "character", "Bo")]
    return staged([*sent, Sent(setting, "setting", "Quay")], 5)


def column(scene, name):
    """The part of the picture's columns that a figure stands in."""
    place = next(f.place for f in scene.figures if f.name == name)
    return np.s_[:, round((place.x - 0.11) * W) : round((place.x + 0.11) * W)]


def differs(a, b):
    return np.abs(a.astype(int) - b.astype(int)).sum(-1) > 40


@pytest.mark.parametrize("kind", ["recoloured", "missing", "somebody_else"])
def test_a_slip_of_a_figure_changes_that_figure_alone(scene, kind):
    right = painted(scene, W, H)
    wrong_scene, done = staged_wrong(scene, [Slip(kind, "Ada")])
    assert done == (Slip(kind, "Ada"),)
    changed = differs(right, painted(wrong_scene, W, H))
    assert changed[column(scene, "Ada")].sum() > 60
    assert changed.sum() - changed[column(scene, "Ada")].sum() < 0.1 * changed.sum() + 40


def test_a_second_copy_stands_apart_from_the_first(scene):
    wrong, _ = staged_wrong(scene, [Slip("twice", "Ada")])
    twice = [f.place.x for f in wrong.figures if f.name == "Ada"]
    assert len(twice) == 2
    assert abs(twice[0] - twice[1]) > 0.1
    assert len(wrong.figures) == 3


def test_somebody_else_is_the_other_of_the_cast(scene):
    wrong, _ = staged_wrong(scene, [Slip("somebody_else", "Ada")])
    cuts = {f.name: f.cut for f in wrong.figures}
    assert cuts["Ada"] is cuts["Bo"]


def test_a_border_lies_at_the_rim_and_leaves_the_middle(scene):
    right = painted(scene, W, H)
    changed = differs(right, marred(right, [Slip("border")], 1))
    assert changed[:6].all()
    assert not changed[40:-40, 40:-40].any()


def test_a_soft_picture_is_soft_and_another_hand_draws_lines(scene):
    right = painted(scene, W, H)

    def sharpness(p):
        return cv2.Laplacian(cv2.cvtColor(p, cv2.COLOR_RGB2GRAY), cv2.CV_64F).var()

    assert sharpness(marred(right, [Slip("soft")], 1)) < 0.2 * sharpness(right)
    inked = marred(right, [Slip("another_hand")], 1)
    assert (inked.max(-1) < 40).mean() > (right.max(-1) < 40).mean() + 0.01


def test_drift_grows_along_a_lineage(scene):
    right = painted(scene, W, H)
    chroma = [float(np.ptp(marred(right, [Slip("drift")], 1, g), axis=2).mean()) for g in (1, 2, 3)]
    assert chroma == sorted(chroma, reverse=True)
    assert chroma[-1] < 0.75 * float(np.ptp(right, axis=2).mean())


def test_slips_come_as_often_as_asked_by_seed_alone(scene):
    scenes = [replace(scene, seed=seed) for seed in range(600)]
    told = [chosen(s, 0.2) for s in scenes]
    assert told == [chosen(s, 0.2) for s in scenes]
    assert 0.1 < sum(bool(t) for t in told) / len(told) < 0.3
    assert {slip.kind for slips in told for slip in slips} == {*OF_FIGURES, *OF_PICTURES}
    assert not any(chosen(s, 0.0) for s in scenes)


def test_what_went_wrong_is_told_to_whoever_judges_and_to_nobody_else():
    with TestClient(make_app(often=1.0, tells=True)) as client:
        client.base_url = client.base_url.join(f"{PREFIX}/")
        results = finished(client, asked(client, count=4).json()["id"])[-1]["results"]
        slips = [client.get(f"http://testserver/understudy/slips/{r['sha']}").json() for r in results]
        assert all(slips)
        assert client.get("http://testserver/understudy/count").json() == {"jobs": 1, "pictures": 4, "credits": 4.0}
        assert client.get(f"http://testserver/understudy/slips/{'0' * 64}").status_code == 404
    with TestClient(make_app()) as client:
        assert client.get("http://testserver/understudy/count").status_code == 404
