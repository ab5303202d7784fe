"""What was measured of pictures, kept once under what it depends on: two who measure the same at the same time agree."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping

from sqlalchemy import select
from sqlalchemy.dialects.mysql import insert
from sqlalchemy.orm import Session

from juxtaform.records.database import Database
from juxtaform.records.models import Measure, now

ASKED_AT_ONCE = 500


def keep(database: Database, version: str, made: Mapping[str, str]) -> None:
    """Keep measures by their keys; those that are there already are replaced. Whoever keeps some of the same meanwhile is waited for."""
    if not made:
        return
    # All in one order: two who keep the same ones never wait for each other.
    rows = [{"key": key, "version": version, "data": made[key], "made_at": now()} for key in sorted(made)]
    row = insert(Measure)
    kept = row.on_duplicate_key_update(
        version=row.inserted.version, data=row.inserted.data, made_at=row.inserted.made_at
    )
    database.retried(lambda session: session.execute(kept, rows))


def known(session: Session, keys: Iterable[str], version: str) -> dict[str, str]:
    """What is kept under some keys, of that version."""
    return dict(each_known(session, keys, version))


def each_known(session: Session, keys: Iterable[str], version: str) -> Iterator[tuple[str, str]]:
    """What is kept under some keys, of that version, some hundreds at a time."""
    wanted = list(dict.fromkeys(keys))
    for i in range(0, len(wanted), ASKED_AT_ONCE):
        part = wanted[i : i + ASKED_AT_ONCE]
        query = select(Measure.key, Measure.data).where(Measure.key.in_(part), Measure.version == version)
        yield from session.execute(query).tuples().all()


def are_known(session: Session, keys: Iterable[str]) -> set[str]:
    """Those of some keys under which something is kept."""
    wanted = list(dict.fromkeys(keys))
    parts = (wanted[i : i + ASKED_AT_ONCE] for i in range(0, len(wanted), ASKED_AT_ONCE))
    return {key for part in parts for key in session.scalars(select(Measure.key).where(Measure.key.in_(part)))}
