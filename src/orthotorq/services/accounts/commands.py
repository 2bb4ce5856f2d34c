"""Signing in."""
from __future__ import annotations

import uuid
from datetime import timedelta

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from sqlalchemy import func, select

from ...core.messages import Refusal
from ...core.thresholds import FAILED_ADDRESS, FAILED_MINUTES, FAILED_TRIES
from ...settings import read
from ...store.models import Person, SignIn, SignInAttempt
from ..context import Actor, Ctx
from ..errors import NotSignedIn, TooMany
from ..permissions import use_case

HASHER = PasswordHasher()
#: verified for unknown logins too, so that an answer takes as long as for a known one
_NOBODY = HASHER.hash("nobody signs in with this")
#: of the people of the demo, for whom it stands on the sign-in page; worth nothing anywhere else
DEMO_PASSWORD = "saltworks"
WINDOW = timedelta(minutes=FAILED_MINUTES.value)


@use_case
def sign_in(ctx: Ctx, login: str, password: str) -> Actor | NotSignedIn:
    """Check login and password. A wrong one is an outcome, since the attempt is kept; too many raise TooMany."""
    person = _checked(ctx, login.strip().lower()[:60], password)
    return actor_of(person) if person is not None else NotSignedIn(Refusal.SIGN_IN_WRONG, "password")


def proven(ctx: Ctx, password: str) -> bool:
    """Whether the one who is signed in gives the right password again. Raises TooMany."""
    return _checked(ctx, ctx.person.login, password) is not None


def _checked(ctx: Ctx, login: str, password: str) -> Person | None:
    """The person of a login with this password; a wrong one is kept as an attempt."""
    recent = ctx.session.scalar(select(func.count()).select_from(SignInAttempt).where(
        SignInAttempt.login == login, SignInAttempt.at > ctx.now - WINDOW))
    if (recent or 0) >= FAILED_TRIES.value:
        raise TooMany(Refusal.SIGN_IN_TOO_MANY, minutes=f"{FAILED_MINUTES.value:g}")
    # behind a proxy that is not told of, everybody comes from this machine
    if ctx.address and ctx.address not in ("127.0.0.1", "::1"):
        from_there = ctx.session.scalar(select(func.count()).select_from(SignInAttempt).where(
            SignInAttempt.address == ctx.address, SignInAttempt.at > ctx.now - WINDOW))
        if (from_there or 0) >= FAILED_ADDRESS.value:
            raise TooMany(Refusal.SIGN_IN_TOO_MANY, minutes=f"{FAILED_MINUTES.value:g}")
    person = ctx.session.scalar(select(Person).where(Person.login == login, Person.active))
    if password == DEMO_PASSWORD and read("ORTHOTORQ_DEMO") != "1":
        # everybody knows it: a database that once held the demo is not open to all of them
        person = None
    try:
        HASHER.verify(person.password_hash if person else _NOBODY, password)
    except (VerificationError, InvalidHashError):
        person = None
    if person is None:
        ctx.session.add(SignInAttempt(id=ctx.new_id(), login=login, at=ctx.now, address=ctx.address[:60]))
    return person


def open_session(ctx: Ctx, person: Actor, agent: str) -> uuid.UUID:
    """Begin a session of a person who has just signed in; returns what the cookie holds."""
    made = SignIn(id=ctx.new_id(), person_id=person.id, at=ctx.now, seen_at=ctx.now, agent=agent[:200])
    ctx.session.add(made)
    return made.id


def actor_of(person: Person) -> Actor:
    """The actor for a stored person."""
    return Actor(person.id, person.name, person.login, frozenset(person.roles))
