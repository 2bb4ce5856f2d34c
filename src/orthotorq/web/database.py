"""The engine of an application; sessions are opened by operation.py alone."""

from __future__ import annotations

from typing import Any

from flask import Flask

from .. import settings
from ..services.database import open_sessions


def connect(app: Flask) -> None:
    """Give the application its session factory."""
    app.extensions["orthotorq_sessions"] = open_sessions(
        settings.read("ORTHOTORQ_DATABASE_URL"),
        int(settings.read("ORTHOTORQ_STATEMENT_TIMEOUT_MS")),
    )


def sessions(app: Flask) -> Any:
    """The session factory of an application."""
    return app.extensions["orthotorq_sessions"]
