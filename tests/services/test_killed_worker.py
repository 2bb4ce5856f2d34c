"""A worker that is killed in the middle of long work: the next one takes it up anew, and it is done
once."""

from __future__ import annotations

import io
import json
import os
import signal
import subprocess
import sys
import time
import uuid
import zipfile
from pathlib import Path

import pytest
from sqlalchemy import create_engine, func, select, text

from orthotorq.demo.load import plan_document
from orthotorq.services.accounts.commands import actor_of
from orthotorq.services.context import Ctx
from orthotorq.services.jobs import defer
from orthotorq.services.planning.exchange import start_import
from orthotorq.store.models import Job, Person, Plan
from tests.conftest import NOW, Database

MANY = 400


@pytest.fixture
def waiting(database: Database) -> tuple[Database, uuid.UUID, int]:
    """A job that waits, and how many plans there are before it."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for number in range(MANY):
            archive.writestr(f"{number}.json", json.dumps(plan_document("bellows-clamp")))
    sessions = database.sessions()
    with sessions.begin() as session:
        before = session.scalar(select(func.count()).select_from(Plan)) or 0
        planner = actor_of(session.scalars(select(Person).where(Person.login == "mira")).one())
        ctx = Ctx(session, NOW, planner)
        job = start_import(ctx, out.getvalue()).run(ctx)
        defer(session, "import", job)
    sessions.kw["bind"].dispose()
    return database, job, before


def test_what_a_killed_worker_was_at_is_done_by_the_next_one_and_once(
    waiting: tuple[Database, uuid.UUID, int],
) -> None:
    database, job, before = waiting
    program = Path(sys.executable).with_name("orthotorq")
    worker = subprocess.Popen(
        [program, "worker"],
        env={**os.environ, "ORTHOTORQ_DATABASE_URL": database.app_url},
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
    )
    sessions = database.sessions()
    try:
        until = time.monotonic() + 60
        while time.monotonic() < until:
            with sessions() as session:
                found = session.get_one(Job, job)
                if found.status == "working" and found.done > 0:
                    break
            time.sleep(0.02)
    finally:
        os.kill(worker.pid, signal.SIGKILL)
        worker.wait()
    with sessions() as session:
        found = session.get_one(Job, job)
        assert found.status == "working" and 0 < found.done < MANY
        assert session.scalar(select(func.count()).select_from(Plan)) == before
    # its last sign of life grows old; nobody waits for it here
    engine = create_engine(database.owner_url)
    with engine.begin() as connection:
        connection.execute(
            text("UPDATE procrastinate_workers SET last_heartbeat = now() - interval '5 minutes'")
        )
    engine.dispose()
    for _ in range(3):
        subprocess.run(
            [program, "worker", "--until-empty"],
            env={**os.environ, "ORTHOTORQ_DATABASE_URL": database.app_url},
            check=True,
            timeout=120,
            capture_output=True,
        )
    with sessions() as session:
        found = session.get_one(Job, job)
        assert (found.status, json.loads(found.answer)["imported"]) == ("done", MANY)
        assert session.scalar(select(func.count()).select_from(Plan)) == before + MANY
    sessions.kw["bind"].dispose()
