"""What is measured of a picture by itself: once, a picture read once for all kinds, by workers when there are many."""

from concurrent.futures import Future
from concurrent.futures.process import BrokenProcessPool
from dataclasses import replace

import numpy as np
import pytest

from juxtaform.media.decode import PictureRefused
from juxtaform.media.store import PictureStore
from juxtaform.studio import measures, takes
from juxtaform.studio.measuring import Workers
from juxtaform.studio.workspace import Workspace
from tests.conftest import LOOK, flat, png
from tests.constructed import reference

OWN = replace(LOOK, coat="#5a7d2c")
"""A figure that no other test measures."""


@pytest.fixture
def reads(monkeypatch):
    """The pictures that are read whole, in order."""
    seen, real = [], PictureStore.pixels

    def pixels(self, sha):
        seen.append(sha)
        return real(self, sha)

    monkeypatch.setattr(PictureStore, "pixels", pixels)
    return seen


def stored(ws, *datas):
    return [str(takes.take_in(ws, "a.png", data).sha) for data in datas]


def test_a_picture_is_read_once_for_all_kinds_and_never_again(ws, reads):
    [sha] = stored(ws, png(reference(OWN)))
    reads.clear()
    measures.measure(ws, measures.OF_REFERENCES, [sha, sha])
    assert reads == [sha]
    fit, style, stance = (measures.of(ws, kind, [sha])[sha] for kind in measures.OF_REFERENCES)
    assert reads == [sha]
    assert fit.plain
    assert fit.figures == 1
    assert np.isfinite(style.values).all()
    assert 0 <= stance.left < stance.right <= 1
    assert stance.box(200, 100).w == pytest.approx(200 * (stance.right - stance.left))


def test_what_is_kept_is_what_was_measured(ws):
    [sha] = stored(ws, flat((9, 80, 140)))
    first, again = (measures.of(ws, measures.LIKENESS, [sha])[sha] for _ in range(2))
    assert (first == again).all()
    with ws.database.session() as s:
        assert measures.are_known(s, measures.LIKENESS, [sha, "0" * 64]) == {sha}
        assert measures.known(s, measures.FITNESS, [sha]) == {}


def test_a_worker_that_dies_leaves_nothing_unmeasured(ws):
    class Dying:
        def submit(self, job, task):
            future = Future()
            future.set_exception(BrokenProcessPool("gone"))
            return future

    broken = Workspace(ws.database, ws.store, workers=Workers(Dying()))
    shas = stored(ws, *(flat((i, 7, 7 * i)) for i in range(measures.MANY + 1)))
    assert set(measures.of(broken, measures.FITNESS, shas)) == set(shas)


def test_a_picture_that_is_damaged_in_the_store_is_told(ws):
    [sha] = stored(ws, flat((77, 1, 2)))
    ws.store.path(sha).write_bytes(b"no picture")
    with pytest.raises(PictureRefused):
        measures.measure(ws, (measures.FITNESS,), [sha])
