"""Taking a run's lease, appending events: every event gets its verdict, refusals are kept."""

from __future__ import annotations

import json
import re
import uuid
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import Any

from pydantic import ValidationError
from sqlalchemy import func, select

from ...core.documents.read import canonical
from ...core.errors import OrthotorqError
from ...core.forms.errors import field_errors
from ...core.forms.result import Result
from ...core.forms.run import EventIn, RunState
from ...core.messages import Refusal, render
from ...core.running import Fact, Judgement, Log, fold, judge_in, later_of, state_from, touch_of
from ...core.running.log.step_id import parse as parse_step
from ...core.running.walk.actions import HELD
from ...core.running.walk.remaining import still_to_do
from ...core.units import parse
from ...store.models import Event, Person, Photo, Reading, RefusedEvent, Revision, Run
from ..codes import close_head
from ..context import Ctx
from ..errors import BadField, NotFound, Refused, ServiceError
from ..permissions import use_case
from .append import append, happened
from .chain import facts_of, require_whole
from .continuing import cannot_continue
from .pulls import judged_of
from .readings_of import typed_of
from .run_end import changes_condition, keep_touch, note_run
from .start import bound_anew, require_alone, result_of

MAX_BATCH = 100
#: what happens on the server itself has this for its device
SERVER = "server"
_UUID = re.compile("[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}")


@dataclass(frozen=True, slots=True)
class EventAnswer:
    """What became of one event, with the code of its sentence; `missing` is the device's number
    that has to come first."""

    id: str | None
    verdict: str
    text: str
    code: str | None = None
    sequence: int | None = None
    missing: int | None = None


@dataclass(slots=True)
class _Batch:
    """A batch under way: the locked run, its result, its folded log, and when the device sent it;
    ids of its events that were kept or refused before, and the next number of each device, as long
    as nothing of it was refused."""

    ctx: Ctx
    run: Run
    result: Result
    log: Log
    sent_at: str
    kept: set[str]
    refused: set[str]
    #: when the last entry happened
    last: datetime | None = None
    next: dict[str, int] = field(default_factory=dict)
    devices: dict[str, bool] = field(default_factory=dict)


def locked_run(ctx: Ctx, run_id: uuid.UUID) -> Run:
    """The run under a row lock. Raises NotFound, Refused where its row is not as it was saved."""
    run = ctx.session.scalar(select(Run).where(Run.id == run_id).with_for_update())
    if run is None:
        raise NotFound("run")
    require_whole(ctx.session, run)
    return run


@use_case
def take_lease(ctx: Ctx, run_id: uuid.UUID, device: str) -> int:
    """Raise the lease for a device and return its epoch; taps of the old device that are not saved
    yet become conflicts."""
    run = locked_run(ctx, run_id)
    if not 1 <= len(device) <= 80:
        raise BadField(Refusal.BAD_DEVICE, "device")
    if (run.lease_device, run.lease_person) != (device, ctx.person.id):
        run.lease_epoch += 1
        run.lease_device, run.lease_person = device, ctx.person.id
        ctx.session.flush()
    return run.lease_epoch


def _keep_refused(
    ctx: Ctx, run: Run, raw: Any, code: Refusal | None, reason: str = "", **params: object
) -> EventAnswer:
    reason = reason or (render(code, **params) if code is not None else "")
    values = raw if isinstance(raw, dict) else {}
    number, event_id, device = values.get("device_sequence"), values.get("id"), values.get("device")
    try:
        body = canonical(raw)[:20_000]
    except (
        Exception
    ):  # what cannot be canonical JSON (huge integers, lone surrogates) is kept as Python shows it
        body = repr(raw)[:20_000]
    ctx.session.add(
        RefusedEvent(
            id=ctx.new_id(),
            run_id=run.id,
            event_id=event_id[:80] if isinstance(event_id, str) else None,
            device=device[:80] if isinstance(device, str) else None,
            device_sequence=number if isinstance(number, int) and 0 < number < 2**31 else None,
            person_id=ctx.person.id,
            received_at=ctx.now,
            body=body.replace("\x00", "\ufffd"),
            reason=reason[:2000],
        )
    )
    ctx.session.flush()
    return EventAnswer(
        event_id if isinstance(event_id, str) else None,
        "refused",
        reason,
        code.value if code else None,
    )


def _before(ctx: Ctx, run: Run, events: list[Any]) -> tuple[set[str], set[str]]:
    """(Ids of a batch that are kept already, in whatever run; those that this run refused
    before)."""
    ids = [one["id"] for one in events if isinstance(one, dict) and isinstance(one.get("id"), str)]
    whole = [one for one in ids if _UUID.fullmatch(one)]
    kept = ctx.session.scalars(
        select(Event.id).where(Event.id.in_([uuid.UUID(one) for one in whole]))
    )
    refused = ctx.session.scalars(
        select(RefusedEvent.event_id).where(
            RefusedEvent.run_id == run.id, RefusedEvent.event_id.in_(whole)
        )
    )
    return {str(one) for one in kept}, {one for one in refused if one is not None}


def _own_device(batch: _Batch, device: str) -> bool:
    """Whether a device is this person's in this run: the first who sends by its name has it."""
    if device not in batch.devices:
        owner = batch.ctx.session.scalar(
            select(Event.person_id)
            .where(Event.run_id == batch.run.id, Event.device == device)
            .limit(1)
        )
        if owner is None and device == batch.run.lease_device:
            owner = batch.run.lease_person
        batch.devices[device] = device != SERVER and owner in (None, batch.ctx.person.id)
    return batch.devices[device]


def _next(batch: _Batch, device: str) -> int:
    """The next number of a device, by what of it was kept or refused so far."""
    if device not in batch.next:

        def highest(table: type[Event] | type[RefusedEvent]) -> Any:
            return (
                select(func.max(table.device_sequence))
                .where(table.run_id == batch.run.id, table.device == device)
                .scalar_subquery()
            )

        found = batch.ctx.session.execute(select(highest(Event), highest(RefusedEvent))).one()
        batch.next[device] = max(found[0] or 0, found[1] or 0) + 1
    return batch.next[device]


def _kept_before(ctx: Ctx, run: Run, client: dict[str, Any], raw: Any) -> EventAnswer:
    """The old answer for an event that was sent before with the same bytes; a refusal for the same
    id with others."""
    old = ctx.session.scalars(select(Event).where(Event.id == uuid.UUID(client["id"]))).one()
    if old.run_id == run.id and json.loads(old.canonical)["client"] == client:
        return EventAnswer(
            client["id"],
            "duplicate",
            render(Refusal.KEPT_ALREADY),
            Refusal.KEPT_ALREADY.value,
            old.sequence,
        )
    return _keep_refused(ctx, run, raw, Refusal.ID_USED)


def _refused_before(ctx: Ctx, run: Run, client: dict[str, Any], raw: Any) -> EventAnswer | None:
    """The old refusal for an event that was sent before with the same bytes."""
    refused = ctx.session.scalars(
        select(RefusedEvent)
        .where(RefusedEvent.run_id == run.id, RefusedEvent.event_id == client["id"])
        .limit(1)
    ).one()
    return (
        EventAnswer(client["id"], "refused", refused.reason)
        if refused.body == canonical(raw)[:20_000]
        else None
    )


def _counted(batch: _Batch, raw: Any) -> EventAnswer:
    """One event, and what it changes for those behind it in the batch."""
    answer = _one_event(batch, raw)
    if answer.verdict in ("accepted", "conflict") and answer.id is not None:
        batch.kept.add(answer.id)
        batch.next[raw["device"]] = raw["device_sequence"] + 1
    elif answer.verdict == "refused":
        # whatever number was refused is used up: ask again
        batch.next.clear()
        if answer.id is not None:
            batch.refused.add(answer.id)
    return answer


def _one_event(batch: _Batch, raw: Any) -> EventAnswer:
    ctx, run = batch.ctx, batch.run
    try:
        event = EventIn.model_validate(raw)
    except ValidationError as error:
        first = field_errors(error)[0]
        return _keep_refused(
            ctx, run, raw, Refusal.EVENT_FIELD, path=first.pointer(), text=first.text
        )
    # who tapped is said by newer devices only: what older ones sent keeps its bytes
    client = event.model_dump(mode="json", exclude={"person"} if event.person is None else None)
    try:
        canonical(client)
    except ValueError as error:
        return _keep_refused(ctx, run, raw, Refusal.EVENT_PAYLOAD, why=error)
    if event.run != str(run.id):
        return _keep_refused(ctx, run, raw, Refusal.OTHER_RUN)
    if event.person is not None and event.person != str(ctx.person.id):
        return EventAnswer(
            event.id, "other", render(Refusal.OTHER_PERSON), Refusal.OTHER_PERSON.value
        )
    if event.kind == "sign_off":
        return _keep_refused(ctx, run, raw, Refusal.SIGN_WITH_PASSWORD)
    if not _own_device(batch, event.device):
        # not counted among the numbers of that device: they are its own person's
        return _keep_refused(ctx, run, {**raw, "device": None}, Refusal.OTHER_DEVICE)
    expected = _next(batch, event.device)
    if event.id in batch.kept:
        return _kept_before(ctx, run, client, raw)
    if event.id in batch.refused and (seen := _refused_before(ctx, run, client, raw)) is not None:
        return seen
    if event.device_sequence > expected:
        return EventAnswer(
            event.id,
            "gap",
            render(Refusal.NUMBER_MISSING, number=expected),
            Refusal.NUMBER_MISSING.value,
            missing=expected,
        )
    if event.device_sequence < expected:
        # a device that has lost its count, not its tap: it is told where to go on, and sends the
        # same event again
        return EventAnswer(
            event.id,
            "gap",
            render(Refusal.NUMBER_USED, number=event.device_sequence),
            Refusal.NUMBER_USED.value,
            missing=expected,
        )
    return _judged(batch, event, client, raw)


def _followed(
    batch: _Batch, event: EventIn, raw: Any, judgement: Judgement, at: datetime
) -> dict[str, Any] | EventAnswer:
    """What the server adds to an event, or its refusal by what the core does not know."""
    ctx, run, verdict = batch.ctx, batch.run, judgement.verdict
    extra: dict[str, Any] = {}
    begins = event.kind == "continue" or (event.kind == "answer" and not batch.log.order)
    if begins and (second := _second_run(batch)) is not None:
        return _keep_refused(ctx, run, raw, Refusal.SECOND_RUN, second)
    if (
        event.kind == "continue"
        and verdict == "accepted"
        and (why := cannot_continue(ctx, run, batch.log))
    ):
        return _keep_refused(ctx, run, raw, Refusal.CANNOT_CONTINUE, why=why)
    if event.kind == "photo" and verdict == "accepted":
        digest = _photo_digest(ctx, run, event.payload)
        if digest is None:
            return _keep_refused(ctx, run, raw, Refusal.NO_SUCH_PHOTO)
        extra = {"digest": digest}
    if verdict == "refused":
        return _keep_refused(ctx, run, raw, judgement.code, judgement.text)
    if event.kind == "answer" and "pull" in event.payload:
        measured = judged_of(ctx, run, batch.result, event.step, event.payload)
        if measured is None:
            return _keep_refused(ctx, run, raw, Refusal.NO_SUCH_PULL)
        extra = {"judged": measured}
    if event.kind == "tool" and verdict == "accepted":
        try:
            left = still_to_do(batch.result, batch.log, at.timestamp())
            extra = bound_anew(
                ctx, run, left, {t.tool: t.serial for t in batch.log.setup.tools}, event.payload
            )
        except (OrthotorqError, ServiceError) as error:
            return _keep_refused(ctx, run, raw, Refusal.TOOL_FORM, str(error))
    return extra


def _judged(batch: _Batch, event: EventIn, client: dict[str, Any], raw: Any) -> EventAnswer:
    """The verdict of the core, the lease's, and what follows from them."""
    ctx, run = batch.ctx, batch.run
    at = happened(ctx.now, event.device_time, batch.sent_at, batch.last)
    holds = (event.lease, event.device, ctx.person.id) == (
        run.lease_epoch,
        run.lease_device,
        run.lease_person,
    )
    # what was tapped before others took over is kept aside as what it is, whoever works now
    batch.log.holder = ctx.person.name if holds else ""
    judgement = judge_in(
        batch.result,
        batch.log,
        event.kind,
        event.step,
        event.payload,
        ctx.person.roles,
        at.timestamp(),
    )
    verdict, code, sentence = judgement.verdict, judgement.code, judgement.text
    extra = _followed(batch, event, raw, judgement, at)
    if isinstance(extra, EventAnswer):
        return extra
    if event.kind in HELD and not holds:
        holder = ctx.session.get_one(Person, run.lease_person)
        verdict, code = "conflict", Refusal.LEASE_LOST
        sentence = render(code, person=holder.name)
    fact = append(ctx, run, client, verdict, extra, at)
    batch.last = at
    batch.log.add(fact)
    if verdict == "accepted":
        _keep_readings(ctx, run, fact)
        keep_touch(ctx, run, touch_of(batch.result, batch.log, fact), fact)
    return EventAnswer(event.id, verdict, sentence, code.value if code else None, fact.sequence)


def _second_run(batch: _Batch) -> str | None:
    """Why a run does not begin, or go on again: another one works on the joint."""
    joint_id = batch.ctx.session.get_one(Revision, batch.run.revision_id).plan.joint_id
    try:
        require_alone(batch.ctx, joint_id, batch.log.setup.positions, batch.run.id)
    except Refused as refused:
        return str(refused)
    return None


def _photo_digest(ctx: Ctx, run: Run, payload: dict[str, Any]) -> str | None:
    try:
        wanted = uuid.UUID(str(payload.get("photo")))
    except ValueError:
        return None
    return ctx.session.scalar(
        select(Photo.digest).where(Photo.id == wanted, Photo.run_id == run.id)
    )


def _keep_readings(ctx: Ctx, run: Run, fact: Fact) -> None:
    if fact.kind != "answer":
        return
    step = parse_step(fact.step)
    for quantity, words in typed_of(fact.payload).items():
        try:
            base = parse(words, quantity).base
        except OrthotorqError:
            continue
        ctx.session.add(
            Reading(
                run_id=run.id,
                sequence=fact.sequence,
                quantity=quantity,
                step=fact.step,
                place=step.place if step else None,
                value=base,
                typed=words,
                at=ctx.now,
            )
        )


@use_case
def append_events(
    ctx: Ctx, run_id: uuid.UUID, events: list[Any], sent_at: str = ""
) -> tuple[list[EventAnswer], RunState]:
    """Append up to 100 events under the run's lock; every one is answered, and the state after them
    returned."""
    if not 1 <= len(events) <= MAX_BATCH:
        raise BadField(Refusal.BATCH_SIZE, "events", most=MAX_BATCH)
    run = locked_run(ctx, run_id)
    result = result_of(ctx.session, run)
    facts = facts_of(ctx.session, run)
    last = datetime.fromtimestamp(facts[-1].happened, UTC) if facts else None
    batch = _Batch(ctx, run, result, fold(facts), sent_at, *_before(ctx, run, events), last)
    answers = [_counted(batch, raw) for raw in events]
    batch.log.holder = ctx.session.get_one(Person, run.lease_person).name
    state = state_from(result, batch.log, ctx.now.timestamp(), ctx.person.roles)
    if state.instruction is not None and state.instruction.index == 1:
        # once a round: the device keeps them
        state.later = later_of(result, batch.log, ctx.now.timestamp())
    run.provisional, run.conflicts = (
        state.provisional,
        sum(1 for one in state.conflicts if one.settled is None),
    )
    if run.status != state.status or changes_condition(run, state):
        run.status = state.status
        note_run(ctx, run, result, state)
    close_head(run)
    ctx.session.flush()
    return answers, state
