"""Imported records are known by all of their file; tries in an open session are counted apart; when
a sign-on was fresh.

Revision ID: 0013 Revises: 0012
"""
from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add the columns; files read so far are known by the digest of what is kept of them."""
    op.add_column("foreign_record", sa.Column("digest", sa.String(64), nullable=False, server_default=""))
    op.add_column("foreign_record", sa.Column("proved", sa.Boolean, nullable=False, server_default=sa.false()))
    op.execute("ALTER TABLE foreign_record DISABLE TRIGGER foreign_record_frozen")
    op.execute("UPDATE foreign_record SET digest = encode(sha256(convert_to(document, 'UTF8')), 'hex')")
    op.execute("ALTER TABLE foreign_record ENABLE TRIGGER foreign_record_frozen")
    op.alter_column("foreign_record", "digest", server_default=None)
    op.alter_column("foreign_record", "proved", server_default=None)
    op.drop_constraint("uq_foreign_record_head_hash", "foreign_record", type_="unique")
    op.create_unique_constraint("uq_foreign_record_digest", "foreign_record", ["digest"])
    op.add_column("sign_in_attempt", sa.Column("session_id", sa.Uuid()))
    op.create_index("ix_sign_in_attempt_session_id", "sign_in_attempt", ["session_id"])
    op.add_column("sign_in", sa.Column("fresh_at", sa.DateTime(timezone=True)))


def downgrade() -> None:
    """Take them away; of files with the same end of their chain the first one stays."""
    op.drop_column("sign_in", "fresh_at")
    op.drop_index("ix_sign_in_attempt_session_id", "sign_in_attempt")
    op.drop_column("sign_in_attempt", "session_id")
    op.execute("ALTER TABLE foreign_record DISABLE TRIGGER foreign_record_frozen")
    op.execute("DELETE FROM foreign_record AS later USING foreign_record AS first "
               "WHERE later.head_hash = first.head_hash AND (later.at, later.id) > (first.at, first.id)")
    op.execute("ALTER TABLE foreign_record ENABLE TRIGGER foreign_record_frozen")
    op.drop_constraint("uq_foreign_record_digest", "foreign_record", type_="unique")
    op.create_unique_constraint("uq_foreign_record_head_hash", "foreign_record", ["head_hash"])
    op.drop_column("foreign_record", "proved")
    op.drop_column("foreign_record", "digest")
