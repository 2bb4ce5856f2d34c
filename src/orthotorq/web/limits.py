"""How often one may ask: a device all in all, and a person for what costs a processor seconds (Flask-Limiter).

Counted in each worker process by itself, which costs nothing: with two of them somebody may ask twice as often. It is against a
program that has gone wrong and against one person who holds up the others; wrong passwords are counted in the database, and
floods from outside are the proxy's (docs/operations.md).
"""
from __future__ import annotations

from flask import Flask, Response, request, session
from flask_limiter import Limiter
from flask_limiter.errors import RateLimitExceeded

from .. import settings
from .errors import problem

#: what costs seconds, for one person in a minute, in each worker process
COSTLY = 30
COSTLY_ONES = (
    "plans.get_sheet", "plans.get_template", "records.get_record_pdf", "records.get_record_book", "records.get_joint_archive",
    "registers.get_labels", "registers.get_register", "registers.post_register", "coming.get_day_sheet", "exchange.post_import",
    "exchange.get_all_plans", "records.post_look", "records.post_readings", "records.post_record", "tables.post_lessons")


def _device() -> str:
    """The session that asks, or the address of who has none."""
    return str(session.get("sign_in") or request.remote_addr)


def _person() -> str:
    return str(session.get("person") or request.remote_addr)


def _too_often(error: RateLimitExceeded) -> Response:
    response = problem(429, "too_many", "That was asked too often in a minute. Nothing was changed; wait a little and try again.")
    response.headers["Retry-After"] = "20"
    return response


def register_limits(app: Flask) -> None:
    """Limits for every address of the API; pages and files do not reach this."""
    rate = int(settings.read("ORTHOTORQ_RATE"))
    if not rate:
        return
    limiter = Limiter(_device, app=app, application_limits=[f"{rate} per minute"], storage_uri="memory://",
                      application_limits_exempt_when=lambda: not request.path.startswith("/api/"))
    costly = limiter.shared_limit(f"{COSTLY} per minute", scope="costly", key_func=_person)
    for name in COSTLY_ONES:
        app.view_functions[name] = costly(app.view_functions[name])  # type: ignore[assignment]
    app.register_error_handler(RateLimitExceeded, _too_often)
