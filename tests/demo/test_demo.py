"""The demo: people, plans without stops, each with a judgement call that a finding shows, finished
runs with readings."""

from __future__ import annotations

import json
from datetime import UTC, datetime

import pytest
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from orthotorq.core.forms.result import Result
from orthotorq.core.planning.compute import compute
from orthotorq.core.running import record_of
from orthotorq.demo.load import EQUIPMENT, PEOPLE, plan_document
from orthotorq.demo.runs import finish_run
from orthotorq.services.accounts.queries import actor_by_login
from orthotorq.services.context import Ctx
from orthotorq.services.running.chain import facts_of
from orthotorq.services.running.queries import read_record
from orthotorq.services.running.verify import verify_run
from orthotorq.store.models import Person, Plan, Reading, Revision, Run

PLANS = [joint[3] for machine in EQUIPMENT for joint in machine[3] if joint[3]]


def test_one_person_a_role() -> None:
    assert sorted(role for _, _, roles in PEOPLE for role in roles) == [
        "administrator",
        "fitter",
        "planner",
        "supervisor",
    ]


@pytest.mark.parametrize("name", PLANS)
def test_every_plan_computes_without_a_stop_and_with_something_to_judge(name: str) -> None:
    findings = compute(plan_document(name)).findings
    assert not [f for f in findings if f.severity == "stop"]
    assert [f for f in findings if f.severity == "caution"]


@pytest.mark.parametrize("name", PLANS)
def test_every_plan_is_canonical_in_the_database(session: Session, name: str) -> None:
    document = plan_document(name)
    revision = session.scalars(
        select(Revision).join(Plan).where(Plan.title == document["title"])
    ).one()
    assert json.loads(revision.document) == document
    stored = Result.model_validate_json(revision.result)
    assert stored == compute(document)
    assert stored.plan_hash == revision.plan_hash


def test_the_cover_and_the_wheel_are_those_of_the_scenario() -> None:
    cover = compute(plan_document("evaporator-cover"))
    wheel = compute(plan_document("trolley-wheel"))
    assert (len(cover.groups[0].places), cover.groups[0].thread.designation) == (16, "M24")
    assert (
        len(wheel.groups[0].places),
        wheel.groups[0].thread.designation,
        len(wheel.positions),
    ) == (6, "M18x1.5", 2)
    passes = next(s.passes for s in cover.stages if s.id == "close")
    assert [(p.percent, p.order_kind) for p in passes] == [
        (None, "cross"),
        (35, "cross"),
        (70, "cross"),
        (100, "cross"),
        (100, "circle"),
    ]
    assert passes[-1].check


def test_each_joint_has_one_finished_run_with_readings(session: Session) -> None:
    runs = session.scalars(select(Run)).all()
    assert [r.status for r in runs] == ["closed", "closed", "closed"]
    for run in runs:
        count = session.scalar(
            select(func.count())
            .select_from(Reading)
            .where(Reading.run_id == run.id, Reading.quantity.in_(("torque", "length")))
        )
        assert count and count >= 24
        result = Result.model_validate_json(session.get_one(Revision, run.revision_id).result)
        record = record_of(result, facts_of(session, run))
        assert record.status == "closed"
        assert [s.role for s in record.sign_offs] == ["fitter", "supervisor"]
        for table in record.tables:
            assert all(cell is not None for row in table.rows for cell in row.cells)


def finished(session: Session, name: str, day: int, occasion: str = "install") -> Run:
    people = {p.login: actor_by_login(session, p.login) for p in session.scalars(select(Person))}
    revision = session.scalars(
        select(Revision).join(Plan).where(Plan.title == plan_document(name)["title"])
    ).one()
    begin = datetime(2026, 11, day, 6, tzinfo=UTC)
    return session.get_one(
        Run, finish_run(session, revision.id, people["tam"], people["runa"], begin, occasion)
    )


@pytest.mark.parametrize("occasion", ["install", "recheck", "dismantle"])
@pytest.mark.parametrize("name", PLANS)
def test_every_joint_runs_to_a_signed_record_whose_chain_holds(
    session: Session, name: str, occasion: str
) -> None:
    run = finished(session, name, 12, occasion)
    revision = session.get_one(Revision, run.revision_id)
    assert run.status == "closed"
    assert verify_run(session, run) is None
    record = record_of(Result.model_validate_json(revision.result), facts_of(session, run))
    assert [s.role for s in record.sign_offs] == ["fitter", "supervisor"]
    assert not [d for d in record.deviations if not d.accepted_by]
    assert all(line.answer for line in record.lines)
    assert all(cell is not None for t in record.tables for row in t.rows for cell in row.cells)
    assert record.tables or occasion == "recheck"


def test_a_record_is_held_against_the_last_one_that_checked(session: Session) -> None:
    runa = session.scalars(select(Person).where(Person.login == "runa")).one()
    ctx = Ctx(session, datetime(2026, 11, 20, tzinfo=UTC), actor_by_login(session, runa.login))
    first, apart, again = (
        finished(session, "evaporator-cover", day, occasion)
        for day, occasion in ((12, "recheck"), (13, "dismantle"), (14, "install"))
    )
    assert read_record(ctx, apart.id).compared is None
    compared = read_record(ctx, again.id).compared
    assert compared is not None
    assert (compared.run, compared.checked_now, compared.checked_before) == (first.number, 16, 16)


def test_readings_lie_near_what_was_set(session: Session) -> None:
    rows = session.scalars(
        select(Reading).where(Reading.quantity == "torque", Reading.step.contains("/full/"))
    ).all()
    assert rows
    for row in rows:
        wanted = 450e3 if "studs" in row.step else 320e3
        assert row.value == pytest.approx(wanted, rel=0.04)


def test_passwords_are_hashed(session: Session) -> None:
    for person in session.scalars(select(Person)):
        assert person.password_hash.startswith("$argon2id$")


def test_a_run_of_the_demo_is_answered_alike_on_any_day(session: Session) -> None:
    told = []
    for day in (3, 17):
        undone = session.begin_nested()
        run = finished(session, "trolley-wheel", day, "recheck")
        told.append(
            [
                (one.step, one.kind, one.payload.get("answer"))
                for one in facts_of(session, run)
                if one.kind == "answer"
            ]
        )
        undone.rollback()
    assert told[0] == told[1] and len(told[0]) > 6
