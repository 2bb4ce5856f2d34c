"""A run in five lines: who did what by what, what deviated, what the checks found, what was read,
what still lacks."""

from __future__ import annotations

import re

from ...forms.outcome import RunOutcome
from ...forms.record import GroupTable, Record, SummaryLine
from ...forms.result import Result
from ...units import show
from ..walk.unfit import leaves_unfit

#: so many deviations and readings are told one by one
_TOLD = 3
_DID = {"install": "tightened", "recheck": "rechecked", "dismantle": "took apart"}
#: of a run that is not at its end, nothing is said that may never come
_BEGAN = {
    "install": "began to tighten",
    "recheck": "began to recheck",
    "dismantle": "began to take apart",
}
#: a reading of one figure with its unit, as it was typed
_READING = re.compile(r"(-?\d+(?:\.\d+)?)\s*(\S+)$")
#: the place within the words of a step
_PLACE = re.compile(r"(?:, bolt .*| at (?:bolt|stud|nut|screw) \S+)$")
_ORDINALS = ("1st", "2nd", "3rd", "4th", "5th", "6th", "7th", "8th", "9th")


def summary_of(result: Result, record: Record, outcome: RunOutcome) -> list[SummaryLine]:
    """A record in at most five lines, with the time before each; no deviation, no line."""
    lines = [
        _who(result, record),
        _deviated(record),
        _checked(record),
        _read(record),
        _end(record, outcome),
    ]
    return [line for line in lines if line is not None]


def _names(people: list[str]) -> str:
    return "".join(people) if len(people) < 2 else f"{', '.join(people[:-1])} and {people[-1]}"


def _who(result: Result, record: Record) -> SummaryLine:
    """Who, how many bolts, to what, with what."""
    hands = (
        list(dict.fromkeys(line.person for line in record.story if line.kind == "work"))
        or record.people
    )
    done = {row.place for table in record.tables for row in table.rows if any(row.cells)}
    bolts = sum(1 for table in record.tables for row in table.rows if any(row.cells))
    groups = [g for g in result.groups if any(p.id in done for p in g.places)]
    figures = list(
        dict.fromkeys(
            f"{show(g.target.force_N / 1e3, 3)} kN by stretching"
            if g.target.force_N is not None
            else f"{show(g.target.set_torque_Nm, 4)} N·m"
            for g in groups
            if g.target is not None and g.target.set_torque_Nm
        )
    )
    to = f" to {_names(figures)}" if figures and record.occasion == "install" else ""
    used = [t.serial for t in record.tools if t.pulls]
    tools = f", with {_names(used)}" if used else ""
    begun = record.status in ("running", "abandoned")
    complete = bolts if begun else sum(map(_complete, record.tables))
    part = f"{complete} of " if complete < bolts else ""
    count = f"{part}{bolts} bolt{'' if bolts == 1 else 's'}" if bolts else "the joint"
    said = _BEGAN if begun else _DID
    verb = said[record.occasion]
    return SummaryLine(
        at=record.started or "", strong=_names(hands), text=f"{verb} {count}{to}{tools}."
    )


def _complete(table: GroupTable) -> int:
    """How many bolts went through every pass; one that was left half-way is not pulled again."""
    passes = [i for i, column in enumerate(table.columns) if column.id.endswith("/r1")]
    return sum(all(row.cells[i] for i in passes) for row in table.rows)


def _deviated(record: Record) -> SummaryLine | None:
    """What was not as planned: what is left as failed first."""
    found = sorted(record.deviations, key=lambda d: not leaves_unfit(d.code))
    if not found:
        return None
    more = f" And {len(found) - _TOLD} more, below." if len(found) > _TOLD else ""
    times = {line.at for line in record.story if line.kind == "decision"}
    return SummaryLine(
        at=min(times, default=record.started or ""),
        strong="",
        text=" ".join(d.text for d in found[:_TOLD]) + more,
    )


def _checked(record: Record) -> SummaryLine | None:
    """How many bolts moved in each check round."""
    rounds: list[tuple[int, int]] = []
    last = ""
    for table in record.tables:
        own = [i for i, column in enumerate(table.columns) if column.check]
        for place, i in enumerate(own):
            cells = [row.cells[i] for row in table.rows]
            given = [c for c in cells if c is not None and not c.slackened]
            if not given:
                continue
            while len(rounds) <= place:
                rounds.append((0, 0))
            moved = sum(c.moved for c in given)
            rounds[place] = rounds[place][0] + moved, rounds[place][1] + len(given)
            last = max(last, *(c.at for c in given))
    if not rounds:
        return None
    parts = []
    for number, (moved, checked) in enumerate(rounds):
        where = (
            f"in the {_ORDINALS[min(number, 8)]} check round" if len(rounds) > 1 else "in the check"
        )
        parts.append(
            f"{moved} of {checked} bolts moved {where}."
            if moved
            else f"None of {checked} bolts moved {where}."
        )
    return SummaryLine(at=last, strong="", text=" ".join(parts))


def _read(record: Record) -> SummaryLine | None:
    """What was measured last: each reading once, at several places from the least to the most."""
    readings: dict[str, list[str]] = {}
    at = ""
    for line in record.lines:
        if not _READING.match(line.answer):
            continue
        readings.setdefault(_PLACE.sub("", line.text), []).append(line.answer)
        at = line.at
    if not readings:
        return None
    said = [f"{what}: {_spanned(values)}" for what, values in list(readings.items())[-_TOLD:]]
    return SummaryLine(at=at, strong="", text=". ".join(said) + ".")


def _spanned(values: list[str]) -> str:
    """Readings at several places in few words.

    >>> _spanned(["3.0 mm"]), _spanned(["3.1 mm", "3.0 mm", "3.0 mm"]), _spanned(["3 mm", "3 mm"])
    ('3.0 mm', '3.0 to 3.1 mm at 3 places', '3 mm at 2 places')
    """
    read = [_READING.match(value) for value in values]
    units = {one[2] for one in read if one}
    if len(values) == 1 or len(units) > 1:
        return ", ".join(values[:4]) + (" …" if len(values) > 4 else "")
    figures = sorted((one[1] for one in read if one), key=float)
    low, high = figures[0], figures[-1]
    span = low if float(low) == float(high) else f"{low} to {high}"
    return f"{span} {units.pop()} at {len(values)} places"


def _end(record: Record, outcome: RunOutcome) -> SummaryLine:
    """Who signed, and what is still missing for “proven”."""
    signed = _names([s.person for s in record.sign_offs]) + " signed." if record.sign_offs else ""
    failed = [f.text for part in outcome.parts for f in part.failures]
    at = record.sign_offs[-1].at if record.sign_offs else record.ended or ""
    if failed:
        strong = "Do not use: what failed was left as it is."
    elif record.status == "abandoned":
        turned = any(part.turned for part in outcome.parts)
        strong = (
            "It was ended early: the joint is unknown."
            if turned
            else "It was ended before a bolt was turned."
        )
    elif record.status == "running":
        strong = "The run is in progress."
    elif record.occasion == "dismantle":
        strong = "The joint is taken apart."
    elif outcome.provisional:
        strong = f"The joint is provisional: {'; '.join(outcome.provisional)}."
    elif record.status == "closed":
        strong = (
            "The joint is proven by this run."
            if record.occasion == "install"
            else "The recheck is complete."
        )
    else:
        who = (
            "a supervisor signs"
            if record.status == "signed"
            else "the fitter and a supervisor have signed"
        )
        strong = (
            f"The joint is proven when {who}."
            if record.occasion == "install"
            else f"The recheck counts when {who}."
        )
    return SummaryLine(at=at, strong=strong, text=signed)
