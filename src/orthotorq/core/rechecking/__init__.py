"""When a joint is looked at again: schedules as people write them, and the days on which they fall due."""
from .due import Due, Meter, due_of
from .schedule import Point, Schedule, parse_schedule, scan_schedule

__all__ = ["Due", "Meter", "Point", "Schedule", "due_of", "parse_schedule", "scan_schedule"]
