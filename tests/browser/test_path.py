"""The whole path through the real interface: plan, release, run, correct, sign, record, PDF;
reloads and lost servers."""

from __future__ import annotations

import io
import re
from typing import Any

from playwright.sync_api import expect
from pypdf import PdfReader

from tests.browser.conftest import Person
from tests.browser.fitter import (
    field,
    more,
    open_section,
    press_on,
    release,
    sign,
    start_run,
    take_on_examples,
    work_until,
)


def test_plan_release_run_record(someone: Person, another: Any) -> None:
    page = someone.sign_in("mira").page
    page.get_by_role("link", name="Press frame foot").click()
    page.get_by_label("New plan, title").fill("Fasten the press frame foot")
    page.get_by_role("button", name="Create plan").click()
    page.wait_for_url("**/plans/*")
    open_section(page, "Joint")
    page.get_by_label("Bolt pattern").select_option("circle")
    field(page, "Bolts").fill("4")
    field(page, "Bolt circle").fill("240 mm")
    field(page, "Thread").fill("M20")
    open_section(page, "Torque target")
    page.get_by_label("Target from").select_option("torque")
    field(page, "Torque").fill("180 N·m")
    expect(page.locator("[aria-label='Wrench setting']")).to_contain_text("180 N·m")
    expect(page.locator("svg[role=img] [data-place]")).to_have_count(4)
    take_on_examples(page)
    expect(page.get_by_text(re.compile("no errors")).first).to_be_visible()
    release(page)
    expect(page.get_by_role("status")).to_contain_text("revision 1")

    fitter = another().sign_in("tam")
    start_run(fitter, "Press frame foot")
    work_until(fitter.page, "Half, 50 %")
    press_on(fitter.page, "n")
    expect(fitter.page.locator(".side")).to_contain_text("again")
    press_on(fitter.page)
    fitter.page.reload()
    fitter.page.locator(".huge").wait_for()
    expect(fitter.page.locator(".side")).to_contain_text("2nd of 4")
    fitter.page.keyboard.press("w")
    fitter.page.get_by_role("button", name="A part is missing").click()
    fitter.page.get_by_role("button", name="Save").click()
    expect(fitter.page.locator(".top")).to_contain_text("1 deviation")
    work_until(fitter.page, "Let it settle")
    expect(fitter.page.locator(".answer.huge")).to_be_disabled()
    more(fitter.page, "Skip step", "stood over night")
    work_until(fitter.page, "Finished, not signed")
    # what is signed stands there, and the password is asked again
    said = re.compile(r"You sign, as fitter, for: 4 bolts, \d+ answers \(Tam Hollis \d+\)")
    expect(fitter.page.get_by_text(said)).to_be_visible()
    fitter.page.get_by_label("your password again").fill("not mine")
    fitter.page.get_by_role("button", name="Sign as fitter").click()
    expect(fitter.page.locator(".side")).to_contain_text(
        "This is not your password or PIN. Nothing was signed or changed."
    )
    fitter.complaints.clear()
    sign(fitter.page, "fitter")
    expect(fitter.page.locator(".side")).to_contain_text("A supervisor signs next")
    address = fitter.page.url

    chief = another().sign_in("runa")
    chief.page.goto(address)
    expect(chief.page.get_by_text("when every deviation is accepted")).to_be_visible()
    expect(chief.page.get_by_role("button", name="Sign as supervisor")).to_have_count(0)
    reasons = chief.page.get_by_label("Reason to accept")
    expect(reasons).to_have_count(2)
    reasons.first.fill("looked at in the morning")
    # a reason belongs to its own deviation
    expect(reasons.last).to_have_value("")
    chief.page.get_by_role("button", name="Accept this deviation").first.click()
    expect(reasons).to_have_count(1)
    reasons.fill("found and fitted")
    chief.page.get_by_role("button", name="Accept this deviation").click()
    sign(chief.page, "supervisor")
    expect(chief.page.locator(".side")).to_contain_text("signed and closed")
    chief.page.get_by_role("link", name="Open the record").click()
    expect(chief.page.get_by_role("heading", name=re.compile("Record of run"))).to_be_visible()
    expect(chief.page.get_by_text("stood over night").first).to_be_visible()
    expect(chief.page.get_by_text("Unchanged since")).to_be_visible()
    pdf = chief.page.request.get(f"{address.replace('/runs/', '/api/v1/runs/')}/record.pdf")
    text = "\n".join(p.extract_text() for p in PdfReader(io.BytesIO(pdf.body())).pages)
    for words in (
        "Fasten the press frame foot",
        "stood over night",
        "looked at in the morning",
        "attempt 2",
        "Tam Hollis",
        "Runa Tesk",
        "180 N·m",
    ):
        assert words in text


def test_quick_sums_answer_while_typing_from_one_key(someone: Person) -> None:
    page = someone.sign_in("tam").page
    page.keyboard.press("s")
    page.get_by_role("link", name="Adapter and multiplier").click()
    page.get_by_label("Torque at the bolt").fill("1700 N·m")
    page.get_by_label("Wrench, drive to grip centre").fill("0.9 m")
    page.get_by_label("Offset adapter at the wrench").fill("0.1 m")
    expect(page.locator("dl")).to_contain_text("340 N·m")
    page.get_by_label("Offset adapter at the wrench").fill("1,200 mm")
    expect(page.get_by_text(re.compile("1.200 or as 1200")).first).to_be_visible()
    expect(page.get_by_text("Not current")).to_be_visible()
    page.get_by_label("Offset adapter at the wrench").fill("0.1 m")
    expect(page.get_by_text("Not current")).to_have_count(0)
    page.reload()
    expect(page.locator("dl")).to_contain_text("340 N·m")
    page.get_by_text("Working", exact=True).click()
    expect(page.locator(".katex").first).to_be_visible()
    page.get_by_role("link", name="Compare two units").click()
    expect(page.locator("dl")).to_contain_text("-19.736 %")


def test_every_quick_sum_answers_with_the_example_it_begins_with(someone: Person) -> None:
    page = someone.sign_in("tam").page
    page.keyboard.press("s")
    page.get_by_role("navigation", name="Quick sums").get_by_role("link").first.wait_for()
    names = page.get_by_role("navigation", name="Quick sums").get_by_role("link").all_inner_texts()
    assert len(names) >= 14
    for name in names:
        page.get_by_role("link", name=name, exact=True).click()
        expect(page.get_by_role("heading", name=name, exact=True)).to_be_visible()
        expect(page.locator("dl dd").first).to_be_visible()
        expect(page.locator("[aria-invalid=true]")).to_have_count(0)
        expect(page.get_by_text("Not current")).to_have_count(0)
