"""The condition of joints: what each run leaves, by position and group; acts on it; tasks.

Revision ID: 0014 Revises: 0013
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import context, op

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None

#: old word -> new word; what was opened by others is unknown
WORDS = {"known": "proven", "opened": "unknown"}
KINDS = ("opened", "replaced", "happened", "note", "tool")
NEW_KINDS = (*KINDS, "not_safe", "use_as_is")
RENAMED = ("", "_why", "_run", "_at")


def _check(kinds: tuple[str, ...]) -> None:
    op.drop_constraint("ck_joint_entry_kind", "joint_entry", type_="check")
    named = ", ".join(f"'{kind}'" for kind in kinds)
    op.create_check_constraint("ck_joint_entry_kind", "joint_entry", sa.text(f"kind in ({named})"))


def _fk(table: str, column: str, to: str) -> sa.ForeignKey:
    return sa.ForeignKey(f"{to}.id", name=f"fk_{table}_{column}")


def _tables() -> None:
    op.create_table(
        "joint_part",
        sa.Column("joint_id", sa.Uuid, _fk("joint_part", "joint_id", "joint"), nullable=False),
        sa.Column("position", sa.String(60), nullable=False),
        sa.Column("group", sa.String(60), nullable=False),
        sa.Column("place", sa.Integer, nullable=False),
        sa.Column("name", sa.String(240), nullable=False),
        sa.Column("position_name", sa.String(120), nullable=False),
        sa.Column("word", sa.String(12), nullable=False),
        sa.Column("why", sa.Text, nullable=False),
        sa.Column("clears", sa.Text, nullable=False),
        sa.Column("since", sa.DateTime(timezone=True)),
        sa.Column("run", sa.Integer),
        sa.Column("looked_at", sa.DateTime(timezone=True)),
        sa.Column("tightened_at", sa.DateTime(timezone=True)),
        sa.Column("until", sa.Date),
        sa.PrimaryKeyConstraint("joint_id", "position", "group", name="pk_joint_part"),
    )
    op.create_table(
        "task",
        sa.Column("id", sa.Uuid, nullable=False),
        sa.Column("joint_id", sa.Uuid, _fk("task", "joint_id", "joint"), nullable=False),
        sa.Column("run_id", sa.Uuid, _fk("task", "run_id", "run")),
        sa.Column("words", sa.String(200), nullable=False),
        sa.Column("owner_id", sa.Uuid, _fk("task", "owner_id", "person"), nullable=False),
        sa.Column("day", sa.Date, nullable=False),
        sa.Column("made_by", sa.Uuid, _fk("task", "made_by", "person"), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("done_by", sa.Uuid, _fk("task", "done_by", "person")),
        sa.Column("done_at", sa.DateTime(timezone=True)),
        sa.PrimaryKeyConstraint("id", name="pk_task"),
    )
    op.create_index("ix_task_joint_id", "task", ["joint_id"])
    op.create_index("ix_task_open", "task", ["day"], postgresql_where=sa.text("done_at IS NULL"))


def upgrade() -> None:
    """Add them; outcomes of older runs are written by the nightly job."""
    role = context.config.attributes["app_role"]
    op.add_column("run", sa.Column("outcome", sa.Text, nullable=False, server_default=""))
    op.execute(f'GRANT UPDATE (outcome) ON run TO "{role}"')
    for end in RENAMED:
        op.alter_column("joint", f"standing{end}", new_column_name=f"condition{end}")
    op.alter_column("joint", "condition_why", type_=sa.Text)
    for old, new in WORDS.items():
        op.execute(f"UPDATE joint SET condition = '{new}' WHERE condition = '{old}'")
    for column, size in (("conditions", 400), ("position", 60)):
        op.add_column(
            "joint_entry", sa.Column(column, sa.String(size), nullable=False, server_default="")
        )
    op.add_column("joint_entry", sa.Column("until", sa.Date))
    op.add_column(
        "due_date", sa.Column("position", sa.String(120), nullable=False, server_default="")
    )
    _check(NEW_KINDS)
    _tables()
    op.execute(f'GRANT SELECT, INSERT, UPDATE, DELETE ON joint_part TO "{role}"')
    op.execute(f'GRANT SELECT, INSERT, UPDATE (done_by, done_at) ON task TO "{role}"')


def downgrade() -> None:
    """Take them away; acts that the older program does not know become notes."""
    op.drop_table("task")
    op.drop_table("joint_part")
    op.execute("ALTER TABLE joint_entry DISABLE TRIGGER joint_entry_frozen")
    op.execute("UPDATE joint_entry SET kind = 'note' WHERE kind IN ('not_safe', 'use_as_is')")
    op.execute("ALTER TABLE joint_entry ENABLE TRIGGER joint_entry_frozen")
    _check(KINDS)
    for column in ("conditions", "position", "until"):
        op.drop_column("joint_entry", column)
    op.execute("UPDATE joint SET condition = 'known' WHERE condition IN ('proven', 'limited')")
    op.execute("UPDATE joint SET condition = 'opened' WHERE condition = 'do_not_use'")
    op.execute("UPDATE joint SET condition_why = left(condition_why, 400)")
    op.alter_column("joint", "condition_why", type_=sa.String(400))
    for end in RENAMED:
        op.alter_column("joint", f"condition{end}", new_column_name=f"standing{end}")
    op.drop_column("due_date", "position")
    op.drop_column("run", "outcome")
