"""The days on which a schedule falls due: a meter that stands somewhere on a day and goes on at a
rate, and the calendar.

Dates are whole days: the day on which a reading is reached. Months end on their last day. No clock
is read here.
"""

from __future__ import annotations

import calendar
import math
from dataclasses import dataclass
from datetime import date, timedelta

from ..errors import Impossible
from ..messages import Message
from .schedule import CALENDAR, UNITS, Point, Schedule, amount

#: readings asked for at a time
MOST = 5
#: further than this no date is named
_HORIZON = 200 * 366


@dataclass(frozen=True, slots=True)
class Meter:
    """A meter: its unit, where it stands on the first day, and how much a day it goes (low,
    typical, high), in that unit."""

    unit: str
    reading: float = 0.0
    rate: tuple[float, float, float] | None = None


@dataclass(frozen=True, slots=True)
class Due:
    """One recheck: the reading, the day as forecast, the earliest and the latest one, and why; no
    day where none is known."""

    at: float
    unit: str
    day: date | None
    low: date | None
    high: date | None
    why: str


def add_months(day: date, months: float) -> date:
    """So many months later; what the month does not have is its last day.

    >>> add_months(date(2028, 1, 31), 1), add_months(date(2028, 1, 31), 2)
    (datetime.date(2028, 2, 29), datetime.date(2028, 3, 31))
    """
    whole = day.year * 12 + day.month - 1 + int(months)
    year, month = whole // 12, whole % 12 + 1
    if year > date.max.year:
        raise Impossible(
            Message.OUT_OF_RANGE, value=f"{months:g} months", range="a day before the year 10000"
        )
    return date(year, month, min(day.day, calendar.monthrange(year, month)[1]))


class _Walk:
    """Where the walk along a schedule stands: the day and the reading of the recheck before, both
    None where not known."""

    def __init__(self, meter: Meter | None, start: date | None) -> None:
        self.meter, self.start = meter, start
        self.day, self.mark = start, 0.0
        #: whole calendar steps from a day, so that a short month does not shorten those after it
        self.anchor, self.steps = start, 0

    def on_meter(self, unit: str) -> bool:
        """Whether a unit is that of the meter."""
        return self.meter is not None and UNITS[unit][0] == UNITS[self.meter.unit][0]

    def days_to(self, value: float, unit: str, rate: float) -> date | None:
        """The day on which the meter shows a reading."""
        if self.meter is None or self.start is None or rate <= 0:
            return None
        left = value * UNITS[unit][1] / UNITS[self.meter.unit][1] - self.meter.reading
        days = max(0, math.ceil(left / rate - 1e-9))
        return None if days > _HORIZON else self.start + timedelta(days=days)

    def passed(self, value: float, unit: str) -> bool:
        """Whether the meter stands beyond a reading."""
        return (
            self.on_meter(unit)
            and self.meter is not None
            and value * UNITS[unit][1] < self.meter.reading * UNITS[self.meter.unit][1] - 1e-9
        )

    def due(self, value: float, unit: str, why: str) -> Due:
        """One reading with its days."""
        if UNITS[unit][0] in CALENDAR:
            day = self.calendar(value, unit, self.start, 1)
            return Due(value, unit, day, day, day, why)
        rate = self.meter.rate if self.meter is not None and self.on_meter(unit) else None
        if rate is None:
            return Due(
                value, unit, None, None, None, f"{why}; no rate of this meter is known, so no day"
            )
        low, typical, high = rate
        days = [self.days_to(value, unit, r) for r in (high, typical, low)]
        return Due(value, unit, days[1], days[0], days[2], why)

    def calendar(self, value: float, unit: str, day: date | None, times: int) -> date | None:
        """So many times an interval after a day."""
        if day is None:
            return None
        dimension, factor = UNITS[unit]
        return (
            add_months(day, value * factor * times)
            if dimension == "months"
            else day + timedelta(days=round(value * factor * times))
        )


def _first_of(dues: list[Due]) -> Due:
    """The one that is reached first; of those without a day the first one named."""
    dated = [one for one in dues if one.day is not None]
    return min(dated, key=lambda one: one.day or date.max) if dated else dues[0]


def _point(walk: _Walk, point: Point) -> Due:
    """What a reading of the schedule comes to; one that the meter has passed is due, unless it was
    done."""
    ways = [(value, unit) for value, unit in point.ways]
    for value, unit in ways:
        if walk.passed(value, unit):
            day, why = walk.start, f"{amount(value, unit)} has passed: due, unless it was done"
            return Due(value, unit, day, day, day, why)
    alone = len(ways) == 1
    return _first_of(
        [
            walk.due(
                value,
                unit,
                f"at {amount(value, unit)}"
                if alone
                else f"{point.words()}, whichever is first: {amount(value, unit)}",
            )
            for value, unit in ways
        ]
    )


def _counted(last: Point | None, more: float, unit: str) -> tuple[float, str]:
    """An interval counted on from the last reading of a schedule, in the unit in which it is a
    whole one.

    >>> _counted(Point(1.0, "months"), 6.0, "months"), _counted(Point(1.0, "months"), 1.0, "years")
    ((7.0, 'months'), (13.0, 'months'))
    """
    if last is None or UNITS[last.unit][0] != UNITS[unit][0]:
        return more, unit
    at = last.value * UNITS[last.unit][1] / UNITS[unit][1] + more
    if abs(at - round(at)) < 1e-9 or last.unit == unit:
        return at, unit
    return at * UNITS[unit][1] / UNITS[last.unit][1], last.unit


def _next(walk: _Walk, every: Point, last: float, last_at: Point | None) -> Due:
    """The next of an interval: each way counted on from the recheck before."""
    out = []
    for value, unit in every.ways:
        first = "" if len(every.ways) == 1 else f"; {every.words()}, whichever is first"
        why = f"{amount(value, unit)} after the one before{first}"
        if UNITS[unit][0] in CALENDAR:
            day = walk.calendar(value, unit, walk.anchor, walk.steps + 1)
            more = value * (walk.steps + 1)
            counted, told = _counted(last_at, more, unit) if len(every.ways) == 1 else (value, unit)
            out.append(Due(counted, told, day, day, day, why))
            continue
        at = (last if walk.on_meter(unit) or walk.meter is None else 0.0) / UNITS[unit][1] + value
        while walk.passed(at, unit):
            at += value
        out.append(walk.due(at, unit, why))
    return _first_of(out)


def due_of(
    schedule: Schedule, meter: Meter | None, start: date | None, most: int = MOST
) -> list[Due]:
    """The next rechecks of a schedule, the first ones at most, in the order of their days.

    `meter` stands at its reading on `start`, where the calendar also begins. What the meter has
    passed is due on the first day.
    """
    walk = _Walk(meter, start)
    points = [_point(walk, point) for point in schedule.at]
    out = sorted(points, key=lambda one: one.day or date.max)
    # the interval counts on from the last reading of the schedule, in the first unit of its own
    # meter
    last, seen = (
        0.0,
        [
            p.value * UNITS[p.unit][1]
            for p in schedule.at
            if UNITS[p.unit][0] not in CALENDAR
            and (
                schedule.every is None
                or any(UNITS[p.unit][0] == UNITS[u][0] for _, u in schedule.every.ways)
            )
        ],
    )
    last = max(seen, default=0.0)
    if out and out[-1].day is not None:
        walk.anchor = out[-1].day
    while schedule.every is not None and len(out) < most:
        due = _next(walk, schedule.every, last, schedule.at[-1] if schedule.at else None)
        if due.day is None and due.unit in ("d", "weeks", "months", "years"):
            break
        out.append(due)
        last = _reached(walk, due, last)
    return out[:most]


def _reached(walk: _Walk, due: Due, last: float) -> float:
    """What the meter shows when a recheck of the interval is done, in the first unit of its
    kind."""
    if UNITS[due.unit][0] not in CALENDAR:
        walk.anchor, walk.steps = due.day or walk.anchor, 0
        return due.at * UNITS[due.unit][1]
    walk.steps += 1
    meter = walk.meter
    if meter is None or meter.rate is None or due.day is None or walk.start is None:
        return last
    shown = meter.reading + meter.rate[1] * (due.day - walk.start).days
    return max(last, shown * UNITS[meter.unit][1])
