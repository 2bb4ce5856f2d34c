"""What stops a run, taps that keep their owner, a drawing that fails, somebody who looks on."""

from __future__ import annotations

import json
from typing import Any

from playwright.sync_api import Page, Route, expect

from tests.browser.conftest import Person
from tests.browser.fitter import decide, let_pass, press_on, whole_round
from tests.browser.given import run_at


def people_of(page: Page, address: str) -> list[str]:
    """Who gave the answers that the record holds, in order."""
    file = page.request.get(f"{address.replace('/runs/', '/api/v1/runs/')}/record.json").json()
    return [e["person"] for e in file["events"] if e["kind"] == "answer"]


def test_a_click_without_a_turn_stops_there_and_a_mended_bolt_is_pulled_again(
    someone: Person,
) -> None:
    page = run_at(someone, "tam", "Channel cover", "First, 35 %")
    whole_round(page)
    press_on(page, "d")
    side = page.locator(".side")
    expect(side).to_contain_text("it did not turn, though the torque rose. What was done about it?")
    # what was done is said in words
    expect(
        page.get_by_role("button", name="Slackened, runs free: all passes again")
    ).to_be_disabled()
    decide(page, "Slackened, runs free: all passes again", "burr, chased with a tap")
    # what was slackened goes through all passes again
    expect(side).to_contain_text("By hand")
    expect(side).to_contain_text("from hand on")
    press_on(page)
    # so does a new bolt, of which part and batch are said
    let_pass(page)
    page.keyboard.press("w")
    page.get_by_role("button", name="Keeps turning, does not get tight").click()
    decide(page, "Replaced (part, batch)", "K-7, batch 12")
    expect(side).to_contain_text("For the new bolt at this place")


def test_what_is_not_safe_stops_the_run_until_it_is_settled(someone: Person) -> None:
    page = run_at(someone, "tam", "Channel cover", "First, 35 %")
    let_pass(page)
    page.keyboard.press("w")
    page.get_by_role("button", name="This is not safe").click()
    page.get_by_role("button", name="Stop the run").click()
    side = page.locator(".side")
    expect(side).to_contain_text("Nobody works on this joint")
    page.keyboard.press("Space")
    page.reload()
    expect(side).to_contain_text("Nobody works on this joint")
    page.get_by_label("What was done to make it safe").fill("grating put back")
    page.get_by_role("button", name="Settled: continue the work").click()
    expect(side).to_contain_text("1st of 16")
    page.goto(f"{page.url}/record")
    expect(page.get_by_text("Settled, work continued: grating put back")).to_be_visible()


def test_a_wrench_is_changed_during_a_run(someone: Person) -> None:
    page = run_at(someone, "tam", "Channel cover", "First, 35 %")
    press_on(page)
    let_pass(page)
    page.keyboard.press("t")
    page.get_by_role("button", name="Change wrench").click()
    choice = page.locator("dialog select").last
    # the offers come from the register
    choice.locator("option").nth(1).wait_for(state="attached")
    serials = choice.locator("option").evaluate_all("all => all.map(o => o.value).filter(Boolean)")
    used = page.locator(".side").inner_text()
    other = next(s for s in serials if s not in used)
    choice.select_option(other)
    page.get_by_label("Why, and what is done").fill("the ratchet slips; bolt 1 is pulled again")
    page.get_by_role("button", name="Continue with this wrench").click()
    expect(page.locator(".side")).to_contain_text(other)
    expect(page.get_by_role("status")).to_contain_text("The wrench is changed.")


def test_taps_of_one_are_never_sent_under_another(someone: Person) -> None:
    page = run_at(someone, "tam", "Channel cover", "First, 35 %")
    address = page.url
    expect(page.locator(".top")).to_contain_text("all saved")
    before = len(people_of(page, address))
    page.route("**/events", lambda route: route.abort())
    for _ in range(3):
        press_on(page)
    expect(page.locator(".top")).to_contain_text("3 saved here")
    page.goto(address.rpartition("/runs/")[0] + "/equipment")
    page.get_by_role("button", name="Sign out").click()
    expect(page.get_by_role("dialog")).to_contain_text("3 of your taps are not sent yet")
    page.get_by_role("button", name="Sign out, keep them here").click()
    page.wait_for_url("**/sign-in**")
    page.unroute("**/events")
    other = someone.sign_in("runa").page
    other.goto(address)
    expect(other.locator(".top")).to_contain_text("3 of another person wait for that person")
    other.reload()
    other.locator(".side").wait_for()
    assert len(people_of(other, address)) == before
    other.goto(address.rpartition("/runs/")[0] + "/equipment")
    other.get_by_role("button", name="Sign out").click()
    other.wait_for_url("**/sign-in**")
    # they go out when the one who tapped is back, without opening the run
    again = someone.sign_in("tam").page
    again.wait_for_timeout(500)
    expect(again.get_by_role("button", name="Sign out")).to_be_visible()
    again.wait_for_function(
        "async a => (await (await fetch(a)).json()).events.filter(e => e.kind === "
        "'answer').length === "
        f"{before + 3}",
        arg=f"{address.replace('/runs/', '/api/v1/runs/')}/record.json",
    )
    assert set(people_of(again, address)) == {"Tam Hollis"}
    someone.complaints.clear()


def test_a_drawing_that_fails_leaves_the_instruction(someone: Person) -> None:
    page = run_at(someone, "tam", "Channel cover")
    address = page.url

    def broken(route: Route) -> None:
        body: dict[str, Any] = route.fetch().json()
        body["state"]["tape"] = [None]
        route.fulfill(status=200, content_type="application/json", body=json.dumps(body))

    page.route("**/api/v1/runs/*", broken)
    page.goto(address)
    page.locator(".side .answer").first.wait_for()
    expect(page.locator(".tape")).to_contain_text("steps done")
    someone.complaints.clear()


def test_who_looks_on_sees_what_the_other_does(someone: Person, another: Any) -> None:
    page = run_at(someone, "tam", "Channel cover", "First, 35 %")
    second = another().sign_in("runa")
    second.page.goto(page.url)
    expect(second.page.locator(".side")).to_contain_text("1st of 16")
    press_on(page)
    press_on(page)
    expect(second.page.locator(".side")).to_contain_text("3rd of 16")
