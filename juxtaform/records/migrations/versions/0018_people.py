"""Accounts, who works on which project, what lets them in; and in the journal, who did it."""

from __future__ import annotations

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0018"
down_revision = "0017"
branch_labels = None
depends_on = None

INSTANT = mysql.DATETIME(fsp=3)


def upgrade() -> None:
    op.create_table(
        "account",
        sa.Column("id", sa.String(32), primary_key=True),
        sa.Column("login", sa.String(200), nullable=False),
        sa.Column("name", sa.String(80), nullable=False),
        sa.Column("password", sa.String(200), nullable=False),
        sa.Column("keeper", sa.Boolean(), nullable=False),
        sa.Column("made_at", INSTANT, nullable=False),
        sa.Column("closed_at", INSTANT, nullable=True),
        sa.UniqueConstraint("login", name="uq_account_login"),
    )
    op.create_table(
        "sign_in",
        sa.Column("id", sa.String(32), primary_key=True),
        sa.Column("digest", sa.String(64), nullable=False),
        sa.Column("earlier", sa.String(64), nullable=True),
        _account("sign_in"),
        sa.Column("browser", sa.String(200), nullable=False),
        sa.Column("made_at", INSTANT, nullable=False),
        sa.Column("seen_at", INSTANT, nullable=False),
        sa.Column("renewed_at", INSTANT, nullable=False),
        sa.UniqueConstraint("digest", name="uq_sign_in_digest"),
    )
    op.create_index("ix_sign_in_earlier", "sign_in", ["earlier"])
    op.create_index("ix_sign_in_account_id", "sign_in", ["account_id"])
    op.create_table(
        "member",
        _project("member", primary_key=True),
        sa.Column(
            "account_id",
            sa.String(32),
            sa.ForeignKey("account.id", name="fk_member_account_id_account"),
            primary_key=True,
        ),
        sa.Column("role", sa.String(12), nullable=False),
    )
    op.create_index("ix_member_account_id", "member", ["account_id"])
    op.create_table(
        "invitation",
        sa.Column("digest", sa.String(64), primary_key=True),
        sa.Column("invites", sa.String(8), nullable=False),
        _project("invitation", nullable=True),
        sa.Column("role", sa.String(12), nullable=False),
        sa.Column("account_id", sa.String(32), nullable=True),
        sa.Column("made_by", sa.String(32), nullable=False),
        sa.Column("made_at", INSTANT, nullable=False),
        sa.Column("ends_at", INSTANT, nullable=False),
        sa.Column("used_at", INSTANT, nullable=True),
    )
    op.create_index("ix_invitation_project_id", "invitation", ["project_id"])
    op.create_table(
        "api_token",
        sa.Column("id", sa.String(32), primary_key=True),
        sa.Column("digest", sa.String(64), nullable=False),
        _account("api_token"),
        sa.Column("name", sa.String(80), nullable=False),
        sa.Column("scope", sa.String(8), nullable=False),
        _project("api_token", nullable=True),
        sa.Column("made_at", INSTANT, nullable=False),
        sa.Column("ends_at", INSTANT, nullable=False),
        sa.Column("used_at", INSTANT, nullable=True),
        sa.UniqueConstraint("digest", name="uq_api_token_digest"),
    )
    op.create_index("ix_api_token_account_id", "api_token", ["account_id"])
    op.create_table(
        "trying",
        sa.Column("key", sa.String(64), primary_key=True),
        sa.Column("failures", sa.Integer(), nullable=False),
        sa.Column("at", INSTANT, nullable=False),
    )
    op.add_column("change", sa.Column("by", sa.String(80), nullable=False, server_default=""))


def downgrade() -> None:
    op.drop_column("change", "by")
    for table in ("trying", "api_token", "invitation", "member", "sign_in", "account"):
        op.drop_table(table)


def _account(table: str) -> sa.Column[str]:
    key = sa.ForeignKey("account.id", name=f"fk_{table}_account_id_account")
    return sa.Column("account_id", sa.String(32), key, nullable=False)


def _project(table: str, **options: Any) -> sa.Column[str]:
    key = sa.ForeignKey("project.id", name=f"fk_{table}_project_id_project")
    return sa.Column("project_id", sa.String(32), key, **options)
