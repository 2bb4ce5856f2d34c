"""The state of a run: the walk through the work order up to the first step without an answer."""
from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from ..documents.result import Result
from ..documents.run import Deviation, Instruction, LastAnswer, RunState, SignOff
from .fold import Fact, Given, Log, fold
from .instruct import Pending, instruction_for, label_of
from .passes import Walk, walk_item, walk_pass
from .program import segments
from .texts import ANSWERS, CHECK_ANSWERS


def all_deviations(walk: Walk, log: Log) -> list[Deviation]:
    """Deviations of the walk and reported problems, with who accepted them."""
    found = list(walk.deviations)
    for fact in log.others:
        if fact.kind == "problem":
            found.append(Deviation(id=f"{fact.id}:problem", step=fact.step, code="problem",
                                   text=str(fact.payload.get("text", "")), accepted_by=None, reason=None))
    out = []
    for one in found:
        accept = log.accepted.get(one.id)
        out.append(one if accept is None else one.model_copy(
            update={"accepted_by": accept.person, "reason": str(accept.payload.get("reason", ""))}))
    return out


def _last(given: Given) -> LastAnswer:
    answer = str((given.answer or {}).get("answer", "voided"))
    place = given.fact.step.split("/")[4] if given.fact.step.count("/") >= 4 else "-"
    return LastAnswer(event=given.fact.id, step=given.fact.step, label=label_of(place), answer=answer,
                      text=answer_text(given.answer))


def answer_text(answer: dict[str, Any] | None, check: bool = False) -> str:
    """An answer in words, as record and screen show it."""
    if answer is None:
        return "taken back"
    kind = str(answer.get("answer"))
    if kind == "value":
        return str(answer.get("value"))
    return (CHECK_ANSWERS if check else {}).get(kind) or ANSWERS.get(kind, kind)


def walk_run(result: Result, log: Log) -> tuple[Walk, Pending | None]:
    """Walk the whole work order; the pending step, if any, is where the run stands."""
    walk = Walk(result, log)
    pending: Pending | None = None
    for segment in segments(result):
        found = walk_pass(walk, segment) if segment.one is not None else walk_item(walk, segment)
        if found is not None:
            pending = pending or found
            # the tape still wants to know what comes, the rest of the walk stops here
            walk.blocked = True
    return walk, pending


def status_of(log: Log, pending: Pending | None) -> str:
    """How far the run is, in one word."""
    if log.abandoned is not None:
        return "abandoned"
    roles = {f.payload.get("role") for f in log.sign_offs}
    if "supervisor" in roles:
        return "closed"
    if "fitter" in roles:
        return "signed"
    return "running" if pending is not None else "finished"


def sign_offs_of(log: Log) -> list[SignOff]:
    """Signatures with the head hash each was put under."""
    return [SignOff(role="supervisor" if f.payload.get("role") == "supervisor" else "fitter", person=f.person, at=f.at,
                    head_hash=str(f.payload.get("head_hash", ""))) for f in log.sign_offs]


def state_of(result: Result, facts: Iterable[Fact]) -> RunState:
    """The state of a run from its stored result and its events in sequence order."""
    log = fold(facts)
    walk, pending = walk_run(result, log)
    status = status_of(log, pending)
    instruction: Instruction | None = None
    if pending is not None and status == "running":
        instruction = instruction_for(walk, pending)
    position = pending.segment.position if pending else walk.position
    if position is None and result.positions:
        position = result.positions[0].id
    recent = [_last(g) for g in log.order[-4:]][::-1]
    return RunState(
        status=status, sequence=log.sequence, instruction=instruction, position=position,
        bolts=walk.bolt_states(position), tape=walk.tape, deviations=all_deviations(walk, log),
        sign_offs=sign_offs_of(log), last=recent[0] if recent else None, recent=recent, done=walk.done,
        notes=sum(1 for f in log.others if f.kind in ("note", "suggest")))
