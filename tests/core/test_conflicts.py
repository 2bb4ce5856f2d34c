"""Two answers to one step: which one counts, and who says so."""

from __future__ import annotations

from orthotorq.core.running import Fact
from tests.core.play import SUPERVISOR, Play
from tests.plans import small


def test_a_conflict_is_settled_by_a_supervisor_and_then_counts() -> None:
    play = Play(small())
    play.until("/full/r1/b.2")
    late = Fact(
        len(play.facts) + 1,
        "late",
        play.step.step,
        "answer",
        {"answer": "turned"},
        "Ane",
        "t",
        accepted=False,
    )
    play.facts.append(late)
    before = play.step.step
    assert [c.event for c in play.state.conflicts] == ["late"]
    settle = {"event": "late", "take": True, "reason": "Ane pulled it"}
    assert play.send("settle", "-", settle)[0] == "refused"
    assert play.send("settle", "-", {**settle, "event": "other"}, SUPERVISOR)[0] == "refused"
    assert play.send("settle", "-", settle, SUPERVISOR)[0] == "accepted"
    assert play.step.step != before
    assert play.send("settle", "-", settle, SUPERVISOR)[0] == "conflict"


def test_of_two_conflicts_the_one_that_is_meant_is_looked_at() -> None:
    play = Play(small())
    play.until("/full/r1/b.2")
    for event, payload in (("a", {"answer": "turned"}), ("b", {"answer": "turned", "note": 5})):
        play.facts.append(
            Fact(
                len(play.facts) + 1,
                event,
                play.step.step,
                "answer",
                payload,
                "Ane",
                "t",
                accepted=False,
            )
        )
    settle = {"take": True, "reason": "Ane pulled it"}
    assert play.send("settle", "-", {**settle, "event": "b"}, SUPERVISOR)[0] == "refused"
    # what is struck is not looked at, what is taken is
    assert (
        play.send("settle", "-", {**settle, "event": "b", "take": False}, SUPERVISOR)[0]
        == "accepted"
    )
    assert play.send("settle", "-", {**settle, "event": "a"}, SUPERVISOR)[0] == "accepted"


def test_unsettled_conflicts_keep_a_supervisor_from_signing() -> None:
    play = Play(small())
    play.finish()
    play.facts.append(
        Fact(
            len(play.facts) + 1,
            "late",
            "-/t/full/r1/b.1",
            "answer",
            {"answer": "turned"},
            "Ane",
            "t",
            accepted=False,
        )
    )
    play.send("sign_off", "-", {"role": "fitter"})
    verdict, sentence = play.send("sign_off", "-", {"role": "supervisor"}, SUPERVISOR)
    assert (verdict, "1 conflict is not settled" in sentence) == ("refused", True)
