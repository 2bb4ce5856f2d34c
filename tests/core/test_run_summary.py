"""A run in a few lines: nothing is said that has not come yet, and what failed is said last."""

from __future__ import annotations

from orthotorq.core.running import fold, record_of
from orthotorq.core.running.present.outcome import outcome_of
from orthotorq.core.running.present.summary import summary_of
from tests.core.play import SUPERVISOR, Play
from tests.plans import small


def told(play: Play) -> list[str]:
    """The lines of a run, each as it is read."""
    record = record_of(play.result, play.facts, play.now)
    outcome = outcome_of(play.result, fold(play.facts), 1, play.now)
    return [
        f"{line.strong} {line.text}".strip() for line in summary_of(play.result, record, outcome)
    ]


def test_a_run_in_progress_has_not_tightened_what_it_began() -> None:
    play = Play(small())
    play.until("/full/")
    assert told(play) == ["Tam began to tighten 4 bolts to 120 N·m.", "The run is in progress."]


def test_a_run_that_was_ended_early_leaves_the_joint_unknown() -> None:
    play = Play(small())
    play.until("/full/")
    play.send("abandon", "-", {"reason": "storm"})
    first, last = told(play)
    assert (
        first.startswith("Tam began to tighten")
        and last == "It was ended early: the joint is unknown."
    )


def test_a_whole_run_says_what_moved_and_who_has_to_sign() -> None:
    play = Play(small())
    play.until("/check/")
    play.answer("turned")
    play.finish()
    lines = told(play)
    assert lines[0] == "Tam tightened 4 bolts to 120 N·m."
    assert lines[1].startswith("1 of 4 bolts moved in the 1st check round.")
    assert lines[-1] == "The joint is proven when the fitter and a supervisor have signed."
    assert len(lines) <= 5
    play.send("sign_off", "-", {"role": "fitter"})
    play.send("sign_off", "-", {"role": "supervisor"}, SUPERVISOR)
    assert told(play)[-1].startswith("The joint is proven by this run.")


def test_what_failed_and_was_left_is_the_last_word() -> None:
    play = Play(small())
    play.until("/full/")
    play.answer("past_click")
    play.answer("accept", reason="no bolt in store")
    play.finish()
    lines = told(play)
    assert "past the click" in lines[1]
    assert lines[-1] == "Do not use: what failed was left as it is."
