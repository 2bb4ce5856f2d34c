"""A real server over a copy of the demo, and a real Chromium from Debian."""

from __future__ import annotations

import os
import random
import signal
import socket
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import suppress
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from tests.conftest import Database, drop_database, make_database

ROOT = Path(__file__).parents[2]
#: Debian's, without the parts of a window where that is there
CHROMIUM = next(
    (
        one
        for one in ("/usr/bin/chromium-headless-shell", "/usr/bin/chromium")
        if Path(one).exists()
    ),
    "/usr/bin/chromium",
)
#: so long something may take on a slow machine that does other work beside it; no test is about how
#: long
PATIENCE_MS = 45_000
expect.set_options(timeout=PATIENCE_MS)
AXE = ROOT / "frontend" / "node_modules" / "axe-core" / "axe.min.js"


def free_port() -> int:
    """A port of the loopback that is free now, below those that outgoing connections are given:
    else a client that asks a server just ended might be connected to itself, and hold the server's
    port."""
    for port in random.SystemRandom().sample(range(20_000, 30_000), 50):
        with socket.socket() as opened, suppress(OSError):
            opened.bind(("127.0.0.1", port))
            return port
    raise RuntimeError("no free port")


class Server:
    """gunicorn with two workers; can be killed and started again on the same port."""

    def __init__(self, database: Database) -> None:
        self.database = database
        self.port = free_port()
        self.figures = tempfile.TemporaryDirectory(prefix="orthotorq-test-")
        self.address = f"http://127.0.0.1:{self.port}"
        self.environment = {
            **os.environ,
            "ORTHOTORQ_DATABASE_URL": database.app_url,
            "ORTHOTORQ_FRONTEND": str(ROOT / "frontend" / "build"),
            "ORTHOTORQ_PORT": str(self.port),
            "ORTHOTORQ_WORKERS": "2",
            # one test's run is not in the way of another's
            "ORTHOTORQ_SEVERAL_RUNS": "1",
            "PROMETHEUS_MULTIPROC_DIR": self.figures.name,
        }
        self.process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        """Start and wait until it is well."""
        self.process = subprocess.Popen(
            [
                Path(sys.executable).with_name("gunicorn"),
                "-c",
                "python:orthotorq.serving",
                "--log-level",
                "error",
            ],
            env=self.environment,
            cwd=ROOT,
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
            start_new_session=True,
        )
        until = time.monotonic() + 90
        while time.monotonic() < until:
            try:
                with urllib.request.urlopen(f"{self.address}/health", timeout=1) as answer:
                    if answer.status == 200:
                        return
            except (urllib.error.URLError, OSError):
                time.sleep(0.1)
        raise RuntimeError("the server did not start")

    def ensure(self) -> None:
        """Start again what a test that failed has left dead, so that it fails alone."""
        if self.process is None or self.process.poll() is not None:
            self.start()

    def kill(self) -> None:
        """kill -9 of the master and its workers."""
        assert self.process is not None
        with suppress(ProcessLookupError):
            os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait()


@pytest.fixture(scope="session")
def one_server(template: Database) -> Iterator[Server]:
    """What takes seconds to start, started once, over a database that every module finds as new."""
    database = make_database(template.name)
    made = Server(database)
    made.start()
    yield made
    made.kill()
    made.figures.cleanup()
    drop_database(database).result()


@pytest.fixture(scope="module")
def database(one_server: Server, template: Database) -> Database:
    """The demo as it was, in the place of what another module left: the server finds its
    connections gone, and makes new ones."""
    drop_database(one_server.database).result()
    return make_database(template.name, one_server.database.name)


@pytest.fixture(scope="module")
def server(one_server: Server, database: Database) -> Server:
    one_server.ensure()
    return one_server


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, Any]:
    return {
        "executable_path": CHROMIUM,
        "args": [
            "--no-sandbox",
            "--disable-dev-shm-usage",
            "--disable-gpu",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--no-first-run",
        ],
    }


@pytest.fixture(scope="session")
def browser_context_args() -> dict[str, Any]:
    return {
        "viewport": {"width": 1280, "height": 800},
        "reduced_motion": "reduce",
        "locale": "en-GB",
        "timezone_id": "UTC",
        # the shell is kept where a test is about that; elsewhere it only costs time
        "service_workers": "block",
    }


#: the clock that guards against taps too soon; tests set it on instead of waiting
CLOCK = """(() => {
    const real = performance.now.bind(performance);
    let ahead = 0;
    performance.now = () => real() + ahead;
    window.letPass = ms => { ahead += ms; };
})()"""


#: of what is well only how much it is: all of it in full would take longer than the looking
AXE_RUN = """only => axe.run(document, { runOnly: only, resultTypes: ['violations'] }).then(({
  passes, violations }) => [
    passes.length, violations.map(({ id, nodes: [one] }) =>
        `${id}: ${one.html.slice(0, 160)} ${one.failureSummary.slice(0, 200)}`)])"""


class Person:
    """Somebody at a page."""

    def __init__(self, page: Page, server: Server) -> None:
        self.page, self.server = page, server
        self.complaints: list[str] = []
        page.set_default_timeout(PATIENCE_MS)
        page.add_init_script(CLOCK)
        page.on("pageerror", lambda error: self.complaints.append(str(error)))
        page.on(
            "console",
            lambda m: (
                self.complaints.append(m.text)
                if m.type == "error" and "Content" in m.text
                else None
            ),
        )

    def enter(self, login: str) -> Person:
        """Sign in, without the page for it."""
        address, ask = f"{self.server.address}/api/v1/session", self.page.request
        token = {"X-CSRFToken": ask.get(address).json()["csrf"]}
        assert ask.post(address, data={"login": login, "password": "saltworks"}, headers=token).ok
        return self

    def sign_in(self, login: str) -> Person:
        """Sign in and look at the equipment."""
        self.enter(login)
        self.go("/equipment")
        self.page.get_by_role("heading", name="Equipment").wait_for()
        return self

    def go(self, path: str) -> None:
        """Open an address."""
        self.page.goto(f"{self.server.address}{path}")

    def settled(self) -> None:
        """Wait until nothing moves any more."""
        self.page.wait_for_function("() => document.getAnimations().length === 0")

    def axe(self, only: str = "") -> list[str]:
        """What axe finds on the page, or one rule of it."""
        self.settled()
        if not self.page.evaluate("'axe' in window"):
            self.page.evaluate(AXE.read_text(encoding="utf-8"))
        rules = [only] if only else ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]
        looked, wrong = self.page.evaluate(AXE_RUN, rules)
        assert looked, "nothing was looked at"
        return list(wrong)


@pytest.fixture
def someone(page: Page, server: Server) -> Iterator[Person]:
    server.ensure()
    made = Person(page, server)
    yield made
    assert made.complaints == []


@pytest.fixture
def another(new_context: Callable[..., Any], server: Server) -> Callable[[], Person]:
    return lambda: Person(new_context().new_page(), server)
