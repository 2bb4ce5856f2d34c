"""A week lived on the screen: a due recheck is run, a wrench fails and is followed, a counter is
replaced, a calendar made."""

from __future__ import annotations

import re
import urllib.request
from concurrent.futures import ThreadPoolExecutor

from icalendar import Calendar
from playwright.sync_api import expect

from orthotorq.services.jobs import run_worker
from tests.browser.conftest import Person
from tests.browser.fitter import sign, work_to_the_end
from tests.conftest import Database


def work(database: Database) -> None:
    """Let the worker do what waits; in a thread, since the browser has its loop in this one."""
    with ThreadPoolExecutor(1) as pool:
        pool.submit(run_worker, database.app_url, wait=False).result()


def test_a_shift_begins_with_what_is_due_and_leads_there(someone: Person) -> None:
    page = someone.sign_in("tam").page
    someone.go("/shift")
    expect(page.get_by_role("heading", name="Due now")).to_be_visible()
    line = page.get_by_role("listitem").filter(has_text="Gearbox foot")
    expect(line).to_contain_text("No run of it is on record")
    line.get_by_role("link", name="Start: tighten").click()
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_text("Condition: Unknown.")).to_be_visible()
    dialog.get_by_role("button", name="Start run").click()
    page.locator(".side .answer").first.wait_for()
    someone.go("/shift")
    half = page.locator("section", has=page.get_by_role("heading", name="In progress"))
    expect(half.get_by_role("link", name=re.compile("Run 4"))).to_be_visible()


def test_a_recheck_that_is_due_is_run_to_its_signature_and_is_due_no_longer(
    someone: Person,
) -> None:
    page = someone.sign_in("tam").page
    someone.go("/shift")
    line = page.get_by_role("listitem").filter(has_text="Bellows clamp")
    expect(line).to_contain_text("overdue since")
    line.get_by_role("link", name="Recheck").click()
    expect(
        page.get_by_role("dialog").get_by_role("radio", name="Recheck", exact=True)
    ).to_be_checked()
    page.get_by_role("dialog").get_by_role("button", name="Start run").click()
    page.locator(".side .answer").first.wait_for()
    work_to_the_end(page)
    sign(page, "fitter")
    someone.go("/shift")
    page.get_by_role("heading", name="Due now").wait_for()
    expect(
        page.get_by_role("listitem").filter(has_text="Bellows clamp").filter(has_text="overdue")
    ).to_have_count(0)


def test_a_wrench_fails_its_bolts_are_traced_and_a_recheck_is_asked_for(someone: Person) -> None:
    page = someone.sign_in("runa").page
    someone.go("/tools")
    page.get_by_label("Find").fill("TW-07")
    page.get_by_role("link", name="TW-07").click()
    page.get_by_role("button", name="Record calibration check").click()
    form = page.get_by_role("form", name="Check TW-07")
    shown = ("96; 97", "280; 282; 281", "468; 470; 469")
    form.get_by_role("button", name="Read tester (simulated) at 360 N·m").click()
    expect(form.get_by_label("Reference readings").nth(1)).to_have_value(
        re.compile(r"N·m; .+ N·m; .+ N·m")
    )
    for field, readings in zip(form.get_by_label("Reference readings").all(), shown, strict=True):
        field.fill(readings)
    form.get_by_role("button", name="Save check").click()
    expect(form.get_by_text("Enter the reference")).to_be_visible()
    form.get_by_label(re.compile("Checked against")).fill("TT-1")
    form.get_by_role("button", name="Save check").click()
    expect(form.get_by_text("TW-07 fails")).to_be_visible()
    expect(page.get_by_text(re.compile("blocked: failed its check"))).to_be_visible()
    section = page.locator(
        "section", has=page.get_by_role("heading", name="Bolts tightened with it")
    )
    expect(section).to_contain_text("Evaporator 2 › Channel cover")
    expect(section).to_contain_text("16 × Cover studs")
    section.get_by_role("button", name="Recheck 1 joint now").click()
    expect(section).to_contain_text("a recheck is asked for")
    someone.go("/shift")
    expect(page.get_by_role("listitem").filter(has_text="TW-07, found wrong")).to_contain_text(
        "Channel cover"
    )
    # a supervisor lets it be used all the same; the fitter finds it offered, and why
    someone.go("/tools")
    page.get_by_role("link", name="TW-07").click()
    page.get_by_role("button", name="Allow for now, with a reason").click()
    page.get_by_label("Why it must be used all the same").fill("no other of this size until Monday")
    page.get_by_role("button", name="Allow for now", exact=True).click()
    expect(page.get_by_text("let be used by Runa Tesk")).to_be_visible()


def test_a_counter_is_replaced_and_the_recheck_gets_its_day(someone: Person) -> None:
    page = someone.sign_in("runa").page
    page.get_by_role("link", name="Salt trolley 3").click()
    page.get_by_label("New meter, counts").select_option("km")
    page.get_by_role("button", name="Add meter").click()
    form = page.get_by_role("form", name="Reading of km meter")
    for shown, at in (
        ("100", "2026-01-01 07:00"),
        ("240", "2026-01-08 07:00"),
        ("380", "2026-01-15 07:00"),
    ):
        form.get_by_label("Reading, km").fill(shown)
        form.get_by_label(re.compile("^Read(?!ing)")).fill(at)
        form.get_by_role("button", name="Save").click()
        expect(page.get_by_text(f"{shown} km", exact=True)).to_be_visible()
    expect(page.get_by_text("20 km a day")).to_be_visible()
    form.get_by_label("Reading, km").fill("5")
    form.get_by_role("button", name="Save").click()
    expect(form.get_by_text("is less than the reading before")).to_be_visible()
    form.get_by_label("Kind of reading").select_option("replaced")
    form.get_by_label(re.compile("Last reading of the old meter")).fill("400")
    form.get_by_role("button", name="Save").click()
    expect(page.get_by_role("row").filter(has_text="new meter")).to_be_visible()
    page.get_by_role("button", name=re.compile("Withdraw 5 km")).click()
    expect(page.locator(".line-through")).to_have_count(1)
    page.get_by_role("button", name=re.compile("^Correct 380 km")).click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Right reading, km").fill("200")
    dialog.get_by_role("button", name="Save correction").click()
    expect(dialog.get_by_text("is less than the reading before")).to_be_visible()
    dialog.get_by_label("Right reading, km").fill("387")
    dialog.get_by_role("button", name="Save correction").click()
    expect(page.get_by_role("row").filter(has_text="387 km")).to_contain_text("+147 km")
    expect(page.locator(".line-through")).to_have_count(2)
    someone.go("/due")
    expect(page.get_by_role("listitem").filter(has_text="Trolley wheel")).to_contain_text(
        "after the tightening"
    )


def test_a_calendar_address_is_shown_once_and_read_without_a_session(someone: Person) -> None:
    page = someone.sign_in("tam").page
    someone.go("/due")
    page.get_by_role("button", name="Create link").click()
    address = page.get_by_label("Your address; it is shown this once").input_value()
    with urllib.request.urlopen(
        someone.server.address + "/calendar/" + address.rpartition("/")[2]
    ) as answer:
        assert Calendar.from_ical(answer.read()).walk("VEVENT")
    page.reload()
    expect(page.get_by_text("A link exists since")).to_be_visible()
    page.get_by_role("button", name="End link").click()
    expect(page.get_by_role("button", name="Create link")).to_be_visible()


def test_anything_is_found_by_one_key(someone: Person) -> None:
    page = someone.sign_in("mira").page
    someone.go("/runs")
    page.get_by_role("heading", name="Runs").wait_for()
    page.keyboard.press("f")
    field = page.get_by_role("combobox", name="Search text")
    expect(field).to_be_focused()
    page.keyboard.type("m24 agitator")
    expect(page.get_by_role("option").first).to_contain_text("Agitator coupling")
    page.keyboard.press("Enter")
    page.wait_for_url("**/joints/**")
    expect(page.get_by_role("heading", name="Agitator coupling")).to_be_visible()
    # typed at once: what comes before the field is there is kept for it
    page.keyboard.press("f")
    page.keyboard.type("szz")
    expect(page.get_by_role("combobox", name="Search text")).to_have_value("szz")
    expect(page.get_by_text("Nothing has all these words.")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)


def test_a_list_is_looked_at_before_it_is_taken(someone: Person, database: Database) -> None:
    page = someone.sign_in("mira").page
    someone.go("/registers")
    data = (
        b"tag,name,area,site\r\nBP-9,Brine pump 9,Well 4,Brine field\r\nAG-2,Agitator "
        b"two,Boiling house,\r\n"
    )
    page.locator("input[type=file]").set_input_files(
        {"name": "machines.csv", "mimeType": "text/csv", "buffer": data}
    )
    page.get_by_text(re.compile("Reading row")).wait_for()
    work(database)
    expect(page.get_by_role("heading", name="Preview: 1 new, 1 changed")).to_be_visible()
    expect(page.get_by_role("row").filter(has_text="AG-2")).to_contain_text(
        "Agitator 2 → Agitator two"
    )
    page.get_by_role("button", name="Import", exact=True).click()
    page.get_by_text(re.compile("Importing row")).wait_for()
    work(database)
    expect(page.get_by_role("heading", name="Imported: 1 new, 1 changed")).to_be_visible()


def test_a_tool_is_registered_and_what_is_wrong_stands_at_its_field(someone: Person) -> None:
    page = someone.sign_in("runa").page
    someone.go("/tools")
    page.get_by_role("button", name="New tool").click()
    form = page.get_by_role("form", name="A new tool")
    form.get_by_label("Serial").fill("TW-77")
    form.get_by_label("From", exact=True).fill("40")
    form.get_by_label("To", exact=True).fill("200 N·m")
    form.get_by_role("button", name="Save").click()
    expect(form.get_by_label("From", exact=True)).to_have_attribute("aria-invalid", "true")
    form.get_by_label("From", exact=True).fill("40 N·m")
    form.get_by_role("button", name="Save").click()
    page.wait_for_url("**/tools/**")
    expect(page.get_by_role("heading", name="TW-77")).to_be_visible()
    expect(page.get_by_text("no calibration on record")).to_be_visible()


def test_the_line_of_a_joint_tells_what_happened(someone: Person) -> None:
    page = someone.sign_in("tam").page
    page.get_by_role("link", name="Channel cover").click()
    history = page.locator("section", has=page.get_by_role("heading", name="Entries"))
    expect(history).to_contain_text("tightened 1 time as far as the record goes")
    history.get_by_role("button", name="Record replaced parts").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Which parts are new").fill("all studs")
    fitted = dialog.get_by_label("Fitted")
    expect(dialog).to_contain_text("Its condition becomes unknown")
    fitted.focus()
    page.keyboard.press("ArrowDown")
    expect(dialog).to_contain_text("Its condition stays as that run left it")
    dialog.get_by_role("button", name="Record replaced parts").click()
    expect(history).to_contain_text("tightened 1 time since they were replaced")
    expect(history).to_contain_text("all studs; in run")
    page.get_by_role("button", name="Report opened").click()
    page.get_by_role("dialog").get_by_role("button", name="Report opened").click()
    expect(history).to_contain_text("Opened by others")
    condition = page.get_by_role("region", name="Condition")
    expect(condition).to_contain_text("Unknown")
    expect(condition).to_contain_text("Opened by others, without a record")
    expect(condition.get_by_role("button", name="Tighten")).to_be_visible()
