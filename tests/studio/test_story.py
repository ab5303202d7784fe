"""The story's use cases on a real database: text in and out, anchoring, proposals, frame, plan, pages, tables, history."""

import csv
import io
import random
from dataclasses import asdict

import numpy as np
import pytest

from juxtaform.core.picture.regions import Box
from juxtaform.core.text.anchoring import Span, anchored
from juxtaform.records.models import Change, Shot
from juxtaform.studio import (
    plan,
    planning,
    projects,
    proposals,
    rowsheet,
    sketches,
    story,
    story_frame,
    tables,
    takes,
    threads,
)
from juxtaform.studio.findings import Findings
from juxtaform.studio.rowsheet import CopiedBead
from juxtaform.studio.storytext import text_of
from juxtaform.studio.workspace import Conflict, NotPossible
from tests.conftest import covered_in, flat, plan_from, png, row, rows, statements, text_in
from tests.constructed_pages import drawn_page
from tests.story_texts import PICTURE_BOOK, SCRIPT, TEXTS

TEXT = "# One\n\nAda came in and hung up the coats. At midnight Bo left the house.\n\n# Two\n\nAda found a lamp by the door."


def shown(ws, project):
    return [s["shows"] for s in rows(ws, project, "shot")]


def labels(ws, project):
    return [h.label for h in projects.history(ws, project)]


@pytest.fixture
def told(ws, project):
    story.keep(ws, project, TEXT)
    proposals.propose(ws, project)
    return project


def test_proposals_are_proposals_until_they_are_accepted(ws, told):
    assert {s["status"] for s in rows(ws, told, "shot")} == {"proposed"}
    first, second, third = (s["id"] for s in rows(ws, told, "shot"))
    proposals.accept(ws, told, [second])
    assert [s["status"] for s in rows(ws, told, "shot")] == ["proposed", "settled", "proposed"]
    plan.edit_shot(ws, told, first, {"shows": "Mine"}, None)
    takes.accept(ws, told, [("a.png", str(takes.take_in(ws, "a.png", flat()).sha), third)])
    assert {s["status"] for s in rows(ws, told, "shot")} == {"settled"}
    assert "accepted shot 2" in labels(ws, told)


def test_accept_all_takes_what_is_sure_and_leaves_the_rest_to_be_looked_at(ws, told):
    shots = rows(ws, told, "shot")
    with ws.writing(told, "doubt") as w:
        w.session.get(Shot, shots[1]["id"]).sure = 0.4
    proposals.accept(ws, told)
    assert [s["status"] for s in rows(ws, told, "shot")] == ["settled", "proposed", "settled"]
    with pytest.raises(NotPossible, match="Look at each"):
        proposals.accept(ws, told)
    proposals.accept(ws, told, [shots[1]["id"]])
    assert {s["status"] for s in rows(ws, told, "shot")} == {"settled"}


def test_the_pages_that_are_wanted_tell_how_many_pictures_are_proposed(ws, project):
    story.keep(ws, project, " ".join(t.text.replace("#", "") for t in TEXTS[1:4]))
    counts = []
    for pages in (16, 40):
        projects.edit(ws, project, {"medium": "book", "target_pages": pages}, None)
        proposals.propose(ws, project)
        counts.append(len(rows(ws, project, "shot")))
    assert counts == [pytest.approx(8, abs=1), pytest.approx(20, abs=1)]


def test_the_reading_tells_its_language_and_how_speech_is_marked(ws, project):
    story.keep(
        ws,
        project,
        "„Komm“, sagte Merle. Der Hund war nicht im Haus, und Merle hatte es auch nicht. „Nein“, sagte Merle.",
    )
    reading = story.reading(ws, project)
    assert (reading.language, reading.speech) == ("German", "„ “")
    assert [c.name for c in reading.found] == ["Merle"]


def test_a_text_that_is_changed_keeps_the_plan_and_new_words_are_proposed_alone(ws, told):
    proposals.accept(ws, told)
    before = {s["id"]: s for s in rows(ws, told, "shot")}
    story.keep(
        ws, told, TEXT.replace("# Two", "The moon rose over the sea.\n\n# Two").replace("a lamp", "a brass lamp")
    )
    assert covered_in(ws, told) == [
        "Ada came in and hung up the coats.",
        "At midnight Bo left the house.",
        "Ada found a brass lamp by the door.",
    ]
    proposals.propose(ws, told)
    after = rows(ws, told, "shot")
    assert [s["id"] in before for s in after] == [True, True, False, True]
    assert after[2]["status"] == "proposed"
    assert after[2]["scene_id"] == after[1]["scene_id"]
    assert [s["title"] for s in rows(ws, told, "scene")] == ["One", "Two"]


def test_typing_at_a_place_comes_to_the_same_as_the_whole_text_compared(ws, project):
    """At every step each shot covers what comparing the two texts whole says; undone, all is as it was."""
    rng = random.Random(7)
    words = "\n\n".join(t.text for t in TEXTS if t.syntax == "prose")
    story.keep(ws, project, words)
    proposals.propose(ws, project)
    proposals.accept(ws, project)
    before = covered_in(ws, project)
    assert len(before) > 30
    assert len(rows(ws, project, "text_part")) > 4
    for step in range(40):
        at = rng.randrange(len(words))
        gone = min(rng.choice([0, 0, 0, 0, 1, 4, 30]) if step != 25 else 1500, len(words) - at)
        put = rng.choice(["a", " and then", "\n\n", "Bo came in. ", "", words[100:900] if step % 20 == 9 else "b"])
        new = words[:at] + put + words[at + gone :]
        with ws.database.session() as s:
            text = text_of(s, project)
            spans = [Span(x.id, *held) for x in plan.in_order(s, project) if (held := text.stretch(x))]
        kept, _ = anchored(words, new, sorted(spans, key=lambda x: x.start))
        story.type_in(ws, project, at, gone, put, row(ws, project, "project")["text_revision"])
        words = new
        assert text_in(ws, project) == words
        told = dict(zip((s["id"] for s in rows(ws, project, "shot")), covered_in(ws, project), strict=True))
        assert {a.id: told[a.id] for a in kept} == {a.id: words[a.start : a.end] for a in kept}, (step, at, gone, put)
    assert sum(c is not None for c in told.values()) > 30
    projects.undo(ws, project)
    assert covered_in(ws, project) == before


def test_typing_at_a_place_of_another_text_is_refused(ws, told):
    seen = row(ws, told, "project")["text_revision"]
    story.keep(ws, told, TEXT + " More.")
    with pytest.raises(Conflict) as caught:
        story.type_in(ws, told, 3, 0, "x", seen)
    assert caught.value.theirs["text"] == TEXT + " More."
    with pytest.raises(NotPossible, match="no such place"):
        story.type_in(ws, told, 9999, 0, "x", seen + 1)


def test_proposing_again_in_a_stretch_leaves_the_rest_alone(ws, told):
    ids = [s["id"] for s in rows(ws, told, "shot")]
    text = text_in(ws, told)
    proposals.propose(ws, told, text.index("# Two"), len(text))
    again = [s["id"] for s in rows(ws, told, "shot")]
    assert again[:2] == ids[:2]
    assert len(again) == 3


def test_words_that_are_gone_are_listed_and_come_back(ws, told):
    proposals.accept(ws, told)
    story.keep(ws, told, TEXT.replace("At midnight Bo left the house.", ""))
    lost = [s for s in rows(ws, told, "shot") if s["lost"]]
    assert [s["lost"] for s in lost] == ["At midnight Bo left the house."]
    story.keep(ws, told, TEXT)
    assert covered_in(ws, told)[1] == "At midnight Bo left the house."
    assert not [s for s in rows(ws, told, "shot") if s["lost"]]


def test_a_lost_proposal_just_goes(ws, told):
    story.keep(ws, told, TEXT.replace("At midnight Bo left the house.", ""))
    assert len(rows(ws, told, "shot")) == 2


def test_typing_is_one_step_in_the_history_and_undo_takes_it_back(ws, project):
    for i in range(1, 6):
        story.keep(ws, project, "Once upon a time"[: 3 * i])
    assert labels(ws, project) == ["edited the text"]
    projects.undo(ws, project)
    assert text_in(ws, project) == ""
    projects.redo(ws, project)
    assert text_in(ws, project) == "Once upon a tim"


def test_another_step_between_parts_typing_in_two(ws, project):
    story.keep(ws, project, "One.")
    threads.make(ws, project, "character", "Ada")
    story.keep(ws, project, "One. Two.")
    assert labels(ws, project) == ["edited the text", "made Ada", "edited the text"]


def test_two_who_write_at_once_are_told(ws, project):
    story.keep(ws, project, "One.", 1)
    with pytest.raises(Conflict) as caught:
        story.keep(ws, project, "Other.", 1)
    assert (caught.value.mine["text"], caught.value.theirs["text"]) == ("Other.", "One.")
    story.keep(ws, project, "Other.", caught.value.theirs["text_revision"])
    assert text_in(ws, project) == "Other."


def test_a_script_comes_in_and_goes_out_unharmed(ws, project):
    data = SCRIPT.text.replace("\n", "\r\n").encode("utf-16")
    story.take_in(ws, project, "tram.fountain", data)
    assert row(ws, project, "project")["syntax"] == "fountain"
    out = story.give_out(ws, project)
    assert out.data == data
    assert out.name.endswith(".fountain")
    reading = story.reading(ws, project)
    assert {c.name for c in reading.found if c.kind == "character" and c.sure} >= {"Jona", "Conductor"}
    assert len(reading.gaps) > 5


@pytest.mark.parametrize("data", [b"\x89PNG\r\n\x1a\n\0\0\0", b"   \n", b"x" * (9 * 2**20)])
def test_what_is_no_story_changes_nothing(ws, told, data):
    with pytest.raises(NotPossible):
        story.take_in(ws, told, "x.txt", data)
    assert text_in(ws, told) == TEXT


def test_a_broken_script_is_taken_in_and_says_where(ws, project):
    story.take_in(ws, project, "x.fountain", b"EXT. QUAY - DAY\n\nBoats.\n\n/* never closed\n\nMore boats.")
    [trouble] = story.reading(ws, project).troubles
    assert trouble.line == 5


def test_threads_are_made_of_what_the_text_names_and_run_where_it_names_them(ws, told):
    story.keep(ws, told, TEXT.replace("At midnight Bo", "“Wait,” said Ada. At midnight Bo"))
    proposals.propose(ws, told)
    offered = {(c.kind, c.name) for c in story.reading(ws, told).found}
    assert ("character", "Ada") in offered
    proposals.make_threads(ws, told, [("character", "Ada"), ("character", "Bo")])
    ids = {t["name"]: t["id"] for t in rows(ws, told, "thread")}
    running = {t: {b["shot_id"] for b in rows(ws, told, "bead") if b["thread_id"] == i} for t, i in ids.items()}
    for shot, words in zip(rows(ws, told, "shot"), covered_in(ws, told), strict=True):
        for name in ("Ada", "Bo"):
            assert (shot["id"] in running[name]) == (name in words or (name == "Ada" and "Wait" in words)), words
    assert any(ids["Ada"] in s["speakers"] for s in rows(ws, told, "shot"))
    assert not {"Ada", "Bo"} & {c.name for c in story.reading(ws, told).found}
    with pytest.raises(NotPossible):
        proposals.make_threads(ws, told, [("character", "Nobody")])


def many_scenes(ws, count):
    """How often the database is asked to propose so many scenes, to make a thread of them, to paste a column, and to paste the shots."""
    project = projects.make(ws, "Many scenes")
    story.keep(ws, project, "\n\n".join(f"# Door {i}\n\nAda and Bo opened door {i}." for i in range(count)))
    threads.make(ws, project, "character", "Bo")
    proposed = statements(ws, lambda: proposals.propose(ws, project))
    assert [s["title"] for s in rows(ws, project, "scene")] == [f"Door {i}" for i in range(count)]
    shots = [s["id"] for s in rows(ws, project, "shot")]
    proposals.accept(ws, project, shots)
    made = statements(ws, lambda: proposals.make_threads(ws, project, [("character", "Ada")]))
    assert len(rows(ws, project, "bead")) == 2 * count
    bo = next(t["id"] for t in rows(ws, project, "thread") if t["name"] == "Bo")
    every_second = [None, CopiedBead()]
    laid = statements(ws, lambda: rowsheet.paste_beads(ws, project, bo, shots[0], every_second, count))
    copied = rowsheet.copied_shots(ws, project, shots)
    pasted = statements(ws, lambda: rowsheet.paste_shots(ws, project, shots[-1], copied))
    assert len(rows(ws, project, "shot")) == 2 * count
    assert len(rows(ws, project, "bead")) == 3 * count
    return proposed, made, laid, pasted


def test_ten_times_the_scenes_ask_the_database_as_often(ws):
    few, many = many_scenes(ws, 6), many_scenes(ws, 60)
    assert all(b <= a + 8 for a, b in zip(few, many, strict=True)), (few, many)


def test_known_threads_get_beads_with_the_proposals_and_a_place_is_carried_on(ws, project):
    for kind, name in (("character", "Mina"), ("setting", "Bakery"), ("style", "Paper")):
        threads.make(ws, project, kind, name)
    story.keep(ws, project, PICTURE_BOOK.text)
    proposals.propose(ws, project)
    names = {t["id"]: t["name"] for t in rows(ws, project, "thread")}
    first = rows(ws, project, "shot")[0]["id"]
    assert {names[b["thread_id"]] for b in rows(ws, project, "bead") if b["shot_id"] == first} == {
        "Mina",
        "Bakery",
        "Paper",
    }


LOOKED_ON = (
    "Ada and Ben sat at the table in the kitchen.\n\nAda filled the bowls.\n\nAda and Ben ate the soup.\n\n"
    "Ada laughed.\n\nBen laughed and Ada sang."
)


def test_who_may_look_on_is_asked_about_while_a_shot_is_proposed(ws, project):
    for name in ("Ada", "Ben"):
        threads.make(ws, project, "character", name)
    story.keep(ws, project, LOOKED_ON)
    proposals.propose(ws, project)
    ben = rows(ws, project, "thread")[1]["id"]
    findings = Findings(ws)
    shots = [s["id"] for s in rows(ws, project, "shot")]

    def asked():
        needs = findings.lengths(project)[1]
        return [needs[i].also for i in shots]

    assert asked() == [(), (ben,), (), (ben,), ()]
    threads.assign(ws, project, ben, [shots[1]], on=True)
    assert asked()[1] == ()
    proposals.accept(ws, project, shots[:3])
    assert asked() == [(), (), (), (ben,), ()]
    projects.undo(ws, project)
    projects.undo(ws, project)
    assert asked()[1] == (ben,)
    assert findings.lengths(project) == Findings(ws).lengths(project)


def test_a_script_names_all_whom_it_shows(ws, project):
    for name in ("Ada", "Ben"):
        threads.make(ws, project, "character", name)
    story.take_in(ws, project, "soup.fountain", f"INT. KITCHEN - DAY\n\n{LOOKED_ON}\n\nADA\nMore soup?".encode())
    proposals.propose(ws, project)
    assert not any(need.also for need in Findings(ws).lengths(project)[1].values())


def test_a_bracket_covers_what_it_is_told_to_and_never_nothing(ws, told):
    shot = rows(ws, told, "shot")[0]
    story.anchor_again(ws, told, shot["id"], TEXT.index("Ada"), TEXT.index("hung"))
    assert covered_in(ws, told)[0] == "Ada came in and"
    gaps = [TEXT[g.start : g.end] for g in story.reading(ws, told).gaps]
    assert gaps == ["hung up the coats."]
    with pytest.raises(NotPossible):
        story.anchor_again(ws, told, shot["id"], 5, 5)


def test_split_and_merge_go_by_the_text(ws, told):
    shot = rows(ws, told, "shot")[0]
    plan.split_shot(ws, told, shot["id"], TEXT.index("and hung"))
    assert covered_in(ws, told)[:2] == ["Ada came in", "and hung up the coats."]
    plan.edit_shot(ws, told, rows(ws, told, "shot")[1]["id"], {"motion": "coats swing", "sound": "thud"}, None)
    plan.merge_up(ws, told, rows(ws, told, "shot")[1]["id"])
    merged = rows(ws, told, "shot")[0]
    assert (covered_in(ws, told)[0], merged["motion"], merged["sound"]) == (
        "Ada came in and hung up the coats.",
        "coats swing",
        "thud",
    )
    assert merged["status"] == "settled"


def test_a_frame_is_drawn_up_filled_moved_and_written_on_from(ws, project):
    projects.edit(
        ws, project, {"premise": "A crab minds the tide.", "frame_cast": [{"name": "Pell", "line": "nine"}]}, None
    )
    story_frame.draw_up(ws, project, "three tries")
    beats = rows(ws, project, "beat")
    assert len(beats) == 6
    story_frame.edit_beat(ws, project, beats[0]["id"], {"answer": "Pell must wake the tide."}, beats[0]["revision"])
    story_frame.move_beat(ws, project, beats[0]["id"], 1)
    assert [b["title"] for b in rows(ws, project, "beat")][:2] == [beats[1]["title"], beats[0]["title"]]
    story_frame.add_beat(ws, project, beats[0]["id"])
    story_frame.drop_beat(ws, project, beats[5]["id"])
    assert len(rows(ws, project, "beat")) == 6
    text = story_frame.into_text(ws, project)
    assert "Pell must wake the tide." in text
    story_frame.draw_up(ws, project, "round")
    kept = rows(ws, project, "beat")
    assert kept[0]["answer"] == "Pell must wake the tide."
    assert len(kept) == 6
    for _ in range(7):
        projects.undo(ws, project)
    assert rows(ws, project, "beat") == []
    with pytest.raises(NotPossible):
        story_frame.draw_up(ws, project, "a spiral")
    with pytest.raises(NotPossible):
        story_frame.into_text(ws, project)


def test_the_plan_is_judged_and_its_findings_can_stand(ws, project):
    plan_from(
        ws,
        project,
        "\n\n".join(
            f"{w} looks at a hand for a long time and does not say what it is that hurts so much today, part {i}."
            for i, w in enumerate(("Ada", "Bo") * 3)
        ),
    )
    look = Findings(ws)
    run = next(f for f in look.of(project, "plan") if f.kind == "same_size")
    look.stet(project, run.key, "A rhythm")
    assert labels(ws, project)[0].startswith("let stand: ")
    assert run.title in labels(ws, project)[0]
    assert run.key in {f.key for f in look.of(project)}
    plan.edit_shot(ws, project, rows(ws, project, "shot")[2]["id"], {"size": "WS"}, None)
    assert run.key not in {f.key for f in look.of(project)}


def test_lengths_come_from_the_words_and_are_fitted_to_a_target(ws, told):
    for shot in rows(ws, told, "shot"):
        plan.edit_shot(ws, told, shot["id"], {"length_s": 12.0}, None)
    projects.edit(ws, told, {"target_s": 24.0}, None)
    told_plan, needs = Findings(ws).lengths(told)
    assert told_plan.balance.over_s == pytest.approx(12.0)
    assert told_plan.spoken_s == 0.0
    assert told_plan.told_s == pytest.approx(sum(s.words_s for s in needs.values()), abs=0.5)
    assert told_plan.told_s + told_plan.shown_s == pytest.approx(36.0)
    planning.fit_to_target(ws, told)
    assert sum(s["length_s"] for s in rows(ws, told, "shot")) == pytest.approx(24.0, abs=0.3)
    planning.time_from_words(ws, told)
    slow = [s["length_s"] for s in rows(ws, told, "shot")]
    projects.edit(ws, told, {"audience": "silent", "language": "English"}, None)
    planning.time_from_words(ws, told)
    assert all(b <= a for a, b in zip(slow, [s["length_s"] for s in rows(ws, told, "shot")], strict=True))


def test_pages_are_counted_for_a_book(ws, told):
    shots = rows(ws, told, "shot")
    plan.edit_shot(ws, told, shots[0]["id"], {"page_form": "spread"}, None)
    plan.edit_shot(ws, told, shots[1]["id"], {"page_form": "half"}, None)
    assert Findings(ws).lengths(told)[0].pages == 3.5


def test_framings_are_kept_beside_a_shot_and_taken(ws, told):
    shot = rows(ws, told, "shot")[1]
    offers = planning.framings(ws, told, shot["id"])
    assert len(offers) >= 3
    kept = [asdict(f) for f in offers]
    planning.keep_framings(ws, told, shot["id"], kept, 0)
    now = rows(ws, told, "shot")[1]
    assert (now["size"], now["angle"]) == (offers[0].size, offers[0].angle)
    assert now["framings"][0]["size"] == shot["size"]
    planning.keep_framings(ws, told, shot["id"], now["framings"], 0)
    assert rows(ws, told, "shot")[1]["size"] == shot["size"]
    with pytest.raises(NotPossible):
        planning.keep_framings(ws, told, shot["id"], [], 3)


def test_what_moves_goes_to_the_motion_note(ws, told):
    shot = rows(ws, told, "shot")[0]
    plan.edit_shot(ws, told, shot["id"], {"shows": "Ada by the door; the camera pans left."}, None)
    planning.move_to_motion(ws, told, shot["id"])
    now = rows(ws, told, "shot")[0]
    assert (now["shows"], now["motion"]) == ("Ada by the door.", "The camera pans left.")
    with pytest.raises(NotPossible):
        planning.move_to_motion(ws, told, shot["id"])


def test_a_photographed_page_becomes_shots_with_sketches(ws, told):
    drawn = drawn_page(np.random.default_rng(4), 2, desk=True, turn=3.0, perspective=0.03)
    page = sketches.look(ws, "page.png", png(drawn.photo), "page", "left to right")
    assert len(page.boxes) == 4
    sketches.into_shots(ws, told, page.sha, page.boxes, None)
    made = rows(ws, told, "shot")[-4:]
    assert all(s["sketch_sha"] for s in made)
    assert {p["sha"] for p in projects.snapshot(ws, told).pictures} >= {s["sketch_sha"] for s in made}
    sketches.set_sketch(ws, told, made[0]["id"], None)
    assert rows(ws, told, "shot")[-4]["sketch_sha"] is None
    with pytest.raises(NotPossible):
        sketches.into_shots(ws, told, page.sha, [], None)
    with pytest.raises(NotPossible):
        sketches.into_shots(ws, told, page.sha, [Box(99999, 0, 10, 10)], None)
    with pytest.raises(NotPossible):
        sketches.look(ws, "x.png", b"no picture", "page", "left to right")


def test_a_sheet_of_views_becomes_references(ws, told):
    thread = threads.make(ws, told, "character", "Ada").rows["thread"][0]["id"]
    sheet = np.full((300, 600, 3), 255, np.uint8)
    sheet[60:240, 80:180] = (190, 80, 40)
    sheet[60:240, 380:480] = (40, 80, 190)
    found = sketches.look(ws, "sheet.png", png(sheet), "views", "left to right")
    assert len(found.boxes) == 2
    sketches.into_references(ws, told, found.sha, found.boxes, thread)
    assert [r["name"] for r in rows(ws, told, "reference")] == ["view 1", "view 2"]


def test_the_shot_table_makes_a_round_trip(ws, told):
    threads.make(ws, told, "character", "Ada")
    first = rows(ws, told, "shot")[0]
    threads.assign(ws, told, rows(ws, told, "thread")[0]["id"], [first["id"]], on=True)
    plan.edit_shot(ws, told, first["id"], {"aspect": "1:1", "seed": 7, "donts": ["frames", "lettering"]}, None)
    before = rows(ws, told, "shot"), rows(ws, told, "bead")
    for data in (tables.as_csv(ws, told), tables.as_tabs(ws, told)):
        changed = tables.take_in(ws, told, data)
        assert changed.version == changed.since
    assert (rows(ws, told, "shot"), rows(ws, told, "bead")) == before


def test_a_table_changes_shots_makes_new_ones_and_assigns(ws, told):
    threads.make(ws, told, "character", "Ada")
    table = list(csv.DictReader(io.StringIO(tables.as_csv(ws, told).decode("utf-8-sig"))))
    table[0]["Shows"], table[0]["Characters"] = "Changed", "Ada"
    table[1]["Length"] = "4,5"
    table.append({**dict.fromkeys(table[0], ""), "Scene": "Three", "Shows": "New", "Size": "CU"})
    out = io.StringIO()
    writer = csv.DictWriter(out, list(table[0]))
    writer.writeheader()
    writer.writerows(table)
    tables.take_in(ws, told, out.getvalue())
    assert shown(ws, told)[0] == "Changed"
    assert shown(ws, told)[-1] == "New"
    assert [s["title"] for s in rows(ws, told, "scene")] == ["One", "Two", "Three"]
    assert rows(ws, told, "shot")[1]["length_s"] == 4.5
    assert len(rows(ws, told, "bead")) == 1
    assert labels(ws, told)[0] == "took in a table: 2 changed, 1 new"
    projects.undo(ws, told)
    assert len(shown(ws, told)) == 3


@pytest.mark.parametrize(
    ("cells", "says"),
    [
        ("Shows\tSize\nA\tHUGE", "Line 2, column “Size”"),
        ("Shows\tId\nA\t\nB\tnope", "Line 3: there is no shot"),
        ("Shows\tCharacters\nA\tNobody", "Line 2: there is no character “Nobody”"),
        ("Shows\tHue\nA\tred", "Line 1"),
    ],
)
def test_a_wrong_table_changes_nothing_and_says_where(ws, told, cells, says):
    before = rows(ws, told, "shot")
    with pytest.raises(NotPossible, match=says):
        tables.take_in(ws, told, cells)
    assert rows(ws, told, "shot") == before


def test_columns_and_their_order_are_kept(ws, told):
    projects.edit(ws, told, {"table_columns": ["Shows", "Number"]}, None)
    assert tables.as_csv(ws, told).decode("utf-8-sig").splitlines()[0] == "Shows,Number,Id"
    assert tables.as_pdf(ws, told).startswith(b"%PDF")


def test_any_point_of_the_history_can_be_gone_back_to(ws, project):
    states = [[]]
    for name in ("Ada", "Bo", "Cleo", "Dan"):
        threads.make(ws, project, "character", name)
        states.append([t["name"] for t in rows(ws, project, "thread")])
    with ws.database.session() as s:
        ids = [0, *(c.id for c in s.query(Change).filter_by(project_id=project).order_by(Change.id))]
    for at in (1, 3, 0, 4, 2):
        told = projects.restore(ws, project, ids[at])
        assert [t["name"] for t in rows(ws, project, "thread")] == states[at]
        assert told.rows or told.gone
    with pytest.raises(NotPossible):
        projects.restore(ws, project, ids[2])
    threads.make(ws, project, "character", "Eve")
    assert labels(ws, project) == ["made Eve", "made Bo", "made Ada"]
