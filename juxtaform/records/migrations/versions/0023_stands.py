"""Where a figure is to stand on the picture of a shot."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0023"
down_revision = "0022"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("bead", sa.Column("stands", sa.JSON(), nullable=True))


def downgrade() -> None:
    op.drop_column("bead", "stands")
