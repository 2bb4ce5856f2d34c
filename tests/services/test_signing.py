"""Signing with the password, taps that keep their owner, a wrench changed during a run."""

from __future__ import annotations

import uuid
from datetime import timedelta
from typing import Any

import pytest
from sqlalchemy import select
from sqlalchemy.orm import Session

from orthotorq.core.thresholds import FAILED_TRIES
from orthotorq.services.accounts.passwords import checked_hash
from orthotorq.services.accounts.queries import DEMO_PASSWORD, DEMO_PIN
from orthotorq.services.codes import time_text
from orthotorq.services.errors import BadField, Refused, TooMany
from orthotorq.services.running.commands import append_events
from orthotorq.services.running.queries import list_runs, read_record, read_run
from orthotorq.services.running.sign import sign_run
from orthotorq.services.running.verify import verify_run
from orthotorq.store.models import Event, Person, RefusedEvent, Run, Tool
from tests.services.test_run_end import NUT, Yard

#: the device that holds the runs of these tests
HELD_BY = "tablet of tam"


@pytest.fixture
def yard(session: Session) -> Yard:
    return Yard(session)


def event(
    yard: Yard,
    run: Any,
    number: int,
    kind: str,
    payload: dict[str, Any],
    device: str = "d",
    step: str = "-",
    **more: Any,
) -> dict[str, Any]:
    return {
        "id": str(yard.ctx("tam").new_id()),
        "run": str(run),
        "step": step,
        "kind": kind,
        "device": device,
        "device_sequence": number,
        "device_time": time_text(yard.now),
        "lease": 1,
        "last_seen": 1,
        "payload": payload,
        **more,
    }


def test_a_signature_takes_the_password_again_and_says_what_it_stands_over(yard: Yard) -> None:
    run = yard.run(NUT)
    wrong = sign_run(yard.ctx("tam"), run, "fitter", "not this")
    assert (
        isinstance(wrong, BadField)
        and wrong.field == "password"
        and "not your password" in wrong.text
    )
    assert read_run(yard.ctx("tam"), run).state.sign_offs == []
    state = yard.sign(run)
    assert [s.role for s in state.sign_offs] == ["fitter"] and state.next_signature == "supervisor"
    kept = yard.session.scalars(
        select(Event).where(Event.run_id == run, Event.kind == "sign_off")
    ).one()
    assert (
        "1 bolt" in kept.canonical
        and "Tam" in kept.canonical
        and '"by":"password"' in kept.canonical
    )
    assert yard.sign(run, "runa", "supervisor").status == "closed"
    assert verify_run(yard.session, yard.session.get_one(Run, run)) is None


def test_a_pin_signs_too_and_the_entry_says_so(yard: Yard) -> None:
    run = yard.run(NUT)
    wrong = sign_run(yard.ctx("tam"), run, "fitter", "704194")
    assert isinstance(wrong, BadField) and wrong.field == "password"
    assert not isinstance(sign_run(yard.ctx("tam"), run, "fitter", DEMO_PIN), BadField)
    kept = yard.session.scalars(
        select(Event).where(Event.run_id == run, Event.kind == "sign_off")
    ).one()
    assert '"by":"pin"' in kept.canonical
    assert verify_run(yard.session, yard.session.get_one(Run, run)) is None


def test_a_password_of_digits_alone_is_not_taken_for_a_pin(yard: Yard) -> None:
    run = yard.run(NUT)
    tam = yard.session.scalars(select(Person).where(Person.login == "tam")).one()
    tam.password_hash = checked_hash("480915726310")
    assert not isinstance(sign_run(yard.ctx("tam"), run, "fitter", "480915726310"), BadField)
    kept = yard.session.scalars(
        select(Event).where(Event.run_id == run, Event.kind == "sign_off")
    ).one()
    assert '"by":"password"' in kept.canonical


def test_too_many_wrong_passwords_stop_signing_as_they_stop_signing_in(yard: Yard) -> None:
    run = yard.run(NUT)
    for _ in range(int(FAILED_TRIES.value)):
        assert isinstance(sign_run(yard.ctx("tam"), run, "fitter", "not this"), BadField)
        yard.session.flush()
    with pytest.raises(TooMany):
        sign_run(yard.ctx("tam"), run, "fitter", DEMO_PASSWORD)


def test_who_pulled_does_not_sign_as_supervisor_unless_the_site_allows_it(
    yard: Yard, monkeypatch: pytest.MonkeyPatch
) -> None:
    run = yard.run(NUT, count=0)
    step = read_run(yard.ctx("runa"), run).state.instruction
    assert step is not None
    yard.send(run, "answer", step.step, {"answer": step.buttons[0].answer}, "runa")
    for _ in range(1000):
        step = read_run(yard.ctx("tam"), run).state.instruction
        if step is None:
            break
        yard.answer_usually(run, step)
    yard.sign(run)
    with pytest.raises(Refused, match="pulled bolts in this run"):
        sign_run(yard.ctx("runa"), run, "supervisor", DEMO_PASSWORD)
    monkeypatch.setenv("ORTHOTORQ_ONE_SIGNS_BOTH", "1")
    assert yard.sign(run, "runa", "supervisor").status == "closed"


def test_what_the_judge_refuses_is_not_signed_and_says_why(yard: Yard) -> None:
    run = yard.run(NUT, count=2)
    with pytest.raises(Refused, match="not finished"):
        sign_run(yard.ctx("tam"), run, "fitter", DEMO_PASSWORD)
    answers, _ = append_events(
        yard.ctx("tam"), run, [event(yard, run, 3, "sign_off", {"role": "fitter"}, f"dev-{run}")]
    )
    assert answers[0].verdict == "refused" and answers[0].code == "sign_with_password"


def test_a_tap_of_somebody_else_is_neither_kept_nor_refused_but_sent_back(yard: Yard) -> None:
    run = yard.run(NUT, count=0)
    step = read_run(yard.ctx("tam"), run).state.instruction
    assert step is not None
    tam, runa = yard.person("tam"), yard.person("runa")
    tapped = event(
        yard,
        run,
        1,
        "answer",
        {"answer": step.buttons[0].answer},
        HELD_BY,
        step=step.step,
        person=str(tam.id),
    )
    answers, _ = append_events(yard.ctx("runa"), run, [tapped])
    assert (answers[0].verdict, answers[0].code) == ("other", "other_person")
    assert not yard.session.scalars(
        select(Event).where(Event.run_id == run, Event.device == HELD_BY)
    ).all()
    assert not yard.session.scalars(select(RefusedEvent).where(RefusedEvent.run_id == run)).all()
    answers, _ = append_events(yard.ctx("tam"), run, [tapped])
    assert answers[0].verdict == "accepted"
    answers, _ = append_events(yard.ctx("tam"), run, [tapped])
    assert answers[0].verdict == "duplicate"
    row = yard.session.scalars(
        select(Event).where(Event.run_id == run, Event.device == HELD_BY)
    ).one()
    assert row.person_id == tam.id != runa.id and str(tam.id) in row.canonical


def test_a_wrench_is_changed_with_its_settings_and_one_that_is_blocked_is_not(yard: Yard) -> None:
    run = yard.run(NUT, count=3)
    (bound,) = read_record(yard.ctx("tam"), run).record.tools
    others = [t for t in yard.session.scalars(select(Tool)) if t.serial != bound.serial]
    change = {"tool": bound.tool, "reason": "dropped from the platform", "checked": ""}
    others[0].blocked, others[0].note = True, "dropped"
    for serial in (others[0].serial, "no such"):
        answers, _ = append_events(
            yard.ctx("tam"),
            run,
            [event(yard, run, 1, "tool", {**change, "serial": serial}, serial)],
        )
        assert answers[0].verdict == "refused", serial
    taken = yard.same_kind(bound.serial)
    number = yard.numbers[run, HELD_BY] + 1
    answers, _ = append_events(
        yard.ctx("tam"),
        run,
        [event(yard, run, number, "tool", {**change, "serial": taken}, HELD_BY)],
    )
    assert answers[0].verdict == "accepted", answers[0].text
    record = read_record(yard.ctx("tam"), run).record
    assert [t.serial for t in record.tools] == [bound.serial, taken]
    assert any(
        f"Wrench {taken} taken for {bound.serial}: dropped" in line.text for line in record.story
    )


def test_the_list_of_runs_says_which_are_provisional(yard: Yard) -> None:
    run = yard.run(NUT, tools=False)
    yard.sign(run)
    proper = yard.run(NUT)
    yard.sign(proper)
    told = {head.id: head.provisional for head in list_runs(yard.ctx("mira"), None, 100)}
    assert told[run] and not told[proper]


def test_a_lease_is_of_a_person_on_a_device_and_no_mere_number(yard: Yard) -> None:
    run = yard.run(NUT, count=0)
    step = read_run(yard.ctx("tam"), run).state.instruction
    assert step is not None
    answer = {"answer": step.buttons[0].answer}
    for login, device in (("runa", "tablet of runa"), ("tam", "another of tam")):
        said, _ = append_events(
            yard.ctx(login), run, [event(yard, run, 1, "answer", answer, device, step.step)]
        )
        assert (said[0].verdict, said[0].code) == ("conflict", "lease_lost"), device
    said, _ = append_events(
        yard.ctx("tam"), run, [event(yard, run, 1, "answer", answer, HELD_BY, step.step)]
    )
    assert said[0].verdict == "accepted"


def test_nobody_sends_under_the_name_of_a_device_of_somebody_else_or_of_the_server(
    yard: Yard,
) -> None:
    run = yard.run(NUT, count=1)
    for device in (HELD_BY, "server"):
        said, _ = append_events(
            yard.ctx("runa"), run, [event(yard, run, 2, "note", {"text": "mine"}, device)]
        )
        assert (said[0].verdict, said[0].code) == ("refused", "other_device")
    # its numbers are not used up by that
    yard.send(run, "note", "-", {"text": "mine"})


def test_nothing_happens_before_what_came_before_it(yard: Yard) -> None:
    """A wait is not passed by dating back what it is counted from."""
    run = yard.run(NUT, count=1)
    facts = list(
        yard.session.scalars(select(Event).where(Event.run_id == run).order_by(Event.sequence))
    )
    old = {
        **event(yard, run, 2, "note", {"text": "long ago"}, HELD_BY),
        "device_time": "2026-01-01T08:00:00Z",
    }
    said, _ = append_events(yard.ctx("tam"), run, [old], "2026-01-29T08:00:00Z")
    assert said[0].verdict == "accepted"
    kept = yard.session.scalars(select(Event).where(Event.id == uuid.UUID(old["id"]))).one()
    assert facts[-1].happened_at is not None and kept.happened_at == facts[-1].happened_at
    assert kept.received_at == yard.now


def test_an_entry_that_came_long_after_it_happened_says_when_it_was_received(yard: Yard) -> None:
    run = yard.run(NUT, count=1)
    yard.now += timedelta(hours=5)
    for number, hours in ((2, 3), (3, 0)):
        told = {
            **event(yard, run, number, "note", {"text": f"{hours} h ago"}, HELD_BY),
            "device_time": time_text(yard.now - timedelta(hours=hours)),
        }
        assert (
            append_events(yard.ctx("tam"), run, [told], time_text(yard.now))[0][0].verdict
            == "accepted"
        )
    story = read_record(yard.ctx("tam"), run).record.story
    marks = {line.text: line.marks for line in story if line.kind == "note"}
    assert marks == {
        "Note: 3 h ago": [f"received {yard.now:%Y-%m-%d %H:%M} UTC"],
        "Note: 0 h ago": [],
    }
