"""Public cases of mechanics section 13 asked as quick sums: resilience, angle, back-off (VDI
2230-1), pairs, tools."""

from __future__ import annotations

from typing import Any

import pytest

from orthotorq.core.sums import answer


def figures(name: str, **texts: Any) -> dict[str, Any]:
    return answer(name, {k.replace("_", "-"): v for k, v in texts.items()}).figures


def test_m16_through_bolted() -> None:
    found = figures(
        "angle",
        thread="M16",
        grade="ISO 898-1 10.9",
        grip="50 mm",
        shank_length="20 mm",
        face_diameter="22.49 mm",
        hole="17.5 mm",
        outer_diameter="60 mm",
        snug="20 N·m",
        angle="20",
        mu_thread="0.12",
    )
    assert found["tan_phi"] == pytest.approx(0.51552, abs=5e-6)
    assert found["delta_s_mm_per_N"] == pytest.approx(2.1208e-6, rel=3e-5)
    assert found["delta_p_mm_per_N"] == pytest.approx(4.5489e-7, rel=3e-5)
    assert found["gain_N_per_deg"] == pytest.approx(2156.9, abs=0.05)
    assert found["preload_N"] == pytest.approx(found["preload_snug_N"] + 20 * 2156.9, rel=1e-4)
    assert not found["yields"]


def test_m10_tapped_in_aluminium() -> None:
    found = figures(
        "angle",
        thread="M10",
        grade="ISO 898-1 8.8",
        grip="30 mm",
        face_diameter="14.63 mm",
        hole="11 mm",
        outer_diameter="30 mm",
        material="aluminium",
        tapped="yes",
        snug="10 N·m",
        angle="10",
        mu_thread="0.12",
    )
    assert found["tan_phi"] == pytest.approx(0.49593, abs=5e-6)
    assert found["delta_s_mm_per_N"] == pytest.approx(4.1757e-6, rel=3e-5)
    assert found["delta_p_mm_per_N"] == pytest.approx(1.3268e-6, rel=4e-5)
    assert found["gain_N_per_deg"] == pytest.approx(757.23, abs=0.02)


def test_back_off_of_a_known_resilience() -> None:
    """P 1.5, F0 30 kN, 3.0e-6 mm/N, 60°: elastic 21.6°, play 0.160 mm."""
    import math

    from orthotorq.core.mechanics import angle

    elastic = angle.angle_for_gain(30e3, 3.0e-6, 1.5)
    assert math.degrees(elastic) == pytest.approx(21.6)
    assert angle.end_play(1.5, math.radians(60), elastic) == pytest.approx(0.160, abs=5e-5)
    assert angle.preload_left(30e3, math.radians(60), elastic) == 0


def test_public_torques_as_sums() -> None:
    found = figures("torque", thread="M20", preload="100 kN", mu_thread="0.12")
    assert found["torque_Nm"] == pytest.approx(317.67, abs=0.005)
    assert found["nut_factor"] == pytest.approx(0.15884, abs=5e-6)
    assert found["share_pitch"] + found["share_thread"] + found["share_bearing"] == pytest.approx(1)
    assert figures(
        "preload", thread="M22x1.5", torque="600 N·m", mu_thread="0.15", effective_diameter="30 mm"
    )["preload_N"] == pytest.approx(139_220, abs=5)
    limit = figures(
        "limit", thread="M24", grade="ISO 898-1 8.8", mu_thread="0.11", yield_fraction="0.55"
    )
    assert limit["tension_preload_N"] == pytest.approx(127_960, abs=6)
    assert limit["torque_Nm"] == pytest.approx(450.06, abs=0.02)
    small = figures("limit", thread="M8", grade="ISO 898-1 8.8", mu_thread="0.12")
    assert small["combined_preload_N"] == pytest.approx(18_596, abs=1)
    assert small["torque_Nm"] == pytest.approx(24.47, abs=0.005)
    assert small["tension_preload_N"] is None


@pytest.mark.parametrize(
    ("angle", "setting"), [("0", 360.00), ("45", 370.86), ("90", 400.00), ("180 deg", 450.00)]
)
def test_public_adapters_as_sums(angle: str, setting: float) -> None:
    found = figures("tool", torque="400 N·m", length="0.9 m", adapter="0.1 m", adapter_angle=angle)
    assert found["setting_Nm"] == pytest.approx(setting, abs=0.005)


def test_public_multiplier_as_a_sum() -> None:
    found = figures("tool", torque="1700 N·m", ratio=["5"], efficiency=["0.9"], arm="0.45 m")
    assert found["setting_Nm"] == pytest.approx(377.78, abs=0.005)
    assert found["reaction_torque_Nm"] == pytest.approx(1322.2, abs=0.05)
    assert found["reaction_force_N"] == pytest.approx(2938, abs=0.5)


@pytest.mark.parametrize(
    ("first", "second", "agree"),
    [
        ("250 N·m", "148 ft·lbf", False),
        ("450 N·m", "332 ft·lbf", True),
        ("480 N·m", "355 ft-lb", False),
        ("250 N·m", "184 ft·lbf", True),
        ("1.5 kN", "337 lbf", True),
        ("100 mm", "4.00 in", False),
        ("1 in", "25.4 mm", True),
    ],
)
def test_pairs(first: str, second: str, agree: bool) -> None:
    assert figures("pair", first=first, second=second)["agree"] is agree


def test_gasket_by_the_code() -> None:
    """Narrow: b = b0, G the mean diameter; wide: b = 2.52 sqrt(b0), G = OD - 2b."""
    narrow = figures(
        "gasket",
        outside="120 mm",
        inside="100 mm",
        bolts="8",
        preload="50 kN",
        pressure="1.6 MPa",
        m="3",
        y="69 MPa",
    )
    assert (narrow["width_mm"], narrow["b0_mm"], narrow["b_mm"], narrow["G_mm"]) == (10, 5, 5, 110)
    assert narrow["seating_load_N"] == pytest.approx(3.14159265 * 5 * 110 * 69, rel=1e-6)
    operating = 0.785398163 * 110**2 * 1.6 + 2 * 3.14159265 * 5 * 110 * 3 * 1.6
    assert narrow["operating_load_N"] == pytest.approx(operating, rel=1e-6)
    assert narrow["stress_MPa"] == pytest.approx(
        400e3 / (0.785398163 * (120**2 - 100**2)), rel=1e-6
    )
    wide = figures("gasket", outside="200 mm", inside="150 mm", bolts="8", preload="50 kN")
    assert wide["b_mm"] == pytest.approx(2.52 * 12.5**0.5)
    assert wide["G_mm"] == pytest.approx(200 - 2 * wide["b_mm"])
    assert wide["operating_load_N"] is None


def test_engagement_areas_by_their_definition() -> None:
    found = figures(
        "engagement", thread="M16", grade="ISO 898-1 8.8", into="carbon steel", length="16 mm"
    )
    assert found["turns"] == 8
    assert found["internal_area_mm2"] == pytest.approx(
        3.14159265 * 16 * 8 * (1 + (16 - 14.700962) / 3**0.5), rel=1e-6
    )
    assert found["external_area_mm2"] == pytest.approx(
        3.14159265 * 13.834936 * 8 * (1 + (14.700962 - 13.834936) / 3**0.5), rel=1e-6
    )
    assert found["ok"]
    short = figures(
        "engagement", thread="M16", grade="ISO 898-1 8.8", into="aluminium", length="10 mm"
    )
    assert (short["ok"], short["strips"]) == (False, "internal")
