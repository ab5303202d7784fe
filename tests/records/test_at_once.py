"""Several who write the same at the same time: nobody's work breaks off."""

import time
from concurrent.futures import ThreadPoolExecutor

from sqlalchemy import select, text

from juxtaform.media.store import StoredPicture
from juxtaform.records import measures
from juxtaform.records.models import Measure
from juxtaform.studio import pictures

WAITING = text("SELECT COUNT(*) FROM information_schema.processlist WHERE info LIKE 'INSERT INTO measure%'")


def a_row(key: str) -> Measure:
    return Measure(key=key, version="1", data="by the other")


def test_measures_are_kept_though_another_stood_in_the_way(ws):
    """The other has one of two keys and asks for the one that is held: a deadlock, in which the lighter work is broken off."""
    with ThreadPoolExecutor(1) as pool, ws.database.session() as other:
        other.add_all([a_row(f"other {i}") for i in range(20)] + [a_row("two b")])
        other.flush()
        kept = pool.submit(measures.keep, ws.database, "1", {"two b": "mine", "two a": "mine"})
        deadline = time.monotonic() + 30
        while not ws.database.row(WAITING)[0] and time.monotonic() < deadline:
            time.sleep(0.02)
        other.add(a_row("two a"))
        other.flush()
        other.commit()
        kept.result(30)
    with ws.database.session() as s:
        assert s.scalars(select(Measure.data).where(Measure.key.in_(["two a", "two b"]))).all() == ["mine", "mine"]


def test_a_picture_that_several_bring_at_once_has_one_row(ws):
    picture = StoredPicture("7" * 64, 10, 10, 100, "image/png", (("#ffffff", 1.0),))

    def bring(_: int) -> None:
        with ws.database.session() as s:
            pictures.keep(s, picture)

    with ThreadPoolExecutor(8) as pool:
        list(pool.map(bring, range(40)))
