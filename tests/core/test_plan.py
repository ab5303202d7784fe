"""The plan judged by itself: stills, grammar, timing, framings, the story frame."""

from dataclasses import replace

import pytest

from juxtaform.core.plan.framings import Framing, alternatives
from juxtaform.core.plan.grammar import PlanShot, plan_findings
from juxtaform.core.plan.stills import moments_in, moved, moving_words
from juxtaform.core.plan.story_frame import SHAPES, CastMember, shared_out, story_frame
from juxtaform.core.text.timing import Pace, balanced, reading_time, word_count

NAMES = {"a": "Ada", "b": "Bo", "k": "Kitchen", "q": "Quay"}
WEST, EAST = (0.1, 0.2, 0.2, 0.7), (0.7, 0.2, 0.2, 0.7)
KINDS = {"a": "character", "b": "character", "k": "setting", "q": "setting"}


def shot(i, **facts):
    base = PlanShot(f"s{i}", "one", "MS", 5.0, "Ada and Bo at the table.", ("a", "b"), ("k", "q"))
    return replace(base, **facts)


def clean():
    return [shot(0, size="WS"), shot(1, size="MS"), shot(2, size="CU"), shot(3, size="MWS")]


def kinds(shots):
    return [f.kind for f in plan_findings(shots, NAMES, KINDS)]


def test_a_sound_plan_is_silent():
    assert kinds(clean()) == []
    assert plan_findings([], NAMES, KINDS) == []


@pytest.mark.parametrize(
    ("change", "kind", "at"),
    [
        ({0: {"size": "MS"}, 3: {"size": "CU"}}, "no_establishing", "s0"),
        ({2: {"length_s": 25.0}}, "too_long", "s2"),
        ({2: {"length_s": 1.0}}, "too_short", "s2"),
        ({1: {"shows": ""}}, "no_description", "s1"),
        ({1: {"shows": "Ada; the camera pans left."}}, "moves_in_still", "s1"),
        ({1: {"shows": "Ada sits down and then Bo leaves."}}, "several_moments", "s1"),
        ({1: {"places": ()}}, "shot_without_place", "s1"),
        ({i: {"places": ("k",)} for i in range(4)}, "place_without_shot", "s0"),
        ({i: {"cast": ("a",)} for i in range(4)}, "never_appears", "s0"),
        ({i: {"cast": ("a",)} for i in range(4)} | {3: {"cast": ("a",), "speakers": ("b",)}}, "speaker_unseen", "s3"),
        ({i: {"cast": ("a",)} for i in range(4)} | {3: {"cast": ("a",), "addressed": ("b",)}}, "listener_unseen", "s3"),
        ({1: {"facings": {"a": "left"}}, 2: {"facings": {"a": "right"}}}, "crosses_line", "s2"),
        ({1: {"stands": {"a": WEST, "b": EAST}}, 2: {"stands": {"a": EAST, "b": WEST}}}, "crosses_line", "s2"),
    ],
)
def test_each_fault_of_the_plan_is_told_where_it_is(change, kind, at):
    shots = [replace(s, **change.get(i, {})) for i, s in enumerate(clean())]
    found = [f for f in plan_findings(shots, NAMES, KINDS) if f.kind == kind]
    assert [f.shot for f in found] == [at]


def test_four_of_one_size_are_told_and_three_are_not():
    assert "same_size" not in kinds([shot(0, size="WS"), *(shot(i) for i in range(1, 4))])
    four = [shot(0, size="WS"), *(shot(i) for i in range(1, 5))]
    [found] = [f for f in plan_findings(four, NAMES, KINDS) if f.kind == "same_size"]
    assert (found.shot, found.until, found.measured) == ("s1", "s4", 4)
    varied = [shot(0, size="WS"), *(shot(i, angle=a) for i, a in enumerate(("high", "low", "eye level", "tilted"), 1))]
    assert "same_size" not in kinds(varied)


def test_a_turn_that_a_neutral_shot_covers_or_another_scene_is_no_jump():
    turned = [
        shot(0, size="WS", facings={"a": "left"}),
        shot(1, facings={"a": "camera"}),
        shot(2, size="CU", facings={"a": "right"}),
    ]
    assert "crosses_line" not in kinds(turned)
    apart = [shot(0, size="WS", facings={"a": "left"}), shot(1, size="WS", scene="two", facings={"a": "right"})]
    assert "crosses_line" not in kinds(apart)


def test_two_who_keep_their_order_or_of_whom_one_is_placed_nowhere_cross_no_line():
    between = (0.4, 0.2, 0.2, 0.7)
    moved_on = [shot(0, size="WS", stands={"a": WEST, "b": EAST}), shot(1, stands={"a": between, "b": EAST})]
    assert "crosses_line" not in kinds(moved_on)
    alone = [shot(0, size="WS", stands={"a": WEST, "b": EAST}), shot(1, stands={"a": EAST})]
    assert "crosses_line" not in kinds(alone)


@pytest.mark.parametrize(
    ("shows", "words"),
    [
        ("Pell on the step.", []),
        ("Pell waits on the bottom step where the water ought to be.", []),
        ("A pot of soup.", []),
        ("The camera follows Pell down the stairs.", ["The camera follows Pell down the stairs"]),
        ("Slow push in on the key.", ["Slow push in on the key"]),
        ("Oda starts to laugh.", ["starts to laugh"]),
        ("The lamp, slowly turning.", ["slowly turning"]),
        ("Fade to black.", ["Fade to black"]),
        ("Bo runs across the square, waving.", ["runs across the square"]),
        ("A girl dashes down the slope.", ["dashes down the slope"]),
        ("The boys drag the sled across the ice.", ["drag the sled across the ice"]),
        ("A cart squeaks across the yard.", ["squeaks across the yard"]),
        ("The path runs along the river.", []),
        ("A woman runs a comb through her hair.", []),
        ("Bo reads the tracks with a lens.", []),
        ("A man rolls up his sleeves.", []),
        ("The lift down to the cellar.", []),
        ("A girl rolls the cheese down the shaft.", ["rolls the cheese down the shaft"]),
        ("A boy waits and the camera pans left.", ["the camera pans left"]),
        ("A boy waits, and tracking along, we follow.", ["tracking along", "we follow"]),
        ("A boy climbs out of the chimney.", []),
    ],
)
def test_words_that_no_still_can_show(shows, words):
    assert [m.words for m in moving_words(shows)] == words
    for m in moving_words(shows):
        assert shows[m.start : m.end].strip() == m.words


def test_a_name_that_is_a_word_goes_somewhere_where_it_is_known_as_one():
    shows = "Biscuit waits by the tree. Biscuit dashes down the slope."
    assert moving_words(shows) == []
    names = frozenset(["Biscuit"])
    assert [m.words for m in moving_words(shows, names)] == ["dashes down the slope"]
    assert moved(shows, "", names)[1] == "Dashes down the slope."


def test_moving_words_go_to_the_motion_note_and_something_stays_to_be_seen():
    assert moved("Pell by the lamp, slowly turning, in her boots.") == (
        "Pell by the lamp, in her boots.",
        "Slowly turning.",
    )
    assert moved("The camera pans left.", "Rain.") == ("The camera pans left.", "Rain.")
    assert moved("Pell sits.") == ("Pell sits.", "")


@pytest.mark.parametrize(
    ("shows", "count"),
    [
        ("Oda counts the boats.", 1),
        ("Pell and Oda on the quay, the boats behind them.", 1),
        ("Pell sits down, then Oda comes.", 2),
        ("Pell opens the door, takes the key, turns it and runs.", 2),
    ],
)
def test_moments_are_counted(shows, count):
    assert moments_in(shows) == count


def test_reading_takes_the_language_the_audience_and_the_pauses_into_account():
    text = "The tide woke, and stretched, and remembered the sea."
    slow, fast = reading_time(text, Pace()), reading_time(text, Pace(audience="silent"))
    assert slow.words_s == pytest.approx(9 * 60 / 130)
    assert slow.pauses_s == pytest.approx(2 * 0.15 + 0.4)
    assert fast.length_s < slow.length_s < reading_time(text, Pace(language="Polish")).length_s
    assert reading_time(text, Pace(factor=2.0)).words_s == pytest.approx(slow.words_s / 2)


def test_a_picture_is_never_too_short_to_be_seen():
    assert reading_time("No.").length_s == 2.0
    assert reading_time("").length_s == 3.0
    assert reading_time("", movements=5).length_s == 6.0


def test_words_are_counted_as_a_reader_reads_them():
    assert word_count("Mother-in-law’s boat – 3 times; don't.") == 5


def test_what_is_over_the_target_is_taken_where_there_is_room():
    told = balanced([("a", 10.0, 4.0), ("b", 8.0, 8.0), ("c", 6.0, 3.0)], 20.0, 130)
    assert told.over_s == 4.0
    assert {t.shot for t in told.trims} == {"a", "c"}
    assert sum({"a": 10.0, "b": 8.0, "c": 6.0, **{t.shot: t.proposed_s for t in told.trims}}.values()) == pytest.approx(
        20, abs=0.2
    )


def test_a_target_under_what_the_words_need_says_how_many_words_have_to_go():
    told = balanced([("a", 30.0, 30.0), ("b", 30.0, 30.0)], 30.0, 120)
    assert told.words_too_many == 60
    assert told.trims == ()


def test_a_plan_that_is_short_is_stretched_in_proportion():
    told = balanced([("a", 10.0, 4.0), ("b", 5.0, 4.0)], 30.0, 130)
    assert [t.proposed_s for t in told.trims] == [20.0, 10.0]


def test_alternatives_differ_from_the_shot_from_each_other_and_first_from_its_neighbours():
    now = Framing("MS", "eye level", "static", "")
    found = alternatives(now, 2, speech=True, before="WS", after="MCU")
    keys = [(f.size, f.angle) for f in found]
    assert len(set(keys)) == len(keys) == 5
    assert ("MS", "eye level") not in keys
    assert found[0].size not in ("WS", "MCU")
    assert all(f.why for f in found)
    assert not any(f.angle == "over the shoulder" for f in alternatives(now, 0, speech=False, most=9))


@pytest.mark.parametrize("shape", SHAPES)
def test_every_shape_shares_out_the_whole_and_asks_about_the_lead(shape):
    beats = story_frame("A crab minds the tide.", "quiet", [CastMember("Pell"), CastMember("Oda")], shape)
    assert sum(b.share for b in beats) == pytest.approx(1.0)
    assert any("Pell" in b.question for b in beats)
    assert any("no words at all" in b.question for b in beats)
    assert all(b.title and b.purpose and b.question for b in beats)
    assert set().union(*(b.cast for b in beats)) <= {"Pell", "Oda"}
    assert sum(shared_out([b.share for b in beats], 120.0)) == pytest.approx(120.0, abs=0.5)


def test_a_frame_needs_neither_cast_nor_premise():
    assert story_frame("")[0].question.startswith("What does the lead")
