"""Drafts and revisions."""

from __future__ import annotations

import json
import uuid
from collections.abc import Collection
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import func, select

from ...core.documents.plan import JOINT_KINDS
from ...core.documents.read import MAX_BYTES, canonical, deeper_than
from ...core.forms.result import FindingOut, Result
from ...core.messages import Refusal
from ...core.planning.compute import compute
from ...core.planning.templates import begun_plan
from ...core.thresholds import MOST_SIDE_DRAFTS
from ...settings import read
from ...store.models import Joint, Person, Plan, Revision, SideDraft
from ..codes import revision_text
from ..context import Ctx
from ..errors import BadField, NotFound, Refused
from ..keys import code_of
from ..permissions import use_case
from ..rechecking.refresh import refresh_joint
from ..registers.summaries import keep_summary, renew_summary, write_found


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
def create_plan(ctx: Ctx, joint_id: uuid.UUID, title: str, empty: bool = False) -> uuid.UUID:
    """A new plan for a joint, begun from the example of its kind, or from its empty form; returns
    its id."""
    joint = ctx.session.get(Joint, joint_id)
    if joint is None:
        raise NotFound("joint")
    title = title.strip()
    if not 1 <= len(title) <= 120:
        raise BadField(Refusal.BAD_TITLE, "title")
    return _begin(
        ctx,
        joint,
        title,
        begun_plan(joint.kind, title, f"{joint.equipment.tag}/{joint.tag}", empty),
    )


def _begin(ctx: Ctx, joint: Joint, title: str, document: dict[str, Any]) -> uuid.UUID:
    """A plan whose first draft is a document."""
    plan = Plan(
        id=ctx.new_id(),
        joint_id=joint.id,
        title=title,
        created_at=ctx.now,
        version=1,
        draft=json.dumps(document, ensure_ascii=False),
        draft_by=ctx.person.id,
        draft_at=ctx.now,
    )
    ctx.session.add(plan)
    ctx.session.flush()
    ctx.session.refresh(joint, ["plans"])
    write_found(joint)
    return plan.id


@use_case
def copy_plan(ctx: Ctx, plan_id: uuid.UUID, joint_id: uuid.UUID) -> uuid.UUID:
    """A draft like another one for another joint of the same kind: tag and title follow; returns
    its id."""
    plan, joint = ctx.session.get(Plan, plan_id), ctx.session.get(Joint, joint_id)
    if plan is None or joint is None:
        raise NotFound("plan" if plan is None else "joint")
    document = json.loads(plan.draft)
    if document.get("joint_kind") != joint.kind:
        raise BadField(Refusal.OTHER_KIND, "joint", kind=JOINT_KINDS[joint.kind])
    title = plan.title.replace(plan.joint.name, joint.name)[:120]
    document.update(joint=f"{joint.equipment.tag}/{joint.tag}", title=title)
    return _begin(ctx, joint, title, document)


@use_case
def put_away(ctx: Ctx, plan_id: uuid.UUID, away: bool) -> None:
    """A plan out of the lists, or back among them; what was released of it stays. Raises
    NotFound."""
    plan = locked_plan(ctx, plan_id)
    plan.put_away = away
    ctx.session.flush()
    renew_summary(ctx, plan.joint)
    refresh_joint(ctx, plan.joint_id)
    ctx.session.flush()


#: a plan is nested some ten deep; what is deeper was not made by anybody who plans
MOST_DEEP = 30


@use_case
def save_draft(
    ctx: Ctx, plan_id: uuid.UUID, base_version: int, document: Any
) -> Saved | SavedAside:
    """Save a draft as typed, valid or not. When the base is no longer the current version the text
    is kept aside."""
    return keep_draft(ctx, plan_id, base_version, document)


def keep_draft(
    ctx: Ctx, plan_id: uuid.UUID, base_version: int, document: Any
) -> Saved | SavedAside:
    """The saving itself, for every use that saves. Raises BadField for what nothing could open
    again."""
    try:
        text = json.dumps(document, ensure_ascii=False, allow_nan=False)
    except (ValueError, RecursionError):
        # a figure that is none, or a nest that nothing could open again
        raise BadField(Refusal.BAD_DRAFT, "document") from None
    if len(text) > MAX_BYTES or not isinstance(document, dict) or deeper_than(document, MOST_DEEP):
        raise BadField(Refusal.BAD_DRAFT, "document")
    plan = locked_plan(ctx, plan_id)
    if plan.version != base_version:
        aside = (
            select(func.count())
            .select_from(SideDraft)
            .where(SideDraft.plan_id == plan.id, SideDraft.person_id == ctx.person.id)
        )
        if (ctx.session.scalar(aside) or 0) >= MOST_SIDE_DRAFTS.value:
            raise Refused(Refusal.SIDE_DRAFTS_FULL, most=int(MOST_SIDE_DRAFTS.value))
        side = SideDraft(
            id=ctx.new_id(),
            plan_id=plan.id,
            base_version=base_version,
            document=text,
            person_id=ctx.person.id,
            at=ctx.now,
        )
        ctx.session.add(side)
        ctx.session.flush()
        return SavedAside(side.id, plan.version, _name(ctx, plan.draft_by))
    plan.version += 1
    plan.draft, plan.draft_by, plan.draft_at = text, ctx.person.id, ctx.now
    title = document.get("title")
    if isinstance(title, str) and 1 <= len(title.strip()) <= 120 and plan.title != title.strip():
        plan.title = title.strip()
        write_found(plan.joint)
    ctx.session.flush()
    return Saved(plan.version, plan.draft_at)


def _name(ctx: Ctx, person_id: uuid.UUID) -> str:
    person = ctx.session.get(Person, person_id)
    return person.name if person else "somebody"


def caution_id(finding: FindingOut) -> str:
    """What a caution is waived by: its code and its place."""
    return f"{finding.code}@{finding.where}"


def _taken_on(result: Result, named: Collection[str]) -> list[str]:
    """The sentences of the open cautions, every one of which was named. Raises Refused."""
    open_ = [f for f in result.findings if f.severity == "caution" and f.waived is None]
    left = [f for f in open_ if caution_id(f) not in named]
    if left:
        raise Refused(Refusal.CAUTIONS_LEFT, count=len(left), first=left[0].text)
    return [f.text for f in open_]


@use_case
def release(
    ctx: Ctx,
    plan_id: uuid.UUID,
    base_version: int,
    reason: str = "",
    taken_on: Collection[str] = (),
) -> Revision:
    """Freeze the current draft as the next revision, with the reason for it and the cautions waived
    by name.

    Raises Refused on stop findings, on cautions that nobody took on, without a reason, or when the
    draft has moved.
    """
    plan = locked_plan(ctx, plan_id)
    if plan.version != base_version:
        raise Refused(Refusal.DRAFT_MOVED)
    if read("ORTHOTORQ_RELEASE_BY_TWO") == "1" and plan.draft_by == ctx.person.id:
        raise Refused(Refusal.SECOND_RELEASES, person=ctx.person.name)
    document = json.loads(plan.draft)
    result = compute(document)
    stops = [f for f in result.findings if f.severity == "stop" and f.waived is None]
    if stops:
        raise Refused(Refusal.STOPS_LEFT, count=len(stops), first=stops[0].text)
    latest = plan.revisions[-1] if plan.revisions else None
    if latest is not None and latest.plan_hash == result.plan_hash:
        raise Refused(Refusal.NOTHING_CHANGED, number=latest.number)
    if latest is not None and len(reason.strip()) < 3:
        raise BadField(Refusal.REASON_OF_REVISION, "reason")
    taken = _taken_on(result, taken_on)
    for old in plan.revisions:
        old.status = "superseded"
    revision = Revision(
        id=ctx.new_id(),
        plan_id=plan.id,
        number=(latest.number if latest else 0) + 1,
        status="released",
        document=canonical(document),
        result=result.model_dump_json(),
        plan_hash=result.plan_hash,
        released_by=ctx.person.id,
        released_at=ctx.now,
        reason=reason.strip(),
        taken_on=json.dumps(taken, ensure_ascii=False),
    )
    revision.code = code_of(revision_text(revision))
    ctx.session.add(revision)
    plan.unreleased = False
    keep_summary(ctx, plan.joint, revision, result)
    ctx.session.flush()
    refresh_joint(ctx, plan.joint_id)
    return revision
