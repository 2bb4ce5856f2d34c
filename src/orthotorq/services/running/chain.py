"""The hash chain of a run: canonical text, hash, and the walk that verifies it."""
from __future__ import annotations

import hashlib
import json
import uuid
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from ...core.documents.read import canonical
from ...core.running import Fact
from ...store.models import Event, Person, Run

GENESIS = "0" * 64


def time_text(at: datetime) -> str:
    """A time as it stands in the chain: ISO 8601 in UTC with microseconds."""
    return at.astimezone(UTC).strftime("%Y-%m-%dT%H:%M:%S.%fZ")


def chain_hash(previous: str, text: str) -> str:
    """SHA-256 of the previous hash and the stored canonical text."""
    return hashlib.sha256((previous + text).encode()).hexdigest()


def canonical_event(client: dict[str, Any], server: dict[str, Any]) -> str:
    """The text that is hashed: what the client sent and what the server added."""
    return canonical({"client": client, "server": server})


def seconds_of(text: str) -> float:
    """A time of the chain in seconds since 1970."""
    return datetime.fromisoformat(text).timestamp()


def fact_of(row: Any) -> Fact:
    """An event's row as the core sees it: `at` is when it happened, by the corrected clock of its device."""
    document = json.loads(row.canonical)
    server = document["server"]
    payload = {**document["client"]["payload"], **server.get("payload", {})}
    at = server.get("happened_at", server["received_at"])
    return Fact(row.sequence, str(row.id), row.step, row.kind, payload, row.name, at, row.hash, row.verdict == "accepted",
                seconds_of(at))


def facts_of(session: Session, run: Run) -> list[Fact]:
    """The events of a run as the core sees them, in sequence order.

    Events never change, so what this worker has read before is read again only where the chain has grown; the hash of
    the last one known is compared, so that the database alone decides.
    """
    known = _READ.get(run.id, [])
    query = select(Event.sequence, Event.id, Event.step, Event.kind, Event.canonical, Event.verdict, Event.hash,
                   Person.name).join(Person, Event.person_id == Person.id).where(Event.run_id == run.id)
    rows = session.execute(query.where(Event.sequence >= (known[-1].sequence if known else 0)).order_by(Event.sequence)).all()
    if known and (not rows or rows[0].hash != known[-1].hash):
        known, rows = [], session.execute(query.order_by(Event.sequence)).all()
    facts = [*known, *(fact_of(row) for row in (rows[1:] if known else rows))]
    # only what is committed may be remembered: the last rows may still be rolled back with this request
    if len(_READ) > 200:
        _READ.clear()
    _READ[run.id] = facts[: _committed(session, run, facts)]
    return facts


_READ: dict[uuid.UUID, list[Fact]] = {}


def _committed(session: Session, run: Run, facts: list[Fact]) -> int:
    """How many of the facts are older than this request's own; those it appended itself are not counted."""
    own: int = session.info.get(("appended", run.id), 0)
    return len(facts) - own


@dataclass(frozen=True, slots=True)
class Break:
    """Where a chain does not hold."""

    run: int
    sequence: int
    what: str


def _check_row(run: Run, event: Event, expected: int, previous: str) -> str | None:
    if event.sequence != expected:
        return f"sequence {event.sequence} stands where {expected} belongs"
    if event.previous_hash != previous:
        return "the previous hash is not that of the entry before"
    if chain_hash(previous, event.canonical) != event.hash:
        return "the text does not give its hash"
    document = json.loads(event.canonical)
    client, server = document["client"], document["server"]
    columns = {"id": str(event.id), "run": str(run.id), "step": event.step, "kind": event.kind, "device": event.device,
               "device_sequence": event.device_sequence, "device_time": event.device_time, "lease": event.lease,
               "last_seen": event.last_seen}
    for name, value in columns.items():
        if client[name] != value:
            return f"column {name} differs from the hashed text"
    added = {"sequence": event.sequence, "verdict": event.verdict, "person": str(event.person_id),
             "received_at": time_text(event.received_at)}
    if event.happened_at is not None:
        added["happened_at"] = time_text(event.happened_at)
    return next((f"column {k} differs from the hashed text" for k, v in added.items() if server.get(k) != v), None)


def verify_run(session: Session, run: Run) -> Break | None:
    """The first place at which a run's chain does not hold, or None."""
    previous, expected = GENESIS, 1
    for event in session.scalars(select(Event).where(Event.run_id == run.id).order_by(Event.sequence)):
        if problem := _check_row(run, event, expected, previous):
            return Break(run.number, event.sequence, problem)
        previous, expected = event.hash, expected + 1
    if (run.head_sequence, run.head_hash) != (expected - 1, previous):
        return Break(run.number, expected, "the run's head is not the end of its chain: entries are missing")
    return None


def verify_all(session: Session) -> tuple[int, list[Break]]:
    """(runs walked, breaks found)."""
    runs = list(session.scalars(select(Run).order_by(Run.number)))
    return len(runs), [b for run in runs if (b := verify_run(session, run)) is not None]
