"""What was decided about a finding may be a retake, and teaches how far a term may go; pictures are made for a size in print."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("project", sa.Column("print_mm", sa.Double(), nullable=True))
    op.add_column("project", sa.Column("unlearned", sa.JSON(), nullable=True))
    op.execute(sa.text("UPDATE project SET unlearned = '[]'"))
    op.alter_column("project", "unlearned", existing_type=sa.JSON(), nullable=False)
    op.add_column("stet", sa.Column("verdict", sa.String(8), nullable=False, server_default="stet"))
    op.add_column("stet", sa.Column("thread_id", sa.String(32), nullable=True))
    op.add_column("stet", sa.Column("term", sa.String(120), nullable=False, server_default=""))
    op.add_column("stet", sa.Column("departure", sa.Double(), nullable=False, server_default="0"))


def downgrade() -> None:
    for column in ("departure", "term", "thread_id", "verdict"):
        op.drop_column("stet", column)
    op.drop_column("project", "unlearned")
    op.drop_column("project", "print_mm")
