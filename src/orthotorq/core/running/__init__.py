"""The door of running: a stored result and its events give the state of a run; nothing else is looked at.

`state_of` walks the plan in work order and stops at the first step without an answer; that step is the instruction.
"""
from .fold import Fact, fold
from .judge import Judgement, judge
from .record import record_of
from .state import state_of

__all__ = ["Fact", "Judgement", "fold", "judge", "record_of", "state_of"]
