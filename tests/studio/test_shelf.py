"""Measures on a shelf say what they said, and take hardly any memory."""

import gc
import sys
import tracemalloc
from dataclasses import fields

import numpy as np
import pytest

from juxtaform.core.check.measure import PictureMeasure, measure_picture
from juxtaform.core.check.sequence import check
from juxtaform.core.check.states import Mark, PlaceHome, PlaceReference, ShotPlan, ShotState, StyleHome
from juxtaform.core.text.names import Named
from juxtaform.media.network import hand_eye
from juxtaform.studio.measuring import from_text, to_text
from juxtaform.studio.shelf import HELD, Shelf
from tests.constructed import LIGHTS, model_of, random_look, recoloured_look, scene


@pytest.fixture(scope="module")
def pictures():
    """Six measured pictures of one figure, one of them with another coat, as text, with its boxes."""
    rng = np.random.default_rng(4)
    look = random_look(rng)
    known = model_of(look, rng, "a")
    texts, boxes = [], []
    for i in range(6):
        drawn = recoloured_look(look, "coat", rng) if i == 4 else look
        picture, [box] = scene([drawn], rng, LIGHTS[i % 5], ground=i % 2, scale=0.9)
        texts.append(to_text(measure_picture(picture, [(box, known)], [known], None, None, hand_eye())))
        boxes.append(box)
    return texts, boxes


def test_every_part_is_what_it_was(pictures):
    shelf = Shelf()
    laid = [shelf.lay(text) for text in pictures[0]]
    for text, measure in [*zip(pictures[0], laid, strict=True)] * 2:
        whole = from_text(text)
        for field in fields(PictureMeasure):
            assert getattr(measure, field.name) == getattr(whole, field.name), field.name
        assert measure.inner == whole.inner
        assert isinstance(measure, PictureMeasure)


def test_what_a_text_does_not_tell_is_as_it_usually_is(pictures):
    start = pictures[0][0].index(',"hand"')
    measure = Shelf().lay(pictures[0][0][:start] + "}")
    assert (measure.hand, measure.cast, measure.place, measure.glance) == ((), "", None, None)
    assert measure.signature == from_text(pictures[0][0]).signature
    with pytest.raises(ValueError, match="EOF"):
        Shelf().lay(pictures[0][0][:40])


def test_a_check_finds_the_same_on_a_shelf(pictures):
    texts, boxes = pictures
    told = []
    for read in (from_text, Shelf().lay):
        shots = [
            ShotState(
                f"s{i}",
                str(i + 1),
                "",
                frozenset("a"),
                "style",
                (Mark("a", boxes[i % 6]),),
                read(texts[i % 6]),
                ShotPlan("scene", "MS", places=(("p", ""), ("q", ""))[i % 2 :][:1]),
            )
            for i in range(3 * HELD)
        ]
        home = PlaceHome("p", "Place", (PlaceReference(from_text(texts[0]).place),))
        bare = PlaceHome("q", "Other place")
        told.append(check(shots, [StyleHome("style", "Style")], [Named("a", "A")], places=[home, bare]))
    assert told[0] == told[1]
    assert told[0].findings
    assert told[0].threads["q"].places


def test_a_laid_measure_takes_a_thirtieth_of_its_memory(pictures):
    def held(read):
        gc.collect()
        tracemalloc.start()
        kept = [read(text) for text in pictures[0] * 50]
        taken, _ = tracemalloc.get_traced_memory()
        tracemalloc.stop()
        assert sys.getrefcount(kept) > 0
        return taken

    assert 30 * held(Shelf().lay) < held(from_text)
