"""Records out as open files, and records of files: proved by their chain, kept as they stand, marked as imported."""
from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from pydantic import ValidationError
from sqlalchemy import select

from ...core.documents.read import parse_json
from ...core.errors import OrthotorqError
from ...core.forms.errors import DocumentErrors, field_errors
from ...core.forms.record_file import FileEvent, RecordFile
from ...core.messages import Refusal
from ...store.models import Event, ForeignRecord, Person
from ..context import Ctx
from ..errors import BadField, NotFound
from ..permissions import use_case
from .chain import GENESIS, chain_hash
from .queries import open_record

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


@dataclass(frozen=True, slots=True)
class ForeignView:
    """An imported record: who read it in and when, and the file as it stood."""

    person: str
    at: datetime
    file: RecordFile


@use_case
def record_file(ctx: Ctx, run_id: uuid.UUID) -> RecordFile:
    """The record as an open document with every event of its chain. Raises NotFound."""
    return written_record(ctx, run_id)


def written_record(ctx: Ctx, run_id: uuid.UUID) -> RecordFile:
    """The record as an open document, for use cases and the command line. Raises NotFound."""
    view, result, facts = open_record(ctx, run_id)
    rows = ctx.session.execute(select(Event.sequence, Event.canonical).where(Event.run_id == run_id))
    texts = {row.sequence: row.canonical for row in rows}
    events = [FileEvent(sequence=f.sequence, id=f.id, step=f.step, kind=f.kind, payload=f.payload, person=f.person, at=f.at,
                        hash=f.hash, accepted=f.accepted, text=texts[f.sequence]) for f in facts]
    head = view.head
    return RecordFile(
        run=head.number, title=head.title, equipment=head.equipment_name, equipment_tag=head.equipment_tag,
        joint=head.joint_name, joint_kind=result.joint_kind, revision=head.revision, occasion=view.occasion_text,
        calculated=view.calculated, plan_hash=view.plan_hash, head_hash=view.head_hash, positions=view.positions,
        groups=view.groups, record=view.record, events=events)


@use_case
def read_record_file(ctx: Ctx, data: bytes) -> uuid.UUID:
    """Keep the record of a file; the same one again is the one that is kept already. Raises BadField, with nothing kept."""
    try:
        raw = parse_json(data, MOST_BYTES)
        found = RecordFile.model_validate(raw)
    except ValidationError as error:
        first = field_errors(error)[0]
        raise BadField(Refusal.RECORD_FILE, "file", why=f"{first.pointer()}: {first.text}") from None
    except (DocumentErrors, OrthotorqError) as error:
        raise BadField(Refusal.RECORD_FILE, "file", why=str(error)) from None
    _prove(found)
    before = ctx.session.scalars(select(ForeignRecord).where(ForeignRecord.head_hash == found.head_hash)).first()
    if before is not None:
        return before.id
    made = ForeignRecord(id=ctx.new_id(), head_hash=found.head_hash, title=found.title[:120], run=found.run,
                         document=found.model_dump_json(), person_id=ctx.person.id, at=ctx.now)
    ctx.session.add(made)
    ctx.session.flush()
    return made.id


def _prove(found: RecordFile) -> None:
    """Every event hangs on the one before, says what its text says, and the last is the head. Raises BadField."""
    last = GENESIS
    for number, event in enumerate(found.events, 1):
        last = chain_hash(last, event.text)
        if last != event.hash or event.sequence != number or not _says(event):
            raise BadField(Refusal.RECORD_CHAIN, "file", number=number)
    if not found.events or last != found.head_hash:
        raise BadField(Refusal.RECORD_CHAIN, "file", number=len(found.events))


def _says(event: FileEvent) -> bool:
    """Whether an event in words is the one of its text."""
    try:
        text: dict[str, Any] = parse_json(event.text.encode(), MOST_BYTES)
        client, server = text["client"], text["server"]
        payload = {**client["payload"], **server.get("payload", {})}
        return (client["id"], client["step"], client["kind"], payload, server["verdict"] == "accepted") == (
            event.id, event.step, event.kind, event.payload, event.accepted)
    except (OrthotorqError, DocumentErrors, KeyError, TypeError, AttributeError):
        return False


@use_case
def list_foreign_records(ctx: Ctx) -> list[ForeignLine]:
    """Imported records, newest first."""
    rows = ctx.session.execute(select(ForeignRecord, Person.name).join(Person, ForeignRecord.person_id == Person.id)
                               .order_by(ForeignRecord.at.desc()).limit(200))
    return [ForeignLine(row.id, row.run, row.title, name, row.at) for row, name in rows]


@use_case
def foreign_record(ctx: Ctx, record_id: uuid.UUID) -> ForeignView:
    """An imported record. Raises NotFound."""
    row = ctx.session.get(ForeignRecord, record_id)
    if row is None:
        raise NotFound("record")
    person = ctx.session.get_one(Person, row.person_id)
    return ForeignView(person.name, row.at, RecordFile.model_validate_json(row.document))
