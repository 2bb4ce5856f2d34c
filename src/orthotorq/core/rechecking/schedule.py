"""A recheck schedule as a manual writes it: readings one after the other, intervals, whichever
comes first.

What is written out of order, twice, or against itself is put right, and said.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from itertools import pairwise

from ..errors import BadQuantity, Impossible
from ..messages import Message

#: unit -> (dimension, how many of the dimension's first unit it is). A dimension is a meter of its
#: own, or the calendar.
UNITS: dict[str, tuple[str, float]] = {
    "km": ("distance", 1.0),
    "mi": ("distance", 1.609344),
    "h": ("running hours", 1.0),
    "d": ("days", 1.0),
    "weeks": ("days", 7.0),
    "months": ("months", 1.0),
    "years": ("months", 12.0),
    "cycles": ("cycles", 1.0),
    "starts": ("starts", 1.0),
}
CALENDAR = ("days", "months")
_SPELLED: dict[str, str] = {
    "km": r"km|kms|kilomet(?:re|er)s?",
    "mi": r"mi|miles?",
    "h": r"h|hrs?|hours?|(?:operating|running|working|service)[ -]hours?",
    "d": r"d|days?",
    "weeks": r"wks?|weeks?",
    "months": r"months?|mths?",
    "years": r"yrs?|years?",
    "cycles": r"cycles?",
    "starts": r"starts?|start-ups?",
}
_ADVERBS = {
    "daily": (1.0, "d"),
    "weekly": (1.0, "weeks"),
    "monthly": (1.0, "months"),
    "quarterly": (3.0, "months"),
    "yearly": (1.0, "years"),
    "annually": (1.0, "years"),
}
_COUNTED = {
    "one": 1.0,
    "two": 2.0,
    "three": 3.0,
    "four": 4.0,
    "five": 5.0,
    "six": 6.0,
    "eight": 8.0,
    "ten": 10.0,
    "twelve": 12.0,
}
_NUMBER = r"\d{1,3}(?:[ \u00a0\u2009\u202f']\d{3})+(?!\d)|\d+(?:\.\d+)?"
_UNITS = "|".join(f"(?P<u_{u}>{words})" for u, words in _SPELLED.items())
_TOKEN = re.compile(
    r"\s*(?:(?P<odd>(?<![\d,])[1-9]\d*,\d+(?![\d,]|\s*,\s*\d))"
    rf"|(?P<number>{_NUMBER})(?![\d.]*\d)|(?P<counted>{'|'.join(_COUNTED)})\b"
    r"|(?P<every>every|each|per)\b"
    r"|(?P<upto>to\b|[-–](?=\s*\d))|(?P<or>or\b)|(?P<at>first|initially|at|after|within|once)\b"
    rf"|(?P<adverb>{'|'.join(_ADVERBS)})\b|(?P<unit>{_UNITS})(?![a-z])"
    r"|(?P<plain>(?:whichever (?:comes|is|occurs) (?:first|sooner|earlier)|whichever first"
    r"|and then|then|and|again|the|of|thereafter|subsequently|operation|operating|running|use"
    r"|service|driving|further|another|more|a|an|in)\b)"
    r"|(?P<mark>[,;.&/+]))",
    re.I,
)


def amount(value: float, unit: str) -> str:
    """A reading in words.

    >>> amount(1, "months"), amount(500, "h")
    ('1 month', '500 h')
    """
    return f"{value:g} {unit.removesuffix('s') if value == 1 else unit}"


@dataclass(frozen=True, slots=True)
class Point:
    """One reading: `value` in `unit`, and other readings that hold instead where they are reached
    sooner."""

    value: float
    unit: str
    others: tuple[tuple[float, str], ...] = ()

    @property
    def ways(self) -> tuple[tuple[float, str], ...]:
        """Every way to reach it, the first one first."""
        return (self.value, self.unit), *self.others

    def words(self) -> str:
        """As one reads it."""
        return " or ".join(amount(value, unit) for value, unit in self.ways)


@dataclass(frozen=True, slots=True)
class Schedule:
    """Readings in rising order, the interval after the last one (None: not again), and what was put
    right."""

    at: tuple[Point, ...]
    every: Point | None
    notes: tuple[str, ...] = ()


class _Taken:
    """What has been read so far of a schedule."""

    def __init__(self) -> None:
        self.at: list[Point] = []
        self.every: list[Point] = []
        self.numbers: list[float] = []
        self.notes: list[str] = []
        self.repeats = self.instead = self.between = self.single = False

    def number(self, value: float) -> None:
        """One more number; of “50 to 100” the early end counts."""
        if self.between and self.numbers:
            self.notes.append(f"of {self.numbers[-1]:g} to {value:g} the early end counts")
        else:
            self.numbers.append(value)
        self.between = False

    def unit(self, unit: str) -> None:
        """A unit belongs to all the numbers before it; behind “every” and “the first” it may
        stand alone."""
        if not self.numbers and (self.repeats or self.single):
            self.numbers = [1.0]
        self.single = False
        into = self.every if self.repeats else self.at
        for value in self.numbers:
            if value <= 0:
                raise Impossible(
                    Message.BAD_VALUE,
                    reason=f"A recheck at {amount(value, unit)} is none: a reading is above 0",
                )
            if self.instead and into:
                last = into.pop()
                into.append(Point(last.value, last.unit, (*last.others, (value, unit))))
            else:
                into.append(Point(value, unit))
        self.numbers, self.instead = [], False


def scan_schedule(text: str, start: int = 0) -> tuple[Schedule | None, int]:
    """(the schedule that begins at a place of a text, where it ends); (None, start) where none
    begins there.

    Raises BadQuantity for a number that can be read in two ways.
    """
    taken, here, end = _Taken(), start, start
    while (found := _TOKEN.match(text, here)) is not None:
        if not _take(taken, found, text):
            break
        here = found.end()
        if (
            found["unit"]
            or found["adverb"]
            or (found["plain"] or "").lower().startswith("whichever")
        ):
            end = here
    if not taken.at and not taken.every:
        return None, start
    return _ordered(taken), end


def _take(taken: _Taken, found: re.Match[str], text: str) -> bool:
    """One token; False where it does not belong to a schedule."""
    if found["odd"]:
        raise BadQuantity(
            Message.QUANTITY_AMBIGUOUS,
            text=found["odd"],
            first=found["odd"].replace(",", "."),
            second=_two_readings(found["odd"]),
        )
    if found["number"] or found["counted"]:
        taken.number(
            _COUNTED[found["counted"].lower()]
            if found["counted"]
            else float(re.sub(r"[^\d.]", "", found["number"]))
        )
    elif found["upto"]:
        taken.between = True
    elif found["unit"]:
        unit = next(u for u in _SPELLED if found[f"u_{u}"])
        if not taken.numbers and not taken.repeats and not taken.single:
            return False
        taken.unit(unit)
    elif found["adverb"]:
        value, unit = _ADVERBS[found["adverb"].lower()]
        taken.repeats, taken.numbers = True, [value]
        taken.unit(unit)
    elif found["every"]:
        if taken.numbers:
            return False
        taken.repeats = True
    elif found["or"]:
        taken.instead = True
    elif found["at"] and not (found["at"].lower() == "after" and taken.repeats and not taken.every):
        taken.repeats, taken.instead = False, False
    if found["at"]:
        taken.single = found["at"].lower() == "first"
    return True


def _two_readings(text: str) -> str:
    whole, _, part = text.partition(",")
    return f"{whole}{part}" if len(part) == 3 else f"{whole} and {part}"


def _ordered(taken: _Taken) -> Schedule:
    """In rising order, each once, with what was put right."""
    notes, points = list(taken.notes), list[Point]()
    for point in taken.at:
        if point in points:
            notes.append(f"{point.words()} is written twice; it counts once")
        else:
            points.append(point)
    rising = sorted(
        points,
        key=lambda p: (
            list(dict.fromkeys(UNITS[q.unit][0] for q in points)).index(UNITS[p.unit][0]),
            p.value * UNITS[p.unit][1],
        ),
    )
    notes += [
        f"{late.words()} is listed after {early.words()}, which is more; sorted"
        for early, late in pairwise(points)
        if UNITS[early.unit][0] == UNITS[late.unit][0] and rising.index(late) < rising.index(early)
    ]
    every = taken.every[0] if taken.every else None
    for other in taken.every[1:]:
        if every is None or UNITS[other.unit][0] != UNITS[every.unit][0]:
            every = Point(every.value, every.unit, (*every.others, *other.ways)) if every else other
            notes.append(f"two intervals, {every.words()}: whichever is reached first")
            continue
        short = min((every, other), key=lambda p: p.value * UNITS[p.unit][1])
        notes.append(f"every {every.words()} and every {other.words()}: the shorter one holds")
        every = short
    return Schedule(tuple(rising), every, tuple(notes))


def parse_schedule(text: str) -> Schedule:
    """A schedule as it is written. Raises BadQuantity where a part of the text is none.

    >>> [p.words() for p in parse_schedule("30, 60, 90, 600 and 200 km").at]
    ['30 km', '60 km', '90 km', '200 km', '600 km']
    >>> parse_schedule("first 50 h, then every 500 h or 12 months").every.words()
    '500 h or 12 months'
    """
    found, end = scan_schedule(text)
    rest = text[end:].strip(" .;,")
    if found is None or rest:
        raise BadQuantity(
            Message.BAD_VALUE,
            reason=(
                f"“{(rest or text).strip()[:60]}” cannot be read as a schedule; write for "
                "example “30, 60 and 200 km” or "
                "“first 50 h, then every 500 h or 12 months”"
            ),
        )
    return found
