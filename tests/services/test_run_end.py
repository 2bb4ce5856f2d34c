"""What is known of a joint comes from its record: a provisional run binds it, a proper one makes it
known, nobody presets it."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from random import Random
from typing import Any

import pytest
from sqlalchemy import select
from sqlalchemy.orm import Session

from orthotorq.core.forms.run import Instruction, RunState
from orthotorq.core.running.walk.actions import HELD
from orthotorq.demo.runs import finish_run, sensible_answer, tools_for
from orthotorq.services.accounts.commands import actor_of
from orthotorq.services.accounts.queries import DEMO_PASSWORD
from orthotorq.services.codes import time_text
from orthotorq.services.context import Actor, Ctx
from orthotorq.services.errors import BadField, NotFound, Refused
from orthotorq.services.planning.commands import save_draft
from orthotorq.services.planning.queries import read_draft, read_revision
from orthotorq.services.rechecking.acts import note_opened
from orthotorq.services.registers.commands import change_equipment, change_joint
from orthotorq.services.registers.queries import joint_detail, list_equipment
from orthotorq.services.running.commands import append_events, take_lease
from orthotorq.services.running.prepare import prepare_run
from orthotorq.services.running.queries import read_record, read_run
from orthotorq.services.running.sign import sign_run
from orthotorq.services.running.start import Choices, going_on, start_run
from orthotorq.services.toolroom.checks import add_calibration
from orthotorq.store.models import Joint, Person, Plan, Revision, Tool
from tests.conftest import NOW


class Yard:
    """The demo, with its people; every use of the clock goes on a little."""

    def __init__(self, session: Session) -> None:
        self.session, self.now, self.sent = session, NOW, 0
        self.numbers: dict[tuple[Any, str], int] = {}

    def person(self, login: str) -> Actor:
        return actor_of(self.session.scalars(select(Person).where(Person.login == login)).one())

    def ctx(self, login: str) -> Ctx:
        return Ctx(self.session, self.now, self.person(login))

    def revision(self, title: str) -> Revision:
        return self.session.scalars(select(Revision).join(Plan).where(Plan.title == title)).one()

    def joint(self, title: str) -> Joint:
        return self.revision(title).plan.joint

    def run(self, title: str, count: int = 10_000, tools: bool = True, **choices: Any) -> Any:
        """A run, answered so far; returns its id. One that is in progress there is ended first."""
        revision = self.revision(title)
        for open_, _ in going_on(self.ctx("runa"), revision.plan.joint_id):
            self.send(open_.id, "abandon", "-", {"reason": "another one begins"}, "runa")
        result = read_revision(self.ctx("tam"), revision.id).result
        bound = tools_for(result.tools) if tools else ()
        run = start_run(
            self.ctx("tam"), revision.id, Choices("tablet of tam", tools=bound, **choices)
        )
        chance = Random(7)
        for _ in range(count):
            step = read_run(self.ctx("tam"), run).state.instruction
            if step is None:
                break
            if step.ready_at is not None:
                self.now = max(self.now, datetime.fromtimestamp(step.ready_at + 1, UTC))
            self.send(run, "answer", step.step, sensible_answer(step, chance))
        return run

    def send(
        self, run: Any, kind: str, step: str, payload: dict[str, Any], login: str = "tam"
    ) -> None:
        ctx, device = self.ctx(login), f"tablet of {login}"
        if kind == "answer":
            self._look_after_others(run, step, login)
        self.now += timedelta(seconds=20)
        self.sent += 1
        number = self.numbers[run, device] = self.numbers.get((run, device), 0) + 1
        # what moves the run is done on the device that holds it
        lease = take_lease(ctx, run, device) if kind in HELD else 1
        event = {
            "id": str(ctx.new_id()),
            "run": str(run),
            "step": step,
            "kind": kind,
            "device": device,
            "device_sequence": number,
            "device_time": time_text(self.now),
            "lease": lease,
            "last_seen": read_run(ctx, run).state.sequence,
            "payload": payload,
        }
        answers, _ = append_events(
            Ctx(self.session, self.now, self.person(login)), run, [event], time_text(self.now)
        )
        assert answers[0].verdict == "accepted", answers[0].text

    def _look_after_others(self, run: Any, step: str, login: str) -> None:
        """Who takes a run over says first that all is as it was left."""
        take_lease(self.ctx(login), run, f"tablet of {login}")
        now = read_run(self.ctx(login), run).state.instruction
        if now is not None and "/resumed/" in now.step and now.step != step:
            self.send(run, "answer", now.step, {"answer": "done"}, login)

    def answer_usually(self, run: Any, step: Instruction) -> None:
        if step.ready_at is not None:
            self.now = max(self.now, datetime.fromtimestamp(step.ready_at + 1, UTC))
        self.send(run, "answer", step.step, sensible_answer(step, Random(7)))

    def same_kind(self, serial: str) -> str:
        """Another wrench like one, on the register."""
        like = self.session.scalars(select(Tool).where(Tool.serial == serial)).one()
        columns = {
            c.name: getattr(like, c.name)
            for c in Tool.__table__.columns
            if c.name not in ("id", "serial")
        }
        made = Tool(id=self.ctx("mira").new_id(), serial="K-900", **columns)
        self.session.add(made)
        add_calibration(self.ctx("mira"), made, self.now, self.now + timedelta(days=365), "K-1")
        self.session.flush()
        return "K-900"

    def sign(self, run: Any, login: str = "tam", role: str = "fitter") -> RunState:
        self.now += timedelta(seconds=20)
        found = sign_run(self.ctx(login), run, role, DEMO_PASSWORD)
        assert not isinstance(found, BadField)
        return found

    def close(self, run: Any) -> RunState:
        """Both signatures, with every deviation accepted."""
        for one in read_run(self.ctx("runa"), run).state.deviations:
            if one.accepted_by is None:
                self.send(run, "accept", "-", {"deviation": one.id, "reason": "seen"}, "runa")
        self.sign(run)
        return self.sign(run, "runa", "supervisor")


@pytest.fixture
def yard(session: Session) -> Yard:
    return Yard(session)


NUT = "Fit the conveyor drum journal nut"


def test_a_joint_without_a_record_is_unknown_and_a_signed_run_makes_it_known(yard: Yard) -> None:
    assert yard.joint(NUT).condition == "unknown"
    run = yard.run(NUT)
    assert yard.joint(NUT).condition == "unknown", "finished is not signed"
    yard.sign(run)
    assert "a supervisor has not signed" in yard.joint(NUT).condition_why
    yard.sign(run, "runa", "supervisor")
    view = joint_detail(yard.ctx("mira"), yard.joint(NUT).id).condition
    assert (view.word, view.due) == (
        "proven",
        False,
    ) and f"run {read_run(yard.ctx('tam'), run).head.number}" in view.words


def test_a_provisional_run_binds_its_joint_until_a_proper_one_is_signed(yard: Yard) -> None:
    wheel = "Fit the salt trolley wheels"
    assert yard.joint(wheel).condition == "proven", "the demo has a signed run of it"
    run = yard.run(wheel, variants=("roadside",))
    standing = joint_detail(yard.ctx("runa"), yard.joint(wheel).id).condition
    assert (standing.word, standing.due) == (
        "provisional",
        True,
    ) and "tightened by feel" in standing.words
    assert any(j.condition.due for e in list_equipment(yard.ctx("runa")) for j in e.joints)
    yard.close(run)
    assert yard.joint(wheel).condition == "provisional", "a signature does not make it proper"
    assert read_record(yard.ctx("runa"), run).record.provisional_why == ["tightened by feel"]
    again = yard.run(wheel, occasion="recheck")
    assert read_run(yard.ctx("tam"), again).state.history == "unknown"
    yard.close(again)
    assert yard.joint(wheel).condition == "proven"


@pytest.mark.parametrize(
    ("more", "why"),
    [
        ({"makeshift": "nut of another make"}, "with a makeshift part (nut of another make)"),
        ({"tools": False}, "with a wrench that is not on the register"),
    ],
)
def test_a_spare_or_a_borrowed_wrench_is_provisional(
    yard: Yard, more: dict[str, Any], why: str
) -> None:
    yard.run(NUT, **more)
    assert yard.joint(NUT).condition == "provisional" and why in yard.joint(NUT).condition_why


def test_what_is_said_of_an_opened_joint_is_a_line_and_no_story(yard: Yard) -> None:
    note_opened(yard.ctx("tam"), yard.joint(NUT).id, "x" * 400)
    assert yard.joint(NUT).condition_why.endswith(f"{'x' * 400}).")
    with pytest.raises(BadField, match="400"):
        note_opened(yard.ctx("tam"), yard.joint(NUT).id, "x" * 401)


@pytest.mark.parametrize(
    ("steps", "standing"), [(2, "No run"), (14, "cut short after bolts were turned: rain.")]
)
def test_a_run_that_was_cut_short_leaves_nothing_known(
    yard: Yard, steps: int, standing: str
) -> None:
    run = yard.run(NUT, count=steps)
    yard.send(run, "abandon", "-", {"reason": "rain"}, "runa")
    assert yard.joint(NUT).condition == "unknown" and standing in yard.joint(NUT).condition_why


def test_taken_apart_is_apart_at_once_signed_or_not(yard: Yard) -> None:
    run = yard.run(NUT, occasion="dismantle", tools=False)
    assert yard.joint(NUT).condition == "apart"
    yard.sign(run)
    assert yard.joint(NUT).condition == "apart"


def test_taking_apart_that_was_cut_short_leaves_nothing_known(yard: Yard) -> None:
    cover = "Close the channel cover"
    assert yard.joint(cover).condition == "proven"
    run = yard.run(cover, count=8, occasion="dismantle")
    yard.send(run, "abandon", "-", {"reason": "crane not free"}, "runa")
    assert (
        yard.joint(cover).condition == "unknown" and "cut short" in yard.joint(cover).condition_why
    )


def test_somebody_had_it_open(yard: Yard) -> None:
    cover = "Close the channel cover"
    assert yard.joint(cover).condition == "proven"
    note_opened(yard.ctx("tam"), yard.joint(cover).id, " leak at night ")
    standing = joint_detail(yard.ctx("mira"), yard.joint(cover).id).condition
    assert (standing.word, standing.due) == (
        "unknown",
        True,
    ) and "said by Tam Hollis: leak at night" in standing.words
    with pytest.raises(BadField):
        note_opened(yard.ctx("tam"), yard.joint(cover).id, "x" * 401)
    with pytest.raises(NotFound):
        note_opened(yard.ctx("tam"), yard.ctx("tam").new_id(), "")


def test_the_fitter_can_only_make_it_less_known(yard: Yard) -> None:
    cover = yard.revision("Close the channel cover")
    known = prepare_run(yard.ctx("tam"), cover.id, "recheck")
    assert [h.value for h in known.histories] == ["known", "unknown"] and not known.due
    note_opened(yard.ctx("tam"), cover.plan.joint.id, "")
    view = prepare_run(yard.ctx("tam"), cover.id, "recheck")
    assert (
        [h.value for h in view.histories] == ["unknown"]
        and view.due
        and "Opened by others" in view.condition
    )
    run = start_run(yard.ctx("tam"), cover.id, Choices("d", occasion="recheck", history="known"))
    assert read_run(yard.ctx("tam"), run).state.history == "unknown"


def test_two_runs_do_not_work_on_one_joint(yard: Yard) -> None:
    first, cover = (
        yard.run("Close the channel cover", count=3),
        yard.revision("Close the channel cover"),
    )
    number = read_run(yard.ctx("tam"), first).head.number
    with pytest.raises(
        Refused, match=f"Run {number} is in progress on this joint .Tam Hollis, since"
    ):
        start_run(yard.ctx("runa"), cover.id, Choices("d"))
    going = prepare_run(yard.ctx("runa"), cover.id, "install").going
    assert going is not None and going.value == str(first)
    yard.send(first, "abandon", "-", {"reason": "rain"}, "runa")
    assert start_run(yard.ctx("runa"), cover.id, Choices("d"))


def test_of_two_runs_that_were_begun_the_first_answer_decides(yard: Yard) -> None:
    one, two = (
        start_run(yard.ctx("tam"), yard.revision(NUT).id, Choices("tablet of tam"))
        for _ in range(2)
    )
    yard.answer_usually(one, read_run(yard.ctx("tam"), one).state.instruction)
    step = read_run(yard.ctx("tam"), two).state.instruction
    assert step is not None
    with pytest.raises(AssertionError, match="is in progress on this joint"):
        yard.answer_usually(two, step)
    assert read_run(yard.ctx("tam"), two).state.done == 0


def test_two_positions_are_worked_on_apart(yard: Yard) -> None:
    wheel = yard.revision("Fit the salt trolley wheels")
    bound = tools_for(read_revision(yard.ctx("tam"), wheel.id).result.tools)
    start = {
        side: Choices("tablet of tam", "recheck", tools=bound, positions=(side,))
        for side in ("L", "R")
    }
    left, right = (start_run(yard.ctx("tam"), wheel.id, start[side]) for side in ("L", "R"))
    for run, name in ((left, "left"), (right, "right")):
        while (step := read_run(yard.ctx("tam"), run).state.instruction) is not None:
            assert step.position in (None, name)
            yard.answer_usually(run, step)
        yard.close(run)
    with pytest.raises(BadField, match="no position"):
        start_run(yard.ctx("tam"), wheel.id, Choices("d", "recheck", positions=("X",)))


def test_what_to_take_along_is_that_of_the_occasion_and_the_way(yard: Yard) -> None:
    wheel = yard.revision("Fit the salt trolley wheels")
    kits = {
        way: " | ".join(
            k.text for k in prepare_run(yard.ctx("tam"), wheel.id, occasion, (way,)).kit
        )
        for occasion, way in (("install", "wrench"), ("install", "roadside"))
    }
    assert "wheel wrench" in kits["wrench"] and "wheel wrench" not in kits["roadside"]
    magnet = yard.revision("Hang the magnetic separator")
    kit = prepare_run(yard.ctx("tam"), magnet.id, "install").kit
    assert all(
        "non-magnetic" in k.text for k in kit if k.kind in ("wrench", "socket", "tool", "gauge")
    )
    anchors = prepare_run(
        yard.ctx("tam"), yard.revision("Tighten the anchor row of the rail stop").id, "install"
    ).kit
    assert any(k.kind == "socket" and "1 in drive" in k.text for k in anchors), (
        "the socket has the drive of the multiplier"
    )
    studs = prepare_run(
        yard.ctx("tam"), yard.revision("Set the studs of the brine pump casing").id, "install"
    ).kit
    assert any("two nuts M16" in k.text for k in studs)
    fixture = prepare_run(
        yard.ctx("tam"), yard.revision("Build the valve block fixture").id, "install"
    ).kit
    assert any(k.text.startswith("hexagon key bit 2.5 mm") for k in fixture)


def test_finished_runs_of_the_demo_made_their_joints_known(yard: Yard) -> None:
    known = yard.session.scalars(select(Joint.name).where(Joint.condition == "proven")).all()
    assert set(known) == {"Channel cover", "Trolley wheel", "Bellows clamp"}
    run = finish_run(
        yard.session,
        yard.revision(NUT).id,
        yard.person("tam"),
        yard.person("runa"),
        NOW,
        "dismantle",
    )
    assert (
        read_record(yard.ctx("runa"), run).record.status == "closed"
        and yard.joint(NUT).condition == "apart"
    )


def test_a_record_says_the_names_of_its_own_day(yard: Yard) -> None:
    run = yard.run(NUT)
    yard.sign(run)
    before = read_record(yard.ctx("runa"), run).head
    joint = yard.joint(NUT)
    change_equipment(
        yard.ctx("mira"), joint.equipment_id, joint.equipment.tag, "Another name", "Elsewhere"
    )
    change_joint(yard.ctx("mira"), joint.id, joint.tag, "Another joint", joint.kind)
    plan = yard.revision(NUT).plan
    draft = read_draft(yard.ctx("mira"), plan.id)
    save_draft(
        yard.ctx("mira"), plan.id, draft.version, {**draft.document, "title": "Another title"}
    )
    assert read_record(yard.ctx("runa"), run).head == before
    assert read_record(yard.ctx("runa"), run).not_proven == ""
