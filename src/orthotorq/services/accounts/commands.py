"""Signing in."""
from __future__ import annotations

import re
import uuid
from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Literal

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from sqlalchemy import func, select

from ...core.messages import Refusal
from ...core.thresholds import FAILED_ADDRESS, FAILED_MINUTES, FAILED_TRIES, PIN_LEAST, PIN_MOST
from ...settings import read
from ...store.models import Person, SignIn, SignInAttempt
from ..context import Actor, Ctx
from ..errors import NotSignedIn, TooMany
from ..permissions import use_case
from .one_time import code_fits

HASHER = PasswordHasher()
#: verified for unknown logins too, so that an answer takes as long as for a known one
_NOBODY = HASHER.hash("nobody signs in with this")
#: no password is so short: what is given to sign with is one or the other
PIN = re.compile(f"[0-9]{{{PIN_LEAST.value:g},{PIN_MOST.value:g}}}")
#: of the people of the demo, for whom it stands on the sign-in page; worth nothing anywhere else
DEMO_PASSWORD = "saltworks"
WINDOW = timedelta(minutes=FAILED_MINUTES.value)


#: what a PIN opens: work at the joint, never plans or people
PIN_ROLES = frozenset({"fitter", "supervisor"})
#: of the people of the demo, like their password
DEMO_PIN = "704193"


@use_case
def sign_in(ctx: Ctx, login: str, password: str, code: str = "") -> Actor | NotSignedIn:
    """Check login, password and, where the person has them on, the one-time code. What is wrong is an outcome, since the attempt
    is kept; too many raise TooMany."""
    login = login.strip().lower()[:60]
    person = _checked(ctx, login, password)
    if person is None:
        return NotSignedIn(Refusal.SIGN_IN_WRONG, "password")
    if person.totp_on and not code.strip():
        return NotSignedIn(Refusal.CODE_NEEDED, "code")
    if person.totp_on and not code_fits(ctx, person, code):
        note_attempt(ctx, login)
        return NotSignedIn(Refusal.CODE_WRONG, "code")
    return actor_of(person)


def proven(ctx: Ctx, password: str) -> bool:
    """Whether the one who is signed in gives the right password again. Raises TooMany."""
    return _checked(ctx, ctx.person.login, password) is not None


def proof(ctx: Ctx, given: str) -> Literal["password", "pin"] | None:
    """By what the one who is signed in proves to be it: their password, or their PIN. Raises TooMany."""
    if PIN.fullmatch(given):
        return "pin" if checked_pin(ctx, ctx.person.login, given) is not None else None
    return "password" if proven(ctx, given) else None


def checked_pin(ctx: Ctx, login: str, pin: str) -> Person | None:
    """The person of a login with this PIN; a wrong one is kept as an attempt. Raises TooMany."""
    return _checked(ctx, login, pin, lambda person: person.pin_hash, DEMO_PIN)


def note_attempt(ctx: Ctx, login: str) -> None:
    """Count a try that failed."""
    ctx.session.add(SignInAttempt(id=ctx.new_id(), login=login, at=ctx.now, address=ctx.address[:60]))


def _checked(ctx: Ctx, login: str, secret: str, hash_of: Callable[[Person], str] = lambda person: person.password_hash,
             demo: str = DEMO_PASSWORD) -> Person | None:
    """The person of a login with this password or PIN; a wrong one is kept as an attempt."""
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
    if secret == demo and read("ORTHOTORQ_DEMO") != "1":
        # everybody knows it: a database that once held the demo is not open to all of them
        person = None
    try:
        HASHER.verify((hash_of(person) if person else "") or _NOBODY, secret)
    except (VerificationError, InvalidHashError):
        person = None
    if person is None:
        note_attempt(ctx, login)
    return person


def open_session(ctx: Ctx, person: Actor, agent: str, by: str = "password", proven_at: datetime | None = None) -> uuid.UUID:
    """Begin a session of a person who has just signed in; returns what the cookie holds."""
    made = SignIn(id=ctx.new_id(), person_id=person.id, at=ctx.now, seen_at=ctx.now, agent=agent[:200], by=by,
                  proven_at=proven_at)
    ctx.session.add(made)
    return made.id


def actor_of(person: Person, by: str = "password") -> Actor:
    """The actor for a stored person; who came by PIN works at joints and does nothing else."""
    roles = frozenset(person.roles)
    return Actor(person.id, person.name, person.login, roles & PIN_ROLES if by == "pin" else roles)
