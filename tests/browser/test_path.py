"""The whole path through the real interface: plan, release, run, correct, sign, record, PDF; reloads and lost servers."""
from __future__ import annotations

import io
import re
from typing import Any

from playwright.sync_api import Page, expect
from pypdf import PdfReader

from tests.browser.conftest import Person
from tests.browser.fitter import more, open_section, press_on, start_run, work_until


def field(page: Page, label: str) -> Any:
    return page.locator("input.field").and_(page.get_by_label(re.compile(rf"^{label}"))).first


def test_plan_release_run_record(someone: Person, another: Any) -> None:
    page = someone.sign_in("mira").page
    page.get_by_role("link", name="Press frame foot").click()
    page.get_by_label("New plan, title").fill("Fasten the press frame foot")
    page.get_by_role("button", name="Begin").click()
    page.wait_for_url("**/plans/*")
    open_section(page, "The joint")
    page.get_by_label("Bolts stand").select_option("circle")
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
    start_run(fitter, "Press frame foot")
    work_until(fitter.page, "Half, 50 %")
    press_on(fitter.page, "n")
    expect(fitter.page.locator(".side")).to_contain_text("again")
    press_on(fitter.page)
    fitter.page.reload()
    fitter.page.locator(".huge").wait_for()
    expect(fitter.page.locator(".side")).to_contain_text("bolt 2 of 4")
    work_until(fitter.page, "Let it settle")
    expect(fitter.page.locator(".answer.huge")).to_be_disabled()
    more(fitter.page, "Skip this step", "stood over night")
    work_until(fitter.page, "finished, not signed")
    fitter.page.get_by_role("button", name="Sign as fitter").click()
    expect(fitter.page.locator(".side")).to_contain_text("A supervisor signs next")
    address = fitter.page.url

    chief = another().sign_in("runa")
    chief.page.goto(address)
    expect(chief.page.get_by_role("button", name="Sign as supervisor")).to_be_disabled()
    chief.page.get_by_label("Why it can be accepted").fill("looked at in the morning")
    chief.page.get_by_role("button", name="Accept this deviation").click()
    chief.page.get_by_role("button", name="Sign as supervisor").click()
    expect(chief.page.locator(".side")).to_contain_text("signed and closed")
    chief.page.get_by_role("link", name="Open the record").click()
    expect(chief.page.get_by_role("heading", name=re.compile("Record of run"))).to_be_visible()
    expect(chief.page.get_by_text("stood over night").first).to_be_visible()
    expect(chief.page.get_by_text("it holds")).to_be_visible()
    pdf = chief.page.request.get(f"{address.replace('/runs/', '/api/v1/runs/')}/record.pdf")
    text = "\n".join(p.extract_text() for p in PdfReader(io.BytesIO(pdf.body())).pages)
    for words in ("Fasten the press frame foot", "stood over night",
                  "looked at in the morning", "attempt 2", "Tam Hollis", "Runa Keel", "180 N·m"):
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


def test_every_quick_sum_answers_with_the_example_it_begins_with(someone: Person) -> None:
    page = someone.sign_in("tam").page
    page.keyboard.press("s")
    page.locator("nav[aria-label='Quick sums'] a").first.wait_for()
    names = page.locator("nav[aria-label='Quick sums'] a").all_inner_texts()
    assert len(names) >= 14
    for name in names:
        page.get_by_role("link", name=name, exact=True).click()
        expect(page.get_by_role("heading", name=name, exact=True)).to_be_visible()
        expect(page.locator("dl dd").first).to_be_visible()
        expect(page.locator("[aria-invalid=true]")).to_have_count(0)
        expect(page.get_by_text("Not current")).to_have_count(0)


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


def test_a_new_machine_and_its_joint_are_planned_from_nothing(someone: Person) -> None:
    page = someone.sign_in("mira").page
    page.get_by_role("button", name="New machine").click()
    page.get_by_label("Tag").fill("BP-3")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("A name has 1 to 120 characters.")).to_be_visible()
    page.get_by_label("Name").fill("Brine pump 9")
    page.get_by_label("Where it stands").fill("Brine field")
    page.keyboard.press("Enter")
    expect(page.get_by_text("already the tag of another machine")).to_be_visible()
    assert someone.axe() == []
    page.get_by_label("Tag").fill("BP-9")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="New joint of Brine pump 9").click()
    page.get_by_label("Name").fill("Suction flange")
    page.get_by_label("Short tag").fill("suction")
    page.get_by_label("Kind of joint").select_option("gasketed_cover")
    page.get_by_role("button", name="Keep it and begin its plan").click()
    page.get_by_label("New plan, title").fill("Close the suction flange")
    page.keyboard.press("Enter")
    open_section(page, "The joint")
    field(page, "Bolts").fill("20")
    expect(page.get_by_text("20 × M20 on Ø 400 mm")).to_be_visible()
    page.get_by_role("button", name="Release").click()
    expect(page.get_by_text("revision 1")).to_be_visible()
    page.get_by_role("link", name="Equipment", exact=True).click()
    page.get_by_label("Find").fill("suction")
    expect(page.get_by_text("20 × M20, ")).to_be_visible()
    expect(page.get_by_text("Trolley wheel")).to_have_count(0)


def test_stages_are_added_moved_and_taken_out_on_the_bench(someone: Person) -> None:
    page = someone.sign_in("mira").page
    page.get_by_role("link", name="Press frame foot").click()
    page.get_by_label("New plan, title").fill("Set the frame foot")
    page.keyboard.press("Enter")
    page.get_by_text("Pass tape").wait_for()
    adds = page.get_by_label("New stage")
    kinds = [v for v in adds.locator("option").evaluate_all("all => all.map(o => o.value)") if v]
    assert len(kinds) >= 17
    for kind in kinds:
        adds.select_option(kind)
        # a new stage is complete: the plan goes on being computed, and no field is marked
        expect(page.get_by_text("Not current")).to_have_count(0)
        expect(page.locator("[aria-invalid=true]")).to_have_count(0)
    assert someone.axe() == []
    page.get_by_label("Text").fill("Call the control room")
    page.get_by_label("Title of the stage").fill("Call")
    titles = page.locator("main button[aria-expanded] b")
    before = titles.all_inner_texts().index("Call")
    page.get_by_role("button", name="earlier").click()
    expect(titles.nth(before - 1)).to_have_text("Call")
    page.get_by_role("button", name="take this stage out").click()
    expect(page.get_by_text("Call the control room")).to_have_count(0)
    expect(page.get_by_text("Not current")).to_have_count(0)


def test_a_multiplier_and_other_bolts_are_planned_on_the_bench(someone: Person) -> None:
    page = someone.sign_in("mira").page
    page.get_by_role("link", name="Press frame foot").click()
    page.get_by_label("New plan, title").fill("Set the frame foot with a multiplier")
    page.keyboard.press("Enter")
    page.get_by_text("Pass tape").wait_for()
    open_section(page, "Tools")
    field(page, "Multiplier ratio").fill("5")
    field(page, "Efficiency").fill("0.87 0.9 0.93")
    field(page, "Reaction arm").fill("450 mm")
    expect(page.get_by_text("the multiplier's housing reacts").first).to_be_attached()
    field(page, "Scale from").fill("10 N·m")
    field(page, "Offset adapter").fill("1,200 mm")
    expect(page.get_by_text(re.compile("1.200 or as 1200"))).to_be_visible()
    field(page, "Offset adapter").fill("90 mm")
    expect(page.get_by_text("Not current")).to_have_count(0)
    page.get_by_role("button", name="+ another tool").click()
    expect(page.get_by_text("Not current")).to_have_count(0)
    page.get_by_role("button", name="take this tool out").click()
    open_section(page, "The joint")
    page.get_by_role("button", name="+ other bolts").click()
    expect(page.get_by_text("Bolts 2: no stage tightens these bolts.")).to_be_visible()
    expect(page.get_by_role("button", name="Release")).to_be_disabled()
    field(page, "Name of these bolts").fill("Guard screws")
    page.get_by_role("button", name=re.compile("^[0-9]+ Tighten|Tighten hand")).first.click()
    page.get_by_role("group", name="Which bolts").get_by_label("Guard screws").check()
    expect(page.get_by_text("no stage tightens these bolts")).to_have_count(0)
    assert someone.axe() == []
    open_section(page, "The joint: Guard screws")
    page.get_by_role("button", name="take these bolts out").click()
    expect(page.get_by_text("Guard screws")).to_have_count(0)
    expect(page.get_by_text("Not current")).to_have_count(0)
    page.get_by_role("button", name="Release").click()
    expect(page.get_by_text("Released as revision 1")).to_be_visible()
