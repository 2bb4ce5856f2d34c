"""One event onto the chain of a run, under the run's lock."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

from sqlalchemy.orm.attributes import set_committed_value

from ...core.running import Fact
from ...core.thresholds import OLDEST_DAYS
from ...store.models import Event, Run
from ..codes import event_text, time_text
from ..context import Ctx
from ..keys import code_of
from .chain import canonical_event, chain_hash

OLDEST = timedelta(days=OLDEST_DAYS.value)


def happened(
    received: datetime, device_time: str, sent_at: str, before: datetime | None = None
) -> datetime:
    """When an event happened: the device's clock, corrected by its own time of sending; never in
    the future, and never before the entry `before` it, so that no wait is passed by dating back
    what came before it.

    >>> at = datetime(2026, 11, 24, 12, 0, tzinfo=UTC)
    >>> happened(at, "2026-11-24T09:00:00Z", "2026-11-24T09:10:00Z").isoformat()
    '2026-11-24T11:50:00+00:00'
    """
    try:
        told, sent = (datetime.fromisoformat(t) for t in (device_time, sent_at))
        ago = (sent if sent.tzinfo else sent.replace(tzinfo=UTC)) - (
            told if told.tzinfo else told.replace(tzinfo=UTC)
        )
    except ValueError:
        return received
    at = received - min(max(ago, timedelta(0)), OLDEST)
    return at if before is None else min(max(at, before), received)


def _server_part(
    ctx: Ctx, sequence: int, verdict: str, payload: dict[str, Any], at: datetime
) -> dict[str, Any]:
    server: dict[str, Any] = {
        "sequence": sequence,
        "verdict": verdict,
        "person": str(ctx.person.id),
        "name": ctx.person.name,
        "received_at": time_text(ctx.now),
        "happened_at": time_text(at),
    }
    if payload:
        server["payload"] = payload
    return server


def _note_appended(ctx: Ctx, run: Run, sequence: int, own_hash: str) -> None:
    # the database moves the head with the entry, and lets nobody else do it: here it is only known
    # already
    set_committed_value(run, "head_sequence", sequence)
    set_committed_value(run, "head_hash", own_hash)
    key = ("appended", run.id)
    ctx.session.info[key] = ctx.session.info.get(key, 0) + 1


def append(
    ctx: Ctx,
    run: Run,
    client: dict[str, Any],
    verdict: str,
    payload: dict[str, Any],
    happened_at: datetime | None = None,
) -> Fact:
    """Append one event to the chain under the run's lock, which moves the head; it happened now
    where nothing else is said."""
    sequence = run.head_sequence + 1
    at = happened_at or ctx.now
    body = canonical_event(client, _server_part(ctx, sequence, verdict, payload, at))
    own_hash = chain_hash(run.head_hash, body)
    ctx.session.add(
        Event(
            run_id=run.id,
            sequence=sequence,
            id=uuid.UUID(client["id"]),
            step=client["step"],
            kind=client["kind"],
            verdict=verdict,
            device=client["device"],
            device_sequence=client["device_sequence"],
            device_time=client["device_time"],
            lease=client["lease"],
            last_seen=client["last_seen"],
            person_id=ctx.person.id,
            received_at=ctx.now,
            happened_at=at,
            canonical=body,
            previous_hash=run.head_hash,
            hash=own_hash,
            code=code_of(event_text(run.id, sequence, own_hash)),
        )
    )
    _note_appended(ctx, run, sequence, own_hash)
    return Fact(
        sequence,
        client["id"],
        client["step"],
        client["kind"],
        {**client["payload"], **payload},
        ctx.person.name,
        time_text(at),
        own_hash,
        verdict == "accepted",
        at.timestamp(),
        ctx.now.timestamp(),
        time_text(ctx.now),
    )
