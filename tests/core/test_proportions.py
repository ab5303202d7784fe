"""A head that is too large for its body, and a figure that is drawn longer or wider, are told; other poses, lights and sizes are not."""

from dataclasses import replace
from types import SimpleNamespace

import cv2
import numpy as np
import pytest

from juxtaform.core.check.measure import measure_picture
from juxtaform.core.check.proportions import out_of_proportion
from juxtaform.core.check.sequence import check
from juxtaform.core.check.states import Mark, ShotPlan, ShotState
from juxtaform.core.figure.known import known_figure
from juxtaform.core.figure.match import match
from juxtaform.core.figure.proportion import Proportion, proportion
from juxtaform.core.figure.sheet import look_of
from juxtaform.core.figure.traits import figure_model, reference_view
from juxtaform.core.picture.regions import Box
from juxtaform.core.text.names import Named
from juxtaform.media.network import figure_eye, judges
from tests.constructed import LIGHTS, random_look, random_pose, reference, scene


@pytest.fixture(scope="module")
def look():
    return random_look(np.random.default_rng(21))


def read(look, page):
    eye = figure_eye()
    ours = look_of(eye.trunk, reference(look))
    found = match(eye, ours, look_of(eye.trunk, page, mirror=True))
    return proportion(ours.upright, *found.maps[:2], found.inside)


def test_proportions_are_read_part_by_part(look):
    page = reference(look, random_pose(np.random.default_rng(4)))
    right, large, small = (
        read(look, reference(replace(look, head=x), random_pose(np.random.default_rng(4)))) for x in (1, 1.4, 0.7)
    )
    assert abs(right.upper) < 0.1 > abs(right.tall)
    assert 0.3 < large.upper < 0.65
    assert -0.7 < small.upper < -0.25
    h, w = page.shape[:2]
    assert read(look, cv2.resize(page, (w, int(1.35 * h)))).tall > 0.12
    assert read(look, cv2.resize(page, (int(1.35 * w), h))).tall < -0.12


def test_where_nothing_goes_together_no_proportion_is_told(look):
    eye = figure_eye()
    ours = look_of(eye.trunk, reference(look)).upright
    third, fourth, _ = (np.zeros_like(m) for m in ours.maps)
    assert proportion(ours, third, fourth, ours.inside) is None


def along(*values, what="upper", hold="figure", angle=""):
    here = [
        (
            ShotState(f"s{i}", str(i + 1), "", frozenset("a"), None, plan=ShotPlan(angle=angle)),
            Mark("a", Box(10, 20, 100, 200), hold),
            SimpleNamespace(proportion=None if v is None else Proportion(**{what: v})),
        )
        for i, v in enumerate(values)
    ]
    return [f for found in out_of_proportion("a", "Pell", here) for f in found]


def test_one_picture_beside_the_others_is_told_with_how_much():
    [large] = along(0.02, -0.01, 0.4, 0.03, None, 0.0)
    assert (large.kind, large.shot, large.title) == ("proportion", "s2", "Pell's upper part is too large for the rest")
    assert large.measured == pytest.approx(2**0.4, rel=0.01)
    assert large.severity > 1.5
    assert (large.region.h, large.reason) == (80, "")
    [wide] = along(0.0, 0.0, 0.05, -0.5, what="tall")
    assert wide.title == "Pell is drawn shorter and wider than on the references"
    assert along(0.0, 0.1, -0.1, 0.15) == []
    [asked] = along(0.0, 0.02, -0.01, -0.27)
    assert (asked.kind, asked.title) == ("proportion_doubtful", "Is Pell's upper part too small for the rest?")
    assert asked.severity < 1
    assert along(0.0, 0.0, 0.5, hold="face") == []
    [meant] = along(0.0, 0.0, 0.5, angle="high")
    assert meant.reason == "the angle is high"
    assert ("The plan says", meant.reason) in [(e.label, e.measured) for e in meant.evidence]


def test_what_all_pictures_of_a_thread_show_is_usual_and_a_restless_thread_tells_less():
    assert along(0.35, 0.36, 0.34, 0.37, 0.35) == []
    assert [f.shot for f in along(0.35, 0.36, 0.34, 0.37, 0.0)] == ["s4"]
    assert along(0.15, -0.15, 0.12, -0.14, 0.35) == []
    assert [f.shot for f in along(0.4)] == ["s0"]
    assert along(0.3) == [], "one picture alone must be further off"
    assert along(0.5, None, None, None, 0.0) == [], "most of these cannot be read"
    assert along() == []


@pytest.mark.parametrize(("head", "title"), [(1.45, "too large"), (0.68, "too small"), (1.0, "")])
def test_a_head_of_another_size_is_one_finding_in_the_check(look, head, title):
    rng, eye = np.random.default_rng(6), figure_eye()
    pages = (reference(look), reference(look, random_pose(rng)))
    known = known_figure(figure_model("a", [reference_view(p, f"{i}", eye=eye) for i, p in enumerate(pages)]), eye)
    shots = []
    for i in range(5):
        picture, [box] = scene(
            [replace(look, head=head if i == 3 else 1.0)], rng, LIGHTS[i % 5], ground=i * 3 % 8, scale=0.85
        )
        if i == 3 and head > 1:
            box = replace(box, y=box.y - 0.17 * box.h, h=1.17 * box.h)
        measure = measure_picture(picture, [(box, known)], [known], None, eye)
        shots.append(ShotState(f"s{i}", str(i + 1), "", frozenset("a"), None, (Mark("a", box),), measure))
    told = check(shots, [], [Named("a", "A")], judges=judges()).findings
    assert [(f.kind, f.shot) for f in told] == [("proportion", "s3")] * bool(title)
    assert all(title in f.title for f in told)
