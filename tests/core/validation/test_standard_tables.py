"""Stress areas and proof loads as printed in ISO 898-1:2013 (tables 4 to 7) and ASME B1.1, to three
or four figures."""

from __future__ import annotations

import pytest

from orthotorq.core.mechanics.strength import preload_at_fraction
from orthotorq.core.tables.grades import strength_of
from orthotorq.core.tables.hexagons import hexagon
from orthotorq.core.tables.threads import parse_thread

ISO = {
    "M3": 5.03,
    "M3.5": 6.78,
    "M4": 8.78,
    "M5": 14.2,
    "M6": 20.1,
    "M7": 28.9,
    "M8": 36.6,
    "M10": 58.0,
    "M12": 84.3,
    "M14": 115,
    "M16": 157,
    "M18": 192,
    "M20": 245,
    "M22": 303,
    "M24": 353,
    "M27": 459,
    "M30": 561,
    "M33": 694,
    "M36": 817,
    "M39": 976,
    "M8x1": 39.2,
    "M10x1.25": 61.2,
    "M10x1": 64.5,
    "M12x1.5": 88.1,
    "M12x1.25": 92.1,
    "M14x1.5": 125,
    "M16x1.5": 167,
    "M18x1.5": 216,
    "M20x1.5": 272,
    "M22x1.5": 333,
    "M24x2": 384,
    "M27x2": 496,
    "M30x2": 621,
    "M33x2": 761,
    "M36x3": 865,
    "M39x3": 1030,
}
INCH = {
    "#4-40": 0.00604,
    "#6-32": 0.00909,
    "#8-32": 0.0140,
    "#10-24": 0.0175,
    "#10-32": 0.0200,
    "1/4-20": 0.0318,
    "1/4-28": 0.0364,
    "5/16-18": 0.0524,
    "5/16-24": 0.0580,
    "3/8-16": 0.0775,
    "3/8-24": 0.0878,
    "7/16-14": 0.1063,
    "7/16-20": 0.1187,
    "1/2-13": 0.1419,
    "1/2-20": 0.1599,
    "9/16-12": 0.182,
    "9/16-18": 0.203,
    "5/8-11": 0.226,
    "5/8-18": 0.256,
    "3/4-10": 0.334,
    "3/4-16": 0.373,
    "7/8-9": 0.462,
    "7/8-14": 0.509,
    "1-8": 0.606,
    "1-12": 0.663,
    "1-1/8-7": 0.763,
    "1-1/8-12": 0.856,
    "1-1/4-7": 0.969,
    "1-1/4-12": 1.073,
    "1-3/8-6": 1.155,
    "1-1/2-6": 1.405,
    "1-1/2-12": 1.581,
    "1-3/4-5": 1.90,
    "2-4.5": 2.50,
    "2-1/4-4.5": 3.25,
    "2-1/2-4": 4.00,
    "3-4": 5.97,
    "4-4": 11.08,
}
#: ISO 898-1:2013 table 5, proof loads in N
PROOF = {
    ("M10", "8.8"): 33_700,
    ("M16", "8.8"): 91_000,
    ("M24", "8.8"): 212_000,
    ("M10", "10.9"): 48_100,
    ("M20", "10.9"): 203_000,
    ("M12", "12.9"): 81_800,
    ("M20", "5.6"): 68_600,
}
#: ISO 4014 (widths across flats), ISO 273 medium (holes)
FLATS = {
    "M6": (10, 6.6),
    "M8": (13, 9),
    "M10": (16, 11),
    "M12": (18, 13.5),
    "M16": (24, 17.5),
    "M20": (30, 22),
    "M24": (36, 26),
    "M30": (46, 33),
    "M36": (55, 39),
    "M42": (65, 45),
    "M48": (75, 52),
    "M56": (85, 62),
    "M64": (95, 70),
}


def close(value: float, printed: float) -> bool:
    """Within half a unit of the third figure, or two thousandths: tables round and truncate
    both."""
    return value == pytest.approx(printed, rel=4e-3)


@pytest.mark.parametrize("name", ISO)
def test_metric_stress_areas(name: str) -> None:
    assert close(parse_thread(name).stress_area, ISO[name])


@pytest.mark.parametrize("name", INCH)
def test_inch_stress_areas(name: str) -> None:
    assert close(parse_thread(name).stress_area / 25.4**2, INCH[name])


@pytest.mark.parametrize(("name", "grade"), PROOF)
def test_proof_loads(name: str, grade: str) -> None:
    thread = parse_thread(name)
    strength = strength_of(f"ISO 898-1 {grade}", thread.diameter)
    assert strength.proof is not None
    assert close(preload_at_fraction(1.0, strength.proof, thread.stress_area), PROOF[(name, grade)])


@pytest.mark.parametrize("name", FLATS)
def test_hexagons(name: str) -> None:
    row = hexagon(parse_thread(name))
    assert row is not None
    assert (row.across_flats, row.hole) == FLATS[name]


@pytest.mark.parametrize(
    ("name", "flats"), [("1/2-13", 0.875), ("3/4-10", 1.25), ("1-8", 1.625), ("1-1/2-6", 2.375)]
)
def test_heavy_hexagons_follow_one_and_a_half_d_plus_an_eighth(name: str, flats: float) -> None:
    row = hexagon(parse_thread(name), "heavy hex")
    assert row is not None
    assert row.across_flats / 25.4 == pytest.approx(flats, abs=1e-4)


def test_above_the_tables_nothing_is_guessed() -> None:
    assert hexagon(parse_thread("M72")) is None
    assert hexagon(parse_thread("2-4.5")) is None
    assert hexagon(parse_thread("#10-24")) is None
