"""A fitter at the Run screen: starts runs, answers with keys, types readings, keeps whole
rounds."""

from __future__ import annotations

import re
from contextlib import suppress

from playwright.sync_api import Locator, Page, TimeoutError, expect

from tests.browser.conftest import Person

RUN = re.compile(r"/runs/[0-9a-f-]{36}$")
SAVED = "() => document.querySelector('.top').innerText.includes('all saved')"
CHANGED = "before => document.querySelector('.side')?.innerText !== before"
#: what a step may ask for beside its answer
ASKED = {"Batch number": "B-17", "Initials of a second person": "JK"}
# two taps on one button within 400 ms count once
GUARD_MS = 410
#: waits until what a key or an answer shows is drawn and its effects are done, then sets the page's
#: clock on
SET_ON = """ms => new Promise(after => {
    const on = () => setTimeout(() => { window.letPass(ms); after(); });
    requestAnimationFrame(() => requestAnimationFrame(on));
})"""


def field(page: Page, label: str) -> Locator:
    """A field of the Bench by the beginning of its label."""
    return page.locator("main input").and_(page.get_by_label(re.compile(rf"^{label}"))).first


def open_section(page: Page, name: str) -> None:
    """Open a section of the Bench."""
    button = page.locator("[data-section]").get_by_role("button", name=re.compile(name)).first
    for _ in range(3):
        if button.get_attribute("aria-expanded") == "true":
            return
        # what is computed meanwhile may move it away under the pointer
        button.click()
        with suppress(AssertionError):
            expect(button).to_have_attribute("aria-expanded", "true", timeout=2000)


def take_on_examples(page: Page) -> None:
    """Say of every value that still stands as in the example that it is right."""
    mine = page.get_by_role("button", name="Confirm values")
    page.get_by_text("Not current").wait_for(state="detached")
    page.get_by_role("list", name="Findings").wait_for()
    while count := mine.count():
        mine.first.click()
        expect(mine).to_have_count(count - 1)


def release(page: Page, reason: str = "") -> None:
    """Release what is on the Bench, with every caution waived."""
    page.get_by_role("button", name="Release plan").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_text("A revision is frozen").wait_for()
    for box in dialog.get_by_role("checkbox").all():
        box.check()
    if reason:
        dialog.get_by_label("Reason for the new revision").fill(reason)
    dialog.get_by_role("button", name="Release plan").click()
    page.get_by_text("Released as revision").wait_for()
    # while it fades nothing behind it takes keys
    dialog.wait_for(state="detached")


def start_run(person: Person, joint: str, occasion: str = "") -> None:
    """Begin a run of a joint with what the dialog proposes."""
    page = person.page
    page.get_by_role("link", name=joint).first.click()
    page.get_by_role("button", name="Start run").first.click()
    page.get_by_role("dialog").get_by_role("button", name="Start run").wait_for()
    if occasion:
        page.get_by_text(occasion, exact=True).click()
    page.get_by_role("dialog").get_by_role("button", name="Start run").click()
    page.wait_for_url(RUN)
    page.locator(".side .answer, .side #reading").first.wait_for()


def _changed(page: Page, before: str) -> None:
    try:
        page.wait_for_function(CHANGED, arg=before, polling=30)
    except TimeoutError:
        raise AssertionError(f"nothing came after: {before}") from None


def instruction(page: Page) -> str:
    """All the words of the instruction; at a decision of the server there is a moment without
    buttons, which is waited out."""
    page.locator(".side .answer.quiet, .side a.answer").first.wait_for()
    return page.locator(".side").inner_text()


def nth(place: int) -> str:
    """A place in an order, as it is written on the screen."""
    ending = {1: "st", 2: "nd", 3: "rd"}.get(place % 10, "th")
    return f"{place}{'th' if place % 100 in (11, 12, 13) else ending}"


def takes_answers(page: Page) -> None:
    """Wait while nothing is taken: a run that was just taken over is read first, and its buttons
    show it."""
    page.locator(".side button.answer:enabled, .side a.answer").first.wait_for()


def press_on(page: Page, key: str = "Space", before: str = "") -> None:
    """Answer with a key and wait until the instruction has changed; `before` are its words where
    they are known."""
    before = before or instruction(page)
    for label, typed in ASKED.items():
        if label in before:
            page.get_by_label(label).fill(typed)
            page.locator(".side .answer").first.focus()
    takes_answers(page)
    let_pass(page)
    page.keyboard.press(key)
    _changed(page, before)


def type_reading(page: Page, value: str, before: str = "") -> None:
    """Type a reading and enter it."""
    before = before or instruction(page)
    page.fill("#reading", value)
    # as long as the answer before is under way the button takes nothing, and shows it
    expect(page.get_by_role("button", name="Enter", exact=True)).to_be_enabled()
    let_pass(page)
    page.keyboard.press("Enter")
    _changed(page, before)


def good_reading(page: Page) -> str:
    """A figure inside the limit that stands beside the field."""
    words = page.locator("label[for=reading]").inner_text()
    figures = [float(f) for f in re.findall(r"\d+(?:\.\d+)?", words)]
    if not figures:
        return "0"
    if len(figures) > 1:
        return f"{(figures[0] + figures[1]) / 2:g}"
    return f"{figures[0] / 2:g}" if "at most" in words else f"{figures[0]:g}"


def let_pass(page: Page, ms: int = GUARD_MS) -> None:
    """Let the time pass in which a second tap does not count: the page's clock is set on, once what
    was shown last stands."""
    page.evaluate(SET_ON, ms)


def step_on(page: Page, before: str = "") -> None:
    """One usual answer to whatever is asked."""
    before = before or instruction(page)
    if page.locator("#reading").count():
        type_reading(page, good_reading(page), before)
    else:
        press_on(page, before=before)


def work_until(page: Page, words: str, limit: int = 200) -> None:
    """Answer as usual until the instruction says some words."""
    for _ in range(limit):
        # what was answered last may still be told of before what comes next is there
        page.wait_for_function(SAVED)
        if words in (before := instruction(page)):
            return
        step_on(page, before)
    raise AssertionError(f"never came to {words!r}")


def more(page: Page, what: str, reason: str) -> None:
    """Skip, do again or end, with a reason."""
    before = instruction(page)
    let_pass(page)
    page.keyboard.press("t")
    page.get_by_role("button", name=what).click()
    page.get_by_label("Why").fill(reason)
    page.get_by_role("button", name="Save").click()
    _changed(page, before)


def decide(page: Page, words: str, reason: str = "") -> None:
    """Decide about something that stops the run, with a reason where one is wanted."""
    button = page.get_by_role("button", name=words)
    button.wait_for()
    before = page.locator(".side").inner_text()
    let_pass(page)
    if reason:
        page.get_by_label("Reason, or what was done").fill(reason)
    button.click()
    _changed(page, before)


def sign(page: Page, role: str) -> None:
    """Sign at the end of a run, with the password again."""
    page.get_by_label("your password again").fill("saltworks")
    page.get_by_role("button", name=f"Sign as {role}").click()


def fits(page: Page) -> list[str]:
    """What is wrong with the layout of the instruction that stands there: nothing is cut off,
    nothing to answer lies below the edge of the screen, everything to be tapped is large enough."""
    found: list[str] = page.evaluate("""() => {
        const wrong = [], high = innerHeight, seen = e => e.offsetParent !== null;
        const box = e => e.getBoundingClientRect();
        if (document.documentElement.scrollWidth > innerWidth) wrong.push('wider than the screen');
        const answers = [...document.querySelectorAll('.side .answer')].filter(seen);
        const told = answers.find(e => e.innerText.includes('Report a problem'));
        const huge = document.querySelector('.side .answer.huge');
        const main = huge ?? document.querySelector('#reading') ?? answers[0];
        if (!main || box(main).bottom > high)
            wrong.push(`main ends at ${main && box(main).bottom} of ${high}`);
        const plain = huge && (!told || box(told).bottom > high);
        if (plain) wrong.push(`“Report a problem” ends at ${told && box(told).bottom} of ${high}`);
        const tapped = '.run button, .run header a, .run a.answer';
        for (const e of [...document.querySelectorAll(tapped)].filter(seen))
            if (box(e).height < 56) wrong.push(`${e.innerText} is ${box(e).height} high`);
        for (const a of answers) for (const b of answers)
            if (a !== b && box(a).left < box(b).right - 1 && box(b).left < box(a).right - 1
                && box(a).top < box(b).bottom - 1 && box(b).top < box(a).bottom - 1)
                wrong.push(`${a.innerText} over ${b.innerText}`);
        return wrong;
    }""")
    return found


def whole_round(page: Page, *marked: str) -> None:
    """Keep the rest of a round at once, with the bolts that answered otherwise."""
    # what the server has answered is what the round is kept from
    page.wait_for_function(SAVED)
    before = instruction(page)
    let_pass(page)
    page.keyboard.press("a")
    for label in marked:
        page.locator("button.bolt").and_(page.get_by_text(label, exact=True)).click()
    page.get_by_role("button", name=re.compile(r"^Save \d+ bolts")).click()
    _changed(page, before)
    page.wait_for_function(SAVED)


def work_to_the_end(page: Page, limit: int = 250) -> list[str]:
    """Whole rounds where there are any; waits that cannot be sat out are skipped with a reason.
    Returns the headings."""
    seen: list[str] = []
    for _ in range(limit):
        # while an answer is on its way the button is shut too: that is no wait
        page.wait_for_function(SAVED)
        words = instruction(page)
        if "Finished, not signed" in words:
            return seen
        seen.append(words.splitlines()[0])
        if "I am at" in words:
            # another position: nothing is answered before somebody is there
            step_on(page, words)
            continue
        button = page.locator(".answer.huge")
        if button.count() and button.is_disabled():
            more(page, "Skip step", "the test does not sit it out")
        elif (
            page.locator(".answer.quiet", has_text="Whole round").is_enabled()
            and not page.locator("#reading").count()
        ):
            whole_round(page)
        else:
            step_on(page, words)
    raise AssertionError(f"never came to the end: {instruction(page)}")
