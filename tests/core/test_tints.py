"""A tint that creeps in from picture to picture is told; an evening, a lamp that is lit and whatever the plan explains are not, or with their reason."""

from types import SimpleNamespace

import numpy as np
import pytest

from juxtaform.core.check.measure import measure_picture
from juxtaform.core.check.sequence import check
from juxtaform.core.check.states import Mark, ShotPlan, ShotState, StyleHome
from juxtaform.core.check.styles import style_thread, unnamed_style
from juxtaform.core.check.tints import creeping_tint, lights, tint_findings
from juxtaform.core.colour.light import SceneLight
from juxtaform.core.findings import asks
from juxtaform.core.review.causes import grouped
from juxtaform.core.style.drift import Change
from juxtaform.core.text.names import Named
from juxtaform.media.network import hand_eye
from tests.constructed import model_of, random_look, scene

HOME = StyleHome("style", "Cut paper")
WARM, GREEN = np.array([0.5, 0.0, -0.5]), np.array([-1 / 3, 2 / 3, -1 / 3])
STEADY, GROWING = [0.02, -0.02, 0.0, 0.01, 0.0], [0.2, 0.4, 0.6, 0.8, 1.0]


def row(tint, way=WARM, stops=None, plans=None):
    """Shots whose figures stand in light so many stops along a tint, and so many stops brighter; None is a picture without figures."""
    found = []
    for i, much in enumerate(tint):
        gain = np.exp2(much * way + (stops[i] if stops else 0.0)) if much is not None else None
        seen = [SimpleNamespace(light=SceneLight(tuple(gain)))] if gain is not None else []
        plan = plans[i] if plans else None
        found.append(
            ShotState(
                f"s{i}", str(i + 1), "", frozenset(), "style", (), SimpleNamespace(appearances=seen, hand=()), plan
            )
        )
    return found


def told(run, others=()):
    return [(f.kind, f.shot, f.until, f.title) for f in tint_findings(HOME, run, others)]


@pytest.mark.parametrize(("way", "word"), [(WARM, "warmer"), (-WARM, "cooler"), (GREEN, "greener"), (-GREEN, "pinker")])
def test_a_tint_that_grows_is_told_from_where_it_begins_and_by_its_colour(way, word):
    run = row([*STEADY, *GROWING], way)
    assert told(run) == [("style_slide", "s5", "s9", f"Style slides from shot 6: the colours turn {word}")]
    [finding] = tint_findings(HOME, run, ())
    assert (finding.back_to, finding.unit) == ("s4", "stops")
    assert finding.measured == pytest.approx(1.0 if word in ("warmer", "greener") else -1.0, abs=0.05)
    assert "shot 5" in finding.advice


def test_a_little_of_it_is_asked_and_less_is_nothing():
    [asked] = tint_findings(HOME, row([*STEADY, 0.06, 0.12, 0.18, 0.24, 0.28]), ())
    assert asks(asked)
    assert asked.title == "Do the colours turn warmer from shot 6 on?"
    assert asked.severity < 1
    assert told(row([*STEADY, 0.03, 0.06, 0.09, 0.12, 0.15])) == []


@pytest.mark.parametrize(
    "tint",
    [
        [*STEADY, *STEADY],
        [*STEADY, 0.6, 0.62, 0.6, 0.58, 0.6],
        [*STEADY, 0.1, 0.1, 0.9, 0.95, 1.0],
        [*STEADY, 0.2, 0.4, 0.6, 0.0, 0.0],
        [0.6, 0.0, 0.6, 0.6, 0.0, 0.2, 0.4, 0.0, 0.6, 0.8],
        [0.0, 0.4, 0.8],
        [None] * 8,
    ],
    ids=["steady", "a lamp", "a lamp, later", "it goes again", "any light", "too few", "nobody"],
)
def test_other_lights_are_none(tint):
    assert creeping_tint(lights(row(tint))) is None


def test_an_evening_is_darker_too():
    tint, dusk = [*STEADY, *GROWING], [*[0.0] * 5, -0.2, -0.4, -0.5, -0.7, -0.8]
    assert creeping_tint(lights(row(tint, stops=dusk))) is None
    assert creeping_tint(lights(row(tint, stops=[0.25 * x for x in dusk]))) is not None


def test_pictures_without_figures_tell_nothing_and_are_counted():
    assert told(row([0.0, None, *STEADY, None, *GROWING, None])) == [
        ("style_slide", "s8", "s13", "Style slides from shot 9: the colours turn warmer")
    ]


def test_a_scene_may_have_its_own_and_the_next_one_begins_anew():
    scenes = [ShotPlan(scene=x) for x in "a" * 10 + "b" * 10]
    run = row([*STEADY, *GROWING, *STEADY, *STEADY], plans=scenes)
    assert told(run) == [("style_slide", "s5", "s9", "Style slides from shot 6: the colours turn warmer")]
    both = row([*STEADY, *GROWING, *STEADY, *GROWING], plans=scenes)
    assert [t[1:3] for t in told(both)] == [("s5", "s9"), ("s15", "s19")]


def test_through_two_scenes_it_is_told_once():
    scenes = [ShotPlan(scene=x) for x in "a" * 6 + "b" * 6]
    run = row([*STEADY, 0.15, 0.3, 0.45, 0.6, 0.75, 0.9, 1.05], plans=scenes)
    assert [t[1:3] for t in told(run)] == [("s5", "s11")]


@pytest.mark.parametrize(
    ("plan", "said"),
    [
        (ShotPlan(time="dusk"), "the time of shot 8 is dusk"),
        (ShotPlan(places=(("quay", "Evening"),)), "the variant of shot 8 is Evening"),
        (ShotPlan(), ""),
    ],
)
def test_what_the_plan_says_is_the_reason(plan, said):
    plans = [*[ShotPlan(places=(("quay", ""),))] * 7, *[plan] * 3]
    [finding] = tint_findings(HOME, row([*STEADY, *GROWING], plans=plans), ())
    assert finding.reason == said
    assert (finding.evidence[0].label == "The plan says") == bool(said)


def test_where_another_change_is_told_near_the_tint_is_not():
    run = row([*STEADY, *GROWING])
    assert told(run, [Change("step", 6, 10, 1.0)]) == []
    assert len(told(run, [Change("step", 1, 2, 1.0)])) == 1


def test_a_question_and_what_is_told_of_tints_are_one_cause():
    [sure] = tint_findings(HOME, row([*STEADY, *GROWING]), ())
    [asked] = tint_findings(HOME, row([*STEADY, 0.06, 0.12, 0.18, 0.24, 0.28]), ())
    [group] = grouped([sure, asked], {}, {})
    assert len(group.findings) == 2


@pytest.fixture(scope="module")
def pictures():
    """Ten pictures of one figure in one light, as a tint creeps into the last five of them, and without it."""
    rng = np.random.default_rng(5)
    look = random_look(rng)
    known, drawn = model_of(look, rng, "a"), []
    for i in range(10):
        drawn.append(scene([look], rng, (1.0, 1.0, 1.0), ground=i, scale=0.9))

    def tinted(most):
        found = []
        for i, (pixels, boxes) in enumerate(drawn):
            much = most * max(0, i - 4) / 5
            linear = (pixels / 255.0) ** 2.2 * np.exp2(much * np.array([0.0, -0.15, -1.0]))
            page = np.rint(255 * linear ** (1 / 2.2)).astype(np.uint8)
            measure = measure_picture(page, [(boxes[0], known)], [known], None, None, hand_eye())
            found.append(ShotState(f"s{i}", str(i + 1), "", frozenset("a"), "style", (Mark("a", boxes[0]),), measure))
        return found

    return tinted(0.8), tinted(0.0)


def test_pictures_that_turn_yellow_are_told_along_their_style_and_nothing_of_the_figure_is(pictures):
    shots, clean = pictures
    result = check(shots, [HOME], [Named("a", "Ada")])
    assert [(f.kind, f.thread, f.shot) for f in result.findings] == [("style_slide", "style", "s5")]
    assert [p.verdict for p in result.threads["style"].style] == ["holds"] * 5 + ["drifts"] * 5
    assert check(clean, [HOME], [Named("a", "Ada")]).findings == ()


def test_where_nobody_named_a_style_it_lies_on_no_thread(pictures):
    shots, _ = pictures
    assert [(f.kind, f.thread) for f in unnamed_style(shots)[1]] == [("style_slide", None)]
    assert style_thread(HOME, shots)[0].begins is None
