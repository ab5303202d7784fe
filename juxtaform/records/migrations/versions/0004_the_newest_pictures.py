"""The newest pictures of a library are found without sorting all of it."""

from __future__ import annotations

from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None

NAME, TABLE = "ix_library_picture_newest", "library_picture"


def upgrade() -> None:
    op.create_index(NAME, TABLE, ["project_id", "binned", "added_at"])


def downgrade() -> None:
    op.drop_index(NAME, TABLE)
