"""A mistake that is told by one tap, a run that was ended early and goes on in other hands, a bolt
that tells its story."""

from __future__ import annotations

from collections.abc import Callable

from playwright.sync_api import expect

from tests.browser.conftest import Person
from tests.browser.fitter import instruction, let_pass, press_on
from tests.browser.given import run_at


def test_another_bolt_is_told_by_one_tap_and_named_from_a_list(someone: Person) -> None:
    page = run_at(someone, "tam", "Channel cover", "First, 35 %")
    press_on(page)
    stood = instruction(page).splitlines()[0]
    page.get_by_role("button", name="Report a problem").click()
    page.get_by_role("button", name="It was another bolt").click()
    side = page.locator(".side")
    expect(side).to_contain_text("another bolt was pulled. Which bolt?")
    bolts = page.locator(".side button", has_text="Bolt")
    numbers = [int(words.split()[1]) for words in bolts.all_inner_texts()]
    assert numbers == sorted(numbers) and len(numbers) == 15, (
        "as they are numbered, without the one that was asked"
    )
    assert someone.axe() == []
    page.get_by_role("button", name="Bolt 3", exact=True).click()
    expect(side).to_contain_text("Again")
    assert instruction(page).splitlines()[0].startswith(stood)
    expect(side).to_contain_text("bolt 3 · ")
    expect(page.locator(".top")).to_contain_text("1 deviation")


def test_a_run_that_was_ended_early_goes_on_in_other_hands(
    someone: Person, another: Callable[[], Person]
) -> None:
    page = run_at(someone, "tam", "Channel cover", "First, 35 %")
    press_on(page)
    stood = instruction(page).splitlines()[0]
    run = page.url
    page.get_by_role("button", name="More").first.click()
    page.get_by_role("button", name="End the run early").click()
    box = page.get_by_role("dialog").last
    box.get_by_role("textbox").fill("the hoist is needed elsewhere")
    box.get_by_role("button", name="Save").click()
    expect(page.locator(".side h1")).to_have_text("ended early")

    other = another().sign_in("runa")
    other.page.get_by_role("link", name="Channel cover").first.click()
    expect(other.page.get_by_text("was ended early")).to_be_visible()
    assert other.axe() == []
    other.page.locator(f"a[href$='{run.rsplit('/', 1)[1]}']", has_text="Continue run").click()
    other.page.wait_for_url(run)
    other.page.get_by_label("Reason to continue").fill("the hoist is back")
    assert other.axe() == []
    other.page.get_by_role("button", name="Continue this run").click()
    expect(other.page.locator(".side")).to_contain_text(
        "Before the run continues: pressure off, cold, locked out"
    )
    press_on(other.page)
    assert instruction(other.page).splitlines()[0] == stood
    story = other.page.request.get(f"{run.replace('/runs/', '/api/v1/runs/')}/record").json()[
        "record"
    ]["story"]
    said = [line["text"] for line in story]
    assert "Continued: the hoist is back" in said and "Yes, all as it was" in said


def test_a_bolt_that_is_chosen_in_the_record_tells_its_story(someone: Person) -> None:
    page = run_at(someone, "tam", "Channel cover", "Second, 70 %")
    page.goto(f"{page.url}/record")
    page.get_by_role("button", name="5", exact=True).click()
    expect(page.get_by_role("status").filter(has_text="Bolt 5")).to_contain_text("First, 35 %")
    page.get_by_role("button", name="Show times").click()
    expect(page.get_by_role("button", name="Hide times")).to_be_visible()
    expect(page.get_by_text("technical proof")).to_be_visible()
    assert someone.axe() == []


def test_who_has_the_shift_open_is_told_that_a_joint_must_not_be_used(
    someone: Person, another: Callable[[], Person]
) -> None:
    """A stop that a fitter calls is on the supervisor's screen without a reload."""
    watching = another().sign_in("runa")
    watching.go("/shift")
    first = watching.page.locator(
        "section", has=watching.page.get_by_role("heading", name="Do not use")
    )
    first.wait_for()
    stopped = first.get_by_role("listitem").filter(has_text="the stud turns in its hole")
    expect(stopped).to_have_count(0)
    page = run_at(someone, "tam", "Channel cover", "First, 35 %")
    let_pass(page)
    page.keyboard.press("w")
    page.get_by_role("button", name="This is not safe").click()
    page.get_by_role("textbox").last.fill("the stud turns in its hole")
    page.get_by_role("button", name="Stop the run").click()
    expect(page.locator(".side")).to_contain_text("Nobody works on this joint")
    watching.page.evaluate("document.dispatchEvent(new Event('visibilitychange'))")
    expect(stopped).to_contain_text("Channel cover")
