"""Signing a run: with password or PIN again, over what stands there, never by who pulled as the one
who looks after."""

from __future__ import annotations

import uuid

from sqlalchemy import func, select

from ...core.forms.run import RunState
from ...core.messages import Refusal
from ...core.running import fold, judge_in, state_from
from ...settings import read
from ...store.models import Event, Run
from ..accounts.commands import proof
from ..accounts.watch import note_event
from ..codes import close_head, time_text
from ..context import Ctx
from ..errors import BadField, Refused
from ..permissions import use_case
from .append import append
from .chain import facts_of
from .commands import SERVER, locked_run
from .run_end import note_run
from .start import result_of


def _require_another(ctx: Ctx, run: Run) -> None:
    """Who pulled does not sign as supervisor, unless the site lets one sign both. Raises
    Refused."""
    pulled = (
        select(Event.sequence)
        .where(
            Event.run_id == run.id,
            Event.kind == "answer",
            Event.verdict == "accepted",
            Event.person_id == ctx.person.id,
        )
        .limit(1)
    )
    if read("ORTHOTORQ_ONE_SIGNS_BOTH") != "1" and ctx.session.scalar(pulled) is not None:
        raise Refused(Refusal.PULLED_SIGNS, person=ctx.person.name)


@use_case
def sign_run(ctx: Ctx, run_id: uuid.UUID, role: str, password: str) -> RunState | BadField:
    """Sign a run in a role, with password or PIN. A wrong one is an outcome, since the attempt is
    kept.

    Raises NotFound, Refused, and TooMany after too many tries.
    """
    run = locked_run(ctx, run_id)
    by = proof(ctx, password)
    if by is None:
        return BadField(Refusal.PASSWORD_WRONG, "password")
    result, facts = result_of(ctx.session, run), facts_of(ctx.session, run)
    log = fold(facts)
    judged = judge_in(
        result, log, "sign_off", "-", {"role": role}, ctx.person.roles, ctx.now.timestamp()
    )
    if judged.verdict != "accepted":
        assert judged.code is not None
        raise Refused.worded(judged.code, judged.text)
    if role == "supervisor":
        _require_another(ctx, run)
    number = ctx.session.scalar(
        select(func.max(Event.device_sequence)).where(
            Event.run_id == run.id, Event.device == SERVER
        )
    )
    signs = state_from(result, log, ctx.now.timestamp()).signs
    client = {
        "id": str(ctx.new_id()),
        "run": str(run.id),
        "step": "-",
        "kind": "sign_off",
        "device": SERVER,
        "device_sequence": (number or 0) + 1,
        "device_time": time_text(ctx.now),
        "lease": run.lease_epoch,
        "last_seen": run.head_sequence,
        "payload": {"role": role},
    }
    log.add(
        append(ctx, run, client, "accepted", {"head_hash": run.head_hash, "signs": signs, "by": by})
    )
    state = state_from(result, log, ctx.now.timestamp(), ctx.person.roles)
    run.status = state.status
    note_run(ctx, run, result, state)
    close_head(run)
    note_event(ctx, "signature", f"run {run.number} as {role}")
    ctx.session.flush()
    return state
