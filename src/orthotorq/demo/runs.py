"""A finished run, answered step by step through the same commands that a tablet uses."""
from __future__ import annotations

import uuid
from collections.abc import Callable
from datetime import datetime, timedelta
from random import Random
from typing import Any

from sqlalchemy.orm import Session

from ..core.forms.result import ToolOut
from ..core.forms.run import Instruction, RunState
from ..core.running import first_variants
from ..services.accounts.queries import DEMO_PASSWORD
from ..services.context import Actor, Ctx
from ..services.errors import BadField
from ..services.planning.queries import read_revision
from ..services.running.chain import time_text
from ..services.running.commands import append_events
from ..services.running.queries import read_run
from ..services.running.sign import sign_run
from ..services.running.start import Choices, start_run

DEVICE = "tablet-2"


def _within(step: Instruction, chance: Random) -> str:
    """A reading inside the limits of a step."""
    words = (step.limit_text or "").replace("at least ", "").replace("at most ", "").split(", ")
    figures = [w.split(" ", 1) for w in words if w]
    unit = step.unit or "mm"
    values = [float(f[0]) for f in figures]
    if len(values) == 2:
        middle, half = (values[0] + values[1]) / 2, (values[1] - values[0]) / 2
        return f"{chance.uniform(middle - 0.6 * half, middle + 0.6 * half):.3g} {unit}"
    high = "at most" in (step.limit_text or "")
    return f"{values[0] * (chance.uniform(0.2, 0.7) if high else chance.uniform(1.01, 1.05)):.3g} {unit}"


def _pull(step: Instruction, chance: Random) -> dict[str, Any]:
    """A pull with readings: a few bolts move in the first round of a check, fewer in every further one."""
    again = (step.round or 1) - 1 + (step.pull or 1) - 1
    settles = step.check_round or again > 0
    # where none may move, none does
    firm = "none may move" in (step.pass_name or "").lower()
    likely = (0.2 if again == 0 and not firm else 0.0) if step.check_round else 0.5 * 0.3 ** (again - 1)
    moved = not settles or chance.random() < likely
    torque = step.settings[0].bolt_torque_Nm * chance.gauss(1.0, 0.009) if step.settings else 0.0
    angle = chance.uniform(6, 14) if settles else chance.uniform(20, 55)
    reading = {"torque": f"{float(f'{torque:.4g}'):g} N·m", **({"angle": f"{angle:.0f} deg"} if moved else {})}
    return {"answer": "turned" if moved else "did_not_turn", "reading": reading}


def sensible_answer(step: Instruction, chance: Random) -> dict[str, Any]:
    """What a fitter would answer when all goes well."""
    usual = step.buttons[0].answer
    if step.buttons[0].reason:
        return {"answer": usual, "reason": "looked at, cleaned"}
    if step.kind == "reading":
        return {"answer": "value", "value": _within(step, chance)}
    if step.kind == "pull":
        return _pull(step, chance)
    if step.kind == "angle":
        low, high = step.window_deg or [(step.turn_deg or 60) - 3, (step.turn_deg or 60) + 3]
        return {"answer": "turned", "reading": {"angle": f"{chance.uniform(low + 1, high - 1):.0f} deg"}}
    if step.kind == "gap":
        rounds = step.round or 1
        return {"answer": "value", "value": f"{max(3.8, 11.0 - 1.9 * rounds + chance.uniform(-0.12, 0.12)):.2f} mm"}
    if step.kind == "jack":
        return {"answer": "free" if (step.round or 1) >= 4 else "not_yet"}
    # batch and initials where the plan asks for them; the fitter's colleague saw it
    return {"answer": usual, **{k: v for k, v in (("batch", "GK-2611"), ("second", "RA")) if k in step.asks}}


def tools_for(wanted: list[ToolOut]) -> tuple[tuple[str, str], ...]:
    """The preferred tools of a plan by serial."""
    return tuple((tool.id, tool.prefer[0]) for tool in wanted if tool.prefer)


def finish_run(session: Session, revision: uuid.UUID, fitter: Actor, supervisor: Actor, begin: datetime,
               occasion: str = "install", answer: Callable[[Instruction, Random], dict[str, Any]] = sensible_answer) -> uuid.UUID:
    """Run a revision to its end on an occasion and sign it; returns the run's id."""
    chance = Random(str(begin))
    now = begin
    sent = 0
    plan = read_revision(Ctx(session, now, fitter), revision).result
    choices = Choices(DEVICE, occasion=occasion, variants=first_variants(plan), tools=tools_for(plan.tools))
    run = start_run(Ctx(session, now, fitter), revision, choices)

    def send(actor: Actor, device: str, number: int, step: str, kind: str, payload: dict[str, Any]) -> RunState:
        ctx = Ctx(session, now, actor)
        event = {"id": str(ctx.new_id()), "run": str(run), "step": step, "kind": kind, "payload": payload, "device": device,
                 "device_sequence": number, "device_time": time_text(now), "lease": 1, "last_seen": 0}
        answers, state = append_events(ctx, run, [event], time_text(now))
        if answers[0].verdict != "accepted":
            raise RuntimeError(f"demo run: {answers[0].text}")
        return state

    state = read_run(Ctx(session, now, fitter), run).state
    while (step := state.instruction) is not None:
        now += timedelta(seconds=chance.uniform(14, 40))
        if step.ready_at is not None and step.ready_at > now.timestamp():
            now = datetime.fromtimestamp(step.ready_at, now.tzinfo) + timedelta(seconds=20)
        sent += 1
        state = send(fitter, DEVICE, sent, step.step, "answer", answer(step, chance))
    now += timedelta(minutes=2)
    for actor, role, later in ((fitter, "fitter", timedelta(0)), (supervisor, "supervisor", timedelta(hours=1))):
        now += later
        if role == "supervisor":
            for number, one in enumerate(state.deviations, 1):
                send(actor, "desk-1", number, one.step, "accept", {"deviation": one.id, "reason": "seen, looked at again"})
        if isinstance(sign_run(Ctx(session, now, actor), run, role, DEMO_PASSWORD), BadField):
            raise RuntimeError(f"demo run: {role} is not signed in")
    return run
