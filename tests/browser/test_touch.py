"""What a finger presses is 48 px wide and high, on every screen of a phone."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser

from tests.browser.conftest import Person, Server
from tests.browser.test_screens import SCREENS, address_of

#: controls that are smaller than a finger, with their size; a link is also hit around its line, a
#: box on its label
SMALL = """() => [
  ...document.querySelectorAll('button, a, input, select, textarea, summary')
].flatMap((e) => {
  if (!e.checkVisibility() || e.closest('.sr-only') || !e.getBoundingClientRect().width) return [];
  const sizes = [e, ...(e.labels ?? [])].map((one) => one.getBoundingClientRect());
  const around = getComputedStyle(e, '::after');
  const size = (name) => Math.max(
    ...sizes.map((box) => box[name]),
    around.position === 'absolute' ? parseFloat(around[name]) : 0,
  );
  return Math.min(size('width'), size('height')) < 47.5
    ? [`${e.tagName} ${e.innerText || e.ariaLabel || e.value} ${size('width')}x${size('height')}`]
      : [];
})"""


@pytest.fixture(scope="module")
def phone(browser: Browser, server: Server) -> Iterator[Person]:
    """Somebody with a phone."""
    with browser.new_context(
        viewport={"width": 390, "height": 844}, has_touch=True, is_mobile=True, locale="en-GB"
    ) as context:
        yield Person(context.new_page(), server)


@pytest.mark.parametrize("screen", SCREENS)
def test_what_is_pressed_has_the_size_of_a_finger(phone: Person, screen: str) -> None:
    if screen == "/sign-in":
        phone.page.context.clear_cookies()
    else:
        phone.enter("jory" if screen == "/people" else "mira")
    phone.go(screen if screen.startswith("/") else address_of(phone, screen))
    phone.page.wait_for_load_state("networkidle")
    assert phone.page.evaluate(SMALL) == []
