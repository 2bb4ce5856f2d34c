"""How a joint stands by its record.

Revision ID: 0003
"""
import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add the standing; a joint with a signed run is known."""
    op.add_column("joint", sa.Column("standing", sa.String(12), nullable=False, server_default="unknown"))
    op.add_column("joint", sa.Column("standing_why", sa.String(400), nullable=False, server_default=""))
    op.add_column("joint", sa.Column("standing_run", sa.Integer))
    op.add_column("joint", sa.Column("standing_at", sa.DateTime(timezone=True)))
    op.execute("""
        UPDATE joint SET standing = 'known', standing_run = last.number
        FROM (SELECT plan.joint_id AS joint, max(run.number) AS number FROM run
              JOIN revision ON revision.id = run.revision_id JOIN plan ON plan.id = revision.plan_id
              WHERE run.status IN ('signed', 'closed') GROUP BY plan.joint_id) AS last
        WHERE joint.id = last.joint""")


def downgrade() -> None:
    """Take it out."""
    for column in ("standing", "standing_why", "standing_run", "standing_at"):
        op.drop_column("joint", column)
