"""The schema goes up, down and up with data; the event table refuses to be bent, by whichever
role."""

from __future__ import annotations

from collections.abc import Iterator
from hashlib import sha256

import pytest
from sqlalchemy import create_engine, inspect, text
from sqlalchemy.exc import DBAPIError, IntegrityError, ProgrammingError

from orthotorq.demo.load import load
from orthotorq.services.running.verify import verify_all
from orthotorq.services.schema import downgrade, people_exist, upgrade
from orthotorq.store.models import Base
from tests.conftest import APP_ROLE, Database, drop_database, make_database


@pytest.fixture
def empty() -> Iterator[Database]:
    made = make_database()
    yield made
    drop_database(made)


def tables(url: str) -> set[str]:
    engine = create_engine(url)
    found = set(inspect(engine).get_table_names()) - {"alembic_version"}
    found = {name for name in found if not name.startswith("procrastinate_")}
    engine.dispose()
    return found


def test_up_down_and_up_again_with_data(empty: Database) -> None:
    upgrade(empty.owner_url, APP_ROLE)
    assert tables(empty.owner_url) == {*Base.metadata.tables, "codes_since"}
    sessions = empty.sessions()
    with sessions.begin() as session:
        assert not people_exist(session)
        load(session)
        assert people_exist(session)
    sessions.kw["bind"].dispose()
    downgrade(empty.owner_url, APP_ROLE, "base")
    assert tables(empty.owner_url) == set()
    upgrade(empty.owner_url, APP_ROLE)
    assert tables(empty.owner_url) == {*Base.metadata.tables, "codes_since"}


def test_models_and_migrations_agree(database: Database) -> None:
    engine = create_engine(database.owner_url)
    found = inspect(engine)
    for name, table in Base.metadata.tables.items():
        columns = {c["name"]: c["nullable"] for c in found.get_columns(name)}
        assert columns == {c.name: c.nullable for c in table.columns}, name
        keys = {k["name"] for k in found.get_foreign_keys(name)}
        assert keys == {f"fk_{name}_{c.name}" for c in table.columns if c.foreign_keys}, name
    engine.dispose()


BENDING = ["UPDATE {t} SET person_id = person_id", "DELETE FROM {t}", "TRUNCATE {t}"]


@pytest.mark.parametrize("role", ["app", "owner"])
@pytest.mark.parametrize("statement", BENDING)
@pytest.mark.parametrize("table", ["event", "refused_event", "reading"])
def test_kept_tables_refuse_update_delete_and_truncate(
    database: Database, role: str, statement: str, table: str
) -> None:
    engine = create_engine(database.app_url if role == "app" else database.owner_url)
    if table == "reading":
        statement = statement.replace("person_id = person_id", "value = 0")
    with engine.connect() as connection:
        if table == "refused_event":
            connection.execute(
                text(
                    "INSERT INTO refused_event SELECT gen_random_uuid(), id, null, null, "
                    "null, started_by,"
                    " now(), '{}', 'x' FROM run LIMIT 1"
                )
            )
        before = connection.scalar(text(f"SELECT count(*) FROM {table}"))
        assert before
        with pytest.raises(DBAPIError, match=r"never changed|permission denied"):
            connection.execute(text(statement.format(t=table)))
    engine.dispose()


@pytest.mark.parametrize(
    "change",
    [
        "head_sequence = 0",
        "head_hash = repeat('0', 64)",
        "revision_id = revision_id",
        "started_by = started_by",
        "number = number + 1",
        "started_at = now()",
    ],
)
def test_the_application_changes_nothing_of_a_run_that_was_said_when_it_began(
    database: Database, change: str
) -> None:
    engine = create_engine(database.app_url)
    with engine.begin() as connection, pytest.raises(ProgrammingError, match="permission denied"):
        connection.execute(text(f"UPDATE run SET {change}"))
    engine.dispose()


#: an entry at the end of the chain of the last run, made of the last one there
APPENDED = """INSERT INTO event (run_id, sequence, id, step, kind, verdict, device,
  device_sequence, device_time, lease,
    last_seen, person_id, received_at, happened_at, canonical, previous_hash, hash, code)
    SELECT e.run_id, r.head_sequence + {step}, gen_random_uuid(), e.step, 'note', e.verdict, 'd',
      9999, e.device_time, 1, 1,
           e.person_id, now(), now(), '{{}}', {previous}, {hash}, '' FROM run r JOIN event e
             ON e.run_id = r.id
    WHERE r.number = (SELECT max(number) FROM run) AND e.sequence = r.head_sequence"""
FOLLOWS = "encode(sha256(convert_to(r.head_hash || '{}', 'UTF8')), 'hex')"


@pytest.mark.parametrize("role", ["app_url", "owner_url"])
@pytest.mark.parametrize(
    ("step", "previous", "own_hash"),
    [
        (2, "r.head_hash", FOLLOWS),
        (0, "r.head_hash", FOLLOWS),
        (1, "repeat('0', 64)", FOLLOWS),
        (1, "r.head_hash", "repeat('1', 64)"),
        (1, "e.previous_hash", "e.hash"),
    ],
)
def test_an_entry_that_does_not_follow_its_chain_is_refused(
    database: Database, role: str, step: int, previous: str, own_hash: str
) -> None:
    engine = create_engine(getattr(database, role))
    statement = text(APPENDED.format(step=step, previous=previous, hash=own_hash))
    with (
        engine.connect() as connection,
        pytest.raises(IntegrityError, match=r"does not follow|pk_event"),
    ):
        connection.execute(statement)
    engine.dispose()


def test_an_entry_that_follows_moves_the_head_of_its_run_alone(database: Database) -> None:
    engine = create_engine(database.app_url)
    heads = text("SELECT number, head_sequence, head_hash FROM run ORDER BY number")
    with engine.connect() as connection:
        before = connection.execute(heads).all()
        connection.execute(text(APPENDED.format(step=1, previous="r.head_hash", hash=FOLLOWS)))
        after = connection.execute(heads).all()
    engine.dispose()
    assert before[:-1] == after[:-1]
    assert (after[-1][1], after[-1][2]) == (
        before[-1][1] + 1,
        sha256(f"{before[-1][2]}{{}}".encode()).hexdigest(),
    )


def test_the_application_owns_nothing_and_cannot_change_the_schema(database: Database) -> None:
    engine = create_engine(database.app_url)
    with engine.connect() as connection:
        owned = connection.scalar(
            text(
                "SELECT count(*) FROM pg_class c JOIN pg_roles r ON r.oid = c.relowner"
                " WHERE r.rolname = current_user"
            )
        )
        assert owned == 0
        for statement in (
            "CREATE TABLE x (id int)",
            "DROP TABLE event",
            "ALTER TABLE event DISABLE TRIGGER ALL",
            "UPDATE revision SET document = ''",
        ):
            with (
                pytest.raises(DBAPIError, match=r"permission denied|must be owner"),
                connection.begin_nested(),
            ):
                connection.execute(text(statement))
    engine.dispose()


@pytest.mark.parametrize(
    "bend",
    [
        "UPDATE event SET canonical = replace(canonical, '450', '451') WHERE sequence = "
        "(SELECT min(sequence) FROM event"
        " WHERE canonical LIKE '%450%')",
        "UPDATE event SET step = 'x' WHERE sequence = 5",
        "DELETE FROM event WHERE sequence = 7",
        (
            "DELETE FROM event WHERE (run_id, sequence) IN (SELECT run_id, max(sequence) FROM "
            "event GROUP BY run_id)"
        ),
        "UPDATE event SET verdict = 'conflict' WHERE sequence = 9",
    ],
)
def test_verify_finds_what_a_superuser_bends(template: Database, bend: str) -> None:
    made = make_database(template.name)
    try:
        sessions = made.sessions()
        with sessions() as session:
            assert (verify_all(session).runs, verify_all(session).breaks) == (3, [])
        engine = create_engine(made.owner_url)
        with engine.begin() as connection:
            connection.execute(text("ALTER TABLE event DISABLE TRIGGER USER"))
            connection.execute(text(bend))
        engine.dispose()
        with sessions() as session:
            walked = verify_all(session)
            assert walked.runs == 3
            assert walked.breaks
        sessions.kw["bind"].dispose()
    finally:
        drop_database(made)
