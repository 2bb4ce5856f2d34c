"""All that is kept about one person, for that person: where the law gives them a right to see it."""
from __future__ import annotations

from typing import Any

from sqlalchemy import select

from ...store.models import Event, Plan, Revision, Run, SecurityEvent, SignIn
from ..context import Ctx
from .queries import person_by_login


def about_person(ctx: Ctx, login: str) -> dict[str, Any] | None:
    """Everything about a person as JSON values; None where nobody has that sign-in name."""
    person = person_by_login(ctx.session, login)
    if person is None:
        return None
    of = ctx.session.execute
    return {
        "format": "orthotorq.person", "version": 1, "made": ctx.now.isoformat(),
        "person": {"login": person.login, "name": person.name, "roles": sorted(person.roles), "active": person.active,
                   "pin": bool(person.pin_hash), "one_time_codes": person.totp_on, "known_to_the_sign_on_as": person.subject},
        "sessions": [{"at": s.at.isoformat(), "last_used": s.seen_at.isoformat(), "browser": s.agent, "by": s.by,
                      "ended": s.ended_at.isoformat() if s.ended_at else None}
                     for s in ctx.session.scalars(select(SignIn).where(SignIn.person_id == person.id).order_by(SignIn.at))],
        "security_events": [{"at": e.at.isoformat(), "kind": e.kind, "words": e.words, "address": e.address}
                            for e in ctx.session.scalars(select(SecurityEvent).where(SecurityEvent.person_id == person.id)
                                                         .order_by(SecurityEvent.at))],
        "entries": [{"run": number, "entry": sequence, "kind": kind, "received": at.isoformat()}
                    for number, sequence, kind, at in of(
                        select(Run.number, Event.sequence, Event.kind, Event.received_at).join(Run, Run.id == Event.run_id)
                        .where(Event.person_id == person.id).order_by(Run.number, Event.sequence))],
        "released": [{"plan": title, "revision": number, "at": at.isoformat()} for title, number, at in of(
            select(Plan.title, Revision.number, Revision.released_at).join(Plan, Plan.id == Revision.plan_id)
            .where(Revision.released_by == person.id).order_by(Revision.released_at))],
    }
