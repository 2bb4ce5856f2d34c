"""The record told in words, problems that stop the run, a wrench changed on the way."""

from __future__ import annotations

import re

from orthotorq.core.running import record_of
from orthotorq.demo.load import plan_document, plan_names
from tests.core.play import FITTER, SUPERVISOR, Play
from tests.plans import small


def told(play: Play) -> list[str]:
    """The story as lines: who, which bolts, what."""
    return [
        " ".join(filter(None, (f"{one.person}:", one.what, "/".join(one.bolts), one.text)))
        + (f" [{', '.join(one.marks)}]" if one.marks else "")
        for one in record_of(play.result, play.facts, play.now).story
    ]


def test_a_run_is_told_in_order_with_like_answers_in_one_line() -> None:
    play = Play(small(), occasion="install")
    play.finish()
    lines = told(play)
    assert lines[0].startswith("Tam: Started: ")
    assert any(line.endswith("1/2/3/4 Runs by hand, seated") for line in lines)
    assert any("1/3/2/4 Clicked, turned" in line for line in lines)
    assert len(lines) < 8


def test_what_went_wrong_is_told_with_what_was_done_about_it() -> None:
    play = Play(small())
    play.until("/full/r1/b.3")
    play.answer("did_not_turn")
    play.answer("repair", reason="burr on the thread, chased")
    for _ in range(2):
        play.usual()
    play.answer("turned")
    last = play.state.recent[0]
    play.send(
        "correct",
        "-",
        {"voids": last.event, "answer": {"answer": "did_not_turn"}, "reason": "mistyped"},
    )
    text = "\n".join(told(play))
    assert (
        "Bolt 3, 100 %: it did not turn, though the torque rose. Slackened, runs free: all "
        "passes again: burr"
    ) in text
    assert "Corrected: bolt 3, now clicked, did not turn (mistyped)" in text


def test_a_round_kept_at_once_and_pulls_no_hand_makes_are_marked() -> None:
    play = Play(small(), pace=0.5)
    play.until("/half/")
    for _ in range(4):
        play.answer("turned", whole=True)
    play.pace = 30
    play.answer("turned")
    play.pace = 1
    play.answer("turned")
    record = record_of(play.result, play.facts)
    marks = [line.marks for line in record.story if line.text == "Clicked, turned"]
    assert marks == [["whole round confirmed at once"], ["faster than a hand can pull"]]
    cells = {row.label: row.cells for row in record.tables[0].rows}
    assert cells["1"][1] is not None and cells["1"][1].whole and not cells["1"][1].fast
    assert cells["3"][2] is not None and cells["3"][2].fast and not cells["3"][2].whole


def test_no_story_and_no_note_holds_an_id() -> None:
    for name in plan_names():
        play = Play(plan_document(name), occasion="install", variants=[])
        for _ in range(30):
            if play.state.instruction is None:
                break
            play.usual()
        if play.state.recent:
            play.send("correct", "-", {"voids": play.state.recent[0].event, "answer": None})
        if play.state.instruction is not None:
            play.send("redo", play.step.step, {"stage": play.step.stage_id, "reason": "once more"})
            play.send("note", play.step.step, {"text": "dry today"})
        record = record_of(play.result, play.facts, play.now)
        words = [one.text + one.what for one in record.story]
        assert not [
            w for w in words if re.search(r"\S+/\S+/(r\d+|-|end)/|[0-9a-f]{8}-[0-9a-f]{4}", w)
        ]


def test_what_is_not_safe_stops_the_run_until_somebody_says_what_was_done() -> None:
    play = Play(small())
    play.until("/half/")
    step = play.step.step
    assert (
        play.send("problem", step, {"text": "Sling frayed above the joint", "about": "unsafe"})[0]
        == "accepted"
    )
    state = play.state_for(FITTER)
    assert (
        state.instruction is None
        and state.status == "running"
        and [s.about for s in state.stopped] == ["unsafe"]
    )
    assert "made safe" in state.stopped[0].advice
    assert not {"skip", "redo"} & set(state.actions) and "resume" in state.actions
    verdict, text = play.send("redo", step, {"stage": "t", "reason": "x"})
    assert verdict == "refused" and "Sling frayed" in text
    # what somebody pulled before it was heard of is kept aside, for a supervisor to take
    verdict, text = play.send("answer", step, {"answer": "turned"})
    assert (
        verdict == "conflict"
        and "Sling frayed" in text
        and [c.step for c in play.state.conflicts] == [step]
    )
    event = state.stopped[0].event
    assert play.send("resume", "-", {"problem": event, "reason": " "})[0] == "refused"
    assert play.send("resume", "-", {"problem": "e0", "reason": "new sling"})[0] == "conflict"
    assert (
        play.send("resume", "-", {"problem": event, "reason": "new sling, area cleared"})[0]
        == "accepted"
    )
    assert play.step.step == step
    kept = play.state.conflicts[0].event
    assert (
        play.send(
            "settle", "-", {"event": kept, "take": True, "reason": "pulled before"}, SUPERVISOR
        )[0]
        == "accepted"
    )
    assert play.step.step != step
    assert "Settled by Tam: new sling" in play.state.deviations[0].text
    assert any("Settled, work continued: new sling" in line for line in told(play))


def test_other_problems_do_not_stop_and_no_other_kind_is_known() -> None:
    play = Play(small())
    play.until("/half/")
    assert (
        play.send("problem", play.step.step, {"text": "a washer is missing", "about": "other"})[0]
        == "accepted"
    )
    assert play.state.instruction is not None and play.state.stopped == []
    assert play.send("problem", play.step.step, {"text": "x", "about": "weather"})[0] == "refused"


def test_a_wrench_is_changed_and_each_keeps_the_pulls_it_made() -> None:
    play = Play(
        small(),
        occasion="install",
        tools=[{"tool": "w", "serial": "T-1", "name": "T-1", "until": "2027-01-01"}],
        bound_settings=bound("T-1"),
    )
    play.until("/half/")
    for _ in range(2):
        play.answer("turned")
    change = {
        "tool": "w",
        "serial": "T-2",
        "reason": "ratchet slips",
        "checked": "tester, 60.2 N·m of 60",
    }
    for bad in ({"reason": " "}, {"tool": "nothing"}, {"serial": 3}, {"serial": "T-1"}):
        assert play.send("tool", "-", {**change, **bad})[0] == "refused"
    assert play.send("tool", "-", change)[0] == "accepted"
    # the server adds the tool and its settings
    play.facts[-1].payload.update(
        {
            "tools": [
                {"tool": "w", "serial": "T-2", "name": "T-2", "until": None, "expired": True}
            ],
            "bound_settings": bound("T-2"),
        }
    )
    play.now += 1
    assert play.step.settings[0].tool == "T-2" and play.step.changed_setting
    play.answer("turned")
    # it is said until the first pull with it
    assert not play.step.changed_setting
    record = record_of(play.result, play.facts)
    assert [(t.serial, t.pulls) for t in record.tools] == [("T-1", 2), ("T-2", 1)]
    assert any(
        "Wrench T-2 taken for T-1: ratchet slips; checked before use: tester" in line
        for line in told(play)
    )
    # what was never checked is a deviation of its own, and the run is provisional
    assert "tool_expired" in play.codes and play.state_for(SUPERVISOR).provisional


def bound(serial: str) -> dict[str, list[dict[str, object]]]:
    """Settings of the plan, as if made for one serial."""
    result = Play(small()).result
    return {
        f"{s.id}/{p.id}/{p.group}": [
            x.model_copy(update={"tool": serial}).model_dump(mode="json") for x in p.settings
        ]
        for s in result.stages
        for p in s.passes
        if p.settings
    }


def test_what_is_done_again_after_a_slip_says_so() -> None:
    play = Play(plan_document("drum-locking-hub"), occasion="install", variants=[])
    play.until("/start/")
    play.answer("moved")
    play.answer("back")
    play.finish()
    stages = list(dict.fromkeys(line.stage for line in record_of(play.result, play.facts).story))
    slipped = stages.index("Watch the start")
    assert "Draw the hub" in stages[:slipped] and not any(
        "again" in stage for stage in stages[:slipped]
    )
    after = stages[slipped + 1 :]
    assert (
        "Draw the hub, again" in after
        and "Lock out, again" in after
        and after[-1] == "Watch the start, again"
    )
    assert "Slipped: slacken all screws" in after
