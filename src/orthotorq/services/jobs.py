"""The queue of long work (procrastinate on PostgreSQL): deferring a job, and the worker that does
it."""

from __future__ import annotations

import json
import uuid
from collections.abc import Callable
from contextlib import suppress
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import procrastinate
from procrastinate.exceptions import AlreadyEnqueued
from sqlalchemy import text
from sqlalchemy.engine import make_url
from sqlalchemy.orm import Session, sessionmaker

from ..settings import read
from ..store.models import Job
from .context import Ctx
from .database import open_sessions
from .planning.exchange import run_import
from .rechecking.refresh import refresh_all
from .reference.friction_from_records import gather_lessons
from .registers.files import run_register
from .running.readings import run_readings
from .running.run_end import fill_outcomes
from .running.seal import make_seal

QUEUE = "plans"
#: when due dates are forecast anew without anybody asking
NIGHTLY = "20 3 * * *"
REQUEUE = "orthotorq.requeue"
Work = Callable[[sessionmaker[Session], uuid.UUID, Callable[[Session], Ctx]], None]
#: kind of a job -> its task, and what does it
TASKS: dict[str, tuple[str, Work]] = {
    "import": ("orthotorq.import_plans", run_import),
    "readings": ("orthotorq.read_readings", run_readings),
    "register": ("orthotorq.take_register", run_register),
}


def _conninfo(url: str) -> str:
    """A SQLAlchemy URL as libpq wants it."""
    return make_url(url).set(drivername="postgresql").render_as_string(hide_password=False)


def defer(session: Session, kind: str, job_id: uuid.UUID) -> None:
    """Put a job of a kind into the queue, in the transaction that keeps the job's own row: both are
    there, or neither is."""
    session.execute(
        text(
            "SELECT procrastinate_defer_jobs_v1(ARRAY[ROW(:queue, :task, 0, NULL, NULL, "
            "CAST(:args AS jsonb), NULL)"
            "::procrastinate_job_to_defer_v1])"
        ),
        {"queue": QUEUE, "task": TASKS[kind][0], "args": json.dumps({"job_id": str(job_id)})},
    )


def worker_app(url: str, sessions: sessionmaker[Session]) -> procrastinate.App:
    """The application of the worker: it knows the tasks; `sessions` are for their own work."""
    app = procrastinate.App(connector=procrastinate.PsycopgConnector(conninfo=_conninfo(url)))

    for name, work in TASKS.values():

        def task(job_id: str, work: Work = work) -> None:
            work(sessions, uuid.UUID(job_id), lambda session: Ctx(session, datetime.now(UTC)))

        app.task(name=name, queue=QUEUE)(task)

    @app.periodic(cron=NIGHTLY)
    @app.task(name="orthotorq.forecast", queue=QUEUE, pass_context=False)
    def forecast(timestamp: int) -> None:
        fill_outcomes(sessions, lambda session: Ctx(session, datetime.now(UTC)))
        refresh_all(sessions, lambda session: Ctx(session, datetime.now(UTC)))
        with sessions.begin() as session:
            gather_lessons(Ctx(session, datetime.now(UTC)))
        with sessions.begin() as session:
            make_seal(Ctx(session, datetime.now(UTC)), _seals())

    @app.periodic(cron="* * * * *")
    @app.task(name=REQUEUE, queue=QUEUE, queueing_lock=REQUEUE, pass_context=False)
    async def requeue(timestamp: int) -> None:
        # a worker that was killed says nothing: what it was at is taken up by the next one
        for stalled in await app.job_manager.get_stalled_jobs():
            with sessions.begin() as session:
                waits_again(session, stalled.task_kwargs)
            await app.job_manager.retry_job(stalled)

    return app


def _seals() -> Path | None:
    folder = read("ORTHOTORQ_SEALS")
    return Path(folder) if folder else None


def waits_again(session: Session, named: dict[str, Any]) -> None:
    """Work that stopped half-way begins anew: it keeps nothing until it is whole."""
    job = session.get(Job, uuid.UUID(str(named["job_id"]))) if "job_id" in named else None
    if job is not None and job.status == "working":
        job.status, job.done = "waiting", 0


def run_worker(url: str, wait: bool = True) -> None:
    """Work the queue until told to stop (or, without `wait`, until it is empty)."""
    sessions = open_sessions(url, 120_000)
    app = worker_app(url, sessions)
    try:
        with app.open():
            with suppress(AlreadyEnqueued):
                app.configure_task(REQUEUE, queue=QUEUE, queueing_lock=REQUEUE).defer(timestamp=0)
            app.run_worker(wait=wait, fetch_job_polling_interval=1.0, concurrency=1)
    finally:
        sessions.kw["bind"].dispose()
