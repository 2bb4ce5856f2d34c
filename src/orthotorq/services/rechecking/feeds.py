"""A person's calendar of due dates behind a secret address; only the hash of the secret is kept,
and it can be renewed."""

from __future__ import annotations

import hashlib
import secrets
import uuid
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import delete, select

from ...exchange.calendar_file import Entry, calendar_file
from ...local_time import day_text
from ...settings import public_url
from ...store.models import CalendarLink, DueDate, Person
from ..context import Ctx
from ..errors import NotFound
from ..permissions import use_case
from .due_dates import due_view, dues_wanted

#: entries of a calendar
MOST = 2000


@dataclass(frozen=True, slots=True)
class LinkView:
    """Whether there is a calendar, since when; the address stands in it only when it was made just
    now."""

    since: datetime | None
    address: str


def _hash(secret: str) -> str:
    return hashlib.sha256(secret.encode()).hexdigest()


@use_case
def calendar_link(ctx: Ctx, act: str = "look") -> LinkView:
    """Look whether there is a calendar, make one (an older address ends then), or end it."""
    if act == "look":
        link = ctx.session.get(CalendarLink, ctx.person.id)
        return LinkView(link.at if link else None, "")
    ctx.session.execute(delete(CalendarLink).where(CalendarLink.person_id == ctx.person.id))
    if act == "end":
        return LinkView(None, "")
    secret = secrets.token_urlsafe(24)
    ctx.session.add(CalendarLink(person_id=ctx.person.id, secret_hash=_hash(secret), at=ctx.now))
    ctx.session.flush()
    return LinkView(ctx.now, f"{public_url()}/calendar/{secret}.ics")


@use_case
def calendar_feed(ctx: Ctx, secret: str) -> bytes:
    """The calendar behind a secret, for a program that has no session. Raises NotFound, whatever is
    wrong with it."""
    row = ctx.session.execute(
        select(CalendarLink, Person)
        .join(Person, CalendarLink.person_id == Person.id)
        .where(CalendarLink.secret_hash == _hash(secret), Person.active)
    ).first()
    if row is None:
        raise NotFound("calendar")
    home = public_url()
    entries = []
    wanted = dues_wanted().where(DueDate.day.is_not(None)).order_by(DueDate.day).limit(MOST)
    for found in ctx.session.execute(wanted):
        due = due_view(found, ctx.today)
        assert due.day is not None
        sure = (
            ""
            if due.low == due.high or due.low is None or due.high is None
            else f" Between {day_text(due.low)} and {day_text(due.high)}."
        )
        entries.append(
            Entry(
                str(uuid.uuid5(due.joint_id, due.rule)),
                due.day,
                f"{due.occasion_text}: {due.equipment_name}, {due.joint_name}",
                f"{due.why}.{sure}",
                due.equipment_tag,
                f"{home}/joints/{due.joint_id}",
            )
        )
    return calendar_file("Rechecks", entries, ctx.now)
