"""Sites above machines.

Revision ID: 0008
Revises: 0007
"""
from __future__ import annotations

import uuid

import sqlalchemy as sa
from alembic import context, op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add sites; machines that are there stand at one."""
    op.create_table("site", sa.Column("id", sa.Uuid(), nullable=False), sa.Column("name", sa.String(120), nullable=False),
                    sa.PrimaryKeyConstraint("id", name="pk_site"), sa.UniqueConstraint("name", name="uq_site_name"))
    op.add_column("equipment", sa.Column("site_id", sa.Uuid()))
    # machines that are there belong to one site, which is then called what it is
    made = sa.text("INSERT INTO site (id, name) SELECT :id, 'Works' WHERE EXISTS (SELECT 1 FROM equipment)")
    op.execute(made.bindparams(sa.bindparam("id", uuid.uuid4(), sa.Uuid())))
    op.execute("UPDATE equipment SET site_id = (SELECT id FROM site)")
    op.alter_column("equipment", "site_id", nullable=False)
    op.create_foreign_key("fk_equipment_site_id", "equipment", "site", ["site_id"], ["id"])
    op.create_index("ix_equipment_site_id", "equipment", ["site_id"])
    op.execute("UPDATE joint SET found = 'works ' || found")
    op.execute(f'GRANT SELECT, INSERT, UPDATE, DELETE ON site TO "{context.config.attributes["app_role"]}"')


def downgrade() -> None:
    """Take the sites away."""
    op.execute("UPDATE joint SET found = substr(found, 7) WHERE found LIKE 'works %'")
    op.drop_constraint("fk_equipment_site_id", "equipment")
    op.drop_index("ix_equipment_site_id")
    op.drop_column("equipment", "site_id")
    op.drop_table("site")
