"""The plant's own sign-on (OpenID Connect, by Authlib): an option beside the passwords, which
stay."""

from __future__ import annotations

import time
from dataclasses import replace
from typing import Any
from urllib.parse import urlencode

import structlog
from authlib.integrations.base_client import OAuthError
from authlib.integrations.flask_client import OAuth
from flask import Flask, Response, current_app, redirect, request, session
from joserfc.errors import JoseError
from requests import RequestException

from .. import settings
from ..core.messages import Refusal, render
from ..services.accounts.commands import open_session
from ..services.accounts.factors import note_fresh_sign_on, sign_in_elsewhere
from ..services.accounts.watch import note_event
from ..services.context import Actor
from .operation import operation

log = structlog.get_logger()
_NAME = "plant"
#: how long the other side may take for an answer
_PATIENCE_S = 8
#: the other side's clock may be wrong by so much
_CLOCKS_DIFFER_S = 60
#: cookie of a device that somebody has left, and how long it is remembered
ASK, ASK_FOR_S = "orthotorq-ask", 400 * 86_400
#: what can go wrong on the way that is nobody's fault here: no answer, no leave, an answer that is
#: not signed by them
_FAILURES = (OAuthError, JoseError, RequestException, KeyError, ValueError, RuntimeError)


def ask_anew(response: Response) -> Response:
    """Remember on this device that somebody left it: the next sign-on here asks who it is,
    whoever is known to the provider."""
    response.set_cookie(
        ASK,
        "1",
        max_age=ASK_FOR_S,
        httponly=True,
        samesite="Lax",
        secure=bool(current_app.config["SESSION_COOKIE_SECURE"]),
    )
    return response


def leave_address() -> str | None:
    """Where the browser leaves the sign-on, so that it does not let the next person in as this
    one."""
    if "orthotorq_sign_on" not in current_app.extensions:
        return None
    try:
        end = _client().load_server_metadata().get("end_session_endpoint")
    except _FAILURES as error:
        log.warning("sign_on_failed", error=type(error).__name__, says=str(error)[:200])
        return None
    home = settings.public_url()
    told = {"client_id": settings.read("ORTHOTORQ_SIGN_ON_CLIENT"), **_back_to(home)}
    return f"{end}?{urlencode(told)}" if end else None


def _back_to(home: str) -> dict[str, str]:
    return {"post_logout_redirect_uri": f"{home}/sign-in"}


def _begin() -> Response:
    """Send the browser to the sign-on: to sign in, or (`fresh`) to prove anew that it is the one
    who is signed in."""
    fresh = request.args.get("fresh") == "1"
    session["to"] = _inside(request.args.get("to", ""))
    session["fresh_since"] = int(time.time()) if fresh else 0
    asks = {"prompt": "login"} if fresh or request.cookies.get(ASK) else {}
    back = f"{settings.public_url()}/api/v1/session/sign-on/back"
    try:
        answer: Response = _client().authorize_redirect(
            back, **asks, **({"max_age": 0} if fresh else {})
        )
    except _FAILURES as error:
        return _failed(error, keep=fresh)
    return answer


def _back() -> Response:
    """Take what the sign-on says; the person has to be known here."""
    to, since = session.get("to", "/shift"), int(session.pop("fresh_since", 0))
    try:
        claims = _claims()
    except _FAILURES as error:
        return _failed(error, keep=bool(since))
    subject = f"{claims['iss']} {claims['sub']}"[:300]
    return _asked_anew(claims, subject, since, to) if since else _signed_in(claims, subject, to)


def _claims() -> dict[str, Any]:
    """What the sign-on says of a person: in its signed answer, and, where that does not name
    them, at its userinfo."""
    client = _client()
    token = client.authorize_access_token()
    claims = dict(token["userinfo"])
    if not claims.get(
        settings.read("ORTHOTORQ_SIGN_ON_CLAIM")
    ) and client.load_server_metadata().get("userinfo_endpoint"):
        more = dict(client.userinfo(token=token))
        if more.get("sub") != claims["sub"]:
            raise ValueError("userinfo is about somebody else")
        claims = {**more, **claims}
    return claims


def _asked_anew(claims: dict[str, Any], subject: str, since: int, to: str) -> Response:
    """Somebody who is signed in was asked anew: it counts only where they really were, and for
    them alone."""
    if int(claims.get("auth_time") or 0) < since - _CLOCKS_DIFFER_S:
        return _failed(ValueError("nobody was asked anew"), keep=True)
    with operation() as ctx:
        wrong = note_fresh_sign_on(ctx, subject)
    if wrong is not None:
        session["said"] = wrong.text
    return redirect(to)  # type: ignore[return-value]


def _signed_in(claims: dict[str, Any], subject: str, to: str) -> Response:
    name = settings.read("ORTHOTORQ_SIGN_ON_CLAIM")
    login = str(claims.get(name) or "")
    with operation() as ctx:
        outcome = sign_in_elsewhere(ctx, subject, login)
        if isinstance(outcome, Actor):
            made = open_session(ctx, outcome, request.user_agent.string, "sso")
            note_event(replace(ctx, actor=outcome), "signed_in", "by the plant's sign-on")
        else:
            note_event(ctx, "refused", "the plant's sign-on", login)
    session.clear()
    if not isinstance(outcome, Actor):
        sent = ", ".join(sorted(claims))[:200]
        session["said"] = (
            outcome.text if login else render(Refusal.SIGN_ON_NO_NAME, claim=name, sent=sent)
        )
        return redirect("/sign-in")  # type: ignore[return-value]
    session.permanent = True
    session.update({"sign_in": str(made), "person": str(outcome.id)})
    return redirect(to)  # type: ignore[return-value]


def _client() -> Any:
    return current_app.extensions["orthotorq_sign_on"].create_client(_NAME)


def _inside(to: str) -> str:
    """An address of ours to go on to, and no other."""
    return (
        to
        if to.startswith("/") and not to.startswith(("//", "/\\")) and to.isprintable()
        else "/shift"
    )


def _failed(error: Exception, keep: bool = False) -> Response:
    """Say so; who was signed in already (`keep`) stays it."""
    log.warning("sign_on_failed", error=type(error).__name__, says=str(error)[:200])
    to = session.get("to", "/shift") if keep else "/sign-in"
    if not keep:
        session.clear()
    session["said"] = render(Refusal.SIGN_ON_FAILED)
    return redirect(to)  # type: ignore[return-value]


def register_sign_on(app: Flask) -> None:
    """The two addresses of the sign-on, where one is set."""
    issuer = settings.read("ORTHOTORQ_SIGN_ON_ISSUER").rstrip("/")
    if not issuer:
        return
    oauth = OAuth(app)
    oauth.register(
        _NAME,
        client_id=settings.read("ORTHOTORQ_SIGN_ON_CLIENT"),
        client_secret=settings.read("ORTHOTORQ_SIGN_ON_SECRET"),
        server_metadata_url=f"{issuer}/.well-known/openid-configuration",
        client_kwargs={
            "scope": settings.read("ORTHOTORQ_SIGN_ON_SCOPE"),
            "code_challenge_method": "S256",
            "default_timeout": _PATIENCE_S,
        },
    )
    app.extensions["orthotorq_sign_on"] = oauth
    app.add_url_rule("/api/v1/session/sign-on", view_func=_begin, endpoint="sign_on")
    app.add_url_rule("/api/v1/session/sign-on/back", view_func=_back, endpoint="sign_on_back")
