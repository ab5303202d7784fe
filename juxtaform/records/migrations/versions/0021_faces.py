"""What face a figure makes in a shot."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0021"
down_revision = "0020"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("bead", sa.Column("face", sa.String(80), nullable=False, server_default=""))
    op.alter_column("bead", "face", existing_type=sa.String(80), existing_nullable=False, server_default=None)


def downgrade() -> None:
    op.drop_column("bead", "face")
