"""The Bench while typing and the Run while tapping, measured in the browser from the key to the new
figure on screen."""

from __future__ import annotations

import re
import statistics
from collections.abc import Iterator
from types import SimpleNamespace

from playwright.sync_api import Page
from tests.browser.fitter import GUARD_MS, instruction, start_run, step_on

from .core import Figure
from .live import signed_in

KEYS = 50

#: from the input event until the frame in which the card shows the figure of the last key has been
#: painted
TYPING = """async ([value]) => {
  const input = document.activeElement,
    card = document.querySelector("[aria-label='Wrench setting']");
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
    const look = () => side.innerText !== before && side.querySelector('.answer, #reading')
      ? done(performance.now() - begin)
      : performance.now() - begin > 3000 ? done(NaN) : requestAnimationFrame(look);
    look();
  });
}"""


#: from the sending of a message of samples until the frame that shows it, by the one clock of this
#: machine
SAMPLES = """(() => { const add = EventSource.prototype.addEventListener; window.taken = [];
  EventSource.prototype.addEventListener = function (name, then) {
    add.call(this, name, name !== 'samples' ? then : (event) => {
      then(event);
      const { sent } = JSON.parse(event.data);
      const taken = () => window.taken.push(Date.now() - sent * 1000);
      requestAnimationFrame(() => requestAnimationFrame(taken)); }); }; })()"""


def _percentile(values: list[float], share: float) -> float:
    return sorted(values)[min(len(values) - 1, int(share * len(values)))]


def _typing(page: Page) -> list[float]:
    page.get_by_role("link", name="Channel cover").click()
    page.get_by_role("link", name="Bench").first.click()
    page.get_by_label("Pass tape, step").wait_for()
    page.get_by_role("button", name=re.compile("Torque target")).click()
    page.get_by_label("Target from").select_option("torque")
    page.locator("main").get_by_label("Torque", exact=True).focus()
    taken = []
    for i in range(KEYS):
        taken.append(page.evaluate(TYPING, [f"{400 + 2 * (i % 20) + 2} N·m"]))
        page.wait_for_timeout(60)
    return taken


def _tapping(page: Page) -> list[float]:
    page.get_by_role("link", name="Trolley wheel").click()
    page.get_by_role("button", name="Start run").first.click()
    page.get_by_role("dialog").get_by_role("button", name="Start run").click()
    page.locator(".huge").wait_for()
    taken = []
    for _ in range(30):
        page.wait_for_timeout(GUARD_MS)
        if page.locator(".huge").count():
            taken.append(page.evaluate(TAPPING))
        else:
            step_on(page)
    return taken


def _pulling(page: Page) -> list[float]:
    page.add_init_script(SAMPLES)
    start_run(SimpleNamespace(page=page), "Agitator coupling")  # type: ignore[arg-type]
    page.reload()
    while "Clicked, turned" not in instruction(page):
        step_on(page)
    page.get_by_role("button", name="More: note, change").click()
    page.get_by_role("button", name="Connect a wrench or gauge").click()
    page.get_by_role("button", name="Torque-and-angle wrench").click()
    page.get_by_role("button", name="Pull with the wrench").click()
    page.get_by_text("good ·").wait_for()
    found: list[float] = page.evaluate("window.taken")
    return found


def measure() -> Iterator[Figure]:
    """Figures of the screens."""
    with signed_in("mira") as page:
        taken = _typing(page)
    yield "Bench: key to new result, median of 50", f"{statistics.median(taken):.0f} ms", "45 ms"
    yield "Bench: key to new result, 95th percentile", f"{_percentile(taken, 0.95):.0f} ms", "80 ms"
    with signed_in("tam") as page:
        taken = _tapping(page)
    yield (
        "Run: tap to next instruction, median of 30",
        f"{statistics.median(taken):.0f} ms",
        "40 ms",
    )
    yield (
        "Run: tap to next instruction, 95th percentile",
        f"{_percentile(taken, 0.95):.0f} ms",
        "80 ms",
    )
    with signed_in("tam") as page:
        taken = _pulling(page)
    # ten messages a second: the oldest sample of one has waited nearly a tenth of a second
    yield (
        "Run: oldest sample of a pull to screen, median",
        f"{statistics.median(taken) + 90:.0f} ms",
        "under 150 ms",
    )
    yield (
        "Run: oldest sample of a pull to screen, 95th percentile",
        f"{_percentile(taken, 0.95) + 90:.0f} ms",
        "under 150 ms",
    )
