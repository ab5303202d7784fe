"""Where a figure stands: places of its references vote, the best boxes get a second look."""

import itertools

import numpy as np
import pytest

from juxtaform.core.figure.locate import candidates, overlap, scene_maps, sighted, templates
from juxtaform.core.figure.sheet import look_of
from juxtaform.core.regions import Box, cut_out
from juxtaform.core.traits import look_box
from juxtaform.media import network
from tests.constructed import LIGHTS, Look, reference, scene

PELL = Look("#b4532a", "#efc09c", "#dba326", "#3b3f73", "#2f7d4f", "#c8322b", extra_form=0)
ODA = Look("#2a2326", "#7b4a30", "#6b4a8c", "#456a70", "#8a5a3c", "#f3f0ea", hair_form=1, coat_form=2, extra_form=1)
TIM = Look("#58b3a6", "#f6d9c4", "#2f7d4f", "#a8a8b0", "#c8322b", "#2c6fc4", hair_form=2, coat_form=1, extra_form=2)


@pytest.fixture(scope="module")
def eye():
    found = network.figure_eye()
    assert found is not None
    return found


@pytest.fixture(scope="module")
def looks(eye):
    pages = {name: reference(look) for name, look in (("pell", PELL), ("oda", ODA), ("tim", TIM))}
    return {name: look_of(eye.trunk, cut_out(p, look_box(p))) for name, p in pages.items()}


def seen(eye, looks, name, pixels):
    figure = looks[name]
    found = sighted(eye, pixels, scene_maps(eye.trunk, pixels), [figure], [templates(eye.trunk, figure.upright)])
    assert found is not None
    return found


@pytest.mark.parametrize(("ground", "light"), [(0, LIGHTS[0]), (3, LIGHTS[1]), (7, LIGHTS[2])])
def test_those_who_are_there_are_found_where_they_stand(eye, looks, ground, light):
    pixels, boxes = scene([PELL, ODA], np.random.default_rng(ground), light, ground=ground)
    for name, box in zip(("pell", "oda"), boxes, strict=True):
        found = seen(eye, looks, name, pixels)
        assert overlap(found.box, box) > 0.5
        assert found.look.score > 0


def test_who_is_not_there_scores_far_below_who_is(eye, looks):
    pixels, _ = scene([PELL, ODA], np.random.default_rng(5), ground=5)
    here, absent = (seen(eye, looks, name, pixels).look.score for name in ("pell", "tim"))
    assert here > absent + 2


def test_no_two_candidates_are_one_place(eye, looks):
    pixels, _ = scene([PELL, ODA], np.random.default_rng(1), ground=1)
    figure = templates(eye.trunk, looks["pell"].upright)
    found = candidates(scene_maps(eye.trunk, pixels), figure, (pixels.shape[0], pixels.shape[1]), 3)
    assert 1 <= len(found) <= 4
    assert all(a.vote >= b.vote for a, b in itertools.pairwise(found))
    assert all(overlap(a.box, b.box) < 0.5 for i, a in enumerate(found) for b in found[:i])


def test_a_picture_smaller_than_a_figure_is_looked_at_all_the_same(eye, looks):
    tiny = np.full((24, 40, 3), 120, np.uint8)
    found = sighted(
        eye, tiny, scene_maps(eye.trunk, tiny), [looks["pell"]], [templates(eye.trunk, looks["pell"].upright)]
    )
    assert found is None or found.look.score < 1


@pytest.mark.parametrize(
    ("other", "part"), [(Box(0, 0, 10, 10), 1.0), (Box(5, 0, 10, 10), 1 / 3), (Box(20, 20, 4, 4), 0.0)]
)
def test_overlap_is_the_shared_part_of_both(other, part):
    assert overlap(Box(0, 0, 10, 10), other) == pytest.approx(part)
