"""Many devices at once on one run and on many runs: the chain stays whole and every event is kept
exactly once."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime
from typing import Any

import pytest
from sqlalchemy import create_engine, select, text

from orthotorq.services.accounts.commands import actor_of
from orthotorq.services.context import Ctx
from orthotorq.services.database import open_sessions
from orthotorq.services.running.commands import append_events
from orthotorq.services.running.start import Choices, going_on, start_run
from orthotorq.services.running.verify import verify_all
from orthotorq.store.models import Event, Person, Plan, Revision, Run
from tests.conftest import Database

DEVICES, EVENTS = 6, 12


@pytest.fixture
def sessions(database: Database):
    made = database.sessions()
    yield made
    made.kw["bind"].dispose()


def context(session: Any, login: str = "tam") -> Ctx:
    return Ctx(
        session,
        datetime.now(UTC),
        actor_of(session.scalars(select(Person).where(Person.login == login)).one()),
    )


def new_run(sessions: Any) -> Any:
    with sessions.begin() as session:
        ctx = context(session)
        cover = session.scalars(
            select(Revision).join(Plan).where(Plan.title == "Close the channel cover")
        ).one()
        for run, _ in going_on(ctx, cover.plan.joint_id):
            end = {
                **note(ctx, run.id, str(ctx.new_id()), 1),
                "kind": "abandon",
                "payload": {"reason": "another one begins"},
            }
            append_events(ctx, run.id, [end])
        return start_run(ctx, cover.id, Choices("first"))


def note(ctx: Ctx, run: Any, device: str, number: int) -> dict[str, Any]:
    return {
        "id": str(ctx.new_id()),
        "run": str(run),
        "step": "-",
        "kind": "note",
        "payload": {"text": f"{device} {number}"},
        "device": device,
        "device_sequence": number,
        "device_time": "2026-11-24T08:00:00Z",
        "lease": 1,
        "last_seen": 0,
    }


def send_all(sessions: Any, run: Any, device: str) -> list[str]:
    verdicts = []
    for number in range(1, EVENTS + 1):
        with sessions.begin() as session:
            ctx = context(session)
            event = note(ctx, run, device, number)
            verdicts += [append_events(ctx, run, [event])[0][0].verdict]
        with sessions.begin() as session:
            verdicts += [append_events(context(session), run, [event])[0][0].verdict]
    return verdicts


def test_devices_at_once_keep_one_whole_chain(sessions) -> None:
    run = new_run(sessions)
    with ThreadPoolExecutor(DEVICES) as pool:
        found = list(pool.map(lambda n: send_all(sessions, run, f"d{n}"), range(DEVICES)))
    assert found == [["accepted", "duplicate"] * EVENTS] * DEVICES
    with sessions() as session:
        events = session.scalars(
            select(Event).where(Event.run_id == run).order_by(Event.sequence)
        ).all()
        assert [e.sequence for e in events] == list(range(1, DEVICES * EVENTS + 2))
        for device in {e.device for e in events} - {"server"}:
            assert [e.device_sequence for e in events if e.device == device] == list(
                range(1, EVENTS + 1)
            )
        assert verify_all(session).breaks == []


def test_one_step_answered_by_two_at_once_is_accepted_once(sessions) -> None:
    run = new_run(sessions)

    def answer(_: int) -> str:
        number: int | None = 1
        while True:
            with sessions.begin() as session:
                ctx = context(session)
                event = {
                    **note(ctx, run, "first", number or 1),
                    "step": "-/safe/pressure/-/-",
                    "kind": "answer",
                    "payload": {"answer": "done"},
                }
                said = append_events(ctx, run, [event])[0][0]
            if said.verdict != "gap":
                return said.verdict
            number = said.missing

    with ThreadPoolExecutor(4) as pool:
        verdicts = sorted(pool.map(answer, range(4)))
    assert verdicts == ["accepted", "conflict", "conflict", "conflict"]


def test_an_exception_keeps_nothing(sessions) -> None:
    run = new_run(sessions)
    with sessions() as session:
        before = len(session.scalars(select(Event).where(Event.run_id == run)).all())

    def append_and_fail() -> None:
        with sessions.begin() as session:
            ctx = context(session)
            append_events(ctx, run, [note(ctx, run, "x", 1)])
            raise RuntimeError("after appending, before the commit")

    with pytest.raises(RuntimeError, match="before the commit"):
        append_and_fail()
    with sessions() as session:
        assert len(session.scalars(select(Event).where(Event.run_id == run)).all()) == before


def test_statements_end_after_their_time(database: Database) -> None:
    made = open_sessions(database.app_url, 150)
    with made() as session:
        assert session.scalar(text("SHOW statement_timeout")) == "150ms"
        assert session.scalar(text("SHOW timezone")) == "UTC"
        with pytest.raises(Exception, match="statement timeout"):
            session.execute(text("SELECT pg_sleep(5)"))
    made.kw["bind"].dispose()


def test_a_number_that_a_crash_gave_back_is_passed_over(sessions, database: Database) -> None:
    first = new_run(sessions)
    with sessions.begin() as session:
        taken = session.get_one(Run, first).number
    owner = create_engine(database.owner_url)
    with owner.begin() as connection:
        connection.execute(text("SELECT setval('run_number', :to)"), {"to": taken - 2})
    owner.dispose()
    second = new_run(sessions)
    with sessions.begin() as session:
        assert session.get_one(Run, second).number > taken
