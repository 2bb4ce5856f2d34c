"""The condition of a joint: a pure function of its runs and of what people said of it."""

from .fold import Act, PartCondition, Past, condition_of, parts_of, steps_of
from .rules import ROWS
from .words import CONDITIONS, ENTRY_TITLES, RANK, Known, condition_says, history_of

__all__ = [
    "CONDITIONS",
    "ENTRY_TITLES",
    "RANK",
    "ROWS",
    "Act",
    "Known",
    "PartCondition",
    "Past",
    "condition_of",
    "condition_says",
    "history_of",
    "parts_of",
    "steps_of",
]
