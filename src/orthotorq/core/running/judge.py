"""What becomes of an event: accepted, conflict (kept, moves no state) or refused, each with a sentence."""
from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any, Literal

from ..documents.result import Result
from ..errors import OrthotorqError
from ..units import parse
from .fold import Fact, Log, fold
from .instruct import offered
from .items import KINDS as ITEM_KINDS
from .program import Segment, segments_of, units_of
from .pulls import KINDS as PASS_KINDS
from .state import all_deviations, status_of, walk_run
from .walk import Fail, Pending, Walk

Verdict = Literal["accepted", "conflict", "refused"]
MAX_TEXT = 1000


@dataclass(frozen=True, slots=True)
class Judgement:
    """The verdict on one event and the sentence shown to the person."""

    verdict: Verdict
    text: str = ""


ACCEPTED = Judgement("accepted")


def _refuse(text: str) -> Judgement:
    return Judgement("refused", text)


def _conflict(text: str) -> Judgement:
    return Judgement("conflict", text)


@dataclass(frozen=True, slots=True)
class _Case:
    result: Result
    log: Log
    walk: Walk
    step: str
    payload: dict[str, Any]
    roles: frozenset[str]
    status: str
    pending: Pending | None
    now: float


def judge(result: Result, facts: Iterable[Fact], kind: str, step: str, payload: dict[str, Any],
          roles: frozenset[str], now: float = 0.0) -> Judgement:
    """Judge an event against a run as it stands at a time. Pure: the same run and event always get the same verdict."""
    return judge_in(result, fold(facts), kind, step, payload, roles, now)


def judge_in(result: Result, log: Log, kind: str, step: str, payload: dict[str, Any], roles: frozenset[str],
             now: float) -> Judgement:
    """Judge an event against a folded log."""
    walk, pending, waits = walk_run(result, log, now)
    # a wait that runs beside other work can be answered too
    pending = next((w for w in waits if w.step == step), pending)
    case = _Case(result, log, walk, step, payload, roles, status_of(log, pending), pending, now)
    if case.status in ("closed", "abandoned") and kind not in ("note", "suggest"):
        return _conflict(f"This run is {case.status}: nothing in it can change any more. A note can still be added.")
    return _RULES[kind](case)


def _may_work(case: _Case) -> Judgement | None:
    if not case.roles & {"fitter", "supervisor"}:
        return _refuse("Only a fitter or a supervisor answers the steps of a run.")
    return None


def _answer(case: _Case) -> Judgement:
    if (no := _may_work(case)) is not None:
        return no
    if case.status == "signed":
        return _conflict("The run was signed off meanwhile; this answer is kept, but moves nothing.")
    if (given := case.log.answers.get(case.step)) is not None:
        return _conflict(f"This step was already answered by {given.fact.person}; this answer is kept, but moves nothing.")
    if case.pending is None:
        return _refuse("All steps of this run are answered.")
    if case.step != case.pending.step:
        return _refuse(f"This is not the next step: the run stands at {case.pending.step}.")
    return _payload(case.pending, case.payload, case.now)


def _payload(pending: Pending, payload: dict[str, Any], now: float) -> Judgement:
    """Whether an answer fits its step."""
    unknown = set(payload) - {"answer", "value", "note", "reading", "reason"}
    if unknown:
        return _refuse(f"An answer has no field “{sorted(unknown)[0]}”.")
    answer, kinds = payload.get("answer"), offered(pending)
    if answer not in kinds:
        return _refuse(f"“{str(answer)[:40]}” is no answer to this step; it takes {', '.join(kinds)}.")
    for field in ("note", "reason"):
        if not isinstance(payload.get(field, ""), str) or len(payload.get(field, "")) > MAX_TEXT:
            return _refuse(f"A {field} is text of at most {MAX_TEXT} characters.")
    if answer in ("skip", "accept") and not str(payload.get("reason", "")).strip():
        return _refuse("Say why.")
    if pending.kind == "wait" and answer == "done" and pending.ready_at is not None and now < pending.ready_at:
        left = math.ceil((pending.ready_at - now) / 60)
        return _refuse(f"{left} min are left to wait. To go on before, skip it with a reason.")
    if answer == "value" or (answer == "cap" and "value" in payload):
        item = pending.segment.item
        below = item is not None and any(x is not None and x < 0 for x in (item.min, item.max))
        return _value(payload.get("value"), (item.quantity if item else None) or "length", below)
    return _reading(pending.segment, payload.get("reading"))


#: the most a reading of a kind can be, in base units, and what to write
_MOST = {"length": (10_000.0, "0.4 mm"), "angle": (63.0, "30 deg"), "torque": (1e9, "120 N·m"), "force": (1e8, "12 kN"),
         "stress": (1e4, "3 bar"), "time": (3.2e7, "10 min")}


def _value(value: object, quantity: str, below: bool) -> Judgement:
    most, example = _MOST[quantity]
    if not isinstance(value, str):
        return _refuse(f"Write the reading with its unit, for example {example}.")
    try:
        base = parse(value, quantity).base
    except OrthotorqError as error:
        return _refuse(str(error))
    if not (-most if below else 0) <= base <= most:
        return _refuse(f"{value} cannot be: a reading here is like {example}.")
    return ACCEPTED


def _reading(segment: Segment, reading: object) -> Judgement:
    if reading is None:
        return ACCEPTED
    if not isinstance(reading, dict) or set(reading) - {"torque", "angle"} or segment.one is None:
        return _refuse("A reading has a torque, an angle or both, and belongs to a pull.")
    for name, value in reading.items():
        if not isinstance(value, str):
            return _refuse(f"The {name} reading is text with a unit.")
        try:
            base = parse(value, name).base
        except OrthotorqError as error:
            return _refuse(str(error))
        wanted = (segment.one.torque_Nm or 0.0) * 1e3
        if name == "torque" and (base < 0 or (wanted and base > 3 * wanted)):
            return _refuse(f"{value} cannot be: this pass asks for {wanted / 1e3:g} N·m.")
        if name == "angle" and not 0 <= base <= 63:
            return _refuse(f"{value} cannot be: expected 0 to 10 turns.")
    return ACCEPTED


def _correct(case: _Case) -> Judgement:
    if set(case.payload) - {"voids", "answer", "reason"}:
        return _refuse("A correction names the event it voids and, if there is one, the right answer.")
    given = case.log.by_event.get(str(case.payload.get("voids")))
    if given is None:
        return _refuse("The answer to be corrected is not in this run.")
    if (no := _may_work(case)) is not None:
        return no
    if case.status == "signed":
        return _conflict("The run was signed off meanwhile; this correction is kept, but moves nothing.")
    answer = case.payload.get("answer")
    if answer is None:
        return ACCEPTED
    again = _step_as_pending(case, given.fact.step)
    if again is None or not isinstance(answer, dict):
        return _refuse("The right answer must be one that this step takes.")
    return _payload(again, answer, case.now)


def _step_as_pending(case: _Case, step: str) -> Pending | None:
    """An answered step as if it were open, to see which answers it takes."""
    parts = step.split("/")
    for unit in units_of(case.result, case.log.setup):
        for segment in segments_of(unit):
            if segment.base().split("/") != parts[:3] or (segment.place or "-") != (parts[4] if segment.item else "-"):
                continue
            if "then" in parts:
                listed = tuple(segment.item.on_fail) if segment.item else ()
                choices = listed or ("repair", "replace", "accept")
                return Pending(unit, segment, "decision", None, [], 1, fail=Fail("not_good", {}, choices))
            kind = "condition" if segment.item is None and segment.one is None else (
                ITEM_KINDS[segment.item.answer] if segment.item else PASS_KINDS[segment.one.do] if segment.one else "")
            return Pending(unit, segment, kind, None, [], 1)
    return None


def _redo(case: _Case) -> Judgement:
    if (no := _may_work(case)) is not None:
        return no
    if case.status == "signed":
        return _conflict("The run was signed off meanwhile.")
    stages = {u.stage.id for u in units_of(case.result, case.log.setup)}
    if case.payload.get("stage") not in stages or _reason(case) is None or set(case.payload) - {"stage", "reason"}:
        return _refuse("Doing a stage again names the stage and says why.")
    if case.pending is None or case.step != case.pending.step:
        return _refuse("A stage is done again from the step where the run stands.")
    return ACCEPTED


def _photo(case: _Case) -> Judgement:
    if set(case.payload) - {"photo", "text"} or not isinstance(case.payload.get("photo"), str):
        return _refuse("A photo is kept first and then named by its id.")
    words = case.payload.get("text", "")
    return ACCEPTED if isinstance(words, str) and len(words) <= MAX_TEXT else _refuse("Words of at most 1000 characters.")


def _settle(case: _Case) -> Judgement:
    if "supervisor" not in case.roles:
        return _refuse("Only a supervisor settles a conflict.")
    event = str(case.payload.get("event"))
    if set(case.payload) - {"event", "take", "reason"} or not isinstance(case.payload.get("take"), bool):
        return _refuse("Settling names the event, whether it is taken, and why.")
    if not any(c.id == event for c in case.log.conflicts):
        return _refuse("This run has no such conflict.")
    if event in case.log.settled:
        return _conflict("This conflict is already settled.")
    return ACCEPTED if _reason(case) else _refuse("Say why.")


def _text(case: _Case) -> Judgement:
    text = case.payload.get("text")
    if set(case.payload) != {"text"} or not isinstance(text, str) or not 0 < len(text.strip()) <= MAX_TEXT:
        return _refuse(f"Write 1 to {MAX_TEXT} characters.")
    return ACCEPTED


def _reason(case: _Case) -> str | None:
    reason = case.payload.get("reason")
    return reason if isinstance(reason, str) and 0 < len(reason.strip()) <= MAX_TEXT else None


def _accept(case: _Case) -> Judgement:
    if "supervisor" not in case.roles:
        return _refuse("Only a supervisor accepts a deviation.")
    found = next((d for d in all_deviations(case.walk, case.log) if d.id == case.payload.get("deviation")), None)
    if found is None:
        return _refuse("This run has no such deviation.")
    if found.accepted_by is not None:
        return _conflict(f"{found.accepted_by} has already accepted this deviation.")
    if _reason(case) is None:
        return _refuse("Say why the deviation can be accepted.")
    return ACCEPTED


def _sign_off(case: _Case) -> Judgement:
    role = case.payload.get("role")
    if role not in ("fitter", "supervisor") or role not in case.roles:
        return _refuse("One signs as fitter or supervisor, in a role one has.")
    if case.status == "running":
        return _refuse("The run is not finished: steps are still without an answer.")
    if case.walk.fitted:
        return _refuse(f"Still fitted: {', '.join(case.walk.fitted.values())}. Take it out first.")
    if role == "fitter":
        return ACCEPTED if case.status == "finished" else _conflict("The fitter has already signed.")
    if case.status == "finished":
        return _refuse("The fitter signs first.")
    still = [d for d in all_deviations(case.walk, case.log) if d.accepted_by is None]
    if still:
        return _refuse(f"{len(still)} deviations are not accepted yet; the first: {still[0].text}")
    unsettled = [c for c in case.log.conflicts if c.id not in case.log.settled]
    if unsettled:
        return _refuse(f"{len(unsettled)} conflicts are not settled yet; the first is at {unsettled[0].step}.")
    return ACCEPTED


def _abandon(case: _Case) -> Judgement:
    if not case.roles & {"fitter", "supervisor"}:
        return _refuse("Only a fitter or a supervisor ends a run.")
    if case.status == "signed":
        return _conflict("The run was signed off meanwhile.")
    return ACCEPTED if _reason(case) else _refuse("Say why the run is ended before its last step.")


_RULES: dict[str, Callable[[_Case], Judgement]] = {
    "answer": _answer, "correct": _correct, "redo": _redo, "problem": _text, "note": _text, "suggest": _text,
    "photo": _photo, "accept": _accept, "settle": _settle, "sign_off": _sign_off, "abandon": _abandon,
}
