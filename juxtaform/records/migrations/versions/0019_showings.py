"""Showings: a frozen state that others see by a link, and what they say of it."""

from __future__ import annotations

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0019"
down_revision = "0018"
branch_labels = None
depends_on = None

INSTANT = mysql.DATETIME(fsp=3)


def upgrade() -> None:
    op.create_table(
        "showing",
        sa.Column("id", sa.String(32), primary_key=True),
        _to("project", "showing"),
        sa.Column("digest", sa.String(64), nullable=False),
        sa.Column("title", sa.String(200), nullable=False),
        sa.Column("words", sa.Text(), nullable=False),
        sa.Column("passphrase", sa.String(200), nullable=False),
        sa.Column("made_by", sa.String(80), nullable=False),
        sa.Column("made_at", INSTANT, nullable=False),
        sa.Column("ends_at", INSTANT, nullable=False),
        sa.Column("revoked_at", INSTANT, nullable=True),
        sa.UniqueConstraint("digest", name="uq_showing_digest"),
    )
    op.create_table(
        "showing_edition",
        sa.Column("id", sa.String(32), primary_key=True),
        _to("showing", "showing_edition"),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("frozen", mysql.LONGTEXT(), nullable=False),
        sa.Column("sounds", sa.Boolean(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("made_at", INSTANT, nullable=False),
        sa.UniqueConstraint("showing_id", "number", name="uq_showing_edition_showing_id"),
    )
    op.create_table(
        "showing_viewer",
        sa.Column("digest", sa.String(64), primary_key=True),
        _to("showing", "showing_viewer"),
        sa.Column("name", sa.String(80), nullable=False),
        sa.Column("seen", sa.Integer(), nullable=False),
        sa.Column("earlier", sa.Integer(), nullable=False),
        sa.Column("at", INSTANT, nullable=False),
    )
    op.create_table(
        "showing_note",
        sa.Column("id", sa.String(32), primary_key=True),
        _to("project", "showing_note"),
        _to("showing", "showing_note"),
        sa.Column("edition", sa.Integer(), nullable=False),
        sa.Column("shot_id", sa.String(32), nullable=False),
        sa.Column("parent_id", sa.String(32), nullable=True),
        sa.Column("name", sa.String(80), nullable=False),
        sa.Column("inside", sa.Boolean(), nullable=False),
        sa.Column("words", sa.Text(), nullable=False),
        sa.Column("place", sa.JSON(), nullable=True),
        sa.Column("at_s", sa.Double(), nullable=True),
        sa.Column("origin", sa.String(300), nullable=False),
        sa.Column("made_at", INSTANT, nullable=False),
    )
    op.create_table(
        "showing_word",
        _to("showing", "showing_word", primary_key=True),
        sa.Column("shot_id", sa.String(32), primary_key=True),
        sa.Column("name", sa.String(80), primary_key=True),
        _to("project", "showing_word"),
        sa.Column("edition", sa.Integer(), nullable=False),
        sa.Column("says", sa.String(8), nullable=False),
        sa.Column("at", INSTANT, nullable=False),
    )
    op.create_table(
        "showing_sign",
        sa.Column("id", sa.String(32), primary_key=True),
        _to("showing", "showing_sign"),
        sa.Column("edition", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(80), nullable=False),
        sa.Column("words", sa.Text(), nullable=False),
        sa.Column("at", INSTANT, nullable=False),
    )
    for table, column in (
        ("showing", "project_id"),
        ("showing_viewer", "showing_id"),
        ("showing_note", "project_id"),
        ("showing_note", "showing_id"),
        ("showing_word", "project_id"),
        ("showing_sign", "showing_id"),
    ):
        op.create_index(f"ix_{table}_{column}", table, [column])


def downgrade() -> None:
    for table in ("showing_sign", "showing_word", "showing_note", "showing_viewer", "showing_edition", "showing"):
        op.drop_table(table)


def _to(target: str, table: str, **options: Any) -> sa.Column[str]:
    key = sa.ForeignKey(f"{target}.id", name=f"fk_{table}_{target}_id_{target}")
    return sa.Column(f"{target}_id", sa.String(32), key, **{"nullable": False, **options})
