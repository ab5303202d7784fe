"""Tolerances learned from decisions, and findings in the order in which they are worth looking at."""

from dataclasses import replace

import pytest

from juxtaform.core.check.figures import narrowed
from juxtaform.core.check.learned import LEAST, MOST, Band, Lesson, learned, term_of, within
from juxtaform.core.check.states import FigurePoint, Mark, ShotState, ThreadState
from juxtaform.core.colour.light import SceneLight
from juxtaform.core.figure.appearance import Appearance
from juxtaform.core.figure.known import Terms
from juxtaform.core.figure.reading import TraitReading
from juxtaform.core.findings import Finding, asks
from juxtaform.core.picture.regions import Box
from juxtaform.core.review.causes import ShotFacts, grouped
from juxtaform.core.review.weight import weight

HAT = ("ada", "trait_changed:Hat")


TRAIT = TraitReading("Hat", "holds", ("#c8322b",), "#b83a2b", 0.0, 7.0, 0.1, 0.1, Box(0, 0, 10, 10))
SHOT = ShotState("1", "1", "", frozenset({"ada"}), None)


def thread(trait, hold="figure"):
    """Ada along one shot, with one trait read."""
    seen = Appearance(0.2, Terms(0, 0, 0), SceneLight(), (trait,), "front", {})
    return ThreadState("ada", figures=(FigurePoint("1", Mark("ada", Box(0, 0, 50, 90), hold), seen, "holds", 0.2),))


def found(kind="trait_changed", shot="1", key="", **more):
    more = {"thread": "ada", "trait": "Hat", **more}
    return Finding(source="check", kind=kind, title=kind, advice="", shot=shot, key=key or f"{kind} {shot}", **more)


def band(*departures, refused=()):
    lessons = [Lesson(HAT, d, True) for d in departures] + [Lesson(HAT, d, False) for d in refused]
    return learned(lessons)[HAT]


def test_one_decision_moves_a_band_a_little_and_six_as_far_as_they_went():
    one, six = band(2.0), band(*[2.0] * 6)
    assert 1.0 < one.times < six.times
    assert six.times == pytest.approx(2.1, abs=0.25)


def test_one_picture_that_is_let_stand_far_off_is_an_exception():
    assert band(3.55).times < 1.25
    assert band(*[3.55] * 6).times > 2.5


def test_marks_hold_a_band_where_they_lie():
    assert band(*[2.0] * 6, refused=[1.5] * 6).times < band(*[2.0] * 6).times
    assert band(refused=[0.8] * 6).times < 0.85


def test_a_band_never_moves_beyond_its_ends():
    assert band(*[50.0] * 40).times <= MOST
    assert band(refused=[0.05] * 40).times >= LEAST


def test_what_is_within_a_learned_band_is_put_aside_and_not_forgotten():
    near, far = found(severity=1.4), found(shot="2", severity=3.0)
    told, inside = within([near, far], {HAT: Band(1.8, 5, 0)})
    assert (told, inside) == ([far], [near])


def test_no_swap_of_a_person_is_ever_learned():
    for kind in ("figure_swapped", "figure_stranger", "another_place", "unplanned", "twice", "costume", "lettering"):
        one = found(kind, severity=1.01)
        assert term_of(one) is None
        assert within([one], {("ada", f"{kind}:Hat"): Band(3.0, 9, 0)}) == ([one], [])


@pytest.mark.parametrize("kind", ["proportion", "height"])
def test_where_far_off_proportions_are_let_stand_nearer_ones_are_not_asked_about(kind):
    told, asked = found(kind, trait="", severity=1.7), found(f"{kind}_doubtful", trait="", severity=0.6)
    assert term_of(asked) is None
    bands = learned([Lesson(term_of(told), 1.8, True)] * 5)
    assert within([told, asked], bands) == ([], [told, asked])
    assert within([told, asked], {term_of(told): Band(1.2, 2, 0)}) == ([told, asked], [])
    assert within([replace(asked, thread="bo")], bands)[1] == []


def test_what_is_beyond_a_narrower_band_is_told_with_why():
    hold = replace(TRAIT, difference=5.0)
    state, shots = thread(hold), {"1": SHOT}
    assert narrowed(state, "Ada", shots, {}, {"Hat": 0.8}) == []
    [one] = narrowed(state, "Ada", shots, {}, {"Hat": 0.6})
    assert (one.kind, one.trait, round(one.severity, 2)) == ("trait_changed", "Hat", 0.71)
    assert one.evidence[-1].label == "Your marks"
    assert within([one], {("ada", "trait_changed:Hat"): Band(0.6, 0, 4)})[0] == [one]


def test_what_is_told_anyway_or_cannot_be_told_is_not_told_again():
    for verdict in ("changed", "missing", "not_seen"):
        assert (
            narrowed(thread(replace(TRAIT, difference=5.0, verdict=verdict)), "Ada", {"1": SHOT}, {}, {"Hat": 0.6})
            == []
        )
    of_face = thread(replace(TRAIT, difference=5.0), hold="face")
    assert narrowed(of_face, "Ada", {"1": SHOT}, {("ada", "Hat"): "outfit"}, {"Hat": 0.6}) == []


def test_a_band_is_said_in_words():
    assert Band(2.04, 6, 0).words("Ada’s hat") == "After 6 accepted, Ada’s hat may vary twice as much."
    assert Band(0.7, 0, 3).words("the hand") == "After 3 marked as wrong, the hand may vary less than before."
    assert Band(1.0, 2, 1).words("it") == "After 2 accepted and 1 marked as wrong, it may vary as before."


def test_what_readers_see_first_weighs_most():
    size = (900.0, 600.0)
    stranger = weight(found("figure_stranger", severity=1.5, region=Box(0, 0, 200, 500)), size)
    hat = weight(found(severity=2.0, region=Box(0, 0, 60, 40)), size)
    coat = weight(found(severity=2.0, region=Box(0, 0, 200, 300)), size)
    asked = weight(found("figure_doubtful", severity=0.6), size)
    assert stranger > coat > hat > asked
    assert weight(found("style_step", severity=1.2), size, 12) > weight(found("style_step", severity=1.2), size, 2)


def facts(**shots):
    return {k: ShotFacts(**v) for k, v in shots.items()}


def test_findings_of_one_kind_are_told_with_the_reference_that_only_they_share():
    at = {f"s{i}": ShotFacts("one", frozenset({"old"} if i in (2, 4, 6) else {"new"})) for i in range(8)}
    own = [found(shot=s) for s in ("s2", "s4", "s6")]
    [group] = grouped(own, {f.key: 1.0 for f in own}, at)
    assert (group.cause, group.about, group.shared, group.elsewhere) == ("reference", "old", 3, 0)
    assert group.weight == pytest.approx(1.5)


def test_a_service_or_a_scene_may_be_what_they_share():
    by_service = {f"s{i}": ShotFacts("one", service="Press" if i < 3 else "Desk") for i in range(9)}
    own = [found("compressed", f"s{i}", thread=None, trait="") for i in range(3)]
    [group] = grouped(own, {}, by_service)
    assert (group.cause, group.about) == ("service", "Press")
    by_scene = {f"s{i}": ShotFacts("night" if i < 3 else "day") for i in range(9)}
    assert grouped(own, {}, by_scene)[0].cause == "scene"


def test_what_all_pictures_share_is_no_cause():
    at = {f"s{i}": ShotFacts("one", frozenset({"r"}), "Press") for i in range(6)}
    own = [found(shot=s) for s in ("s1", "s3")]
    assert grouped(own, {}, at)[0].cause == "thread"


def test_what_is_left_is_grouped_by_its_picture():
    own = [
        found("border", "s1", thread=None, trait=""),
        found("lettering", "s1", thread=None, trait=""),
        found("soft", "s2", thread=None, trait=""),
    ]
    groups = grouped(own, {f.key: w for f, w in zip(own, (1.0, 3.0, 2.0), strict=True)}, {})
    assert [(g.cause, [f.kind for f in g.findings]) for g in groups] == [
        ("picture", ["lettering", "border"]),
        ("alone", ["soft"]),
    ]


def test_questions_are_told_by_their_kind_everywhere_alike():
    assert [asks(found(k)) for k in ("figure_doubtful", "place_doubtful", "twice_doubtful", "twice", "border")] == [
        True,
        True,
        True,
        False,
        False,
    ]
