"""Days and times as people read them: in the time zone of the place, as the device's locale writes
them."""

from __future__ import annotations

from contextvars import ContextVar
from datetime import UTC, date, datetime, tzinfo
from functools import cache
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from babel import Locale, UnknownLocaleError
from babel.dates import format_skeleton
from tzlocal import get_localzone

from . import settings

#: papers and the command line are not of one device
_PAPER = "en_GB"
_locale: ContextVar[str] = ContextVar("locale", default=_PAPER)


@cache
def place_zone() -> tzinfo:
    """The time zone of the place. Raises MissingSetting for an unknown name."""
    name = settings.read("ORTHOTORQ_TIME_ZONE")
    try:
        return ZoneInfo(name) if name else get_localzone()
    except (ZoneInfoNotFoundError, ValueError):
        raise settings.MissingSetting(
            f"ORTHOTORQ_TIME_ZONE is “{name}”, which is no time zone. Use a name such as "
            "Asia/Tokyo."
        ) from None


def zone_name() -> str:
    """The name of the place's time zone, as browsers know it."""
    return str(place_zone())


def use_locale(wanted: list[str]) -> None:
    """Write dates from here on as the first known of these locales, such as `en-GB`."""
    for name in wanted:
        try:
            _locale.set(str(Locale.parse(name, sep="-")))
        except (UnknownLocaleError, ValueError):
            continue
        return
    _locale.set(_PAPER)


def local(at: datetime) -> datetime:
    """A time at the place; one without a zone is UTC."""
    return (at if at.tzinfo else at.replace(tzinfo=UTC)).astimezone(place_zone())


def local_day(at: datetime) -> date:
    """The day of a time at the place."""
    return local(at).date()


def day_text(at: date) -> str:
    """A day in words: 24 Nov 2026. Of a time, the day at the place."""
    day = local(at) if isinstance(at, datetime) else at
    return format_skeleton("yMMMd", day, locale=_locale.get())


def clock_text(at: datetime) -> str:
    """The time of day at the place: 14:02."""
    return f"{local(at):%H:%M}"


def moment_text(at: datetime) -> str:
    """A time with its zone: 24 Nov 2026, 14:02 UTC."""
    return f"{day_text(at)}, {clock_text(at)} {local(at):%Z}"


def read_time(text: str) -> datetime:
    """A time as typed, at the place where it names no zone. Raises ValueError."""
    at = datetime.fromisoformat(text)
    return at if at.tzinfo else at.replace(tzinfo=place_zone())
