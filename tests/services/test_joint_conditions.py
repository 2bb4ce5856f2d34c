"""The condition of a joint as it is kept: played through runs, reports and acceptances, with what
is due and printed."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta
from typing import Any

import pytest
from sqlalchemy import select
from sqlalchemy.orm import Session

from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.forms.run import Instruction
from orthotorq.core.joint_condition import ENTRY_TITLES
from orthotorq.services.errors import BadField, NeedsConfirmation, NotFound, Refused
from orthotorq.services.rechecking.acts import note_not_safe, note_opened, note_replaced, use_as_is
from orthotorq.services.rechecking.history import joint_history
from orthotorq.services.rechecking.lanes import joint_condition
from orthotorq.services.rechecking.meters import (
    ReadingAsTyped,
    add_meter,
    add_reading,
    correct_reading,
    machine,
    strike_reading,
)
from orthotorq.services.rechecking.refresh import refresh_joint
from orthotorq.services.rechecking.shift import shift
from orthotorq.services.rechecking.tag import condition_tag
from orthotorq.services.rechecking.tasks import add_task, finish_task, list_tasks
from orthotorq.services.running.queries import read_record, read_run
from orthotorq.store.models import DueDate, JointEntry, Person
from tests.services.test_run_end import NUT, Yard

COVER = "Close the channel cover"
WHEEL = "Fit the salt trolley wheels"


@pytest.fixture
def yard(session: Session) -> Yard:
    return Yard(session)


def step_of(yard: Yard, run: Any) -> Instruction | None:
    return read_run(yard.ctx("tam"), run).state.instruction


def answer_until(yard: Yard, run: Any, part: str) -> Instruction:
    while (step := step_of(yard, run)) is not None and part not in step.step:
        yard.answer_usually(run, step)
    assert step is not None, f"{part} never came"
    return step


def finish(yard: Yard, run: Any) -> None:
    while (step := step_of(yard, run)) is not None:
        yard.answer_usually(run, step)


def left_as_it_is(yard: Yard, run: Any, part: str, word: str) -> None:
    """A step answered with a failure that is left."""
    yard.send(run, "answer", answer_until(yard, run, part).step, {"answer": word})
    step = step_of(yard, run)
    assert step is not None and step.entry == "decision"
    yard.send(run, "answer", step.step, {"answer": "accept", "reason": "no part in store"})


def proven(yard: Yard, title: str = NUT) -> Any:
    run = yard.run(title)
    yard.close(run)
    joint = yard.joint(title)
    assert joint.condition == "proven", joint.condition_why
    return joint


def test_a_pin_that_is_not_good_and_left_keeps_the_locks_on(yard: Yard) -> None:
    joint = proven(yard)
    run = yard.run(NUT, 0, occasion="recheck", tools=False)
    left_as_it_is(yard, run, "/pin2/", "not_good")
    # at once, before anybody signs; and nobody is asked to take the lock off
    assert joint.condition == "do_not_use" and "Pin whole" in joint.condition_why
    state = read_run(yard.ctx("tam"), run).state
    assert (
        state.status == "finished"
        and state.left_locked
        and "locked out" in state.fitted
        and state.failed
    )
    yard.close(run)
    assert joint.condition == "do_not_use"
    # first on the shift, and due now: from the start of the procedure
    unfit = next(one for one in shift(yard.ctx("tam")).lists if one.id == "unfit")
    assert [line.title for line in unfit.lines] == [joint.name] and unfit.lines[0].marked
    (due,) = yard.session.scalars(select(DueDate).where(DueDate.joint_id == joint.id))
    assert (due.rule, due.occasion, due.at_once) == ("state", "install", True)
    view = read_record(yard.ctx("tam"), run)
    assert view.summary[-1].strong.startswith("Do not use")
    assert not any("Lock off" in line.text for line in view.record.lines)


def test_what_failed_is_cleared_where_it_holds_again(yard: Yard) -> None:
    joint = proven(yard)
    run = yard.run(NUT, 0, occasion="recheck", tools=False)
    left_as_it_is(yard, run, "/pin2/", "not_good")
    yard.close(run)
    again = yard.run(NUT, occasion="recheck", tools=False)
    assert joint.condition == "do_not_use", "not before it is signed"
    yard.close(again)
    assert joint.condition == "proven"


def test_a_failure_that_is_done_again_in_its_own_run_is_none(yard: Yard) -> None:
    joint = proven(yard)
    run = yard.run(NUT, 0, occasion="recheck", tools=False)
    left_as_it_is(yard, run, "/pin2/", "not_good")
    yard.send(run, "redo", "-", {"stage": "look", "reason": "new pin fitted"})
    heard = []
    while (step := step_of(yard, run)) is not None:
        heard.append(step.step)
        yard.answer_usually(run, step)
    # the lock comes off once, after it held
    assert [step for step in heard if "/unlock/off/" in step] == ["-/unlock/off/-/-"]
    state = read_run(yard.ctx("tam"), run).state
    assert not state.left_locked and not state.failed and state.fitted == []
    assert joint.condition == "proven"


def test_a_look_raises_nothing(yard: Yard) -> None:
    joint = proven(yard)
    note_opened(yard.ctx("tam"), joint.id, "somebody looked for the noise")
    yard.close(yard.run(NUT, occasion="recheck", tools=False))
    assert joint.condition == "unknown", "a look at paint lines does not tell what was done to it"
    row = joint_condition(yard.ctx("tam"), joint.id).rows[0]
    assert row.word == "unknown" and row.looked_at is not None and "Opened by others" in row.why


def test_used_as_is_by_another_supervisor_until_a_day(yard: Yard) -> None:
    joint = proven(yard)
    run = yard.run(NUT, 0, occasion="recheck", tools=False)
    left_as_it_is(yard, run, "/pin2/", "not_good")
    until = yard.now.date() + timedelta(days=10)
    yard.close(run)
    with pytest.raises(BadField, match="from tomorrow"):
        use_as_is(yard.ctx("runa"), joint.id, "spare comes", "half speed", yard.now.date())
    with pytest.raises(BadField, match="Enter what"):
        use_as_is(yard.ctx("runa"), joint.id, "spare comes", " ", until)
    use_as_is(
        yard.ctx("runa"),
        joint.id,
        "spare comes on Friday",
        "half speed, looked at every shift",
        until,
    )
    assert (
        joint.condition == "limited"
        and "half speed" in joint.condition_why
        and "Runa Tesk" in joint.condition_why
    )
    limited = yard.session.scalars(
        select(DueDate).where(DueDate.joint_id == joint.id, DueDate.rule == "limited")
    ).one()
    assert limited.day == until
    yard.now += timedelta(days=11)
    refresh_joint(yard.ctx("runa"), joint.id)
    assert joint.condition == "do_not_use" and "The acceptance ended" in joint.condition_why


def test_who_worked_in_the_run_does_not_accept_it(yard: Yard) -> None:
    joint = proven(yard)
    tomorrow = yard.now.date() + timedelta(days=2)
    with pytest.raises(Refused, match="Nothing here has failed"):
        use_as_is(yard.ctx("runa"), joint.id, "x", "y", tomorrow)
    run = yard.run(NUT, 0, occasion="recheck", tools=False)
    yard.send(run, "answer", answer_until(yard, run, "/pin2/").step, {"answer": "not_good"}, "runa")
    note_not_safe(yard.ctx("tam"), joint.id, "pin broken")
    with pytest.raises(Refused, match="is not closed"):
        use_as_is(yard.ctx("runa"), joint.id, "x", "y", tomorrow)
    step = step_of(yard, run)
    assert step is not None
    yard.send(run, "answer", step.step, {"answer": "accept", "reason": "later"}, "runa")
    with pytest.raises(Refused, match="is not closed"):
        use_as_is(yard.ctx("runa"), joint.id, "x", "y", tomorrow)
    yard.send(run, "abandon", "-", {"reason": "the pin comes tomorrow"}, "runa")
    with pytest.raises(Refused, match="Runa Tesk worked in the run"):
        use_as_is(yard.ctx("runa"), joint.id, "x", "y", tomorrow)
    assert joint.condition == "do_not_use"


def test_parts_replaced_outside_a_run_leave_it_unknown(yard: Yard) -> None:
    with pytest.raises(BadField, match="no run yet"):
        note_replaced(yard.ctx("tam"), yard.joint(NUT).id, "pin", in_last_run=True)
    joint = proven(yard)
    note_replaced(yard.ctx("tam"), joint.id, "locking pin", in_last_run=True)
    assert joint.condition == "proven", "what the run proved, it proved with the new part"
    with pytest.raises(BadField, match="Enter what"):
        note_replaced(yard.ctx("tam"), joint.id, " ")
    note_replaced(yard.ctx("tam"), joint.id, "washer")
    assert joint.condition == "unknown" and "washer" in joint.condition_why
    assert yard.session.scalars(
        select(DueDate.occasion).where(DueDate.joint_id == joint.id, DueDate.rule == "state")
    ).all() == ["install"]
    yard.close(yard.run(NUT))
    assert joint.condition == "proven"


def test_every_act_has_a_line_in_the_history(yard: Yard) -> None:
    joint = proven(yard)
    run = yard.run(NUT, 0, occasion="recheck", tools=False)
    left_as_it_is(yard, run, "/pin2/", "not_good")
    yard.close(run)
    until = yard.now.date() + timedelta(days=10)
    use_as_is(yard.ctx("runa"), joint.id, "spare comes", "half speed", until)
    note_replaced(yard.ctx("tam"), joint.id, "pin")
    note_opened(yard.ctx("tam"), joint.id, "")
    note_not_safe(yard.ctx("tam"), joint.id, "cracked")
    titles = {line.title: line.words for line in joint_history(yard.ctx("tam"), joint.id).lines}
    assert {"Opened by others", "Parts replaced", "Reported not safe"} <= set(titles)
    assert titles["Accepted with conditions"].startswith("spare comes; half speed; until ")
    kinds = next(
        str(one.sqltext) for one in JointEntry.__table__.constraints if hasattr(one, "sqltext")
    )
    assert all(f"'{kind}'" in kinds for kind in ENTRY_TITLES)
    assert kinds.count("'") == 2 * len(ENTRY_TITLES), "every kind that is kept has a title"


def test_reported_not_safe_at_one_position(yard: Yard) -> None:
    joint = yard.joint(WHEEL)
    with pytest.raises(BadField, match="no position"):
        note_not_safe(yard.ctx("tam"), joint.id, "cracked", "Q")
    with pytest.raises(BadField, match="Enter what"):
        note_not_safe(yard.ctx("tam"), joint.id, " ", "L")
    note_not_safe(yard.ctx("tam"), joint.id, "disc cracked between nuts 2 and 3", "L")
    rows = {row.name: row for row in joint_condition(yard.ctx("tam"), joint.id).rows}
    assert rows["left"].word == "do_not_use" and rows["right"].word != "do_not_use"
    # the other wheel goes on being rechecked by its plan
    assert {due.position for row in rows.values() for due in row.dues} == {"left", "right"}
    name, data = condition_tag(yard.ctx("tam"), joint.id).run(yard.ctx("tam"))
    assert name.startswith("tag-") and data.startswith(b"%PDF")


def test_a_tag_is_printed_only_where_one_is_wanted(yard: Yard) -> None:
    joint = proven(yard)
    with pytest.raises(Refused, match="needs no tag"):
        condition_tag(yard.ctx("tam"), joint.id)
    with pytest.raises(NotFound):
        condition_tag(yard.ctx("tam"), yard.ctx("tam").new_id())


def test_the_year_is_told_by_lanes(yard: Yard) -> None:
    joint = proven(yard)
    yard.now += timedelta(days=30)
    note_opened(yard.ctx("tam"), joint.id, "")
    yard.now += timedelta(days=1)
    (lane,) = joint_condition(yard.ctx("tam"), joint.id).lanes
    assert [band.word for band in lane.bands] == ["unknown", "proven", "unknown"]
    assert [mark.kind for mark in lane.marks] == ["tightened", "opened"]
    assert all(one.end == two.begin for one, two in zip(lane.bands, lane.bands[1:], strict=False))


def test_tasks_have_an_owner_and_a_day(yard: Yard) -> None:
    joint, ctx = yard.joint(COVER), yard.ctx("tam")
    mira = yard.session.scalars(select(Person.id).where(Person.login == "mira")).one()
    today = yard.now.date()
    for words, owner, day, wrong in (
        ("", mira, today, "Enter what"),
        ("x" * 201, mira, today, "Enter what"),
        ("look", ctx.new_id(), today, "Choose who"),
        ("look", mira, today - timedelta(days=1), "from today on"),
    ):
        with pytest.raises(BadField, match=wrong):
            add_task(ctx, joint.id, words, owner, day)
    made = add_task(ctx, joint.id, "Old gasket looked at for its marks", mira, today)
    assert [
        line.title
        for one in shift(yard.ctx("mira")).lists
        if one.id == "tasks"
        for line in one.lines
    ] == ["Old gasket looked at for its marks"]
    yard.now += timedelta(days=2)
    (task,) = list_tasks(yard.ctx("tam"), joint.id).items
    assert task.late and task.owner == "Mira Oslund"
    finish_task(yard.ctx("runa"), made)
    with pytest.raises(Refused, match="done already"):
        finish_task(yard.ctx("tam"), made)
    (task,) = list_tasks(yard.ctx("tam"), joint.id).items
    assert task.done_by == "Runa Tesk" and not task.late
    with pytest.raises(NotFound):
        finish_task(yard.ctx("tam"), ctx.new_id())


def test_a_reading_far_from_the_usual_is_asked_back(yard: Yard) -> None:
    view = machine(yard.ctx("tam"), yard.joint(WHEEL).equipment_id)
    meter, now = view.meters[0].id if view.meters else None, yard.now
    if meter is None:
        meter = add_meter(yard.ctx("mira"), yard.joint(WHEEL).equipment_id, "km")
    last = 0
    for day in range(10):
        yard.now = now + timedelta(days=3 * day)
        last = 5000 + 60 * day
        add_reading(yard.ctx("tam"), meter, ReadingAsTyped(str(last)))
    yard.now += timedelta(days=1)
    with pytest.raises(NeedsConfirmation, match="usual are 20 to 20 km a day"):
        add_reading(yard.ctx("tam"), meter, ReadingAsTyped(str(last + 10_000)))
    wrong = add_reading(
        replace(yard.ctx("tam"), confirmed=True), meter, ReadingAsTyped(str(last + 10_000))
    )
    # who typed it takes it back; somebody else's is a supervisor's
    strike_reading(yard.ctx("tam"), wrong)
    yard.now += timedelta(days=1)
    other = add_reading(yard.ctx("runa"), meter, ReadingAsTyped(str(last + 30)))
    with pytest.raises(Refused, match="Another person entered"):
        strike_reading(yard.ctx("tam"), other)
    strike_reading(yard.ctx("runa"), other)


def test_a_mistyped_reading_is_corrected_in_its_place_and_stays_struck_out(yard: Yard) -> None:
    meter = add_meter(yard.ctx("mira"), yard.joint(COVER).equipment_id, "starts")
    first = add_reading(yard.ctx("tam"), meter, ReadingAsTyped("500"))
    yard.now += timedelta(days=2)
    wrong = add_reading(yard.ctx("tam"), meter, ReadingAsTyped("5600"))
    yard.now += timedelta(hours=1)
    with pytest.raises(DocumentErrors, match="500"):
        correct_reading(yard.ctx("runa"), wrong, "400")
    with pytest.raises(DocumentErrors):
        correct_reading(yard.ctx("runa"), wrong, "56O")
    right = correct_reading(yard.ctx("runa"), wrong, "560")
    view = machine(yard.ctx("tam"), yard.joint(COVER).equipment_id).meters
    shown = next(one for one in view if one.unit == "starts")
    assert [(one.id, one.struck, one.struck_by, one.total) for one in shown.readings] == [
        (right, False, "", 560.0),
        (wrong, True, "Runa Tesk", None),
        (first, False, "", 500.0),
    ]
    assert shown.readings[0].at == shown.readings[1].at
    with pytest.raises(Refused, match="struck out already"):
        correct_reading(yard.ctx("runa"), wrong, "561")


def test_a_run_that_was_cut_short_goes_on_where_nothing_has_changed(yard: Yard) -> None:
    run = pulled(yard)
    joint = yard.joint(COVER)
    yard.send(run, "abandon", "-", {"reason": "the hoist is needed elsewhere"})
    assert joint.condition == "unknown"
    ended = joint_condition(yard.ctx("tam"), joint.id).ended_early
    assert ended is not None and ended.cannot_continue == ""
    yard.send(run, "continue", "-", {"reason": "the hoist is back"})
    step = step_of(yard, run)
    assert step is not None and step.text.startswith("Before the run continues")
    assert joint_condition(yard.ctx("tam"), joint.id).ended_early is None
    finish(yard, run)
    yard.close(run)
    assert joint.condition == "proven", joint.condition_why


def test_a_run_that_was_cut_short_does_not_go_on_after_something_happened(yard: Yard) -> None:
    run = pulled(yard)
    joint = yard.joint(COVER)
    yard.send(run, "abandon", "-", {"reason": "the shift is over"})
    note_opened(yard.ctx("tam"), joint.id, "somebody looked inside")
    assert read_run(yard.ctx("tam"), run).cannot_continue == "The joint was changed since."
    refused(
        yard,
        run,
        "This run cannot be continued. The joint was changed since. Begin from slackening.",
    )
    other = yard.run(COVER, 3)
    assert read_run(yard.ctx("tam"), run).cannot_continue.endswith("came after it.")
    yard.send(other, "abandon", "-", {"reason": "begun by mistake"})
    assert read_run(yard.ctx("tam"), other).cannot_continue == ""


def pulled(yard: Yard) -> Any:
    """A run of the cover in which the first bolts are pulled."""
    run = yard.run(COVER, 0)
    for _ in range(3):
        yard.answer_usually(run, answer_until(yard, run, "/r1/"))
    return run


def refused(yard: Yard, run: Any, text: str) -> None:
    with pytest.raises(AssertionError, match=text.split(".")[0]):
        yard.send(run, "continue", "-", {"reason": "again"})
    assert read_run(yard.ctx("tam"), run).state.status == "abandoned", "nothing changed"
