"""Flanges by component, layers, studs, washers and soft gaskets: what each of them changes."""

from __future__ import annotations

import math
from typing import Any

import pytest

from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.mechanics import stiffness as stiff
from orthotorq.core.planning.compute import compute
from orthotorq.core.sums import answer
from tests.core.loaded_plans import codes, found, group, plan
from tests.core.service_plans import STACK, Raw, bound


def flange(**component: Any) -> Raw:
    return plan(
        gasket={
            "name": "ring",
            "outside": "180 mm",
            "inside": "150 mm",
            "seating": "15 MPa",
            "service": "10 MPa",
            "damage": "40 MPa",
            "pressure": "1 MPa",
        },
        component={"target_stress": "22 MPa", **component},
    )


def test_a_flange_is_bounded_by_each_of_its_components() -> None:
    document = flange(
        bolt_min="150 MPa",
        bolt_max="450 MPa",
        flange_max="400 MPa",
        gasket_rotation="0.3 deg",
        flange_rotation="0.5 deg",
        relaxation=0.7,
    )
    root, area = math.pi / 4 * 13.546**2, math.pi / 4 * (180**2 - 150**2)
    clamps = {x.code: x.clamp_N for x in group(document).limits}
    assert clamps["component_bolt_min"] == pytest.approx(150 * root, rel=1e-4)
    assert clamps["component_seating"] == pytest.approx(15 * area / 4, rel=1e-6)
    assert clamps["component_operating"] == pytest.approx(
        (10 * area + math.pi / 4 * 150**2) / (0.7 * 4), rel=1e-6
    )
    assert clamps["component_flange"] == pytest.approx(400 * root, rel=1e-4)
    assert clamps["component_rotation"] == pytest.approx(240 * root, rel=1e-4)
    assert clamps["component_crush"] == pytest.approx(40 * area / 4, rel=1e-6)
    text = found(document, "component_target").text
    assert f"{22 * area / 4 / root:.3g} MPa" in text
    document["groups"][0]["component"].update(bolt_min="440 MPa", bolt_max="420 MPa")
    assert "component_impossible" in codes(document)


def test_a_flange_by_component_needs_its_gasket() -> None:
    document = flange()
    del document["groups"][0]["gasket"]
    with pytest.raises(DocumentErrors, match=r"component/target_stress.*gasket"):
        compute(document)


def test_every_layer_counts_with_its_own_outside() -> None:
    """Against a fine numeric integration of the cone."""
    layers = (
        stiff.Layer(10.0, 205e3, 32.0),
        stiff.Layer(30.0, 70e3, 60.0),
        stiff.Layer(20.0, 110e3, 45.0),
    )
    face, hole, slope, grip = 22.49, 17.5, 0.5, 60.0
    total, steps, edges = 0.0, 60_000, [10.0, 40.0, 60.0]
    for i in range(steps):
        z = (i + 0.5) * grip / steps
        layer = layers[next(n for n, e in enumerate(edges) if z < e)]
        wide = min(face + 2 * min(z, grip - z) * slope, layer.outside)
        total += grip / steps / (layer.modulus * math.pi / 4 * (wide**2 - hole**2))
    assert stiff.parts_resilience(layers, face, hole, 50.0, slope, False) == pytest.approx(
        total, rel=1e-4
    )


def test_a_stud_and_a_thin_shank_give_more_and_a_thin_shank_carries_less() -> None:
    plain = group(plan(stack=STACK)).stiffness.fastener_mm_per_N
    document = plan(stack=STACK)
    document["groups"][0]["fastener"]["stud"] = True
    # one hexagon head of 0.5 d becomes a nut of 0.4 d with 0.5 d of engaged thread
    more = (-0.1 * 16 / (math.pi / 4 * 256) + 0.5 * 16 / 144.12) / 205e3
    assert group(document).stiffness.fastener_mm_per_N == pytest.approx(plain + more, rel=1e-4)
    document["groups"][0]["fastener"] = {
        "thread": "M16",
        "grade": "ISO 898-1 8.8",
        "shank_length": "40 mm",
        "shank_diameter": "12 mm",
    }
    assert group(document).stiffness.fastener_mm_per_N > plain
    thick = bound(plan(stack=STACK), "combined").typical_N
    assert bound(document, "combined").typical_N < thick * (12 / 14.12) ** 2 * 1.02
    document["groups"][0]["fastener"]["shank_diameter"] = "17 mm"
    with pytest.raises(DocumentErrors, match="shank_diameter"):
        compute(document)


def test_a_washer_spreads_the_load_and_a_soft_gasket_gives() -> None:
    soft = [{"material": "aluminium", "thickness": "40 mm", "outside": "60 mm"}]
    washer = {
        "material": "steel 42CrMo4 quenched and tempered",
        "thickness": "4 mm",
        "outside": "30 mm",
        "limit": "1200 MPa",
        "washer": True,
    }
    bare, spread = bound(plan(stack=soft), "bearing"), bound(plan(stack=[washer, *soft]), "bearing")
    face = 22.49 + 1.6 * 4
    assert (
        spread.clamp_N == pytest.approx(360 * math.pi / 4 * (face**2 - 17.5**2), rel=1e-6)
        and spread.clamp_N > bare.clamp_N
    )
    ring = {
        "name": "ring",
        "outside": "180 mm",
        "inside": "150 mm",
        "thickness": "2 mm",
        "modulus": "500 MPa",
    }
    gasketed, area = (
        group(plan(stack=STACK, gasket=ring)).stiffness,
        math.pi / 4 * (180**2 - 150**2),
    )
    assert gasketed.grip_mm == 62
    assert gasketed.parts_mm_per_N == pytest.approx(
        group(plan(stack=STACK)).stiffness.parts_mm_per_N + 4 * 2 / (500 * area)
    )


def test_the_bound_that_governs_a_flange_is_named() -> None:
    base = {
        "bolts": "16",
        "root-area": "324 mm2",
        "gasket-area": "20000 mm2",
        "target-stress": "80 MPa",
        "seating-stress": "50 MPa",
        "operating-stress": "30 MPa",
        "pressure": "1.6 MPa",
        "gasket-inside": "400 mm",
        "crush-stress": "150 MPa",
        "bolt-max": "420 MPa",
        "flange-max": "350 MPa",
    }
    out = answer("flange", base).figures
    assert out["lower_MPa"] == pytest.approx(
        (30 * 20000 + math.pi / 4 * 1.6 * 400**2) / (0.7 * 324 * 16)
    )
    assert (out["governs_lower"], out["governs_upper"], out["ok"]) == ("operating", "flange", True)
    assert answer("flange", {**base, "bolt-min": "340 MPa"}).figures["ok"] is False
    assert answer("flange", {**base, "flange-max": "300 MPa"}).figures["ok"] is False
    assert (
        answer("flange", {**base, "gasket-rotation": "0.3", "flange-rotation": "0.5"}).figures[
            "governs_upper"
        ]
        == "rotation"
    )
