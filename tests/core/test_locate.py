"""Where a figure stands: places of its references vote, the best boxes get a second look."""

import itertools

import numpy as np
import pytest

from juxtaform.core.figure.locate import candidates, scene_maps, sighted
from juxtaform.core.figure.standing import ABSENT, FOUND, Place, covers, seen_places, settled, sought
from juxtaform.core.figure.traits import look_box
from juxtaform.core.picture.regions import Box, cut_out, overlap
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
    return {name: sought(eye, [cut_out(p, look_box(p))]) for name, p in pages.items()}


def told(eye, looks, pixels, *names):
    places = seen_places(eye, pixels, [looks[n] for n in names])
    return {s.figure: s for s in settled(dict(zip(names, places, strict=True)))}


@pytest.mark.parametrize(("ground", "light"), [(0, LIGHTS[0]), (3, LIGHTS[1]), (7, LIGHTS[2])])
def test_those_who_are_there_are_found_where_they_stand(eye, looks, ground, light):
    pixels, boxes = scene([PELL, ODA], np.random.default_rng(ground), light, ground=ground)
    standing = told(eye, looks, pixels, "pell", "oda")
    for name, box in zip(("pell", "oda"), boxes, strict=True):
        assert standing[name].answer != "absent"
        assert overlap(standing[name].box, box) > 0.5


def test_who_is_not_there_is_less_likely_than_who_is(eye, looks):
    pixels, _ = scene([PELL, ODA], np.random.default_rng(5), ground=5)
    here, absent = (seen_places(eye, pixels, [looks[name]])[0][0].odds for name in ("pell", "tim"))
    assert here > absent + 1
    assert told(eye, looks, pixels, "pell", "oda", "tim")["tim"].answer != "found"


def test_no_two_candidates_are_one_place(eye, looks):
    pixels, _ = scene([PELL, ODA], np.random.default_rng(1), ground=1)
    figure = looks["pell"].votes[0]
    found = candidates(scene_maps(eye.trunk, pixels), figure, (pixels.shape[0], pixels.shape[1]), 3)
    assert 1 <= len(found) <= 4
    assert all(a.vote >= b.vote for a, b in itertools.pairwise(found))
    assert all(overlap(a.box, b.box) < 0.5 for i, a in enumerate(found) for b in found[:i])


def test_who_is_known_to_stand_somewhere_takes_no_place_and_no_vote(eye, looks):
    """Somebody who is there twice: the marked one has the most votes, and the other one must still be looked at, as the best that is left."""
    page, boxes = scene([PELL, PELL, ODA], np.random.default_rng(3), ground=5, scale=0.8)
    own = looks["pell"]
    scenes = scene_maps(eye.trunk, page)
    everywhere = sighted(eye, page, scenes, own.looks, own.votes)
    taken = max(boxes[:2], key=lambda b: overlap(b, everywhere[0].box))
    left = boxes[1] if taken is boxes[0] else boxes[0]
    free = sighted(eye, page, scenes, own.looks, own.votes, lambda c: not covers(taken, c.box))
    assert overlap(left, free[0].box) > 0.5
    assert free[0].lead > 0
    assert all(s.lead < 0 for s in everywhere[1:])
    assert not any(covers(taken, s.box) for s in free)


def test_a_picture_smaller_than_a_figure_is_looked_at_all_the_same(eye, looks):
    tiny = np.full((24, 40, 3), 120, np.uint8)
    [places] = seen_places(eye, tiny, [looks["pell"]])
    assert all(p.odds < FOUND for p in places)


def test_a_reference_with_nothing_on_it_votes_for_nobody(eye):
    blank = sought(eye, [np.full((60, 60, 3), 255, np.uint8)])
    pixels, _ = scene([PELL], np.random.default_rng(5), ground=5)
    [places] = seen_places(eye, pixels, [blank])
    assert all(p.odds < FOUND for p in places)


HERE, THERE = Box(10, 10, 40, 80), Box(200, 10, 40, 80)


def standing(places, marked=None):
    return {s.figure: (s.answer, s.box, s.rival) for s in settled(places, marked)}


def test_the_stronger_claim_has_the_place_and_the_other_its_next():
    told = standing({"a": [Place(HERE, 4.0), Place(THERE, 0.0)], "b": [Place(HERE, 1.0), Place(THERE, 0.9)]})
    assert told == {"a": ("found", HERE, None), "b": ("found", THERE, None)}


def test_two_close_claims_on_one_place_name_each_other_and_are_asked():
    told = standing({"a": [Place(HERE, 2.0)], "b": [Place(HERE.grown(0.05), 1.5)]})
    assert told["a"] == ("doubtful", HERE, "b")
    assert told["b"] == ("doubtful", HERE.grown(0.05), "a")


def test_nobody_is_put_where_the_user_marked_somebody_else():
    told = standing({"a": [Place(HERE, 3.0)]}, {"b": HERE})
    assert told == {"a": ("absent", None, "b")}


@pytest.mark.parametrize(
    ("odds", "answer"),
    [(FOUND + 0.1, "found"), (0.0, "doubtful"), (ABSENT + 0.1, "doubtful"), (ABSENT - 0.1, "absent")],
)
def test_what_is_said_goes_by_the_odds(odds, answer):
    assert standing({"a": [Place(HERE, odds)]})["a"][0] == answer


def test_who_has_no_place_at_all_is_absent():
    assert standing({"a": []}) == {"a": ("absent", None, None)}


@pytest.mark.parametrize(
    ("other", "part"), [(Box(0, 0, 10, 10), 1.0), (Box(5, 0, 10, 10), 1 / 3), (Box(20, 20, 4, 4), 0.0)]
)
def test_overlap_is_the_shared_part_of_both(other, part):
    assert overlap(Box(0, 0, 10, 10), other) == pytest.approx(part)


ELSEWHERE = Box(400, 10, 40, 80)


def test_a_place_that_nobody_else_wants_needs_less_than_where_only_one_is_looked_for():
    weak = [Place(HERE, 0.2)]
    assert standing({"a": weak})["a"][0] == "doubtful"
    assert standing({"a": weak, "b": [Place(THERE, 3.0)]})["a"][0] == "found"
    assert standing({"a": weak}, {"b": THERE})["a"][0] == "found"


def test_who_is_not_there_leaves_the_place_to_who_is():
    told = standing({"a": [Place(HERE, 1.0)], "b": [Place(THERE, 3.0)], "c": [Place(THERE, -0.5), Place(HERE, -2.5)]})
    assert told["a"] == ("found", HERE, None)
    assert told["b"] == ("found", THERE, None)
    assert told["c"][0] == "absent"


def test_whoever_stands_elsewhere_for_sure_claims_no_second_place():
    crowded = {"a": [Place(HERE, 0.5)], "b": [Place(HERE, 0.4), Place(THERE, 4.0)]}
    assert standing(crowded) == {"a": ("found", HERE, None), "b": ("found", THERE, None)}


def test_a_crowd_that_wants_one_place_is_told_without_end_of_ways():
    crowd = {
        f"c{i:02}": [Place(HERE, 2.0 - 0.2 * i), Place(THERE, 1.0 - 0.2 * i), Place(ELSEWHERE, 0.0)] for i in range(20)
    }
    told = settled(crowd)
    assert [s.figure for s in told] == sorted(crowd)
    assert {s.answer for s in told} <= {"found", "doubtful", "absent"}
    held = [s.box for s in told if s.answer == "found"]
    assert len(held) == len(set(held))


def test_the_order_of_the_figures_says_nothing():
    places = {
        "a": [Place(HERE, 1.2), Place(THERE, 0.3)],
        "b": [Place(HERE, 0.9)],
        "c": [Place(THERE, 0.1), Place(ELSEWHERE, -1.0)],
    }
    told = standing(places)
    assert standing(dict(reversed(places.items()))) == told


def test_a_thing_must_be_as_sure_as_alone_and_takes_no_place():
    places = {"a": [Place(HERE, 1.0)], "b": [Place(THERE, 1.0)], "key": [Place(HERE, 0.2)]}
    told = {s.figure: s.answer for s in settled(places, things={"key"})}
    assert told == {"a": "found", "b": "found", "key": "doubtful"}
    sure = {s.figure: s.answer for s in settled(places | {"key": [Place(HERE, 2.0)]}, things={"key"})}
    assert sure == {"a": "found", "b": "found", "key": "found"}
    assert settled({"a": [Place(HERE, 0.2)], "key": []}, things={"key"})[0].answer == "doubtful"


def test_two_boxes_of_one_body_make_it_surer_not_less_sure():
    larger = Box(2, 0, 56, 110)
    assert standing({"a": [Place(HERE, 0.3), Place(larger, 0.3)], "b": [Place(THERE, 3.0)]})["a"][0] == "found"
    assert standing({"a": [Place(HERE, -0.5), Place(ELSEWHERE, -0.5)], "b": [Place(THERE, 3.0)]})["a"][0] == "doubtful"


def test_others_of_the_cast_claim_places_and_get_no_answer():
    weak = {"a": [Place(HERE, 0.2)]}
    assert [(s.figure, s.answer) for s in settled(weak, beside={"b": [Place(THERE, -3.0)]})] == [("a", "found")]
    [told] = settled(weak, beside={"b": [Place(HERE, 0.6)]})
    assert (told.answer, told.rival) == ("doubtful", "b")
    [gone] = settled(weak, beside={"b": [Place(HERE, 4.0)]})
    assert (gone.answer, gone.box, gone.rival) == ("absent", None, "b")
    # Its other place has the greater chance left, but the one that it was likeliest at is told of.
    two = {"a": [Place(HERE, -1.0), Place(THERE, -5.0)], "b": [Place(HERE, 4.0)]}
    assert standing(two)["a"] == ("absent", None, "b")
    [nowhere] = settled({"a": [Place(HERE, ABSENT - 1)]}, beside={"b": [Place(HERE, 4.0)]})
    assert (nowhere.answer, nowhere.rival) == ("absent", None)
