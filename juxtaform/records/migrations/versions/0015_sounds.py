"""Sounds on the sequence, and what is known of their files."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.mysql import DATETIME

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "sound_file",
        sa.Column("sha", sa.String(64), primary_key=True),
        sa.Column("media_type", sa.String(40), nullable=False),
        sa.Column("channels", sa.Integer(), nullable=False),
        sa.Column("seconds", sa.Double(), nullable=False),
        sa.Column("bytes", sa.BigInteger(), nullable=False),
        sa.Column("holds", sa.JSON(), nullable=False),
        sa.Column("added_at", sa.DateTime().with_variant(DATETIME(fsp=3), "mysql", "mariadb"), nullable=False),
    )
    op.create_table(
        "sound",
        sa.Column("id", sa.String(32), primary_key=True),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("project_id", sa.String(32), nullable=False),
        sa.Column("shot_id", sa.String(32), nullable=False),
        sa.Column("sound_sha", sa.String(64), nullable=False),
        sa.Column("name", sa.String(255), nullable=False),
        sa.Column("kind", sa.String(8), nullable=False),
        sa.Column("thread_id", sa.String(32)),
        sa.Column("line", sa.Text(), nullable=False),
        sa.Column("picked", sa.Boolean(), nullable=False),
        sa.Column("start_s", sa.Double()),
        sa.Column("from_s", sa.Double(), nullable=False),
        sa.Column("to_s", sa.Double()),
        sa.Column("until_shot_id", sa.String(32)),
        sa.Column("gain_db", sa.Double(), nullable=False),
        sa.Column("fade_in_s", sa.Double(), nullable=False),
        sa.Column("fade_out_s", sa.Double(), nullable=False),
        sa.Column("position", sa.Double(), nullable=False),
        sa.ForeignKeyConstraint(["project_id"], ["project.id"], name="fk_sound_project_id_project"),
        sa.ForeignKeyConstraint(["shot_id"], ["shot.id"], name="fk_sound_shot_id_shot"),
        sa.ForeignKeyConstraint(["sound_sha"], ["sound_file.sha"], name="fk_sound_sound_sha_sound_file"),
    )
    op.create_index("ix_sound_project_id", "sound", ["project_id"])
    op.create_index("ix_sound_shot_id", "sound", ["shot_id"])


def downgrade() -> None:
    op.drop_table("sound")
    op.drop_table("sound_file")
