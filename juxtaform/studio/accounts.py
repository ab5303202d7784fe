"""Accounts: the first one, signing in and out, passwords, and whether anybody has to sign in at all."""

from __future__ import annotations

import logging
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy import and_, bindparam, delete, func, insert, or_, select, update
from sqlalchemy.orm import Session

from juxtaform.records.models import Project, now
from juxtaform.records.people import Account, ApiToken, Member, Role, SignIn
from juxtaform.studio import second, secrets
from juxtaform.studio.secrets import FREE_TRIES, FREE_TRIES_OF_ADDRESS
from juxtaform.studio.workspace import NotPossible, NotThere, Workspace

LASTS, RESTS = timedelta(days=30), timedelta(days=7)
"""A browser stays signed in for so long in all, and for so long without being used."""
RENEWED_AFTER, EARLIER_HOLDS = timedelta(hours=12), timedelta(minutes=2)
SEEN_AGAIN = timedelta(minutes=5)
LOOK_AGAIN_S = 2.0
log = logging.getLogger("juxtaform.people")


class Wrong(RuntimeError):
    """A name and a password that do not go together; which of the two is wrong is not told."""

    def __init__(self) -> None:
        super().__init__("Name and password do not go together. Look at both, then try again.")


@dataclass(frozen=True)
class Person:
    """Somebody with an account."""

    id: str
    login: str
    name: str
    keeper: bool
    second: bool
    """Whether they have a second factor."""


@dataclass(frozen=True)
class OwnSignIn:
    """A browser in which somebody is signed in; `here` is the one that asks."""

    id: str
    browser: str
    made_at: datetime
    seen_at: datetime
    here: bool


@dataclass(frozen=True)
class AccountCard:
    """An account as its keeper sees it."""

    id: str
    login: str
    name: str
    keeper: bool
    made_at: datetime
    seen_at: datetime | None
    closed: bool
    second: bool


@dataclass(frozen=True)
class Entered:
    """Somebody who just signed in, and what their browser's cookie is to hold."""

    person: Person
    cookie: str


class Doorkeeper:
    """Whether people have to sign in: from the first account on, or from the start where a server is to be reached from elsewhere."""

    def __init__(self, ws: Workspace, *, from_the_start: bool = False, second_wanted: bool = False) -> None:
        self._ws = ws
        self.second_wanted = second_wanted
        """Whether everybody has to have a second factor."""
        self._from_the_start = from_the_start
        self._closed = False
        self._looked_at = -LOOK_AGAIN_S
        self._lock = threading.Lock()
        self._on_first: list[Callable[[], None]] = []

    @property
    def closed(self) -> bool:
        """Whether whoever asks has to be known."""
        return self._from_the_start or self.has_accounts()

    def closed_for_sure(self) -> bool | None:
        """The answer where it is known without asking the database; None where it has to be asked."""
        if self._from_the_start or self._closed:
            return True
        return False if time.monotonic() - self._looked_at < LOOK_AGAIN_S else None

    def has_accounts(self) -> bool:
        """Whether there is an account; another server on the same database may have made it a moment ago."""
        with self._lock:
            if not self._closed and time.monotonic() - self._looked_at >= LOOK_AGAIN_S:
                with self._ws.database.session() as s:
                    self._closed = s.scalar(select(Account.id).limit(1)) is not None
                self._looked_at = time.monotonic()
            return self._closed

    def when_first(self, call: Callable[[], None]) -> None:
        """Call somebody once the first account is made."""
        self._on_first.append(call)

    def first_made(self) -> None:
        with self._lock:
            self._closed = True
            calls, self._on_first = self._on_first, []
        for call in calls:
            call()


def as_login(text: str) -> str:
    """What is typed to sign in, in the form that it is kept. Raises NotPossible."""
    login = text.strip().casefold()
    if not 2 <= len(login) <= 200 or any(c.isspace() or not c.isprintable() for c in login):
        raise NotPossible("To sign in a name without spaces is needed, such as a mail address.")
    return login


def make(s: Session, login: str, name: str, password: str, *, keeper: bool = False) -> Account:
    """A new account; the first one takes over the projects that are here. Raises NotPossible."""
    login, name = as_login(login), " ".join(name.split())[:80]
    if not name:
        raise NotPossible("Give the name that others are to see.")
    if s.scalar(select(Account.id).where(Account.login == login)):
        raise NotPossible(f"There is an account {login} already. Sign in with it, or take another name.")
    account = Account(login=login, name=name, password=secrets.hashed(password, [login, name]), keeper=keeper)
    is_first = s.scalar(select(func.count()).select_from(Account)) == 0
    s.add(account)
    s.flush()
    if is_first:
        rows = [{"project_id": p, "account_id": account.id, "role": "owner"} for p in s.scalars(select(Project.id))]
        if rows:
            s.execute(insert(Member), rows)
    log.info("account %s made%s", account.id, ", the first one" if is_first else "")
    return account


def sign_in(ws: Workspace, login: str, password: str, code: str, address: str, browser: str) -> Entered:
    """Sign somebody in; `code` is of their second factor, where they have one. Raises Wrong, CodeWanted, CodeWrong, TooMany."""
    name = login.strip().casefold()[:200]
    own, theirs = f"account {name}", f"address {address}"
    with ws.database.session() as s:
        secrets.may_try(s, (own, FREE_TRIES), (theirs, FREE_TRIES_OF_ADDRESS))
        account = s.scalar(select(Account).where(Account.login == name, Account.closed_at.is_(None)))
        kept, key = (account.password, account.id) if account else (None, None)
    if not secrets.holds(password, kept) or key is None:
        ws.database.retried(lambda s: secrets.was_wrong(s, own, theirs))
        log.warning("sign-in refused from %s", address)
        raise Wrong
    second.prove(ws, key, code)
    with ws.database.session() as s:
        secrets.was_right(s, own)
        found = s.get_one(Account, key)
        if secrets.is_outdated(found.password):
            found.password = secrets.hash_of(password)
        return entered(s, found, browser)


def entered(s: Session, account: Account, browser: str) -> Entered:
    """Sign a browser in as somebody."""
    cookie = secrets.new_secret()
    s.execute(delete(SignIn).where(or_(SignIn.made_at < now() - LASTS, SignIn.seen_at < now() - RESTS)))
    s.add(SignIn(digest=secrets.digest(cookie), account_id=account.id, browser=browser[:200]))
    log.info("account %s signed in", account.id)
    return Entered(as_person(account), cookie)


def as_person(account: Account) -> Person:
    return Person(account.id, account.login, account.name, account.keeper, account.second is not None)


_AT_ONCE = (
    select(Account.id, Account.login, Account.name, Account.keeper, Account.second.is_not(None), Member.role)
    .join(SignIn, SignIn.account_id == Account.id)
    .outerjoin(Member, and_(Member.account_id == Account.id, Member.project_id == bindparam("project")))
    .where(
        SignIn.digest == bindparam("digest"),
        Account.closed_at.is_(None),
        SignIn.made_at >= bindparam("made"),
        SignIn.seen_at >= bindparam("seen"),
        SignIn.renewed_at >= bindparam("renewed"),
    )
)
"""Made once: every request asks it."""


def known_at_once(ws: Workspace, cookie: str, project_id: str | None) -> tuple[Person, Role | None] | None:
    """Whose cookie this is, and what they are in a project, by one question. None where the cookie opens nothing, or where something of it is to be
    written down: `known` tells then."""
    at = now()
    found = ws.database.row(
        _AT_ONCE,
        digest=secrets.digest(cookie),
        project=project_id or "",
        made=at - LASTS,
        seen=at - SEEN_AGAIN,
        renewed=at - RENEWED_AFTER,
    )
    if found is None:
        return None
    account_id, login, name, keeper, has_second, role = tuple(found)
    return Person(account_id, login, name, keeper, bool(has_second)), role


def known(ws: Workspace, cookie: str) -> tuple[Person, str | None] | None:
    """Whose cookie this is, and what it is to be renewed by if it is time; None where it opens nothing any more."""
    key, at = secrets.digest(cookie), now()
    with ws.database.session() as s:
        row = s.execute(
            select(SignIn, Account)
            .join(Account, Account.id == SignIn.account_id)
            .where(or_(SignIn.digest == key, SignIn.earlier == key), Account.closed_at.is_(None))
        ).first()
        if row is None:
            return None
        sign_in_row, account = row
        if sign_in_row.made_at < at - LASTS or sign_in_row.seen_at < at - RESTS:
            return None
        is_earlier = sign_in_row.digest != key
        if is_earlier and sign_in_row.renewed_at < at - EARLIER_HOLDS:
            return None
        fresh = None
        if not is_earlier and sign_in_row.renewed_at < at - RENEWED_AFTER:
            fresh = secrets.new_secret()
            done = s.execute(
                update(SignIn)
                .where(SignIn.id == sign_in_row.id, SignIn.digest == key)
                .values(digest=secrets.digest(fresh), earlier=key, renewed_at=at, seen_at=at)
            )
            fresh = fresh if done.rowcount else None  # type: ignore[attr-defined]
        elif sign_in_row.seen_at < at - SEEN_AGAIN:
            sign_in_row.seen_at = at
        return as_person(account), fresh


def sign_out(ws: Workspace, cookie: str) -> None:
    """End what a cookie opens."""
    key = secrets.digest(cookie)
    with ws.database.session() as s:
        s.execute(delete(SignIn).where(or_(SignIn.digest == key, SignIn.earlier == key)))


def sign_ins(ws: Workspace, account_id: str, cookie: str) -> list[OwnSignIn]:
    """Where somebody is signed in, the latest first."""
    key = secrets.digest(cookie)
    with ws.database.session() as s:
        rows = s.scalars(select(SignIn).where(SignIn.account_id == account_id).order_by(SignIn.seen_at.desc()))
        return [OwnSignIn(r.id, r.browser, r.made_at, r.seen_at, key in (r.digest, r.earlier)) for r in rows]


def end_sign_in(ws: Workspace, account_id: str, sign_in_id: str) -> None:
    """Sign a browser out from elsewhere. Raises NotThere."""
    with ws.database.session() as s:
        row = s.get(SignIn, sign_in_id)
        if row is None or row.account_id != account_id:
            raise NotThere("This browser is not signed in any more.")
        s.delete(row)


def rename(ws: Workspace, account_id: str, name: str) -> Person:
    """Change the name that others see."""
    with ws.database.session() as s:
        account = s.get_one(Account, account_id)
        account.name = " ".join(name.split())[:80] or account.name
        return as_person(account)


def change_password(ws: Workspace, account_id: str, old: str, new: str, browser: str) -> Entered:
    """Change one's password; every browser is signed out but the one that asks, and tokens end. Raises Wrong, TooMany, NotPossible."""
    see_password(ws, account_id, old)
    with ws.database.session() as s:
        return set_password(s, s.get_one(Account, account_id), new, browser)


def see_password(ws: Workspace, account_id: str, password: str) -> None:
    """See that whoever is signed in knows the password too. Raises Wrong, TooMany."""
    with ws.database.session() as s:
        account = s.get_one(Account, account_id)
        login, kept = account.login, account.password
        secrets.may_try(s, (f"account {login}", FREE_TRIES))
    if not secrets.holds(password, kept):
        ws.database.retried(lambda s: secrets.was_wrong(s, f"account {login}"))
        raise Wrong


def set_password(s: Session, account: Account, password: str, browser: str) -> Entered:
    """Give an account a password; whatever was open before is closed. Raises NotPossible."""
    account.password = secrets.hashed(password, [account.login, account.name])
    _shut(s, account.id)
    secrets.was_right(s, f"account {account.login}")
    log.info("account %s has a new password", account.id)
    return entered(s, account, browser)


def _shut(s: Session, account_id: str) -> None:
    s.execute(delete(SignIn).where(SignIn.account_id == account_id))
    s.execute(delete(ApiToken).where(ApiToken.account_id == account_id))


def all_of_them(ws: Workspace) -> list[AccountCard]:
    """All accounts, for their keeper."""
    with ws.database.session() as s:
        seen = dict(
            s.execute(select(SignIn.account_id, func.max(SignIn.seen_at)).group_by(SignIn.account_id)).tuples().all()
        )
        return [
            AccountCard(
                a.id,
                a.login,
                a.name,
                a.keeper,
                a.made_at,
                seen.get(a.id),
                a.closed_at is not None,
                a.second is not None,
            )
            for a in s.scalars(select(Account).order_by(Account.made_at))
        ]


def close(ws: Workspace, account_id: str, *, closed: bool) -> None:
    """Close an account, or open it again. Raises NotThere, NotPossible."""
    with ws.database.session() as s:
        account = s.get(Account, account_id)
        if account is None:
            raise NotThere("There is no such account.")
        others = select(Account.id).where(Account.keeper, Account.closed_at.is_(None), Account.id != account_id)
        if closed and account.keeper and s.scalar(others) is None:
            raise NotPossible("This is the only account that looks after the others. Let another one do that first.")
        account.closed_at = now() if closed else None
        if closed:
            _shut(s, account.id)
        log.info("account %s %s", account.id, "closed" if closed else "opened again")
