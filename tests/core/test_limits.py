"""Limits, window and settings at their edges: what a planner with twenty years in the trade would
try."""

from __future__ import annotations

import math
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.planning.compute import compute
from tests.plans import cover, small


def limits(document: dict[str, Any]) -> dict[str, float]:
    return {x.code: x.clamp_N for x in compute(document).groups[0].limits}


def test_every_limit_of_the_cover_by_hand() -> None:
    """M24 8.8: A_s 352.50 mm²; gasket 470 x 430: A_g 28 274 mm² over 16 studs."""
    found = limits(cover())
    assert found["share"] == pytest.approx(0.625 * 660 * 352.504, rel=1e-5)
    assert found["proof"] == pytest.approx(600 * 352.504, rel=1e-5)
    assert found["required"] == 82_000
    for code, stress in (("gasket_seating", 34), ("gasket_damage", 130)):
        assert found[code] == pytest.approx(stress * 28_274.33 / 16, rel=1e-5)
    # b0 10 mm, b 2.52 √10, G 470 - 2b; 6 bar on G is shared by 16 studs
    reaction = 470 - 2 * 2.52 * math.sqrt(10)
    end = math.pi / 4 * reaction**2 * 0.6
    assert found["gasket_service"] == pytest.approx(45 * 28_274.33 / 16 + end / 16, rel=1e-5)
    assert found["gasket_m"] == pytest.approx(
        (end + 2 * math.pi * 2.52 * math.sqrt(10) * reaction * 3.0 * 0.6) / 16, rel=1e-5
    )
    assert found["combined"] < 0.9 * 660 * 352.504


def test_use_is_the_typical_load_over_the_limit() -> None:
    group = compute(cover()).groups[0]
    for one in group.limits:
        load = group.preload.typical_N
        if one.code == "hot_yield":
            # held against the load there: the cover grows more than its studs
            assert one.use * one.typical_N > load
            continue
        if one.code in ("required", "gasket_service", "gasket_m"):
            # what the joint needs must be there after losses
            load = min(group.preload.after_typical_N, group.preload.hot_typical_N)
        assert one.use == pytest.approx(load / one.typical_N)
        assert one.typical_N <= one.clamp_N * (1 + 1e-9)
        assert one.input.startswith(("groups/studs/", "sources/", "tools/"))


@settings(max_examples=60, deadline=None)
@given(st.floats(min_value=20, max_value=260), st.floats(min_value=0.2, max_value=0.9))
def test_a_target_called_fine_exceeds_no_limit(torque: float, share: float) -> None:
    document = small()
    document["targets"]["b"]["torque"] = f"{torque:.1f} N·m"
    document["tools"]["w"].update(range=["5 N·m", "400 N·m"], increment="0.1 N·m")
    document["groups"][0]["limits"] = {"yield_fraction": round(share, 3)}
    document["groups"][0]["required_clamp"] = "12 kN"
    group = compute(document).groups[0]
    inside = all(
        group.preload.high_N <= x.clamp_N if x.side == "upper" else group.preload.low_N >= x.clamp_N
        for x in group.limits
        if x.code not in ("wrench", "drive")
    )
    assert (group.window.verdict == "fine") is inside


@settings(max_examples=60, deadline=None)
@given(st.floats(min_value=0.05, max_value=0.3), st.floats(min_value=1.05, max_value=1.6))
def test_more_friction_gives_less_clamp(mu: float, more: float) -> None:
    def load(value: float) -> float:
        document = small()
        document["groups"][0]["friction"] = {"mu_thread": [value] * 3}
        return compute(document).groups[0].preload.typical_N

    assert load(mu * more) < load(mu)


@pytest.mark.parametrize(
    ("maximum", "code"),
    [
        ("120 N·m", None),
        ("119 N·m", "tool_over_range"),
        ("300 N·m", None),
        ("301 N·m", "tool_under_20"),
    ],
)
def test_the_edges_of_a_wrench(maximum: str, code: str | None) -> None:
    document = small()
    document["tools"]["w"]["range"] = ["10 N·m", maximum]
    found = {f.code for f in compute(document).findings} & {"tool_over_range", "tool_under_20"}
    assert found == ({code} if code else set())


@pytest.mark.parametrize(
    ("length", "found"), [("480 mm", False), ("300 mm", False), ("299 mm", True), ("100 mm", True)]
)
def test_hand_force_above_four_hundred_newton_is_found(length: str, found: bool) -> None:
    document = small()
    document["tools"]["w"]["length"] = length
    assert ("hand_force" in {f.code for f in compute(document).findings}) is found


def test_many_pulls_lower_the_bound_of_the_hand_force() -> None:
    document = small(24)
    document["groups"][0]["layout"]["diameter"] = "900 mm"
    document["tools"]["w"]["length"] = "400 mm"
    finding = next(f for f in compute(document).findings if f.code == "hand_force")
    assert "pulls: 48" in finding.text
    assert "250 N" in finding.remedy


def test_prevailing_torque_is_added_and_taken_off() -> None:
    plain, locking = small(), small()
    locking["groups"][0]["fastener"]["prevailing"] = "20 N·m"
    a, b = (compute(d).groups[0].preload.typical_N for d in (plain, locking))
    assert b == pytest.approx(a * 100 / 120)
    locking["targets"]["b"] = {"kind": "preload", "preload": "50 kN"}
    plain["targets"]["b"] = {"kind": "preload", "preload": "50 kN"}
    assert compute(locking).groups[0].target.torque_Nm == pytest.approx(
        compute(plain).groups[0].target.torque_Nm + 20
    )


@pytest.mark.parametrize("percent", [0.1, 30, 99.9, 100, 104, 110])
def test_shares_up_to_110_percent(percent: float) -> None:
    document = small()
    document["stages"][0]["passes"][2]["percent"] = percent
    assert compute(document).stages[0].passes[2].torque_Nm == pytest.approx(1.2 * percent)


@pytest.mark.parametrize("count", [1, 2, 3, 7, 64, 400])
def test_any_number_of_bolts(count: int) -> None:
    document = small(count)
    document["groups"][0]["layout"]["diameter"] = f"{max(60, count * 20)} mm"
    result = compute(document)
    assert len(result.groups[0].places) == count
    for one in result.stages[0].passes:
        assert sorted(p for move in one.order for p in move) == sorted(
            p.id for p in result.groups[0].places
        )


def test_two_bolts_in_one_place_are_refused() -> None:
    document = small(40)
    with pytest.raises(DocumentErrors, match="apart"):
        compute(document)


def test_a_plan_that_nobody_could_work_is_refused_before_it_is_computed() -> None:
    document = small(400)
    document["groups"][0]["layout"]["diameter"] = "20 m"
    document["stages"][0]["passes"] = [
        {"id": f"p{i}", "do": "torque", "percent": 100} for i in range(40)
    ]
    document["stages"] = [{**document["stages"][0], "id": f"t{i}"} for i in range(20)]
    with pytest.raises(DocumentErrors) as refused:
        compute(document)
    found = {e.pointer(): e.text for e in refused.value.errors}
    assert "320000 bolts times passes" in found["stages"] and "make several" in found["stages"]
