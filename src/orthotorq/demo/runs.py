"""A finished run, answered step by step through the same commands that a tablet uses."""
from __future__ import annotations

import uuid
from collections.abc import Callable
from datetime import datetime, timedelta
from random import Random
from typing import Any

from sqlalchemy.orm import Session

from ..core.documents.run import Instruction, RunState
from ..services.context import Actor, Ctx
from ..services.running.chain import time_text
from ..services.running.commands import append_events, start_run
from ..services.running.queries import read_run

DEVICE = "tablet-2"


def sensible_answer(step: Instruction, chance: Random) -> dict[str, Any]:
    """What a fitter would answer: a few bolts move in the first check round; pulls carry readings."""
    if step.kind == "reading":
        return {"answer": "value", "value": "0.2 mm" if "mark" in step.text else f"{chance.uniform(3.15, 3.4):.2f} mm"}
    if step.kind == "check":
        return {"answer": "good"}
    if step.kind != "pull":
        return {"answer": "done"}
    moved = not step.check_round or (step.round == 1 and chance.random() < 0.2)
    torque = step.settings[0].bolt_torque_Nm * chance.gauss(1.0, 0.009) if step.settings else 0.0
    angle = chance.uniform(6, 14) if step.check_round else chance.uniform(20, 55)
    reading = {"torque": f"{torque:.0f} N·m", **({"angle": f"{angle:.0f} deg"} if moved else {})}
    return {"answer": "turned" if moved else "did_not_turn", "reading": reading}


def finish_run(session: Session, revision: uuid.UUID, fitter: Actor, supervisor: Actor, begin: datetime,
               answer: Callable[[Instruction, Random], dict[str, Any]] = sensible_answer) -> uuid.UUID:
    """Run a revision to its end and sign it; returns the run's id."""
    chance = Random(str(begin))
    now = begin
    sent = 0
    run = start_run(Ctx(session, now, fitter), revision, DEVICE)

    def send(actor: Actor, device: str, number: int, step: str, kind: str, payload: dict[str, Any]) -> RunState:
        ctx = Ctx(session, now, actor)
        event = {"id": str(ctx.new_id()), "run": str(run), "step": step, "kind": kind, "payload": payload, "device": device,
                 "device_sequence": number, "device_time": time_text(now), "lease": 1, "last_seen": 0}
        answers, state = append_events(ctx, run, [event])
        if answers[0].verdict != "accepted":
            raise RuntimeError(f"demo run: {answers[0].text}")
        return state

    state = read_run(Ctx(session, now, fitter), run).state
    while state.instruction is not None:
        now += timedelta(seconds=chance.uniform(14, 40))
        sent += 1
        state = send(fitter, DEVICE, sent, state.instruction.step, "answer", answer(state.instruction, chance))
    now += timedelta(minutes=2)
    send(fitter, DEVICE, sent + 1, "-", "sign_off", {"role": "fitter"})
    now += timedelta(hours=1)
    send(supervisor, "desk-1", 1, "-", "sign_off", {"role": "supervisor"})
    return run
