"""A trait that stands on a figure once more than on its references is told where it is; pairs, poses and lights are silent."""

from dataclasses import replace

import numpy as np
import pytest

from juxtaform.core.check.measure import measure_picture
from juxtaform.core.check.sequence import check
from juxtaform.core.check.states import Mark, ShotState
from juxtaform.core.figure.known import known_figure
from juxtaform.core.figure.traits import figure_model, reference_view
from juxtaform.core.text.names import Named
from tests.constructed import LIGHTS, Look, marked_parts, random_pose, reference, scene

PELL = Look("#6b3f26", "#efc09c", "#dba326", "#3b3f73", "#2f7d4f", "#c8322b")


@pytest.fixture(scope="module", params=[0, 1, 2], ids=["cap", "scarf", "bag"])
def look(request):
    return replace(PELL, extra_form=request.param)


@pytest.fixture(scope="module")
def known(look):
    return known_figure(figure_model("a", views_of(look), marked_parts(look)))


def views_of(look):
    poses = (None, random_pose(np.random.default_rng(1)))
    return [reference_view(reference(look, pose), f"view {i}") for i, pose in enumerate(poses)]


def told(known, look, twice_in, count=5):
    """The findings of a row in which the extra is there once more in some shots."""
    rng, shots = np.random.default_rng(4), []
    for i in range(count):
        worn = replace(look, extra_again=1.0 if i in twice_in else 0.0)
        pixels, [box] = scene([worn], rng, LIGHTS[i % 5], ground=(0, 2, 5, 8, 6)[i % 5], scale=0.9)
        measure = measure_picture(pixels, [(box, known)])
        shots.append(ShotState(f"s{i}", str(i + 1), "", frozenset("a"), None, (Mark("a", box),), measure))
    return [f for f in check(shots, [], [Named("a", "Pell")]).findings if f.kind == "trait_twice"], shots


def test_a_trait_that_is_there_twice_is_told_where_the_other_one_is(known, look):
    [found], shots = told(known, look, {2})
    assert found.shot == "s2"
    assert found.title == "Pell's extra is there twice"
    box, at = shots[2].marks[0].box, found.region
    # The second one: a cap at the knees, a scarf below the first, a bag on the other side.
    middle = ((at.x + at.w / 2 - box.x) / box.w, (at.y + at.h / 2 - box.y) / box.h)
    across, down = {0: (0.5, 0.65), 1: (0.5, 0.75), 2: (0.25, 0.6)}[look.extra_form]
    assert min(abs(middle[0] - across), abs(1 - middle[0] - across)) < 0.15
    assert abs(middle[1] - down) < 0.15


def test_pairs_poses_and_lights_are_silent(known, look):
    assert told(known, look, set())[0] == []


def test_a_colour_that_nobody_marked_is_no_thing_that_can_be_there_twice(look):
    assert told(known_figure(figure_model("a", views_of(look))), look, {2})[0] == []


def test_what_is_there_twice_in_most_pictures_is_so_by_design(known, look):
    assert told(known, look, {0, 1, 2})[0] == []
