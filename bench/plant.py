"""A large plant: joints, runs and readings filled in at three sizes, and what lists and searches
then take at the server."""

from __future__ import annotations

import statistics
import time
from collections.abc import Iterator
from datetime import UTC, datetime

from sqlalchemy import Connection, create_engine, text
from tests.browser.devices import Device
from tests.conftest import Database

from orthotorq.services.context import Ctx
from orthotorq.services.rechecking.refresh import refresh_all

from .core import Figure
from .live import demo_server
from .server import confirmations, revisions_of

#: joints at each size; ten runs a joint, fifty readings a joint, ten joints a machine
SIZES = (5_000, 10_000, 20_000)
PULLS = 50_000
#: from where on everything of a size is added to what is there
FILL = (
    """INSERT INTO equipment (id, tag, name, area, site_id)
       SELECT gen_random_uuid(), 'P-' || n, 'Pump ' || n, 'Hall ' || n % 40, (SELECT id FROM site
         ORDER BY name LIMIT 1)
       FROM generate_series(CAST(:low AS int) / 10 + 1, CAST(:high AS int) / 10) n""",
    """INSERT INTO joint (id, equipment_id, tag, name, kind, summary, condition, condition_why,
      glyph, movement,
                          condition_at, found)
       SELECT gen_random_uuid(), e.id, 'j-' || n, 'Cover ' || n || ' of ' || e.tag,
         'gasketed_cover',
              (8 + n) || ' × M' || (12 + 4 * n) || ', ' || (100 + n) || ' N·m', 'proven', '', '',
                '', now(),
              lower(concat_ws(' ', 'brine field', e.tag, e.name, e.area, 'Cover', n, (8 + n)
                || ' × M' || (12 + 4 * n)))
       FROM equipment e, generate_series(1, 10) n
       WHERE e.tag LIKE 'P-%' AND NOT EXISTS (SELECT 1 FROM joint j WHERE j.equipment_id = e.id)""",
    """INSERT INTO plan (id, joint_id, title, created_at, version, draft, draft_by, draft_at,
      put_away, unreleased)
       SELECT gen_random_uuid(), j.id, 'Close ' || j.name, now() - interval '1 year', 1, '{}',
         p.id, now() - interval '1 year',
              false, random() < 0.01
       FROM joint j, (SELECT id FROM person LIMIT 1) p
       WHERE j.tag LIKE 'j-%' AND NOT EXISTS (SELECT 1 FROM plan q WHERE q.joint_id = j.id)""",
    """INSERT INTO revision (id, plan_id, number, status, document, result, plan_hash, released_by,
      released_at, reason, taken_on)
       SELECT gen_random_uuid(), q.id, 1, 'released', '{}',
              '{"rechecks": [{"id": "r", "meter": "h", "at": [], "every": 2000,
                              "occasion": "recheck"}]}',
              md5(q.id::text), q.draft_by, q.draft_at, '', '[]'
       FROM plan q WHERE q.draft = '{}' AND NOT EXISTS (SELECT 1 FROM revision r
         WHERE r.plan_id = q.id)""",
    """INSERT INTO run (id, number, revision_id, status, started_by, started_at, lease_epoch,
      lease_device, lease_person,
                        head_sequence, head_hash, provisional, occasion, conflicts, checked, moved,
                          ended_at, outcome)
       SELECT gen_random_uuid(), nextval('run_number'), r.id, CASE WHEN random() < 0.0005
         THEN 'running' ELSE 'closed' END,
              r.released_by, now() - n * interval '30 days', 1, 'd', r.released_by, 1, repeat('0',
                64), false,
              CASE WHEN n = 10 THEN 'install' ELSE 'recheck' END, 0, 8, 0,
                now() - n * interval '30 days',
              (SELECT outcome FROM run WHERE outcome <> '' AND status = 'closed'
                ORDER BY number LIMIT 1)
       FROM revision r, generate_series(1, 10) n
       WHERE r.document = '{}' AND NOT EXISTS (SELECT 1 FROM run x WHERE x.revision_id = r.id)""",
    """INSERT INTO meter (id, equipment_id, unit, name, shown, total, at, rate_low, rate,
      rate_high, rate_words)
       SELECT gen_random_uuid(), e.id, 'h', 'h meter', 5000, 5000, now(), 9, 10, 11,
         'from 30 readings'
       FROM equipment e WHERE e.tag LIKE 'P-%' AND NOT EXISTS (SELECT 1 FROM meter m
         WHERE m.equipment_id = e.id)""",
    """INSERT INTO meter_reading (id, meter_id, at, value, how, total, source, person_id)
       SELECT gen_random_uuid(), m.id, now() - n * interval '12 hours', 5000 - 5 * n, 'reading',
         5000 - 5 * n, 'sent', p.id
       FROM meter m, generate_series(1, 500) n, (SELECT id FROM person LIMIT 1) p
       WHERE m.rate_words = 'from 30 readings' AND NOT EXISTS (SELECT 1 FROM meter_reading r
         WHERE r.meter_id = m.id)""",
    """INSERT INTO due_date (joint_id, rule, revision_id, occasion, reading, unit, day, low, high,
      grace, at_once, why)
       SELECT j.id, 'r', r.id, 'recheck', 2000, 'h', current_date + (random() * 400)::int - 10,
         current_date, current_date, 3,
              false, '2000 h after the tightening'
       FROM joint j JOIN plan q ON q.joint_id = j.id JOIN revision r ON r.plan_id = q.id
       WHERE j.tag LIKE 'j-%' AND NOT EXISTS (SELECT 1 FROM due_date d WHERE d.joint_id = j.id)""",
)
TOUCH = """INSERT INTO tool_pull (run_id, sequence, tool_id, at, run_number, revision_id, joint_id,
  "group", place, position,
                                  "torque_Nm", percent)
           SELECT r.id, 1000 + n, t.id, now() - interval '1 day', r.number, r.revision_id,
             q.joint_id, 'studs', 'studs.' || n, '',
                  250, 100
           FROM (SELECT * FROM run WHERE status = 'closed' ORDER BY number DESC LIMIT :runs) r
             JOIN revision v
                ON v.id = r.revision_id JOIN plan q ON q.id = v.plan_id, generate_series(1, 16) n,
                (SELECT id FROM tool WHERE serial = 'TW-09') t"""
#: questions whose plan must not walk through a table that grows
INDEXED = {
    "a joint's history": """SELECT run.id FROM run
        JOIN revision ON run.revision_id = revision.id JOIN plan ON revision.plan_id = plan.id
        WHERE plan.joint_id = '{joint}'""",
    "what a wrench has touched": """SELECT run_id FROM tool_pull WHERE tool_id = (SELECT id
      FROM tool WHERE serial = 'TW-01')
        AND at > now() - interval '30 days'""",
    "due by day": (
        "SELECT joint_id FROM due_date WHERE day <= current_date - 9 ORDER BY day LIMIT 30"
    ),
    "open runs": (
        "SELECT id FROM run WHERE status IN ('running', 'finished', 'signed') ORDER BY "
        "started_at DESC LIMIT 30"
    ),
    "drafts that wait": (
        "SELECT id FROM plan WHERE unreleased AND NOT put_away ORDER BY draft_at DESC LIMIT 30"
    ),
    "found by a word that few have": "SELECT id FROM joint WHERE found LIKE '%pump 1234 %' LIMIT 8",
}


def _walks(connection: Connection, statement: str) -> list[str]:
    """Tables that a plan walks through from end to end, the small ones left out."""
    plan = "\n".join(row[0] for row in connection.execute(text(f"EXPLAIN {statement}")))
    return [
        line.strip()
        for line in plan.splitlines()
        if "Seq Scan" in line and not any(f" on {small}" in line for small in ("tool", "person"))
    ]


def _median(device: Device, path: str) -> float:
    taken = []
    for _ in range(9):
        begin = time.perf_counter()
        device.ask(path)
        taken.append((time.perf_counter() - begin) * 1e3)
    return statistics.median(taken)


def _asked(database: Database, device: Device) -> dict[str, tuple[str, str]]:
    """What is asked -> (address, wanted)."""
    engine = create_engine(database.app_url)
    with engine.connect() as connection:
        joint = connection.scalar(
            text("SELECT id FROM joint WHERE tag = 'j-7' ORDER BY id LIMIT 1")
        )
        tool = connection.scalar(text("SELECT id FROM tool WHERE serial = 'TW-09'"))
    engine.dispose()
    return {
        "Shift": ("/shift", "100 ms"),
        "Equipment, first page": ("/equipment", "100 ms"),
        "Equipment, found": ("/equipment?find=hall+17+cover", "100 ms"),
        "Runs": ("/runs?limit=30", "100 ms"),
        "due dates": ("/due-dates?limit=200", "100 ms"),
        "Tools": ("/tools", "100 ms"),
        "search": ("/search?find=cover+pump+119", "100 ms"),
        "search, nothing found": ("/search?find=zzz", "100 ms"),
        "one joint": (f"/joints/{joint}", "-"),
        "one joint's history": (f"/joints/{joint}/history", "20 ms"),
        f"touched, {PULLS} pulls": (f"/tools/{tool}/touched", "300 ms"),
    }


def measure() -> Iterator[Figure]:
    """Figures of a large plant."""
    with demo_server() as (server, database):
        engine = create_engine(database.owner_url, isolation_level="AUTOCOMMIT")
        device = Device(server.address, "desk", "mira")
        revisions = revisions_of(database)
        taken: dict[str, list[float]] = {}
        wanted: dict[str, str] = {}
        filled, low = 0.0, 0
        for size in SIZES:
            begin = time.perf_counter()
            with engine.connect() as connection:
                for statement in FILL:
                    connection.execute(text(statement), {"low": low, "high": size})
                if size == SIZES[-1]:
                    connection.execute(text(TOUCH), {"runs": PULLS // 16})
                connection.execute(text("VACUUM ANALYZE"))
            filled, low = filled + time.perf_counter() - begin, size
            for name, (path, goal) in _asked(database, device).items():
                taken.setdefault(name, []).append(_median(device, path))
                wanted[name] = goal
        with engine.connect() as connection:
            counts = [
                connection.scalar(text(f"SELECT count(*) FROM {table}"))
                for table in ("joint", "run", "meter_reading")
            ]
            joint = connection.scalar(text("SELECT id FROM joint WHERE tag = 'j-3' LIMIT 1"))
            walks = {
                name: _walks(connection, statement.format(joint=joint))
                for name, statement in INDEXED.items()
            }
        engine.dispose()
        begin = time.perf_counter()
        anew = refresh_all(database.sessions(), lambda session: Ctx(session, datetime.now(UTC)))
        anew_s = time.perf_counter() - begin
        confirmed = list(confirmations(server, revisions, "there: "))
    yield (
        "filled: joints, runs, readings",
        " / ".join(f"{n}" for n in counts),
        "20 000, 200 000, 1 000 000",
    )
    yield f"condition and due dates of {anew} joints anew", f"{anew_s:.0f} s", "under 180 s"
    yield "filling takes", f"{filled:.0f} s", "under 180 s"
    for name, figures in taken.items():
        yield (
            f"{name} at {' / '.join(map(str, SIZES))} joints",
            " / ".join(f"{f:.0f}" for f in figures) + " ms",
            wanted[name],
        )
    yield from confirmed
    for name, found in walks.items():
        yield (
            f"{name}: tables walked through from end to end",
            str(len(found)) if found else "none",
            "none",
        )
