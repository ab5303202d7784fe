"""A take remembers whom the user said is not in its picture."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("take", sa.Column("not_here", sa.JSON(), nullable=False, server_default="[]"))


def downgrade() -> None:
    op.drop_column("take", "not_here")
