"""Rows of pictures: each digest has one, whoever brings it and however often."""

from __future__ import annotations

from sqlalchemy.dialects.mysql import insert
from sqlalchemy.orm import Session

from juxtaform.media.store import StoredPicture
from juxtaform.records.models import Picture, now


def keep(session: Session, picture: StoredPicture) -> None:
    """See that a stored picture has its row."""
    row = insert(Picture).values(
        sha=picture.sha,
        width=picture.width,
        height=picture.height,
        bytes=picture.bytes,
        media_type=picture.media_type,
        palette=[list(p) for p in picture.palette],
        added_at=now(),
        clip=picture.clip,
    )
    session.execute(row.on_duplicate_key_update(sha=row.inserted.sha))
