"""Whether all is well: alive, ready, and figures for a monitor."""

from __future__ import annotations

import hmac
import os
import shutil
import time

from flask import Flask, Response, abort, current_app, g, request
from prometheus_client import (
    CONTENT_TYPE_LATEST,
    CollectorRegistry,
    Counter,
    Histogram,
    generate_latest,
    multiprocess,
)
from sqlalchemy.exc import SQLAlchemyError

from .. import settings
from ..services.database import Wellbeing, alive, wellbeing
from .database import sessions
from .pages import front_end_built

#: less room than this share, or than so many bytes, is too little
LEAST_SHARE, LEAST_BYTES = 0.03, 500_000_000
_ASKED = Counter("orthotorq_requests", "Requests", ["method", "route", "status"])
_TOOK = Histogram(
    "orthotorq_request_seconds",
    "Seconds a request took",
    ["route"],
    buckets=(0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10, 30),
)


def health() -> tuple[dict[str, str], int]:
    """200 when the database answers, else 503."""
    try:
        with sessions(current_app)() as database:
            ok = alive(database)
    except SQLAlchemyError:
        ok = False
    return ({"status": "ok"}, 200) if ok else ({"status": "no database"}, 503)


def _full() -> list[str]:
    """Folders whose disks have too little room, or that are not there."""
    return [
        folder
        for folder in settings.read("ORTHOTORQ_DISKS").split(":")
        if folder and not _room(folder)
    ]


def _room(folder: str) -> bool:
    try:
        used = shutil.disk_usage(folder)
    except OSError:
        return False
    return used.free > LEAST_BYTES and used.free > LEAST_SHARE * used.total


def ready() -> tuple[dict[str, str], int]:
    """Whether requests can be served well: front end, database, schema, disk; without a worker
    long jobs alone wait."""
    try:
        with sessions(current_app)() as database:
            found = wellbeing(database)
    except SQLAlchemyError:
        found = Wellbeing()
    full = _full()
    says = {
        "database": ("ok" if found.writes else "cannot write: its disk may be full")
        if found.database
        else "does not answer",
        "schema": "ok" if found.schema else "is not that of this program: run orthotorq migrate",
        "disk": f"nearly full, or not there: {', '.join(full)}" if full else "ok",
        "front_end": "ok"
        if front_end_built()
        else "is missing: build it, or name its folder with ORTHOTORQ_FRONTEND",
        "worker": "ok"
        if found.worker
        else "no sign of life: long jobs wait, due dates are not forecast anew",
    }
    good = all(says[name] == "ok" for name in ("database", "schema", "disk", "front_end"))
    return {"status": "ready" if good else "not ready", **says}, 200 if good else 503


def metrics() -> Response:
    """Figures in the Prometheus format, for this machine alone or for who has the token."""
    token, given = (
        settings.read("ORTHOTORQ_METRICS_TOKEN"),
        request.headers.get("Authorization", ""),
    )
    here = request.remote_addr in ("127.0.0.1", "::1") and "X-Forwarded-For" not in request.headers
    if not (hmac.compare_digest(given, f"Bearer {token}") if token else here):
        abort(404)
    registry = None
    if "PROMETHEUS_MULTIPROC_DIR" in os.environ:
        registry = CollectorRegistry()
        multiprocess.MultiProcessCollector(registry)  # type: ignore[no-untyped-call]
    data = generate_latest(registry) if registry is not None else generate_latest()
    return Response(data, content_type=CONTENT_TYPE_LATEST)


def _counted(response: Response) -> Response:
    # by the pattern of an address, never by what stands in it
    route = request.url_rule.rule if request.url_rule is not None else "none"
    _ASKED.labels(request.method, route, str(response.status_code)).inc()
    _TOOK.labels(route).observe(time.perf_counter() - g.get("started", time.perf_counter()))
    return response


def register_wellbeing(app: Flask) -> None:
    """Routes outside the API, and the counting of every request."""
    app.add_url_rule("/health", view_func=health)
    app.add_url_rule("/ready", view_func=ready)
    app.add_url_rule("/metrics", view_func=metrics)
    app.after_request(_counted)
