"""Findings of every room have keys of one form, and results of checks another one: the next check writes them anew."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"


def upgrade() -> None:
    op.execute(sa.text("UPDATE stet SET finding_key = SUBSTRING_INDEX(finding_key, ':', -1)"))
    op.execute(sa.text("DELETE FROM check_run"))


def downgrade() -> None:
    op.execute(sa.text("DELETE FROM check_run"))
