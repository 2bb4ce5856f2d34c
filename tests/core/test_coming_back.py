"""When a joint falls due next, worked by hand: meters that are reset, replaced, roll over; leap
days, miles, early rechecks."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orthotorq.core.errors import OrthotorqError
from orthotorq.core.rechecking import (
    Checked,
    Mark,
    Rate,
    Rule,
    Shown,
    Stands,
    gained,
    movement_of,
    next_of,
    rate_of,
    totals,
)
from orthotorq.core.thresholds import (
    KEEPS_MOVING,
    METER_DAYS,
    METER_READINGS,
    MOVED_DIES,
    RECHECK_EARLY,
    RECHECK_GRACE,
    RECHECK_GRACE_MOST,
)

START = datetime(2028, 2, 1, 6, tzinfo=UTC)


def on(day: float, value: float, how: str = "reading", before: float | None = None) -> Shown:
    return Shown(START + timedelta(days=day), value, how, before)


def stands(
    unit: str, total: float, rate: float | None = 10.0, day: date = date(2028, 3, 1)
) -> Stands:
    return Stands(
        unit, total, day, Rate((rate, rate, rate) if rate is not None else None, "as read")
    )


@pytest.mark.parametrize(
    ("readings", "expected"),
    [
        ([on(0, 100.0), on(1, 130.0), on(2, 130.0)], [100.0, 130.0, 130.0]),
        # set back: what the old counter showed at its end counts, from nothing it goes on
        ([on(0, 100.0), on(1, 0.0, "reset", 140.0), on(2, 25.0)], [100.0, 140.0, 165.0]),
        ([on(0, 100.0), on(1, 0.0, "reset"), on(2, 25.0)], [100.0, 100.0, 125.0]),
        ([on(0, 9400.0), on(3, 12.0, "replaced", 9460.0), on(5, 62.0)], [9400.0, 9460.0, 9510.0]),
        ([on(0, 99_800.0), on(7, 150.0, "rolled_over", 100_000.0)], [99_800.0, 100_150.0]),
    ],
)
def test_a_meter_counts_on_whatever_happens_to_its_counter(
    readings: list[Shown], expected: list[float]
) -> None:
    assert totals(readings, "km") == expected


@pytest.mark.parametrize(
    ("before", "one", "field", "words"),
    [
        (on(0, 100.0), on(1, 90.0), "value", "is less than the reading before"),
        (on(0, 100.0), on(0, 110.0), "at", "this very time"),
        (on(0, 100.0), on(1, -1.0), "value", "0 or more"),
        (on(0, 100.0), on(1, 10.0, "rolled_over"), "before", "starts again at 0"),
        (on(0, 100.0), on(1, 10.0, "replaced", 90.0), "before", "last reading of the old meter"),
        (
            on(0, 100.0),
            on(1, 300.0, "rolled_over", 200.0),
            "before",
            "last reading of the old meter",
        ),
    ],
)
def test_what_no_counter_does_is_refused_at_its_field(
    before: Shown, one: Shown, field: str, words: str
) -> None:
    with pytest.raises(OrthotorqError, match=words) as caught:
        gained(before, one, "km")
    assert caught.value.path == (field,)


@given(st.lists(st.floats(0, 1e6), min_size=2, max_size=12))
def test_what_has_run_in_all_never_falls(steps: list[float]) -> None:
    readings, value = [], 0.0
    for day, step in enumerate(steps):
        value += step
        readings.append(on(day, value))
    counted = totals(readings, "h")
    assert counted == sorted(counted)


def test_one_odd_reading_does_not_move_the_rate() -> None:
    points = [(START + timedelta(days=7 * week), 70.0 * week) for week in range(12)]
    points[6] = (points[6][0], points[6][1] + 55.0)
    low, typical, high = rate_of(points).band or (0.0, 0.0, 0.0)
    assert typical == pytest.approx(10.0, abs=0.3)
    assert low <= typical <= high


def test_recent_readings_weigh_more() -> None:
    slow = [(START + timedelta(days=7 * week), 35.0 * week) for week in range(10)]
    last = slow[-1]
    fast = [(last[0] + timedelta(days=7 * week), last[1] + 140.0 * week) for week in range(1, 8)]
    _, typical, _ = rate_of([*slow, *fast]).band or (0.0, 0.0, 0.0)
    assert typical > 11.0  # half of the weeks at 5 a day, half at 20


@pytest.mark.parametrize(
    ("count", "days", "known"),
    [
        (int(METER_READINGS.value) - 1, 30.0, False),
        (int(METER_READINGS.value), 30.0, True),
        (5, METER_DAYS.value - 0.1, False),
        (5, METER_DAYS.value, True),
    ],
)
def test_too_few_readings_give_no_forecast_and_say_so(count: int, days: float, known: bool) -> None:
    found = rate_of(
        [(START + timedelta(days=days * i / (count - 1)), 10.0 * i) for i in range(count)]
    )
    assert (found.band is not None) is known
    assert "readings" in found.words


def test_a_meter_that_stands_still_gives_no_day() -> None:
    found = rate_of([(START + timedelta(days=10 * i), 500.0) for i in range(4)])
    assert found.band is None
    assert "does not run" in found.words


@pytest.mark.parametrize(
    ("rule", "first", "last", "meter", "day", "reading"),
    [
        # 20 km at 10 km a day from 1 March, 0 km run since: on the third
        (
            Rule("km", (20.0, 100.0), 1000.0),
            Mark(date(2028, 3, 1), 500.0),
            None,
            stands("km", 500.0),
            date(2028, 3, 3),
            20.0,
        ),
        # a meter in miles, a plan in km: 20 km are 12.43 mi
        (
            Rule("km", (20.0,), None),
            Mark(date(2028, 3, 1), 500.0),
            None,
            stands("mi", 500.0),
            date(2028, 3, 3),
            20.0,
        ),
        # a recheck at 18 km counted for 20; the next at 100 km, 82 to go
        (
            Rule("km", (20.0, 100.0), None),
            Mark(date(2028, 2, 20), 500.0),
            Mark(date(2028, 2, 25), 518.0),
            stands("km", 518.0),
            date(2028, 3, 10),
            100.0,
        ),
        # passed 35 km ago at 10 km a day: it was reached about 25 February
        (
            Rule("km", (20.0,), None),
            Mark(date(2028, 2, 20), 500.0),
            None,
            stands("km", 555.0),
            date(2028, 2, 27),
            20.0,
        ),
        # months end on their last day: from the leap day a month on
        (Rule("months", (), 1.0), Mark(date(2028, 1, 31)), None, None, date(2028, 2, 29), 1.0),
        (
            Rule("d", (1.0, 7.0), 180.0),
            Mark(date(2028, 2, 28)),
            Mark(date(2028, 2, 29)),
            None,
            date(2028, 3, 6),
            7.0,
        ),
        (
            Rule("d", (1.0, 7.0), 180.0),
            Mark(date(2028, 2, 28)),
            Mark(date(2028, 3, 6)),
            None,
            date(2028, 9, 2),
            187.0,
        ),
    ],
)
def test_the_next_recheck_worked_by_hand(
    rule: Rule, first: Mark, last: Mark | None, meter: Stands | None, day: date, reading: float
) -> None:
    found = next_of(rule, first, last, meter)
    assert found is not None
    assert (found.day, found.at) == (day, pytest.approx(reading))


def test_a_season_comes_every_year_also_where_there_is_no_29_february() -> None:
    rule = Rule("d", season=(2, 29))
    days = [next_of(rule, Mark(date(year, 1, 10)), None, None) for year in (2028, 2029)]
    assert [one.day for one in days if one] == [date(2028, 2, 29), date(2029, 2, 28)]
    again = next_of(rule, Mark(date(2028, 1, 10)), Mark(date(2028, 2, 29)), None)
    assert again is not None
    assert again.day == date(2029, 2, 28)


def test_a_joint_that_had_moved_comes_at_half_the_interval() -> None:
    rule, first, last = (
        Rule("h", (24.0,), 1000.0),
        Mark(date(2028, 2, 1), 0.0),
        Mark(date(2028, 2, 10), 24.0),
    )
    usual = next_of(rule, first, last, stands("h", 24.0))
    moved = next_of(rule, first, last, stands("h", 24.0), moved=True)
    assert usual is not None and moved is not None
    assert (usual.at, moved.at) == (1024.0, 524.0)
    assert "half the interval" in moved.why


@pytest.mark.parametrize(
    ("meter", "words"),
    [
        (None, "no meter in km"),
        (stands("h", 10.0), "no meter in km"),
        (stands("km", 500.0, None), "so no day"),
    ],
)
def test_without_meter_or_rate_there_is_no_day_and_it_says_so(
    meter: Stands | None, words: str
) -> None:
    found = next_of(Rule("km", (20.0,), None), Mark(date(2028, 3, 1), 500.0), None, meter)
    assert found is not None
    assert found.day is None
    assert words in found.why


@pytest.mark.parametrize("early", [RECHECK_EARLY.value - 0.01, RECHECK_EARLY.value + 0.001])
def test_a_recheck_counts_from_a_fifth_before_its_reading(early: float) -> None:
    found = next_of(
        Rule("h", (100.0, 500.0), None),
        Mark(date(2028, 2, 1), 0.0),
        Mark(date(2028, 2, 9), 100.0 * early),
        stands("h", 100.0),
    )
    assert found is not None
    assert found.at == (100.0 if early < RECHECK_EARLY.value else 500.0)


def test_grace_grows_with_the_interval_and_ends() -> None:
    def grace(days: float) -> int:
        found = next_of(Rule("d", (), days), Mark(date(2028, 1, 1)), None, None)
        assert found is not None
        return found.grace

    assert grace(100) == 100 * RECHECK_GRACE.value
    assert grace(10_000) == RECHECK_GRACE_MOST.value


def test_movement_that_dies_away_is_none_and_that_which_does_not_is_said() -> None:
    share = MOVED_DIES.value
    assert movement_of([Checked(1, 100, 20), Checked(2, 100, int(20 * share))]).finding == ""
    assert (
        movement_of([Checked(1, 100, 20), Checked(2, 100, int(20 * share) + 1)]).finding == "lasts"
    )
    many = int(KEEPS_MOVING.value)
    dying = [Checked(n, 100, 64 // 2 ** (2 * n)) for n in range(many)]
    assert movement_of(dying).finding == "keeps"
    assert movement_of([*dying[:-1], Checked(9, 100, 0)]).finding == ""
    assert movement_of([]).words == "no recheck yet"
    assert movement_of([Checked(1, 0, 0)]).words == "no recheck yet"
