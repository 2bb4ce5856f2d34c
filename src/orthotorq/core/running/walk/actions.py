"""What may be done in a run, by whom and when: one table, offered by the state and asked by the
judge."""

from __future__ import annotations

from dataclasses import dataclass

from ...messages import Refusal
from .instruction import can_redo
from .pending import Pending

OPEN, DONE, ANY = ("running",), ("running", "finished"), ("running", "finished", "signed")
EVER = (*ANY, "closed", "abandoned")
HANDS = frozenset({"fitter", "supervisor"})
SUPERVISOR = frozenset({"supervisor"})
CREW = HANDS | {"planner"}


@dataclass(frozen=True, slots=True)
class Action:
    """Who may do it, while the run stands how; what is said to others. `held`: on the device that
    holds the run alone."""

    roles: frozenset[str]
    when: tuple[str, ...]
    otherwise: Refusal = Refusal.NOT_A_FITTER
    does: str = ""
    held: bool = False


ACTIONS: dict[str, Action] = {
    "answer": Action(HANDS, OPEN, held=True),
    "round": Action(HANDS, OPEN, held=True),
    "skip": Action(HANDS, OPEN, held=True),
    "correct": Action(HANDS, DONE, held=True),
    "redo": Action(HANDS, DONE, held=True),
    "take_over": Action(HANDS, ANY),
    "problem": Action(CREW, ANY),
    "resume": Action(HANDS, OPEN),
    "tool": Action(HANDS, OPEN, held=True),
    "photo": Action(HANDS, ANY),
    "note": Action(CREW, EVER),
    "suggest": Action(CREW, EVER),
    "abandon": Action(HANDS, DONE, Refusal.NOT_YOURS_TO_END),
    "continue": Action(HANDS, ("abandoned",), Refusal.NOT_YOURS_TO_CONTINUE),
    "accept": Action(SUPERVISOR, ANY, Refusal.NOT_A_SUPERVISOR, "accepts a deviation"),
    "settle": Action(SUPERVISOR, ANY, Refusal.NOT_A_SUPERVISOR, "settles a conflict"),
    "sign_fitter": Action(frozenset({"fitter"}), ("finished",), Refusal.SIGN_IN_A_ROLE),
    "sign_supervisor": Action(SUPERVISOR, ("signed",), Refusal.SIGN_IN_A_ROLE),
}
#: what only the device that holds the run may do
HELD = tuple(name for name, action in ACTIONS.items() if action.held)
#: who signs next while a run stands how
NEXT_SIGNATURE = {"finished": "fitter", "signed": "supervisor"}
LEAVES_UNKNOWN = "The joint is unknown: bolts were turned before the run was ended."
STATUS: dict[str, str] = {
    "running": "under way",
    "finished": "finished, not signed",
    "signed": "signed by the fitter",
    "closed": "signed and closed",
    "abandoned": "ended early",
}


def offered_to(
    roles: frozenset[str],
    status: str,
    pending: Pending | None,
    answered: bool,
    clear: bool,
    stopped: bool = False,
) -> list[str]:
    """Actions that a person may take now; `answered` when there is an answer to correct, `clear`
    when nothing is left to be accepted or settled, `stopped` when a problem stops the run."""
    out = []
    for name, action in ACTIONS.items():
        fits = {
            "skip": pending is not None and pending.may_skip(),
            "redo": status == "finished" or (pending is not None and can_redo(pending)),
            "resume": stopped,
            "answer": not stopped,
            "round": not stopped,
            "correct": answered,
            "sign_supervisor": clear,
        }.get(name, True)
        if action.roles & roles and status in action.when and fits:
            out.append(name)
    return out
