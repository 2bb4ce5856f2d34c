"""The tool room: registered, checked, failed, followed to the bolts, used all the same, and never
by mistake."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pytest
from sqlalchemy import select, text
from sqlalchemy.orm import Session

from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.demo.runs import finish_run
from orthotorq.services.accounts.commands import actor_of
from orthotorq.services.context import Ctx
from orthotorq.services.errors import BadField, Forbidden, NotFound, Refused
from orthotorq.services.running.prepare import prepare_run
from orthotorq.services.running.start import Choices, start_run
from orthotorq.services.toolroom.calibration_impact import recheck_touched, touched
from orthotorq.services.toolroom.checks import CheckAsTyped, PointAsTyped, check_tool, tool_detail
from orthotorq.services.toolroom.corrected import read_tester, use_with_error
from orthotorq.services.toolroom.tools import (
    ToolAsTyped,
    allow_tool,
    block_tool,
    change_tool,
    list_tools,
    register_tool,
)
from orthotorq.store.models import DueDate, Person, Plan, Revision, Tool
from tests.conftest import NOW

SHEET: dict[str, Any] = {
    "kind": "click wrench",
    "range": ["20 N·m", "200 N·m"],
    "increment": "1 N·m",
    "drive": "1/2 in",
}
PUMP = "Set the studs of the brine pump casing"
GOOD = (
    ("40 N·m", "39.8; 40.1; 39.9"),
    ("120 N·m", "119; 120.5; 119.4"),
    ("200 N·m", "199; 200.4; 198.6"),
)
BAD = (
    ("40 N·m", "35.4; 35.9; 35.1"),
    ("120 N·m", "107.6; 108.3; 107.1"),
    ("200 N·m", "180.1; 181.4; 179.6"),
)


def ctx(session: Session, login: str = "runa", later: timedelta = timedelta(0)) -> Ctx:
    person = session.scalars(select(Person).where(Person.login == login)).one()
    return Ctx(session, NOW + later, actor_of(person))


def tool_of(session: Session, serial: str) -> Tool:
    return session.scalars(select(Tool).where(Tool.serial == serial)).one()


def check(*points: tuple[str, str], against: str = "TT-1", **more: str) -> CheckAsTyped:
    return CheckAsTyped(
        [PointAsTyped(setting, readings) for setting, readings in points], against, **more
    )


def pump(session: Session) -> Revision:
    return session.scalars(select(Revision).join(Plan).where(Plan.title == PUMP)).one()


@pytest.mark.parametrize(
    ("typed", "field"),
    [
        (ToolAsTyped("", "wrench", SHEET), "serial"),
        (ToolAsTyped("TW-01", "wrench", SHEET), "serial"),
        (ToolAsTyped("N-1", "hammer", SHEET), "sort"),
        (ToolAsTyped("N-1", "wrench", {**SHEET, "range": ["20 N·m"]}), "spec/range"),
        (ToolAsTyped("N-1", "wrench", {**SHEET, "range": ["200 N·m", "20 N·m"]}), "spec/range"),
        (ToolAsTyped("N-1", "wrench", SHEET, held_to="III Z"), "held_to"),
        (ToolAsTyped("N-1", "wrench", SHEET, place="a\nb"), "place"),
        (ToolAsTyped("N-1", "wrench", SHEET, interval_months=-1), "interval_months"),
        (ToolAsTyped("N-1", "tester", {"range": ["5 N·m", "50 N·m"]}), "spec/uncertainty"),
    ],
)
def test_a_tool_that_cannot_be_is_refused_at_its_field(
    session: Session, typed: ToolAsTyped, field: str
) -> None:
    with pytest.raises(DocumentErrors) as caught, session.begin_nested():
        register_tool(ctx(session), typed)
    assert field in [error.pointer() for error in caught.value.errors]


def test_a_tool_is_registered_put_right_and_keeps_its_sort(session: Session) -> None:
    made = register_tool(
        ctx(session), ToolAsTyped("N-1", "wrench", SHEET, "Store", "the works", True, "3 %")
    )
    seen = next(one for one in list_tools(ctx(session)) if one.serial == "N-1")
    assert (seen.place, seen.owner, seen.borrowed, seen.good, seen.state) == (
        "Store",
        "the works",
        True,
        False,
        "no calibration on record",
    )
    change_tool(ctx(session), made, ToolAsTyped("N-2", "wrench", SHEET))
    assert tool_detail(ctx(session), made).tool.serial == "N-2"
    with pytest.raises(BadField, match="registered as a wrench"):
        change_tool(ctx(session), made, ToolAsTyped("N-2", "gauge", {"measures": "gaps"}))
    with pytest.raises(NotFound):
        tool_detail(ctx(session), ctx(session).new_id())


def test_a_check_in_full_that_passes_begins_the_interval_and_the_count_anew(
    session: Session,
) -> None:
    finish_run(
        session,
        pump(session).id,
        ctx(session, "tam").person,
        ctx(session).person,
        NOW - timedelta(hours=6),
    )
    tool = tool_of(session, "TW-05")
    assert tool.pulls > 10
    detail = tool_detail(ctx(session), tool.id)
    assert detail.check_at == ["40 N·m", "120 N·m", "200 N·m"]
    assert detail.limit_words == "every reading within ±4 %"
    made = check_tool(ctx(session), tool.id, check(*GOOD, certificate="K-1"))
    assert made.verdict == "pass"
    assert made.until.date() >= (NOW + timedelta(days=360)).date()
    assert made.uncertainty == pytest.approx(0.005)  # of the tester on the register
    session.refresh(tool)
    assert tool.pulls == 0


def test_a_check_of_one_setting_begins_no_interval(session: Session) -> None:
    tool = tool_of(session, "TW-05")
    before = tool.calibrations[-1].until
    made = check_tool(ctx(session), tool.id, check(GOOD[1]))
    assert (made.verdict, made.until) == ("pass", before)


@pytest.mark.parametrize(
    ("typed", "field"),
    [
        (check(), "points"),
        (check(("240 N·m", "239")), "points/0/setting"),
        (check(("12 N·m", "12")), "points/0/setting"),
        (check(("120", "119")), "points/0/setting"),
        (check(("120 N·m", "")), "points/0/readings"),
        (check(("120 N·m", "119; soon")), "points/0/readings"),
        (check(GOOD[0], against=""), "reference"),
        (check(GOOD[0], against="another wrench"), "uncertainty"),
        (check(GOOD[0], against="TT-1", uncertainty="very"), "uncertainty"),
    ],
)
def test_a_check_that_cannot_be_is_refused_and_nothing_is_kept(
    session: Session, typed: CheckAsTyped, field: str
) -> None:
    tool = tool_of(session, "TW-05")
    count = len(tool.calibrations)
    with pytest.raises(DocumentErrors) as caught:
        check_tool(ctx(session), tool.id, typed)
    assert field in [error.pointer() for error in caught.value.errors]
    assert len(tool.calibrations) == count and not tool.blocked


def test_what_the_reference_could_turn_is_not_decided_and_changes_nothing(session: Session) -> None:
    tool = tool_of(session, "TW-05")
    before = next(one for one in list_tools(ctx(session)) if one.serial == "TW-05")
    made = check_tool(
        ctx(session),
        tool.id,
        check(("200 N·m", "192.5; 193; 192.4"), against="old wrench", uncertainty="1 %"),
    )
    assert made.verdict == "undecided"
    after = next(one for one in list_tools(ctx(session)) if one.serial == "TW-05")
    assert (after.good, after.calibrated_until) == (before.good, before.calibrated_until)


def failed(session: Session) -> Tool:
    """The wrench of the pump casing, found wrong after it was used there."""
    finish_run(
        session,
        pump(session).id,
        ctx(session, "tam").person,
        ctx(session).person,
        NOW - timedelta(hours=6),
    )
    tool = tool_of(session, "TW-05")
    assert check_tool(ctx(session), tool.id, check(*BAD)).verdict == "fail"
    return tool


def test_a_wrench_that_fails_is_blocked_and_followed_to_its_bolts(session: Session) -> None:
    tool = failed(session)
    with pytest.raises(Refused, match="failed its check"):
        start_run(ctx(session, "tam"), pump(session).id, Choices("d", tools=(("w", "TW-05"),)))
    view = touched(ctx(session), tool.id)
    assert view.error == pytest.approx(0.117, abs=0.003)
    assert "got 10.5% less" in view.error_words.replace(" %", "%")
    worst = view.lines[0]
    assert worst.verdict in ("edge", "outside")
    assert worst.joint_name == "Pump casing" and len(worst.bolts) == 12
    assert worst.planned_N is not None and worst.was_N is not None
    assert worst.was_N[1] == pytest.approx(worst.planned_N[1] / (1 + view.error))
    assert recheck_touched(ctx(session), tool.id) == view.needed == 1
    due = session.scalars(select(DueDate).where(DueDate.rule == "tool:TW-05")).one()
    assert due.at_once and "12 bolts" in due.why
    with pytest.raises(BadField, match="not asked for already"):
        recheck_touched(ctx(session), tool.id)
    # rechecked: it is asked for no longer
    finish_run(
        session,
        pump(session).id,
        ctx(session, "tam").person,
        ctx(session).person,
        NOW + timedelta(hours=1),
        "recheck",
        tools=(),
    )
    assert session.scalars(select(DueDate).where(DueDate.rule == "tool:TW-05")).all() == []


def test_a_supervisor_lets_a_blocked_wrench_be_used_and_the_run_says_so(session: Session) -> None:
    tool = failed(session)
    for hours, reason in ((0, "no other here"), (999, "no other here"), (8, "")):
        with pytest.raises(BadField):
            allow_tool(ctx(session), tool.id, hours, reason)
    with pytest.raises(Forbidden):
        allow_tool(ctx(session, "tam"), tool.id, 8, "no other here")
    allow_tool(ctx(session), tool.id, 8, "no other here until tomorrow")
    offers = [o for t in prepare_run(ctx(session, "tam"), pump(session).id).tools for o in t.offers]
    assert any(
        o.serial == "TW-05" and not o.good and "let be used by Runa Tesk" in o.state for o in offers
    )
    assert start_run(ctx(session, "tam"), pump(session).id, Choices("d", tools=(("w", "TW-05"),)))
    with pytest.raises(Refused):
        start_run(
            ctx(session, "tam", timedelta(hours=9)),
            pump(session).id,
            Choices("e", tools=(("w", "TW-05"),)),
        )


def test_a_wrench_is_used_with_the_error_found_and_its_settings_follow(session: Session) -> None:
    tool = tool_of(session, "TW-05")
    with pytest.raises(BadField, match="last check failed"):
        use_with_error(ctx(session), tool.id, "no other here")
    tool = failed(session)
    assert tool_detail(ctx(session), tool.id).may_correct
    use_with_error(ctx(session), tool.id, "no other of this size")
    seen = next(one for one in list_tools(ctx(session)) if one.serial == "TW-05")
    assert seen.good and "settings are corrected" in seen.corrected_text
    run = start_run(ctx(session, "tam"), pump(session).id, Choices("d", tools=(("w", "TW-05"),)))
    bound = session.scalar(
        text("SELECT canonical FROM event WHERE run_id = :run AND kind = 'start'"),
        {"run": str(run)},
    )
    assert bound is not None and "reads 11.7 % high" in bound


def test_a_dropped_wrench_is_blocked_with_the_reason_and_let_go_again(session: Session) -> None:
    tool = tool_of(session, "TW-03")
    with pytest.raises(BadField, match="Enter the reason"):
        block_tool(ctx(session, "tam"), tool.id, True, "")
    block_tool(ctx(session, "tam"), tool.id, True, "fell off the ladder")
    seen = next(one for one in list_tools(ctx(session)) if one.serial == "TW-03")
    assert not seen.good and "fell off the ladder (Tam Hollis" in seen.state
    block_tool(ctx(session), tool.id, False, "checked by the maker")
    assert next(one for one in list_tools(ctx(session)) if one.serial == "TW-03").good


def test_the_simulated_tester_is_read_and_a_good_wrench_passes_on_it(session: Session) -> None:
    tool = tool_of(session, "TW-05")
    points = [
        (setting, read_tester(ctx(session), tool.id, setting))
        for setting in ("40 N·m", "120 N·m", "200 N·m")
    ]
    assert (
        check_tool(
            ctx(session), tool.id, check(*points, against="another", uncertainty="0")
        ).verdict
        == "pass"
    )
    with pytest.raises(DocumentErrors):
        read_tester(ctx(session), tool.id, "soon")


def test_only_a_wrench_is_checked_by_readings(session: Session) -> None:
    with pytest.raises(BadField, match="Only a wrench"):
        check_tool(ctx(session), tool_of(session, "TT-1").id, check(*GOOD))


def test_a_wrench_is_due_after_its_pulls_too(session: Session) -> None:
    finish_run(
        session,
        pump(session).id,
        ctx(session, "tam").person,
        ctx(session).person,
        NOW - timedelta(hours=6),
    )
    tool = tool_of(session, "TW-05")
    tool.interval_pulls = tool.pulls
    session.flush()
    seen = next(one for one in list_tools(ctx(session)) if one.serial == "TW-05")
    assert not seen.good and "pulls since its last check" in seen.state
