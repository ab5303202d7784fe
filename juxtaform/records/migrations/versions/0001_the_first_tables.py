"""The first tables"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0001"
down_revision = None


def upgrade() -> None:

    op.create_table(
        "measure",
        sa.Column("key", sa.String(length=64), nullable=False),
        sa.Column("version", sa.String(length=16), nullable=False),
        sa.Column("data", sa.Text().with_variant(mysql.LONGTEXT(), "mysql", "mariadb"), nullable=False),
        sa.Column("made_at", sa.DateTime().with_variant(mysql.DATETIME(fsp=3), "mysql", "mariadb"), nullable=False),
        sa.PrimaryKeyConstraint("key", name=op.f("pk_measure")),
    )
    op.create_table(
        "picture",
        sa.Column("sha", sa.String(length=64), nullable=False),
        sa.Column("width", sa.Integer(), nullable=False),
        sa.Column("height", sa.Integer(), nullable=False),
        sa.Column("bytes", sa.Integer(), nullable=False),
        sa.Column("media_type", sa.String(length=40), nullable=False),
        sa.Column("palette", sa.JSON(), nullable=False),
        sa.Column("added_at", sa.DateTime().with_variant(mysql.DATETIME(fsp=3), "mysql", "mariadb"), nullable=False),
        sa.PrimaryKeyConstraint("sha", name=op.f("pk_picture")),
    )
    op.create_table(
        "project",
        sa.Column("title", sa.String(length=200), nullable=False),
        sa.Column("text", sa.Text().with_variant(mysql.LONGTEXT(), "mysql", "mariadb"), nullable=False),
        sa.Column("target_s", sa.Float(), nullable=True),
        sa.Column("created_at", sa.DateTime().with_variant(mysql.DATETIME(fsp=3), "mysql", "mariadb"), nullable=False),
        sa.Column("id", sa.String(length=32), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_project")),
    )
    op.create_table(
        "change",
        sa.Column("id", sa.Integer(), autoincrement=True, nullable=False),
        sa.Column("project_id", sa.String(length=32), nullable=False),
        sa.Column("label", sa.String(length=200), nullable=False),
        sa.Column("rows", sa.Text().with_variant(mysql.LONGTEXT(), "mysql", "mariadb"), nullable=False),
        sa.Column("undone", sa.Boolean(), nullable=False),
        sa.Column("at", sa.DateTime().with_variant(mysql.DATETIME(fsp=3), "mysql", "mariadb"), nullable=False),
        sa.ForeignKeyConstraint(["project_id"], ["project.id"], name=op.f("fk_change_project_id_project")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_change")),
    )
    op.create_index("ix_change_project_undone", "change", ["project_id", "undone", "id"], unique=False)
    op.create_table(
        "check_run",
        sa.Column("project_id", sa.String(length=32), nullable=False),
        sa.Column("state", sa.String(length=12), nullable=False),
        sa.Column("done", sa.Integer(), nullable=False),
        sa.Column("total", sa.Integer(), nullable=False),
        sa.Column("measured", sa.Integer(), nullable=False),
        sa.Column("message", sa.Text(), nullable=False),
        sa.Column("result", sa.Text().with_variant(mysql.LONGTEXT(), "mysql", "mariadb"), nullable=False),
        sa.Column("at", sa.DateTime().with_variant(mysql.DATETIME(fsp=3), "mysql", "mariadb"), nullable=False),
        sa.ForeignKeyConstraint(["project_id"], ["project.id"], name=op.f("fk_check_run_project_id_project")),
        sa.PrimaryKeyConstraint("project_id", name=op.f("pk_check_run")),
    )
    op.create_table(
        "scene",
        sa.Column("project_id", sa.String(length=32), nullable=False),
        sa.Column("position", sa.Double(), nullable=False),
        sa.Column("title", sa.String(length=300), nullable=False),
        sa.Column("id", sa.String(length=32), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["project_id"], ["project.id"], name=op.f("fk_scene_project_id_project")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_scene")),
    )
    op.create_index(op.f("ix_scene_project_id"), "scene", ["project_id"], unique=False)
    op.create_table(
        "stet",
        sa.Column("project_id", sa.String(length=32), nullable=False),
        sa.Column("finding_key", sa.String(length=64), nullable=False),
        sa.Column("reason", sa.Text(), nullable=False),
        sa.Column("id", sa.String(length=32), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["project_id"], ["project.id"], name=op.f("fk_stet_project_id_project")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_stet")),
    )
    op.create_index(op.f("ix_stet_finding_key"), "stet", ["finding_key"], unique=False)
    op.create_index(op.f("ix_stet_project_id"), "stet", ["project_id"], unique=False)
    op.create_table(
        "thread",
        sa.Column("project_id", sa.String(length=32), nullable=False),
        sa.Column("kind", sa.String(length=12), nullable=False),
        sa.Column("name", sa.String(length=120), nullable=False),
        sa.Column("aliases", sa.JSON(), nullable=False),
        sa.Column("wording", sa.Text(), nullable=False),
        sa.Column("kept_colours", sa.JSON(), nullable=False),
        sa.Column("position", sa.Double(), nullable=False),
        sa.Column("id", sa.String(length=32), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["project_id"], ["project.id"], name=op.f("fk_thread_project_id_project")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_thread")),
    )
    op.create_index(op.f("ix_thread_project_id"), "thread", ["project_id"], unique=False)
    op.create_table(
        "reference",
        sa.Column("project_id", sa.String(length=32), nullable=False),
        sa.Column("thread_id", sa.String(length=32), nullable=False),
        sa.Column("picture_sha", sa.String(length=64), nullable=False),
        sa.Column("name", sa.String(length=120), nullable=False),
        sa.Column("costume", sa.String(length=80), nullable=False),
        sa.Column("weight", sa.Double(), nullable=False),
        sa.Column("position", sa.Double(), nullable=False),
        sa.Column("id", sa.String(length=32), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["picture_sha"], ["picture.sha"], name=op.f("fk_reference_picture_sha_picture")),
        sa.ForeignKeyConstraint(["project_id"], ["project.id"], name=op.f("fk_reference_project_id_project")),
        sa.ForeignKeyConstraint(["thread_id"], ["thread.id"], name=op.f("fk_reference_thread_id_thread")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_reference")),
    )
    op.create_index(op.f("ix_reference_project_id"), "reference", ["project_id"], unique=False)
    op.create_index(op.f("ix_reference_thread_id"), "reference", ["thread_id"], unique=False)
    op.create_table(
        "shot",
        sa.Column("project_id", sa.String(length=32), nullable=False),
        sa.Column("scene_id", sa.String(length=32), nullable=False),
        sa.Column("position", sa.Double(), nullable=False),
        sa.Column("shows", sa.Text(), nullable=False),
        sa.Column("size", sa.String(length=8), nullable=False),
        sa.Column("angle", sa.String(length=24), nullable=False),
        sa.Column("move", sa.String(length=24), nullable=False),
        sa.Column("length_s", sa.Double(), nullable=False),
        sa.Column("spoken", sa.Text(), nullable=False),
        sa.Column("span_start", sa.Integer(), nullable=True),
        sa.Column("span_end", sa.Integer(), nullable=True),
        sa.Column("id", sa.String(length=32), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["project_id"], ["project.id"], name=op.f("fk_shot_project_id_project")),
        sa.ForeignKeyConstraint(["scene_id"], ["scene.id"], name=op.f("fk_shot_scene_id_scene")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_shot")),
    )
    op.create_index(op.f("ix_shot_project_id"), "shot", ["project_id"], unique=False)
    op.create_index(op.f("ix_shot_scene_id"), "shot", ["scene_id"], unique=False)
    op.create_table(
        "bead",
        sa.Column("project_id", sa.String(length=32), nullable=False),
        sa.Column("shot_id", sa.String(length=32), nullable=False),
        sa.Column("thread_id", sa.String(length=32), nullable=False),
        sa.Column("hold", sa.String(length=8), nullable=False),
        sa.Column("weight", sa.Double(), nullable=False),
        sa.Column("costume", sa.String(length=80), nullable=False),
        sa.Column("reference_id", sa.String(length=32), nullable=True),
        sa.Column("id", sa.String(length=32), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["project_id"], ["project.id"], name=op.f("fk_bead_project_id_project")),
        sa.ForeignKeyConstraint(["shot_id"], ["shot.id"], name=op.f("fk_bead_shot_id_shot")),
        sa.ForeignKeyConstraint(["thread_id"], ["thread.id"], name=op.f("fk_bead_thread_id_thread")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_bead")),
        sa.UniqueConstraint("shot_id", "thread_id", name=op.f("uq_bead_shot_id")),
    )
    op.create_index(op.f("ix_bead_project_id"), "bead", ["project_id"], unique=False)
    op.create_index(op.f("ix_bead_thread_id"), "bead", ["thread_id"], unique=False)
    op.create_table(
        "take",
        sa.Column("project_id", sa.String(length=32), nullable=False),
        sa.Column("shot_id", sa.String(length=32), nullable=False),
        sa.Column("picture_sha", sa.String(length=64), nullable=False),
        sa.Column("name", sa.String(length=255), nullable=False),
        sa.Column("picked", sa.Boolean(), nullable=False),
        sa.Column("position", sa.Double(), nullable=False),
        sa.Column("id", sa.String(length=32), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["picture_sha"], ["picture.sha"], name=op.f("fk_take_picture_sha_picture")),
        sa.ForeignKeyConstraint(["project_id"], ["project.id"], name=op.f("fk_take_project_id_project")),
        sa.ForeignKeyConstraint(["shot_id"], ["shot.id"], name=op.f("fk_take_shot_id_shot")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_take")),
    )
    op.create_index(op.f("ix_take_project_id"), "take", ["project_id"], unique=False)
    op.create_index(op.f("ix_take_shot_id"), "take", ["shot_id"], unique=False)
    op.create_table(
        "trait",
        sa.Column("project_id", sa.String(length=32), nullable=False),
        sa.Column("thread_id", sa.String(length=32), nullable=False),
        sa.Column("reference_id", sa.String(length=32), nullable=False),
        sa.Column("name", sa.String(length=80), nullable=False),
        sa.Column("part", sa.String(length=8), nullable=False),
        sa.Column("colours", sa.JSON(), nullable=False),
        sa.Column("x", sa.Double(), nullable=False),
        sa.Column("y", sa.Double(), nullable=False),
        sa.Column("w", sa.Double(), nullable=False),
        sa.Column("h", sa.Double(), nullable=False),
        sa.Column("position", sa.Double(), nullable=False),
        sa.Column("id", sa.String(length=32), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["project_id"], ["project.id"], name=op.f("fk_trait_project_id_project")),
        sa.ForeignKeyConstraint(["reference_id"], ["reference.id"], name=op.f("fk_trait_reference_id_reference")),
        sa.ForeignKeyConstraint(["thread_id"], ["thread.id"], name=op.f("fk_trait_thread_id_thread")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_trait")),
    )
    op.create_index(op.f("ix_trait_project_id"), "trait", ["project_id"], unique=False)
    op.create_index(op.f("ix_trait_reference_id"), "trait", ["reference_id"], unique=False)
    op.create_index(op.f("ix_trait_thread_id"), "trait", ["thread_id"], unique=False)
    op.create_table(
        "mark",
        sa.Column("project_id", sa.String(length=32), nullable=False),
        sa.Column("take_id", sa.String(length=32), nullable=False),
        sa.Column("thread_id", sa.String(length=32), nullable=False),
        sa.Column("x", sa.Double(), nullable=False),
        sa.Column("y", sa.Double(), nullable=False),
        sa.Column("w", sa.Double(), nullable=False),
        sa.Column("h", sa.Double(), nullable=False),
        sa.Column("id", sa.String(length=32), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["project_id"], ["project.id"], name=op.f("fk_mark_project_id_project")),
        sa.ForeignKeyConstraint(["take_id"], ["take.id"], name=op.f("fk_mark_take_id_take")),
        sa.ForeignKeyConstraint(["thread_id"], ["thread.id"], name=op.f("fk_mark_thread_id_thread")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_mark")),
    )
    op.create_index(op.f("ix_mark_project_id"), "mark", ["project_id"], unique=False)
    op.create_index(op.f("ix_mark_take_id"), "mark", ["take_id"], unique=False)
    op.create_index(op.f("ix_mark_thread_id"), "mark", ["thread_id"], unique=False)


def downgrade() -> None:

    op.drop_table("mark")
    op.drop_table("trait")
    op.drop_table("take")
    op.drop_table("bead")
    op.drop_table("shot")
    op.drop_table("reference")
    op.drop_table("thread")
    op.drop_table("stet")
    op.drop_table("scene")
    op.drop_table("check_run")
    op.drop_table("change")
    op.drop_table("project")
    op.drop_table("picture")
    op.drop_table("measure")
