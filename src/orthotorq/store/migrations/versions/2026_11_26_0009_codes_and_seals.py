"""Codes of the server over entries, runs and revisions, seals, and sessions that can be ended.

Revision ID: 0009
Revises: 0008
"""
from __future__ import annotations

import sqlalchemy as sa
from alembic import context, op

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None

UUID, UTC = sa.Uuid(), sa.DateTime(timezone=True)
CODED = ("event", "run", "revision")


def upgrade() -> None:
    """Add codes, seals and sessions."""
    role = context.config.attributes["app_role"]
    for table in CODED:
        op.add_column(table, sa.Column("code", sa.String(100), nullable=False, server_default=""))
    # what was begun before today has no codes; the application may read this and never write it
    op.execute("CREATE TABLE codes_since (last_run integer NOT NULL)")
    op.execute("INSERT INTO codes_since SELECT coalesce(max(number), 0) FROM run")
    op.execute(f'GRANT SELECT ON codes_since TO "{role}"')
    op.create_table(
        "seal", sa.Column("id", UUID, nullable=False), sa.Column("day", sa.Date, nullable=False),
        sa.Column("made_at", UTC, nullable=False), sa.Column("runs", sa.Integer, nullable=False),
        sa.Column("previous", sa.String(64), nullable=False), sa.Column("digest", sa.String(64), nullable=False),
        sa.Column("code", sa.String(100), nullable=False), sa.PrimaryKeyConstraint("id", name="pk_seal"))
    op.create_index("ix_seal_made_at", "seal", ["made_at"])
    op.execute("CREATE TRIGGER seal_frozen BEFORE UPDATE OR DELETE ON seal FOR EACH ROW EXECUTE FUNCTION refuse_change()")
    op.execute("CREATE TRIGGER seal_kept BEFORE TRUNCATE ON seal FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()")
    op.execute(f'GRANT SELECT, INSERT ON seal TO "{role}"')
    op.create_table(
        "sign_in", sa.Column("id", UUID, nullable=False), sa.Column("person_id", UUID, nullable=False),
        sa.Column("at", UTC, nullable=False), sa.Column("seen_at", UTC, nullable=False), sa.Column("ended_at", UTC),
        sa.Column("agent", sa.String(200), nullable=False), sa.PrimaryKeyConstraint("id", name="pk_sign_in"),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name="fk_sign_in_person_id"))
    op.create_index("ix_sign_in_person_id", "sign_in", ["person_id"])
    op.execute(f'GRANT SELECT, INSERT, UPDATE ON sign_in TO "{role}"')


def downgrade() -> None:
    """Take codes, seals and sessions away."""
    op.drop_table("sign_in")
    op.drop_table("seal")
    op.execute("DROP TABLE codes_since")
    for table in CODED:
        op.drop_column(table, "code")
