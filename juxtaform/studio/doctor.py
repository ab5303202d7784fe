"""The doctor: whether rows and files belong together and are whole, and what to do where they do not."""

from __future__ import annotations

import hashlib
import time
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from juxtaform.media.store import CLIP, THUMBS
from juxtaform.records.models import Change, LibraryPicture, Picture, Project, Sound, SoundFile
from juxtaform.studio.workspace import Workspace

MOST_NAMED = 12
FROM_BACKUP = "Put them back from a backup: juxtaform restore FILE --missing."


@dataclass(frozen=True)
class Complaint:
    """Something that is not as it should be: what, how often, what it concerns, and what to do."""

    what: str
    count: int
    about: list[str]
    do: str


@dataclass
class Examined:
    """What the doctor found, and how much was looked at."""

    pictures: int = 0
    sounds: int = 0
    projects: int = 0
    complaints: list[Complaint] = field(default_factory=list)


def examine(
    ws: Workspace, *, deep: bool = False, progress: Callable[[int, int], None] = lambda done, of: None
) -> Examined:
    """Look at everything; `deep` reads every byte of every picture and sound and holds it against its name."""
    found = Examined()
    with ws.database.reading() as s:
        clips: dict[str, Any] = dict(s.execute(select(Picture.sha, Picture.clip)).tuples().all())
        heard = list(s.scalars(select(SoundFile.sha)))
        found.pictures, found.sounds = len(clips), len(heard)
        found.projects = s.scalar(select(func.count()).select_from(Project)) or 0
        gone = [sha for sha in clips if not ws.store.has(sha)]
        lost = set(gone)
        no_clip = [sha for sha, clip in clips.items() if clip and not ws.store.has(sha, CLIP)]
        no_thumb = [sha for sha in clips if sha not in lost and not all(ws.store.has(sha, end) for end in THUMBS)]
        _say(
            found,
            "files are not in the shared store, so that other machines do not reach them",
            unshared := [p.name for p in ws.store.unshared(clips)],
            [f"{name[:12]}…" for name in unshared],
            "Run juxtaform doctor --mend: they are laid there.",
        )
        silent = [sha for sha in heard if not ws.sounds.has(sha)]
        _say(found, "pictures that rows name are not in the store", gone, _whose(s, gone), FROM_BACKUP)
        _say(found, "clips that rows name are not in the store", no_clip, _whose(s, no_clip), FROM_BACKUP)
        _say(found, "sounds that rows name are not in the store", silent, _who_sounds(s, silent), FROM_BACKUP)
        _say(
            found,
            "pictures have no thumbnail",
            no_thumb,
            _whose(s, no_thumb),
            "Run juxtaform doctor --mend: they are made again.",
        )
        _say(
            found,
            "projects have a history with a gap",
            broken := _gaps(s),
            broken,
            "What they hold is whole, but undo may stop at the gap. Give the project out as a bundle and take it in again.",
        )
    later = time.time()
    sounds = set(heard)
    unnamed = [sha for sha in ws.store.older(later) if sha not in clips]
    unheard = [sha for sha in ws.sounds.older(later) if sha not in sounds]
    clean = "The next start clears away those that are older than an hour; nothing needs them."
    _say(found, "pictures lie in the store that no row names", unnamed, unnamed, clean)
    _say(found, "sounds lie in the store that no row names", unheard, unheard, clean)
    if deep:
        files = [(sha, ws.store.path(sha)) for sha in clips if sha not in lost]
        files += [(sha, ws.sounds.path(sha)) for sha in heard if ws.sounds.path(sha).exists()]
        broken_files = []
        for done, (sha, path) in enumerate(files):
            if _digest(path) != sha:
                broken_files.append(sha)
            progress(done + 1, len(files))
        with ws.database.reading() as s:
            _say(
                found,
                "files are not what was put in: the disk damaged them",
                broken_files,
                _whose(s, broken_files),
                FROM_BACKUP + " Look at the disk.",
            )
    return found


def mend(ws: Workspace) -> int:
    """Make thumbnails again that are missing, and lay into the shared store what is not there; how many pictures were mended."""
    with ws.database.reading() as s:
        shas = list(s.scalars(select(Picture.sha)))
    made = 0
    for sha in shas:
        path = ws.store.path(sha)
        if path.exists() and not all(ws.store.has(sha, end) for end in THUMBS):
            ws.store.put(path.read_bytes())
            made += 1
    missing = ws.store.unshared(shas)
    ws.store.share(missing)
    return made + len({p.name[:64] for p in missing})


def _say(found: Examined, what: str, which: Iterable[str], about: list[str], do: str) -> None:
    count = len(list(which))
    if count:
        found.complaints.append(Complaint(what, count, about[:MOST_NAMED], do))


def _whose(s: Session, shas: list[str]) -> list[str]:
    """In which projects pictures are, under which names."""
    rows = (
        s.execute(
            select(Project.title, LibraryPicture.name, LibraryPicture.picture_sha)
            .join(Project, Project.id == LibraryPicture.project_id)
            .where(LibraryPicture.picture_sha.in_(shas))
            .order_by(Project.title, LibraryPicture.name)
        ).all()
        if shas
        else []
    )
    return [f"“{title}”: {name} ({sha[:12]}…)" for title, name, sha in rows] or [f"{sha[:12]}…" for sha in shas]


def _who_sounds(s: Session, shas: list[str]) -> list[str]:
    rows = (
        s.execute(
            select(Project.title, Sound.name)
            .join(Project, Project.id == Sound.project_id)
            .where(Sound.sound_sha.in_(shas))
        ).all()
        if shas
        else []
    )
    return [f"“{title}”: {name}" for title, name in rows]


def _gaps(s: Session) -> list[str]:
    """Projects whose journal does not count without a gap."""
    rows = s.execute(
        select(Project.title, func.count(Change.id), func.max(Change.version), func.min(Change.version))
        .join(Change, Change.project_id == Project.id)
        .group_by(Project.id, Project.title)
    ).all()
    return [title for title, count, last, first in rows if count != last - first + 1]


def _digest(path: Path) -> str:
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()
