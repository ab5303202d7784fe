"""The sequence as the check reads it: which references a figure has at which shot, and on what a measure depends."""

from dataclasses import replace

import pytest

from juxtaform.core.picture.regions import Box
from juxtaform.studio import continuity, modelsheets, sequence, takes, threads, versions
from tests.conftest import LOOK, Staged, png, rows
from tests.constructed import reference


@pytest.fixture
def staged(ws):
    return Staged(ws)


def loaded(ws, project):
    with ws.database.session() as s:
        return sequence.load(s, ws.store, project)


def views(told, shot):
    """The names of the views that the figure marked in a shot is measured against."""
    task = told.shots[shot].task
    assert task is not None
    figure = next(f for f in task.figures if f.id == task.marks[0][0])
    return [v.sha for v in figure.views]


def first_view(ws, staged):
    return next(
        r for r in rows(ws, staged.project, "reference") if r["thread_id"] == staged.ada and r["name"] == "view 0"
    )


def plum(ws):
    return str(takes.take_in(ws, "plum.png", png(reference(replace(LOOK, coat="#6b4a8c")))).sha)


def test_a_figure_is_measured_against_the_references_in_force_at_its_shot(ws, staged):
    old, fresh = first_view(ws, staged), plum(ws)
    versions.replace_reference(ws, staged.project, old["id"], fresh, "plum", staged.shots[2])
    told = loaded(ws, staged.project)
    for shot in (0, 1):
        assert old["picture_sha"] in views(told, shot)
        assert fresh not in views(told, shot)
    for shot in (2, 3):
        assert fresh in views(told, shot)
        assert old["picture_sha"] not in views(told, shot)


def test_only_the_shots_from_a_replacement_on_have_to_be_measured_again(ws, staged):
    before = loaded(ws, staged.project)
    versions.replace_reference(ws, staged.project, first_view(ws, staged)["id"], plum(ws), "plum", staged.shots[2])
    after = loaded(ws, staged.project)
    same = [a.task.key == b.task.key for a, b in zip(before.shots, after.shots, strict=True)]
    assert same == [True, True, False, False]


@pytest.mark.parametrize(
    "change",
    [
        lambda ws, p, t: threads.edit_trait(ws, p, t, {"colours": ["#112233"]}, None),
        lambda ws, p, t: threads.edit_trait(ws, p, t, {"tolerance": 9.0}, None),
        lambda ws, p, t: threads.edit_trait(ws, p, t, {"outline": [[110, 200], [210, 200], [160, 310]]}, None),
        lambda ws, p, t: threads.edit_trait(ws, p, t, {"free": True}, None),
        lambda ws, p, t: threads.remove_trait(ws, p, t),
    ],
    ids=["colours", "tolerance", "outline", "free", "removed"],
)
def test_a_trait_that_changes_makes_what_was_measured_with_it_old(ws, staged, change):
    threads.add_trait(
        ws, staged.project, first_view(ws, staged)["id"], "Coat", "outfit", Box(110, 200, 100, 110), [LOOK.coat]
    )
    trait = rows(ws, staged.project, "trait")[0]["id"]
    before = loaded(ws, staged.project)
    change(ws, staged.project, trait)
    after = loaded(ws, staged.project)
    assert before.shots[0].task.key != after.shots[0].task.key


def test_what_no_measure_depends_on_leaves_measures_alone(ws, staged):
    before = loaded(ws, staged.project)
    threads.edit(ws, staged.project, staged.ada, {"wording": "Ada, ten.", "aliases": ["the girl"]}, None)
    after = loaded(ws, staged.project)
    assert [s.task.key for s in before.shots] == [s.task.key for s in after.shots]


def test_a_costume_s_own_views_are_used_where_it_is_worn_and_the_usual_ones_where_it_has_none(ws, staged):
    fresh = plum(ws)
    threads.add_references(ws, staged.project, staged.ada, [(fresh, "coat")], "plum coat")
    threads.set_beads(ws, staged.project, staged.ada, [staged.shots[1]], {"costume": "plum coat"})
    threads.set_beads(ws, staged.project, staged.ada, [staged.shots[3]], {"costume": "never drawn"})
    threads.assign(ws, staged.project, staged.ada, staged.shots, on=True)
    threads.set_beads(ws, staged.project, staged.ada, [staged.shots[1]], {"costume": "plum coat"})
    told = loaded(ws, staged.project)
    assert views(told, 1) == [fresh]
    assert fresh not in views(told, 0)
    assert fresh not in views(told, 3)


def test_a_style_s_palette_and_trial_are_those_of_its_newest_pictures(ws, staged):
    old = next(r for r in rows(ws, staged.project, "reference") if r["name"] == "style 5")
    red = str(takes.take_in(ws, "red.png", png(reference(replace(LOOK, coat="#ff0000")))).sha)
    before = dict(threads.palette_of_style(ws, staged.project, staged.style))
    versions.replace_reference(ws, staged.project, old["id"], red, "red", None)
    after = dict(threads.palette_of_style(ws, staged.project, staged.style))
    assert before != after
    assert abs(sum(after.values()) - sum(before.values())) < 0.05
    trial = modelsheets.style_trial(ws, staged.project, staged.style)
    fresh = next(r["id"] for r in rows(ws, staged.project, "reference") if r["picture_sha"] == red)
    assert fresh in {t.reference_id for t in trial.pictures}
    assert old["id"] not in {t.reference_id for t in trial.pictures}


def test_the_lineup_stands_beside_the_anchor_in_its_newest_version(ws, staged):
    second = next(r for r in rows(ws, staged.project, "reference") if r["name"] == "view 1")
    assert anchors(ws, staged) == [first_view(ws, staged)["picture_sha"]]
    threads.edit_reference(ws, staged.project, second["id"], {"anchor": True, "weight": 0.3}, None)
    assert anchors(ws, staged) == [second["picture_sha"]]
    fresh = plum(ws)
    versions.replace_reference(ws, staged.project, second["id"], fresh, "plum", staged.shots[2])
    assert anchors(ws, staged) == [fresh]


def anchors(ws, staged):
    return [a.sha for a in continuity.lineup(ws, staged.project, staged.ada).anchors]
