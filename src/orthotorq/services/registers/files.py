"""Registers in and out as CSV and XLSX: looked at first (what would change, what is wrong, by row),
then taken, as a job."""

from __future__ import annotations

import json
import uuid
from collections.abc import Callable, Iterator, Sequence
from dataclasses import asdict, dataclass
from functools import partial
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session, sessionmaker

from ...core.messages import Refusal
from ...exchange.sandboxed_worker import apart
from ...exchange.tables_out import table_csv, table_xlsx
from ...store.models import Equipment, Job, Joint, Meter, MeterReading, Person, Tool
from ..accounts.commands import actor_of
from ..accounts.watch import note_event
from ..context import Ctx
from ..errors import BadField, NeedsConfirmation, NotFound
from ..helper_task import HelperTask, named_file
from ..permissions import use_case
from ..planning.exchange import progress
from .rows import _COUNTED, COLUMNS, DOES, RowSaid, _columns, _of_tool, _Rows, _table

#: rows that are told, and after how many the progress is
TOLD, STEP = 200, 200


@dataclass(frozen=True, slots=True)
class RegisterJob:
    """How far a register is looked at or taken, and what it says so far."""

    id: uuid.UUID
    register: str
    takes: bool
    status: str
    done: int
    total: int
    counts: dict[str, int]
    rows: list[RowSaid]
    words: str


@use_case
def look_at_register(ctx: Ctx, register: str, data: bytes) -> HelperTask[int, uuid.UUID]:
    """Begin looking what a file would change; nothing is changed. What follows gives the job's
    id. Raises BadField."""
    _columns(register)
    return HelperTask(
        lambda: len(_table(register, data)),
        lambda ctx, total: _begin(ctx, register, data, total, {"takes": False, "answered": []}),
    )


@use_case
def import_register(ctx: Ctx, job_id: uuid.UUID) -> uuid.UUID:
    """Take a file that was looked at; returns the id of the job that does it.

    Raises NotFound, BadField where rows are wrong, NeedsConfirmation where rows have questions.
    """
    looked = ctx.session.get(Job, job_id)
    if looked is None or looked.kind != "register" or looked.person_id != ctx.person.id:
        raise NotFound("file that was looked at")
    said = json.loads(looked.answer)
    if looked.status != "done" or looked.payload is None or said.get("takes"):
        raise NotFound("file that was looked at")
    if wrong := [one for one in said["rows"] if one["does"] == "wrong"]:
        raise BadField(
            Refusal.REGISTER_WRONG,
            "file",
            count=said["counts"]["wrong"],
            row=wrong[0]["row"],
            text=wrong[0]["words"],
        )
    asked = [one for one in said["rows"] if one["does"] == "ask"]
    if asked and not ctx.confirmed:
        raise NeedsConfirmation(
            Refusal.REGISTER_ASKS,
            "file",
            count=said["counts"]["ask"],
            row=asked[0]["row"],
            text=asked[0]["words"],
        )
    return _begin(
        ctx,
        said["register"],
        looked.payload,
        looked.total,
        {"takes": True, "answered": said["asked"]},
    )


def _begin(ctx: Ctx, register: str, data: bytes, total: int, how: dict[str, Any]) -> uuid.UUID:
    job = Job(
        id=ctx.new_id(),
        kind="register",
        status="waiting",
        done=0,
        total=total,
        payload=data,
        person_id=ctx.person.id,
        at=ctx.now,
        answer=json.dumps({"register": register, **how, "counts": {}, "rows": []}),
    )
    ctx.session.add(job)
    ctx.session.flush()
    return job.id


@use_case
def read_register_job(ctx: Ctx, job_id: uuid.UUID) -> RegisterJob:
    """How far a register is. Raises NotFound."""
    job = ctx.session.get(Job, job_id)
    if job is None or job.kind != "register":
        raise NotFound("job")
    said = json.loads(job.answer)
    counts = said["counts"]
    words = ", ".join(
        f"{counts[name]} {_COUNTED[name][counts[name] > 1]}" for name in DOES if counts.get(name)
    )
    return RegisterJob(
        job.id,
        said["register"],
        said["takes"],
        job.status,
        job.done,
        job.total,
        counts,
        [RowSaid(**one) for one in said["rows"]],
        words,
    )


class _Undone(Exception):
    """Everything a job did is taken back: it only looked, was stopped, or a row was wrong."""


def run_register(
    sessions: sessionmaker[Session], job_id: uuid.UUID, make: Callable[[Session], Ctx]
) -> None:
    """The work of a register: every row in one transaction that is kept only when it takes and no
    row is wrong.

    Raises LookupError for no such job.
    """
    with sessions.begin() as session:
        job = session.get(Job, job_id)
        if job is None:
            raise LookupError("there is no such job")
        if job.status != "waiting" or job.payload is None:
            return
        job.status, data, said, person_id = (
            "working",
            job.payload,
            json.loads(job.answer),
            job.person_id,
        )
    told, counts, stopped = list[RowSaid](), dict.fromkeys(DOES, 0), False
    try:
        with sessions.begin() as session:
            person = session.get_one(Person, person_id)
            base = make(session)
            ctx = Ctx(session, base.now, actor_of(person))
            taker, rows = (
                _Rows(ctx, said["register"], frozenset(said["answered"])),
                _table(said["register"], data),
            )
            for place, (number, row) in enumerate(rows, 1):
                one = taker.take(number, row)
                counts[one.does] += 1
                told.append(one)
                if place % STEP == 0 or place == len(rows):
                    session.flush()
                    if not progress(sessions, job_id, place):
                        stopped = True
                        raise _Undone
            if not said["takes"] or counts["wrong"] or counts["ask"]:
                raise _Undone
            # in the transaction that keeps the rows: who stops the job in this moment stops all of
            # it, or none
            if not _end(session, job_id, said, counts, told):
                raise _Undone
            return
    except _Undone:
        pass
    except Exception:
        _fail(sessions, job_id)
        raise
    if not stopped:
        with sessions.begin() as session:
            _end(session, job_id, said, counts, told)


def _fail(sessions: sessionmaker[Session], job_id: uuid.UUID) -> None:
    """A job that broke off says so, and does not stay under way for ever."""
    with sessions.begin() as session:
        job = session.scalar(select(Job).where(Job.id == job_id).with_for_update())
        if job is not None and job.status == "working":
            job.status, job.payload = "failed", None


def _end(
    session: Session,
    job_id: uuid.UUID,
    said: dict[str, Any],
    counts: dict[str, int],
    told: Sequence[RowSaid],
) -> bool:
    """Write what came of a job: rows that are wrong first, then those that change something. False
    where it was stopped."""
    shown = sorted(
        told, key=lambda one: (one.does != "wrong", one.does != "ask", one.does == "same", one.row)
    )[:TOLD]
    asked = [one.row for one in told if one.does == "ask"]
    job = session.scalar(
        select(Job)
        .where(Job.id == job_id)
        .with_for_update()
        .execution_options(populate_existing=True)
    )
    if job is None or job.status != "working":
        return False
    job.status = "failed" if said["takes"] and (counts["wrong"] or asked) else "done"
    if said["takes"]:
        job.payload = None
    job.answer = json.dumps(
        {**said, "counts": counts, "asked": asked, "rows": [asdict(one) for one in shown]},
        ensure_ascii=False,
    )
    return True


def _out(ctx: Ctx, register: str) -> Iterator[list[str]]:
    """Rows of a register as they would be read in again."""
    names = [name for part in COLUMNS[register] for name in part]
    yield names
    if register == "machines":
        for machine in ctx.session.scalars(select(Equipment).order_by(Equipment.tag)):
            yield [machine.tag, machine.name, machine.area, machine.site.name]
    elif register == "joints":
        rows = ctx.session.execute(
            select(Equipment.tag, Joint.tag, Joint.name, Joint.kind)
            .join(Joint, Joint.equipment_id == Equipment.id)
            .order_by(Equipment.tag, Joint.tag)
        )
        for row in rows:
            yield [str(cell) for cell in row]
    elif register == "tools":
        for tool in ctx.session.scalars(
            select(Tool).where(Tool.sort == "wrench").order_by(Tool.serial)
        ):
            cells = _of_tool(tool)
            yield [cells[name] for name in names]
    else:
        readings = ctx.session.execute(
            select(
                Equipment.tag,
                Meter.unit,
                MeterReading.value,
                MeterReading.at,
                MeterReading.how,
                MeterReading.before,
            )
            .join(Meter, MeterReading.meter_id == Meter.id)
            .join(Equipment, Meter.equipment_id == Equipment.id)
            .where(MeterReading.struck_by.is_(None))
            .order_by(Equipment.tag, Meter.unit, MeterReading.at)
        )
        for tag, unit, value, at, how, before in readings:
            yield [
                tag,
                unit,
                f"{value:.15g}",
                at.isoformat(),
                how,
                "" if before is None else f"{before:.15g}",
            ]


@use_case
def export_register(
    ctx: Ctx, register: str, kind: str = "csv"
) -> HelperTask[bytes, tuple[str, bytes]]:
    """A register as CSV or XLSX: (file name, data). Raises BadField."""
    _columns(register)
    make = table_xlsx if kind == "xlsx" else table_csv
    note_event(ctx, "export", f"register {register}")
    return named_file(f"{register}.{kind}", partial(apart, make, list(_out(ctx, register))))
