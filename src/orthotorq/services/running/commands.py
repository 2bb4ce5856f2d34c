"""Starting runs, taking their lease, appending events."""
from __future__ import annotations

import json
import uuid
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError
from sqlalchemy import func, select, text
from sqlalchemy.orm import Session

from ...core.documents.base import field_errors
from ...core.documents.read import canonical
from ...core.documents.result import Result
from ...core.documents.run import EventIn, RunState
from ...core.errors import OrthotorqError
from ...core.running import Fact, judge, state_of
from ...core.units import parse
from ...store.models import Event, Person, Reading, RefusedEvent, Revision, Run
from ..context import Ctx
from ..errors import BadField, NotFound, Refused
from ..permissions import use_case
from .chain import GENESIS, canonical_event, chain_hash, facts_of, time_text

MAX_BATCH = 100


@dataclass(frozen=True, slots=True)
class EventAnswer:
    """What became of one event; `missing` is the device's number that has to come first."""

    id: str | None
    verdict: str
    text: str
    sequence: int | None = None
    missing: int | None = None


def locked_run(ctx: Ctx, run_id: uuid.UUID) -> Run:
    """The run under a row lock. Raises NotFound."""
    run = ctx.session.scalar(select(Run).where(Run.id == run_id).with_for_update())
    if run is None:
        raise NotFound("There is no such run.")
    return run


def result_of(session: Session, run: Run) -> Result:
    """The stored result a run works from."""
    return Result.model_validate_json(session.get_one(Revision, run.revision_id).result)


@use_case
def start_run(ctx: Ctx, revision_id: uuid.UUID, device: str) -> uuid.UUID:
    """Start a run of a released revision on a device; its first event keeps what it was started from."""
    revision = ctx.session.get(Revision, revision_id)
    if revision is None:
        raise NotFound("There is no such revision.")
    if revision.status != "released":
        raise Refused("A newer revision has replaced this one; start from that.")
    if not 1 <= len(device) <= 80:
        raise BadField("The device needs an id of 1 to 80 characters.", "device")
    number = ctx.session.scalar(text("SELECT nextval('run_number')"))
    run = Run(id=ctx.new_id(), number=number, revision_id=revision.id, status="running", started_by=ctx.person.id,
              started_at=ctx.now, lease_epoch=1, lease_device=device, lease_person=ctx.person.id, head_sequence=0,
              head_hash=GENESIS)
    ctx.session.add(run)
    ctx.session.flush()
    result = Result.model_validate_json(revision.result)
    settings = [{"stage": s.id, "pass": p.id, "group": p.group, "chain": x.chain, "tool": x.tool, "setting": x.text}
                for s in result.stages for p in s.passes for x in p.settings]
    client = {"id": str(ctx.new_id()), "run": str(run.id), "step": "-", "kind": "start", "device": "server",
              "device_sequence": 1, "device_time": time_text(ctx.now), "lease": 1, "last_seen": 0,
              "payload": {"revision": revision.number, "plan_hash": revision.plan_hash, "tables": result.tables,
                          "core": result.core, "settings": settings}}
    _append(ctx, run, client, "accepted", {})
    return run.id


@use_case
def take_lease(ctx: Ctx, run_id: uuid.UUID, device: str) -> int:
    """Raise the lease for a device and return its epoch; taps of the old device that are not saved yet become conflicts."""
    run = locked_run(ctx, run_id)
    if not 1 <= len(device) <= 80:
        raise BadField("The device needs an id of 1 to 80 characters.", "device")
    if (run.lease_device, run.lease_person) != (device, ctx.person.id):
        run.lease_epoch += 1
        run.lease_device, run.lease_person = device, ctx.person.id
        ctx.session.flush()
    return run.lease_epoch


def _append(ctx: Ctx, run: Run, client: dict[str, Any], verdict: str, payload: dict[str, Any]) -> Fact:
    """Append one event to the chain under the run's lock and move the head."""
    sequence = run.head_sequence + 1
    server: dict[str, Any] = {"sequence": sequence, "verdict": verdict, "person": str(ctx.person.id),
                              "received_at": time_text(ctx.now)}
    if payload:
        server["payload"] = payload
    body = canonical_event(client, server)
    own_hash = chain_hash(run.head_hash, body)
    ctx.session.add(Event(
        run_id=run.id, sequence=sequence, id=uuid.UUID(client["id"]), step=client["step"], kind=client["kind"],
        verdict=verdict, device=client["device"], device_sequence=client["device_sequence"],
        device_time=client["device_time"], lease=client["lease"], last_seen=client["last_seen"], person_id=ctx.person.id,
        received_at=ctx.now, canonical=body, previous_hash=run.head_hash, hash=own_hash))
    run.head_sequence, run.head_hash = sequence, own_hash
    ctx.session.flush()
    return Fact(sequence, client["id"], client["step"], client["kind"], {**client["payload"], **payload}, ctx.person.name,
                server["received_at"], own_hash, verdict == "accepted")


def _keep_refused(ctx: Ctx, run: Run, raw: Any, reason: str) -> EventAnswer:
    values = raw if isinstance(raw, dict) else {}
    number, event_id, device = values.get("device_sequence"), values.get("id"), values.get("device")
    try:
        body = canonical(raw)[:20_000]
    except Exception:  # what cannot be canonical JSON (huge integers, lone surrogates) is kept as Python shows it
        body = repr(raw)[:20_000]
    ctx.session.add(RefusedEvent(
        id=ctx.new_id(), run_id=run.id, event_id=event_id[:80] if isinstance(event_id, str) else None,
        device=device[:80] if isinstance(device, str) else None,
        device_sequence=number if isinstance(number, int) and 0 < number < 2**31 else None,
        person_id=ctx.person.id, received_at=ctx.now, body=body.replace("\x00", "\ufffd"), reason=reason[:2000]))
    ctx.session.flush()
    return EventAnswer(event_id if isinstance(event_id, str) else None, "refused", reason)


def _seen_before(ctx: Ctx, run: Run, client: dict[str, Any], raw: Any) -> EventAnswer | None:
    """The old answer for an event that was sent before with the same bytes; a refusal for the same id with others."""
    old = ctx.session.scalar(select(Event).where(Event.id == uuid.UUID(client["id"])))
    if old is not None:
        if old.run_id == run.id and json.loads(old.canonical)["client"] == client:
            return EventAnswer(client["id"], "duplicate", "Already kept.", old.sequence)
        return _keep_refused(ctx, run, raw, "This id was already used for another event.")
    refused = ctx.session.scalar(select(RefusedEvent).where(RefusedEvent.run_id == run.id,
                                                            RefusedEvent.event_id == client["id"]).limit(1))
    if refused is not None and refused.body == canonical(raw)[:20_000]:
        return EventAnswer(client["id"], "refused", refused.reason)
    return None


def _next_device_sequence(ctx: Ctx, run: Run, device: str) -> int:
    highest = 0
    for table in (Event, RefusedEvent):
        found = ctx.session.scalar(select(func.max(table.device_sequence)).where(table.run_id == run.id,
                                                                                table.device == device))
        highest = max(highest, found or 0)
    return highest + 1


def _one_event(ctx: Ctx, run: Run, result: Result, facts: list[Fact], raw: Any) -> EventAnswer:
    try:
        event = EventIn.model_validate(raw)
    except ValidationError as error:
        first = field_errors(error)[0]
        return _keep_refused(ctx, run, raw, f"{first.pointer()}: {first.text}")
    client = event.model_dump(mode="json")
    try:
        canonical(client)
    except ValueError as error:
        return _keep_refused(ctx, run, raw, f"payload: {error}")
    if event.run != str(run.id):
        return _keep_refused(ctx, run, raw, "This event belongs to another run.")
    if (seen := _seen_before(ctx, run, client, raw)) is not None:
        return seen
    expected = _next_device_sequence(ctx, run, event.device)
    if event.device_sequence > expected:
        return EventAnswer(event.id, "gap", f"Number {expected} of this device has not arrived yet.", missing=expected)
    if event.device_sequence < expected:
        return _keep_refused(ctx, run, raw, f"Number {event.device_sequence} of this device was already used.")
    judgement = judge(result, facts, event.kind, event.step, event.payload, ctx.person.roles)
    verdict, sentence = judgement.verdict, judgement.text
    if verdict == "refused":
        return _keep_refused(ctx, run, raw, sentence)
    if event.lease != run.lease_epoch and event.kind in ("answer", "correct"):
        holder = ctx.session.get_one(Person, run.lease_person)
        verdict = "conflict"
        sentence = f"{holder.name} has taken this run over on another device; this is kept, but moves nothing."
    extra = {"head_hash": run.head_hash} if event.kind == "sign_off" else {}
    fact = _append(ctx, run, client, verdict, extra)
    facts.append(fact)
    if verdict == "accepted":
        _keep_readings(ctx, run, fact)
    return EventAnswer(event.id, verdict, sentence, fact.sequence)


def _keep_readings(ctx: Ctx, run: Run, fact: Fact) -> None:
    if fact.kind != "answer":
        return
    typed = dict((fact.payload.get("reading") or {}).items())
    if fact.payload.get("answer") == "value":
        typed["length"] = fact.payload["value"]
    place = fact.step.split("/")[4]
    for quantity, words in typed.items():
        try:
            value = parse(words, quantity).base
        except OrthotorqError:
            continue
        ctx.session.add(Reading(run_id=run.id, sequence=fact.sequence, quantity=quantity, step=fact.step,
                                place=None if place == "-" else place, value=value, typed=words, at=ctx.now))
    ctx.session.flush()


@use_case
def append_events(ctx: Ctx, run_id: uuid.UUID, events: list[Any]) -> tuple[list[EventAnswer], RunState]:
    """Append up to 100 events under the run's lock; every one is answered, and the state after them returned."""
    if not 1 <= len(events) <= MAX_BATCH:
        raise BadField(f"A batch has 1 to {MAX_BATCH} events.", "events")
    run = locked_run(ctx, run_id)
    result = result_of(ctx.session, run)
    facts = facts_of(ctx.session, run)
    answers = [_one_event(ctx, run, result, facts, raw) for raw in events]
    state = state_of(result, facts)
    run.status = state.status
    ctx.session.flush()
    return answers, state
