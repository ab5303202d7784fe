"""What every use case needs: the database, the picture store, and who listens to changes."""

from __future__ import annotations

import threading
from collections import defaultdict
from collections.abc import Callable, Collection, Iterator, Sequence
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any, TypeVar

from sqlalchemy import select
from sqlalchemy.dialects.mysql import insert
from sqlalchemy.orm import Session

from juxtaform.media.pyramid import Pyramids
from juxtaform.media.sounds import SoundStore
from juxtaform.media.store import PictureStore
from juxtaform.records import journal, rules
from juxtaform.records.database import Database
from juxtaform.records.models import JOURNALED, Base, Journaled, LibraryPicture, Picture, Thread, new_id, now
from juxtaform.studio.measuring import Workers

Model = TypeVar("Model", bound=Base)
Row = dict[str, Any]


class NotThere(LookupError):
    """What was asked for does not exist (any more)."""


class NotPossible(ValueError):
    """A request that cannot be carried out; the message says why and what to do."""


class Conflict(RuntimeError):
    """Somebody else changed the row meanwhile; both states are told."""

    def __init__(self, table: str, mine: Row, theirs: Row) -> None:
        super().__init__("Somebody changed this meanwhile. Look at both versions and say which one holds.")
        self.table, self.mine, self.theirs = table, mine, theirs


class AlreadyDone(RuntimeError):
    """A request that was sent again, because its answer was lost: it was done as `version` of its project."""

    def __init__(self, project_id: str, version: int) -> None:
        super().__init__("This was done already.")
        self.project_id, self.version = project_id, version


@dataclass(frozen=True)
class Changed:
    """What happened to a project after version `since` up to `version`, for the screen: rows that are there now, ids that are
    gone, and what undo would do next. Where nothing happened the two are the same."""

    project_id: str
    version: int
    since: int
    label: str
    rows: dict[str, list[Row]]
    gone: dict[str, list[str]]
    pictures: list[Row]
    undo_label: str | None
    redo_label: str | None


class Listeners:
    """Who waits for news of a project. News itself is read from the journal; a listener is only woken."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._wakers: dict[str, list[Callable[[], None]]] = defaultdict(list)
        self._followers: list[Callable[[str], None]] = []

    def follow(self, follower: Callable[[str], None]) -> None:
        """Call `follower` with the project at any news of any, before those who listen to one are woken."""
        with self._lock:
            self._followers.append(follower)

    def wake(self, project_id: str) -> None:
        with self._lock:
            followers = list(self._followers)
        for follower in followers:
            follower(project_id)
        self.nudge(project_id)

    def nudge(self, project_id: str) -> None:
        """Wake those who listen, without any news in the journal."""
        with self._lock:
            wakers = list(self._wakers.get(project_id, ()))
        for waker in wakers:
            waker()

    @contextmanager
    def listening(self, project_id: str, waker: Callable[[], None]) -> Iterator[None]:
        """Call `waker` at any news, from any thread; it must be quick and never raise."""
        with self._lock:
            self._wakers[project_id].append(waker)
        try:
            yield
        finally:
            with self._lock:
                wakers = self._wakers[project_id]
                wakers.remove(waker)
                if not wakers:
                    del self._wakers[project_id]


@dataclass(eq=False)
class Workspace:
    """The database, the store of pictures, the listeners and the worker processes of one running Juxtaform; `understudy` is the address and
    the token of the picture-making service that it ships with, where that runs; `pyramids` hold open what is looked at."""

    database: Database
    store: PictureStore
    listeners: Listeners = field(default_factory=Listeners)
    workers: Workers = field(default_factory=Workers)
    understudy: tuple[str, str] | None = None
    pyramids: Pyramids = field(init=False)

    def __post_init__(self) -> None:
        self.pyramids = Pyramids(lambda sha: self.store.pixels(sha))

    @cached_property
    def sounds(self) -> SoundStore:
        """The store of sounds, beside that of pictures."""
        return SoundStore(self.store.root.parent / "sounds")

    @contextmanager
    def writing(
        self, project_id: str, label: str, joins_within_s: float = 0.0, *, by_nobody: bool = False
    ) -> Iterator[Writing]:
        """One journaled transaction, one at a time for a project; listeners are woken after it is committed. What is done `by_nobody` is no
        step of undo."""
        with self.database.session() as session:
            deed = hold(session, project_id)
            with journal.change(session, project_id, label, joins_within_s, by_nobody=by_nobody) as written:
                written.deed = deed
                work = Writing(session, written)
                yield work
            _sound(session, written)
            # What was just written is what undo takes back next, and leaves nothing to redo.
            own = bool(written.rows) and not by_nobody
            work.changed = as_changed(session, written, labels=(written.label, None) if own else None)
            remember(session, project_id, _named_pictures(session, work.changed.rows))
        if work.changed.rows or work.changed.gone:
            self.listeners.wake(project_id)


_request: ContextVar[list[str] | None] = ContextVar("request", default=None)


@contextmanager
def request_named(name: str) -> Iterator[None]:
    """While this lasts, the first change bears the request's name; when one bears it already, AlreadyDone is raised instead."""
    token = _request.set([name])
    try:
        yield
    finally:
        _request.reset(token)


def hold(session: Session, project_id: str) -> str | None:
    """Hold a project until the transaction ends; returns the name that the change to come is to bear. Raises NotThere,
    AlreadyDone."""
    try:
        journal.hold(session, project_id)
    except journal.NoProject as error:
        raise NotThere(str(error)) from error
    names = _request.get()
    if not names:
        return None
    deed = names.pop()
    version = journal.done_before(session, project_id, deed)
    if version is not None:
        raise AlreadyDone(project_id, version)
    return deed


@dataclass
class Writing:
    """A change under way."""

    session: Session
    written: journal.Written
    changed: Changed = field(init=False)

    def name(self, label: str) -> None:
        """Say what the change is once that is known."""
        self.written.label = label[:200]

    def add(self, *rows: Base) -> None:
        """Add rows whose parents are already there."""
        self.session.add_all(rows)
        self.session.flush()

    def erase(self, rows: Sequence[Base]) -> None:
        """Delete rows whose children are already gone."""
        for row in rows:
            self.session.delete(row)
        self.session.flush()


def _sound(session: Session, written: journal.Written) -> None:
    """See that all that was written keeps the rules, and names rows of its own project alone. Raises NotPossible, NotThere."""
    named: dict[str, set[str]] = {}
    for r in written.rows:
        if r.after is None:
            continue
        changed = None if r.before is None else {k for k, v in r.after.items() if v != r.before[k]}
        wrong = rules.fault(r.table, r.after, changed)
        if wrong:
            raise NotPossible(f"This cannot be kept. {r.table.replace('_', ' ').capitalize()}, {wrong}.")
        for column, target, key in rules.links(r.table, r.after):
            if r.before is None or r.before[column] != r.after[column]:
                named.setdefault(target, set()).add(key)
    for target, keys in named.items():
        if keys - own_ids(session, JOURNALED[target], written.project_id, keys):
            raise NotThere(f"A {target} that this names is not there any more. Look at the project as it is now.")


def own_ids(session: Session, model: type[Journaled], project_id: str, ids: Collection[str]) -> set[str]:
    """Those of some ids that are rows of a project."""
    wanted, own = list(ids), set()
    for i in range(0, len(wanted), 1000):
        query = select(model.id).where(model.project_id == project_id, model.id.in_(wanted[i : i + 1000]))  # type: ignore[attr-defined]
        own |= set(session.scalars(query))
    return own


def as_changed(
    session: Session,
    written: journal.Written,
    since: int | None = None,
    labels: tuple[str | None, str | None] | None = None,
) -> Changed:
    """A written change as the screen wants it; of several at once `since` is the version before the first. `labels` are those of what undo
    and redo would do next, where they are known."""
    rows: dict[str, list[Row]] = {}
    gone: dict[str, list[str]] = {}
    for change in written.rows:
        if change.after is None:
            gone.setdefault(change.table, []).append(change.id)
        else:
            rows.setdefault(change.table, []).append(change.after)
    shas = pictures_of(rows)
    pictures = [plain(p) for p in session.scalars(select(Picture).where(Picture.sha.in_(shas)))] if shas else []
    back, forth = labels or journal.next_labels(session, written.project_id)
    if since is None:
        since = written.version - 1 if written.rows else written.version
    return Changed(written.project_id, written.version, since, written.label, rows, gone, pictures, back, forth)


def remember(session: Session, project_id: str, pictures: dict[str, str]) -> None:
    """Put pictures, as digest and name, into the project's library; what it has seen before stays as it is."""
    if not pictures:
        return
    query = select(LibraryPicture.picture_sha).where(
        LibraryPicture.project_id == project_id, LibraryPicture.picture_sha.in_(pictures)
    )
    known = set(session.scalars(query))
    fresh = [
        {
            "id": new_id(),
            "revision": 1,
            "project_id": project_id,
            "picture_sha": sha,
            "name": name[:255],
            "tags": [],
            "binned": False,
            "added_at": now(),
        }
        for sha, name in pictures.items()
        if sha not in known
    ]
    if fresh:
        row = insert(LibraryPicture).values(fresh)
        session.execute(row.on_duplicate_key_update(picture_sha=row.inserted.picture_sha))


def _named_pictures(session: Session, rows: dict[str, list[Row]]) -> dict[str, str]:
    """Pictures that some rows name, each with a name that tells what it is."""
    taken = rows.get("take", [])
    named = {
        r[end]: f"{r['name']}, {words}"
        for r in taken
        for end, words in (("first_sha", "first frame"), ("last_sha", "last frame"))
        if r.get(end)
    }
    named |= {r["picture_sha"]: r["name"] for r in taken}
    for r in rows.get("reference", []):
        thread = session.get(Thread, r["thread_id"])
        named[r["picture_sha"]] = f"{thread.name}, {r['name']}" if thread else r["name"]
    return {**{r["sketch_sha"]: "sketch" for r in rows.get("shot", []) if r.get("sketch_sha")}, **named}


def stored(session: Session, what: str, *shas: str) -> None:
    """See that pictures are in the store; `what` says in the user's words what they are. Raises NotPossible."""
    wanted = set(shas)
    if wanted - set(session.scalars(select(Picture.sha).where(Picture.sha.in_(wanted)))):
        raise NotPossible(f"{what} is not in the store. Drop the file again.")


def pictures_of(rows: dict[str, list[Row]]) -> set[str]:
    """The digests of all pictures that some rows name."""
    shas = {row["picture_sha"] for table in ("take", "reference") for row in rows.get(table, [])}
    return shas | {row["sketch_sha"] for row in rows.get("shot", []) if row.get("sketch_sha")}


def plain(row: Base) -> Row:
    """A row as a dict of its columns."""
    return {c.key: getattr(row, c.key) for c in row.__mapper__.column_attrs}


def found(session: Session, model: type[Model], key: str, project_id: str | None = None) -> Model:
    """The row with that key, of that project. Raises NotThere."""
    row = session.get(model, key)
    if row is None or (project_id is not None and getattr(row, "project_id", project_id) != project_id):
        raise NotThere(
            f"This {model.__tablename__} is not there any more. Somebody may have deleted it; undo brings it back."
        )
    return row


def of_project(session: Session, model: type[Model], project_id: str) -> list[Model]:
    """All rows of a project, in their order if they have one."""
    query = select(model).where(model.project_id == project_id)  # type: ignore[attr-defined]
    if hasattr(model, "position"):
        query = query.order_by(model.position, model.id)  # type: ignore[attr-defined]
    return list(session.scalars(query))


def edited(row: Journaled, revision: int | None, values: Row) -> None:
    """Set some columns of a row. Raises Conflict when the row is not at the revision that the editor saw."""
    at_revision(row, revision, values)
    for key, value in values.items():
        setattr(row, key, value)


def at_revision(row: Journaled, revision: int | None, values: Row) -> None:
    """See that a row that is to get some values is as the editor saw it. Raises Conflict."""
    if revision is not None and revision != row.revision and any(getattr(row, k) != v for k, v in values.items()):
        raise Conflict(row.__tablename__, {**plain(row), **values}, plain(row))  # type: ignore[attr-defined,arg-type]
