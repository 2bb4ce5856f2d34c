"""How a joint stands after a run: written when a run ends, read wherever the joint is shown."""
from __future__ import annotations

import uuid

from ...core.forms.run import RunState
from ...core.messages import Refusal
from ...core.running.standing import standing_after
from ...store.models import Joint, Revision, Run
from ..context import Ctx
from ..errors import BadField, NotFound
from ..permissions import use_case
from .histories import MOST_WORDS


def note_standing(ctx: Ctx, run: Run, state: RunState) -> None:
    """Write how the joint of a run stands, once the run says so; an older run does not speak over a newer one."""
    word = standing_after(state.occasion, state.status, state.provisional_why,
                          any(d.code == "moved_at_recheck" for d in state.deviations))
    if word is None:
        return
    joint = ctx.session.get_one(Revision, run.revision_id).plan.joint
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
