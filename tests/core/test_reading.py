"""Lines of manuals in their usual forms, and what is not read."""

from __future__ import annotations

import re
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from orthotorq.core.errors import OrthotorqError
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.editing import edit
from orthotorq.core.planning.from_manual import propose
from orthotorq.core.planning.templates import begun_plan, blank_plan
from orthotorq.core.reading import read_line
from orthotorq.core.reading.line import LONGEST
from orthotorq.core.reading.words import english
from orthotorq.core.sums import answer
from orthotorq.core.tables import lubricants

FIGURE = ("torque_Nm", "low_Nm", "high_Nm", "pair_agrees", "angle_deg")
F = tuple[float | None, float | None, float | None, bool | None, float | None]


def torque(value: float, pair: bool | None = None, angle: float | None = None) -> F:
    return value, None, None, pair, angle


def span(
    low: float | None, high: float | None, pair: bool | None = None, middle: float | None = None
) -> F:
    return middle, low, high, pair, None


FTLB = 1.3558179483314
#: line -> what it says; what is not named is not said
LINES: list[tuple[str, dict[str, Any]]] = [
    ("Tighten the nuts to 110 Nm in a star pattern.", {"figures": [torque(110)], "order": "star"}),
    (
        "Torque to 140 ft-lbs (190 Nm) in three steps in a cross pattern, recheck after 24 h",
        {
            "figures": [torque(140 * FTLB, True)],
            "percents": [33.3, 66.7, 100],
            "order": "cross",
            "recheck": [(24, "h", None)],
        },
    ),
    ("Tighten to 45 N·m + 90°", {"figures": [torque(45, angle=90)]}),
    ("Torque 70 Nm, then turn a further 60 degrees", {"figures": [torque(70, angle=60)]}),
    ("Torque 20Nm+120°+60°", {"figures": [torque(20, angle=180)]}),
    ("Snug, then 1/4 turn", {"figures": [(None, None, None, None, 90.0)]}),
    ("Tighten hand tight, then half a turn", {"figures": [(None, None, None, None, 180.0)]}),
    ("Tighten to 50 Nm plus 2 flats", {"figures": [torque(50, angle=120)]}),
    ("35 N.m (26 lbf.ft) + 45° ± 5°", {"figures": [torque(35, True, 45)]}),
    (
        "Tighten to 30 %, 70 % and 100 % of 480 Nm crosswise, then one round clockwise at 100 %.",
        {
            "figures": [torque(480)],
            "percents": [30, 70, 100],
            "order": "cross",
            "check_round": True,
        },
    ),
    ("Torque to 30-70-100 % in a cross pattern", {"percents": [30, 70, 100], "order": "cross"}),
    (
        "Torque to 90 Nm in 3 stages (40%, 70%, 100%)",
        {"figures": [torque(90)], "percents": [40, 70, 100]},
    ),
    (
        "Tighten in two passes: first to 50 %, then to 100 % of 320 Nm, star order",
        {"figures": [torque(320)], "percents": [50, 100], "order": "star"},
    ),
    (
        (
            "Torque in a criss-cross sequence to half torque, then full torque of 90 Nm; check "
            "all nuts in a circle"
        ),
        {"figures": [torque(90)], "percents": [50, 100], "order": "cross", "check_round": True},
    ),
    (
        "Tighten to one third, two thirds and full torque (240 Nm)",
        {"figures": [torque(240)], "percents": [33.3, 66.7, 100]},
    ),
    (
        "Half of full torque, then full torque 110 Nm",
        {"figures": [torque(110)], "percents": [50, 100]},
    ),
    (
        (
            "Tighten evenly in 4 equal steps to 200 Nm, crosswise, finish with one pass around "
            "the flange"
        ),
        {
            "figures": [torque(200)],
            "percents": [25, 50, 75, 100],
            "order": "cross",
            "check_round": True,
        },
    ),
    (
        "Tighten all bolts finger tight, then torque in a cross pattern to 30%, then 60%, "
        "then 100% of 410 Nm, and finally go "
        "around once more clockwise at 100%",
        {
            "figures": [torque(410)],
            "percents": [30, 60, 100],
            "order": "cross",
            "check_round": True,
        },
    ),
    ("65-75 ft-lb (88-102 Nm)", {"figures": [span(65 * FTLB, 75 * FTLB, True)]}),
    ("Tighten to 54–62 N·m (5.5-6.3 kgf·m, 40–46 ft-lb)", {"figures": [span(54, 62, True)]}),
    ("Torque the M20 studs to 250 to 280 N·m", {"figures": [span(250, 280)]}),
    ("Use between 90 and 110 N·m, clockwise", {"figures": [span(90, 110)], "order": "circle"}),
    ("100 Nm ± 10 %", {"figures": [span(90, 110, None, 100)]}),
    ("100 ± 5 Nm", {"figures": [span(95, 105, None, 100)]}),
    ("Tighten to 12 Nm ±1", {"figures": [span(11, 13, None, 12)]}),
    ("12 Nm +/- 1.5 Nm in a star", {"figures": [span(10.5, 13.5, None, 12)], "order": "star"}),
    ("40 Nm +5/-0", {"figures": [span(40, 45, None, 40)]}),
    ("Do not exceed 120 Nm", {"figures": [span(None, 120)]}),
    ("Torque to 130 Nm max", {"figures": [span(None, 130)]}),
    ("Tighten to max. 30 Nm", {"figures": [span(None, 30)]}),
    ("At least 40 Nm", {"figures": [span(40, None)]}),
    ("Min. 70 Nm, max. 80 Nm", {"figures": [span(70, 80)]}),
    ("Torque to 1 250 Nm", {"figures": [torque(1250)]}),
    ("Tighten to 12,5 Nm", {"figures": [torque(12.5)]}),
    ("0.5 kNm", {"figures": [torque(500)]}),
    ("Torque: 12 in-lb", {"figures": [torque(12 * FTLB / 12)]}),
    ("Tighten in sequence to 90 in. lbs.", {"figures": [torque(90 * FTLB / 12)]}),
    ("Torque nuts to 100 lb.ft", {"figures": [torque(100 * FTLB)]}),
    ("Tighten to 40 foot pounds", {"figures": [torque(40 * FTLB)]}),
    ("300 kg·cm", {"figures": [torque(29.41995)]}),
    ("5 mkg", {"figures": [torque(49.03325)]}),
    ("90 N m", {"figures": [torque(90)]}),
    ("Tighten cap screws to 10 kgf·m (98 N·m, 72 ft·lbf)", {"figures": [torque(98.0665, True)]}),
    ("140 lb-ft [190 N-m]", {"figures": [torque(140 * FTLB, True)]}),
    ("Tighten to 50Nm/37lb-ft", {"figures": [torque(50, True)]}),
    ("Torque to 250 N·m (200 ft·lbf)", {"figures": [torque(250, False)]}),
    (
        "Tighten dry to 85 ft. lbs. (115 N.m)",
        {"figures": [torque(85 * FTLB, True)], "lubricant": "dry-steel"},
    ),
    (
        "Tighten to 20 Nm, then 40 Nm, and finally 60 Nm",
        {"figures": [torque(60)], "percents": [33.3, 66.7, 100]},
    ),
    (
        "1. Tighten to 40 Nm. 2. Tighten to 80 Nm. 3. Turn 90°.",
        {"figures": [torque(80, angle=90)], "percents": [50, 100]},
    ),
    (
        "Retorque after 50 km and again after 500 km, then every 5000 km.",
        {"recheck": [(50, "km", None), (500, "km", None), (None, "km", 5000)]},
    ),
    (
        "After the first 50 km retighten all wheel nuts to 600 Nm.",
        {"figures": [torque(600)], "recheck": [(50, "km", None)]},
    ),
    (
        "Recheck torque every 500 h or 12 months",
        {"recheck": [(None, "h", 500), (None, "months", 12)]},
    ),
    (
        "Re-torque at 30, 60 and 90 km",
        {"recheck": [(30, "km", None), (60, "km", None), (90, "km", None)]},
    ),
    (
        "Tighten lug nuts to 80-90 ft.lbs.; recheck after 25 miles",
        {"figures": [span(80 * FTLB, 90 * FTLB)], "recheck": [(25, "mi", None)]},
    ),
    ("Check monthly.", {"recheck": [(None, "months", 1)]}),
    ("Check after one week", {"recheck": [(1, "weeks", None)]}),
    ("Recheck after 50 to 100 miles", {"recheck": [(50, "mi", None)]}),
    (
        "Recheck at 10 h, 50 h and every 250 h thereafter",
        {"recheck": [(10, "h", None), (50, "h", None), (None, "h", 250)]},
    ),
    ("Inspect after 100 cycles", {"recheck": [(100, "cycles", None)]}),
    ("Retorque after the first 8 operating hours", {"recheck": [(8, "h", None)]}),
    (
        "Lubricate the threads with moly paste and tighten to 355 lbf ft",
        {"figures": [torque(355 * FTLB)], "lubricant": "moly-paste"},
    ),
    ("Oiled threads: 45 kgm", {"figures": [torque(441.29925)], "lubricant": "light-oil"}),
    (
        "Apply copper anti-seize. Tighten to 300 Nm",
        {"figures": [torque(300)], "lubricant": "copper-anti-seize"},
    ),
    ("Do not grease; 50 Nm", {"figures": [torque(50)], "lubricant": "dry-steel"}),
    (
        "Torque to 200 Nm (148 ft-lb). Repeat at full torque until no nut turns.",
        {"figures": [torque(200, True)], "check_round": True},
    ),
    ("Tighten 8 bolts M12 to 80 newton metres", {"figures": [torque(80)]}),
    ("Tighten from the middle out to 60 Nm", {"figures": [torque(60)], "order": "row"}),
]
#: line -> words that stay, and the torques that were read all the same
LEFT = [
    ("Tighten to 1,250 Nm", ["1,250", "Nm"], []),
    ("Torque 45 lbs", ["45", "lbs"], []),
    ("Torque 0 Nm", ["0", "Nm"], []),
    ("85 to 95° after 40 Nm", ["85", "95°", "after"], [40]),
    ("Torque at 20 °C to 50 Nm when cold", ["20", "°C", "cold"], [50]),
    ("Tighten 1/4 turn at a time", ["1/4"], []),
    ("In increments of 50 Nm up to 200 Nm", ["50", "Nm"], [200]),
    ("Lightly oiled, or with moly paste", ["Lightly", "oiled", "moly", "paste"], []),
    ("Retorque after 1,000 km", ["Retorque", "after", "1,000", "km"], []),
    ("Torque to 60 Nm at 120 %", ["120", "%"], [60]),
    ("A 60° cone seat, 90 Nm", ["60°", "cone", "seat"], [90]),
    ("The brine pump hums", ["brine", "pump", "hums"], []),
]


def said(line: str) -> dict[str, Any]:
    return answer("line", {"text": line}).figures


@pytest.mark.parametrize(("line", "wanted"), LINES, ids=[line for line, _ in LINES])
def test_a_line_in_a_usual_form_is_read_whole(line: str, wanted: dict[str, Any]) -> None:
    found = said(line)
    figures = [tuple(f[k] for k in FIGURE) for f in found["figures"]]
    assert [
        tuple(None if v is None else pytest.approx(v, rel=1e-6) for v in f)
        for f in wanted.get("figures", [])
    ] == figures
    assert found["percents"] == pytest.approx(wanted.get("percents", []), abs=0.05)
    assert found["order"] == wanted.get("order")
    assert found["check_round"] == wanted.get("check_round", False)
    assert [tuple(r.values()) for r in found["recheck"]] == wanted.get("recheck", [])
    assert found["lubricant"] == wanted.get("lubricant")
    assert found["left"] == []


@pytest.mark.parametrize(("line", "left", "torques"), LEFT, ids=[line for line, _, _ in LEFT])
def test_what_is_not_understood_is_said_and_never_guessed(
    line: str, left: list[str], torques: list[float]
) -> None:
    found = said(line)
    assert [word for word in found["left"] if word in left] == left
    assert [f["torque_Nm"] for f in found["figures"]] == torques
    assert found["percents"] == [] and found["recheck"] == [] and found["lubricant"] is None
    assert all(f["angle_deg"] is None for f in found["figures"])


def test_lubricated_without_its_compound_is_left_beside_one_that_has_one() -> None:
    found = read_line("50 Nm with moly paste, 38 Nm lubricated")
    assert [f.lubricant for f in found.figures] == ["moly-paste", None] and found.left == (
        "lubricated",
    )


def test_every_compound_that_is_read_stands_in_the_table() -> None:
    assert set(english()["lubricants"]) <= set(lubricants.table())


def test_the_words_of_every_part_stand_where_they_are_said_to_stand() -> None:
    line = read_line("Torque to 140 ft-lbs (190 Nm) crosswise, recheck after 24 h")
    words = {
        p.about: "Torque to 140 ft-lbs (190 Nm) crosswise, recheck after 24 h"[p.start : p.end]
        for p in line.parts
    }
    assert words["figure"] == "140 ft-lbs (190 Nm)" and words["order"] == "crosswise"


@settings(max_examples=150, deadline=None)
@given(
    st.sampled_from(
        [
            "M8",
            "M20x1.5",
            "M16 x 60",
            "1/2-13 UNC",
            "3/4-10",
            "7/8 in. studs",
            "8 x M12",
            "M24x3 x 90",
        ]
    ),
    st.sampled_from(
        [
            "",
            "class 8.8",
            "grade 5",
            "10.9",
            "B7",
            "A2-70",
            "clause 7.4",
            "item 12",
            "all 8",
            "19 mm socket",
        ]
    ),
    st.sampled_from(["to", ":", "at", ", torque", "- torque"]),
    st.integers(40, 900),
    st.sampled_from(["Nm", "ft-lb", "N·m"]),
)
def test_no_digit_of_a_size_a_grade_or_a_clause_gets_into_a_torque(
    size: str, more: str, how: str, value: int, unit: str
) -> None:
    found = read_line(f"{size} {more} {how} {value} {unit}")
    assert [f.texts for f in found.figures] == [
        (f"{value} {'ft·lbf' if unit == 'ft-lb' else 'N·m'}",)
    ]
    assert found.figures[0].low is None and found.figures[0].high is None and not found.asked


def test_a_class_that_may_be_the_low_end_of_a_range_is_asked_back() -> None:
    found = read_line("M6 bolts 8.8 to 10 Nm")
    assert found.figures == () and found.asked[0].readings == ("8.8 N·m to 10 N·m", "10 N·m")
    assert {"8.8", "10"} <= set(found.left)
    items = propose(blank_plan("wheel", "New", "a/b"), "bolts", "Tighten to 1,250 Nm").items
    assert [i.params["torque"] for i in items] == ["1.25 N·m", "1250 N·m"] and items[
        0
    ].either == items[1].either == "1,250 Nm"


def test_of_a_list_by_size_only_the_figure_of_these_bolts_is_taken() -> None:
    document = blank_plan("wheel", "New", "a/b")
    document["groups"][0]["fastener"]["thread"] = "M20"
    items = propose(document, "bolts", "M16: 200 Nm; M20: 390 Nm; M24: 660 Nm").items
    assert [i.act for i in items] == ["", "say_source", ""] and items[1].params[
        "torque"
    ] == "390 N·m"
    assert "for M16, these bolts are M20" in items[0].says


def test_what_is_done_between_the_pulls_goes_into_the_passes() -> None:
    document = begun_plan("wheel", "Fit it", "a/b")
    group = document["groups"][0]["id"]
    count = len(compute(document).groups[0].places)
    order = "-".join(map(str, [*range(1, count + 1, 2), *range(2, count + 1, 2)]))
    line = f"New nuts, sequence {order}, 60 Nm + 2 x 45°; back off 90°; wait 10 minutes"
    for item in propose(document, group, line).items:
        if item.act:
            document, _ = edit(document, item.act, dict(item.params))
    stage = next(
        s for s in document["stages"] if any(p.get("do") == "wait" for p in s.get("passes", []))
    )
    turns = [(p["do"], p.get("turn")) for p in stage["passes"] if p["do"] in ("angle", "back_off")]
    assert turns == [("angle", "45 deg"), ("angle", "45 deg"), ("back_off", "90 deg")]
    assert document["groups"][0]["fastener"]["single_use"]
    assert {p["order"]["kind"] for p in stage["passes"] if p["do"] in ("torque", "angle")} == {
        "custom"
    }


@pytest.mark.parametrize("denial", ["Do not", "Never", "Must not"])
@pytest.mark.parametrize(
    "what",
    [
        "tighten in a star pattern",
        "turn a further 90°",
        "use moly paste",
        "back off 1/4 turn",
        "tighten to 60 Nm",
        "use new bolts",
    ],
)
def test_what_is_denied_is_not_read(denial: str, what: str) -> None:
    found = read_line(f"{denial} {what}")
    assert (found.figures, found.order, found.lubricant, found.back_off, found.new_fasteners) == (
        (),
        None,
        None,
        None,
        False,
    )
    assert denial.split()[-1].lower() in [word.lower() for word in found.left]


@pytest.mark.parametrize(
    "piece",
    [
        "1 ",
        "1-",
        "1, ",
        "1/2-",
        "and 1 ",
        "1 and 1 then ",
        "1 % ",
        "1 % and ",
        "M20: 1 ",
        "1 Nm, ",
        "1° ",
        "new ",
        "not ",
        "bolts 1 ",
        "iso-",
        "din iso ",
        "1.1.1.",
        "section 1 ",
        "sequence 1 ",
        "back off ",
        "recheck after 1 km ",
        "\n1 ",
        "(",
    ],
)
def test_a_long_line_of_one_piece_is_read_to_its_end(piece: str) -> None:
    """A pattern that tries every way to split it would never come back."""
    text = (piece * LONGEST)[:LONGEST]
    assert read_line(text) is not None
    with pytest.raises(OrthotorqError, match="at most 4000"):
        read_line(text + "1")


@given(
    st.text(
        alphabet=st.sampled_from("0123456789.,%°±+-–/()[] NmftlbkhcrossTurnaéİß\n;:\"'"),
        max_size=80,
    )
)
def test_any_text_is_read_without_a_fault_and_nothing_of_it_is_lost(text: str) -> None:
    try:
        found = said(text)
    except OrthotorqError:
        assert not text.strip()
        return
    for figure in found["figures"]:
        assert any(figure[k] is not None for k in (*FIGURE, "percents_of_yield"))
    for number in found["left"]:
        assert re.sub(r"\s", "", number) in re.sub(r"\s", "", text)
