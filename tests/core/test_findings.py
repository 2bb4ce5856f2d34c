"""Every finding of the table appears when it should and only then, and none repeats another."""

from __future__ import annotations

from collections.abc import Callable

import pytest

from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.findings import Finding
from orthotorq.demo.load import plan_document
from tests.core.finding_cases import AGAIN, CASES, STEEL, Doc, first
from tests.plans import COLD, small

#: findings that the small plan has as it stands
ALREADY = {
    Finding.FRICTION_TYPICAL,
    Finding.NO_EARLY_RECHECK,
    Finding.COMPOUND_NOT_APPLIED,
    Finding.STATE_NOT_BROUGHT,
    Finding.BARE_FACES,
}


def codes(document: Doc) -> set[str]:
    return {f.code for f in compute(document).findings}


@pytest.mark.parametrize(("code", "change"), CASES, ids=[c.value for c, _ in CASES])
def test_a_finding_appears_when_it_should(code: Finding, change: Callable[[Doc], None]) -> None:
    document = small()
    assert (code.value in codes(document)) is (code in ALREADY)
    change(document)
    if code is Finding.STAGE_ORDER:
        document["stages"].append({"id": "late", "kind": "mark", "what": "dot", "after": []})
    assert code.value in codes(document)


def test_every_finding_of_the_table_has_its_case() -> None:
    assert {c for c, _ in CASES} == set(Finding)


def test_what_is_typical_goes_away_when_it_is_entered() -> None:
    document = small()
    document["groups"][0]["friction"] = {"lubricant": "light-oil", "mu_thread": [0.11, 0.12, 0.13]}
    document["rechecks"] = [{"id": "r", "meter": "h", "at": ["24 h"]}]
    document["stages"].append({**AGAIN, "condition": COLD})
    assert codes(document) & {"friction_typical", "no_early_recheck"} == set()


def test_over_torque_rounds_may_come_back_to_the_target() -> None:
    document = plan_document("drum-locking-hub")
    assert "percent_falls" not in codes(document)


def test_a_waived_stop_keeps_its_reason_and_what_cannot_be_waived_stays() -> None:
    document = small()
    document["sources"] = [
        {"id": "s", "by": "standard", "says": {"torque": ["120 N·m"]}, "valid_for": {"count": 8}}
    ]
    document["targets"]["b"] = {"kind": "torque", "source": "s"}
    document["groups"][0]["limits"] = {"yield_fraction": 0.2}
    document["waivers"] = [
        {
            "finding": "struck_source_taken",
            "where": "targets/b",
            "reason": "the maker confirmed it",
        },
        {"finding": "over_share", "reason": "we like it"},
    ]
    found = {f.code: f for f in compute(document).findings}
    assert found["struck_source_taken"].waived == "the maker confirmed it"
    assert found["over_share"].waived is None


@pytest.mark.parametrize(
    "name", ["evaporator-cover", "rail-stop-anchors", "twin-drive-wheel", "pump-casing-studs"]
)
def test_no_finding_repeats_another(name: str) -> None:
    found = [(f.code, f.text) for f in compute(plan_document(name)).findings]
    assert len(found) == len(set(found))


def test_beyond_yield_no_load_is_given() -> None:
    document = small()
    document["groups"][0]["stack"] = STEEL
    document["targets"]["b"] = {"kind": "torque+angle", "torque": "60 N·m", "angle": "200 deg"}
    group = compute(document).groups[0]
    assert group.preload is not None
    assert group.preload.beyond_yield
    assert group.preload.high_N <= 640 * 156.67
    assert "over_share" not in codes(document)


ANGLE = {"id": "a", "do": "angle", "turn": "30 deg"}


@pytest.mark.parametrize(
    ("angle", "turns", "differs"),
    [
        ("60 deg", ["60 deg"], False),
        ("60 deg", ["30 deg", "30 deg"], False),
        ("1 flat", ["60 deg"], False),
        ("60 deg", ["30 deg"], True),
        ("60 deg", [], True),
        (None, ["30 deg"], True),
    ],
)
def test_the_angle_of_the_figure_is_the_one_that_is_turned(
    angle: str | None, turns: list[str], differs: bool
) -> None:
    document = small()
    document["groups"][0]["stack"] = STEEL
    if angle:
        document["targets"]["b"] = {"kind": "torque+angle", "torque": "60 N·m", "angle": angle}
    document["stages"][0]["passes"] += [
        {**ANGLE, "id": f"a{i}", "turn": turn} for i, turn in enumerate(turns)
    ]
    found = {f.code: f.text for f in compute(document).findings}
    assert (Finding.ANGLE_DIFFERS.value in found) is differs
    if differs and angle and turns:
        assert "60° after the snug torque, but the passes turn 30° in all" in found["angle_differs"]


def test_a_group_tightened_only_on_another_occasion_is_tightened() -> None:
    document = small()
    document["stages"][0]["in"] = ["recheck"]
    assert Finding.NEVER_TIGHTENED.value not in codes(document)


@pytest.mark.parametrize(
    ("friction", "applied", "found"),
    [
        ("light-oil", ["light-oil"], set()),
        ("light-oil", ["grease"], {"compound_differs"}),
        ("zinc-oil", ["engine-oil"], set()),
        ("zinc-oil", ["moly-paste"], {"compound_differs"}),
        ("dry-steel", ["light-oil"], {"compound_differs"}),
        ("light-oil", ["threadlocker-medium", "light-oil"], set()),
        ("grease", [], {"compound_not_applied"}),
        ("dry-steel", [], set()),
        ("wax", [], set()),
        (None, ["grease"], set()),
    ],
)
def test_what_is_put_on_is_what_the_figure_was_computed_for(
    friction: str | None, applied: list[str], found: set[str]
) -> None:
    document = small()
    document["groups"][0]["friction"] = (
        {"lubricant": friction} if friction else {"mu_thread": [0.1, 0.12, 0.14]}
    )
    document["stages"] = [
        *(
            {
                "id": f"p{i}",
                "kind": "apply",
                "what": one,
                "compound": one,
                "groups": ["b"],
                "faces": ["thread"],
            }
            for i, one in enumerate(applied)
        ),
        *document["stages"],
    ]
    assert codes(document) & {"compound_differs", "compound_not_applied"} == found


def test_a_compound_on_the_gasket_alone_is_no_lubricant_of_the_bolts() -> None:
    document = small()
    first(id="p", kind="apply", what="grease", compound="grease", groups=["b"], faces=["gasket"])(
        document
    )
    assert "compound_not_applied" in codes(document)
    assert "compound_differs" not in codes(document)


def test_a_bearing_nut_may_end_backed_off() -> None:
    document = small(1)
    document["groups"][0]["layout"] = {"kind": "points", "points": [["0 mm", "0 mm"]]}
    document["stages"][0]["passes"].append({"id": "o", "do": "back_off", "turn": "1 flat"})
    assert "ends_backed_off" in codes(document)
    document["joint_kind"] = "bearing_nut"
    assert "ends_backed_off" not in codes(document)


def test_of_three_sizes_that_are_tightened_together_the_odd_one_is_named() -> None:
    document = small()
    for name, torque in (("c", "115 N·m"), ("d", "40 N·m")):
        document["groups"].append({**document["groups"][0], "id": name, "name": f"Bolts {name}"})
        document["targets"][name] = {"kind": "torque", "torque": torque}
    document["stages"][0]["groups"] = ["b", "c", "d"]
    odd = [f for f in compute(document).findings if f.code == Finding.SIZES_OUT_OF_LINE.value]
    assert (
        [f.where for f in odd] == ["groups/d"]
        and "Bolts d" in odd[0].text
        and "Bolts c" not in odd[0].text
    )
