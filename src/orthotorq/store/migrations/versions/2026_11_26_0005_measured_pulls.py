"""Pulls of measuring devices, readings from the memory of tools, records of other installations.

Revision ID: 0005
"""
from typing import Any

import sqlalchemy as sa
from alembic import context, op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None

UTC = sa.DateTime(timezone=True)
UUID = sa.Uuid()
GRANTS = {"pull": "SELECT, INSERT", "tool_reading": "SELECT, INSERT", "foreign_record": "SELECT, INSERT"}


def _needed(name: str, kind: Any) -> sa.Column[Any]:
    return sa.Column(name, kind, nullable=False)


def _to(table: str, column: str, target: str) -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint([column], [f"{target}.id"], name=f"fk_{table}_{column}")


def upgrade() -> None:
    """Create them; what was measured is never changed."""
    op.create_table(
        "pull", _needed("id", UUID), _needed("run_id", UUID), _needed("step", sa.String(200)), _needed("device", sa.String(60)),
        _needed("inputs", sa.Text), _needed("expected", sa.Text), sa.Column("raw", sa.Text), _needed("person_id", UUID),
        _needed("at", UTC), sa.PrimaryKeyConstraint("id", name="pk_pull"), _to("pull", "run_id", "run"),
        _to("pull", "person_id", "person"))
    op.create_index("ix_pull_run_id", "pull", ["run_id"])
    op.create_table(
        "tool_reading", _needed("job_id", UUID), _needed("row", sa.Integer), _needed("run_id", UUID),
        sa.Column("position", sa.String(60)), _needed("place", sa.String(60)), sa.Column("torque_Nm", sa.Float),
        sa.Column("angle_deg", sa.Float), _needed("typed", sa.String(200)), sa.Column("happened_at", UTC),
        _needed("serial", sa.String(60)), sa.PrimaryKeyConstraint("job_id", "row", name="pk_tool_reading"),
        _to("tool_reading", "run_id", "run"), _to("tool_reading", "job_id", "job"))
    op.create_index("ix_tool_reading_run_id", "tool_reading", ["run_id"])
    op.create_table(
        "foreign_record", _needed("id", UUID), _needed("head_hash", sa.String(64)), _needed("title", sa.String(120)),
        _needed("run", sa.Integer), _needed("document", sa.Text), _needed("person_id", UUID), _needed("at", UTC),
        sa.PrimaryKeyConstraint("id", name="pk_foreign_record"), _to("foreign_record", "person_id", "person"),
        sa.UniqueConstraint("head_hash", name="uq_foreign_record_head_hash"))
    role = context.config.attributes["app_role"]
    for table, rights in GRANTS.items():
        op.execute(f'GRANT {rights} ON {table} TO "{role}"')
        op.execute(f"CREATE TRIGGER {table}_frozen BEFORE UPDATE OR DELETE ON {table} "
                   "FOR EACH ROW EXECUTE FUNCTION refuse_change()")
        op.execute(f"CREATE TRIGGER {table}_kept BEFORE TRUNCATE ON {table} FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()")


def downgrade() -> None:
    """Drop them."""
    for table in GRANTS:
        op.drop_table(table)
