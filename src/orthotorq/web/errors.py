"""Errors to problem details (RFC 9457), in one place, by attributes of the error; never a 500 for
bad input."""

from __future__ import annotations

from typing import Any

import structlog
from flask import Flask, Response, g, make_response, request
from flask_wtf.csrf import CSRFError
from pydantic import BaseModel, ValidationError
from sqlalchemy.exc import DataError, IntegrityError, OperationalError
from sqlalchemy.exc import TimeoutError as PoolTimeout
from werkzeug.exceptions import HTTPException

from ..core.errors import Occupied, OrthotorqError
from ..core.forms.errors import DocumentErrors, field_errors
from ..services.accounts.watch import note_event
from ..services.errors import Forbidden, ServiceError
from .logs import named_path
from .operation import operation

log = structlog.get_logger()


class FieldProblem(BaseModel):
    """One field: path in the document, code, sentence."""

    path: str
    code: str
    text: str


class Problem(BaseModel):
    """Problem details with the fields that are wrong."""

    type: str
    title: str
    status: int
    detail: str
    code: str
    request_id: str
    errors: list[FieldProblem] = []


_TITLES = {
    400: "Bad request",
    401: "Not signed in",
    403: "Not allowed",
    404: "Not found",
    405: "Method not allowed",
    409: "Refused",
    412: "Changed meanwhile",
    413: "Too large",
    415: "Not JSON",
    422: "Not valid",
    429: "Too many",
    500: "Internal error",
    503: "Busy",
}


def problem(
    status: int, code: str, detail: str, errors: list[FieldProblem] | None = None
) -> Response:
    """A problem details response."""
    body = Problem(
        type="about:blank",
        title=_TITLES.get(status, "Error"),
        status=status,
        detail=detail,
        code=code,
        request_id=g.get("request_id", ""),
        errors=errors or [],
    )
    response = make_response(body.model_dump_json(), status)
    response.content_type = "application/problem+json"
    return response


def _fields(errors: list[Any]) -> list[FieldProblem]:
    return [FieldProblem(path=e.pointer(), code=e.code, text=e.text) for e in errors]


def validation_answer(error: ValidationError) -> Response:
    """A request that does not fit its schema; the input is not echoed."""
    fields = _fields(field_errors(error))
    return problem(
        422, "not_valid", fields[0].text if fields else "The request is not valid.", fields
    )


def _http(error: HTTPException) -> Response:
    # start from the exception's own response: it carries headers such as Allow
    response = error.get_response()
    said = error.description or ""
    if error.code == 413:
        said = (
            f"That is too large: at most {(request.max_content_length or 0) / 1e6:g} MB are "
            "taken here. Nothing was saved."
        )
    own = problem(error.code or 500, f"http_{error.code}", said)
    response.data = own.data
    response.content_type = own.content_type
    return response  # type: ignore[return-value]


def _refused(error: ServiceError) -> Response:
    if isinstance(error, Forbidden):
        # what was asked is rolled back; that it was asked is kept
        with operation() as ctx:
            note_event(ctx, "refused", f"{request.method} {named_path()}")
    response = problem(
        error.status,
        error.code,
        error.text,
        [FieldProblem(path=error.field, code=error.code, text=error.text)] if error.field else [],
    )
    if error.retry_after is not None:
        response.headers["Retry-After"] = str(error.retry_after)
    return response


def register_errors(app: Flask) -> None:
    """Register the handlers."""
    app.register_error_handler(ServiceError, _refused)
    app.register_error_handler(
        DocumentErrors, lambda e: problem(422, "not_valid", e.errors[0].text, _fields(e.errors))
    )
    app.register_error_handler(
        OrthotorqError,
        lambda e: problem(
            422,
            e.code.value,
            str(e),
            [FieldProblem(path="/".join(map(str, e.path)), code=e.code.value, text=str(e))],
        ),
    )
    app.register_error_handler(Occupied, _occupied)
    app.register_error_handler(
        CSRFError,
        lambda e: problem(403, "csrf", "This page has lost its session; reload it and try again."),
    )
    app.register_error_handler(HTTPException, _http)
    app.register_error_handler(OperationalError, _busy)
    app.register_error_handler(PoolTimeout, _no_connection)
    app.register_error_handler(IntegrityError, _at_once)
    # bodies are checked before; what still gets here came in an address
    app.register_error_handler(
        DataError,
        lambda e: problem(
            422, "not_valid", "A text with NUL or a number beyond the range cannot be looked for."
        ),
    )
    app.register_error_handler(Exception, _unexpected)


def _occupied(error: Occupied) -> Response:
    """Others are at the helper for too long."""
    response = problem(503, "busy", str(error))
    response.headers["Retry-After"] = "5"
    return response


def _busy(error: OperationalError) -> Response:
    log.warning("database", error=str(error.orig)[:300])
    response = problem(
        503, "busy", "The database did not answer in time. Nothing was changed; try again."
    )
    response.headers["Retry-After"] = "1"
    return response


def _no_connection(error: PoolTimeout) -> Response:
    """No connection to the database came free in time."""
    log.warning("no_connection", error=str(error)[:200])
    response = problem(503, "busy", "Too many are asking at once. Nothing was changed; try again.")
    response.headers["Retry-After"] = "2"
    return response


def _at_once(error: IntegrityError) -> Response:
    """Two did the same thing at the same moment, each before the other's was to be seen: one of
    them comes again."""
    log.warning("at_once", error=str(error.orig)[:300])
    response = problem(
        503,
        "busy",
        "Somebody else did the same at the same moment. Nothing of yours was kept; try again.",
    )
    response.headers["Retry-After"] = "1"
    return response


def _unexpected(error: Exception) -> Response:
    log.exception("unexpected", error=repr(error)[:300])
    return problem(
        500,
        "internal",
        "Something went wrong here. Nothing was changed; the log has the request id.",
    )
