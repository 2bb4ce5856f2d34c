"""Which runs are provisional, for the list of runs.

Revision ID: 0004
"""
import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add it; a run that left its joint provisional is."""
    op.add_column("run", sa.Column("provisional", sa.Boolean, nullable=False, server_default=sa.false()))
    op.execute("UPDATE run SET provisional = true FROM joint "
               "WHERE joint.standing = 'provisional' AND joint.standing_run = run.number")


def downgrade() -> None:
    """Take it out."""
    op.drop_column("run", "provisional")
