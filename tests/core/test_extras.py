"""A thing on a figure that neither its references nor its other pictures show is told with its colour and its place."""

from dataclasses import replace
from types import SimpleNamespace

import numpy as np
import pytest

from juxtaform.core.check.extras import something_extra, unexplained, without_planned_things
from juxtaform.core.check.learned import held_by
from juxtaform.core.check.measure import measure_picture
from juxtaform.core.check.sequence import Cast, check
from juxtaform.core.check.states import Company, Mark, ShotState
from juxtaform.core.colour.spaces import linear_from_hex
from juxtaform.core.figure.extras import Extra, surroundings
from juxtaform.core.figure.known import known_figure
from juxtaform.core.figure.traits import figure_model, reference_view
from juxtaform.core.figure.worn import Worn
from juxtaform.core.picture.regions import Box
from juxtaform.core.text.names import Named
from juxtaform.media.network import figure_eye, judges
from tests.conftest import LOOK
from tests.constructed import LIGHTS, random_pose, reference, scene

PINK, BLUE, AMBER, NIGHT = "#e08fa6", "#2c6fc4", "#dba326", "#3b3f73"
PLAIN = replace(LOOK, has_extra=False)
BAGGED = replace(LOOK, extra_form=2, extra=BLUE)


def pictures(rng, looks, grounds):
    """One figure, pictured in each of some looks, in any light and pose, as the check sees it."""
    eye = figure_eye()
    views = [reference_view(reference(PLAIN), "front", eye=eye)]
    views.append(reference_view(reference(PLAIN, random_pose(rng)), "other", eye=eye))
    known = known_figure(figure_model("a", views), eye)
    shots = []
    for i, (look, ground) in enumerate(zip(looks, grounds, strict=True)):
        pixels, [box] = scene([look], rng, LIGHTS[i % len(LIGHTS)], ground, scale=0.9)
        measure = measure_picture(pixels, [(box, known)], [known], None, eye)
        shots.append(ShotState(f"s{i}", str(i + 1), "", frozenset("a"), None, (Mark("a", box),), measure))
    return shots


@pytest.fixture(scope="module")
def shots():
    return pictures(np.random.default_rng(5), [PLAIN, PLAIN, BAGGED, PLAIN, BAGGED], (1, 3, 5, 6, 0))


def test_a_bag_that_nobody_asked_for_is_told_where_it_is(shots):
    found = check(shots, [], [Named("a", "Pell")], judges=judges()).findings
    assert {(f.shot, f.kind) for f in found} == {("s2", "extra"), ("s4", "extra")}
    told = found[0]
    assert told.title.startswith("Pell has something blue")
    assert told.title.endswith("that the references do not show")
    box, bag = shots[2].marks[0].box, told.region
    assert bag.w < 0.5 * box.w
    assert box.y + 0.4 * box.h < bag.y + bag.h / 2 < box.y + 0.8 * box.h
    assert told.severity >= 1
    assert [e.measured for e in told.evidence[2:]] == ["no such colour", "in 1 of them"]


def test_it_may_be_a_prop_that_the_plan_has_and_nobody_marked(shots):
    planned = [replace(s, assigned=frozenset(["a", "bag"])) for s in shots]
    assert check(planned, [], [Named("a", "Pell")], judges=judges(), cast=Cast({"bag": "prop"})).findings == ()
    marked = [replace(s, marks=(*s.marks, Mark("bag", Box(0, 0, 5, 5)))) for s in planned]
    told = [f for s in marked for f in something_extra("a", "Pell", s, s.marks[0], _one(PINK), ())]
    assert len(without_planned_things(told, marked, {"bag": "prop"}, {})) == len(shots)
    for colours, left in ((("#e39aa8",), 0), (("#40454d",), len(shots))):
        looked_for = [replace(s, company=(Company("bag", colours=colours),)) for s in planned]
        assert len(without_planned_things(told, looked_for, {"bag": "prop"}, {})) == left, (
            "only what looks like the prop may be it"
        )
    assert without_planned_things(told, planned, {"bag": "prop"}, {"bag": "a"}) == []
    assert len(without_planned_things(told, planned, {"bag": "prop"}, {"bag": "b"})) == len(shots), (
        "it is somebody else's"
    )


def seen(*extras, worn=(AMBER, NIGHT)):
    own = tuple(Worn(tuple(linear_from_hex(c)), 0.4, 0.0, ()) for c in worn)
    return SimpleNamespace(extras=extras, worn=own, traits=())


def piece(code, share=0.1, apart=0.2, from_ground=0.2, plain=0.9):
    return Extra(tuple(linear_from_hex(code)), share, apart, from_ground, 0.8, plain, Box(3, 4, 5, 6))


def _one(code, **how):
    return unexplained([seen(piece(code, **how)), seen(), seen()])[0]


def told_of(one, mark=Mark("a", Box(0, 0, 50, 90)), traits=()):
    shot = ShotState("s0", "1", "", frozenset("a"), None, (mark,))
    return [(f.kind, f.title) for f in something_extra("a", "Pell", shot, mark, one, traits)]


def test_what_is_nearer_to_the_references_or_the_ground_is_asked_or_let_be():
    assert told_of(_one(PINK)) == [("extra", "Pell has something pink that the references do not show")]
    asked = [("extra_doubtful", "Does something pink belong to Pell here?")]
    assert told_of(_one(PINK, apart=0.14)) == asked
    assert told_of(_one(PINK, from_ground=0.05)) == asked
    assert told_of(_one(PINK, apart=0.11)) == []
    assert told_of(_one(PINK, share=0.02)) == [], "a speck"
    assert told_of(_one(PINK, plain=0.4)) == [], "several colours: what a pose uncovers"
    assert told_of(_one(PINK), Mark("a", Box(0, 0, 50, 90), hold="face")) == []
    assert told_of(None) == []


def test_what_other_pictures_show_too_is_the_figure_s_own():
    assert told_of(_one(AMBER)) == [], "its coat, elsewhere in another light"
    one, three = [seen(piece(PINK))], [seen(piece(PINK))] * 3
    assert told_of(unexplained(one * 2 + [seen()] * 6)[0]) != [], "an error may come twice"
    assert told_of(unexplained(three + [seen()] * 3)[0]) == []
    assert unexplained([seen()]) == [None]
    assert told_of(unexplained([seen(piece(PINK))])[0]) != [], "one picture alone is held against the references"


def test_what_the_words_of_the_shot_tell_of_has_a_reason():
    mark = Mark("a", Box(0, 0, 50, 90))
    for words, reason in (
        ("Pell flies a pink kite.", "the words of the shot name something pink"),
        ("Pell runs.", ""),
    ):
        shot = ShotState("s0", "1", words, frozenset("a"), None, (mark,))
        [told] = something_extra("a", "Pell", shot, mark, _one(PINK), ())
        assert told.reason == reason


def test_a_changed_trait_in_that_colour_says_it():
    pink, other = (SimpleNamespace(verdict="changed", seen=c) for c in (PINK, NIGHT))
    assert told_of(_one(PINK), traits=(pink,)) == []
    assert told_of(_one(PINK), traits=(other,)) != []


def test_what_was_let_stand_is_learned_by_its_colour():
    shot = ShotState("s0", "1", "", frozenset("a"), None)
    mark = Mark("a", Box(0, 0, 50, 90))
    [told] = something_extra("a", "Pell", shot, mark, _one(PINK), ())
    [asked] = something_extra("a", "Pell", shot, mark, _one(PINK, apart=0.14), ())
    assert held_by(told) == held_by(asked) == ("a", "extra:pink")


def test_the_ground_s_colours_are_those_outside_of_all_marks():
    page = np.full((60, 90, 3), (40, 120, 60), np.uint8)
    page[10:50, 20:40] = (200, 30, 30)
    assert len(surroundings(page, [Box(20, 10, 20, 40)])) == 1
    assert len(surroundings(page, [])) == 2
    assert surroundings(page, [Box(0, 0, 90, 60)]).shape == (0, 3)
