"""Coming back: meters and their readings, due dates, what happened to joints, checks of tools with their readings, what each tool
has touched, calendars; summaries that lists read.

Revision ID: 0007
"""
import sqlalchemy as sa
from alembic import context, op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None

UTC = sa.DateTime(timezone=True)
UUID = sa.Uuid()
GRANTS = {"meter": "SELECT, INSERT, UPDATE", "meter_reading": "SELECT, INSERT, UPDATE (struck_by, total)",
          "due_date": "SELECT, INSERT, UPDATE, DELETE", "joint_entry": "SELECT, INSERT", "tool_pull": "SELECT, INSERT",
          "revision_load": "SELECT, INSERT", "calendar_link": "SELECT, INSERT, UPDATE, DELETE",
          "lesson": "SELECT, INSERT, DELETE"}
FROZEN = ("joint_entry", "tool_pull", "revision_load")
#: lists that are asked for at every sign-in
INDEXES = (
    ("ix_plan_unreleased", "plan", "(draft_at DESC) WHERE unreleased AND NOT put_away"),
    ("ix_run_open", "run", "(started_at DESC) WHERE status IN ('running', 'finished', 'signed')"),
    ("ix_run_conflicts", "run", "(started_at DESC) WHERE conflicts > 0"),
    ("ix_run_started_at", "run", "(started_at DESC)"),
    ("ix_due_date_at_once", "due_date", "(joint_id) WHERE at_once"),
    ("ix_joint_movement", "joint", "(tag) WHERE movement <> ''"),
)


def _columns() -> dict[str, list[sa.Column]]:  # type: ignore[type-arg]
    """New columns of tables that are there."""
    return {
        "joint": [sa.Column("found", sa.Text, nullable=False, server_default=""),
                  sa.Column("glyph", sa.Text, nullable=False, server_default=""),
                  sa.Column("movement", sa.String(400), nullable=False, server_default="")],
        "plan": [sa.Column("unreleased", sa.Boolean, nullable=False, server_default=sa.true())],
        "run": [sa.Column("occasion", sa.String(20), nullable=False, server_default="install"),
                *(sa.Column(name, sa.Integer, nullable=False, server_default="0") for name in ("conflicts", "checked", "moved")),
                sa.Column("ended_at", UTC)],
        "tool": [sa.Column("sort", sa.String(20), nullable=False, server_default="wrench"),
                 *(sa.Column(name, sa.String(120), nullable=False, server_default="") for name in ("place", "owner")),
                 sa.Column("borrowed", sa.Boolean, nullable=False, server_default=sa.false()),
                 sa.Column("held_to", sa.String(30), nullable=False, server_default=""),
                 sa.Column("interval_months", sa.Integer, nullable=False, server_default="12"),
                 sa.Column("interval_pulls", sa.Integer, nullable=False, server_default="5000"),
                 sa.Column("pulls", sa.Integer, nullable=False, server_default="0"), sa.Column("corrected", sa.Float),
                 sa.Column("allowed_until", UTC),
                 sa.Column("allowed_why", sa.String(300), nullable=False, server_default="")],
        "calibration": [sa.Column("verdict", sa.String(10), nullable=False, server_default=""),
                        sa.Column("points", sa.Text, nullable=False, server_default="[]"),
                        sa.Column("reference", sa.String(120), nullable=False, server_default=""),
                        sa.Column("uncertainty", sa.Float, nullable=False, server_default="0"),
                        sa.Column("limit", sa.Float), sa.Column("error", sa.Float), sa.Column("worst", sa.Float),
                        sa.Column("note", sa.String(300), nullable=False, server_default="")],
    }


#: found by a part of a word
FOUND_BY = {"equipment": ("tag", "name", "area"), "joint": ("found",), "plan": ("title",),
            "tool": ("serial", "note")}
LOADS = """
INSERT INTO revision_load
SELECT r.id, g ->> 'id', g ->> 'name', (g -> 'preload' ->> 'low_N')::float, (g -> 'preload' ->> 'typical_N')::float,
       (g -> 'preload' ->> 'high_N')::float, (g -> 'window' ->> 'lower_N')::float, (g -> 'window' ->> 'upper_N')::float
FROM revision r, jsonb_array_elements(r.result::jsonb -> 'groups') g
"""
OCCASIONS = """
UPDATE run SET occasion = coalesce(e.canonical::jsonb -> 'client' -> 'payload' ->> 'occasion', 'install')
FROM event e WHERE e.run_id = run.id AND e.kind = 'start'
"""
ENDED = """
UPDATE run SET ended_at = (SELECT max(e.received_at) FROM event e WHERE e.run_id = run.id) WHERE status <> 'running'
"""
FOUND = """
UPDATE joint SET found = lower(concat_ws(' ', e.tag, e.name, e.area, joint.tag, joint.name, replace(joint.kind, '_', ' '),
    joint.summary, (SELECT string_agg(p.title, ' ') FROM plan p WHERE p.joint_id = joint.id)))
FROM equipment e WHERE e.id = joint.equipment_id
"""
UNRELEASED = """
UPDATE plan SET unreleased = NOT EXISTS (SELECT 1 FROM revision r WHERE r.plan_id = plan.id AND r.released_at >= plan.draft_at)
"""


def _fk(table: str, column: str, to: str) -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint([column], [f"{to}.id"], name=f"fk_{table}_{column}")


def _meters() -> None:
    op.create_table(
        "meter", sa.Column("id", UUID, nullable=False), sa.Column("equipment_id", UUID, nullable=False),
        sa.Column("unit", sa.String(12), nullable=False), sa.Column("name", sa.String(60), nullable=False),
        sa.Column("shown", sa.Float), sa.Column("total", sa.Float), sa.Column("at", UTC), sa.Column("rate_low", sa.Float),
        sa.Column("rate", sa.Float), sa.Column("rate_high", sa.Float),
        sa.Column("rate_words", sa.String(200), nullable=False), sa.PrimaryKeyConstraint("id", name="pk_meter"),
        _fk("meter", "equipment_id", "equipment"), sa.UniqueConstraint("equipment_id", "unit", name="uq_meter_equipment_id"))
    op.create_table(
        "meter_reading", sa.Column("id", UUID, nullable=False), sa.Column("meter_id", UUID, nullable=False),
        sa.Column("at", UTC, nullable=False), sa.Column("value", sa.Float, nullable=False),
        sa.Column("how", sa.String(12), nullable=False), sa.Column("before", sa.Float),
        sa.Column("total", sa.Float, nullable=False), sa.Column("source", sa.String(20), nullable=False),
        sa.Column("person_id", UUID, nullable=False), sa.Column("struck_by", UUID),
        sa.PrimaryKeyConstraint("id", name="pk_meter_reading"), _fk("meter_reading", "meter_id", "meter"),
        _fk("meter_reading", "person_id", "person"), _fk("meter_reading", "struck_by", "person"),
        sa.CheckConstraint("how in ('reading', 'reset', 'replaced', 'rolled_over')", name="ck_meter_reading_how"))
    op.create_index("ix_meter_reading_meter_id_at", "meter_reading", ["meter_id", "at"])
    op.execute('CREATE UNIQUE INDEX uq_meter_reading_at ON meter_reading (meter_id, at) WHERE struck_by IS NULL')


def _joints() -> None:
    op.create_table(
        "due_date", sa.Column("joint_id", UUID, nullable=False), sa.Column("rule", sa.String(80), nullable=False),
        sa.Column("revision_id", UUID), sa.Column("occasion", sa.String(20), nullable=False), sa.Column("reading", sa.Float),
        sa.Column("unit", sa.String(12), nullable=False), sa.Column("day", sa.Date), sa.Column("low", sa.Date),
        sa.Column("high", sa.Date), sa.Column("grace", sa.Integer, nullable=False),
        sa.Column("at_once", sa.Boolean, nullable=False), sa.Column("why", sa.String(500), nullable=False),
        sa.PrimaryKeyConstraint("joint_id", "rule", name="pk_due_date"), _fk("due_date", "joint_id", "joint"),
        _fk("due_date", "revision_id", "revision"))
    op.create_index("ix_due_date_day", "due_date", ["day"])
    op.create_table(
        "joint_entry", sa.Column("id", UUID, nullable=False), sa.Column("joint_id", UUID, nullable=False),
        sa.Column("at", UTC, nullable=False), sa.Column("kind", sa.String(12), nullable=False),
        sa.Column("words", sa.String(400), nullable=False), sa.Column("person_id", UUID, nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_joint_entry"), _fk("joint_entry", "joint_id", "joint"),
        _fk("joint_entry", "person_id", "person"),
        sa.CheckConstraint("kind in ('opened', 'replaced', 'happened', 'note', 'tool')", name="ck_joint_entry_kind"))
    op.create_index("ix_joint_entry_joint_id_at", "joint_entry", ["joint_id", "at"])


def _tools() -> None:
    op.create_table(
        "tool_pull", sa.Column("run_id", UUID, nullable=False), sa.Column("sequence", sa.Integer, nullable=False),
        sa.Column("tool_id", UUID, nullable=False), sa.Column("at", UTC, nullable=False),
        sa.Column("run_number", sa.Integer, nullable=False), sa.Column("revision_id", UUID, nullable=False),
        sa.Column("joint_id", UUID, nullable=False),
        sa.Column("group", sa.String(60), nullable=False), sa.Column("place", sa.String(60), nullable=False),
        sa.Column("position", sa.String(60), nullable=False), sa.Column("torque_Nm", sa.Float, nullable=False),
        sa.Column("percent", sa.Float, nullable=False), sa.PrimaryKeyConstraint("run_id", "sequence", name="pk_tool_pull"),
        _fk("tool_pull", "run_id", "run"), _fk("tool_pull", "tool_id", "tool"), _fk("tool_pull", "revision_id", "revision"),
        _fk("tool_pull", "joint_id", "joint"))
    op.create_index("ix_tool_pull_tool_id_at", "tool_pull", ["tool_id", "at"])
    op.create_table(
        "revision_load", sa.Column("revision_id", UUID, nullable=False), sa.Column("group", sa.String(60), nullable=False),
        sa.Column("name", sa.String(120), nullable=False),
        *(sa.Column(name, sa.Float) for name in ("low_N", "typical_N", "high_N", "lower_N", "upper_N")),
        sa.PrimaryKeyConstraint("revision_id", "group", name="pk_revision_load"),
        _fk("revision_load", "revision_id", "revision"))
    op.create_table(
        "calendar_link", sa.Column("person_id", UUID, nullable=False), sa.Column("secret_hash", sa.String(64), nullable=False),
        sa.Column("at", UTC, nullable=False), sa.PrimaryKeyConstraint("person_id", name="pk_calendar_link"),
        _fk("calendar_link", "person_id", "person"), sa.UniqueConstraint("secret_hash", name="uq_calendar_link_secret_hash"))
    op.create_check_constraint("ck_calibration_verdict", "calibration", "verdict in ('', 'pass', 'fail', 'undecided')")


def _lessons() -> None:
    op.create_table(
        "lesson", sa.Column("id", UUID, nullable=False), sa.Column("kind", sa.String(12), nullable=False),
        sa.Column("key", sa.String(200), nullable=False), sa.Column("title", sa.String(200), nullable=False),
        *(sa.Column(name, sa.Float, nullable=False) for name in ("low", "typical", "high")),
        sa.Column("unit", sa.String(20), nullable=False), sa.Column("count", sa.Integer, nullable=False),
        sa.Column("since", UTC, nullable=False), sa.Column("until", UTC, nullable=False),
        sa.Column("words", sa.String(300), nullable=False), sa.Column("lubricant", sa.String(40), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_lesson"))


def upgrade() -> None:
    """Add them; what is known of runs and plans already is filled in."""
    for table, columns in _columns().items():
        for column in columns:
            op.add_column(table, column)
    for statement in (OCCASIONS, ENDED, UNRELEASED, FOUND):
        op.execute(statement)
    _meters()
    _joints()
    _tools()
    _lessons()
    op.execute(LOADS)
    op.execute("CREATE EXTENSION IF NOT EXISTS pg_trgm")
    for name, table, what in INDEXES:
        op.execute(f"CREATE INDEX {name} ON {table} {what}")
    for table, names in FOUND_BY.items():
        for name in names:
            op.execute(f"CREATE INDEX ix_{table}_{name}_found ON {table} USING gin ({name} gin_trgm_ops)")
    role = context.config.attributes["app_role"]
    for table, rights in GRANTS.items():
        op.execute(f'GRANT {rights} ON {table} TO "{role}"')
    for table in FROZEN:
        op.execute(f"CREATE TRIGGER {table}_frozen BEFORE UPDATE OR DELETE ON {table} "
                   "FOR EACH ROW EXECUTE FUNCTION refuse_change()")
        op.execute(f"CREATE TRIGGER {table}_kept BEFORE TRUNCATE ON {table} "
                   "FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()")


def downgrade() -> None:
    """Take them out."""
    for table in ("lesson", "calendar_link", "revision_load", "tool_pull", "joint_entry", "due_date", "meter_reading", "meter"):
        op.drop_table(table)
    for table, names in FOUND_BY.items():
        for name in names:
            op.drop_index(f"ix_{table}_{name}_found", table)
    for name, _, _ in INDEXES:
        op.execute(f"DROP INDEX IF EXISTS {name}")
    op.execute("DROP EXTENSION pg_trgm")
    op.drop_constraint("ck_calibration_verdict", "calibration")
    for table, columns in _columns().items():
        for column in columns:
            op.drop_column(table, column.name)
