"""The door of running: a stored result and its events give the state of a run; nothing else is
looked at.

`state_of` walks the plan in work order and stops at the steps without an answer; the one that is
offered is the instruction.
"""

from .log.event_log import Fact, Log, fold
from .log.setup import (
    Setup,
    choices_errors,
    choices_of,
    groups_of,
    occasions_of,
    setup_of,
    tools_needed,
)
from .log.tool_history import Touch, touch_of
from .present.compare import checked_bolts, compare, counted
from .present.lookahead import later_of
from .present.record import record_of
from .validate.event_validation import Judgement, judge, judge_in
from .walk.continuing import why_not_continued
from .walk.measured import PullStep, length_step, pull_step
from .walk.program import expand, first_variants
from .walk.state import state_from, state_of, walk_run

__all__ = [
    "Fact",
    "Judgement",
    "Log",
    "PullStep",
    "Setup",
    "Touch",
    "checked_bolts",
    "choices_errors",
    "choices_of",
    "compare",
    "counted",
    "expand",
    "first_variants",
    "fold",
    "groups_of",
    "judge",
    "judge_in",
    "later_of",
    "length_step",
    "occasions_of",
    "pull_step",
    "record_of",
    "setup_of",
    "state_from",
    "state_of",
    "tools_needed",
    "touch_of",
    "walk_run",
    "why_not_continued",
]
