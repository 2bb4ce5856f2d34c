"""Pulls on bolts that are tight already, what a plan expects of a pull, and the stop that a judged
pull brings to a run."""

from __future__ import annotations

import json
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from orthotorq.core.forms.result import Result
from orthotorq.core.kinds.pass_kind import At
from orthotorq.core.kinds.pulls import SAYS
from orthotorq.core.kinds.registry import PASS_KINDS
from orthotorq.core.planning.compute import compute
from orthotorq.core.running import record_of
from orthotorq.core.simulation.confusion import confusion_on
from orthotorq.core.simulation.judging import MEANT_ON, Expected, judged, turned
from orthotorq.core.simulation.planned import Situation, expected_of, read, simulated
from orthotorq.core.simulation.pull import FAULTS, RATE, Trace, trace_of
from tests.core.play import Play
from tests.plans import small

PLANS = sorted((Path(__file__).parents[2] / "src/orthotorq/demo/plans").glob("*.json"))
ON = Expected(450.0, 60.0, 4.5, 40.0, standing=200.0)


def test_every_fault_of_a_tight_bolt_is_judged_as_what_it_shows() -> None:
    found = confusion_on(25)
    assert set(found) == set(FAULTS)
    for fault, count in found.items():
        assert count[MEANT_ON[fault]] / sum(count.values()) >= 0.95, (fault, count)


def curve(*points: tuple[float, float]) -> Trace:
    angle = np.arange(0.0, points[-1][0] + 0.05, 0.1)
    return Trace(np.arange(angle.size) / RATE, np.interp(angle, *zip(*points, strict=True)), angle)


def on(turn: float, end: float = 450.0) -> Trace:
    """Wound up over 2°, breaks away at 200 N·m, turns on straight."""
    return curve((0, 0), (2, 200), (2 + turn, end))


@pytest.mark.parametrize(
    ("trace", "code"),
    [
        (on(0.57 * 55), "too_little_turn"),
        (on(0.66 * 55), "good"),
        (on(1.5 * 55), "good"),
        (on(1.7 * 55), "too_much_turn"),
        (curve((0, 0), (4.5, 450)), "too_little_turn"),
        # so stiff a joint says nothing by its turn: less than four degrees are expected
        (curve((0, 0), (2, 200), (2.3, 216)), "good"),
        (curve((0, 0), (2.4, 240)), "too_little_turn"),
    ],
)
def test_each_threshold_of_a_tight_bolt_has_two_sides(trace: Trace, code: str) -> None:
    assert judged(trace, ON).code == code


@pytest.mark.parametrize(("shown", "away"), [(0.83, True), (0.87, False)])
def test_a_bolt_has_broken_away_fifteen_percent_below_its_wind_up(shown: float, away: bool) -> None:
    trace = curve((0, 0), (2, 200), (4, 400 * shown))
    found = judged(trace, replace(ON, check=True))
    assert (found.first < found.last) is away


def test_a_turn_counts_from_the_break_away_and_without_the_wind_up_of_socket_and_wrench() -> None:
    assert turned(on(12.0, 450.0), ON) == pytest.approx(14 - 450 / 100, abs=0.2)
    assert turned(curve((0, 0), (4.5, 450)), ON) == pytest.approx(0, abs=0.2)


@pytest.mark.parametrize(("turn", "answer"), [(0.9, "did_not_turn"), (1.1, "turned")])
def test_a_wrench_calls_a_degree_a_turn(turn: float, answer: str) -> None:
    one = next(
        p for s in compute(small()).stages for p in s.passes if p.do == "torque" and not p.check
    )
    assert PASS_KINDS["torque"].answered(one, turn) == answer


@pytest.mark.parametrize(("turn", "answer"), [(4.9, "did_not_turn"), (5.1, "turned")])
def test_where_rounds_go_on_until_nothing_moves_the_plan_says_what_a_turn_is(
    turn: float, answer: str
) -> None:
    one = next(p for s in compute(small()).stages for p in s.passes if p.do == "torque")
    checked = one.model_copy(update={"check": True, "moved_above_deg": 5.0})
    assert PASS_KINDS["torque"].answered(checked, turn) == answer


@pytest.mark.parametrize(
    ("window", "turn", "answer"),
    [
        (None, 35.9, "stopped_early"),
        (None, 36.1, "turned"),
        ([38.0, 42.0], 37.9, "stopped_early"),
        ([38.0, 42.0], 38.0, "turned"),
    ],
)
def test_an_angle_is_reached_in_its_window_or_nearly(
    window: list[float] | None, turn: float, answer: str
) -> None:
    one = next(p for s in compute(small()).stages for p in s.passes)
    asked = one.model_copy(update={"do": "angle", "turn_deg": 40.0, "window_deg": window})
    assert PASS_KINDS["angle"].answered(asked, turn) == answer


def situations(result: Result) -> Iterator[Situation]:
    """Every pull of a plan that a wrench can answer, with what its bolt has by then."""
    groups = {g.id: g for g in result.groups}
    for stage in result.stages:
        has: dict[str, float] = {}
        for one in (p for p in stage.passes if PASS_KINDS[p.do].traced):
            group = groups[one.group]
            for round_ in range(1, min(3, one.rounds_max) + 1):
                yield Situation(group, one, round_, has.get(one.group, 0.0))
            angled = group.target is not None and group.target.angle_deg is not None
            has[one.group] = PASS_KINDS[one.do].load(
                has.get(one.group, 0.0), At(one, 1, None, angled)
            )


@pytest.mark.parametrize("plan", PLANS, ids=lambda p: p.stem)
def test_a_bolt_as_planned_is_good_in_every_pass_of_every_plan(plan: Path) -> None:
    for at in situations(compute(json.loads(plan.read_text(encoding="utf-8")))):
        for seed in range(5):
            expected = expected_of(at)
            found = read(trace_of(simulated(at, None, seed)), expected, at.one)
            assert found.verdict.code == "good", (at.one, found)
            assert found.answer == ("did_not_turn" if at.one.check else found.answer)
            if at.round == 1 and not at.one.check:
                assert found.answer == "turned", (at.one, found)


def test_a_bolt_that_has_let_go_moves_in_its_check_and_one_that_holds_does_not() -> None:
    plan = compute(
        json.loads((Path(PLANS[0].parent) / "evaporator-cover.json").read_text(encoding="utf-8"))
    )
    at = next(s for s in situations(plan) if s.one.check)
    held, moved = (
        read(trace_of(simulated(at, fault, 4)), expected_of(at), at.one)
        for fault in (None, "soft_part")
    )
    assert (held.answer, moved.answer) == ("did_not_turn", "turned")
    assert held.verdict.code == moved.verdict.code == "good"


def test_what_was_slackened_a_moment_ago_runs_down() -> None:
    at = next(s for s in situations(compute(small())) if s.percent > 0)
    assert expected_of(at).standing > 0 == expected_of(replace(at, slackened=True)).standing


def _pulled(play: Play, code: str, answer: str = "turned") -> None:
    """An answer as the server keeps it: with what the device said."""
    judged_as: dict[str, Any] = {
        "device": "d",
        "code": code,
        "seen": "4° from snug",
        "torque": "40 N·m",
        "angle": "4°",
    }
    play.now += 20
    play._keep(
        play.step.step,
        "answer",
        {
            "answer": answer,
            "pull": "p",
            "judged": judged_as,
            "reading": {"torque": "40 N·m", "angle": "4°"},
        },
        True,
    )


@pytest.mark.parametrize("code", [c for c in SAYS if c != "good"])
def test_a_pull_that_is_not_good_stops_there_and_left_as_it_is_deviates(code: str) -> None:
    play = Play(small())
    while "pull" not in play.step.devices:
        play.usual()
    before = play.step.step
    _pulled(play, code)
    assert (
        play.step.entry == "decision"
        and SAYS[code][0] in play.step.text
        and "4° from snug" in play.step.text
    )
    assert play.step.hint == SAYS[code][1]
    assert {"repair", "replace", "accept"} == {b.answer for b in play.step.buttons}
    play.answer("accept")
    assert play.codes == [f"pull_{code}"] and play.step.step != before
    told = " ".join(line.text for line in record_of(play.result, play.facts, play.now).story)
    assert SAYS[code][0] in told and "judged" not in told


def test_a_good_pull_goes_on_and_stands_in_the_record_with_what_was_seen() -> None:
    play = Play(small())
    while "pull" not in play.step.devices:
        play.usual()
    place = play.step.places[0]
    _pulled(play, "good")
    assert play.step.places != [place] and play.codes == []
    record = record_of(play.result, play.facts, play.now)
    cells = [
        c
        for t in record.tables
        for row in t.rows
        if row.place == place
        for c in row.cells
        if c is not None
    ]
    assert cells[-1].measured == "good, 4° from snug" and cells[-1].torque == "40 N·m"
    assert any(b.endswith("(40 N·m, 4°)") for line in record.story for b in line.bolts)
