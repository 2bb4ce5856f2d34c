"""What is done, and told, of a bolt that was left although a check of it failed."""

from __future__ import annotations

import pytest

from orthotorq.core.running import fold, record_of
from orthotorq.core.running.present.outcome import outcome_of
from orthotorq.core.running.present.summary import summary_of
from tests.core.play import Play
from tests.plans import small


def test_a_bolt_that_was_left_as_broken_is_not_pulled_in_later_passes() -> None:
    play = Play(small())
    play.until("/h/")
    play.answer("refuses")
    play.answer("accept", reason="stud galled, spare comes tomorrow")
    asked = []
    play.until("/full/")
    total = play.step.total
    while play.state.instruction is not None:
        asked.append(play.step.step)
        play.usual()
    assert total == 3 and not any(step.endswith("b.1") for step in asked)
    record = record_of(play.result, play.facts)
    outcome = outcome_of(play.result, fold(play.facts), 1)
    assert "tightened 3 of 4 bolts" in summary_of(play.result, record, outcome)[0].text
    assert [row.cells[-1] is None for row in record.tables[0].rows] == [True, False, False, False]


def test_once_its_stage_is_repeated_the_bolt_is_pulled_again() -> None:
    play = Play(small())
    play.until("/h/")
    play.answer("refuses")
    play.answer("accept", reason="stud galled, spare comes tomorrow")
    play.until("/full/")
    play.send("redo", play.step.step, {"stage": "t", "reason": "new stud fitted"})
    asked = []
    while play.state.instruction is not None:
        asked.append(play.step.step)
        play.usual()
    assert any("/full/" in step and "/b.1" in step for step in asked), asked


@pytest.mark.parametrize("word", ["turns_on", "no_reach"])
def test_a_bolt_left_in_the_first_round_is_not_asked_in_the_check(word: str) -> None:
    play = Play(small())
    play.until("/full/r1/b.2")
    play.answer(word)
    if any(button.answer == "accept" for button in play.step.buttons):
        play.answer("accept", reason="no spare today")
    asked = []
    while play.state.instruction is not None:
        asked.append(play.step.step)
        play.usual()
    assert not any("/check/" in step and "b.2" in step for step in asked)
    assert any("/check/" in step for step in asked)
