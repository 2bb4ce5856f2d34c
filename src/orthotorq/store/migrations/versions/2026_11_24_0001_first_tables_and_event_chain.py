"""First tables, with the final event table: hash chain, insert only, triggers against bending it.

Revision ID: 0001
"""
import sqlalchemy as sa
from alembic import context, op

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None

UTC = sa.DateTime(timezone=True)
UUID = sa.Uuid()

#: table -> what the application's role may do; it owns nothing
GRANTS = {
    "person": "SELECT, INSERT, UPDATE", "sign_in_attempt": "SELECT, INSERT, DELETE",
    "equipment": "SELECT, INSERT, UPDATE", "joint": "SELECT, INSERT, UPDATE", "plan": "SELECT, INSERT, UPDATE",
    "side_draft": "SELECT, INSERT", "revision": "SELECT, INSERT, UPDATE (status)", "run": "SELECT, INSERT, UPDATE",
    "event": "SELECT, INSERT", "refused_event": "SELECT, INSERT", "reading": "SELECT, INSERT",
}
FROZEN = ("event", "refused_event", "reading")


def _people() -> None:
    op.create_table(
        "person", sa.Column("id", UUID, nullable=False), sa.Column("login", sa.String(60), nullable=False),
        sa.Column("name", sa.String(120), nullable=False), sa.Column("password_hash", sa.String(200), nullable=False),
        sa.Column("roles", sa.ARRAY(sa.String(20)), nullable=False), sa.Column("active", sa.Boolean, nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_person"), sa.UniqueConstraint("login", name="uq_person_login"))
    op.create_table(
        "sign_in_attempt", sa.Column("id", UUID, nullable=False), sa.Column("login", sa.String(60), nullable=False),
        sa.Column("at", UTC, nullable=False), sa.PrimaryKeyConstraint("id", name="pk_sign_in_attempt"))
    op.create_index("ix_sign_in_attempt_login", "sign_in_attempt", ["login"])


def _equipment() -> None:
    op.create_table(
        "equipment", sa.Column("id", UUID, nullable=False), sa.Column("tag", sa.String(40), nullable=False),
        sa.Column("name", sa.String(120), nullable=False), sa.Column("area", sa.String(120), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_equipment"), sa.UniqueConstraint("tag", name="uq_equipment_tag"))
    op.create_table(
        "joint", sa.Column("id", UUID, nullable=False), sa.Column("equipment_id", UUID, nullable=False),
        sa.Column("tag", sa.String(60), nullable=False), sa.Column("name", sa.String(120), nullable=False),
        sa.Column("kind", sa.String(30), nullable=False), sa.PrimaryKeyConstraint("id", name="pk_joint"),
        sa.ForeignKeyConstraint(["equipment_id"], ["equipment.id"], name="fk_joint_equipment_id"),
        sa.UniqueConstraint("equipment_id", "tag", name="uq_joint_equipment_id"))
    op.create_index("ix_joint_equipment_id", "joint", ["equipment_id"])


def _plans() -> None:
    op.create_table(
        "plan", sa.Column("id", UUID, nullable=False), sa.Column("joint_id", UUID, nullable=False),
        sa.Column("title", sa.String(120), nullable=False), sa.Column("created_at", UTC, nullable=False),
        sa.Column("version", sa.Integer, nullable=False), sa.Column("draft", sa.Text, nullable=False),
        sa.Column("draft_by", UUID, nullable=False), sa.Column("draft_at", UTC, nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_plan"),
        sa.ForeignKeyConstraint(["joint_id"], ["joint.id"], name="fk_plan_joint_id"),
        sa.ForeignKeyConstraint(["draft_by"], ["person.id"], name="fk_plan_draft_by"))
    op.create_index("ix_plan_joint_id", "plan", ["joint_id"])
    op.create_table(
        "side_draft", sa.Column("id", UUID, nullable=False), sa.Column("plan_id", UUID, nullable=False),
        sa.Column("base_version", sa.Integer, nullable=False), sa.Column("document", sa.Text, nullable=False),
        sa.Column("person_id", UUID, nullable=False), sa.Column("at", UTC, nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_side_draft"),
        sa.ForeignKeyConstraint(["plan_id"], ["plan.id"], name="fk_side_draft_plan_id"),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name="fk_side_draft_person_id"))
    op.create_index("ix_side_draft_plan_id", "side_draft", ["plan_id"])
    op.create_table(
        "revision", sa.Column("id", UUID, nullable=False), sa.Column("plan_id", UUID, nullable=False),
        sa.Column("number", sa.Integer, nullable=False), sa.Column("status", sa.String(12), nullable=False),
        sa.Column("document", sa.Text, nullable=False), sa.Column("result", sa.Text, nullable=False),
        sa.Column("plan_hash", sa.String(64), nullable=False), sa.Column("released_by", UUID, nullable=False),
        sa.Column("released_at", UTC, nullable=False), sa.PrimaryKeyConstraint("id", name="pk_revision"),
        sa.ForeignKeyConstraint(["plan_id"], ["plan.id"], name="fk_revision_plan_id"),
        sa.ForeignKeyConstraint(["released_by"], ["person.id"], name="fk_revision_released_by"),
        sa.UniqueConstraint("plan_id", "number", name="uq_revision_plan_id"),
        sa.CheckConstraint("status in ('released', 'superseded')", name="ck_revision_status"))


def _runs() -> None:
    op.create_table(
        "run", sa.Column("id", UUID, nullable=False), sa.Column("number", sa.Integer, nullable=False),
        sa.Column("revision_id", UUID, nullable=False), sa.Column("status", sa.String(12), nullable=False),
        sa.Column("started_by", UUID, nullable=False), sa.Column("started_at", UTC, nullable=False),
        sa.Column("lease_epoch", sa.Integer, nullable=False), sa.Column("lease_device", sa.String(80), nullable=False),
        sa.Column("lease_person", UUID, nullable=False), sa.Column("head_sequence", sa.Integer, nullable=False),
        sa.Column("head_hash", sa.String(64), nullable=False), sa.PrimaryKeyConstraint("id", name="pk_run"),
        sa.UniqueConstraint("number", name="uq_run_number"),
        sa.ForeignKeyConstraint(["revision_id"], ["revision.id"], name="fk_run_revision_id"),
        sa.ForeignKeyConstraint(["started_by"], ["person.id"], name="fk_run_started_by"),
        sa.ForeignKeyConstraint(["lease_person"], ["person.id"], name="fk_run_lease_person"))
    op.create_index("ix_run_revision_id", "run", ["revision_id"])
    op.execute("CREATE SEQUENCE run_number START 401")


def _events() -> None:
    op.create_table(
        "event", sa.Column("run_id", UUID, nullable=False), sa.Column("sequence", sa.Integer, nullable=False),
        sa.Column("id", UUID, nullable=False), sa.Column("step", sa.String(200), nullable=False),
        sa.Column("kind", sa.String(20), nullable=False), sa.Column("verdict", sa.String(10), nullable=False),
        sa.Column("device", sa.String(80), nullable=False), sa.Column("device_sequence", sa.Integer, nullable=False),
        sa.Column("device_time", sa.String(40), nullable=False), sa.Column("lease", sa.Integer, nullable=False),
        sa.Column("last_seen", sa.Integer, nullable=False), sa.Column("person_id", UUID, nullable=False),
        sa.Column("received_at", UTC, nullable=False), sa.Column("canonical", sa.Text, nullable=False),
        sa.Column("previous_hash", sa.String(64), nullable=False), sa.Column("hash", sa.String(64), nullable=False),
        sa.PrimaryKeyConstraint("run_id", "sequence", name="pk_event"), sa.UniqueConstraint("id", name="uq_event_id"),
        sa.UniqueConstraint("run_id", "device", "device_sequence", name="uq_event_run_id"),
        sa.CheckConstraint("verdict in ('accepted', 'conflict')", name="ck_event_verdict"),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name="fk_event_run_id"),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name="fk_event_person_id"))
    op.create_table(
        "refused_event", sa.Column("id", UUID, nullable=False), sa.Column("run_id", UUID, nullable=False),
        sa.Column("event_id", sa.String(80)), sa.Column("device", sa.String(80)), sa.Column("device_sequence", sa.Integer),
        sa.Column("person_id", UUID, nullable=False), sa.Column("received_at", UTC, nullable=False),
        sa.Column("body", sa.Text, nullable=False), sa.Column("reason", sa.Text, nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_refused_event"),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name="fk_refused_event_run_id"),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name="fk_refused_event_person_id"))
    op.create_index("ix_refused_event_run_id", "refused_event", ["run_id"])
    op.create_table(
        "reading", sa.Column("run_id", UUID, nullable=False), sa.Column("sequence", sa.Integer, nullable=False),
        sa.Column("quantity", sa.String(20), nullable=False), sa.Column("step", sa.String(200), nullable=False),
        sa.Column("place", sa.String(60)), sa.Column("value", sa.Float, nullable=False),
        sa.Column("typed", sa.String(80), nullable=False), sa.Column("at", UTC, nullable=False),
        sa.PrimaryKeyConstraint("run_id", "sequence", "quantity", name="pk_reading"))
    op.create_index("ix_reading_quantity_at", "reading", ["quantity", "at"])


def _protect() -> None:
    op.execute("""
        CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
            RAISE EXCEPTION 'rows of % are never changed or removed', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
        END $$""")
    for table in FROZEN:
        op.execute(f"CREATE TRIGGER {table}_frozen BEFORE UPDATE OR DELETE ON {table} "
                   "FOR EACH ROW EXECUTE FUNCTION refuse_change()")
        op.execute(f"CREATE TRIGGER {table}_kept BEFORE TRUNCATE ON {table} "
                   "FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()")
    role = context.config.attributes["app_role"]
    op.execute(f'GRANT USAGE ON SCHEMA public TO "{role}"')
    op.execute(f'GRANT USAGE ON SEQUENCE run_number TO "{role}"')
    for table, rights in GRANTS.items():
        op.execute(f'GRANT {rights} ON {table} TO "{role}"')


def upgrade() -> None:
    """Create everything."""
    _people()
    _equipment()
    _plans()
    _runs()
    _events()
    _protect()


def downgrade() -> None:
    """Drop everything, children first."""
    role = context.config.attributes["app_role"]
    for table in FROZEN:
        op.drop_table(table)
    op.execute("DROP FUNCTION refuse_change()")
    op.execute(f'REVOKE USAGE ON SEQUENCE run_number FROM "{role}"')
    op.execute("DROP SEQUENCE run_number")
    for table in ("run", "revision", "side_draft", "plan", "joint", "equipment", "sign_in_attempt", "person"):
        op.drop_table(table)
    op.execute(f'REVOKE USAGE ON SCHEMA public FROM "{role}"')
