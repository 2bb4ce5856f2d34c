"""Rows of a tool's memory against a mapping of columns, and what an answer says that a wrench did
to a bolt."""

from __future__ import annotations

import pytest

from orthotorq.core.running import fold
from orthotorq.core.running.log.tool_history import touch_of
from orthotorq.core.running.present.tool_readings import Columns, problem_of
from tests.core.play import Play
from tests.plans import small


@pytest.mark.parametrize(
    ("columns", "units", "run", "words"),
    [
        ({"bolt": 0, "torque": 1, "run": 2}, {"torque": "N·m"}, None, None),
        ({"bolt": 0, "angle": 1}, {"angle": "deg"}, 7, None),
        ({"torque": 1, "run": 2}, {"torque": "N·m"}, None, "bolt"),
        ({"bolt": 0, "run": 2}, {}, None, "torque"),
        ({"bolt": 0, "torque": 1}, {"torque": "N·m"}, None, "run"),
        ({"bolt": 0, "torque": 1, "run": 2}, {"torque": "kN"}, None, "N·m"),
        ({"bolt": 0, "torque": 1, "angle": 3, "run": 2}, {"torque": "N·m"}, None, "angle"),
        ({"bolt": 0, "torque": 1, "run": 2, "mood": 3}, {"torque": "N·m"}, None, "mood"),
    ],
)
def test_a_mapping_needs_a_bolt_a_figure_in_a_unit_and_a_run(
    columns: dict[str, int], units: dict[str, str], run: int | None, words: str | None
) -> None:
    said = problem_of(Columns(columns, units, run))
    assert said is None if words is None else said is not None and words in said


def test_what_a_wrench_did_is_its_share_of_the_chosen_figure() -> None:
    play = Play(small(), tools=[{"tool": "w", "serial": "TW-1", "name": "click wrench"}])
    play.until("/half/r1/")
    play.usual()
    fact, log = play.facts[-1], fold(play.facts)
    touch = touch_of(play.result, log, fact)
    assert touch is not None and (touch.serial, touch.group, touch.torque_Nm, touch.percent) == (
        "TW-1",
        "b",
        60.0,
        50.0,
    )
    # a pass without a share of its own: by the torque
    for one in play.result.stages[0].passes:
        one.percent = None
    touch = touch_of(play.result, log, fact)
    assert touch is not None and touch.percent == pytest.approx(100 * 60 / 120)
