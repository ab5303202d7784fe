"""Bridges: the shot between is framed as the grammar of the plan has it, whatever the two shots are."""

from itertools import product

import numpy as np
import pytest

from juxtaform.core.brief.compose import BriefShot, Picture, composed
from juxtaform.core.brief.trimming import Profile, fitted
from juxtaform.core.plan.bridges import Around, bridge
from juxtaform.core.plan.grammar import PlanShot, findings_of_scene
from juxtaform.core.plan.shots import SIZES

NAMES = {"ada": "Ada", "bo": "Bo", "quay": "The quay", "key": "The tide key"}


def shot(key, size, cast=("ada",), facings=None, **more):
    return PlanShot(key, "s", size, 3.0, "", cast, ("quay",), facings=facings or {}, **more)


def made(a, b, *causes, **more):
    scene = [shot("0", "WS"), a, b]  # it is seen already where the scene is
    return bridge(Around(a, b, scene, **more), causes, NAMES)


@pytest.mark.parametrize(
    ("wide", "close"), [(a, b) for a, b in product(SIZES, SIZES) if abs(SIZES.index(a) - SIZES.index(b)) >= 3]
)
def test_a_leap_in_size_is_parted_by_a_size_that_lies_between(wide, close):
    found = made(shot("1", wide), shot("2", close), "size")
    at, ends = SIZES.index(found.size), sorted(SIZES.index(x) for x in (wide, close))
    assert ends[0] < at < ends[1]
    assert abs((at - ends[0]) - (ends[1] - at)) <= 1
    assert found.shows == "Ada, The quay."
    assert f"between {wide} and {close}" in found.why


def test_who_changes_sides_is_seen_from_the_front_and_the_line_is_not_crossed_any_more():
    a, b = shot("1", "MS", facings={"ada": "left"}), shot("2", "MS", facings={"ada": "right"})
    assert [f.kind for f in findings_of_scene([a, b], NAMES) if f.kind == "crosses_line"]
    found = made(a, b, "sides")
    between = PlanShot("x", "s", found.size, 2.0, "", ("ada",), ("quay",), facings=found.facings)
    assert [f.kind for f in findings_of_scene([a, between, b], NAMES) if f.kind == "crosses_line"] == []
    assert found.shows == "Ada, seen from the front, The quay."
    assert found.size != "MS"


def test_words_that_outrun_are_carried_by_who_listens_by_a_thing_or_by_the_place():
    a, b = shot("1", "MS", ("ada", "bo"), speakers=("ada",)), shot("2", "MS", ("ada", "bo"))
    assert made(a, b, "words", over_s=4.2).shows == "Bo listening, The quay."
    assert made(a, b, "words", over_s=4.2).length_s == 4.2
    alone = made(shot("1", "WS"), shot("2", "MS"), "words", over_s=0.8, props=("key",))
    assert (alone.shows, alone.threads, alone.length_s) == ("The tide key, close.", ("key", "quay"), 2.0)
    assert alone.size in ("CU", "ECU")
    assert "0.8 s of words" in alone.why
    bare = made(shot("1", "CU"), shot("2", "CU"), "words", over_s=3.0)
    assert (bare.shows, bare.size in ("EWS", "WS")) == ("The quay, wide.", True)


def test_light_that_jumps_is_parted_by_the_place_alone():
    found = made(shot("1", "MS"), shot("2", "MS"), "light")
    assert (found.shows, found.threads, found.size in ("EWS", "WS")) == ("The quay, nobody there.", ("quay",), True)


def test_two_that_are_nearly_one_are_parted_by_another_size_or_angle():
    found = made(shot("1", "MS"), shot("2", "MS"), "stutter")
    assert (found.size, found.angle) != ("MS", "eye level")


def test_a_plan_without_anybody_or_a_place_still_gets_a_framing():
    a, b = PlanShot("1", "s", "EWS", 3.0, ""), PlanShot("2", "s", "ECU", 3.0, "")
    found = bridge(Around(a, b, [a, b]), ["size"], {})
    assert (found.size, found.shows, found.threads) == ("MS", "", ())


def test_no_bridge_of_any_plan_makes_the_grammar_complain_more():
    rng = np.random.default_rng(11)
    for _ in range(120):
        scene = [
            shot(
                str(i),
                str(rng.choice(SIZES)),
                tuple(rng.choice(["ada", "bo"], rng.integers(1, 3), replace=False)),
                {"ada": str(rng.choice(["", "left", "right", "camera"]))},
            )
            for i in range(5)
        ]
        at = int(rng.integers(4))
        causes = [str(rng.choice(["size", "sides", "light", "stutter", "words"]))]
        found = bridge(Around(scene[at], scene[at + 1], scene, over_s=1.5), causes, NAMES)
        cast = tuple(t for t in found.threads if t in ("ada", "bo"))
        between = PlanShot("x", "s", found.size, 2.0, found.shows, cast, ("quay",), (), found.angle, found.facings)
        after = [*scene[: at + 1], between, *scene[at + 1 :]]
        assert len(findings_of_scene(after, NAMES)) <= len(findings_of_scene(scene, NAMES)), (scene, found)


def test_the_brief_of_a_bridge_says_between_what_it_leads_and_these_pictures_go_out_first():
    ends = (Picture("first", "a", "Shot 3, first frame", 1.0), Picture("last", "b", "Shot 5, last frame", 1.0))
    guide = Picture("guide", "g", "guide", 0.5)
    brief = composed(BriefShot("s", "4", "Ada waits.", guide=guide, ends=ends))
    assert "It leads from the first to the last of pictures 2 and 3." in brief.text
    assert [p.role for p in fitted(brief, Profile("two", picture_limit=2)).brief.pictures] == ["first", "last"]
    alone = composed(BriefShot("s", "4", "Ada waits.", ends=ends[1:]))
    assert "It leads to picture 1, its last frame." in alone.text
    assert "frame" not in composed(BriefShot("s", "4", "Ada waits.")).text
