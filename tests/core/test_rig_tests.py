"""Own tests of a compound: lines as typed, frictions of ISO 16047, the band that a group is
computed with."""

from __future__ import annotations

import math
from statistics import mean, stdev
from typing import Any

import pytest

from orthotorq.core.documents.rig_tests import rig_reading
from orthotorq.core.errors import OrthotorqError
from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.planning.compute import compute
from tests.plans import small

Raw = dict[str, Any]
#: M16 on a standard hexagon: pitch 2, pitch diameter 14.701, face 22.49 over a hole of 17.5
PITCH, PITCH_DIAMETER, BEARING = 2.0, 14.701, (22.49 + 17.5) / 2
PAIRS = [(118.0, 50.0), (122.0, 50.0), (120.0, 51.0), (119.0, 49.0), (121.0, 50.0), (123.0, 50.5)]


def with_tests(*series: Raw, **more: Any) -> Raw:
    document = small()
    document["definitions"] = {
        "lubricants": {"paste": {"name": "Grey paste", "tests": list(series), **more}}
    }
    document["groups"][0]["friction"] = {"lubricant": "paste"}
    return document


def test_friction_of_thread_and_face_together_by_hand() -> None:
    by_hand = [
        (t / f - PITCH / (2 * math.pi)) / (0.577 * PITCH_DIAMETER + 0.5 * BEARING) for t, f in PAIRS
    ]
    found = compute(
        with_tests({"id": "a", "thread": "M16", "readings": [f"{t} N·m, {f} kN" for t, f in PAIRS]})
    )
    band = next(one for one in found.own_tests["paste"] if one.what == "mu_total")
    assert [p.value for p in band.points] == pytest.approx(by_hand, abs=2e-5)
    # two-sided tolerance factor for 6 tests, 90 % of the population, 95 % confidence: 3.72 in the
    # tables
    reach = 3.72 * stdev(by_hand)
    assert band.band == pytest.approx(
        [mean(by_hand) - reach, mean(by_hand), mean(by_hand) + reach], rel=2e-3
    )
    friction = found.groups[0].friction
    assert friction.mu_thread == friction.mu_bearing == band.band
    assert friction.source == "6 own tests on M16: mean and interval for 90 % with 95 % confidence"


def test_a_torque_measured_in_the_thread_tells_thread_and_face_apart() -> None:
    lines = [f"{t} N·m; {f} kN; {t * 0.55} N·m" for t, f in PAIRS]
    found = compute(with_tests({"id": "a", "thread": "M16", "readings": lines}))
    by = {one.what: one for one in found.own_tests["paste"]}
    assert set(by) == {"nut_factor", "mu_thread", "mu_bearing"}
    t, f = PAIRS[0]
    assert by["mu_thread"].points[0].value == pytest.approx(
        (t * 0.55 / f - PITCH / (2 * math.pi)) / (0.577 * PITCH_DIAMETER), abs=2e-5
    )
    assert by["mu_bearing"].points[0].value == pytest.approx(
        t * 0.45 / (0.5 * BEARING * f), abs=2e-5
    )
    friction = found.groups[0].friction
    assert (friction.mu_thread, friction.mu_bearing) == (
        by["mu_thread"].band,
        by["mu_bearing"].band,
    )


def test_nut_factors_alone_give_the_short_form() -> None:
    found = compute(
        with_tests(
            {"id": "a", "thread": "M16", "readings": ["0.15", "0.16", "0,155", "0.15", "0.16"]}
        )
    )
    assert found.groups[0].friction.form == "short"
    assert found.groups[0].friction.nut_factor[1] == pytest.approx(0.155)
    assert "tested_elsewhere" not in {f.code for f in found.findings}


def test_what_is_typed_stands_before_the_tests_and_a_band_at_the_group_before_both() -> None:
    series = {"id": "a", "thread": "M16", "readings": ["0.15"] * 4 + ["0.16"]}
    typed = compute(with_tests(series, mu_thread=[0.1, 0.12, 0.14])).groups[0].friction
    assert (typed.form, typed.mu_thread, typed.origin) == ("long", [0.1, 0.12, 0.14], "own")
    document = with_tests(series)
    document["groups"][0]["friction"]["mu_thread"] = [0.1, 0.11, 0.12]
    given = compute(document).groups[0].friction
    assert (given.form, given.mu_thread) == ("long", [0.1, 0.11, 0.12])


def test_every_series_counts_and_says_where_it_is_from() -> None:
    found = compute(
        with_tests(
            {
                "id": "a",
                "thread": "M16",
                "readings": ["0.15", "0.16"],
                "date": "2026-03-02",
                "sheet": "R-14",
            },
            {"id": "b", "thread": "M20", "readings": ["0.15", "0.14", "0.16"]},
        )
    )
    band = found.own_tests["paste"][0]
    assert (band.count, band.threads) == (5, ["M16", "M20"])
    assert (band.points[0].date, band.points[0].sheet) == ("2026-03-02", "R-14")


@pytest.mark.parametrize(
    ("series", "path", "words"),
    [
        ({"thread": "M16", "readings": ["0.15"] * 4}, "mu_thread", "at least 5 tests"),
        (
            {"thread": "M16", "readings": ["0.15"] * 4 + ["often"]},
            "tests/0/readings/4",
            "A test is torque",
        ),
        (
            {"thread": "M16", "readings": ["0.15"] * 4 + ["1.9"]},
            "tests/0/readings/4",
            "nut factor from",
        ),
        (
            {"thread": "M16", "readings": ["0.15"] * 4 + ["100 N·m, 0 kN"]},
            "tests/0/readings/4",
            "more than 0",
        ),
        (
            {"thread": "M16", "readings": ["0.15"] * 4 + ["100 N·m, 30 kN, 120 N·m"]},
            "tests/0/readings/4",
            "less than the whole",
        ),
        (
            {"thread": "M16", "readings": ["0.15"] * 4 + ["10 N·m, 300 kN"]},
            "tests/0/readings/4",
            "check units",
        ),
        ({"thread": "screw", "readings": ["0.15"] * 5}, "tests/0/thread", "thread"),
    ],
)
def test_what_cannot_be_is_named_at_its_line(series: Raw, path: str, words: str) -> None:
    with pytest.raises(DocumentErrors) as refused:
        compute(with_tests({"id": "a", **series}))
    found = {e.pointer(): e.text for e in refused.value.errors}
    assert words in found[f"definitions/lubricants/paste/{path}"]


def test_tests_of_several_kinds_that_make_no_band_are_refused_where_the_compound_is_taken() -> None:
    document = with_tests(
        {
            "id": "a",
            "thread": "M16",
            "readings": [
                "118 N·m, 50 kN",
                "119 N·m, 50 kN",
                "0.15",
                "118 N·m, 50 kN, 60 N·m",
                "119 N·m, 50 kN, 60 N·m",
            ],
        }
    )
    found = compute(document)
    # all five tell a nut factor, whatever else they tell
    assert found.groups[0].friction.form == "short"


@pytest.mark.parametrize("text", ["", "1 N·m, 2 kN, 3 N·m, 4", "five", "10 kN, 20 N·m"])
def test_a_line_that_is_no_test_is_refused(text: str) -> None:
    with pytest.raises(OrthotorqError):
        rig_reading(text)
