"""Tables: spelling of threads, ranges of grades, consistency of what ships."""
from __future__ import annotations

from itertools import pairwise

import pytest

from orthotorq.core.errors import BadThread, UnknownName
from orthotorq.core.tables import grades, hexagons, lubricants, materials, threads
from orthotorq.core.tables.grades import strength_of
from orthotorq.core.tables.reader import source_of
from orthotorq.core.tables.threads import parse_thread


@pytest.mark.parametrize(("text", "name"), [
    ("M24", "M24"), ("m24 × 2", "M24x2"), ("M18 X 1,5", "M18x1.5"), ("M24x3", "M24"), ("M24x2-6g", "M24x2"),
    ("1-1/8-8", "1-1/8-8 UN"), ('1 1/8"-8 UN', "1-1/8-8 UN"), ("7/8-9 UNC", "7/8-9 UNC"), ("#10-24", "#10-24 UNC"),
    ("No. 10-24", "#10-24 UNC"), ("1-8", "1-8 UNC"), ("1/2 UNC", "1/2-13 UNC"), ("1.125-8", "1-1/8-8 UN"),
    ("1/2-13 UNC-2A", "1/2-13 UNC"), ("M37x1.7", "M37x1.7"), ("1-1/8 8UN", "1-1/8-8 UN"), ("4-4", "4-4 UNC")])
def test_threads_in_usual_spellings(text: str, name: str) -> None:
    assert parse_thread(text).designation == name


@pytest.mark.parametrize("text", ["", "M", "nonsense", "8", "M23", "1-1/8", "M10x9", "1/0-3", "1/2-13 UNF", "M-24", "#99-8",
                                  "M24x0", "0-8", "M900x6", "x" * 60])
def test_nonsense_is_refused_with_what_was_expected(text: str) -> None:
    with pytest.raises(BadThread, match=r"for example|expected"):
        parse_thread(text)


def test_every_thread_of_the_series_reads_back() -> None:
    known = threads.series()
    for diameter, pitch in [*known.metric_coarse.items(), *known.metric_fine]:
        found = parse_thread(f"M{diameter:g}x{pitch:g}")
        assert (found.diameter, found.pitch) == (diameter, pitch)
        assert found.minor_diameter < found.pitch_diameter < found.diameter
    for (size, name), tpi in known.unified.items():
        assert parse_thread(f"{size}-{tpi:g}").series == name or tpi in (8, 12)


def test_hexagons_fit_their_bolts() -> None:
    for row in hexagons.table().values():
        # of a socket head the width is that of the key
        assert (row.face_diameter < row.across_flats) is (row.head != "socket head")
        diameter = parse_thread(row.size if row.size.startswith("M") else f"{row.size}-20").diameter
        assert diameter < row.hole < row.face_diameter, row


def test_m24_hexagon_by_standard() -> None:
    row = hexagons.hexagon(parse_thread("M24x2"))
    assert row is not None
    assert (row.across_flats, row.face_diameter, row.hole) == (36, 33.61, 26)


@pytest.mark.parametrize(("name", "diameter", "yield_"), [
    ("ISO 898-1 8.8", 16, 640), ("ISO 898-1 8.8", 16.5, 660), ("ISO 898-1:2013 8.8", 24, 660), ("898-1 10.9", 20, 940),
    ("ASTM A193 B7", 64, 723.95), ("ASTM A193 B7", 64.1, 655.0), ("SAE J429 5", 25.4, 634.32), ("iso 898-1  8.8", 8, 640)])
def test_strength_by_size(name: str, diameter: float, yield_: float) -> None:
    assert strength_of(name, diameter).yield_ == yield_


def test_a_standard_without_yield_says_so() -> None:
    assert strength_of("ASTM A307 A", 20).assumed == ("proof", "yield")
    assert strength_of("ISO 3506-1 A2-70", 20).proof is None


@pytest.mark.parametrize(("name", "diameter"), [("ISO 898-1 99", 20), ("A325", 20), ("ISO 898-1 8.8", 60),
                                                ("ISO 898-1 9.8", 20), ("", 20)])
def test_unknown_ambiguous_and_out_of_range_grades(name: str, diameter: float) -> None:
    with pytest.raises(UnknownName):
        strength_of(name, diameter)


def test_ranges_of_a_grade_do_not_overlap() -> None:
    by: dict[tuple[str, str], list[tuple[float, float]]] = {}
    for row in grades.table():
        assert row.strength.yield_ < row.strength.tensile
        by.setdefault((row.standard, row.grade), []).append((row.low, row.high))
    for ranges in by.values():
        ordered = sorted(ranges)
        assert all(a[1] == b[0] for a, b in pairwise(ordered))


def test_friction_bands_rise_and_there_are_enough() -> None:
    assert len(lubricants.table()) >= 20
    for row in lubricants.table().values():
        for band in (row.mu_thread, row.mu_bearing, row.nut_factor):
            assert 0 < band.low < band.typical < band.high < 1


def test_every_table_names_its_source() -> None:
    for name in ("threads.csv", "hexagons.csv", "lubricants.csv", "materials.csv", "drives.csv"):
        assert len(source_of(name)) > 20
    assert materials.table()["carbon steel"].modulus == 205_000
    assert list(materials.drives().values()) == sorted(materials.drives().values())
