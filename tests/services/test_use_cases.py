"""Use cases against a real database: permissions, drafts, releases, events."""

from __future__ import annotations

import importlib
import json
import pkgutil
import uuid
from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Any, get_args

import pytest
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from orthotorq.core.documents.plan import JointKind
from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.planning.compute import compute
from orthotorq.core.thresholds import MOST_SIDE_DRAFTS
from orthotorq.services import permissions
from orthotorq.services.accounts.commands import actor_of, sign_in
from orthotorq.services.accounts.people import list_people
from orthotorq.services.accounts.watch import note_event
from orthotorq.services.context import Actor, Ctx
from orthotorq.services.errors import BadField, Forbidden, NotFound, NotSignedIn, Refused, TooMany
from orthotorq.services.planning.commands import (
    Saved,
    SavedAside,
    caution_id,
    copy_plan,
    create_plan,
    put_away,
    release,
    save_draft,
)
from orthotorq.services.planning.queries import list_side_drafts, plans_to_copy, read_draft
from orthotorq.services.planning.versions import compare_versions, list_revisions, take_over_part
from orthotorq.services.registers.commands import (
    change_equipment,
    change_joint,
    register_equipment,
    register_joint,
)
from orthotorq.services.registers.queries import joint_detail
from orthotorq.services.running.commands import append_events, take_lease
from orthotorq.services.running.queries import read_record, read_run
from orthotorq.services.running.start import Choices, start_run
from orthotorq.store.models import (
    Equipment,
    Event,
    Joint,
    Person,
    Plan,
    Reading,
    RefusedEvent,
    Revision,
)
from orthotorq.web import api
from tests.conftest import NOW


def actor(session: Session, login: str) -> Actor:
    return actor_of(session.scalars(select(Person).where(Person.login == login)).one())


@pytest.fixture
def ctx(session: Session) -> Callable[[str], Ctx]:
    return lambda login: Ctx(session, NOW, actor(session, login))


def cover_plan(session: Session) -> Plan:
    return session.scalars(select(Plan).where(Plan.title == "Close the channel cover")).one()


def test_every_use_case_is_in_the_table_and_the_other_way_round() -> None:
    for module in pkgutil.iter_modules(api.__path__):
        importlib.import_module(f"{api.__name__}.{module.name}")
    assert set(permissions.REGISTRY) == set(permissions.TABLE)
    for name, roles in permissions.TABLE.items():
        assert roles is None or (roles and roles <= permissions.ALL), name


def test_nobody_and_the_wrong_role_are_refused(session: Session, ctx) -> None:
    plan = cover_plan(session)
    with pytest.raises(NotSignedIn):
        read_draft(Ctx(session, NOW), plan.id)
    with pytest.raises(Forbidden, match="planner"):
        save_draft(ctx("tam"), plan.id, plan.version, {})
    with pytest.raises(Forbidden):
        start_run(ctx("mira"), session.scalars(select(Revision)).first().id, Choices("d"))


def test_sign_in_keeps_failures_and_stops_after_too_many(session: Session) -> None:
    ctx = Ctx(session, NOW)
    assert isinstance(sign_in(ctx, " TAM ", "saltworks"), Actor)
    for _ in range(8):
        assert isinstance(sign_in(ctx, "tam", "wrong"), NotSignedIn)
    # both sides of the fifteen minutes in which failures count
    with pytest.raises(TooMany):
        sign_in(Ctx(session, NOW + timedelta(minutes=14.9)), "tam", "saltworks")
    assert isinstance(
        sign_in(Ctx(session, NOW + timedelta(minutes=15.1)), "tam", "saltworks"), Actor
    )
    assert isinstance(sign_in(ctx, "nobody", "x"), NotSignedIn)


def test_who_did_something_was_here(session: Session, ctx) -> None:
    def seen(login: str) -> datetime | None:
        return next(p.last_seen for p in list_people(ctx("jory")) if p.login == login)

    before = seen("runa")
    note_event(ctx("runa"), "wrong_password")
    assert seen("runa") == before != ctx("runa").now
    note_event(ctx("runa"), "signature", "run 1")
    assert seen("runa") == ctx("runa").now


def test_the_second_of_two_editors_is_kept_aside(session: Session, ctx) -> None:
    plan = cover_plan(session)
    base = plan.version
    first, second = json.loads(plan.draft), json.loads(plan.draft)
    first["title"], second["title"] = "First", "Second"
    assert isinstance(save_draft(ctx("mira"), plan.id, base, first), Saved)
    outcome = save_draft(ctx("mira"), plan.id, base, second)
    assert isinstance(outcome, SavedAside)
    assert outcome.current_version == base + 1
    assert read_draft(ctx("tam"), plan.id).document["title"] == "First"
    assert [s.document["title"] for s in list_side_drafts(ctx("tam"), plan.id)] == ["Second"]


def test_a_draft_is_saved_as_typed_and_released_only_when_it_computes(
    session: Session, ctx
) -> None:
    plan = cover_plan(session)
    wrong = json.loads(plan.draft)
    wrong["groups"][0]["layout"]["count"] = "sixteen"
    saved = save_draft(ctx("mira"), plan.id, plan.version, wrong)
    assert isinstance(saved, Saved)
    with pytest.raises(DocumentErrors):
        release(ctx("mira"), plan.id, saved.version)
    assert read_draft(ctx("mira"), plan.id).document["groups"][0]["layout"]["count"] == "sixteen"


def test_release_refuses_stops_repeats_and_old_versions(session: Session, ctx) -> None:
    plan = cover_plan(session)
    with pytest.raises(Refused, match="Nothing has changed"):
        release(ctx("mira"), plan.id, plan.version)
    document = json.loads(plan.draft)
    document["sources"][0]["says"]["torque"] = ["900 N·m"]
    saved = save_draft(ctx("mira"), plan.id, plan.version, document)
    with pytest.raises(Refused, match="Errors that block release"):
        release(ctx("mira"), plan.id, saved.version)
    with pytest.raises(Refused, match="changed since"):
        release(ctx("mira"), plan.id, saved.version - 1)
    document["sources"][0]["says"]["torque"] = ["440 N·m"]
    saved = save_draft(ctx("mira"), plan.id, saved.version, document)
    taken = [caution_id(f) for f in compute(document).findings]
    with pytest.raises(BadField, match="reason for the new revision"):
        release(ctx("mira"), plan.id, saved.version, taken_on=taken)
    with pytest.raises(Refused, match="not waived by name"):
        release(ctx("mira"), plan.id, saved.version, "the plate says 440")
    made = release(ctx("mira"), plan.id, saved.version, "the plate says 440", taken)
    assert (made.number, made.reason) == (2, "the plate says 440") and json.loads(made.taken_on)
    assert [r.status for r in plan.revisions if r.number == 1] == ["superseded"]
    with pytest.raises(Refused, match="newer revision"):
        start_run(ctx("tam"), plan.revisions[0].id, Choices("tablet"))


@pytest.mark.parametrize("kind", sorted(get_args(JointKind)))
def test_a_new_plan_begins_computable(session: Session, ctx, kind: str) -> None:
    machine = session.scalars(select(Equipment)).first()
    assert machine is not None
    joint = register_joint(ctx("mira"), machine.id, "new-one", "New one", kind)
    made = create_plan(ctx("mira"), joint, "  New  ")
    with pytest.raises(Refused, match="not confirmed"):
        release(ctx("mira"), made, 1)
    document = read_draft(ctx("mira"), made).document
    del document["examples"]
    save_draft(ctx("mira"), made, 1, document)
    taken = [caution_id(f) for f in compute(document).findings]
    assert release(ctx("mira"), made, 2, taken_on=taken).number == 1


def test_versions_are_listed_held_against_each_other_and_taken_over(session: Session, ctx) -> None:
    plan = cover_plan(session)
    first = list_revisions(ctx("tam"), plan.id)
    assert [(r.number, r.reason, r.released_by) for r in first] == [
        (1, "", "Mira Oslund")
    ] and first[0].taken_on
    document = json.loads(plan.draft)
    document["stages"][0]["title"] = "Made safe"
    saved = save_draft(ctx("mira"), plan.id, plan.version, document)
    found = compare_versions(ctx("tam"), plan.id, str(first[0].id), "draft")
    assert [d.after for d in found] == ["Made safe"]
    back = take_over_part(ctx("mira"), plan.id, str(first[0].id), document, found[0].path).document
    assert back["stages"][0].get("title") == found[0].before
    other = save_draft(ctx("mira"), plan.id, saved.version - 1, {**document, "title": "Aside"})
    assert isinstance(other, SavedAside)
    assert [
        d.after for d in compare_versions(ctx("tam"), plan.id, "draft", str(other.side_draft))
    ] == ["Aside"]
    for wrong in ("nothing", str(plan.id)):
        with pytest.raises(NotFound):
            compare_versions(ctx("tam"), plan.id, wrong, "draft")


def test_a_plan_is_copied_to_a_joint_of_its_kind_and_put_away(session: Session, ctx) -> None:
    plan = session.scalars(select(Plan).join(Joint).where(Joint.name == "Gearbox foot")).one()
    joint = session.scalars(select(Joint).where(Joint.name == "Press frame foot")).one()
    made = read_draft(ctx("mira"), copy_plan(ctx("mira"), plan.id, joint.id))
    assert made.document["joint"] == "WS-1/press-frame" and made.revision_id is None
    with pytest.raises(BadField, match="its own kind"):
        copy_plan(ctx("mira"), cover_plan(session).id, joint.id)
    put_away(ctx("mira"), made.id, True)
    assert [p.put_away for p in joint_detail(ctx("tam"), joint.id).plans if p.id == made.id] == [
        True
    ]


def test_plans_that_may_be_copied_are_found_by_words_in_any_order(session: Session, ctx) -> None:
    joint = session.scalars(select(Joint).where(Joint.name == "Press frame foot")).one()
    found = plans_to_copy(ctx("mira"), joint.id)
    assert [p.joint for p in found] == ["Gearbox foot"] and found[0].number == 1
    assert plans_to_copy(ctx("mira"), joint.id, "foot elevator") == found
    assert plans_to_copy(ctx("mira"), joint.id, "wheel") == []
    with pytest.raises(NotFound):
        plans_to_copy(ctx("mira"), found[0].id)


def test_kind_and_tag_are_put_right_until_something_was_released_and_drafts_follow(
    session: Session, ctx
) -> None:
    machine = register_equipment(ctx("mira"), "MX-1", "Mixer", "Yard", "Quay")
    joint = register_joint(ctx("mira"), machine, "foot", "Foot", "machine_mount")
    plan_id = create_plan(ctx("mira"), joint, "Hold the foot")
    before = read_draft(ctx("mira"), plan_id)
    change_joint(ctx("mira"), joint, "foot-2", "Foot", "stud_row")
    change_equipment(ctx("mira"), machine, "MX-2", "Mixer", "Yard")
    after = read_draft(ctx("mira"), plan_id)
    assert (after.document["joint"], after.document["joint_kind"]) == ("MX-2/foot-2", "stud_row")
    # who has it open is told, and nothing typed meanwhile is lost
    assert isinstance(save_draft(ctx("mira"), plan_id, before.version, before.document), SavedAside)
    released = session.scalars(select(Joint).where(Joint.name == "Gearbox foot")).one()
    with pytest.raises(Refused, match="both stay"):
        change_joint(ctx("mira"), released.id, released.tag, released.name, "stud_row")
    with pytest.raises(Refused, match="its tag stays"):
        change_equipment(ctx("mira"), released.equipment_id, "GB-9", "Elevator", "Elevator")


def test_where_two_release_nobody_releases_what_he_changed_last(
    session: Session, ctx, monkeypatch
) -> None:
    monkeypatch.setenv("ORTHOTORQ_RELEASE_BY_TWO", "1")
    plan = cover_plan(session)
    saved = save_draft(
        ctx("mira"), plan.id, plan.version, {**json.loads(plan.draft), "title": "By two"}
    )
    with pytest.raises(Refused, match="Another person"):
        release(ctx("mira"), plan.id, saved.version, "another title")


class Tablet:
    """A device that sends events with its own sequence."""

    def __init__(self, ctx: Ctx, run: Any, device: str = "tablet") -> None:
        self.ctx, self.run, self.device, self.number = ctx, run, device, 0

    def event(self, kind: str, step: str, payload: dict[str, Any], **more: Any) -> dict[str, Any]:
        self.number += 1
        return {
            "id": str(self.ctx.new_id()),
            "run": str(self.run),
            "step": step,
            "kind": kind,
            "payload": payload,
            "device": self.device,
            "device_sequence": self.number,
            "device_time": "2026-11-24T08:00:00Z",
            "lease": 1,
            "last_seen": 1,
            **more,
        }

    def send(self, *events: Any) -> list[Any]:
        return append_events(self.ctx, self.run, list(events))[0]

    def step(self) -> str:
        found = read_run(self.ctx, self.run).state.instruction
        assert found is not None
        return found.step


@pytest.fixture
def tablet(session: Session, ctx) -> Tablet:
    revision = session.scalars(
        select(Revision).join(Plan).where(Plan.title == "Close the channel cover")
    ).one()
    return Tablet(ctx("tam"), start_run(ctx("tam"), revision.id, Choices("tablet")))


def test_sent_twice_is_kept_once_and_answered_as_before(session: Session, tablet: Tablet) -> None:
    event = tablet.event("answer", tablet.step(), {"answer": "done"})
    first, second = tablet.send(event), tablet.send(event)
    assert first[0].verdict == "accepted"
    assert (second[0].verdict, second[0].sequence) == ("duplicate", first[0].sequence)
    assert (
        session.scalar(select(func.count()).select_from(Event).where(Event.run_id == tablet.run))
        == 2
    )


def test_the_same_id_with_other_bytes_is_refused(tablet: Tablet) -> None:
    event = tablet.event("answer", tablet.step(), {"answer": "done"})
    tablet.send(event)
    answer = tablet.send({**event, "payload": {"answer": "good"}})[0]
    assert (answer.verdict, "another event" in answer.text) == ("refused", True)


def test_a_gap_in_the_device_sequence_is_answered_with_the_missing_number(tablet: Tablet) -> None:
    first = tablet.event("answer", tablet.step(), {"answer": "done"})
    second = tablet.event("note", "-", {"text": "windy"})
    late = tablet.send(second)[0]
    assert (late.verdict, late.missing) == ("gap", 1)
    assert [a.verdict for a in tablet.send(first, second)] == ["accepted", "accepted"]


def test_reordered_deliveries_change_nothing_but_the_times(tablet: Tablet) -> None:
    events = [tablet.event("note", "-", {"text": f"note {i}"}) for i in range(5)]
    for event in reversed(events):
        tablet.send(event)
    tablet.send(*events)
    notes = [
        line.text
        for line in read_record(tablet.ctx, tablet.run).record.story
        if line.kind == "note"
    ]
    assert notes == [f"Note: note {i}" for i in range(5)]


def refused(session: Session, tablet: Tablet) -> int:
    return (
        session.scalar(
            select(func.count()).select_from(RefusedEvent).where(RefusedEvent.run_id == tablet.run)
        )
        or 0
    )


def test_the_first_entry_of_a_run_is_the_servers_own(session: Session, tablet: Tablet) -> None:
    first = session.scalars(
        select(Event).where(Event.run_id == tablet.run, Event.sequence == 1)
    ).one()
    assert (first.kind, first.device, first.device_sequence, first.lease, first.last_seen) == (
        "start",
        "server",
        1,
        1,
        0,
    )


def test_malformed_events_are_refused_kept_and_shown(session: Session, tablet: Tablet) -> None:
    good = tablet.event("answer", tablet.step(), {"answer": "done"})
    bad = [
        {},
        [],
        "x",
        None,
        5,
        {**good, "id": "no"},
        {**good, "lease": "1"},
        {**good, "extra": 1},
        {**good, "kind": "start"},
        {**good, "run": str(tablet.ctx.new_id())},
        {**good, "payload": {"n": 10**400}},
        {**good, "device_sequence": 0},
    ]
    answers = tablet.send(*bad)
    assert {a.verdict for a in answers} == {"refused"}
    assert all(len(a.text) > 5 for a in answers)
    assert refused(session, tablet) == len(bad)
    assert len(read_record(tablet.ctx, tablet.run).refusals) == len(bad)


def test_a_refused_event_sent_again_gets_the_same_answer_and_is_kept_once(
    session: Session, tablet: Tablet
) -> None:
    event = tablet.event("answer", "-/close/full/r1/studs.1", {"answer": "turned"})
    first, second = tablet.send(event)[0], tablet.send(event)[0]
    assert (first.verdict, second.verdict, first.text) == ("refused", "refused", second.text)
    assert refused(session, tablet) == 1
    # twice in one sending it is the same
    other = tablet.event("answer", "-/close/full/r1/studs.1", {"answer": "turned"})
    assert [(a.verdict, a.text) for a in tablet.send(other, other)] == [("refused", first.text)] * 2
    assert refused(session, tablet) == 2
    assert (
        tablet.send(tablet.event("answer", tablet.step(), {"answer": "done"}))[0].verdict
        == "accepted"
    )


def test_taken_over_by_another_tablet(session: Session, ctx, tablet: Tablet) -> None:
    other = Tablet(ctx("runa"), tablet.run, "second")
    epoch = take_lease(ctx("runa"), tablet.run, "second")
    assert epoch == 2
    late = tablet.send(tablet.event("answer", tablet.step(), {"answer": "done"}))[0]
    assert late.verdict == "conflict"
    assert "Runa Tesk" in late.text
    assert (
        other.send(other.event("answer", other.step(), {"answer": "done"}, lease=2))[0].verdict
        == "accepted"
    )
    assert read_record(ctx("tam"), tablet.run).not_proven == ""


def test_readings_stand_in_columns_with_what_was_typed(session: Session, tablet: Tablet) -> None:
    while "/first/" not in tablet.step():
        step = read_run(tablet.ctx, tablet.run).state.instruction
        assert step is not None
        known = {"reading": {"answer": "value", "value": "0,2 mm"}, "check": {"answer": "good"}}
        payload = known.get(step.kind, {"answer": "done"})
        tablet.send(tablet.event("answer", step.step, payload))
    tablet.send(
        tablet.event(
            "answer", tablet.step(), {"answer": "turned", "reading": {"torque": "100 ft-lb"}}
        )
    )
    rows = session.scalars(
        select(Reading).where(Reading.run_id == tablet.run).order_by(Reading.sequence)
    ).all()
    assert [(r.quantity, r.typed, r.place) for r in rows] == [("length", "0,2 mm", None)] * 2 + [
        ("torque", "100 ft-lb", "studs.1")
    ]
    assert rows[2].value == pytest.approx(135581.79483)


def test_the_demo_runs_are_signed_over_their_heads(session: Session, ctx) -> None:
    for run in session.scalars(select(Event.run_id).distinct()):
        view = read_record(ctx("mira"), run)
        assert view.record.status == "closed"
        assert view.not_proven == ""
        heads = {e.hash for e in session.scalars(select(Event).where(Event.run_id == run))}
        assert {s.head_hash for s in view.record.sign_offs} <= heads


def test_what_does_not_exist_is_said(session: Session, ctx) -> None:
    tam = ctx("tam")
    with pytest.raises(NotFound):
        read_run(tam, tam.new_id())
    with pytest.raises(NotFound):
        start_run(tam, tam.new_id(), Choices("d"))


def test_a_draft_that_could_not_be_opened_again_is_not_saved(session: Session, ctx) -> None:
    plan = cover_plan(session)
    document = json.loads(plan.draft)
    nested: Any = "end"
    for _ in range(300):
        nested = [nested]
    for wrong in ({**document, "note": nested}, {**document, "note": float("nan")}):
        with pytest.raises(BadField, match="nested at most 30 deep"):
            save_draft(ctx("mira"), plan.id, plan.version, wrong)
    assert isinstance(save_draft(ctx("mira"), plan.id, plan.version, document), Saved)


def test_a_start_that_is_sent_again_begins_no_second_run(session: Session, ctx) -> None:
    revision = session.scalars(select(Revision).where(Revision.status == "released")).first()
    assert revision is not None
    wanted = uuid.uuid4()
    choices = Choices("tablet", run=wanted)
    assert (
        start_run(ctx("tam"), revision.id, choices)
        == start_run(ctx("tam"), revision.id, choices)
        == wanted
    )
    with pytest.raises(Refused, match="Another run has this id"):
        start_run(ctx("runa"), revision.id, choices)


def test_drafts_of_one_person_are_kept_aside_up_to_a_number(session: Session, ctx) -> None:
    plan = cover_plan(session)
    document = json.loads(plan.draft)
    for number in range(int(MOST_SIDE_DRAFTS.value)):
        aside = save_draft(
            ctx("mira"), plan.id, plan.version - 1, {**document, "title": f"Aside {number}"}
        )
        assert isinstance(aside, SavedAside)
    with pytest.raises(Refused, match="other drafts of this plan already"):
        save_draft(ctx("mira"), plan.id, plan.version - 1, document)
