"""Who is signed in, and who may in the demo."""
from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import datetime, timedelta

from argon2.exceptions import InvalidHashError, VerificationError
from sqlalchemy import select
from sqlalchemy.orm import Session

from ...core.thresholds import SESSION_IDLE, SESSION_LONGEST
from ...store.models import Person, SignIn
from ..context import Actor, Ctx
from ..permissions import use_case
from .commands import DEMO_PASSWORD as DEMO_PASSWORD
from .commands import DEMO_PIN as DEMO_PIN
from .commands import HASHER, actor_of

#: a session ends when it lay idle so long, and in any case after so long; when it was last used is written so often
IDLE, LONGEST = timedelta(hours=SESSION_IDLE.value), timedelta(days=SESSION_LONGEST.value)
SEEN_EVERY = timedelta(minutes=5)


@dataclass(frozen=True, slots=True)
class DemoPerson:
    """One of the demo people, shown on the sign-in page in demo mode only."""

    login: str
    name: str
    roles: list[str]


@use_case
def session_info(ctx: Ctx, demo: bool) -> tuple[Actor | None, list[DemoPerson]]:
    """(the actor, the demo people when the demo is on)."""
    if not demo:
        return ctx.actor, []
    people = ctx.session.scalars(select(Person).where(Person.active).order_by(Person.name))
    return ctx.actor, [DemoPerson(p.login, p.name, sorted(p.roles)) for p in people]


@use_case
def sign_out(ctx: Ctx, sign_in: uuid.UUID | None) -> None:
    """Leave: a copy of the cookie is worth nothing afterwards."""
    found = ctx.session.get(SignIn, sign_in) if sign_in is not None else None
    if found is not None and found.ended_at is None:
        found.ended_at = ctx.now


def demo_people(session: Session) -> list[str]:
    """Sign-in names of those in action whose password is the demo's."""
    out = []
    for person in session.scalars(select(Person).where(Person.active).order_by(Person.login)):
        try:
            HASHER.verify(person.password_hash, DEMO_PASSWORD)
        except (VerificationError, InvalidHashError):
            continue
        out.append(person.login)
    return out


def find_actor(session: Session, sign_in: uuid.UUID, now: datetime) -> Actor | None:
    """The actor of a session, or None when it was ended, lay idle or is too old, or the person is no longer active."""
    row = session.execute(select(SignIn, Person).join(Person, Person.id == SignIn.person_id)
                          .where(SignIn.id == sign_in, SignIn.ended_at.is_(None), Person.active)).one_or_none()
    if row is None:
        return None
    found, person = row
    if now - found.seen_at > IDLE or now - (found.proven_at or found.at) > LONGEST:
        return None
    if now - found.seen_at > SEEN_EVERY:
        found.seen_at = now
    return actor_of(person, found.by)


def person_by_login(session: Session, login: str) -> Person | None:
    """Whoever has a sign-in name, also out of action."""
    return session.scalar(select(Person).where(Person.login == login))


def actor_by_login(session: Session, login: str) -> Actor | None:
    """The active person of a login, for the command line."""
    person = session.scalar(select(Person).where(Person.login == login, Person.active))
    return actor_of(person) if person is not None else None
