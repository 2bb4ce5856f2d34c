"""The Bench in Chromium: a joint from nothing, wrong input, two planners, stages, tools, groups,
files."""

from __future__ import annotations

import json
import re
from typing import Any

from playwright.sync_api import Page, expect

from tests.browser.conftest import Person
from tests.browser.fitter import field, open_section, release, take_on_examples


def begun(planner: Person, title: str) -> Page:
    """The Bench with a plan just begun from the example of a machine mount."""
    page = planner.sign_in("mira").page
    page.get_by_role("link", name="Press frame foot").click()
    page.get_by_label("New plan, title").fill(title)
    page.keyboard.press("Enter")
    page.get_by_label("Pass tape, step").wait_for()
    return page


def test_wrong_input_stands_at_its_field_and_old_figures_are_marked(someone: Person) -> None:
    page = someone.sign_in("mira").page
    page.get_by_role("link", name="Bench").first.click()
    page.get_by_label("Pass tape, step").wait_for()
    open_section(page, "Torque target")
    needs = field(page, "Joint need")
    needs.fill("1,200 N")
    expect(page.get_by_text(re.compile("1.200 or as 1200")).first).to_be_visible()
    expect(page.get_by_text("Not current")).to_be_visible()
    expect(page.get_by_role("button", name="Release plan")).to_be_disabled()
    needs.fill("82 kN")
    expect(page.get_by_text("Not current")).to_have_count(0)


def test_two_people_edit_one_draft(someone: Person, another: Any) -> None:
    first, second = someone.sign_in("mira"), another().sign_in("mira")
    for person in (first, second):
        person.page.get_by_role("link", name="Bench").first.click()
        person.page.get_by_label("Title of the plan").wait_for()
    shown = first.page.get_by_text(re.compile(r"Draft \d+"))
    before = int(re.findall(r"Draft (\d+)", shown.inner_text())[0])
    first.page.get_by_label("Title of the plan").fill("Title of the first")
    expect(shown).to_have_text(re.compile(rf"Draft {before + 1}$"))
    second.page.get_by_label("Title of the plan").fill("Title of the second")
    expect(second.page.get_by_role("alert")).to_contain_text("Other drafts")
    second.page.get_by_role("button", name="Open the saved version").click()
    expect(second.page.get_by_label("Title of the plan")).to_have_value("Title of the first")


def test_a_working_is_typeset_and_closed_by_key(someone: Person) -> None:
    page = someone.sign_in("mira").page
    page.get_by_role("link", name="Bench").first.click()
    page.get_by_label("Pass tape, step").wait_for()
    page.keyboard.press("w")
    expect(page.locator("dialog .katex").first).to_be_visible()
    expect(page.locator("dialog")).to_contain_text("ISO 16047")
    page.keyboard.press("Escape")
    expect(page.locator("dialog .katex")).to_have_count(0)


def test_a_new_machine_and_its_joint_are_planned_from_nothing(someone: Person) -> None:
    page = someone.sign_in("mira").page
    page.get_by_role("button", name="New machine").click()
    page.get_by_label("Tag").fill("BP-3")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_text("A name has 1 to 120 characters, in one line.")).to_be_visible()
    page.get_by_label("Name").fill("Brine pump 9")
    page.get_by_label("Area").fill("Brine field")
    page.keyboard.press("Enter")
    expect(page.get_by_text("already the tag of another machine")).to_be_visible()
    assert someone.axe() == []
    page.get_by_label("Tag").fill("BP-9")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="New joint of Brine pump 9").click()
    page.get_by_label("Name").fill("Suction flange")
    page.get_by_label("Short tag").fill("suction")
    page.get_by_label("Kind of joint").select_option("gasketed_cover")
    page.get_by_role("button", name="Save and create plan").click()
    page.get_by_label("New plan, title").fill("Close the suction flange")
    page.keyboard.press("Enter")
    open_section(page, "Joint")
    # a fold opened inside a section leaves the section open
    page.get_by_role("button", name="stud, shank").click()
    expect(page.get_by_text("stud with two nuts")).to_be_visible()
    field(page, "Bolts").fill("20")
    expect(page.get_by_text("20 × M20 on Ø 400 mm")).to_be_visible()
    take_on_examples(page)
    release(page)
    expect(page.get_by_text("Released as revision 1")).to_be_visible()
    page.get_by_role("link", name="Equipment", exact=True).click()
    page.get_by_label("Find", exact=True).fill("suction")
    expect(page.get_by_text("20 × M20, ")).to_be_visible()
    expect(page.get_by_text("Trolley wheel")).to_have_count(0)


def test_stages_are_added_moved_and_taken_out_on_the_bench(someone: Person) -> None:
    page = begun(someone, "Set the frame foot")
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
    expect(titles.filter(has_text=re.compile("^Call$"))).to_have_count(1)
    before = titles.all_inner_texts().index("Call")
    page.get_by_role("button", name="Move up").click()
    expect(titles.nth(before - 1)).to_have_text("Call")
    page.get_by_role("button", name="Remove stage").click()
    expect(page.get_by_text("Call the control room")).to_have_count(0)
    # the word that was pressed is gone; the focus stands near it
    page.wait_for_function(
        "() => document.activeElement && document.activeElement !== document.body"
    )
    expect(page.get_by_text("Not current")).to_have_count(0)


def test_a_multiplier_and_other_bolts_are_planned_on_the_bench(someone: Person) -> None:
    page = begun(someone, "Set the frame foot with a multiplier")
    open_section(page, "Tools")
    page.get_by_role("button", name="Add multiplier").click()
    field(page, "Multiplier ratio").fill("5")
    field(page, "Efficiency").fill("0.87 0.9 0.93")
    field(page, "Reaction arm").fill("450 mm")
    expect(page.get_by_text("the multiplier's housing reacts").first).to_be_attached()
    field(page, "Scale from").fill("10 N·m")
    page.get_by_role("button", name="Add offset adapter").click()
    field(page, "Offset adapter").fill("1,200 mm")
    expect(page.get_by_text(re.compile("1.200 or as 1200")).first).to_be_visible()
    field(page, "Offset adapter").fill("90 mm")
    expect(page.get_by_text("Not current")).to_have_count(0)
    page.get_by_role("button", name="Add tool").click()
    expect(page.get_by_text("Not current")).to_have_count(0)
    page.get_by_role("button", name="Remove tool").click()
    open_section(page, "Joint")
    page.get_by_role("button", name="Add bolt group").click()
    expect(page.get_by_text("Bolts 2: no stage tightens these bolts.")).to_be_visible()
    expect(page.get_by_role("button", name="Release plan")).to_be_disabled()
    field(page, "Name of these bolts").fill("Guard screws")
    page.get_by_role("button", name=re.compile("^Tighten")).first.click()
    page.get_by_role("group", name="Which bolts").get_by_label("Guard screws").check()
    expect(page.get_by_text("no stage tightens these bolts")).to_have_count(0)
    assert someone.axe() == []
    open_section(page, "Joint: Guard screws")
    page.get_by_role("button", name="Remove bolt group").click()
    expect(page.get_by_text("Guard screws")).to_have_count(0)
    expect(page.get_by_text("Not current")).to_have_count(0)
    take_on_examples(page)
    release(page)
    expect(page.get_by_text("Released as revision 1")).to_be_visible()


def test_a_plan_goes_out_as_a_file_and_comes_back(someone: Person) -> None:
    page = begun(someone, "By file")
    document = page.request.get(page.url.replace("/plans/", "/api/v1/plans/") + "/file").json()
    document["title"], document["joint"] = "From a file", "AG-2/other"
    document["groups"][0]["layout"].update(rows=3)
    bring = page.get_by_label("Import plan …")
    bring.set_input_files(
        {
            "name": "plan.json",
            "mimeType": "application/json",
            "buffer": json.dumps(document).encode(),
        }
    )
    expect(page.get_by_label("Title of the plan")).to_have_value("From a file")
    expect(page.get_by_text("6 × M20 in 3 rows of 2")).to_be_visible()
    expect(page.get_by_text(re.compile("Draft 2"))).to_be_visible()
    kept = page.request.get(page.url.replace("/plans/", "/api/v1/plans/") + "/draft").json()[
        "document"
    ]
    assert kept["joint"] == "WS-1/press-frame"
    bring.set_input_files({"name": "x.json", "mimeType": "application/json", "buffer": b"{}"})
    expect(page.get_by_text(re.compile("not an Orthotorq plan"))).to_be_visible()
    document["groups"][0]["fastener"]["thread"] = "M7.3q"
    bring.set_input_files(
        {
            "name": "plan.json",
            "mimeType": "application/json",
            "buffer": json.dumps(document).encode(),
        }
    )
    expect(page.get_by_text("Not current")).to_be_visible()
    open_section(page, "Joint")
    expect(page.get_by_text("“M7.3q” is not a thread").first).to_be_visible()


def test_loads_at_work_are_asked_for_where_they_matter_and_a_remedy_is_taken_over(
    someone: Person,
) -> None:
    page = begun(someone, "Hold the jacket flange")
    open_section(page, "Torque target")
    expect(page.get_by_text("Axial load of one bolt")).to_have_count(0)
    page.get_by_text("+ temperature at work").click()
    # without the clamped parts nobody knows who takes what: said at the field, nothing computed
    expect(page.get_by_text("need the clamped stack").first).to_be_visible()
    page.get_by_text("room temperature").click()
    expect(page.get_by_text("Not current")).to_have_count(0)
    field(page, "Joint need").fill("1 kN")
    field(page, "Limit, % of yield").fill("5")
    over = page.get_by_role("listitem").filter(has_text="is above the chosen 5 % of yield")
    over.get_by_role("button", name=re.compile("^Set ")).click()
    expect(over).to_have_count(0)
    assert someone.axe() == []
