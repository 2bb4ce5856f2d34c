"""The built front end, health, and the check that API bodies are JSON."""
from __future__ import annotations

from pathlib import Path

from flask import Flask, Response, current_app, request, send_from_directory
from sqlalchemy.exc import SQLAlchemyError
from werkzeug.exceptions import BadRequest, NotFound, UnsupportedMediaType

from .. import settings
from ..core.documents.read import check_characters
from ..core.errors import BadDocument
from ..services.database import alive
from .database import sessions


def health() -> tuple[dict[str, str], int]:
    """200 when the database answers, else 503."""
    try:
        with sessions(current_app)() as database:
            ok = alive(database)
    except SQLAlchemyError:
        ok = False
    return ({"status": "ok"}, 200) if ok else ({"status": "no database"}, 503)


def _page(path: str = "") -> Response:
    """A built file, or the single page for every address of a screen."""
    if path.startswith("api/"):
        raise NotFound("There is no such address.")
    folder = Path(settings.read("ORTHOTORQ_FRONTEND")).resolve()
    name = path if path and (folder / path).is_file() else "index.html"
    zipped = f"{name}.gz"
    use_zip = "gzip" in request.headers.get("Accept-Encoding", "") and (folder / zipped).is_file()
    response = send_from_directory(folder, zipped if use_zip else name, conditional=not use_zip,
                                   mimetype=_type_of(name))
    if use_zip:
        response.headers["Content-Encoding"] = "gzip"
        response.headers["Vary"] = "Accept-Encoding"
    immutable = path.startswith("_app/immutable/")
    response.headers["Cache-Control"] = "public, max-age=31536000, immutable" if immutable else "no-cache"
    return response


def _type_of(name: str) -> str | None:
    kinds = {".js": "text/javascript", ".css": "text/css", ".html": "text/html", ".svg": "image/svg+xml",
             ".woff2": "font/woff2", ".json": "application/json", ".webmanifest": "application/manifest+json"}
    return kinds.get(Path(name).suffix)


def _json_only() -> None:
    """Bodies sent to the API are JSON: anything else is said plainly before a handler sees it."""
    if request.path.startswith("/api/") and request.method in ("POST", "PUT", "PATCH"):
        if not request.mimetype and not request.content_length:
            return  # a call without a body says so by having no type
        if request.path.endswith("/imports") or request.path.endswith("/photos"):
            return  # files, read by their handlers
        if request.mimetype != "application/json":
            raise UnsupportedMediaType("Send JSON with content type application/json.")
        try:
            check_characters(request.get_data(), request.get_json())
        except (BadRequest, RecursionError):
            raise BadRequest("The body is not JSON.") from None
        except BadDocument as error:
            raise BadRequest(str(error)) from None


def register_pages(app: Flask) -> None:
    """Routes outside the API."""
    app.before_request(_json_only)
    app.add_url_rule("/health", view_func=health)
    app.add_url_rule("/", view_func=_page, endpoint="root")
    app.add_url_rule("/<path:path>", view_func=_page, endpoint="page")
