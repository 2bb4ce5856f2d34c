"""Takes the pictures in docs/screenshots from a fresh copy of the demo: `./torq bench pictures`."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path

from playwright.sync_api import Page
from tests.browser.fitter import GUARD_MS, SAVED, open_section, whole_round, work_until
from tests.browser.test_measuring import A_PULL, WRENCH, connect, pull

from .core import Figure
from .live import signed_in

FOLDER = Path(__file__).parents[1] / "docs" / "screenshots"


def _take(page: Page, name: str) -> Figure:
    page.wait_for_load_state("networkidle")
    page.wait_for_function("() => document.getAnimations().length === 0")
    page.screenshot(path=FOLDER / f"{name}.png")
    return f"docs/screenshots/{name}.png", "taken", "-"


def _planner(page: Page) -> Iterator[Figure]:
    page.get_by_role("link", name="Bench").first.wait_for()
    yield _take(page, "equipment")
    page.get_by_role("link", name="Channel cover").click()
    page.get_by_text("What clears it").first.wait_for()
    page.get_by_role("link", name="Open record").first.wait_for()
    yield _take(page, "joint")
    page.get_by_role("link", name="Bench").first.click()
    page.get_by_label("Pass tape, step").wait_for()
    page.get_by_label("Pass tape, step").focus()
    for _ in range(54):
        page.keyboard.press("ArrowRight")
    page.evaluate("document.activeElement.blur()")
    yield _take(page, "bench")
    page.keyboard.press("w")
    page.locator("dialog .katex").first.wait_for()
    yield _take(page, "working")
    page.keyboard.press("Escape")
    page.locator("dialog[open]").wait_for(state="detached")
    yield from _manual(page)
    page.goto(re.sub(r"/plans/.*", "/sums/tool", page.url))
    page.locator("dl").wait_for()
    yield _take(page, "sums")
    page.goto(re.sub(r"/sums/.*", "/tables", page.url))
    page.get_by_role("table").first.wait_for()
    yield _take(page, "tables")


def _manual(page: Page) -> Iterator[Figure]:
    """A line of a manual read, and the versions of a plan."""
    page.get_by_role("button", name="Compare revisions").click()
    page.get_by_role("dialog").get_by_text("Revision 1", exact=True).wait_for()
    yield _take(page, "versions")
    page.get_by_role("dialog").get_by_role("button", name="Close").last.click()
    page.locator("dialog[open]").wait_for(state="detached")
    open_section(page, "Torque target")
    page.get_by_role("button", name="From a manual").click()
    page.get_by_label("Text from the manual").fill(
        "Torque to 440 N·m (325 ft-lb) in three steps crosswise, then one round clockwise; "
        "recheck when cold after 10 cycles"
    )
    page.get_by_role("button", name="Read text").click()
    page.get_by_text("Not used").scroll_into_view_if_needed()
    yield _take(page, "manual")


def _wrench(page: Page) -> Iterator[Figure]:
    """A run with the measuring wrench."""
    page.goto(re.sub(r"/runs.*", "/equipment", page.url))
    page.get_by_role("link", name="Agitator coupling").click()
    page.get_by_role("button", name="Start run").first.click()
    page.get_by_role("dialog").get_by_role("button", name="Start run").click()
    page.locator(".side .answer").first.wait_for()
    work_until(page, A_PULL)
    connect(page, WRENCH)
    pull(page)
    # the answer of the wrench is judged by the server first
    page.get_by_text(re.compile("bolt 1: good")).first.wait_for()
    page.locator(".side .answer").first.wait_for()
    yield _take(page, "wrench")


def _fitter(page: Page) -> Iterator[Figure]:
    page.get_by_role("link", name="Channel cover").click()
    page.get_by_role("button", name="Start run").first.click()
    page.get_by_role("dialog").get_by_role("button", name="Start run").wait_for()
    page.get_by_role("dialog").get_by_role("button", name="Start run").click()
    page.locator(".side .answer").first.wait_for()
    work_until(page, "First, 35 %")
    whole_round(page)
    whole_round(page)
    work_until(page, "6th of")
    page.wait_for_function(SAVED)
    yield _take(page, "run")
    page.set_viewport_size({"width": 390, "height": 844})
    yield _take(page, "run-phone")
    page.set_viewport_size({"width": 1280, "height": 800})
    page.evaluate("document.documentElement.classList.add('dark')")
    yield _take(page, "run-night")
    page.evaluate("document.documentElement.classList.remove('dark')")
    page.wait_for_timeout(GUARD_MS)
    page.keyboard.press("w")
    page.get_by_role("button", name="Keeps turning, does not get tight").click()
    page.get_by_role("button", name="Leave as is").wait_for()
    yield _take(page, "decision")
    page.goto(re.sub(r"/runs/.*", "/runs", page.url))
    page.get_by_role("row").filter(has_text="Close the channel cover").filter(
        has_text="signed and closed"
    ).last.get_by_role("link").click()
    page.get_by_text("Unchanged since").wait_for()
    yield _take(page, "record")


def _chief(page: Page) -> Iterator[Figure]:
    """Shift, calendar, a wrench that failed and what it has touched, meters, the line of a
    joint."""
    home = page.url.rpartition("/equipment")[0]
    for address, name in (("/shift", "shift"), ("/due", "calendar")):
        page.goto(home + address)
        page.get_by_role("heading", level=1).wait_for()
        yield _take(page, name)
    page.goto(f"{home}/tools")
    page.get_by_role("link", name="TW-05").click()
    page.get_by_role("heading", name="Bolts tightened with it").wait_for()
    page.get_by_role("heading", name="Error over the range").wait_for()
    yield _take(page, "tool")
    page.goto(f"{home}/equipment")
    page.get_by_role("link", name="Salt trolley 3").click()
    page.get_by_text("km a day").wait_for()
    yield _take(page, "meter")


def _administrator(page: Page) -> Iterator[Figure]:
    page.goto(page.url.replace("/equipment", "/people"))
    page.get_by_role("button", name="Change Tam Hollis").click()
    page.evaluate("document.activeElement.blur()")
    yield _take(page, "people")


def measure() -> Iterator[Figure]:
    """Every main view."""
    FOLDER.mkdir(parents=True, exist_ok=True)
    with signed_in("mira") as page:
        yield from _planner(page)
    with signed_in("runa") as page:
        yield from _chief(page)
    with signed_in("jory") as page:
        yield from _administrator(page)
    with signed_in("tam") as page:
        yield from _fitter(page)
        yield from _wrench(page)
