"""Which source a figure follows, and what is said where it follows none."""

from __future__ import annotations

import copy
from typing import Any

import pytest

from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.planning.compute import compute
from tests.core.loaded_plans import (
    PAIR,
    Raw,
    angled,
    codes,
    found,
    group,
    load,
    plan,
)


@pytest.mark.parametrize(
    ("torque", "angle", "own"),
    [("60 N·m", "20 deg", False), ("40 N·m", "20 deg", True), ("60 N·m", "25 deg", True)],
)
def test_a_figure_that_is_not_what_its_source_says_is_the_planners_own(
    torque: str, angle: str, own: bool
) -> None:
    document = angled(torque, angle)
    document["sources"] = [
        {"id": "s", "by": "equipment maker", "says": {"torque": ["60 N·m"], "angle": "20 deg"}}
    ]
    document["targets"]["b"]["source"] = "s"
    target = group(document).target
    assert (target.source is None) is own and ("own_figure" in codes(document)) is own
    if own:
        assert (
            "planner's own" in target.why and "60 N·m + 20°" in found(document, "own_figure").text
        )


@pytest.mark.parametrize(
    ("spelled", "thread", "grade"),
    [
        ("8.8", "M16", "ISO 898-1 8.8"),
        ("ISO 898-1:2013 8.8", "m16 x 2", "8.8"),
        ("SAE 5", "1-8", "SAE J429 5"),
        ("SAE J429 grade 5", "1-8 UN", "grade 5"),
    ],
)
def test_what_a_source_is_valid_for_is_compared_by_what_is_meant(
    spelled: str, thread: str, grade: str
) -> None:
    own = "M16" if thread.lower().startswith("m") else "1-8 UNC"
    document = plan({"kind": "ranked"})
    document["groups"][0]["fastener"].update(thread=own, grade=grade)
    document["sources"] = [
        {
            "id": "m",
            "by": "equipment maker",
            "says": {"torque": ["120 N·m"]},
            "valid_for": {"thread": thread, "grade": spelled},
        },
        {"id": "r", "by": "site rule", "says": {"torque": ["160 N·m"]}},
    ]
    assert group(document).target.source == "m"


def test_a_struck_source_keeps_showing_what_it_says() -> None:
    document = plan({"kind": "torque", "source": "m"})
    document["sources"] = [
        {
            "id": "m",
            "by": "equipment maker",
            "says": {"torque": ["120 N·m", "88.5 ft·lbf"]},
            "valid_for": {"lubricant": "grease"},
        }
    ]
    shown = group(document).sources[0]
    assert shown.verdict == "struck" and "120 N·m" in shown.says and shown.torque_Nm == 120
    assert found(document, "struck_source_taken").severity == "stop"


def test_ranges_conflict_by_what_they_leave_open_and_equals_are_called_equal() -> None:
    document = plan({"kind": "ranked"})
    document["sources"] = [
        {"id": "a", "by": "gasket maker", "says": {"range": ["100 N·m", "140 N·m"]}},
        {"id": "b", "by": "part maker", "says": {"range": ["135 N·m", "180 N·m"]}},
    ]
    assert "source_conflict" not in codes(document)
    document["sources"][1]["says"]["range"][0] = "160 N·m"
    assert "ranks the same" in found(document, "source_conflict").text
    # a figure inside the range of the source that ranks first is not against it
    document["targets"]["b"] = {"kind": "torque", "torque": "130 N·m"}
    assert not codes(document) & {"overruled", "overruled_without_reason"}
    assert "is taken" not in found(document, "source_range").text


def paired(*others: Raw, **more: Any) -> Raw:
    document = plan({"kind": "ranked"}, limits={"yield_fraction": 0.7})
    document["sources"] = [
        {"id": "m", "by": "equipment maker", "says": copy.deepcopy(PAIR), **more},
        *others,
    ]
    return document


def test_what_we_can_compute_decides_nothing_about_a_misprint() -> None:
    ours = {"id": "c", "by": "calculation", "says": {"yield_fraction": 0.7}}
    for document in (
        paired(),
        paired(ours),
        paired({"id": "p", "by": "standard", "says": {"preload": "44 kN"}}),
    ):
        stop = found(document, "pair_undecided")
        assert stop.severity == "stop" and not stop.waivable
        assert group(document).target.torque_Nm == 92
        assert "two digits of 86 ft·lbf changed places" in stop.text
        assert stop.text.count("of yield") == 2 and "1.27 times" in stop.text


@pytest.mark.parametrize(
    ("pair", "words"),
    [
        (["40 N·m", "40 kgf·m"], "kgf·m and N·m"),
        (["40 ft·lbf", "40 in·lbf"], "in·lbf"),
        (["40 N·m", "40 ft·lbf"], "the number of one unit"),
        (["40 N·m", "55 ft·lbf"], "ratio 1.86 times"),
    ],
)
def test_usual_slips_are_named(pair: list[str], words: str) -> None:
    document = paired()
    document["sources"][0]["says"]["torque"] = pair
    assert words in found(document, "pair_undecided").text


def test_other_sources_or_the_planner_decide_which_reading_holds() -> None:
    yard = {"id": "r", "by": "site rule", "says": {"torque": ["113 N·m"]}}
    assert group(paired(yard)).target.torque_Nm == pytest.approx(116.6, rel=1e-3)
    assert "site rule (113 N·m)" in found(paired(yard), "pair_mismatch").text
    # between the two, or on both sides, nobody is supported
    assert "pair_undecided" in codes(paired({**yard, "says": {"torque": ["103 N·m"]}}))
    assert "pair_undecided" in codes(
        paired(yard, {**yard, "id": "q", "says": {"torque": ["91 N·m"]}})
    )
    decided = paired(holds="second", because="letter of the maker")
    assert group(decided).target.torque_Nm == pytest.approx(116.6, rel=1e-3)
    assert "letter of the maker" in found(decided, "pair_decided").text
    with pytest.raises(DocumentErrors, match="why"):
        compute(paired(holds="second"))


def test_a_share_of_yield_in_a_source_stands_on_the_chosen_area() -> None:
    document = plan({"kind": "ranked"})
    document["sources"] = [{"id": "s", "by": "standard", "says": {"yield_fraction": 0.5}}]
    tensile = load(document).typical_N
    document["groups"][0]["limits"] = {"area": "root"}
    assert load(document).typical_N / tensile == pytest.approx(144.12 / 156.67, rel=1e-3)


@pytest.mark.parametrize(
    ("order", "rest"), [((0, 1, 2), "ranked"), ((2, 0, 1), "ranked"), ((1, 2, 0), "ranked")]
)
def test_the_order_of_sources_changes_nothing(order: tuple[int, ...], rest: str) -> None:
    sources = [
        {"id": "a", "by": "site rule", "says": {"torque": ["110 N·m"]}},
        {"id": "b", "by": "equipment maker", "says": copy.deepcopy(PAIR)},
        {"id": "c", "by": "code", "says": {"at_most": "150 N·m"}},
    ]
    document = plan({"kind": rest})
    document["sources"] = [sources[i] for i in order]
    found_ = group(document)
    assert found_.target.source == "b" and found_.target.torque_Nm == pytest.approx(116.6, rel=1e-3)
