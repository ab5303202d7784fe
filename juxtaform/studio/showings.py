"""Showings as who makes them sees them: links to a frozen state, what was said of it, and how it becomes something to look at."""

from __future__ import annotations

import threading
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session, defer

from juxtaform.core.findings import Finding, key_of
from juxtaform.core.picture.regions import Box
from juxtaform.formats.out.soundtrack import as_mix
from juxtaform.records import journal
from juxtaform.records.models import Project, now
from juxtaform.records.showings import (
    Showing,
    ShowingEdition,
    ShowingNote,
    ShowingSign,
    ShowingViewer,
    ShowingWord,
)
from juxtaform.records.who import at_work
from juxtaform.studio import frozen, outgoing, secrets
from juxtaform.studio.by_worker import by_worker
from juxtaform.studio.rows import ProjectRows
from juxtaform.studio.workspace import NotPossible, NotThere, Workspace, found

MOST_SHOWINGS, MOST_EDITIONS, MOST_NOTES = 100, 200, 5000
LEAST_PASSPHRASE = 6
MOST_REMEMBERED = 200
_pictures: dict[str, frozenset[str]] = {}
NOTHING = "There is no shot to show yet. Plan some on the Story or the Sheet first."


@dataclass(frozen=True)
class NoteView:
    """A comment as it is seen: where it lies, who says it (`inside`: somebody of the project), and what it answers; `key` is that of what there
    is to look at."""

    id: str
    key: str
    shot_id: str
    edition: int
    parent_id: str | None
    name: str
    inside: bool
    words: str
    place: list[float] | None
    at_s: float | None
    made_at: datetime


@dataclass(frozen=True)
class WordView:
    """One word about a shot, and the edition that it was said of."""

    shot_id: str
    name: str
    says: str
    edition: int


@dataclass(frozen=True)
class SignView:
    """A signing off."""

    name: str
    words: str
    edition: int
    at: datetime


@dataclass(frozen=True)
class ShowingCard:
    """A showing: its link is told once, when it is made."""

    id: str
    title: str
    words: str
    made_by: str
    made_at: datetime
    ends_at: datetime
    state: str
    has_passphrase: bool
    edition: int
    frozen_at: datetime
    behind: bool
    viewers: list[str]
    notes: list[NoteView]
    verdicts: list[WordView]
    signs: list[SignView]


class News:
    """Counts what happened to a project's showings, for who listens."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._stamps: dict[str, int] = defaultdict(int)

    def stamp(self, project_id: str) -> int:
        return self._stamps.get(project_id, 0)

    def happened(self, ws: Workspace, project_id: str) -> None:
        with self._lock:
            self._stamps[project_id] += 1
        ws.listeners.nudge(project_id)


def of(ws: Workspace, project_id: str) -> list[ShowingCard]:
    """All showings of a project, the latest first. Raises NotThere."""
    with ws.database.reading() as s:
        found(s, Project, project_id)
        version = journal.latest(s, project_id).version
        rows = s.scalars(select(Showing).where(Showing.project_id == project_id).order_by(Showing.made_at.desc())).all()
        return [_card(s, row, version) for row in rows]


def make(
    ws: Workspace, project_id: str, title: str, words: str, days: int, passphrase: str = ""
) -> tuple[str, ShowingCard]:
    """Freeze the sequence as it stands, and make a link to it; the link's secret is told this once. Raises NotThere, NotPossible."""
    passphrase = passphrase.strip()
    if passphrase and len(passphrase) < LEAST_PASSPHRASE:
        raise NotPossible(f"This passphrase is too short: {LEAST_PASSPHRASE} characters are the least.")
    with ws.database.reading() as s:
        rows = ProjectRows(s, project_id)
        if (s.scalar(select(func.count()).where(Showing.project_id == project_id)) or 0) >= MOST_SHOWINGS:
            raise NotPossible(f"{MOST_SHOWINGS} showings are the most. Delete some that are over.")
    secret = secrets.new_secret()
    showing = Showing(
        project_id=project_id,
        digest=secrets.digest(secret),
        title=" ".join(title.split())[:200] or rows.project.title,
        words=words.strip(),
        passphrase=secrets.hash_of(passphrase) if passphrase else "",
        made_by=at_work(),
        ends_at=now() + timedelta(days=days),
    )
    with ws.database.session() as s:
        s.add(showing)
        s.flush()
        _freeze(ws, s, rows, showing.id)
        return secret, _card(s, showing, rows.version)


def freeze_anew(ws: Workspace, project_id: str, showing_id: str) -> ShowingCard:
    """Show the sequence as it stands now under the same link; who saw it before sees what changed. Raises NotThere, NotPossible."""
    with ws.database.reading() as s:
        rows = ProjectRows(s, project_id)
    with ws.database.session() as s:
        showing = _own(s, project_id, showing_id)
        _freeze(ws, s, rows, showing.id)
        return _card(s, showing, rows.version)


def revoke(ws: Workspace, project_id: str, showing_id: str) -> None:
    """Let a link show nothing any more; what was said stays. Raises NotThere."""
    with ws.database.session() as s:
        showing = _own(s, project_id, showing_id)
        showing.revoked_at = showing.revoked_at or now()
        s.execute(delete(ShowingViewer).where(ShowingViewer.showing_id == showing_id))


def remove(ws: Workspace, project_id: str, showing_id: str) -> None:
    """Delete a showing with all that was said of it. Raises NotThere."""
    with ws.database.session() as s:
        showing = _own(s, project_id, showing_id)
        _forget(ws, s, [showing.id])
        s.delete(showing)


def forget_project(ws: Workspace, s: Session, project_id: str) -> None:
    """Delete all showings of a project that goes."""
    ids = list(s.scalars(select(Showing.id).where(Showing.project_id == project_id)))
    _forget(ws, s, ids)
    s.execute(delete(Showing).where(Showing.project_id == project_id))


def answer(ws: Workspace, project_id: str, note_id: str, words: str) -> NoteView:
    """Answer a comment from inside. Raises NotThere, NotPossible."""
    if not words.strip():
        raise NotPossible("Write what the answer is.")
    with ws.database.session() as s:
        note = s.get(ShowingNote, note_id)
        if note is None or note.project_id != project_id:
            raise NotThere("This comment is not there any more.")
        made = ShowingNote(
            project_id=project_id,
            showing_id=note.showing_id,
            edition=note.edition,
            shot_id=note.shot_id,
            parent_id=note.parent_id or note.id,
            name=at_work() or "Illustrator",
            inside=True,
            words=words.strip(),
        )
        s.add(made)
        s.flush()
        return as_note(made)


def findings(s: Session, rows: ProjectRows) -> list[Finding]:
    """What viewers said that asks for something, each at its shot: comments, and shots that are to be changed."""
    notes = s.scalars(
        select(ShowingNote)
        .where(
            ShowingNote.project_id == rows.project.id, ShowingNote.parent_id.is_(None), ShowingNote.inside.is_(False)
        )
        .order_by(ShowingNote.made_at)
    )
    told = [_of_note(n, rows) for n in notes if n.shot_id in rows.shots]
    words = s.scalars(
        select(ShowingWord).where(ShowingWord.project_id == rows.project.id, ShowingWord.says == "change")
    )
    for w in words:
        if w.shot_id in rows.shots:
            told.append(
                Finding(
                    source="viewer",
                    kind="viewer_change",
                    title=f"{w.name} wants this changed",
                    advice="Look at the comments on this shot, or ask what is meant.",
                    shot=w.shot_id,
                    severity=2.0,
                    key=key_of("viewer", "change", w.showing_id, w.shot_id, w.name, w.edition),
                )
            )
    return told


def mark_of(s: Session, project_id: str) -> object:
    """Changes when viewers said something more."""
    notes = select(func.count(), func.max(ShowingNote.made_at)).where(ShowingNote.project_id == project_id)
    words = select(func.count(), func.max(ShowingWord.at)).where(ShowingWord.project_id == project_id)
    return tuple(s.execute(notes).one()), tuple(s.execute(words).one())


def _of_note(n: ShowingNote, rows: ProjectRows) -> Finding:
    region, take = None, next((t for t in rows.takes.values() if t.shot_id == n.shot_id and t.picked), None)
    picture = rows.pictures.get(take.picture_sha) if take else None
    if n.place and picture:
        x, y = n.place[0] * picture.width, n.place[1] * picture.height
        w, h = (n.place[2] * picture.width, n.place[3] * picture.height) if len(n.place) == 4 else (1.0, 1.0)
        region = Box(x, y, w, h)
    where = f", at {n.at_s:.1f} s" if n.at_s is not None else ""
    return Finding(
        source="viewer",
        kind="viewer_note",
        title=f"{n.name}{where}: {n.words}"[:400],
        advice="Answer it, put the shot down for a retake, or let it stand and say why.",
        shot=n.shot_id,
        severity=2.0,
        region=region,
        key=key_of("viewer", n.id),
    )


def as_note(n: ShowingNote) -> NoteView:
    return NoteView(
        n.id,
        key_of("viewer", n.id),
        n.shot_id,
        n.edition,
        n.parent_id,
        n.name,
        n.inside,
        n.words,
        n.place,
        n.at_s,
        n.made_at,
    )


def notes_of(s: Session, showing_id: str) -> list[NoteView]:
    """All comments of a showing, as they came."""
    rows = s.scalars(select(ShowingNote).where(ShowingNote.showing_id == showing_id).order_by(ShowingNote.made_at))
    return [as_note(n) for n in rows]


def words_of(s: Session, showing_id: str) -> list[WordView]:
    rows = s.scalars(select(ShowingWord).where(ShowingWord.showing_id == showing_id).order_by(ShowingWord.at))
    return [WordView(w.shot_id, w.name, w.says, w.edition) for w in rows]


def signs_of(s: Session, showing_id: str) -> list[SignView]:
    rows = s.scalars(select(ShowingSign).where(ShowingSign.showing_id == showing_id).order_by(ShowingSign.at))
    return [SignView(x.name, x.words, x.edition, x.at) for x in rows]


def newest(s: Session, showing_id: str) -> ShowingEdition:
    """The edition that is shown; what was frozen is read when it is asked for."""
    query = select(ShowingEdition).where(ShowingEdition.showing_id == showing_id).order_by(ShowingEdition.number.desc())
    return s.scalars(query.options(defer(ShowingEdition.frozen)).limit(1)).one()


def pictures_of(edition: ShowingEdition) -> frozenset[str]:
    """The pictures of an edition, which never change: read once."""
    if edition.id not in _pictures:
        if len(_pictures) >= MOST_REMEMBERED:
            _pictures.clear()
        _pictures[edition.id] = frozenset(frozen.read(edition.frozen).pictures)
    return _pictures[edition.id]


def sound_path(ws: Workspace, edition_id: str) -> Path:
    """Where the mix of an edition's sounds lies."""
    return ws.store.root.parent / "showings" / f"{edition_id}.m4a"


def state_of(showing: Showing) -> str:
    """Whether it can be seen: open, revoked or over."""
    if showing.revoked_at is not None:
        return "revoked"
    return "open" if showing.ends_at > now() else "over"


def _freeze(ws: Workspace, s: Session, rows: ProjectRows, showing_id: str) -> None:
    out = outgoing.of_rows(ws, rows)
    if not out.shots:
        raise NotPossible(NOTHING)
    count = s.scalar(select(func.count()).where(ShowingEdition.showing_id == showing_id)) or 0
    if count >= MOST_EDITIONS:
        raise NotPossible(f"A showing has {MOST_EDITIONS} editions at most. Make another one.")
    made = frozen.freeze(rows, out)
    edition = ShowingEdition(
        showing_id=showing_id,
        number=count + 1,
        frozen=made.model_dump_json(),
        sounds=bool(out.sounds),
        version=rows.version,
    )
    s.add(edition)
    s.flush()
    if out.sounds:
        path = sound_path(ws, edition.id)
        path.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
        by_worker(ws, as_mix, out, path)


def _forget(ws: Workspace, s: Session, ids: Sequence[str]) -> None:
    for edition in s.scalars(select(ShowingEdition.id).where(ShowingEdition.showing_id.in_(ids))):
        sound_path(ws, edition).unlink(missing_ok=True)
    for model in (ShowingSign, ShowingWord, ShowingNote, ShowingViewer, ShowingEdition):
        s.execute(delete(model).where(model.showing_id.in_(ids)))


def _own(s: Session, project_id: str, showing_id: str) -> Showing:
    showing = s.get(Showing, showing_id, with_for_update=True)
    if showing is None or showing.project_id != project_id:
        raise NotThere("This showing is not there any more.")
    return showing


def _card(s: Session, showing: Showing, version: int) -> ShowingCard:
    edition = newest(s, showing.id)
    names: Iterable[str] = s.scalars(
        select(ShowingViewer.name).where(ShowingViewer.showing_id == showing.id).order_by(ShowingViewer.at)
    )
    return ShowingCard(
        showing.id,
        showing.title,
        showing.words,
        showing.made_by,
        showing.made_at,
        showing.ends_at,
        state_of(showing),
        bool(showing.passphrase),
        edition.number,
        edition.made_at,
        edition.version != version,
        list(names),
        notes_of(s, showing.id),
        words_of(s, showing.id),
        signs_of(s, showing.id),
    )
