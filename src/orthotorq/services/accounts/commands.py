"""Signing in."""

from __future__ import annotations

import re
import uuid
from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Literal

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from sqlalchemy import ColumnElement, and_, func, select, text

from ...core.messages import Refusal
from ...core.thresholds import (
    FAILED_ADDRESS,
    FAILED_MINUTES,
    FAILED_TRIES,
    FRESH_SIGN_ON,
    PIN_LEAST,
    PIN_MOST,
)
from ...settings import read
from ...store.models import Person, SignIn, SignInAttempt
from ..context import Actor, Ctx
from ..errors import NotSignedIn, TooMany, TryAgain
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
FRESH = timedelta(minutes=FRESH_SIGN_ON.value)


#: what a PIN opens: work at the joint, never plans or people
PIN_ROLES = frozenset({"fitter", "supervisor"})
#: of the people of the demo, like their password
DEMO_PIN = "704193"


@use_case
def sign_in(ctx: Ctx, login: str, password: str, code: str = "") -> Actor | NotSignedIn:
    """Check login, password and, where the person has them on, the one-time code. What is wrong is
    an outcome, since the attempt is kept; too many raise TooMany."""
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


def proven(ctx: Ctx, password: str) -> Literal["password", "sign-on"] | None:
    """By what the one who is signed in proves anew to be it: the right password, or a fresh
    answer of the plant's sign-on, for which nothing is given. Raises TooMany."""
    if not password and fresh_sign_on(ctx):
        return "sign-on"
    return (
        "password"
        if _checked(ctx, ctx.person.login, password, session=ctx.sign_in) is not None
        else None
    )


def proof(ctx: Ctx, given: str) -> Literal["password", "pin", "sign-on"] | None:
    """By what the one who is signed in proves to be it: as `proven`, or by their PIN. Raises
    TooMany."""
    if PIN.fullmatch(given):
        found = _checked(
            ctx, ctx.person.login, given, lambda person: person.pin_hash, DEMO_PIN, ctx.sign_in
        )
        return "pin" if found is not None else None
    return proven(ctx, given)


def fresh_sign_on(ctx: Ctx) -> bool:
    """Whether the plant's sign-on has just asked the person anew in this session."""
    found = ctx.session.get(SignIn, ctx.sign_in) if ctx.sign_in is not None else None
    return found is not None and found.fresh_at is not None and ctx.now - found.fresh_at <= FRESH


def checked_pin(ctx: Ctx, login: str, pin: str) -> Person | None:
    """The person of a login with this PIN; a wrong one is kept as an attempt. Raises TooMany."""
    return _checked(ctx, login, pin, lambda person: person.pin_hash, DEMO_PIN)


def note_attempt(ctx: Ctx, login: str, session: uuid.UUID | None = None) -> None:
    """Count a try that failed: with a sign-in name, or in an open session."""
    ctx.session.add(
        SignInAttempt(
            id=ctx.new_id(), login=login, at=ctx.now, address=ctx.address[:60], session_id=session
        )
    )


def _checked(
    ctx: Ctx,
    login: str,
    secret: str,
    hash_of: Callable[[Person], str] = lambda person: person.password_hash,
    demo: str = DEMO_PASSWORD,
    session: uuid.UUID | None = None,
) -> Person | None:
    """The person of a login with this password or PIN; a wrong one is kept as an attempt.

    In an open session only the tries of that session count: nobody elsewhere can keep a person from
    signing.
    """
    _one_at_a_time(ctx, login if session is None else str(session))
    own = (
        SignInAttempt.session_id == session
        if session is not None
        else and_(SignInAttempt.login == login, SignInAttempt.session_id.is_(None))
    )
    if _tries(ctx, own) >= FAILED_TRIES.value:
        raise TooMany(Refusal.SIGN_IN_TOO_MANY, minutes=f"{FAILED_MINUTES.value:g}")
    # behind a proxy that is not told of, everybody comes from this machine
    far = session is None and ctx.address not in ("", "127.0.0.1", "::1")
    if far and _tries(ctx, SignInAttempt.address == ctx.address) >= FAILED_ADDRESS.value:
        raise TooMany(Refusal.SIGN_IN_TOO_MANY, minutes=f"{FAILED_MINUTES.value:g}")
    person = ctx.session.scalar(select(Person).where(Person.login == login, Person.active))
    if secret == demo and read("ORTHOTORQ_DEMO") != "1":
        # everybody knows it: a database that once held the demo is not open to all of them
        person = None
    kept = hash_of(person) if person else ""
    try:
        # who has none yet takes as long as who has: a stranger learns nothing from the clock
        HASHER.verify(kept if kept.startswith("$") else _NOBODY, secret)
    except (VerificationError, InvalidHashError):
        person = None
    if person is None or not kept.startswith("$"):
        note_attempt(ctx, login, session)
        return None
    return person


def _one_at_a_time(ctx: Ctx, whose: str) -> None:
    """Hold the tries of one name, or of one session, until this one is kept: many at once are no
    more tries than one after the other. Raises TooMany where another is being looked at."""
    got = ctx.session.scalar(
        text("SELECT pg_try_advisory_xact_lock(hashtextextended(:whose, 7))"),
        {"whose": f"try {whose}"},
    )
    if not got:
        raise TryAgain(Refusal.SIGN_IN_AT_ONCE)


def _tries(ctx: Ctx, whose: ColumnElement[bool]) -> int:
    recent = (
        select(func.count())
        .select_from(SignInAttempt)
        .where(whose, SignInAttempt.at > ctx.now - WINDOW)
    )
    return ctx.session.scalar(recent) or 0


def open_session(
    ctx: Ctx,
    person: Actor,
    agent: str,
    by: str = "password",
    proven_at: datetime | None = None,
    fresh: bool = False,
) -> uuid.UUID:
    """Begin a session of a person who has just signed in; returns what the cookie holds."""
    made = SignIn(
        id=ctx.new_id(),
        person_id=person.id,
        at=ctx.now,
        seen_at=ctx.now,
        agent=agent[:200],
        by=by,
        proven_at=proven_at,
        fresh_at=ctx.now if fresh else None,
    )
    ctx.session.add(made)
    return made.id


def actor_of(person: Person, by: str = "password") -> Actor:
    """The actor for a stored person; who came by PIN works at joints and does nothing else."""
    roles = frozenset(person.roles)
    return Actor(person.id, person.name, person.login, roles & PIN_ROLES if by == "pin" else roles)
