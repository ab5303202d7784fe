"""Takes: pictures come in, are matched to shots, picked; and marks say who stands where."""

from __future__ import annotations

import tempfile
import unicodedata
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from juxtaform.core.picture.regions import Box
from juxtaform.core.plan.numbering import matched, natural_key
from juxtaform.formats.books_in import is_book, pages_of
from juxtaform.media.arrivals import Arrived, arrived, stays
from juxtaform.media.clips import clip_type
from juxtaform.media.decode import PictureRefused, within_bytes
from juxtaform.records.models import Mark, Picture, Project, Shot, Take, Thread
from juxtaform.studio import clips, pictures
from juxtaform.studio.areas import carry_marks
from juxtaform.studio.briefs import phrases_now
from juxtaform.studio.by_worker import by_worker
from juxtaform.studio.plan import erase_takes, in_order
from juxtaform.studio.versions import made_from
from juxtaform.studio.workspace import Changed, NotPossible, Workspace, Writing, edited, found, stored


@dataclass(frozen=True)
class TakenIn:
    """A file that came in: its stored picture and what became of it on the way, or why it was refused."""

    name: str
    sha: str | None
    width: int = 0
    height: int = 0
    refused: str = ""
    told: str = ""


@dataclass(frozen=True)
class Proposal:
    """A stored file and the shot it seems to belong to."""

    name: str
    sha: str
    shot_id: str | None
    reason: str


def take_in(ws: Workspace, name: str, data: bytes) -> TakenIn:
    """Store one file's picture or clip, or say why it is refused; never raises for a bad file."""
    try:
        _safe(name)
        kind = clip_type(data)
        came = Arrived(data) if kind or stays(data) else _made_anew(ws, data)
        picture = clips.put(ws, data, kind) if kind else ws.store.put(came.data)
    except (PictureRefused, NotPossible) as error:
        return TakenIn(name, None, refused=str(error))
    except OSError as error:
        return TakenIn(name, None, refused=f"It could not be stored: {error.strerror or error}. Is the disk full?")
    with ws.database.session() as s:
        pictures.keep(s, picture)
    return TakenIn(name, picture.sha, picture.width, picture.height, told=came.told)


def _made_anew(ws: Workspace, data: bytes) -> Arrived:
    """A file as it is kept, made by a worker: a stranger's file may bring down whoever reads it. Raises PictureRefused, NotPossible."""
    within_bytes(data)
    with tempfile.TemporaryDirectory(prefix="picture-") as folder:
        came, made = Path(folder) / "came", Path(folder) / "made"
        came.write_bytes(data)
        told, refused = by_worker(ws, _made_into, str(came), str(made))
        if refused:
            raise PictureRefused(refused)
        return Arrived(made.read_bytes(), told)


def _made_into(came: str, made: str) -> tuple[str, str]:
    """Make a file into what is kept; what is told of it, or why it is refused."""
    try:
        arrival = arrived(Path(came).read_bytes())
    except PictureRefused as error:
        return "", str(error)
    Path(made).write_bytes(arrival.data)
    return arrival.told, ""


def take_in_book(ws: Workspace, name: str, data: bytes) -> list[TakenIn]:
    """Store every page of a comic archive or PDF as a picture; what is refused says why. Raises NotPossible for a file whose pages cannot be read."""
    if not is_book(data):
        raise NotPossible("This is neither a comic archive (CBZ) nor a PDF.")
    with tempfile.TemporaryDirectory(prefix="book-") as folder:
        whole = Path(folder) / "whole"
        whole.write_bytes(data)
        taken = []
        for page in by_worker(ws, _laid_apart, str(whole), folder):
            path = Path(folder) / page
            taken.append(take_in(ws, f"{name[:200]}, {page}", path.read_bytes()))
            path.unlink()
        return taken


def _laid_apart(whole: str, folder: str) -> list[str]:
    """Lay the pages of a file into a folder, a file each, so that never more than one is held; returns their names."""
    names = []
    for name, page in pages_of(Path(whole).read_bytes()):
        (Path(folder) / name).write_bytes(page)
        names.append(name)
    return names


def propose(ws: Workspace, project_id: str, files: Sequence[tuple[str, str]]) -> list[Proposal]:
    """Match stored files, as (name, digest), to shots by the numbers in their names, in natural order."""
    with ws.database.session() as s:
        found(s, Project, project_id)
        shots = in_order(s, project_id)
    shas = dict(files)
    return [
        Proposal(m.name, shas[m.name], None if m.shot is None else shots[m.shot].id, m.reason)
        for m in matched([name for name, _ in files], [str(i + 1) for i in range(len(shots))])
    ]


def accept(ws: Workspace, project_id: str, files: Sequence[tuple[str, str, str]]) -> Changed:
    """Make takes of stored files, as (name, digest, shot id). The first picture of a shot without one is picked."""
    ends = clips.ends_of(ws, {sha for _, sha, _ in files})
    with ws.writing(project_id, "added takes") as w:
        count = len(files)
        w.name(f"added {count} {'take' if count == 1 else 'takes'}")
        shot_ids = [shot_id for _, _, shot_id in files]
        origin = _origin(w.session, project_id, shot_ids)
        own_shots = select(Shot).where(Shot.project_id == project_id, Shot.id.in_(shot_ids))
        shots = {x.id: x for x in w.session.scalars(own_shots)}
        takes: defaultdict[str, list[Take]] = defaultdict(list)
        for take in w.session.scalars(select(Take).where(Take.shot_id.in_(shot_ids))):
            takes[take.shot_id].append(take)
        here = set(w.session.scalars(select(Picture.sha).where(Picture.sha.in_({sha for _, sha, _ in files}))))
        made = []
        for name, sha, shot_id in sorted(files, key=lambda f: natural_key(f[0])):
            shot = shots.get(shot_id) or found(w.session, Shot, shot_id, project_id)
            shot.status = "settled"
            if sha not in here:
                stored(w.session, f"The picture {name[:120]}", sha)
            own = takes[shot.id]
            if any(t.picture_sha == sha for t in own):
                continue
            fresh = Take(
                project_id=project_id,
                shot_id=shot.id,
                picture_sha=sha,
                name=name.replace("\\", "/").rsplit("/", 1)[-1][:255],
                picked=not any(t.picked for t in own),
                position=max((t.position for t in own), default=-1.0) + 1,
                made_from=origin[shot.id],
                **vars(ends[sha]),
            )
            own.append(fresh)
            made.append(fresh)
        w.add(*made)
    return w.changed


def new_in(changed: Changed) -> list[str]:
    """The takes that a change added."""
    return [t["id"] for t in changed.rows.get("take", []) if t["revision"] == 1]


def replace_picture(ws: Workspace, project_id: str, shot_id: str, name: str, sha: str) -> Changed:
    """Add a take and pick it; the marks of the take that was picked before go with it when the sizes agree in form."""
    ends = clips.ends(ws, sha)
    with ws.writing(project_id, "replaced a picture") as w:
        shot = found(w.session, Shot, shot_id, project_id)
        stored(w.session, f"The picture {name[:120]}", sha)
        takes = list(w.session.scalars(select(Take).where(Take.shot_id == shot.id)))
        before = next((t for t in takes if t.picked), None)
        number = next(i for i, s in enumerate(in_order(w.session, project_id)) if s.id == shot_id) + 1
        w.name(f"replaced the picture of shot {number}")
        same = next((t for t in takes if t.picture_sha == sha), None)
        for take in takes:
            take.picked = False
        if same is None:
            position = max((t.position for t in takes), default=-1.0) + 1
            origin = _origin(w.session, project_id, [shot_id])[shot_id]
            same = Take(
                project_id=project_id,
                shot_id=shot_id,
                picture_sha=sha,
                name=name[:255],
                position=position,
                made_from=origin,
                **vars(ends),
            )
            w.add(same)
            if before is not None:
                _carry_marks(w.session, before, same)
        same.picked = True
    return w.changed


def pick(ws: Workspace, project_id: str, take_id: str) -> Changed:
    """Pick a take for its shot."""
    with ws.writing(project_id, "picked a take") as w:
        chosen = found(w.session, Take, take_id, project_id)
        for take in w.session.scalars(select(Take).where(Take.shot_id == chosen.shot_id)):
            take.picked = take.id == take_id
        if chosen.standing == "out":
            chosen.standing = ""
    return w.changed


def stand(ws: Workspace, project_id: str, take_ids: Sequence[str], standing: str) -> Changed:
    """Keep takes, put them out, or neither (empty); one that is put out is not picked any more. Nothing leaves the library."""
    deeds = {"kept": "kept", "out": "put out", "": "took back how it stood:"}
    with ws.writing(project_id, "sorted takes") as w:
        chosen = [found(w.session, Take, i, project_id) for i in dict.fromkeys(take_ids)]
        w.name(f"{deeds[standing]} {'a take' if len(chosen) == 1 else f'{len(chosen)} takes'}")
        for take in chosen:
            take.standing = standing
            take.picked = take.picked and standing != "out"
    return w.changed


def remove(ws: Workspace, project_id: str, take_id: str) -> Changed:
    """Remove a take from its shot; its picture stays in the store."""
    with ws.writing(project_id, "removed a take") as w:
        take = found(w.session, Take, take_id, project_id)
        erase_takes(w, [take])
        if take.picked:
            rest = select(Take).where(Take.shot_id == take.shot_id).order_by(Take.position.desc()).limit(1)
            if (last := w.session.scalars(rest).first()) is not None:
                last.picked = True
    return w.changed


def mark(
    ws: Workspace, project_id: str, take_id: str, thread_id: str, box: Box, revision: int | None = None
) -> Changed:
    """Say where a character or prop stands in a take; a second box moves the first. Raises Conflict when the first is not at the
    revision that the editor saw."""
    with ws.writing(project_id, "marked") as w:
        w.name(f"marked {put_mark(w, project_id, take_id, thread_id, box, revision)}")
    return w.changed


def put_mark(w: Writing, project_id: str, take_id: str, thread_id: str, box: Box, revision: int | None = None) -> str:
    """Put or move a mark within a change; who was said not to be there is there now. Returns the name of whom it is."""
    take, thread = found(w.session, Take, take_id, project_id), found(w.session, Thread, thread_id, project_id)
    fresh = new_mark(take, thread_id, found(w.session, Picture, take.picture_sha), box)
    query = select(Mark).where(Mark.take_id == take_id, Mark.thread_id == thread_id)
    if (mark := w.session.scalars(query).first()) is not None:
        edited(mark, revision, {"x": fresh.x, "y": fresh.y, "w": fresh.w, "h": fresh.h})
    else:
        w.add(fresh)
    return thread.name


def new_mark(take: Take, thread_id: str, picture: Picture, box: Box) -> Mark:
    """A mark in a take's picture, cut to it; who was said not to be there is there now. Raises NotPossible for a box outside."""
    try:
        cut = box.inside(picture.width, picture.height)
    except ValueError as error:
        raise NotPossible(str(error)) from error
    if thread_id in take.not_here:
        take.not_here = [i for i in take.not_here if i != thread_id]
    return Mark(project_id=take.project_id, take_id=take.id, thread_id=thread_id, x=cut.x, y=cut.y, w=cut.w, h=cut.h)


def unmark(ws: Workspace, project_id: str, mark_id: str) -> Changed:
    with ws.writing(project_id, "removed a mark") as w:
        w.erase([found(w.session, Mark, mark_id, project_id)])
    return w.changed


def _origin(session: Session, project_id: str, shot_ids: Sequence[str]) -> dict[str, dict[str, Any]]:
    """What a picture made now is made from, by shot: the references in force, and the phrases of its brief."""
    references = made_from(session, found(session, Project, project_id), shot_ids)
    phrases = phrases_now(session, project_id, shot_ids)
    return {i: {"references": references[i], "phrases": phrases.get(i, [])} for i in shot_ids}


def _carry_marks(session: Session, before: Take, after: Take) -> None:
    a, b = found(session, Picture, before.picture_sha), found(session, Picture, after.picture_sha)
    if abs(a.width / a.height - b.width / b.height) > 0.02:
        return
    carry_marks(session, before, after)


def _safe(name: str) -> None:
    parts = name.replace("\\", "/").split("/")
    if ".." in parts or name.startswith(("/", "\\")) or any(unicodedata.category(c) == "Cc" for c in name):
        raise PictureRefused("Its name points outside its folder. Rename the file and drop it again.")
