"""Tables: spelling of threads, ranges of grades, consistency of what ships."""

from __future__ import annotations

from itertools import pairwise

import pytest

from orthotorq.core.errors import BadThread, UnknownName
from orthotorq.core.sums import answer
from orthotorq.core.sums.fields import _parted
from orthotorq.core.tables import flanges, grades, hexagons, lubricants, materials, threads
from orthotorq.core.tables.grades import strength_of
from orthotorq.core.tables.hexagons import hexagon
from orthotorq.core.tables.reader import rows, source_of
from orthotorq.core.tables.threads import parse_thread


@pytest.mark.parametrize(
    ("text", "name"),
    [
        ("M24", "M24"),
        ("m24 × 2", "M24x2"),
        ("M18 X 1,5", "M18x1.5"),
        ("M24x3", "M24"),
        ("M24x2-6g", "M24x2"),
        ("1-1/8-8", "1-1/8-8 UN"),
        ('1 1/8"-8 UN', "1-1/8-8 UN"),
        ("7/8-9 UNC", "7/8-9 UNC"),
        ("#10-24", "#10-24 UNC"),
        ("No. 10-24", "#10-24 UNC"),
        ("1-8", "1-8 UNC"),
        ("1/2 UNC", "1/2-13 UNC"),
        ("1.125-8", "1-1/8-8 UN"),
        ("1/2-13 UNC-2A", "1/2-13 UNC"),
        ("M37x1.7", "M37x1.7"),
        ("1-1/8 8UN", "1-1/8-8 UN"),
        ("4-4", "4-4 UNC"),
    ],
)
def test_threads_in_usual_spellings(text: str, name: str) -> None:
    assert parse_thread(text).designation == name


@pytest.mark.parametrize(
    "text",
    [
        "",
        "M",
        "nonsense",
        "8",
        "M23",
        "1-1/8",
        "M10x9",
        "1/0-3",
        "1/2-13 UNF",
        "M-24",
        "#99-8",
        "M24x0",
        "0-8",
        "M900x6",
        "x" * 60,
    ],
)
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


@pytest.mark.parametrize(
    ("name", "diameter", "yield_"),
    [
        ("ISO 898-1 8.8", 16, 640),
        ("ISO 898-1 8.8", 16.5, 660),
        ("ISO 898-1:2013 8.8", 24, 660),
        ("898-1 10.9", 20, 940),
        ("ASTM A193 B7", 64, 723.95),
        ("ASTM A193 B7", 64.1, 655.0),
        ("SAE J429 5", 25.4, 634.32),
        ("iso 898-1  8.8", 8, 640),
    ],
)
def test_strength_by_size(name: str, diameter: float, yield_: float) -> None:
    assert strength_of(name, diameter).yield_ == yield_


def test_a_standard_without_yield_says_so() -> None:
    assert strength_of("ASTM A307 A", 20).assumed == ("proof", "yield")
    assert strength_of("ISO 3506-1 A2-70", 20).proof is None


@pytest.mark.parametrize(
    ("name", "diameter"),
    [("ISO 898-1 99", 20), ("A325", 20), ("ISO 898-1 8.8", 60), ("ISO 898-1 9.8", 20), ("", 20)],
)
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


@pytest.mark.parametrize(
    ("text", "name"),
    [
        ("Grade 5", "SAE J429 5"),
        ("SAE 5", "SAE J429 5"),
        ("Gr. 8", "SAE J429 8"),
        ("class 8.8", "ISO 898-1:2013 8.8"),
        ("EN ISO 898-1 8.8", "ISO 898-1:2013 8.8"),
        ("SA-193 B7", "ASTM A193 B7"),
        ("A193 Gr B7", "ASTM A193 B7"),
        ("A4 80", "ISO 3506-1:2009 A4-80"),
        ("ASTM A193 B8 Class 2", "ASTM A193 B8 Class 2"),
        ("D6-80", "ISO 3506-1:2020 D6-80"),
    ],
)
def test_grades_are_known_by_what_people_write(text: str, name: str) -> None:
    assert strength_of(text, 16).name == name


@pytest.mark.parametrize("text", ["8", "5"])
def test_a_bare_number_is_asked_back(text: str) -> None:
    with pytest.raises(UnknownName, match="alone can be SAE J429"):
        strength_of(text, 16)


@pytest.mark.parametrize(
    ("text", "name"),
    [
        ("10-32", "#10-32 UNF"),
        ("8-32", "#8-32 UNC"),
        ("4-40", "#4-40 UNC"),
        ("8-8", "8-8 UN"),
        ("3/4-10-2A", "3/4-10 UNC"),
        ("M12 LH", "M12"),
        ("M12x1.25-LH", "M12x1.25"),
        ("1/2-13 UNC-2A LH", "1/2-13 UNC"),
        ("2-4 1/2", "2-4.5 UNC"),
        ("¾-10", "3/4-10 UNC"),
        ("1½-6", "1-1/2-6 UNC"),
        ("M12-6g", "M12"),
    ],
)
def test_threads_with_class_hand_and_odd_pitch(text: str, name: str) -> None:
    assert parse_thread(text).designation == name


@pytest.mark.parametrize(
    ("flats", "ten", "thread"),
    [
        ("17 mm", "15 mm", "M10"),
        ("19 mm", "17.5 mm", "M12"),
        ("22 mm", "20 mm", "M14"),
        ("32 mm", "25 mm", "M22"),
        ("7/8 in", "21.17 mm", "9/16-12 UNC"),
        ("11 mm", "10 mm", "M7"),
    ],
)
def test_older_widths_and_nuts_are_identified(flats: str, ten: str, thread: str) -> None:
    assert thread in answer("identify", {"flats": flats, "ten": ten}).figures["threads"]


def test_rows_the_standards_split_or_carry_on() -> None:
    assert (
        strength_of("A2-70", 24).certainty == "sure"
        and strength_of("A2-70", 30).certainty == "medium"
    )
    assert strength_of("ASTM A354 BC", 70).proof == pytest.approx(95 * 6.894757, rel=1e-4)
    head = hexagon(parse_thread("2-8 UN"), "heavy hex")
    assert head is not None and head.across_flats == pytest.approx(3.125 * 25.4)
    assert hexagon(parse_thread("1/2-13"), "socket head") is not None
    # no drive is worked above its test torque
    assert all(
        one["usual_max_Nm"] and float(one["usual_max_Nm"]) <= 0.7 * float(one["test_Nm"])
        for one in rows("drives.csv")
        if one["test_Nm"]
    )


@pytest.mark.parametrize(
    ("text", "parts"),
    [
        ("0,12", ["0.12"]),
        ("0,10;0,12;0,16", ["0,10", "0,12", "0,16"]),
        ("0,10,0,12,0,16", ["0.10", "0.12", "0.16"]),
    ],
)
def test_decimal_commas_in_lists(text: str, parts: list[str]) -> None:
    assert _parted(text) == parts


def test_a_share_may_be_in_percent() -> None:
    base = {"thread": "M20", "torque": "300 N·m", "mu-thread": "0,12"}
    assert (
        answer("preload", {**base, "accuracy": "4 %"}).figures
        == answer("preload", {**base, "accuracy": "0.04"}).figures
    )


def test_flanges_of_a_standard_are_whole_and_their_gaskets_lie_inside_the_bolts() -> None:
    table = flanges.table()
    assert len(table) == 36
    for one in table.values():
        size = parse_thread(one.thread).diameter
        assert one.count % 4 == 0 and size < one.hole <= size + 3
        assert one.dn < one.gasket_inside < one.gasket_outside < one.circle
    for pn, other in ((10, 16), (16, 25), (25, 40)):
        for dn in (50, 100, 200, 300):
            low, high = table[f"DN{dn} PN{pn}"], table[f"DN{dn} PN{other}"]
            # more pressure never has fewer or smaller bolts
            assert (
                low.count * parse_thread(low.thread).stress_area
                <= high.count * parse_thread(high.thread).stress_area
            )
