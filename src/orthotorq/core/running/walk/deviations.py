"""What departed from the plan in a run, from its walk and from its log, with who accepted it."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from ...forms.run import Deviation
from ..log.event_log import Fact, Log
from .step_walker import Walk
from .texts import deviation_texts


def all_deviations(walk: Walk, log: Log) -> list[Deviation]:
    """Deviations of the walk, tools out of calibration and reported problems, with who accepted
    them."""
    found = [*walk.deviations, *_tool_deviations(log), *_problems(log)]
    return [_with_acceptance(one, log.accepted.get(one.id)) for one in found]


def _tool_deviations(log: Log) -> Iterator[Deviation]:
    for number, (tool, change) in enumerate(log.hands):
        if change is not None:
            before = (t.serial for t, _ in reversed(log.hands[:number]) if t.tool == tool.tool)
            yield _deviation(
                "wrench_changed",
                change.id,
                old=next(before, tool.name),
                new=tool.serial,
                reason=change.payload.get("reason", ""),
            )
        if tool.expired:
            yield _deviation(
                "tool_expired",
                f"tool/{tool.serial}",
                name=tool.name,
                serial=tool.serial,
                state=tool.state,
            )


def _deviation(code: str, of: str, **values: Any) -> Deviation:
    text, advice = deviation_texts()[code]
    return Deviation(
        id=f"{of}:{code}",
        step="-",
        code=code,
        advice=advice,
        text=text.format(**values),
        accepted_by=None,
        reason=None,
    )


def _problems(log: Log) -> Iterator[Deviation]:
    for fact in log.others:
        if fact.kind == "problem":
            settled = log.resumed.get(fact.id)
            done = (
                f" Settled by {settled.person}: {settled.payload.get('reason', '')}"
                if settled
                else ""
            )
            yield Deviation(
                id=f"{fact.id}:problem",
                step=fact.step,
                code="problem",
                text=str(fact.payload.get("text", "")) + done,
                accepted_by=None,
                reason=None,
            )


def _with_acceptance(one: Deviation, accept: Fact | None) -> Deviation:
    if accept is None:
        return one
    reason = str(accept.payload.get("reason", ""))
    return one.model_copy(update={"accepted_by": accept.person, "reason": reason})
