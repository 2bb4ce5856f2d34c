"""Sums about coming back: when a schedule falls due, what a check of a wrench says."""

from __future__ import annotations

import re
from datetime import date
from typing import Any

from ..errors import BadQuantity, Impossible
from ..mechanics.calibration import check_of, class_limit
from ..messages import Message
from ..number_formats import UNCERTAIN, read_readings, read_share
from ..rechecking import Meter, due_of, parse_schedule
from ..rechecking.schedule import CALENDAR, UNITS, scan_schedule
from ..units import read_number
from .fields import Answer


def _metered(text: str, name: str) -> tuple[float, str]:
    """One figure of a meter with its unit; `0 km` is one."""
    value, _, rest = read_number(text)
    word = re.sub(r"\s*(?:/|a|per|each)\s*day\s*$", "", rest.strip(), flags=re.I)
    found, end = scan_schedule(f"1 {word}")
    if (
        found is None
        or end != len(f"1 {word}")
        or len(found.at) != 1
        or UNITS[found.at[0].unit][0] in CALENDAR
    ):
        raise BadQuantity(
            Message.QUANTITY_NOT_READ,
            (name,),
            text=text.strip()[:40],
            kind="reading of a meter",
            example="45 km",
        )
    if value < 0:
        raise Impossible(Message.OUT_OF_RANGE, (name,), value=text.strip()[:40], range="0 or more")
    return value, found.at[0].unit


def _rate(text: str) -> tuple[tuple[float, float, float], str]:
    """How much a day: one figure, or low, typical and high."""
    parts = [
        part
        for part in re.split(r"\s*[,;]\s+|;|,(?=\d+,)|(?<=\d),(?=\d+\s*[a-z]*$)", text.strip())
        if part.strip()
    ]
    unit = _metered(parts[-1], "per-day")[1]
    values = [
        _metered(part if re.search(r"[a-z]", part, re.I) else f"{part} {unit}", "per-day")[0]
        for part in parts
    ]
    if len(values) not in (1, 3) or values != sorted(values):
        raise Impossible(
            Message.BAD_VALUE,
            ("per-day",),
            reason=f"“{text}”: enter one figure, or low, typical, high",
        )
    if values[-1] <= 0:
        raise Impossible(
            Message.OUT_OF_RANGE, ("per-day",), value=text.strip()[:40], range="more than 0 a day"
        )
    return (values[0], values[len(values) // 2], values[-1]), unit


def _day(text: str) -> date:
    try:
        return date.fromisoformat(text.strip())
    except ValueError:
        raise BadQuantity(
            Message.QUANTITY_NOT_READ,
            ("from",),
            text=text.strip()[:40],
            kind="day",
            example="2028-02-29",
        ) from None


def _meter(v: dict[str, Any]) -> Meter | None:
    """The meter that reading and rate speak of."""
    reading = _metered(v["reading"], "reading") if v["reading"] else None
    rate = _rate(v["per_day"]) if v["per_day"] else None
    if reading is None and rate is None:
        return None
    unit = rate[1] if rate is not None else reading[1] if reading is not None else ""
    if reading is not None and UNITS[reading[1]][0] != UNITS[unit][0]:
        raise Impossible(
            Message.BAD_VALUE,
            ("reading",),
            reason=(
                f"The reading is in {reading[1]}, what is added a day in {unit}: give both of "
                "one meter"
            ),
        )
    shown = reading[0] * UNITS[reading[1]][1] / UNITS[unit][1] if reading is not None else 0.0
    return Meter(unit, shown, rate[0] if rate is not None else None)


def schedule_sum(v: dict[str, Any]) -> Answer:
    """The next rechecks of a schedule."""
    schedule, meter = parse_schedule(v["text"]), _meter(v)
    start = _day(v["from"]) if v["from"] else None
    units = {
        unit
        for point in (*schedule.at, *([schedule.every] if schedule.every else []))
        for _, unit in point.ways
    }
    if meter is not None and not any(UNITS[meter.unit][0] == UNITS[unit][0] for unit in units):
        raise Impossible(
            Message.BAD_VALUE,
            ("reading" if v["reading"] else "per-day",),
            reason=f"The schedule counts in {', '.join(sorted(units))}, not in {meter.unit}",
        )
    dues = due_of(schedule, meter, start)
    notes = [f"{note[0].upper()}{note[1:]}." for note in schedule.notes]
    if start is None:
        notes.append("No first day (--from): readings only.")
    return Answer(
        {
            "due": [
                {
                    "at": one.at,
                    "unit": one.unit,
                    **{
                        key: day.isoformat() if day else None
                        for key, day in (("date", one.day), ("low", one.low), ("high", one.high))
                    },
                    "why": one.why,
                }
                for one in dues
            ]
        },
        (),
        tuple(notes),
    )


def _percent(text: str, name: str, most: float) -> float:
    """A share: `4 %`, or `0.04`; a bare number above what a share can be is in percent."""
    try:
        value = read_share(text, most)
    except BadQuantity as error:
        error.path = (name,)
        raise
    if not 0 <= value <= 0.5:
        raise Impossible(Message.OUT_OF_RANGE, (name,), value=text.strip()[:40], range="0 to 50 %")
    return value


#: a bare number above this is percent: no wrench is allowed 20 %
_LIMIT_SHARE = 0.2


def calibration_sum(v: dict[str, Any]) -> Answer:
    """What readings of a reference at one setting say about a wrench."""
    if (v["class"] is None) == (v["limit"] is None):
        raise Impossible(
            Message.BAD_VALUE,
            ("limit",),
            reason="Give either a class of ISO 6789-1 or a limit of your own",
        )
    setting = v["setting"]
    limit = (
        class_limit(v["class"], setting)
        if v["class"] is not None
        else _percent(v["limit"], "limit", _LIMIT_SHARE)
    )
    if limit <= 0:
        raise Impossible(Message.OUT_OF_RANGE, ("limit",), value=v["limit"], range="more than 0")
    uncertainty = (
        _percent(v["reference_uncertainty"], "reference-uncertainty", UNCERTAIN)
        if v["reference_uncertainty"]
        else 0.0
    )
    try:
        _, readings = read_readings(v["readings"], v["units"]["setting"])
    except (BadQuantity, Impossible) as error:
        error.path = ("readings",)
        raise
    found = check_of(setting, readings, limit, uncertainty)
    each = ", ".join(f"{one * 100:+.2f} %" for one in found.errors)
    return Answer(
        {
            "error_percent": found.mean * 100,
            "worst_percent": found.worst * 100,
            "verdict": found.verdict,
        },
        (),
        (
            f"Error of each reading, (set - reference) / reference: {each}.",
            f"Every reading inside ±{limit * 100:g} %"
            + (
                f", whatever the reference's ±{uncertainty * 100:g} % do."
                if uncertainty
                else "; the reference is taken as exact."
            ),
        ),
    )
