"""Model sheets in full, versions of references, briefs and their edits, the library, and taste rounds."""

from __future__ import annotations

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def text(name: str, kind: sa.types.TypeEngine[str] | None = None, default: str = "") -> sa.Column[str]:
    return sa.Column(name, kind or sa.Text(), nullable=False, server_default=default)


def listed(name: str) -> sa.Column[object]:
    return sa.Column(name, sa.JSON(), nullable=False, server_default="[]")


def flag(name: str) -> sa.Column[bool]:
    return sa.Column(name, sa.Boolean, nullable=False, server_default=sa.text("0"))


def link(name: str) -> sa.Column[str]:
    return sa.Column(name, sa.String(32), nullable=True)


COLUMNS: dict[str, tuple[sa.Column[Any], ...]] = {
    "project": (
        text("aspect", sa.String(12)),
        link("style_id"),
        listed("donts"),
        text("seed_rule", sa.String(12), "free"),
        sa.Column("seed", sa.Integer, nullable=True),
        text("profile", sa.String(80)),
        listed("profiles"),
        listed("hidden_columns"),
    ),
    "shot": (
        sa.Column("guide_strength", sa.Float, nullable=False, server_default="0.5"),
        text("aspect", sa.String(12)),
        listed("donts"),
        listed("brief_edits"),
        sa.Column("seed", sa.Integer, nullable=True),
    ),
    "thread": (
        text("short_wording"),
        listed("must_keep"),
        link("owner_id"),
        listed("costumes"),
        listed("vocabulary"),
        listed("donts"),
        listed("tones"),
    ),
    "reference": (
        text("view", sa.String(16)),
        flag("anchor"),
        link("replaces_id"),
        link("from_shot_id"),
    ),
    "trait": (
        sa.Column("outline", sa.JSON, nullable=True),
        sa.Column("tolerance", sa.Float, nullable=True),
        flag("free"),
        sa.Column("body_x", sa.Float, nullable=True),
        sa.Column("body_y", sa.Float, nullable=True),
    ),
    "take": (sa.Column("made_from", sa.JSON, nullable=False, server_default="{}"),),
}


def upgrade() -> None:
    instant = mysql.DATETIME(fsp=3)
    for table, columns in COLUMNS.items():
        for column in columns:
            op.add_column(table, column)
    op.create_table(
        "library_picture",
        sa.Column("id", sa.String(32), nullable=False),
        sa.Column("revision", sa.Integer, nullable=False),
        sa.Column("project_id", sa.String(32), nullable=False),
        sa.Column("picture_sha", sa.String(64), nullable=False),
        sa.Column("name", sa.String(255), nullable=False),
        sa.Column("tags", sa.JSON, nullable=False),
        sa.Column("binned", sa.Boolean, nullable=False),
        sa.Column("added_at", instant, nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_library_picture"),
        sa.UniqueConstraint("project_id", "picture_sha", name="uq_library_picture_project_id"),
        sa.ForeignKeyConstraint(["project_id"], ["project.id"], name="fk_library_picture_project_id_project"),
        sa.ForeignKeyConstraint(["picture_sha"], ["picture.sha"], name="fk_library_picture_picture_sha_picture"),
    )
    op.create_table(
        "duel",
        sa.Column("id", sa.String(32), nullable=False),
        sa.Column("revision", sa.Integer, nullable=False),
        sa.Column("project_id", sa.String(32), nullable=False),
        sa.Column("left_sha", sa.String(64), nullable=False),
        sa.Column("right_sha", sa.String(64), nullable=False),
        sa.Column("chosen", sa.String(8), nullable=False),
        sa.Column("at", instant, nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_duel"),
        sa.ForeignKeyConstraint(["project_id"], ["project.id"], name="fk_duel_project_id_project"),
        sa.ForeignKeyConstraint(["left_sha"], ["picture.sha"], name="fk_duel_left_sha_picture"),
        sa.ForeignKeyConstraint(["right_sha"], ["picture.sha"], name="fk_duel_right_sha_picture"),
    )
    op.create_index("ix_duel_project_id", "duel", ["project_id"])
    op.create_table(
        "sent_brief",
        sa.Column("id", sa.Integer, autoincrement=True, nullable=False),
        sa.Column("project_id", sa.String(32), nullable=False),
        sa.Column("shot_id", sa.String(32), nullable=False),
        sa.Column("text", mysql.LONGTEXT, nullable=False),
        sa.Column("at", instant, nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_sent_brief"),
        sa.ForeignKeyConstraint(["project_id"], ["project.id"], name="fk_sent_brief_project_id_project"),
    )
    op.create_index("ix_sent_brief_shot_id", "sent_brief", ["shot_id"])


def downgrade() -> None:
    for table in ("sent_brief", "duel", "library_picture"):
        op.drop_table(table)
    for table, columns in COLUMNS.items():
        for column in columns:
            op.drop_column(table, column.name)
