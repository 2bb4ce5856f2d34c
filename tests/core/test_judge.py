"""What becomes of an event that does not fit: its verdict, and a sentence that says what was
expected."""

from __future__ import annotations

from types import SimpleNamespace
from typing import Any, cast

import pytest

from orthotorq.core.forms.stage import ItemOut
from orthotorq.core.running.walk.items import usual
from tests.core.play import FITTER, SUPERVISOR, Play
from tests.plans import COLD, small

MEASURE = {
    "id": "m",
    "kind": "measure",
    "condition": COLD,
    "checks": [
        {
            "id": "gap",
            "what": "Gap",
            "limit": {"min": "0.1 mm", "max": "0.4 mm"},
            "on_fail": ["repair", "accept"],
        },
        {"id": "drop", "what": "Drop of the seat", "limit": {"min": "-1 mm", "max": "1 mm"}},
    ],
}
PLANNER = frozenset({"planner"})


def measured() -> Play:
    """A run that stands at its first reading."""
    document = small()
    document["stages"].insert(0, MEASURE)
    play = Play(document)
    play.answer("done")
    assert play.step.kind == "reading"
    return play


def pulling() -> Play:
    """A run that stands at its first torque pull, 60 N·m."""
    play = Play(small())
    play.until("/half/")
    return play


def finished() -> Play:
    """A run with all its steps done, and one deviation."""
    play = Play(small())
    play.until("/check/")
    for _ in range(8):
        play.answer("turned")
    play.answer("accept")
    assert play.state.status == "finished"
    return play


def signed() -> Play:
    play = finished()
    assert play.send("sign_off", "-", {"role": "fitter"})[0] == "accepted"
    return play


def closed() -> Play:
    play = signed()
    deviation = play.state.deviations[0].id
    assert (
        play.send("accept", "-", {"deviation": deviation, "reason": "new gasket"}, SUPERVISOR)[0]
        == "accepted"
    )
    assert play.send("sign_off", "-", {"role": "supervisor"}, SUPERVISOR)[0] == "accepted"
    return play


def verdict(
    play: Play,
    kind: str,
    payload: dict[str, Any],
    roles: frozenset[str] = FITTER,
    step: str | None = None,
) -> str:
    """Verdict and sentence in one, at the step current step of the run."""
    here = step if step is not None else play.step.step if play.state.instruction else "-"
    return ": ".join(play.send(kind, here, payload, roles))


@pytest.mark.parametrize(
    ("value", "words"),
    [
        (0.3, "with its unit"),
        (None, "with its unit"),
        ("0.3", "has no unit"),
        ("three mm", "is not a length"),
        ("0.3 kN", "length"),
        ("-0.2 mm", "cannot be"),
        ("12 km", "cannot be"),
        ("1,200 mm", "1.200 or as 1200"),
        ("", "nothing was written"),
    ],
)
def test_a_reading_that_cannot_be_is_refused_with_an_example(value: object, words: str) -> None:
    said = verdict(measured(), "answer", {"answer": "value", "value": value})
    assert said.startswith("refused: ")
    assert words in said


def test_a_reading_below_zero_is_taken_where_its_limit_goes_below() -> None:
    play = measured()
    play.answer("value", value="0.2 mm")
    play.answer("value", value="-0.5 mm")
    assert play.step.step.startswith("-/t/condition")
    assert play.codes == []


@pytest.mark.parametrize(
    ("low", "high", "between"),
    [
        (0.2, 0.5, (-1.3, 2.0)),
        (None, 0.3, (-1.2, 1.8)),
        (-0.4, None, (-2.4, 1.6)),
        (None, None, None),
        (0.0, None, None),
    ],
)
def test_a_reading_is_asked_back_five_widths_of_its_limit_away(
    low: float | None, high: float | None, between: Any
) -> None:
    found = usual(cast(ItemOut, SimpleNamespace(min=low, max=high, limit_text="so much")))
    if between is None:
        assert found is None
    else:
        assert (
            found is not None
            and found[:2] == pytest.approx(between)
            and found[2] == "the limit is so much"
        )


def test_a_reading_outside_its_limit_asks_what_was_done() -> None:
    play = measured()
    play.answer("value", value="0.5 mm")
    assert [b.answer for b in play.step.buttons] == ["repair", "accept"]
    assert verdict(play, "answer", {"answer": "replace"}).startswith(
        "refused: “replace” is no answer to this step"
    )
    assert verdict(play, "answer", {"answer": "accept"}) == "refused: Enter the reason."


@pytest.mark.parametrize(
    ("more", "words"),
    [
        ({"reading": "60 N·m"}, "a torque, an angle or both"),
        ({"reading": {"torque": 60}}, "text with a unit"),
        ({"reading": {"torque": "-60 N·m"}}, "cannot be"),
        ({"reading": {"torque": "190 N·m"}}, "asks for 60 N·m"),
        ({"reading": {"angle": "4000 deg"}}, "0 to 10 turns"),
        ({"reading": {"angle": "7 mm"}}, "“7 mm” is a length; expected an angle"),
        ({"note": 7}, "A note is text"),
        ({"note": "x" * 1001}, "1000 characters"),
        ({"mood": "good"}, "no field “mood”"),
    ],
)
def test_an_answer_with_what_it_cannot_have_is_refused(more: dict[str, Any], words: str) -> None:
    play = pulling()
    said = verdict(play, "answer", {"answer": "turned", **more})
    assert said.startswith("refused: ")
    assert words in said
    assert (
        verdict(
            play, "answer", {"answer": "turned", "reading": {"torque": "61 N·m", "angle": "12 deg"}}
        )
        == "accepted: "
    )


@pytest.mark.parametrize(
    ("kind", "payload", "words"),
    [
        ("correct", {"voids": "e1", "wish": 1}, "names the event it voids"),
        ("correct", {"voids": 7}, "not in this run"),
        ("correct", {"voids": "e2", "answer": "turned"}, "one that this step takes"),
        ("correct", {"voids": "e2", "answer": {"answer": "left"}}, "is no answer"),
        ("photo", {"photo": 7}, "named by its id"),
        ("photo", {"photo": "x", "text": "y" * 1001}, "1000 characters"),
        ("photo", {"photo": "x", "where": "y"}, "named by its id"),
        ("redo", {"stage": "t", "reason": ""}, "enter the reason"),
        ("redo", {"stage": "t", "reason": "x", "more": 1}, "enter the reason"),
        ("note", {"text": "x" * 1001}, "1 to 1000"),
        ("note", {"text": 5}, "1 to 1000"),
        ("suggest", {}, "1 to 1000"),
        ("abandon", {"reason": "  "}, "Enter the reason"),
    ],
)
def test_every_kind_of_event_says_what_it_takes(
    kind: str, payload: dict[str, Any], words: str
) -> None:
    said = verdict(pulling(), kind, payload)
    assert said.startswith("refused: ")
    assert words in said


def test_a_stage_is_done_again_only_from_where_the_run_stands() -> None:
    play = pulling()
    assert "current step of the run" in verdict(
        play, "redo", {"stage": "t", "reason": "slipped"}, step="-/t/h/r1/b.1"
    )
    assert verdict(play, "redo", {"stage": "t", "reason": "slipped"}) == "accepted: "


@pytest.mark.parametrize("kind", ["answer", "correct", "redo", "abandon"])
def test_a_planner_looks_on(kind: str) -> None:
    payload = {
        "answer": {"answer": "turned"},
        "correct": {"voids": "e2", "answer": None},
        "redo": {"stage": "t", "reason": "x"},
        "abandon": {"reason": "x"},
    }[kind]
    play = pulling()
    assert verdict(play, kind, payload, PLANNER).startswith(
        "refused: Only a fitter or a supervisor"
    )
    assert verdict(play, "suggest", {"text": "shorter wrench"}, PLANNER) == "accepted: "


def test_what_comes_after_the_fitters_signature_is_kept_and_moves_nothing() -> None:
    play = signed()
    before = play.state.deviations
    for kind, payload in (
        ("answer", {"answer": "turned"}),
        ("correct", {"voids": "e2", "answer": None}),
        ("redo", {"stage": "t", "reason": "x"}),
        ("abandon", {"reason": "x"}),
        ("sign_off", {"role": "fitter"}),
    ):
        assert verdict(play, kind, payload).startswith("conflict: "), kind
    assert (play.state.status, play.state.deviations) == ("signed", before)


def test_after_the_last_signature_only_words_are_added() -> None:
    play = closed()
    for kind, payload in (
        ("answer", {"answer": "turned"}),
        ("accept", {"deviation": "x", "reason": "y"}),
        ("photo", {"photo": "x"}),
        ("sign_off", {"role": "supervisor"}),
    ):
        assert verdict(play, kind, payload, SUPERVISOR).startswith(
            "conflict: This run is closed"
        ), kind
    assert verdict(play, "note", {"text": "seen dry after a week"}) == "accepted: "
    assert play.state.status == "closed"


@pytest.mark.parametrize(
    ("payload", "words"),
    [
        ({"event": "e1", "take": "yes", "reason": "x"}, "names the event"),
        ({"event": "e1", "take": True, "more": 1}, "names the event"),
        ({"event": "e1", "take": True, "reason": "x"}, "no such conflict"),
    ],
)
def test_settling_says_what_it_takes(payload: dict[str, Any], words: str) -> None:
    assert words in verdict(pulling(), "settle", payload, SUPERVISOR)
    assert "Only a supervisor" in verdict(pulling(), "settle", payload)


def test_nobody_signs_before_the_work_is_done_or_in_a_role_not_had() -> None:
    assert "not finished" in verdict(pulling(), "sign_off", {"role": "fitter"})
    assert "in a role one has" in verdict(finished(), "sign_off", {"role": "supervisor"})
    assert "The fitter signs first" in verdict(
        finished(), "sign_off", {"role": "supervisor"}, SUPERVISOR
    )
    assert "not accepted yet" in verdict(signed(), "sign_off", {"role": "supervisor"}, SUPERVISOR)


def test_all_steps_answered_takes_no_more_answers() -> None:
    said = verdict(finished(), "answer", {"answer": "turned"}, step="-/t/check/r9/b.1")
    assert said == "refused: All steps of this run are answered."


@pytest.mark.parametrize(
    "payload",
    [
        {"answer": "turned", "reading": 5},
        {"answer": "turned", "reading": {"torque": 5}},
        {"answer": "turned", "value": 5},
        {"answer": "turned", "reading": {"torque": "9e9 N·m"}},
        {"answer": "turned", "note": ["x"]},
        {"answer": "turned", "batch": 7},
        {"answer": "turned", "colour": "red"},
        {"answer": "turned", "reading": {"torque": "soon"}},
    ],
)
def test_what_no_record_could_show_is_refused_and_never_kept_aside(payload: dict[str, Any]) -> None:
    play = pulling()
    step = play.step.step
    play.answer("turned")
    # answered already: another answer of good form is kept aside, one of bad form is refused
    assert verdict(play, "answer", {"answer": "turned"}, step=step).startswith("conflict")
    assert verdict(play, "answer", payload, step=step).startswith("refused")
    for over in (signed(), closed()):
        assert verdict(over, "answer", payload, step=step).startswith("refused")


def test_an_answer_that_the_step_did_not_take_is_refused_even_when_answered_already() -> None:
    play = pulling()
    step = play.step.step
    play.answer("turned")
    assert verdict(play, "answer", {"answer": "free"}, step=step).startswith("refused")
