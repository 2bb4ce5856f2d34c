"""Meters of machines: what a counter has shown, how much has run in all, and how fast it runs."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from ..errors import Impossible
from ..messages import Message
from ..thresholds import METER_AGES, METER_DAYS, METER_LAST, METER_READINGS
from .schedule import CALENDAR, UNITS, amount

How = Literal["reading", "reset", "replaced", "rolled_over"]
#: how a reading goes on from the one before, in words
HOWS: dict[str, str] = {
    "reading": "Reading",
    "reset": "Reset",
    "replaced": "New meter",
    "rolled_over": "Rolled over",
}
#: units in which a machine may count
METERS = tuple(unit for unit, (dimension, _) in UNITS.items() if dimension not in CALENDAR)
_DAY = 86400.0


@dataclass(frozen=True, slots=True)
class Shown:
    """What a counter showed: when, how it goes on from the reading before, and `before`, what the
    old counter showed at its end (set back, replaced) or where it begins again at nothing (rolled
    over)."""

    at: datetime
    value: float
    how: str = "reading"
    before: float | None = None


@dataclass(frozen=True, slots=True)
class Rate:
    """How much a day: low, typical, high, and what that is drawn from in words; no figures where
    there is too little."""

    band: tuple[float, float, float] | None
    words: str


def _refuse(field: str, reason: str) -> Impossible:
    return Impossible(Message.BAD_VALUE, (field,), reason=reason)


def gained(before: Shown | None, one: Shown, unit: str) -> float:
    """How much has run from one reading to the next. Raises Impossible for what no counter does.

    >>> at = [datetime(2028, 2, day) for day in (1, 2, 3)]
    >>> gained(Shown(at[0], 99_800.0), Shown(at[1], 150.0, "rolled_over", 100_000.0), "km")
    350.0
    >>> gained(Shown(at[0], 4000.0), Shown(at[1], 20.0, "replaced", 4060.0), "h")
    60.0
    """
    if one.value < 0:
        raise _refuse("value", "A meter shows 0 or more")
    if before is None:
        return 0.0
    if one.at == before.at:
        raise _refuse(
            "at",
            "There is a reading of this very time. Enter another time, or correct that reading",
        )
    if one.how == "reading":
        if one.value < before.value:
            raise _refuse(
                "value",
                f"{amount(one.value, unit)} is less than the reading before, "
                f"{amount(before.value, unit)}. Check the figure, or choose what happened to the "
                "meter: reset, new meter, rolled over",
            )
        return one.value - before.value
    if one.before is None:
        if one.how == "rolled_over":
            raise _refuse(
                "before",
                "Enter the figure after which this meter starts again at 0, such as 100000",
            )
        return 0.0
    if one.before < before.value or (one.how == "rolled_over" and one.before <= one.value):
        raise _refuse(
            "before",
            f"{amount(one.before, unit)} is less than the last reading of the old meter, "
            f"{amount(before.value, unit)}",
        )
    return one.before - before.value + (one.value if one.how == "rolled_over" else 0.0)


def totals(readings: Sequence[Shown], unit: str) -> list[float]:
    """How much had run at each reading since the first one, which counts with what it shows; in the
    order of time.

    Raises Impossible for the first one that cannot be.
    """
    out: list[float] = []
    before: Shown | None = None
    for one in readings:
        out.append((out[-1] if out else one.value) + gained(before, one, unit))
        before = one
    return out


def _weighted(values: list[tuple[float, float]], share: float) -> float:
    """The value below which this share of the weight lies."""
    wanted, seen = share * sum(weight for _, weight in values), 0.0
    for value, weight in sorted(values):
        seen += weight
        if seen >= wanted - 1e-12:
            return value
    return max(values)[0]


def rate_of(points: Iterable[tuple[datetime, float]]) -> Rate:
    """How much a day a meter runs, from its totals: the weighted median of the slopes between all
    pairs of readings (a slope over more time weighs more, an old one less), and where the middle
    four fifths of them lie.

    A single odd reading does not move it.
    """
    last = sorted(points)[-int(METER_LAST.value) :]
    if len(last) < METER_READINGS.value:
        left = int(METER_READINGS.value) - len(last)
        return Rate(
            None,
            (
                f"too few readings for a forecast: {len(last)}, {left} more "
                f"{'is' if left == 1 else 'are'} needed"
            ),
        )
    days = [(at - last[0][0]).total_seconds() / _DAY for at, _ in last]
    if days[-1] < METER_DAYS.value:
        return Rate(
            None,
            f"the readings are within {days[-1]:.1f} days: a forecast needs {METER_DAYS.value:g}",
        )
    slopes = []
    for i in range(len(last)):
        for j in range(i + 1, len(last)):
            if (over := days[j] - days[i]) > 0:
                age = days[-1] - (days[i] + days[j]) / 2
                slopes.append(
                    ((last[j][1] - last[i][1]) / over, over * 0.5 ** (age / METER_AGES.value))
                )
    low, typical, high = (_weighted(slopes, share) for share in (0.1, 0.5, 0.9))
    words = f"from {len(last)} readings over {days[-1]:.0f} days"
    return (
        Rate((low, typical, high), words) if high > 0 else Rate(None, f"{words}: it does not run")
    )
