"""How the book is made, where a shot's words lie on its page, and which shots are surprises."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("project", sa.Column("book", sa.JSON(), nullable=True))
    op.execute(sa.text("UPDATE project SET book = '{}'"))
    op.alter_column("project", "book", existing_type=sa.JSON(), nullable=False)
    op.add_column("shot", sa.Column("words_at", sa.JSON(), nullable=True))
    op.add_column("shot", sa.Column("words_tone", sa.String(8), nullable=False, server_default=""))
    op.add_column("shot", sa.Column("surprise", sa.Boolean(), nullable=False, server_default=sa.false()))


def downgrade() -> None:
    for column in ("surprise", "words_tone", "words_at"):
        op.drop_column("shot", column)
    op.drop_column("project", "book")
