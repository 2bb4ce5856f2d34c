"""Structured logs, one line of JSON per request, with a request id that the client sees too."""

from __future__ import annotations

import logging
import time
import uuid

import structlog
from flask import Flask, Response, g, request, session


def named_path() -> str:
    """The address of a request as it may be written down: its pattern, with ids in it; a token
    or a secret stays a pattern."""
    if request.url_rule is None:
        return "none"
    path = request.url_rule.rule
    for name, value in (request.view_args or {}).items():
        if isinstance(value, uuid.UUID):
            path = path.replace(f"<uuid:{name}>", str(value))
    return path


def register_logs(app: Flask) -> None:
    """Request ids and access lines; bodies and passwords are never logged."""
    structlog.configure(
        processors=[
            structlog.contextvars.merge_contextvars,
            structlog.processors.add_log_level,
            structlog.processors.TimeStamper(fmt="iso", utc=True),
            structlog.processors.format_exc_info,
            structlog.processors.JSONRenderer(),
        ],
        wrapper_class=structlog.make_filtering_bound_logger(logging.INFO),
    )
    log = structlog.get_logger()

    @app.before_request
    def begin() -> None:
        g.request_id = uuid.uuid4().hex[:16]
        g.started = time.perf_counter()
        structlog.contextvars.clear_contextvars()
        structlog.contextvars.bind_contextvars(request_id=g.request_id)

    @app.after_request
    def end(response: Response) -> Response:
        response.headers["X-Request-Id"] = g.get("request_id", "")
        if request.path.startswith("/api/"):
            log.info(
                "request",
                method=request.method,
                path=named_path(),
                status=response.status_code,
                ms=round((time.perf_counter() - g.started) * 1e3, 1),
                person=session.get("person"),
            )
        return response
