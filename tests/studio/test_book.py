"""The book of real rows: its size, its pages, faces from marks, words put by hand, and files for print."""

import numpy as np
import pytest

from juxtaform.core.picture.regions import Box
from juxtaform.studio import book, plan, projects, takes, threads
from tests.conftest import png, rows


@pytest.fixture
def shots(ws, project):
    """Three shots with wide pictures, dark at the right; Ada is marked in the first."""
    plan.add_scene(ws, project, "The quay")
    for _ in range(2):
        plan.insert_shot(ws, project, rows(ws, project, "shot")[0]["id"])
    ids = [x["id"] for x in sorted(rows(ws, project, "shot"), key=lambda x: x["position"])]
    threads.make(ws, project, "character", "Ada")
    ada = rows(ws, project, "thread")[0]["id"]
    for i, shot in enumerate(ids):
        pixels = np.full((300, 600, 3), 200 - i, np.uint8)
        pixels[:, 420:] = 10
        sha = takes.take_in(ws, f"p{i}.png", png(pixels)).sha
        takes.accept(ws, project, [(f"p{i}.png", sha, shot)])
        plan.edit_shot(ws, project, shot, {"spoken": "The tide woke, and stretched.", "bleed": True}, None)
    first = next(t for t in rows(ws, project, "take") if t["shot_id"] == ids[0])
    takes.mark(ws, project, first["id"], ada, Box(270, 30, 60, 200))
    return ids


def kinds(view):
    return {n.kind for n in view.notes}


def test_the_trim_takes_the_form_of_the_pictures_until_somebody_says_another(ws, project, shots):
    assert (book.view(ws, project).book.trim_w, book.view(ws, project).book.trim_h) == (240, 120)
    projects.edit(ws, project, {"aspect": "4:3"}, None)
    assert book.view(ws, project).book.trim_h == 180
    projects.edit(ws, project, {"book": {"trim_w": 210.0, "trim_h": 297.0, "front": []}}, None)
    made = book.view(ws, project)
    assert (made.book.trim_w, made.book.trim_h) == (210, 297)
    assert made.layout.pages[0].shots == (shots[0],)


def test_words_lie_where_they_are_read_and_go_where_they_are_put(ws, project, shots):
    view = book.view(ws, project)
    [words] = [w for o in view.layout.openings for w in o.words if w.shot == shots[1]]
    assert words.tone in ("dark", "light")
    assert not kinds(view) & {"contrast", "busy", "unsafe", "face"}
    plan.edit_shot(ws, project, shots[1], {"words_at": (0.75, 0.4, 0.2, 0.2), "words_tone": "dark"}, None)
    view = book.view(ws, project)
    [words] = [w for o in view.layout.openings for w in o.words if w.shot == shots[1]]
    assert (words.by_hand, words.tone) == (True, "dark")
    assert "contrast" in kinds(view)
    plan.edit_shot(ws, project, shots[1], {"words_tone": ""}, None)
    assert "contrast" not in kinds(book.view(ws, project))


def test_a_face_in_the_fold_of_a_spread_is_told_by_its_name(ws, project, shots):
    plan.edit_shot(ws, project, shots[0], {"page_form": "spread"}, None)
    note = next(n for n in book.view(ws, project).notes if n.kind == "fold")
    assert (note.title, note.shot) == ("Ada’s face lies in the fold", shots[0])


def test_pixels_and_surprises_are_told(ws, project, shots):
    plan.edit_shot(ws, project, shots[0], {"surprise": True}, None)
    view = book.view(ws, project)
    assert {"small", "surprise", "filled"} <= kinds(view)  # page 3 is the first with a picture: a right-hand one
    projects.undo(ws, project)
    assert "surprise" not in kinds(book.view(ws, project))


def test_an_empty_project_has_its_front_matter(ws, project):
    view = book.view(ws, project)
    assert [p.kind for p in view.layout.pages] == ["title", "imprint", "blank", "blank"]
