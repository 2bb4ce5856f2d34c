"""Coming back: meters, due dates that are stored, what happened to joints, the shift by role."""

from __future__ import annotations

import re
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from icalendar import Calendar
from sqlalchemy import select
from sqlalchemy.orm import Session

from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.demo.runs import finish_run
from orthotorq.services.accounts.commands import actor_of
from orthotorq.services.context import Actor, Ctx
from orthotorq.services.errors import BadField, NotFound, Refused
from orthotorq.services.rechecking.acts import note_opened, note_replaced
from orthotorq.services.rechecking.due_dates import say_happened
from orthotorq.services.rechecking.feeds import calendar_feed, calendar_link
from orthotorq.services.rechecking.history import add_note, joint_history
from orthotorq.services.rechecking.meters import (
    ReadingAsTyped,
    SentReading,
    add_meter,
    add_reading,
    machine,
    send_readings,
    strike_reading,
)
from orthotorq.services.rechecking.refresh import refresh_all, refresh_joint
from orthotorq.services.rechecking.shift import ORDER, day_sheet, shift
from orthotorq.store.models import (
    DueDate,
    Equipment,
    Joint,
    Meter,
    MeterReading,
    Person,
    Plan,
    Revision,
    Run,
)
from tests.conftest import NOW, Database


def actor(session: Session, login: str) -> Actor:
    return actor_of(session.scalars(select(Person).where(Person.login == login)).one())


def ctx(session: Session, login: str = "runa", now: datetime = NOW) -> Ctx:
    return Ctx(session, now, actor(session, login))


def joint_of(session: Session, name: str) -> Joint:
    return session.scalars(select(Joint).where(Joint.name == name)).one()


def dues_of(session: Session, name: str) -> list[DueDate]:
    session.flush()
    return list(
        session.scalars(select(DueDate).where(DueDate.joint_id == joint_of(session, name).id))
    )


def metered(session: Session, a_day: float = 20.0, days: int = 10, first: float = 100.0) -> Meter:
    """The meter of the salt trolley, read every day for so long, up to now."""
    place = session.scalars(select(Equipment).where(Equipment.tag == "TR-3")).one()
    made = add_meter(ctx(session), place.id, "km")
    for day in range(days + 1):
        at = NOW - timedelta(days=days - day)
        add_reading(
            ctx(session, "tam", at), made, ReadingAsTyped(first + a_day * day, at=at.isoformat())
        )
    return session.get_one(Meter, made)


def test_a_recheck_is_forecast_from_a_meter_and_moves_with_its_readings(session: Session) -> None:
    (before,) = dues_of(session, "Trolley wheel")
    assert before.day is None
    assert "no meter in km" in before.why
    meter = metered(session)
    (due,) = dues_of(session, "Trolley wheel")
    assert due.day is not None and due.low is not None and due.high is not None
    assert due.low <= due.day <= due.high
    assert meter.rate == pytest.approx(20.0)
    meant = replace(ctx(session, "tam", NOW + timedelta(days=1)), confirmed=True)
    add_reading(meant, meter.id, ReadingAsTyped("2 300 km"))
    (later,) = dues_of(session, "Trolley wheel")
    assert "past it" in later.why


@pytest.mark.parametrize(
    ("typed", "field", "words"),
    [
        (ReadingAsTyped("90"), "value", "is less than the reading before"),
        (ReadingAsTyped("1,200"), "value", r"1\.200.*1200|1200.*1\.2"),
        (ReadingAsTyped("12 h"), "value", "counts in km"),
        (ReadingAsTyped("soon"), "value", "soon"),
        (ReadingAsTyped("5", "rolled_over"), "before", "starts again"),
        (ReadingAsTyped("5", "replaced", "3"), "before", "last reading of the old meter"),
    ],
)
def test_a_wrong_reading_is_refused_at_its_field_and_leaves_nothing(
    session: Session, typed: ReadingAsTyped, field: str, words: str
) -> None:
    meter = metered(session)
    count = len(
        session.scalars(select(MeterReading).where(MeterReading.meter_id == meter.id)).all()
    )
    with pytest.raises(DocumentErrors) as caught:
        add_reading(ctx(session, "tam", NOW + timedelta(days=1)), meter.id, typed)
    assert caught.value.errors[0].path == (field,)
    assert re.search(words, caught.value.errors[0].text), caught.value.errors[0].text
    assert (
        len(session.scalars(select(MeterReading).where(MeterReading.meter_id == meter.id)).all())
        == count
    )


def test_a_reading_between_two_others_has_to_fit_both(session: Session) -> None:
    meter = metered(session, days=4)
    at = (NOW - timedelta(days=2, hours=5)).isoformat()
    with pytest.raises(DocumentErrors, match="comes after this one"):
        add_reading(ctx(session), meter.id, ReadingAsTyped(9000.0, at=at))
    add_reading(ctx(session), meter.id, ReadingAsTyped(131.0, at=at))
    with pytest.raises(DocumentErrors, match="this very time"):
        add_reading(ctx(session), meter.id, ReadingAsTyped(131.0, at=at))
    for text in ("tomorrow", "2028"):
        with pytest.raises(BadField):
            add_reading(
                ctx(session),
                meter.id,
                ReadingAsTyped(131.0, at=text if text != "2028" else "2999-01-01"),
            )


def test_a_counter_is_replaced_and_a_slip_is_struck_out(session: Session) -> None:
    meter = metered(session, days=4)
    total = meter.total
    assert total is not None
    made = add_reading(
        ctx(session, "tam", NOW + timedelta(days=1)),
        meter.id,
        ReadingAsTyped("5", "replaced", "210"),
    )
    assert meter.total == pytest.approx(total + 30.0)
    assert meter.shown == 5.0
    strike_reading(ctx(session), made)
    assert (meter.total, meter.shown) == (total, 180.0)
    with pytest.raises(Refused, match="struck out already"):
        strike_reading(ctx(session), made)
    seen = machine(ctx(session), meter.equipment_id).meters[0]
    assert [one.struck for one in seen.readings][:2] == [True, False]


def test_readings_of_many_machines_are_kept_all_or_none(session: Session) -> None:
    metered(session)
    later = (NOW + timedelta(minutes=2)).isoformat()
    good = SentReading("TR-3", "km", 320.0, later)
    said = send_readings(ctx(session), [good, SentReading("XX-9", "km", 1.0, later)])
    assert [one.kept for one in said] == [False, False]
    assert said[1].text == "XX-9 has no meter in km"
    assert [one.kept for one in send_readings(ctx(session), [good])] == [True]


def test_a_machine_has_one_meter_of_a_unit(session: Session) -> None:
    meter = metered(session)
    with pytest.raises(BadField, match="has a meter in km already"), session.begin_nested():
        add_meter(ctx(session), meter.equipment_id, "km")
    with pytest.raises(BadField, match="counts in"):
        add_meter(ctx(session), meter.equipment_id, "furlongs")


def test_a_joint_that_was_open_or_never_tightened_is_due_at_once(session: Session) -> None:
    (never,) = dues_of(session, "Gearbox foot")
    assert (never.at_once, never.occasion) == (True, "install")
    note_opened(ctx(session, "tam"), joint_of(session, "Trolley wheel").id, "tyre people")
    (opened,) = dues_of(session, "Trolley wheel")
    assert (opened.at_once, opened.occasion, opened.day) == (True, "install", NOW.date())
    assert "tyre people" in opened.why


def test_a_recheck_that_is_run_moves_the_next_one(session: Session) -> None:
    metered(session, a_day=60.0, days=20)
    (first,) = dues_of(session, "Trolley wheel")
    revision = session.scalars(
        select(Revision).join(Plan).where(Plan.title == "Fit the salt trolley wheels")
    ).one()
    finish_run(session, revision.id, actor(session, "tam"), actor(session, "runa"), NOW, "recheck")
    # a position at which bolts had moved has a day of its own
    for second in dues_of(session, "Trolley wheel"):
        assert first.reading is not None and second.reading is not None
        assert second.reading > first.reading
    run = session.scalars(select(Run).order_by(Run.number.desc())).first()
    assert (
        run is not None
        and run.checked > 0
        and run.occasion == "recheck"
        and run.ended_at is not None
    )
    lines = joint_history(ctx(session), joint_of(session, "Trolley wheel").id).lines
    assert lines[0].title.startswith("Recheck, run")


def test_new_parts_begin_the_count_of_uses_anew(session: Session) -> None:
    joint = joint_of(session, "Trolley wheel")
    assert joint_history(ctx(session), joint.id).uses == 1
    note_replaced(ctx(session, "tam"), joint.id, "all nuts", in_last_run=True)
    view = joint_history(ctx(session), joint.id)
    assert view.uses == 1 and "since they were replaced" in view.uses_words
    note_replaced(ctx(session, "tam"), joint.id, "all nuts again")
    view = joint_history(ctx(session), joint.id)
    assert view.uses == 0
    assert view.lines[0].title == "Parts replaced"


def test_a_note_needs_words_and_a_joint(session: Session) -> None:
    joint = joint_of(session, "Trolley wheel")
    add_note(ctx(session), joint.id, " turn it to the door ")
    assert joint_history(ctx(session), joint.id).lines[0].words == "turn it to the door"
    with pytest.raises(BadField, match="Enter what"):
        add_note(ctx(session), joint.id, "  ")
    with pytest.raises(NotFound):
        add_note(ctx(session), ctx(session).new_id(), "x")


def test_what_a_rule_waits_for_makes_it_due_when_it_is_said(session: Session) -> None:
    joint, revision = (
        joint_of(session, "Trolley wheel"),
        session.scalars(
            select(Revision).join(Plan).where(Plan.title == "Fit the salt trolley wheels")
        ).one(),
    )
    # as a plan says it: a revision itself is frozen, so one beside it stands for the plan
    from orthotorq.core.planning.compute import compute
    from orthotorq.services.planning.commands import caution_id, release, save_draft
    from orthotorq.services.planning.queries import read_draft

    planner, plan = ctx(session, "mira"), revision.plan_id
    draft = read_draft(planner, plan)
    document: dict[str, Any] = {
        **draft.document,
        "rechecks": [
            *draft.document["rechecks"],
            {"id": "storm", "meter": "d", "after": "a storm"},
            {"id": "autumn", "meter": "d", "season": "10-01"},
        ],
    }
    saved = save_draft(planner, plan, draft.version, document)
    release(
        planner,
        plan,
        saved.version,
        "rechecks after storms",
        [caution_id(f) for f in compute(document).findings],
    )  # type: ignore[union-attr]
    found = {one.rule: one for one in dues_of(session, "Trolley wheel")}
    assert found["storm"].day is None
    assert found["autumn"].day is not None and (
        found["autumn"].day.month,
        found["autumn"].day.day,
    ) == (10, 1)
    with pytest.raises(NotFound):
        say_happened(ctx(session), joint.id, "autumn")
    say_happened(ctx(session), joint.id, "storm")
    storm = {one.rule: one for one in dues_of(session, "Trolley wheel")}["storm"]
    assert (storm.day, storm.at_once) == (NOW.date(), True)


def test_the_worker_forecasts_every_joint_anew(database: Database, session: Session) -> None:
    sessions = database.sessions()
    count = refresh_all(sessions, lambda opened: Ctx(opened, datetime.now(UTC)), step=5)
    sessions.kw["bind"].dispose()
    assert count == len(session.scalars(select(Joint)).all())


def test_a_calendar_is_read_by_its_secret_and_ends_when_it_is_renewed(session: Session) -> None:
    mine = ctx(session, "tam")
    assert calendar_link(mine).since is None
    first = calendar_link(mine, "make").address.rpartition("/")[2].removesuffix(".ics")
    refresh_joint(mine, joint_of(session, "Bellows clamp").id)
    book = Calendar.from_ical(calendar_feed(Ctx(session, NOW), first))
    events = book.walk("VEVENT")
    dated = session.scalars(select(DueDate).where(DueDate.day.is_not(None))).all()
    assert len(events) == len(dated) > 3
    one = next(e for e in events if "Bellows clamp" in str(e["summary"]))
    assert one.decoded("dtstart") == dues_of(session, "Bellows clamp")[0].day
    assert "/joints/" in str(one["url"])
    second = calendar_link(mine, "make").address
    assert first not in second
    for secret in (first, "guessed", ""):
        with pytest.raises(NotFound, match="no such calendar"):
            calendar_feed(Ctx(session, NOW), secret)
    assert calendar_link(mine, "end").since is None


def test_each_role_finds_its_own_lists_and_every_list_says_when_it_is_empty(
    session: Session,
) -> None:
    for role, login in (
        ("planner", "mira"),
        ("fitter", "tam"),
        ("supervisor", "runa"),
        ("administrator", "jory"),
    ):
        view = shift(ctx(session, login))
        assert [one.id for one in view.lists] == list(ORDER[role])
        assert all(one.empty for one in view.lists)
    name, data = day_sheet(ctx(session)).run(ctx(session))
    assert name == "shift.pdf" and data[:4] == b"%PDF"
