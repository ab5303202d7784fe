"""Files out: what was asked for, how far it is, and what came of it."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "delivery",
        sa.Column("id", sa.String(32), primary_key=True),
        sa.Column(
            "project_id",
            sa.String(32),
            sa.ForeignKey("project.id", name="fk_delivery_project_id_project"),
            nullable=False,
        ),
        sa.Column("kind", sa.String(16), nullable=False),
        sa.Column("options", sa.JSON(), nullable=False),
        sa.Column("state", sa.String(8), nullable=False),
        sa.Column("done", sa.Integer(), nullable=False),
        sa.Column("total", sa.Integer(), nullable=False),
        sa.Column("message", sa.Text(), nullable=False),
        sa.Column("name", sa.String(255), nullable=False),
        sa.Column("bytes", sa.BigInteger(), nullable=False),
        sa.Column("asked_at", mysql.DATETIME(fsp=3), nullable=False),
        sa.Column("ended_at", mysql.DATETIME(fsp=3), nullable=True),
    )
    op.create_index("ix_delivery_project_id", "delivery", ["project_id"])


def downgrade() -> None:
    op.drop_table("delivery")
