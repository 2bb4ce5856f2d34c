"""Security events: who signed in, who was refused, who changed roles, signed or exported data. They
only ever grow."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import select

from ...store.models import Person, SecurityEvent
from ..context import Ctx
from ..permissions import use_case

#: kind of an event -> its words
KINDS = {
    "signed_in": "signed in",
    "wrong_password": "gave a wrong password",
    "signed_out": "signed out",
    "refused": "was refused",
    "people": "changed people",
    "password": "changed a password",
    "signature": "signed a run",
    "export": "exported data",
    "session": "ended a session",
    "handed_over": "handed a tablet over",
}


@dataclass(frozen=True, slots=True)
class WatchLine:
    """One security event in words."""

    at: datetime
    kind: str
    who: str
    words: str
    address: str


def note_event(ctx: Ctx, kind: str, words: str = "", login: str = "") -> None:
    """Keep an event of whoever acts, or of a login that nobody is known by."""
    actor = ctx.actor
    ctx.session.add(
        SecurityEvent(
            id=ctx.new_id(),
            at=ctx.now,
            kind=kind,
            person_id=actor.id if actor else None,
            login=(actor.login if actor else login)[:60],
            words=words[:300],
            address=ctx.address[:60],
        )
    )


@use_case
def list_events(ctx: Ctx, before: datetime | None = None, limit: int = 100) -> list[WatchLine]:
    """The newest events, or those before a time."""
    wanted = select(SecurityEvent, Person.name).outerjoin(
        Person, Person.id == SecurityEvent.person_id
    )
    if before is not None:
        wanted = wanted.where(SecurityEvent.at < before)
    rows = ctx.session.execute(wanted.order_by(SecurityEvent.at.desc()).limit(limit))
    return [
        WatchLine(
            row.at,
            KINDS.get(row.kind, row.kind),
            name or row.login or "nobody",
            row.words,
            row.address,
        )
        for row, name in rows
    ]
