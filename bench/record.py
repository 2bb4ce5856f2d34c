"""The record of many years: the demo's runs kept over and over as runs of their own, until a
million entries are to be walked."""

from __future__ import annotations

import os
import re
import subprocess
import sys
import time
import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from itertools import count
from types import SimpleNamespace
from typing import Any

from psycopg import Connection, connect
from psycopg.rows import dict_row
from tests.conftest import APP_ROLE, Database, drop_database, make_database, superuser_url, text_of

from orthotorq.demo.load import load
from orthotorq.services.codes import event_text, run_text
from orthotorq.services.keys import code_of
from orthotorq.services.running.chain import GENESIS, chain_hash
from orthotorq.services.schema import upgrade

from .core import Figure

ENTRIES = 1_000_000
#: runs whose photos are not kept twice
_RUNS = """SELECT * FROM run WHERE NOT EXISTS (SELECT 1 FROM event e WHERE e.run_id = run.id
  AND e.kind = 'photo')
    ORDER BY number"""
_ID = re.compile(r"[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}")
#: one torque in the middle of everything, in the text that is hashed
BEND = """UPDATE event SET canonical = replace(canonical, ' N·m', '0 N·m') WHERE (run_id,
  sequence) =
    (SELECT e.run_id, e.sequence FROM event e JOIN run ON run.id = e.run_id WHERE e.kind = 'answer'
      AND e.canonical LIKE '% N·m%'
     AND run.number > (SELECT max(number) / 2 FROM run) ORDER BY run.number, e.sequence LIMIT 1)"""
Row = dict[str, Any]


def _again(run: Row, events: list[Row], number: int) -> tuple[Row, list[Row]]:
    """A run and its chain as a run of another number: ids of its own, each hash and code computed
    for it."""
    new = {str(one): str(uuid.uuid4()) for one in (run["id"], *(event["id"] for event in events))}
    out, previous = [], GENESIS
    for event in events:
        canonical = _ID.sub(lambda found: new.get(found.group(), found.group()), event["canonical"])
        own = chain_hash(previous, canonical)
        run_id = uuid.UUID(new[str(run["id"])])
        out.append(
            {
                **event,
                "run_id": run_id,
                "id": uuid.UUID(new[str(event["id"])]),
                "canonical": canonical,
                "previous_hash": previous,
                "hash": own,
                "code": code_of(event_text(run_id, event["sequence"], own)),
            }
        )
        previous = own
    kept = {**run, "id": uuid.UUID(new[str(run["id"])]), "number": number, "head_hash": previous}
    return {**kept, "code": code_of(run_text(SimpleNamespace(**kept)))}, out


def _copy(connection: Connection[Row], table: str, rows: list[Row]) -> None:
    names = ", ".join(f'"{name}"' for name in rows[0])
    with connection.cursor() as cursor, cursor.copy(f"COPY {table} ({names}) FROM STDIN") as copy:
        for row in rows:
            copy.write_row(list(row.values()))


def _of(connection: Connection[Row], table: str, run: uuid.UUID) -> list[Row]:
    return connection.execute(
        f"SELECT * FROM {table} WHERE run_id = %s ORDER BY sequence", [run]
    ).fetchall()


def _fill(connection: Connection[Row]) -> int:
    """Keep the demo's runs again and again; returns how many entries there are then."""
    runs = connection.execute(_RUNS).fetchall()
    kept = [
        (run, _of(connection, "event", run["id"]), _of(connection, "reading", run["id"]))
        for run in runs
    ]
    entries = sum(len(events) for _, events, _ in kept)
    numbers = count(1 + max(run["number"] for run in runs))
    while entries < ENTRIES:
        made = [(*_again(run, events, next(numbers)), readings) for run, events, readings in kept]
        _copy(connection, "run", [run for run, _, _ in made])
        _copy(connection, "event", [event for _, events, _ in made for event in events])
        _copy(
            connection,
            "reading",
            [{**one, "run_id": run["id"]} for run, _, readings in made for one in readings],
        )
        entries += sum(len(events) for _, events, _ in made)
    return entries


@contextmanager
def _superuser(database: Database) -> Iterator[Connection[Row]]:
    """As who may do everything: rows come as if from another server, triggers stand aside, verify
    alone judges them."""
    address = superuser_url().set(database=database.name, drivername="postgresql")
    with connect(text_of(address), row_factory=dict_row, autocommit=True) as connection:
        connection.execute("SET session_replication_role = replica")
        yield connection


def _verify(database: Database) -> tuple[float, str]:
    """What the administrator's command takes, and what it says."""
    environment = {**os.environ, "ORTHOTORQ_DATABASE_URL": database.app_url}
    begin = time.perf_counter()
    done = subprocess.run(
        [sys.executable, "-m", "orthotorq.cli", "verify"],
        env=environment,
        text=True,
        capture_output=True,
        check=False,
    )
    return time.perf_counter() - begin, f"{done.stdout}{done.stderr}".strip().replace("\n", " ")


def measure() -> Iterator[Figure]:
    """A million entries walked, as they are and with one of them bent."""
    database = make_database()
    try:
        upgrade(database.owner_url, APP_ROLE)
        sessions = database.sessions()
        with sessions.begin() as session:
            load(session, year=True)
        sessions.kw["bind"].dispose()
        begin = time.perf_counter()
        with _superuser(database) as connection:
            entries = _fill(connection)
            connection.execute("VACUUM ANALYZE")
            yield "entries kept, each with its own hash and code", str(entries), "1 000 000"
            yield "keeping them takes", f"{time.perf_counter() - begin:.0f} s", "-"
            taken, said = _verify(database)
            yield f"verify: {said}", f"{taken:.1f} s", "under 60 s"
            connection.execute(BEND)
            taken, said = _verify(database)
            yield f"one reading bent: {said}", f"{taken:.1f} s", "named"
    finally:
        drop_database(database)
