"""Stiffness, angle, back-off, engagement, gasket: closed forms of the sources and properties that
must hold."""

from __future__ import annotations

import math

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from orthotorq.core.documents.read import read_plan
from orthotorq.core.errors import Impossible, UnknownName
from orthotorq.core.mechanics import angle, engagement, gasket, stiffness
from orthotorq.core.mechanics.stiffness import Layer, parts_resilience
from orthotorq.core.planning.compute.inputs.stiffness import material_of
from orthotorq.core.tables.threads import parse_thread
from tests.plans import small

GRIP = st.floats(min_value=5, max_value=400)
SLOPE = st.floats(min_value=0.3, max_value=0.7)
STEEL = 205_000.0


def closed_form(
    grip: float, face: float, hole: float, outer: float, slope: float, through: bool
) -> float:
    """VDI 2230-1: cone alone where the parts are wide enough, cone with sleeve where they are
    not."""
    w = 1 if through else 2
    limit = face + w * grip * slope
    if outer >= limit:
        ratio = (face + hole) * (limit - hole) / ((face - hole) * (limit + hole))
        return 2 * math.log(ratio) / (w * STEEL * math.pi * hole * slope)
    ratio = (face + hole) * (outer - hole) / ((face - hole) * (outer + hole))
    cone = 2 / (w * hole * slope) * math.log(ratio)
    sleeve = 4 / (outer**2 - hole**2) * (grip - (outer - face) / (w * slope))
    return (cone + sleeve) / (STEEL * math.pi)


@given(GRIP, st.floats(min_value=1.02, max_value=8), SLOPE, st.booleans())
def test_integration_along_the_cone_is_the_closed_form(
    grip: float, ratio: float, slope: float, through: bool
) -> None:
    face, hole = 22.49, 17.5
    found = parts_resilience((Layer(grip, STEEL),), face, hole, face * ratio, slope, not through)
    assert found == pytest.approx(
        closed_form(grip, face, hole, face * ratio, slope, through), rel=1e-9
    )


@given(GRIP, GRIP, SLOPE)
def test_layers_that_mirror_each_other_count_alike_when_bolted_through(
    first: float, second: float, slope: float
) -> None:
    one = parts_resilience((Layer(first, 2e5), Layer(second, 7e4)), 22.49, 17.5, 60, slope, False)
    other = parts_resilience((Layer(second, 7e4), Layer(first, 2e5)), 22.49, 17.5, 60, slope, False)
    assert one == pytest.approx(other, rel=1e-9)


@given(GRIP, SLOPE)
def test_a_soft_layer_makes_the_parts_softer_and_wider_parts_stiffer(
    grip: float, slope: float
) -> None:
    hard = parts_resilience((Layer(grip, 2e5),), 22.49, 17.5, 60, slope, False)
    soft = parts_resilience(
        (Layer(grip / 2, 2e5), Layer(grip / 2, 7e4)), 22.49, 17.5, 60, slope, False
    )
    wide = parts_resilience((Layer(grip, 2e5),), 22.49, 17.5, 90, slope, False)
    assert soft > hard
    assert wide <= hard * (1 + 1e-12)


@pytest.mark.parametrize(("hole", "outer"), [(23, 60), (0, 60), (17.5, 22.49), (17.5, 10)])
def test_parts_that_cannot_be_are_refused(hole: float, outer: float) -> None:
    with pytest.raises(Impossible):
        parts_resilience((Layer(50, 2e5),), 22.49, hole, outer, 0.5, False)


@given(GRIP, st.floats(min_value=0, max_value=1))
def test_a_shank_stiffens_the_fastener(grip: float, share: float) -> None:
    thread = parse_thread("M16")
    arguments = (STEEL, 0.5, 0.4, STEEL)
    plain = stiffness.fastener_resilience(16, thread.minor_area, grip, 0, *arguments)
    shanked = stiffness.fastener_resilience(16, thread.minor_area, grip, grip * share, *arguments)
    assert shanked <= plain * (1 + 1e-12)


@pytest.mark.parametrize(("grip", "shank"), [(0, 0), (-5, 0), (50, 51), (50, -1)])
def test_grips_and_shanks_that_cannot_be(grip: float, shank: float) -> None:
    with pytest.raises(Impossible):
        stiffness.fastener_resilience(16, 144.0, grip, shank, STEEL, 0.5, 0.4, STEEL)


@given(st.floats(min_value=0, max_value=6), st.floats(min_value=1e-7, max_value=1e-5))
def test_angle_and_gain_are_inverse(turn: float, resilience: float) -> None:
    gain = angle.preload_gain(2.0, turn, resilience)
    assert angle.angle_for_gain(gain, resilience, 2.0) == pytest.approx(turn)


TURN = st.floats(min_value=0.01, max_value=6)


@given(st.floats(min_value=1e3, max_value=1e6), TURN, TURN)
def test_backing_off_leaves_preload_or_play_never_both(
    preload: float, turn: float, elastic: float
) -> None:
    left, play = angle.preload_left(preload, turn, elastic), angle.end_play(1.5, turn, elastic)
    assert left >= 0
    assert play >= 0
    assert left == 0 or play == 0
    assert (left > 0) is (turn < elastic) or math.isclose(turn, elastic)


@pytest.mark.parametrize("name", ["M6", "M16", "M24x2", "M64", "1-8", "#10-24"])
def test_shear_areas_grow_with_length_and_the_internal_one_is_larger(name: str) -> None:
    thread = parse_thread(name)
    for length in (5.0, 10.0):
        inside = engagement.internal_shear_area(
            thread.diameter, length, thread.pitch, thread.pitch_diameter
        )
        outside = engagement.external_shear_area(
            thread.internal_minor_diameter, length, thread.pitch, thread.pitch_diameter
        )
        assert inside > outside > 0
        double = engagement.internal_shear_area(
            thread.diameter, 2 * length, thread.pitch, thread.pitch_diameter
        )
        assert double == pytest.approx(2 * inside)


@given(
    st.floats(min_value=1e3, max_value=1e6),
    st.floats(min_value=50, max_value=600),
    st.floats(min_value=5, max_value=200),
)
def test_the_required_length_carries_exactly_the_load(
    load: float, shear: float, area: float
) -> None:
    assert engagement.required_engagement(load, shear, area) * area * shear == pytest.approx(load)


@given(st.floats(min_value=20, max_value=2000), st.floats(min_value=0.2, max_value=0.98))
def test_gasket_widths_follow_the_code(outside: float, ratio: float) -> None:
    inside = outside * ratio
    found = gasket.gasket_widths(outside, inside)
    assert found.width == pytest.approx((outside - inside) / 2)
    assert found.basic == found.width / 2
    assume(abs(found.basic - gasket.NARROW) > 1e-6)
    if found.basic < gasket.NARROW:
        assert found.effective == found.basic
        assert found.reaction_diameter == pytest.approx((outside + inside) / 2)
    else:
        assert found.effective == pytest.approx(2.52 * math.sqrt(found.basic))
        assert found.reaction_diameter == pytest.approx(outside - 2 * found.effective)


def test_the_two_rules_for_the_width_meet_within_three_percent() -> None:
    """2.52 sqrt(6) is 6.17: the code's own step at a quarter of an inch."""
    narrow, wide = gasket.gasket_widths(224, 200), gasket.gasket_widths(224.01, 200)
    assert narrow.effective == 6
    assert wide.effective == pytest.approx(narrow.effective, rel=0.03)


@given(st.floats(min_value=0, max_value=20))
def test_pressure_takes_stress_off_the_gasket(pressure: float) -> None:
    end = gasket.end_force(450, pressure)
    assert gasket.gasket_stress(16, 128e3, end, 28_000) <= gasket.gasket_stress(
        16, 128e3, 0, 28_000
    )
    assert gasket.operating_load(5, 450, 3, pressure) >= end


def test_elongation_is_load_over_stiffness() -> None:
    assert stiffness.elongation(50e3, 2e-6) == pytest.approx(0.1)


@pytest.mark.parametrize(
    ("said", "shear", "bearing"),
    [
        ({}, 150.0, 250.0),
        ({"shear": "170 MPa"}, 170.0, 250.0),
        ({"bearing": "400 MPa"}, 150.0, 400.0),
    ],
)
def test_what_is_not_said_of_an_own_material_comes_from_its_strength(
    said: dict[str, str], shear: float, bearing: float
) -> None:
    own = {"modulus": "110 GPa", "tensile": "250 MPa", "family": "other", **said}
    found = material_of(
        read_plan({**small(), "definitions": {"materials": {"own bronze": own}}}), "own bronze"
    )
    assert (found.modulus, found.tensile, found.certainty) == (110e3, 250.0, "own entry")
    assert (found.shear, found.bearing) == (pytest.approx(shear), pytest.approx(bearing))


def test_an_unknown_material_is_named_with_those_that_are_known() -> None:
    with pytest.raises(UnknownName, match="carbon steel"):
        material_of(read_plan(small()), "moon rock")
