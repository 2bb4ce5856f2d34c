"""Stages that are done again, and conditions that a pass has of its own."""

from __future__ import annotations

import pytest

from orthotorq.core.running import record_of
from orthotorq.demo.load import plan_document
from tests.core.play import Play
from tests.plans import small


def alone(play: Play) -> None:
    """Every list that Run draws by key has each key once."""
    state, step = play.state, play.step
    for keys in (
        [b.id for b in state.tape],
        [d.id for d in state.deviations],
        [w.step for w in state.waiting],
        [r.event for r in state.recent],
        [b.answer for b in step.buttons],
    ):
        assert len(keys) == len(set(keys)), (step.step, keys)


@pytest.mark.parametrize("way", ["watch", "redo"])
def test_what_run_lists_has_keys_of_its_own_when_a_stage_is_done_again(way: str) -> None:
    document = plan_document("drum-locking-hub")
    watch = next(s["id"] for s in document["stages"] if s["kind"] == "watch")
    tight = next(s["id"] for s in document["stages"] if s["kind"] == "tighten")
    play, asked = Play(document), False
    while play.state.instruction is not None:
        alone(play)
        step = play.step
        if (
            not asked
            and f"{watch}/" in step.step
            and any(b.answer == "moved" for b in [*step.buttons, *step.wrong])
        ):
            if way == "watch":
                play.answer("moved")
                play.answer("back")
            else:
                assert (
                    play.send("redo", step.step, {"stage": tight, "reason": "a screw was changed"})[
                        0
                    ]
                    == "accepted"
                )
            asked = True
        else:
            play.usual()
    assert asked and sum("~2" in band.id for band in play.state.tape) >= 2


def test_what_went_wrong_in_a_repeat_stays_in_the_record() -> None:
    play = Play(small(2))
    play.until("/check/")
    step = play.step.step
    assert play.send("redo", step, {"stage": "t", "reason": "a bolt was changed"})[0] == "accepted"
    while "/full/" not in play.step.step:
        play.usual()
    assert play.step.step.endswith("/a2")
    play.answer("refuses")
    play.answer("accept", reason="seized, left for the next stop")
    assert "refuses" in play.codes
    play.finish()
    assert "refuses" in play.codes
    assert any(d.code == "refuses" for d in record_of(play.result, play.facts, play.now).deviations)
    assert "deviating" in {b.state for b in play.state.bolts}


def test_a_pass_with_a_condition_of_its_own_asks_for_it_before_its_first_bolt() -> None:
    document = small()
    document["stages"][0]["passes"][2]["condition"] = {"says": "bolts at room temperature"}
    play = Play(document)
    play.until("/full.condition/")
    step = play.step
    assert (step.kind, step.step, step.text) == (
        "condition",
        "-/t/full.condition/-/-",
        "bolts at room temperature",
    )
    play.answer("not_good", note="still warm")
    assert play.step.text == (
        "bolts at room temperature: the joint is not in this condition. What was done about it?"
    )
    play.answer("now_so")
    assert play.step.text == "bolts at room temperature", "the run stops until it is so"
    play.answer("done")
    assert play.step.step == "-/t/full/r1/b.1"
    assert play.step.condition == ["pressure off", "cold", "bolts at room temperature"]
    play.finish()
    lines = [line.text for line in record_of(play.result, play.facts).lines]
    assert (
        lines[:1] == ["Condition: pressure off, cold"]
        and "Condition: bolts at room temperature" in lines
    )


def test_a_condition_of_a_pass_over_two_groups_is_asked_once() -> None:
    document = small()
    second = {
        **document["groups"][0],
        "id": "c",
        "name": "Others",
        "layout": {"kind": "circle", "count": 4, "diameter": "400 mm"},
    }
    document["groups"].append(second)
    document["targets"]["c"] = document["targets"]["b"]
    document["stages"][0]["groups"] = ["b", "c"]
    document["stages"][0]["passes"][1]["condition"] = {"says": "crane on the cover"}
    done = Play(document).finish()
    assert [s for s in done if ".condition/" in s] == ["-/t/half.condition/-/-"]
