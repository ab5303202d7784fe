"""The journal only grows and counts its entries by project; numbers are kept in full precision."""

from __future__ import annotations

import json
from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None

NUMBERS: dict[str, tuple[str, ...]] = {
    "project": ("pace_factor",),
    "beat": ("position", "share"),
    "shot": ("guide_strength",),
}
NUMBERS_OR_NONE: dict[str, tuple[str, ...]] = {"project": ("target_s",), "trait": ("tolerance", "body_x", "body_y")}
DEFAULTS = {"pace_factor": "1", "guide_strength": "0.5"}
LINKS = ("takes_back", "undo_id", "redo_id", "spell_id")


def upgrade() -> None:
    _numbers(sa.Double())
    op.add_column("change", sa.Column("version", sa.Integer(), nullable=True))
    for name in LINKS:
        op.add_column("change", sa.Column(name, sa.Integer(), nullable=True))
    op.add_column("change", sa.Column("deed", sa.String(64), nullable=True))
    _number_the_entries(op.get_bind())
    op.alter_column("change", "version", existing_type=sa.Integer(), nullable=False)
    op.create_unique_constraint("uq_change_project_id", "change", ["project_id", "version"])
    op.create_unique_constraint("uq_change_deed", "change", ["project_id", "deed"])
    op.drop_index("ix_change_project_undone", "change")
    op.drop_column("change", "undone")


def downgrade() -> None:
    """The older journal cannot say what the newer one says: the history begins anew."""
    op.execute(sa.text("DELETE FROM `change`"))
    op.add_column("change", sa.Column("undone", sa.Boolean(), nullable=False))
    op.create_index("ix_change_project_undone", "change", ["project_id", "undone", "id"], unique=False)
    op.drop_constraint("uq_change_project_id", "change", type_="unique")
    op.drop_constraint("uq_change_deed", "change", type_="unique")
    for name in ("version", "deed", *LINKS):
        op.drop_column("change", name)
    _numbers(sa.Float())


def _numbers(kind: sa.types.TypeEngine[float]) -> None:
    for tables, nullable in ((NUMBERS, False), (NUMBERS_OR_NONE, True)):
        for table, columns in tables.items():
            for name in columns:
                op.alter_column(
                    table,
                    name,
                    existing_type=sa.Float(),
                    type_=kind,
                    existing_nullable=nullable,
                    existing_server_default=DEFAULTS.get(name),
                )


def _number_the_entries(connection: sa.Connection) -> None:
    """Number each project's entries; for those that were undone, write the undoing down as entries too."""
    projects = connection.execute(sa.text("SELECT DISTINCT project_id FROM `change`")).scalars().all()
    for project in projects:
        told = connection.execute(
            sa.text("SELECT id, label, undone FROM `change` WHERE project_id = :p ORDER BY id"), {"p": project}
        ).all()
        for version, entry in enumerate(told, 1):
            connection.execute(
                sa.text("UPDATE `change` SET version = :v, undo_id = :i WHERE id = :i"), {"v": version, "i": entry.id}
            )
        version, redo = len(told), None
        below = {entry.id: told[i - 1].id if i else None for i, entry in enumerate(told)}
        for entry in reversed([e for e in told if e.undone]):
            version += 1
            rows = connection.execute(
                sa.text("SELECT `rows` FROM `change` WHERE id = :i"), {"i": entry.id}
            ).scalar_one()
            values: dict[str, Any] = {
                "p": project,
                "v": version,
                "l": entry.label,
                "r": _turned_round(rows),
                "t": entry.id,
                "u": below[entry.id],
            }
            redo = connection.execute(
                sa.text(
                    "INSERT INTO `change` (project_id, version, label, `rows`, takes_back, undo_id, undone, at)"
                    " VALUES (:p, :v, :l, :r, :t, :u, 0, UTC_TIMESTAMP(3))"
                ),
                values,
            ).lastrowid
            connection.execute(sa.text("UPDATE `change` SET redo_id = :i WHERE id = :i"), {"i": redo})


def _turned_round(rows: str) -> str:
    return json.dumps(
        [[table, key, after, before] for table, key, before, after in json.loads(rows)], ensure_ascii=False
    )
