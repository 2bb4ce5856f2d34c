"""The server under load: twenty devices at one confirmation a second, a long run opened, a thousand
plans imported."""

from __future__ import annotations

import io
import json
import statistics
import subprocess
import sys
import time
import zipfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from urllib.parse import quote

from sqlalchemy import create_engine, text
from tests.browser.conftest import Server
from tests.browser.devices import Device, event_id
from tests.conftest import Database

from orthotorq.demo.load import plan_document, plan_names
from orthotorq.services.jobs import run_worker

from .core import Figure
from .live import demo_server

DEVICES, SECONDS, EVENTS, PLANS, READINGS = 20, 30, 5000, 1000, 100_000


def revisions_of(database: Database) -> list[str]:
    """Revisions that ask for no choice of a variant."""
    engine = create_engine(database.app_url)
    with engine.connect() as connection:
        rows = connection.execute(text("select id, result from revision order by released_at"))
        found = [str(row[0]) for row in rows if not json.loads(row[1])["variants"]]
    engine.dispose()
    return found


def confirmations(server: Server, revisions: list[str], where: str = "") -> Iterator[Figure]:
    """Twenty devices at one confirmation a second, each in a run of its own."""
    devices = [
        Device(server.address, f"d{n}").begin(revisions[n % len(revisions)]) for n in range(DEVICES)
    ]
    with ThreadPoolExecutor(DEVICES) as pool:
        working = []
        for device in devices:
            working.append(pool.submit(device.work, SECONDS, 1.0))
            time.sleep(1 / DEVICES)
        for one in working:
            one.result()
    taken = sorted(t for d in devices for t in d.taken_ms[2:])
    for name, share, goal in (
        ("median", 0.5, "25 ms"),
        ("95th percentile", 0.95, "60 ms"),
        ("99th percentile", 0.99, "150 ms"),
    ):
        yield (
            f"{where}20 devices, 1/s each: confirmation, {name}",
            f"{taken[int(share * len(taken))]:.0f} ms",
            goal,
        )


def _long_run(server: Server, revision: str) -> Iterator[Figure]:
    device = Device(server.address, "long").begin(revision)
    for start in range(1, EVENTS + 1, 100):
        notes = [
            {
                **device.event(),
                "id": event_id(),
                "kind": "note",
                "step": "-",
                "payload": {"text": f"note {start + i}"},
            }
            for i in range(100)
        ]
        device.ask(
            f"/runs/{device.run}/events", {"sent_at": "2026-11-24T08:00:00Z", "events": notes}
        )
    taken = []
    for _ in range(8):
        begin = time.perf_counter()
        view = device.ask(f"/runs/{device.run}")
        taken.append((time.perf_counter() - begin) * 1e3)
    assert view["state"]["notes"] == EVENTS
    yield f"a run with {EVENTS} events opens, first", f"{taken[0]:.0f} ms", "under 150 ms"
    yield (
        f"a run with {EVENTS} events opens, median",
        f"{statistics.median(taken):.0f} ms",
        "under 150 ms",
    )


def _import(server: Server, database: Database) -> Iterator[Figure]:
    names, out = plan_names(), io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for number in range(PLANS):
            archive.writestr(
                f"{number}.json", json.dumps(plan_document(names[number % len(names)]))
            )
    device = Device(server.address, "desk", "mira")
    job = device.ask("/imports", out.getvalue())["id"]
    begin = time.perf_counter()
    run_worker(database.app_url, wait=False)
    taken = time.perf_counter() - begin
    found = device.ask(f"/jobs/{job}")
    assert (found["status"], found["imported"]) == ("done", PLANS), found
    yield f"import of {PLANS} plans", f"{taken:.1f} s", "under 60 s"


#: the work of one job in a process of its own, which tells its peak of memory [kB]; what getrusage
#: tells begins with the parent
WORK = """import sys
from orthotorq.services.jobs import run_worker
run_worker(sys.argv[1], wait=False)
print(next(line.split()[1] for line in open("/proc/self/status") if line.startswith("VmHWM")))"""


def _readings(server: Server, database: Database) -> Iterator[Figure]:
    device = Device(server.address, "desk", "mira")
    number = next(
        r["number"] for r in device.ask("/runs")["items"] if r["joint_name"] == "Channel cover"
    )
    rows = "".join(
        (
            f"{number},1,{100 + i % 50},{i % 90},2026-11-{1 + i % 28:02d} "
            f"10:{i // 60 % 60:02d}:{i % 60:02d},W-{i}\n"
        )
        for i in range(READINGS)
    )
    how = quote(
        json.dumps(
            {
                "columns": {"run": 0, "bolt": 1, "torque": 2, "angle": 3, "time": 4, "serial": 5},
                "units": {"torque": "N·m", "angle": "deg"},
            }
        )
    )
    job = device.ask(
        f"/readings?how={how}", ("run,bolt,torque,angle,time,serial\n" + rows).encode()
    )["id"]
    begin = time.perf_counter()
    done = subprocess.run(
        [sys.executable, "-c", WORK, database.app_url], capture_output=True, text=True, check=True
    )
    taken = time.perf_counter() - begin
    found = device.ask(f"/jobs/{job}")
    assert (found["status"], found["imported"]) == ("done", READINGS), found["errors"][:3]
    peak = int(done.stdout.split()[-1]) / 1e3
    yield f"{READINGS} readings read in", f"{taken:.1f} s", "under 15 s"
    yield f"{READINGS} readings read in, peak of the process", f"{peak:.0f} MB", "under 200 MB"


def measure() -> Iterator[Figure]:
    """Figures of the server."""
    with demo_server() as (server, database):
        revisions = revisions_of(database)
        yield from confirmations(server, revisions)
        yield from _long_run(server, revisions[0])
        yield from _readings(server, database)
        yield from _import(server, database)
