"""Tools with calibrations, own table entries, stock, photos, jobs and their queue.

Revision ID: 0002
"""
import sqlalchemy as sa
from alembic import context, op
from procrastinate.schema import SchemaManager

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None

UTC = sa.DateTime(timezone=True)
UUID = sa.Uuid()
GRANTS = {"tool": "SELECT, INSERT, UPDATE", "calibration": "SELECT, INSERT", "own_entry": "SELECT, INSERT, UPDATE",
          "stock": "SELECT, INSERT, DELETE", "photo": "SELECT, INSERT", "job": "SELECT, INSERT, UPDATE"}
FROZEN = ("calibration", "photo")


def _raw(text: str) -> None:
    """SQL with percent signs and several statements, past the driver's parameters."""
    cursor = op.get_bind().connection.cursor()
    cursor.execute(text)
    cursor.close()


def _person(table: str) -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=f"fk_{table}_person_id")


def _tools() -> None:
    op.create_table(
        "tool", sa.Column("id", UUID, nullable=False), sa.Column("serial", sa.String(60), nullable=False),
        sa.Column("spec", sa.Text, nullable=False), sa.Column("blocked", sa.Boolean, nullable=False),
        sa.Column("note", sa.String(300), nullable=False), sa.PrimaryKeyConstraint("id", name="pk_tool"),
        sa.UniqueConstraint("serial", name="uq_tool_serial"))
    op.create_table(
        "calibration", sa.Column("id", UUID, nullable=False), sa.Column("tool_id", UUID, nullable=False),
        sa.Column("at", UTC, nullable=False), sa.Column("until", UTC, nullable=False),
        sa.Column("certificate", sa.String(80), nullable=False), sa.Column("passed", sa.Boolean, nullable=False),
        sa.Column("person_id", UUID, nullable=False), sa.PrimaryKeyConstraint("id", name="pk_calibration"),
        sa.ForeignKeyConstraint(["tool_id"], ["tool.id"], name="fk_calibration_tool_id"), _person("calibration"))
    op.create_index("ix_calibration_tool_id", "calibration", ["tool_id"])


def _entries() -> None:
    op.create_table(
        "own_entry", sa.Column("id", UUID, nullable=False), sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("key", sa.String(120), nullable=False), sa.Column("body", sa.Text, nullable=False),
        sa.Column("active", sa.Boolean, nullable=False), sa.Column("person_id", UUID, nullable=False),
        sa.Column("at", UTC, nullable=False), sa.PrimaryKeyConstraint("id", name="pk_own_entry"), _person("own_entry"),
        sa.UniqueConstraint("kind", "key", name="uq_own_entry_kind"),
        sa.CheckConstraint("kind in ('lubricant', 'grade', 'material', 'method')", name="ck_own_entry_kind"))
    op.create_table(
        "stock", sa.Column("lubricant", sa.String(40), nullable=False), sa.Column("person_id", UUID, nullable=False),
        sa.Column("at", UTC, nullable=False), sa.PrimaryKeyConstraint("lubricant", name="pk_stock"), _person("stock"))


def _photos_and_jobs() -> None:
    op.create_table(
        "photo", sa.Column("id", UUID, nullable=False), sa.Column("run_id", UUID, nullable=False),
        sa.Column("data", sa.LargeBinary, nullable=False), sa.Column("digest", sa.String(64), nullable=False),
        sa.Column("person_id", UUID, nullable=False), sa.Column("at", UTC, nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_photo"),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name="fk_photo_run_id"), _person("photo"))
    op.create_index("ix_photo_run_id", "photo", ["run_id"])
    op.create_table(
        "job", sa.Column("id", UUID, nullable=False), sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("status", sa.String(12), nullable=False), sa.Column("done", sa.Integer, nullable=False),
        sa.Column("total", sa.Integer, nullable=False), sa.Column("answer", sa.Text, nullable=False),
        sa.Column("payload", sa.LargeBinary), sa.Column("person_id", UUID, nullable=False), sa.Column("at", UTC, nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_job"), _person("job"),
        sa.CheckConstraint("status in ('waiting', 'working', 'done', 'failed', 'cancelled')", name="ck_job_status"))


def _queue(role: str) -> None:
    """The queue of background work comes with its own schema."""
    _raw(SchemaManager.get_schema())
    _raw(f"""
        DO $$ DECLARE one record; BEGIN
          FOR one IN SELECT tablename AS name FROM pg_tables WHERE schemaname = 'public' AND tablename LIKE 'procrastinate%' LOOP
            EXECUTE format('GRANT SELECT, INSERT, UPDATE, DELETE ON %I TO "{role}"', one.name);
          END LOOP;
          FOR one IN SELECT sequencename AS name FROM pg_sequences
                     WHERE schemaname = 'public' AND sequencename LIKE 'procrastinate%' LOOP
            EXECUTE format('GRANT USAGE ON SEQUENCE %I TO "{role}"', one.name);
          END LOOP; END $$""")


def upgrade() -> None:
    """Create everything."""
    _tools()
    _entries()
    _photos_and_jobs()
    role = context.config.attributes["app_role"]
    for table, rights in GRANTS.items():
        op.execute(f'GRANT {rights} ON {table} TO "{role}"')
    for table in FROZEN:
        op.execute(f"CREATE TRIGGER {table}_frozen BEFORE UPDATE OR DELETE ON {table} "
                   "FOR EACH ROW EXECUTE FUNCTION refuse_change()")
        op.execute(f"CREATE TRIGGER {table}_kept BEFORE TRUNCATE ON {table} "
                   "FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()")
    op.execute("ALTER TABLE event ADD COLUMN happened_at timestamptz")
    _queue(role)


def downgrade() -> None:
    """Drop everything, children first; the queue's functions and types by their names."""
    _raw("""
        DO $$ DECLARE one record; BEGIN
          FOR one IN SELECT tablename AS name FROM pg_tables WHERE schemaname = 'public' AND tablename LIKE 'procrastinate%' LOOP
            EXECUTE format('DROP TABLE %I CASCADE', one.name);
          END LOOP;
          FOR one IN SELECT p.oid::regprocedure AS name FROM pg_proc p JOIN pg_namespace n ON n.oid = p.pronamespace
                     WHERE n.nspname = 'public' AND p.proname LIKE 'procrastinate%' LOOP
            EXECUTE format('DROP FUNCTION %s CASCADE', one.name);
          END LOOP;
          FOR one IN SELECT t.typname AS name FROM pg_type t JOIN pg_namespace n ON n.oid = t.typnamespace
                     WHERE n.nspname = 'public' AND t.typname LIKE 'procrastinate%' AND t.typtype IN ('e', 'c') LOOP
            EXECUTE format('DROP TYPE %I CASCADE', one.name);
          END LOOP; END $$""")
    op.execute("ALTER TABLE event DROP COLUMN happened_at")
    for table in ("job", "photo", "stock", "own_entry", "calibration", "tool"):
        op.drop_table(table)
