"""What the screens read: equipment, joints, runs by page, drafts, revisions, records."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta
from typing import Any

import pytest
from sqlalchemy import select
from sqlalchemy.orm import Session

from orthotorq.services.accounts.commands import actor_of, open_session
from orthotorq.services.accounts.queries import find_actor, session_info, sign_out
from orthotorq.services.context import Ctx
from orthotorq.services.errors import NotFound, Refused
from orthotorq.services.planning.bench import answer_sum, explain_figure
from orthotorq.services.planning.queries import read_draft, read_revision
from orthotorq.services.registers.queries import joint_detail, list_equipment
from orthotorq.services.running.commands import take_lease
from orthotorq.services.running.imported_records import record_file
from orthotorq.services.running.queries import list_runs, read_record, read_run
from orthotorq.services.running.start import Choices, start_run
from orthotorq.store.models import Person, Plan, Revision, Tool
from tests.conftest import NOW
from tests.plans import cover


@pytest.fixture
def ctx(session: Session) -> Ctx:
    person = session.scalars(select(Person).where(Person.login == "tam")).one()
    return Ctx(session, NOW, actor_of(person))


def test_equipment_with_glyphs_and_summaries(ctx: Ctx) -> None:
    joints = {j.name: j for e in list_equipment(ctx) for j in e.joints}
    cover_joint = joints["Channel cover"]
    assert cover_joint.summary == "16 × M24, 450 N·m"
    assert cover_joint.glyph is not None
    assert len(cover_joint.glyph.places) == 16
    assert joints["Trolley wheel"].summary.endswith("2 positions")
    assert (joints["Press frame foot"].glyph, joints["Press frame foot"].plans) == (None, [])


def test_a_joint_lists_its_plans_and_latest_runs(ctx: Ctx) -> None:
    joint = next(j for e in list_equipment(ctx) for j in e.joints if j.name == "Channel cover")
    seen = joint_detail(ctx, joint.id)
    assert seen.plans[0].revision_number == 1
    assert [r.status for r in seen.runs] == ["closed"]
    with pytest.raises(NotFound):
        joint_detail(ctx, ctx.new_id())


def test_runs_come_by_pages_newest_first(ctx: Ctx) -> None:
    revision = ctx.session.scalars(select(Revision)).first()
    assert revision is not None
    for _ in range(5):
        start_run(ctx, revision.id, Choices("t"))
    pages: list[list[int]] = []
    before: int | None = None
    while page := list_runs(ctx, before, 3):
        pages.append([r.number for r in page])
        before = page[-1].number
    numbers = [n for page in pages for n in page]
    assert numbers == sorted(numbers, reverse=True)
    assert len(set(numbers)) == len(numbers) >= 7
    assert all(len(page) == 3 for page in pages[:-1])


def test_a_run_begins_with_what_it_was_started_from(ctx: Ctx) -> None:
    plan = ctx.session.scalars(select(Plan).where(Plan.title == "Close the channel cover")).one()
    # it is overdue: a supervisor lets it be used for now
    tool = ctx.session.scalars(select(Tool).where(Tool.serial == "TW-08")).one()
    with pytest.raises(Refused, match=r"TW-08 is blocked: overdue since"):
        start_run(ctx, plan.revisions[-1].id, Choices("t", tools=(("w", "TW-08"),)))
    tool.allowed_until = ctx.now + timedelta(hours=8)
    run = start_run(ctx, plan.revisions[-1].id, Choices("t", tools=(("w", "TW-08"),)))
    first = record_file(ctx, run).events[0].model_dump()
    assert first["kind"] == "start"
    assert first["payload"]["plan_hash"] == plan.revisions[-1].plan_hash
    # TW-08 is marked in steps of 5 N·m: 30 % of 450 N·m is set to 135, where the plan's wrench has
    # 136
    assert first["payload"]["bound_settings"]["close/first/studs"][0]["text"] == "160 N·m"
    assert first["payload"]["tools"][0]["expired"] is True
    assert read_run(ctx, run).state.deviations[0].code == "tool_expired"
    assert read_run(ctx, run).lease_epoch == 1
    assert take_lease(ctx, run, "t") == 1


def test_draft_revision_and_record_name_their_place(ctx: Ctx) -> None:
    plan = ctx.session.scalars(select(Plan).where(Plan.title == "Close the channel cover")).one()
    draft = read_draft(ctx, plan.id)
    assert (draft.equipment_name, draft.joint_name, draft.saved_by, draft.revision_number) == (
        "Evaporator 2",
        "Channel cover",
        "Mira Oslund",
        1,
    )
    revision = read_revision(ctx, plan.revisions[-1].id)
    assert (revision.number, revision.released_by, revision.status) == (
        1,
        "Mira Oslund",
        "released",
    )
    assert revision.result.groups[0].target.set_torque_Nm == 450
    closed = next(r for r in list_runs(ctx, None, 50) if r.status == "closed")
    record = read_record(ctx, closed.id)
    assert record.record.people == ["Runa Tesk", "Tam Hollis"]
    assert record.events > 40


@pytest.mark.parametrize("call", [read_draft, read_revision, read_run, read_record])
def test_what_is_not_there_is_not_found(ctx: Ctx, call: Any) -> None:
    with pytest.raises(NotFound):
        call(ctx, ctx.new_id())


def test_sums_and_workings_need_no_plan_in_the_database(ctx: Ctx) -> None:
    assert answer_sum(ctx, "units", {"first": "1 in"}).figures["mm"] == 25.4
    assert explain_figure(ctx, cover(), "studs/preload").steps
    with pytest.raises(NotFound):
        answer_sum(ctx, "nothing", {})


def test_who_is_signed_in(ctx: Ctx) -> None:
    assert ctx.actor is not None
    here = session_info(ctx, False)
    assert (here.actor, here.demo, here.locked) == (ctx.actor, [], None)
    assert [p.login for p in session_info(ctx, True).demo] == ["jory", "mira", "runa", "tam"]
    session = open_session(ctx, ctx.actor, "a browser")
    ctx.session.flush()
    assert find_actor(ctx.session, session, ctx.now) == ctx.actor
    assert find_actor(ctx.session, ctx.new_id(), ctx.now) is None
    # used every few hours it lasts a week, and not a day longer; a night without use ends it
    for hours in range(10, 24 * 7, 10):
        assert find_actor(ctx.session, session, ctx.now + timedelta(hours=hours)) == ctx.actor
    assert find_actor(ctx.session, session, ctx.now + timedelta(days=7, hours=1)) is None
    other = open_session(ctx, ctx.actor, "another")
    ctx.session.flush()
    assert find_actor(ctx.session, other, ctx.now + timedelta(hours=15)) is None
    sign_out(replace(ctx, sign_in=other))
    assert find_actor(ctx.session, other, ctx.now) is None
