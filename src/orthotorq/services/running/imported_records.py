"""Records out as open files, and records of files: compared with their chain, kept as they
stand, marked as imported."""

from __future__ import annotations

import hashlib
import uuid
from dataclasses import dataclass
from datetime import datetime

from pydantic import ValidationError
from sqlalchemy import select

from ...core.documents.read import parse_json
from ...core.errors import OrthotorqError
from ...core.forms.errors import DocumentErrors, field_errors
from ...core.forms.record_file import RecordFile
from ...core.messages import Refusal
from ...store.models import Event, ForeignRecord, Person, Revision, Run
from ..context import Ctx
from ..errors import BadField, NotFound, Refused
from ..permissions import use_case
from .queries import open_record
from .record_proof import check_file, derived_file, file_event, not_proved, proof_of

#: a file of a record may be this large
MOST_BYTES = 20_000_000


@dataclass(frozen=True, slots=True)
class ForeignLine:
    """A record that was read from a file."""

    id: uuid.UUID
    run: int
    title: str
    person: str
    at: datetime
    proved: bool


@dataclass(frozen=True, slots=True)
class ForeignView:
    """An imported record: who imported it and when, the file as it stood, and why it is not
    proved (empty where it is)."""

    person: str
    at: datetime
    file: RecordFile
    not_proved: str


@use_case
def record_file(ctx: Ctx, run_id: uuid.UUID) -> RecordFile:
    """The record as an open document with every event of its chain. Raises NotFound."""
    return written_record(ctx, run_id)


def written_record(ctx: Ctx, run_id: uuid.UUID) -> RecordFile:
    """The record as an open document, for use cases and the command line. Raises NotFound,
    Refused where it does not hold."""
    view, result, facts = open_record(ctx, run_id)
    if view.not_proven:
        raise Refused(Refusal.RUN_NOT_PROVEN, number=view.head.number, why=view.not_proven)
    run, head = ctx.session.get_one(Run, run_id), view.head
    rows = ctx.session.execute(
        select(Event.sequence, Event.canonical, Event.code).where(Event.run_id == run_id)
    )
    kept = {row.sequence: row for row in rows}
    events = [
        file_event(fact, kept[fact.sequence].canonical, kept[fact.sequence].code) for fact in facts
    ]
    where = {
        "run": head.number,
        "equipment": head.equipment_name,
        "equipment_tag": head.equipment_tag,
        "joint": head.joint_name,
        "revision": head.revision,
    }
    proof = proof_of(run, ctx.session.get_one(Revision, run.revision_id))
    return derived_file(where, result, facts, events, proof)


@use_case
def read_record_file(ctx: Ctx, data: bytes) -> uuid.UUID:
    """Keep the record of a file; the same file again is the one that is kept already.

    What it says is derived from its entries and compared. Raises BadField, with nothing kept, for
    what was changed; what nobody here can prove is kept and shown as not proved.
    """
    try:
        raw = parse_json(data, MOST_BYTES)
        found = RecordFile.model_validate(raw)
    except ValidationError as error:
        first = field_errors(error)[0]
        raise BadField(
            Refusal.RECORD_FILE, "file", why=f"{first.pointer()}: {first.text}"
        ) from None
    except (DocumentErrors, OrthotorqError) as error:
        raise BadField(Refusal.RECORD_FILE, "file", why=str(error)) from None
    check_file(found)
    why = not_proved(found)
    document = found.model_dump_json()
    digest = hashlib.sha256(document.encode()).hexdigest()
    before = ctx.session.scalars(
        select(ForeignRecord).where(ForeignRecord.digest == digest)
    ).first()
    if before is not None:
        return before.id
    made = ForeignRecord(
        id=ctx.new_id(),
        head_hash=found.head_hash,
        digest=digest,
        proved=not why,
        title=found.title[:120],
        run=found.run,
        document=document,
        person_id=ctx.person.id,
        at=ctx.now,
    )
    ctx.session.add(made)
    ctx.session.flush()
    return made.id


@use_case
def list_foreign_records(ctx: Ctx) -> list[ForeignLine]:
    """Imported records, newest first."""
    rows = ctx.session.execute(
        select(ForeignRecord, Person.name)
        .join(Person, ForeignRecord.person_id == Person.id)
        .order_by(ForeignRecord.at.desc())
        .limit(200)
    )
    return [ForeignLine(row.id, row.run, row.title, name, row.at, row.proved) for row, name in rows]


@use_case
def foreign_record(ctx: Ctx, record_id: uuid.UUID) -> ForeignView:
    """An imported record. Raises NotFound."""
    row = ctx.session.get(ForeignRecord, record_id)
    if row is None:
        raise NotFound("record")
    person = ctx.session.get_one(Person, row.person_id)
    found = RecordFile.model_validate_json(row.document)
    try:
        check_file(found)
        why = not_proved(found)
    except BadField as error:
        # it was changed where it is kept, or is of a time when its words were not compared
        why = error.text
    return ForeignView(person.name, row.at, found, why)
