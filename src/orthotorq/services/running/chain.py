"""The hash chain of a run: canonical text, hash, and its entries as the core sees them."""

from __future__ import annotations

import hashlib
import json
import sys
import threading
import uuid
from collections import OrderedDict
from collections.abc import Sequence
from datetime import datetime
from typing import Any

from sqlalchemy import select, text
from sqlalchemy.orm import Session

from ...core.documents.read import canonical
from ...core.messages import Refusal
from ...core.running import Fact
from ...store.models import Event, Person, Run
from ..codes import event_text, run_text
from ..errors import Refused
from ..keys import holds, keys
from ..revision_proof import NO_CODE

GENESIS = "0" * 64
NO_RUN_CODE = "the run has no code: it was written past the application"


def chain_hash(previous: str, canonical_text: str) -> str:
    """SHA-256 of the previous hash and the stored canonical text."""
    return hashlib.sha256((previous + canonical_text).encode()).hexdigest()


def canonical_event(client: dict[str, Any], server: dict[str, Any]) -> str:
    """The text that is hashed: what the client sent and what the server added."""
    return canonical({"client": client, "server": server})


def seconds_of(time: str) -> float:
    """A time of the chain in seconds since 1970."""
    return datetime.fromisoformat(time).timestamp()


def link_problem(event: Any, expected: int, previous: str) -> str | None:
    """What is wrong with the place of an entry in its chain, or None; its text is read only
    after that."""
    if event.sequence != expected:
        return f"sequence {event.sequence} stands where {expected} belongs"
    if event.previous_hash != previous:
        return "the previous hash is not that of the entry before"
    if chain_hash(previous, event.canonical) != event.hash:
        return "the text does not give its hash"
    return None


def code_problem(event: Any, since: int, number: int, known: dict[str, bytes]) -> str | None:
    """What is wrong with the code of an entry, or None; runs up to the number `since` may have
    none."""
    if event.code:
        return holds(event.code, event_text(event.run_id, event.sequence, event.hash), known)
    return None if number <= since else NO_CODE


def codes_since(session: Session) -> int:
    """The number of the last run that was begun before there were codes; the application cannot
    write it."""
    found = session.scalar(text("SELECT last_run FROM codes_since"))
    return int(found or 0)


def require_whole(session: Session, run: Run) -> None:
    """Raises Refused for a run whose row is not as the application left it: its revision, its
    state, the end of its chain."""
    problem = None
    if run.code:
        problem = holds(run.code, run_text(run))
    elif run.number > codes_since(session):
        problem = NO_RUN_CODE
    if problem is not None:
        raise Refused(Refusal.RUN_NOT_PROVEN, number=run.number, why=problem)


def fact_of(row: Any) -> Fact:
    """An entry as the core sees it, by the text that is hashed: `at` is when it happened, by the
    corrected clock of its device.

    Raises ValueError, LookupError, TypeError or AttributeError for a text that is no entry.
    """
    document = json.loads(row.canonical)
    client, server = document["client"], document["server"]
    payload = {
        sys.intern(key): value
        for key, value in {**client["payload"], **server.get("payload", {})}.items()
    }
    received = server["received_at"]
    at = server.get("happened_at", received)
    at = received if at == received else at
    # entries of a time when they did not say the name are shown with that of today
    name = server.get("name", row.name)
    # thousands are remembered: words that come again and again are kept once
    return Fact(
        server["sequence"],
        client["id"],
        sys.intern(client["step"]),
        sys.intern(client["kind"]),
        payload,
        sys.intern(name),
        at,
        row.hash,
        server["verdict"] == "accepted",
        seconds_of(at),
        seconds_of(received),
        received,
    )


def facts_of(session: Session, run: Run) -> list[Fact]:
    """The events of a run as the core sees them, in sequence order. Raises Refused at the first
    entry that does not hold."""
    facts, problem = read_chain(session, run)
    if problem is not None:
        raise Refused(
            Refusal.RUN_NOT_PROVEN, number=run.number, why=f"entry {len(facts) + 1}: {problem}"
        )
    return facts


def read_chain(session: Session, run: Run) -> tuple[list[Fact], str | None]:
    """(The entries of a run up to the first that does not hold, what is wrong with that one.)

    Entries never change, so what this worker has read before is read again only where the chain has
    grown; the hash of the last one known is compared, so that the database alone decides.
    """
    known = _READ.get(run.id, [])
    query = (
        select(
            Event.run_id,
            Event.sequence,
            Event.canonical,
            Event.previous_hash,
            Event.hash,
            Event.code,
            Person.name,
        )
        .join(Person, Event.person_id == Person.id)
        .where(Event.run_id == run.id)
    )
    rows = session.execute(
        query.where(Event.sequence >= (known[-1].sequence if known else 0)).order_by(Event.sequence)
    ).all()
    if known and (not rows or rows[0].hash != known[-1].hash):
        known, rows = [], session.execute(query.order_by(Event.sequence)).all()
    facts, problem = _read_on(session, run, [*known], rows[1:] if known else rows)
    # only what is committed may be remembered: the last rows may still be rolled back with this
    # request
    _remember(run.id, facts[: _committed(session, run, facts)])
    return facts, problem


def _read_on(
    session: Session, run: Run, facts: list[Fact], rows: Sequence[Any]
) -> tuple[list[Fact], str | None]:
    """Facts that are known, with those of the rows behind them up to the first that does not
    hold."""
    previous, at_hand = facts[-1].hash if facts else GENESIS, keys()
    since = 0 if all(row.code for row in rows) else codes_since(session)
    for row in rows:
        problem = link_problem(row, len(facts) + 1, previous) or code_problem(
            row, since, run.number, at_hand
        )
        if problem is not None:
            return facts, problem
        try:
            facts.append(fact_of(row))
        except (ValueError, LookupError, TypeError, AttributeError):
            return facts, "its text cannot be read"
        previous = row.hash
    return facts, None


#: entries that a worker remembers at most, of the runs that it was asked for last; of one run all
#: of them
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
    """How many of the facts are older than this request's own; those it appended itself are not
    counted."""
    own: int = session.info.get(("appended", run.id), 0)
    return len(facts) - own
