"""A picture may be the first frame of a clip, and a take of one shows a part of it."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("picture", sa.Column("clip", sa.JSON(), nullable=True))
    op.add_column("take", sa.Column("trim", sa.JSON(), nullable=True))


def downgrade() -> None:
    op.drop_column("take", "trim")
    op.drop_column("picture", "clip")
