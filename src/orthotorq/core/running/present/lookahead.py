"""What comes after a round, as far as no answer of it decides: sent along, so that a stage goes on
without network."""

from __future__ import annotations

from dataclasses import replace

from ...forms.result import Result
from ...forms.run import Later
from ...kinds.registry import PASS_KINDS
from ..log.event_log import Fact, Log
from ..walk.instruction import instruction_for
from ..walk.pending import Pending
from ..walk.state import walk_run

#: rounds that are sent along at most
MOST = 12


def later_of(result: Result, log: Log, now: float = 0.0) -> list[Later]:
    """The first steps of the rounds that follow the open one within its stage, in order, each with
    what it comes after.

    Found by answering as usual on a copy of the log: a round is passed only where every answer that
    the next bolt simply follows leads to the same place. A wait is not, for it counts from what
    really happened.
    """
    walk, pending, _ = walk_run(result, log, now)
    copied, out = _copy(log), list[Later]()
    if pending is None or log.stopped():
        return out
    stage = pending.unit
    while len(out) < MOST and _passes(pending):
        steps = [pending.step, *(a.step for a in instruction_for(walk, pending).ahead)]
        if len(steps) != len(pending.order) - pending.number + 1:
            break
        word = next(c.word for c in pending.ask.choices if c.follows)
        for step in steps:
            copied.add(
                Fact(
                    copied.sequence + 1,
                    f"later-{copied.sequence}",
                    step,
                    "answer",
                    {"answer": word},
                    copied.holder,
                    "",
                    happened=now,
                )
            )
        walk, after, _ = walk_run(result, copied, now)
        if (
            after is None
            or after.unit.key != stage.key
            or after.decision is not None
            or after.ready_at is not None
        ):
            break
        out.append(Later(after=steps[-1], instruction=instruction_for(walk, after)))
        pending = after
    return out


def _passes(pending: Pending) -> bool:
    """Whether what comes after the round of a step is the same whatever its bolts answered."""
    one = pending.segment.one
    if (
        one is None
        or pending.fail is not None
        or pending.slackens
        or not pending.place
        or one.repeat_still
    ):
        return False
    kind = PASS_KINDS[one.do]
    decided = (
        one.until != "once" or one.falls or one.check or kind.pause or (pending.round or 1) > 1
    )
    return not decided and any(c.follows for c in pending.ask.choices)


def _copy(log: Log) -> Log:
    """A log that can be added to without touching the other: answers are added, none is changed."""
    return replace(
        log, answers=dict(log.answers), by_event=dict(log.by_event), order=list(log.order)
    )
