"""The walk over what is kept: every chain, every code, and what is written beside the chains so that it is found fast."""
from __future__ import annotations

import json
import uuid
from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from functools import lru_cache
from itertools import groupby
from typing import Any

from sqlalchemy import select, text
from sqlalchemy.orm import Session

from ...core.errors import OrthotorqError
from ...core.units import parse
from ...store.models import Event, Person, Photo, Reading, Revision, Run
from ..codes import event_text, revision_text, run_text, time_text
from ..keys import holds, keys
from .chain import GENESIS, chain_hash
from .readings_of import typed_of


@dataclass(frozen=True, slots=True)
class Break:
    """Where something kept does not hold; `sequence` is the entry of a run, 0 of what belongs to none."""

    where: str
    sequence: int
    what: str

    def __str__(self) -> str:
        return f"{self.where}, entry {self.sequence}: {self.what}" if self.sequence else f"{self.where}: {self.what}"


@dataclass(slots=True)
class Walked:
    """What was walked: runs, entries, those of a time before there were codes, what does not hold, what is only said."""

    runs: int = 0
    entries: int = 0
    uncoded: int = 0
    breaks: list[Break] = field(default_factory=list)
    said: list[Break] = field(default_factory=list)
    #: readings that were typed, by run
    typed: dict[uuid.UUID, int] = field(default_factory=dict)


_COLUMNS = (Event.run_id, Event.sequence, Event.id, Event.step, Event.kind, Event.verdict, Event.device, Event.device_sequence,
            Event.device_time, Event.lease, Event.last_seen, Event.person_id, Event.received_at, Event.happened_at,
            Event.canonical, Event.previous_hash, Event.hash, Event.code)


def _linked(event: Any, expected: int, previous: str) -> str | None:
    """What is wrong with the place of an entry in its chain, or None; its text is read only after that."""
    if event.sequence != expected:
        return f"sequence {event.sequence} stands where {expected} belongs"
    if event.previous_hash != previous:
        return "the previous hash is not that of the entry before"
    if chain_hash(previous, event.canonical) != event.hash:
        return "the text does not give its hash"
    return None


def _row(event: Any, document: dict[str, Any]) -> str | None:
    """What is wrong with one entry beside its text, which is read into `document`, or None."""
    client, server = document["client"], document["server"]
    columns = {"id": str(event.id), "run": str(event.run_id), "step": event.step, "kind": event.kind, "device": event.device,
               "device_sequence": event.device_sequence, "device_time": event.device_time, "lease": event.lease,
               "last_seen": event.last_seen}
    for name, value in columns.items():
        if client[name] != value:
            return f"column {name} differs from the hashed text"
    added = {"sequence": event.sequence, "verdict": event.verdict, "person": str(event.person_id),
             "received_at": time_text(event.received_at),
             "happened_at": time_text(event.happened_at) if event.happened_at is not None else None}
    for name, value in added.items():
        if server.get(name) != value:
            return f"column {name} differs from the hashed text"
    return None


def _coded(event: Any, since: int, number: int, known: dict[str, bytes]) -> str | None:
    """What is wrong with the code of an entry, or None; runs up to the number `since` may have none."""
    if event.code:
        return holds(event.code, event_text(event.run_id, event.sequence, event.hash), known)
    return None if number <= since else "it has no code: it was written past the application"


def codes_since(session: Session) -> int:
    """The number of the last run that was begun before there were codes; the application cannot write it."""
    found = session.scalar(text("SELECT last_run FROM codes_since"))
    return int(found or 0)


def walk_chain(run: Any, events: Iterable[Any], since: int, walked: Walked, photos: dict[uuid.UUID, tuple[str, str]]) -> None:
    """One chain from its first entry to its head, up to the first thing that does not hold."""
    where, previous, expected, typed, known = f"run {run.number}", GENESIS, 1, 0, keys()
    for event in events:
        problem = _linked(event, expected, previous)
        document = json.loads(event.canonical) if problem is None else {}
        problem = problem or _row(event, document) or _coded(event, since, run.number, known) or _photo(event, document, photos)
        if problem:
            walked.breaks.append(Break(where, event.sequence, problem))
            return
        walked.entries += 1
        walked.uncoded += not event.code
        if event.kind == "answer" and event.verdict == "accepted":
            typed += len(typed_of(document["client"]["payload"]))
        previous, expected = event.hash, expected + 1
    if (run.head_sequence, run.head_hash) != (expected - 1, previous):
        walked.breaks.append(Break(where, expected, "the run's head is not the end of its chain: entries are missing"))
    elif run.code and (problem := holds(run.code, run_text(run))):
        walked.breaks.append(Break(where, 0, f"what stands of the run beside its chain was changed: {problem}"))
    elif not run.code and run.number > since:
        walked.breaks.append(Break(where, 0, "the run has no code: it was written past the application"))
    walked.typed[run.id] = typed


def _photo(event: Any, document: dict[str, Any], photos: dict[uuid.UUID, tuple[str, str]]) -> str | None:
    if event.kind != "photo" or event.verdict != "accepted":
        return None
    digest = document["server"].get("payload", {}).get("digest")
    kept = photos.get(uuid.UUID(document["client"]["payload"]["photo"]))
    if kept is None:
        return "its photo is not there"
    return None if kept == (digest, digest) else "its photo is not the one that was kept"


def _photos(session: Session, run: uuid.UUID | None = None) -> dict[uuid.UUID, tuple[str, str]]:
    """Photos by id: the digest that is kept, and the one that their bytes give now."""
    wanted = select(Photo.id, Photo.digest, text("encode(sha256(photo.data), 'hex')"))
    rows = session.execute(wanted if run is None else wanted.where(Photo.run_id == run))
    return {one: (digest, now) for one, digest, now in rows}


def verify_run(session: Session, run: Run) -> Break | None:
    """The first place at which a run's chain does not hold, or None."""
    walked = Walked()
    events = session.execute(select(*_COLUMNS).where(Event.run_id == run.id).order_by(Event.sequence))
    walk_chain(run, events, codes_since(session), walked, _photos(session, run.id))
    return walked.breaks[0] if walked.breaks else None


def verify_all(session: Session) -> Walked:
    """Walk everything that is kept."""
    walked, since = Walked(), codes_since(session)
    runs = {run.id: run for run in session.execute(select(
        Run.id, Run.number, Run.revision_id, Run.status, Run.started_by, Run.started_at, Run.occasion, Run.provisional,
        Run.head_sequence, Run.head_hash, Run.code))}
    walked.runs = len(runs)
    photos = _photos(session)
    events = session.execute(select(*_COLUMNS).order_by(Event.run_id, Event.sequence).execution_options(yield_per=2000))
    seen = set()
    for run_id, own in groupby(events, lambda event: event.run_id):
        seen.add(run_id)
        walk_chain(runs[run_id], own, since, walked, photos)
    gone = (run for run in runs.values() if run.id not in seen)
    walked.breaks += [Break(f"run {run.number}", 0, "nothing of its chain is there") for run in gone]
    walked.breaks += _revisions(session)
    walked.breaks += _readings(session, {run.id: run.number for run in runs.values()}, walked.typed)
    walked.said += _renamed(session)
    return walked


def _revisions(session: Session) -> Iterator[Break]:
    rows = select(Revision.id, Revision.plan_id, Revision.number, Revision.released_by, Revision.released_at, Revision.document,
                  Revision.result, Revision.reason, Revision.taken_on, Revision.code)
    for row in session.execute(rows.execution_options(yield_per=100)):
        if row.code and (problem := holds(row.code, revision_text(row))):
            yield Break(f"revision {row.number} of plan {row.plan_id}", 0, f"plan or figures were changed: {problem}")


@lru_cache(maxsize=20_000)
def _base(typed: str, quantity: str) -> float:
    """A reading in base units; the same ones come again and again."""
    return parse(typed, quantity).base


def _readings(session: Session, numbers: dict[uuid.UUID, int], typed_in: dict[uuid.UUID, int]) -> Iterator[Break]:
    """Readings that differ from what was typed in the chain, those of which the chain knows nothing, and those taken away."""
    found: Counter[uuid.UUID] = Counter()
    rows = session.execute(
        select(Reading.run_id, Reading.sequence, Reading.quantity, Reading.value, Reading.typed, Event.canonical)
        .outerjoin(Event, (Event.run_id == Reading.run_id) & (Event.sequence == Reading.sequence))
        .execution_options(yield_per=2000))
    for row in rows:
        found[row.run_id] += 1
        where = f"run {numbers.get(row.run_id, '?')}"
        payload = json.loads(row.canonical)["client"]["payload"] if row.canonical else {}
        typed = typed_of(payload).get(row.quantity)
        try:
            same = typed == row.typed and abs(_base(row.typed, row.quantity) - row.value) <= 1e-9 * abs(row.value)
        except OrthotorqError:
            same = False
        if not same:
            yield Break(where, row.sequence, f"the reading {row.typed} ({row.quantity}) beside it is not what was typed")
    for run_id, count in typed_in.items():
        if found[run_id] < count:
            yield Break(f"run {numbers[run_id]}", 0, f"{count} readings were typed, {found[run_id]} stand beside its chain")


def _renamed(session: Session) -> Iterator[Break]:
    """People who are called otherwise than when they signed: said, since people may marry."""
    signed = select(Event.run_id, Event.sequence, Event.canonical, Person.name, Run.number).join(
        Person, Person.id == Event.person_id).join(Run, Run.id == Event.run_id).where(Event.kind == "sign_off")
    for row in session.execute(signed.order_by(Run.number, Event.sequence)):
        then = json.loads(row.canonical)["server"].get("name")
        if then is not None and then != row.name:
            yield Break(f"run {row.number}", row.sequence, f"was signed by {then}, who is called {row.name} now")
