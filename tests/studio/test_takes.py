"""Takes and marks of real rows: what is picked when one goes, what a retake keeps, and what a file's name may not do."""

import io

import pytest
from PIL import Image

from juxtaform.core.picture.regions import Box
from juxtaform.studio import library, plan, projects, takes, threads
from juxtaform.studio.workspace import NotPossible, NotThere
from tests.conftest import flat, plan_from, rows


@pytest.fixture
def filled(ws):
    """A project with three shots, a character, and a picture in the first shot with a mark."""
    project = projects.make(ws, "Takes")
    plan_from(ws, project, "# One\nAda came in.\n# Two\nAda sat down.\n# Three\nAda left.")
    threads.make(ws, project, "character", "Ada")
    thread = rows(ws, project, "thread")[0]["id"]
    shots = [s["id"] for s in rows(ws, project, "shot")]
    threads.assign(ws, project, thread, shots, on=True)
    takes.accept(ws, project, [("1.png", came(ws, (10, 20, 30), (60, 40)), shots[0])])
    takes.mark(ws, project, rows(ws, project, "take")[0]["id"], thread, Box(6, 4, 30, 20))
    return project, thread, shots


def came(ws, code, size=(64, 48), name="a.png"):
    return str(takes.take_in(ws, name, flat(code, size)).sha)


def picked(ws, project, shot):
    return [t["name"] for t in rows(ws, project, "take") if t["shot_id"] == shot and t["picked"]]


def test_a_retake_of_the_same_form_keeps_its_marks_at_its_own_size(ws, filled):
    project, thread, shots = filled
    takes.replace_picture(ws, project, shots[0], "larger.png", came(ws, (90, 20, 30), (120, 80)))
    assert picked(ws, project, shots[0]) == ["larger.png"]
    fresh = next(t["id"] for t in rows(ws, project, "take") if t["picked"])
    [mark] = [m for m in rows(ws, project, "mark") if m["take_id"] == fresh]
    assert (mark["thread_id"], mark["x"], mark["y"], mark["w"], mark["h"]) == (thread, 12, 8, 60, 40)


def test_a_retake_of_another_form_begins_without_marks_and_the_old_ones_stay(ws, filled):
    project, _, shots = filled
    takes.replace_picture(ws, project, shots[0], "tall.png", came(ws, (90, 20, 30), (40, 60)))
    assert len(rows(ws, project, "mark")) == 1
    assert len(rows(ws, project, "take")) == 2


def test_the_same_picture_again_is_picked_not_doubled(ws, filled):
    project, _, shots = filled
    first = came(ws, (10, 20, 30), (60, 40))
    takes.replace_picture(ws, project, shots[0], "other.png", came(ws, (1, 2, 3), (60, 40)))
    takes.replace_picture(ws, project, shots[0], "again.png", first)
    assert len(rows(ws, project, "take")) == 2
    assert picked(ws, project, shots[0]) == ["1.png"]


def test_when_the_picked_take_goes_the_newest_of_the_rest_is_picked_and_undo_brings_all_back(ws, filled):
    project, _, shots = filled
    files = [(f"1 t{i}.png", came(ws, (i * 40, 9, 9)), shots[0]) for i in range(3)]
    takes.accept(ws, project, files)
    first = next(t["id"] for t in rows(ws, project, "take") if t["picked"])
    before = projects.snapshot(ws, project).rows
    takes.remove(ws, project, first)
    assert picked(ws, project, shots[0]) == ["1 t2.png"]
    assert rows(ws, project, "mark") == []
    projects.undo(ws, project)
    after = projects.snapshot(ws, project).rows
    for table in ("take", "mark"):
        assert sorted((r["id"], r.get("picked")) for r in after[table]) == sorted(
            (r["id"], r.get("picked")) for r in before[table]
        )


def test_a_second_box_moves_the_mark_and_a_box_over_the_edge_is_cut(ws, filled):
    project, thread, _ = filled
    take = rows(ws, project, "take")[0]["id"]
    takes.mark(ws, project, take, thread, Box(50, 30, 500, 500))
    [mark] = rows(ws, project, "mark")
    assert (mark["x"], mark["y"], mark["w"], mark["h"]) == (50, 30, 10, 10)
    takes.unmark(ws, project, mark["id"])
    assert rows(ws, project, "mark") == []
    with pytest.raises(NotThere):
        takes.unmark(ws, project, mark["id"])


@pytest.mark.parametrize(
    "name", ["../1.png", "..\\1.png", "/etc/1.png", "a/../../1.png", "1\n.png", "\x001.png", "\\\\host\\1.png"]
)
def test_a_name_that_points_elsewhere_is_refused_and_nothing_is_stored(ws, name):
    before = sorted(p.name for p in ws.store.root.rglob("*"))
    taken = takes.take_in(ws, name, flat((201, 3, 77)))
    assert taken.sha is None
    assert "Rename the file" in taken.refused
    assert sorted(p.name for p in ws.store.root.rglob("*")) == before


@pytest.mark.parametrize("name", ["1.png", "act one/1.png", "Pell – 🦀.png", "1..png", "a b (2).PNG"])
def test_ordinary_names_come_in(ws, name):
    assert takes.take_in(ws, name, flat((201, 3, 77))).sha


@pytest.mark.parametrize("form", ["JPEG", "WEBP", "PNG", "GIF", "TIFF", "BMP", "PPM", "ICO"])
def test_a_picture_in_a_form_that_cannot_be_taken_says_which_can(ws, form):
    out = io.BytesIO()
    Image.new("RGB", (40, 30), (9, 200, 90)).save(out, form)
    taken = takes.take_in(ws, f"1.{form.lower()}", out.getvalue())
    if form not in ("PPM", "ICO"):
        assert (taken.width, taken.height) == (40, 30)
        assert bool(taken.told) == (form in ("GIF", "TIFF", "BMP"))
    else:
        assert taken.sha is None
        assert "PNG" in taken.refused


def test_a_picture_that_is_not_in_the_store_is_told_by_its_name(ws, filled):
    project, _, shots = filled
    with pytest.raises(NotPossible, match=r"The picture 7\.png is not in the store"):
        takes.accept(ws, project, [("7.png", "0" * 64, shots[1])])
    with pytest.raises(NotPossible, match="Drop the file again"):
        takes.replace_picture(ws, project, shots[1], "7.png", "0" * 64)
    assert len(rows(ws, project, "take")) == 1


def test_pictures_are_proposed_to_the_shots_of_their_numbers(ws, filled):
    project, _, shots = filled
    sha = came(ws, (1, 1, 1))
    told = takes.propose(ws, project, [("page 3.png", sha), ("page 1.png", sha), ("notes.png", sha)])
    assert {p.name: p.shot_id for p in told} == {"page 3.png": shots[2], "page 1.png": shots[0], "notes.png": None}


def test_a_take_remembers_what_it_was_made_from(ws, filled):
    project, thread, shots = filled
    plan.edit_shot(ws, project, shots[1], {"shows": "Ada sits on the stove."}, None)
    threads.add_references(ws, project, thread, [(came(ws, (7, 7, 7)), "front")], "")
    reference = rows(ws, project, "reference")[0]["id"]
    takes.accept(ws, project, [("2.png", came(ws, (8, 8, 8)), shots[1])])
    made = next(t["made_from"] for t in rows(ws, project, "take") if t["shot_id"] == shots[1])
    assert made["references"] == [reference]
    assert ["action", "Ada sits on the stove."] in made["phrases"]
    plan.edit_shot(ws, project, shots[1], {"shows": "Ada sleeps."}, None)
    kept = next(t["made_from"] for t in rows(ws, project, "take") if t["shot_id"] == shots[1])
    assert kept == made


def test_everything_that_came_in_is_in_the_library_even_when_its_take_is_gone(ws, filled):
    project, _, _ = filled
    take = rows(ws, project, "take")[0]
    takes.remove(ws, project, take["id"])
    assert take["picture_sha"] in {i.sha for i in library.search(ws, project, library.Search()).items}
