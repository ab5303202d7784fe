"""A second factor of an account, and spare codes for when it is lost."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0020"
down_revision = "0019"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("account", sa.Column("second", sa.String(64), nullable=True))
    op.add_column("account", sa.Column("second_offered", sa.String(64), nullable=True))
    op.add_column("account", sa.Column("second_step", sa.Integer(), nullable=False, server_default="0"))
    op.alter_column("account", "second_step", existing_type=sa.Integer(), existing_nullable=False, server_default=None)
    key = sa.ForeignKey("account.id", name="fk_spare_code_account_id_account")
    op.create_table(
        "spare_code",
        sa.Column("digest", sa.String(64), primary_key=True),
        sa.Column("account_id", sa.String(32), key, nullable=False),
        sa.Column("used_at", mysql.DATETIME(fsp=3), nullable=True),
    )
    op.create_index("ix_spare_code_account_id", "spare_code", ["account_id"])


def downgrade() -> None:
    op.drop_table("spare_code")
    for column in ("second_step", "second_offered", "second"):
        op.drop_column("account", column)
