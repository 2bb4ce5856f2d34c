"""Measurements at the steps of a run: begun at the open step alone, streamed, taken by an answer,
kept in chain and record."""

from __future__ import annotations

import json
from types import SimpleNamespace
from typing import Any
from uuid import uuid4

import pytest
from sqlalchemy.orm import Session

from orthotorq.core.forms.run import Instruction
from orthotorq.core.simulation.pull import Pull as Inputs
from orthotorq.core.simulation.pull import trace_of
from orthotorq.devices.protocol import Outcome
from orthotorq.devices.raw import write_raw
from orthotorq.services.errors import BadField, NotFound, Refused
from orthotorq.services.running import tester
from orthotorq.services.running.commands import append_events
from orthotorq.services.running.pulls import (
    PullView,
    begin_pull,
    keep_raw_pull,
    list_devices,
    stream_pull,
)
from orthotorq.services.running.queries import read_record, read_run
from orthotorq.services.running.record_files import record_table
from orthotorq.services.running.traces import read_traces
from orthotorq.store.models import Event, Pull
from tests.services.test_run_end import Yard

TITLE, WRENCH = "Bolt the face-toothed agitator coupling", "simulated-angle-wrench"


@pytest.fixture
def yard(session: Session) -> Yard:
    return Yard(session)


def open_at(yard: Yard, device: str, **choices: Any) -> tuple[Any, Instruction]:
    """A run of the coupling at the first step that a device may answer."""
    run = yard.run(TITLE, 0, **choices)
    while device not in (step := step_of(yard, run)).devices:
        yard.answer_usually(run, step)
    return run, step


def step_of(yard: Yard, run: Any) -> Instruction:
    found = read_run(yard.ctx("tam"), run).state.instruction
    assert found is not None
    return found


def take(yard: Yard, run: Any, pull: PullView) -> None:
    """The device answers the open step."""
    result = pull.result
    yard.send(
        run,
        "answer",
        step_of(yard, run).step,
        {
            "answer": result.answer,
            "reading": {"torque": result.torque, "angle": result.angle},
            "pull": str(pull.id),
        },
    )


def test_a_pull_answers_its_step_and_stands_in_chain_record_and_table(yard: Yard) -> None:
    run, step = open_at(yard, "pull")
    pull = begin_pull(yard.ctx("tam"), run, step.step, WRENCH)
    messages, result = stream_pull(yard.ctx("mira"), pull.id)
    curve = [t for m in messages for t in m.torque]
    assert result == pull.result and max(curve) == pytest.approx(
        float(result.torque.split()[0]), rel=1e-3
    )
    assert result.code == "good" and result.answer == "turned"
    take(yard, run, pull)
    kept = json.loads(
        yard.session.query(Event)
        .filter_by(run_id=run)
        .order_by(Event.sequence.desc())
        .first()
        .canonical
    )
    assert (
        kept["server"]["payload"]["judged"]["code"] == "good"
        and "judged" not in kept["client"]["payload"]
    )
    assert step_of(yard, run).step != step.step
    cells = [
        c
        for t in read_record(yard.ctx("mira"), run).record.tables
        for r in t.rows
        for c in r.cells
        if c
    ]
    assert cells[-1].torque == result.torque and cells[-1].measured.startswith("good, ")
    assert result.seen in record_table(yard.ctx("mira"), run)[1]
    trace = read_traces(yard.ctx("mira"), run).traces[0]
    assert (trace.label, trace.good, len(trace.curve.torque)) == (step.label, True, 120)
    assert max(trace.curve.torque) == pytest.approx(max(curve), rel=0.02)


def test_a_second_step_of_an_angle_begins_where_the_first_one_ended(yard: Yard) -> None:
    run, step = open_at(yard, "pull")
    torques = []
    while len(torques) < 3 or step_of(yard, run).do == "angle":
        step = step_of(yard, run)
        pull = begin_pull(yard.ctx("tam"), run, step.step, WRENCH)
        take(yard, run, pull)
        torques.append(float(pull.result.torque.split()[0]))
        assert pull.result.code == "good"
    assert torques == sorted(torques) and torques[2] > 1.1 * torques[1]


def test_the_curves_of_the_run_before_are_given_to_compare_with(yard: Yard) -> None:
    first, step = open_at(yard, "pull")
    take(yard, first, begin_pull(yard.ctx("tam"), first, step.step, WRENCH))
    second, step = open_at(yard, "pull")
    take(yard, second, begin_pull(yard.ctx("tam"), second, step.step, WRENCH))
    found = read_traces(yard.ctx("mira"), second)
    assert found.before_run == read_run(yard.ctx("tam"), first).head.number
    assert [t.column for t in found.before] == [
        t.column for t in found.traces
    ] and found.before != found.traces
    assert read_traces(yard.ctx("mira"), first).before_run is None


def test_a_pull_that_is_not_good_stops_the_run_there(yard: Yard) -> None:
    run, step = open_at(yard, "pull")
    pull = begin_pull(yard.ctx("tam"), run, step.step, WRENCH, "cross_thread")
    assert (
        pull.result.code == "cross_thread"
        and 0 <= pull.result.first < pull.result.last <= pull.seconds
    )
    take(yard, run, pull)
    now = step_of(yard, run)
    assert now.entry == "decision" and "the torque rises while it runs down" in now.text


def test_a_length_is_read_and_a_click_wrench_leaves_the_answer_to_the_fitter(yard: Yard) -> None:
    run, step = open_at(yard, "length")
    gauge = begin_pull(yard.ctx("tam"), run, step.step, "simulated-length-gauge")
    assert gauge.result.answer is None and gauge.result.readings[0].endswith(" mm")
    yard.send(
        run,
        "answer",
        step.step,
        {"answer": "value", "value": gauge.result.readings[0], "pull": str(gauge.id)},
    )
    run, step = open_at(yard, "click")
    click = begin_pull(yard.ctx("tam"), run, step.step, "simulated-click-wrench")
    assert (click.result.answer, click.result.says) == (None, "It clicked.") and click.seconds > 0
    yard.send(run, "answer", step.step, {"answer": "turned", "pull": str(click.id)})
    cells = [
        c
        for t in read_record(yard.ctx("mira"), run).record.tables
        for r in t.rows
        for c in r.cells
        if c
    ]
    assert cells[-1].torque is None and cells[-1].measured == "good"


def test_a_file_of_a_real_wrench_is_judged_like_any_other(yard: Yard) -> None:
    run, step = open_at(yard, "pull")
    inputs = Inputs(180.0, 27.0, 2.4, 40.0, 1.8, "none", 5)
    pull = keep_raw_pull(yard.ctx("tam"), run, step.step, write_raw(trace_of(inputs)).encode())
    assert pull.device == "file" and pull.result.torque is not None
    messages, _ = stream_pull(yard.ctx("tam"), pull.id)
    assert sum(len(m.torque) for m in messages) == trace_of(inputs).torque.size
    take(yard, run, pull)
    assert read_traces(yard.ctx("tam"), run).traces[0].label == step.label


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"\xff\xfe\x00", "is text"),
        (b"hello", "begins with"),
        (b"#" * 1_000_001, "1 MB"),
        (write_raw(trace_of(Inputs(180.0, 27.0, 2.4))).encode()[:-8], "cut off"),
    ],
)
def test_a_file_that_is_no_pull_leaves_nothing(yard: Yard, data: bytes, says: str) -> None:
    run, step = open_at(yard, "pull")
    with pytest.raises(BadField, match=says):
        keep_raw_pull(yard.ctx("tam"), run, step.step, data)
    assert yard.session.query(Pull).filter_by(run_id=run).count() == 0


def test_only_the_open_step_is_measured_and_only_by_what_fits_it(yard: Yard) -> None:
    run, step = open_at(yard, "pull")
    for other, device, joint, error in (
        (step.step + "/a9", WRENCH, "none", Refused),
        ("-", WRENCH, "none", Refused),
        (step.step, "nothing", "none", BadField),
        (step.step, WRENCH, "haunted", BadField),
        (step.step, "simulated-length-gauge", "none", Refused),
        (step.step, "simulated-tester", "none", Refused),
    ):
        with pytest.raises(error):
            begin_pull(yard.ctx("tam"), run, other, device, joint)
    yard.send(run, "problem", step.step, {"text": "the stand slips", "about": "unsafe"})
    with pytest.raises(Refused, match="not open"):
        begin_pull(yard.ctx("tam"), run, step.step, WRENCH)


def test_an_answer_takes_no_measurement_of_another_step_or_run(yard: Yard) -> None:
    # the other one is ended where this one begins
    other, there = open_at(yard, "pull")
    of_other = begin_pull(yard.ctx("tam"), other, there.step, WRENCH)
    run, step = open_at(yard, "pull")
    ctx = yard.ctx("tam")
    for pull in (str(of_other.id), str(uuid4()), "none"):
        number = read_run(ctx, run).state.sequence
        event = {
            "id": str(ctx.new_id()),
            "run": str(run),
            "step": step.step,
            "kind": "answer",
            "device": "tablet of tam",
            "device_sequence": number + yard.sent,
            "device_time": "2026-11-24T08:00:00Z",
            "lease": 1,
            "last_seen": number,
            "payload": {"answer": "turned", "pull": pull},
        }
        event["device_sequence"] = (
            append_events(ctx, run, [event])[0][0].missing or event["device_sequence"]
        )
        answered, _ = append_events(ctx, run, [event])
        assert answered[0].code == "no_such_pull", answered
    assert step_of(yard, run).step == step.step


def test_devices_say_what_they_are(yard: Yard) -> None:
    found = list_devices(yard.ctx("tam"))
    assert {d.answers for d in found.devices} == {"pull", "click", "length", "check"}
    assert found.joints[0].id == "none" and len(found.joints) == 9


def test_a_wrench_is_tried_on_the_tester_before_it_is_used(yard: Yard) -> None:
    found = tried(yard, "TW-03")
    assert (
        found.good
        and found.words.startswith("Torque tester (simulated): set to ")
        and "within ±4 %" in found.words
    )
    for serial, device, error in (
        ("TW-99", "simulated-tester", NotFound),
        ("TW-03", WRENCH, BadField),
    ):
        with pytest.raises(error):
            tester.test_tool(yard.ctx("tam"), serial, device)


def test_a_wrench_that_reads_outside_its_class_is_not_good(
    yard: Yard, monkeypatch: pytest.MonkeyPatch
) -> None:
    wrong = SimpleNamespace(
        answers="check",
        name="Tester",
        outcome=lambda asked: Outcome([f"{asked.figure * 0.95:g} N·m"], ""),
    )
    monkeypatch.setitem(tester.DEVICES, "simulated-tester", wrong)
    found = tried(yard, "TW-03")
    assert not found.good and "-5.0 % off, outside ±4 %" in found.words


def tried(yard: Yard, serial: str) -> tester.Tested:
    """A wrench on the simulated tester."""
    return tester.test_tool(yard.ctx("tam"), serial, "simulated-tester")
