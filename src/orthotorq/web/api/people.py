"""People, invitations, one's own password and sessions, and what is watched."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from flask import Response
from pydantic import AwareDatetime, BaseModel, Field

from ... import settings
from ...services.accounts.people import (
    Link,
    PersonLine,
    SessionLine,
    accept_invitation,
    change_password,
    change_person,
    end_session,
    invite,
    list_people,
    list_sessions,
    read_invitation,
    reset_password,
)
from ...services.accounts.watch import WatchLine, list_events
from ...services.permissions import ROLES
from ..operation import operation, signed_in
from .helpers import IdPath, answer, blueprint

api = blueprint("people", "People, invitations, sessions, and what is watched")

Line = Annotated[str, Field(max_length=200)]
Secret = Annotated[str, Field(max_length=300)]
Roles = Annotated[list[Line], Field(max_length=10)]


class PeopleList(BaseModel):
    """Everybody, and the roles there are."""

    items: list[PersonLine]
    roles: list[str]


class NewPerson(BaseModel):
    """Somebody to invite."""

    login: Line
    name: Line
    roles: Roles


class PersonIn(BaseModel):
    """Somebody as they shall be from now on."""

    name: Line
    roles: Roles
    active: bool


class InvitationLink(BaseModel):
    """A link that works once, to be given to the person by a way of your own."""

    link: str
    until: datetime


class InvitationOut(BaseModel):
    """Whom a link is for."""

    login: str
    name: str


class TokenPath(BaseModel):
    """The secret part of a link."""

    token: Annotated[str, Field(max_length=100)]


class NewPassword(BaseModel):
    """A password to be set by a link."""

    password: Secret


class PasswordChange(BaseModel):
    """One's own password, and the one that follows it."""

    old: Secret
    new: Secret


class SessionList(BaseModel):
    """One's own open sessions."""

    items: list[SessionLine]


class WatchQuery(BaseModel):
    """The newest events, or those before a time."""

    before: AwareDatetime | None = None
    limit: Annotated[int, Field(ge=1, le=500)] = 100


class WatchList(BaseModel):
    """Security events, newest first, and the time to ask for the next page with."""

    items: list[WatchLine]
    next: datetime | None


def _link(made: Link) -> InvitationLink:
    return InvitationLink(link=f"{settings.public_url()}/invitation/{made.token}", until=made.until)


@api.get("/people", responses={"200": PeopleList})
def get_people() -> Response:
    """Everybody."""
    with operation() as ctx:
        return answer(PeopleList(items=list_people(ctx), roles=list(ROLES)))


@api.post("/people", responses={"201": InvitationLink})
def post_person(body: NewPerson) -> Response:
    """Invite somebody."""
    with operation() as ctx:
        made = invite(ctx, body.login, body.name, body.roles)
    return answer(_link(made), 201)


@api.put("/people/<uuid:id>", responses={"204": None})
def put_person(path: IdPath, body: PersonIn) -> tuple[str, int]:
    """Change name, roles, and whether somebody is in action."""
    with operation() as ctx:
        change_person(ctx, path.id, body.name, body.roles, body.active)
    return "", 204


@api.post("/people/<uuid:id>/link", responses={"201": InvitationLink})
def post_link(path: IdPath) -> Response:
    """A new link for somebody who cannot sign in."""
    with operation() as ctx:
        made = reset_password(ctx, path.id)
    return answer(_link(made), 201)


@api.get("/invitations/<token>", responses={"200": InvitationOut})
def get_invitation(path: TokenPath) -> Response:
    """Whom a link is for."""
    with operation() as ctx:
        found = read_invitation(ctx, path.token)
    return answer(InvitationOut(login=found.login, name=found.name))


@api.post("/invitations/<token>", responses={"200": InvitationOut})
def post_invitation(path: TokenPath, body: NewPassword) -> Response:
    """Set the password that a link lets set."""
    with operation() as ctx:
        found = accept_invitation(ctx, path.token, body.password)
    return answer(InvitationOut(login=found.login, name=found.name))


@api.put("/password", responses={"204": None})
def put_password(body: PasswordChange) -> tuple[str, int]:
    """Change one's own password; other sessions end."""
    with operation() as ctx:
        wrong = change_password(ctx, body.old, body.new, signed_in())
    if wrong is not None:
        raise wrong
    return "", 204


@api.get("/sessions", responses={"200": SessionList})
def get_sessions() -> Response:
    """One's own open sessions."""
    with operation() as ctx:
        return answer(SessionList(items=list_sessions(ctx, signed_in())))


@api.delete("/sessions/<uuid:id>", responses={"204": None})
def delete_session(path: IdPath) -> tuple[str, int]:
    """End one of one's own sessions."""
    with operation() as ctx:
        end_session(ctx, path.id)
    return "", 204


@api.get("/security-events", responses={"200": WatchList})
def get_events(query: WatchQuery) -> Response:
    """What is watched, newest first."""
    with operation() as ctx:
        items = list_events(ctx, query.before, query.limit)
    return answer(WatchList(items=items, next=items[-1].at if len(items) == query.limit else None))
