"""Takes the pictures in docs/screenshots from a fresh copy of the demo: `./torq bench pictures`."""
from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path

from playwright.sync_api import Page

from .core import Figure
from .live import signed_in

FOLDER = Path(__file__).parents[1] / "docs" / "screenshots"


def _take(page: Page, name: str) -> Figure:
    page.wait_for_load_state("networkidle")
    page.wait_for_function("document.getAnimations().length === 0")
    page.screenshot(path=FOLDER / f"{name}.png")
    return f"docs/screenshots/{name}.png", "taken", "-"


def _planner(page: Page) -> Iterator[Figure]:
    yield _take(page, "equipment")
    page.get_by_role("link", name="Channel cover").click()
    page.get_by_role("button", name="Begin").wait_for()
    yield _take(page, "joint")
    page.get_by_role("link", name="Bench").first.click()
    page.get_by_text("Pass tape").wait_for()
    page.get_by_label("Pass tape, step").focus()
    for _ in range(54):
        page.keyboard.press("ArrowRight")
    page.evaluate("document.activeElement.blur()")
    yield _take(page, "bench")
    page.keyboard.press("w")
    page.locator("dialog .katex").first.wait_for()
    yield _take(page, "working")
    page.goto(re.sub(r"/plans/.*", "/sums/tool", page.url))
    page.locator("dl").wait_for()
    yield _take(page, "sums")


def _to_the_sixth_bolt(page: Page) -> None:
    for _ in range(120):
        words = page.locator(".side").inner_text()
        if "Full, 100 %" in words and "bolt 6 of" in words:
            return
        page.wait_for_timeout(260)
        if page.locator("#reading").count():
            page.fill("#reading", "0.2")
            page.keyboard.press("Enter")
        else:
            page.keyboard.press("Space")
        page.wait_for_function("w => document.querySelector('.side').innerText !== w", arg=words)


def _fitter(page: Page) -> Iterator[Figure]:
    page.get_by_role("link", name="Channel cover").click()
    page.get_by_role("button", name="Start a run").click()
    page.locator(".huge").wait_for()
    _to_the_sixth_bolt(page)
    yield _take(page, "run")
    page.set_viewport_size({"width": 820, "height": 1180})
    yield _take(page, "run-tablet")
    page.set_viewport_size({"width": 390, "height": 844})
    yield _take(page, "run-phone")
    page.set_viewport_size({"width": 1280, "height": 800})
    page.evaluate("document.documentElement.classList.add('dark')")
    yield _take(page, "run-night")
    page.evaluate("document.documentElement.classList.remove('dark')")
    page.goto(re.sub(r"/runs/.*", "/runs", page.url))
    page.get_by_role("link", name="401").click()
    page.get_by_text("it holds").wait_for()
    yield _take(page, "record")


def measure() -> Iterator[Figure]:
    """Every main view."""
    FOLDER.mkdir(parents=True, exist_ok=True)
    with signed_in("mira") as page:
        yield from _planner(page)
    with signed_in("tam") as page:
        yield from _fitter(page)
        page.goto(re.sub(r"/runs/.*", "/sign-in", page.url))
        page.get_by_text("Demo: Vellmark Saltworks").wait_for()
        yield _take(page, "sign-in")
