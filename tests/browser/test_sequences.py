"""A custom sequence by real keys and presses: entered, kept, drawn."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from tests.browser.conftest import Person
from tests.browser.test_shown import bench_of, loaded, opened, quiet


def test_a_makers_own_order_is_pressed_typed_and_kept(someone: Person) -> None:
    page = bench_of(someone, "trolley")
    section = opened(page, "stage-snug")
    first = section.get_by_label(re.compile(r"^Order of pass 1$"))
    before = first.input_value()
    first.focus()
    page.keyboard.press("End")
    dialog = page.get_by_role("dialog")
    count = dialog.get_by_role("button", name=re.compile(r"^Bolt \d+$")).count()
    own = [*range(1, count + 1, 2), *range(2, count + 1, 2)]
    # no letter leads away while the box is open
    dialog.get_by_role("button", name="Cancel").focus()
    page.keyboard.type("sw")
    expect(dialog).to_be_visible()
    # given up: the list shows the order that is kept
    dialog.get_by_role("button", name="Cancel").click()
    dialog.wait_for(state="detached")
    expect(first).to_have_value(before)
    first.focus()
    page.keyboard.press("End")
    for bolt in own[:2]:
        dialog.get_by_role("button", name=f"Bolt {bolt}", exact=True).click()
    expect(dialog.get_by_text(re.compile("^Missing: "))).to_be_visible()
    expect(dialog.get_by_role("button", name="Save")).to_be_disabled()
    # the rest is typed behind what was pressed
    entry = dialog.get_by_role("textbox")
    entry.focus()
    page.keyboard.press("Control+End")
    page.keyboard.type("".join(f"-{n}" for n in own[2:]))
    expect(dialog.get_by_text(f"All {count} bolts, each once.")).to_be_visible()
    assert dialog.locator("polyline").count() == 1
    for box in (
        dialog.get_by_role("group", name="Passes with this sequence").get_by_role("checkbox").all()
    ):
        box.check()
    dialog.get_by_role("button", name="Save").click()
    dialog.wait_for(state="detached")
    quiet(page)
    for again in (False, True):
        if again:
            page.reload()
            loaded(page)
            section = opened(page, "stage-snug")
        for order in section.get_by_label(re.compile(r"^Order of pass \d+$")).all():
            expect(order).to_have_value("custom")
    section.get_by_role("button", name="Change sequence of pass 2").click()
    expect(dialog.get_by_role("textbox")).to_have_value(" ".join(str(n) for n in own))


def test_a_temperature_is_chosen_or_typed(someone: Person) -> None:
    page = bench_of(someone, "channel")
    section = opened(page, "stage-close")
    chosen = section.get_by_label("Temperature", exact=True)
    chosen.focus()
    page.keyboard.type("at")
    figure = section.get_by_label("Temperature, in figures", exact=True)
    expect(section.get_by_text("Choose cold or hot")).to_be_visible()
    figure.focus()
    page.keyboard.type("45 °C", delay=30)
    quiet(page)
    expect(figure).to_have_value("45 °C")
    expect(section.get_by_role("button", name=re.compile("^Condition"))).to_contain_text("at 45 °C")
    expect(section.get_by_text("Choose cold or hot")).to_have_count(0)
    chosen.focus()
    page.keyboard.type("cold")
    quiet(page)
    expect(figure).to_have_count(0)


def test_of_two_readings_neither_is_taken_with_the_rest(someone: Person) -> None:
    page = bench_of(someone, "trolley")
    page.keyboard.press("Alt+l")
    page.wait_for_function("() => document.activeElement.tagName === 'TEXTAREA'")
    page.keyboard.insert_text("1,250 Nm in a star, retorque after 50 km")
    page.keyboard.press("Enter")
    line = page.get_by_label("Line as read")
    expect(line).to_contain_text("1,250 Nm")
    page.get_by_role("button", name="Use all").click()
    quiet(page)
    # both readings are still there to be chosen, and one put in drops the other
    uses = page.get_by_role("button", name="Use", exact=True)
    expect(uses).to_have_count(2)
    uses.last.click()
    quiet(page)
    expect(uses).to_have_count(0)
    expect(page.get_by_text("1250 N·m").first).to_be_visible()
