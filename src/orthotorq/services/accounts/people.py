"""People: invited by a link that works once, given roles, put out of action; their own password and
sessions."""

from __future__ import annotations

import hashlib
import re
import secrets
import uuid
from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy import any_, delete, func, literal, select, union_all, update

from ...core.forms.base import one_line
from ...core.messages import Refusal
from ...core.thresholds import INVITATION_DAYS
from ...store.models import CalendarLink, Invitation, Person, Revision, SecurityEvent, SignIn
from ..context import Ctx
from ..errors import BadField, NotFound, Refused
from ..permissions import ROLES, use_case
from .commands import proven
from .passwords import checked_hash
from .watch import note_event

_LOGIN = re.compile(r"[a-z0-9][a-z0-9._+@\-]{0,59}")
VALID = timedelta(days=INVITATION_DAYS.value)


@dataclass(frozen=True, slots=True)
class PersonLine:
    """Somebody in the list of people; `sessions` are those that are open, `invited` until when a
    link waits to be used."""

    id: uuid.UUID
    login: str
    name: str
    roles: list[str]
    active: bool
    sessions: int
    last_seen: datetime | None
    invited: datetime | None


@dataclass(frozen=True, slots=True)
class SessionLine:
    """An open session of one's own."""

    id: uuid.UUID
    at: datetime
    seen_at: datetime
    agent: str
    this: bool


@dataclass(frozen=True, slots=True)
class Link:
    """What an invitation is opened with; it is shown once and kept nowhere."""

    token: str
    until: datetime


@dataclass(frozen=True, slots=True)
class Invited:
    """Whom a link is for."""

    login: str
    name: str


def _digest(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def _roles(roles: list[str]) -> list[str]:
    wrong = [role for role in roles if role not in ROLES]
    if wrong or not roles:
        raise BadField(Refusal.WHICH_ROLES, "roles", roles=", ".join(ROLES))
    return [role for role in ROLES if role in roles]


def _person(ctx: Ctx, person_id: uuid.UUID) -> Person:
    person = ctx.session.scalar(select(Person).where(Person.id == person_id).with_for_update())
    if person is None:
        raise NotFound("person")
    return person


def _link(ctx: Ctx, person: Person) -> Link:
    """A new link for a person; older ones are worth nothing any more."""
    ctx.session.execute(
        update(Invitation)
        .where(Invitation.person_id == person.id, Invitation.used_at.is_(None))
        .values(used_at=ctx.now)
    )
    token = secrets.token_urlsafe(32)
    ctx.session.add(
        Invitation(
            id=ctx.new_id(),
            person_id=person.id,
            digest=_digest(token),
            at=ctx.now,
            until=ctx.now + VALID,
        )
    )
    return Link(token, ctx.now + VALID)


@use_case
def list_people(ctx: Ctx) -> list[PersonLine]:
    """Everybody, those in action first."""
    counts = (
        select(
            SignIn.person_id,
            func.count().filter(SignIn.ended_at.is_(None)).label("open"),
            func.max(SignIn.seen_at).label("seen"),
        )
        .group_by(SignIn.person_id)
        .subquery()
    )
    # a session that is long gone is no proof that nobody was here: what somebody did is kept
    done = union_all(
        select(SecurityEvent.person_id.label("person"), SecurityEvent.at.label("at")).where(
            SecurityEvent.person_id.is_not(None),
            SecurityEvent.kind.not_in(("refused", "wrong_password")),
        ),
        select(Revision.released_by, Revision.released_at),
    ).subquery()
    did = select(done.c.person, func.max(done.c.at).label("at")).group_by(done.c.person).subquery()
    waits = (
        select(Invitation.person_id, func.max(Invitation.until).label("until"))
        .where(Invitation.used_at.is_(None), Invitation.until > ctx.now)
        .group_by(Invitation.person_id)
        .subquery()
    )
    rows = ctx.session.execute(
        select(Person, counts.c.open, func.greatest(counts.c.seen, did.c.at), waits.c.until)
        .outerjoin(did, did.c.person == Person.id)
        .outerjoin(counts, counts.c.person_id == Person.id)
        .outerjoin(waits, waits.c.person_id == Person.id)
        .order_by(Person.active.desc(), Person.name)
    )
    return [
        PersonLine(p.id, p.login, p.name, sorted(p.roles), p.active, count or 0, seen, until)
        for p, count, seen, until in rows
    ]


def invited(ctx: Ctx, login: str, name: str, roles: list[str]) -> Link:
    """Register somebody who sets a password by a link. Raises BadField."""
    login, name = login.strip().lower(), name.strip()
    if not _LOGIN.fullmatch(login):
        raise BadField(Refusal.LOGIN_FORM, "login")
    if not 1 <= len(name) <= 120 or not one_line(name):
        raise BadField(Refusal.NAME_FORM, "name", what="A name", most=120)
    if ctx.session.scalar(select(Person.id).where(Person.login == login)) is not None:
        raise BadField(Refusal.LOGIN_TAKEN, "login", login=login)
    # nobody knows a password that gives this: they sign in once the link was used
    person = Person(
        id=ctx.new_id(), login=login, name=name, password_hash="-", roles=_roles(roles), active=True
    )
    ctx.session.add(person)
    ctx.session.flush()
    return _link(ctx, person)


@use_case
def invite(ctx: Ctx, login: str, name: str, roles: list[str]) -> Link:
    """Invite somebody: the link goes to them by a way of your own. Raises BadField."""
    link = invited(ctx, login, name, roles)
    note_event(ctx, "people", f"invited {login.strip().lower()} as {', '.join(_roles(roles))}")
    return link


@use_case
def change_person(
    ctx: Ctx, person_id: uuid.UUID, name: str, roles: list[str], active: bool
) -> None:
    """Name, roles, and whether somebody is in action; who is put out of action is signed out
    everywhere, and every record keeps the name. Raises NotFound, BadField, Refused where nobody
    would be left to do this."""
    person = _person(ctx, person_id)
    if not 1 <= len(name.strip()) <= 120 or not one_line(name.strip()):
        raise BadField(Refusal.NAME_FORM, "name", what="A name", most=120)
    given = _roles(roles)
    person.name, person.roles, person.active = name.strip(), given, active
    ctx.session.flush()
    left = (
        select(func.count())
        .select_from(Person)
        .where(Person.active, literal("administrator") == any_(Person.roles))
    )
    if not ctx.session.scalar(left):
        raise Refused(Refusal.LAST_ADMINISTRATOR)
    if not active:
        _end_all(ctx, person.id)
        _end_calendar(ctx, person.id)
    note_event(
        ctx, "people", f"{person.login}: {', '.join(given)}{'' if active else ', deactivated'}"
    )


@use_case
def reset_password(ctx: Ctx, person_id: uuid.UUID) -> Link:
    """A new link for somebody who cannot sign in; the old password, PIN, one-time codes and
    calendar are worth nothing from now on. Raises NotFound."""
    person = _person(ctx, person_id)
    person.password_hash, person.pin_hash, person.totp_secret, person.totp_on = "-", "", "", False
    _end_all(ctx, person.id)
    _end_calendar(ctx, person.id)
    note_event(ctx, "people", f"new sign-in link for {person.login}")
    return _link(ctx, person)


def _end_calendar(ctx: Ctx, person_id: uuid.UUID) -> None:
    """The address of their calendar is worth nothing any more."""
    ctx.session.execute(delete(CalendarLink).where(CalendarLink.person_id == person_id))


def _end_all(ctx: Ctx, person_id: uuid.UUID, but: uuid.UUID | None = None) -> None:
    open_ones = (
        update(SignIn)
        .where(SignIn.person_id == person_id, SignIn.ended_at.is_(None))
        .values(ended_at=ctx.now)
    )
    ctx.session.execute(open_ones if but is None else open_ones.where(SignIn.id != but))


def _waiting(ctx: Ctx, token: str) -> tuple[Invitation, Person]:
    row = ctx.session.execute(
        select(Invitation, Person)
        .join(Person, Person.id == Invitation.person_id)
        .where(
            Invitation.digest == _digest(token),
            Invitation.used_at.is_(None),
            Invitation.until > ctx.now,
            Person.active,
        )
        .with_for_update(of=Invitation)
    ).one_or_none()
    if row is None:
        raise Refused(Refusal.LINK_USED)
    return row[0], row[1]


@use_case
def read_invitation(ctx: Ctx, token: str) -> Invited:
    """Whom a link is for. Raises Refused for one that was used or is too old."""
    _, person = _waiting(ctx, token)
    return Invited(person.login, person.name)


@use_case
def accept_invitation(ctx: Ctx, token: str, password: str) -> Invited:
    """Set the password that a link lets set. Raises Refused, BadField."""
    invitation, person = _waiting(ctx, token)
    person.password_hash = checked_hash(password, person.login, person.name)
    invitation.used_at = ctx.now
    note_event(ctx, "password", "by a link", person.login)
    return Invited(person.login, person.name)


@use_case
def change_password(ctx: Ctx, old: str, new: str, this: uuid.UUID | None) -> BadField | None:
    """Change one's own password; other sessions end. A wrong old one is an outcome, since the
    attempt is kept. Raises BadField for a new one that is none, TooMany."""
    if not proven(ctx, old):
        return BadField(Refusal.PASSWORD_WRONG, "old")
    person = _person(ctx, ctx.person.id)
    person.password_hash = checked_hash(new, person.login, person.name, field="new")
    _end_all(ctx, person.id, this)
    note_event(ctx, "password", "their own")
    return None


@use_case
def list_sessions(ctx: Ctx, this: uuid.UUID | None) -> list[SessionLine]:
    """One's own open sessions, newest first."""
    rows = ctx.session.scalars(
        select(SignIn)
        .where(SignIn.person_id == ctx.person.id, SignIn.ended_at.is_(None))
        .order_by(SignIn.seen_at.desc())
    )
    return [SessionLine(row.id, row.at, row.seen_at, row.agent, row.id == this) for row in rows]


@use_case
def end_session(ctx: Ctx, session_id: uuid.UUID) -> None:
    """End one of one's own sessions. Raises NotFound."""
    found = ctx.session.get(SignIn, session_id)
    if found is None or found.person_id != ctx.person.id:
        raise NotFound("session")
    found.ended_at = found.ended_at or ctx.now
    note_event(ctx, "session")
