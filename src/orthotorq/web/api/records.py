"""Records: read, out as files, in from files; readings from the memory of tools."""

from __future__ import annotations

import json
from typing import Annotated, Any

from flask import Response, request
from pydantic import BaseModel, Field, RootModel, ValidationError

from ...core.forms.record_file import RecordFile
from ...core.messages import Refusal
from ...services.errors import BadField
from ...services.reference.sums import record_schema
from ...services.running.archive import joint_archive
from ...services.running.imported_records import (
    ForeignLine,
    ForeignView,
    foreign_record,
    list_foreign_records,
    read_record_file,
    record_file,
)
from ...services.running.queries import RecordView, read_record
from ...services.running.readings import (
    FileLook,
    ReadingsView,
    list_readings,
    look_at_readings,
    start_readings,
)
from ...services.running.record_files import record_book, record_pdf, record_table
from ..operation import operation, queued, with_helper
from .helpers import IdPath, answer, attachment, blueprint
from .plans import Created

api = blueprint("records", "What was done, in and out")

XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


class RecordOut(RootModel[RecordView]):
    """A record."""


class FileOut(RootModel[RecordFile]):
    """A record as an open file."""


class ForeignOut(RootModel[ForeignView]):
    """A record that was read from a file."""


class ForeignList(BaseModel):
    """Records that were read from files."""

    items: list[ForeignLine]


class FileLookOut(RootModel[FileLook]):
    """The first rows of a file."""


class ReadingsOut(RootModel[ReadingsView]):
    """Readings of a run from files."""


class ColumnsIn(BaseModel):
    """Which column holds what, from 0; units of figures without one; the run, where no column names
    it."""

    columns: dict[Annotated[str, Field(max_length=20)], Annotated[int, Field(ge=0, le=100)]]
    units: dict[Annotated[str, Field(max_length=20)], Annotated[str, Field(max_length=20)]] = {}
    run: Annotated[int, Field(ge=1, le=999_999_999)] | None = None


class ColumnsQuery(BaseModel):
    """How a file is read, as JSON."""

    how: Annotated[str, Field(max_length=2000)]


@api.get("/runs/<uuid:id>/record", responses={"200": RecordOut})
def get_record(path: IdPath) -> Response:
    """The record."""
    with operation() as ctx:
        return answer(RecordOut(read_record(ctx, path.id)))


@api.get("/runs/<uuid:id>/record.pdf")
def get_record_pdf(path: IdPath) -> Response:
    """The record as PDF."""
    name, data = with_helper(lambda ctx: record_pdf(ctx, path.id))
    return attachment(name, data, "application/pdf")


@api.get("/runs/<uuid:id>/record.json", responses={"200": FileOut})
def get_record_file(path: IdPath) -> Response:
    """The record as an open document, with every event and its hash."""
    with operation() as ctx:
        return answer(record_file(ctx, path.id))


@api.get("/runs/<uuid:id>/record.csv")
def get_record_table(path: IdPath) -> Response:
    """The record as a table: one row for every bolt in every pass."""
    with operation() as ctx:
        name, text = record_table(ctx, path.id)
    return attachment(name, text.encode(), "text/csv; charset=utf-8")


@api.get("/runs/<uuid:id>/record.xlsx")
def get_record_book(path: IdPath) -> Response:
    """The record as a workbook."""
    name, data = with_helper(lambda ctx: record_book(ctx, path.id))
    return attachment(name, data, XLSX)


@api.get("/joints/<uuid:id>/everything.zip")
def get_joint_archive(path: IdPath) -> Response:
    """All that is kept about a joint, packed."""
    with operation() as ctx:
        name, data = joint_archive(ctx, path.id)
    return attachment(name, data, "application/zip")


@api.get("/schemas/record")
def get_record_schema() -> dict[str, Any]:
    """JSON Schema of the record as a file."""
    with operation() as ctx:
        return record_schema(ctx)


@api.get("/records", responses={"200": ForeignList})
def get_foreign_records() -> Response:
    """Records that were read from files."""
    with operation() as ctx:
        return answer(ForeignList(items=list_foreign_records(ctx)))


@api.post("/records", responses={"201": Created})
def post_record() -> Response:
    """Keep a record of a file, sent as application/json; what was changed after it was made is
    refused."""
    with operation() as ctx:
        made = read_record_file(ctx, request.get_data())
    return answer(Created(id=made), 201)


@api.get("/records/<uuid:id>", responses={"200": ForeignOut})
def get_foreign_record(path: IdPath) -> Response:
    """A record that was read from a file."""
    with operation() as ctx:
        return answer(ForeignOut(foreign_record(ctx, path.id)))


@api.post("/readings/look", responses={"200": FileLookOut})
def post_look() -> Response:
    """The first rows of a file of readings (text/csv or XLSX), and what its columns seem to
    hold."""
    data = request.get_data()
    return answer(FileLookOut(with_helper(lambda ctx: look_at_readings(ctx, data))))


@api.post("/readings", responses={"202": Created})
def post_readings(query: ColumnsQuery) -> Response:
    """Begin reading a file of readings (text/csv or XLSX); its progress is read from the job."""
    try:
        how = ColumnsIn.model_validate(json.loads(query.how))
    except (ValueError, ValidationError):
        raise BadField(Refusal.READINGS_NEED, "how") from None
    data = request.get_data()
    job = queued("readings", lambda ctx: start_readings(ctx, data, how.columns, how.units, how.run))
    return answer(Created(id=job), 202)


@api.get("/runs/<uuid:id>/readings", responses={"200": ReadingsOut})
def get_readings(path: IdPath) -> Response:
    """Readings of a run from files."""
    with operation() as ctx:
        return answer(ReadingsOut(list_readings(ctx, path.id)))
