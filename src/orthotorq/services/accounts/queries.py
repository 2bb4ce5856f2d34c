"""Who is signed in, and who may in the demo."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import datetime, timedelta

from argon2.exceptions import InvalidHashError, VerificationError
from sqlalchemy import select
from sqlalchemy.orm import Session

from ...core.thresholds import PIN_IDLE, SESSION_IDLE, SESSION_LONGEST
from ...store.models import Person, SignIn
from ..context import Actor, Ctx
from ..permissions import use_case
from .commands import DEMO_PASSWORD as DEMO_PASSWORD
from .commands import DEMO_PIN as DEMO_PIN
from .commands import HASHER, actor_of, fresh_sign_on

#: a session ends when it lay idle so long, and in any case after so long; when it was last used is
#: written so often
IDLE, LONGEST = timedelta(hours=SESSION_IDLE.value), timedelta(days=SESSION_LONGEST.value)
SEEN_EVERY, PIN_SEEN_EVERY = timedelta(minutes=5), timedelta(seconds=30)
#: a session that a PIN began is locked when nobody has used it for so long
PIN_IDLE_FOR = timedelta(minutes=PIN_IDLE.value)


@dataclass(frozen=True, slots=True)
class DemoPerson:
    """One of the demo people, shown on the sign-in page in demo mode only."""

    login: str
    name: str
    roles: list[str]


@dataclass(frozen=True, slots=True)
class SessionInfo:
    """Who is signed in, whether they have a password here and were just asked anew by the
    plant's sign-on; whose session asks for the PIN again; the demo people when the demo is on."""

    actor: Actor | None
    has_password: bool
    fresh: bool
    locked: DemoPerson | None
    demo: list[DemoPerson]


@use_case
def session_info(ctx: Ctx, demo: bool) -> SessionInfo:
    """How the session of this device stands."""
    own = ctx.session.get_one(Person, ctx.actor.id) if ctx.actor is not None else None
    held = locked_person(ctx) if ctx.actor is None else None
    people = (
        ctx.session.scalars(select(Person).where(Person.active).order_by(Person.name))
        if demo
        else ()
    )
    return SessionInfo(
        ctx.actor,
        own is not None and own.password_hash.startswith("$"),
        fresh_sign_on(ctx),
        DemoPerson(held.login, held.name, sorted(held.roles)) if held is not None else None,
        [DemoPerson(p.login, p.name, sorted(p.roles)) for p in people],
    )


@use_case
def sign_out(ctx: Ctx) -> str:
    """Leave: a copy of the cookie is worth nothing afterwards. Returns by what the session
    began, empty where there was none."""
    found = ctx.session.get(SignIn, ctx.sign_in) if ctx.sign_in is not None else None
    if found is None or found.ended_at is not None:
        return ""
    found.ended_at = ctx.now
    return found.by


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


def open_sign_in(
    session: Session, sign_in: uuid.UUID, now: datetime
) -> tuple[SignIn, Person] | None:
    """A session and its person; None when it was ended, lay idle or is too old, or the person is
    no longer active."""
    row = session.execute(
        select(SignIn, Person)
        .join(Person, Person.id == SignIn.person_id)
        .where(SignIn.id == sign_in, SignIn.ended_at.is_(None), Person.active)
    ).one_or_none()
    if (
        row is None
        or now - row[0].seen_at > IDLE
        or now - (row[0].proven_at or row[0].at) > LONGEST
    ):
        return None
    return row[0], row[1]


def is_locked(found: SignIn, now: datetime) -> bool:
    """Whether a session asks for the PIN again: one that a PIN began and that nobody has used
    for a while."""
    return found.by == "pin" and now - found.seen_at > PIN_IDLE_FOR


def find_actor(
    session: Session, sign_in: uuid.UUID, now: datetime, background: bool = False
) -> Actor | None:
    """The actor of a session, or None when it is not open or locked; what a screen asks by
    itself (`background`) is no use."""
    row = open_sign_in(session, sign_in, now)
    if row is None or is_locked(row[0], now):
        return None
    found, person = row
    if not background and now - found.seen_at > (
        PIN_SEEN_EVERY if found.by == "pin" else SEEN_EVERY
    ):
        found.seen_at = now
    return actor_of(person, found.by)


def locked_person(ctx: Ctx) -> Person | None:
    """Whose session on this device asks for the PIN again, if it does."""
    row = open_sign_in(ctx.session, ctx.sign_in, ctx.now) if ctx.sign_in is not None else None
    return row[1] if row is not None and is_locked(row[0], ctx.now) else None


def person_by_login(session: Session, login: str) -> Person | None:
    """Whoever has a sign-in name, also out of action."""
    return session.scalar(select(Person).where(Person.login == login))


def actor_by_login(session: Session, login: str) -> Actor | None:
    """The active person of a login, for the command line."""
    person = session.scalar(select(Person).where(Person.login == login, Person.active))
    return actor_of(person) if person is not None else None
