"""Own entries of the tables, kept apart from the shipped ones, and which lubricants are in
store."""

from __future__ import annotations

import json
import uuid
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from pydantic import BaseModel, ValidationError
from sqlalchemy import delete, select

from ...core.documents.plan import OwnGrade, OwnLubricant, OwnMaterial
from ...core.forms.errors import DocumentErrors, field_errors
from ...core.forms.tested import RigBandOut
from ...core.kinds.registry import OwnMethod
from ...core.messages import Refusal
from ...core.planning.compute.inputs.friction_test import tested
from ...core.tables import lubricants
from ...store.models import OwnEntry, Person, Stock
from ..context import Ctx
from ..errors import BadField, NotFound, Refused
from ..permissions import use_case

KINDS: dict[str, type[BaseModel]] = {
    "lubricant": OwnLubricant,
    "grade": OwnGrade,
    "material": OwnMaterial,
    "method": OwnMethod,
}


@dataclass(frozen=True, slots=True)
class OwnEntryView:
    """One own entry."""

    id: uuid.UUID
    kind: str
    key: str
    body: Any
    person: str
    at: datetime
    #: what its own tests say, where it has any
    tested: list[RigBandOut]


def _tested(kind: str, body: Any) -> list[RigBandOut]:
    return (
        tested(OwnLubricant.model_validate(body))
        if kind == "lubricant" and body.get("tests")
        else []
    )


@use_case
def list_own_entries(ctx: Ctx) -> tuple[list[OwnEntryView], list[str]]:
    """(own entries, ids of lubricants in store)."""
    rows = ctx.session.execute(
        select(OwnEntry, Person.name)
        .join(Person, OwnEntry.person_id == Person.id)
        .where(OwnEntry.active)
        .order_by(OwnEntry.kind, OwnEntry.key)
    )
    entries = [
        OwnEntryView(
            e.id, e.kind, e.key, body := json.loads(e.body), name, e.at, _tested(e.kind, body)
        )
        for e, name in rows
    ]
    return entries, list(ctx.session.scalars(select(Stock.lubricant).order_by(Stock.lubricant)))


@use_case
def save_own_entry(ctx: Ctx, kind: str, key: str, body: Any) -> uuid.UUID:
    """Keep an own entry, or a new version of it; plans embed a copy, so released ones do not
    change.

    Raises DocumentErrors for a body that does not fit, Refused for the name of a shipped entry.
    """
    if kind not in KINDS:
        raise BadField(Refusal.OWN_KINDS, "kind", kinds=", ".join(KINDS))
    most = 120 if kind in ("grade", "material") else 40
    if not 1 <= len(key.strip()) <= most:
        raise BadField(Refusal.BAD_NAME, "key", most=most)
    if kind == "lubricant" and key in lubricants.table():
        raise Refused(Refusal.SHIPPED_NAME, "key", key=key)
    try:
        KINDS[kind].model_validate(body)
    except ValidationError as error:
        raise DocumentErrors(
            [type(e)(("body", *e.path), e.code, e.text) for e in field_errors(error)]
        ) from None
    entry = ctx.session.scalar(select(OwnEntry).where(OwnEntry.kind == kind, OwnEntry.key == key))
    if entry is None:
        entry = OwnEntry(
            id=ctx.new_id(),
            kind=kind,
            key=key,
            body="",
            active=True,
            person_id=ctx.person.id,
            at=ctx.now,
        )
        ctx.session.add(entry)
    entry.body, entry.active, entry.person_id, entry.at = (
        json.dumps(body, ensure_ascii=False),
        True,
        ctx.person.id,
        ctx.now,
    )
    ctx.session.flush()
    return entry.id


@use_case
def remove_own_entry(ctx: Ctx, entry_id: uuid.UUID) -> None:
    """Take an own entry off the list; plans that hold a copy keep it. Raises NotFound."""
    entry = ctx.session.get(OwnEntry, entry_id)
    if entry is None or not entry.active:
        raise NotFound("entry")
    entry.active = False
    ctx.session.flush()


@use_case
def set_in_store(ctx: Ctx, lubricant: str, in_store: bool) -> None:
    """Mark a lubricant as in store, or no longer. Raises NotFound for an unknown one."""
    own = ctx.session.scalar(
        select(OwnEntry).where(
            OwnEntry.kind == "lubricant", OwnEntry.key == lubricant, OwnEntry.active
        )
    )
    if lubricant not in lubricants.table() and own is None:
        raise NotFound("lubricant")
    ctx.session.execute(delete(Stock).where(Stock.lubricant == lubricant))
    if in_store:
        ctx.session.add(Stock(lubricant=lubricant, person_id=ctx.person.id, at=ctx.now))
    ctx.session.flush()
