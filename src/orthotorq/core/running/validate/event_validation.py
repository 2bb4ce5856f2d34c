"""What becomes of an event: accepted, conflict (kept, moves no state) or refused, each with a code
and a sentence."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any, Literal

from ...forms.result import Result
from ...kinds.recorded_fields import WITH, WORDS
from ...messages import Refusal, render
from ..log.event_log import STOPPING, Fact, Log, fold, recorded_before
from ..log.setup import tools_needed
from ..log.step_id import FINISH
from ..walk.actions import ACTIONS
from ..walk.continuing import why_not_continued
from ..walk.deviations import all_deviations
from ..walk.instruction import can_redo, still_asked
from ..walk.pending import Pending
from ..walk.program import units_of
from ..walk.state import status_of, walk_run
from ..walk.step_walker import Walk
from .answers import MAX_TEXT, answer_problem, form_problem

Verdict = Literal["accepted", "conflict", "refused"]


@dataclass(frozen=True, slots=True)
class Judgement:
    """The verdict on one event, its code, and the sentence shown to the person."""

    verdict: Verdict
    code: Refusal | None = None
    text: str = ""


ACCEPTED = Judgement("accepted")


def _refuse(code: Refusal, **params: object) -> Judgement:
    return Judgement("refused", code, render(code, **params))


def _conflict(code: Refusal, **params: object) -> Judgement:
    return Judgement("conflict", code, render(code, **params))


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

    def may(self, action: str) -> Judgement | None:
        """Why somebody in these roles may not do this now, or None: the table of actions says."""
        rule = ACTIONS[action]
        if not rule.roles & self.roles:
            return _refuse(rule.otherwise, does=rule.does)
        return (
            _conflict(Refusal.SIGNED_MEANWHILE)
            if self.status == "signed" and "signed" not in rule.when
            else None
        )

    def reason(self) -> str | None:
        """The reason given, where it is one."""
        reason = self.payload.get("reason")
        return reason if isinstance(reason, str) and 0 < len(reason.strip()) <= MAX_TEXT else None

    def word(self, field: str) -> str:
        """A field that names something; whatever is no text names nothing."""
        given = self.payload.get(field)
        return given if isinstance(given, str) else ""

    def has_more_than(self, *fields: str) -> bool:
        """Whether the payload has fields beside these."""
        return bool(set(self.payload) - set(fields))


def judge(
    result: Result,
    facts: Iterable[Fact],
    kind: str,
    step: str,
    payload: dict[str, Any],
    roles: frozenset[str],
    now: float = 0.0,
) -> Judgement:
    """Judge an event against a run as it stands at a time. Pure: the same run and event always get
    the same verdict."""
    return judge_in(result, fold(facts), kind, step, payload, roles, now)


def judge_in(
    result: Result,
    log: Log,
    kind: str,
    step: str,
    payload: dict[str, Any],
    roles: frozenset[str],
    now: float,
) -> Judgement:
    """Judge an event against a folded log."""
    walk, pending, waits = walk_run(result, log, now)
    # a wait that runs beside other work can be answered too
    pending = next((w for w in waits if w.step == step), pending)
    if (
        kind == "answer"
        and pending is not None
        and pending.fail
        and pending.fail.code == "set_too_late"
        and pending.step != step
    ):
        # pulled before the stop was seen, as without network: what happened is kept, and deviates
        walk, pending, _ = walk_run(result, log)
    case = _Case(result, log, walk, step, payload, roles, status_of(log, pending), pending, now)
    if (misshapen := _misshapen(kind, payload)) is not None:
        return misshapen
    if (
        case.status in ("closed", "abandoned")
        and case.status not in ACTIONS.get(kind, ACTIONS["answer"]).when
    ):
        return _conflict(Refusal.RUN_OVER, status=case.status)
    # who may, and when, stands in the table; what is left to a rule is whether the event fits
    refused = case.may(kind) if kind in ACTIONS else None
    if kind in ("answer", "redo") and (held := log.stopped()):
        # what was pulled meanwhile elsewhere, as without network, is kept aside; a stage is simply
        # not done again now
        stopped = (_conflict if kind == "answer" else _refuse)(
            Refusal.HELD, text=held[0].payload.get("text", "")
        )
        refused = refused or stopped
    return refused or _RULES[kind](case)


def _misshapen(kind: str, payload: dict[str, Any]) -> Judgement | None:
    """An answer, or what a correction puts in its place, that no record could show: refused
    whatever else would become of it, so that nothing of the kind is kept aside and taken later."""
    answer = payload if kind == "answer" else payload.get("answer") if kind == "correct" else None
    problem = form_problem(answer) if isinstance(answer, dict) else None
    return None if problem is None else _refuse(problem[0], **problem[1])


def _answer(case: _Case) -> Judgement:
    if (given := case.log.answers.get(case.step)) is not None:
        asked = case.walk.step_of(given.fact.id)
        fits = _fits(asked, case.payload, case.now) if asked is not None else ACCEPTED
        if fits.verdict == "refused" and fits.code is not Refusal.READING_UNLIKELY:
            return fits
        return _conflict(Refusal.ANSWERED_ALREADY, person=given.fact.person)
    if case.pending is None:
        return _refuse(Refusal.ALL_ANSWERED)
    if case.step != case.pending.step:
        return _refuse(Refusal.NOT_THE_NEXT, step=case.pending.step)
    if case.word("answer") in WITH and "photo" in still_asked(case.walk, case.pending):
        return _refuse(Refusal.TO_BE_RECORDED, what=WORDS["photo"])
    return _fits(case.pending, case.payload, case.now)


def _fits(pending: Pending, payload: dict[str, Any], now: float) -> Judgement:
    """Whether an answer fits its step."""
    problem = answer_problem(pending, payload, now)
    return ACCEPTED if problem is None else _refuse(problem[0], **problem[1])


def _correct(case: _Case) -> Judgement:
    if case.has_more_than("voids", "answer", "reason"):
        return _refuse(Refusal.CORRECTION_FORM)
    given = case.log.by_event.get(str(case.payload.get("voids")))
    if given is None:
        return _refuse(Refusal.CORRECTION_UNKNOWN)
    # the step as it was asked: a correction takes the answers that the step took
    asked, answer = case.walk.step_of(given.fact.id), case.payload.get("answer")
    if asked is None:
        return _refuse(Refusal.CORRECTION_MOOT)
    if answer is None:
        return ACCEPTED
    if not isinstance(answer, dict):
        return _refuse(Refusal.CORRECTION_ANSWER)
    return _fits(asked, recorded_before(given, answer) or answer, case.now)


def _redo(case: _Case) -> Judgement:
    stages = {u.stage.id for u in units_of(case.result, case.log.setup)}
    if (
        case.word("stage") not in stages
        or case.reason() is None
        or case.has_more_than("stage", "reason")
    ):
        return _refuse(Refusal.REDO_FORM)
    if case.pending is None:
        return ACCEPTED if case.step == FINISH else _refuse(Refusal.REDO_FROM)
    if case.step != case.pending.step or not can_redo(case.pending):
        return _refuse(Refusal.REDO_FROM)
    return ACCEPTED


def _photo(case: _Case) -> Judgement:
    if case.has_more_than("photo", "text") or not isinstance(case.payload.get("photo"), str):
        return _refuse(Refusal.PHOTO_FORM)
    words = case.payload.get("text", "")
    return (
        ACCEPTED
        if isinstance(words, str) and len(words) <= MAX_TEXT
        else _refuse(Refusal.PHOTO_WORDS, most=MAX_TEXT)
    )


def _settle(case: _Case) -> Judgement:
    event = str(case.payload.get("event"))
    if case.has_more_than("event", "take", "reason") or not isinstance(
        case.payload.get("take"), bool
    ):
        return _refuse(Refusal.SETTLE_FORM)
    if not any(c.id == event for c in case.log.conflicts):
        return _refuse(Refusal.NO_SUCH_CONFLICT)
    if event in case.log.settled:
        return _conflict(Refusal.SETTLED_ALREADY)
    kept = next(c for c in case.log.conflicts if c.id == event)
    if (
        case.payload["take"]
        and kept.kind == "answer"
        and (problem := form_problem(kept.payload)) is not None
    ):
        return _refuse(problem[0], **problem[1])
    return ACCEPTED if case.reason() else _refuse(Refusal.SAY_WHY)


def _text(case: _Case) -> Judgement:
    text = case.payload.get("text")
    if (
        set(case.payload) != {"text"}
        or not isinstance(text, str)
        or not 0 < len(text.strip()) <= MAX_TEXT
    ):
        return _refuse(Refusal.TEXT_FORM, most=MAX_TEXT)
    return ACCEPTED


def _problem(case: _Case) -> Judgement:
    text, about = case.payload.get("text"), case.payload.get("about", "other")
    good = (
        isinstance(text, str)
        and 0 < len(text.strip()) <= MAX_TEXT
        and about in (*STOPPING, "other")
    )
    return (
        ACCEPTED
        if good and not case.has_more_than("text", "about")
        else _refuse(Refusal.PROBLEM_FORM, most=MAX_TEXT)
    )


def _resume(case: _Case) -> Judgement:
    if case.status != "running" or case.word("problem") not in {f.id for f in case.log.stopped()}:
        return _conflict(Refusal.NOT_HELD)
    return (
        ACCEPTED
        if case.reason() and not case.has_more_than("problem", "reason")
        else _refuse(Refusal.SAY_WHY)
    )


def _tool(case: _Case) -> Judgement:
    if case.status != "running":
        return _refuse(Refusal.ALL_ANSWERED)
    setup, tool, serial = case.log.setup, case.word("tool"), case.payload.get("serial")
    checked = case.payload.get("checked", "")
    form = isinstance(serial, str) and isinstance(checked, str) and len(checked) <= MAX_TEXT
    if (
        not form
        or case.reason() is None
        or case.has_more_than("tool", "serial", "reason", "checked")
        or (tool not in tools_needed(case.result, setup.occasion, setup.variants))
    ):
        return _refuse(Refusal.TOOL_FORM)
    if any(t.tool == tool and t.serial == serial for t in setup.tools):
        return _refuse(Refusal.SAME_TOOL, serial=serial)
    return ACCEPTED


def _accept(case: _Case) -> Judgement:
    found = next(
        (d for d in all_deviations(case.walk, case.log) if d.id == case.word("deviation")), None
    )
    if found is None:
        return _refuse(Refusal.NO_SUCH_DEVIATION)
    if found.accepted_by is not None:
        return _conflict(Refusal.ACCEPTED_ALREADY, person=found.accepted_by)
    return ACCEPTED if case.reason() else _refuse(Refusal.SAY_WHY_ACCEPTED)


def _sign_off(case: _Case) -> Judgement:
    role = case.word("role")
    rule = ACTIONS.get(f"sign_{role}")
    if rule is None or not rule.roles & case.roles:
        return _refuse(Refusal.SIGN_IN_A_ROLE)
    if case.status == "running":
        return _refuse(Refusal.NOT_FINISHED)
    if case.walk.fitted and not case.walk.left_locked:
        return _refuse(
            Refusal.STILL_FITTED, what=", ".join(dict.fromkeys(case.walk.fitted.values()))
        )
    if case.status not in rule.when:
        return (
            _conflict(Refusal.FITTER_SIGNED) if role == "fitter" else _refuse(Refusal.FITTER_FIRST)
        )
    return ACCEPTED if role == "fitter" else _all_settled(case)


def _all_settled(case: _Case) -> Judgement:
    """The last signature comes when every deviation is accepted and every conflict settled."""
    still = [d for d in all_deviations(case.walk, case.log) if d.accepted_by is None]
    if still:
        return _refuse(
            Refusal.DEVIATIONS_OPEN, count=_counted(len(still), "deviation"), first=still[0].text
        )
    unsettled = [c for c in case.log.conflicts if c.id not in case.log.settled]
    if unsettled:
        return _refuse(
            Refusal.CONFLICTS_OPEN,
            count=_counted(len(unsettled), "conflict"),
            step=unsettled[0].step,
        )
    return ACCEPTED


def _counted(count: int, one: str) -> str:
    return f"{count} {one} is" if count == 1 else f"{count} {one}s are"


def _abandon(case: _Case) -> Judgement:
    return ACCEPTED if case.reason() else _refuse(Refusal.SAY_WHY_ENDED)


def _continue(case: _Case) -> Judgement:
    if case.status != "abandoned":
        return _conflict(Refusal.NOT_ENDED)
    if case.reason() is None or case.has_more_than("reason"):
        return _refuse(Refusal.SAY_WHY_CONTINUED)
    why = why_not_continued(case.result, case.log, case.now)
    return _refuse(Refusal.CANNOT_CONTINUE, why=why) if why else ACCEPTED


_RULES: dict[str, Callable[[_Case], Judgement]] = {
    "answer": _answer,
    "correct": _correct,
    "redo": _redo,
    "problem": _problem,
    "resume": _resume,
    "tool": _tool,
    "note": _text,
    "suggest": _text,
    "photo": _photo,
    "accept": _accept,
    "settle": _settle,
    "sign_off": _sign_off,
    "abandon": _abandon,
    "continue": _continue,
}
