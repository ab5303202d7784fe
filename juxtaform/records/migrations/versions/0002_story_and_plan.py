"""The story frame, where a text came from, and all facts of a shot."""

from __future__ import annotations

from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def text(name: str, kind: sa.types.TypeEngine[str] | None = None, default: str = "") -> sa.Column[str]:
    return sa.Column(name, kind or sa.Text(), nullable=False, server_default=default)


def listed(name: str) -> sa.Column[object]:
    return sa.Column(name, sa.JSON(), nullable=False, server_default="[]")


COLUMNS: dict[str, tuple[sa.Column[Any], ...]] = {
    "project": (
        sa.Column("text_revision", sa.Integer, nullable=False, server_default="1"),
        text("syntax", sa.String(12), "prose"),
        sa.Column("source", sa.JSON, nullable=False, server_default="{}"),
        text("premise"),
        text("tone", sa.String(120)),
        text("shape", sa.String(24), "three acts"),
        listed("frame_cast"),
        text("medium", sa.String(8), "film"),
        text("language", sa.String(24), "English"),
        text("audience", sa.String(24), "aloud to children"),
        sa.Column("pace_factor", sa.Float, nullable=False, server_default="1"),
        sa.Column("target_pages", sa.Integer, nullable=True),
        listed("table_columns"),
    ),
    "shot": (
        listed("speakers"),
        text("lost"),
        text("status", sa.String(10), "settled"),
        text("why", sa.String(80)),
        text("time", sa.String(12)),
        text("motion"),
        sa.Column("move_start", sa.JSON, nullable=True),
        sa.Column("move_end", sa.JSON, nullable=True),
        text("sound"),
        text("music"),
        text("notes"),
        text("page_form", sa.String(8), "single"),
        sa.Column("bleed", sa.Boolean, nullable=False, server_default=sa.text("0")),
        listed("framings"),
        sa.Column("sketch_sha", sa.String(64), nullable=True),
    ),
    "bead": (text("facing", sa.String(8)),),
}


def upgrade() -> None:
    op.create_table(
        "beat",
        sa.Column("id", sa.String(32), nullable=False),
        sa.Column("revision", sa.Integer, nullable=False),
        sa.Column("project_id", sa.String(32), nullable=False),
        sa.Column("position", sa.Float, nullable=False),
        sa.Column("title", sa.String(120), nullable=False),
        sa.Column("purpose", sa.Text, nullable=False),
        sa.Column("share", sa.Float, nullable=False),
        sa.Column("cast", sa.JSON, nullable=False),
        sa.Column("question", sa.Text, nullable=False),
        sa.Column("answer", sa.Text, nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_beat"),
        sa.ForeignKeyConstraint(["project_id"], ["project.id"], name="fk_beat_project_id_project"),
    )
    op.create_index("ix_beat_project_id", "beat", ["project_id"])
    for table, columns in COLUMNS.items():
        for column in columns:
            op.add_column(table, column)
    op.create_foreign_key("fk_shot_sketch_sha_picture", "shot", "picture", ["sketch_sha"], ["sha"])


def downgrade() -> None:
    op.drop_constraint("fk_shot_sketch_sha_picture", "shot", type_="foreignkey")
    for table, columns in COLUMNS.items():
        for column in columns:
            op.drop_column(table, column.name)
    op.drop_table("beat")
