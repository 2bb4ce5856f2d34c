"""One row of the table of findings."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Severity = Literal["stop", "caution", "note"]
#: as people read it, on the Bench and on paper
SEVERITIES: dict[Severity, str] = {"stop": "error", "caution": "warning", "note": "note"}


@dataclass(frozen=True, slots=True)
class Rule:
    """One row: `role` may waive it when `waivable`; a stop that is not waivable keeps a plan from
    release. `act` is what closes it by one word, `act_words`; without one the figure of its remedy
    is taken."""

    severity: Severity
    waivable: bool
    role: str | None
    text: str
    remedy: str
    act: str = ""
    act_words: str = ""


def stop(text: str, remedy: str) -> Rule:
    """A stop that nobody can waive."""
    return Rule("stop", False, None, text, remedy)


def stop_unless(role: str, text: str, remedy: str) -> Rule:
    """A stop that a role can waive, with a reason."""
    return Rule("stop", True, role, text, remedy)


def caution(text: str, remedy: str) -> Rule:
    """A caution, to be waived by the planner."""
    return Rule("caution", True, "planner", text, remedy)


def note(text: str, remedy: str) -> Rule:
    """Something to know."""
    return Rule("note", True, "planner", text, remedy)
