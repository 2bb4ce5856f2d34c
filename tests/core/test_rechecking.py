"""Schedules as people write them and the days they fall on, worked by hand; checks of a wrench at
their limits."""

from __future__ import annotations

from datetime import date
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orthotorq.core.errors import OrthotorqError
from orthotorq.core.mechanics.calibration import check_of, class_limit
from orthotorq.core.rechecking import Meter, due_of, parse_schedule
from orthotorq.core.sums import answer


def days(text: str, meter: Meter | None, start: date) -> list[tuple[float, str, str]]:
    return [(d.at, d.unit, str(d.day)) for d in due_of(parse_schedule(text), meter, start)]


def exact(unit: str, reading: float, rate: float) -> Meter:
    return Meter(unit, reading, (rate, rate, rate))


@pytest.mark.parametrize(
    ("text", "at", "every"),
    [
        ("30, 60, 90, 600 and 200 km", ["30 km", "60 km", "90 km", "200 km", "600 km"], None),
        ("first 50 h, then every 500 h or 12 months", ["50 h"], "500 h or 12 months"),
        ("after 24 h and 7 days", ["24 h", "7 d"], None),
        ("weekly", [], "1 week"),
        ("at 25 miles; every 3 years", ["25 mi"], "3 years"),
        ("50 km, 50 km and 100 km", ["50 km", "100 km"], None),
        ("every 1000 h and every 500 h", [], "500 h"),
        ("every 3 months or 5000 km, whichever comes first", [], "3 months or 5000 km"),
        ("1 500 km", ["1500 km"], None),
        ("30,60,90 km", ["30 km", "60 km", "90 km"], None),
        ("50 to 100 km", ["50 km"], None),
        ("every start", [], "1 start"),
    ],
)
def test_a_schedule_is_read_and_put_in_order(text: str, at: list[str], every: str | None) -> None:
    found = parse_schedule(text)
    assert [p.words() for p in found.at] == at
    assert (found.every.words() if found.every else None) == every


@pytest.mark.parametrize(
    "text",
    [
        "",
        "soon",
        "30",
        "0 km",
        "1,000 km",
        "2,5 h",
        "50 furlongs",
        "every",
        "30 km and 40",
        "every 500 h when it rains",
    ],
)
def test_what_is_no_schedule_is_refused_with_a_sentence(text: str) -> None:
    with pytest.raises(OrthotorqError) as refused:
        parse_schedule(text)
    assert str(refused.value).endswith(".")


def test_what_was_put_right_is_said() -> None:
    assert "200 km is listed after 600 km" in " ".join(parse_schedule("600 and 200 km").notes)
    assert "counts once" in " ".join(parse_schedule("50 h and 50 h").notes)
    assert "the shorter one holds" in " ".join(parse_schedule("every 1000 h and every 500 h").notes)


def test_a_reading_falls_on_the_day_on_which_it_is_reached() -> None:
    # from 45 km at 12 km a day: 60 km after 15/12, 90 km after 45/12 days, over the leap day of
    # 2028
    assert days("30, 60, 90, 600 and 200 km", exact("km", 45, 12), date(2028, 2, 27)) == [
        (30, "km", "2028-02-27"),
        (60, "km", "2028-02-29"),
        (90, "km", "2028-03-02"),
        (200, "km", "2028-03-11"),
        (600, "km", "2028-04-14"),
    ]
    # exactly 4 days, and one reading that is reached today
    assert days("48 h", exact("h", 0, 12), date(2027, 2, 25)) == [(48, "h", "2027-03-01")]
    assert days("48 h", exact("h", 48, 12), date(2027, 2, 25)) == [(48, "h", "2027-02-25")]


def test_an_interval_counts_on_from_the_last_reading_until_the_calendar_is_sooner() -> None:
    text = "first 50 h, then every 500 h or 12 months"
    assert [d[0] for d in days(text, exact("h", 0, 8), date(2027, 1, 1))] == [
        50,
        550,
        1050,
        1550,
        2050,
    ]
    slow = days(text, exact("h", 0, 1), date(2027, 1, 1))
    assert slow[:3] == [
        (50, "h", "2027-02-20"),
        (12, "months", "2028-02-20"),
        (12, "months", "2029-02-20"),
    ]
    assert days("every 500 h", exact("h", 700, 8), date(2027, 1, 1))[0] == (1000, "h", "2027-02-08")


def test_months_end_on_their_last_day_and_a_short_one_shortens_no_other() -> None:
    assert [d[2] for d in days("every month", None, date(2028, 1, 31))] == [
        "2028-02-29",
        "2028-03-31",
        "2028-04-30",
        "2028-05-31",
        "2028-06-30",
    ]
    assert days("yearly", None, date(2028, 2, 29))[0][2] == "2029-02-28"
    assert days("yearly", None, date(2028, 2, 29))[3][2] == "2032-02-29"
    assert days("every 2 weeks", None, date(2027, 12, 20))[0][2] == "2028-01-03"


def test_miles_and_kilometres_are_one_meter() -> None:
    assert days("100 km", exact("mi", 0, 10), date(2027, 1, 1)) == [(100, "km", "2027-01-08")]


def test_a_rate_that_is_not_certain_gives_the_earliest_and_the_latest_day() -> None:
    due = due_of(parse_schedule("120 h"), Meter("h", 0, (5, 8, 12)), date(2027, 1, 1))[0]
    assert (str(due.low), str(due.day), str(due.high)) == ("2027-01-11", "2027-01-16", "2027-01-25")


def test_without_a_rate_there_is_a_reading_and_no_day() -> None:
    due = due_of(parse_schedule("120 h"), Meter("h", 20), date(2027, 1, 1))[0]
    assert (due.at, due.day, due.low, due.high) == (120, None, None, None) and "no rate" in due.why
    assert due_of(parse_schedule("every 3 months"), None, None) == []


@given(st.floats(0, 5000), st.floats(0.01, 500), st.integers(1, 800), st.integers(1, 800))
def test_due_days_rise_and_none_lies_before_the_first_day(
    reading: float, rate: float, first: int, every: int
) -> None:
    start = date(2027, 3, 1)
    dues = due_of(
        parse_schedule(f"{first} h, then every {every} h or 6 months"),
        exact("h", reading, rate),
        start,
    )
    dated = [d.day for d in dues if d.day is not None]
    assert len(dues) == 5 and dated == sorted(dated) and all(d >= start for d in dated)


@pytest.mark.parametrize(
    ("texts", "field"),
    [
        ({"reading": "30 kg"}, "reading"),
        ({"reading": "-3 km"}, "reading"),
        ({"per-day": "0 km"}, "per-day"),
        ({"per-day": "3, 2, 1 km"}, "per-day"),
        ({"per-day": "5 h"}, "per-day"),
        ({"from": "2027-02-29"}, "from"),
        ({"reading": "30 h", "per-day": "5 km"}, "reading"),
        ({"per-day": "3 months"}, "per-day"),
    ],
)
def test_a_bad_field_of_the_schedule_is_named(texts: dict[str, str], field: str) -> None:
    with pytest.raises(OrthotorqError) as refused:
        answer("schedule", {"text": "30 km", "from": "2027-01-01", **texts})
    assert refused.value.path == (field,)


def test_the_sum_gives_dates_as_text_and_what_has_passed_as_a_note() -> None:
    found = answer(
        "schedule",
        {
            "text": "30 and 60 km",
            "reading": "45 km",
            "per-day": "5, 10, 15 km/day",
            "from": "2027-01-01",
        },
    )
    passed = {
        "at": 30.0,
        "unit": "km",
        "date": "2027-01-01",
        "low": "2027-01-01",
        "high": "2027-01-01",
        "why": "30 km has passed: due, unless it was done",
    }
    assert found.figures["due"] == [
        passed,
        {
            "at": 60.0,
            "unit": "km",
            "date": "2027-01-03",
            "low": "2027-01-02",
            "high": "2027-01-04",
            "why": "at 60 km",
        },
    ]


def test_an_interval_counts_on_from_a_month_as_from_a_reading() -> None:
    def at(text: str) -> list[tuple[float, str]]:
        return [
            (one["at"], one["unit"])
            for one in answer("schedule", {"text": text, "from": "2027-01-01"}).figures["due"]
        ]

    assert at("after 1 month, then every 6 months")[:3] == [
        (1, "months"),
        (7, "months"),
        (13, "months"),
    ]
    assert at("after 2 weeks, then every 10 d")[:2] == [(2, "weeks"), (24, "d")]
    assert at("after 1 month, then every year")[:2] == [(1, "months"), (13, "months")]
    assert at("every 6 months")[:2] == [(6, "months"), (12, "months")]


@pytest.mark.parametrize(
    ("name", "setting", "limit"),
    [
        ("II A", 200e3, 0.04),
        ("type II, class A", 10e3, 0.06),
        ("IIA", 10.1e3, 0.04),
        ("I A", 200e3, 0.06),
        ("1 B", 200e3, 0.04),
        ("ISO 6789-1 II D", 200e3, 0.06),
        ("2c", 5e3, 0.06),
        ("I D", 50e3, 0.06),
    ],
)
def test_a_class_has_its_limit_at_both_sides_of_10_newton_metres(
    name: str, setting: float, limit: float
) -> None:
    assert class_limit(name, setting) == limit


@pytest.mark.parametrize(
    ("readings", "limit", "uncertainty", "verdict"),
    [
        ((200 / 1.04, 200 / 0.96), 0.04, 0.0, "pass"),
        ((200 / 1.0401,), 0.04, 0.0, "fail"),
        ((200 / 0.9599,), 0.04, 0.0, "fail"),
        ((200 / 1.031,), 0.04, 0.01, "undecided"),
        ((200 / 1.029,), 0.04, 0.01, "pass"),
        ((200 / 1.049,), 0.04, 0.01, "undecided"),
        ((200 / 1.0501,), 0.04, 0.01, "fail"),
        ((200.0, 200 / 1.06), 0.04, 0.01, "fail"),
        ((200.0, 200 / 1.04), 0.04, 0.01, "undecided"),
    ],
)
def test_a_verdict_turns_at_its_limit_and_is_undecided_where_the_reference_could_turn_it(
    readings: tuple[float, ...], limit: float, uncertainty: float, verdict: str
) -> None:
    assert check_of(200.0, readings, limit, uncertainty).verdict == verdict


def sums(**texts: str) -> dict[str, Any]:
    return answer("calibration", {"setting": "200 N·m", "class": "II A", **texts}).figures


def test_the_error_is_of_what_was_set_from_the_reference() -> None:
    found = sums(readings="198; 201.5 N·m; 193.5")
    assert found["error_percent"] == pytest.approx(
        sum((200 - r) / r for r in (198, 201.5, 193.5)) / 3 * 100
    )
    assert (
        found["worst_percent"] == pytest.approx((200 - 193.5) / 193.5 * 100)
        and found["verdict"] == "pass"
    )
    # one unit for all, another unit than the setting's, commas without blanks
    assert sums(readings="147,148,149 ft·lbf")["verdict"] == "pass"
    assert sums(readings="198,201,203")["worst_percent"] == pytest.approx((200 - 203) / 203 * 100)


def test_limits_are_read_as_shares_and_as_percent() -> None:
    for limit in ("4 %", "0.04", "4"):
        found = answer(
            "calibration",
            {
                "setting": "200 N·m",
                "readings": "193.5",
                "limit": limit,
                "reference-uncertainty": "1",
            },
        )
        assert found.figures["verdict"] == "undecided"


@pytest.mark.parametrize(
    ("texts", "field"),
    [
        ({"readings": ""}, "readings"),
        ({"readings": "0 N·m"}, "readings"),
        ({"readings": "12 mm"}, "readings"),
        ({"class": "IX Q"}, "class"),
        ({"limit": "4 %"}, "limit"),
        ({"class": "", "limit": "0"}, "limit"),
        ({"class": "", "limit": "4 mm"}, "limit"),
        ({"reference-uncertainty": "80"}, "reference-uncertainty"),
        ({"setting": "0 N·m"}, "setting"),
    ],
)
def test_a_bad_field_of_the_check_is_named(texts: dict[str, str], field: str) -> None:
    with pytest.raises(OrthotorqError) as refused:
        sums(**{"readings": "199", **texts})
    assert refused.value.path == (field,)
