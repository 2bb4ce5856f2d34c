"""Pulls of the simulated wrench: a trace is a function of its row, and every fault is judged as
what it is."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from orthotorq.core.kinds.pulls import SAYS
from orthotorq.core.simulation.confusion import JOINTS, confusion, page
from orthotorq.core.simulation.judging import MEANT, Expected, judged
from orthotorq.core.simulation.pull import FAULTS, RATE, Pull, Trace, trace_of

PULL = Pull(450.0, 60.0, 4.5)
EXPECTED = Expected(450.0, 60.0, 4.5, 120.0)


def test_a_trace_is_the_same_for_the_same_row_and_another_for_another_seed() -> None:
    one, again, other = trace_of(PULL), trace_of(PULL), trace_of(replace(PULL, seed=1))
    assert np.array_equal(one.torque, again.torque) and np.array_equal(one.angle, again.angle)
    assert other.torque.size != one.torque.size or not np.array_equal(one.torque, other.torque)


@given(st.sampled_from(FAULTS), st.sampled_from(JOINTS), st.integers(0, 10_000))
def test_every_trace_goes_forward_and_ends_at_the_click_or_before(
    fault: str, joint: tuple[float, ...], seed: int
) -> None:
    target, snug, slope, rundown = joint
    trace = trace_of(Pull(target, snug, slope, rundown, fault=fault, seed=seed))  # type: ignore[arg-type]
    assert trace.seconds.size == trace.torque.size == trace.angle.size >= 1
    assert np.all(np.diff(trace.angle) > 0) and np.allclose(np.diff(trace.seconds), 1 / RATE)
    assert np.all(trace.torque >= 0) and np.all(trace.torque[:-1] < target)


def test_every_fault_is_judged_as_what_it_is() -> None:
    found = confusion(25)
    assert set(found) == set(FAULTS) == set(MEANT)
    for fault, count in found.items():
        share = count[MEANT[fault]] / sum(count.values())
        assert share >= 0.95, (fault, count)


def test_the_page_of_the_handbook_is_the_one_that_was_measured() -> None:
    kept = (Path(__file__).parents[2] / "docs" / "pulls.md").read_text(encoding="utf-8")
    assert kept.strip() == page(), "write it anew: ./torq cli pulls > docs/pulls.md"


@pytest.mark.parametrize("fault", FAULTS)
def test_the_evidence_lies_on_the_curve_and_is_told_in_words(fault: str) -> None:
    for seed in range(10):
        trace = trace_of(replace(PULL, fault=fault, seed=seed))  # type: ignore[arg-type]
        found = judged(trace, EXPECTED)
        assert 0 <= found.first <= found.last < trace.torque.size and found.seen
        wrong, advice = SAYS[found.code]
        assert wrong and (advice or found.code == "good")


def curve(*points: tuple[float, float]) -> Trace:
    """A trace through points of (angle, torque), a sample every tenth of a degree, by a steady
    hand."""
    angle = np.arange(0.0, points[-1][0] + 0.05, 0.1)
    torque = np.interp(angle, *zip(*points, strict=True))
    return Trace(np.arange(angle.size) / RATE, torque, angle)


def straight(turned: float) -> Trace:
    """Run down, snug at 135°, then straight to the target with so much of the turn expected."""
    return curve((0, 1), (120, 1), (135, 60), (135 + turned * 390 / 4.5, 450))


@pytest.mark.parametrize(
    ("trace", "code"),
    [
        (curve((0, 0), (5.9, 450)), "too_little_turn"),
        (curve((0, 0), (6.5, 450)), "cross_thread"),
        (curve((0, 1), (24, 47), (120, 47), (210, 450)), "cross_thread"),
        (curve((0, 1), (24, 43), (120, 43), (124, 60), (211, 450)), "good"),
        (curve((0, 1), (24, 10), (70, 165), (120, 165), (200, 450)), "too_little_turn"),
        (straight(0.57), "too_little_turn"),
        (straight(0.63), "good"),
        (straight(1.55), "good"),
        (straight(1.65), "too_much_turn"),
        (curve((0, 1), (120, 1), (135, 60), (200, 352), (230, 310)), "no_rise"),
        (curve((0, 1), (120, 1), (135, 60), (200, 352), (230, 325)), "yields"),
        (curve((0, 1), (120, 1), (135, 60), (200, 352), (240, 448)), "good"),
        (curve((0, 1), (120, 1), (135, 60), (200, 352), (240, 432)), "yields"),
        (
            curve(
                (0, 1),
                (120, 1),
                (135, 60),
                *(
                    (140 + 10 * i + d, 80 + 40 * i - f)
                    for i in range(4)
                    for d, f in ((0, 0), (3, 22))
                ),
                (220, 450),
            ),
            "stick_slip",
        ),
        (
            curve(
                (0, 1),
                (120, 1),
                (135, 60),
                *(
                    (140 + 10 * i + d, 80 + 40 * i - f)
                    for i in range(4)
                    for d, f in ((0, 0), (3, 15))
                ),
                (220, 450),
            ),
            "good",
        ),
    ],
)
def test_each_threshold_of_a_verdict_has_two_sides(trace: Trace, code: str) -> None:
    assert judged(trace, EXPECTED).code == code


def test_a_pull_that_never_gets_tight_is_not_good() -> None:
    assert judged(curve((0, 1), (120, 1), (200, 5)), EXPECTED).code == "no_rise"
