"""People on the screens: invited, their own password, changed, put out of action; a site that is
looked at alone."""

from __future__ import annotations

from collections.abc import Callable

from playwright.sync_api import expect

from tests.browser.conftest import Person

LONG = "five grey herons on a dyke"


def test_somebody_is_invited_sets_a_password_works_and_is_put_out_of_action(
    someone: Person, another: Callable[[], Person]
) -> None:
    page = someone.sign_in("jory").page
    page.get_by_role("link", name="People").click()
    page.get_by_role("button", name="Invite person").click()
    form = page.get_by_role("form", name="Invite person")
    form.get_by_label("Signs in as").fill("n.arden")
    form.get_by_label("Name").fill("Nell Arden")
    form.get_by_role("button", name="Create link").click()
    expect(form).to_contain_text("Give at least one role")
    form.get_by_label("fitter").check()
    assert someone.axe() == []
    form.get_by_role("button", name="Create link").click()
    link = page.get_by_label("The link", exact=True).input_value()
    page.get_by_role("button", name="Close").click()
    expect(page.get_by_label("The link", exact=True)).to_have_count(0)

    nell = another()
    nell.go("/invitation/" + link.rsplit("/", 1)[1])
    expect(nell.page.get_by_role("heading", name="Welcome, Nell Arden")).to_be_visible()
    nell.page.get_by_label("New password").fill("short")
    nell.page.get_by_role("button", name="Set it").click()
    expect(nell.page.get_by_role("alert")).to_contain_text("12 to 128 characters")
    assert nell.axe() == []
    nell.page.get_by_label("New password").fill(LONG)
    nell.page.get_by_role("button", name="Set it").click()
    nell.page.get_by_role("link", name="Sign in").click()
    nell.page.get_by_label("Name").fill("n.arden")
    nell.page.get_by_label("Password").fill(LONG)
    nell.page.get_by_role("button", name="Sign in", exact=True).click()
    nell.page.get_by_role("heading", name="Shift").wait_for()
    nell.page.get_by_role("link", name="Nell Arden, fitter").click()
    nell.page.get_by_label("Current password").fill("not this one")
    nell.page.get_by_label("New password").fill("other herons in the grey")
    nell.page.get_by_role("button", name="Change password").click()
    expect(nell.page.get_by_role("alert").first).to_contain_text("not your password")
    nell.page.get_by_label("Current password").fill(LONG)
    nell.page.get_by_role("button", name="Change password").click()
    expect(nell.page.get_by_role("status").first).to_contain_text("The password is changed")

    page.reload()
    page.get_by_role("button", name="Change Nell Arden").click()
    page.get_by_label("Active").uncheck()
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("listitem").filter(has_text="Nell Arden")).to_contain_text(
        "deactivated"
    )
    nell.go("/equipment")
    nell.page.wait_for_url("**/sign-in**")
    # the link was for once
    nell.go("/invitation/" + link.rsplit("/", 1)[1])
    expect(nell.page.get_by_text("This link was used, or is too old")).to_be_visible()


def test_a_new_link_is_asked_back_since_it_ends_a_password(someone: Person) -> None:
    page = someone.sign_in("jory").page
    someone.go("/people")
    page.get_by_role("button", name="Send new link to Mira Oslund").click()
    expect(page.get_by_role("group", name="New link for Mira Oslund")).to_contain_text(
        "ends at once"
    )
    page.get_by_role("button", name="Cancel").click()
    expect(page.get_by_label("The link", exact=True)).to_have_count(0)
    # the fitter has no way there
    someone.sign_in("tam")
    expect(page.get_by_role("link", name="People")).to_have_count(0)


def test_one_site_is_looked_at_and_called_otherwise(someone: Person) -> None:
    page = someone.sign_in("mira").page
    page.get_by_label("Site").select_option("Quay")
    expect(page.get_by_text("Quay: 1 machine")).to_be_visible()
    expect(page.get_by_role("heading", level=2)).to_have_count(1)
    page.get_by_role("button", name="Rename site").click()
    page.get_by_role("form").get_by_label("Name").fill("Saltworks")
    page.keyboard.press("Enter")
    expect(page.get_by_text("already a site called")).to_be_visible()
    page.get_by_role("form").get_by_label("Name").fill("North quay")
    page.keyboard.press("Enter")
    expect(page.get_by_text("North quay: 1 machine")).to_be_visible()
    page.get_by_role("button", name="New machine").click()
    expect(page.get_by_role("form").get_by_label("Site")).to_have_value("North quay")
