"""Sign-in and sign-out."""
from __future__ import annotations

from dataclasses import replace
from typing import Annotated

from flask import Response, current_app, request, session
from flask_wtf.csrf import generate_csrf
from pydantic import BaseModel, Field

from ...services.accounts.commands import open_session, sign_in
from ...services.accounts.queries import DEMO_PASSWORD, DemoPerson, session_info, sign_out
from ...services.accounts.watch import note_event
from ...services.context import Actor
from ...services.errors import NotSignedIn
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
    """State of the session, the CSRF token for changes, and the demo people in demo mode."""

    person: PersonOut | None
    csrf: str
    demo: list[DemoPerson]
    demo_password: str | None


class SignIn(BaseModel):
    """Login and password."""

    login: Annotated[str, Field(min_length=1, max_length=60)]
    password: Annotated[str, Field(min_length=1, max_length=200)]


def _session_out(actor: Actor | None, demo: list[DemoPerson]) -> Response:
    person = PersonOut(id=str(actor.id), name=actor.name, login=actor.login, roles=sorted(actor.roles),
                       may=allowed(actor.roles)) if actor else None
    return answer(SessionOut(person=person, csrf=generate_csrf(), demo=demo, demo_password=DEMO_PASSWORD if demo else None))


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
        outcome = sign_in(ctx, body.login, body.password)
        made = None if isinstance(outcome, NotSignedIn) else open_session(ctx, outcome, request.user_agent.string)
        if isinstance(outcome, Actor):
            note_event(replace(ctx, actor=outcome), "signed_in")
        else:
            note_event(ctx, "wrong_password", login=body.login)
    if isinstance(outcome, NotSignedIn):
        raise outcome
    session.clear()
    session.permanent = True
    session["sign_in"] = str(made)
    # for the lines of the log alone
    session["person"] = str(outcome.id)
    return _session_out(outcome, [])


@api.delete("/session", responses={"204": None})
def delete_session() -> tuple[str, int]:
    """Sign out."""
    with operation() as ctx:
        sign_out(ctx, signed_in())
        if ctx.actor is not None:
            note_event(ctx, "signed_out")
    session.clear()
    return "", 204
