"""What a field shows is what is kept: every list by real keys, every text typed slowly while
saves and answers come back."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import ElementHandle, Locator, Page, expect

from tests.browser.conftest import Person

ROOT = Path(__file__).parents[2]
#: lists that are acts: once they are done they show their own words again
_ACTS = re.compile(
    "New stage|Passes of a method|New custom entry|As a standard flange|Once for "
    "each|Another way|Add "
)
#: between two keys of somebody who types with one finger
SLOW_MS = 90


def bench_of(planner: Person, plan: str) -> Page:
    """The Bench with a plan of the demo."""
    page = planner.sign_in("mira").page
    page.goto(f"{planner.server.address}/equipment?find={plan}")
    page.get_by_role("link", name="Bench").first.click()
    loaded(page)
    return page


def sections(page: Page) -> list[str]:
    return list(
        page.evaluate(
            "[...document.querySelectorAll('[data-section]')].map(one => one.dataset.section)"
        )
    )


def opened(page: Page, key: str) -> Locator:
    """A section with all of its folds open."""
    section = page.locator(f'[data-section="{key}"]')
    head = section.locator("button[aria-expanded]").first
    if head.get_attribute("aria-expanded") != "true":
        head.click()
    for fold in section.locator("button[aria-expanded=false]").element_handles():
        fold.click()
    return section


def quiet(page: Page) -> None:
    """Every act is answered, the draft is saved and computed, nothing moves."""
    page.wait_for_timeout(40)
    page.wait_for_function(
        "() => !document.querySelector('[aria-busy=true]') && !document.getAnimations().length"
    )


def loaded(page: Page) -> None:
    """Everything that a page asks for is there."""
    page.locator("[data-section]").first.wait_for()
    page.wait_for_load_state("networkidle")
    quiet(page)


def shown(section: Locator) -> list[tuple[str, str]]:
    """Every list of a section: its label and the words that it shows, in no order."""
    words = """all => all.filter(one => one.offsetParent).map(one => [
        one.labels[0]?.textContent ?? '',
        one.selectedOptions[0]?.textContent ?? 'nothing'])"""
    return sorted(
        (label, text)
        for label, text in section.locator("select").evaluate_all(words)
        if not _ACTS.search(label)
    )


def shows(page: Page, one: ElementHandle, value: str) -> None:
    """Wait until a list shows a choice; whoever gives a dialog up sees it in the next frames."""
    page.wait_for_function("([one, value]) => one.value === value", arg=[one, value])


def choices(one: Locator) -> Iterator[tuple[ElementHandle, str]]:
    for handle in one.element_handles():
        if handle.is_visible():
            yield handle, str(handle.evaluate("one => one.labels[0]?.textContent ?? ''"))


def by_arrows(page: Page, one: ElementHandle) -> None:
    one.focus()
    page.keyboard.press("ArrowDown")


def by_opening(page: Page, one: ElementHandle) -> None:
    one.click()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")


def by_first_letters(page: Page, one: ElementHandle) -> None:
    one.focus()
    last = str(one.evaluate("one => [...one.options].at(-1).textContent.trim()"))
    page.keyboard.type(last[:4])
    page.keyboard.press("Tab")


def by_leaving_it(page: Page, one: ElementHandle) -> None:
    one.click()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Escape")
    page.keyboard.press("Tab")


WAYS = [by_arrows, by_opening, by_first_letters, by_leaving_it]


@pytest.mark.parametrize("plan", ["channel", "agitator"])
def test_every_list_of_the_bench_shows_what_is_kept(someone: Person, plan: str) -> None:
    page = bench_of(someone, plan)
    tried, known = 0, set[str]()
    for number, key in enumerate(sections(page)):
        section, before = opened(page, key), tried
        for place, (one, label) in enumerate(choices(section.locator("select"))):
            # passes and conditions repeat their lists: of one name each is walked once
            name = re.sub(r"\d+", "", label)
            if _ACTS.search(label) or not one.is_visible() or name in known:
                continue
            known.add(name)
            way = WAYS[(number + place) % len(WAYS)]
            was = str(one.evaluate("one => one.value"))
            way(page, one)
            if page.get_by_role("dialog").count():
                # a choice that wants more than itself, given up: the list shows the old one
                dialog = page.get_by_role("dialog")
                # while it comes in, it answers nothing yet
                expect(dialog).not_to_have_attribute("inert", "")
                page.keyboard.press("Escape")
                dialog.wait_for(state="detached")
                quiet(page)
                shows(page, one, was)
            quiet(page)
            tried += 1
        if tried == before:
            continue
        now = shown(opened(page, key))
        page.reload()
        loaded(page)
        again = page.locator(f'[data-section="{key}"]')
        if again.count():
            assert shown(opened(page, key)) == now, key
    assert tried > 12


def test_a_list_shows_the_choice_while_it_has_the_focus(someone: Person) -> None:
    """The one that was seen: two down and Enter, the figures follow, the list went on showing
    the old words."""
    page = bench_of(someone, "trolley")
    section = opened(page, next(key for key in sections(page) if key.startswith("figure-")))
    for label in ("Friction condition", "Target from"):
        one = section.get_by_label(label, exact=True)
        for way in (by_opening, by_arrows):
            before = one.input_value()
            handle = one.element_handle()
            assert handle is not None
            way(page, handle)
            quiet(page)
            assert one.evaluate("one => document.activeElement === one")
            now = one.input_value()
            assert now != before
            page.reload()
            loaded(page)
            section = opened(page, next(key for key in sections(page) if key.startswith("figure-")))
            expect(section.get_by_label(label, exact=True)).to_have_value(now)
            one = section.get_by_label(label, exact=True)


def test_a_choice_that_is_refused_shows_the_old_one_again(someone: Person) -> None:
    page = bench_of(someone, "trolley")
    section = opened(page, next(key for key in sections(page) if key.startswith("figure-")))
    one = section.get_by_label("Friction condition", exact=True)
    before = one.input_value()
    page.route(
        "**/api/v1/plans/*/edits", lambda route: route.fulfill(status=503, json={"detail": "Busy."})
    )
    handle = one.element_handle()
    assert handle is not None
    by_arrows(page, handle)
    quiet(page)
    expect(one).to_have_value(before)
    expect(page.get_by_text("Busy.")).to_be_visible()


# a plan of its own: what is typed everywhere leaves nothing to compute
def test_what_is_typed_slowly_lands_in_its_field(someone: Person) -> None:
    page = bench_of(someone, "gearbox")
    tried, known = 0, set[str]()
    for key in sections(page):
        section = opened(page, key)
        texts = [
            one
            for one in section.locator("input[type=text], input:not([type])").element_handles()
            if one.is_visible()
        ]
        for one in texts:
            if not one.is_visible() or not one.is_enabled():
                continue
            label = str(one.evaluate("one => one.labels[0]?.textContent ?? one.ariaLabel ?? ''"))
            # a field of its kind is typed in once: passes and stages repeat theirs
            if (kind := re.sub(r"\d+", "", label)) in known:
                continue
            known.add(kind)
            one.focus()
            one.evaluate("one => one.select()")
            for letter in "25":
                page.keyboard.type(letter)
                # an answer and a save may come back between two keys
                page.wait_for_timeout(SLOW_MS)
            assert one.evaluate("one => document.activeElement === one"), (
                key,
                label,
                "lost the focus",
            )
            assert one.evaluate("one => one.value") == "25", (key, label)
            tried += 1
    assert tried > 20


def test_a_field_behind_more_stays_where_it_is_while_it_is_filled_in(someone: Person) -> None:
    page = bench_of(someone, "trolley")
    section = opened(page, "stage-snug")
    rounds = section.get_by_label(re.compile("Rounds at most of pass")).last
    rounds.focus()  # brings it into view, so its place is measured after
    place = rounds.bounding_box()
    page.keyboard.type("2")
    page.wait_for_timeout(900)
    page.keyboard.type("5")
    quiet(page)
    assert rounds.bounding_box() == place
    expect(rounds).to_have_value("25")
    expect(rounds).to_be_focused()


@pytest.mark.parametrize(
    ("login", "path"),
    [
        ("mira", "/equipment"),
        ("mira", "/registers"),
        ("mira", "/sums/torque"),
        ("mira", "/sums/thread"),
        ("mira", "/tables"),
        ("mira", "/tools"),
        ("jory", "/people"),
        ("mira", "/due"),
    ],
)
def test_every_list_of_other_screens_shows_what_was_picked(
    someone: Person, login: str, path: str
) -> None:
    page = someone.enter(login).page
    someone.go(path)
    quiet(page)
    for button in ("New tool", "Invite person", "New machine"):
        if page.get_by_role("button", name=button).count():
            page.get_by_role("button", name=button).first.click()
    quiet(page)
    for number, (one, label) in enumerate(choices(page.locator("select"))):
        for way in (WAYS[number % 3], WAYS[(number + 1) % 3]):
            if not one.is_visible():
                continue
            expected: Any = None
            if way is by_arrows or way is by_opening:
                expected = one.evaluate(
                    "one => one.options[Math.min(one.selectedIndex + 1, one.options.length - "
                    "1)].value"
                )
            way(page, one)
            quiet(page)
            if one.is_visible() and expected is not None:
                assert one.evaluate("one => one.value") == expected, (path, label, way.__name__)


def test_there_is_one_list_in_the_whole_front_end() -> None:
    """Whatever else shows a choice would have to be walked here, too."""
    own = ROOT / "frontend/src/lib/parts/Choice/Choice.svelte"
    for file in (ROOT / "frontend/src").rglob("*.svelte"):
        text = file.read_text(encoding="utf-8")
        assert file == own or ("Select.svelte" not in text and "<select" not in text), file
