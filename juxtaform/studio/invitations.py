"""Links that open once: to the first account, to an account, into a project, to a new password."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from juxtaform.records.models import Project, now
from juxtaform.records.people import Account, Invitation, Invites, Role
from juxtaform.studio import accounts, members, second, secrets
from juxtaform.studio.accounts import Entered, Person
from juxtaform.studio.secrets import FREE_TRIES_OF_ADDRESS
from juxtaform.studio.workspace import NotPossible, NotThere, Workspace

LASTS: dict[Invites, timedelta] = {
    "first": timedelta(hours=24),
    "account": timedelta(days=7),
    "project": timedelta(days=7),
    "password": timedelta(hours=24),
}
GONE = "This link does not open anything any more: it was used, or its time is over. Ask for a new one."


@dataclass(frozen=True)
class Invited:
    """What a link opens: whereto, as what, and whose password where it is for one."""

    invites: Invites
    project: str
    role: str
    login: str
    ends_at: datetime
    second: bool
    """Whether a code of their second factor is wanted too."""


@dataclass(frozen=True)
class OpenInvitation:
    """A link that was not used yet; `id` is its digest."""

    id: str
    role: str
    made_at: datetime
    ends_at: datetime


def first(ws: Workspace) -> str:
    """The secret of a link to the first account; one that was made before ends. Raises NotPossible once there is an account."""
    with ws.database.session() as s:
        if s.scalar(select(Account.id).limit(1)):
            raise NotPossible("There are accounts already.")
        s.execute(delete(Invitation).where(Invitation.invites == "first"))
        return _made(s, "first")


def to_account(ws: Workspace, made_by: str) -> str:
    """The secret of a link to an account without a project."""
    with ws.database.session() as s:
        return _made(s, "account", made_by=made_by)


def to_project(ws: Workspace, project_id: str, role: Role, made_by: str) -> str:
    """The secret of a link into a project."""
    with ws.database.session() as s:
        return _made(s, "project", project_id=project_id, role=role, made_by=made_by)


def to_password(ws: Workspace, account_id: str, made_by: str = "") -> str:
    """The secret of a link to a new password. Raises NotThere."""
    with ws.database.session() as s:
        if s.get(Account, account_id) is None:
            raise NotThere("There is no such account.")
        return _made(s, "password", account_id=account_id, made_by=made_by)


def waiting(ws: Workspace, project_id: str) -> list[OpenInvitation]:
    """Links into a project that were not used yet, the latest first."""
    with ws.database.session() as s:
        rows = s.scalars(
            select(Invitation)
            .where(Invitation.project_id == project_id, Invitation.used_at.is_(None), Invitation.ends_at > now())
            .order_by(Invitation.made_at.desc())
        )
        return [OpenInvitation(r.digest, r.role, r.made_at, r.ends_at) for r in rows]


def take_back(ws: Workspace, project_id: str, digest: str) -> None:
    """Let a link into a project open nothing any more. Raises NotThere."""
    with ws.database.session() as s:
        row = s.get(Invitation, digest)
        if row is None or row.project_id != project_id:
            raise NotThere("This link is not there any more.")
        s.delete(row)


def look(ws: Workspace, secret: str, address: str) -> Invited:
    """What a link opens. Raises NotThere, TooMany."""
    with ws.database.session() as s:
        row = _open(ws, s, secret, address)
        project = s.get(Project, row.project_id) if row.project_id else None
        account = s.get(Account, row.account_id) if row.account_id else None
        return Invited(
            row.invites,  # type: ignore[arg-type]
            project.title if project else "",
            row.role,
            account.login if account else "",
            row.ends_at,
            account is not None and account.second is not None,
        )


def use_for_new(
    ws: Workspace, secret: str, login: str, name: str, password: str, code: str, address: str, browser: str
) -> tuple[Entered, str | None]:
    """Make an account, or a new password, by a link, and sign in; with the project that it leads into. For a new password a code of the
    second factor is wanted where there is one. Raises NotThere, NotPossible, CodeWanted, CodeWrong, TooMany."""
    with ws.database.session() as s:
        row = _open(ws, s, secret, address, hold=True)
        if row.invites == "password":
            account = s.get(Account, row.account_id)
            if account is None or account.closed_at is not None:
                raise NotThere(GONE)
            # A code opens once: it is not used up for a password that is refused.
            secrets.see_strong(password, [account.login, account.name])
            second.prove(ws, account.id, code)
            row.used_at = now()
            return accounts.set_password(s, account, password, browser), None
        if row.invites == "first" and s.scalar(select(Account.id).limit(1).with_for_update()):
            raise NotThere(GONE)
        account = accounts.make(s, login, name, password, keeper=row.invites == "first")
        _join(s, row, account.id)
        return accounts.entered(s, account, browser), row.project_id


def use_for_known(ws: Workspace, secret: str, person: Person, address: str) -> str:
    """Join a project by a link as somebody who is signed in; returns the project. Raises NotThere, TooMany."""
    with ws.database.session() as s:
        row = _open(ws, s, secret, address, hold=True)
        if row.invites != "project":
            raise NotPossible(
                "This link makes an account, and you have one. Sign out first if it is for somebody else."
            )
        _join(s, row, person.id)
        return row.project_id or ""


def _join(s: Session, row: Invitation, account_id: str) -> None:
    row.used_at = now()
    if row.project_id:
        members.raise_to(s, row.project_id, account_id, row.role)


def _open(ws: Workspace, s: Session, secret: str, address: str, *, hold: bool = False) -> Invitation:
    name = f"links from {address}"
    secrets.may_try(s, (name, FREE_TRIES_OF_ADDRESS))
    row = s.get(Invitation, secrets.digest(secret), with_for_update=hold or None)
    if row is None or row.used_at is not None or row.ends_at < now():
        ws.database.retried(lambda other: secrets.was_wrong(other, name))
        raise NotThere(GONE)
    return row


def _made(
    s: Session,
    invites: Invites,
    *,
    project_id: str | None = None,
    role: str = "",
    account_id: str | None = None,
    made_by: str = "",
) -> str:
    secret = secrets.new_secret()
    s.add(
        Invitation(
            digest=secrets.digest(secret),
            invites=invites,
            project_id=project_id,
            role=role,
            account_id=account_id,
            made_by=made_by,
            ends_at=now() + LASTS[invites],
        )
    )
    return secret
