"""The work order: segments over stages and positions, step ids, and what the screen is told at
every step."""

from __future__ import annotations

from typing import Any

import pytest

from orthotorq.core.planning.compute import compute
from orthotorq.core.running import fold, state_of
from orthotorq.core.running.log.event_log import Fact
from orthotorq.core.running.log.setup import Setup
from orthotorq.core.running.log.step_id import step_id
from orthotorq.core.running.walk.program import segments_of, units_of
from tests.core.play import Play
from tests.plans import COLD, cover, small, wheel


def bases(document: dict[str, Any], occasion: str = "install") -> list[str]:
    units = units_of(compute(document), Setup(occasion))
    return [s.base() for u in units for s in segments_of(u)]


@pytest.mark.parametrize(
    ("arguments", "text"),
    [
        (("L/full/again", 1, "inner.3", 1), "L/full/again/r1/inner.3"),
        (("-/safe/lock", None, None, 1), "-/safe/lock/-/-"),
        (("-/t/half", 2, "b.4", 3), "-/t/half/r2/b.4/a3"),
    ],
)
def test_step_ids(arguments: tuple[Any, ...], text: str) -> None:
    assert step_id(*arguments) == text


def test_stages_of_another_occasion_are_left_out() -> None:
    document = small()
    document["stages"].append(
        {
            "id": "again",
            "kind": "tighten",
            "in": ["recheck"],
            "condition": COLD,
            "groups": ["b"],
            "chains": ["m"],
            "passes": [{"id": "c", "do": "torque", "percent": 100, "check": True}],
        }
    )
    assert not any("again" in b for b in bases(document))
    assert bases(document, "recheck") == ["-/again/condition", "-/again/c"]


def test_neighbouring_stages_go_whole_position_by_position() -> None:
    document = wheel()
    for stage in document["stages"]:
        stage.pop("across", None)
    heads = ["/".join(b.split("/")[:2]) for b in bases(document)]
    assert list(dict.fromkeys(heads)) == [
        "-/safe",
        "-/stand",
        "L/seats",
        "L/wheelon",
        "L/snug",
        "R/seats",
        "R/wheelon",
        "R/snug",
        "-/lower",
        "L/full",
        "L/paint",
        "R/full",
        "R/paint",
        "-/down",
        "-/unlock",
    ]


def test_a_plan_without_positions_is_done_once() -> None:
    document = wheel()
    document["positions"] = []
    assert all(b.startswith("-/") for b in bases(document))


def test_several_tools_are_one_step_for_all_their_bolts() -> None:
    document = small(8)
    document["groups"][0]["layout"]["diameter"] = "400 mm"
    document["stages"][0]["passes"][2]["order"] = {"kind": "cross", "tools": 2}
    play = Play(document)
    play.until("/full/")
    assert (play.step.label, play.step.places, play.step.total) == ("1 + 5", ["b.1", "b.5"], 4)
    play.usual()
    states = {b.place: b.percent for b in play.state.bolts}
    assert (states["b.1"], states["b.5"], states["b.3"]) == (100, 100, 50)


def test_every_kind_of_step_offers_its_answers_and_keys() -> None:
    play, seen = Play(cover()), {}
    while (step := play.state.instruction) is not None:
        seen.setdefault((step.kind, step.check_round), [(b.answer, b.key) for b in step.buttons])
        play.usual()
    assert seen == {
        ("item", False): [("done", "space")],
        ("condition", False): [("done", "space"), ("not_good", "g")],
        ("reading", False): [("value", "enter")],
        ("check", False): [("good", "space"), ("not_good", "g")],
        ("hand", False): [("done", "space"), ("refuses", "r"), ("not_sure", "n")],
        ("pull", False): [("turned", "space"), ("did_not_turn", "d"), ("not_sure", "n")],
        ("pull", True): [("did_not_turn", "space"), ("turned", "m"), ("not_sure", "n")],
        ("watch", False): [("still", "space"), ("moved", "m")],
    }


def test_cautions_and_conditions_stand_at_their_step() -> None:
    play = Play(cover())
    assert any("Pressure off" in c for c in play.step.cautions)
    play.until("/close/condition")
    assert (play.step.kind, play.step.text) == ("condition", "pressure off, cold")
    play.until("/close/first")
    assert play.step.condition == ["pressure off", "cold"]


def test_the_tape_shows_what_is_done_and_what_comes() -> None:
    play = Play(small())
    assert [(b.done, b.total) for b in play.state.tape] == [(0, 4)] * 4
    play.until("/full/r1/b.2")
    assert [b.done for b in play.state.tape] == [4, 4, 2, 0]
    play.until("/check/")
    play.answer("turned")
    assert play.state.tape[-1].answers == ["turned"]


def test_bolts_at_one_position_do_not_move_those_at_the_other() -> None:
    play = Play(wheel())
    play.until("R/snug/hand")
    state = play.state
    assert state.position == "R"
    assert {b.state for b in state.bolts} == {"untouched"}
    play.until("R/snug/snug")
    assert {b.state for b in play.state.bolts} == {"hand"}
    play.until("L/full/again")
    assert {(b.state, b.percent) for b in play.state.bolts} == {("full", 100.0)}


def test_moved_bolts_are_marked_until_a_round_finds_them_still() -> None:
    play = Play(small())
    play.until("/check/")
    play.answer("turned")
    assert play.state.bolts[0].state == "moved"
    for _ in range(3):
        play.answer("did_not_turn")
    play.answer("did_not_turn")
    assert play.state.bolts[0].state == "checked"


def test_recent_answers_are_the_latest_first_and_can_be_corrected() -> None:
    play = Play(small())
    for _ in range(8):
        play.usual()
    recent = play.state.recent
    assert len(recent) == 6
    assert recent[0].event == play.facts[-1].id
    assert play.state.last == recent[0]


def test_a_correction_of_a_correction_counts_last() -> None:
    play = Play(small())
    play.until("/full/")
    step = play.answer("did_not_turn")
    first = play.facts[-1].id
    play.send("correct", step, {"voids": first, "answer": {"answer": "turned"}})
    play.send("correct", step, {"voids": play.facts[-1].id, "answer": {"answer": "did_not_turn"}})
    assert play.step.kind == "decision" and play.step.step == f"{step}/then"
    log = fold(play.facts)
    assert log.answers[step].corrected
    assert log.answers[step].fact.id == first


def test_conflicts_move_nothing() -> None:
    play = Play(small())
    step = play.step.step
    conflict = Fact(1, "x", step, "answer", {"answer": "done"}, "Other", "t", accepted=False)
    state = state_of(play.result, [conflict])
    assert state.instruction is not None
    assert (state.instruction.step, state.sequence, state.done) == (step, 1, 0)


def test_a_reading_alone_is_asked_with_its_limit_and_unit() -> None:
    play = Play(cover())
    play.until("/faces/marks")
    assert (play.step.kind, play.step.limit_text, play.step.unit) == (
        "reading",
        "at most 0.4 mm",
        "mm",
    )
    for value, verdict in (
        ("0.3 mm", "accepted"),
        ("0,3 mm", "accepted"),
        ("12 furlong", "refused"),
        ("-1 mm", "refused"),
        ("1,200 mm", "refused"),
        ("50 m", "refused"),
    ):
        again = Play(cover())
        again.until("/faces/marks")
        assert (
            again.send("answer", again.step.step, {"answer": "value", "value": value})[0] == verdict
        )


def test_a_check_at_every_bolt_counts_them_and_names_the_next() -> None:
    document = small(4)
    document["stages"].insert(
        0,
        {
            "id": "look",
            "kind": "inspect",
            "condition": COLD,
            "checks": [
                {"id": "seat", "per": "b", "what": "Seat clean", "on_fail": ["repair", "accept"]}
            ],
        },
    )
    play = Play(document)
    play.until("/seat/")
    seen = []
    while play.step.stage_id == "look":
        seen.append((play.step.index, play.step.total, play.step.label, play.step.upcoming))
        play.usual()
    assert seen == [
        (1, 4, "1", ["2", "3"]),
        (2, 4, "2", ["3", "4"]),
        (3, 4, "3", ["4"]),
        (4, 4, "4", []),
    ]
    assert not play.step.ahead or play.step.stage_id == "t"


def test_notes_of_the_stage_and_of_the_pass_are_both_said() -> None:
    document = small(4)
    document["stages"][0]["note"] = "Hold the far side."
    document["stages"][0]["passes"][1]["note"] = "Slowly."
    play = Play(document)
    play.until("/half/")
    assert play.step.note == "Slowly. Hold the far side. No impact tool here."
    play.until("/full/")
    assert play.step.note == "Hold the far side. No impact tool here."


def test_a_hint_does_not_repeat_the_instruction() -> None:
    document = small(4)
    document["stages"][0]["passes"].insert(3, {"id": "rest", "do": "wait", "for": "1 min"})
    play = Play(document)
    while play.state.instruction is not None:
        assert play.step.hint != play.step.text
        play.usual()


@pytest.mark.parametrize(
    ("turn", "words"),
    [("90 deg", "90°"), ("1 flat", "60°"), ("0.5 turn", "180°"), ("2 turn", "2 turns")],
)
def test_jacking_screws_are_told_their_turn(turn: str, words: str) -> None:
    document = small(4)
    document["stages"].append(
        {
            "id": "off",
            "kind": "jack_out",
            "in": ["dismantle"],
            "what": "cover",
            "screws": 2,
            "turn": turn,
        }
    )
    play = Play(document, occasion="dismantle")
    assert play.step.text == f"Turn every jacking screw by {words}, one after the other."
    assert play.step.note == "Until it is free: cover."
