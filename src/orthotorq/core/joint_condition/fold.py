"""Folding what happened at a joint, in its order, into the condition of each group of bolts."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import Literal

from ..forms.outcome import FailureOut, PartOutcome, RunOutcome
from .rules import Base, Case, cleared, row_for
from .words import CONDITIONS, RANK, Word

#: a group of bolts at a position; None for a joint without positions
Key = tuple[str | None, str]


@dataclass(frozen=True, slots=True)
class Act:
    """What somebody said of a joint, beside its runs; `at` is the time as text that sorts.

    `until` ends an acceptance, as a date (YYYY-MM-DD); `position` limits it to one position.
    """

    kind: Literal["opened", "replaced", "not_safe", "use_as_is"]
    at: str
    person: str
    words: str = ""
    conditions: str = ""
    until: str = ""
    position: str | None = None


@dataclass(frozen=True, slots=True)
class Past:
    """A run with the time at which what it says counts from."""

    at: str
    run: RunOutcome


@dataclass(frozen=True, slots=True)
class Open:
    """A failure that nothing has cleared, of which run (0: somebody said so), and who accepted
    it."""

    failure: FailureOut
    run: int
    accepted: Act | None = None


@dataclass(frozen=True, slots=True)
class PartCondition:
    """The condition of one group of bolts, as far as runs and people say."""

    key: Key
    name: str
    position_name: str = ""
    base: Base = "unknown"
    base_why: str = "No run of it is on record."
    #: what a run that is not at its end waits for; nothing else is due meanwhile
    waits: str = ""
    since: str = ""
    run: int | None = None
    open: tuple[Open, ...] = ()
    looked_at: str = ""
    tightened_at: str = ""
    #: rechecks since the tightening: (time, whether bolts moved, run)
    rechecks: tuple[tuple[str, bool, int], ...] = field(default=())

    def _standing(self, today: str) -> list[Open]:
        """Failures that nobody accepted, or whose acceptance has ended."""
        return [o for o in self.open if o.accepted is None or o.accepted.until < today]

    def word(self, today: str) -> Word:
        """The first condition that applies, from the worst."""
        if self._standing(today):
            return "do_not_use"
        limited: tuple[Word, ...] = ("limited",) if self.open else ()
        return min((self.base, *limited), key=lambda one: RANK[one])

    def why(self, today: str) -> str:
        """Why it is so, in sentences."""
        word = self.word(today)
        if word == "do_not_use":
            return " ".join(_failed(o, today) for o in self._standing(today))
        if word == "limited":
            return " ".join(_accepted(o) for o in self.open)
        return self.base_why

    def clears(self, today: str) -> str:
        """What clears it."""
        word = self.word(today)
        return self.waits if self.waits and word == self.base else CONDITIONS[word].clears

    def due(self, today: str) -> str:
        """What is due at once, as an occasion; empty where nothing is."""
        word = self.word(today)
        return "" if self.waits and word == self.base else CONDITIONS[word].due

    def until(self, today: str) -> str:
        """The day on which an acceptance ends; empty where there is none."""
        ends = [o.accepted.until for o in self.open if o.accepted is not None]
        return min(ends, default="") if self.word(today) == "limited" else ""


def _failed(one: Open, today: str) -> str:
    by = f"Run {one.run}: " if one.run else ""
    over = one.accepted is not None and one.accepted.until < today
    ended = f" The acceptance ended on {one.accepted.until}." if one.accepted and over else ""
    return f"{by}{one.failure.text}{ended}"


def _accepted(one: Open) -> str:
    act = one.accepted
    assert act is not None
    conditions = f"; {act.conditions}" if act.conditions else ""
    return (
        f"{one.failure.text} Accepted as is by {act.person} until {act.until}: "
        f"{act.words}{conditions}."
    )


def _begin(part: PartOutcome) -> PartCondition:
    """A group of which nothing is known yet."""
    name = ", ".join(x for x in (part.position_name, part.group_name) if x)
    return PartCondition((part.position, part.group), name, part.position_name)


def _after(before: PartCondition, part: PartOutcome, past: Past) -> PartCondition:
    """One group after a run."""
    run, case = past.run, Case(before.base, past.run, part)
    row = row_for(case)
    kept = tuple(o for o in before.open if o.run == run.number or not cleared(o.failure, case))
    new = tuple(Open(f, run.number) for f in part.failures)
    out = replace(before, open=(*kept, *new))
    if row.to is not None:
        why = row.why.format(
            run=run.number,
            ended=run.ended_why.rstrip(". "),
            provisional="; ".join(run.provisional),
            moved=part.moved,
            checked=part.checked,
        )
        out = replace(
            out,
            base=row.to,
            base_why=why,
            since=past.at,
            run=run.number,
            waits=row.waits.format(run=run.number),
        )
    if new or len(kept) < len(before.open):
        out = replace(out, since=past.at, run=run.number)
    if not run.ended or run.status == "abandoned":
        return out
    if (run.occasion == "install" and part.turned) or (case.again and run.whole):
        return replace(out, tightened_at=past.at, rechecks=(), looked_at="")
    if run.occasion == "recheck":
        done = (*out.rechecks, (past.at, part.moved > 0, run.number))
        return replace(out, looked_at=past.at, rechecks=done)
    return out


def _said(before: PartCondition, act: Act) -> PartCondition:
    """One group after somebody said something of it."""
    if act.position is not None and before.key[0] not in (None, act.position):
        return before
    note = f": {act.words}" if act.words else ""
    if act.kind in ("opened", "replaced"):
        others = "Opened by others, without a record"
        done = others if act.kind == "opened" else "Parts replaced outside a run"
        why = f"{done} (said by {act.person}{note})."
        return replace(before, base="unknown", base_why=why, since=act.at, run=None, waits="")
    if act.kind == "not_safe":
        failure = FailureOut(
            step="-",
            stage="",
            title="",
            code="said",
            text=f"{act.person} says that it must not be used{note}.",
        )
        return replace(before, open=(*before.open, Open(failure, 0)), since=act.at)
    return replace(
        before,
        open=tuple(replace(o, accepted=act) for o in before.open),
        since=act.at if before.open else before.since,
    )


def steps_of(
    planned: Iterable[PartOutcome],
    past: Sequence[Past | Act],
) -> Iterator[tuple[Past | Act | None, dict[Key, PartCondition]]]:
    """The groups of a joint with their conditions at first, and after each run and act, in order of
    time.

    A run of the whole procedure says anew which groups there are, at the positions that it was at.
    """
    parts = {(p.position, p.group): _begin(p) for p in planned}
    yield None, parts
    for one in sorted(past, key=lambda x: x.at):
        if isinstance(one, Act):
            parts = {key: _said(part, one) for key, part in parts.items()}
            yield one, parts
            continue
        there = {(p.position, p.group): p for p in one.run.parts}
        parts = dict(parts)
        if one.run.occasion == "install" and any(p.turned for p in one.run.parts):
            at = {p.position for p in one.run.parts}
            parts = {key: part for key, part in parts.items() if key in there or key[0] not in at}
        for key, found in there.items():
            idle = not found.turned and not found.failures
            if parts and key not in parts and idle and one.run.occasion != "install":
                continue  # of another way, which this joint does not have
            parts[key] = _after(parts.get(key) or _begin(found), found, one)
        yield one, parts


def parts_of(planned: Iterable[PartOutcome], past: Sequence[Past | Act]) -> list[PartCondition]:
    """Every group of a joint with its condition: those of the plan, changed by runs and acts in
    order."""
    return list([parts for _, parts in steps_of(planned, past)][-1].values())


def condition_of(parts: Sequence[PartCondition], today: str) -> PartCondition | None:
    """The part that speaks for the joint: the worst one; None for a joint without bolts."""
    return min(parts, key=lambda part: RANK[part.word(today)], default=None)
