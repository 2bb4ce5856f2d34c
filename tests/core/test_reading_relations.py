"""Readings that relate: zero, before and after, the same place several times, spread, change, and
those without a limit."""

from __future__ import annotations

from typing import Any

import pytest

from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.planning.compute import compute
from orthotorq.core.running import record_of
from tests.core.play import Play
from tests.plans import COLD, small


def with_checks(
    *checks: dict[str, Any], before: list[dict[str, Any]] | None = None
) -> dict[str, Any]:
    """The least plan, measured after it is tightened, and before it where that is wanted."""
    document = small()
    if before is not None:
        document["stages"].insert(
            0, {"id": "first", "kind": "measure", "condition": COLD, "checks": before}
        )
    document["stages"].append(
        {"id": "m", "kind": "measure", "condition": COLD, "checks": list(checks)}
    )
    return document


def measuring(
    *checks: dict[str, Any], before: list[dict[str, Any]] | None = None, **readings: str
) -> Play:
    """A run that has come to its last measurements; `first` is what is read before."""
    play = Play(with_checks(*checks, before=before))
    while not (play.step.stage_id == "m" and play.step.kind in ("reading", "item")):
        if play.step.kind == "reading":
            play.answer("value", value=readings["first"])
        else:
            play.usual()
    return play


def read(play: Play, *values: str) -> None:
    for value in values:
        play.answer("value", value=value)


RUN_OUT = {"id": "out", "what": "Run-out", "gauge": "dial gauge", "limit": {"max": "0.4 mm"}}


def test_a_gauge_is_set_to_zero_before_it_is_read() -> None:
    play = measuring({**RUN_OUT, "zero": True})
    assert (play.step.kind, play.step.text) == (
        "item",
        "Dial gauge set to zero for “Run-out”",
    )
    play.answer("done")
    assert (play.step.kind, play.step.text) == ("reading", "Run-out")


def test_the_same_place_is_read_several_times_and_the_readings_must_agree() -> None:
    play = measuring({**RUN_OUT, "repeats": {"count": 3, "within": "0.05 mm"}})
    assert play.step.hint == "Reading 1 of 3 at this place."
    assert play.step.limit_text == "at most 0.4 mm; no more than 0.05 mm between the readings"
    first = play.step.step
    read(play, "0.20 mm", "0.22 mm")
    assert play.step.step == first.replace("/k1", "/k3") and play.step.hint.startswith(
        "Reading 3 of 3"
    )
    read(play, "0.31 mm")
    assert play.step.text.startswith("Run-out: the readings are 0.11 mm apart, more than 0.05 mm.")
    assert [b.answer for b in play.step.buttons] == ["back", "repair", "replace", "accept"]
    play.answer("back")
    play.answer("done")
    assert play.step.hint == "Reading 1 of 3 at this place.", (
        "all of them again, not the last alone"
    )
    read(play, "0.20 mm", "0.22 mm", "0.24 mm")
    assert play.state.status == "finished" and play.codes == []


BEFORE = {"id": "stand", "what": "Stand-off", "reads": "length"}
AFTER = {
    "id": "after",
    "what": "Stand-off after it",
    "change": {"since": "first/stand", "limit": {"max": "0.1 mm"}},
}


@pytest.mark.parametrize(
    ("after", "words"),
    [("12.08 mm", ""), ("12.15 mm", "it changed by 0.15 mm from 12 mm, not by at most 0.1 mm")],
)
def test_a_change_is_limited_and_not_the_value(after: str, words: str) -> None:
    play = measuring(AFTER, before=[BEFORE], first="12.00 mm")
    assert play.step.hint == "Before: 12 mm."
    assert play.step.limit_text == "changed by at most 0.1 mm"
    read(play, after)
    if words:
        assert words in play.step.text
        play.answer("accept", reason="shaft still warm")
        assert play.codes == ["changed"] and play.state.failed
    else:
        assert play.state.status == "finished" and not play.state.failed


def test_a_change_from_a_reading_that_was_skipped_is_not_known() -> None:
    play = Play(with_checks(AFTER, before=[BEFORE]))
    while play.step.stage_id != "m" or play.step.kind != "reading":
        if play.step.kind == "reading":
            play.answer("skip", reason="gauge broken")
        else:
            play.usual()
    read(play, "12 mm")
    assert "there is no earlier reading to compare with" in play.step.text


def test_the_largest_and_the_smallest_of_all_places_are_held_together() -> None:
    gap = {
        "id": "gap",
        "what": "Gap",
        "per": "b",
        "limit": {"min": "1 mm", "max": "2 mm"},
        "spread": "0.2 mm",
    }
    play = measuring(gap)
    read(play, "1.40 mm", "1.45 mm", "1.62 mm", "1.41 mm")
    assert play.step.text.startswith(
        "Bolt 4, Gap: 0.22 mm between the smallest and the largest, more than 0.2 mm."
    )
    play.answer("back")
    play.answer("done")
    read(play, "1.40 mm", "1.45 mm", "1.5 mm", "1.41 mm")
    assert play.state.status == "finished" and play.codes == []


def test_a_value_without_a_limit_is_kept_and_stops_nothing() -> None:
    play = measuring({"id": "temp", "what": "Bearing", "reads": "temperature"})
    assert play.step.unit == "°C" and play.step.limit_text is None
    read(play, "71 °C")
    assert play.state.status == "finished" and play.codes == []


def test_the_record_draws_readings_between_their_limits() -> None:
    gap = {"id": "gap", "what": "Gap", "per": "b", "limit": {"min": "1 mm", "max": "2 mm"}}
    play = measuring(gap, AFTER, before=[BEFORE], first="12.00 mm")
    read(play, "1.40 mm", "1.45 mm", "1.62 mm", "1.41 mm", "12.05 mm")
    charts = record_of(play.result, play.facts).readings
    assert [(c.title, c.unit, c.least, c.most) for c in charts] == [
        ("Gap", "mm", 1.0, 2.0),
        ("Stand-off after it", "mm", None, None),
    ]
    assert [(b.label, b.value) for b in charts[0].bars] == [
        ("1", 1.4),
        ("2", 1.45),
        ("3", 1.62),
        ("4", 1.41),
    ]
    assert [(b.before, b.value) for b in charts[1].bars] == [(True, 12.0), (False, 12.05)]


@pytest.mark.parametrize(
    ("check", "where"),
    [
        ({"id": "x", "zero": True}, "stages/1/checks/0/zero"),
        ({"id": "x", "repeats": {"count": 3}}, "stages/1/checks/0/repeats"),
        ({"id": "x", "spread": "0.2 mm", "limit": {"max": "3 N·m"}}, "stages/1/checks/0"),
        (
            {"id": "x", "reads": "length", "change": {"since": "t/gone"}},
            "stages/1/checks/0/change/since",
        ),
        (
            {"id": "x", "reads": "length", "change": {"since": "m/x"}},
            "stages/1/checks/0/change/since",
        ),
        (
            {"id": "x", "reads": "length", "repeats": {"count": 1}},
            "stages/1/checks/0/repeats/count",
        ),
        ({"id": "x", "reads": "weight"}, "stages/1/checks/0/reads"),
    ],
)
def test_what_does_not_fit_is_named_at_its_field(check: dict[str, Any], where: str) -> None:
    with pytest.raises(DocumentErrors) as found:
        compute(with_checks(check))
    assert [error.pointer() for error in found.value.errors] == [where]


def test_a_reading_keeps_all_its_digits() -> None:
    first = {"id": "stand", "what": "Shaft", "reads": "length"}
    after = {
        "id": "after",
        "what": "Shaft after it",
        "change": {"since": "first/stand", "limit": {"max": "0.01 mm"}},
    }
    play = measuring(after, before=[first], first="130.045 mm")
    assert play.step.hint == "Before: 130.045 mm."
    read(play, "130.065 mm")
    assert "it changed by 0.02 mm from 130.045 mm" in play.step.text


def test_what_was_left_as_it_is_is_held_against_nothing_and_drawn() -> None:
    play = measuring({**RUN_OUT, "repeats": {"count": 2, "within": "0.05 mm"}})
    read(play, "2 mm")
    play.answer("accept", reason="bent, a new one is ordered")
    read(play, "0.2 mm")
    assert play.codes == ["out_of_limit"]
    assert [b.value for b in record_of(play.result, play.facts).readings[0].bars] == [2.0, 0.2]
