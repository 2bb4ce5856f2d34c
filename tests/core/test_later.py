"""Rounds that are sent along for going on without network are the ones that really come."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from orthotorq.core.running import fold, later_of
from orthotorq.core.running.present.tool_readings import guess
from orthotorq.core.running.walk.program import first_variants
from tests.core.play import Play
from tests.plans import small

PLANS = sorted((Path(__file__).parents[2] / "src/orthotorq/demo/plans").glob("*.json"))


def document(name: str) -> dict[str, Any]:
    found: dict[str, Any] = json.loads(
        (PLANS[0].parent / f"{name}.json").read_text(encoding="utf-8")
    )
    return found


def laters(play: Play) -> dict[str, Any]:
    return {x.after: x.instruction for x in later_of(play.result, fold(play.facts), play.now)}


@pytest.mark.parametrize("answers", [0, 1])
@pytest.mark.parametrize("plan", PLANS, ids=lambda p: p.stem)
def test_what_is_sent_along_comes_whatever_the_bolts_answer(plan: Path, answers: int) -> None:
    play = Play(json.loads(plan.read_text(encoding="utf-8")))
    play = Play(
        json.loads(plan.read_text(encoding="utf-8")),
        occasion="install",
        variants=first_variants(play.result),
    )
    met = 0
    while play.state.instruction is not None and len(play.facts) < 400:
        step, known = play.step, laters(play) if play.step.index == 1 else {}
        if not known:
            play.usual()
            continue
        while known and (follows := [b.answer for b in play.step.buttons if b.follows]):
            at = play.step
            play.answer(follows[min(answers, len(follows) - 1)])
            came = known.pop(at.step, None)
            if came is not None:
                met += 1
                now = play.step
                assert came.model_dump(exclude={"deadline"}) | {
                    "buttons": 0,
                    "changed_setting": 0,
                } == (
                    now.model_dump(exclude={"deadline"}) | {"buttons": 0, "changed_setting": 0}
                ), step.step
                assert [b.answer for b in came.buttons] == [b.answer for b in now.buttons]
    if plan.stem == "evaporator-cover":
        assert met >= 3


def test_nothing_is_sent_along_past_what_decides() -> None:
    play = Play(document("evaporator-cover"))
    play.until("/r1/")
    seen = laters(play)
    assert seen and all(x.stage_id == play.step.stage_id for x in seen.values())
    # after a check it is decided whether another round comes
    checked = {
        step
        for x in seen.values()
        if x.check_round
        for step in (x.step, *(a.step for a in x.ahead))
    }
    assert checked and not checked & set(seen)
    play.send("problem", play.step.step, {"text": "the guard is off", "about": "unsafe"})
    assert laters(play) == {}


def test_the_log_itself_is_not_touched() -> None:
    play = Play(small())
    play.until("/r1/")
    log = fold(play.facts)
    before = (len(log.answers), len(log.order), log.sequence, len(log.by_event))
    later_of(play.result, log, play.now)
    assert before == (len(log.answers), len(log.order), log.sequence, len(log.by_event))


def test_a_head_row_is_guessed_by_its_words() -> None:
    assert guess(
        ["Order", "Stud", "Peak moment [ft-lb]", "Turn [rad]", "Date", "Tool", "Remark"]
    ) == (
        {"run": 0, "bolt": 1, "torque": 2, "angle": 3, "time": 4, "serial": 5},
        {"torque": "ft·lbf", "angle": "rad"},
    )


def test_of_many_rounds_twelve_are_sent_along() -> None:
    document = small()
    document["stages"][0]["passes"] = [
        {"id": f"p{n}", "do": "torque", "percent": 30 + 4 * n} for n in range(16)
    ]
    play = Play(document)
    play.until("/p0/r1/")
    sent = list(laters(play).values())
    assert [x.step.split("/")[2] for x in sent] == [f"p{n}" for n in range(1, 13)]


def test_after_the_last_round_of_a_run_comes_nothing_and_that_is_no_trouble() -> None:
    document = small()
    document["stages"] = [
        {
            **document["stages"][0],
            "passes": [
                {"id": "half", "do": "torque", "percent": 50},
                {"id": "full", "do": "torque", "percent": 100},
            ],
        }
    ]
    play = Play(document)
    play.until("/half/r1/")
    assert [x.step.split("/")[2] for x in laters(play).values()] == ["full"]
    play.until("/full/r1/")
    assert laters(play) == {}


def test_nothing_is_sent_along_past_a_bolt_that_is_slackened_first() -> None:
    for first in (True, False):
        document = small()
        document["stages"][0]["passes"] = [
            {"id": "c", "do": "torque", "percent": 90, "slacken_first": first},
            {"id": "d", "do": "torque", "percent": 100},
        ]
        play = Play(document)
        play.until("/c/")
        assert play.step.kind == ("slacken" if first else "pull")
        assert [x.step.split("/")[2] for x in laters(play).values()] == ([] if first else ["d"])
