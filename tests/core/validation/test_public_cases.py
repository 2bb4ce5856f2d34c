"""Public reference cases handed to the developers with the mechanics (section 13): threads, torque,
limits, tools.

Sources: ISO 724 and ISO 898-1 (areas), ASME B1.1 (unified areas), ISO 16047 (torque), VDI 2230-1
(combined limit), statics (adapter, multiplier).
"""

from __future__ import annotations

import math

import pytest

from orthotorq.core.mechanics import preload as pre
from orthotorq.core.mechanics import strength as lim
from orthotorq.core.mechanics import tools
from orthotorq.core.tables.grades import strength_of
from orthotorq.core.tables.hexagons import hexagon
from orthotorq.core.tables.threads import parse_thread

LBF, INCH, FTLBF = 4.4482216152605, 25.4, 1355.8179483314
#: printed with four to five figures
PRINTED = 6e-5

METRIC = {
    "M8": (7.188, 6.466, 36.609),
    "M10": (9.026, 8.160, 57.990),
    "M12": (10.863, 9.853, 84.267),
    "M16": (14.701, 13.546, 156.67),
    "M20": (18.376, 16.933, 244.79),
    "M22x1.5": (21.026, 20.160, 333.06),
    "M24": (22.051, 20.319, 352.50),
    "M24x2": (22.701, 21.546, 384.42),
    "M30": (27.727, 25.706, 560.59),
}
UNIFIED = {
    "1/2-13": 0.1419,
    "3/4-10": 0.3345,
    "7/8-9": 0.4617,
    "1-8": 0.6057,
    "1 1/8-8": 0.7905,
    "1 1/2-6": 1.4052,
    "1 1/2-8": 1.4918,
}


def bracket(name: str, mu_thread: float, mu_bearing: float, effective: float) -> float:
    thread = parse_thread(name)
    return pre.torque_per_preload(
        thread.pitch, thread.pitch_diameter, mu_thread, mu_bearing, effective
    )


@pytest.mark.parametrize("name", METRIC)
def test_metric_threads(name: str) -> None:
    thread, (pitch, minor, area) = parse_thread(name), METRIC[name]
    assert thread.pitch_diameter == pytest.approx(pitch, abs=5.1e-4)
    assert thread.minor_diameter == pytest.approx(minor, abs=5.1e-4)
    assert thread.stress_area == pytest.approx(area, rel=PRINTED)


@pytest.mark.parametrize("name", UNIFIED)
def test_unified_areas(name: str) -> None:
    assert parse_thread(name).stress_area / INCH**2 == pytest.approx(UNIFIED[name], abs=6e-5)


def test_m20_long_form() -> None:
    k = bracket("M20", 0.12, 0.12, pre.effective_diameter(28.19, 22))
    assert pre.torque_from_preload(100e3, k, 0) / 1e3 == pytest.approx(317.67, abs=0.005)
    assert pre.nut_factor(k, 20) == pytest.approx(0.15884, abs=5e-6)


def test_m20_unequal_friction() -> None:
    assert pre.nut_factor(bracket("M20", 0.14, 0.10, 25.095), 20) == pytest.approx(
        0.15690, abs=5e-6
    )


def test_m24_at_a_share_of_yield() -> None:
    head, thread = hexagon(parse_thread("M24")), parse_thread("M24")
    assert head is not None
    force = lim.preload_at_fraction(
        0.55, strength_of("ISO 898-1 8.8", 24).yield_, thread.stress_area
    )
    torque = force * bracket(
        "M24", 0.11, 0.11, pre.effective_diameter(head.face_diameter, head.hole)
    )
    assert force / 1e3 == pytest.approx(127.96, abs=0.005)
    assert torque / 1e3 == pytest.approx(450.06, abs=0.02)


def test_m22_preload_from_torque() -> None:
    assert pre.preload_from_torque(
        600e3, bracket("M22x1.5", 0.15, 0.15, 30), 0
    ) / 1e3 == pytest.approx(139.22, abs=0.005)


def test_inch_bolt_by_nut_factor() -> None:
    thread = parse_thread("1 1/8-8")
    force = 50e3 * LBF / INCH**2 * thread.stress_area
    assert force / LBF == pytest.approx(39523, abs=1)
    torque = pre.torque_from_nut_factor(force, 0.16, thread.diameter)
    assert torque / FTLBF == pytest.approx(592.84, abs=0.02)


def test_m8_combined_limit() -> None:
    thread = parse_thread("M8")
    force = lim.combined_preload(
        0.9,
        strength_of("ISO 898-1 8.8", 8).yield_,
        thread.stress_area,
        thread.pitch,
        thread.pitch_diameter,
        thread.stress_diameter,
        0.12,
    )
    assert force / 1e3 == pytest.approx(18.596, abs=0.001)
    assert force * bracket(
        "M8", 0.12, 0.12, pre.effective_diameter(11.63, 9)
    ) / 1e3 == pytest.approx(24.47, abs=0.005)


@pytest.mark.parametrize(
    ("angle", "setting"), [(0, 360.00), (45, 370.86), (90, 400.00), (180, 450.00)]
)
def test_offset_adapter(angle: float, setting: float) -> None:
    found = tools.adapter_setting(400e3, 900, 100, math.radians(angle))
    assert found / 1e3 == pytest.approx(setting, abs=0.005)


def test_multiplier_with_reaction_and_adapter() -> None:
    setting = tools.multiplier_setting(1700e3, 5, 0.9)
    reaction = tools.reaction_torque(1700e3, setting)
    assert setting / 1e3 == pytest.approx(377.78, abs=0.005)
    assert reaction / 1e3 == pytest.approx(1322.2, abs=0.05)
    assert reaction / 450 == pytest.approx(2938, abs=0.5)
    assert tools.adapter_setting(setting, 900, 100, 0) / 1e3 == pytest.approx(340.00, abs=0.005)
