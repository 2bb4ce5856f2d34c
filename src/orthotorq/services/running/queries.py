"""Reading runs and records."""

from __future__ import annotations

import json
import uuid
from dataclasses import dataclass, replace
from datetime import datetime

from sqlalchemy import select

from ...core import messages
from ...core.forms.group import GroupOut
from ...core.forms.record import Compared, Record, SummaryLine
from ...core.forms.result import PositionOut, Result
from ...core.forms.run import RunState
from ...core.forms.stored import stored_result
from ...core.kinds.stage_kind import OCCASIONS
from ...core.running import (
    Fact,
    Log,
    checked_bolts,
    compare,
    fold,
    groups_of,
    later_of,
    record_of,
    state_from,
)
from ...core.running.present.outcome import outcome_of
from ...core.running.present.summary import summary_of
from ...core.running.walk.actions import NEXT_SIGNATURE, STATUS
from ...core.running.walk.program import units_of
from ...store.models import Equipment, Event, Joint, Person, Plan, RefusedEvent, Revision, Run
from ..context import Ctx
from ..errors import NotFound, Refused
from ..permissions import use_case
from ..revision_proof import revision_problem
from .chain import facts_of, read_chain, require_whole
from .continuing import cannot_continue
from .start import result_of
from .verify import verify_run


@dataclass(frozen=True, slots=True)
class RunHead:
    """Where a run belongs."""

    id: uuid.UUID
    number: int
    status: str
    title: str
    joint_name: str
    equipment_name: str
    equipment_tag: str
    revision: int
    revision_id: uuid.UUID
    started_at: datetime
    started_by: str
    status_text: str
    under_way: bool
    provisional: bool
    joint_id: uuid.UUID


@dataclass(frozen=True, slots=True)
class RunView:
    """A run as the Run screen opens it."""

    head: RunHead
    lease_epoch: int
    lease_device: str
    lease_person: str
    groups: list[GroupOut]
    positions: list[PositionOut]
    joint_kind: str
    state: RunState
    stages: list[PositionOut]
    #: why a run that was ended early cannot be continued; empty where it can, and for every other
    #: run
    cannot_continue: str = ""


@dataclass(frozen=True, slots=True)
class Refusal:
    """A refused event, as kept."""

    at: datetime
    person: str
    reason: str


_NEXT = {"running": "Continue", **dict.fromkeys(NEXT_SIGNATURE, "Sign off")}


@dataclass(frozen=True, slots=True)
class Signature:
    """A signature that a record has, or still lacks: then nobody's, and at no time."""

    role: str
    person: str
    at: str


@dataclass(frozen=True, slots=True)
class RecordView:
    """A record with where it belongs and whether its chain holds."""

    head: RunHead
    record: Record
    groups: list[GroupOut]
    positions: list[PositionOut]
    calculated: bool
    plan_hash: str
    head_hash: str
    events: int
    #: what of the run or its revision does not hold; empty where all does
    not_proven: str
    refusals: list[Refusal]
    compared: Compared | None
    occasion_text: str
    #: what the run still asks for, in words; empty when nothing
    next_step: str
    #: the run in five lines
    summary: list[SummaryLine]
    signatures: list[Signature]


def _run(ctx: Ctx, run_id: uuid.UUID) -> Run:
    run = ctx.session.get(Run, run_id)
    if run is None:
        raise NotFound("run")
    return run


def _head(ctx: Ctx, run: Run) -> RunHead:
    revision = ctx.session.get_one(Revision, run.revision_id)
    joint = revision.plan.joint
    person = ctx.session.get_one(Person, run.started_by)
    return RunHead(
        run.id,
        run.number,
        run.status,
        revision.plan.title,
        joint.name,
        joint.equipment.name,
        joint.equipment.tag,
        revision.number,
        revision.id,
        run.started_at,
        person.name,
        STATUS[run.status],
        run.status == "running",
        run.provisional,
        joint.id,
    )


@use_case
def list_runs(ctx: Ctx, before: int | None, limit: int) -> list[RunHead]:
    """Runs, newest first, older than run number `before`."""
    query = (
        select(
            Run,
            Plan.title,
            Joint.id,
            Joint.name,
            Equipment.name,
            Equipment.tag,
            Revision.number,
            Person.name,
        )
        .join(Revision, Run.revision_id == Revision.id)
        .join(Plan, Revision.plan_id == Plan.id)
        .join(Joint, Plan.joint_id == Joint.id)
        .join(Equipment, Joint.equipment_id == Equipment.id)
        .join(Person, Run.started_by == Person.id)
        .order_by(Run.number.desc())
        .limit(limit)
    )
    if before is not None:
        query = query.where(Run.number < before)
    return [
        RunHead(
            run.id,
            run.number,
            run.status,
            title,
            joint,
            machine,
            tag,
            number,
            run.revision_id,
            run.started_at,
            name,
            STATUS[run.status],
            run.status == "running",
            run.provisional,
            joint_id,
        )
        for run, title, joint_id, joint, machine, tag, number, name in ctx.session.execute(query)
    ]


@dataclass(frozen=True, slots=True)
class Suggestion:
    """A fitter's wish about a step of a plan."""

    run: int
    step: str
    text: str
    person: str
    at: datetime


@use_case
def list_suggestions(ctx: Ctx, plan_id: uuid.UUID) -> list[Suggestion]:
    """What fitters asked to be changed, from every run of a plan, newest first."""
    rows = ctx.session.execute(
        select(Run.number, Event.step, Event.canonical, Person.name, Event.received_at)
        .join(Run, Event.run_id == Run.id)
        .join(Revision, Run.revision_id == Revision.id)
        .join(Person, Event.person_id == Person.id)
        .where(Revision.plan_id == plan_id, Event.kind == "suggest")
        .order_by(Event.received_at.desc())
        .limit(100)
    )
    return [
        Suggestion(
            number, step, str(json.loads(text)["client"]["payload"].get("text", "")), name, at
        )
        for number, step, text, name, at in rows
    ]


@use_case
def read_run(ctx: Ctx, run_id: uuid.UUID) -> RunView:
    """A run with its state. Raises NotFound."""
    run = _run(ctx, run_id)
    require_whole(ctx.session, run)
    result = result_of(ctx.session, run)
    holder = ctx.session.get_one(Person, run.lease_person)
    log, now = fold(facts_of(ctx.session, run)), ctx.now.timestamp()
    log.holder = holder.name
    state = state_from(result, log, now, ctx.person.roles)
    state.later = later_of(result, log, now)
    taken = groups_of(result, state.variants)
    return RunView(
        _head(ctx, run),
        run.lease_epoch,
        run.lease_device,
        holder.name,
        taken,
        result.positions,
        result.joint_kind,
        state,
        _stages(result, log),
        cannot_continue(ctx, run, log) if run.status == "abandoned" else "",
    )


def _stages(result: Result, log: Log) -> list[PositionOut]:
    """Stages of what is done in a run, by id and title, for choosing what is done again."""
    taken = {unit.stage.id: unit.stage.title for unit in units_of(result, log.setup)}
    return [PositionOut(id=one, name=title) for one, title in taken.items()]


def _signatures(record: Record) -> list[Signature]:
    """Who signed, in the order in which it is signed."""
    signed = {one.role: one for one in record.sign_offs}
    return [
        Signature(role, signed[role].person, signed[role].at)
        if role in signed
        else Signature(role, "", "")
        for role in NEXT_SIGNATURE.values()
    ]


def open_record(ctx: Ctx, run_id: uuid.UUID) -> tuple[RecordView, Result, list[Fact]]:
    """(the record of a run, its result, its events). Raises NotFound."""
    run = _run(ctx, run_id)
    revision = ctx.session.get_one(Revision, run.revision_id)
    # a record is opened whatever was done to it: it says what does not hold, and shows what stands
    # before that
    result, (facts, _) = stored_result(revision.result), read_chain(ctx.session, run)
    rows = ctx.session.execute(
        select(RefusedEvent.received_at, Person.name, RefusedEvent.reason)
        .join(Person, RefusedEvent.person_id == Person.id)
        .where(RefusedEvent.run_id == run.id)
        .order_by(RefusedEvent.received_at)
        .limit(200)
    ).all()
    if not facts:
        raise Refused(
            messages.Refusal.RUN_NOT_PROVEN, number=run.number, why=_problem(ctx, run, revision)
        )
    record = record_of(result, facts, ctx.now.timestamp())
    head = _as_begun(_head(ctx, run), result, facts)
    view = RecordView(
        head,
        record,
        result.groups,
        result.positions,
        result.calculated,
        result.plan_hash,
        run.head_hash,
        run.head_sequence,
        _problem(ctx, run, revision),
        [Refusal(at, name, reason) for at, name, reason in rows],
        _compared(ctx, run, record),
        OCCASIONS.get(record.occasion, record.occasion),
        _NEXT.get(record.status, ""),
        summary_of(
            result, record, outcome_of(result, fold(facts), run.number, ctx.now.timestamp())
        ),
        _signatures(record),
    )
    return view, result, facts


def _problem(ctx: Ctx, run: Run, revision: Revision) -> str:
    """What of a run or of the revision it was led by does not hold, in words; empty where all
    does."""
    broken = verify_run(ctx.session, run)
    if broken is not None:
        return str(broken)
    changed = revision_problem(ctx.session, revision)
    return f"revision {revision.number}, by which this was done: {changed}" if changed else ""


def _as_begun(head: RunHead, result: Result, facts: list[Fact]) -> RunHead:
    """The head of a record with the names that plan, machine and joint had when the run was
    begun."""
    start = next((fact for fact in facts if fact.kind == "start"), None)
    names = (start.payload.get("names") if start is not None else None) or {}
    return replace(
        head,
        title=result.title,
        joint_name=names.get("joint", head.joint_name),
        equipment_name=names.get("machine", head.equipment_name),
        equipment_tag=names.get("machine_tag", head.equipment_tag),
    )


def _compared(ctx: Ctx, run: Run, record: Record) -> Compared | None:
    """Against the last signed run of the same joint that checked its bolts; a run without a check
    is not compared."""
    if not checked_bolts(record):
        return None
    joint = (
        select(Plan.joint_id)
        .join(Revision, Revision.plan_id == Plan.id)
        .where(Revision.id == run.revision_id)
    )
    earlier = ctx.session.scalars(
        select(Run)
        .join(Revision, Run.revision_id == Revision.id)
        .join(Plan, Revision.plan_id == Plan.id)
        .where(
            Plan.joint_id == joint.scalar_subquery(),
            Run.number < run.number,
            Run.status.in_(("signed", "closed")),
        )
        .order_by(Run.number.desc())
        .limit(8)
    )
    for before in earlier:
        revision = ctx.session.get_one(Revision, before.revision_id)
        if _problem(ctx, before, revision):
            continue
        past = record_of(
            result_of(ctx.session, before), facts_of(ctx.session, before), ctx.now.timestamp()
        )
        if checked_bolts(past):
            return compare(
                record,
                past,
                before.number,
                {p.id: p.name for p in result_of(ctx.session, run).positions},
            )
    return None


@use_case
def read_record(ctx: Ctx, run_id: uuid.UUID) -> RecordView:
    """The record of a run. Raises NotFound."""
    return open_record(ctx, run_id)[0]
