"""How a shot comes after the one before it, and how many frames a second the sequence has."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("shot", sa.Column("join", sa.String(10), nullable=False, server_default="cut"))
    op.add_column("shot", sa.Column("join_s", sa.Double(), nullable=False, server_default="0.6"))
    op.add_column("project", sa.Column("fps", sa.Double(), nullable=False, server_default="24"))


def downgrade() -> None:
    op.drop_column("project", "fps")
    op.drop_column("shot", "join_s")
    op.drop_column("shot", "join")
