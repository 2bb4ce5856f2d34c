"""Days and times at the place: its zone, the device's locale, times as typed."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import UTC, date, datetime

import pytest

from orthotorq.local_time import (
    day_text,
    local_day,
    moment_text,
    place_zone,
    read_time,
    use_locale,
    zone_name,
)
from orthotorq.services.context import Ctx
from orthotorq.settings import MissingSetting

#: half an hour before midnight there, and after it in Tokyo
EVENING = datetime(2028, 2, 28, 16, 30, tzinfo=UTC)


@pytest.fixture
def zone(monkeypatch: pytest.MonkeyPatch, request: pytest.FixtureRequest) -> Iterator[str]:
    monkeypatch.setenv("ORTHOTORQ_TIME_ZONE", request.param)
    place_zone.cache_clear()
    yield request.param
    place_zone.cache_clear()
    use_locale([])


@pytest.mark.parametrize(
    ("zone", "day", "words"),
    [
        ("UTC", date(2028, 2, 28), "28 Feb 2028, 16:30 UTC"),
        ("Asia/Tokyo", date(2028, 2, 29), "29 Feb 2028, 01:30 JST"),
        ("America/Halifax", date(2028, 2, 28), "28 Feb 2028, 12:30 AST"),
    ],
    indirect=["zone"],
)
def test_a_time_is_told_with_the_day_of_the_place(zone: str, day: date, words: str) -> None:
    assert (zone_name(), local_day(EVENING), moment_text(EVENING)) == (zone, day, words)
    assert Ctx(None, EVENING).today == day  # type: ignore[arg-type]


@pytest.mark.parametrize("zone", ["Asia/Tokyo"], indirect=True)
def test_a_time_without_a_zone_is_one_of_the_place(zone: str) -> None:
    assert read_time("2028-02-29 01:30").astimezone(UTC) == EVENING
    assert read_time("2028-02-28T16:30Z") == EVENING
    with pytest.raises(ValueError, match="isoformat"):
        read_time("this morning")


@pytest.mark.parametrize("zone", ["UTC"], indirect=True)
@pytest.mark.parametrize(
    ("wanted", "words"),
    [
        (["en-GB"], "28 Feb 2028"),
        (["en-US", "en"], "Feb 28, 2028"),
        (["de-DE"], "28. Feb. 2028"),
        (["xx-none", "sv-SE"], "28 feb. 2028"),
        (["*"], "28 Feb 2028"),
        ([], "28 Feb 2028"),
    ],
)
def test_a_day_is_written_as_the_device_writes_it(zone: str, wanted: list[str], words: str) -> None:
    use_locale(["ja"])
    use_locale(wanted)
    assert day_text(EVENING) == words and day_text(date(2028, 2, 28)) == words


@pytest.mark.parametrize("zone", ["Mars/Crater", "../etc/passwd"], indirect=True)
def test_a_zone_that_is_none_is_refused_with_its_setting(zone: str) -> None:
    with pytest.raises(MissingSetting, match=r"ORTHOTORQ_TIME_ZONE is “.*Asia/Tokyo"):
        place_zone()
