"""Sounds on the sequence: taken in, laid, recorded line by line with their takes, lengths that follow the voice, and what goes out."""

import pytest

from juxtaform.studio import (
    bundles,
    housekeeping,
    outgoing,
    plan,
    projects,
    run_through,
    sound_track,
    sounds,
    story,
    threads,
)
from juxtaform.studio.sounds import NewSound
from juxtaform.studio.workspace import Conflict, NotPossible, NotThere
from tests.conftest import rows
from tests.constructed_sounds import file_of, music, voice, wav

TEXT = "The tide had been gone three days. Nobody knew why.\n\nSprocket hummed."


@pytest.fixture
def shots(ws, project):
    """Two shots of three seconds that cover the text, and one without words."""
    plan.add_scene(ws, project, "The quay")
    story.keep(ws, project, TEXT)
    for _ in range(2):
        plan.insert_shot(ws, project, rows(ws, project, "shot")[0]["id"])
    ids = [x["id"] for x in rows(ws, project, "shot")]
    revision = rows(ws, project, "project")[0]["text_revision"]
    cut = TEXT.index("Sprocket")
    story.anchor_again(ws, project, ids[0], 0, cut - 2, revision)
    story.anchor_again(ws, project, ids[1], cut, len(TEXT), revision)
    return ids


LINES = ("The tide had been gone three days. Nobody knew why.", "Sprocket hummed.")


def record(ws, project, shot, line, seconds=2.0, seed=0, **more):
    data = wav(voice([(0.2, seconds - 0.2)], seconds, seed=seed))
    changed = sounds.add(ws, project, data, NewSound(shot, f"Line {seed}", "voice", line, **more))
    return next(r["id"] for r in changed.rows["sound"] if r["revision"] == 1)


def kinds(ws, project):
    return [n.kind for n in sound_track.track(ws, project).notes]


def test_lines_are_the_words_of_each_shot_and_their_takes_are_kept(ws, project, shots):
    assert [[x.words for x in s.lines] for s in sound_track.track(ws, project).shots] == [[LINES[0]], [LINES[1]]]
    first = record(ws, project, shots[0], LINES[0])
    second = record(ws, project, shots[0], LINES[0].lower(), seed=1)
    line = sound_track.track(ws, project).shots[0].lines[0]
    assert line.takes == (first, second)
    picked = {r["id"]: r["picked"] for r in rows(ws, project, "sound")}
    assert picked == {first: False, second: True}
    sounds.pick(ws, project, first)
    assert {r["id"]: r["picked"] for r in rows(ws, project, "sound")} == {first: True, second: False}
    sounds.remove(ws, project, first)
    assert rows(ws, project, "sound")[0]["picked"]
    projects.undo(ws, project)
    assert {r["id"]: r["picked"] for r in rows(ws, project, "sound")} == {first: True, second: False}


def test_a_line_that_outruns_its_shot_is_told_and_lengths_follow_when_asked(ws, project, shots):
    record(ws, project, shots[0], LINES[0], 4.4)
    record(ws, project, shots[1], LINES[1], 1.0, seed=1)
    assert "longer" in kinds(ws, project)
    note = next(n for n in sound_track.track(ws, project).notes if n.kind == "longer")
    assert note.title.startswith("The line takes 4.4 s, shot 1 has 3.0: 0.6 s are heard over")
    sounds.follow_voice(ws, project)
    assert [x["length_s"] for x in rows(ws, project, "shot")] == [4.833, 3.0, 3.0]
    assert "longer" not in kinds(ws, project)
    with pytest.raises(NotPossible, match="has the time"):
        sounds.follow_voice(ws, project)
    sounds.follow_voice(ws, project, [shots[1]], shorten=True)
    assert rows(ws, project, "shot")[1]["length_s"] == pytest.approx(1.417, abs=0.05)
    with pytest.raises(NotPossible, match="Record their lines"):
        sounds.follow_voice(ws, project, [shots[2]])
    projects.undo(ws, project)
    projects.undo(ws, project)
    assert [x["length_s"] for x in rows(ws, project, "shot")] == [3.0, 3.0, 3.0]


def test_words_that_changed_since_are_told_and_words_without_a_voice(ws, project, shots):
    assert kinds(ws, project) == []
    record(ws, project, shots[0], "The moon had been gone.")
    assert kinds(ws, project) == ["other words", "unsaid"]


def test_words_are_read_along_as_the_voice_says_them(ws, project, shots):
    data = wav(voice([(1.0, 2.0), (2.6, 3.4)], 4.0))
    sounds.add(ws, project, data, NewSound(shots[0], "Told", "voice", LINES[0], start_s=0.5))
    told = run_through.read_along(ws, project)[0]
    assert told.in_voice
    assert told.said[0][2] == pytest.approx(1.5, abs=0.05)
    nobody = next(w for w in told.said if told.words[w[0] : w[1]] == "Nobody")
    assert nobody[2] == pytest.approx(3.1, abs=0.05)
    assert not run_through.read_along(ws, project)[1].in_voice
    out = outgoing.sequence_of(ws, project)
    assert [out.shots[0].words[p.start : p.end] for p in out.shots[0].phrases] == [
        "The tide had been gone three days.",
        "Nobody knew why.",
    ]
    assert out.shots[0].phrases[1].from_s == pytest.approx(2.6, abs=0.05)


def test_a_sound_is_changed_trimmed_and_goes_with_its_shot(ws, project, shots):
    data = file_of(music(10.0), "ogg")
    changed = sounds.add(ws, project, data, NewSound(shots[0], "Song", "music", until_shot_id=shots[1]))
    song = changed.rows["sound"][0]
    sounds.edit(ws, project, song["id"], {"gain_db": -8.0, "fade_out_s": 1.0, "to_s": 99.0}, song["revision"])
    now = rows(ws, project, "sound")[0]
    assert (now["gain_db"], now["fade_out_s"]) == (-8.0, 1.0)
    assert now["to_s"] == pytest.approx(10.0, abs=0.05)
    with pytest.raises(Conflict):
        sounds.edit(ws, project, song["id"], {"gain_db": 0.0}, song["revision"])
    with pytest.raises(NotPossible, match="only 10"):
        sounds.edit(ws, project, song["id"], {"from_s": 12.0})
    with pytest.raises(NotPossible):
        sounds.edit(ws, project, song["id"], {"from_s": 5.0, "to_s": 4.0})
    plan.delete_shots(ws, project, [shots[1]])
    assert rows(ws, project, "sound")[0]["until_shot_id"] == shots[0]
    plan.delete_shots(ws, project, [shots[0]])
    assert rows(ws, project, "sound") == []
    projects.undo(ws, project)
    projects.undo(ws, project)
    assert rows(ws, project, "sound")[0]["until_shot_id"] == shots[1]


def test_a_merged_shot_takes_the_sounds_to_where_they_were_heard(ws, project, shots):
    record(ws, project, shots[0], LINES[0])
    hum = record(ws, project, shots[1], LINES[1], seed=1, start_s=0.4)
    plan.merge_up(ws, project, shots[1])
    moved = next(r for r in rows(ws, project, "sound") if r["id"] == hum)
    assert (moved["shot_id"], moved["start_s"]) == (shots[0], 3.4)


def test_silence_at_the_ends_is_told_and_taken_off(ws, project, shots):
    data = wav(voice([(2.0, 3.0)], 5.0))
    sounds.add(ws, project, data, NewSound(shots[0], "Late", "voice", LINES[0]))
    note = next(n for n in sound_track.track(ws, project).notes if n.kind == "edge")
    assert note.title == "“Late” begins with 2.0 s of silence (shot 1)."
    sounds.take_silence_off(ws, project, note.sounds[0])
    assert "edge" not in kinds(ws, project)
    now = rows(ws, project, "sound")[0]
    assert (now["from_s"], now["to_s"]) == (pytest.approx(1.9, abs=0.03), pytest.approx(3.15, abs=0.03))


def test_what_is_too_loud_together_is_told_with_its_decibels(ws, project, shots):
    tone = music(3.0)
    tone = tone / abs(tone).max() * 0.9
    for name in ("One", "Two"):
        sounds.add(ws, project, wav(tone), NewSound(shots[0], name, "music"))
    note = next(n for n in sound_track.track(ws, project).notes if n.kind == "over")
    assert "5.1 dB too loud in shot 1" in note.title
    with pytest.raises(NotPossible, match="too loud there"):
        sounds.turn_down(ws, project, 100.0)
    sounds.turn_down(ws, project, note.at_s)
    assert "over" not in kinds(ws, project)
    assert {r["gain_db"] for r in rows(ws, project, "sound")} == {-5.5}


def test_music_gives_way_to_the_voice(ws, project, shots):
    record(ws, project, shots[0], LINES[0], 2.6)
    tone = music(3.0)
    for _ in range(2):
        sounds.add(ws, project, wav(tone / abs(tone).max() * 0.6), NewSound(shots[0], "Song", "music"))
    note = next(n for n in sound_track.track(ws, project).notes if n.kind == "over")
    sounds.turn_down(ws, project, note.at_s)
    assert "over" not in kinds(ws, project)
    gains = {r["kind"]: r["gain_db"] for r in rows(ws, project, "sound")}
    assert gains["voice"] == 0.0
    assert gains["music"] < -1.0


def test_who_speaks_is_a_thread_that_may_go(ws, project, shots):
    pell = threads.make(ws, project, "character", "Pell").rows["thread"][0]["id"]
    record(ws, project, shots[0], LINES[0], thread_id=pell)
    assert outgoing.sequence_of(ws, project).sounds[0].who == "Pell"
    threads.remove(ws, project, pell)
    assert rows(ws, project, "sound")[0]["thread_id"] is None
    with pytest.raises(NotThere):
        sounds.edit(ws, project, rows(ws, project, "sound")[0]["id"], {"thread_id": "0" * 32})


def test_a_script_gives_each_speech_as_a_line_with_its_speaker(ws, project):
    projects.edit(ws, project, {"syntax": "fountain"}, None)
    pell = threads.make(ws, project, "character", "Pell").rows["thread"][0]["id"]
    text = "INT. LAMP ROOM - NIGHT\n\nThe lamp turns.\n\nPELL\nWhere is the tide?\n\nODA\n(asleep)\nGone, I think.\n"
    story.keep(ws, project, text)
    plan.add_scene(ws, project, "Lamp room")
    shot = rows(ws, project, "shot")[0]["id"]
    story.anchor_again(
        ws, project, shot, text.index("The lamp"), len(text), rows(ws, project, "project")[0]["text_revision"]
    )
    lines = sound_track.track(ws, project).shots[0].lines
    assert [(x.words, x.who, x.thread_id) for x in lines] == [
        ("Where is the tide?", "PELL", pell),
        ("Gone, I think.", "ODA", None),
    ]


def test_the_bundle_has_the_sounds_and_a_damaged_one_leaves_nothing(ws, project, shots, tmp_path):
    record(ws, project, shots[0], LINES[0])
    path = tmp_path / "out.zip"
    with path.open("wb") as out:
        bundles.give_out(ws, project, out)
    with path.open("rb") as file:
        copy = bundles.take_in(ws, file, "out.zip")
    again = rows(ws, copy, "sound")[0]
    assert (again["line"], again["sound_sha"]) == (LINES[0], rows(ws, project, "sound")[0]["sound_sha"])
    assert again["id"] != rows(ws, project, "sound")[0]["id"]
    spoiled = path.read_bytes()
    at = spoiled.index(b"WAVEfmt")
    (tmp_path / "bad.zip").write_bytes(spoiled[:at] + b"WAVExxx" + spoiled[at + 7 :])
    with (tmp_path / "bad.zip").open("rb") as file, pytest.raises(NotPossible, match="sounds/"):
        bundles.take_in(ws, file, "bad.zip")


def test_what_is_no_sound_is_refused_and_changes_nothing(ws, project, shots):
    for data in (b"", b"hello", b"RIFF\x00\x00\x00\x00WAVE"):
        with pytest.raises(NotPossible):
            sounds.add(ws, project, data, NewSound(shots[0], "x", "effect"))
    with pytest.raises(NotThere):
        sounds.add(ws, project, wav(music(1.0)), NewSound("0" * 32, "x", "music"))
    assert rows(ws, project, "sound") == []


def test_sounds_that_no_row_names_are_cleaned_away(ws, project, shots):
    sha = sounds.take_in(ws, wav(music(1.0, seed=99)))
    lonely = "ab" * 32
    room = ws.sounds.room(lonely)
    for name in ("sound", "wav", "levels"):
        (room / name).write_bytes(b"x")
    ws.sounds.settle(lonely, room)
    assert ws.sounds.has(lonely)
    assert "sound that no row names" in housekeeping.clean(ws, grace_s=-60)
    assert not ws.sounds.has(lonely)
    assert ws.sounds.has(sha)


def test_lines_of_a_shot_are_said_in_their_order_whichever_is_recorded_first(ws, project, shots):
    second = record(ws, project, shots[0], "Nobody knew why.", seed=1, place=1)
    first = record(ws, project, shots[0], "The tide had been gone three days.", place=0)
    begins = {x.id: x.begins_s for x in sound_track.track(ws, project).sounds}
    assert begins == {first: 0.2, second: 2.5}


def test_a_line_that_runs_on_over_a_silent_shot_gets_no_more_time_than_it_lacks(ws, project, shots):
    record(ws, project, shots[1], LINES[1], 5.0)  # the third shot has no words: three seconds more
    assert "longer" not in kinds(ws, project)
    with pytest.raises(NotPossible, match="has the time"):
        sounds.follow_voice(ws, project)
    record(ws, project, shots[1], LINES[1], 7.0, seed=1)
    assert "longer" in kinds(ws, project)
    sounds.follow_voice(ws, project)
    assert rows(ws, project, "shot")[1]["length_s"] == pytest.approx(3.0 + 1.0 + 0.4, abs=0.25)
    assert "longer" not in kinds(ws, project)


def test_lines_of_scripts_without_spaces_are_found_in_their_words_again(ws, project, shots):
    said = "潮は眠っていた。蟹は知っていた。" * 20
    story.keep(ws, project, said)
    story.anchor_again(ws, project, shots[0], 0, len(said), rows(ws, project, "project")[0]["text_revision"])
    lines = sound_track.track(ws, project).shots[0].lines
    assert len(lines) == 2
    assert all(line.words in said for line in lines)
    record(ws, project, shots[0], lines[0].words, 20.0)
    assert run_through.read_along(ws, project)[0].in_voice
