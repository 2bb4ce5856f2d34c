"""A simulated wrench and gauges at the Run screen: the curve, the answer, the stop, and what
happens when it is cut off."""

from __future__ import annotations

import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import Person
from tests.browser.fitter import decide, fits, instruction, let_pass, work_until
from tests.browser.given import run_at

#: a pass and an inspection of the coupling
A_PULL, A_LENGTH = "Snug torque", "Gap between the halves"
WRENCH = "Torque-and-angle wrench (simulated)"


def connect(page: Page, device: str) -> None:
    """Take a device."""
    let_pass(page)
    page.get_by_role("button", name="More: note, change").click()
    page.get_by_role("button", name="Connect a wrench or gauge").click()
    page.get_by_role("button", name=device).click()
    page.locator("dialog[open]").wait_for(state="detached")


def pull(page: Page) -> None:
    """Pull and wait until the wrench has answered."""
    before = instruction(page)
    let_pass(page)
    page.get_by_role("button", name="Pull with the wrench").click()
    page.wait_for_function(
        "b => !document.querySelector('.side').innerText.includes('Measuring')", arg=before
    )


def test_the_wrench_answers_the_step_and_a_bad_pull_stops_the_run(someone: Person) -> None:
    page = run_at(someone, "tam", "Agitator coupling", A_PULL)
    connect(page, WRENCH)
    side = page.locator(".side")
    pull(page)
    expect(side).to_contain_text(re.compile(r"bolt 1: good · \d"))
    expect(side).to_contain_text("40°")
    assert page.locator(".u-over").count() == 1
    # a remote's key pulls
    let_pass(page)
    page.get_by_label("The joint is").select_option("bottomed")
    page.get_by_role("heading").first.click() if page.get_by_role(
        "heading"
    ).count() else page.locator(".number").first.click()
    page.keyboard.press("Space")
    expect(side).to_contain_text("too little turn for this torque")
    expect(page.get_by_role("button", name="Leave as is, with a reason")).to_be_visible()
    assert fits(page) == []
    decide(page, "Leave as is", "the thread is looked at tonight")
    page.goto(f"{page.url}/record")
    expect(page.get_by_role("heading", name="Measured pulls")).to_be_visible()
    expect(page.locator(".u-over")).to_be_visible()
    page.get_by_label("Which").select_option(label="Angle, first 40°")
    expect(
        page.get_by_text(re.compile("Bolt 1, Angle, first 40°: too little turn")).first
    ).to_be_visible()
    assert someone.axe() == []


SIZES = ((360, 640), (390, 664), (844, 390), (820, 1180), (1280, 800))


def wrong_at(page: Page) -> list[str]:
    """What does not fit, on every size of screen."""
    out = []
    for width, height in SIZES:
        page.set_viewport_size({"width": width, "height": height})
        page.evaluate(
            "() => new Promise((after) => requestAnimationFrame(() => "
            "requestAnimationFrame(after)))"
        )
        out += [f"{width}x{height}: {found}" for found in fits(page)]
    return out


def test_with_a_wrench_at_hand_everything_still_fits(someone: Person) -> None:
    page = run_at(someone, "tam", "Agitator coupling", A_PULL)
    connect(page, WRENCH)
    page.get_by_role("button", name="Pull with the wrench").wait_for()
    assert wrong_at(page) == []
    pull(page)
    expect(page.locator(".side")).to_contain_text("good ·")
    expect(page.locator(".side")).to_contain_text("40°")
    instruction(page)
    page.locator(".u-over").wait_for()
    assert wrong_at(page) == []


def test_a_gauge_fills_in_the_reading_and_a_click_wrench_leaves_the_answer(someone: Person) -> None:
    page = run_at(someone, "tam", "Agitator coupling", A_LENGTH)
    instruction(page)
    connect(page, "Length gauge (simulated)")
    page.get_by_role("button", name="Read the gauge").click()
    expect(page.locator("#reading")).to_have_value(re.compile(r"^\d+\.\d\d mm$"))
    let_pass(page)
    page.locator("#reading").press("Enter")
    run_at(someone, "tam", "Agitator coupling", A_PULL)
    connect(page, "Click wrench with switch (simulated)")
    stood = instruction(page)
    pull(page)
    expect(page.locator(".side")).to_contain_text("It clicked.")
    assert instruction(page).splitlines()[0] == stood.splitlines()[0]


def test_a_wrench_that_is_cut_off_in_the_middle_leaves_nothing(
    someone: Person, server: Any
) -> None:
    page = run_at(someone, "tam", "Agitator coupling", A_PULL)
    connect(page, WRENCH)
    stood = instruction(page).splitlines()[0]
    let_pass(page)
    page.get_by_role("button", name="Pull with the wrench").click()
    page.locator(".u-over").wait_for()
    server.kill()
    expect(page.get_by_role("alert")).to_contain_text("cut off before the pull ended")
    server.start()
    assert instruction(page).splitlines()[0] == stood
    pull(page)
    expect(page.locator(".side")).to_contain_text("40°")
    someone.complaints.clear()


@pytest.mark.parametrize(("width", "height"), [(390, 664), (820, 1180)])
def test_a_thumb_types_a_reading_on_large_keys(
    new_context: Any, server: Any, width: int, height: int
) -> None:
    person = Person(new_context(has_touch=True).new_page(), server)
    person.page.set_viewport_size({"width": width, "height": height})
    page = run_at(person, "tam", "Agitator coupling", A_LENGTH)
    pad = page.get_by_role("group", name="Number pad")
    expect(page.locator("#reading")).to_have_attribute("inputmode", "none")
    for key in "0.047":
        pad.get_by_role("button", name=key, exact=True).tap()
    pad.get_by_role("button", name="Undo last entry").tap()
    expect(page.locator("#reading")).to_have_value("0.04")
    assert fits(page) == []
    sizes = pad.get_by_role("button").evaluate_all(
        "all => all.map(e => Math.min(e.offsetWidth, e.offsetHeight))"
    )
    assert len(sizes) == 16 and min(sizes) >= 56
    let_pass(page)
    page.get_by_role("button", name="Enter", exact=True).tap()
    expect(page.locator("#reading")).to_have_count(0)


def test_the_end_of_a_wait_is_set_when_it_begins(someone: Person) -> None:
    someone.page.add_init_script("""window.set = []; const start = OscillatorNode.prototype.start;
        OscillatorNode.prototype.start = function (at) { set.push(at - this.context.currentTime);
          return start.call(this, at); };
        localStorage.setItem('orthotorq-cues', '{"sound": true}')""")
    page = run_at(someone, "tam", "Pump casing", "Seating torque")
    work_until(page, "Threadlocker sets")
    page.wait_for_function("window.set.some((seconds) => seconds > 1700 && seconds < 1805)")
