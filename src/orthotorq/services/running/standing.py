"""How a joint stands after a run: written when a run ends, read wherever the joint is shown."""
from __future__ import annotations

import uuid
from datetime import UTC, datetime

from sqlalchemy import delete, select

from ...core.forms.result import Result
from ...core.forms.run import RunState
from ...core.messages import Refusal
from ...core.running import Fact, Touch, counted, record_of
from ...core.running.standing import standing_after
from ...store.models import DueDate, Joint, JointEntry, Plan, Revision, Run, Tool, ToolPull
from ..context import Ctx
from ..errors import BadField, NotFound
from ..permissions import use_case
from ..rechecking.dues import refresh_joint
from ..toolroom.tools import count_pulls
from .chain import facts_of
from .histories import MOST_WORDS


def keep_touch(ctx: Ctx, run: Run, touch: Touch | None, fact: Fact) -> None:
    """Keep what a registered wrench did: it counts against its interval, and is what a bad wrench is followed by."""
    if touch is None:
        return
    # asked once for all answers of a batch
    known = ctx.session.info.setdefault("touched", {})
    if touch.serial not in known:
        known[touch.serial] = ctx.session.scalar(select(Tool.id).where(Tool.serial == touch.serial))
    if run.revision_id not in known:
        known[run.revision_id] = ctx.session.scalars(select(Plan.joint_id).join(Revision, Revision.plan_id == Plan.id)
                                                     .where(Revision.id == run.revision_id)).one()
    tool_id, joint_id = known[touch.serial], known[run.revision_id]
    if tool_id is not None:
        ctx.session.add(ToolPull(run_id=run.id, run_number=run.number, revision_id=run.revision_id, joint_id=joint_id,
                                 sequence=fact.sequence, tool_id=tool_id, group=touch.group,
                                 at=datetime.fromtimestamp(fact.happened, UTC) if fact.happened else ctx.now,
                                 place=touch.place, position=touch.position, torque_Nm=touch.torque_Nm, percent=touch.percent))


def _note_end(ctx: Ctx, run: Run, result: Result, state: RunState) -> None:
    """Write when a run ended and what its check rounds found; a run that goes on again has not ended."""
    if state.status == "running":
        run.ended_at = None
        return
    if run.ended_at is None:
        run.ended_at = ctx.now
        run.checked, run.moved = counted(record_of(result, facts_of(ctx.session, run)))
        ctx.session.flush()
        count_pulls(ctx, ctx.session.scalars(select(ToolPull.tool_id).distinct().where(ToolPull.run_id == run.id)).all())


def note_standing(ctx: Ctx, run: Run, result: Result, state: RunState) -> None:
    """Write how the joint of a run stands and when it is due again, once the run says so; an older run does not speak over a
    newer one."""
    _note_end(ctx, run, result, state)
    joint = ctx.session.get_one(Revision, run.revision_id).plan.joint
    _stand(ctx, joint, run, state)
    if state.status != "running":
        ctx.session.execute(delete(DueDate).where(DueDate.joint_id == joint.id, DueDate.rule.like("tool:%")))
    refresh_joint(ctx, joint.id)


def _stand(ctx: Ctx, joint: Joint, run: Run, state: RunState) -> None:
    word = standing_after(state.occasion, state.status, state.provisional_why,
                          any(d.code == "moved_at_recheck" for d in state.deviations))
    if word is None:
        return
    if joint.standing_run is not None and joint.standing_run > run.number:
        return
    joint.standing, joint.standing_why = word, "; ".join(state.provisional_why)[:400]
    joint.standing_run, joint.standing_at = run.number, ctx.now


@use_case
def note_opened(ctx: Ctx, joint_id: uuid.UUID, words: str) -> None:
    """Somebody had the joint open, and no record says what was done: its bolts count as unknown. Raises NotFound, BadField."""
    joint = ctx.session.get(Joint, joint_id)
    if joint is None:
        raise NotFound("joint")
    if len(words) > MOST_WORDS:
        raise BadField(Refusal.WORDS_TOO_LONG, "words", most=MOST_WORDS)
    joint.standing, joint.standing_at = "opened", ctx.now
    joint.standing_why = f"said by {ctx.person.name}" + (f": {words.strip()}" if words.strip() else "")
    ctx.session.add(JointEntry(id=ctx.new_id(), joint_id=joint.id, at=ctx.now, kind="opened", words=words.strip(),
                               person_id=ctx.person.id))
    refresh_joint(ctx, joint.id)
