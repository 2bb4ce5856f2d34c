"""Every kind of step in a run: repeats, angles, gaps, waits, clocks, redo, skips, what is fitted,
variants, stop conditions."""

from __future__ import annotations

import copy
from typing import Any

import pytest

from orthotorq.core.messages import Refusal
from orthotorq.core.running import choices_errors, expand, record_of
from orthotorq.demo.load import plan_document, plan_names
from tests.core.play import Play, within
from tests.plans import cover, small


def with_passes(*passes: dict[str, Any], count: int = 4, **stage: Any) -> dict[str, Any]:
    document = small(count)
    document["stages"][0].update(passes=list(passes), **stage)
    return document


PULL = {"id": "p", "do": "torque", "percent": 100}


def test_pulls_are_repeated_until_three_show_no_turn() -> None:
    play = Play(with_passes({**PULL, "repeat": {"still": 3, "max": 6}}))
    play.until("/p/")
    assert play.step.step == "-/t/p/r1/b.1/k1"
    play.answer("turned")
    for pull in (2, 3):
        assert (play.step.step, play.step.check_round) == (f"-/t/p/r1/b.1/k{pull}", True)
        play.answer("did_not_turn")
    play.answer("turned")
    for _ in range(2):
        play.answer("did_not_turn")
    # turned once more: six pulls are over before three in a row were still
    assert play.step.kind == "decision" and "still turns after 6 pulls" in play.step.text
    play.answer("accept")
    assert play.codes == ["pulls_exhausted"]
    assert play.step.step == "-/t/p/r1/b.3/k1"


def test_an_angle_outside_its_window_asks_what_was_done() -> None:
    play = Play(
        with_passes(
            PULL, {"id": "a", "do": "angle", "turn": "60 deg", "window": ["55 deg", "65 deg"]}
        )
    )
    play.until("/a/")
    assert (play.step.kind, play.step.turn_deg, play.step.window_deg) == ("angle", 60, [55, 65])
    step = play.answer("turned", reading={"angle": "71 deg"})
    assert (play.step.kind, [b.answer for b in play.step.buttons]) == (
        "decision",
        ["replace", "accept"],
    )
    assert "71 deg is outside 55° to 65°" in play.step.text
    play.answer("replace")
    # a new bolt goes through what the old one had
    assert play.step.step == "-/t/p/r1/b.1/a2" and "from hand on" in play.step.hint
    play.answer("turned")
    assert play.step.step == f"{step}/a2"
    play.answer("turned", reading={"angle": "61 deg"})
    assert play.codes == ["replaced"]
    play.answer("stopped_early")
    play.answer("accept", reason="the maker was asked")
    assert play.codes == ["replaced", "stopped_early"]


def test_an_angle_without_a_reading_is_taken_at_its_word() -> None:
    play = Play(with_passes(PULL, {"id": "a", "do": "angle", "turn": "60 deg"}))
    play.finish()
    assert play.state.status == "finished"


def test_even_draw_goes_on_where_the_gap_is_widest() -> None:
    draw = {
        "id": "g",
        "do": "gap_round",
        "turn": "30 deg",
        "max_spread": "0.5 mm",
        "stop_at": "2 mm",
        "cap": "15 N·m",
        "max": 6,
    }
    document = with_passes(draw)
    document["tools"]["w"]["range"] = ["5 N·m", "200 N·m"]
    play = Play(document)
    play.until("/g/")
    for gap in ("5 mm", "4 mm", "4.2 mm", "4.9 mm"):
        play.answer("value", value=gap)
    # spread 1 mm: only the wide side is turned, the widest first
    assert [play.step.label, *play.step.upcoming] == ["1", "4"]
    assert play.step.total == 2
    for gap in ("3 mm", "3.1 mm"):
        play.answer("value", value=gap)
    assert [play.step.label, *play.step.upcoming][:3] == ["3", "2"]
    while play.state.instruction is not None and play.step.kind != "decision":
        play.answer(
            "cap" if play.step.label == "2" else "value",
            value="2 mm" if play.step.label != "2" else "2.4 mm",
        )
    play.answer("accept")
    assert play.codes == ["cap_reached"]
    assert {b.gap_mm for b in play.state.bolts} == {2.0, 2.4}


def test_gaps_that_end_too_far_apart_are_a_deviation() -> None:
    play = Play(
        with_passes(
            {
                "id": "g",
                "do": "gap_round",
                "turn": "30 deg",
                "max_spread": "0.5 mm",
                "stop_at": "2 mm",
                "max": 1,
            }
        )
    )
    play.until("/g/")
    for gap in ("1 mm", "2 mm", "2 mm", "3 mm"):
        play.answer("value", value=gap)
    assert play.step.kind == "decision" and "gap is still 3 mm at bolt 4" in play.step.text
    play.answer("accept")
    assert (
        "the gaps are 2 mm apart" in play.step.text and "Slacken the tight side" in play.step.hint
    )
    play.answer("accept")
    assert play.codes == ["gap_open", "gap_uneven"]


def test_a_gap_that_cannot_have_changed_so_is_asked_back_and_kept_when_it_is_so() -> None:
    play = Play(
        with_passes(
            {
                "id": "g",
                "do": "gap_round",
                "turn": "30 deg",
                "max_spread": "20 mm",
                "stop_at": "2 mm",
                "max": 9,
            }
        )
    )
    play.until("/g/")
    for _ in range(4):
        play.answer("value", value="12 mm")
    step = play.step.step
    verdict, text = play.send("answer", step, {"answer": "value", "value": "95 mm"})
    assert (
        verdict == "refused"
        and "95 mm is far from what this can be (it was 12 mm before this turn)" in text
    )
    assert play.send("answer", step, {"answer": "value", "value": "11.8 mm"})[0] == "accepted"
    assert (
        play.send("answer", play.step.step, {"answer": "value", "value": "95 mm", "sure": True})[0]
        == "accepted"
    )
    assert (
        play.send("answer", play.step.step, {"answer": "value", "value": "1 mm", "sure": "yes"})[0]
        == "refused"
    )


def test_uneven_gaps_are_gone_round_again_once_the_tight_side_is_slackened() -> None:
    play = Play(
        with_passes(
            {
                "id": "g",
                "do": "gap_round",
                "turn": "30 deg",
                "max_spread": "0.5 mm",
                "stop_at": "2 mm",
                "max": 1,
            }
        )
    )
    play.until("/g/")
    for gap in ("1 mm", "2 mm", "2 mm", "2 mm"):
        play.answer("value", value=gap)
    play.answer("again")
    for gap in ("2 mm", "1.9 mm", "2 mm", "2 mm"):
        assert play.step.round == 2
        play.answer("value", value=gap)
    assert play.codes == [] and play.state.instruction is None


def test_a_wait_counts_from_what_happened_and_can_only_be_skipped_with_a_reason() -> None:
    play = Play(
        with_passes(PULL, {"id": "rest", "do": "wait", "for": "30 min"}, {**PULL, "id": "q"})
    )
    play.until("/rest/")
    last = play.facts[-1].happened
    assert (play.step.kind, play.step.ready_at) == ("wait", last + 1800)
    verdict, sentence = play.send("answer", play.step.step, {"answer": "done"})
    assert (verdict, "30 min are left" in sentence) == ("refused", True)
    assert play.send("answer", play.step.step, {"answer": "skip"})[0] == "refused"
    play.now = last + 1790
    play.answer("done")
    assert play.step.step == "-/t/q/r1/b.1"
    again = Play(with_passes({"id": "rest", "do": "wait", "for": "30 min"}, PULL))
    again.usual()
    again.answer("skip", reason="crane is leaving")
    assert again.codes == ["skipped"]


def test_other_positions_are_worked_at_while_one_waits() -> None:
    document = with_passes(PULL, {"id": "rest", "do": "wait", "for": "4 h"}, {**PULL, "id": "q"})
    document["positions"] = [{"id": "L", "name": "left"}, {"id": "R", "name": "right"}]
    play = Play(document)
    play.until("R/t/")
    assert [w.step for w in play.state.waiting] == ["L/t/rest/-/-"]
    play.until("R/t/p/r1/b.2")
    play.now += 5 * 3600
    # the wait is over, but the unit under way is finished first; after so long it is asked whether
    # all is as it was
    assert play.step.step == "R/t/resumed/-/-" and "as it was left" in play.step.text
    play.answer("not_good")
    assert play.step.step == "R/t/resumed/-/-/a2", "until it is"
    play.answer("done")
    assert play.step.step == "R/t/p/r1/b.2"
    play.usual()
    play.usual()
    assert play.step.step == "L/t/rest/-/-"


def test_a_watch_that_moved_does_the_stage_and_all_since_again() -> None:
    document = small()
    document["stages"] += [
        {"id": "paint", "kind": "mark", "what": "Line"},
        {"id": "see", "kind": "watch", "what": "Marks at start-up", "if_moved": {"redo": "t"}},
    ]
    play = Play(document)
    play.until("/see/")
    play.answer("moved")
    assert [b.answer for b in play.step.buttons] == ["back", "repair", "accept"]
    play.answer("back")
    assert play.step.step == "-/t/condition/-/-/a2"
    play.usual()
    assert play.step.step == "-/t/h/r1/b.1/a2"
    play.until("/paint/")
    play.until("/see/")
    assert play.step.step == "-/see/watch/-/-/a2"
    play.usual()
    assert play.state.status == "finished"


def test_a_stage_done_again_by_word_of_the_fitter() -> None:
    play = Play(small())
    play.until("/full/r1/b.2")
    here = play.step.step
    assert play.send("redo", here, {"stage": "nowhere", "reason": "slipped"})[0] == "refused"
    assert play.send("redo", here, {"stage": "t"})[0] == "refused"
    assert play.send("redo", here, {"stage": "t", "reason": "joint slipped"})[0] == "accepted"
    assert play.step.step == "-/t/condition/-/-/a2"
    play.until("/full/")
    play.until("/full/r1/b.2")
    # answered bolts come as a second attempt, those that were still open as a first
    assert play.step.step == "-/t/full/r1/b.2"
    play.finish()
    assert [
        line.kind for line in record_of(play.result, play.facts).story if line.kind != "work"
    ] == ["redo"]


def test_a_nut_that_does_not_run_by_hand_stops_until_something_is_done() -> None:
    play = Play(small())
    play.until("/h/")
    step = play.answer("refuses")
    assert "must run by hand" in play.step.hint
    play.answer("repair")
    assert play.step.step == f"{step}/a2"
    play.answer("refuses")
    play.answer("accept", reason="only one of sixteen")
    assert play.codes == ["refuses"]
    assert next(b for b in play.state.bolts if b.place == "b.1").state == "deviating"


def test_a_bolt_that_turns_on_is_replaced_or_accepted() -> None:
    play = Play(small())
    play.until("/full/")
    play.answer("turns_on")
    assert [b.answer for b in play.step.buttons] == ["replace", "accept"]
    assert play.send("answer", play.step.step, {"answer": "repair"})[0] == "refused"


def test_a_step_is_skipped_with_a_reason_that_a_supervisor_accepts() -> None:
    play = Play(plan_document("evaporator-cover"))
    assert play.send("answer", play.step.step, {"answer": "skip", "reason": "  "})[0] == "refused"
    play.answer("skip", reason="gauge is taken off")
    assert play.codes == ["skipped"]
    play.until("/close/condition")
    assert play.send("answer", play.step.step, {"answer": "skip", "reason": "x"})[0] == "refused"


def test_the_steps_ahead_are_those_that_follow() -> None:
    play = Play(cover())
    play.until("/full/r1/studs.1")
    ahead = [a.step for a in play.step.ahead]
    for expected in ahead:
        play.usual()
        assert play.step.step == expected
    assert play.step.ahead == []


@pytest.mark.parametrize("name", plan_names())
def test_the_steps_known_beforehand_are_walked_in_that_order(name: str) -> None:
    document = copy.deepcopy(plan_document(name))
    choices = {}
    for variant in document.get("variants", []):
        choices.setdefault(variant["choice"], variant["id"])
    play = Play(document, variants=list(choices.values()))
    known = expand(play.result)
    walked = [s for s in play.finish() if s in set(known)]
    assert walked == [s for s in known if s in set(walked)]
    assert len(walked) > 0.95 * len(known)


@pytest.mark.parametrize("name", plan_names())
def test_every_demo_joint_is_taken_apart_and_looked_at_again(name: str) -> None:
    document = plan_document(name)
    first = {v["choice"]: v["id"] for v in reversed(document.get("variants", []))}
    for occasion in ("dismantle", "recheck"):
        play = Play(document, occasion=occasion, variants=list(first.values()))
        assert choices_errors(play.result, occasion, list(first.values())) is None
        kinds = set()
        for _ in range(400):
            if play.state.instruction is None:
                break
            step = play.step
            kinds.add(step.kind)
            if step.kind == "reading":
                play.answer("value", value=within(step))
            else:
                play.answer(
                    {"jack": "free", "check_pull": "did_not_turn"}.get(
                        step.kind, step.buttons[0].answer
                    )
                )
        assert play.state.status == "finished" and play.state.fitted == [] and play.codes == []
        assert len(kinds) > 1
        assert occasion == "recheck" or "loosen" in kinds


def test_a_plan_that_only_makes_safe_has_no_work_to_start() -> None:
    document = small()
    document["stages"].insert(
        0,
        {
            "id": "safe",
            "kind": "prepare",
            "in": ["install", "dismantle"],
            "items": [{"id": "a", "text": "Lock it out."}],
        },
    )
    result = Play(document).result
    assert choices_errors(result, "install", []) is None
    assert choices_errors(result, "dismantle", []) == (
        Refusal.NO_WORK_THEN,
        {"occasion": "dismantle"},
    )


def test_a_wrench_is_set_once_for_all_pulls_and_again_when_the_chain_changes() -> None:
    document = with_passes({**PULL, "repeat": {"still": 2, "max": 5}}, count=2)
    document["chains"]["offset"] = ["w", {"adapter": "60 mm"}]
    document["tools"]["w"]["length"] = "600 mm"
    second = copy.deepcopy(document["stages"][0])
    second.update(id="u", chains=["offset"])
    second["passes"][0].update(id="q", percent=110, falls="for the test")
    document["stages"].append(second)
    play, seen = Play(document), []
    while (step := play.state.instruction) is not None:
        if step.settings:
            seen.append((step.settings[0].text, step.changed_setting))
        play.usual()
    # 110 % of the torque through the adapter is the same figure on the wrench, and is still another
    # set-up
    assert seen == [
        ("120 N·m", True),
        *[("120 N·m", False)] * 5,
        ("120 N·m", True),
        *[("120 N·m", False)] * 5,
    ]


@pytest.mark.parametrize(
    ("name", "variant", "unload"),
    [
        ("valve-block-fixture", ["preset"], []),
        ("valve-block-fixture", ["click"], ["wrench", "small wrench"]),
        ("trolley-wheel", ["roadside"], []),
        ("evaporator-cover", [], ["torque wrench"]),
    ],
)
def test_only_wrenches_that_were_set_are_unloaded(
    name: str, variant: list[str], unload: list[str]
) -> None:
    play = Play(plan_document(name), occasion="install", variants=variant)
    play.finish()
    assert play.state.unload == unload
    assert all(
        s.preset == (variant == ["preset"])
        for p in play.result.stages
        for x in p.passes
        for s in x.settings
        if variant == p.variants
    )
