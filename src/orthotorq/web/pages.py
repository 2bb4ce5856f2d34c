"""The built front end."""

from __future__ import annotations

from pathlib import Path

from flask import Flask, Response, send_from_directory
from werkzeug.exceptions import NotFound
from whitenoise import WhiteNoise

from .. import settings


def front_end_built() -> bool:
    """Whether there is a page to show."""
    return (Path(settings.read("ORTHOTORQ_FRONTEND")) / "index.html").is_file()


def _page(path: str = "") -> Response:
    """The single page, for every address of a screen."""
    if path.startswith("api/"):
        raise NotFound("There is no such address.")
    response = send_from_directory(
        Path(settings.read("ORTHOTORQ_FRONTEND")).resolve(), "index.html"
    )
    response.headers["Cache-Control"] = "no-cache"
    return response


def _immutable(path: str, url: str) -> bool:
    """Whether a built file carries the hash of its content in its name."""
    return url.startswith("/_app/immutable/")


def _headers(headers: dict[str, str], path: str, url: str) -> None:
    """What the pages send, built files send too."""
    headers["X-Content-Type-Options"] = "nosniff"


def register_pages(app: Flask) -> None:
    """Routes outside the API; built files, packed as the build left them, are served before Flask
    sees the request."""
    app.add_url_rule("/", view_func=_page, endpoint="root")
    app.add_url_rule("/<path:path>", view_func=_page, endpoint="page")
    built = settings.read("ORTHOTORQ_FRONTEND")
    if not Path(built).is_dir():
        return  # the document of the API is written before anything is built
    app.wsgi_app = WhiteNoise(  # type: ignore[method-assign]
        app.wsgi_app,
        root=built,
        max_age=0,
        immutable_file_test=_immutable,
        add_headers_function=_headers,
    )
