"""Continuing a run that was ended early: what has happened at its joint since decides, and the core
what has set or cooled."""

from __future__ import annotations

import uuid

from sqlalchemy import select

from ...core.running import fold, why_not_continued
from ...core.running.log.event_log import Log
from ...store.models import JointEntry, Plan, Revision, Run
from ..context import Ctx
from .chain import facts_of
from .start import result_of

#: what somebody reports of a joint after which nobody knows what a run had reached
_CHANGES = ("opened", "replaced", "not_safe", "happened")


def last_run_of(ctx: Ctx, joint_id: uuid.UUID) -> Run | None:
    """The newest run on a joint."""
    return ctx.session.scalars(
        select(Run)
        .join(Revision, Run.revision_id == Revision.id)
        .join(Plan, Revision.plan_id == Plan.id)
        .where(Plan.joint_id == joint_id)
        .order_by(Run.number.desc())
        .limit(1)
    ).first()


def cannot_continue(ctx: Ctx, run: Run, log: Log | None = None) -> str:
    """Why a run that was ended early cannot go on, in a sentence; empty where it can."""
    revision = ctx.session.get_one(Revision, run.revision_id)
    joint_id = revision.plan.joint_id
    if revision.status != "released":
        return "Its plan has a new revision."
    newest = last_run_of(ctx, joint_id)
    if newest is not None and newest.number > run.number:
        return f"Run {newest.number} came after it."
    facts = fold(facts_of(ctx.session, run)) if log is None else log
    if run.ended_at is not None and ctx.session.scalar(
        select(JointEntry.id).where(
            JointEntry.joint_id == joint_id,
            JointEntry.kind.in_(_CHANGES),
            JointEntry.at >= run.ended_at,
        )
    ):
        return "The joint was changed since."
    return why_not_continued(result_of(ctx.session, run), facts, ctx.now.timestamp())
