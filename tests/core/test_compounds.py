"""A compound that sets while the bolts are pulled: who pulls after that is stopped before, or it
stands in the record."""

from __future__ import annotations

import copy

import pytest

from tests.core.play import Play
from tests.plans import small

LOCKER = {
    "id": "lock",
    "kind": "apply",
    "what": "Locker",
    "groups": ["b"],
    "sets_in": "2 min",
    "before": ["t"],
}


def test_a_compound_that_has_set_is_said_and_a_late_pull_deviates() -> None:
    document = small()
    document["stages"].insert(0, LOCKER)
    play = Play(document, pace=10)
    play.until("/half/")
    assert [c.set for c in play.state.clocks] == [False]
    assert play.step.deadline == pytest.approx(play.facts[0].happened + 120)
    pull = play.step.step
    play.now += 200
    # a stop before the pull, not a hint beside it
    assert (
        play.step.kind == "decision"
        and "has set" in play.step.text
        and "breaks the bond" in play.step.hint
    )
    assert [b.answer for b in play.step.buttons] == ["back", "accept"]
    play.answer("accept")
    assert play.step.step == pull
    play.answer("turned")
    assert play.codes == ["set_too_late"]


def test_before_a_pull_is_repeated_the_compound_is_looked_at_again() -> None:
    for answer, then in (("not_sure", ""), ("refuses", "repair")):
        document = small()
        document["stages"].insert(0, LOCKER)
        play = Play(document, pace=10)
        play.until("/half/")
        pull = play.step.step
        play.answer(answer)
        if then:
            play.answer(then)
            assert play.step.kind == "hand", "what was loosened goes through all passes again"
            play.usual()
        assert (play.step.step, play.step.kind) == (f"{pull}/a2", "pull")
        play.now += 200
        assert play.step.kind == "decision" and "has set" in play.step.text
        aside = copy.copy(play)
        aside.facts, aside._seen = list(play.facts), None
        aside.answer("back")
        assert aside.step.stage_id == LOCKER["id"]
        play.answer("accept")
        assert (play.step.step, play.step.kind) == (f"{pull}/a2", "pull")
        play.answer("turned")
        assert (
            play.codes[-1] == "set_too_late" and play.step.label == "3" and play.step.kind == "pull"
        )


def test_a_compound_that_has_set_is_applied_anew_and_its_clock_starts_again() -> None:
    document = small()
    document["stages"].insert(0, LOCKER)
    play = Play(document, pace=10)
    play.until("/half/r1/b.3")
    play.now += 200
    play.answer("back")
    assert play.step.stage_id == LOCKER["id"]
    play.until("/half/")
    assert [c.set for c in play.state.clocks] == [False] and play.step.label == "1"
    play.answer("turned")
    assert play.codes == []


def test_a_pull_that_was_made_without_network_stays_a_deviation() -> None:
    document = small()
    document["stages"].insert(0, LOCKER)
    play = Play(document, pace=10)
    play.until("/half/r1/b.1")
    # three taps made without asking: the last two after it has set
    for place, late in (("b.1", 0), ("b.3", 200), ("b.2", 0)):
        play.now += late
        assert play.send("answer", f"-/t/half/r1/{place}", {"answer": "turned"})[0] == "accepted"
    assert play.codes == ["set_too_late", "set_too_late"]
