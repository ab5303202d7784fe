"""The frames that a clip begins and ends with."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0022"
down_revision = "0021"
branch_labels = None
depends_on = None

ENDS = ("first_sha", "last_sha")


def upgrade() -> None:
    for column in ENDS:
        op.add_column("take", sa.Column(column, sa.String(64), nullable=True))
        op.create_foreign_key(f"fk_take_{column}_picture", "take", "picture", [column], ["sha"])


def downgrade() -> None:
    for column in ENDS:
        op.drop_constraint(f"fk_take_{column}_picture", "take", type_="foreignkey")
        op.drop_column("take", column)
