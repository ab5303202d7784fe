"""Cuts: two neighbours in one scene that do not go together are told, each with the plan's own reason."""

from dataclasses import replace

import numpy as np
import pytest

from juxtaform.core.check.cuts import cut_findings
from juxtaform.core.check.measure import measure_picture
from juxtaform.core.check.states import Mark, ShotPlan, ShotState
from juxtaform.core.figure.known import known_figure
from juxtaform.core.figure.traits import figure_model, reference_view
from juxtaform.core.figure.who import Evidence as SeenOver
from juxtaform.core.figure.who import Identity
from juxtaform.core.picture.glance import Glance, alike, glance
from juxtaform.core.picture.regions import Box
from juxtaform.core.review.weight import weight
from juxtaform.demo.paper import lit
from juxtaform.media.network import hand_eye
from tests.constructed import ground_picture, random_look, reference, repainted

NAMES = {"a": "Ada", "b": "Bo"}


@pytest.fixture(scope="module")
def somebody():
    look = random_look(np.random.default_rng(3))
    return known_figure(figure_model("a", [reference_view(reference(look), "front")]))


@pytest.fixture(scope="module")
def pages():
    return [ground_picture(g, "paper") for g in (0, 2)]


@pytest.fixture
def shot(somebody):
    def made(i, picture, boxes, **plan):
        given = {"scene": "one", "size": "MS", "length_s": 4.0, "places": (("here", ""),), **plan}
        marks = tuple(Mark(name, box) for name, box in boxes.items())
        measure = measure_picture(picture, [(m.box, somebody) for m in marks], None, None, None, hand_eye())
        return ShotState(f"s{i}", str(i + 1), "", frozenset(boxes), None, marks, measure, ShotPlan(**given))

    return made


def at(x, height):
    return Box(x * 900 - height * 150, 590 - height * 600, height * 300, height * 600)


def kinds(*shots, apart=()):
    return [f.kind for f in cut_findings(shots, NAMES, apart)]


def test_neighbours_that_go_together_are_silent(shot, pages):
    assert (
        kinds(shot(0, pages[0], {"a": at(0.3, 0.5)}), shot(1, pages[1], {"a": at(0.4, 0.9)}, places=(("there", ""),)))
        == []
    )


def test_a_leap_in_size_is_told_between_its_two_shots(shot, pages):
    [found] = cut_findings([shot(0, pages[0], {"a": at(0.4, 0.95)}), shot(1, pages[1], {"a": at(0.4, 0.2)})], NAMES)
    assert (found.kind, found.before, found.shot) == ("size_leap", "s0", "s1")
    assert found.title == "Ada is suddenly smaller: a leap in size from shot 1 to 2"


def test_what_the_plan_has_a_reason_for_ranks_lower_and_says_it(shot, pages):
    boxes = [{"a": at(0.4, 0.95)}, {"a": at(0.4, 0.2)}]
    [plain] = cut_findings([shot(0, pages[0], boxes[0]), shot(1, pages[1], boxes[1])], NAMES)
    [meant] = cut_findings([shot(0, pages[0], boxes[0], size="CU"), shot(1, pages[1], boxes[1], size="EWS")], NAMES)
    assert (plain.reason, meant.reason) == ("", "CU, then EWS")
    assert meant.evidence[-1].measured == "CU, then EWS"
    assert meant.severity == plain.severity  # how far off it is stays as it is: decisions learn from that
    assert weight(meant, None) < weight(plain, None)


def test_the_line_is_crossed_where_two_change_sides(shot, pages):
    first = {"a": at(0.3, 0.5), "b": at(0.6, 0.5)}
    second = {"a": at(0.7, 0.6), "b": at(0.4, 0.6)}
    [found] = cut_findings([shot(0, pages[0], first), shot(1, pages[1], second)], NAMES)
    assert (found.kind, found.title) == ("line_crossed", "Ada and Bo change sides from shot 1 to 2")
    assert kinds(shot(0, pages[0], first), shot(1, pages[1], {"a": at(0.2, 0.6), "b": at(0.8, 0.6)})) == []


def test_who_looks_the_other_way_crosses_the_line_too(shot, pages):
    boxes = {"a": at(0.4, 0.5)}
    one, two = (shot(i, pages[i], boxes, facings={"a": f}) for i, f in enumerate(("left", "right")))
    assert kinds(one, two) == ["line_crossed"]
    assert kinds(one, shot(1, pages[1], boxes, facings={"a": "camera"})) == []


def test_one_figure_that_leaps_across_is_told(shot, pages):
    assert kinds(shot(0, pages[0], {"a": at(0.15, 0.5)}), shot(1, pages[1], {"a": at(0.8, 0.5)})) == ["side_leap"]


def test_light_that_jumps_on_the_same_ground_is_told_with_its_stops(shot, pages):
    darker = lit(pages[0], (0.33, 0.33, 0.33))
    box = {"a": at(0.3, 0.5)}
    [found] = cut_findings([shot(0, pages[0], box), shot(1, darker, {"a": at(0.6, 0.7)})], NAMES)
    assert found.kind == "light_leap"
    assert found.title.endswith("darker")
    assert found.measured == pytest.approx(1.6, abs=0.15)


def test_light_is_not_compared_across_a_step_in_time_or_in_pictures_that_fade(shot, pages):
    darker = lit(pages[0], (0.33, 0.33, 0.33))
    one, other = shot(0, pages[0], {"a": at(0.3, 0.5)}), shot(1, darker, {"a": at(0.6, 0.7)})
    assert kinds(one, replace(other, plan=replace(other.plan, time="night"))) == []
    assert kinds(one, other, apart={"s1"}) == []


@pytest.mark.parametrize(("by", "how"), [(0.3, "greyer"), (2.4, "more colourful"), (np.exp(1.1j), "other hues")])
def test_a_palette_that_jumps_on_the_same_ground_is_told(shot, pages, by, how):
    one, other = shot(0, pages[0], {"a": at(0.3, 0.5)}), shot(1, repainted(pages[0], by), {"a": at(0.6, 0.7)})
    [found] = [f for f in cut_findings([one, other], NAMES) if f.kind != "stutter"]
    assert found.kind == "palette_leap"
    assert found.title == f"The colours jump from shot 1 to 2: {how}"
    much, hues, _ = (row.measured for row in found.evidence)
    assert how == "other hues" or much.endswith("% of it" if how == "greyer" else "times as much")
    assert hues == ("others" if how == "other hues" else "the same")
    assert kinds(one, replace(other, plan=replace(other.plan, time="night"))) == []


def test_a_light_of_another_colour_is_another_light_and_no_other_palette(shot, pages):
    warmer = lit(pages[0], (1.3, 1.0, 0.6))
    one, other = shot(0, pages[0], {"a": at(0.3, 0.5)}), shot(1, warmer, {"a": at(0.6, 0.7)})
    assert kinds(one, other) == ["light_leap"]
    assert kinds(one, shot(1, repainted(pages[0], 0.9), {"a": at(0.6, 0.7)})) == []


def test_two_pictures_that_are_nearly_one_stutter(shot, pages):
    moved = np.roll(pages[0], 4, axis=1)
    one = shot(0, pages[0], {"a": at(0.4, 0.5)})
    assert kinds(one, shot(1, moved, {"a": at(0.404, 0.5)})) == ["stutter"]
    assert kinds(one, shot(1, moved, {"a": at(0.7, 0.5)})) == []
    greened = lit(moved, (0.5, 1.0, 0.5))
    assert "stutter" not in kinds(one, shot(1, greened, {"a": at(0.404, 0.5)}))


def test_a_jolt_of_lengths_is_told(shot, pages):
    box = {"a": at(0.4, 0.5)}
    assert kinds(shot(0, pages[0], box, length_s=12.0), shot(1, pages[1], box, length_s=1.5)) == ["rhythm"]
    assert kinds(shot(0, pages[0], box, length_s=20.0), shot(1, pages[1], box, length_s=3.5)) == []


def test_nothing_is_told_across_scenes(shot, pages):
    one = shot(0, pages[0], {"a": at(0.4, 0.95)})
    assert kinds(one, shot(1, pages[1], {"a": at(0.4, 0.2)}, scene="two", length_s=30.0)) == []


def test_a_glance_is_kept_as_text(pages):
    seen = glance(pages[0])
    assert np.array_equal(Glance.of(seen.written()).luma, seen.luma)
    assert alike(seen, seen) == pytest.approx(1.0)
    assert alike(seen, glance(pages[1])) < 0.9


def laid(shot, mirrored, reference="side", share=0.6):
    """The shot with its figure laid over a reference, upright or mirrored."""
    seen = shot.picture.appearances[0]
    evidence = SeenOver((None,), (1.0, 0.0, 0.0, 0.0, 1.0, 0.0), mirrored)
    who = Identity(3.0, 0, share, {}, reference, evidence=evidence)
    return replace(shot, picture=replace(shot.picture, appearances=(replace(seen, identity=who),)))


def test_who_lies_over_a_side_view_mirrored_in_one_picture_alone_has_turned(shot, pages):
    boxes = {"a": at(0.4, 0.5)}
    one, two = (shot(i, pages[i], boxes, places=((f"p{i}", ""),)) for i in range(2))

    def told(first, then):
        return [f.title for f in cut_findings([first, then], NAMES, (), {"side"})]

    assert told(laid(one, False), laid(two, True)) == ["Ada looks the other way from shot 1 to 2"]
    assert told(laid(one, True), laid(two, True)) == []
    assert told(laid(one, False), laid(two, True, share=0.1)) == []
    assert told(laid(one, False, "front"), laid(two, True, "front")) == []
