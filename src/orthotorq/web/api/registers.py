"""Search from anywhere, labels, and registers in and out as files."""

from __future__ import annotations

import uuid
from typing import Annotated, Literal

from flask import Response, request
from pydantic import BaseModel, Field, RootModel

from ...services.jobs import defer
from ...services.registers.files import (
    RegisterJob,
    export_register,
    import_register,
    look_at_register,
    read_register_job,
)
from ...services.registers.labels import labels
from ...services.registers.search import Hit, search
from ..operation import operation, queued, with_helper
from .helpers import IdPath, answer, attachment, blueprint
from .plans import Created

api = blueprint("registers", "Search, labels, registers as files")

_XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


class SearchQuery(BaseModel):
    """Words in any order."""

    find: Annotated[str, Field(max_length=100)] = ""


class Hits(BaseModel):
    """What was found."""

    items: list[Hit]


class LabelQuery(BaseModel):
    """Labels of what; `ids` separated by commas, of everything where empty."""

    what: Literal["joints", "machines", "tools"] = "joints"
    ids: Annotated[
        str, Field(max_length=8000, pattern=r"^([0-9a-fA-F-]{36}(,[0-9a-fA-F-]{36})*)?$")
    ] = ""
    paper: Literal["A4", "Letter"] = "A4"


class RegisterPath(BaseModel):
    """A register by name."""

    name: Annotated[str, Field(max_length=20)]


class KindQuery(BaseModel):
    """The kind of file."""

    kind: Literal["csv", "xlsx"] = "csv"


class RegisterOut(RootModel[RegisterJob]):
    """How far a register is."""


@api.get("/search", responses={"200": Hits})
def get_search(query: SearchQuery) -> Response:
    """Everything that has all the words."""
    with operation() as ctx:
        return answer(Hits(items=search(ctx, query.find)))


@api.get("/labels.pdf")
def get_labels(query: LabelQuery) -> Response:
    """Labels with codes."""
    ids = []
    for part in filter(None, query.ids.split(",")):
        try:
            ids.append(uuid.UUID(part))
        except ValueError:
            ids.append(uuid.UUID(int=0))
    name, data = with_helper(lambda ctx: labels(ctx, query.what, ids, query.paper))
    return attachment(name, data, "application/pdf")


@api.get("/registers/<string:name>")
def get_register(path: RegisterPath, query: KindQuery) -> Response:
    """A register as a file."""
    name, data = with_helper(lambda ctx: export_register(ctx, path.name, query.kind))
    return attachment(name, data, _XLSX if query.kind == "xlsx" else "text/csv; charset=utf-8")


@api.post("/registers/<string:name>/looks", responses={"202": Created})
def post_register(path: RegisterPath) -> Response:
    """Begin looking what a file (CSV or XLSX) would change; nothing is changed."""
    data = request.get_data()
    return answer(
        Created(id=queued("register", lambda ctx: look_at_register(ctx, path.name, data))), 202
    )


@api.get("/register-jobs/<uuid:id>", responses={"200": RegisterOut})
def get_register_job(path: IdPath) -> Response:
    """How far a register is, and what it says."""
    with operation() as ctx:
        return answer(RegisterOut(read_register_job(ctx, path.id)))


@api.post("/register-jobs/<uuid:id>/take", responses={"202": Created})
def post_take(path: IdPath) -> Response:
    """Take a file that was looked at."""
    with operation() as ctx:
        job = import_register(ctx, path.id)
        defer(ctx.session, "register", job)
    return answer(Created(id=job), 202)
