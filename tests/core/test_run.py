"""The sequence in time: what is seen when, moves, trims, words read along. The screen is held against the same truth (`tests/run_truth.json`)."""

import json
from itertools import pairwise
from pathlib import Path

import pytest

from juxtaform.core.run.along import LINE_MOST, captions, in_lines, said_words
from juxtaform.core.run.moves import frame_at, frames_of, laid_in
from juxtaform.core.run.timeline import TimedShot, Timeline, rippled, rolled
from juxtaform.core.text.timing import Pace, reading_time

TRUTH = json.loads((Path(__file__).parents[1] / "run_truth.json").read_text())
LINE = Timeline([TimedShot(s["id"], "1", s["length_s"], s["join"], s["join_s"]) for s in TRUTH["shots"]])


@pytest.mark.parametrize("case", TRUTH["seen"], ids=lambda c: c["what"])
def test_what_is_seen_at_a_moment(case):
    told = [(s.shot, s.part, s.strength) for s in LINE.at(case["at"])]
    assert [t[0] for t in told] == [s[0] for s in case["seen"]]
    for (_, part, strength), (_, wanted, strong) in zip(told, case["seen"], strict=True):
        assert (part, strength) == (pytest.approx(wanted, abs=1e-5), pytest.approx(strong, abs=1e-5))


@pytest.mark.parametrize("case", TRUTH["frames"])
def test_a_move_goes_from_frame_to_frame(case):
    assert frame_at(tuple(case["start"]), tuple(case["end"]), case["part"]) == pytest.approx(case["frame"], abs=1e-5)


@pytest.mark.parametrize("case", TRUTH["laid"])
def test_a_frame_is_shown_whole_on_any_stage(case):
    seen, place = laid_in(case["picture"], case["stage"], tuple(case["frame"]))
    assert place == pytest.approx(case["place"], abs=1e-5)
    assert list(seen) == case["frame"]


@pytest.mark.parametrize("case", TRUTH["trims"])
def test_trims_ripple_or_roll(case):
    how = rippled if case["how"] == "ripple" else rolled
    assert how(case["lengths"], case["at"], case["by"]) == pytest.approx(case["after"])


def test_roll_keeps_the_whole_as_long():
    lengths = [3.0, 0.7, 2.2]
    assert sum(rolled(lengths, 1, 0.55)) == pytest.approx(sum(lengths))


def test_shots_without_length_are_not_seen_and_an_empty_sequence_shows_nothing():
    line = Timeline([TimedShot("a", "1", 0.0), TimedShot("b", "1", 1.0), TimedShot("c", "1", 0.0)])
    assert [s.shot for s in line.at(0.0)] == ["b"]
    assert [s.shot for s in line.at(5.0)] == ["b"]
    assert Timeline([]).at(1.0) == ()
    assert Timeline([]).frames(24) == 0


def test_frames_are_as_many_as_the_whole_takes():
    # Lengths that no frame rate divides: rounded once over the whole, not shot by shot.
    line = Timeline([TimedShot(str(i), "1", 1.03) for i in range(100)])
    assert line.frames(24) == 103 * 24


def test_a_static_shot_shows_all_of_its_picture_whatever_frames_were_drawn():
    assert frames_of("static", (0.1, 0.1, 0.5, 0.5), None)[0] == (0, 0, 1, 1)
    assert frames_of("pan", (0.1, 0.1, 0.5, 0.5), None) == ((0.1, 0.1, 0.5, 0.5), (0.3, 0.1, 0.7, 0.8))


def test_words_are_said_in_their_order_at_the_pace_and_no_longer_than_the_shot():
    text = "The tide had been gone three days. Pell sat on the bottom step, and waited."
    free = said_words(text, 99.0, Pace())
    assert [text[w.start : w.end] for w in free] == text.split()
    assert all(a.end_s <= b.start_s + 1e-9 for a, b in pairwise(free))
    assert free[-1].end_s == pytest.approx(reading_time(text).told_s - 0.4, abs=0.01)  # the last pause is silence
    assert free[7].start_s - free[6].end_s == pytest.approx(0.4)
    tight = said_words(text, 3.0, Pace())
    assert tight[-1].end_s < 3.0
    assert tight[4].start_s / free[4].start_s == pytest.approx(tight[-1].end_s / free[-1].end_s)
    twice = said_words(text, 99.0, Pace(factor=2.0))
    assert twice[-1].end_s == pytest.approx(free[-1].end_s / 2, abs=0.01)


@pytest.mark.parametrize("text", ["", "   ", "—", "…", "?!"])
def test_nothing_is_said_where_there_are_no_words(text):
    assert said_words(text, 3.0) == []
    assert captions(text, 3.0) == []


def test_captions_hold_all_words_end_at_sentences_and_last_as_long_as_the_shot():
    text = (
        "Up on the quay Oda counted the boats lying on their sides. “Nine,” she said. “And one of them is mine.” "
        "Sprocket, who knew why, looked at the sky and hummed a small brass tune until it was dark."
    )
    told = captions(text, 20.0)
    assert " ".join(c.words for c in told) == text
    assert told[0].start_s == 0
    assert told[-1].end_s == 20.0
    assert all(a.end_s == b.start_s for a, b in pairwise(told))
    assert all(len(c.words) <= 2 * LINE_MOST for c in told)
    assert all(len(line) <= LINE_MOST for c in told for line in in_lines(c.words))
    assert told[0].words.endswith((".", ",", "”"))
    assert min(len(c.words) for c in told) > 20  # no word is left alone


@pytest.mark.parametrize(
    "text",
    [
        "潮は眠っていた。ペルは笛を吹いた、そして港の船がすべて起きあがった。それはとても静かな朝だった。",
        "那天傍晚，海水没有回来。佩尔坐在最下面的台阶上，等了又等，直到月亮升起来，照亮了空空的港口和所有躺着的船。",
    ],
)
def test_scripts_without_spaces_are_read_by_their_characters(text):
    told = captions(text, 12.0, most=30)
    assert "".join(c.words for c in told) == text
    assert all(len(c.words) <= 30 for c in told)
    assert "".join(in_lines(text, 20)) == text
    assert max(len(line) for line in in_lines(text, 20)) <= 20


def test_one_long_word_is_a_caption_of_its_own():
    word = "x" * 200
    assert [c.words for c in captions(f"so {word} it", 5.0)][1] == word
