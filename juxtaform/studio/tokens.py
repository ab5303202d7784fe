"""Tokens that let programs in for somebody: with a scope, for a time, shown once."""

from __future__ import annotations

import logging
from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy import select

from juxtaform.records.models import Project, now
from juxtaform.records.people import Account, ApiToken, Scope
from juxtaform.studio import secrets
from juxtaform.studio.accounts import Person, as_person
from juxtaform.studio.workspace import NotPossible, NotThere, Workspace

PREFIX = "jxf_"
MOST_TOKENS = 50
SEEN_AGAIN = timedelta(minutes=5)
log = logging.getLogger("juxtaform.people")


@dataclass(frozen=True)
class TokenCard:
    """A token as its owner sees it; what it is was shown once."""

    id: str
    name: str
    scope: Scope
    project_id: str | None
    project: str
    made_at: datetime
    ends_at: datetime
    used_at: datetime | None


@dataclass(frozen=True)
class Bearer:
    """Whom a token lets in, and to what."""

    person: Person
    scope: Scope
    project_id: str | None


def of(ws: Workspace, account_id: str) -> list[TokenCard]:
    """Somebody's tokens, the latest first."""
    with ws.database.session() as s:
        rows = s.execute(
            select(ApiToken, Project.title)
            .outerjoin(Project, Project.id == ApiToken.project_id)
            .where(ApiToken.account_id == account_id)
            .order_by(ApiToken.made_at.desc())
        )
        return [_card(t, title or "") for t, title in rows]


def make(
    ws: Workspace, account_id: str, name: str, scope: Scope, project_id: str | None, days: int
) -> tuple[str, TokenCard]:
    """A new token and its card. Raises NotPossible."""
    with ws.database.session() as s:
        if len(list(s.scalars(select(ApiToken.id).where(ApiToken.account_id == account_id)))) >= MOST_TOKENS:
            raise NotPossible(f"{MOST_TOKENS} tokens are the most. Take one back that is not needed any more.")
        project = s.get(Project, project_id) if project_id else None
        secret = secrets.new_secret(PREFIX)
        token = ApiToken(
            digest=secrets.digest(secret),
            account_id=account_id,
            name=" ".join(name.split())[:80] or "A token",
            scope=scope,
            project_id=project.id if project else None,
            ends_at=now() + timedelta(days=days),
        )
        s.add(token)
        s.flush()
        log.info("account %s made token %s", account_id, token.id)
        return secret, _card(token, project.title if project else "")


def take_back(ws: Workspace, account_id: str, token_id: str) -> None:
    """Let a token open nothing any more. Raises NotThere."""
    with ws.database.session() as s:
        row = s.get(ApiToken, token_id)
        if row is None or row.account_id != account_id:
            raise NotThere("This token is not there any more.")
        s.delete(row)
        log.info("account %s took token %s back", account_id, token_id)


def known(ws: Workspace, secret: str) -> Bearer | None:
    """Whom a token lets in; None where it opens nothing (any more)."""
    if not secret.startswith(PREFIX):
        return None
    with ws.database.session() as s:
        row = s.execute(
            select(ApiToken, Account)
            .join(Account, Account.id == ApiToken.account_id)
            .where(ApiToken.digest == secrets.digest(secret), Account.closed_at.is_(None), ApiToken.ends_at > now())
        ).first()
        if row is None:
            return None
        token, account = row
        if token.used_at is None or token.used_at < now() - SEEN_AGAIN:
            token.used_at = now()
        return Bearer(as_person(account), token.scope, token.project_id)  # type: ignore[arg-type]


def _card(t: ApiToken, title: str) -> TokenCard:
    return TokenCard(t.id, t.name, t.scope, t.project_id, title, t.made_at, t.ends_at, t.used_at)  # type: ignore[arg-type]
