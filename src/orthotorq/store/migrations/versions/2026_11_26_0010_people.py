"""Invitations, security events that only grow, and the version of the schema for who asks whether all is well.

Revision ID: 0010
Revises: 0009
"""
from __future__ import annotations

import sqlalchemy as sa
from alembic import context, op

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None

UUID, UTC = sa.Uuid(), sa.DateTime(timezone=True)


def upgrade() -> None:
    """Add both tables."""
    role = context.config.attributes["app_role"]
    op.create_table(
        "invitation", sa.Column("id", UUID, nullable=False), sa.Column("person_id", UUID, nullable=False),
        sa.Column("digest", sa.String(64), nullable=False), sa.Column("at", UTC, nullable=False),
        sa.Column("until", UTC, nullable=False), sa.Column("used_at", UTC), sa.PrimaryKeyConstraint("id", name="pk_invitation"),
        sa.UniqueConstraint("digest", name="uq_invitation_digest"),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name="fk_invitation_person_id"))
    op.create_index("ix_invitation_person_id", "invitation", ["person_id"])
    op.create_table(
        "security_event", sa.Column("id", UUID, nullable=False), sa.Column("at", UTC, nullable=False),
        sa.Column("kind", sa.String(20), nullable=False), sa.Column("person_id", UUID),
        sa.Column("login", sa.String(60), nullable=False),
        sa.Column("words", sa.String(300), nullable=False), sa.Column("address", sa.String(60), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_security_event"),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name="fk_security_event_person_id"))
    op.create_index("ix_security_event_at", "security_event", ["at"])
    op.create_index("ix_security_event_person_id", "security_event", ["person_id"])
    op.execute("CREATE TRIGGER security_event_frozen BEFORE UPDATE OR DELETE ON security_event "
               "FOR EACH ROW EXECUTE FUNCTION refuse_change()")
    op.execute("CREATE TRIGGER security_event_kept BEFORE TRUNCATE ON security_event "
               "FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()")
    op.add_column("sign_in_attempt", sa.Column("address", sa.String(60), nullable=False, server_default=""))
    op.create_index("ix_sign_in_attempt_address", "sign_in_attempt", ["address"])
    op.execute(f'GRANT SELECT, INSERT, UPDATE (used_at) ON invitation TO "{role}"')
    op.execute(f'GRANT SELECT, INSERT ON security_event TO "{role}"')
    op.execute(f'GRANT SELECT ON alembic_version TO "{role}"')


def downgrade() -> None:
    """Take both tables away."""
    op.execute(f'REVOKE SELECT ON alembic_version FROM "{context.config.attributes["app_role"]}"')
    op.drop_index("ix_sign_in_attempt_address")
    op.drop_column("sign_in_attempt", "address")
    op.drop_table("security_event")
    op.drop_table("invitation")
