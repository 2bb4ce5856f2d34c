"""The whole path through the real interface: plan, release, run, correct, sign, record, PDF; reloads and lost servers."""
from __future__ import annotations

import io
import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect
from pypdf import PdfReader

from tests.browser.conftest import Person


def field(page: Page, label: str) -> Any:
    return page.locator("input.field").and_(page.get_by_label(re.compile(rf"^{label}"))).first


def open_section(page: Page, name: str) -> None:
    button = page.get_by_role("button", name=re.compile(name)).first
    if button.get_attribute("aria-expanded") != "true":
        button.click()


def start_run(person: Person, joint: str) -> None:
    person.page.get_by_role("link", name=joint).first.click()
    person.page.get_by_role("button", name="Start a run").first.click()
    person.page.wait_for_url(re.compile(r"/runs/[0-9a-f-]{36}$"))
    person.page.locator(".huge").wait_for()


def instruction(page: Page) -> str:
    return page.locator(".side").inner_text()


def press_on(page: Page, key: str = "Space") -> None:
    """Answer with a key and wait until the instruction has changed."""
    before = instruction(page)
    page.wait_for_timeout(260)
    page.keyboard.press(key)
    page.wait_for_function("before => document.querySelector('.side').innerText !== before", arg=before)


def work_until(page: Page, words: str, limit: int = 200) -> None:
    for _ in range(limit):
        if words in instruction(page):
            return
        if page.locator("#reading").count():
            before = instruction(page)
            page.fill("#reading", "0.2" if "mark" in before else "3.2")
            page.wait_for_timeout(260)
            page.keyboard.press("Enter")
            page.wait_for_function("before => document.querySelector('.side').innerText !== before", arg=before)
        else:
            press_on(page)
    raise AssertionError(f"never came to {words!r}")


def test_plan_release_run_record(someone: Person, another: Any) -> None:
    page = someone.sign_in("mira").page
    page.get_by_role("link", name="Gearbox foot").click()
    page.get_by_label("New plan, title").fill("Fasten the gearbox foot")
    page.get_by_role("button", name="Begin").click()
    page.wait_for_url("**/plans/*")
    open_section(page, "The joint")
    field(page, "Bolts").fill("4")
    field(page, "Bolt circle").fill("240 mm")
    field(page, "Thread").fill("M20")
    open_section(page, "Find the figure")
    page.get_by_label("Target comes from").select_option("torque")
    field(page, "Torque").fill("180 N·m")
    expect(page.locator("[aria-label='Wrench setting']")).to_contain_text("180 N·m")
    expect(page.locator("svg[role=img] [data-place]")).to_have_count(4)
    expect(page.get_by_text(re.compile("0 stops"))).to_be_visible()
    page.get_by_role("button", name="Release").click()
    expect(page.get_by_role("status")).to_contain_text("revision 1")

    fitter = another().sign_in("tam")
    start_run(fitter, "Gearbox foot")
    work_until(fitter.page, "30 %")
    press_on(fitter.page, "n")
    expect(fitter.page.locator(".side")).to_contain_text("again")
    press_on(fitter.page)
    fitter.page.reload()
    fitter.page.locator(".huge").wait_for()
    expect(fitter.page.locator(".side")).to_contain_text("bolt 2 of 4")
    work_until(fitter.page, "Check at 100 %")
    press_on(fitter.page, "m")
    work_until(fitter.page, "round 2")
    work_until(fitter.page, "finished, not signed")
    fitter.page.get_by_role("button", name="Sign as fitter").click()
    expect(fitter.page.locator(".side")).to_contain_text("A supervisor signs next")
    address = fitter.page.url

    chief = another().sign_in("runa")
    chief.page.goto(address)
    take = chief.page.get_by_role("button", name="Sign as supervisor")
    take.click()
    expect(chief.page.locator(".side")).to_contain_text("signed and closed")
    chief.page.get_by_role("link", name="Open the record").click()
    expect(chief.page.get_by_role("heading", name=re.compile("Record of run"))).to_be_visible()
    expect(chief.page.locator("table").first).to_contain_text("It moved")
    expect(chief.page.get_by_text("it holds")).to_be_visible()
    pdf = chief.page.request.get(f"{address.replace('/runs/', '/api/v1/runs/')}/record.pdf")
    text = "\n".join(p.extract_text() for p in PdfReader(io.BytesIO(pdf.body())).pages)
    for words in ("Fasten the gearbox foot", "It moved", "attempt 2", "Tam Hollis", "Runa Keel", "180 N·m"):
        assert words in text


def test_wrong_input_stands_at_its_field_and_old_figures_are_marked(someone: Person) -> None:
    page = someone.sign_in("mira").page
    page.get_by_role("link", name="Bench").first.click()
    page.get_by_text("Pass tape").wait_for()
    open_section(page, "Find the figure")
    needs = field(page, "Joint needs")
    needs.fill("1,200 N")
    expect(page.get_by_text(re.compile("1.200 or as 1200"))).to_be_visible()
    expect(page.get_by_text("Not current")).to_be_visible()
    expect(page.get_by_role("button", name="Release")).to_be_disabled()
    needs.fill("82 kN")
    expect(page.get_by_text("Not current")).to_have_count(0)


def test_quick_sums_answer_while_typing_from_one_key(someone: Person) -> None:
    page = someone.sign_in("tam").page
    page.keyboard.press("s")
    page.get_by_role("link", name="Adapter and multiplier").click()
    page.get_by_label("Torque at the bolt").fill("1700 N·m")
    page.get_by_label("Wrench, drive to grip centre").fill("0.9 m")
    page.get_by_label("Offset adapter at the wrench").fill("0.1 m")
    expect(page.locator("dl")).to_contain_text("340 N·m")
    page.get_by_label("Offset adapter at the wrench").fill("1,200 mm")
    expect(page.get_by_text(re.compile("1.200 or as 1200"))).to_be_visible()
    expect(page.get_by_text("Not current")).to_be_visible()
    page.get_by_label("Offset adapter at the wrench").fill("0.1 m")
    expect(page.get_by_text("Not current")).to_have_count(0)
    page.reload()
    expect(page.locator("dl")).to_contain_text("340 N·m")
    page.get_by_text("Working", exact=True).click()
    expect(page.locator(".katex").first).to_be_visible()
    page.get_by_role("link", name="Is it one figure?").click()
    expect(page.locator("dl")).to_contain_text("-19.736 %")


def test_two_people_edit_one_draft(someone: Person, another: Any) -> None:
    first, second = someone.sign_in("mira"), another().sign_in("mira")
    for person in (first, second):
        person.page.get_by_role("link", name="Bench").first.click()
        person.page.get_by_label("Title of the plan").wait_for()
    first.page.get_by_label("Title of the plan").fill("Title of the first")
    expect(first.page.get_by_text(re.compile("Draft 3"))).to_be_visible()
    second.page.get_by_label("Title of the plan").fill("Title of the second")
    expect(second.page.get_by_role("alert")).to_contain_text("kept aside")
    second.page.get_by_role("button", name="Open the saved version").click()
    expect(second.page.get_by_label("Title of the plan")).to_have_value("Title of the first")


def test_a_working_is_typeset_and_closed_by_key(someone: Person) -> None:
    page = someone.sign_in("mira").page
    page.get_by_role("link", name="Bench").first.click()
    page.get_by_text("Pass tape").wait_for()
    page.keyboard.press("w")
    expect(page.locator("dialog .katex").first).to_be_visible()
    expect(page.locator("dialog")).to_contain_text("ISO 16047")
    page.keyboard.press("Escape")
    expect(page.locator("dialog .katex")).to_have_count(0)


def test_a_killed_server_loses_no_confirmed_step(someone: Person, server: Any) -> None:
    page = someone.sign_in("tam").page
    start_run(someone, "Trolley wheel")
    work_until(page, "Snug, 40 %")
    press_on(page)
    expect(page.locator(".top")).to_contain_text("all saved")
    server.kill()
    page.wait_for_timeout(300)
    page.keyboard.press("Space")
    expect(page.get_by_role("alert")).to_contain_text("kept here")
    expect(page.locator(".top")).to_contain_text("1 not sent yet")
    server.start()
    expect(page.locator(".top")).to_contain_text("all saved", timeout=15_000)
    expect(page.locator(".side")).to_contain_text("bolt 3 of 6")
    page.reload()
    expect(page.locator(".side")).to_contain_text("bolt 3 of 6")
    someone.complaints.clear()


def test_a_killed_browser_resumes_where_it_stood(someone: Person, new_context: Any) -> None:
    page = someone.sign_in("tam").page
    start_run(someone, "Trolley wheel")
    work_until(page, "By hand")
    press_on(page)
    address, stood = page.url, instruction(page)
    state = page.context.storage_state()
    page.context.close()
    again = new_context(storage_state=state).new_page()
    again.goto(address)
    expect(again.locator(".side")).to_contain_text("bolt 2 of 6")
    assert instruction(again).splitlines()[0] == stood.splitlines()[0]


def test_correction_problem_and_taking_over(someone: Person, another: Any) -> None:
    page = someone.sign_in("tam").page
    start_run(someone, "Channel cover")
    work_until(page, "First, 30 %")
    press_on(page, "d")
    page.wait_for_timeout(260)
    page.keyboard.press("c")
    page.get_by_role("button", name="Do it again").click()
    expect(page.locator(".side")).to_contain_text("again")
    press_on(page)
    page.keyboard.press("w")
    page.get_by_role("button", name="It turns on and on").click()
    page.get_by_role("button", name="Keep").click()
    expect(page.locator(".top")).to_contain_text("1 deviation")
    second = another().sign_in("runa")
    second.page.goto(page.url)
    second.page.get_by_role("button", name="Take over here").click()
    second.page.locator(".huge").wait_for()
    press_on(second.page)
    page.wait_for_timeout(300)
    page.keyboard.press("Space")
    expect(page.get_by_role("alert").first).to_contain_text(re.compile("already answered|another device|taken"))


SCREENS = ["/sign-in", "/equipment", "/runs", "/sums/tool", "PLAN", "JOINT", "RUN", "RECORD"]


def address_of(person: Person, screen: str) -> str:
    request = person.page.request
    machines = request.get(f"{person.server.address}/api/v1/equipment").json()["items"]
    joint = next(j for m in machines for j in m["joints"] if j["kind"] == "wheel")
    if screen == "PLAN":
        return f"/plans/{joint['plans'][0]['id']}"
    if screen == "JOINT":
        return f"/joints/{joint['id']}"
    if screen == "RUN":
        return f"/runs/{fresh_run(person, joint['plans'][0]['revision_id'])}"
    runs = request.get(f"{person.server.address}/api/v1/runs").json()["items"]
    return f"/runs/{next(r for r in runs if r['status'] == 'closed')['id']}/record"


def fresh_run(person: Person, revision: str) -> str:
    """A run just started, by the fitter, whose session the page has from now on."""
    request, api = person.page.request, f"{person.server.address}/api/v1"
    token = request.get(f"{api}/session").json()["csrf"]
    signed = request.post(f"{api}/session", data={"login": "tam", "password": "saltworks"}, headers={"X-CSRFToken": token})
    made = request.post(f"{api}/runs", data={"revision": revision, "device": "desk"},
                        headers={"X-CSRFToken": signed.json()["csrf"]})
    return str(made.json()["id"])


@pytest.mark.parametrize("theme", ["light", "dark"])
@pytest.mark.parametrize("screen", SCREENS)
def test_axe_finds_nothing(someone: Person, screen: str, theme: str) -> None:
    page = someone.page
    page.emulate_media(color_scheme=theme, reduced_motion="reduce")
    if screen != "/sign-in":
        someone.sign_in("mira")
        someone.go(screen if screen.startswith("/") else address_of(someone, screen))
    else:
        someone.go(screen)
    page.wait_for_load_state("networkidle")
    if screen == "PLAN":
        open_section(page, "Find the figure")
    assert someone.axe() == []


@pytest.mark.parametrize(("width", "height"), [(1280, 800), (820, 1180), (390, 844)])
def test_run_fits_its_screens(someone: Person, width: int, height: int) -> None:
    page = someone.page
    page.set_viewport_size({"width": width, "height": height})
    someone.sign_in("tam")
    someone.go(address_of(someone, "RUN"))
    page.locator(".side").wait_for()
    if page.get_by_role("button", name="Take over here").count():
        page.get_by_role("button", name="Take over here").click()
    page.locator(".huge").wait_for()
    work_until(page, "bolt")
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")
    for box in page.locator(".run button, .run a.act").evaluate_all("all => all.map(e => e.getBoundingClientRect().height)"):
        assert box >= 56
    if width == 820 and page.locator(".figure").count():
        size = page.locator(".number").evaluate("e => parseFloat(getComputedStyle(e).fontSize)")
        # digits of this face are 0.68 of the font size; 40 mm are 208 px on a tablet of 132 px to the inch
        assert size * 0.68 >= 207


@pytest.mark.parametrize("path", ["/equipment", "PLAN", "RECORD"])
def test_zoomed_to_200_percent_nothing_is_cut_off(someone: Person, path: str) -> None:
    page = someone.page
    someone.sign_in("mira")
    page.set_viewport_size({"width": 640, "height": 400})
    someone.go(path if path.startswith("/") else address_of(someone, path))
    page.wait_for_load_state("networkidle")
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth + 1")
