"""Mistakes are answers, by one tap; each has its own way back."""

from __future__ import annotations

import pytest

from orthotorq.core.kinds.registry import PASS_KINDS
from orthotorq.core.running import record_of
from tests.core.play import Play
from tests.plans import small


def asked(play: Play, count: int) -> list[str]:
    """The next steps, each answered as usual."""
    return [play.usual() for _ in range(count)]


def offered(play: Play) -> list[str]:
    return [button.answer for button in play.step.wrong]


def turned() -> Play:
    """A run in which bolts are turned by an angle after a torque."""
    document = small()
    angle = {"id": "on", "do": "angle", "turn": "60 deg", "order": {"kind": "cross"}}
    document["stages"][0]["passes"][2:] = [angle]
    play = Play(document)
    while play.step.kind != "angle":
        play.usual()
    return play


def test_a_pull_offers_every_mistake_that_can_be_made_at_it() -> None:
    play = Play(small())
    play.until("/half/")
    wanted = {"another_bolt", "order_lost", "wrong_setting", "no_reach", "dropped", "past_click"}
    assert wanted <= set(offered(play))
    wanted = {"another_bolt", "order_lost", "count_lost", "past_mark", "no_reach", "dropped"}
    assert wanted <= set(offered(turned()))


def test_another_bolt_that_was_pulled_comes_in_its_turn_and_need_not_turn_then() -> None:
    play = Play(small())
    play.until("/full/")
    play.answer("another_bolt")
    assert play.step.text.endswith("Which bolt?")
    other = next(b for b in play.step.buttons if b.answer == "bolt:b.3")
    assert other.label == "Bolt 3"
    play.answer("bolt:b.3")
    assert play.step.step == "-/t/full/r1/b.1/a2"
    play.answer("turned")
    while play.step.places != ["b.3"]:
        play.usual()
    play.answer("did_not_turn")
    assert play.step.entry == "buttons", "it has its torque already"
    assert play.codes == ["other_bolt"] and not play.state.failed
    assert play.state.deviations[0].text == "Bolt 3 was pulled instead of bolt 1 at 100 %."


def test_another_bolt_that_was_turned_is_slackened_and_goes_through_all_passes_again() -> None:
    play = turned()
    first = play.step.step
    play.answer("turned")
    place = first.rsplit("/", 1)[1]
    play.answer("another_bolt")
    play.answer(f"bolt:{place}")
    # from hand on, and its turn once more, since that one is over
    steps = []
    while place in play.step.step:
        assert play.step.hint.startswith("This bolt was loose")
        steps.append(play.step.kind)
        play.usual()
    assert steps[0] == "hand" and steps[-1] == "angle"
    assert play.codes == ["other_bolt"]


def test_a_lost_order_of_torque_goes_round_again_from_the_first_bolt() -> None:
    play = Play(small())
    play.until("/half/")
    asked(play, 2)
    play.answer("order_lost")
    assert play.step.step == "-/t/half/r1/b.1/a2"
    for _ in range(4):
        play.answer("did_not_turn")
        assert play.step.entry == "buttons", "what stands already clicks without moving"
    assert play.step.pass_name != "50 %"
    assert play.codes == ["round_again"] and not play.state.failed
    play.finish()
    assert play.state.status == "finished"
    assert record_of(play.result, play.facts).tables


def test_a_lost_order_of_turns_is_certain_by_its_marks_or_begins_again() -> None:
    play = turned()
    stage = play.step.stage_id
    play.answer("turned")
    at = play.step.step
    play.answer("order_lost")
    assert [b.answer for b in play.step.buttons] == ["certain", "back", "accept"]
    play.answer("certain")
    assert play.step.step == f"{at}/a2" and play.codes == ["order_found"]
    play.answer("order_lost")
    play.answer("back")
    assert play.step.stage_id == stage
    assert play.step.kind != "angle", "no turn is made twice: the stage begins anew"


def test_a_setting_that_was_too_low_is_pulled_again_since_the_bolt_that_is_named() -> None:
    play = Play(small())
    play.until("/full/")
    done = asked(play, 3)
    play.answer("wrong_setting")
    play.answer("too_low")
    assert [b.label for b in play.step.buttons] == [
        "Since bolt 1",
        "Since bolt 2",
        "Since bolt 3",
        "Only at this bolt",
    ]
    play.answer("bolt:b.3")
    again = asked(play, 2)
    assert again == [f"{step}/a2" for step in done[1:]]
    assert play.step.step == "-/t/full/r1/b.4/a2"
    play.usual()
    assert play.codes == ["wrong_setting_mended"] and not play.state.failed


def test_a_setting_that_was_too_high_sends_those_bolts_back_to_loose() -> None:
    play = Play(small())
    play.until("/full/")
    asked(play, 1)
    play.answer("wrong_setting")
    play.answer("too_high")
    play.answer("bolt:b.1")
    kinds = []
    while play.step.step != "-/t/full/r1/b.3/a2":
        kinds.append((play.step.label, play.step.kind, play.step.pass_name))
        play.usual()
    assert [one[0] for one in kinds] == ["1"] * 3 + ["3"] * 2
    assert kinds[0][1] == "hand" and kinds[3][1] == "hand"


def test_a_setting_found_wrong_at_the_first_bolt_concerns_no_other() -> None:
    play = Play(small())
    play.until("/full/")
    play.answer("wrong_setting")
    play.answer("too_low")
    assert play.step.step == "-/t/full/r1/b.1/a2"


def test_a_part_that_was_dropped_is_found_replaced_or_keeps_the_machine_still() -> None:
    play = Play(small())
    play.until("/half/")
    play.answer("dropped")
    play.answer("found")
    assert play.step.step == "-/t/half/r1/b.1/a2" and play.codes == []
    play.answer("dropped")
    play.answer("accept", reason="fell into the sump")
    assert play.codes == ["dropped"]
    assert "fell into the sump" in play.state.failed[0]


def test_a_turn_past_its_mark_is_never_turned_back_to_it() -> None:
    play = turned()
    play.answer("past_mark")
    assert [b.answer for b in play.step.buttons] == ["loose", "replace", "accept"]
    play.answer("loose")
    assert play.step.kind == "hand"


def test_a_count_that_is_lost_is_a_turn_of_which_nobody_knows() -> None:
    play = turned()
    play.answer("count_lost")
    assert [b.answer for b in play.step.buttons] == ["finish", "loose", "replace", "accept"]


def test_neighbours_of_a_bolt_pulled_anew_are_pulled_again_where_they_share_the_load() -> None:
    play = Play(small(8))
    play.until("/full/")
    asked(play, 7)
    last = play.step.places[0]
    play.answer("past_click")
    play.answer("loose")
    while play.step.places == [last]:
        play.usual()
    heard = []
    while play.step.hint.startswith("The bolt beside it was tightened again"):
        heard.append(play.step.places[0])
        play.usual()
    number = int(last.removeprefix("b."))
    assert heard == sorted({f"b.{(number - 2) % 8 + 1}", f"b.{number % 8 + 1}"})
    assert play.step.check_round and play.codes == []


def test_the_neighbours_of_another_bolt_that_was_slackened_are_pulled_again_too() -> None:
    document = small(8)
    angle = {"id": "on", "do": "angle", "turn": "60 deg", "order": {"kind": "circle"}}
    document["stages"][0]["passes"][2:] = [angle]
    play = Play(document)
    while play.step.kind != "angle":
        play.usual()
    asked(play, 5)
    play.answer("another_bolt")
    play.answer("bolt:b.3")
    while play.step.places == ["b.3"]:
        play.usual()
    heard = []
    while play.step.hint.startswith("The bolt beside it was tightened again"):
        heard.append((play.step.places[0], play.step.kind))
        play.usual()
    assert heard == [("b.2", "pull"), ("b.4", "pull")], (
        "to the click of the torque before; no turn is made twice"
    )
    assert play.step.step == "-/t/on/r1/b.6/a2"


def test_a_stage_that_begins_again_counts_no_turn_of_the_one_who_lost_the_order() -> None:
    play = turned()
    play.answer("turned")
    at = play.step.places[0]
    play.answer("order_lost")
    play.answer("back")
    state = next(b for b in play.state.bolts if b.place == at)
    assert state.percent < 100, "nobody turned it"


def test_neighbours_that_come_anyway_or_share_nothing_are_not_asked() -> None:
    first = Play(small(8))
    first.until("/full/")
    first.answer("past_click")
    first.answer("loose")
    asked(first, 3)
    assert first.step.places != ["b.1"] and first.step.hint != "", "the others come in their turn"
    alone = Play({**small(8), "joint_kind": "machine_mount"})
    alone.until("/full/")
    asked(alone, 7)
    alone.answer("past_click")
    alone.answer("loose")
    while not alone.step.check_round:
        assert not alone.step.hint.startswith("The bolt beside")
        alone.usual()


@pytest.mark.parametrize("do", sorted(PASS_KINDS))
def test_no_kind_asks_one_key_for_two_answers(do: str) -> None:
    ask = PASS_KINDS[do].ask
    keys = [choice.key for choice in (*ask.choices, *ask.wrong)]
    assert len(keys) == len(set(keys))
