"""Stretching with a hydraulic tensioner: a pass that brings its own load, and no torque."""

from __future__ import annotations

from typing import Any

import pytest

from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.forms.stage import PassOut
from orthotorq.core.kinds.registry import PASS_KINDS
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.compute.output.working import working
from orthotorq.core.running import fold, record_of
from orthotorq.core.running.present.outcome import outcome_of
from tests.core.play import Play
from tests.plans import small

Doc = dict[str, Any]
PLATE = {"material": "steel 42CrMo4 quenched and tempered", "thickness": "45 mm"}


def stretched(pressure: str = "900 bar", wanted: str = "108 kN", **more: Any) -> Doc:
    """Four studs M24 in 90 mm of steel, stretched in cross, then looked at."""
    document = small()
    group = document["groups"][0]
    group["fastener"] = {"thread": "M24", "grade": "ISO 898-1 8.8"}
    group["stack"] = [dict(PLATE), dict(PLATE)]
    document["joint_kind"] = "stud_row"
    document["targets"]["b"] = {"kind": "preload", "preload": wanted}
    one = {"do": "stretch", "pressure": pressure, "area": "1530 mm²", **more}
    stage = document["stages"][0]
    stage["condition"] = {"load": "off"}
    stage["passes"] = [
        {"id": "hand", "do": "hand"},
        {"id": "pump", **one, "order": {"kind": "cross", "tools": 2}},
        {"id": "look", **one, "check": True, "order": {"kind": "cross", "tools": 2}},
    ]
    return document


def codes(document: Doc) -> set[str]:
    return {one.code for one in compute(document).findings}


def limits(document: Doc) -> dict[str, float]:
    """Limits by code [N]."""
    return {one.code: one.clamp_N for one in compute(document).groups[0].limits}


def test_the_public_case() -> None:
    """p 900 bar, A 1530 mm², M24 in 90 mm: 137.70 kN, 1.2767, 107.86 kN."""
    load = compute(stretched()).groups[0].preload
    assert load is not None
    assert load.peak_N == pytest.approx(137_700)
    assert load.typical_N == pytest.approx(107_860, rel=1e-4)
    assert load.low_N < load.typical_N < load.high_N < load.peak_N


def test_no_torsion_acts_and_the_larger_load_is_held_against_tension() -> None:
    found = limits(stretched())
    assert "combined" not in found and "wrench" not in found
    assert found["pumped"] == pytest.approx(0.9 * 660 * 352.5, rel=2e-3)
    assert codes(stretched()).isdisjoint({"over_pumped", "may_exceed_pumped", "yields"})
    assert "may_exceed_pumped" in codes(stretched("1360 bar", "163 kN"))
    assert "over_pumped" in codes(stretched("1400 bar", "168 kN"))


def test_the_remedy_is_a_pressure_that_closes_the_finding() -> None:
    found = next(
        f for f in compute(stretched("1400 bar", "168 kN")).findings if f.code == "over_pumped"
    )
    assert "bar" in found.remedy and "N·m" not in found.remedy and not found.sets
    bar = next(word for word in found.remedy.split() if word.isdigit())
    assert "over_pumped" not in codes(stretched(f"{bar} bar", "168 kN"))


@pytest.mark.parametrize("pressure", ["600 bar", "900 bar", "1200 bar"])
def test_working_and_result_are_one(pressure: str) -> None:
    document = stretched(pressure)
    load = compute(document).groups[0].preload
    steps = working(document, "b/preload").steps
    assert load is not None and steps[-1].name == "load left"
    assert float(steps[-1].result.split()[0]) == pytest.approx(load.typical_N / 1e3, rel=1e-4)
    assert working(document, "b/torque").steps == steps


def test_a_factor_of_the_tools_sheet_stands_in_for_the_rule_and_the_stack() -> None:
    document = stretched(transfer=[1.2, 1.25, 1.3])
    del document["groups"][0]["stack"]
    load = compute(document).groups[0].preload
    assert load is not None and load.typical_N == pytest.approx(137_700 / 1.25)
    assert load.low_N == pytest.approx(137_700 * 0.98 / 1.3)
    assert load.high_N == pytest.approx(137_700 * 1.02 / 1.2)


def test_without_factor_and_stack_nobody_knows_what_is_left() -> None:
    document = stretched()
    del document["groups"][0]["stack"]
    with pytest.raises(DocumentErrors) as refused:
        compute(document)
    assert {e.pointer() for e in refused.value.errors} == {
        f"stages/0/passes/{n}/transfer" for n in (1, 2)
    }


def test_a_pressure_above_the_tools_is_refused() -> None:
    with pytest.raises(DocumentErrors) as refused:
        compute(stretched(most="800 bar"))
    assert "at most the tool's highest pressure (800 bar)" in str(refused.value.errors[0].text)


def test_a_pressure_that_leaves_another_load_than_wanted_is_said() -> None:
    assert "stretch_differs" not in codes(stretched("900 bar", "110 kN"))
    found = compute(stretched("900 bar", "130 kN")).findings
    differs = next(f for f in found if f.code == "stretch_differs")
    assert "Pump to 1085 bar" in differs.remedy
    assert "stretch_differs" not in codes(stretched("1085 bar", "130 kN"))


def test_a_last_pass_that_looks_is_missed() -> None:
    document = stretched()
    document["stages"][0]["passes"].pop()
    assert "stretch_unchecked" in codes(document)
    document["stages"][0]["passes"][1]["order"] = {"kind": "circle"}
    document["groups"][0]["layout"] = {"kind": "points", "points": [["0 mm", "0 mm"]]}
    assert "stretch_unchecked" not in codes(document)


def test_the_fitter_is_told_pressure_loads_and_where_to_stand() -> None:
    play = Play(stretched())
    play.until("/pump/")
    step = play.step
    assert step.text.startswith("Pump to 900 bar, run the nut down by hand")
    assert step.turn_text == "900 bar" and "138 kN while pumped, 108 kN left" in step.turn_note
    assert "Stand clear of the stud's line" in step.hint and not step.settings
    kit = [line.text for line in play.result.kit]
    assert any("2 × hydraulic tensioner for 900 bar" in text for text in kit)


def test_a_run_ends_with_bolts_of_which_no_nut_was_loose() -> None:
    play = Play(stretched())
    play.finish()
    table = record_of(play.result, play.facts, play.now).tables[0]
    assert table.rows and all(row.cells[-1] is not None for row in table.rows)


def test_a_lower_pressure_is_not_yet_the_target() -> None:
    """What was cut short after the first of two pressures was not pulled."""
    document = stretched()
    first = {"id": "low", "do": "stretch", "pressure": "450 bar", "area": "1530 mm²"}
    document["stages"][0]["passes"].insert(1, first)
    low, full, look = compute(document).stages[0].passes[1:]
    assert low.height == pytest.approx(49.9, abs=0.1) and full.height == look.height == 100
    play = Play(document)
    play.until("/pump/")
    part = outcome_of(play.result, fold(play.facts), 1).parts[0]
    assert part.turned and not part.pulled
    play.finish()
    part = outcome_of(play.result, fold(play.facts), 1).parts[0]
    assert part.pulled and part.checked == 4 and part.failures == []


def test_a_nut_that_was_loose_at_a_recheck_asks_for_its_cause_and_another_round() -> None:
    document = stretched()
    document["stages"][0] |= {"in": ["recheck"], "id": "again"}
    document["stages"][0]["passes"] = document["stages"][0]["passes"][2:]
    play = Play(document, occasion="recheck")
    play.until("/look/")
    play.answer("turned")
    assert play.step.entry == "decision" and "brought to its target" in play.step.hint
    play.answer("settled")
    assert play.step.kind == "stretch"
    play.finish()
    part = outcome_of(play.result, fold(play.facts), 1).parts[0]
    assert part.moved == 2 and part.failures == []
    assert "moved_at_recheck" in play.codes


def test_a_bolt_pumped_too_far_is_replaced_or_leaves_the_joint_unfit() -> None:
    play = Play(stretched())
    play.until("/pump/")
    play.answer("past_pressure")
    assert [b.answer for b in play.step.buttons] == ["repair", "replace", "accept"]
    play.answer("accept")
    play.finish()
    part = outcome_of(play.result, fold(play.facts), 1).parts[0]
    assert [one.code for one in part.failures] == ["past_pressure"]


def test_nuts_that_stay_loose_stop_the_pass_in_its_own_words() -> None:
    play = Play(stretched())
    play.until("/look/")
    while play.step.entry != "decision":
        play.answer("turned")
    assert "nuts are still loose" in play.step.text
    play.answer("accept")
    play.finish()
    assert "nuts_loose" in play.codes


@pytest.mark.parametrize("do", sorted(PASS_KINDS))
def test_every_kind_of_pass_says_what_it_does_to_the_load(do: str) -> None:
    """One contribution a kind, or none; only stretching leaves a load by itself."""
    one = PassOut(id="p", name="p", group="b", do=do, order=[["b.1"]], percent=100.0, turn_deg=30.0)
    act = PASS_KINDS[do].acts(one)
    acts = [act.percent, act.turn, act.cap, act.left, act.slack or None]
    assert sum(a is not None for a in acts) <= 1
    assert (act.percent is not None) == PASS_KINDS[do].wrenched
    assert (act.turn is not None) == PASS_KINDS[do].adds_angle
    assert act.slack == PASS_KINDS[do].back


@pytest.mark.parametrize("table", ["sayings", "failures", "halts", "stops"])
def test_no_two_kinds_say_different_things_under_one_code(table: str) -> None:
    """Texts of a run are looked up by their code alone."""
    said: dict[str, Any] = {}
    for kind in PASS_KINDS.values():
        for code, text in vars(type(kind)).get(table, {}).items():
            assert said.setdefault(code, text) == text, (table, code, kind.do)
