"""Occasions, variants and the history of bolts: what they leave out and what they add."""

from __future__ import annotations

import pytest

from orthotorq.core.messages import render
from orthotorq.core.planning.compute import compute
from orthotorq.core.running import choices_errors, record_of
from orthotorq.demo.load import plan_document
from tests.core.play import FITTER, Play
from tests.core.test_run_kinds import PULL, with_passes
from tests.plans import COLD, small


def test_what_was_fitted_must_come_out_before_anybody_signs() -> None:
    document = small()
    document["stages"].insert(
        0, {"id": "pin", "kind": "fit", "what": "locking pin", "temporary": True}
    )
    document["stages"].append({"id": "out", "kind": "remove", "fit": "pin"})
    play = Play(document)
    play.usual()
    assert play.state.fitted == ["locking pin"]
    play.until("/out/")
    assert "skip" not in play.state_for(FITTER).actions
    assert (
        play.send("answer", play.step.step, {"answer": "skip", "reason": "later"})[0] == "refused"
    )
    play.usual()
    assert play.state.fitted == []
    assert play.send("sign_off", "-", {"role": "fitter"})[0] == "accepted"


def test_variants_and_occasions_choose_the_stages() -> None:
    play = Play(plan_document("twin-drive-wheel"), variants=["alone", "both"])
    steps = play.finish()
    assert any("/cradle/" in s for s in steps) and not any("/helper/" in s for s in steps)
    apart = Play(plan_document("twin-drive-wheel"), occasion="dismantle", variants=["two", "both"])
    steps = apart.finish()
    stages = list(dict.fromkeys(s.split("/")[1] for s in steps))
    assert stages == [
        "chock",
        "pinback",
        "slack",
        "liftd",
        "helperd",
        "jack",
        "boltout",
        "letgod",
        "drumloose",
        "drumoff",
        "unpinback",
        "lowerd",
        "innerloose",
        "lifte",
        "inneroff",
        "leave",
    ]
    assert apart.state.status == "finished"


@pytest.mark.parametrize(
    ("occasion", "variants", "words"),
    [
        ("install", [], "Choose one"),
        ("install", ["two", "alone"], "Choose one"),
        ("install", ["three"], "not a variant"),
        ("picnic", ["two"], "no work"),
        ("install", ["two", "both"], None),
    ],
)
def test_choices_at_the_start(occasion: str, variants: list[str], words: str | None) -> None:
    found = choices_errors(compute(plan_document("twin-drive-wheel")), occasion, variants)
    assert (
        (found is None)
        if words is None
        else (found is not None and words in render(found[0], **found[1]))
    )


def test_unknown_history_slackens_first_in_a_recheck() -> None:
    document = small()
    document["stages"].append(
        {
            "id": "again",
            "kind": "tighten",
            "in": ["recheck"],
            "condition": COLD,
            "groups": ["b"],
            "chains": ["m"],
            "passes": [{**PULL, "id": "c", "check": True}],
        }
    )
    for history, slackens in (("unknown", True), ("known", False)):
        play = Play(document, occasion="recheck", history=history)
        play.until("/c/")
        assert (play.step.kind == "slacken") is slackens
        if slackens:
            assert (
                "Slacken this bolt alone" in play.step.text and play.step.settings == []
            ) or play.step.shows == "label"
            play.usual()
            assert play.answer("turned") == "-/again/c/r1/b.1"
            # it turned because it was slackened: nothing has moved
            assert play.state.bolts[0].state == "full" and play.state.tape[-1].moved == []


def test_tightening_by_feel_is_provisional() -> None:
    play = Play(with_passes({"id": "h", "do": "hand"}, {"id": "f", "do": "feel"}))
    play.finish()
    assert play.state.provisional
    assert record_of(play.result, play.facts).provisional


def test_taking_apart_loosens_a_little_at_a_time_and_refuses_are_kept() -> None:
    play = Play(plan_document("evaporator-cover"), occasion="dismantle")
    play.until("/crack/round1/")
    assert (play.step.kind, play.step.label, play.step.turn_deg) == ("loosen", "9", 30)
    play.answer("refuses")
    play.answer("accept", reason="cut later, permit 12")
    play.until("/press/jack")
    assert play.step.kind == "jack"
    for _ in range(11):
        play.answer("not_yet")
    play.answer("not_yet")
    # nothing is taken out before it is free
    assert play.step.kind == "decision" and [b.answer for b in play.step.buttons] == [
        "free",
        "again",
    ]
    assert "Never remove a retaining bolt" in play.step.hint
    play.answer("again")
    assert (play.step.kind, play.step.round) == ("jack", 13)
    for _ in range(12):
        play.answer("not_yet")
    play.answer("free")
    assert play.step.kind not in ("jack", "decision") and play.codes == ["stuck"]


def test_a_tool_out_of_calibration_is_a_deviation_from_the_start() -> None:
    play = Play(
        small(),
        tools=[
            {"tool": "w", "serial": "TW-8", "name": "TW-8", "until": "2026-01-01", "expired": True}
        ],
    )
    assert play.codes == ["tool_expired"]
    assert (
        play.state.deviations[0].text
        == "TW-8 (TW-8) was not good when the run started: out of calibration."
    )
    # one that is over its pulls is not called calibrated, whatever day its certificate bears
    state = "5012 pulls since its last check: due after 5000"
    play = Play(
        small(),
        tools=[
            {
                "tool": "w",
                "serial": "TW-8",
                "name": "TW-8",
                "until": "2027-01-01",
                "expired": True,
                "state": state,
            }
        ],
    )
    assert play.state.deviations[0].text.endswith(f"started: {state}.")
    assert record_of(play.result, play.facts, play.now).tools[0].state == state
