"""The joint at work: loads, flange, temperature, real stack, stripping with dilation; each against
its published method."""

from __future__ import annotations

import copy
import math
import statistics
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orthotorq.core.errors import UnknownName
from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.compute.output.working import working
from orthotorq.core.sums import answer
from tests.core.loaded_plans import codes, found, group, limit, load, plan
from tests.core.service_plans import Raw, at_work, bound, factor
from tests.core.test_remedies import closes

# working loads (VDI 2230-1)


def test_what_the_joint_needs_is_what_its_loads_leave_too_little_of() -> None:
    document = at_work(
        axial="20 kN",
        introduction=0.4,
        transverse="3 kN",
        slip_friction=0.15,
        faces=2,
        pressure="1 MPa",
        sealed_diameter="120 mm",
    )
    phi = factor(document, 0.4)
    assert bound(document, "separation").clamp_N == pytest.approx((1 - phi) * 20e3)
    assert bound(document, "slip").clamp_N == pytest.approx(
        1.2 * 3e3 / (2 * 0.15) + (1 - phi) * 20e3
    )
    assert bound(document, "seal").clamp_N == pytest.approx(
        math.pi / 4 * 120**2 / 4 + (1 - phi) * 20e3
    )
    document["groups"][0]["work"]["alternates"] = True
    assert bound(document, "slip").clamp_N == pytest.approx(
        1.8 * 3e3 / (2 * 0.15) + (1 - phi) * 20e3
    )
    assert group(document).window.lower_N == pytest.approx(bound(document, "slip").clamp_N)


def test_at_work_the_bolt_yields_with_the_load_and_half_of_its_torsion() -> None:
    document = at_work(axial="20 kN", introduction=0.5)
    extra, arm = (
        factor(document, 0.5) * 20e3,
        2 / (2 * math.pi) + 0.13 * 14.701 / (2 * math.cos(math.pi / 6)),
    )
    area, d0 = math.pi / 4 * 14.1237**2, (14.701 + 13.5463) / 2
    load_ = bound(document, "at_work").typical_N
    stress = math.hypot(
        (load_ + extra) / area, math.sqrt(3) * 0.5 * arm * load_ / (math.pi * d0**3 / 16)
    )
    assert stress == pytest.approx(640, rel=1e-4)
    rest = bound(document, "bearing").clamp_N
    assert bound(document, "bearing_at_work").clamp_N == pytest.approx(rest - extra)


@pytest.mark.parametrize(
    ("swing", "thread", "fatigue"),
    [
        ("-8 kN", "rolled before heat treatment", False),
        ("-200 kN", "rolled before heat treatment", True),
        ("-200 kN", "rolled after heat treatment", False),
    ],
)
def test_a_bolt_that_swings_too_far_is_named(swing: str, thread: str, fatigue: bool) -> None:
    document = at_work(axial="10 kN", axial_low=swing, introduction=0.7, thread=thread)
    amplitude = factor(document, 0.7) * (10e3 - float(swing.split()[0]) * 1e3) / (2 * 156.67)
    assert (amplitude > 0.85 * (150 / 16 + 45)) is (swing == "-200 kN")
    assert ("fatigue" in codes(document)) is fatigue


def test_loads_at_work_need_the_stack_and_say_it_at_their_field() -> None:
    document = plan(work={"axial": "5 kN"})
    with pytest.raises(DocumentErrors, match=r"groups/0/work/axial.*stack"):
        compute(document)
    document["groups"][0]["work"] = {"transverse": "5 kN"}
    with pytest.raises(DocumentErrors, match="slip_friction"):
        compute(document)


# temperature


def hot(bolt: str, parts: str, **more: Any) -> Raw:
    return plan(
        stack=[{"material": "aluminium", "thickness": "60 mm", "outside": "60 mm"}],
        at_work={"bolt": bolt, "parts": parts},
        **more,
    )


def test_aluminium_grows_more_and_loads_its_steel_bolts() -> None:
    document = hot("100 °C", "100 °C")
    s, seen = group(document).stiffness, load(document)
    lost = 60 * (11.9e-6 - 23.6e-6) * 80 / (s.fastener_mm_per_N / 0.98 + s.parts_mm_per_N / 0.96)
    softer = 1 - (s.fastener_mm_per_N + s.parts_mm_per_N) / (
        s.fastener_mm_per_N / 0.98 + s.parts_mm_per_N / 0.96
    )
    assert seen.hot_typical_N == pytest.approx(
        seen.after_typical_N - lost - seen.after_typical_N * softer, rel=1e-6
    )
    assert seen.hot_typical_N > seen.after_typical_N
    assert bound(document, "hot_yield").clamp_N == pytest.approx(0.92 * 640 * 156.67, rel=1e-4)
    assert "temperature_typical" in codes(document)


def test_a_bolt_hotter_than_its_parts_loses_clamp_and_the_need_is_held_against_that() -> None:
    document = hot("180 °C", "60 °C")
    seen = load(document)
    assert seen.hot_typical_N < seen.after_typical_N
    document["groups"][0]["required_clamp"] = (
        f"{(seen.hot_typical_N + seen.after_typical_N) / 2e3:.3f} kN"
    )
    assert "cold or hot" in found(document, "below_required").text
    assert closes(document, found(document, "below_required"))


def test_compounds_and_gaskets_have_a_range_and_a_table_an_end() -> None:
    document = hot(
        "250 °C",
        "250 °C",
        friction={"lubricant": "grease"},
        gasket={"name": "sheet", "type": "fibre-3", "outside": "180 mm", "inside": "150 mm"},
    )
    document["groups"][0]["stack"][0]["material"] = "carbon steel"
    assert {"compound_too_hot", "gasket_too_hot"} <= codes(document)
    document["groups"][0]["at_work"] = {"bolt": "90 °C", "parts": "90 °C"}
    assert not {"compound_too_hot", "gasket_too_hot"} & codes(document)
    document["groups"][0]["at_work"] = {"bolt": "700 °C", "parts": "90 °C"}
    with pytest.raises(DocumentErrors, match=r"at_work/bolt.*700 °C"):
        compute(document)


def test_what_is_hot_and_what_swings_has_its_working() -> None:
    steps = working(hot("120 °C", "90 °C"), "b/hot").steps
    assert [s.name for s in steps] == ["preload lost", "preload hot"]
    steps = working(at_work(axial="10 kN", axial_low="-4 kN"), "b/swing").steps
    assert {s.name for s in steps} >= {"load factor", "alternating stress", "endurance limit"}
    with pytest.raises(UnknownName):
        working(plan(), "b/hot")


# flange by component


# the real stack


# stripping


def test_stripping_with_dilation_stands_beside_the_plain_form() -> None:
    document = plan(into={"kind": "nut", "material": "carbon steel", "engaged": "6 mm"})
    plain, dilated = (
        bound(document, "stripping").clamp_N,
        bound(document, "stripping_dilated").clamp_N,
    )
    area_n = math.pi * 16 * 3 * (1 + (16 - 14.701) / math.sqrt(3))
    area_b = math.pi * 13.835 * 3 * (1 + (14.701 - 13.835) / math.sqrt(3))
    ratio, c1 = 294 * area_n / (480 * area_b), 3.8 * 1.5 - 1.5**2 - 2.61
    c3 = 0.728 + 1.769 * ratio - 2.896 * ratio**2 + 1.296 * ratio**3
    assert ratio < 1
    assert dilated == pytest.approx(
        min(480 * area_b * c1 * 0.897, 294 * area_n * c1 * c3), rel=1e-3
    )
    assert dilated < plain
    assert working(document, "b/limit/stripping_dilated").steps[-1].result


@pytest.mark.parametrize(
    ("where", "code"),
    [
        (
            {
                "stack": [{"material": "aluminium", "thickness": "60 mm", "outside": "60 mm"}],
                "friction": {"lubricant": "copper-anti-seize"},
            },
            "compound_not_here",
        ),
        ({"friction": {"lubricant": "nickel-anti-seize"}}, "compound_not_here"),
    ],
)
def test_compounds_stay_away_from_what_they_harm(where: Raw, code: str) -> None:
    document = plan(**copy.deepcopy(where))
    document["service"] = ["oxygen"] if "stack" not in where else []
    assert code in codes(document)
    document["groups"][0]["friction"] = {"lubricant": "oxygen-grease"}
    assert code not in codes(document)


# the quick sums, written a second time


@given(
    st.floats(20, 90),
    st.floats(1, 60),
    st.floats(0, 1),
    st.floats(0.5e-6, 5e-6),
    st.floats(1e-7, 2e-6),
    st.floats(0, 8),
    st.floats(0.5, 9),
    st.floats(0.08, 0.3),
    st.integers(1, 4),
)
def test_working_loads_a_second_time(
    preload: float,
    axial: float,
    n: float,
    ds: float,
    dp: float,
    loss: float,
    q: float,
    mu: float,
    faces: int,
) -> None:
    out = answer(
        "working",
        {
            "thread": "M16",
            "grade": "ISO 898-1 8.8",
            "preload": f"{preload:.6f} kN",
            "axial": f"{axial:.6f} kN",
            "delta-s": f"{ds:.9e}",
            "delta-p": f"{dp:.9e}",
            "introduction": f"{n:.9f}",
            "loss": f"{loss:.6f} kN",
            "transverse": f"{q:.6f} kN",
            "slip-friction": f"{mu:.9f}",
            "faces": str(faces),
            "axial-low": "-2 kN",
        },
    ).figures
    phi = n * dp / (ds + dp)
    left = (preload - loss - (1 - phi) * axial) * 1e3
    assert out["load_factor"] == pytest.approx(phi, rel=1e-5, abs=1e-9)
    assert out["residual_clamp_N"] == pytest.approx(left, rel=1e-4, abs=0.5)
    assert out["separates"] is (out["residual_clamp_N"] <= 0)
    assert out["slip_safety"] == pytest.approx(
        max(0.0, left) * faces * mu / (q * 1e3), rel=1e-3, abs=1e-4
    )
    kept = max(0.0, preload - loss)
    # of an open joint the bolt bears all of the load, and nothing of what presses the parts
    # together
    high = axial if out["separates"] else kept + phi * axial
    low = max(0.0, kept - 2 * phi) if out["separates"] else kept - 2 * phi
    assert out["bolt_extra_N"] == pytest.approx((high - kept) * 1e3, rel=1e-4, abs=0.5)
    assert out["alternating_MPa"] == pytest.approx(
        (high - low) * 1e3 / 2 / 156.67, rel=1e-3, abs=2e-3
    )
    assert out["endurance_MPa"] == pytest.approx(46.21875)


def test_a_joint_that_opens_when_hot_says_so() -> None:
    out = answer(
        "thermal",
        {
            "preload": "10 kN",
            "grip": "60 mm",
            "delta-s": "2e-6",
            "delta-p": "5e-7",
            "alpha-bolt": "1.7e-5",
            "alpha-parts": "1.1e-5",
            "rise-bolt": "150",
            "rise-parts": "150",
            "modulus-ratio-bolt": "0.95",
        },
    )
    hot_ = 2e-6 / 0.95 + 5e-7
    assert out.figures["change_N"] == pytest.approx(
        60 * 6e-6 * 150 / hot_ + 10e3 * (1 - 2.5e-6 / hot_)
    )
    assert any("open when hot" in note for note in out.notes)
    assert out.figures["preload_hot_N"] == 0 and out.figures["change_N"] > 10e3


def test_a_joint_that_the_pressure_opens_says_so() -> None:
    out = answer(
        "gasket",
        {
            "outside": "120 mm",
            "inside": "60 mm",
            "bolts": "4",
            "preload": "5 kN",
            "pressure": "6 MPa",
        },
    )
    assert out.figures["stress_service_MPa"] < 0 and any(
        "joint opens" in note for note in out.notes
    )


def test_a_narrow_gasket_is_narrow_by_the_code_of_its_unit() -> None:
    mm = answer(
        "gasket", {"outside": "149.6 mm", "inside": "124.7 mm", "bolts": "8", "preload": "50 kN"}
    ).figures
    inch = answer(
        "gasket", {"outside": "5.89 in", "inside": "4.91 in", "bolts": "8", "preload": "50 kN"}
    ).figures
    assert mm["b0_mm"] == pytest.approx(6.225) and mm["b_mm"] == pytest.approx(
        2.52 * math.sqrt(6.225)
    )
    assert inch["b0_mm"] == pytest.approx(6.223) and inch["b_mm"] == inch["b0_mm"]


def test_a_band_comes_from_five_tests_and_not_from_four() -> None:
    torques, loads = [317, 330, 317, 330, 310], [100, 101, 102, 103, 98]
    given_ = {
        "thread": "M20",
        "torque": [f"{t} N·m" for t in torques],
        "preload": [f"{f} kN" for f in loads],
    }
    out = answer("friction", given_).figures
    mus = [
        (t / f - 2.5 / (2 * math.pi)) / (0.577 * 18.376 + 0.5 * 25.095)
        for t, f in zip(torques, loads, strict=True)
    ]
    assert out["typical"] == pytest.approx(statistics.mean(mus), rel=1e-4)
    # two-sided, 90 % of the population with 95 % confidence, five tests: 4.291 standard deviations,
    # exactly
    assert out["high"] - out["typical"] == pytest.approx(4.291 * statistics.stdev(mus), rel=2e-3)
    four = answer(
        "friction", {k: v[:4] if isinstance(v, list) else v for k, v in given_.items()}
    ).figures
    assert "low" not in four and four["mu_total"] == pytest.approx(
        statistics.mean(mus[:4]), rel=1e-4
    )
    apart = answer(
        "friction", {**given_, "thread-torque": [f"{t * 0.55:.2f} N·m" for t in torques]}
    ).figures
    assert apart["mu_thread"] > 0 and apart["mu_bearing"] > 0


def test_the_limit_is_one_case() -> None:
    """M12 8.8: load and torque at the low end of the friction."""
    out = answer(
        "limit", {"thread": "M12", "grade": "ISO 898-1 8.8", "mu-thread": "0.08,0.12,0.16"}
    ).figures
    alone = answer(
        "limit", {"thread": "M12", "grade": "ISO 898-1 8.8", "mu-thread": "0.08"}
    ).figures
    assert out == alone and out["torque_Nm"] == pytest.approx(62.46, abs=0.01)
    assert limit(0.08, 0.9) > 0


def test_above_a_friction_of_a_fifth_the_exact_form_is_given() -> None:
    rough = answer("torque", {"thread": "M20", "preload": "100 kN", "mu-thread": "0.3"})
    assert any("exact" in note for note in rough.notes)
    assert not answer("torque", {"thread": "M20", "preload": "100 kN", "mu-thread": "0.2"}).notes


def test_a_clamp_beyond_a_bound_says_so_where_the_grade_is_known() -> None:
    asked = {"thread": "M24", "torque": "2200 N·m", "mu-thread": "0.1", "grade": "ISO 898-1 8.8"}
    notes = answer("preload", asked).notes
    assert sum("the typical load is above it" in n for n in notes) == 3
    assert not any("above it" in n for n in answer("preload", {**asked, "torque": "300 N·m"}).notes)
