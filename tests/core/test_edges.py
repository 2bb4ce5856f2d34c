"""What a mutation of the code once survived: exact figures, exact words, equal sides."""

from __future__ import annotations

import copy
import math
from itertools import pairwise
from typing import Any

import pytest

from orthotorq.core.documents.read import read_plan
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.compute.inputs.figure_text import kilonewton, newton_metre, percent
from orthotorq.core.planning.compute.load.tool_binding import with_ceilings
from orthotorq.core.planning.compute.output.sum_card import sum_card
from orthotorq.core.running import record_of
from orthotorq.core.sums import answer
from orthotorq.demo.load import plan_document
from tests.core.play import Play
from tests.plans import small

Raw = dict[str, Any]


def codes(document: Raw) -> set[str]:
    return {f.code for f in compute(document).findings}


def test_figures_are_said_with_as_many_digits_as_they_deserve() -> None:
    assert percent(1 / 3) == "33.3 %" and percent(1 / 3, 2) == "33 %"
    assert kilonewton(12_345.6) == "12.3 kN" and newton_metre(123_456.0) == "123.5 N·m"


@pytest.mark.parametrize(
    ("reach", "bottoms"), [("25.9 mm", False), ("26 mm", False), ("26.1 mm", True)]
)
def test_a_bolt_bottoms_beyond_its_hole_and_not_at_its_end(reach: str, bottoms: bool) -> None:
    document = small()
    document["groups"][0]["into"] = {
        "kind": "tapped",
        "material": "carbon steel",
        "engaged": "24 mm",
        "depth": "26 mm",
        "reach": reach,
    }
    assert ("bottoms" in codes(document)) is bottoms


@pytest.mark.parametrize(
    ("kind", "accuracy"),
    [
        ("click wrench", 0.04),
        ("dial wrench", 0.04),
        ("electronic wrench", 0.04),
        ("beam wrench", 0.06),
        ("preset driver", 0.06),
    ],
)
def test_a_wrench_without_a_certificate_has_the_accuracy_of_its_class(
    kind: str, accuracy: float
) -> None:
    document = small()
    document["groups"][0]["friction"] = {
        "mu_thread": [0.12, 0.12, 0.12],
        "mu_bearing": [0.12, 0.12, 0.12],
    }
    document["tools"]["w"] = {
        "kind": kind,
        "range": ["120 N·m" if kind == "preset driver" else "40 N·m", "120 N·m"],
    }
    load = compute(document).groups[0].preload
    assert load is not None
    assert (
        load.high_N / load.typical_N - 1
        == pytest.approx(accuracy)
        == 1 - load.low_N / load.typical_N
    )


def test_places_are_given_to_a_ten_thousandth() -> None:
    places = compute(small(7)).groups[0].places
    for number, place in enumerate(places):
        turn = 2 * math.pi * number / 7
        assert place.x_mm == pytest.approx(100 * math.sin(turn), abs=6e-5)
        assert place.y_mm == pytest.approx(100 * math.cos(turn), abs=6e-5)
        assert place.number == number + 1


@pytest.mark.parametrize(
    ("wanted", "off"),
    [("118.5 N·m", True), ("119.1 N·m", False), ("120.9 N·m", False), ("121.5 N·m", True)],
)
def test_a_preset_is_the_same_within_a_hundredth_to_both_sides(wanted: str, off: bool) -> None:
    document = small()
    document["targets"]["b"]["torque"] = wanted
    document["tools"]["w"] = {"kind": "preset driver", "range": ["120 N·m", "120 N·m"]}
    document["stages"][0]["passes"] = [{"id": "full", "do": "torque", "percent": 100}]
    assert any(f.code == "preset_off" for f in compute(document).findings) is off


def test_a_preset_that_differs_is_said_with_both_figures() -> None:
    document = small()
    document["tools"]["w"] = {"kind": "preset driver", "range": ["80 N·m", "80 N·m"]}
    text = next(
        f.text for f in compute(document).findings if f.code == "preset_off" and "100 %" in f.text
    )
    assert "80 N·m" in text and "120 N·m is wanted" in text


def test_a_result_from_before_gets_its_ceilings_in_newton_metres() -> None:
    document = plan_document("bellows-clamp")
    plan, now = read_plan(document), compute(document)
    before = copy.deepcopy(now)
    for stage in before.stages:
        for one in stage.passes:
            one.ceiling_Nm = None
    after = with_ceilings(plan, before)
    caps = [
        (p.torque_Nm, p.ceiling_Nm)
        for s in after.stages
        for p in s.passes
        if p.do == "gap_round" and p.torque_Nm
    ]
    assert caps and all(ceiling == torque for torque, ceiling in caps)


def test_the_card_of_a_sum_shows_the_scale() -> None:
    card = sum_card(answer("scale", {"torque": "136 N·m", "mark": "10 N·m", "increment": "2 N·m"}))
    assert card is not None and card.scale is not None
    assert (card.scale.main, card.scale.collar, card.scale.mark) == ("130", "6", "10")
    assert card.text == "136 N·m" and card.second == "100 ft·lbf"
    # without a division the collar has ten lines
    plain = sum_card(answer("scale", {"torque": "136 N·m", "mark": "10 N·m"}))
    assert plain is not None and plain.scale is not None and plain.scale.collars[2] == "6"
    assert sum_card(answer("pair", {"first": "250 N·m", "second": "184 ft·lbf"})) is None


def test_a_record_ends_with_its_last_entry_and_says_what_stood_still() -> None:
    play = Play(small(2))
    play.finish()
    record = record_of(play.result, play.facts, play.now)
    assert record.started == play.facts[0].at and record.ended == play.facts[-1].at
    cells = [c for table in record.tables for row in table.rows for c in row.cells if c is not None]
    assert cells and all(c.still is (c.answer == "did_not_turn") for c in cells)
    assert {c.still for c in cells} == {True, False}


def test_a_spacer_longer_than_the_thread_leaves_none() -> None:
    document = small()
    document["groups"][0]["into"] = {
        "kind": "tapped",
        "material": "carbon steel",
        "engaged": "10 mm",
        "spacer": "10 mm",
    }
    teeth = compute(document).groups[0].teeth
    assert teeth is not None and (
        teeth.carries_N,
        teeth.required_mm,
        teeth.turns,
        teeth.engaged_mm,
    ) == (0, 0, 0, 0)
    assert "no_thread" in codes(document)


@pytest.mark.parametrize(("count", "spare"), [(1, False), (4, True)])
def test_a_spare_is_brought_where_there_are_several(count: int, spare: bool) -> None:
    assert any(line.text.startswith("spare M16") for line in compute(small(count)).kit) is spare


def said(document: Raw, code: str) -> str:
    return next(f.text for f in compute(document).findings if f.code == code)


def test_differences_between_figures_are_said_exactly() -> None:
    document = small()
    document["groups"][0]["stack"] = [{"material": "carbon steel", "thickness": "60 mm"}]
    document["sources"] = [
        {
            "id": "m",
            "by": "equipment maker",
            "reference": "3",
            "says": {"torque": ["60 N·m"], "angle": "20 deg"},
        },
        {"id": "r", "by": "site rule", "says": {"torque": ["75 N·m"], "angle": "20 deg"}},
    ]
    document["targets"]["b"] = {
        "kind": "torque+angle",
        "torque": "40 N·m",
        "angle": "25 deg",
        "source": "m",
    }
    assert (
        "40 N·m + 25° is the planner's own value: equipment maker, 3 has 60 N·m + 20° (-33 % "
        "torque, +5°)"
    ) in said(document, "own_figure")
    assert (
        "site rule (75 N·m + 20°) is +25 % off equipment maker, 3 (60 N·m + 20°), which "
        "ranks higher"
    ) in said(document, "source_conflict")
    document["targets"]["b"] = {
        "kind": "torque+angle",
        "torque": "75 N·m",
        "angle": "20 deg",
        "reason": "yard test",
    }
    assert said(document, "overruled") == (
        "Bolts: 75 N·m + 20° is taken and not equipment maker, 3 (60 N·m + 20°), because: "
        "yard test."
    )
    document["sources"][0]["says"] = {"torque": ["60 N·m", "40 ft·lbf"]}
    assert "“60 N·m” and “40 ft·lbf”" in said(document, "pair_undecided") and "1.11 times" in said(
        document, "pair_undecided"
    )


def test_passes_below_the_figure_alone_still_have_remedies() -> None:
    document = small()
    document["groups"][0]["limits"] = {"soft_part": "10 kN"}
    document["stages"][0]["passes"] = [{"id": "half", "do": "torque", "percent": 60}]
    one = next(f for f in compute(document).findings if f.code == "soft_part_over")
    assert one.sets and float(one.sets["torque"].split()[0]) < 60


def test_what_a_fix_may_break_is_named_by_its_strictest_bound() -> None:
    document = small()
    document["groups"][0].update(
        required_clamp="60 kN", limits={"yield_fraction": 0.5, "soft_part": "48 kN"}
    )
    document["tools"]["w"]["range"] = ["10 N·m", "400 N·m"]
    one = next(f for f in compute(document).findings if f.code == "below_required")
    assert (
        "(but that takes the typical load past “soft part”: other bolts or another need, not "
        "another torque)"
    ) in one.remedy
    soft = next(f for f in compute(document).findings if f.code == "may_exceed_soft_part")
    assert "(but that leaves the typical load short of “joint need”" in soft.remedy


def test_the_swing_of_a_bolt_is_said_with_what_it_bears() -> None:
    document = small()
    document["groups"][0].update(
        stack=[{"material": "carbon steel", "thickness": "60 mm"}],
        work={"axial": "30 kN", "axial_low": "-300 kN", "introduction": 1.0},
    )
    stiff = compute(document).groups[0].stiffness
    assert stiff is not None
    swing = (
        stiff.parts_mm_per_N / (stiff.parts_mm_per_N + stiff.fastener_mm_per_N) * 330e3 / 2 / 156.67
    )
    assert f"stress amplitude at work is ±{swing:.3g} MPa; limit of the thread ±46.2 MPa" in said(
        document, "fatigue"
    )


def marked(document: Raw, path: str) -> str:
    """The section that an error at a path marks."""
    from orthotorq.core.forms.errors import FieldError
    from orthotorq.core.planning.outline import outline

    parts = tuple(int(p) if p.isdigit() else p for p in path.split("/"))
    found = [
        s.key
        for s in outline(document, None, [FieldError(parts, "x", "wrong")])
        if s.mark == "stop"
    ]
    assert len(found) == 1, found
    return found[0]


def test_an_error_marks_the_section_in_which_its_field_stands() -> None:
    document = plan_document("twin-drive-wheel")
    wanted = {
        "groups/1": "figure-drum",
        "groups/1/layout/count": "joint-drum",
        "groups/2/fastener/thread": "joint-centre",
        "groups/0/friction": "figure-inner",
        "targets/drum/torque": "figure-drum",
        "stages/2": "stage-verify",
        "stages/2/checks/0": "stage-verify",
        "rechecks/0/at": "back",
        "positions/1/name": "joint-inner",
        "sources/0/says": "figure-inner",
    }
    for path, section in wanted.items():
        assert marked(document, path) == section, path
    chain = next(iter(document["chains"]))
    tool = document["chains"][chain][0]
    assert (
        marked(document, f"chains/{chain}/0")
        == marked(document, f"tools/{tool}/range")
        == f"tool-{tool}"
    )


def test_a_pass_of_a_method_is_called_after_the_share_that_it_has() -> None:
    import re

    from orthotorq.core.planning.methods import METHODS

    for _, _, passes in METHODS.values():
        for one in passes:
            if said := re.search(r"(\d+) %", one.get("name", "")):
                assert one["percent"] == int(said[1]), one


def test_a_wrench_names_the_groups_that_are_pulled_with_it_and_no_others() -> None:
    tools = {t.id: t.groups for t in compute(plan_document("twin-drive-wheel")).tools}
    chains = {name: links[0] for name, links in plan_document("twin-drive-wheel")["chains"].items()}
    assert tools[chains["main"]] == ["inner", "centre"] and tools[chains["small"]] == ["drum"]


def test_a_step_takes_a_reading_or_buttons() -> None:
    play, seen = Play(plan_document("bellows-clamp"), variants=["eight"]), {}
    while (step := play.state.instruction) is not None:
        seen.setdefault(step.kind, set()).add(step.entry)
        play.usual()
    assert {kind: entry for kind, entry in seen.items() if entry != {"buttons"}} == {
        "reading": {"reading"},
        "gap": {"reading"},
    }


def test_an_own_figure_is_entered_and_not_calculated() -> None:
    document = plan_document("agitator-coupling")
    source = next(s["id"] for s in document["sources"] if "angle" in s["says"])
    document["targets"]["bolt"] = {
        "kind": "torque+angle",
        "torque": "170 N·m",
        "angle": "75 deg",
        "source": source,
        "reason": "tried",
    }
    result = compute(document)
    target = result.groups[0].target
    assert (
        target is not None
        and "own figure" in target.why
        and target.calculated is False
        and not result.calculated
    )


def test_without_an_axial_load_nothing_is_shared() -> None:
    from orthotorq.core.forms.errors import FieldErrors
    from orthotorq.core.planning.compute.inputs.facts import gather
    from orthotorq.core.planning.compute.load.in_service import shared_load

    facts = gather(read_plan(small()), 0, FieldErrors())
    assert facts is not None
    shared = shared_load(facts)
    assert (shared.factor, shared.extra, shared.axial, shared.low, shared.steps) == (
        0.0,
        0.0,
        0.0,
        0.0,
        (),
    )


def test_the_first_unknown_variant_is_named() -> None:
    from orthotorq.core.running import choices_errors

    found = choices_errors(
        compute(plan_document("twin-drive-wheel")), "install", ["nobody", "else"]
    )
    assert found is not None and found[1] == {"variant": "nobody"}


def test_cross_order_over_twelve_and_sixteen_goes_by_quarters() -> None:
    from orthotorq.core.planning.orders import cross_order

    for count in (8, 12, 16, 24, 64):
        order = cross_order(count)
        quarter = count // 4
        assert sorted(order) == list(range(1, count + 1))
        for at in range(0, count, 4):
            four = sorted(order[at : at + 4])
            assert [b - a for a, b in pairwise(four)] == [quarter] * 3, (count, four)
