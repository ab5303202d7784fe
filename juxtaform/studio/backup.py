"""Backup and restore: one consistent moment of the database, then the files that it names; only what is new after the first."""

from __future__ import annotations

import hashlib
import os
import tempfile
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

from alembic.script import ScriptDirectory
from sqlalchemy import Connection, select
from sqlalchemy.orm import Session

from juxtaform.formats import backup_file
from juxtaform.formats.backup_file import BackupFile, BackupWrong, Kept, Whole
from juxtaform.media.store import CLIP, THUMB_SIDES
from juxtaform.records import dump
from juxtaform.records.database import Database
from juxtaform.records.models import Picture, SoundFile
from juxtaform.records.showings import ShowingEdition
from juxtaform.studio.showings import sound_path
from juxtaform.studio.workspace import NotPossible, Workspace

PICTURES, SOUNDS, SHOWINGS = "pictures", "sounds", "showings"
OWN = ("project", "account")
"""What tells one Juxtaform from another."""
LEFT_OUT = frozenset({"delivery", "trying"})
"""Files out are made again; who guessed too often is forgotten."""
Progress = Callable[[int, int], None]


@dataclass(frozen=True)
class BackedUp:
    """What came of a backup: rows, files in all, those of them that were new, and files that rows name and that are not there."""

    rows: int
    files: int
    fresh: int
    missing: list[str]
    at: str


@dataclass(frozen=True)
class Restored:
    """What came of a restore."""

    rows: int
    files: int
    at: str


def back_up(ws: Workspace, path: Path, progress: Progress = lambda done, of: None) -> BackedUp:
    """Add a backup to a file, or begin it. People may work meanwhile: all rows are of one moment, and no file that they name goes away.
    Raises BackupWrong, also for a file with backups of another Juxtaform, and OSError."""
    with backup_file.opened(path, to_add=True) as kept:
        with ws.database.reading() as s:
            connection = s.connection()
            _see_that_it_is_ours(kept, connection)
            with kept.adding(dump.schema_of(connection)) as adding:
                named = list(_named_files(ws, s))
                tables = [t for t in dump.tables(connection) if t not in LEFT_OUT]
                rows = sum(adding.table(t, dump.rows(connection, t)) for t in tables)
                fresh, missing = 0, []
                for done, (name, file) in enumerate(named):
                    try:
                        fresh += adding.file(name, file)
                    except FileNotFoundError:
                        if "." not in file.name or file.suffix in (".sound", CLIP):
                            missing.append(file.name[:64])
                    progress(done + 1, len(named))
        whole = kept.latest
        return BackedUp(rows, len(whole.files), fresh, missing, whole.at)


def _see_that_it_is_ours(kept: BackupFile, connection: Connection) -> None:
    """Who takes the wrong file, or the wrong database, is told before the newest backup in it is one of something else. Raises BackupWrong."""
    if not kept.backups:
        return
    held = {(t, row["id"]) for t in OWN if t in kept.latest.tables for row in kept.rows(kept.latest.tables[t][0])}
    here = {(t, row["id"]) for t in OWN for row in dump.rows(connection, t)}
    if held and not held & here:
        raise BackupWrong(
            f"{kept.path} holds backups of another Juxtaform: no project and no account of it is here. Give another file, or that one's --var."
        )


def verify(path: Path, progress: Progress = lambda done, of: None) -> list[str]:
    """Read back every byte of the newest backup; the names of what is damaged. Raises BackupWrong, OSError."""
    with backup_file.opened(path) as kept:
        return kept.wrong_parts(kept.latest, progress)


def restore(
    database: Database, var: Path, path: Path, number: int | None = None, progress: Progress = lambda done, of: None
) -> Restored:
    """Put a backup into an empty database and its files into `var`; older schemas are brought up. Files are looked at before any row is
    written. Raises BackupWrong, NotPossible, OSError."""
    with backup_file.opened(path) as kept:
        whole = _chosen(kept, number)
        if whole.schema not in _revisions(database):
            raise BackupWrong(f"{path} was made by a newer Juxtaform. Restore it with that one.")
        if not dump.is_empty(database.engine):
            raise NotPossible(
                "There are projects or accounts here already, and a restore would lay others over them. Restore into an empty place: give another --var, or an empty database."
            )
        files = _files_back(kept, whole, var, progress)
        dump.drop_all(database.engine)
        database.migrate(whole.schema)
        rows = 0
        with database.engine.begin() as connection:
            for table, (part, count) in whole.tables.items():
                put = dump.put_back(connection, table, kept.rows(part))
                if put != count:
                    raise BackupWrong(f"{path}: the table {table} is not whole. The file is damaged there.")
                rows += put
        database.migrate()
        return Restored(rows, files, whole.at)


def missing_back(ws: Workspace, path: Path, progress: Progress = lambda done, of: None) -> int:
    """Put files back that rows name and that are not there, or are damaged, from the newest backup that has them; how many."""
    with backup_file.opened(path) as kept:
        have: dict[str, Kept] = {}
        for whole in kept.backups:
            have |= whole.files
        with ws.database.reading() as s:
            named = list(_named_files(ws, s))
        back = 0
        for done, (name, file) in enumerate(named):
            if name in have and not _is(file, have[name]):
                _written(file, kept.read(have[name]))
                back += 1
            progress(done + 1, len(named))
        return back


def _named_files(ws: Workspace, s: Session) -> Iterator[tuple[str, Path]]:
    """All files that rows name, as (name in the archive, where it lies)."""
    for sha, clip in s.execute(select(Picture.sha, Picture.clip).order_by(Picture.sha)).tuples():
        own = [ws.store.path(sha), *(ws.store.thumb_path(sha, side) for side in THUMB_SIDES)]
        for file in [*own, ws.store.clip_path(sha)] if clip else own:
            yield f"{PICTURES}/{sha[:2]}/{file.name}", file
    for sha in s.scalars(select(SoundFile.sha).order_by(SoundFile.sha)):
        for file in (ws.sounds.path(sha), ws.sounds.copy(sha), ws.sounds.levels_path(sha)):
            yield f"{SOUNDS}/{sha[:2]}/{file.name}", file
    for edition in s.scalars(select(ShowingEdition.id).where(ShowingEdition.sounds)):
        yield f"{SHOWINGS}/{edition}.m4a", sound_path(ws, edition)


def _chosen(kept: BackupFile, number: int | None) -> Whole:
    if number is None:
        return kept.latest
    if not 1 <= number <= len(kept.backups):
        raise BackupWrong(
            f"{kept.path} holds {len(kept.backups)} backups: give a number from 1 to {len(kept.backups)}."
        )
    return kept.backups[number - 1]


def _revisions(database: Database) -> set[str]:
    return {s.revision for s in ScriptDirectory.from_config(database.alembic()).walk_revisions()}


def _files_back(kept: BackupFile, whole: Whole, var: Path, progress: Progress) -> int:
    """Write the files of a backup where they belong; what is there already is left alone. Raises BackupWrong."""
    put = 0
    for done, (name, part) in enumerate(whole.files.items()):
        kind, _, rest = name.partition("/")
        if kind not in (PICTURES, SOUNDS, SHOWINGS) or ".." in rest:
            raise BackupWrong(f"{kept.path} names a file that is none of ours: {name}.")
        file = var / kind / rest
        if not (file.exists() and file.stat().st_size == part.bytes):
            _written(file, kept.read(part))
            put += 1
        progress(done + 1, len(whole.files))
    return put


def _written(path: Path, parts: Iterator[bytes]) -> None:
    """Write a file under a temporary name, then give it its own."""
    path.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
    handle, name = tempfile.mkstemp(dir=path.parent, prefix="tmp")
    try:
        with os.fdopen(handle, "wb") as file:
            for part in parts:
                file.write(part)
            file.flush()
            os.fsync(file.fileno())
        os.replace(name, path)
    except BaseException:
        Path(name).unlink(missing_ok=True)
        raise


def _is(path: Path, kept: Kept) -> bool:
    """Whether a file is there and is what was kept."""
    if not path.exists() or path.stat().st_size != kept.bytes:
        return False
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest() == kept.sha256
