"""What is sent: JSON, but for the files that some addresses take; how large it may be."""

from __future__ import annotations

from flask import Flask, request
from werkzeug.exceptions import BadRequest, UnsupportedMediaType

from ..core.documents.read import MOST_DEEP, check_characters, deeper_than
from ..core.errors import BadDocument

#: addresses that take a file, with the most bytes of it
FILES = {
    "exchange.post_import": 40_000_000,
    "runs.post_photo": 25_000_000,
    "devices.post_raw_pull": 1_100_000,
    "records.post_look": 40_000_000,
    "records.post_readings": 40_000_000,
    "records.post_record": 20_000_000,
    "registers.post_register": 20_000_000,
}
#: the most bytes of a document
MOST = 4_000_000


def _limit() -> None:
    """Allow the larger bodies; before the CSRF check, which already looks at the body."""
    request.max_content_length = FILES.get(request.endpoint or "", MOST)


def _json_only() -> None:
    """Bodies sent to the API are JSON: anything else is said plainly before a handler sees it."""
    if request.path.startswith("/api/") and request.method in ("POST", "PUT", "PATCH"):
        if not request.mimetype and not request.content_length:
            return  # a call without a body says so by having no type
        if request.endpoint in FILES:
            return  # read by their handlers
        if request.mimetype != "application/json":
            raise UnsupportedMediaType("Send JSON with content type application/json.")
        try:
            body = request.get_json()
            if deeper_than(body, MOST_DEEP):
                raise BadRequest("The body is nested too deeply.")
            check_characters(request.get_data(), body)
        except RecursionError:
            raise BadRequest("The body is nested too deeply.") from None
        except BadDocument as error:
            raise BadRequest(str(error)) from None


def register_limit(app: Flask) -> None:
    """The limit, which comes before everything that reads the body."""
    app.before_request(_limit)


def register_kinds(app: Flask) -> None:
    """The kind of body, which is looked at after the session."""
    app.before_request(_json_only)
