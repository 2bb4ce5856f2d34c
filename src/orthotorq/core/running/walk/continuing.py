"""Whether a run that was ended early may go on where it stood: nothing has set or cooled since."""

from __future__ import annotations

from ...forms.condition import asks_for_heat
from ...forms.result import Result
from ..log.event_log import Log
from .program import units_of
from .state import walk_run


def why_not_continued(result: Result, log: Log, now: float) -> str:
    """Why a run cannot go on at a time, in a sentence; empty where it can.

    What the record of its joint says against it (opened by others, another run, a new revision) is
    asked by whoever knows that.
    """
    if log.abandoned is None:
        return "It was not ended early."
    walk, pending, _ = walk_run(result, log, now)
    if pending is None:
        return "Every step of it is answered."
    left = [unit for unit in units_of(result, log.setup) if unit.key not in walk.held]
    for (_, position), (what, deadline, stages) in walk.clocks.items():
        # what was pulled in time has set as it should
        still = any(u.stage.id in stages and position in (None, u.position) for u in left)
        if now > deadline and still:
            return f"“{what}” has set since."
    if any(asks_for_heat(words) for words in pending.segment.condition):
        return "The parts have cooled since."
    return ""
