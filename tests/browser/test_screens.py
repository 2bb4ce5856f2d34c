"""Every screen: nothing for axe to find, room for gloves, nothing cut off when zoomed."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import pytest
from playwright.sync_api import Browser, expect

from tests.browser.conftest import Person, Server
from tests.browser.fitter import decide, fits, instruction, let_pass, open_section, step_on
from tests.browser.given import run_at

SCREENS = [
    "/sign-in",
    "/shift",
    "/due",
    "/tools",
    "TOOL",
    "MACHINE",
    "/registers",
    "/equipment",
    "/runs",
    "/sums/tool",
    "/tables",
    "/people",
    "/account",
    "/help/recheck",
    "PLAN",
    "JOINT",
    "RUN",
    "RECORD",
]
#: a desk, a tablet, a phone
SIZES = ((1280, 800), (820, 1180), (390, 844))
#: words that end at an edge without a way to read the rest
CUT = """() => [
  ...document.querySelectorAll('h1, h2, button, a, label, th, td, p, li, span, b')
].filter((e) => {
  if (!e.checkVisibility() || e.closest('[title], .sr-only, svg, figure')
    || e.querySelector('.sr-only')) return false;
  const look = getComputedStyle(e);
  return ['hidden', 'clip'].includes(look.overflowX) && e.scrollWidth > e.clientWidth + 1;
}).map((e) => e.innerText.slice(0, 60))"""


def address_of(person: Person, screen: str) -> str:
    request = person.page.request
    machines = request.get(f"{person.server.address}/api/v1/equipment").json()["items"]
    joint = next(j for m in machines for j in m["joints"] if j["kind"] == "wheel")
    if screen == "MACHINE":
        return f"/machines/{joint['equipment_id']}"
    if screen == "TOOL":
        tools = request.get(f"{person.server.address}/api/v1/tools").json()["items"]
        return f"/tools/{tools[0]['id']}"
    if screen == "PLAN":
        return f"/plans/{joint['plans'][0]['id']}"
    if screen == "JOINT":
        return f"/joints/{joint['id']}"
    if screen == "RUN":
        return f"/runs/{fresh_run(person, joint['plans'][0]['revision_id'])}"
    runs = request.get(f"{person.server.address}/api/v1/runs").json()["items"]
    return f"/runs/{next(r for r in runs if r['status'] == 'closed')['id']}/record"


def fresh_run(person: Person, revision: str) -> str:
    """A run of the wheel just started, by the fitter, whose session the page has from now on."""
    request, api = person.page.request, f"{person.server.address}/api/v1"
    token = request.get(f"{api}/session").json()["csrf"]
    signed = request.post(
        f"{api}/session",
        data={"login": "tam", "password": "saltworks"},
        headers={"X-CSRFToken": token},
    )
    made = request.post(
        f"{api}/runs",
        data={"revision": revision, "device": "desk", "variants": ["wrench"]},
        headers={"X-CSRFToken": signed.json()["csrf"]},
    )
    return str(made.json()["id"])


def test_one_signs_in_on_the_page_and_begins_with_the_shift(someone: Person) -> None:
    someone.go("/equipment")
    someone.page.wait_for_url("**/sign-in**")
    someone.page.get_by_role("button", name="tam").click()
    someone.page.wait_for_url("**/equipment")
    someone.go("/")
    someone.page.get_by_role("heading", name="Shift").wait_for()


@pytest.fixture(scope="module")
def planner(
    browser: Browser, browser_context_args: dict[str, Any], server: Server
) -> Iterator[Person]:
    """Somebody who goes from screen to screen, and has loaded the program once."""
    with browser.new_context(**browser_context_args) as context:
        yield Person(context.new_page(), server).enter("mira")


@pytest.fixture
def at_screen(request: pytest.FixtureRequest, screen: str) -> Person:
    """Somebody who has a screen open, with all that it asks for."""
    login = {"/sign-in": "", "/people": "jory", "RUN": "mira"}.get(screen)
    person: Person = request.getfixturevalue("planner" if login is None else "someone")
    if login:
        person.enter(login)
    person.go(screen if screen.startswith("/") else address_of(person, screen))
    person.page.wait_for_load_state("networkidle")
    return person


@pytest.mark.parametrize("screen", SCREENS)
def test_axe_finds_nothing_by_day_and_at_night(at_screen: Person, screen: str) -> None:
    page = at_screen.page
    if screen == "PLAN":
        open_section(page, "Torque target")
    inks = set()
    for dark in (False, True):
        page.evaluate("dark => document.documentElement.classList.toggle('dark', dark)", dark)
        # by night the inks alone are others
        assert at_screen.axe("color-contrast" if dark else "") == []
        inks.add(page.evaluate("getComputedStyle(document.querySelector('h1, h2, main')).color"))
    assert len(inks) == 2
    assert at_screen.complaints == []


@pytest.mark.parametrize("screen", SCREENS)
def test_no_word_is_cut_on_a_desk_a_tablet_and_a_phone(at_screen: Person, screen: str) -> None:
    page, wrong = at_screen.page, {}
    for width, height in SIZES:
        page.set_viewport_size({"width": width, "height": height})
        page.evaluate(
            "() => new Promise((done) => requestAnimationFrame(() => setTimeout(done, 60)))"
        )
        wide = page.evaluate("document.documentElement.scrollWidth") - width
        if wide > 0 or page.evaluate(CUT):
            wrong[width] = (wide, page.evaluate(CUT))
    page.set_viewport_size({"width": 1280, "height": 800})
    assert wrong == {}


def test_axe_finds_nothing_in_the_dialogs_of_a_run(someone: Person) -> None:
    page = someone.sign_in("tam").page
    page.get_by_role("link", name="Channel cover").first.click()
    page.get_by_role("button", name="Start run").first.click()
    page.get_by_role("dialog").get_by_role("button", name="Start run").wait_for()
    assert someone.axe() == []
    page.get_by_role("dialog").get_by_role("button", name="Start run").click()
    page.locator(".side .answer").first.wait_for()
    for key, words in (("t", "Take a photo"), ("w", "Stop pulling")):
        page.keyboard.press(key)
        page.get_by_text(words).first.wait_for()
        assert someone.axe() == []
        page.keyboard.press("Escape")
        page.locator("dialog[open]").wait_for(state="detached")
    run_at(someone, "tam", "Channel cover", "Second, 70 %")
    let_pass(page)
    page.keyboard.press("w")
    page.get_by_role("button", name="Keeps turning, does not get tight").click()
    page.get_by_role("button", name="Leave as is").wait_for()
    assert someone.axe() == []


def test_the_number_of_a_bolt_is_read_at_two_metres_and_a_decision_leads_on(
    someone: Person,
) -> None:
    someone.page.set_viewport_size({"width": 820, "height": 1180})
    page = run_at(someone, "tam", "Trolley wheel", "Snug, 40 %")
    while not ("Clicked, turned" in instruction(page) and page.locator(".figure").count()):
        step_on(page)
    assert fits(page) == []
    size = page.locator(".number").evaluate("e => parseFloat(getComputedStyle(e).fontSize)")
    # digits of this face are 0.68 of the font size; 40 mm are 208 px on a tablet of 132 px to the
    # inch
    assert size * 0.68 >= 207
    # a decision is a screen of its own, and leads on
    let_pass(page)
    page.get_by_role("button", name="Report a problem").click()
    page.get_by_role("button", name="Keeps turning, does not get tight").click()
    page.get_by_role("button", name="Leave as is").wait_for()
    assert fits(page) == []
    decide(page, "Leave as is", "the layout was measured")
    page.locator(".side .answer.huge").wait_for()


@pytest.mark.parametrize("path", ["/equipment", "PLAN", "RECORD"])
def test_zoomed_to_200_percent_nothing_is_cut_off(someone: Person, path: str) -> None:
    page = someone.page
    someone.enter("mira")
    page.set_viewport_size({"width": 640, "height": 400})
    someone.go(path if path.startswith("/") else address_of(someone, path))
    page.wait_for_load_state("networkidle")
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth + 1")


@pytest.mark.parametrize(
    "path", ["/shift", "/equipment", "/tools", "/due", "/people", "/sums", "PLAN"]
)
def test_no_page_is_wider_than_a_phone(someone: Person, path: str) -> None:
    page = someone.page
    someone.enter("jory" if path == "/people" else "mira")
    page.set_viewport_size({"width": 360, "height": 640})
    someone.go(path if path.startswith("/") else address_of(someone, path))
    page.wait_for_load_state("networkidle")
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")


def test_pages_beside_a_run_keep_the_bar_and_a_run_has_none(someone: Person) -> None:
    page = someone.sign_in("mira").page
    someone.go("/runs/files")
    expect(page.get_by_role("heading", name="Import readings and records")).to_be_visible()
    expect(page.get_by_role("link", name="Quick sums")).to_be_visible()


def test_a_table_that_is_none_is_said_and_columns_stand_at_their_decimal_sign(
    someone: Person,
) -> None:
    page = someone.sign_in("mira").page
    someone.go("/tables?table=none")
    expect(page.get_by_text("There is no such table.")).to_be_visible()
    page.get_by_role("link", name="Threads", exact=True).click()
    # the whole part of each figure is as wide as that of the widest
    cells = page.locator("tbody tr td:nth-child(6)").all_text_contents()
    wholes = {cell.index(".") for cell in cells if "." in cell}
    assert len(cells) > 5 and len(wholes) == 1
