"""Sign-in and sign-out."""

from __future__ import annotations

import uuid
from dataclasses import replace
from typing import Annotated

from flask import Response, current_app, request, session
from flask_wtf.csrf import generate_csrf
from pydantic import BaseModel, Field

from ... import settings
from ...core.messages import Refusal
from ...local_time import zone_name
from ...services.accounts.commands import open_session, sign_in
from ...services.accounts.factors import Here, hand_over, list_here
from ...services.accounts.queries import (
    DEMO_PASSWORD,
    DEMO_PIN,
    DemoPerson,
    SessionInfo,
    session_info,
    sign_out,
)
from ...services.accounts.watch import note_event
from ...services.context import Actor
from ...services.errors import BadField, NotSignedIn
from ...services.permissions import allowed
from ..operation import operation
from ..sign_on import ask_anew, leave_address
from .helpers import answer, blueprint

api = blueprint("session", "Who is signed in")


class PersonOut(BaseModel):
    """The person signed in, and the use cases that their roles may call."""

    id: str
    name: str
    login: str
    roles: list[str]
    may: list[str]


class Locked(BaseModel):
    """Whose session on this device asks for the PIN again."""

    login: str
    name: str


class SignedOut(BaseModel):
    """Where the browser goes to leave the plant's sign-on, if it does."""

    leave: str | None


class SessionOut(BaseModel):
    """State of the session: whether the person has a password here, and was just asked anew by
    the plant's sign-on; the CSRF token for changes, the plant's own sign-on where there is one,
    what it said when it failed, the demo people in demo mode."""

    person: PersonOut | None
    locked: Locked | None
    has_password: bool
    fresh: bool
    csrf: str
    sign_on: str | None
    said: str | None
    demo: list[DemoPerson]
    demo_password: str | None
    demo_pin: str | None
    #: of the place: times are shown and typed in it
    time_zone: str


class SignIn(BaseModel):
    """Login, password and, for who has them on, the one-time code."""

    login: Annotated[str, Field(min_length=1, max_length=60)]
    password: Annotated[str, Field(min_length=1, max_length=200)]
    code: Annotated[str, Field(max_length=20)] = ""


class HandOver(BaseModel):
    """Who takes over, and their PIN."""

    login: Annotated[str, Field(min_length=1, max_length=60)]
    pin: Annotated[str, Field(min_length=1, max_length=20)]


class HereList(BaseModel):
    """Who can take over."""

    items: list[Here]


def _session_out(found: SessionInfo) -> Response:
    actor = found.actor
    person = (
        PersonOut(
            id=str(actor.id),
            name=actor.name,
            login=actor.login,
            roles=sorted(actor.roles),
            may=allowed(actor.roles),
        )
        if actor
        else None
    )
    locked = Locked(login=found.locked.login, name=found.locked.name) if found.locked else None
    sign_on = (
        settings.read("ORTHOTORQ_SIGN_ON_NAME")
        if "orthotorq_sign_on" in current_app.extensions
        else None
    )
    shown = current_app.config["DEMO"]
    return answer(
        SessionOut(
            person=person,
            locked=locked,
            has_password=found.has_password,
            fresh=found.fresh,
            csrf=generate_csrf(),
            sign_on=sign_on,
            said=session.pop("said", None),
            demo=[] if person else found.demo,
            demo_password=DEMO_PASSWORD if shown else None,
            demo_pin=DEMO_PIN if shown else None,
            time_zone=zone_name(),
        )
    )


def _told(actor: Actor, made: uuid.UUID) -> Response:
    """From here on the browser is this person's; how their session stands."""
    _enter(made, actor)
    with operation() as ctx:
        return _session_out(session_info(ctx, current_app.config["DEMO"]))


def _enter(made: uuid.UUID, actor: Actor) -> None:
    """From here on the browser is this person's."""
    session.clear()
    session.permanent = True
    session["sign_in"] = str(made)
    # for the lines of the log alone
    session["person"] = str(actor.id)


@api.get("/session", responses={"200": SessionOut})
def read_session() -> Response:
    """Who is signed in."""
    with operation() as ctx:
        found = session_info(ctx, current_app.config["DEMO"])
    return _session_out(found)


@api.post("/session", responses={"200": SessionOut})
def create_session(body: SignIn) -> Response:
    """Sign in."""
    with operation() as ctx:
        outcome = sign_in(ctx, body.login, body.password, body.code)
        if isinstance(outcome, Actor):
            made = open_session(
                ctx, outcome, request.user_agent.string, "code" if body.code else "password"
            )
            note_event(replace(ctx, actor=outcome), "signed_in")
        elif outcome.says is not Refusal.CODE_NEEDED:
            note_event(
                ctx,
                "wrong_password",
                "one-time code" if outcome.field == "code" else "",
                login=body.login,
            )
    if isinstance(outcome, NotSignedIn):
        raise outcome
    return _told(outcome, made)


@api.get("/session/here", responses={"200": HereList})
def get_here() -> Response:
    """Who can take over this tablet with a PIN."""
    with operation() as ctx:
        return answer(HereList(items=list_here(ctx)))


@api.post("/session/hand-over", responses={"200": SessionOut})
def post_hand_over(body: HandOver) -> Response:
    """Somebody else takes over this tablet."""
    with operation() as ctx:
        outcome = hand_over(ctx, body.login, body.pin, request.user_agent.string)
        if isinstance(outcome, BadField):
            note_event(ctx, "wrong_password", f"PIN of {body.login}")
    if isinstance(outcome, BadField):
        raise outcome
    return ask_anew(_told(*outcome))


@api.delete("/session", responses={"200": SignedOut})
def delete_session() -> Response:
    """Sign out; where the plant's sign-on let the person in, the browser is told where to leave
    that, too."""
    with operation() as ctx:
        by = sign_out(ctx)
        if ctx.actor is not None:
            note_event(ctx, "signed_out")
    session.clear()
    return ask_anew(answer(SignedOut(leave=leave_address() if by == "sso" else None)))
