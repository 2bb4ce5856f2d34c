"""Why a revision was released and what was taken on with it; plans that are put away;
joints found by what is bolted there.

Revision ID: 0006
"""
import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None

#: sizes and torques of what was released last, for finding a joint by them
SUMMARIES = """
UPDATE joint SET summary = coalesce((
    SELECT string_agg(jsonb_array_length(g -> 'places') || ' × ' || (g -> 'thread' ->> 'designation')
                      || coalesce(', ' || round((g -> 'target' ->> 'set_torque_Nm')::numeric) || ' N·m', ''), '; ')
    FROM (SELECT r.result FROM revision r JOIN plan p ON p.id = r.plan_id
          WHERE p.joint_id = joint.id AND r.status = 'released' ORDER BY r.released_at DESC LIMIT 1) latest,
         jsonb_array_elements(latest.result::jsonb -> 'groups') g), '')
"""


def upgrade() -> None:
    """Add them; what was released stays as it was."""
    op.add_column("joint", sa.Column("summary", sa.Text, nullable=False, server_default=""))
    op.execute(SUMMARIES)
    op.add_column("plan", sa.Column("put_away", sa.Boolean, nullable=False, server_default=sa.false()))
    op.add_column("revision", sa.Column("reason", sa.Text, nullable=False, server_default=""))
    op.add_column("revision", sa.Column("taken_on", sa.Text, nullable=False, server_default="[]"))


def downgrade() -> None:
    """Take them out."""
    op.drop_column("revision", "taken_on")
    op.drop_column("revision", "reason")
    op.drop_column("plan", "put_away")
    op.drop_column("joint", "summary")
