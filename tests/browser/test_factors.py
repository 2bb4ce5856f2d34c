"""A tablet that is handed over in the middle of a run, a PIN, and one-time codes, on the
screens."""

from __future__ import annotations

import time
from collections.abc import Callable

import pyotp
from playwright.sync_api import expect

from tests.browser import fitter
from tests.browser.conftest import Person


def test_the_next_one_goes_on_with_a_pin_where_the_first_one_stood_and_the_record_names_both(
    someone: Person,
) -> None:
    page = someone.sign_in("tam").page
    fitter.start_run(someone, "Trolley wheel")
    fitter.step_on(page)
    stood = fitter.instruction(page)
    page.get_by_role("button", name="More").click()
    page.get_by_role("button", name="Change user").click()
    box = page.get_by_role("dialog")
    box.get_by_label("Name").select_option("Runa Tesk")
    box.get_by_label("PIN").fill("704194")
    assert someone.axe() == []
    box.get_by_role("button", name="Change user").click()
    expect(box).to_contain_text("do not go together")
    box.get_by_label("PIN").fill("704193")
    box.get_by_role("button", name="Change user").click()
    expect(box).to_have_count(0)
    # who takes it over says first that all is as it was left
    expect(page.locator(".side")).to_contain_text("Before the run continues")
    fitter.press_on(page)
    assert fitter.instruction(page).splitlines()[:2] == stood.splitlines()[:2]
    fitter.step_on(page)
    page.get_by_role("link", name="Pause").click()
    story = page.locator("main")
    expect(story).to_contain_text("Tam Hollis")
    expect(story).to_contain_text("Runa Tesk")


def test_a_pin_is_set_and_codes_are_turned_on_and_asked_for(
    someone: Person, another: Callable[[], Person]
) -> None:
    page = someone.sign_in("mira").page
    someone.go("/account")
    password = page.get_by_label("Your password, to confirm each change here")
    password.fill("saltworks")
    page.get_by_label("New PIN").fill("123456")
    page.get_by_role("button", name="Change the PIN").click()
    expect(page.get_by_role("alert").filter(has_text="tried first")).to_be_visible()
    page.get_by_label("New PIN").fill("480915")
    page.get_by_role("button", name="Change the PIN").click()
    expect(page.get_by_role("status").filter(has_text="The PIN is set")).to_be_visible()
    password.fill("saltworks")
    page.get_by_role("button", name="Set up one-time codes").click()
    secret = page.locator("code").inner_text()
    page.get_by_label("First code").fill(pyotp.TOTP(secret).now())
    assert someone.axe() == []
    page.get_by_role("button", name="Turn on one-time codes").click()
    expect(page.get_by_text("One-time codes are on", exact=True)).to_be_visible()

    mira = another()
    mira.go("/sign-in")
    mira.page.get_by_label("Name").fill("mira")
    mira.page.get_by_label("Password").fill("saltworks")
    mira.page.get_by_role("button", name="Sign in", exact=True).click()
    mira.page.get_by_label("Code of your app").fill(pyotp.TOTP(secret).at(int(time.time()) + 30))
    assert mira.axe() == []
    mira.page.get_by_role("button", name="Sign in", exact=True).click()
    mira.page.get_by_role("heading", name="Shift").wait_for()
