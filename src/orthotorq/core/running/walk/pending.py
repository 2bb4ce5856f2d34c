"""The open step of a walk, and what an answer to it came to."""

from __future__ import annotations

from dataclasses import dataclass

from ...kinds.pass_kind import Fail
from ...kinds.prompts import Ask
from ..log.event_log import Given
from ..log.step_id import parse, step_id
from .program import Segment, Unit

#: stage, position, item, place
ReadAt = tuple[str, str | None, str, str | None]


def _unit_of(step: str) -> tuple[str, str | None] | None:
    """Stage and position of a step."""
    found = parse(step)
    return (found.stage, found.position) if found is not None else None


@dataclass(slots=True)
class Pending:
    """A step and what it asks: its unit, segment, round, bolts, attempt, pull, and its number in
    the round.

    The same describes the step that is open, and any step that was answered, so that a correction
    is held against the answers that the step really took.
    """

    unit: Unit
    segment: Segment
    ask: Ask
    round: int | None = None
    move: tuple[str, ...] = ()
    attempt: int = 1
    number: int = 1
    pull: int | None = None
    order: tuple[tuple[str, ...], ...] = ()
    fail: Fail | None = None
    decision: str | None = None
    ready_at: float | None = None
    slackens: bool = False
    #: between which figures, in base units, a reading here usually lies; with words for it
    usual: tuple[float, float, str] | None = None
    #: why a bolt is pulled out of its turn, in words: it was loose, it is new, the one beside it
    #: was
    out_of_turn: str = ""
    #: a turn that was begun is finished, and not made again
    finishes: bool = False

    @property
    def kind(self) -> str:
        """What kind of step it is."""
        return self.ask.step

    @property
    def place(self) -> str | None:
        """The first bolt of the move, where there is one."""
        return None if not self.move or self.move[0] == "-" else self.move[0]

    @property
    def step(self) -> str:
        """The step id to be answered."""
        if self.decision is not None:
            return self.decision
        return step_id(self.segment.base(), self.round, self.place, self.attempt, self.pull)

    def may_skip(self) -> bool:
        """Whether the step may be skipped with a reason: taking out what was put in may not."""
        return self.ask.skippable and not self.unit.stage.takes_out

    def takes(self) -> tuple[str, ...]:
        """Answers the step takes; any other is refused."""
        return self.ask.words(self.may_skip())


@dataclass(slots=True)
class Settled:
    """How a step stands: its answer with its attempt and id, or the step (or the decision) that is
    open."""

    given: Given | None
    attempt: int
    step: str
    pending: Pending | None = None
    fail: Fail | None = None
    reason: str = ""
