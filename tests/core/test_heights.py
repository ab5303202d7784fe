"""Whoever is suddenly larger or smaller beside somebody than in the other pictures is told, where both stand whole on one ground."""

from types import SimpleNamespace

import numpy as np
import pytest

from juxtaform.core.check.heights import unequal_heights
from juxtaform.core.check.measure import measure_picture
from juxtaform.core.check.sequence import check
from juxtaform.core.check.states import Mark, ShotPlan, ShotState
from juxtaform.core.figure.known import known_figure
from juxtaform.core.figure.traits import figure_model, reference_view
from juxtaform.core.findings import asks
from juxtaform.core.picture.regions import Box
from juxtaform.core.text.names import Named
from juxtaform.media.network import figure_eye, judges
from tests.constructed import random_look, random_pose, reference, scene

NAMES = {"a": "Ada", "b": "Bo", "c": "Cy"}
USUAL = {"a": 300.0, "b": 200.0, "c": 250.0}


def stands(thread, height, feet=560.0, **more):
    """A mark, and what was measured there, of somebody who stands so tall (px) with the feet there."""
    box = Box(10.0, feet - more.get("seen", height), 80.0, more.get("seen", height))
    share = SimpleNamespace(share=more.get("share", 0.8))
    return Mark(thread, box, more.get("hold", "figure")), SimpleNamespace(stature=height, identity=share)


def shot(i, figures, plan=None):
    marks, seen = zip(*figures, strict=True)
    picture = SimpleNamespace(appearances=seen, height=600)
    return ShotState(f"s{i}", str(i + 1), "", frozenset(NAMES), None, tuple(marks), picture, plan)


def row(*changed, who="ab", zooms=(1.0, 0.8, 1.1, 0.9, 1.0, 0.7)):
    """Six shots in which all stand as usual, near or far; `changed` are figures of the third one."""
    shots = []
    for i, zoom in enumerate(zooms):
        figures = {t: stands(t, zoom * USUAL[t] * (1 + 0.02 * (i % 3))) for t in who}
        if i == 2:
            figures |= {m.thread: (m, seen) for m, seen in changed}
        shots.append(shot(i, list(figures.values())))
    return shots


def told(shots, apart=()):
    return [(f.kind, f.shot, f.thread, f.title) for f in unequal_heights(shots, NAMES, apart)]


def test_whoever_is_far_too_large_is_told_and_somewhat_asked():
    assert told(row()) == []
    assert told(row(stands("b", 1.1 * 330))) == [("height", "s2", "b", "Bo is too large beside Ada")]
    assert told(row(stands("b", 1.1 * 130))) == [("height", "s2", "a", "Ada is too large beside Bo")]
    [asked] = unequal_heights(row(stands("b", 1.1 * 260)), NAMES)
    assert asks(asked)
    assert asked.title == "Is Bo too large beside Ada?"
    assert asked.severity < 1
    assert told(row(stands("b", 1.1 * 225))) == []


def test_the_finding_says_how_much_and_frames_both():
    [f] = unequal_heights(row(stands("b", 330.0)), NAMES)
    assert f.measured == pytest.approx(1.5, abs=0.1)
    tallest = 1.1 * 300 * 1.04
    assert f.unit == "× as tall as usual"
    assert f.region == pytest.approx(Box(10.0, 560 - tallest, 80.0, tallest))
    assert [(e.label, e.measured[-5:]) for e in f.evidence] == [
        ("Bo's height", "Ada's"),
        ("In 5 other pictures", "Ada's"),
    ]
    assert f.evidence[1].measured.startswith("0.67")


def test_of_three_it_is_whoever_is_off_beside_both_others():
    shots = row(stands("c", 1.1 * 480), who="abc")
    assert told(shots) == [("height", "s2", "c", "Cy is too large beside Ada")]
    shots = row(stands("c", 1.1 * 130), who="abc")
    assert [t[2] for t in told(shots)] == ["c"]


@pytest.mark.parametrize(
    "figure",
    [
        stands("b", 330.0, feet=480.0),
        stands("b", 330.0, feet=597.0),
        stands("b", 330.0, seen=180.0),
        stands("b", 330.0, seen=460.0),
        stands("b", 330.0, share=0.1),
        stands("b", 330.0, hold="face"),
        stands("b", None, seen=330.0),
    ],
    ids=["farther back", "cut off", "sits", "read badly", "hardly placed", "face alone", "not read"],
)
def test_who_does_not_stand_whole_on_the_same_ground_tells_nothing(figure):
    assert told(row(figure)) == []


def test_where_it_is_somebody_else_or_the_view_explains_it_nothing_is_told():
    shots = row(stands("b", 330.0))
    assert told(shots, {("s2", "b")}) == []
    shots[2] = shot(2, [stands("a", 330.0), stands("b", 330.0)], ShotPlan(angle="low"))
    assert told(shots) == []


def test_two_marks_of_one_are_nobodys_height():
    shots = row()
    shots[2] = shot(2, [stands("a", 300.0), stands("b", 330.0), stands("b", 200.0)])
    assert told(shots) == []


def test_who_has_no_usual_height_is_not_held_against_one():
    rng = np.random.default_rng(4)
    random = [shot(i, [stands("a", float(rng.uniform(150, 400))), stands("b", 200.0)]) for i in range(12)]
    assert told(random) == []
    assert told(row(stands("b", 330.0), zooms=(1.0, 0.8, 1.1))) == []


def test_few_heights_must_lie_nearer_to_each_other_than_many():
    loose = (0.94, 1.1, 1.06, 0.9, 1.0, 1.12, 0.93, 0.97, 1.05, 1.02, 0.91, 1.08)

    def beside(count):
        figures = [[stands("a", 200.0), stands("b", 200.0 * x)] for x in (*loose[:count], 1.7)]
        return told([shot(i, both) for i, both in enumerate(figures)])

    assert beside(4) == []
    assert [t[:3] for t in beside(12)] == [("height", "s12", "b")]


def test_in_a_long_story_it_is_the_same():
    shots = row(stands("b", 330.0), zooms=(1.0, 0.8, 1.1, 0.9) * 40)
    assert told(shots) == [("height", "s2", "b", "Bo is too large beside Ada")]


def test_in_pictures_the_one_who_has_grown_is_told_whatever_the_pose_and_the_distance():
    rng = np.random.default_rng(31)
    eye, looks = figure_eye(), [random_look(rng), random_look(rng)]
    known = []
    for name, look in zip("ab", looks, strict=True):
        views = [
            reference_view(reference(look), "front", eye=eye),
            reference_view(reference(look, random_pose(rng)), "walk", eye=eye),
        ]
        known.append(known_figure(figure_model(name, views), eye))
    shots = []
    for i, zoom in enumerate((0.7, 0.6, 0.6, 0.75, 0.55, 0.65)):
        pixels, boxes = scene(looks, rng, ground=i, scale=(zoom, zoom * (1.5 if i == 2 else 0.9)))
        measure = measure_picture(pixels, list(zip(boxes, known, strict=True)), known, None, eye)
        marks = tuple(Mark(n, box) for n, box in zip("ab", boxes, strict=True))
        shots.append(ShotState(f"s{i}", str(i + 1), "", frozenset("ab"), None, marks, measure))
    found = check(shots, [], [Named("a", "Ada"), Named("b", "Bo")], judges=judges()).findings
    assert [(f.kind, f.shot, f.title) for f in found] == [("height", "s2", "Bo is too large beside Ada")]
    assert found[0].measured == pytest.approx(1.5 / 0.9, rel=0.12)
