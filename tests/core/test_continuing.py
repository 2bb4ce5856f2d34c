"""A run that was ended early goes on where it stood, where nothing has set or cooled since; other
hands are asked first."""

from __future__ import annotations

from typing import Any

from orthotorq.core.running import fold, later_of, state_from
from tests.core.play import Play
from tests.plans import small


def ended(document: object = None, steps: int = 6) -> Play:
    """A run that was ended early."""
    play = Play(document or small())  # type: ignore[arg-type]
    for _ in range(steps):
        play.usual()
    assert play.send("abandon", "-", {"reason": "the shift is over"}) == ("accepted", "")
    return play


def test_a_run_goes_on_where_it_stood_after_all_was_found_as_it_was_left() -> None:
    play = ended()
    stood = play.facts[-2].step
    assert play.state.status == "abandoned"
    assert play.send("continue", "-", {"reason": "the next shift"}) == ("accepted", "")
    assert play.step.text.startswith("Before the run continues")
    play.answer("not_good")
    assert play.step.text.startswith("Before the run continues"), "asked until it is so"
    play.answer("done")
    assert play.step.step > stood and play.step.kind == "pull"
    play.finish()
    assert play.state.status == "finished" and not play.state.failed


def test_what_was_not_ended_is_not_continued_and_why_is_said() -> None:
    play = Play(small())
    assert play.send("continue", "-", {"reason": "x"})[0] == "conflict"
    play = ended()
    assert play.send("continue", "-", {}) == (
        "refused",
        "Enter the reason to continue the run, in at most 1000 characters.",
    )
    assert play.send("continue", "-", {"reason": "x", "more": 1})[0] == "refused"
    planner = play.send("continue", "-", {"reason": "x"}, frozenset({"planner"}))
    assert planner == ("refused", "Only a fitter or a supervisor continues a run.")


def test_hot_parts_have_cooled_since() -> None:
    document = small()
    document["stages"][0]["condition"] = {"temperature": "80 °C"}
    play = ended(document)
    said = play.send("continue", "-", {"reason": "x"})
    assert said == (
        "refused",
        "This run cannot be continued. The parts have cooled since. Start with slackening.",
    )


def locked() -> dict[str, Any]:
    """A plan whose threads get a locker that sets in ten minutes."""
    document = small()
    document["stages"].insert(
        0,
        {
            "id": "lock",
            "kind": "apply",
            "what": "Locker",
            "groups": ["b"],
            "faces": ["thread"],
            "sets_in": "10 min",
            "before": ["t"],
        },
    )
    return document


def test_a_compound_that_has_set_holds_it_back() -> None:
    document = locked()
    play = Play(document)
    play.until("/half/")
    play.send("abandon", "-", {"reason": "called away"})
    soon = play.send("continue", "-", {"reason": "back at once"})
    assert soon == ("accepted", "")
    play.send("abandon", "-", {"reason": "called away again"})
    play.now += 3600
    verdict, said = play.send("continue", "-", {"reason": "back"})
    assert verdict == "refused" and "has set since" in said


def test_a_compound_that_set_after_its_pulls_is_no_hindrance() -> None:
    document = locked()
    document["stages"].append(
        {"id": "m", "kind": "inspect", "condition": {"load": "off"}, "checks": [{"id": "c"}]}
    )
    play = Play(document)
    while play.step.stage_id != "m":
        play.usual()
    play.send("abandon", "-", {"reason": "called away"})
    play.now += 3600
    assert play.send("continue", "-", {"reason": "back"}) == ("accepted", "")


def test_other_hands_are_asked_whether_all_is_as_it_was_left() -> None:
    play = Play(small())
    for _ in range(6):
        play.usual()
    log = fold(play.facts)
    log.holder = "Tam"
    own = state_from(play.result, log, play.now).instruction
    log.holder = "Runa"
    others = state_from(play.result, log, play.now).instruction
    assert own is not None and others is not None
    assert own.kind == "pull" and others.text.startswith("Before the run continues")
    log.holder = "Tam"
    assert later_of(play.result, log, play.now), "one's own next rounds are sent along"


def test_a_plan_says_how_long_its_work_may_stand_still() -> None:
    play = Play({**small(), "longest_break": "30 min"})
    for _ in range(6):
        play.usual()
    play.now += 31 * 60
    assert play.step.text.startswith("Before the run continues")
    usual = Play(small())
    for _ in range(6):
        usual.usual()
    usual.now += 31 * 60
    assert usual.step.kind == "pull"
