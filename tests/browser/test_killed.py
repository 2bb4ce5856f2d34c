"""kill -9 under fifty confirmations a second, of the server, a worker, PostgreSQL: all confirmed
are there, once."""

from __future__ import annotations

import os
import signal
import subprocess
import time
import urllib.request
from collections import Counter
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from pathlib import Path

import pytest
from sqlalchemy import Connection, create_engine, text

from tests.browser.conftest import Server
from tests.browser.devices import Device
from tests.conftest import APP_ROLE, Database, superuser_url

RATE, DEVICES, SECONDS, LEAST = 50, 10, 4.0, 6


pytestmark = pytest.mark.alone


@contextmanager
def asking(database: Database) -> Iterator[Connection]:
    """A connection of the superuser, to look from outside."""
    engine = create_engine(superuser_url().set(database=database.name))
    with engine.connect() as connection:
        yield connection
    engine.dispose()


def kill_server(server: Server, database: Database) -> None:
    server.kill()
    server.start()


def kill_worker(server: Server, database: Database) -> None:
    assert server.process is not None
    children = (
        Path(f"/proc/{server.process.pid}/task/{server.process.pid}/children")
        .read_text(encoding="utf-8")
        .split()
    )
    os.kill(int(children[0]), signal.SIGKILL)


def kill_postgres(server: Server, database: Database) -> None:
    """kill -9 of a backend: PostgreSQL ends every connection and recovers from its log, as after a
    crash."""
    with asking(database) as connection:
        assert connection.execute(text("show fsync")).scalar_one() == "on"
        pid = connection.execute(
            text("select pid from pg_stat_activity where usename = :u and datname = :d limit 1"),
            {"u": APP_ROLE, "d": database.name},
        ).scalar_one()
    os.kill(pid, signal.SIGKILL)


def kill_whole_postgres(server: Server, database: Database) -> None:
    """kill -9 of PostgreSQL's first process, then a start as by its service: with the options it
    ran with."""
    with asking(database) as connection:
        assert connection.execute(text("show fsync")).scalar_one() == "on"
        data = Path(connection.execute(text("show data_directory")).scalar_one())
    first = int((data / "postmaster.pid").read_text(encoding="utf-8").split()[0])
    os.kill(first, signal.SIGKILL)
    program = max(
        Path("/usr/lib/postgresql").glob("*/bin/pg_ctl"), key=lambda p: float(p.parts[-3])
    )
    start = [str(program), "-D", str(data), "-s", "-w", "-l", str(data / "server.log"), "restart"]
    if os.geteuid() == 0:
        start = ["runuser", "-u", "postgres", "--", *start]
    for _ in range(60):
        # the orphans must have let go of the shared memory first
        if subprocess.run(start, cwd="/", capture_output=True, check=False).returncode == 0:
            return
        time.sleep(0.25)
    raise AssertionError("PostgreSQL did not come back")


@pytest.mark.parametrize("kill", [kill_server, kill_worker, kill_postgres, kill_whole_postgres])
def test_all_confirmed_are_there_once(
    server: Server, database: Database, kill: Callable[[Server, Database], None]
) -> None:
    with asking(database) as connection:
        revision = str(
            connection.execute(
                text("select id from revision order by released_at limit 1")
            ).scalar_one()
        )
    devices = [Device(server.address, f"d{n}").begin(revision) for n in range(DEVICES)]
    with ThreadPoolExecutor(DEVICES) as pool:
        working = [pool.submit(d.work, SECONDS, DEVICES / RATE, LEAST) for d in devices]
        time.sleep(SECONDS / 2)
        kill(server, database)
        for one in working:
            one.result()
    confirmed = [e for d in devices for e in d.confirmed]
    assert len(confirmed) >= DEVICES * LEAST
    with asking(database) as connection:
        kept = Counter(str(row[0]) for row in connection.execute(text("select id from event")))
    assert {e: kept[e] for e in confirmed} == dict.fromkeys(confirmed, 1)
    assert all(d.ask(f"/runs/{d.run}/record")["not_proven"] == "" for d in devices)


def health_counted(server: Server) -> float:
    """How often the workers together say that they were asked whether they are well."""
    with urllib.request.urlopen(f"{server.address}/metrics") as answer:
        found = answer.read().decode()
    counted = next(
        line
        for line in found.splitlines()
        if line.startswith("orthotorq_requests_total") and "/health" in line
    )
    return float(counted.split()[-1])


def test_the_figures_of_all_workers_are_one_sum(server: Server) -> None:
    before = health_counted(server)
    for _ in range(30):
        with urllib.request.urlopen(f"{server.address}/health") as answer:
            assert answer.status == 200
    assert health_counted(server) == before + 30
