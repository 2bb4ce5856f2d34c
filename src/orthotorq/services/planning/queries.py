"""Computing and reading plans."""
from __future__ import annotations

import json
import uuid
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import select

from ...core.documents.plan import OwnLubricant
from ...core.forms.result import Result
from ...core.planning.compute import compute
from ...core.planning.compute.alternatives import AlternativeOut, alternatives
from ...core.planning.compute.working import WorkingOut, working
from ...core.sums import SUMS, Answer, answer
from ...exchange.sheet import SheetHead, render_sheet
from ...store.models import OwnEntry, Person, Plan, Revision, SideDraft, Stock
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
    document: Any
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
    document: Any


@dataclass(frozen=True, slots=True)
class RevisionView:
    """A frozen revision with its result."""

    id: uuid.UUID
    plan_id: uuid.UUID
    number: int
    status: str
    released_at: datetime
    released_by: str
    document: Any
    result: Result
    joint_name: str
    equipment_name: str


@use_case
def compute_plan(ctx: Ctx, document: Any) -> Result:
    """The result of a document; nothing is stored. Raises DocumentErrors."""
    return compute(document)


@use_case
def explain_figure(ctx: Ctx, document: Any, figure: str) -> WorkingOut:
    """The working of one figure of a document; nothing is stored."""
    return working(document, figure)


@use_case
def other_lubricants(ctx: Ctx, document: Any, group: str) -> list[AlternativeOut]:
    """What each lubricant that is in store would do in a group of a document; nothing is stored."""
    wanted = list(ctx.session.scalars(select(Stock.lubricant).order_by(Stock.lubricant)))
    rows = ctx.session.scalars(select(OwnEntry).where(OwnEntry.kind == "lubricant", OwnEntry.active))
    own = {e.key: OwnLubricant.model_validate_json(e.body) for e in rows}
    return alternatives(document, group, wanted, own)


@use_case
def answer_sum(ctx: Ctx, name: str, texts: dict[str, Any]) -> Answer:
    """A quick sum; nothing is stored. Raises NotFound for no such sum, errors of the core for bad fields."""
    if name not in SUMS:
        raise NotFound("sum")
    return answer(name, texts)


@use_case
def read_draft(ctx: Ctx, plan_id: uuid.UUID) -> DraftView:
    """The current draft of a plan. Raises NotFound."""
    plan = ctx.session.get(Plan, plan_id)
    if plan is None:
        raise NotFound("plan")
    person = ctx.session.get_one(Person, plan.draft_by)
    latest = plan.revisions[-1] if plan.revisions else None
    return DraftView(plan.id, plan.title, plan.version, plan.draft_at, person.name, json.loads(plan.draft), plan.joint.id,
                     plan.joint.name, plan.joint.equipment.name, latest.id if latest else None,
                     latest.number if latest else None)


@use_case
def list_side_drafts(ctx: Ctx, plan_id: uuid.UUID) -> list[SideDraftView]:
    """Losing versions of a plan, newest first."""
    rows = ctx.session.execute(select(SideDraft, Person.name).join(Person, SideDraft.person_id == Person.id)
                               .where(SideDraft.plan_id == plan_id).order_by(SideDraft.at.desc()).limit(50)).all()
    return [SideDraftView(s.id, s.base_version, s.at, name, json.loads(s.document)) for s, name in rows]


@use_case
def read_revision(ctx: Ctx, revision_id: uuid.UUID) -> RevisionView:
    """A revision. Raises NotFound."""
    revision = ctx.session.get(Revision, revision_id)
    if revision is None:
        raise NotFound("revision")
    person = ctx.session.get_one(Person, revision.released_by)
    joint = revision.plan.joint
    return RevisionView(revision.id, revision.plan_id, revision.number, revision.status, revision.released_at, person.name,
                        json.loads(revision.document), Result.model_validate_json(revision.result), joint.name,
                        joint.equipment.name)


@use_case
def sheet_pdf(ctx: Ctx, revision_id: uuid.UUID) -> tuple[str, bytes]:
    """(file name, PDF) of the sheet to carry before a run."""
    view = read_revision(ctx, revision_id)
    head = SheetHead(view.equipment_name, view.joint_name, view.number, view.released_by, view.released_at)
    workings = [w for g in view.result.groups if g.target and g.preload
                for w in [working(view.document, f"{g.id}/preload")] if w.steps]
    pdf = render_sheet(view.result, head, workings, printed_at=ctx.now)
    return f"plan-{view.number}.pdf", pdf
