"""Who works on a project, and as what."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from juxtaform.records.models import LibraryPicture, Sound
from juxtaform.records.people import ROLES, Account, Member, Role
from juxtaform.studio.workspace import NotPossible, NotThere, Workspace


@dataclass(frozen=True)
class MemberCard:
    """Somebody who works on a project."""

    account_id: str
    login: str
    name: str
    role: Role


def role_of(ws: Workspace, project_id: str, account_id: str) -> Role | None:
    """What somebody is in a project; None where they are nothing to it."""
    with ws.database.session() as s:
        row = s.get(Member, (project_id, account_id))
        return row.role if row else None  # type: ignore[return-value]


def of(ws: Workspace, project_id: str) -> list[MemberCard]:
    """Everybody in a project, owners first."""
    with ws.database.session() as s:
        rows = s.execute(
            select(Account, Member.role)
            .join(Member, Member.account_id == Account.id)
            .where(Member.project_id == project_id)
        )
        cards = [MemberCard(a.id, a.login, a.name, role) for a, role in rows]  # type: ignore[arg-type]
        return sorted(cards, key=lambda c: (-ROLES.index(c.role), c.name.casefold()))


def set_role(ws: Workspace, project_id: str, account_id: str, role: Role) -> None:
    """Make somebody something else in a project. Raises NotThere, NotPossible."""
    with ws.database.session() as s:
        row = _member(s, project_id, account_id)
        if row.role == "owner" and role != "owner":
            _see_another_owner(s, project_id, account_id)
        row.role = role


def leave(ws: Workspace, project_id: str, account_id: str) -> None:
    """Take somebody out of a project. Raises NotThere, NotPossible."""
    with ws.database.session() as s:
        row = _member(s, project_id, account_id)
        if row.role == "owner":
            _see_another_owner(s, project_id, account_id)
        s.delete(row)


def raise_to(s: Session, project_id: str, account_id: str, role: str) -> None:
    """Let somebody in; whoever is more already stays so."""
    row = s.get(Member, (project_id, account_id))
    if row is None:
        s.add(Member(project_id=project_id, account_id=account_id, role=role))
    elif ROLES.index(row.role) < ROLES.index(role):
        row.role = role


def may_see_picture(ws: Workspace, account_id: str, sha: str, project_id: str | None = None) -> bool:
    """Whether a picture is in the library of one of somebody's projects (or of that one)."""
    return _in_own(ws, account_id, project_id, LibraryPicture, LibraryPicture.picture_sha, sha)


def may_hear(ws: Workspace, account_id: str, sha: str, project_id: str | None = None) -> bool:
    """Whether a sound is in one of somebody's projects (or in that one)."""
    return _in_own(ws, account_id, project_id, Sound, Sound.sound_sha, sha)


def _in_own(ws: Workspace, account_id: str, project_id: str | None, model: type, column: object, sha: str) -> bool:
    query = (
        select(model.id)  # type: ignore[attr-defined]
        .join(Member, Member.project_id == model.project_id)  # type: ignore[attr-defined]
        .where(Member.account_id == account_id, column == sha)  # type: ignore[arg-type]
    )
    if project_id:
        query = query.where(Member.project_id == project_id)
    with ws.database.session() as s:
        return s.scalar(query.limit(1)) is not None


def _member(s: Session, project_id: str, account_id: str) -> Member:
    row = s.get(Member, (project_id, account_id), with_for_update=True)
    if row is None:
        raise NotThere("They are not in this project any more.")
    return row


def _see_another_owner(s: Session, project_id: str, account_id: str) -> None:
    """Raises NotPossible where a project would be left without an owner."""
    query = select(Member.account_id).where(
        Member.project_id == project_id, Member.role == "owner", Member.account_id != account_id
    )
    if s.scalar(query.limit(1).with_for_update()) is None:
        raise NotPossible("A project needs an owner. Make somebody else its owner first.")
