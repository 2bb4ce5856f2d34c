"""The queue of long work (procrastinate on PostgreSQL): deferring a job, and the worker that does it."""
from __future__ import annotations

import uuid
from datetime import UTC, datetime

import procrastinate
from sqlalchemy.engine import make_url
from sqlalchemy.orm import Session, sessionmaker

from .context import Ctx
from .database import open_sessions
from .planning.exchange import run_import

TASK = "orthotorq.import_plans"


def _conninfo(url: str) -> str:
    """A SQLAlchemy URL as libpq wants it."""
    return make_url(url).set(drivername="postgresql").render_as_string(hide_password=False)


def defer_import(url: str, job_id: uuid.UUID) -> None:
    """Put an import into the queue. The job's row may still be uncommitted: the worker tries again until it is there."""
    app = procrastinate.App(connector=procrastinate.SyncPsycopgConnector(conninfo=_conninfo(url)))
    with app.open():
        app.configure_task(TASK, queue="plans").defer(job_id=str(job_id))


def worker_app(url: str, sessions: sessionmaker[Session]) -> procrastinate.App:
    """The application of the worker: it knows the tasks; `sessions` are for their own work."""
    app = procrastinate.App(connector=procrastinate.PsycopgConnector(conninfo=_conninfo(url)))

    @app.task(name=TASK, queue="plans", retry=procrastinate.RetryStrategy(max_attempts=20, wait=1))
    def import_plans(job_id: str) -> None:
        run_import(sessions, uuid.UUID(job_id), lambda session: Ctx(session, datetime.now(UTC)))

    return app


def run_worker(url: str, wait: bool = True) -> None:
    """Work the queue until told to stop (or, without `wait`, until it is empty)."""
    sessions = open_sessions(url, 120_000)
    app = worker_app(url, sessions)
    try:
        with app.open():
            app.run_worker(wait=wait, fetch_job_polling_interval=1.0, concurrency=1)
    finally:
        sessions.kw["bind"].dispose()
