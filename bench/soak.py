"""Twenty tablets for ten minutes, the last part of it with everything killed that can be: `./torq
soak [MINUTES]`."""

from __future__ import annotations

import statistics
import time
import urllib.error
import urllib.request
from collections import Counter
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from sqlalchemy import create_engine, text
from tests.browser.conftest import Server
from tests.browser.devices import Device
from tests.browser.test_killed import kill_postgres, kill_server, kill_whole_postgres, kill_worker
from tests.conftest import Database, superuser_url

from orthotorq.services.running.verify_at_once import verify_database

from .core import Figure
from .live import demo_server
from .server import revisions_of

DEVICES, MINUTES = 20, 10.0
#: this share of the time passes without a kill: memory is compared within it
QUIET = 0.6
KILLS: tuple[Callable[[Server, Database], None], ...] = (
    kill_worker,
    kill_server,
    kill_postgres,
    kill_whole_postgres,
)
SLOWEST = """SELECT round(mean_exec_time::numeric, 1), calls, regexp_replace(query, '\\s+', ' ',
  'g') FROM pg_stat_statements
             WHERE calls > 20 AND query NOT ILIKE '%pg_stat%'
               ORDER BY mean_exec_time DESC LIMIT 5"""


def _workers(server: Server) -> list[int]:
    assert server.process is not None
    master = server.process.pid
    return [
        int(one)
        for one in Path(f"/proc/{master}/task/{master}/children")
        .read_text(encoding="utf-8")
        .split()
    ]


def _memory_mb(pid: int) -> float:
    """Memory of a process that is its own, in MB."""
    lines = Path(f"/proc/{pid}/smaps_rollup").read_text(encoding="utf-8").splitlines()
    return sum(float(line.split()[1]) for line in lines if line.startswith("Private_")) / 1024


def _well(server: Server) -> bool:
    try:
        with urllib.request.urlopen(f"{server.address}/health", timeout=1) as answer:
            return bool(answer.status == 200)
    except (urllib.error.URLError, OSError):
        return False


def _kills(server: Server, database: Database, until: float) -> Iterator[Figure]:
    pause = (until - time.monotonic()) / (len(KILLS) + 1)
    for kill in KILLS:
        time.sleep(pause)
        began = time.monotonic()
        kill(server, database)
        time.sleep(0.2)
        while not _well(server):
            time.sleep(0.1)
        yield (
            f"back after {kill.__name__.replace('_', ' ')}",
            f"{time.monotonic() - began:.1f} s",
            "10 s",
        )


def _memory(server: Server, seconds: float) -> Iterator[Figure]:
    """Each worker over the quiet part: the second fifth against the last one."""
    taken: dict[int, list[float]] = {pid: [] for pid in _workers(server)}
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        for pid, values in taken.items():
            values.append(_memory_mb(pid))
        time.sleep(2)
    for number, values in enumerate(taken.values(), 1):
        fifth = max(1, len(values) // 5)
        first, last = (
            statistics.median(values[fifth : 2 * fifth] or values),
            statistics.median(values[-fifth:]),
        )
        grown = f"{first:.0f}, {last:.0f} MB, {last / first - 1:+.1%}"
        yield f"memory of worker {number}: early, late, growth", grown, "10 %"


def _slowest(database: Database) -> Iterator[Figure]:
    engine = create_engine(superuser_url().set(database=database.name))
    with engine.connect() as connection:
        for mean, calls, query in connection.execute(text(SLOWEST)):
            yield f"slow: {query[:55]}", f"{mean} ms x {calls}", "-"
    engine.dispose()


def _proved(database: Database, devices: list[Device]) -> Iterator[Figure]:
    confirmed = [one for device in devices for one in device.confirmed]
    sessions = database.sessions()
    with sessions() as session:
        kept = Counter(str(row[0]) for row in session.execute(text("select id from event")))
    with sessions() as session:
        began = time.perf_counter()
        walked = verify_database(session, database.app_url)
        took = time.perf_counter() - began
    sessions.kw["bind"].dispose()
    yield (
        "confirmed, lost, doubled",
        (
            f"{len(confirmed)}, {sum(kept[one] == 0 for one in confirmed)}, "
            f"{sum(kept[one] > 1 for one in confirmed)}"
        ),
        "0, 0",
    )
    yield "chains that do not hold", str(len(walked.breaks)), "0"
    yield "verify, so many entries", f"{took:.1f} s, {walked.entries}", "-"


def _taken(devices: list[Device], when: str) -> Iterator[Figure]:
    """How long confirmations took until now."""
    taken = sorted(ms for device in devices for ms in device.taken_ms)
    shares = " / ".join(f"{taken[int(share * len(taken))]:.0f}" for share in (0.5, 0.95, 0.99))
    yield f"confirmation, 50, 95, 99 % of them, {when}", f"{shares} ms", "25 / 60 / 150 ms"


def measure(minutes: float = MINUTES) -> Iterator[Figure]:
    """Tablets, kills, and what is left of it."""
    with demo_server() as (server, database):
        engine = create_engine(
            superuser_url().set(database=database.name), isolation_level="AUTOCOMMIT"
        )
        with engine.connect() as connection:
            connection.execute(text("CREATE EXTENSION IF NOT EXISTS pg_stat_statements"))
        engine.dispose()
        revisions, seconds = revisions_of(database), minutes * 60
        devices = [
            Device(server.address, f"d{n}").begin(
                *(revisions[n % len(revisions) :] + revisions[: n % len(revisions)])
            )
            for n in range(DEVICES)
        ]
        until = time.monotonic() + seconds
        with ThreadPoolExecutor(DEVICES) as pool:
            working = []
            for one in devices:
                working.append(pool.submit(one.work, seconds, 1.0))
                # people do not tap all at the same moment
                time.sleep(1 / DEVICES)
            yield from _memory(server, seconds * QUIET)
            yield from _taken(devices, "quiet part")
            yield from _slowest(database)
            yield from _kills(server, database, until)
            for done in working:
                done.result()
        yield from _taken(devices, "kills and all")
        yield from _proved(database, devices)
