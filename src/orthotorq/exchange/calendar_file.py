"""Due dates as an iCalendar file (RFC 5545), for a calendar program to read."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from icalendar import Calendar, Event


@dataclass(frozen=True, slots=True)
class Entry:
    """One whole day in the calendar: a lasting id, what, why, where, and the address that opens
    it."""

    id: str
    day: date
    title: str
    words: str
    place: str
    address: str


def calendar_file(name: str, entries: Iterable[Entry], made_at: datetime) -> bytes:
    """The file: one whole-day event for each entry; nothing in it repeats, each is forecast on its
    own."""
    book = Calendar()
    book.add("prodid", "-//Orthotorq//rechecks//EN")
    book.add("version", "2.0")
    book.add("method", "PUBLISH")
    book.add("x-wr-calname", name)
    book.add("refresh-interval", timedelta(hours=6), parameters={"VALUE": "DURATION"})
    for one in entries:
        event = Event()
        event.add("uid", f"{one.id}@orthotorq")
        event.add("dtstamp", made_at)
        event.add("dtstart", one.day)
        event.add("dtend", one.day + timedelta(days=1))
        event.add("summary", one.title)
        event.add("description", one.words)
        event.add("location", one.place)
        event.add("url", one.address)
        event.add("transp", "TRANSPARENT")
        book.add_component(event)
    return bytes(book.to_ical())
