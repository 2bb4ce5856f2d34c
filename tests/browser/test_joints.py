"""All kinds of joint on the Run screen, with what goes wrong at them."""

from __future__ import annotations

import pytest
from playwright.sync_api import expect

from orthotorq.demo.load import EQUIPMENT
from tests.browser.conftest import Person
from tests.browser.fitter import (
    decide,
    instruction,
    let_pass,
    press_on,
    start_run,
    step_on,
    type_reading,
    whole_round,
    work_to_the_end,
    work_until,
)
from tests.browser.given import run_at

JOINTS = {plan: joint for _, _, _, joints in EQUIPMENT for _, joint, _, plan in joints if plan}


#: each kind whose run no other test of the browser goes through
OTHERS = ("bellows-clamp", "drum-journal-nut", "magnet-hanger", "valve-block-fixture")


@pytest.mark.parametrize("name", OTHERS)
def test_a_joint_runs_to_its_end(someone: Person, name: str) -> None:
    page = someone.sign_in("tam").page
    start_run(someone, JOINTS[name])
    headings = work_to_the_end(page)
    assert len(headings) > 5
    run = page.url.rsplit("/", 1)[1]
    state = page.request.get(f"{someone.server.address}/api/v1/runs/{run}").json()["state"]
    assert state["status"] == "finished" and state["fitted"] == [] and state["conflicts"] == []
    assert {d["code"] for d in state["deviations"]} <= {"skipped", "rounds_exhausted"}


def test_cover_with_a_bolt_that_turns_on(someone: Person) -> None:
    page = run_at(someone, "tam", "Channel cover", "Second, 70 %")
    let_pass(page)
    page.keyboard.press("w")
    page.get_by_role("button", name="Keeps turning, does not get tight").click()
    leave = page.get_by_role("button", name="Leave as is")
    expect(leave).to_be_disabled()
    assert "bolt" in instruction(page)
    let_pass(page)
    decide(page, "Replaced (part, batch)", "K-7, batch 12")
    # the new bolt gets its compound first, then all passes
    expect(page.locator(".side")).to_contain_text("For the new bolt at this place")
    press_on(page)
    expect(page.locator(".side")).to_contain_text("all passes again")
    work_to_the_end(page)
    # a bolt that was replaced is told to whoever reads the record
    expect(page.locator(".side")).to_contain_text("1 deviation")


def test_hub_whose_screws_move_round_after_round(someone: Person) -> None:
    page = run_at(someone, "tam", "Drive drum hub")
    work_until(page, "round 2")
    rounds = {instruction(page).splitlines()[0].split(" · ")[0]}
    for _ in range(3):
        # in a later round it is the turn that is marked
        whole_round(page, "1")
        rounds.add(instruction(page).splitlines()[0].split(" · ")[0])
    assert len(rounds) == 4
    work_to_the_end(page)


def test_angle_bolt_reads_in_degrees_with_its_window(someone: Person) -> None:
    page = run_at(someone, "tam", "Agitator coupling", "°")
    words = instruction(page)
    assert "40°" in words and "between 36° and 44°" in words and "Turned to the mark" in words
    press_on(page)
    work_to_the_end(page)


def test_bearing_nut_is_backed_off_and_its_play_measured(someone: Person) -> None:
    page = someone.sign_in("tam").page
    start_run(someone, "Head shaft bearing")
    seen = []
    for _ in range(80):
        words = instruction(page)
        if page.locator("#reading").count():
            break
        seen.append(words)
        step_on(page)
    assert any("back" in w for w in seen)
    type_reading(page, "9 mm")
    # so far off, it is asked back before it is kept
    page.get_by_role("button", name="Confirm 9 mm").click()
    expect(page.get_by_role("button", name="Leave as is")).to_be_visible()
    # the stage that can mend it is offered first
    expect(
        page.get_by_role("button", name="Back to “Play not right: free it again”")
    ).to_be_visible()
    decide(page, "Leave as is", "runs cold, measured again warm")
    expect(page.locator(".side")).not_to_contain_text("What was done")
    # out of its play and left so, it is not given back
    work_to_the_end(page)
    expect(page.locator(".side")).to_contain_text("Locks, guards and supports stay on.")
    expect(page.locator(".side")).to_contain_text("Do not use")
    run = page.url.rsplit("/", 1)[1]
    record = page.request.get(f"{someone.server.address}/api/v1/runs/{run}/record").json()["record"]
    assert [d["code"] for d in record["deviations"]] == ["out_of_limit"]


def test_a_whole_round_with_exceptions_keeps_every_bolt(someone: Person) -> None:
    page = run_at(someone, "tam", "Channel cover", "First, 35 %")
    whole_round(page, "3", "7")
    run = page.url.rsplit("/", 1)[1]
    record = page.request.get(f"{someone.server.address}/api/v1/runs/{run}/record").json()["record"]
    column = next(
        i for i, c in enumerate(record["tables"][0]["columns"]) if c["title"] == "First, 35 %"
    )
    answers = {row["label"]: row["cells"][column]["answer"] for row in record["tables"][0]["rows"]}
    assert answers == {str(n): "did_not_turn" if n in (3, 7) else "turned" for n in range(1, 17)}


def test_hub_is_pressed_off_in_equal_turns_until_it_is_free(someone: Person) -> None:
    page = someone.sign_in("tam").page
    start_run(someone, "Drive drum hub", "Take apart")
    work_until(page, "Turn every jacking screw by 90°")
    side = page.locator(".side")
    expect(side).to_contain_text("run them in by hand")
    press_on(page)
    expect(side).to_contain_text("round 2")
    let_pass(page)
    page.keyboard.press("f")
    expect(side).to_contain_text("hub, rings and screws")
    press_on(page)
    expect(side).to_contain_text("stays in its slings")
    press_on(page)
    expect(side).to_contain_text("no deviations")


def test_foot_says_what_stands_between_wrench_and_bolt(someone: Person) -> None:
    page = run_at(someone, "tam", "Gearbox foot")
    work_until(page, "3rd of 3")
    assert "Gap under the foot" in instruction(page)
    work_until(page, "the bolt gets")
    words = instruction(page)
    assert (
        "With offset adapter 90 mm in line: the bolt gets" in words and "unlock, set, lock" in words
    )
    # without the adapter the bolt gets what the wrench is set to
    work_until(page, "Then the others")
    press_on(page)
    assert "the bolt gets" not in instruction(page)


def test_wheel_at_the_roadside_is_provisional(someone: Person) -> None:
    page = someone.sign_in("tam").page
    page.get_by_role("link", name="Trolley wheel").first.click()
    page.get_by_role("button", name="Start run").first.click()
    page.get_by_text("out on the track, by feel").click()
    # no wrench is asked for where none is used
    expect(page.get_by_text("TW-03")).to_have_count(0)
    page.get_by_role("dialog").get_by_role("button", name="Start run").click()
    page.locator(".side .answer").first.wait_for()
    headings = work_to_the_end(page)
    assert any("wheel brace" in h for h in headings)
    expect(page.locator(".side")).to_contain_text("Provisional: tightened by feel")


def test_a_stage_is_done_again_and_the_screen_stays_alive(someone: Person) -> None:
    page = run_at(someone, "tam", "Trolley wheel", "Snug, 40 %")
    press_on(page)
    before = instruction(page)
    page.wait_for_function("() => document.querySelector('.top').innerText.includes('all saved')")
    let_pass(page)
    page.keyboard.press("t")
    page.get_by_role("button", name="Repeat stage …").click()
    page.get_by_label("Why").fill("a stud was changed")
    page.get_by_role("button", name="Save").click()
    page.wait_for_function(
        "before => document.querySelector('.side')?.innerText !== before", arg=before
    )
    for _ in range(2):
        press_on(page)
    page.reload()
    instruction(page)
    expect(page.get_by_text("Internal Error")).to_have_count(0)
    press_on(page)
