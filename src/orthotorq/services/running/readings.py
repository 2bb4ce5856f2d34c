"""Readings from the memory of tools: a file is looked at, its columns are named, a job reads it and
lists what is wrong."""

from __future__ import annotations

import hashlib
import json
import uuid
from collections.abc import Callable, Iterator
from dataclasses import asdict, dataclass, field
from datetime import datetime
from functools import partial
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.orm import Session, sessionmaker

from ...core.errors import OrthotorqError
from ...core.forms.result import Result
from ...core.messages import Refusal, render
from ...core.running.present.tool_readings import (
    COLUMNS,
    UNITS,
    Columns,
    RowRead,
    guess,
    problem_of,
    read_row,
)
from ...exchange.tables_in import read_rows, rows_of
from ...local_time import moment_text, read_time
from ...store.models import Job, Person, Run, ToolReading
from ..context import Ctx
from ..errors import BadField, NotFound
from ..helper_task import HelperTask
from ..permissions import use_case
from ..planning.exchange import progress
from .start import result_of

#: rows shown before the columns are named, and in a record; reasons told of refused ones; rows
#: between two looks at the job
SHOWN, LISTED, TOLD, STEP = 6, 500, 100, 2000
_COPY = (
    'COPY tool_reading (job_id, "row", run_id, position, place, "torque_Nm", angle_deg, '
    "typed, happened_at, serial) "
    "FROM STDIN"
)


@dataclass(frozen=True, slots=True)
class FileLook:
    """The first rows of a file, and what its columns seem to hold; the words and units to choose
    from."""

    rows: list[list[str]]
    columns: dict[str, int]
    units: dict[str, str]
    kinds: list[str]
    offered: dict[str, list[str]]


@dataclass(frozen=True, slots=True)
class ReadingLine:
    """One reading from a file, as the record shows it."""

    row: int
    position: str | None
    place: str
    label: str
    torque_Nm: float | None
    angle_deg: float | None
    at: datetime | None
    serial: str


@dataclass(frozen=True, slots=True)
class ReadingsView:
    """Readings of a run from files: who read them in and when, how many there are, the first of
    them."""

    count: int
    by: list[str]
    lines: list[ReadingLine]


def _first(data: bytes, count: int) -> list[list[str]]:
    """The first rows of a file, read by the helper. Raises BadField for what is no table."""
    try:
        return [row for _, row in read_rows(data, count)]
    except OrthotorqError as error:
        raise BadField.worded(Refusal.READINGS_FILE, str(error), "file") from None


@use_case
def look_at_readings(ctx: Ctx, data: bytes) -> HelperTask[list[list[str]], FileLook]:
    """What a file of readings holds. Its work raises BadField for what is no table."""
    return HelperTask(partial(_first, data, SHOWN), _look)


def _look(ctx: Ctx, rows: list[list[str]]) -> FileLook:
    columns, units = guess(rows[0]) if rows else ({}, {})
    return FileLook(rows, columns, units, list(COLUMNS), {k: list(v) for k, v in UNITS.items()})


@use_case
def start_readings(
    ctx: Ctx, data: bytes, columns: dict[str, int], units: dict[str, str], run: int | None
) -> HelperTask[list[list[str]], uuid.UUID]:
    """Begin reading a file whose first row is its head; what follows gives the job's id. Raises
    BadField."""
    mapping = Columns(columns, units, run)
    if (wrong := problem_of(mapping)) is not None:
        raise BadField.worded(Refusal.READINGS_FILE, wrong, "columns")
    return HelperTask(partial(_first, data, 2), lambda ctx, _rows: _start(ctx, data, mapping))


def _start(ctx: Ctx, data: bytes, mapping: Columns) -> uuid.UUID:
    digest = hashlib.sha256(data).hexdigest()
    before = ctx.session.scalars(
        select(Job)
        .where(Job.kind == "readings", Job.status == "done", Job.answer.contains(digest))
        .limit(1)
    ).first()
    if before is not None:
        raise BadField(Refusal.READINGS_TWICE, "file", at=moment_text(before.at))
    job = Job(
        id=ctx.new_id(),
        kind="readings",
        status="waiting",
        done=0,
        total=max(0, data.count(b"\n") - 1),
        payload=data,
        answer=json.dumps({"mapping": asdict(mapping), "digest": digest}),
        person_id=ctx.person.id,
        at=ctx.now,
    )
    ctx.session.add(job)
    ctx.session.flush()
    return job.id


@dataclass(slots=True)
class _Runs:
    """The runs that a file names, with their bolts by what is written of them."""

    session: Session
    known: dict[int, tuple[uuid.UUID, dict[str, list[tuple[str, str, str | None, str]]]] | None] = (
        field(default_factory=dict)
    )

    def find(self, read: RowRead) -> tuple[uuid.UUID, str | None, str] | str:
        """(run, position, place) of a row, or the sentence that says why there is none."""
        if read.run not in self.known:
            run = self.session.scalar(select(Run).where(Run.number == read.run))
            self.known[read.run] = (
                None if run is None else (run.id, _bolts(result_of(self.session, run)))
            )
        entry = self.known[read.run]
        if entry is None:
            return render(Refusal.READINGS_UNKNOWN_RUN, run=read.run)
        fits = [
            (position, place)
            for at, group, position, place in entry[1].get(read.bolt.lower(), [])
            if read.position.lower() in ("", at, (position or "").lower())
            and read.group.lower() in ("", group)
        ]
        if not fits:
            where = ", ".join(x for x in (read.position, read.group) if x)
            return render(
                Refusal.READINGS_UNKNOWN_BOLT,
                run=read.run,
                bolt=read.bolt,
                where=f" at {where}" if where else "",
            )
        return (
            (entry[0], *fits[0])
            if len(fits) == 1
            else render(Refusal.READINGS_SEVERAL_BOLTS, run=read.run, bolt=read.bolt)
        )


def _bolts(result: Result) -> dict[str, list[tuple[str, str, str | None, str]]]:
    """By label as painted and by place: (position in words, group in words, position, place)."""
    out: dict[str, list[tuple[str, str, str | None, str]]] = {}
    positions: list[tuple[str, str | None]] = [
        (p.name.lower(), p.id) for p in result.positions
    ] or [("", None)]
    for group in result.groups:
        for place in group.places:
            for words, position in positions:
                entry = (words, group.name.lower(), position, place.id)
                for name in {place.label.lower(), place.id.lower()}:
                    out.setdefault(name, []).append(entry)
    return out


def _time(cell: str) -> datetime | str | None:
    """A time as ISO 8601, at the place where it names no zone."""
    if not cell:
        return None
    try:
        return read_time(cell)
    except ValueError:
        return render(Refusal.READINGS_TIME, cell=cell)


def _rows(
    job_id: uuid.UUID,
    data: bytes,
    mapping: Columns,
    runs: _Runs,
    refused: list[tuple[int, str]],
) -> Iterator[tuple[int, tuple[Any, ...] | None]]:
    """(row of the file, what is kept of it) of every row after the head; what is refused goes to
    its list."""
    seen: dict[bytes, int] = {}
    rows = rows_of(data)
    next(rows, None)
    for number, cells in rows:
        read = read_row(cells, mapping)
        found = runs.find(read) if isinstance(read, RowRead) else read
        at = _time(read.time) if isinstance(read, RowRead) else None
        wrong = next((x for x in (found, at) if isinstance(x, str)), None)
        if wrong is None:
            assert isinstance(read, RowRead) and not isinstance(found, str)
            # a short digest: a file has a hundred thousand rows
            said = repr((found, read.torque_Nm, read.angle_deg, at, read.serial))
            same = hashlib.blake2b(said.encode(), digest_size=12).digest()
            if (first := seen.setdefault(same, number)) != number:
                wrong = render(Refusal.READINGS_REPEATED, row=first)
        if wrong is not None:
            refused.append((number, wrong))
            yield number, None
            continue
        assert isinstance(read, RowRead)
        typed = " | ".join(cells)[:200].replace("\x00", "")
        yield (
            number,
            (job_id, number, *found, read.torque_Nm, read.angle_deg, typed, at, read.serial),
        )


def run_readings(
    sessions: sessionmaker[Session], job_id: uuid.UUID, make: Callable[[Session], Ctx]
) -> None:
    """The work of reading a file: rows go into one transaction, so that a job that is stopped or
    breaks leaves none.

    Raises LookupError for no such job.
    """
    with sessions.begin() as session:
        job = session.get(Job, job_id)
        if job is None:
            raise LookupError("there is no such job")
        if job.status != "waiting" or job.payload is None:
            return
        job.status, data, asked = "working", job.payload, json.loads(job.answer)
    mapping, refused, kept, broken = Columns(**asked["mapping"]), list[tuple[int, str]](), 0, ""
    # two sessions: while rows are written in one, the other looks for their runs
    with sessions() as writing, sessions() as looking:
        cursor: Any = writing.connection().connection.cursor()
        try:
            with cursor.copy(_COPY) as copy:
                for number, row in _rows(job_id, data, mapping, _Runs(looking), refused):
                    if row is not None:
                        copy.write_row(row)
                        kept += 1
                    if number % STEP == 0 and not progress(sessions, job_id, number):
                        raise _Stopped
            writing.commit()
        except _Stopped:
            return
        except OrthotorqError as error:
            writing.rollback()
            kept, broken = 0, str(error)
    _end(sessions, job_id, asked["digest"], kept, refused, broken)


def _by_text(refused: list[tuple[int, str]]) -> list[tuple[str, list[int]]]:
    """Rows that are refused for the same, in the order of the first of them."""
    found: dict[str, list[int]] = {}
    for number, text in refused:
        found.setdefault(text, []).append(number)
    told = list(found.items())
    more = sorted(n for _, rows in told[TOLD:] for n in rows)
    return told[:TOLD] + ([("For other reasons.", more)] if more else [])


def _named(rows: list[int]) -> str:
    """Rows by number, a few of many.

    >>> _named([7]), _named([2, 3, 5]), _named(list(range(2, 12)))
    ('row 7', 'rows 2, 3, 5', 'rows 2, 3, 4, 5, 6 and 5 more')
    """
    if len(rows) == 1:
        return f"row {rows[0]}"
    more = f" and {len(rows) - 5} more" if len(rows) > 5 else ""
    return f"rows {', '.join(map(str, rows[:5]))}{more}"


class _Stopped(Exception):
    """Somebody has stopped the job."""


def _end(
    sessions: sessionmaker[Session],
    job_id: uuid.UUID,
    digest: str,
    kept: int,
    refused: list[tuple[int, str]],
    broken: str,
) -> None:
    """How the job ended; the file itself is let go."""
    errors = [{"file": _named(rows), "path": "", "text": text} for text, rows in _by_text(refused)]
    if broken:
        errors = [{"file": "", "path": "", "text": f"{broken} Nothing of the file was saved."}]
    with sessions.begin() as session:
        job = session.scalar(select(Job).where(Job.id == job_id).with_for_update())
        assert job is not None
        job.status, job.payload = "failed" if broken else "done", None
        job.done = job.total = kept + len(refused)
        job.answer = json.dumps(
            {"imported": kept, "refused": len(refused), "errors": errors, "digest": digest},
            ensure_ascii=False,
        )


@use_case
def list_readings(ctx: Ctx, run_id: uuid.UUID) -> ReadingsView:
    """Readings of a run from files, in their order. Raises NotFound."""
    run = ctx.session.get(Run, run_id)
    if run is None:
        raise NotFound("run")
    labels = {p.id: p.label for g in result_of(ctx.session, run).groups for p in g.places}
    count = (
        ctx.session.scalar(
            select(func.count()).select_from(ToolReading).where(ToolReading.run_id == run_id)
        )
        or 0
    )
    rows = ctx.session.scalars(
        select(ToolReading)
        .where(ToolReading.run_id == run_id)
        .order_by(ToolReading.job_id, ToolReading.row)
        .limit(LISTED)
    )
    by = ctx.session.execute(
        select(Person.name, Job.at)
        .join(Job, Job.person_id == Person.id)
        .where(Job.id.in_(select(ToolReading.job_id).where(ToolReading.run_id == run_id)))
        .order_by(Job.at)
    )
    return ReadingsView(
        count,
        [f"{name}, {moment_text(at)}" for name, at in by],
        [
            ReadingLine(
                r.row,
                r.position,
                r.place,
                labels.get(r.place, r.place),
                r.torque_Nm,
                r.angle_deg,
                r.happened_at,
                r.serial,
            )
            for r in rows
        ],
    )
