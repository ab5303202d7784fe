"""Picture-making services, what is asked of them, and how their takes stand: kept or out, with fault marks, trials and parents."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.mysql import DATETIME, LONGTEXT

revision = "0009"
down_revision = "0008"

LONG_TEXT = sa.Text().with_variant(LONGTEXT(), "mysql", "mariadb")
INSTANT = sa.DateTime().with_variant(DATETIME(fsp=3), "mysql", "mariadb")


def _journaled(table: str, *columns: sa.Column[object]) -> None:
    op.create_table(
        table,
        sa.Column("id", sa.String(32), primary_key=True),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("project_id", sa.String(32), sa.ForeignKey("project.id"), nullable=False, index=True),
        *columns,
    )


def upgrade() -> None:
    op.add_column("project", sa.Column("allowance", sa.Double(), nullable=True))
    op.add_column("project", sa.Column("mends", sa.JSON(), nullable=True))
    op.execute(sa.text("UPDATE project SET mends = '[]'"))
    op.alter_column("project", "mends", existing_type=sa.JSON(), nullable=False)
    op.add_column("take", sa.Column("standing", sa.String(8), nullable=False, server_default=""))
    op.alter_column("take", "standing", existing_type=sa.String(8), existing_nullable=False, server_default=None)
    op.add_column("take", sa.Column("parent_id", sa.String(32), nullable=True))
    _journaled(
        "fault_mark",
        sa.Column("take_id", sa.String(32), sa.ForeignKey("take.id"), nullable=False, index=True),
        sa.Column("kind", sa.String(12), nullable=False),
        sa.Column("note", sa.String(200), nullable=False),
        *(sa.Column(side, sa.Double(), nullable=False) for side in "xywh"),
    )
    _journaled(
        "service",
        sa.Column("name", sa.String(80), nullable=False),
        sa.Column("address", sa.String(500), nullable=False),
        sa.Column("position", sa.Double(), nullable=False),
    )
    _journaled(
        "trial",
        sa.Column("shot_id", sa.String(32), sa.ForeignKey("shot.id"), nullable=False, index=True),
        sa.Column("axes", sa.JSON(), nullable=False),
        sa.Column("seeds", sa.JSON(), nullable=False),
        sa.Column("thread_id", sa.String(32), nullable=True),
        sa.Column("position", sa.Double(), nullable=False),
        sa.Column("made_at", INSTANT, nullable=False),
    )
    op.create_table(
        "service_state",
        sa.Column("service_id", sa.String(32), primary_key=True),
        sa.Column("project_id", sa.String(32), sa.ForeignKey("project.id"), nullable=False, index=True),
        sa.Column("token", sa.Text(), nullable=False),
        sa.Column("can", LONG_TEXT, nullable=False),
        sa.Column("trouble", sa.Text(), nullable=False),
        sa.Column("rests_until", INSTANT, nullable=True),
        sa.Column("asked_at", INSTANT, nullable=True),
    )
    op.create_table(
        "job",
        sa.Column("id", sa.String(32), primary_key=True),
        sa.Column("project_id", sa.String(32), sa.ForeignKey("project.id"), nullable=False),
        sa.Column("shot_id", sa.String(32), nullable=False, index=True),
        sa.Column("service_id", sa.String(32), nullable=False),
        sa.Column("service", sa.String(80), nullable=False),
        sa.Column("state", sa.String(10), nullable=False),
        sa.Column("position", sa.Double(), nullable=False),
        sa.Column("key", sa.String(64), nullable=False),
        sa.Column("wanted", sa.JSON(), nullable=False),
        sa.Column("made_from", sa.JSON(), nullable=False),
        sa.Column("parent_id", sa.String(32), nullable=True),
        sa.Column("at", sa.String(600), nullable=False),
        sa.Column("progress", sa.Double(), nullable=False),
        sa.Column("taken", sa.JSON(), nullable=False),
        sa.Column("expected_credits", sa.Double(), nullable=False),
        sa.Column("credits", sa.Double(), nullable=False),
        sa.Column("paid_before", sa.Double(), nullable=False),
        sa.Column("message", sa.Text(), nullable=False),
        sa.Column("tries", sa.Integer(), nullable=False),
        sa.Column("cancelling", sa.Boolean(), nullable=False),
        sa.Column("not_before", INSTANT, nullable=True),
        sa.Column("lease", sa.String(32), nullable=False),
        sa.Column("leased_until", INSTANT, nullable=True),
        sa.Column("asked_at", INSTANT, nullable=False),
        sa.Column("ended_at", INSTANT, nullable=True),
        sa.Index("ix_job_next", "service_id", "state", "position"),
        sa.Index("ix_job_of_project", "project_id", "state"),
    )


def downgrade() -> None:
    for table in ("job", "service_state", "trial", "service", "fault_mark"):
        op.drop_table(table)
    op.drop_column("take", "parent_id")
    op.drop_column("take", "standing")
    op.drop_column("project", "mends")
    op.drop_column("project", "allowance")
