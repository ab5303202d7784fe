"""The story's text is kept in parts, and a shot's words by their parts, so that a letter typed rewrites what is near it alone.

Where entries of the journal speak of columns that go, what they tell stays, and undo begins anew.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from itertools import accumulate
from uuid import uuid4

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.mysql import LONGTEXT

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None

PART = 800


def upgrade() -> None:
    op.create_table(
        "text_part",
        sa.Column("id", sa.String(32), primary_key=True),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("project_id", sa.String(32), sa.ForeignKey("project.id"), nullable=False, index=True),
        sa.Column("position", sa.Double(), nullable=False),
        sa.Column("words", sa.Text().with_variant(LONGTEXT(), "mysql", "mariadb"), nullable=False),
    )
    for name, kind in (
        ("start_part_id", sa.String(32)),
        ("start_at", sa.Integer()),
        ("end_part_id", sa.String(32)),
        ("end_at", sa.Integer()),
    ):
        op.add_column("shot", sa.Column(name, kind, nullable=True))
    op.create_index("ix_shot_start_part_id", "shot", ["start_part_id"])
    op.create_index("ix_shot_end_part_id", "shot", ["end_part_id"])
    connection = op.get_bind()
    for project, text in connection.execute(sa.text("SELECT id, text FROM project")).all():
        _part(connection, project, text)
        _begin_history_anew(connection, project, "text", "span_start", "span_end")
    op.drop_column("shot", "span_start")
    op.drop_column("shot", "span_end")
    op.drop_column("project", "text")


def downgrade() -> None:
    op.add_column("project", sa.Column("text", sa.Text().with_variant(LONGTEXT(), "mysql", "mariadb")))
    op.add_column("shot", sa.Column("span_start", sa.Integer(), nullable=True))
    op.add_column("shot", sa.Column("span_end", sa.Integer(), nullable=True))
    connection = op.get_bind()
    for (project,) in connection.execute(sa.text("SELECT id FROM project")).all():
        query = sa.text("SELECT id, words FROM text_part WHERE project_id = :p ORDER BY position, id")
        parts = connection.execute(query, {"p": project}).all()
        starts = dict(zip((p.id for p in parts), accumulate((len(p.words) for p in parts), initial=0), strict=False))
        text = "".join(p.words for p in parts)
        connection.execute(sa.text("UPDATE project SET text = :t WHERE id = :p"), {"t": text, "p": project})
        for part, start in starts.items():
            for end in ("start", "end"):
                move = f"UPDATE shot SET span_{end} = {end}_at + :s WHERE {end}_part_id = :i"
                connection.execute(sa.text(move), {"s": start, "i": part})
        _begin_history_anew(connection, project, "text_part", "start_at", "end_at")
    op.alter_column("project", "text", existing_type=LONGTEXT(), nullable=False)
    op.drop_index("ix_shot_start_part_id", "shot")
    op.drop_index("ix_shot_end_part_id", "shot")
    for name in ("start_part_id", "start_at", "end_part_id", "end_at"):
        op.drop_column("shot", name)
    op.drop_table("text_part")


def _part(connection: sa.Connection, project: str, text: str) -> None:
    parts = _parted(text)
    if not parts:
        return
    ids = [uuid4().hex for _ in parts]
    ends = list(accumulate(map(len, parts)))
    rows = [{"i": ids[k], "p": project, "at": float(k), "w": words} for k, words in enumerate(parts)]
    insert = "INSERT INTO text_part (id, revision, project_id, position, words) VALUES (:i, 1, :p, :at, :w)"
    connection.execute(sa.text(insert), rows)
    query = "SELECT id, span_start, span_end FROM shot WHERE project_id = :p AND span_end > span_start"
    moves = []
    for shot, start, end in connection.execute(sa.text(query), {"p": project}).all():
        if start >= len(text):
            continue
        first, last = bisect_right(ends, start), bisect_left(ends, min(end, len(text)))
        moves.append(
            {
                "s": shot,
                "a": ids[first],
                "b": start - (ends[first] - len(parts[first])),
                "c": ids[last],
                "d": min(end, len(text)) - (ends[last] - len(parts[last])),
            }
        )
    if moves:
        put = "UPDATE shot SET start_part_id = :a, start_at = :b, end_part_id = :c, end_at = :d WHERE id = :s"
        connection.execute(sa.text(put), moves)


def _parted(text: str) -> list[str]:
    """Parts of at least so many characters that end with a paragraph; a migration keeps a way of its own."""
    parts, at = [], 0
    while at < len(text):
        blank = text.find("\n\n", at + PART)
        end = len(text) if blank < 0 else blank + 2
        parts.append(text[at:end])
        at = end
    return parts


def _begin_history_anew(connection: sa.Connection, project: str, *columns: str) -> None:
    """Let nothing be undone from here on, where entries of the journal speak of some columns."""
    last, speaking = connection.execute(
        sa.text("SELECT MAX(version), SUM(`rows` REGEXP :columns) FROM `change` WHERE project_id = :p"),
        {"p": project, "columns": "|".join(f'"{c}"' for c in columns)},
    ).one()
    if speaking:
        connection.execute(
            sa.text(
                "INSERT INTO `change` (project_id, version, label, `rows`, at)"
                " VALUES (:p, :v, 'the history begins', '[]', UTC_TIMESTAMP(3))"
            ),
            {"p": project, "v": last + 1},
        )
