"""The library: what was seen stays, is found by word, tag, thread, colour and likeness; the bin; taste rounds over it."""

import numpy as np
import pytest

from juxtaform.studio import library, plan, projects, sketches, takes, taste, threads
from juxtaform.studio.library import Search
from juxtaform.studio.workspace import NotPossible
from tests.conftest import flat, plan_from, png, rows
from tests.constructed import LIGHTS, scene

COLOURS = {"red": (200, 40, 30), "red too": (190, 50, 40), "green": (30, 150, 60), "blue": (30, 60, 190)}


@pytest.fixture
def shelf(ws):
    project = projects.make(ws, "Library")
    shas = {}
    for name, code in COLOURS.items():
        shas[name] = str(takes.take_in(ws, f"{name}.png", flat(code)).sha)
        library.seen(ws, project, shas[name], f"folder/{name}.png")
    return project, shas


def names(ws, project, **wanted):
    return [i.name.removesuffix(".png") for i in library.search(ws, project, Search(**wanted)).items]


def ids(ws, project, *wanted):
    return [i.id for i in library.search(ws, project, Search()).items if i.name.removesuffix(".png") in wanted]


def test_every_picture_that_came_in_is_there_once_whatever_it_is_used_for(ws, shelf):
    project, shas = shelf
    threads.make(ws, project, "character", "Ada")
    ada = rows(ws, project, "thread")[0]["id"]
    threads.add_references(ws, project, ada, [(shas["red"], "front")], "")
    library.seen(ws, project, shas["red"], "again.png")
    assert sorted(names(ws, project)) == sorted(COLOURS)
    item = library.search(ws, project, Search(thread=ada)).items[0]
    assert (item.name, [u.words for u in item.uses]) == ("red.png", ["reference of Ada: front"])
    assert names(ws, project, words="ada") == ["red"]


def test_pictures_are_found_by_word_tag_colour_and_likeness(ws, shelf):
    project, shas = shelf
    assert sorted(names(ws, project, words="RED")) == ["red", "red too"]
    assert names(ws, project, words="red too") == ["red too"]
    assert sorted(names(ws, project, colour="#c82820")) == ["red", "red too"]
    assert names(ws, project, colour="#1e3cbe")[0] == "blue"
    assert names(ws, project, like=shas["red"])[:2] == ["red", "red too"]
    library.tag(ws, project, ids(ws, project, "green", "blue"), ["cold", " cold "], [])
    assert sorted(names(ws, project, tag="cold")) == ["blue", "green"]
    assert library.search(ws, project, Search()).tags == ("cold",)
    library.tag(ws, project, ids(ws, project, "green"), [], ["cold"])
    assert names(ws, project, tag="cold") == ["blue"]
    projects.undo(ws, project)
    assert len(names(ws, project, tag="cold")) == 2


def test_a_search_comes_in_parts_that_make_the_whole(ws, shelf):
    project, _ = shelf
    whole = [i.id for i in library.search(ws, project, Search()).items]
    parts = [library.search(ws, project, Search(), k, 2) for k in (0, 2)]
    assert [i.id for p in parts for i in p.items] == whole
    assert {p.total for p in parts} == {4}
    assert library.search(ws, project, Search(), 400, 2).items == ()


def test_the_bin_gives_back_and_takes_nothing_that_is_in_use(ws, shelf):
    project, shas = shelf
    library.put_in_bin(ws, project, ids(ws, project, "green"), binned=True)
    assert "green" not in names(ws, project)
    assert names(ws, project, binned=True) == ["green"]
    library.put_in_bin(
        ws, project, [i.id for i in library.search(ws, project, Search(binned=True)).items], binned=False
    )
    assert "green" in names(ws, project)
    plan_from(ws, project, "# One\nAda came.")
    shot = rows(ws, project, "shot")[0]["id"]
    plan.edit_shot(ws, project, shot, {"sketch_sha": shas["blue"]}, None)
    with pytest.raises(NotPossible, match=r"blue\.png is in use: guide of shot 1"):
        library.put_in_bin(ws, project, ids(ws, project, "blue", "red"), binned=True)
    assert len(names(ws, project)) == 4


def test_the_same_place_is_found_again_by_likeness(ws):
    project = projects.make(ws, "Places")
    rng = np.random.default_rng(3)
    shas = []
    for g in range(8):
        sha = str(takes.take_in(ws, f"{g}.png", png(scene([], rng, ground=g)[0])).sha)
        library.seen(ws, project, sha, f"{g}.png")
        shas.append(sha)
    again = str(takes.take_in(ws, "again.png", png(scene([], np.random.default_rng(99), LIGHTS[1], ground=5)[0])).sha)
    library.seen(ws, project, again, "again.png")
    assert names(ws, project, like=again)[:2] == ["again", "5"]


def test_taste_rounds_go_on_where_they_stopped_and_give_a_style_its_pictures(ws, shelf):
    project, shas = shelf
    liked = [shas[n] for n in ("blue", "green", "red too", "red")]
    threads.make(ws, project, "style", "Mine")
    style = rows(ws, project, "thread")[0]["id"]
    with pytest.raises(NotPossible, match="Choose a few more"):
        taste.to_style(ws, project, style)
    for k in range(30):
        now = taste.standing(ws, project)
        if k == 3:
            taste.choose(ws, project, now.left, now.right, "skip")
            continue
        better = min((now.left, now.right), key=liked.index)
        taste.choose(ws, project, now.left, now.right, "left" if better == now.left else "right")
    told = taste.standing(ws, project)
    assert [p.sha for p in told.ranking] == liked
    assert (told.chosen, told.skipped) == (29, 1)
    assert told.ranking[0].weight == 1.0
    assert told.ranking[-1].weight == 0.0
    taste.to_style(ws, project, style)
    held = rows(ws, project, "reference")
    assert held[0]["picture_sha"] == shas["blue"]
    assert all(r["weight"] <= 1.0 for r in held)
    assert shas["red"] not in {r["picture_sha"] for r in held}
    projects.undo(ws, project)
    assert rows(ws, project, "reference") == []


def test_taste_rounds_leave_out_views_of_a_figure_and_sketches_unless_they_are_tagged(ws, shelf):
    project, shas = shelf
    plan_from(ws, project, "Ada waits.")
    threads.make(ws, project, "character", "Ada")
    ada = next(t["id"] for t in rows(ws, project, "thread") if t["kind"] == "character")
    threads.add_references(ws, project, ada, [(shas["red"], "front")], "")
    sketches.set_sketch(ws, project, rows(ws, project, "shot")[0]["id"], shas["green"])
    assert {(told := taste.standing(ws, project)).left, told.right} == {shas["red too"], shas["blue"]}
    library.tag(ws, project, ids(ws, project, "red", "green"), ["mood"], [])
    assert {(told := taste.standing(ws, project, "mood")).left, told.right} == {shas["red"], shas["green"]}
