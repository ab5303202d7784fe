"""The demo's seeded mistakes are all found, and nothing else is."""

import pytest

from juxtaform.demo import by_hand, script, seen, story
from juxtaform.demo.load import load
from juxtaform.studio import checking, clip_readings, edit_proofs, plan
from juxtaform.studio import story as story_text
from juxtaform.studio.checking import Checker
from juxtaform.studio.findings import Findings, let_stand
from tests.conftest import rows

SEEDED = {
    (1, "lettering", ""),
    (2, "line_crossed", ""),
    (7, "place_changed", ""),
    (9, "unplanned_doubtful", ""),
    (2, "trait_missing", "Whistle"),
    (2, "extra", "red"),
    (3, "border", ""),
    (4, "named_absent", ""),
    (5, "trait_changed", "Coat"),
    (6, "style_break", ""),
    (8, "trait_changed", "Eye"),
    (10, "style_slide", ""),
}


@pytest.fixture(scope="module")
def demo(ws) -> str:
    """The demo with what was made by hand; it is drawn once for all that is asked of it."""
    project = load(ws)
    with ws.database.reading() as s:
        shots = [x.id for x in plan.in_order(s, project)]
    by_hand.bring(ws, project, shots)
    return project


@pytest.mark.slow
def test_the_demo_shows_its_seeded_mistakes_and_nothing_else(ws, demo, checker: Checker):
    project = demo
    checker.start(project)
    checker.wait(project, 900)
    with ws.database.session() as s:
        numbers = {shot.id: i + 1 for i, shot in enumerate(plan.in_order(s, project))}
    found = checking.outcome(ws, project).findings
    assert {(numbers[f.shot], f.kind, f.trait) for f in found} == SEEDED
    assert len(found) == len(SEEDED)
    slide = next(f for f in found if f.kind == "style_slide")
    assert (numbers[slide.until], numbers[slide.back_to]) == (12, 9)
    eye = next(f for f in found if f.trait == "Eye")
    assert eye.title == "Sprocket's eye is red; on the references it is blue"
    look, stood = Findings(ws), let_stand(ws, project)
    assert [(numbers[f.shot], f.kind) for f in look.of(project, "plan")] == [(5, "moves_in_still")]
    told = look.of(project, "brief")
    assert [(numbers[f.shot], f.kind) for f in told if f.key not in stood] == [
        (1, "unpicturable"),
        (4, "named_not_attached"),
        (5, "motion"),
    ]
    assert {f.kind for f in told if f.key in stood} == {"pattern"}
    assert [numbers[f.shot] for f in look.of(project, "take")] == [11, 12]
    assert look.of(project, "reference") == []
    [style] = [t for t in rows(ws, project, "thread") if t["kind"] == "style"]
    assert [t["role"] for t in style["tones"]] == ["lead", "lead", "other", "ground"]
    reading = story_text.reading(ws, project)
    assert reading.gaps == ()
    told = rows(ws, project, "shot")
    assert sum(1 for s in told if s["sketch_sha"]) == 4
    assert len(rows(ws, project, "beat")) == 6


def test_the_story_is_fit_for_reading_aloud_in_about_two_minutes():
    body = " ".join(line for line in story.TEXT.splitlines() if not line.startswith("#"))
    assert 240 <= len(body.split()) <= 300
    assert len(story.SHOTS) == 12
    for facts in story.SHOTS:
        assert facts.covers[0] in story.TEXT
        assert facts.covers[1] in story.TEXT


def test_the_script_has_every_part_of_a_screenplay_and_is_proposed_but_for_its_first_scene(ws):
    project = script.load(ws)
    reading = story_text.reading(ws, project)
    kinds = {kind for kind, *_ in reading.passages}
    assert kinds >= {
        "title",
        "section",
        "synopsis",
        "scene",
        "action",
        "character",
        "dialogue",
        "parenthetical",
        "note",
        "boneyard",
        "lyric",
        "transition",
        "centred",
    }
    assert reading.gaps == ()
    assert reading.troubles == ()
    by_scene = {s["id"]: s["title"] for s in rows(ws, project, "scene")}
    states = {(by_scene[s["scene_id"]].split(" - ")[1], s["status"]) for s in rows(ws, project, "shot")}
    assert states == {
        ("DUSK", "settled"),
        ("NIGHT", "proposed"),
        ("CONTINUOUS", "proposed"),
        ("MIDNIGHT", "proposed"),
        ("DAWN", "proposed"),
    }
    assert {t["name"] for t in rows(ws, project, "thread") if t["kind"] == "character"} >= {"Pell", "Oda", "Sprocket"}
    planned, _ = Findings(ws).lengths(project)
    assert planned.spoken_s > 10
    assert planned.told_s == 0


def test_what_was_made_by_hand_shows_what_is_wrong_in_it(ws, demo):
    project = demo
    made = {t["name"]: t for t in rows(ws, project, "take")}
    told = edit_proofs.prove(ws, project, made["coat mended.png"]["id"])
    assert told.words.startswith("One place outside the area changed")
    x, y, _ = by_hand.STRAY
    place = told.places[0].box
    assert place.x < x * 1200 < place.x + place.w
    assert place.y < y * 800 < place.y + place.h
    clip = clip_readings.told(ws, project, made["into the cave.mp4"]["id"])
    slips = by_hand.SLIPS_FROM / by_hand.CLIP_RATE
    assert slips - 0.5 < clip.proposed[1] < slips + 1.0
    assert not made["coat mended.png"]["picked"]
    seen.by_a_viewer(ws, project)
    said = Findings(ws).of(project, "viewer")
    assert [f.kind for f in said] == ["viewer_note", "viewer_change", "viewer_note"]
    assert {f.title.split(":")[0] for f in said if f.kind == "viewer_note"} == {seen.VIEWER}
