"""The web: Flask around the use cases. `create_app` makes a fresh application."""

from __future__ import annotations

import gc
from datetime import timedelta

from flask import Flask, Response, request
from flask_openapi3.models.info import Info
from flask_talisman import Talisman
from flask_wtf.csrf import CSRFProtect
from werkzeug.middleware.proxy_fix import ProxyFix

from .. import settings
from ..local_time import place_zone
from .api import register
from .database import connect
from .described import DescribedOpenAPI
from .errors import Problem, register_errors, validation_answer
from .health import register_wellbeing
from .limits import register_limits
from .logs import register_logs
from .pages import register_pages
from .request_limits import register_kinds, register_limit
from .sign_on import register_sign_on


def cookie_name() -> str:
    """Behind TLS the browser itself sees to it that nobody else's server has set it (`__Host-`)."""
    return "__Host-orthotorq" if settings.read("ORTHOTORQ_COOKIE_SECURE") == "1" else "orthotorq"


def _nothing_runs(response: Response) -> Response:
    """An answer of the API is no page: nothing in it is run or fetched, whatever somebody gets a
    browser to take it for."""
    if request.path.startswith("/api/") and response.mimetype in (
        "application/json",
        "application/problem+json",
        "text/csv",
    ):
        response.headers["Content-Security-Policy"] = "default-src 'none'; frame-ancestors 'none'"
    return response


def create_app(documented: bool = True) -> Flask:
    """A configured application; its settings come from the environment (see orthotorq.settings)."""
    app = DescribedOpenAPI(
        __name__,
        info=Info(title="Orthotorq", version="1"),
        doc_ui=False,
        static_folder=None,
        security_schemes={"session": {"type": "apiKey", "in": "cookie", "name": "orthotorq"}},
        validation_error_status=422,
        validation_error_model=Problem,
        validation_error_callback=validation_answer,
    )
    app.config.update(
        SECRET_KEY=settings.read("ORTHOTORQ_SECRET_KEY"),
        SESSION_COOKIE_NAME=cookie_name(),
        SESSION_COOKIE_HTTPONLY=True,
        SESSION_COOKIE_SAMESITE="Lax",
        SESSION_COOKIE_SECURE=settings.read("ORTHOTORQ_COOKIE_SECURE") == "1",
        PERMANENT_SESSION_LIFETIME=timedelta(hours=14),
        WTF_CSRF_TIME_LIMIT=None,
        WTF_CSRF_SSL_STRICT=False,
        DEMO=settings.read("ORTHOTORQ_DEMO") == "1",
    )
    # a zone that is none is refused here, and not at the first date
    place_zone()
    register_logs(app)
    connect(app)
    register_limit(app)
    CSRFProtect(app)
    # before the library: what is registered first comes last
    app.after_request(_nothing_runs)
    # the built page carries its own policy with hashes; a second script-src by header would only
    # contradict it
    Talisman(
        app,
        force_https=False,
        strict_transport_security=app.config["SESSION_COOKIE_SECURE"],
        frame_options="DENY",
        referrer_policy="same-origin",
        session_cookie_secure=app.config["SESSION_COOKIE_SECURE"],
        content_security_policy={
            "frame-ancestors": "'none'",
            "base-uri": "'self'",
            "object-src": "'none'",
        },
    )
    register_errors(app)
    register(app, documented)
    register_kinds(app)
    register_wellbeing(app)
    register_sign_on(app)
    register_limits(app)
    if hops := int(settings.read("ORTHOTORQ_TRUSTED_HOPS")):
        app.wsgi_app = ProxyFix(app.wsgi_app, x_for=hops, x_proto=hops, x_host=0)  # type: ignore[method-assign]
    register_pages(app)
    # what is loaded now lives as long as the process: the collector need not walk it at every
    # request
    gc.collect()
    gc.freeze()
    return app
