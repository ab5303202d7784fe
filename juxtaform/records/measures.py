"""What was measured, kept once: two who measure the same at the same time agree."""

from __future__ import annotations

from sqlalchemy.dialects.mysql import insert
from sqlalchemy.orm import Session

from juxtaform.records.models import Measure, now


def keep(session: Session, key: str, version: str, data: str) -> None:
    """Keep a measure under its key; one that is there already is replaced."""
    row = insert(Measure).values(key=key, version=version, data=data, made_at=now())
    session.execute(
        row.on_duplicate_key_update(version=row.inserted.version, data=row.inserted.data, made_at=row.inserted.made_at)
    )
