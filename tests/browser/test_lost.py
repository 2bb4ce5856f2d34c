"""Lost servers, browsers and networks, corrections, and two people at one run."""

from __future__ import annotations

import io
import re
from typing import Any

import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from tests.browser.conftest import Person
from tests.browser.fitter import GUARD_MS, SAVED, instruction, let_pass, nth, press_on, type_reading
from tests.browser.given import run_at

# here it matters that the shell is kept
pytestmark = pytest.mark.browser_context_args(service_workers="allow")


def test_a_killed_server_loses_no_confirmed_step(someone: Person, server: Any) -> None:
    page = run_at(someone, "tam", "Trolley wheel", "Snug, 40 %")
    press_on(page)
    expect(page.locator(".top")).to_contain_text("all saved")
    server.kill()
    let_pass(page)
    page.keyboard.press("Space")
    expect(page.locator(".top")).to_contain_text("no connection, 1 saved here")
    expect(page.locator(".side")).to_contain_text("3rd of 6")
    server.start()
    expect(page.locator(".top")).to_contain_text("all saved")
    expect(page.locator(".side")).to_contain_text("3rd of 6")
    page.reload()
    expect(page.locator(".side")).to_contain_text("3rd of 6")
    someone.complaints.clear()


SLOW = """(() => { const quick = window.fetch; window.fetch = async (...sent) => {
    const answer = await quick(...sent);
    if (new URL(sent[0].url ?? sent[0], location).pathname.endsWith('/events'))
        await new Promise((after) => setTimeout(after, window.slow ?? 0));
    return answer; }; })()"""


def test_answers_that_come_late_swallow_no_tap(someone: Person) -> None:
    someone.page.add_init_script(SLOW)
    page = run_at(someone, "tam", "Channel cover", "Second, 70 %")
    for late in (230, 330, 430, 700):
        page.evaluate("ms => window.slow = ms", late)
        before = instruction(page)
        # in real time: it is about how late an answer may come
        for _ in range(2):
            page.wait_for_timeout(GUARD_MS)
            page.keyboard.press("Space")
        stood = int(re.search(r"(\d+)[a-z]{2} of", before)[1])  # type: ignore[index]
        expect(page.locator(".side")).to_contain_text(f"{nth(stood + 2)} of")
        expect(page.locator(".top")).to_contain_text("all saved")
        expect(page.locator(".side")).to_contain_text(f"{nth(stood + 2)} of")


LOST = """(() => { const quick = window.fetch; let count = 0; window.fetch = async (...sent) => {
    const answer = await quick(...sent);
    if (new URL(sent[0].url ?? sent[0], location).pathname.endsWith('/events') &&
      count++ % 2 === 0) throw new TypeError('lost');
    return answer; }; })()"""


def test_answers_of_the_server_that_are_lost_double_nothing(someone: Person) -> None:
    someone.page.add_init_script(LOST)
    page = run_at(someone, "tam", "Channel cover")
    for _ in range(4):
        press_on(page)
    expect(page.locator(".top")).to_contain_text("all saved")
    file = page.request.get(f"{page.url.replace('/runs/', '/api/v1/runs/')}/record.json").json()
    answers = [e["step"] for e in file["events"] if e["kind"] == "answer"]
    assert len(answers) == len(set(answers)) == 4
    someone.complaints.clear()


def test_two_answers_to_one_step_in_one_moment_are_one(someone: Person) -> None:
    page = run_at(someone, "tam", "Channel cover", "First, 35 %")
    page.wait_for_function(SAVED)
    let_pass(page)
    # before the first is put down on the device: a heavy hand on two keys
    page.evaluate("""() => { for (const key of ['n', 'd', ' '])
        document.body.dispatchEvent(new KeyboardEvent('keydown', {key, bubbles: true})); }""")
    expect(page.locator(".side")).to_contain_text("· again")
    page.wait_for_function(SAVED)
    expect(page.get_by_text("already answered")).to_have_count(0)
    file = page.request.get(f"{page.url.replace('/runs/', '/api/v1/runs/')}/record.json").json()
    answers = [
        (e["step"], e["payload"]["answer"])
        for e in file["events"]
        if e["kind"] == "answer" and "/first/" in e["step"]
    ]
    assert [answer for _, answer in answers] == ["not_sure"], answers


#: answers with the space bar in the moment in which there is a large button, long before a hand
#: could
AT_ONCE = """() => { const side = document.querySelector('.side');
    new MutationObserver((_, watching) => {
        if (!side.querySelector('.answer.huge')) return;
        watching.disconnect();
        window.letPass(1000);
        document.body.dispatchEvent(new KeyboardEvent('keydown', { key: ' ', bubbles: true }));
    }).observe(side, { subtree: true, childList: true }); }"""


def test_what_is_shown_can_be_answered_at_once(someone: Person) -> None:
    page = run_at(someone, "tam", "Channel cover", "Gap under a straight edge over the cover face")
    # what comes after a reading only the server knows
    expect(page.locator("#reading")).to_be_visible()
    expect(page.locator(".answer.huge")).to_have_count(0)
    page.evaluate(AT_ONCE)
    type_reading(page, "0.1 mm")
    expect(page.locator(".side")).to_contain_text(re.compile(r"before:\s+good"))


def test_a_killed_browser_resumes_where_it_stood(someone: Person, new_context: Any) -> None:
    page = run_at(someone, "tam", "Trolley wheel", "By hand")
    press_on(page)
    address, stood = page.url, instruction(page)
    state = page.context.storage_state()
    page.context.close()
    again = new_context(storage_state=state).new_page()
    again.goto(address)
    expect(again.locator(".side")).to_contain_text("2nd of 6")
    assert instruction(again).splitlines()[0] == stood.splitlines()[0]


def test_correction_problem_and_taking_over(someone: Person, another: Any) -> None:
    page = run_at(someone, "tam", "Channel cover", "First, 35 %")
    press_on(page, "d")
    let_pass(page)
    page.keyboard.press("c")
    page.get_by_role("button", name="Repeat step").click()
    expect(page.locator(".side")).to_contain_text("again")
    press_on(page)
    let_pass(page)
    page.keyboard.press("w")
    page.get_by_role("button", name="Thread or seat is damaged").click()
    page.get_by_role("button", name="Save").click()
    expect(page.locator(".top")).to_contain_text("1 deviation")
    second = another().sign_in("runa")
    second.page.goto(page.url)
    second.page.get_by_role("button", name="Continue on this device").click()
    second.page.locator(".huge").wait_for()
    press_on(second.page)
    let_pass(page)
    page.keyboard.press("Space")
    expect(page.get_by_role("alert").first).to_contain_text(
        re.compile("already answered|another device|taken")
    )


SLOW_READ = """(() => { const quick = window.fetch; window.fetch = async (...sent) => {
    const answer = await quick(...sent);
    if (sent[0].method === 'GET' && new URL(sent[0].url,
      location).pathname.startsWith('/api/v1/runs/')) {
        await new Promise((after) => setTimeout(after, window.slow ?? 0));
        window.read = true;
    }
    return answer; }; })()"""


def test_what_is_read_late_does_not_undo_what_was_answered_meanwhile(
    someone: Person, another: Any
) -> None:
    page = run_at(someone, "tam", "Channel cover", "First, 35 %")
    second = another().enter("tam").page
    second.add_init_script(SLOW_READ)
    second.goto(page.url)
    take_over = second.get_by_role("button", name="Continue on this device")
    take_over.wait_for()
    second.evaluate("() => { window.slow = 1500; window.read = false; }")
    take_over.click()
    for _ in range(8):
        let_pass(second)
        second.keyboard.press("Space")
    second.wait_for_function("() => window.read")
    second.wait_for_function(SAVED)
    standing = second.request.get(page.url.replace("/runs/", "/api/v1/runs/")).json()["state"][
        "instruction"
    ]
    expect(second.locator(".side")).to_contain_text(
        f"{nth(standing['index'])} of {standing['total']}"
    )


def test_without_a_network_the_round_goes_on_and_a_reload_keeps_it(someone: Person) -> None:
    page = run_at(someone, "tam", "Channel cover", "First, 35 %")
    page.wait_for_function("() => navigator.serviceWorker.controller !== null")
    page.wait_for_function(SAVED)
    page.context.set_offline(True)
    for _ in range(5):
        press_on(page)
    expect(page.locator(".top")).to_contain_text("no connection, 5 saved here")
    expect(page.locator(".side")).to_contain_text("6th of 16")
    page.reload()
    expect(page.locator(".side")).to_contain_text("6th of 16")
    press_on(page)
    expect(page.locator(".top")).to_contain_text("no connection, 6 saved here")
    page.context.set_offline(False)
    expect(page.locator(".top")).to_contain_text("all saved")
    expect(page.locator(".side")).to_contain_text("7th of 16")
    someone.complaints.clear()


def test_a_decision_waits_for_the_server(someone: Person) -> None:
    page = run_at(someone, "tam", "Channel cover", "First, 35 %")
    page.context.set_offline(True)
    let_pass(page)
    page.keyboard.press("w")
    page.get_by_role("button", name="Keeps turning, does not get tight").click()
    expect(page.locator(".side")).to_contain_text("No connection")
    page.context.set_offline(False)
    expect(page.get_by_role("button", name="Leave as is")).to_be_visible()
    someone.complaints.clear()


def test_without_a_network_the_whole_stage_goes_on_and_nothing_is_lost_doubled_or_given_to_another(
    someone: Person, server: Any
) -> None:
    page = run_at(someone, "tam", "Channel cover", "First, 35 %")
    run = page.url
    page.wait_for_function("() => navigator.serviceWorker.controller !== null")
    page.wait_for_function(SAVED)
    # the device's clock is wrong by hours
    page.add_init_script("const now = Date.now; Date.now = () => now() - 5 * 3600e3")
    expect(page.locator(".top")).to_contain_text("all saved")
    before = page.request.get(f"{run.replace('/runs/', '/api/v1/runs/')}").json()["state"][
        "sequence"
    ]
    server.kill()
    done = 0
    while "Full, 100 %" not in instruction(page) and done < 40:
        press_on(page)
        done += 1
    for _ in range(3):
        press_on(page)
        done += 1
    expect(page.locator(".top")).to_contain_text(f"no connection, {done} saved here")
    page.reload()
    expect(page.locator(".side")).to_contain_text("Full, 100 %")
    expect(page.locator(".top")).to_contain_text(f"{done} saved here")
    page.goto("about:blank")
    page.context.clear_cookies()
    server.start()
    # somebody else signs in on this device first: the taps wait for their owner
    someone.sign_in("runa")
    page.goto(run)
    expect(page.locator(".top")).to_contain_text(f"{done} of another person wait")
    assert (
        page.request.get(f"{run.replace('/runs/', '/api/v1/runs/')}").json()["state"]["sequence"]
        == before
    )
    someone.sign_in("tam")
    page.goto(run)
    expect(page.locator(".top")).to_contain_text("all saved")
    expect(page.locator(".side")).to_contain_text("Full, 100 %")
    file = page.request.get(f"{run.replace('/runs/', '/api/v1/runs/')}/record.json").json()
    answers = [
        e
        for e in file["events"]
        if e["kind"] == "answer" and "/r1/" in e["step"] and "/then" not in e["step"]
    ]
    assert len({e["step"] for e in answers}) == len(answers) and {e["person"] for e in answers} == {
        "Tam Hollis"
    }
    assert file["record"]["deviations"] == [] and file["record"]["conflicts"] == []
    someone.complaints.clear()


def camera(page: Page, name: str, data: bytes, kind: str = "image/jpeg") -> None:
    """Take a photo from the menu of seldom used things."""
    let_pass(page)
    page.keyboard.press("t")
    page.get_by_label("Take a photo").set_input_files(
        {"name": name, "mimeType": kind, "buffer": data}
    )


def test_a_photo_taken_without_a_network_comes_into_the_record(someone: Person) -> None:
    page = run_at(someone, "tam", "Channel cover", "First, 35 %")
    run = page.url
    page.wait_for_function("() => navigator.serviceWorker.controller !== null")
    page.wait_for_function(SAVED)
    page.context.set_offline(True)
    picture = io.BytesIO()
    Image.new("RGB", (640, 480), "#0c5a66").save(picture, "JPEG")
    camera(page, "gap.jpg", picture.getvalue())
    expect(page.locator(".top")).to_contain_text("no connection, 1 saved here")
    press_on(page)
    camera(page, "broken.jpg", b"no picture at all")
    expect(page.locator(".top")).to_contain_text("no connection, 3 saved here")
    page.reload()
    expect(page.locator(".side")).to_contain_text("2nd of 16")
    page.context.set_offline(False)
    expect(page.locator(".top")).to_contain_text("all saved")
    page.goto(f"{run}/record")
    shown = page.locator("img[src*='/photos/']")
    expect(shown).to_have_count(1)
    assert (
        page.evaluate(
            "element => element.decode().then(() => element.naturalWidth)", shown.element_handle()
        )
        == 640
    )
    # what could not be read as a picture left a note instead of a hole
    expect(page.get_by_text("A photo taken here could not be saved.")).to_be_visible()
    someone.complaints.clear()
