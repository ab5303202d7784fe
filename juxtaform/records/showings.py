"""The tables of showings: a frozen state of the sequence that others see by a link, and what they say of it. No part of undo or of a bundle."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal

from sqlalchemy import Double, ForeignKey, String, Text, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column

from juxtaform.records.models import Base, LongText, new_id, now

Says = Literal["good", "change"]


class Showing(Base):
    """A link by which others see a sequence; only the digest of its secret is kept. It shows its newest edition."""

    __tablename__ = "showing"

    id: Mapped[str] = mapped_column(String(32), primary_key=True, default=new_id)
    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), index=True)
    digest: Mapped[str] = mapped_column(String(64), unique=True)
    title: Mapped[str] = mapped_column(String(200))
    words: Mapped[str] = mapped_column(Text, default="")
    passphrase: Mapped[str] = mapped_column(String(200), default="")
    made_by: Mapped[str] = mapped_column(String(80), default="")
    made_at: Mapped[datetime] = mapped_column(default=now)
    ends_at: Mapped[datetime]
    revoked_at: Mapped[datetime | None] = mapped_column(default=None)


class ShowingEdition(Base):
    """The sequence as it was when it was frozen, as JSON text; pictures by their digests, the mix of its sounds in a file under its id."""

    __tablename__ = "showing_edition"
    __table_args__ = (UniqueConstraint("showing_id", "number"),)

    id: Mapped[str] = mapped_column(String(32), primary_key=True, default=new_id)
    showing_id: Mapped[str] = mapped_column(ForeignKey("showing.id"))
    number: Mapped[int]
    frozen: Mapped[str] = mapped_column(LongText)
    sounds: Mapped[bool] = mapped_column(default=False)
    version: Mapped[int]
    made_at: Mapped[datetime] = mapped_column(default=now)


class ShowingViewer(Base):
    """A browser that opened a showing: the name that its user gave, and the edition that it saw last."""

    __tablename__ = "showing_viewer"

    digest: Mapped[str] = mapped_column(String(64), primary_key=True)
    showing_id: Mapped[str] = mapped_column(ForeignKey("showing.id"), index=True)
    name: Mapped[str] = mapped_column(String(80), default="")
    seen: Mapped[int] = mapped_column(default=0)
    earlier: Mapped[int] = mapped_column(default=0)
    at: Mapped[datetime] = mapped_column(default=now)


class ShowingNote(Base):
    """A comment: on a shot, at a place of its picture (parts of its width and height) or at a moment of the run-through; or an answer to one."""

    __tablename__ = "showing_note"

    id: Mapped[str] = mapped_column(String(32), primary_key=True, default=new_id)
    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), index=True)
    showing_id: Mapped[str] = mapped_column(ForeignKey("showing.id"), index=True)
    edition: Mapped[int]
    shot_id: Mapped[str] = mapped_column(String(32))
    parent_id: Mapped[str | None] = mapped_column(String(32), default=None)
    name: Mapped[str] = mapped_column(String(80))
    inside: Mapped[bool] = mapped_column(default=False)
    words: Mapped[str] = mapped_column(Text)
    place: Mapped[list[Any] | None] = mapped_column(default=None)
    at_s: Mapped[float | None] = mapped_column(Double, default=None)
    origin: Mapped[str] = mapped_column(String(300), default="")
    made_at: Mapped[datetime] = mapped_column(default=now)


class ShowingWord(Base):
    """What somebody says of a shot in one word: good, or to be changed."""

    __tablename__ = "showing_word"

    showing_id: Mapped[str] = mapped_column(ForeignKey("showing.id"), primary_key=True)
    shot_id: Mapped[str] = mapped_column(String(32), primary_key=True)
    name: Mapped[str] = mapped_column(String(80), primary_key=True)
    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), index=True)
    edition: Mapped[int]
    says: Mapped[str] = mapped_column(String(8))
    at: Mapped[datetime] = mapped_column(default=now)


class ShowingSign(Base):
    """Somebody's signing off of an edition."""

    __tablename__ = "showing_sign"

    id: Mapped[str] = mapped_column(String(32), primary_key=True, default=new_id)
    showing_id: Mapped[str] = mapped_column(ForeignKey("showing.id"), index=True)
    edition: Mapped[int]
    name: Mapped[str] = mapped_column(String(80))
    words: Mapped[str] = mapped_column(Text, default="")
    at: Mapped[datetime] = mapped_column(default=now)
