"""The run logic: order of work, rounds, repeats, corrections, deviations, verdicts. Pure: nothing
else is needed."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from orthotorq.core.running import record_of, state_of
from tests.core.play import SUPERVISOR, Play
from tests.plans import cover, small, wheel

USUAL = {"condition": "done", "item": "done", "check": "good", "hand": "done", "pull": "turned"}


def test_steps_of_a_small_plan_in_order() -> None:
    done = Play(small()).finish()
    order = [1, 3, 2, 4]
    assert done == (
        ["-/t/condition/-/-"]
        + [f"-/t/h/r1/b.{i}" for i in (1, 2, 3, 4)]
        + [f"-/t/half/r1/b.{i}" for i in order]
        + [f"-/t/full/r1/b.{i}" for i in order]
        + [f"-/t/check/r1/b.{i}" for i in (1, 2, 3, 4)]
    )


def test_one_stage_at_all_positions_before_the_next() -> None:
    done = Play(wheel()).finish()
    heads = [s.split("/")[:2] for s in done]
    blocks = [a for a, b in zip(heads, [[], *heads], strict=False) if a != b]
    assert blocks == [
        ["-", "safe"],
        ["-", "stand"],
        ["L", "seats"],
        ["R", "seats"],
        ["L", "wheelon"],
        ["R", "wheelon"],
        ["L", "snug"],
        ["R", "snug"],
        ["-", "lower"],
        ["L", "full"],
        ["R", "full"],
        ["L", "paint"],
        ["R", "paint"],
        ["-", "down"],
        ["-", "unlock"],
    ]


def test_rounds_go_on_until_none_moves_and_a_round_is_finished() -> None:
    play = Play(small())
    play.until("/check/")
    play.answer("turned")
    for _ in range(3):
        play.answer("did_not_turn")
    assert play.step.step == "-/t/check/r2/b.1"
    for _ in range(4):
        play.answer("did_not_turn")
    assert play.state.status == "finished"
    assert play.state.deviations == []


def test_rounds_that_run_out_are_a_deviation_and_never_success() -> None:
    play = Play(small())
    play.until("/check/")
    for _ in range(8):
        play.answer("turned")
    # a stop of its own, before anything comes after
    assert (play.step.kind, [b.answer for b in play.step.buttons]) == (
        "decision",
        ["again", "back", "accept"],
    )
    assert (
        "after 2 rounds bolts still move" in play.step.text and "does not settle" in play.step.hint
    )
    assert play.codes == []
    play.answer("accept")
    state = play.state
    assert state.status == "finished"
    assert [d.code for d in state.deviations] == ["rounds_exhausted"]
    assert play.send("sign_off", "-", {"role": "fitter"})[0] == "accepted"
    assert play.send("sign_off", "-", {"role": "supervisor"}, SUPERVISOR)[0] == "refused"
    deviation = state.deviations[0].id
    assert (
        play.send("accept", "-", {"deviation": deviation, "reason": "new gasket next stop"})[0]
        == "refused"
    )
    assert (
        play.send("accept", "-", {"deviation": deviation, "reason": " "}, SUPERVISOR)[0]
        == "refused"
    )
    assert (
        play.send("accept", "-", {"deviation": deviation, "reason": "new gasket"}, SUPERVISOR)[0]
        == "accepted"
    )
    assert (
        play.send("accept", "-", {"deviation": deviation, "reason": "again"}, SUPERVISOR)[0]
        == "conflict"
    )
    assert play.send("sign_off", "-", {"role": "supervisor"}, SUPERVISOR)[0] == "accepted"
    assert play.state.status == "closed"


def test_not_sure_repeats_the_bolt() -> None:
    play = Play(small())
    play.until("/half/")
    first = play.answer("not_sure")
    assert play.step.step == f"{first}/a2"
    assert play.step.attempt == 2
    play.answer("turned")
    assert play.step.step == "-/t/half/r1/b.3"


def test_a_condition_that_is_not_met_stops_the_run_until_it_is() -> None:
    play = Play(small())
    play.answer("not_good")
    assert play.step.step == "-/t/condition/-/-/then"
    play.answer("now_so")
    assert (play.step.step, play.step.kind) == ("-/t/condition/-/-/a2", "condition")
    play.answer("not_good")
    play.answer("now_so")
    play.answer("done")
    assert play.step.kind == "hand"
    assert play.codes == []


def test_who_works_in_another_condition_leaves_the_joint_unfit() -> None:
    play = Play(small())
    play.answer("not_good")
    play.answer("accept", reason="no time to cool")
    assert play.step.kind == "hand"
    assert play.codes == ["not_in_condition"]
    assert "no time to cool" in play.state.failed[0]


def test_a_run_of_an_older_program_that_asked_a_condition_again_at_once_stands_as_it_was() -> None:
    play = Play(small())
    play._keep("-/t/condition/-/-", "answer", {"answer": "not_good"}, True)
    play._keep("-/t/condition/-/-/a2", "answer", {"answer": "done"}, True)
    assert play.step.kind == "hand" and play.codes == []


def test_more_rounds_are_gone_when_what_moved_was_found_and_mended() -> None:
    play = Play(small())
    play.until("/check/")
    for _ in range(8):
        play.answer("turned")
    play.answer("again")
    assert play.step.step == "-/t/check/r3/b.1"
    for _ in range(4):
        play.answer("did_not_turn")
    assert (play.state.status, play.codes) == ("finished", [])
    table = record_of(play.result, play.facts).tables[0]
    assert [c.title for c in table.columns][-1].endswith("round 3")


def test_rounds_that_run_out_lead_back_to_their_stage() -> None:
    play = Play(small())
    play.until("/check/")
    for _ in range(8):
        play.answer("turned")
    play.answer("back")
    assert "/t/" in play.step.step and play.step.round in (None, 1) and play.step.stage_id == "t"
    play.finish()
    assert play.codes == []


def test_a_new_bolt_has_nothing_of_the_old_one() -> None:
    play = Play(small())
    play.until("/full/r1/b.3")
    play.answer("did_not_turn")
    play.answer("replace")
    look = next(b for b in play.state.bolts if b.place == "b.3")
    assert (look.state, look.percent) == ("untouched", 0)
    assert play.step.kind == "hand" and play.step.socket == ""
    play.answer("refuses")
    play.answer("replace")
    # replaced once more, it begins once more
    assert play.step.kind == "hand"
    for kind in ("hand", "pull", "pull"):
        assert play.step.kind == kind and play.step.label == "3"
        assert play.step.socket.startswith("socket") is (kind == "pull")
        play.answer("turned" if kind == "pull" else "done")
    assert play.step.label == "2" and play.codes == ["replaced", "replaced"]
    assert play.state.deviations[0].text == "Bolt 3 was replaced at 100 %: as agreed."


def test_a_bolt_that_does_not_turn_at_a_higher_torque_stops_there() -> None:
    play = Play(small())
    play.until("/full/")
    assert not next(b for b in play.step.buttons if b.answer == "did_not_turn").follows
    step = play.answer("did_not_turn")
    assert (play.step.step, [b.answer for b in play.step.buttons]) == (
        f"{step}/then",
        ["repair", "replace", "accept"],
    )
    assert "though the torque rose" in play.step.text
    play.answer("repair")
    # from loose it does not go to the full torque in one pull
    for pass_ in ("h", "half"):
        assert play.step.step == f"-/t/{pass_}/r1/b.1/a2"
        play.usual()
    assert play.step.step == f"{step}/a2"
    play.answer("turned")
    play.answer("did_not_turn")
    play.answer("accept")
    assert [d.code for d in play.state.deviations] == ["did_not_turn"]
    assert next(b for b in play.state.bolts if b.place == "b.3").state == "deviating"


def test_a_correction_replaces_or_reopens_and_points_to_the_old() -> None:
    play = Play(small())
    play.until("/full/")
    wrong = play.answer("did_not_turn")
    event = play.facts[-1].id
    assert (
        play.send("correct", wrong, {"voids": event, "answer": {"answer": "turned"}})[0]
        == "accepted"
    )
    assert play.state.deviations == []
    play.answer("turned")
    assert play.send("correct", wrong, {"voids": event, "answer": None})[0] == "accepted"
    assert play.step.step == f"{wrong}/a2"
    play.usual()
    play.finish()
    record = record_of(play.result, play.facts)
    assert [line.kind for line in record.story if line.kind not in ("start", "work")] == [
        "correct",
        "correct",
    ]
    cell = record.tables[0].rows[0].cells[2]
    assert cell is not None
    assert cell.attempt == 2


def test_a_correction_in_the_check_round_asks_for_another_round() -> None:
    play = Play(small())
    play.finish()
    last = play.facts[-1]
    assert (
        play.send("correct", last.step, {"voids": last.id, "answer": {"answer": "turned"}})[0]
        == "accepted"
    )
    assert play.state.status == "running"
    assert play.step.step == "-/t/check/r2/b.1"


def test_a_reading_outside_its_limit_is_a_deviation() -> None:
    play = Play(cover())
    play.until("/faces/marks")
    step = play.answer("value", value="0.6 mm")
    assert (play.step.kind, play.step.step) == ("decision", f"{step}/then")
    assert [b.answer for b in play.step.buttons] == ["repair", "replace", "accept"]
    play.answer("repair")
    assert play.step.step == f"{step}/a2"
    play.answer("value", value="0.5 mm")
    assert play.send("answer", play.step.step, {"answer": "accept"})[0] == "refused"
    play.answer("accept", reason="shallow, away from the seat")
    assert play.codes == ["out_of_limit"]
    assert "0.5 mm" in play.state.deviations[0].text


@pytest.mark.parametrize(
    ("kind", "step", "payload", "verdict"),
    [
        ("answer", "-/t/full/r1/b.1", {"answer": "turned"}, "refused"),
        ("answer", "-/t/half/r1/b.1", {"answer": "turned"}, "conflict"),
        ("answer", "NEXT", {"answer": "maybe"}, "refused"),
        ("answer", "NEXT", {}, "refused"),
        ("answer", "NEXT", {"answer": "turned", "reading": {"torque": "9000 N·m"}}, "refused"),
        ("answer", "NEXT", {"answer": "turned", "reading": {"torque": "60"}}, "refused"),
        ("answer", "NEXT", {"answer": "turned", "reading": {"angle": "-5 deg"}}, "refused"),
        ("answer", "NEXT", {"answer": "turned", "reading": {"mood": "good"}}, "refused"),
        (
            "answer",
            "NEXT",
            {"answer": "turned", "reading": {"torque": "61 N·m", "angle": "30 deg"}},
            "accepted",
        ),
        ("correct", "-", {"voids": "nothing", "answer": None}, "refused"),
        ("correct", "-", {"voids": "e6", "answer": {"answer": "done"}}, "refused"),
        ("note", "-", {"text": ""}, "refused"),
        ("note", "-", {"text": "windy"}, "accepted"),
        ("problem", "NEXT", {"text": "it keeps turning"}, "accepted"),
        ("problem", "-", {"words": "x"}, "refused"),
        ("sign_off", "-", {"role": "fitter"}, "refused"),
        ("sign_off", "-", {"role": "king"}, "refused"),
        ("accept", "-", {"deviation": "x", "reason": "y"}, "refused"),
        ("abandon", "-", {}, "refused"),
        ("abandon", "-", {"reason": "crane needed"}, "accepted"),
    ],
)
def test_verdicts_in_the_middle_of_a_pass(
    kind: str, step: str, payload: dict[str, Any], verdict: str
) -> None:
    play = Play(small())
    play.until("/half/")
    play.usual()
    found, sentence = play.send(kind, play.step.step if step == "NEXT" else step, payload)
    assert found == verdict, sentence
    assert verdict == "accepted" or len(sentence) > 15


def test_only_a_fitter_or_supervisor_answers() -> None:
    play = Play(small())
    step = play.step.step
    assert play.send("answer", step, {"answer": "done"}, frozenset({"planner"}))[0] == "refused"


def test_after_signing_answers_and_corrections_are_kept_but_move_nothing() -> None:
    play = Play(small())
    play.finish()
    last = play.facts[-1]
    play.send("sign_off", "-", {"role": "fitter"})
    assert play.send("correct", last.step, {"voids": last.id, "answer": None})[0] == "conflict"
    assert play.send("answer", "-/t/check/r2/b.1", {"answer": "turned"})[0] == "conflict"
    assert play.send("sign_off", "-", {"role": "fitter"})[0] == "conflict"
    assert play.state.status == "signed"


def test_a_problem_must_be_accepted() -> None:
    play = Play(small())
    play.send("problem", play.step.step, {"text": "thread damaged"})
    assert [d.text for d in play.state.deviations] == ["thread damaged"]


def test_ended_early_says_why_and_takes_nothing_more() -> None:
    play = Play(small())
    step = play.step.step
    play.send("abandon", "-", {"reason": "shift ends"})
    assert play.state.status == "abandoned"
    assert play.send("answer", step, {"answer": "done"})[0] == "conflict"
    assert play.send("note", "-", {"text": "handed over"})[0] == "accepted"


@settings(max_examples=30, deadline=None)
@given(st.lists(st.sampled_from(["turned", "did_not_turn", "not_sure"]), min_size=10, max_size=60))
def test_any_prefix_resumes_to_the_same_state(answers: list[str]) -> None:
    play = Play(small())
    states = [state_of(play.result, play.facts, 0.0).model_dump()]
    for answer in answers:
        step = play.state.instruction
        if step is None:
            break
        play.answer(
            "accept"
            if step.kind == "decision"
            else answer
            if step.kind == "pull"
            else USUAL[step.kind]
        )
        states.append(state_of(play.result, play.facts, 0.0).model_dump())
    for length, expected in enumerate(states):
        assert state_of(play.result, play.facts[:length], 0.0).model_dump() == expected


def test_the_instruction_says_what_to_set_and_what_comes() -> None:
    play = Play(cover())
    play.until("/first/r1/studs.9")
    step = play.step
    assert step.label == "9"
    assert step.upcoming == ["5", "13"]
    assert step.settings[0].text == "158 N·m"
    assert not step.changed_setting
    play.until("/second/")
    assert play.step.changed_setting
    play.until("/check/")
    assert [b.answer for b in play.step.buttons] == ["did_not_turn", "turned", "not_sure"]


def test_record_of_a_finished_run_is_complete() -> None:
    play = Play(wheel())
    play.finish()
    record = record_of(play.result, play.facts)
    assert [(t.position, len(t.rows), len(t.columns)) for t in record.tables] == [
        ("L", 6, 4),
        ("R", 6, 4),
    ]
    assert all(cell is not None for t in record.tables for row in t.rows for cell in row.cells)
    assert {line.answer for line in record.lines} == {"Done", "Good", "0.3 mm", "Yes, it is"}
