"""Wrenches in the tool room: what each is held to, checks in full, what an error did, and settings
that make it good."""

from __future__ import annotations

import re
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from orthotorq.core.documents.read import read_plan
from orthotorq.core.documents.tooling import Tool
from orthotorq.core.documents.toolroom import SORTS, USUAL_CLASS, limit_of, read_spec
from orthotorq.core.errors import OrthotorqError
from orthotorq.core.mechanics.wrench_history import effect_of, full_at, in_full, trend_of
from orthotorq.core.number_formats import read_readings
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.compute.load.tool_binding import BoundTool, bound_settings
from tests.plans import small

WRENCH: dict[str, Any] = {
    "kind": "click wrench",
    "range": ["20 N·m", "200 N·m"],
    "increment": "1 N·m",
}
SHEETS: dict[str, dict[str, Any]] = {
    "wrench": WRENCH,
    "multiplier": {"ratio": "5:1", "efficiency": "0.88 – 0.90 – 0.92"},
    "adapter": {"length": "120 mm"},
    "tester": {"range": ["5 N·m", "1000 N·m"], "uncertainty": "0.5 %"},
    "gauge": {"measures": "angle"},
}


@pytest.mark.parametrize("sort", SORTS)
def test_every_sort_of_tool_has_its_sheet(sort: str) -> None:
    assert read_spec(sort, SHEETS[sort])
    with pytest.raises(ValidationError):
        read_spec(sort, {**SHEETS[sort], "colour": "green"})


@pytest.mark.parametrize(
    ("held_to", "limit"),
    [("", 0.04), ("II A", 0.04), ("3 %", 0.03), ("±2.5 %", 0.025), ("type I class A", 0.06)],
)
def test_a_wrench_is_held_to_its_class_or_its_own_limit(held_to: str, limit: float) -> None:
    spec = Tool.model_validate(WRENCH)
    assert limit_of(held_to, spec, 150e3) == pytest.approx(limit)


@pytest.mark.parametrize("held_to", ["III Z", "good", "type 9"])
def test_what_is_no_class_and_no_limit_is_refused(held_to: str) -> None:
    with pytest.raises(OrthotorqError):
        limit_of(held_to, Tool.model_validate(WRENCH), 150e3)


def test_every_kind_of_wrench_has_a_usual_class() -> None:
    for kind in USUAL_CLASS:
        assert 0.03 < limit_of("", Tool.model_validate({**WRENCH, "kind": kind}), 150e3) < 0.07


@pytest.mark.parametrize(
    ("points", "full"),
    [
        ([(40.0, 3), (120.0, 3), (200.0, 3)], True),
        ([(40.0, 3), (120.0, 2), (200.0, 3)], False),
        ([(40.0, 3), (120.0, 3)], False),
        ([(40.0, 3), (120.0, 3), (189.0, 3)], False),
        ([(44.0, 3), (125.0, 4), (192.0, 5)], True),
    ],
)
def test_a_check_in_full_has_three_readings_at_each_of_three_settings(
    points: list[tuple[float, int]], full: bool
) -> None:
    assert in_full(20.0, 200.0, False, points) is full


def test_a_preset_driver_is_checked_at_its_one_figure() -> None:
    assert full_at(38.0, 38.0, True) == (1.0,)
    assert in_full(38.0, 38.0, True, [(38.0, 3)])


BAND, WINDOW = (90e3, 100e3, 110e3), (80e3, 120e3)


@pytest.mark.parametrize(
    ("error", "lies"),
    [
        (0.0, "inside"),
        (0.12, "inside"),
        (0.13, "edge"),
        (0.26, "outside"),
        (-0.08, "inside"),
        (-0.09, "edge"),
        (-0.17, "outside"),
        (None, "unknown"),
    ],
)
def test_an_error_takes_the_clamp_band_out_of_its_window(error: float | None, lies: str) -> None:
    found = effect_of(error, 100.0, BAND, WINDOW)
    assert found.lies == lies
    if error is not None:
        assert found.was == pytest.approx([one / (1 + error) for one in BAND])


def test_an_end_that_was_outside_as_planned_is_not_held_against_the_wrench() -> None:
    assert effect_of(-0.02, 100.0, (70e3, 100e3, 110e3), WINDOW).lies == "inside"
    assert "below the full figure" in effect_of(0.5, 60.0, BAND, WINDOW).words
    assert effect_of(0.5, 100.0, None, WINDOW).lies == "unknown"
    assert effect_of(0.5, 100.0, BAND, (None, None)).lies == "unknown"


def test_a_trend_needs_three_checks_and_says_when_the_limit_is_reached() -> None:
    assert trend_of([(2026.0, 0.01), (2027.0, 0.02)], 0.04)[0] is None
    slope, words = trend_of([(2026.0, 0.01), (2027.0, 0.02), (2028.0, 0.03)], 0.04)
    assert slope == pytest.approx(0.01)
    assert "±4 % in 12 months" in words
    assert "reaches" not in trend_of([(2026.0, 0.03), (2027.0, 0.02), (2028.0, 0.01)], 0.04)[1]


def test_readings_of_a_reference_are_read_with_the_unit_of_the_setting() -> None:
    assert read_readings("198.2; 199; 201.5", "N·m")[1] == pytest.approx((198.2e3, 199e3, 201.5e3))
    assert read_readings("146 ft·lbf, 147", "N·m")[0] == ("146 ft·lbf", "147 ft·lbf")
    for text in ("", "0", "199; soon"):
        with pytest.raises(OrthotorqError):
            read_readings(text, "N·m")


@given(st.floats(-0.2, 0.2))
def test_a_wrench_used_with_its_error_gives_the_bolt_what_it_should_have(error: float) -> None:
    plan = read_plan(small())
    result = compute(small())
    spec = plan.tools["w"].model_copy(update={"increment": None, "range": plan.tools["w"].range})
    plain = bound_settings(plan, result, {"w": BoundTool("W", spec)})
    try:
        made = bound_settings(plan, result, {"w": BoundTool("W", spec, error)})
    except OrthotorqError:
        return  # the wrench does not reach what it would have to be set to
    for place, settings in made.items():
        for one, other in zip(settings, plain[place], strict=True):
            # set / (1 + error) is what the bolt gets
            assert one.settable_Nm / (1 + error) == pytest.approx(other.settable_Nm)
            assert one.bolt_torque_Nm == pytest.approx(other.bolt_torque_Nm)
            assert bool(one.corrected) is bool(error)
            if error:
                way, gives = re.fullmatch(
                    r".* reads [\d.]+ % (high|low): this gives ([\d.]+) N·m", one.corrected
                ).groups()  # type: ignore[union-attr]
                assert way == ("high" if error > 0 else "low")
                assert float(gives) == pytest.approx(other.settable_Nm, rel=0.006)
