"""The one rule of what stops: the typical value, the far end of a typical band, the end of a
measured band."""

from __future__ import annotations

from typing import Any

import pytest

from orthotorq.core.forms.result import FindingOut
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.templates import blank_plan
from tests.plans import small

#: torques at friction 0.12 and 90 % of yield, worked out by hand from the stress area: what the
#: trade pulls every day
EVERY_DAY = {
    "8.8": {"M8": 24, "M10": 48, "M12": 83, "M16": 205, "M20": 410, "M24": 705},
    "10.9": {"M8": 36, "M10": 70, "M12": 122, "M16": 300, "M20": 585, "M24": 1010},
    "12.9": {"M8": 42, "M10": 82, "M12": 143, "M16": 350, "M20": 685, "M24": 1180},
}
#: torque and load of one compound on a rig: with a band that is as wide as a typical one
TESTS = [
    "118 N·m, 45 kN",
    "132 N·m, 50 kN",
    "120 N·m, 51 kN",
    "125 N·m, 49 kN",
    "121 N·m, 50 kN",
    "140 N·m, 50.5 kN",
]


def stops(document: dict[str, Any]) -> list[FindingOut]:
    return [
        f
        for f in compute(document).findings
        if f.severity == "stop" and f.where.startswith("groups/")
    ]


@pytest.mark.parametrize(
    ("grade", "thread", "torque"),
    [(grade, thread, torque) for grade, row in EVERY_DAY.items() for thread, torque in row.items()],
)
def test_what_the_trade_pulls_every_day_is_not_stopped(
    grade: str, thread: str, torque: int
) -> None:
    document = blank_plan("machine_mount", "Mount", "a/b")
    group, size = document["groups"][0], int(thread[1:])
    group["fastener"] = {
        "thread": thread,
        "grade": f"ISO 898-1 {grade}",
        "head": "hex",
        "condition": "new",
    }
    group |= {
        "friction": {"lubricant": "light-oil"},
        "limits": {},
        "into": {"kind": "nut"},
        "stack": [
            {"material": "carbon steel", "thickness": f"{3 * size} mm", "outside": f"{5 * size} mm"}
        ],
    }
    document |= {
        "sources": [],
        "targets": {group["id"]: {"kind": "torque", "torque": f"{torque} N·m"}},
    }
    assert stops(document) == []


def of(document: dict[str, Any], code: str) -> FindingOut:
    return next(f for f in compute(document).findings if f.code == code)


def test_an_end_of_a_band_stops_only_where_it_was_measured_and_the_planner_may_waive_it() -> None:
    document = small()
    document["targets"]["b"]["torque"] = "210 N·m"
    typical = of(document, "may_yield")
    assert (typical.severity, typical.waivable) == ("caution", True)
    band = [0.1, 0.12, 0.14]
    document["groups"][0]["friction"] = {
        "lubricant": "light-oil",
        "mu_thread": band,
        "mu_bearing": band,
    }
    assert of(document, "may_yield").severity == "caution"
    document["definitions"] = {
        "lubricants": {
            "paste": {
                "name": "Grey paste",
                "tests": [{"id": "a", "thread": "M16", "readings": TESTS}],
            }
        }
    }
    document["groups"][0]["friction"] = {"lubricant": "paste"}
    measured = of(document, "may_yield")
    assert (measured.severity, measured.waivable, measured.waived) == ("stop", True, None)
    document["waivers"] = [
        {
            "finding": "may_yield",
            "where": measured.where,
            "reason": "one bolt of each lot is measured",
        }
    ]
    assert of(document, "may_yield").waived == "one bolt of each lot is measured"


def test_what_fails_at_the_typical_value_is_a_stop_that_nobody_waives() -> None:
    document = small()
    document["targets"]["b"]["torque"] = "400 N·m"
    found = of(document, "yields")
    assert (found.severity, found.waivable) == ("stop", False)


def test_a_pressure_that_only_a_table_forbids_stops_where_the_part_itself_is_entered() -> None:
    document = small()
    document["targets"]["b"]["torque"] = "140 N·m"
    document["groups"][0]["stack"] = [{"material": "cast aluminium", "thickness": "60 mm"}]
    assert of(document, "presses_in_by_table").severity == "caution"
    document["groups"][0]["stack"][0]["limit"] = "200 MPa"
    assert of(document, "presses_in").severity == "stop"
