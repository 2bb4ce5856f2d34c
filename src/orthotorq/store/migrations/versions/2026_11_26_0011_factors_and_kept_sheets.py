"""A PIN, a second factor and a single sign-on for a person; how a session began; printed sheets that are kept.

Revision ID: 0011
Revises: 0010
"""
from __future__ import annotations

import sqlalchemy as sa
from alembic import context, op

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add the columns and the table."""
    role = context.config.attributes["app_role"]
    op.add_column("person", sa.Column("pin_hash", sa.String(200), nullable=False, server_default=""))
    op.add_column("person", sa.Column("totp_secret", sa.String(200), nullable=False, server_default=""))
    op.add_column("person", sa.Column("totp_on", sa.Boolean, nullable=False, server_default=sa.false()))
    op.add_column("person", sa.Column("totp_step", sa.BigInteger, nullable=False, server_default="0"))
    op.add_column("person", sa.Column("subject", sa.String(300), unique=True))
    op.add_column("sign_in", sa.Column("by", sa.String(20), nullable=False, server_default="password"))
    op.add_column("sign_in", sa.Column("proven_at", sa.DateTime(timezone=True)))
    # revisions of a time before there were codes, by name: any other has one
    op.execute("ALTER TABLE codes_since ADD COLUMN revisions uuid[] NOT NULL DEFAULT '{}'")
    op.execute("UPDATE codes_since SET revisions = coalesce((SELECT array_agg(id) FROM revision WHERE code = ''), '{}')")
    op.create_table(
        "kept_sheet", sa.Column("revision_id", sa.Uuid(), nullable=False), sa.Column("name", sa.String(20), nullable=False),
        sa.Column("paper", sa.String(10), nullable=False), sa.Column("digest", sa.String(64), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False), sa.Column("data", sa.LargeBinary, nullable=False),
        sa.Column("code", sa.String(100), nullable=False),
        sa.PrimaryKeyConstraint("revision_id", "name", "paper", name="pk_kept_sheet"),
        sa.ForeignKeyConstraint(["revision_id"], ["revision.id"], name="fk_kept_sheet_revision_id"))
    op.execute(f'GRANT SELECT, INSERT, UPDATE ON kept_sheet TO "{role}"')


def downgrade() -> None:
    """Take them away."""
    op.drop_table("kept_sheet")
    op.drop_column("codes_since", "revisions")
    op.drop_column("sign_in", "proven_at")
    op.drop_column("sign_in", "by")
    for name in ("subject", "totp_step", "totp_on", "totp_secret", "pin_hash"):
        op.drop_column("person", name)
