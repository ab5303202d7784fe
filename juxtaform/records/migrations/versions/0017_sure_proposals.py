"""How sure it is that a proposed shot begins where it does."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("shot", sa.Column("sure", sa.Double(), nullable=False, server_default="1"))


def downgrade() -> None:
    op.drop_column("shot", "sure")
