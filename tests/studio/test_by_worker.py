"""Whoever waits for a worker is told in words what went wrong, and the next one gets new workers."""

import os
import tempfile
import time

import pytest

from juxtaform.media.decode import PictureRefused
from juxtaform.studio import by_worker as rooms
from juxtaform.studio.by_worker import all_by_workers, by_worker
from juxtaform.studio.measuring import Workers, pool
from juxtaform.studio.workspace import NotPossible, NotThere, Workspace


@pytest.fixture
def own(ws):
    """A workspace with workers of its own, which a test may harm."""
    made = Workspace(ws.database, ws.store, workers=Workers())
    yield made
    made.workers.close()


def doubled(value):
    return 2 * value


def refused(_):
    raise PictureRefused("It is no picture.")


def impossible(_):
    raise ValueError("The area is empty.")


def dying(_):
    os._exit(3)


def sleeping(_):
    time.sleep(5)


def test_work_is_done_side_by_side_in_the_order_that_it_was_given(own):
    assert all_by_workers(own, doubled, [(i,) for i in range(5)]) == [0, 2, 4, 6, 8]


@pytest.mark.parametrize(
    ("work", "kind", "words"), [(refused, NotThere, "no picture"), (impossible, NotPossible, "empty")]
)
def test_what_is_wrong_is_said_as_it_is(own, work, kind, words):
    with pytest.raises(kind, match=words):
        by_worker(own, work, 1)


def test_a_worker_that_died_is_replaced(own):
    with pytest.raises(NotPossible, match="ended"):
        by_worker(own, dying, 1)
    assert by_worker(own, doubled, 21) == 42


def test_what_takes_too_long_is_not_waited_for(own, monkeypatch):
    by_worker(own, doubled, 1)
    monkeypatch.setattr(rooms, "MOST_CLIP_WORK_S", 0.2)
    with pytest.raises(NotPossible, match="too long"):
        by_worker(own, sleeping, 1)


def test_workers_begin_in_a_temporary_folder_with_a_long_name_too(tmp_path, monkeypatch):
    folder = tmp_path / ("long" * 30)
    folder.mkdir()
    monkeypatch.setattr(tempfile, "tempdir", str(folder))
    with pool() as executor:
        assert executor.submit(doubled, 4).result(120) == 8
