"""The plant's own sign-on (OpenID Connect, by Authlib): an option beside the passwords, which stay."""
from __future__ import annotations

from dataclasses import replace
from typing import Any

import structlog
from authlib.integrations.base_client import OAuthError
from authlib.integrations.flask_client import OAuth
from flask import Flask, Response, current_app, redirect, request, session
from joserfc.errors import JoseError
from requests import RequestException

from .. import settings
from ..core.messages import Refusal, render
from ..services.accounts.commands import open_session
from ..services.accounts.factors import sign_in_elsewhere
from ..services.accounts.watch import note_event
from ..services.context import Actor
from .operation import operation

log = structlog.get_logger()
_NAME = "plant"
#: how long the other side may take for an answer
_PATIENCE_S = 8
#: what can go wrong on the way that is nobody's fault here: no answer, no leave, an answer that is not signed by them
_FAILURES = (OAuthError, JoseError, RequestException, KeyError, ValueError, RuntimeError)


def _begin() -> Response:
    """Send the browser to the sign-on."""
    session["to"] = _inside(request.args.get("to", ""))
    back = f"{settings.read('ORTHOTORQ_PUBLIC_URL').rstrip('/')}/api/v1/session/sign-on/back"
    try:
        answer: Response = _client().authorize_redirect(back)
    except _FAILURES as error:
        return _failed(error)
    return answer


def _back() -> Response:
    """Take what the sign-on says; the person has to be known here."""
    to = session.get("to", "/shift")
    try:
        claims = _client().authorize_access_token()["userinfo"]
        subject = f"{claims['iss']} {claims['sub']}"
        login = str(claims.get(settings.read("ORTHOTORQ_SIGN_ON_CLAIM"), ""))
    except _FAILURES as error:
        return _failed(error)
    with operation() as ctx:
        outcome = sign_in_elsewhere(ctx, subject[:300], login)
        if isinstance(outcome, Actor):
            made = open_session(ctx, outcome, request.user_agent.string, "sso")
            note_event(replace(ctx, actor=outcome), "signed_in", "by the plant's sign-on")
        else:
            note_event(ctx, "refused", "the plant's sign-on", login)
    session.clear()
    if not isinstance(outcome, Actor):
        session["said"] = outcome.text
        return redirect("/sign-in")  # type: ignore[return-value]
    session.permanent = True
    session.update({"sign_in": str(made), "person": str(outcome.id)})
    return redirect(to)  # type: ignore[return-value]


def _client() -> Any:
    return current_app.extensions["orthotorq_sign_on"].create_client(_NAME)


def _inside(to: str) -> str:
    """An address of ours to go on to, and no other."""
    return to if to.startswith("/") and not to.startswith(("//", "/\\")) and to.isprintable() else "/shift"


def _failed(error: Exception) -> Response:
    log.warning("sign_on_failed", error=type(error).__name__, says=str(error)[:200])
    session.clear()
    session["said"] = render(Refusal.SIGN_ON_FAILED)
    return redirect("/sign-in")  # type: ignore[return-value]


def register_sign_on(app: Flask) -> None:
    """The two addresses of the sign-on, where one is set."""
    issuer = settings.read("ORTHOTORQ_SIGN_ON_ISSUER").rstrip("/")
    if not issuer:
        return
    oauth = OAuth(app)
    oauth.register(_NAME, client_id=settings.read("ORTHOTORQ_SIGN_ON_CLIENT"),
                   client_secret=settings.read("ORTHOTORQ_SIGN_ON_SECRET"),
                   server_metadata_url=f"{issuer}/.well-known/openid-configuration",
                   client_kwargs={"scope": "openid profile", "code_challenge_method": "S256", "default_timeout": _PATIENCE_S})
    app.extensions["orthotorq_sign_on"] = oauth
    app.add_url_rule("/api/v1/session/sign-on", view_func=_begin, endpoint="sign_on")
    app.add_url_rule("/api/v1/session/sign-on/back", view_func=_back, endpoint="sign_on_back")
