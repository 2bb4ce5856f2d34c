"""Ways back: a failed look, a hub that slipped, a nut that refuses, bolts of unknown history, a
slot out of line."""

from __future__ import annotations

import copy
from typing import Any

import pytest

from orthotorq.core.running import checked_bolts, compare, record_of
from orthotorq.demo.load import plan_document
from tests.core.play import FITTER, Play
from tests.plans import COLD, small


def stages_heard(play: Play) -> list[str]:
    """Stages of the steps until the end, each time one begins."""
    heard: list[str] = []
    while (step := play.state.instruction) is not None:
        if not heard or heard[-1] != step.stage_id:
            heard.append(step.stage_id)
        play.usual()
    return heard


def test_a_gap_out_of_its_limit_goes_back_to_another_round() -> None:
    play = Play(plan_document("evaporator-cover"))
    play.until("/gap/right")
    play.answer("value", value="3.9 mm")
    assert play.step.buttons[0].label == "Back to “Another round”"
    play.answer("back")
    assert play.step.stage_id == "round"
    assert stages_heard(play) == ["round", "gap", "paint", "unlock", "fill"]
    assert play.codes == [], "it was mended: nothing was left as it is"
    assert play.state.fitted == []


def test_what_is_done_only_again_is_not_heard_when_all_goes_well() -> None:
    heard = stages_heard(Play(plan_document("evaporator-cover")))
    assert "round" not in heard and heard.index("close") + 1 == heard.index("gap")


def test_a_look_sends_back_only_so_often() -> None:
    play = Play(plan_document("evaporator-cover"))
    for _ in range(3):
        play.until("/gap/top")
        play.answer("value", value="3.9 mm")
        play.answer("back")
    play.until("/gap/top")
    play.answer("value", value="3.9 mm")
    assert "back" not in [b.answer for b in play.step.buttons]
    play.answer("accept", reason="maker asked, leak test decides")
    assert play.codes == ["out_of_limit"]


def test_play_out_of_range_goes_back_to_seat_and_back_off() -> None:
    play = Play(plan_document("elevator-bearing-nut"))
    play.until("/play/play/")
    play.answer("value", value="0.15 mm")
    play.answer("back")
    assert stages_heard(play)[:7] == [
        "freeagain",
        "seat",
        "washer",
        "holdnut",
        "locknut",
        "play",
        "tab",
    ]
    assert play.codes == []


def test_a_hub_that_slipped_is_locked_out_slackened_cleaned_and_drawn_again() -> None:
    play = Play(plan_document("drum-locking-hub"))
    play.until("/start/")
    assert [b.label for b in play.step.buttons] == ["All lines in one piece", "It slipped"]
    play.answer("moved")
    play.answer("back")
    heard = stages_heard(play)
    assert heard == [
        "lock",
        "unload",
        "slackagain",
        "clean",
        "size",
        "oil",
        "place",
        "tight",
        "true",
        "paint",
        "back",
        "unlock",
        "start",
    ]
    assert play.state.fitted == [] and play.state.status == "finished"


def test_what_moves_at_the_target_after_all_stood_still_above_it_is_a_deviation() -> None:
    play = Play(plan_document("drum-locking-hub"))
    play.until("/tight/check/r1/screws.3")
    play.answer("turned")
    play.until("/end/")
    assert play.step.kind == "decision" and "no bolt before it moved" in play.step.text
    play.answer("accept")
    play.until("/true/")
    assert (
        play.codes == ["moved_after_still"]
        and "1 moved, bolt 3 first" in play.state.deviations[0].text
    )


@pytest.mark.parametrize(
    ("word", "again"),
    [("penetrant", True), ("ease", True), ("heat", True), ("cut", False), ("drill", False)],
)
def test_a_nut_that_refuses_has_its_own_branch(word: str, again: bool) -> None:
    play = Play(plan_document("evaporator-cover"), occasion="dismantle")
    play.until("/crack/round1/r1/studs.13")
    play.answer("refuses")
    assert [b.answer for b in play.step.buttons] == [
        "penetrant",
        "ease",
        "heat",
        "cut",
        "drill",
        "accept",
    ]
    wants = next(b.reason for b in play.step.buttons if b.answer == word)
    if wants:
        assert play.send("answer", play.step.step, {"answer": word})[0] == "refused", (
            "what was done is said"
        )
    play.answer(word, **({"reason": "permit 31; new nut and washer"} if wants else {}))
    assert (play.step.label == "13") is again
    codes = {"heat": ["heated"], "cut": ["cut_off"], "drill": ["drilled_out"]}.get(word, [])
    assert play.codes == codes
    play.finish()
    assert play.codes == codes
    if codes:
        said = [d.text for d in record_of(play.result, play.facts).deviations]
        assert any("permit 31" in text for text in said)


def test_what_must_not_be_done_here_is_not_offered() -> None:
    play = Play(plan_document("rail-stop-anchors"), occasion="dismantle")
    play.until("/slack/round1/r1/")
    play.answer("refuses")
    assert "heat" not in [b.answer for b in play.step.buttons]


def test_mending_is_said_of_a_bolt_as_of_a_bolt() -> None:
    play = Play(small())
    play.until("/h/r1/b.2")
    play.answer("refuses")
    assert [b.label for b in play.step.buttons][:2] == [
        "Slackened, repaired: all passes again",
        "Replaced (part, batch): all passes again",
    ]


def recheck_of(**more: Any) -> dict[str, Any]:
    document = small()
    document["stages"].append(
        {
            "id": "again",
            "kind": "tighten",
            "in": ["recheck"],
            "condition": COLD,
            "groups": ["b"],
            "chains": ["m"],
            "passes": [{"id": "c", "do": "torque", "percent": 100, "check": True, **more}],
        }
    )
    return document


def test_a_bolt_of_unknown_history_is_slackened_in_a_step_of_its_own_and_has_not_moved() -> None:
    play = Play(recheck_of(), occasion="recheck", history="unknown")
    play.usual()
    kinds = []
    while (step := play.state.instruction) is not None:
        kinds.append(step.kind)
        play.answer(
            "done" if step.kind != "pull" else "turned" if step.round == 1 else "did_not_turn"
        )
    # and they are gone round once more: what was slackened is checked by another pull
    assert kinds == ["slacken", "pull"] * 4 + ["pull"] * 4
    table = record_of(play.result, play.facts).tables[0]
    cells = [c for row in table.rows for c in row.cells if c is not None]
    assert all(c.text.startswith("slackened; ") for c in cells[::2]) and not any(
        c.moved for c in cells
    )
    assert not any(band.moved for band in play.state.tape)


def test_the_same_thing_is_mended_three_times_and_no_more() -> None:
    play = Play(small())
    play.until("/h/r1/b.2")
    for _ in range(3):
        play.answer("refuses")
        assert "repair" in [b.answer for b in play.step.buttons]
        assert play.send("answer", play.step.step, {"answer": "repair"})[0] == "refused"
        play.answer("repair", reason="wire brush")
    play.answer("refuses")
    assert [b.answer for b in play.step.buttons] == ["replace", "accept"]


def test_a_stage_is_done_again_instead_of_deciding() -> None:
    play = Play(small())
    play.until("/full/r1/b.3")
    play.answer("did_not_turn")
    assert play.step.kind == "decision" and "redo" in play.state_for(FITTER).actions
    assert (
        play.send(
            "redo", play.step.step, {"stage": "t", "reason": "all slackened, threads cleaned"}
        )[0]
        == "accepted"
    )
    assert play.step.stage_id == "t" and play.step.kind != "decision"
    play.finish()
    assert play.codes == []


def test_a_nut_that_had_moved_at_a_recheck_is_asked_about_and_all_are_gone_round_again() -> None:
    play = Play(recheck_of(), occasion="recheck", history="known")
    play.usual()
    first = play.answer("turned")
    assert (play.step.step, play.step.kind) == (
        f"{first}/then",
        "decision",
    ) and "Why had it moved?" in play.step.text
    play.answer("worked_loose")
    rounds = set()
    while play.state.instruction is not None:
        assert play.step.kind != "decision"
        rounds.add(play.step.round)
        play.answer("did_not_turn")
    assert rounds == {1, 2}
    assert play.codes == ["moved_at_recheck"] and "it worked loose" in play.state.deviations[0].text
    assert "half the interval" in play.state.deviations[0].advice


def test_a_comparison_leaves_out_what_was_slackened() -> None:
    records = []
    for history in ("known", "unknown"):
        play = Play(recheck_of(), occasion="recheck", history=history)
        play.usual()
        while (step := play.state.instruction) is not None:
            left = (
                "accept"
                if any(b.answer == "accept" for b in step.buttons)
                else step.buttons[0].answer
            )
            pull = "turned" if history == "known" or step.round == 1 else "did_not_turn"
            play.answer({"pull": pull, "decision": left}.get(step.kind, "done"))
        records.append(record_of(play.result, play.facts))
    known, unknown = records
    # slackened, they turn in the first round: that is no movement; the second round checks them
    assert len(checked_bolts(known)) == len(checked_bolts(unknown)) == 4
    found = compare(known, unknown, 3)
    assert (
        found.moved_now,
        found.checked_now,
        found.moved_before,
        found.checked_before,
        found.both,
    ) == (4, 4, 0, 4, [])


def test_after_slackening_another_round_checks() -> None:
    play = Play(
        recheck_of(rounds={"until": "none_moves", "max": 3}), occasion="recheck", history="unknown"
    )
    play.usual()
    for _ in range(8):
        play.answer("turned" if play.step.kind == "pull" else "done")
    assert (play.step.kind, play.step.round, play.step.check_round) == ("pull", 2, True)
    play.answer("turned")
    assert play.state.tape[-1].moved == [0]


def test_a_bolt_that_does_not_come_loose_when_slackened_has_the_branch_too() -> None:
    play = Play(recheck_of(), occasion="recheck", history="unknown")
    play.usual()
    play.answer("refuses")
    assert "penetrant" in [b.answer for b in play.step.buttons]
    play.answer("penetrant")
    assert play.step.kind == "slacken" and play.step.step.endswith("/k0/a2")


def test_a_stuck_bolt_that_is_left_is_not_pulled() -> None:
    play = Play(recheck_of(), occasion="recheck", history="unknown")
    play.usual()
    play.answer("refuses")
    play.answer("accept", reason="cut at the next stop")
    assert (play.step.kind, play.step.label) == ("slacken", "3") and play.codes == ["stuck"]
    assert play.state.bolts[0].state == "deviating"
    play.finish()
    assert play.codes == ["stuck"] and play.state.bolts[0].state == "deviating"


def test_a_bolt_that_was_cut_off_and_replaced_is_pulled() -> None:
    play = Play(recheck_of(), occasion="recheck", history="unknown")
    play.usual()
    play.answer("refuses")
    play.answer("cut", reason="new bolt")
    assert (play.step.kind, play.step.label) == ("pull", "1") and play.codes == ["cut_off"]


def test_a_slot_is_reached_by_going_on_and_never_further_than_allowed() -> None:
    play = Play(plan_document("drum-journal-nut"))
    play.until("/slot/")
    assert play.step.kind == "align" and "at most 30°" in play.step.text
    play.answer("not_in_line")
    assert "new washer or a new nut" in play.step.hint
    play.answer("replace")
    # a new nut is pulled again from the start
    again = []
    while play.step.kind != "align":
        again.append(play.usual().split("/")[2])
    assert again and again[0] != "slot"
    play.answer("in_line")
    assert play.codes == ["replaced"]
    assert play.step.stage_id == "pin"


def test_nuts_are_left_loose_where_parts_are_aligned() -> None:
    play = Play(plan_document("gearbox-foot"))
    play.until("/start/hand")
    assert (
        "leave it loose" in play.step.text
        and play.step.buttons[0].label == "Runs by hand, left loose"
    )


def test_a_second_angle_says_from_where_it_counts() -> None:
    document = plan_document("agitator-coupling")
    tight = next(s for s in document["stages"] if s["id"] == "tight")
    tight["passes"][3]["zero"] = "before"
    play = Play(document)
    play.until("/first/")
    assert "Set the disc to zero where the bolt is now" in play.step.hint
    play.until("/second/")
    assert "Do not set it to zero again" in play.step.hint


def test_a_leak_is_called_a_leak() -> None:
    play = Play(plan_document("pump-casing-studs"))
    play.until("/fill/")
    assert [b.label for b in play.step.buttons] == ["Dry all round", "It leaks"]
    play.answer("moved")
    assert "it leaks" in play.step.text and "must not be used" in play.step.hint
    play.answer("accept")
    assert "it leaks; left as it is" in play.state.deviations[-1].text
    assert any("it leaks" in text for text in play.state.failed)


def test_a_turn_is_never_repeated_blindly() -> None:
    play = Play(plan_document("agitator-coupling"))
    play.until("/second/")
    turn = play.answer("not_sure")
    assert play.step.entry == "decision" and "it is unknown how far it was turned" in play.step.text
    assert [b.answer for b in play.step.buttons] == ["finish", "loose", "replace", "accept"]
    certain, fresh = copy.copy(play), copy.copy(play)
    for one in (certain, fresh):
        one.facts, one._seen = list(play.facts), None
    certain.answer("finish", reason="20 of 35 degrees, the arm stood")
    assert certain.step.step == f"{turn}/a2" and certain.step.text == "Finish the turn: 35° in all."
    assert "Never the whole turn again" in certain.step.hint
    certain.usual()
    assert certain.codes == ["turn_finished"] and not certain.state.failed
    # not certain: hand, snug and both angles again
    play.answer("loose")
    seen = []
    while not seen or seen[-1] != f"{turn}/a2":
        seen.append(play.step.step)
        assert play.step.text != "Finish the turn: 35° in all."
        play.usual()
    assert [step.split("/")[2] for step in seen] == ["hand", "snug", "first", "second"]
    assert play.codes == []
    # a new bolt is lubricated before, and its part is said
    fresh.answer("replace", reason="K-7, batch 12")
    assert (fresh.step.stage_id, fresh.step.label) == ("oil", "1") or fresh.step.stage_id == "oil"
    fresh.usual()
    assert fresh.step.kind == "hand"


@pytest.mark.parametrize("answer", ["stopped_early", "refuses"])
def test_what_was_slackened_gets_its_snug_torque_again(answer: str) -> None:
    play = Play(plan_document("agitator-coupling"))
    play.until("/first/")
    play.answer(answer)
    play.answer("repair")
    assert play.step.kind == "hand"
    play.usual()
    assert (play.step.pass_name, play.step.kind) == ("Snug torque", "pull")


def test_a_turn_that_was_taken_back_is_not_made_again_unasked() -> None:
    play = Play(plan_document("agitator-coupling"))
    play.until("/second/")
    turned = play.answer("turned")
    event = play.facts[-1].id
    assert play.send("correct", turned, {"voids": event, "answer": None})[0] == "accepted"
    assert play.step.entry == "decision" and [b.answer for b in play.step.buttons][:2] == [
        "finish",
        "loose",
    ]


def test_locks_that_came_off_once_stay_on_when_it_fails_again() -> None:
    play = Play(plan_document("pump-casing-studs"))
    play.until("/fill/")
    play.answer("moved")
    play.answer("back")
    # locked out again, tightened again; now the gap is out of its limit, and is left so
    play.until("/gap/g1/")
    play.answer("value", value="3.1 mm")
    play.answer("accept")
    after = play.finish()
    assert not any("/unlock/" in step or "/fill/" in step for step in after)
    assert play.state.left_locked and "locked out" in play.state.fitted


def test_the_record_tells_that_a_run_stood_still() -> None:
    play = Play(small())
    play.until("/full/r1/b.2")
    bolt = play.step.step
    play.now += 5 * 3600
    play.answer("not_good")
    play.answer("done")
    assert play.step.step == bolt
    told = [
        line
        for line in record_of(play.result, play.facts).story
        if line.what == "all as it was left"
    ]
    assert [line.text for line in told] == ["No", "Yes, all as it was"]


def test_a_nut_that_does_not_come_off_is_worked_loose_cut_or_left() -> None:
    play = Play(plan_document("trolley-wheel"), occasion="dismantle")
    while play.step.stage_id != "out" and not play.step.text.startswith("Take off"):
        play.usual()
    text = play.step.text
    assert [b.answer for b in play.step.wrong] == ["refuses"]
    play.answer("refuses")
    assert [b.answer for b in play.step.buttons][:2] == ["penetrant", "ease"]
    play.answer("penetrant")
    assert play.step.text == text
    play.answer("refuses")
    play.answer("cut", reason="rusted solid")
    assert play.codes == ["part_cut_off"] and not play.state.failed
