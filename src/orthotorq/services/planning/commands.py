"""Drafts and revisions."""
from __future__ import annotations

import json
import uuid
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import select

from ...core.documents.read import MAX_BYTES, canonical
from ...core.messages import Refusal
from ...core.planning.compute import compute
from ...core.planning.templates import blank_plan
from ...store.models import Joint, Person, Plan, Revision, SideDraft
from ..context import Ctx
from ..errors import BadField, NotFound, Refused
from ..permissions import use_case


@dataclass(frozen=True, slots=True)
class Saved:
    """The draft was saved under a new version."""

    version: int
    at: datetime


@dataclass(frozen=True, slots=True)
class SavedAside:
    """Somebody else saved first: this version was kept as a side draft, theirs stays the draft."""

    side_draft: uuid.UUID
    current_version: int
    by: str


def locked_plan(ctx: Ctx, plan_id: uuid.UUID) -> Plan:
    """The plan under a row lock. Raises NotFound."""
    plan = ctx.session.scalar(select(Plan).where(Plan.id == plan_id).with_for_update())
    if plan is None:
        raise NotFound("plan")
    return plan


@use_case
def create_plan(ctx: Ctx, joint_id: uuid.UUID, title: str) -> uuid.UUID:
    """A new plan for a joint, begun from the template of its kind; returns its id."""
    joint = ctx.session.get(Joint, joint_id)
    if joint is None:
        raise NotFound("joint")
    title = title.strip()
    if not 1 <= len(title) <= 120:
        raise BadField(Refusal.BAD_TITLE, "title")
    document = blank_plan(joint.kind, title, f"{joint.equipment.tag}/{joint.tag}")
    plan = Plan(id=ctx.new_id(), joint_id=joint.id, title=title, created_at=ctx.now, version=1,
                draft=json.dumps(document, ensure_ascii=False), draft_by=ctx.person.id, draft_at=ctx.now)
    ctx.session.add(plan)
    ctx.session.flush()
    return plan.id


@use_case
def save_draft(ctx: Ctx, plan_id: uuid.UUID, base_version: int, document: Any) -> Saved | SavedAside:
    """Save a draft as typed, valid or not. When the base is no longer the current version the text is kept aside."""
    text = json.dumps(document, ensure_ascii=False, allow_nan=False)
    if len(text) > MAX_BYTES or not isinstance(document, dict):
        raise BadField(Refusal.BAD_DRAFT, "document")
    plan = locked_plan(ctx, plan_id)
    if plan.version != base_version:
        side = SideDraft(id=ctx.new_id(), plan_id=plan.id, base_version=base_version, document=text,
                         person_id=ctx.person.id, at=ctx.now)
        ctx.session.add(side)
        ctx.session.flush()
        return SavedAside(side.id, plan.version, _name(ctx, plan.draft_by))
    plan.version += 1
    plan.draft, plan.draft_by, plan.draft_at = text, ctx.person.id, ctx.now
    title = document.get("title")
    if isinstance(title, str) and 1 <= len(title.strip()) <= 120:
        plan.title = title.strip()
    ctx.session.flush()
    return Saved(plan.version, plan.draft_at)


def _name(ctx: Ctx, person_id: uuid.UUID) -> str:
    person = ctx.session.get(Person, person_id)
    return person.name if person else "somebody"


@use_case
def release(ctx: Ctx, plan_id: uuid.UUID, base_version: int) -> Revision:
    """Freeze the current draft as the next revision. Raises Refused on stop findings or when the draft has moved."""
    plan = locked_plan(ctx, plan_id)
    if plan.version != base_version:
        raise Refused(Refusal.DRAFT_MOVED)
    document = json.loads(plan.draft)
    result = compute(document)
    stops = [f for f in result.findings if f.severity == "stop" and f.waived is None]
    if stops:
        raise Refused(Refusal.STOPS_LEFT, count=len(stops), first=stops[0].text)
    latest = plan.revisions[-1] if plan.revisions else None
    if latest is not None and latest.plan_hash == result.plan_hash:
        raise Refused(Refusal.NOTHING_CHANGED, number=latest.number)
    for old in plan.revisions:
        old.status = "superseded"
    revision = Revision(id=ctx.new_id(), plan_id=plan.id, number=(latest.number if latest else 0) + 1, status="released",
                        document=canonical(document), result=result.model_dump_json(), plan_hash=result.plan_hash,
                        released_by=ctx.person.id, released_at=ctx.now)
    ctx.session.add(revision)
    ctx.session.flush()
    return revision
