"""What becomes of an event: accepted, conflict (kept, moves no state) or refused, each with a sentence."""
from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any, Literal

from ..documents.result import Result
from ..errors import OrthotorqError
from ..units import parse
from .fold import Fact, Log, fold
from .instruct import Pending, offered
from .program import Segment, segments, step_id
from .state import all_deviations, status_of, walk_run

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
    step: str
    payload: dict[str, Any]
    roles: frozenset[str]
    status: str
    pending: Pending | None


def judge(result: Result, facts: Iterable[Fact], kind: str, step: str, payload: dict[str, Any],
          roles: frozenset[str]) -> Judgement:
    """Judge an event against a run as it stands. Pure: the same run and event always get the same verdict."""
    log = fold(facts)
    _, pending = walk_run(result, log)
    case = _Case(result, log, step, payload, roles, status_of(log, pending), pending)
    if case.status in ("closed", "abandoned") and kind not in ("note", "suggest"):
        return _conflict(f"This run is {case.status}: nothing in it can change any more. A note can still be added.")
    return _RULES[kind](case)


def _answer(case: _Case) -> Judgement:
    if not case.roles & {"fitter", "supervisor"}:
        return _refuse("Only a fitter or a supervisor answers the steps of a run.")
    if case.status == "signed":
        return _conflict("The run was signed off meanwhile; this answer is kept, but moves nothing.")
    if (given := case.log.answers.get(case.step)) is not None:
        return _conflict(f"This step was already answered by {given.fact.person}; this answer is kept, but moves nothing.")
    if case.pending is None:
        return _refuse("All steps of this run are answered.")
    expected = _step_of(case.pending)
    if case.step != expected:
        return _refuse(f"This is not the next step: the run stands at {expected}.")
    return _payload(case.pending.segment, case.payload)


def _step_of(pending: Pending) -> str:
    return step_id(pending.segment.base(), pending.round, pending.move[0] if pending.move else None, pending.attempt)


def _payload(segment: Segment, payload: dict[str, Any]) -> Judgement:
    """Whether an answer fits its step."""
    unknown = set(payload) - {"answer", "value", "note", "reading"}
    if unknown:
        return _refuse(f"An answer has no field “{sorted(unknown)[0]}”.")
    answer = payload.get("answer")
    if answer not in offered(segment):
        return _refuse(f"“{str(answer)[:40]}” is no answer to this step; it takes {', '.join(offered(segment))}.")
    if not isinstance(payload.get("note", ""), str) or len(payload.get("note", "")) > MAX_TEXT:
        return _refuse(f"A note is text of at most {MAX_TEXT} characters.")
    if answer == "value":
        return _length(payload.get("value"))
    return _reading(segment, payload.get("reading"))


def _length(value: object) -> Judgement:
    if not isinstance(value, str):
        return _refuse("Write the reading with its unit, for example 0.4 mm.")
    try:
        base = parse(value, "length").base
    except OrthotorqError as error:
        return _refuse(str(error))
    if not 0 <= base <= 10_000:
        return _refuse(f"{value} cannot be: expected 0 to 10 m.")
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
        if name == "torque" and not 0 <= base <= 3 * wanted:
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
    if case.status == "signed":
        return _conflict("The run was signed off meanwhile; this correction is kept, but moves nothing.")
    answer = case.payload.get("answer")
    if answer is None:
        return ACCEPTED
    base = "/".join(given.fact.step.split("/")[:3])
    segment = next((s for s in segments(case.result) if s.base() == base), None)
    if segment is None or not isinstance(answer, dict):
        return _refuse("The right answer must be one that this step takes.")
    return _payload(segment, answer)


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
    walk, _ = walk_run(case.result, case.log)
    found = next((d for d in all_deviations(walk, case.log) if d.id == case.payload.get("deviation")), None)
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
    if role == "fitter":
        return ACCEPTED if case.status == "finished" else _conflict("The fitter has already signed.")
    if case.status == "finished":
        return _refuse("The fitter signs first.")
    walk, _ = walk_run(case.result, case.log)
    still = [d for d in all_deviations(walk, case.log) if d.accepted_by is None]
    if still:
        return _refuse(f"{len(still)} deviations are not accepted yet; the first: {still[0].text}")
    return ACCEPTED


def _abandon(case: _Case) -> Judgement:
    if not case.roles & {"fitter", "supervisor"}:
        return _refuse("Only a fitter or a supervisor ends a run.")
    if case.status == "signed":
        return _conflict("The run was signed off meanwhile.")
    return ACCEPTED if _reason(case) else _refuse("Say why the run is ended before its last step.")


_RULES: dict[str, Callable[[_Case], Judgement]] = {
    "answer": _answer, "correct": _correct, "problem": _text, "note": _text, "suggest": _text, "accept": _accept,
    "sign_off": _sign_off, "abandon": _abandon,
}
