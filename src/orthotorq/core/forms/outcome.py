"""What a run proves and leaves, by position and group: what the condition of its joint is made
of."""

from __future__ import annotations

from .base import Out


class FailureOut(Out):
    """A step that failed and was left.

    `needs` are the stages that have to hold again before it is cleared: its own, and those after it
    that turn bolts or prove something.
    """

    step: str
    stage: str
    title: str
    code: str
    text: str
    needs: list[str] = []


class PartOutcome(Out):
    """One group of bolts at one position after a run.

    `turned`: a bolt of it was turned; `slackened`, `pulled`: every bolt of it was; `checked` and
    `moved` count its bolts in checks; `held` are the stages that were done there without a failure.
    """

    position: str | None
    position_name: str = ""
    group: str
    group_name: str
    bolts: int
    turned: bool
    slackened: bool
    pulled: bool
    checked: int
    moved: int
    failures: list[FailureOut] = []
    held: list[str] = []


class RunOutcome(Out):
    """What a run leaves at its joint; `ended_why` is the reason it was ended early for.

    `last_at` is when the last step was answered, in s since 1970: from then on it counts.
    """

    number: int
    last_at: float = 0.0
    occasion: str
    status: str
    provisional: list[str] = []
    ended_why: str = ""
    parts: list[PartOutcome]

    @property
    def ended(self) -> bool:
        """Whether nothing more is done in it."""
        return self.status != "running"

    @property
    def whole(self) -> bool:
        """Whether every step was answered, and a supervisor has signed."""
        return self.status == "closed"
