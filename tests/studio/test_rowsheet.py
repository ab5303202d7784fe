"""Many rows at once: facts, a column's range, shots into another project, the order of threads."""

import pytest

from juxtaform.studio import projects, rowsheet, threads
from juxtaform.studio.rowsheet import CopiedBead
from juxtaform.studio.workspace import NotPossible
from tests.conftest import plan_from, row, rows

TEXT = "\n".join(f"# S{i}\nAda went on, step {i}." for i in range(6))


@pytest.fixture
def six(ws, project):
    plan_from(ws, project, TEXT)
    threads.make(ws, project, "character", "Ada")
    threads.make(ws, project, "character", "Bo")
    return project


def shots(ws, project):
    return [s["id"] for s in rows(ws, project, "shot")]


def run(ws, project, name):
    thread = next(t["id"] for t in rows(ws, project, "thread") if t["name"] == name)
    held = {b["shot_id"]: b for b in rows(ws, project, "bead") if b["thread_id"] == thread}
    return "".join(
        "." if s not in held else {"figure": "o", "face": "f", "outfit": "c"}[held[s]["hold"]]
        for s in shots(ws, project)
    )


def test_facts_of_several_shots_are_set_at_once_and_undone_at_once(ws, six):
    ids = shots(ws, six)
    assert (
        rowsheet.edit_shots(ws, six, ids[1:4], {"size": "CU", "length_s": 4.0}).label
        == "set length and size of 3 shots"
    )
    assert [s["size"] for s in rows(ws, six, "shot")].count("CU") == 3
    projects.undo(ws, six)
    assert "CU" not in [s["size"] for s in rows(ws, six, "shot")]


def test_a_range_of_a_column_is_laid_down_elsewhere_cleared_places_too(ws, six):
    ids, (ada, bo) = shots(ws, six), (t["id"] for t in rows(ws, six, "thread"))
    threads.assign(ws, six, bo, ids, on=True)
    copied = [CopiedBead("face", 0.5, "coat"), None, CopiedBead("figure", 0.9)]
    rowsheet.paste_beads(ws, six, bo, ids[2], copied)
    assert run(ws, six, "Bo") == "oof.oo"
    rowsheet.paste_beads(ws, six, ada, ids[0], [CopiedBead("outfit"), None], length=6)
    assert run(ws, six, "Ada") == "c.c.c."
    rowsheet.paste_beads(ws, six, ada, ids[5], [CopiedBead()] * 4)
    assert run(ws, six, "Ada") == "c.c.co"
    with pytest.raises(NotPossible, match="Nothing was copied"):
        rowsheet.paste_beads(ws, six, ada, ids[0], [])


def test_shots_go_from_one_project_to_another_with_their_threads_by_name(ws, six):
    ids = shots(ws, six)
    ada = rows(ws, six, "thread")[0]["id"]
    threads.assign(ws, six, ada, ids[:2], on=True)
    threads.set_beads(ws, six, ada, ids[:1], {"hold": "face"})
    copied = rowsheet.copied_shots(ws, six, ids[:2])
    other = projects.make(ws, "Another")
    with pytest.raises(NotPossible, match="no scene yet"):
        rowsheet.paste_shots(ws, other, None, copied)
    plan_from(ws, other, "# One\nBo came.\n\nBo went out of the house.")
    threads.make(ws, other, "character", "ada")
    first = shots(ws, other)[0]
    before = len(shots(ws, other))
    rowsheet.paste_shots(ws, other, first, copied)
    told = rows(ws, other, "shot")
    assert len(told) == before + 2
    assert [s["shows"] for s in told[1:3]] == [rows(ws, six, "shot")[i]["shows"] for i in (0, 1)]
    assert run(ws, other, "ada")[1:3] == "fo"
    assert [t["name"] for t in rows(ws, other, "thread")] == ["ada"]


def test_threads_stand_in_the_order_that_was_chosen(ws, six):
    ada, bo = (t["id"] for t in rows(ws, six, "thread"))
    rowsheet.order_threads(ws, six, [bo, ada])
    assert [t["name"] for t in rows(ws, six, "thread")] == ["Bo", "Ada"]
    projects.undo(ws, six)
    assert row(ws, six, "thread")["name"] == "Ada"


def test_a_shot_has_one_style(ws, six):
    ids = shots(ws, six)
    for name in ("Ink", "Paper"):
        threads.make(ws, six, "style", name)
    ink, paper = (t["id"] for t in rows(ws, six, "thread") if t["kind"] == "style")
    threads.assign(ws, six, ink, ids, on=True)
    threads.assign(ws, six, paper, ids[:2], on=True)
    assert (run(ws, six, "Ink"), run(ws, six, "Paper")) == ("..oooo", "oo....")
    rowsheet.paste_beads(ws, six, ink, ids[1], [CopiedBead(), None])
    assert (run(ws, six, "Ink"), run(ws, six, "Paper")) == (".o.ooo", "o.....")
