"""What a run leaves at its joint: written when it changes, read wherever the joint is shown."""

from __future__ import annotations

import json
from collections.abc import Callable
from datetime import UTC, datetime

from sqlalchemy import delete, select
from sqlalchemy.orm import Session, sessionmaker

from ...core.forms.result import Result
from ...core.forms.run import RunState
from ...core.running import Fact, Touch, counted, fold, record_of
from ...core.running.present.outcome import outcome_of
from ...store.models import DueDate, Plan, Revision, Run, Tool, ToolPull
from ..context import Ctx
from ..rechecking.condition import outcome_text
from ..rechecking.refresh import refresh_joint
from ..toolroom.tools import count_pulls
from .chain import facts_of
from .start import result_of


def keep_touch(ctx: Ctx, run: Run, touch: Touch | None, fact: Fact) -> None:
    """Keep what a registered wrench did: it counts against its interval, and is what a bad wrench
    is followed by."""
    if touch is None:
        return
    # asked once for all answers of a batch
    known = ctx.session.info.setdefault("touched", {})
    if touch.serial not in known:
        known[touch.serial] = ctx.session.scalar(select(Tool.id).where(Tool.serial == touch.serial))
    if run.revision_id not in known:
        known[run.revision_id] = ctx.session.scalars(
            select(Plan.joint_id)
            .join(Revision, Revision.plan_id == Plan.id)
            .where(Revision.id == run.revision_id)
        ).one()
    tool_id, joint_id = known[touch.serial], known[run.revision_id]
    if tool_id is not None:
        ctx.session.add(
            ToolPull(
                run_id=run.id,
                run_number=run.number,
                revision_id=run.revision_id,
                joint_id=joint_id,
                sequence=fact.sequence,
                tool_id=tool_id,
                group=touch.group,
                at=datetime.fromtimestamp(fact.happened, UTC) if fact.happened else ctx.now,
                place=touch.place,
                position=touch.position,
                torque_Nm=touch.torque_Nm,
                percent=touch.percent,
            )
        )


def _note_end(ctx: Ctx, run: Run, result: Result, state: RunState) -> None:
    """Write when a run ended and what its check rounds found; a run that goes on again has not
    ended."""
    if state.status == "running":
        run.ended_at = None
        return
    if run.ended_at is None:
        run.ended_at = ctx.now
        run.checked, run.moved = counted(record_of(result, facts_of(ctx.session, run)))
        ctx.session.flush()
        count_pulls(
            ctx,
            ctx.session.scalars(
                select(ToolPull.tool_id).distinct().where(ToolPull.run_id == run.id)
            ).all(),
        )


def changes_condition(run: Run, state: RunState) -> bool:
    """Whether a run that goes on says something else of its joint than was written: that bolts were
    turned, or what failed."""
    if not run.outcome:
        return state.turned or bool(state.failed)
    kept = {f["text"] for part in json.loads(run.outcome)["parts"] for f in part["failures"]}
    return kept != set(state.failed)


def note_run(ctx: Ctx, run: Run, result: Result, state: RunState) -> None:
    """Write what a run leaves, the condition of its joint, and when it is due again."""
    _note_end(ctx, run, result, state)
    log = fold(facts_of(ctx.session, run))
    run.outcome = outcome_text(outcome_of(result, log, run.number, ctx.now.timestamp()))
    joint_id = ctx.session.get_one(Revision, run.revision_id).plan.joint_id
    if state.status != "running":
        ctx.session.execute(
            delete(DueDate).where(DueDate.joint_id == joint_id, DueDate.rule.like("tool:%"))
        )
    refresh_joint(ctx, joint_id)


def fill_outcomes(
    sessions: sessionmaker[Session], make: Callable[[Session], Ctx], step: int = 50
) -> int:
    """Write the outcomes of ended runs that an older program has left without one; returns how
    many."""
    count = 0
    while True:
        with sessions.begin() as session:
            runs = session.scalars(
                select(Run)
                .where(Run.outcome == "", Run.ended_at.is_not(None))
                .order_by(Run.number)
                .limit(step)
            ).all()
            for run in runs:
                result, log = result_of(session, run), fold(facts_of(session, run))
                run.outcome = outcome_text(
                    outcome_of(result, log, run.number, make(session).now.timestamp())
                )
        if not runs:
            return count
        count += len(runs)
