"""The Bench while typing and the Run while tapping, measured in the browser from the key to the new figure on screen."""
from __future__ import annotations

import re
import statistics
from collections.abc import Iterator

from playwright.sync_api import Page
from tests.browser.fitter import step_on

from .core import Figure
from .live import signed_in

KEYS = 50

#: from the input event until the frame in which the card shows the figure of the last key has been painted
TYPING = """async ([value]) => {
  const input = document.activeElement, card = document.querySelector("[aria-label='Wrench setting']");
  const before = card.textContent, begin = performance.now();
  return await new Promise((done) => {
    const painted = new MessageChannel();
    painted.port1.onmessage = () => done(performance.now() - begin);
    const watch = new MutationObserver(() => {
      if (card.textContent === before) return;
      watch.disconnect();
      requestAnimationFrame(() => painted.port2.postMessage(0));
    });
    watch.observe(card, { subtree: true, childList: true, characterData: true });
    setTimeout(() => done(NaN), 3000);
    const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
    set.call(input, value); input.dispatchEvent(new InputEvent('input', { bubbles: true }));
  });
}"""
TAPPING = """async () => {
  const side = document.querySelector('.side'), before = side.innerText, begin = performance.now();
  document.querySelector('.huge').click();
  return await new Promise((done) => {
    const look = () => side.innerText !== before && side.querySelector('.answer, #reading') ? done(performance.now() - begin)
      : performance.now() - begin > 3000 ? done(NaN) : requestAnimationFrame(look);
    look();
  });
}"""


def _percentile(values: list[float], share: float) -> float:
    return sorted(values)[min(len(values) - 1, int(share * len(values)))]


def _typing(page: Page) -> list[float]:
    page.get_by_role("link", name="Channel cover").click()
    page.get_by_role("link", name="Bench").first.click()
    page.get_by_text("Pass tape").wait_for()
    page.get_by_role("button", name=re.compile("Find the figure")).click()
    page.get_by_label("Target comes from").select_option("torque")
    page.locator("main input").and_(page.get_by_label(re.compile("^Torque"))).first.focus()
    taken = []
    for i in range(KEYS):
        taken.append(page.evaluate(TYPING, [f"{400 + 2 * (i % 20) + 2} N·m"]))
        page.wait_for_timeout(60)
    return taken


def _tapping(page: Page) -> list[float]:
    page.get_by_role("link", name="Trolley wheel").click()
    page.get_by_role("button", name="Start a run").click()
    page.get_by_role("button", name="Begin").click()
    page.locator(".huge").wait_for()
    taken = []
    for _ in range(30):
        page.wait_for_timeout(280)
        if page.locator(".huge").count():
            taken.append(page.evaluate(TAPPING))
        else:
            step_on(page)
    return taken


def measure() -> Iterator[Figure]:
    """Figures of the screens."""
    with signed_in("mira") as page:
        taken = _typing(page)
    yield "Bench: key to new result, median of 50", f"{statistics.median(taken):.0f} ms", "60 ms"
    yield "Bench: key to new result, 95th percentile", f"{_percentile(taken, 0.95):.0f} ms", "120 ms"
    with signed_in("tam") as page:
        taken = _tapping(page)
    yield "Run: tap to next instruction, median of 30", f"{statistics.median(taken):.0f} ms", "80 ms"
