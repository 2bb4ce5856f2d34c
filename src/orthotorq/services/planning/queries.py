"""Reading drafts and revisions."""

from __future__ import annotations

import json
import uuid
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import func, or_, select

from ...core.documents.plan import VERSION
from ...core.documents.typed import PlanAsTyped
from ...core.documents.upgrade import upgraded
from ...core.forms.result import Result
from ...core.forms.stored import stored_result
from ...store.models import Equipment, Joint, Person, Plan, Revision, SideDraft
from ..context import Ctx
from ..errors import NotFound
from ..permissions import use_case


@dataclass(frozen=True, slots=True)
class DraftView:
    """A draft with its place in the works."""

    id: uuid.UUID
    title: str
    version: int
    saved_at: datetime
    saved_by: str
    document: PlanAsTyped
    joint_id: uuid.UUID
    joint_name: str
    equipment_name: str
    revision_id: uuid.UUID | None
    revision_number: int | None


@dataclass(frozen=True, slots=True)
class SideDraftView:
    """A kept losing version."""

    id: uuid.UUID
    base_version: int
    at: datetime
    person: str
    document: PlanAsTyped


@dataclass(frozen=True, slots=True)
class RevisionView:
    """A frozen revision with its result."""

    id: uuid.UUID
    plan_id: uuid.UUID
    number: int
    status: str
    released_at: datetime
    released_by: str
    document: PlanAsTyped
    result: Result
    joint_name: str
    equipment_name: str


@dataclass(frozen=True, slots=True)
class CopyView:
    """A plan that may be copied, with where it belongs; `number` is its last revision."""

    id: uuid.UUID
    title: str
    joint: str
    equipment: str
    number: int | None


@use_case
def plans_to_copy(ctx: Ctx, joint_id: uuid.UUID, find: str = "", limit: int = 20) -> list[CopyView]:
    """Plans for joints of the same kind, the newest first; every word of `find` is in title, joint,
    machine or tag.

    Raises NotFound.
    """
    joint = ctx.session.get(Joint, joint_id)
    if joint is None:
        raise NotFound("joint")
    number = select(func.max(Revision.number)).where(Revision.plan_id == Plan.id).scalar_subquery()
    wanted = (
        select(Plan.id, Plan.title, Joint.name, Equipment.name, number)
        .join(Joint, Plan.joint_id == Joint.id)
        .join(Equipment, Joint.equipment_id == Equipment.id)
        .where(Joint.kind == joint.kind, ~Plan.put_away)
        .order_by(Plan.draft_at.desc())
        .limit(limit)
    )
    for word in find.split()[:8]:
        wanted = wanted.where(
            or_(
                *(
                    c.icontains(word, autoescape=True)
                    for c in (Plan.title, Joint.name, Joint.summary, Equipment.name, Equipment.tag)
                )
            )
        )
    return [CopyView(*row) for row in ctx.session.execute(wanted)]


@use_case
def read_draft(ctx: Ctx, plan_id: uuid.UUID) -> DraftView:
    """The current draft of a plan. Raises NotFound."""
    plan = ctx.session.get(Plan, plan_id)
    if plan is None:
        raise NotFound("plan")
    person = ctx.session.get_one(Person, plan.draft_by)
    latest = plan.revisions[-1] if plan.revisions else None
    document = upgraded(json.loads(plan.draft), VERSION)
    return DraftView(
        plan.id,
        plan.title,
        plan.version,
        plan.draft_at,
        person.name,
        document,
        plan.joint.id,
        plan.joint.name,
        plan.joint.equipment.name,
        latest.id if latest else None,
        latest.number if latest else None,
    )


@use_case
def list_side_drafts(ctx: Ctx, plan_id: uuid.UUID) -> list[SideDraftView]:
    """Losing versions of a plan, newest first."""
    rows = ctx.session.execute(
        select(SideDraft, Person.name)
        .join(Person, SideDraft.person_id == Person.id)
        .where(SideDraft.plan_id == plan_id)
        .order_by(SideDraft.at.desc())
        .limit(50)
    ).all()
    return [
        SideDraftView(s.id, s.base_version, s.at, name, json.loads(s.document)) for s, name in rows
    ]


@use_case
def read_revision(ctx: Ctx, revision_id: uuid.UUID) -> RevisionView:
    """A revision. Raises NotFound."""
    revision = ctx.session.get(Revision, revision_id)
    if revision is None:
        raise NotFound("revision")
    person = ctx.session.get_one(Person, revision.released_by)
    joint = revision.plan.joint
    return RevisionView(
        revision.id,
        revision.plan_id,
        revision.number,
        revision.status,
        revision.released_at,
        person.name,
        json.loads(revision.document),
        stored_result(revision.result),
        joint.name,
        joint.equipment.name,
    )
