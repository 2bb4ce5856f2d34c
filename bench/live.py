"""A server over a fresh copy of the demo and a signed-in page, for measuring."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from playwright.sync_api import Page, sync_playwright
from tests.browser.conftest import CHROMIUM, CLOCK, Server
from tests.conftest import APP_ROLE, Database, drop_database, make_database

from orthotorq.demo.load import load
from orthotorq.services.schema import upgrade

FLAGS = [
    "--no-sandbox",
    "--disable-dev-shm-usage",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
]


@contextmanager
def demo_server() -> Iterator[tuple[Server, Database]]:
    """A server over a fresh copy of the demo."""
    database = make_database()
    upgrade(database.owner_url, APP_ROLE)
    sessions = database.sessions()
    with sessions.begin() as session:
        load(session, year=True)
    sessions.kw["bind"].dispose()
    server = Server(database)
    server.start()
    try:
        yield server, database
    finally:
        server.kill()
        server.figures.cleanup()
        drop_database(database)


@contextmanager
def signed_in(login: str = "mira") -> Iterator[Page]:
    """A page signed in to a server of its own."""
    with demo_server() as (server, _), sync_playwright() as play:
        browser = play.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_page(
            viewport={"width": 1280, "height": 800}, reduced_motion="reduce", locale="en-GB"
        )
        page.add_init_script(CLOCK)
        page.goto(f"{server.address}/sign-in")
        page.get_by_role("button", name=login).click()
        page.wait_for_url("**/shift")
        page.goto(f"{server.address}/equipment")
        page.get_by_role("heading", name="Equipment").wait_for()
        yield page
        browser.close()
