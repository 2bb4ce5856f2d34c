"""Versions of a plan: its revisions, the drafts kept aside, what differs between two of them, parts
taken over."""

from __future__ import annotations

import json
import uuid
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import select

from ...core.documents.plan import VERSION
from ...core.documents.upgrade import upgraded
from ...core.planning.differences import Difference, differences, taken_over
from ...store.models import Person, Plan, Revision, SideDraft
from ..context import Ctx
from ..errors import NotFound
from ..permissions import use_case
from .bench import Edited


@dataclass(frozen=True, slots=True)
class RevisionLine:
    """One revision in the list of a plan: why it was released, and which cautions were waived with
    it."""

    id: uuid.UUID
    number: int
    status: str
    released_at: datetime
    released_by: str
    reason: str
    taken_on: list[str]


@use_case
def list_revisions(ctx: Ctx, plan_id: uuid.UUID) -> list[RevisionLine]:
    """Revisions of a plan, newest first."""
    rows = ctx.session.execute(
        select(Revision, Person.name)
        .join(Person, Revision.released_by == Person.id)
        .where(Revision.plan_id == plan_id)
        .order_by(Revision.number.desc())
        .limit(200)
    ).all()
    return [
        RevisionLine(
            r.id, r.number, r.status, r.released_at, name, r.reason, json.loads(r.taken_on)
        )
        for r, name in rows
    ]


def _document(ctx: Ctx, plan_id: uuid.UUID, version: str) -> dict[str, Any]:
    """The document of a version: `draft`, or the id of a revision or of a draft kept aside. Raises
    NotFound."""
    if version == "draft":
        plan = ctx.session.get(Plan, plan_id)
        text = plan.draft if plan is not None else None
    else:
        try:
            wanted = uuid.UUID(version)
        except ValueError:
            raise NotFound("version") from None
        found = ctx.session.get(Revision, wanted) or ctx.session.get(SideDraft, wanted)
        text = found.document if found is not None and found.plan_id == plan_id else None
    if text is None:
        raise NotFound("version")
    document: dict[str, Any] = upgraded(json.loads(text), VERSION)
    return document


@use_case
def compare_versions(ctx: Ctx, plan_id: uuid.UUID, before: str, after: str) -> list[Difference]:
    """What differs from one version of a plan to another, in words. Raises NotFound."""
    return differences(_document(ctx, plan_id, before), _document(ctx, plan_id, after))


@use_case
def take_over_part(ctx: Ctx, plan_id: uuid.UUID, version: str, document: Any, path: str) -> Edited:
    """A document with one part as another version has it; nothing is stored. Raises NotFound."""
    return Edited(taken_over(document, _document(ctx, plan_id, version), path), "")
