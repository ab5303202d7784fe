"""The run-through's use cases: words read along, lengths set in one step, scenes fitted to a time."""

import pytest

from juxtaform.studio import plan, projects, run_through, story
from juxtaform.studio.run_through import NewLength
from juxtaform.studio.workspace import Conflict, NotPossible, NotThere
from tests.conftest import rows

TEXT = "The tide had been gone three days.\n\n“Nine,” she said. “And one of them is mine.”\n\nSprocket hummed."


@pytest.fixture
def told(ws, project):
    """Three shots that cover the text, and one without words."""
    plan.add_scene(ws, project, "The quay")
    story.keep(ws, project, TEXT)
    first = rows(ws, project, "shot")[0]["id"]
    for _ in range(3):
        plan.insert_shot(ws, project, first)
    return project


def cover(ws, project, shot, start, end):
    story.anchor_again(ws, project, shot, start, end, rows(ws, project, "project")[0]["text_revision"])


def in_order(ws, project):
    return sorted(rows(ws, project, "shot"), key=lambda x: x["position"])


def test_spoken_words_that_stand_in_the_text_are_read_once(ws, told):
    shots = in_order(ws, told)
    start = TEXT.index("“Nine")
    cover(ws, told, shots[0]["id"], 0, start - 2)
    cover(ws, told, shots[1]["id"], start, TEXT.index("Sprocket") - 2)
    plan.edit_shot(ws, told, shots[1]["id"], {"spoken": "Nine. And one of them is mine."}, None)
    plan.edit_shot(ws, told, shots[2]["id"], {"spoken": "Hm."}, None)
    along = run_through.read_along(ws, told)
    assert [r.words for r in along] == [
        "The tide had been gone three days.",
        "“Nine,” she said. “And one of them is mine.”",
        "Hm.",
    ]
    assert along[0].said[-1][3] == along[0].needs_s
    assert [along[0].words[a:b] for a, b, _, _ in along[0].said] == along[0].words.split()
    assert along[0].lines == (7,)


def test_lengths_are_set_in_one_step_and_a_newer_one_is_a_conflict(ws, told):
    shots = in_order(ws, told)
    new = [NewLength(x["id"], 4.2 + i, x["revision"]) for i, x in enumerate(shots)]
    run_through.set_lengths(ws, told, new)
    assert [x["length_s"] for x in in_order(ws, told)] == [4.2, 5.2, 6.2, 7.2]
    with pytest.raises(Conflict):
        run_through.set_lengths(ws, told, [NewLength(x["id"], 2.0, x["revision"]) for x in shots])
    projects.undo(ws, told)
    assert {x["length_s"] for x in in_order(ws, told)} == {3.0}
    with pytest.raises(NotThere):
        run_through.set_lengths(ws, told, [NewLength("0" * 32, 3.0)])


def test_a_scene_is_fitted_exactly_where_its_words_allow(ws, told):
    shots = in_order(ws, told)
    cover(ws, told, shots[0]["id"], 0, 34)
    scene = rows(ws, told, "scene")[0]["id"]
    run_through.fit_scene(ws, told, scene, 20.0)
    assert sum(x["length_s"] for x in in_order(ws, told)) == pytest.approx(20.0)
    run_through.fit_scene(ws, told, scene, 11.05)
    lengths = [x["length_s"] for x in in_order(ws, told)]
    assert sum(lengths) == pytest.approx(11.05)
    assert lengths[0] >= 3.2  # its words need so much
    run_through.fit_scene(ws, told, scene, 1.0)
    with pytest.raises(NotPossible, match=r"cannot come nearer to 1 s\. Its words need"):
        run_through.fit_scene(ws, told, scene, 1.0)
