"""What a crash left is cleaned away at the next start: half-written files, and pictures and sounds that no row names."""

from __future__ import annotations

import shutil
import time
from collections.abc import Iterator, Sequence

from sqlalchemy import select

from juxtaform.records.models import Picture, SoundFile
from juxtaform.studio.workspace import Workspace

GRACE_S = 3600.0
"""Another server may be writing just now: what is younger than this is left alone."""


def clean(ws: Workspace, grace_s: float = GRACE_S) -> str:
    """Clean away what nobody needs; returns what was done in a sentence, empty when there was nothing."""
    before = time.time() - grace_s
    halves = ws.store.clear_halves(before)
    orphans = [sha for part in _parts(ws.store.older(before)) for sha in _unnamed(ws, part)]
    for sha in orphans:
        ws.store.forget(sha)
    for room in ws.sounds.rooms_older(before):
        shutil.rmtree(room, ignore_errors=True)
        halves += 1
    unheard = [sha for part in _parts(ws.sounds.older(before)) for sha in _unnamed(ws, part, SoundFile)]
    for sha in unheard:
        ws.sounds.forget(sha)
    done = [
        f"{count} {one if count == 1 else many}"
        for count, one, many in (
            (halves, "half-written file", "half-written files"),
            (len(orphans), "picture that no row names", "pictures that no row names"),
            (len(unheard), "sound that no row names", "sounds that no row names"),
        )
        if count
    ]
    return f"Cleaned away what a crash left: {' and '.join(done)}." if done else ""


def _unnamed(ws: Workspace, shas: Sequence[str], model: type[Picture] | type[SoundFile] = Picture) -> list[str]:
    with ws.database.session() as s:
        named = set(s.scalars(select(model.sha).where(model.sha.in_(shas))))
    return [sha for sha in shas if sha not in named]


def _parts(shas: Iterator[str], size: int = 1000) -> Iterator[list[str]]:
    part: list[str] = []
    for sha in shas:
        part.append(sha)
        if len(part) == size:
            yield part
            part = []
    if part:
        yield part
