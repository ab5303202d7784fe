"""A showing as its viewers see it: opened by its link, the frozen state alone, and what they say of it."""

from __future__ import annotations

from collections.abc import Container
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from juxtaform.records.models import now
from juxtaform.records.showings import (
    Says,
    Showing,
    ShowingEdition,
    ShowingNote,
    ShowingSign,
    ShowingViewer,
    ShowingWord,
)
from juxtaform.studio import frozen, secrets, showings
from juxtaform.studio.frozen import Frozen
from juxtaform.studio.secrets import FREE_TRIES, FREE_TRIES_OF_ADDRESS
from juxtaform.studio.showings import MOST_NOTES, NoteView, SignView, WordView
from juxtaform.studio.workspace import NotPossible, NotThere, Workspace

GONE = "This link shows nothing any more: it was taken back, or its time is over. Ask whoever sent it."
AGAIN_AFTER = timedelta(hours=1)
"""Who comes back sooner than this is still at the same look."""


class NeedsPassphrase(RuntimeError):
    """A showing that opens with a passphrase only; `wrong` where one was given."""

    def __init__(self, *, wrong: bool) -> None:
        super().__init__(
            "This passphrase does not open it. Try again." if wrong else "This showing opens with a passphrase."
        )


@dataclass(frozen=True)
class Opened:
    """A showing that was opened, and what its viewer's cookie is to hold."""

    showing_id: str
    cookie: str


@dataclass(frozen=True)
class Shown:
    """What a viewer sees: the frozen state, what was said of it, and what changed since their last look."""

    title: str
    words: str
    made_by: str
    edition: int
    frozen_at: datetime
    ends_at: datetime
    name: str
    sequence: Frozen
    has_sound: bool
    changed: dict[str, list[str]]
    since: int
    notes: list[NoteView]
    verdicts: list[WordView]
    signs: list[SignView]


@dataclass(frozen=True)
class NewNote:
    """A comment to be made: on a shot, at a place of its picture or at a moment of the run-through, or an answer."""

    shot_id: str
    words: str
    name: str = ""
    place: list[float] | None = None
    at_s: float | None = None
    parent_id: str | None = None
    origin: str = ""


def open_by(ws: Workspace, secret: str, passphrase: str, address: str) -> Opened:
    """Open a showing by its link. Raises NotThere, NeedsPassphrase, TooMany."""
    theirs = f"showings from {address}"
    with ws.database.session() as s:
        secrets.may_try(s, (theirs, FREE_TRIES_OF_ADDRESS))
        showing = s.scalar(select(Showing).where(Showing.digest == secrets.digest(secret)))
        if showing is None or showings.state_of(showing) != "open":
            ws.database.retried(lambda other: secrets.was_wrong(other, theirs))
            raise NotThere(GONE)
        if showing.passphrase:
            own = f"showing {showing.id} from {address}"
            secrets.may_try(s, (own, FREE_TRIES))
            if not passphrase or not secrets.holds(passphrase.strip(), showing.passphrase):
                if passphrase:
                    ws.database.retried(lambda other: secrets.was_wrong(other, own, theirs))
                raise NeedsPassphrase(wrong=bool(passphrase))
        cookie = secrets.new_secret()
        s.add(ShowingViewer(digest=secrets.digest(cookie), showing_id=showing.id))
        return Opened(showing.id, cookie)


def look(ws: Workspace, showing_id: str, cookie: str) -> Shown:
    """What a viewer sees; it is remembered that they looked. Raises NotThere."""
    with ws.database.session() as s:
        showing, viewer = _let_in(s, showing_id, cookie)
        edition = showings.newest(s, showing_id)
        if viewer.seen != edition.number or viewer.at < now() - AGAIN_AFTER:
            viewer.earlier = viewer.seen or edition.number
        viewer.seen, viewer.at = edition.number, now()
        here = frozen.read(edition.frozen)
        before = _edition(s, showing_id, viewer.earlier) if viewer.earlier not in (0, edition.number) else None
        return Shown(
            showing.title,
            showing.words,
            showing.made_by,
            edition.number,
            edition.made_at,
            showing.ends_at,
            viewer.name,
            here,
            edition.sounds,
            {shot: list(c) for shot, c in frozen.changes(frozen.read(before.frozen), here).items()} if before else {},
            viewer.earlier if before else edition.number,
            showings.notes_of(s, showing_id),
            showings.words_of(s, showing_id),
            showings.signs_of(s, showing_id),
        )


def see_picture(ws: Workspace, showing_id: str, cookie: str, sha: str) -> None:
    """See that a picture is one of those that a showing shows. Raises NotThere."""
    with ws.database.session() as s:
        _let_in(s, showing_id, cookie)
        if sha not in showings.pictures_of(showings.newest(s, showing_id)):
            raise NotThere("This showing has no such picture.")


def sound(ws: Workspace, showing_id: str, cookie: str) -> Path:
    """The mix of a showing's sounds. Raises NotThere."""
    with ws.database.session() as s:
        _let_in(s, showing_id, cookie)
        path = showings.sound_path(ws, showings.newest(s, showing_id).id)
    if not path.exists():
        raise NotThere("This showing has no sound.")
    return path


def note(ws: Workspace, showing_id: str, cookie: str, new: NewNote) -> tuple[str, NoteView]:
    """Make a comment; with the project that it is for. Raises NotThere, NotPossible."""
    with ws.database.session() as s:
        showing, viewer = _let_in(s, showing_id, cookie)
        name = _named(viewer, new.name)
        edition = showings.newest(s, showing.id)
        made = add_note(s, showing, edition.number, _shots(edition), new, name)
        return showing.project_id, showings.as_note(made)


def add_note(s: Session, showing: Showing, edition: int, shots: Container[str], new: NewNote, name: str) -> ShowingNote:
    """Add a comment to an edition of a showing, which has these shots. Raises NotThere, NotPossible."""
    if not new.words.strip():
        raise NotPossible("Write what the comment is.")
    if new.place is not None and len(new.place) not in (2, 4):
        raise NotPossible("A place is a point (x, y) or a box (x, y, width, height).")
    if (s.scalar(select(func.count()).where(ShowingNote.showing_id == showing.id)) or 0) >= MOST_NOTES:
        raise NotPossible(f"A showing has {MOST_NOTES} comments at most.")
    parent = s.get(ShowingNote, new.parent_id) if new.parent_id else None
    if new.parent_id and (parent is None or parent.showing_id != showing.id):
        raise NotThere("The comment that this answers is not there any more.")
    if parent is None and new.shot_id not in shots:
        raise NotThere("This showing has no such shot.")
    made = ShowingNote(
        project_id=showing.project_id,
        showing_id=showing.id,
        edition=edition,
        shot_id=parent.shot_id if parent else new.shot_id,
        parent_id=(parent.parent_id or parent.id) if parent else None,
        name=name,
        words=new.words.strip(),
        place=None if parent else new.place,
        at_s=None if parent else new.at_s,
        origin=new.origin,
    )
    s.add(made)
    s.flush()
    return made


def say(
    ws: Workspace, showing_id: str, cookie: str, shot_id: str, says: Says | None, name: str
) -> tuple[str, list[WordView]]:
    """Say in one word what one thinks of a shot, or take it back; with the project. Raises NotThere, NotPossible."""
    with ws.database.session() as s:
        showing, viewer = _let_in(s, showing_id, cookie)
        edition = showings.newest(s, showing_id)
        if shot_id not in _shots(edition):
            raise NotThere("This showing has no such shot.")
        key = (showing_id, shot_id, _named(viewer, name))
        row = s.get(ShowingWord, key, with_for_update=True)
        if says is None:
            if row is not None:
                s.delete(row)
        elif row is None:
            s.add(
                ShowingWord(
                    showing_id=showing_id,
                    shot_id=shot_id,
                    name=key[2],
                    project_id=showing.project_id,
                    edition=edition.number,
                    says=says,
                )
            )
        else:
            row.says, row.edition, row.at = says, edition.number, now()
        s.flush()
        return showing.project_id, showings.words_of(s, showing_id)


def sign(ws: Workspace, showing_id: str, cookie: str, name: str, words: str) -> tuple[str, list[SignView]]:
    """Sign the edition off that is shown; with the project. Raises NotThere, NotPossible."""
    with ws.database.session() as s:
        showing, viewer = _let_in(s, showing_id, cookie)
        edition = showings.newest(s, showing_id)
        given = _named(viewer, name)
        done = select(ShowingSign.id).where(
            ShowingSign.showing_id == showing_id, ShowingSign.edition == edition.number, ShowingSign.name == given
        )
        if s.scalar(done):
            raise NotPossible(f"{given} has signed this off already.")
        s.add(ShowingSign(showing_id=showing_id, edition=edition.number, name=given, words=words.strip()))
        s.flush()
        return showing.project_id, showings.signs_of(s, showing_id)


def _let_in(s: Session, showing_id: str, cookie: str) -> tuple[Showing, ShowingViewer]:
    showing = s.get(Showing, showing_id)
    viewer = s.get(ShowingViewer, secrets.digest(cookie)) if cookie else None
    if showing is None or viewer is None or viewer.showing_id != showing_id or showings.state_of(showing) != "open":
        raise NotThere(GONE)
    return showing, viewer


def _named(viewer: ShowingViewer, name: str) -> str:
    """The viewer's name; the one given is kept. Raises NotPossible."""
    name = " ".join(name.split())[:80] or viewer.name
    if not name:
        raise NotPossible("Say who you are first: a name is enough.")
    viewer.name = name
    return name


def _shots(edition: ShowingEdition) -> set[str]:
    """The shots of an edition."""
    return {x.id for x in frozen.read(edition.frozen).shots}


def _edition(s: Session, showing_id: str, number: int) -> ShowingEdition | None:
    return s.scalar(
        select(ShowingEdition).where(ShowingEdition.showing_id == showing_id, ShowingEdition.number == number)
    )
