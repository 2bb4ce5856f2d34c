"""What the record draws and says: bolts after the last round, charts, what moved, what is compared,
what may be done next."""

from __future__ import annotations

from typing import Any

import pytest

from orthotorq.core.forms.record import Record
from orthotorq.core.running import checked_bolts, compare, record_of
from orthotorq.core.running.log.step_id import base_of, end_of, parse, step_id, then_of
from orthotorq.core.running.walk.actions import ACTIONS
from orthotorq.demo.load import plan_document
from tests.core.play import SUPERVISOR, Play
from tests.plans import small, wheel


def written(play: Play) -> Record:
    """The record of a run so far."""
    return record_of(play.result, play.facts, play.now)


def chart(record: Record, kind: str, table: int = 0) -> Any:
    """A chart of a table."""
    return next((c for c in record.tables[table].charts if c.kind == kind), None)


def with_readings(torques: dict[int, str], angles: dict[int, str] | None = None) -> Play:
    """A run to its end, with torque readings at the full pass and angles in the check."""
    play = Play(small())
    while play.state.instruction is not None:
        step = play.step
        number = int(step.label) if step.label else 0
        if "/full/" in step.step and number in torques:
            play.answer("turned", reading={"torque": torques[number]})
        elif "/check/r1/" in step.step and angles and number in angles:
            play.answer("turned", reading={"angle": angles[number]})
        else:
            play.usual()
    return play


def test_readings_of_the_full_pass_stand_around_the_torque_that_was_wanted() -> None:
    record = written(with_readings({1: "118 N·m", 2: "121.5 N·m", 4: "88.5 ft·lbf"}))
    found = chart(record, "torque")
    assert found.wanted == pytest.approx(120)
    assert {b.label: round(b.value, 1) for b in found.bars} == {"1": 118.0, "2": 121.5, "4": 120.0}


def test_a_pass_without_readings_draws_none() -> None:
    assert chart(written(with_readings({})), "torque") is None


def test_bolts_that_moved_are_counted_round_by_round() -> None:
    record = written(with_readings({}, {1: "9 deg", 3: "6 deg", 4: "2 deg"}))
    first, second = chart(record, "moved").bars
    # what turned less than the plan allows has not moved, whatever was tapped
    assert (first.value, first.total) == (2, 4)
    assert (second.value, second.total) == (0, 4)
    cells = {row.label: row.cells for row in record.tables[0].rows}
    column = next(i for i, c in enumerate(record.tables[0].columns) if c.check)
    assert [cells[n][column].moved for n in ("1", "2", "3", "4")] == [True, False, True, False]  # type: ignore[union-attr]
    assert [cells[n][column].notable for n in ("1", "2", "3", "4")] == [True, False, True, False]  # type: ignore[union-attr]


def test_the_tape_marks_the_bolts_that_the_record_says_have_moved() -> None:
    play = with_readings({}, {2: "5.2 deg", 3: "4.8 deg"})
    bands = [b for b in play.state.tape if b.check]
    assert [b.moved for b in bands] == [[1], []]


def test_gaps_are_drawn_from_smallest_to_largest_in_each_round() -> None:
    play = Play(plan_document("bellows-clamp"), variants=["eight"])
    play.until("/draw/") if any("draw" in s.id for s in play.result.stages) else None
    play.finish()
    bars = next(c for t in written(play).tables for c in t.charts if c.kind == "gaps").bars
    assert [b.label for b in bars] == [str(n + 1) for n in range(len(bars))]
    assert all(b.low is not None and b.low <= b.value for b in bars)
    # each round comes nearer
    assert [b.value for b in bars] == sorted((b.value for b in bars), reverse=True)


def test_bolts_are_drawn_as_the_last_round_left_them() -> None:
    play = Play(small())
    play.until("/full/r1/b.3")
    states = {b.place: b.state for b in written(play).tables[0].bolts}
    assert states["b.1"] == "checked" and set(states) == {"b.1", "b.2", "b.3", "b.4"}
    play.answer("turns_on")
    play.answer("accept", reason="no spare today")
    states = {b.place: b.state for b in written(play).tables[0].bolts}
    assert states["b.3"] == "deviating"
    assert {b.state for b in written(Play(small())).tables[0].bolts} == {"untouched"}


def test_each_position_has_a_table_of_its_own() -> None:
    play = Play(wheel())
    play.finish()
    record = written(play)
    assert [t.position for t in record.tables] == ["L", "R"]
    for table in record.tables:
        assert {row.cells[-1] is not None for row in table.rows} == {True}


def test_two_runs_of_a_joint_are_held_against_each_other() -> None:
    before, now = (
        written(with_readings({}, {1: "9 deg", 2: "8 deg"})),
        written(with_readings({}, {2: "7 deg", 4: "6 deg"})),
    )
    found = compare(now, before, 402)
    assert (found.run, found.moved_now, found.moved_before, found.checked_now, found.both) == (
        402,
        2,
        2,
        4,
        ["bolt 2"],
    )
    assert (found.deviations_now, found.deviations_before) == (
        len(now.deviations),
        len(before.deviations),
    )
    assert checked_bolts(now) == {"b.1", "b.2", "b.3", "b.4"}
    assert checked_bolts(written(Play(small()))) == set()


def test_a_bolt_at_a_position_is_named_with_it() -> None:
    play = Play(wheel())
    play.finish()
    names = checked_bolts(written(play))
    assert not names or all(name.split(" ")[0] in ("L", "R") for name in names)


@pytest.mark.parametrize(
    "text",
    [
        "L/close/full/r1/b.3",
        "-/t/h/r2/b.1/a3",
        "-/row/full/r1/m30.2/k3",
        "-/row/full/r1/m30.2/k3/a2",
        "-/faces/flat/-/-",
        "-/faces/flat/-/-/then",
        "-/faces/flat/-/-/then/a2",
        "-/t/check/end/-",
    ],
)
def test_a_step_id_is_its_parts_and_its_parts_are_the_id(text: str) -> None:
    found = parse(text)
    assert found is not None
    base = base_of(found.position, found.stage, found.part)
    assert text.startswith(base)
    if "/end/" in text:
        assert end_of(base) == text
        return
    own = step_id(base, found.round, found.place, found.attempt, found.pull)
    assert (then_of(own, found.then) if found.then else own) == text


@pytest.mark.parametrize(
    "text",
    [
        "",
        "-",
        "a/b/c",
        "L/close/full/1/b.3",
        "L/close/full/r1/b.3/x2",
        "L/close/full/r1/b.3/then/then",
        "//r1/",
    ],
)
def test_what_is_no_step_id_has_no_parts(text: str) -> None:
    assert parse(text) is None


def test_an_unloading_is_asked_for_once_between_the_last_step_and_the_signature() -> None:
    play = Play(small())
    assert play.state.unload == []
    play.finish()
    finished = play.state
    assert finished.status == "finished" and finished.next_signature == "fitter"
    play.send("sign_off", "-", {"role": "fitter"})
    assert play.state.unload == [] and play.state.next_signature == "supervisor"
    play.send("sign_off", "-", {"role": "supervisor"}, SUPERVISOR)
    assert play.state.next_signature is None and play.state.status_text == "signed and closed"


def test_the_last_signature_is_not_offered_while_something_is_open() -> None:
    play = Play(small())
    play.until("/full/r1/b.1")
    play.answer("turns_on")
    play.answer("accept", reason="no spare today")
    play.finish()
    play.send("sign_off", "-", {"role": "fitter"})
    assert (
        "accept" in play.state_for(SUPERVISOR).actions
        and "sign_supervisor" not in play.state_for(SUPERVISOR).actions
    )
    deviation = play.state.deviations[0]
    assert (
        play.send(
            "accept", deviation.step, {"deviation": deviation.id, "reason": "seen"}, SUPERVISOR
        )[0]
        == "accepted"
    )
    assert "sign_supervisor" in play.state_for(SUPERVISOR).actions
    assert ACTIONS["accept"].roles == SUPERVISOR


def test_what_moved_in_both_runs_is_named_as_it_is_painted() -> None:
    play = Play(wheel())
    play.finish()
    record = written(play)
    for table in record.tables:
        for row in table.rows[:1]:
            row.cells[-1].moved = True  # type: ignore[union-attr]
    assert compare(record, record, 7, {"L": "left", "R": "right"}).both == [
        "bolt 1 (left)",
        "bolt 1 (right)",
    ]


def test_a_bolt_that_deviated_has_a_word_beside_it() -> None:
    play = Play(small())
    play.until("/full/")
    play.answer("past_click")
    play.answer("replace", reason="new bolt, batch 7")
    play.finish()
    notes = written(play).tables[0].notes
    assert [(n.label, n.where, n.text) for n in notes] == [("1", "100 %", "replaced")]
