"""The walk over what is kept: every chain, every code, and what is written beside the chains so
that it is found fast."""

from __future__ import annotations

import json
import uuid
from collections.abc import Generator, Iterable, Iterator
from contextlib import closing
from dataclasses import dataclass, field
from datetime import datetime
from functools import lru_cache
from itertools import groupby
from operator import itemgetter
from typing import Any, NamedTuple

from sqlalchemy import Text, cast, select, text
from sqlalchemy.orm import Session

from ...core.errors import OrthotorqError
from ...core.units import parse
from ...store.models import Event, Person, Photo, Reading, Revision, Run
from ..codes import revision_text, run_text
from ..keys import holds, keys
from ..revision_proof import NO_CODE, revisions_before_codes
from .chain import GENESIS, NO_RUN_CODE, code_problem, codes_since, link_problem
from .readings_of import typed_of


@dataclass(frozen=True, slots=True)
class Break:
    """Where something kept does not hold; `sequence` is the entry of a run, 0 of what belongs to
    none."""

    where: str
    sequence: int
    what: str

    def __str__(self) -> str:
        return (
            f"{self.where}, entry {self.sequence}: {self.what}"
            if self.sequence
            else f"{self.where}: {self.what}"
        )


@dataclass(slots=True)
class Walked:
    """What was walked: runs, entries, those of a time before there were codes, what does not hold,
    what is only said."""

    runs: int = 0
    entries: int = 0
    uncoded: int = 0
    breaks: list[Break] = field(default_factory=list)
    said: list[Break] = field(default_factory=list)

    def __add__(self, other: Walked) -> Walked:
        return Walked(
            self.runs + other.runs,
            self.entries + other.entries,
            self.uncoded + other.uncoded,
            self.breaks + other.breaks,
            self.said + other.said,
        )


#: readings beside a chain: (entry, quantity) -> (value in base units, as typed)
Beside = dict[tuple[int, str], tuple[float, str]]

#: runs from one id to another; None is no end
Part = tuple[uuid.UUID | None, uuid.UUID | None]
EVERY: Part = (None, None)

_E, _R = Event.__table__.c, Reading.__table__.c


class Entry(NamedTuple):
    """A row of a chain as it is walked, ids as the text that is hashed: a million of them come
    through here."""

    run_id: str
    sequence: int
    id: str
    step: str
    kind: str
    verdict: str
    device: str
    device_sequence: int
    device_time: str
    lease: int
    last_seen: int
    person_id: str
    received_at: datetime
    happened_at: datetime | None
    canonical: str
    previous_hash: str
    hash: str
    code: str


_COLUMNS = [
    cast(_E[name], Text) if name in ("run_id", "id", "person_id") else _E[name]
    for name in Entry._fields
]
_CLIENT = (
    "id",
    "run",
    "step",
    "kind",
    "device",
    "device_sequence",
    "device_time",
    "lease",
    "last_seen",
)
_SERVER = ("sequence", "verdict", "person")
_decoded = json.JSONDecoder().decode


def _row(event: Entry, document: dict[str, Any]) -> str | None:
    """What is wrong with one entry beside its text, which is read into `document`, or None."""
    client, server = document["client"], document["server"]
    columns = (
        event.id,
        event.run_id,
        event.step,
        event.kind,
        event.device,
        event.device_sequence,
        event.device_time,
        event.lease,
        event.last_seen,
        event.sequence,
        event.verdict,
        event.person_id,
    )
    hashed = (*[client[name] for name in _CLIENT], *[server[name] for name in _SERVER])
    if columns != hashed:
        unlike = next(
            n for n, was, now in zip(_CLIENT + _SERVER, hashed, columns, strict=True) if was != now
        )
        return f"column {unlike} differs from the hashed text"
    for name, now in (("received_at", event.received_at), ("happened_at", event.happened_at)):
        if not _same_time(server.get(name), now):
            return f"column {name} differs from the hashed text"
    return None


def _same_time(hashed: str | None, now: datetime | None) -> bool:
    """Whether a time in a column is the one that was hashed."""
    if hashed is None or now is None:
        return hashed is None and now is None
    try:
        return datetime.fromisoformat(hashed) == now
    except ValueError:
        return False


def _read(
    event: Entry, photos: dict[uuid.UUID, tuple[str, str]]
) -> tuple[str | None, dict[str, str]]:
    """What is wrong with the text of an entry and with what stands beside it, or None; then its
    readings as typed."""
    try:
        document = _decoded(event.canonical)
        problem = _row(event, document) or _photo(event, document, photos)
        answered = problem is None and event.kind == "answer" and event.verdict == "accepted"
        return problem, typed_of(document["client"]["payload"]) if answered else {}
    except (ValueError, LookupError, TypeError, AttributeError, RecursionError):
        # who writes past the application may write anything, and give it a hash that fits
        return "its text cannot be read", {}


def walk_chain(
    run: Any,
    events: Iterable[Entry],
    since: int,
    walked: Walked,
    photos: dict[uuid.UUID, tuple[str, str]],
    beside: Beside,
) -> None:
    """One chain from its first entry to its head, up to the first thing that does not hold; then
    the readings beside it."""
    where, previous, expected, known = f"run {run.number}", GENESIS, 1, keys()
    wrong: list[Break] = []
    missing = 0
    for event in events:
        told: dict[str, str] = {}
        problem = link_problem(event, expected, previous)
        if problem is None:
            problem, told = _read(event, photos)
        problem = problem or code_problem(event, since, run.number, known)
        if problem:
            walked.breaks.append(Break(where, event.sequence, problem))
            return
        walked.entries += 1
        walked.uncoded += not event.code
        for quantity, typed in told.items():
            reading = beside.pop((event.sequence, quantity), None)
            missing += reading is None
            if reading is not None and not _same(typed, quantity, *reading):
                wrong.append(_unlike(where, event.sequence, quantity, reading[1]))
        previous, expected = event.hash, expected + 1
    if (run.head_sequence, run.head_hash) != (expected - 1, previous):
        walked.breaks.append(
            Break(
                where, expected, "the run's head is not the end of its chain: entries are missing"
            )
        )
    elif run.code and (problem := holds(run.code, run_text(run))):
        walked.breaks.append(
            Break(where, 0, f"what is kept of the run beside its chain was changed: {problem}")
        )
    elif not run.code and run.number > since:
        walked.breaks.append(Break(where, 0, NO_RUN_CODE))
    walked.breaks += wrong
    walked.breaks += [
        _unlike(where, sequence, quantity, typed)
        for (sequence, quantity), (_, typed) in beside.items()
    ]
    if missing:
        walked.breaks.append(
            Break(where, 0, f"{missing} of the typed readings are missing beside its chain")
        )


def _unlike(where: str, sequence: int, quantity: str, typed: str) -> Break:
    return Break(
        where, sequence, f"the reading {typed} ({quantity}) beside it is not what was typed"
    )


@lru_cache(maxsize=20_000)
def _base(typed: str, quantity: str) -> float:
    """A reading in base units; the same ones come again and again."""
    return parse(typed, quantity).base


def _same(typed: str, quantity: str, value: float, kept: str) -> bool:
    """Whether what stands beside the chain is what was typed into it."""
    try:
        return typed == kept and abs(_base(typed, quantity) - value) <= 1e-9 * abs(value)
    except OrthotorqError:
        return False


def _photo(
    event: Entry, document: dict[str, Any], photos: dict[uuid.UUID, tuple[str, str]]
) -> str | None:
    if event.kind != "photo" or event.verdict != "accepted":
        return None
    digest = document["server"].get("payload", {}).get("digest")
    kept = photos.get(uuid.UUID(document["client"]["payload"]["photo"]))
    if kept is None:
        return "its photo is not there"
    return None if kept == (digest, digest) else "its photo is not the one that was kept"


def _photos(session: Session, part: Part = EVERY) -> dict[uuid.UUID, tuple[str, str]]:
    """Photos by id: the digest that is kept, and the one that their bytes give now."""
    wanted = select(Photo.id, Photo.digest, text("encode(sha256(photo.data), 'hex')"))
    rows = session.execute(_within(wanted, Photo.run_id, part))
    return {one: (digest, now) for one, digest, now in rows}


def _readings(session: Session, part: Part = EVERY) -> Generator[tuple[str, Beside], None, None]:
    """Readings by run, in the order of the runs' ids, which is that of their text."""
    wanted = select(cast(_R.run_id, Text), _R.sequence, _R.quantity, _R.value, _R.typed).order_by(
        _R.run_id
    )
    with session.execute(
        _within(wanted, _R.run_id, part).execution_options(yield_per=5000)
    ) as rows:
        for run_id, own in groupby(rows, itemgetter(0)):
            yield (
                run_id,
                {
                    (sequence, quantity): (value, typed)
                    for _, sequence, quantity, value, typed in own
                },
            )


def _entries(session: Session, part: Part = EVERY) -> Generator[Entry, None, None]:
    """Entries by run, in the order of the runs' ids."""
    wanted = _within(select(*_COLUMNS), _E.run_id, part).order_by(_E.run_id, _E.sequence)
    with session.execute(wanted.execution_options(yield_per=2000)) as rows:
        yield from map(Entry._make, rows)


def _within(wanted: Any, column: Any, part: Part) -> Any:
    first, last = part
    wanted = wanted if first is None else wanted.where(column >= first)
    return wanted if last is None else wanted.where(column <= last)


def verify_run(session: Session, run: Run) -> Break | None:
    """The first place at which a run's chain does not hold, or None."""
    walked = Walked()
    own = run.id, run.id
    with closing(_readings(session, own)) as readings:
        beside = next(readings, ("", {}))[1]
    # a walk ends at the first thing that does not hold: what is left of the rows is not waited for
    with closing(_entries(session, own)) as entries:
        walk_chain(run, entries, codes_since(session), walked, _photos(session, own), beside)
    return walked.breaks[0] if walked.breaks else None


def walk_runs(session: Session, part: Part = EVERY) -> Walked:
    """Walk the chains of all runs, or of those of a part."""
    walked, since = Walked(), codes_since(session)
    runs = {
        str(run.id): run
        for run in session.execute(
            _within(
                select(
                    Run.id,
                    Run.number,
                    Run.revision_id,
                    Run.status,
                    Run.started_by,
                    Run.started_at,
                    Run.occasion,
                    Run.provisional,
                    Run.head_sequence,
                    Run.head_hash,
                    Run.code,
                ),
                Run.id,
                part,
            )
        )
    }
    walked.runs = len(runs)
    photos = _photos(session, part)
    seen = set()
    with closing(_readings(session, part)) as readings:
        beside = next(readings, None)
        for run_id, own in groupby(_entries(session, part), itemgetter(0)):
            seen.add(run_id)
            # both come in the order of the runs: readings of a run without a chain are passed over,
            # it is named below
            while beside is not None and beside[0] < run_id:
                beside = next(readings, None)
            own_ones = beside[1] if beside is not None and beside[0] == run_id else {}
            walk_chain(runs[run_id], own, since, walked, photos, own_ones)
    gone = (run for run_id, run in runs.items() if run_id not in seen)
    walked.breaks += [
        Break(f"run {run.number}", 0, "nothing of its chain is there") for run in gone
    ]
    return walked


def walk_others(session: Session) -> Walked:
    """Walk what belongs to no run: revisions, and people who signed."""
    return Walked(breaks=list(_revisions(session)), said=list(_renamed(session)))


def verify_all(session: Session) -> Walked:
    """Walk everything that is kept."""
    return walk_runs(session) + walk_others(session)


def _revisions(session: Session) -> Iterator[Break]:
    before = revisions_before_codes(session)
    for row in session.scalars(select(Revision).execution_options(yield_per=100)):
        where = f"revision {row.number} of plan {row.plan_id}"
        if row.code and (problem := holds(row.code, revision_text(row))):
            yield Break(where, 0, f"plan or figures were changed: {problem}")
        elif not row.code and row.id not in before:
            yield Break(where, 0, NO_CODE)
        session.expunge(row)


def _renamed(session: Session) -> Iterator[Break]:
    """People who are called otherwise than when they signed: said, since people may marry."""
    signed = (
        select(Event.run_id, Event.sequence, Event.canonical, Person.name, Run.number)
        .join(Person, Person.id == Event.person_id)
        .join(Run, Run.id == Event.run_id)
        .where(Event.kind == "sign_off")
    )
    for row in session.execute(signed.order_by(Run.number, Event.sequence)):
        then = json.loads(row.canonical)["server"].get("name")
        if then is not None and then != row.name:
            yield Break(
                f"run {row.number}",
                row.sequence,
                f"was signed by {then}, who is called {row.name} now",
            )
