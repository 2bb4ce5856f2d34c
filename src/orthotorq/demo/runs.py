"""A finished run, answered step by step through the same commands that a tablet uses."""

from __future__ import annotations

import re
import uuid
from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from random import Random
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from ..core.forms.result import Result, ToolOut
from ..core.forms.run import Instruction
from ..core.running import Fact, Log, first_variants, fold, pull_step, state_from, walk_run
from ..services.accounts.queries import DEMO_PASSWORD
from ..services.codes import time_text
from ..services.context import Actor, Ctx
from ..services.errors import BadField
from ..services.planning.queries import read_revision
from ..services.running.chain import facts_of
from ..services.running.commands import MAX_BATCH, append_events
from ..services.running.pulls import pull_with, situation
from ..services.running.queries import read_run
from ..services.running.sign import sign_run
from ..services.running.start import Choices, start_run
from ..store.models import Run

DEVICE = "tablet-2"
#: the simulated wrench that measures torque and angle
WRENCH = "simulated-angle-wrench"


def _within(step: Instruction, chance: Random) -> str:
    """A reading inside the limits of a step."""
    own = (step.limit_text or "").split("; ")[0]
    unit = step.unit or "mm"
    if not own or own.startswith("no more"):
        # kept for the trend; what was set to zero a moment ago stands there
        return f"0 {unit}"
    if own.startswith("changed by"):
        before = re.search(r"Before: (-?[0-9.]+)", step.hint)
        return f"{float(before[1]) + _inside(own, chance) if before else 0:.3g} {unit}"
    if "between the" in (step.limit_text or ""):
        # readings that must agree do
        return f"{_inside(own, Random(0)) * chance.uniform(0.98, 1.02):.3g} {unit}"
    return f"{_inside(own, chance):.3g} {unit}"


def _inside(own: str, chance: Random) -> float:
    """A figure inside a limit in words."""
    if "±" in own:
        return 0.0
    words = (
        own.removeprefix("changed by ")
        .replace("at least ", "")
        .replace("at most ", "")
        .replace(" to ", ", ")
        .split(", ")
    )
    figures = [w.split(" ", 1) for w in words if w]
    values = [float(f[0]) for f in figures]
    if len(values) == 2:
        middle, half = (values[0] + values[1]) / 2, (values[1] - values[0]) / 2
        return chance.uniform(middle - 0.6 * half, middle + 0.6 * half)
    return values[0] * (
        chance.uniform(0.2, 0.7) if "at most" in own else chance.uniform(1.01, 1.05)
    )


def _pull(step: Instruction, chance: Random) -> dict[str, Any]:
    """A pull with readings: a few bolts move in the first round of a check, fewer in every further
    one."""
    again = (step.round or 1) - 1 + (step.pull or 1) - 1
    settles = step.check_round or again > 0
    # where none may move, none does
    firm = "none may move" in (step.pass_name or "").lower()
    likely = (
        (0.2 if again == 0 and not firm else 0.0) if step.check_round else 0.5 * 0.3 ** (again - 1)
    )
    moved = not settles or chance.random() < likely
    torque = step.settings[0].bolt_torque_Nm * chance.gauss(1.0, 0.009) if step.settings else 0.0
    angle = chance.uniform(6, 14) if settles else chance.uniform(20, 55)
    reading = {
        "torque": f"{float(f'{torque:.4g}'):g} N·m",
        **({"angle": f"{angle:.0f} deg"} if moved else {}),
    }
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
        return {
            "answer": "turned",
            "reading": {"angle": f"{chance.uniform(low + 1, high - 1):.0f} deg"},
        }
    if step.kind == "gap":
        rounds = step.round or 1
        return {
            "answer": "value",
            "value": f"{max(3.8, 11.0 - 1.9 * rounds + chance.uniform(-0.12, 0.12)):.2f} mm",
        }
    if step.kind == "jack":
        return {"answer": "free" if (step.round or 1) >= 4 else "not_yet"}
    # batch and initials where the plan asks for them; the fitter's colleague saw it
    return {
        "answer": usual,
        **{k: v for k, v in (("batch", "GK-2611"), ("second", "RA")) if k in step.asks},
    }


def tools_for(wanted: list[ToolOut]) -> tuple[tuple[str, str], ...]:
    """The preferred tools of a plan by serial."""
    return tuple((tool.id, tool.prefer[0]) for tool in wanted if tool.prefer)


@dataclass(slots=True)
class _Answered:
    """A run as far as it was answered: its id, the events that a tablet would send, and the time of
    the last one."""

    run: uuid.UUID
    sent: list[dict[str, Any]]
    now: datetime


def _read(ctx: Ctx, run: uuid.UUID, plan: Result, log: Log) -> dict[str, Any] | None:
    """What the simulated wrench answers to the open step, where it can be pulled with it and comes
    out well."""
    walk, pending, _ = walk_run(plan, log, ctx.now.timestamp())
    at = situation(pull_step(walk, pending)) if pending is not None else None
    if at is None or pending is None:
        return None
    view = pull_with(ctx, ctx.session.get_one(Run, run), pending.step, WRENCH, at)
    found = view.result
    if found.answer is None:
        return None
    reading = {
        name: text for name, text in (("torque", found.torque), ("angle", found.angle)) if text
    }
    return {"answer": found.answer, "reading": reading, "pull": str(view.id)}


def _answered(
    session: Session,
    revision: uuid.UUID,
    fitter: Actor,
    begin: datetime,
    most: int,
    answer: Callable[[Instruction, Random], dict[str, Any]],
    measured: bool = False,
    **choices: Any,
) -> _Answered:
    """A run that is begun, with what a tablet would send for it; answers are found by the core
    alone, or read from the simulated wrench."""
    now = begin
    plan = read_revision(Ctx(session, now, fitter), revision).result
    # by the plan and how often it was run, never by the date: the demo reads the same on any day
    earlier = session.scalar(select(func.count()).where(Run.revision_id == revision))
    chance = Random(f"{plan.title} {earlier}")
    chosen = {"variants": first_variants(plan), "tools": tools_for(plan.tools), **choices}
    run = start_run(Ctx(session, now, fitter), revision, Choices(DEVICE, **chosen))
    log = fold(facts_of(session, session.get_one(Run, run)))
    sent: list[dict[str, Any]] = []
    while (step := state_from(plan, log, now.timestamp()).instruction) is not None and len(
        sent
    ) < most:
        if step.ready_at is not None and step.ready_at > now.timestamp():
            now = datetime.fromtimestamp(step.ready_at, now.tzinfo) + timedelta(seconds=20)
        read = (
            _read(Ctx(session, now, fitter), run, plan, log)
            if measured and step.kind == "pull"
            else None
        )
        for place in [step.step] if read else [step.step, *(one.step for one in step.ahead)]:
            now += timedelta(seconds=chance.uniform(14, 40))
            given = read or answer(step, chance)
            event = _event(
                Ctx(session, now, fitter), run, DEVICE, len(sent) + 1, place, "answer", given
            )
            sent.append(event)
            log.add(
                Fact(
                    len(sent) + 1,
                    event["id"],
                    place,
                    "answer",
                    given,
                    fitter.name,
                    time_text(now),
                    happened=now.timestamp(),
                )
            )
            if not any(
                button.answer == given["answer"] and button.follows for button in step.buttons
            ):
                break
    return _Answered(run, sent, now)


def finish_run(
    session: Session,
    revision: uuid.UUID,
    fitter: Actor,
    supervisor: Actor | None,
    begin: datetime,
    occasion: str = "install",
    answer: Callable[[Instruction, Random], dict[str, Any]] = sensible_answer,
    **choices: Any,
) -> uuid.UUID:
    """Run a revision to its end on an occasion and sign it, the second time as the supervisor where
    there is one; returns the run's id. It is sent as a tablet sends what it has kept: in
    batches."""
    done = _answered(
        session, revision, fitter, begin, 100_000, answer, occasion=occasion, **choices
    )
    _send_all(Ctx(session, done.now, fitter), done)
    now = done.now + timedelta(minutes=2)
    _signed(Ctx(session, now, fitter), done.run, "fitter")
    if supervisor is not None:
        later = Ctx(session, now + timedelta(hours=1), supervisor)
        state = read_run(later, done.run).state
        _send(
            later,
            done.run,
            [
                _event(
                    later,
                    done.run,
                    "desk-1",
                    number,
                    one.step,
                    "accept",
                    {"deviation": one.id, "reason": "seen, looked at again"},
                )
                for number, one in enumerate(state.deviations, 1)
            ],
        )
        _signed(later, done.run, "supervisor")
    return done.run


def cut_short(
    session: Session, revision: uuid.UUID, fitter: Actor, begin: datetime, steps: int, reason: str
) -> uuid.UUID:
    """A run that is ended after some steps, with the reason; returns its id."""
    done = _answered(session, revision, fitter, begin, steps, sensible_answer)
    _send_all(Ctx(session, done.now, fitter), done)
    last = Ctx(session, done.now + timedelta(minutes=1), fitter)
    _send(
        last,
        done.run,
        [_event(last, done.run, DEVICE, len(done.sent) + 1, "-", "abandon", {"reason": reason})],
    )
    return done.run


def _send_all(ctx: Ctx, done: _Answered) -> None:
    """Batch by batch, each once its last answer was given."""
    for first in range(0, len(done.sent), MAX_BATCH):
        batch = done.sent[first : first + MAX_BATCH]
        _send(replace(ctx, now=datetime.fromisoformat(batch[-1]["device_time"])), done.run, batch)


def _event(
    ctx: Ctx,
    run: uuid.UUID,
    device: str,
    number: int,
    step: str,
    kind: str,
    payload: dict[str, Any],
) -> dict[str, Any]:
    return {
        "id": str(ctx.new_id()),
        "run": str(run),
        "step": step,
        "kind": kind,
        "payload": payload,
        "device": device,
        "device_sequence": number,
        "device_time": time_text(ctx.now),
        "lease": 1,
        "last_seen": 0,
    }


def _send(ctx: Ctx, run: uuid.UUID, events: list[dict[str, Any]]) -> None:
    for said in append_events(ctx, run, events, time_text(ctx.now))[0] if events else ():
        if said.verdict != "accepted":
            raise RuntimeError(f"demo run: {said.text}")


def _signed(ctx: Ctx, run: uuid.UUID, role: str) -> None:
    if isinstance(sign_run(ctx, run, role, DEMO_PASSWORD), BadField):
        raise RuntimeError(f"demo run: {role} is not signed in")
