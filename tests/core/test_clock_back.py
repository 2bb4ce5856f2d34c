"""A server's clock that ran ahead for a while holds no wait, passes none in silence, and what comes
after is timed."""

from __future__ import annotations

import pytest

from orthotorq.core.running import fold
from tests.core.play import Play
from tests.core.test_run_kinds import PULL, with_passes

WAITS = with_passes(PULL, {"id": "rest", "do": "wait", "for": "30 min"}, {**PULL, "id": "q"})


def test_a_clock_that_ran_ahead_for_a_while_holds_no_wait_and_the_record_says_so() -> None:
    first, play = Play(WAITS), Play(WAITS)
    first.until("/rest/")
    for _ in first.facts[:-1]:
        play.usual()
    # the last bolt is pulled while the clock is two days ahead; then somebody puts it right
    play.now += 2 * 86_400
    assert play.usual().startswith("-/t/resumed"), (
        "after so long it is asked whether all is as it was"
    )
    play.usual()
    play.now -= 2 * 86_400
    assert (
        play.step.kind == "wait"
        and play.step.ready_at is None
        and "cannot be timed here" in play.step.hint
    )
    play.answer("done")
    assert play.codes == ["untimed"]
    # what comes after is timed as ever
    assert play.step.step.endswith("/q/r1/b.1")


@pytest.mark.parametrize("seconds", [1, 100])
def test_a_clock_that_is_put_right_by_a_little_is_still_counted_by(seconds: int) -> None:
    play = Play(WAITS)
    play.until("/rest/")
    play.now -= seconds
    assert play.step.ready_at is not None
    assert play.send("answer", play.step.step, {"answer": "done"})[0] == "refused"


def test_the_next_wait_after_a_clock_was_put_right_is_timed_from_what_was_then() -> None:
    play = Play(with_passes(PULL, {"id": "q", "do": "wait", "for": "30 min"}))
    ahead = 2 * 86_400
    play.usual()
    play.now += ahead
    play.usual()
    play.now -= ahead
    for _ in range(20):
        if play.step.kind == "wait":
            break
        play.usual()
    assert play.step.ready_at is not None and abs(play.step.ready_at - (play.now + 1800)) < 1
    assert play.codes == []


def test_a_clock_that_only_goes_on_is_never_taken_for_one_that_went_back() -> None:
    play = Play(WAITS)
    play.finish()
    assert fold(play.facts).back == []
