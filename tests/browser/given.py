"""A run that stands where a test begins: begun and answered over HTTP, taken over on the screen.

How one is begun and answered on the screen is what `test_path.py`, `test_joints.py` and
`test_coming_back.py` are about.
"""

from __future__ import annotations

from urllib.parse import quote

from playwright.sync_api import Page

from tests.browser.conftest import Person
from tests.browser.devices import Device

ELSEWHERE = "tablet in the gatehouse"


def run_at(person: Person, login: str, joint: str, until: str = "") -> Page:
    """Somebody at a run of a joint, begun with what its dialog proposes and answered as usual until
    its instruction says some words."""
    device = Device(person.server.address, ELSEWHERE, login)
    machines = device.ask(f"/equipment?find={quote(joint)}")["items"]
    plans = (
        plan
        for one in machines
        for found in one["joints"]
        if found["name"] == joint
        for plan in found["plans"]
    )
    revision = next(plan["revision_id"] for plan in plans if plan["revision_id"])
    proposed = device.ask(f"/revisions/{revision}/start")
    device.begin(
        revision,
        occasion=proposed["occasion"],
        history=proposed["histories"][0]["value"],
        variants=[choice["taken"] for choice in proposed["choices"]],
        tools={tool["id"]: tool["usual"] for tool in proposed["tools"] if tool["usual"]},
    )
    while until not in " ".join(str(said) for said in device.state["instruction"].values()):
        device.usual()
    person.enter(login)
    person.go(f"/runs/{device.run}")
    take_over = person.page.get_by_role("button", name="Continue on this device")
    take_over.click()
    take_over.wait_for(state="detached")
    person.page.locator(".side .answer, .side #reading").first.wait_for()
    return person.page
