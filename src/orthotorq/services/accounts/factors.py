"""What a person proves to be it with besides a password: a PIN on shared tablets, one-time codes,
the plant's own sign-on."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from itertools import pairwise

from sqlalchemy import any_, literal, or_, select

from ...core.messages import Refusal
from ...core.thresholds import PIN_LEAST, PIN_MOST
from ...store.models import Person, SignIn
from ..context import Actor, Ctx
from ..errors import BadField, NotSignedIn, Refused
from ..permissions import use_case
from .commands import (
    DEMO_PIN,
    HASHER,
    PIN,
    PIN_ROLES,
    actor_of,
    checked_pin,
    note_attempt,
    open_session,
    proven,
)
from .one_time import code_fits, fresh_secret
from .queries import open_sign_in
from .watch import note_event


@dataclass(frozen=True, slots=True)
class Factors:
    """What somebody has set up for themselves."""

    pin: bool
    codes: bool


@dataclass(frozen=True, slots=True)
class Here:
    """Somebody who can take over a tablet with a PIN."""

    login: str
    name: str


@dataclass(frozen=True, slots=True)
class CodeSecret:
    """What an app for one-time codes is given, as text and as an address to scan."""

    secret: str
    uri: str


def _own(ctx: Ctx) -> Person:
    return ctx.session.get_one(Person, ctx.person.id, with_for_update=True)


@use_case
def own_factors(ctx: Ctx) -> Factors:
    """What the one who is signed in has set up."""
    person = ctx.session.get_one(Person, ctx.person.id)
    return Factors(bool(person.pin_hash), person.totp_on)


@use_case
def set_pin(ctx: Ctx, password: str, pin: str) -> BadField | None:
    """Set one's PIN, or take it away with an empty one. A wrong password is an outcome, since the
    attempt is kept.

    Raises BadField for a PIN that is none or is tried first, TooMany.
    """
    if not proven(ctx, password):
        return BadField(Refusal.PASSWORD_WRONG, "password")
    person = _own(ctx)
    person.pin_hash = HASHER.hash(_checked_digits(pin)) if pin else ""
    note_event(ctx, "password", "a PIN" if pin else "no PIN any more")
    return None


def _checked_digits(pin: str) -> str:
    if not PIN.fullmatch(pin):
        raise BadField(
            Refusal.PIN_FORM, "pin", least=int(PIN_LEAST.value), most=int(PIN_MOST.value)
        )
    steps = {(int(b) - int(a)) % 10 for a, b in pairwise(pin)}
    if len(steps) == 1 or len(set(pin)) < 3 or pin == DEMO_PIN:
        raise BadField(Refusal.PIN_EASY, "pin")
    return pin


@use_case
def begin_codes(ctx: Ctx, password: str) -> CodeSecret | BadField:
    """A new secret for one-time codes; it counts once a first code was given. A wrong password is
    an outcome. Raises TooMany, Refused where codes are on already."""
    if not proven(ctx, password):
        return BadField(Refusal.PASSWORD_WRONG, "password")
    person = _own(ctx)
    if person.totp_on:
        raise Refused(Refusal.CODES_ON)
    return CodeSecret(*fresh_secret(person))


@use_case
def confirm_codes(ctx: Ctx, code: str) -> BadField | None:
    """Turn one-time codes on with a first one: from now on every sign-in asks for one. A wrong one
    is an outcome."""
    person = _own(ctx)
    if not person.totp_secret or not code_fits(ctx, person, code):
        note_attempt(ctx, person.login, ctx.sign_in)
        return BadField(Refusal.CODE_WRONG, "code")
    person.totp_on = True
    note_event(ctx, "password", "one-time codes are on")
    return None


@use_case
def end_codes(ctx: Ctx, password: str) -> BadField | None:
    """Ask for no one-time codes any more. A wrong password is an outcome. Raises TooMany."""
    if not proven(ctx, password):
        return BadField(Refusal.PASSWORD_WRONG, "password")
    person = _own(ctx)
    person.totp_secret, person.totp_on = "", False
    note_event(ctx, "password", "one-time codes are off")
    return None


@use_case
def list_here(ctx: Ctx) -> list[Here]:
    """Who can take over this tablet: who has a PIN and works at joints, but for who is there
    already; where it is locked, whose session it is comes first. Raises NotSignedIn where nobody
    has signed in on it."""
    there = _there(ctx)
    works = or_(*(literal(role) == any_(Person.roles) for role in PIN_ROLES))
    wanted = select(Person).where(Person.active, Person.pin_hash != "", works)
    if ctx.actor is not None:
        wanted = wanted.where(Person.id != there.person_id)
    people = ctx.session.scalars(wanted.order_by(Person.id != there.person_id, Person.name))
    return [Here(one.login, one.name) for one in people]


def _there(ctx: Ctx) -> SignIn:
    """The open session of this device, locked or not. Raises NotSignedIn."""
    row = open_sign_in(ctx.session, ctx.sign_in, ctx.now) if ctx.sign_in is not None else None
    if row is None:
        raise NotSignedIn(Refusal.NOT_SIGNED_IN)
    return row[0]


@use_case
def hand_over(ctx: Ctx, login: str, pin: str, agent: str) -> tuple[Actor, uuid.UUID] | BadField:
    """Somebody takes over the tablet with a PIN, or goes on where it was locked; who was there
    before is signed out here. Returns the actor and the new session, which ends when the one
    that a password began would have. A wrong PIN is an outcome, since the attempt is kept.
    Raises TooMany, NotSignedIn."""
    before = _there(ctx)
    person = checked_pin(ctx, login.strip().lower()[:60], pin)
    actor = actor_of(person, "pin") if person is not None else None
    if actor is None or not actor.roles:
        return BadField(Refusal.PIN_WRONG, "pin")
    before.ended_at = ctx.now
    note_event(ctx, "handed_over", f"to {actor.login}")
    return actor, open_session(ctx, actor, agent, "pin", before.proven_at or before.at)


@use_case
def sign_in_elsewhere(ctx: Ctx, subject: str, login: str) -> Actor | NotSignedIn:
    """The person whom the plant's own sign-on has proven: by the subject that it names, or, the
    first time, by the sign-in name.

    Who is not known here, or is known there as somebody else, is not let in.
    """
    person = ctx.session.scalar(select(Person).where(Person.subject == subject))
    if person is None:
        # whole: a name that is cut off may be somebody else's
        person = ctx.session.scalar(
            select(Person)
            .where(Person.login == login.strip().lower(), Person.subject.is_(None))
            .with_for_update()
        )
        if person is not None:
            person.subject = subject
    if person is None or not person.active:
        return NotSignedIn(Refusal.NOT_KNOWN_HERE, login=login[:60])
    return actor_of(person)


@use_case
def note_fresh_sign_on(ctx: Ctx, subject: str) -> NotSignedIn | None:
    """The plant's sign-on has asked the one who is signed in anew: for a short while that stands
    for a password. An answer for somebody else is an outcome, and changes nothing."""
    person = ctx.session.get_one(Person, ctx.person.id)
    if person.subject != subject:
        return NotSignedIn(Refusal.SIGN_ON_OTHER, name=person.name)
    ctx.session.get_one(SignIn, ctx.sign_in).fresh_at = ctx.now
    note_event(ctx, "signed_in", "asked anew by the plant's sign-on")
    return None


def unlink(ctx: Ctx, login: str) -> bool:
    """Forget who somebody is for the plant's sign-on: the next time they are found by their name.
    False where there is nothing to forget."""
    person = ctx.session.scalar(select(Person).where(Person.login == login).with_for_update())
    if person is None or person.subject is None:
        return False
    person.subject = None
    note_event(ctx, "people", f"{login} is no longer linked to the plant's sign-on", login)
    return True
