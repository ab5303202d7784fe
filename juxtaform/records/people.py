"""The tables of people: accounts, who works on which project, and what opens the door to them. No part of undo or of a bundle."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from sqlalchemy import ForeignKey, String
from sqlalchemy.orm import Mapped, mapped_column

from juxtaform.records.models import Base, new_id, now

Role = Literal["reviewer", "illustrator", "owner"]
ROLES: tuple[Role, ...] = ("reviewer", "illustrator", "owner")
"""What somebody may do in a project; each may do what the one before may."""
Scope = Literal["read", "write"]
Invites = Literal["first", "project", "account", "password"]


class Account(Base):
    """Somebody who can sign in. `login` is what they type, in small letters; a `keeper` looks after the accounts of this Juxtaform. `second` is
    what the codes of a second factor are made from, `second_offered` the same before it was confirmed, and `second_step` the half minute of
    the last code that was used, so that none opens twice."""

    __tablename__ = "account"

    id: Mapped[str] = mapped_column(String(32), primary_key=True, default=new_id)
    login: Mapped[str] = mapped_column(String(200), unique=True)
    name: Mapped[str] = mapped_column(String(80))
    password: Mapped[str] = mapped_column(String(200))
    keeper: Mapped[bool] = mapped_column(default=False)
    second: Mapped[str | None] = mapped_column(String(64), default=None)
    second_offered: Mapped[str | None] = mapped_column(String(64), default=None)
    second_step: Mapped[int] = mapped_column(default=0)
    made_at: Mapped[datetime] = mapped_column(default=now)
    closed_at: Mapped[datetime | None] = mapped_column(default=None)


class SpareCode(Base):
    """A code that opens once, in the place of one from a second factor that was lost. Only its digest is kept."""

    __tablename__ = "spare_code"

    digest: Mapped[str] = mapped_column(String(64), primary_key=True)
    account_id: Mapped[str] = mapped_column(ForeignKey("account.id"), index=True)
    used_at: Mapped[datetime | None] = mapped_column(default=None)


class SignIn(Base):
    """A browser that is signed in. Only the digest of what its cookie holds is kept; `earlier` is that of the cookie it had before it was
    renewed, which holds a moment longer for requests that are on their way."""

    __tablename__ = "sign_in"

    id: Mapped[str] = mapped_column(String(32), primary_key=True, default=new_id)
    digest: Mapped[str] = mapped_column(String(64), unique=True)
    earlier: Mapped[str | None] = mapped_column(String(64), default=None, index=True)
    account_id: Mapped[str] = mapped_column(ForeignKey("account.id"), index=True)
    browser: Mapped[str] = mapped_column(String(200), default="")
    made_at: Mapped[datetime] = mapped_column(default=now)
    seen_at: Mapped[datetime] = mapped_column(default=now)
    renewed_at: Mapped[datetime] = mapped_column(default=now)


class Member(Base):
    """Somebody's role in a project."""

    __tablename__ = "member"

    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), primary_key=True)
    account_id: Mapped[str] = mapped_column(ForeignKey("account.id"), primary_key=True, index=True)
    role: Mapped[str] = mapped_column(String(12))


class Invitation(Base):
    """A link that opens once: to the first account, to an account, into a project, or to a new password. Only its digest is kept."""

    __tablename__ = "invitation"

    digest: Mapped[str] = mapped_column(String(64), primary_key=True)
    invites: Mapped[str] = mapped_column(String(8))
    project_id: Mapped[str | None] = mapped_column(ForeignKey("project.id"), default=None, index=True)
    role: Mapped[str] = mapped_column(String(12), default="")
    account_id: Mapped[str | None] = mapped_column(String(32), default=None)
    made_by: Mapped[str] = mapped_column(String(32), default="")
    made_at: Mapped[datetime] = mapped_column(default=now)
    ends_at: Mapped[datetime]
    used_at: Mapped[datetime | None] = mapped_column(default=None)


class ApiToken(Base):
    """What lets a program in for somebody; only its digest is kept. One for a project opens that project alone."""

    __tablename__ = "api_token"

    id: Mapped[str] = mapped_column(String(32), primary_key=True, default=new_id)
    digest: Mapped[str] = mapped_column(String(64), unique=True)
    account_id: Mapped[str] = mapped_column(ForeignKey("account.id"), index=True)
    name: Mapped[str] = mapped_column(String(80))
    scope: Mapped[str] = mapped_column(String(8))
    project_id: Mapped[str | None] = mapped_column(ForeignKey("project.id"), default=None)
    made_at: Mapped[datetime] = mapped_column(default=now)
    ends_at: Mapped[datetime]
    used_at: Mapped[datetime | None] = mapped_column(default=None)


class Trying(Base):
    """How often a secret was tried and was wrong: for an account, or from an address; digests name both."""

    __tablename__ = "trying"

    key: Mapped[str] = mapped_column(String(64), primary_key=True)
    failures: Mapped[int] = mapped_column(default=0)
    at: Mapped[datetime] = mapped_column(default=now)
