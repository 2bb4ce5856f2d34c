"""Who is signed in, and who may in the demo."""
from __future__ import annotations

import uuid
from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from ...store.models import Person
from ..context import Actor, Ctx
from ..permissions import use_case
from .commands import actor_of

DEMO_PASSWORD = "saltworks"


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
def sign_out(ctx: Ctx) -> None:
    """Leave. The session is the cookie's, so nothing is kept here."""


def find_actor(session: Session, person_id: uuid.UUID) -> Actor | None:
    """The actor of a signed session cookie, or None when gone or no longer active."""
    person = session.get(Person, person_id)
    return actor_of(person) if person is not None and person.active else None


def actor_by_login(session: Session, login: str) -> Actor | None:
    """The active person of a login, for the command line."""
    person = session.scalar(select(Person).where(Person.login == login, Person.active))
    return actor_of(person) if person is not None else None
