"""A database of an earlier time, with its demo, brought up to today: all of it is there, is proved,
and is worked on."""

from __future__ import annotations

import lzma
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import psycopg
import pytest
from sqlalchemy import text

from orthotorq.services.context import Ctx
from orthotorq.services.running.seal import compare_seal, make_seal
from orthotorq.services.running.verify import verify_all
from orthotorq.services.schema import downgrade, upgrade
from orthotorq.web import create_app
from orthotorq.web.database import sessions as sessions_of
from tests.api.conftest import Client
from tests.conftest import APP_ROLE, NOW, Database, drop_database, make_database
from tests.services.test_proof import bend, missed, walk

#: the demo as version 0002 of the schema kept it, written by pg_dump; its people had the same
#: password
KEPT = Path(__file__).parent / "data" / "demo-of-0002.sql.xz"
COUNTED = (
    "equipment",
    "joint",
    "plan",
    "revision",
    "run",
    "event",
    "reading",
    "person",
    "tool",
    "photo",
    "own_entry",
)


def counts(database: Database) -> dict[str, int]:
    sessions = database.sessions()
    with sessions() as session:
        found = {
            name: session.scalar(text(f"SELECT count(*) FROM {name}")) or 0 for name in COUNTED
        }
    sessions.kw["bind"].dispose()
    return found


@pytest.fixture(scope="module")
def then() -> Iterator[tuple[Database, dict[str, int]]]:
    """The old database, brought up to today; and what was in it."""
    made = make_database()
    with psycopg.connect(made.owner_url.replace("+psycopg", ""), autocommit=True) as connection:
        connection.execute(lzma.decompress(KEPT.read_bytes()))  # type: ignore[arg-type]
    before = counts(made)
    upgrade(made.owner_url, APP_ROLE)
    yield made, before
    drop_database(made)


@pytest.fixture(scope="module")
def app(then: tuple[Database, dict[str, int]]) -> Iterator[Any]:
    with pytest.MonkeyPatch.context() as patch:
        patch.setenv("ORTHOTORQ_DATABASE_URL", then[0].app_url)
        made = create_app()
        yield made
        sessions_of(made).kw["bind"].dispose()


def test_all_of_it_is_there_and_the_chains_hold(then: tuple[Database, dict[str, int]]) -> None:
    database, before = then
    assert before["event"] > 100 and before["revision"] > 10
    assert counts(database) == before
    found = walk(database)
    # of a time before there were codes: counted, and said
    assert (found.runs, found.breaks, found.uncoded) == (before["run"], [], before["event"])


def test_every_screen_has_its_answer(then: tuple[Database, dict[str, int]], app: Any) -> None:
    chief = Client(app.test_client(), "runa")
    machines = chief.get("/api/v1/equipment").json["items"]
    joints = [joint for machine in machines for joint in machine["joints"]]
    assert len(joints) == then[1]["joint"]
    for joint in joints:
        for address in (f"joints/{joint['id']}", f"joints/{joint['id']}/history"):
            assert chief.get(f"/api/v1/{address}").status_code == 200, address
        for plan in joint["plans"]:
            assert chief.get(f"/api/v1/plans/{plan['id']}/draft").status_code == 200
            if plan["revision_id"]:
                assert chief.get(f"/api/v1/revisions/{plan['revision_id']}").status_code == 200
                # what to bring stands there, as today
                ready = chief.get(f"/api/v1/revisions/{plan['revision_id']}/start")
                assert ready.status_code == 200 and ready.json["kit"], ready.text[:200]
    assert chief.get(f"/api/v1/revisions/{plan['revision_id']}/sheet.pdf").status_code == 200
    for run in chief.get("/api/v1/runs").json["items"]:
        for kind in ("record", "record.pdf", "record.json", "record.csv", "record.xlsx"):
            answer = chief.get(f"/api/v1/runs/{run['id']}/{kind}")
            assert answer.status_code == 200, (kind, answer.text[:200])
    for address in (
        "shift",
        "tools",
        "due-dates",
        "lessons",
        "tables",
        "search?find=pump",
        "shift.pdf",
    ):
        assert chief.get(f"/api/v1/{address}").status_code == 200, address


def test_it_is_worked_on_sealed_and_what_is_written_from_now_on_has_codes(
    then: tuple[Database, dict[str, int]], app: Any
) -> None:
    database = then[0]
    tam = Client(app.test_client(), "tam")
    plan = next(
        plan["revision_id"]
        for machine in tam.get("/api/v1/equipment").json["items"]
        for joint in machine["joints"]
        for plan in joint["plans"]
        if joint["name"] == "Bellows clamp"
    )
    begun = tam.post("/api/v1/runs", {"revision": plan, "device": "t"})
    assert begun.status_code == 201, begun.text
    run = begun.json["id"]
    step = tam.get(f"/api/v1/runs/{run}").json["state"]["instruction"]
    sent = {
        "id": "01a20bd3-3300-7001-88dd-2607edae5d49",
        "run": run,
        "step": step["step"],
        "kind": "answer",
        "payload": {"answer": step["buttons"][0]["answer"]},
        "device": "t",
        "device_sequence": 1,
        "device_time": "2026-11-24T08:00:00Z",
        "lease": 1,
        "last_seen": 1,
    }
    said = tam.post(
        f"/api/v1/runs/{run}/events", {"sent_at": "2026-11-24T08:00:00Z", "events": [sent]}
    ).json["answers"][0]
    assert said["verdict"] == "accepted", said
    found = walk(database)
    assert (found.breaks, found.entries - found.uncoded) == ([], 2)
    sessions = database.sessions()
    with sessions.begin() as session:
        _, seal = make_seal(Ctx(session, NOW))
    with sessions() as session:
        assert compare_seal(session, seal)[1] == [] and verify_all(session).breaks == []
    sessions.kw["bind"].dispose()
    # an old revision has no code, and is not taken for one that was written past the application;
    # the seal holds it
    bend(
        database,
        "UPDATE revision SET result = replace(result, '1', '2') "
        "WHERE id = (SELECT id FROM revision ORDER BY id LIMIT 1)",
    )
    assert walk(database).breaks == [] and missed(database, seal)


def test_back_to_the_old_schema_and_up_again_nothing_of_then_is_lost(
    then: tuple[Database, dict[str, int]],
) -> None:
    database, _ = then
    before = counts(database)
    downgrade(database.owner_url, APP_ROLE, "0002")
    assert counts(database) == before
    upgrade(database.owner_url, APP_ROLE)
    assert counts(database) == before and walk(database).breaks == []
