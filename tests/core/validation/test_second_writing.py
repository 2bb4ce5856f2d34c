"""Every sum against a second writing of its formula, over many joints.

The formulas are written here once more from the standards' text, in one place and with nothing of
the core: ISO 16047 (torque and preload), VDI 2230-1 (combined stress, resilience, angle), ISO 724
(basic thread sizes), ASME BPVC VIII-1 App. 2 (gasket width). A slip in the core would have to be
made twice in the same way.
"""

from __future__ import annotations

import random
from math import atan, cos, floor, hypot, log, pi, radians, sqrt, tan
from typing import Any

import pytest

from orthotorq.core.sums import answer

#: designation -> nominal diameter and pitch, mm
THREADS = {
    "M6": (6, 1),
    "M8": (8, 1.25),
    "M10": (10, 1.5),
    "M12": (12, 1.75),
    "M14": (14, 2),
    "M16": (16, 2),
    "M18": (18, 2.5),
    "M20": (20, 2.5),
    "M24": (24, 3),
    "M27": (27, 3),
    "M30": (30, 3.5),
    "M33": (33, 3.5),
    "M36": (36, 4),
    "M39": (39, 4),
    "M10x1.25": (10, 1.25),
    "M14x1.5": (14, 1.5),
    "M20x1.5": (20, 1.5),
    "M24x2": (24, 2),
    "M36x3": (36, 3),
}
MODULI = {"carbon steel": 205e3, "aluminium": 70e3, "grey iron": 110e3}
SAME = 1e-6
ROUNDS = range(12)


def figures(name: str, **texts: Any) -> dict[str, Any]:
    return answer(
        name, {k.replace("_", "-"): v if isinstance(v, list) else str(v) for k, v in texts.items()}
    ).figures


class Bolt:
    """One thread with its sizes from the basic profile, and its face from the core's table."""

    def __init__(self, dice: random.Random) -> None:
        self.name = dice.choice(list(THREADS))
        self.d, self.pitch = THREADS[self.name]
        self.d2, self.d3 = self.d - 0.649519 * self.pitch, self.d - 1.226869 * self.pitch
        self.area = pi / 4 * ((self.d2 + self.d3) / 2) ** 2
        table = figures("thread", thread=self.name)
        self.face, self.hole = table["face_diameter_mm"], table["hole_mm"]

    def lever(self, mu_thread: float, mu_bearing: float) -> float:
        """Torque of one newton of preload, N·mm."""
        middle = (self.face + self.hole) / 2
        return (
            self.pitch / 2 / pi
            + mu_thread * self.d2 / 2 / cos(radians(30))
            + mu_bearing * middle / 2
        )

    def fastener(self, grip: float, shank: float, tapped_modulus: float | None) -> float:
        """Resilience of the fastener, mm/N."""
        thick, thin, steel = pi / 4 * self.d**2, pi / 4 * self.d3**2, MODULI["carbon steel"]
        end = (
            0.33 * self.d / (tapped_modulus * thick)
            if tapped_modulus
            else 0.4 * self.d / (steel * thick)
        )
        return ((0.5 * self.d + shank) / thick + (grip - shank + 0.5 * self.d) / thin) / steel + end

    def parts(self, grip: float, outside: float, modulus: float, tapped: bool) -> float:
        """Resilience of the parts by the deformation cone, mm/N."""
        w, beta, y, dw, dh = (
            (2 if tapped else 1),
            grip / self.face,
            outside / self.face,
            self.face,
            self.hole,
        )
        phi = (
            0.348 + 0.013 * log(beta) + 0.193 * log(y)
            if tapped
            else 0.362 + 0.032 * log(beta / 2) + 0.153 * log(y)
        )
        limit = dw + w * grip * phi
        at = min(outside, limit)
        cone = 2 / (w * dh * phi) * log((dw + dh) * (at - dh) / ((dw - dh) * (at + dh)))
        sleeve = (
            0.0
            if outside >= limit
            else 4 / (outside**2 - dh**2) * (grip - (outside - dw) / (w * phi))
        )
        return (cone + sleeve) / (modulus * pi)


@pytest.fixture(params=ROUNDS)
def dice(request: pytest.FixtureRequest) -> random.Random:
    return random.Random(request.param)


def test_torque_of_a_preload(dice: random.Random) -> None:
    bolt, load = Bolt(dice), round(dice.uniform(5, 200), 2)
    mu = [round(dice.uniform(0.05, 0.3), 3) for _ in range(2)]
    found = figures(
        "torque",
        thread=bolt.name,
        preload=f"{load} kN",
        mu_thread=mu[0],
        mu_bearing=mu[1],
        prevailing="12 N·m",
    )
    assert found["torque_Nm"] == pytest.approx(load * bolt.lever(*mu) + 12, rel=SAME)
    assert found["nut_factor"] == pytest.approx(bolt.lever(*mu) / bolt.d, rel=SAME)
    assert found["share_thread"] == pytest.approx(
        mu[0] * bolt.d2 / 2 / cos(radians(30)) / bolt.lever(*mu), rel=SAME
    )


def test_band_of_a_torque(dice: random.Random) -> None:
    bolt, torque, error = Bolt(dice), round(dice.uniform(20, 900), 1), 0.06
    found = figures(
        "preload",
        thread=bolt.name,
        torque=f"{torque} N·m",
        mu_thread="0.10,0.13,0.17",
        mu_bearing="0.09,0.12,0.15",
        accuracy=error,
        prevailing="5 N·m",
    )

    def load(mu_thread: float, mu_bearing: float, factor: float = 1.0) -> float:
        return (torque * factor - 5) * 1e3 / bolt.lever(mu_thread, mu_bearing)

    middle = load(0.13, 0.12)
    low = [
        middle - one for one in (load(0.17, 0.12), load(0.13, 0.15), load(0.13, 0.12, 1 - error))
    ]
    high = [
        one - middle for one in (load(0.10, 0.12), load(0.13, 0.09), load(0.13, 0.12, 1 + error))
    ]
    assert found["preload_N"] == pytest.approx(middle, rel=SAME)
    assert found["preload_low_N"] == pytest.approx(load(0.17, 0.15, 1 - error), rel=SAME)
    assert found["preload_high_N"] == pytest.approx(load(0.10, 0.09, 1 + error), rel=SAME)
    assert found["preload_low_rss_N"] == pytest.approx(middle - hypot(*low), rel=SAME)
    assert found["preload_high_rss_N"] == pytest.approx(middle + hypot(*high), rel=SAME)


def test_limits_of_a_bolt(dice: random.Random) -> None:
    bolt, mu, nu, share = (
        Bolt(dice),
        round(dice.uniform(0.05, 0.3), 3),
        dice.choice([0.7, 0.9, 1]),
        dice.choice([0.5, 0.7, 0.95]),
    )
    area = dice.choice(["tensile", "root"])
    found = figures(
        "limit",
        thread=bolt.name,
        grade="ISO 898-1 10.9",
        mu_thread=mu,
        nu=nu,
        yield_fraction=share,
        area=area,
    )
    angles = atan(bolt.pitch / pi / bolt.d2) + atan(mu / cos(radians(30)))
    twist = 1.5 * bolt.d2 / ((bolt.d2 + bolt.d3) / 2) * tan(angles)
    combined = nu * 940 * bolt.area / sqrt(1 + 3 * twist**2)
    tension = share * 940 * (bolt.area if area == "tensile" else pi / 4 * bolt.d3**2)
    assert found["combined_preload_N"] == pytest.approx(combined, rel=SAME)
    assert found["tension_preload_N"] == pytest.approx(tension, rel=SAME)
    assert found["torque_Nm"] == pytest.approx(
        min(combined, tension) * bolt.lever(mu, mu) / 1e3, rel=SAME
    )


def test_angle_and_back_off(dice: random.Random) -> None:
    bolt = Bolt(dice)
    grip, outside = (
        round(dice.uniform(1, 8) * bolt.d, 1),
        round(bolt.face * dice.uniform(1.05, 4), 1),
    )
    shank, tapped = dice.choice([0, round(0.4 * grip, 1)]), dice.random() < 0.5
    material = dice.choice(list(MODULI))
    asked = {
        "thread": bolt.name,
        "grade": "ISO 898-1 12.9",
        "grip": f"{grip} mm",
        "shank_length": f"{shank} mm",
        "outer_diameter": f"{outside} mm",
        "material": material,
        "mu_thread": 0.12,
        **({"tapped": "yes"} if tapped else {}),
    }
    snug = round(0.02 * bolt.d**3 / 10, 1)
    found = figures("angle", snug=f"{snug} N·m", angle=4, **asked)
    own = bolt.fastener(grip, shank, MODULI[material] if tapped else None)
    theirs = bolt.parts(grip, outside, MODULI[material], tapped)
    assert found["delta_s_mm_per_N"] == pytest.approx(own, rel=SAME)
    assert found["delta_p_mm_per_N"] == pytest.approx(theirs, rel=SAME)
    gain, begun = bolt.pitch / 360 / (own + theirs), snug * 1e3 / bolt.lever(0.12, 0.12)
    assert found["gain_N_per_deg"] == pytest.approx(gain, rel=SAME)
    assert not found["yields"]
    assert found["preload_N"] == pytest.approx(begun + 4 * gain, rel=SAME)
    assert found["torque_end_Nm"] == pytest.approx(
        (begun + 4 * gain) * bolt.lever(0.12, 0.12) / 1e3, rel=SAME
    )

    back = dice.choice([10, 60, 200])
    found = figures("backoff", preload="20 kN", back=back, **asked)
    elastic = 360 * 20e3 * (own + theirs) / bolt.pitch
    assert found["elastic_angle_deg"] == pytest.approx(elastic, rel=SAME)
    assert found["preload_left_N"] == pytest.approx(
        max(0, 20e3 * (1 - back / elastic)), rel=SAME, abs=1e-6
    )
    assert found["end_play_mm"] == pytest.approx(
        max(0, bolt.pitch * (back - elastic) / 360), rel=SAME, abs=1e-9
    )


def test_engagement(dice: random.Random) -> None:
    bolt = Bolt(dice)
    length = round(dice.uniform(0.6, 2) * bolt.d, 1)
    found = figures(
        "engagement",
        thread=bolt.name,
        grade="ISO 898-1 10.9",
        into="grey iron",
        length=f"{length} mm",
        shear="150 MPa",
    )
    inner = bolt.d - 1.082532 * bolt.pitch
    per_turn = (
        pi * bolt.d * (bolt.pitch / 2 + (bolt.d - bolt.d2) / sqrt(3)),
        pi * inner * (bolt.pitch / 2 + (bolt.d2 - inner) / sqrt(3)),
    )
    turns = length / bolt.pitch
    assert (
        found["turns"],
        found["internal_area_mm2"],
        found["external_area_mm2"],
    ) == pytest.approx((turns, per_turn[0] * turns, per_turn[1] * turns), rel=SAME)
    breaks = 1040 * bolt.area
    required = max(breaks / (per_turn[0] * 150), breaks / (per_turn[1] * 0.6 * 1040)) * bolt.pitch
    assert found["required_mm"] == pytest.approx(required, rel=SAME)
    assert found["ok"] is (length >= required)


def test_gasket(dice: random.Random) -> None:
    outside, bolts = dice.randint(100, 900), dice.choice([8, 16])
    inside = outside - dice.choice([6, 20, 24, 26, 60])
    found = figures(
        "gasket",
        outside=f"{outside} mm",
        inside=f"{inside} mm",
        bolts=bolts,
        preload="60 kN",
        pressure="10 bar",
        m=3,
        y="69 MPa",
    )
    basic = (outside - inside) / 4
    width = basic if basic <= 6 else 2.52 * sqrt(basic)
    middle = (outside + inside) / 2 if basic <= 6 else outside - 2 * width
    area, end = pi / 4 * (outside**2 - inside**2), pi / 4 * middle**2
    assert (found["b0_mm"], found["b_mm"], found["G_mm"]) == pytest.approx(
        (basic, width, middle), rel=SAME
    )
    assert found["stress_MPa"] == pytest.approx(bolts * 60e3 / area, rel=SAME)
    assert found["stress_service_MPa"] == pytest.approx((bolts * 60e3 - end) / area, rel=SAME)
    assert found["seating_load_N"] == pytest.approx(pi * width * middle * 69, rel=SAME)
    assert found["operating_load_N"] == pytest.approx(end + 2 * pi * width * middle * 3, rel=SAME)


def test_what_to_set(dice: random.Random) -> None:
    adapter, angle, step = (
        dice.choice([80, 150]),
        dice.choice([0, 30, 90, 120, 180]),
        dice.choice([0.5, 2, 5]),
    )
    torque, ratio, efficiency = (
        dice.randint(800, 2500),
        dice.choice([4, 5, 12.5]),
        dice.choice([0.82, 0.9]),
    )
    found = figures(
        "tool",
        torque=f"{torque} N·m",
        length="900 mm",
        adapter=f"{adapter} mm",
        adapter_angle=angle,
        ratio=[str(ratio)],
        efficiency=[str(efficiency)],
        arm="400 mm",
        increment=f"{step} N·m",
    )
    before = torque / ratio / efficiency
    setting = before * 900 / (900 + adapter * cos(radians(angle)))
    assert found["setting_Nm"] == pytest.approx(setting, rel=SAME)
    assert found["settable_Nm"] == pytest.approx(floor(setting / step + 0.5) * step, rel=SAME)
    assert found["error_percent"] == pytest.approx(
        (found["settable_Nm"] / setting - 1) * 100, abs=1e-6
    )
    assert found["reaction_torque_Nm"] == pytest.approx(torque - before, rel=SAME)
    assert found["reaction_force_N"] == pytest.approx((torque - before) / 0.4, rel=SAME)
