"""The tables: shipped entries with their sources, own entries, what is in store, help to identify a
fastener."""

from __future__ import annotations

from typing import Annotated, Any

from flask import Response
from pydantic import BaseModel, Field

from ...services.reference.friction_from_records import LessonView, list_lessons, look_anew
from ...services.reference.sheets import SheetList, read_sheets
from ...services.reference.tables import TablesOut, read_tables
from ...services.registers.tables import (
    OwnEntryView,
    list_own_entries,
    remove_own_entry,
    save_own_entry,
    set_in_store,
)
from ..operation import operation
from .helpers import IdPath, answer, blueprint
from .plans import Created

api = blueprint("tables", "Shipped and own tables")


class OwnList(BaseModel):
    """Own entries, and the lubricants in store."""

    items: list[OwnEntryView]
    in_store: list[str]


class OwnIn(BaseModel):
    """An own entry: `body` has the form of a plan's definition of that kind."""

    kind: Annotated[str, Field(max_length=20)]
    key: Annotated[str, Field(min_length=1, max_length=120)]
    body: dict[str, Any]


class StoreIn(BaseModel):
    """Whether a lubricant is in store."""

    lubricant: Annotated[str, Field(min_length=1, max_length=40)]
    in_store: bool


@api.get("/tables", responses={"200": TablesOut})
def get_tables() -> Response:
    """Threads, grades, lubricants, materials, gaskets, methods, cautions, findings; kinds of joint,
    stage and pass; forms."""
    with operation() as ctx:
        return answer(read_tables(ctx))


@api.get("/table-sheets", responses={"200": SheetList})
def get_sheets() -> Response:
    """Every shipped table as rows of text with its source and certainty."""
    with operation() as ctx:
        return answer(read_sheets(ctx))


@api.get("/own-entries", responses={"200": OwnList})
def get_own_entries() -> Response:
    """Own entries and stock."""
    with operation() as ctx:
        items, in_store = list_own_entries(ctx)
    return answer(OwnList(items=items, in_store=in_store))


@api.post("/own-entries", responses={"201": Created})
def post_own_entry(body: OwnIn) -> Response:
    """Keep an own entry, or a new version of it."""
    with operation() as ctx:
        made = save_own_entry(ctx, body.kind, body.key, body.body)
    return answer(Created(id=made), 201)


@api.delete("/own-entries/<uuid:id>", responses={"204": None})
def delete_own_entry(path: IdPath) -> tuple[str, int]:
    """Take an own entry off the list."""
    with operation() as ctx:
        remove_own_entry(ctx, path.id)
    return "", 204


@api.post("/stock", responses={"200": OwnList})
def post_stock(body: StoreIn) -> Response:
    """Mark a lubricant as in store, or no longer."""
    with operation() as ctx:
        set_in_store(ctx, body.lubricant, body.in_store)
        items, in_store = list_own_entries(ctx)
    return answer(OwnList(items=items, in_store=in_store))


class LessonList(BaseModel):
    """What own records teach."""

    items: list[LessonView]


@api.get("/lessons", responses={"200": LessonList})
def get_lessons() -> Response:
    """What own records teach."""
    with operation() as ctx:
        return answer(LessonList(items=list_lessons(ctx)))


@api.post("/lessons", responses={"200": LessonList})
def post_lessons() -> Response:
    """Look at the records anew."""
    with operation() as ctx:
        look_anew(ctx)
        return answer(LessonList(items=list_lessons(ctx)))
