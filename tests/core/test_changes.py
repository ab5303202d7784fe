"""What about a figure changed along its thread: colours that no other picture shows, in its own costume, around it."""

from dataclasses import replace

import numpy as np
import pytest

from juxtaform.core.check.changes import BESIDE, COVERED, certainties, judged, trait_terms
from juxtaform.core.check.measure import PictureMeasure
from juxtaform.core.check.states import Mark, ShotState
from juxtaform.core.check.styles import away_from_style
from juxtaform.core.colour.light import SceneLight
from juxtaform.core.colour.spaces import linear_from_hex
from juxtaform.core.figure.appearance import Appearance
from juxtaform.core.figure.certainty import (
    LOWER_MOST,
    OTHERS_WEIGHT,
    USUAL,
    TraitJudge,
    beside_others,
)
from juxtaform.core.figure.known import Terms
from juxtaform.core.figure.parts import PartStep
from juxtaform.core.figure.reading import TraitReading
from juxtaform.core.figure.who import Identity
from juxtaform.core.figure.worn import Worn
from juxtaform.core.picture.regions import Box
from juxtaform.core.style.terms import NAMES, Signature

RED, VIOLET, BUFF = "#b03020", "#7a3fae", "#e9c9a4"
COUNT = 30
STRANGE_PART = 16


def terms_of(seen):
    return list(trait_terms(seen))


def wears(coat, apart):
    def colour(code, share, apart, parts):
        red, green, blue = (float(v) for v in linear_from_hex(code))
        return Worn((red, green, blue), share, apart, parts)

    return colour(coat, 0.6, apart, (0.6, 0.0)), colour(BUFF, 0.4, 0.0, (0.0, 0.4))


def appears(coat=RED, costume=("Coat", "Face")):
    """An appearance whose coat is of a colour, read as holding in any case."""
    seen = tuple(float(v) for v in linear_from_hex(coat))
    step = PartStep(step=0.02, hue=0.01, beyond=0.0, seen=seen, cells=200)
    traits = tuple(
        TraitReading(
            name=name,
            verdict="holds",
            expected=(code,),
            seen=code,
            difference=1.0,
            allowed=7.0,
            share_expected=0.5,
            share_seen=0.5,
            region=Box(0, 0, 10, 10),
            laid=step,
        )
        for name, code in zip(costume, (RED, BUFF), strict=True)
    )
    who = Identity(score=4.0, view=0, share=0.7, rivals={})
    terms = Terms(0.1, 0.1, 0.1)
    return Appearance(0.3, terms, SceneLight(), traits, "front", {}, who, wears(coat, 0.0 if coat == RED else 0.3))


@pytest.fixture
def judge():
    """One that goes by how much of a trait no other picture shows."""
    weights = np.zeros(COUNT)
    weights[STRANGE_PART] = 10.0
    return TraitJudge(np.zeros(COUNT), np.ones(COUNT), weights, -5.0)


def test_a_colour_that_no_other_picture_shows_is_told(judge):
    seen = [appears(), appears(), appears(VIOLET), appears()]
    told = judged(seen, judge)
    assert [t.verdict for own in told for t in own] == ["holds"] * 4 + ["changed", "holds"] + ["holds"] * 2
    coat = told[2][0]
    assert coat.seen == VIOLET
    assert coat.difference is not None
    assert coat.difference > 20
    assert coat.alone == 3


OUTLINE = "#080404"


@pytest.mark.parametrize(
    ("over", "told"), [(VIOLET, VIOLET), (RED, VIOLET), (None, OUTLINE)], ids=["laid", "worn", "read"]
)
def test_a_changed_part_is_told_in_the_colour_that_lies_in_its_place(judge, over, told):
    """The outline is black on every reference: where the coat is violet, black is not what it changed to."""
    changed = appears(VIOLET)
    coat = replace(changed.traits[0], verdict="changed", seen=OUTLINE, difference=40.0)
    laid = replace(coat.laid, seen=tuple(float(v) for v in linear_from_hex(over))) if over else None
    here = replace(changed, traits=(replace(coat, laid=laid), changed.traits[1]))
    assert judged([appears(), appears(), here], judge)[2][0].seen == told


def test_what_is_nowhere_stays_missing(judge):
    changed = appears(VIOLET)
    gone = replace(changed.traits[0], verdict="missing", seen=None, difference=None)
    here = replace(changed, traits=(gone, changed.traits[1]))
    assert judged([appears(), appears(), here], judge)[2][0].verdict == "missing"


def in_picture(name, saturation, *seen):
    values = tuple(saturation if term == "saturation" else 0.0 for term in NAMES)
    picture = PictureMeasure(100, 100, Signature(values), (), None, seen, ())
    return ShotState(name, name, "", frozenset(), None, (Mark("pell", Box(0, 0, 50, 50)),) * len(seen), picture)


def grey(seen, part):
    """The appearance with that part of its colour, and a cool tint."""

    def faded(linear):
        middle = sum(linear) / 3
        red, green, blue = (middle + part * (v - middle) for v in linear)
        return 0.6 * red, 0.8 * green, blue

    return replace(seen, worn=tuple(replace(w, linear=faded(w.linear)) for w in seen.worn))


@pytest.mark.parametrize(
    ("seen", "faded"),
    [(appears(), False), (appears(VIOLET), False), (grey(appears(), 0.1), True), (grey(appears(), 0.7), False)],
    ids=["on a grey ground", "recoloured on a grey ground", "grey itself", "paler"],
)
def test_a_picture_lost_its_colour_only_where_its_figures_did(seen, faded):
    shots = [in_picture(str(i), 3.0, appears()) for i in range(4)]
    away = away_from_style([], [*shots, in_picture("last", 0.5, seen)])
    assert away.faded == (frozenset({"last"}) if faded else frozenset())


@pytest.mark.parametrize(("beside", "faded"), [(None, False), (grey(appears(), 0.1), True), (appears(), False)])
def test_a_figure_without_colour_has_no_say_beside_one_that_has_some(beside, faded):
    stone = appears("#8a8a8a")
    grey_traits = tuple(replace(t, expected=("#8a8a8a",)) for t in stone.traits)
    stone = replace(stone, traits=grey_traits, worn=grey(stone, 0.0).worn)
    shots = [in_picture(str(i), 3.0, appears()) for i in range(4)]
    last = in_picture("last", 0.5, stone, *([beside] if beside else []))
    assert ("last" in away_from_style([], [*shots, last]).faded) == faded


def test_where_no_eye_looked_a_grey_picture_lost_its_colour():
    shots = [in_picture(str(i), 3.0, appears()) for i in range(4)]
    blind = replace(appears(), worn=(), identity=None)
    assert away_from_style([], [*shots, in_picture("last", 0.5, blind)]).faded == {"last"}


def test_what_another_picture_shows_too_is_strange_to_most_and_not_to_all(judge):
    seen = [appears(), appears(VIOLET), appears(VIOLET), appears(), appears()]
    terms = terms_of(seen)[1][0]
    assert terms.anywhere.part == 0
    assert terms.mostly.part == 1
    assert terms.mostly.beyond == 1


def test_in_a_picture_by_another_hand_a_change_must_be_more_certain(judge):
    sure = replace(judge, weights=judge.weights * 0.7)
    seen = [appears(), appears(), appears(VIOLET), appears()]
    assert [own[0].verdict for own in judged(seen, sure)][2] == "changed"
    assert [own[0].verdict for own in judged(seen, sure, {2})][2] == "holds"


def test_another_costume_says_nothing_of_this_one(judge):
    night = [appears(VIOLET, ("Night coat", "Face")) for _ in range(3)]
    coats = [appears(), appears(VIOLET), appears()]
    assert terms_of([*night, *coats])[4][0].anywhere.part == 1


@pytest.mark.parametrize(
    ("share", "over", "less"),
    [(0.02, BUFF, COVERED), (0.02, VIOLET, 0.0), (0.02, RED, 0.0), (0.3, BUFF, 0.0)],
    ids=["covered", "in a new colour", "as it is", "large"],
)
def test_a_small_part_over_which_an_own_colour_lies_is_covered(judge, share, over, less):
    plain = appears()
    seen = tuple(float(v) for v in linear_from_hex(over))
    mouth = replace(plain.traits[0], share_expected=share, verdict="changed")
    worn = replace(plain, traits=(mouth, plain.traits[1]))
    held = certainties([worn], judge)[0][0]
    laid = replace(mouth, laid=replace(mouth.laid, seen=seen))
    assert certainties([replace(worn, traits=(laid, plain.traits[1]))], judge)[0][0] == pytest.approx(held - less)
    gone = replace(laid, verdict="missing", seen=None)
    assert certainties([replace(worn, traits=(gone, plain.traits[1]))], judge)[0][0] == pytest.approx(held)


def test_pictures_far_along_the_thread_say_nothing(judge):
    seen = [appears(VIOLET), *(appears() for _ in range(BESIDE)), appears(VIOLET)]
    assert terms_of(seen)[-1][0].anywhere.part == 1
    assert terms_of(seen[2:])[-1][0].anywhere.part == 1
    assert terms_of([appears(VIOLET), *seen[2:]])[-1][0].anywhere.part == 0


def test_without_a_judge_or_an_eye_the_verdicts_stand_as_they_were_read(judge):
    seen = [appears(), appears(VIOLET), appears()]
    assert judged(seen, None) == [a.traits for a in seen]
    blind = [replace(a, identity=None) for a in seen]
    assert judged(blind, judge) == [a.traits for a in blind]


def test_a_thread_of_one_picture_is_held_against_its_references_alone(judge):
    assert certainties([appears()], judge)[0][0] < 0 < certainties([appears(VIOLET)], judge)[0][0]
    assert judged([appears(VIOLET)], judge)[0][0].alone == 0
    assert judged([], judge) == []


@pytest.mark.parametrize("count", [1, 2, 3, 8, 9])
def test_what_the_others_show_is_taken_out_of_each(count):
    values = np.random.default_rng(count).normal(size=count) * 4
    others = [np.delete(values, i) for i in range(count)]
    middle = np.array([np.median(o) if len(o) else USUAL for o in others])
    expected = values - (count - 1) / (count - 1 + OTHERS_WEIGHT) * np.maximum(-LOWER_MOST, middle - USUAL)
    assert np.allclose(beside_others(values), expected)
