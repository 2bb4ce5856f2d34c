"""When a joint is looked at again: schedules as people write them, meters, and the days on which
they fall due."""

from .due import Due, Meter, due_of
from .meters import HOWS, METERS, Rate, Shown, gained, rate_of, totals
from .movement import Checked, Movement, movement_of
from .rechecks import Mark, Next, Rule, Stands, next_of
from .schedule import Point, Schedule, parse_schedule, scan_schedule

__all__ = [
    "HOWS",
    "METERS",
    "Checked",
    "Due",
    "Mark",
    "Meter",
    "Movement",
    "Next",
    "Point",
    "Rate",
    "Rule",
    "Schedule",
    "Shown",
    "Stands",
    "due_of",
    "gained",
    "movement_of",
    "next_of",
    "parse_schedule",
    "rate_of",
    "scan_schedule",
    "totals",
]
