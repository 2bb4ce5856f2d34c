"""The rules by which a run changes the condition of a group of bolts: one table, first row that
fits.

A row says what becomes of everything but failures; those are kept beside it and cleared only by a
run in which what failed held again (`cleared`), so that no row can hide one.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from ..forms.outcome import FailureOut, PartOutcome, RunOutcome
from .words import Word

#: what a group stands at when its failures are left aside
Base = Word


@dataclass(frozen=True, slots=True)
class Case:
    """A group before a run, and what the run did there."""

    before: Base
    run: RunOutcome
    part: PartOutcome

    @property
    def again(self) -> bool:
        """Whether every bolt was slackened and tightened again."""
        return self.part.slackened and self.part.pulled

    @property
    def known(self) -> bool:
        """Whether its bolts were known before."""
        return self.before in ("proven", "moved")


@dataclass(frozen=True, slots=True)
class Row:
    """One row of the table: when it fits, what the group stands at then (None: as before), and why.

    `waits` is what a run that is not at its end still waits for, and clears it; empty where the
    word itself says what clears it.
    """

    name: str
    fits: Callable[[Case], bool]
    to: Base | None
    why: str
    says: str
    waits: str = ""


def _tightens(case: Case) -> bool:
    return case.run.occasion in ("install", "recheck")


ROWS: tuple[Row, ...] = (
    Row(
        "under way",
        lambda c: c.part.turned and not c.run.ended,
        "unknown",
        "Run {run} is under way: bolts were turned, it is not finished.",
        "bolts were turned in a run that is not finished",
        "Run {run}, finished and signed.",
    ),
    Row(
        "cut short",
        lambda c: c.part.turned and c.run.status == "abandoned",
        "unknown",
        "Run {run} was cut short after bolts were turned: {ended}.",
        "a run was ended early after bolts were turned",
    ),
    Row(
        "not ended",
        lambda c: not c.run.ended or c.run.status == "abandoned",
        None,
        "",
        "nothing was turned in a run that is not finished or was ended early",
    ),
    Row(
        "dismantled",
        lambda c: c.run.occasion == "dismantle",
        "apart",
        "Taken apart in run {run}, not closed again.",
        "a run took it apart",
    ),
    Row(
        "nothing turned",
        lambda c: c.run.occasion == "install" and not c.part.turned,
        None,
        "",
        "a run of the procedure turned none of its bolts",
    ),
    Row(
        "provisional",
        lambda c: _tightens(c) and c.part.turned and bool(c.run.provisional),
        "provisional",
        "Run {run}: {provisional}.",
        "it was tightened by feel, with a wrench that is not good, a makeshift part, or steps left "
        "out",
    ),
    Row(
        "not signed",
        lambda c: c.run.occasion == "install" and not c.run.whole,
        "unknown",
        "Run {run} is done; a supervisor has not signed it.",
        "a run of the procedure is done, and no supervisor has signed it",
        "The signature of a supervisor under run {run}.",
    ),
    Row(
        "by the plan",
        lambda c: c.run.occasion == "install",
        "proven",
        "Every bolt by the plan in run {run}, signed.",
        "a run of the procedure is done and signed",
    ),
    Row(
        "moved, not signed",
        lambda c: c.known and c.part.moved > 0 and not c.again and not c.run.whole,
        "moved",
        "{moved} of {checked} bolts moved in the recheck, run {run}; it is not signed.",
        "a recheck found bolts that moved, and is not signed",
    ),
    Row(
        "recheck not signed",
        lambda c: not c.run.whole,
        None,
        "",
        "a recheck is done, and no supervisor has signed it",
    ),
    Row(
        "tightened again",
        lambda c: c.again,
        "proven",
        "Every bolt slackened and tightened again in run {run}, signed.",
        "a recheck slackened and pulled every bolt, and is signed",
    ),
    Row(
        "moved",
        lambda c: c.known and c.part.moved > 0,
        "moved",
        "{moved} of {checked} bolts moved in the recheck, run {run}; all were brought to the "
        "target.",
        "a recheck found bolts that moved, and all of them were brought to the target",
    ),
    Row(
        "held",
        lambda c: c.known and c.part.pulled and c.part.checked >= c.part.bolts,
        "proven",
        "No bolt moved in the recheck, run {run}.",
        "a recheck pulled every bolt, and none moved",
    ),
    Row("looked at", lambda c: True, None, "", "a recheck looked only, or pulled only some bolts"),
)


def row_for(case: Case) -> Row:
    """The first row that fits."""
    return next(row for row in ROWS if row.fits(case))


def cleared(failure: FailureOut, case: Case) -> bool:
    """Whether a run clears a failure of an earlier one: what failed, and all that depends on it,
    was done again and held, and the run is signed."""
    if not case.run.whole or case.part.failures:
        return False
    if case.run.occasion == "install":
        return case.part.turned
    return bool(failure.needs) and set(failure.needs) <= set(case.part.held)
