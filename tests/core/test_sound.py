"""Sound: what a recording holds, where sounds lie, what is told, how words lie on a voice, and the mix."""

import json
from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest

from juxtaform.core.run.along import said_words
from juxtaform.core.run.timeline import TimedShot, Timeline
from juxtaform.core.sound.aligned import said_in_voice, words_in_voice
from juxtaform.core.sound.laying import Piece, lay, rooms, starts
from juxtaform.core.sound.levels import FULL, RATE, held
from juxtaform.core.sound.mix import gains, may_be_over, mixed
from juxtaform.core.sound.notes import ShotWords, sound_notes
from juxtaform.core.text.timing import Pace
from tests.constructed_sounds import levels, music, noise, samples, voice

TRUTH = json.loads((Path(__file__).parents[1] / "run_truth.json").read_text())


def holds(wave, gain=1.0):
    return held(*levels(wave, gain))


@pytest.mark.parametrize("level", [0.02, 0.3, 0.9])
@pytest.mark.parametrize("room", [0.0, 0.0005, 0.003])
def test_a_voice_is_heard_where_it_is_whatever_its_level_and_room(level, room):
    spans = [(0.5, 1.4), (1.8, 3.0), (3.9, 4.2)]
    heard = holds(voice(spans, 5.0, level, min(room, level / 14))).heard
    assert np.allclose(heard, spans, atol=0.07)


def test_music_without_a_pause_is_heard_from_end_to_end():
    heard = holds(music(8.0)).heard
    assert (len(heard), heard[0][0], heard[0][1]) == (1, 0.0, 8.0)


def test_an_empty_room_holds_nothing_and_a_single_word_is_found_in_a_long_silence():
    assert holds(noise(10.0, 0.0002)).silent
    assert holds(np.zeros(RATE)).silent
    assert np.allclose(holds(voice([(20.0, 20.4)], 60.0)).heard, [(20.0, 20.4)], atol=0.04)


def test_clipping_is_told_and_a_wave_that_just_reaches_full_scale_is_not():
    loud = voice([(0.5, 2.0)], 3.0, 0.9)
    clipped = holds(loud, 1.8).clipped
    assert clipped
    assert 0.5 <= clipped[0][0] < clipped[-1][1] <= 2.0
    assert holds(loud / np.abs(loud).max()).clipped == ()
    t = np.arange(RATE) / RATE
    for pitch in (30, 100, 1000):
        sine = np.sin(2 * np.pi * pitch * t)
        assert holds(sine).clipped == (), pitch
        assert holds(sine, 1.1).clipped, pitch


def line(key, shot="a", seconds=2.0, **more):
    more.setdefault("heard", ((0.0, seconds),))
    return Piece(key, shot, "voice", 0.0, seconds, name=f"{key}.wav", **more)


TIME = Timeline([TimedShot("a", "1", 3.0), TimedShot("b", "1", 4.0), TimedShot("c", "2", 5.0)])


def test_lines_follow_each_other_and_move_with_their_shot_and_music_ends_with_a_shot():
    pieces = [line("x"), line("y"), line("z", "b", 1.0), Piece("m", "a", "music", 0.0, 60.0, until="b")]
    laid = {x.piece.id: (x.start_s, x.end_s, x.cut_s) for x in lay(pieces, TIME)}
    assert laid == {"x": (0.2, 2.2, 0.0), "y": (2.5, 4.5, 0.0), "z": (3.2, 4.2, 0.0), "m": (0.0, 7.0, 0.0)}
    assert lay([line("w", "gone")], TIME) == []
    assert starts([line("x", start_s=-0.5), line("y")])["y"] == 1.8


def test_what_outlasts_the_sequence_is_cut_off_there():
    laid = lay([Piece("m", "c", "music", 0.0, 60.0)], TIME)[0]
    assert (laid.end_s, laid.cut_s) == (12.0, 55.0)


def test_a_shot_has_room_for_its_lines_up_to_the_last_sound_and_over_silent_shots_behind():
    pieces = [line("x"), line("y", seconds=3.0, heard=((0.4, 2.5),))]
    own = rooms(pieces, TIME, {"b"})["a"]
    assert (own.said_s, own.room_s, own.over_s) == (5.0, 3.0, 2.0)
    assert rooms(pieces, TIME, set())["a"].room_s == 7.0  # not over the next scene
    assert rooms([*pieces, line("z", "b")], TIME, set())["a"].room_s == 3.0


@pytest.mark.parametrize("case", TRUTH["sounds"], ids=lambda c: c["what"])
def test_sounds_lie_and_fade_as_the_screen_plays_them(case):
    timeline = Timeline([TimedShot(s["id"], "1", s["length_s"]) for s in TRUTH["shots"]])
    facts = {"from_s": 0.0, **case["sound"]}
    seconds = facts.pop("seconds")
    facts.setdefault("to_s", seconds)
    laid = lay([Piece("x", **facts)], timeline)[0]
    assert [laid.start_s, laid.end_s] == pytest.approx(case["laid"])
    for at, gain in case["gains"]:
        assert gains(laid, np.array([at]))[0] == pytest.approx(gain, abs=1e-5)


def told(pieces, holds=None, words=(), **more):
    return [(n.kind, n.shot) for n in sound_notes(pieces, holds or {}, TIME, words, {"p": "Pell", "o": "Oda"}, **more)]


def test_a_clean_sequence_is_silent_and_each_fault_is_told_where_it_is():
    words = [ShotWords("a", 1, ("The tide woke.",)), ShotWords("b", 2, ("It stretched.",)), ShotWords("c", 3, ())]
    clean = [line("x", line="The tide woke."), line("z", "b", line="it stretched"), line("e", "c")]
    assert told(clean, words=words) == []
    assert told([line("x", seconds=7.2)]) == [("longer", "a")]
    assert told([line("x", who="p"), line("y", start_s=1.0, who="o")]) == [("together", "a")]
    assert told([line("x", start_s=0.0), line("z", "c")]) == [("hush", "a")]
    assert told(clean[:2], words=[*words[:2], ShotWords("c", 3, ("Gone.",))]) == [("unsaid", "c")]
    assert told(clean, words=[ShotWords("a", 1, ("The moon woke.",)), *words[1:]]) == [("other words", "a")]
    late = Piece("m", "c", "music", 0.0, 30.0, heard=((0.0, 30.0),))
    assert told([late]) == [("cut off", "c")]
    assert told([Piece("m", "c", "music", 0.0, 30.0, heard=((0.0, 30.0),), fade_out_s=2.0)]) == []


def test_people_who_speak_at_once_are_named_and_a_breath_is_no_overlap():
    words = [ShotWords("a", 1, ()), ShotWords("b", 2, ())]
    names = {"p": "Pell", "o": "Oda"}
    early = line("y", "b", start_s=-0.7, who="o")
    notes = sound_notes([line("x", seconds=2.7, who="p"), early], {}, TIME, words, names)
    assert [n.title for n in notes] == ["Pell and Oda speak at the same time for 0.6 s (shots 1 and 2)."]
    trailing = line("x", seconds=2.6, heard=((0.0, 1.9),))
    assert told([trailing, line("y", start_s=2.15)]) == []


def test_a_line_that_outruns_its_shot_is_one_note_with_what_it_runs_into():
    words = [ShotWords("a", 1, ()), ShotWords("b", 2, ())]
    notes = sound_notes([line("x", seconds=3.5), line("y", "b", start_s=0.0)], {}, TIME, words, {})
    assert [(n.kind, n.mend) for n in notes] == [("longer", "give time")]
    assert notes[0].title == "The line takes 3.7 s, shot 1 has 3.0: 0.7 s are heard over the line of shot 2."


def test_a_line_may_run_on_over_shots_of_its_scene_without_words():
    words = [ShotWords("a", 1, ("Long.",)), ShotWords("b", 2, ()), ShotWords("c", 3, ())]
    long = line("x", line="Long.", seconds=6.0)
    assert told([long], words=words) == []
    assert told([long], words=[words[0], ShotWords("b", 2, ("Now.",)), words[2]])[0] == ("longer", "a")
    assert told([line("x", line="Long.", seconds=7.5)], words=words)[0] == ("longer", "a")  # the next scene


def test_a_recording_tells_what_is_wrong_in_it():
    spoken, empty = voice([(1.5, 2.5)], 3.5, 0.9), noise(2.0, 0.0002)
    known = {"x": holds(spoken, 1.8), "y": holds(empty)}
    pieces = [line("x", seconds=3.5, heard=known["x"].heard), line("y", "b", heard=())]
    assert [k for k, _ in told(pieces, known)] == ["edge", "clips", "silent"]


def test_the_mix_adds_up_gains_and_fades():
    own = samples(np.ones(2 * RATE) * 0.5)
    laid = lay([Piece("m", "a", "music", 0.0, 2.0, gain_db=-6.0, fade_in_s=0.5, fade_out_s=1.0)], TIME)
    out = mixed(laid, lambda _: own, 0, 3 * RATE)
    level = 0.5 * 10 ** (-6 / 20)
    for at, wanted in ((0.25, level / 2), (0.75, level), (1.5, level / 2), (2.5, 0.0)):
        assert np.allclose(out[round(at * RATE)], wanted, atol=1e-3)


def test_blocks_of_the_mix_are_the_same_as_the_whole():
    parts = {"x": samples(voice([(0.2, 1.7)], 2.0)), "m": samples(music(10.0))}
    laid = lay([line("x"), Piece("m", "a", "music", 1.0, 9.0, start_s=0.37, fade_in_s=1.0)], TIME)
    whole = mixed(laid, parts.__getitem__, 0, 12 * RATE)
    cut = [mixed(laid, parts.__getitem__, a, min(12 * RATE, a + 70_001)) for a in range(0, 12 * RATE, 70_001)]
    assert np.array_equal(np.concatenate(cut), whole)


def test_where_the_mix_may_be_over_full_scale_is_never_missed():
    rng = np.random.default_rng(4)
    for _ in range(6):
        waves = {str(i): voice([(0.1, 1.9)], 2.0, rng.uniform(0.3, 0.6), seed=i) for i in range(3)}
        pieces = [line(k, start_s=float(rng.uniform(0, 2)), gain_db=float(rng.uniform(-6, 4))) for k in waves]
        laid = lay(pieces, TIME)
        parts = {k: samples(w) for k, w in waves.items()}
        spans = may_be_over(laid, lambda k, waves=waves: levels(waves[k])[0], TIME.length_s)
        over = np.flatnonzero(np.abs(mixed(laid, parts.__getitem__, 0, 12 * RATE)).max(axis=1) > 1.0) / RATE
        assert all(any(a <= t <= b for a, b in spans) for t in over)
    assert FULL == 32767


def test_sentences_lie_on_the_pauses_of_the_voice():
    text = "Pell lifted the heavy latch. Nobody saw. Then, with a sigh, the tide woke and went out."
    truth = [(0.4, 2.0), (2.6, 3.3), (3.9, 4.2), (4.5, 5.1), (5.4, 7.2)]
    said = said_in_voice(text, truth)
    by_word = {text[w.start : w.end]: w for w in said}
    assert [round(by_word[w].start_s, 2) for w in ("Pell", "Nobody", "Then,", "with", "the")][:3] == [0.4, 2.6, 3.9]
    assert by_word["latch."].end_s == pytest.approx(2.0)
    assert by_word["saw."].end_s == pytest.approx(3.3)
    assert by_word["out."].end_s == pytest.approx(7.2)
    assert all(a.end_s <= b.start_s + 1e-6 for a, b in pairwise(said))


def test_words_between_voiced_lines_have_the_time_that_is_left():
    text = "The tide woke. It stretched. It went."
    paced = said_words(text, 100.0, Pace())
    piece = Piece("x", "a", "voice", 0.0, 1.0, line="It went.", heard=((0.1, 0.9),))
    said = words_in_voice(text, [piece], {"x": 5.0}, paced)
    assert [round(w.start_s, 2) for w in said[-2:]] == [5.1, 5.4]
    assert said[4].end_s <= 5.1
    assert words_in_voice(text, [], {}, paced) is paced
