"""The Bench beside the fields: undo, lines of manuals, cautions waived, versions compared, a plan
begun with empty fields."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import Person
from tests.browser.fitter import field, open_section, release, take_on_examples


def begin(someone: Person, title: str, how: str = "example") -> Page:
    page = someone.sign_in("mira").page
    page.get_by_role("link", name="Press frame foot").click()
    page.get_by_label("New plan, title").fill(title)
    page.get_by_label("Start from").select_option(how)
    page.get_by_role("button", name="Create plan").click()
    page.wait_for_url("**/plans/*")
    page.get_by_text(re.compile("Draft 1")).wait_for()
    return page


def test_a_line_of_a_manual_is_taken_over_piece_by_piece_and_undone(someone: Person) -> None:
    page = begin(someone, "By the manual")
    open_section(page, "Torque target")
    page.get_by_role("button", name="From a manual").click()
    page.get_by_label("Text from the manual").fill(
        "Torque to 180 N·m (133 ft-lb) in three steps crosswise, when cold; recheck after 24 h"
    )
    page.get_by_role("button", name="Read text").click()
    expect(page.get_by_text("Not used: cold")).to_be_visible()
    expect(page.get_by_text("“180 N·m (133 ft-lb)”")).to_be_visible()
    assert someone.axe() == []
    page.get_by_role("button", name="Discard").nth(2).click()
    for _ in range(2):
        page.get_by_role("button", name="Use", exact=True).first.click()
        page.wait_for_timeout(300)
    expect(page.get_by_text("Used", exact=True)).to_have_count(2)
    expect(page.locator("[aria-label='Wrench setting']")).to_contain_text("180 N·m")
    expect(page.get_by_text("66.67 %").first).to_be_attached()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("66.67 %")).to_have_count(0)
    page.keyboard.press("Control+Shift+z")
    expect(page.get_by_text("66.67 %").first).to_be_attached()


def test_findings_lead_to_their_section_and_cautions_are_taken_on(someone: Person) -> None:
    page = begin(someone, "Taken on")
    take_on_examples(page)
    open_section(page, "Tools")
    field(page, "Drive to grip").fill("300 mm")
    caution = page.get_by_role("button", name=re.compile("hand force"))
    open_section(page, "Joint")
    caution.click()
    # the very field that mends it, with what would mend it beside it
    expect(field(page, "Drive to grip")).to_be_focused()
    expect(page.get_by_text(re.compile("take a longer wrench")).first).to_be_visible()
    page.get_by_role("button", name="Waive with a reason").first.click()
    page.get_by_label("Reason").fill("two pull, on a long bar")
    page.get_by_role("button", name="Waive", exact=True).click()
    expect(page.get_by_text("Waived:")).to_be_visible()
    page.get_by_role("button", name="Undo waiver").click()
    expect(page.get_by_text("Waived:")).to_have_count(0)
    expect(page.get_by_text(re.compile("no errors.*1 warning", re.S))).to_be_visible()
    release(page)
    field(page, "Drive to grip").fill("1100 mm")
    expect(page.get_by_text(re.compile("no errors.*no warnings", re.S))).to_be_visible()
    release(page, "a longer wrench was bought")
    page.get_by_role("button", name="Compare revisions").click()
    expect(page.get_by_text("a longer wrench was bought")).to_be_visible()
    page.get_by_role("button", name="compare with the draft").last.click()
    expect(page.get_by_text("length of tool")).to_be_visible()
    assert someone.axe() == []
    page.get_by_role("button", name="Restore into the draft").click()
    expect(page.get_by_text("Nothing differs.")).to_be_visible()
    page.get_by_role("dialog").get_by_role("button", name="Close").last.click()
    expect(field(page, "Drive to grip")).to_have_value("300 mm")


def test_the_order_is_played_and_an_own_grade_is_entered(someone: Person) -> None:
    page = begin(someone, "Played")
    page.get_by_role("button", name="Play steps").click()
    seen = page.get_by_label("Pass tape, step")
    # it plays on while it is looked at
    expect(seen).to_have_attribute("aria-valuenow", re.compile(r"^(?:[2-9]|1\d)$"))
    page.get_by_role("button", name="Pause").click()
    stood = seen.get_attribute("aria-valuenow")
    page.wait_for_timeout(900)
    assert seen.get_attribute("aria-valuenow") == stood
    open_section(page, "Torque target")
    page.get_by_role("button", name="Custom grades, materials").click()
    page.get_by_label("Name").fill("Works rod 700")
    page.get_by_role("button", name="+ add").click()
    expect(page.get_by_text(re.compile("Expected a stress")).first).to_be_visible()
    page.get_by_label("Yield", exact=True).fill("560 MPa")
    page.get_by_label("Tensile", exact=True).fill("700 MPa")
    expect(page.get_by_text("Not current")).to_have_count(0)
    expect(field(page, "Grade")).to_have_value("Works rod 700")
    assert someone.axe() == []


def test_a_plan_begun_with_empty_fields_names_every_one_of_them(someone: Person) -> None:
    page = begin(someone, "From empty fields", "empty")
    open_section(page, "Joint")
    expect(page.get_by_role("button", name="Release plan")).to_be_disabled()
    expect(field(page, "Thread")).to_have_value("")
    expect(page.get_by_text("This field is needed.").first).to_be_visible()
    assert someone.axe() == []


def test_two_orders_are_held_side_by_side_and_one_is_taken(someone: Person) -> None:
    page = someone.sign_in("mira").page
    page.get_by_role("link", name="Channel cover").click()
    page.get_by_role("heading", name="Channel cover").wait_for()
    page.get_by_role("link", name="Bench").click()
    page.get_by_label("Pass tape, step").wait_for()
    open_section(page, "Close the joint")
    page.get_by_role("button", name="Compare orders of pass 2").click()
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_role("region", name="Order 1")).to_contain_text("1 9 5 13 3 11 7 15")
    expect(dialog.get_by_role("region", name="Order 2")).to_contain_text(
        "Strays to one side by at most 1.96 bolts"
    )
    dialog.get_by_role("button", name="Next step").click()
    expect(dialog).to_contain_text("1 of 16")
    assert someone.axe() == []
    dialog.get_by_label("Which order, right").select_option(label="circular (one after the other)")
    dialog.get_by_role("region", name="Order 2").get_by_role(
        "button", name="Use this sequence"
    ).click()
    dialog.wait_for(state="detached")
    expect(page.get_by_role("combobox", name="Order of pass 2").first).to_have_value("circle")
    # focus stands where work goes on
    page.wait_for_function(
        "() => document.activeElement && document.activeElement !== document.body"
    )


def test_a_plan_is_copied_on_the_screen_and_a_finding_leads_to_its_field(someone: Person) -> None:
    page = someone.sign_in("mira").page
    page.get_by_role("link", name="Press frame foot").click()
    page.get_by_label("Start from").select_option("copy")
    page.get_by_label("New plan, copied from").fill("foot elevator")
    page.get_by_role(
        "button", name="Copy plan “Fasten the elevator gearbox foot” of Gearbox foot"
    ).click()
    page.get_by_label("Pass tape, step").wait_for()
    open_section(page, "Tools")
    field(page, "to").fill("120 N·m")
    finding = (
        page.get_by_role("list", name="Findings").get_by_text(re.compile("is above what")).first
    )
    finding.wait_for()
    open_section(page, "Torque target: Locating bolt")
    finding.click()
    expect(field(page, "to")).to_be_focused()
    expect(page.get_by_text("Take a larger wrench or a multiplier.").first).to_be_visible()
    page.keyboard.type("900 N·m")
    expect(
        page.get_by_role("list", name="Findings").get_by_text(re.compile("is above what"))
    ).to_have_count(0)
