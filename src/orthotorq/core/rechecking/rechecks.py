"""When one joint falls due next by one rule of its plan: what was tightened when, what was
rechecked since, and a meter."""

from __future__ import annotations

import calendar
import math
from dataclasses import dataclass
from datetime import date, timedelta

from ..thresholds import RECHECK_EARLY, RECHECK_GRACE, RECHECK_GRACE_MOST
from .due import add_months
from .meters import Rate
from .schedule import UNITS, amount


@dataclass(frozen=True, slots=True)
class Rule:
    """When to come back: readings since the tightening, in `unit`, rising, then every so much; or
    every year on a day, or after something that somebody has to say."""

    unit: str
    at: tuple[float, ...] = ()
    every: float | None = None
    season: tuple[int, int] | None = None
    after: str = ""


@dataclass(frozen=True, slots=True)
class Mark:
    """A day, and what the meter had run in all by then; None where that is not known."""

    day: date
    total: float | None = None


@dataclass(frozen=True, slots=True)
class Stands:
    """A meter now: its unit, what it had run at its last reading, the day of that, and how fast it
    runs."""

    unit: str
    total: float
    day: date
    rate: Rate


@dataclass(frozen=True, slots=True)
class Next:
    """The next recheck: the reading since the tightening, the day as forecast with the earliest and
    the latest one, the days of grace, and why; no day where none can be named."""

    at: float | None
    unit: str
    day: date | None
    low: date | None
    high: date | None
    grace: int
    why: str


def grace_of(gap: float) -> int:
    """Days of grace after so many days without a recheck.

    >>> grace_of(365), grace_of(7), grace_of(1)
    (14, 0, 0)
    """
    return int(min(gap * RECHECK_GRACE.value, RECHECK_GRACE_MOST.value))


def reading_after(rule: Rule, done: float | None, moved: bool) -> float | None:
    """The next reading of a schedule since the tightening; `done` is the reading of the last
    recheck. None: no more.

    A recheck that came a little early counts for the reading it was meant for. A joint that had
    moved is looked at again at half the interval.

    >>> rule = Rule("km", (20.0, 100.0), 1000.0)
    >>> [reading_after(rule, done, False) for done in (None, 18.0, 104.0, 1090.0)]
    [20.0, 100.0, 1100.0, 2090.0]
    >>> reading_after(rule, 104.0, True)
    602.0
    """
    reached = -1.0 if done is None else done / RECHECK_EARLY.value
    wanted = next((at for at in rule.at if at > reached), None)
    if wanted is None and rule.every is not None:
        wanted = (
            max(
                done or 0.0,
                rule.at[-1] if rule.at and (done is None or done < rule.at[-1]) else 0.0,
            )
            + rule.every
        )
        if (
            rule.at
            and done is not None
            and abs(done - rule.at[-1]) <= (1 - RECHECK_EARLY.value) * rule.at[-1]
        ):
            wanted = rule.at[-1] + rule.every  # it was the last one of the list
    if wanted is None:
        return None
    return done + (wanted - done) / 2 if moved and done is not None else wanted


def _on_calendar(rule: Rule, first: Mark, last: Mark | None, moved: bool) -> Next | None:
    """By days, weeks, months, years."""
    dimension, factor = UNITS[rule.unit]
    done = None
    if last is not None:
        days = (last.day - first.day).days
        done = days / factor if dimension == "days" else _months(first.day, last.day) / factor
    wanted = reading_after(rule, done, moved)
    if wanted is None:
        return None
    whole = math.floor(wanted * factor)
    day = (
        first.day + timedelta(days=round(wanted * factor))
        if dimension == "days"
        else add_months(first.day, whole)
    )
    gap = (day - (last or first).day).days
    return Next(wanted, rule.unit, day, day, day, grace_of(gap), _why(rule, wanted, last, moved))


def _months(begin: date, end: date) -> float:
    """Months from one day to another."""
    whole = (end.year - begin.year) * 12 + end.month - begin.month
    if add_months(begin, whole) > end:
        whole -= 1
    anchor = add_months(begin, whole)
    return whole + (end - anchor).days / calendar.monthrange(anchor.year, anchor.month)[1]


def _said(value: float, unit: str) -> str:
    """A reading in words; hours of a meter are running hours, never those of a clock."""
    said = amount(value, unit)
    return (
        f"{said.removesuffix(' h')} running hour{'' if value == 1 else 's'}"
        if unit == "h"
        else said
    )


def _why(rule: Rule, wanted: float, last: Mark | None, moved: bool) -> str:
    reading = f"{_said(round(wanted, 1), rule.unit)} after the tightening"
    if moved and last is not None:
        return f"{reading}: half the interval, since bolts had moved"
    return (
        reading
        if wanted in rule.at or rule.every is None
        else f"{reading}, every {_said(rule.every, rule.unit)}"
    )


def _in_season(rule: Rule, first: Mark, last: Mark | None) -> Next:
    """Every year from a day of the year on; the day of a leap year is the last of its month
    elsewhere."""
    assert rule.season is not None
    month, day = rule.season
    since = (last or first).day

    def of(year: int) -> date:
        return date(year, month, min(day, calendar.monthrange(year, month)[1]))

    due = of(since.year) if of(since.year) > since else of(since.year + 1)
    return Next(
        None,
        "years",
        due,
        due,
        due,
        grace_of((due - since).days),
        f"every year from {due.day} {due:%B}",
    )


def next_of(
    rule: Rule, first: Mark, last: Mark | None, meter: Stands | None, moved: bool = False
) -> Next | None:
    """When a joint that was tightened at `first` and rechecked at `last` falls due next by a rule;
    None: not again.

    On a meter the day comes from where it stands and how fast it runs; without either there is no
    day, and it says so.
    """
    if rule.season is not None:
        return _in_season(rule, first, last)
    if rule.after:
        return Next(
            None,
            rule.unit,
            None,
            None,
            None,
            0,
            f"after {rule.after}: report it when it has happened",
        )
    if UNITS[rule.unit][0] in ("days", "months"):
        return _on_calendar(rule, first, last, moved)
    if meter is None or UNITS[meter.unit][0] != UNITS[rule.unit][0]:
        wanted = reading_after(rule, None, False)
        return (
            None
            if wanted is None
            else Next(
                wanted,
                rule.unit,
                None,
                None,
                None,
                0,
                (
                    f"{_why(rule, wanted, None, False)}; this machine has no meter in "
                    f"{rule.unit}, so no day"
                ),
            )
        )
    factor = UNITS[meter.unit][1] / UNITS[rule.unit][1]
    begun = first.total if first.total is not None else 0.0
    done = None if last is None or last.total is None else max(0.0, (last.total - begun) * factor)
    wanted = reading_after(rule, done, moved)
    if wanted is None:
        return None
    return _by_meter(
        rule,
        wanted,
        wanted / factor - max(0.0, meter.total - begun),
        meter,
        (last or first).day,
        _why(rule, wanted, last, moved),
    )


def _by_meter(rule: Rule, wanted: float, left: float, meter: Stands, since: date, why: str) -> Next:
    """The days on which a meter has run so much more, after the last time that somebody was
    there."""
    why = (
        f"{why}; the meter has {_said(round(left, 1), meter.unit)} to go"
        if left > 0
        else f"{why}; the meter is {_said(round(-left, 1), meter.unit)} past it"
    )
    if left <= 0:
        # passed before its last reading: by how fast it runs, on about this day
        typical = meter.rate.band[1] if meter.rate.band is not None else 0.0
        day = (
            max(since, meter.day - timedelta(days=math.floor(-left / typical)))
            if typical > 0
            else meter.day
        )
        return Next(wanted, rule.unit, day, day, day, grace_of((day - since).days), why)
    if meter.rate.band is None:
        return Next(wanted, rule.unit, None, None, None, 0, f"{why}; {meter.rate.words}, so no day")
    # what was tightened after the last reading runs from that day on
    days = [_day_after(max(meter.day, since), left, rate) for rate in reversed(meter.rate.band)]
    gap = ((days[1] or meter.day) - since).days
    return Next(
        wanted, rule.unit, days[1], days[0], days[2], grace_of(gap), f"{why}; {meter.rate.words}"
    )


def _day_after(start: date, left: float, rate: float) -> date | None:
    """The day on which so much has run; None where it runs too slowly for one to be named."""
    if rate <= 0 or left / rate > 200 * 366:
        return None
    return start + timedelta(days=math.ceil(left / rate - 1e-9))
