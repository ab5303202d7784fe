"""Model sheets: the printable page, the plate, a style's trial and words, palettes, anchors and fitness of real rows."""

import io
import json
from dataclasses import replace

import numpy as np
import pytest
from PIL import Image

from juxtaform.core.picture.modelsheet import (
    HEIGHT_MM,
    WIDTH_MM,
    Patch,
    Rule,
    SheetFacts,
    SheetPicture,
    Shown,
    Words,
    model_sheet,
)
from juxtaform.core.picture.regions import Box
from juxtaform.studio import fitness, modelsheets, projects, takes, threads, versions
from juxtaform.studio.workspace import NotPossible
from tests.conftest import LOOK, Staged, png, rows
from tests.constructed import reference


@pytest.fixture(scope="module")
def staged(ws):
    made = Staged(ws)
    threads.edit(
        ws,
        made.project,
        made.ada,
        {
            "wording": "Ada, ten.",
            "must_keep": ["badge"],
            "costumes": [{"name": "coat", "wording": "Red", "time": "", "weather": "", "damage": ""}],
        },
        None,
    )
    return made


def test_the_page_is_given_as_pdf_and_as_the_same_page_in_pixels(ws, staged):
    pdf = modelsheets.page(ws, staged.project, staged.ada, "pdf")
    assert pdf.data.startswith(b"%PDF")
    assert pdf.name == "Ada.pdf"
    png = Image.open(io.BytesIO(modelsheets.page(ws, staged.project, staged.ada, "png").data))
    assert png.size == (2339, 1654)
    assert len(png.convert("RGB").getcolors(1 << 24) or []) > 50
    assert modelsheets.page(ws, staged.project, staged.style, "png").data


@pytest.mark.parametrize("count", [0, 1, 2, 5, 12, 30])
def test_everything_stays_on_the_page_and_no_picture_lies_on_another(count):
    pictures = tuple(
        SheetPicture(str(i), f"view {i} of somebody with a long name", 0.4 + 0.3 * (i % 5), i == 0)
        for i in range(count)
    )
    long = " ".join(["word"] * 400)
    facts = SheetFacts(
        "A title",
        "Character",
        (("Wording", long), ("More", long)),
        tuple((f"c{i}", "#102030") for i in range(9)),
        pictures,
    )
    items = model_sheet(facts, lambda words, size, bold: 0.18 * size * len(words))
    boxes = [(i.x, i.y, i.x + i.w, i.y + i.h) for i in items if isinstance(i, Shown)]
    assert len(boxes) == count
    for x0, y0, x1, y1 in boxes + [(i.x, i.y, i.x + i.w, i.y + i.h) for i in items if isinstance(i, Patch)]:
        assert x0 >= 0
        assert y0 >= 0
        assert x1 <= WIDTH_MM
        assert y1 <= HEIGHT_MM
    for i, a in enumerate(boxes):
        for b in boxes[i + 1 :]:
            assert a[2] <= b[0] + 1e-6 or b[2] <= a[0] + 1e-6 or a[3] <= b[1] + 1e-6 or b[3] <= a[1] + 1e-6
    assert all(0 <= i.y <= HEIGHT_MM for i in items if isinstance(i, Words))


def test_views_are_laid_out_as_one_plate_of_the_asked_size(ws, staged):
    made = Image.open(io.BytesIO(modelsheets.plate(ws, staged.project, staged.ada, 800, None, True).data))
    assert max(made.size) == pytest.approx(800, abs=4)
    with pytest.raises(NotPossible, match="no pictures"):
        modelsheets.plate(ws, staged.project, staged.ada, 800, "no such costume", True)


def test_a_style_is_tried_and_its_words_are_judged(ws, staged):
    told = modelsheets.style_trial(ws, staged.project, staged.style)
    assert len(told.pictures) == 3
    assert not any(p.odd for p in told.pictures)
    assert "Too few" in told.vocabulary.verdict
    for words, verdict in (
        (["flat", "paper"], "Enough"),
        (["flat", "shaded"], "contradict"),
        ([f"w{i}" for i in range(12)], "Too many"),
        (["warm", "kind"], "how the picture is made"),
    ):
        threads.edit(ws, staged.project, staged.style, {"vocabulary": words}, None)
        assert verdict in modelsheets.style_trial(ws, staged.project, staged.style).vocabulary.verdict


def test_palettes_go_out_and_come_in(ws, staged):
    told = json.loads(modelsheets.give_palette(ws, staged.project, staged.style, "json").data)
    assert told["colours"]
    data = b"GIMP Palette\n31 95 102\tteal (lead)\n10 10 10\tink\n"
    modelsheets.take_palette(ws, staged.project, staged.style, "p.gpl", data)
    tones = next(t["tones"] for t in rows(ws, staged.project, "thread") if t["id"] == staged.style)
    assert tones == [{"hex": "#1f5f66", "role": "lead"}, {"hex": "#0a0a0a", "role": "other"}]
    modelsheets.take_palette(ws, staged.project, staged.style, "p.gpl", data)
    assert len(next(t["tones"] for t in rows(ws, staged.project, "thread") if t["id"] == staged.style)) == 2
    assert b"teal (lead)" in modelsheets.give_palette(ws, staged.project, staged.style, "gpl").data
    with pytest.raises(NotPossible, match="line 2"):
        modelsheets.take_palette(ws, staged.project, staged.style, "p.gpl", b"GIMP Palette\nnonsense\n")


def test_one_view_of_a_costume_is_the_anchor(ws, staged):
    first, second = (r["id"] for r in rows(ws, staged.project, "reference") if r["thread_id"] == staged.ada)
    threads.edit_reference(ws, staged.project, first, {"anchor": True, "view": "front"}, None)
    threads.edit_reference(ws, staged.project, second, {"anchor": True}, None)
    held = {r["id"]: r["anchor"] for r in rows(ws, staged.project, "reference")}
    assert (held[first], held[second]) == (False, True)


def test_fitness_is_measured_once_and_told_for_each_reference(ws, staged):
    told = {f.reference_id: {x.kind for x in f.faults} for f in fitness.of_thread(ws, staged.project, staged.ada)}
    assert set(told) == {r["id"] for r in rows(ws, staged.project, "reference") if r["thread_id"] == staged.ada}
    assert all(kinds == {"small_for_output"} for kinds in told.values())


def test_views_are_judged_beside_those_that_hold_with_them_not_beside_what_they_replaced(ws):
    made = Staged(ws)
    first, second = (r["id"] for r in rows(ws, made.project, "reference") if r["thread_id"] == made.ada)
    threads.add_trait(ws, made.project, first, "Coat", "outfit", Box(110, 200, 100, 110), [LOOK.coat])
    plum = str(takes.take_in(ws, "plum.png", png(reference(replace(LOOK, coat="#6b4a8c")))).sha)
    newest = versions_of_both(ws, made, first, second, plum)

    def disagreeing():
        told = fitness.of_thread(ws, made.project, made.ada)
        return {f.reference_id for f in told if any(x.kind == "disagrees" for x in f.faults)}

    assert disagreeing() == set()
    threads.add_references(ws, made.project, made.ada, [(plum, "plum again")], "")
    beside = next(r["id"] for r in rows(ws, made.project, "reference") if r["name"] == "plum again")
    assert beside in disagreeing()
    assert newest not in disagreeing()


def test_a_colourful_reference_is_told_in_a_project_whose_only_style_is_grey(ws):
    project = projects.make(ws, "Ink wash")
    for kind, name in (("character", "Ada"), ("style", "Wash")):
        threads.make(ws, project, kind, name)
    ada, style = (t["id"] for t in rows(ws, project, "thread"))
    bright = str(takes.take_in(ws, "bright.png", png(reference(LOOK))).sha)
    threads.add_references(ws, project, ada, [(bright, "front")], "")

    def kinds():
        return {x.kind for f in fitness.of_thread(ws, project, ada) for x in f.faults}

    assert "colourful" not in kinds()
    grey = np.random.default_rng(1).integers(60, 200, (90, 120, 1), np.uint8).repeat(3, axis=2)
    threads.add_references(ws, project, style, [(str(takes.take_in(ws, "g.png", png(grey)).sha), "wash")], "")
    assert "colourful" in kinds()
    threads.make(ws, project, "style", "Another")
    assert "colourful" not in kinds()
    projects.edit(ws, project, {"style_id": style}, None)
    assert "colourful" in kinds()


def versions_of_both(ws, made, first, second, plum):
    """Both views replaced from the third shot on, the first by a plum coat without the trait; returns the plum one."""
    versions.replace_reference(ws, made.project, first, plum, "plum", made.shots[2])
    newest = next(r["id"] for r in rows(ws, made.project, "reference") if r["picture_sha"] == plum)
    for t in rows(ws, made.project, "trait"):
        if t["reference_id"] == newest:
            threads.remove_trait(ws, made.project, t["id"])
    other = str(takes.take_in(ws, "plum2.png", png(reference(replace(LOOK, coat="#6b4a8c", boots="#2c6fc4")))).sha)
    versions.replace_reference(ws, made.project, second, other, "plum 2", made.shots[2])
    return newest


def test_whole_figures_stand_in_one_scale_on_common_lines():
    """Their pictures may show them at any size: the printed figures are of one height."""
    parts = ((0.1, 0.1, 0.6, 0.9), (0.4, 0.5, 0.6, 0.8), (0.0, 0.0, 1.0, 1.0))
    views = tuple(
        SheetPicture(str(i), "view", 1.0, i == 0, part, (("waist", 0.5),) if i == 0 else ())
        for i, part in enumerate(parts)
    )
    face = SheetPicture("face", "face", 1.0)
    items = model_sheet(SheetFacts("A", "Character", (), (), (*views, face)), lambda w, s, b: 0.18 * s * len(w))
    shown = {i.key: i for i in items if isinstance(i, Shown)}
    assert len({round(shown[v.key].h, 6) for v in views}) == 1
    assert [shown[v.key].part for v in views] == list(parts)
    assert shown["face"].part == (0.0, 0.0, 1.0, 1.0)
    rules = sorted({round(i.y, 3) for i in items if isinstance(i, Rule)})
    assert rules == [round(shown["0"].y + share * shown["0"].h, 3) for share in (0.0, 0.5, 1.0)]
