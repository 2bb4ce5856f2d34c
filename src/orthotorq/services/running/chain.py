"""The hash chain of a run: canonical text, hash, and its entries as the core sees them."""
from __future__ import annotations

import hashlib
import json
import sys
import threading
import uuid
from collections import OrderedDict
from datetime import datetime
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from ...core.documents.read import canonical
from ...core.running import Fact
from ...store.models import Event, Person, Run

GENESIS = "0" * 64


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
    payload = {sys.intern(key): value for key, value in {**document["client"]["payload"], **server.get("payload", {})}.items()}
    received = server["received_at"]
    at = server.get("happened_at", received)
    at = received if at == received else at
    # entries of a time when they did not say the name are shown with that of today
    name = server.get("name", row.name)
    # thousands are remembered: words that come again and again are kept once
    return Fact(row.sequence, str(row.id), sys.intern(row.step), sys.intern(row.kind), payload, sys.intern(name), at, row.hash,
                row.verdict == "accepted", seconds_of(at), seconds_of(received), received)


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
    _remember(run.id, facts[: _committed(session, run, facts)])
    return facts


#: entries that a worker remembers at most, of the runs that it was asked for last; of one run all of them
MOST_REMEMBERED = 2000
_READ: OrderedDict[uuid.UUID, list[Fact]] = OrderedDict()
_LOCK = threading.Lock()


def _remember(run: uuid.UUID, facts: list[Fact]) -> None:
    with _LOCK:
        _READ[run] = facts
        _READ.move_to_end(run)
        kept = sum(map(len, _READ.values()))
        while kept > MOST_REMEMBERED and len(_READ) > 1:
            kept -= len(_READ.popitem(last=False)[1])


def _committed(session: Session, run: Run, facts: list[Fact]) -> int:
    """How many of the facts are older than this request's own; those it appended itself are not counted."""
    own: int = session.info.get(("appended", run.id), 0)
    return len(facts) - own
