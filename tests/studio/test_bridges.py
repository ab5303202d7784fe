"""Bridges in a project: proposed where a cut jars or words outrun, put in with their threads and words, refused, and undone; their briefs have both frames."""

import pytest

from juxtaform.studio import bridges, bundles, clips, plan, projects, sounds, story, takes, threads
from juxtaform.studio.desk import Desk
from juxtaform.studio.findings import Findings
from juxtaform.studio.sounds import NewSound
from juxtaform.studio.workspace import NotThere
from tests.conftest import flat, rows
from tests.constructed_clips import film, frames
from tests.constructed_sounds import voice, wav

TEXT = (
    "The tide had been gone three days. Nobody knew why, and nobody asked the crab. The crab would not have said.\n\n"
    "Ada turned round. There was the key."
)


@pytest.fixture
def look(ws):
    return Findings(ws)


@pytest.fixture
def shots(ws, project):
    """Two shots that cover the text, with pictures; Ada runs through both, at the quay."""
    plan.add_scene(ws, project, "The quay")
    story.keep(ws, project, TEXT)
    plan.insert_shot(ws, project, rows(ws, project, "shot")[0]["id"])
    ids = [x["id"] for x in rows(ws, project, "shot")]
    revision, cut = rows(ws, project, "project")[0]["text_revision"], TEXT.index("Ada")
    for i, (shot, span) in enumerate(zip(ids, ((0, cut - 2), (cut, len(TEXT))), strict=True)):
        story.anchor_again(ws, project, shot, *span, revision)
        plan.edit_shot(ws, project, shot, {"length_s": 12.0, "size": "WS" if i else "MS", "shows": f"Step {i}"}, None)
        sha = takes.take_in(ws, f"p{i}.png", flat((40 + 80 * i, 91, 121), (96, 64))).sha
        takes.accept(ws, project, [(f"p{i}.png", sha, shot)])
    for kind, name in (("character", "Ada"), ("setting", "Quay"), ("style", "Paper")):
        made = threads.make(ws, project, kind, name).rows["thread"][0]["id"]
        threads.assign(ws, project, made, ids, on=True)
    return ids


def facing(ws, project, *ways):
    ada = next(t["id"] for t in rows(ws, project, "thread") if t["name"] == "Ada")
    for shot, way in zip((x["id"] for x in rows(ws, project, "shot")), ways, strict=False):
        threads.set_beads(ws, project, ada, [shot], {"facing": way})


def test_nothing_is_proposed_where_nothing_jars(ws, project, shots, look):
    assert bridges.proposed(look, ws, project) == []


def test_a_line_that_is_crossed_gets_a_view_from_the_front_and_both_frames_in_its_brief(ws, project, shots, look):
    facing(ws, project, "left", "right")
    view = bridges.proposed(look, ws, project)[0]
    assert (view.before_id, view.after_id, view.because) == (shots[0], shots[1], ("Ada changes sides",))
    assert view.shows == "Ada, seen from the front, Quay."
    changed = bridges.take_in(look, ws, project, view.key)
    assert changed.label == "put a shot between shot 1 and the next"
    middle = rows(ws, project, "shot")[1]
    assert (middle["bridge"], middle["size"], middle["shows"]) == (True, view.size, view.shows)
    beads = {b["thread_id"]: b["facing"] for b in rows(ws, project, "bead") if b["shot_id"] == middle["id"]}
    names = {t["id"]: t["name"] for t in rows(ws, project, "thread")}
    assert {names[t]: way for t, way in beads.items()} == {"Ada": "camera", "Quay": "", "Paper": ""}
    assert bridges.proposed(look, ws, project) == []
    picked = {t["shot_id"]: t["picture_sha"] for t in rows(ws, project, "take")}
    with ws.database.reading() as s:
        brief = Desk.read(s, project).brief(1)
    ends = [(p.role, p.sha) for p in brief.pictures if p.role in ("first", "last")]
    assert ends == [("first", picked[shots[0]]), ("last", picked[shots[1]])]
    again = takes.take_in(ws, "new.png", flat((9, 99, 199), (96, 64))).sha
    takes.replace_picture(ws, project, shots[1], "new.png", again)
    live = look.brief(project, middle["id"])
    assert [p.sha for p in live.fitted.brief.pictures if p.role == "last"] == [again]
    projects.undo(ws, project)
    projects.undo(ws, project)
    assert len(rows(ws, project, "shot")) == 2


def test_after_and_before_a_clip_a_bridge_has_the_frames_that_are_seen_there(ws, project, shots, look, tmp_path):
    facing(ws, project, "left", "right")
    for i, shot in enumerate(shots):
        made = film(frames(24, "grey", seed=i)[0], tmp_path / f"{i}.mp4")
        sha = takes.take_in(ws, f"{i}.mp4", made).sha
        takes.replace_picture(ws, project, shot, f"{i}.mp4", sha)
    one, two = (next(t for t in rows(ws, project, "take") if t["shot_id"] == x and t["picked"]) for x in shots)
    clips.trim(ws, project, two["id"], (0.5, 1.5))
    bridges.take_in(look, ws, project, bridges.proposed(look, ws, project)[0].key)
    two = next(t for t in rows(ws, project, "take") if t["id"] == two["id"])
    ends = [(p.role, p.sha) for p in look.brief(project, rows(ws, project, "shot")[1]["id"]).fitted.brief.pictures]
    assert ends[-2:] == [("first", one["last_sha"]), ("last", two["first_sha"])]
    with ws.database.reading() as s:
        brief = Desk.read(s, project).brief(1)
    assert [p.sha for p in brief.pictures][-2:] == [one["last_sha"], two["first_sha"]]
    assert len({one["picture_sha"], one["last_sha"], two["picture_sha"], two["first_sha"]}) == 4


def test_words_that_outrun_go_with_the_bridge_from_a_sentence_on(ws, project, shots, look):
    plan.edit_shot(ws, project, shots[0], {"length_s": 4.0}, None)
    view = bridges.proposed(look, ws, project)[0]
    assert view.carries_words
    assert view.because[0].startswith("The words of shot 1 take ")
    bridges.take_in(look, ws, project, view.key)
    read = [story.reading(ws, project)]
    assert read
    covered = {x["id"]: x for x in rows(ws, project, "shot")}
    first, middle = covered[shots[0]], rows(ws, project, "shot")[1]
    assert TEXT[first["start_at"] : first["end_at"]] == "The tide had been gone three days."
    assert TEXT[middle["start_at"] : middle["end_at"]].startswith("Nobody knew why")
    assert middle["length_s"] > 4.0
    projects.undo(ws, project)
    assert TEXT[: rows(ws, project, "shot")[0]["end_at"]].endswith("have said.")


def test_a_voice_that_runs_on_is_given_a_picture_and_keeps_its_words(ws, project, shots, look):
    plan.edit_shot(ws, project, shots[0], {"length_s": 9.0}, None)
    line = TEXT[: TEXT.index("\n")]
    sounds.add(ws, project, wav(voice([(0.1, 13.9)], 14.0)), NewSound(shots[0], "Told", "voice", line))
    view = bridges.proposed(look, ws, project)[0]
    assert (view.carries_words, view.length_s) == (True, pytest.approx(5.1, abs=0.15))
    bridges.take_in(look, ws, project, view.key)
    assert rows(ws, project, "shot")[0]["end_at"] == len(line)
    assert bridges.proposed(look, ws, project) == []
    from juxtaform.studio import sound_track

    assert [n.kind for n in sound_track.track(ws, project).notes if n.kind in ("longer", "together")] == []


def test_what_is_refused_is_not_proposed_again_until_it_is_undone(ws, project, shots, look):
    facing(ws, project, "left", "right")
    key = bridges.proposed(look, ws, project)[0].key
    bridges.refuse(look, ws, project, key)
    assert bridges.proposed(look, ws, project) == []
    with pytest.raises(NotThere):
        bridges.refuse(look, ws, project, key)
    with pytest.raises(NotThere, match="not proposed any more"):
        bridges.take_in(look, ws, project, key)
    projects.undo(ws, project)
    assert bridges.proposed(look, ws, project)[0].key == key


def test_a_bundle_keeps_what_is_a_bridge(ws, project, shots, look, tmp_path):
    facing(ws, project, "left", "right")
    bridges.take_in(look, ws, project, bridges.proposed(look, ws, project)[0].key)
    with (tmp_path / "b.zip").open("wb") as out:
        bundles.give_out(ws, project, out)
    with (tmp_path / "b.zip").open("rb") as file:
        copy = bundles.take_in(ws, file, "b.zip")
    assert [x["bridge"] for x in rows(ws, copy, "shot")] == [False, True, False]
