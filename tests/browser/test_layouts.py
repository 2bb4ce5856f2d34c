"""Every kind of instruction of every plan, and every decision about what went wrong, on every size
of screen that is carried to a machine: nothing is cut off, nothing to answer lies below the edge,
everything to be tapped is large enough."""

from __future__ import annotations

import copy
import json
from collections.abc import Iterator
from typing import Any

from playwright.sync_api import Route

from orthotorq.core.running.log.setup import occasions_of
from orthotorq.core.running.walk.program import first_variants
from orthotorq.demo.load import plan_document, plan_names
from tests.browser.conftest import Person
from tests.browser.fitter import fits
from tests.browser.given import run_at
from tests.core.play import FITTER, Play

#: the bolt's number and its position stand in the instruction; no other count on it is larger
TOLD = """([label, position]) => {
    const side = document.querySelector('.side'),
      size = (one) => parseFloat(getComputedStyle(one).fontSize);
    const inView = (one) => { const box = one.getBoundingClientRect();
        return box.width > 0 && box.height > 0 && box.top >= 0 && box.bottom <= innerHeight + 1; };
    const number = side.querySelector('.number'), at = side.querySelector('.position');
    if (!number || number.textContent.trim() !== label
      || !inView(number)) return ['the number is not there'];
    if (position && !(at && inView(at) &&
      at.textContent.trim() === position)) return ['the position is not there'];
    const own = (one) => [...one.childNodes].some((node) => node.nodeType === 3 &&
      /\\d/.test(node.data));
    return [...side.querySelectorAll('*')]
      .filter((one) => own(one) && !one.closest('.figure, .number') && inView(one))
      .filter((one) => size(one) >= size(number))
      .map((one) => `as large as the number: ${one.textContent.trim()}`);
}"""
SIZES = ((360, 640), (390, 664), (844, 390), (820, 1180), (768, 1024), (1280, 800))


def kind_of(play: Play) -> tuple[object, ...]:
    """What makes an instruction look otherwise."""
    step = play.step
    return (
        step.kind,
        step.do,
        step.entry,
        step.shows,
        step.check_round,
        bool(step.before_each),
        len(step.buttons),
        len(step.label) > 3,
        bool(step.asks),
        len(step.cautions),
        bool(step.settings and step.settings[0].reaction_Nm),
    )


def every_kind() -> Iterator[Play]:
    """A run at each kind of instruction, and at what follows each answer that something is
    wrong."""
    seen: set[tuple[object, ...]] = set()
    for name in plan_names():
        result = Play(plan_document(name)).result
        for occasion in occasions_of(result):
            play = Play(plan_document(name), occasion=occasion, variants=first_variants(result))
            while play.state.instruction is not None:
                if kind_of(play) not in seen:
                    seen.add(kind_of(play))
                    yield copy.copy(play)
                    for wrong in (
                        *play.step.wrong,
                        *(b for b in play.step.buttons[1:] if not b.reason),
                    ):
                        aside = copy.copy(play)
                        aside.facts, aside._seen = list(play.facts), None
                        accepted = (
                            aside.send("answer", aside.step.step, {"answer": wrong.answer})[0]
                            == "accepted"
                        )
                        if (
                            accepted
                            and aside.state.instruction is not None
                            and kind_of(aside) not in seen
                        ):
                            seen.add(kind_of(aside))
                            yield aside
                play.usual()


def view_of(real: dict[str, Any], play: Play) -> dict[str, Any]:
    """A run as the server tells it, standing where a played one stands."""
    result = play.result.model_dump(mode="json")
    return {
        **real,
        "groups": result["groups"],
        "positions": result["positions"],
        "joint_kind": play.result.joint_kind,
        "state": play.state_for(FITTER).model_dump(mode="json"),
    }


def test_every_instruction_of_every_plan_fits_every_screen(new_context: Any, server: Any) -> None:
    # what the server tells is put in its place here, past the service worker
    person = Person(new_context().new_page(), server)
    page = run_at(person, "tam", "Channel cover")
    api = page.url.replace("/runs/", "/api/v1/runs/")
    real = page.request.get(api).json()
    told: dict[str, Any] = {}
    page.route(api, lambda route: _tell(route, told))
    wrong: list[str] = []
    count = 0
    for play in every_kind():
        told["body"] = json.dumps(view_of(real, copy.copy(play)))
        page.reload()
        page.locator(".side .answer").first.wait_for()
        count += 1
        for width, height in SIZES:
            page.set_viewport_size({"width": width, "height": height})
            # the screen measures itself once and makes room
            page.evaluate(
                "() => new Promise((after) => requestAnimationFrame(() => "
                "requestAnimationFrame(after)))"
            )
            found = fits(page)
            step = play.step
            if step.places and not step.go_to:
                several = len(play.result.positions) > 1
                found += page.evaluate(TOLD, [step.label, step.position if several else ""])
            if found:
                wrong.append(
                    f"{width}x{height} {play.result.title}: {play.step.text[:60]}: {found}"
                )
    assert count > 40
    assert wrong == [], "\n".join(wrong)


def _tell(route: Route, told: dict[str, Any]) -> None:
    if route.request.method == "GET":
        route.fulfill(body=told["body"], content_type="application/json")
    else:
        route.continue_()
