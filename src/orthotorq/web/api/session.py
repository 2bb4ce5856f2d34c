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
from ...services.accounts.commands import open_session, sign_in
from ...services.accounts.factors import Here, hand_over, list_here
from ...services.accounts.queries import DEMO_PASSWORD, DEMO_PIN, DemoPerson, session_info, sign_out
from ...services.accounts.watch import note_event
from ...services.context import Actor
from ...services.errors import BadField, NotSignedIn
from ...services.permissions import allowed
from ..operation import operation, signed_in
from .bricks import answer, blueprint

api = blueprint("session", "Who is signed in")


class PersonOut(BaseModel):
    """The person signed in, and the use cases that their roles may call."""

    id: str
    name: str
    login: str
    roles: list[str]
    may: list[str]


class SessionOut(BaseModel):
    """State of the session, the CSRF token for changes, the plant's own sign-on where there is one, what it said when it failed,
    and the demo people in demo mode."""

    person: PersonOut | None
    csrf: str
    sign_on: str | None
    said: str | None
    demo: list[DemoPerson]
    demo_password: str | None
    demo_pin: str | None


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


def _session_out(actor: Actor | None, demo: list[DemoPerson]) -> Response:
    person = PersonOut(id=str(actor.id), name=actor.name, login=actor.login, roles=sorted(actor.roles),
                       may=allowed(actor.roles)) if actor else None
    sign_on = settings.read("ORTHOTORQ_SIGN_ON_NAME") if "orthotorq_sign_on" in current_app.extensions else None
    shown = current_app.config["DEMO"]
    return answer(SessionOut(person=person, csrf=generate_csrf(), sign_on=sign_on, said=session.pop("said", None), demo=demo,
                             demo_password=DEMO_PASSWORD if shown else None, demo_pin=DEMO_PIN if shown else None))


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
        actor, demo = session_info(ctx, current_app.config["DEMO"])
    return _session_out(actor, demo)


@api.post("/session", responses={"200": SessionOut})
def create_session(body: SignIn) -> Response:
    """Sign in."""
    with operation() as ctx:
        outcome = sign_in(ctx, body.login, body.password, body.code)
        if isinstance(outcome, Actor):
            made = open_session(ctx, outcome, request.user_agent.string, "code" if body.code else "password")
            note_event(replace(ctx, actor=outcome), "signed_in")
        elif outcome.says is not Refusal.CODE_NEEDED:
            note_event(ctx, "wrong_password", "one-time code" if outcome.field == "code" else "", login=body.login)
    if isinstance(outcome, NotSignedIn):
        raise outcome
    _enter(made, outcome)
    return _session_out(outcome, [])


@api.get("/session/here", responses={"200": HereList})
def get_here() -> Response:
    """Who can take over this tablet with a PIN."""
    with operation() as ctx:
        return answer(HereList(items=list_here(ctx)))


@api.post("/session/hand-over", responses={"200": SessionOut})
def post_hand_over(body: HandOver) -> Response:
    """Somebody else takes over this tablet."""
    with operation() as ctx:
        outcome = hand_over(ctx, body.login, body.pin, signed_in(), request.user_agent.string)
        if isinstance(outcome, BadField):
            note_event(ctx, "wrong_password", f"PIN of {body.login}")
    if isinstance(outcome, BadField):
        raise outcome
    actor, made = outcome
    _enter(made, actor)
    return _session_out(actor, [])


@api.delete("/session", responses={"204": None})
def delete_session() -> tuple[str, int]:
    """Sign out."""
    with operation() as ctx:
        sign_out(ctx, signed_in())
        if ctx.actor is not None:
            note_event(ctx, "signed_out")
    session.clear()
    return "", 204
