"""Rules that once stood in several places and disagreed: places by id, one writer of settings, one
set of answers a step, one derivation of a bound."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from orthotorq.core.documents.plan import JOINT_KINDS
from orthotorq.core.documents.read import read_plan
from orthotorq.core.documents.upgrade import upgraded
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.compute.load.tool_binding import (
    BoundTool,
    bound_settings,
    with_ceilings,
)
from orthotorq.core.planning.compute.output.working import working
from orthotorq.core.planning.templates import blank_plan
from orthotorq.demo.load import plan_document, plan_names
from tests.core.play import FITTER, Play
from tests.plans import small

KINDS = tuple(JOINT_KINDS)
PLANS = {
    **{name: plan_document(name) for name in plan_names()},
    **{kind: blank_plan(kind, "New", "a/b") for kind in KINDS},
}


def two_compounds() -> dict[str, Any]:
    """Two stages of a wheel oil the dry seat: each is a stop that its planner can take on."""
    document = small()
    oil = {
        "kind": "apply",
        "what": "light oil",
        "compound": "light-oil",
        "groups": ["b"],
        "faces": ["seat"],
    }
    document.update(
        joint_kind="wheel",
        stages=[{"id": "first", **oil}, {"id": "second", **oil}, *document["stages"]],
    )
    return document


def stops(document: dict[str, Any]) -> dict[tuple[str, str], str | None]:
    """Stops by code and place, with the reason they are waived for."""
    return {(f.code, f.where): f.waived for f in compute(document).findings if f.severity == "stop"}


def test_a_waiver_stays_with_its_stage_when_stages_change_places() -> None:
    document = two_compounds()
    document["waivers"] = [
        {"finding": "compound_forbidden", "where": "stages/first", "reason": "the maker says so"}
    ]
    wanted = {
        ("compound_forbidden", "stages/first"): "the maker says so",
        ("compound_forbidden", "stages/second"): None,
    }
    assert stops(document) == wanted
    document["stages"][0], document["stages"][1] = document["stages"][1], document["stages"][0]
    assert stops(document) == wanted


def test_findings_waivers_and_rechecks_are_addressed_by_id() -> None:
    for name, document in PLANS.items():
        ids = {s["id"] for s in document["stages"]} | {
            r["id"] for r in document.get("rechecks", [])
        }
        for finding in compute(document).findings:
            kind, _, place = finding.where.partition("/")
            if kind in ("stages", "rechecks") and place:
                assert place in ids, (name, finding.where)


def test_a_document_of_version_1_is_brought_up_with_its_waivers() -> None:
    document = two_compounds()
    document.update(
        version=1,
        tables="2026.1",
        waivers=[
            {"finding": "compound_forbidden", "where": "stages/0", "reason": "as the maker says"},
            {"finding": "no_check_round", "reason": "everywhere"},
            {"finding": "x", "where": "groups/b", "reason": "a group"},
        ],
    )
    new = upgraded(document, 2)
    assert [w.get("where") for w in new["waivers"]] == ["stages/first", None, "groups/b"]
    assert "tables" not in new and new["version"] == 2
    assert stops(document)["compound_forbidden", "stages/first"] == "as the maker says"


@pytest.mark.parametrize(
    "waivers", [[{"finding": "x", "where": "stages/99", "reason": "none"}], "no list", [7], [{}]]
)
def test_an_old_document_that_is_wrong_is_named_after_the_upgrade_too(waivers: object) -> None:
    assert upgraded({"version": 1, "stages": "none", "waivers": waivers}, 3)["version"] == 3


@pytest.mark.parametrize("name", sorted(PLANS))
def test_the_same_tool_bound_at_the_start_changes_no_setting(name: str) -> None:
    document = PLANS[name]
    plan, result = read_plan(document), compute(document)
    bound = bound_settings(
        plan, result, {tool: BoundTool(tool, spec) for tool, spec in plan.tools.items()}
    )
    planned = {
        f"{s.id}/{p.id}/{p.group}": p.settings
        for s in result.stages
        for p in s.passes
        if p.settings
    }
    assert bound == planned
    # a result stored before passes kept their ceiling comes to the same
    for stage in result.stages:
        for one in stage.passes:
            one.ceiling_Nm = None
    assert (
        bound_settings(
            plan, with_ceilings(plan, result), {t: BoundTool(t, s) for t, s in plan.tools.items()}
        )
        == planned
    )


@settings(max_examples=60, deadline=None)
@given(
    increment=st.sampled_from([1, 2, 5, 10, 20]),
    share=st.floats(0.2, 0.8),
    percent=st.integers(20, 110),
)
def test_bound_is_unbound_whatever_the_scale(increment: int, share: float, percent: int) -> None:
    document = small()
    document["groups"][0]["limits"] = {"yield_fraction": round(share, 3)}
    document["targets"]["b"] = {"kind": "yield_fraction", "fraction": round(share, 3)}
    document["tools"]["w"].update(range=["10 N·m", "400 N·m"], increment=f"{increment} N·m")
    document["stages"][0]["passes"][1]["percent"] = percent
    plan, result = read_plan(document), compute(document)
    bound = bound_settings(plan, result, {"w": BoundTool("W", plan.tools["w"])})
    for one in result.stages[0].passes:
        if one.settings:
            assert bound[f"t/{one.id}/b"] == one.settings


def test_a_correction_takes_the_answers_that_the_step_took() -> None:
    play = Play(small())
    play.until("/full/r1/b.1")
    step = play.answer("turns_on")
    # a bolt that turns on and on is replaced or left; it is not repaired
    assert play.send("answer", f"{step}/then", {"answer": "repair"})[0] == "refused"
    play.answer("replace")
    event = play.facts[-1].id
    verdict, text = play.send(
        "correct", f"{step}/then", {"voids": event, "answer": {"answer": "repair"}}
    )
    assert (verdict, "repair" in text) == ("refused", True)
    right = {"answer": "accept", "reason": "as it is"}
    assert play.send("correct", f"{step}/then", {"voids": event, "answer": right})[0] == "accepted"


@pytest.mark.parametrize("name", plan_names())
def test_every_answer_that_can_be_corrected_offers_what_the_judge_accepts(name: str) -> None:
    play = Play(
        plan_document(name), occasion="install", variants=list(first_of(plan_document(name)))
    )
    for number in range(60):
        if play.state.instruction is None:
            break
        play.usual()
        if number % 9:
            continue
        for last in play.state.recent:
            for choice in last.choices:
                payload = {"voids": last.event, "answer": {"answer": choice.answer}}
                facts, now = list(play.facts), play.now
                assert play.send("correct", last.step, payload)[0] == "accepted", (
                    last.step,
                    choice.answer,
                )
                play.facts, play.now = facts, now


def first_of(document: dict[str, Any]) -> list[str]:
    """The first variant of each choice."""
    first: dict[str, str] = {}
    for variant in document.get("variants", []):
        first.setdefault(variant.get("choice", ""), variant["id"])
    return list(first.values())


def test_actions_are_what_the_judge_accepts() -> None:
    play = Play(small())
    # a condition is neither skipped nor gone back from
    assert not {"skip", "redo", "correct"} & set(play.state_for(FITTER).actions)
    play.facts.clear()
    play.until("/h/r1/b.1")
    assert {"answer", "skip", "redo", "problem", "note"} <= set(play.state_for(FITTER).actions)
    assert "correct" in play.state_for(FITTER).actions
    assert play.state_for(frozenset({"planner"})).actions == ["problem", "note", "suggest"]
    play.finish()
    assert (
        "sign_fitter" in play.state_for(FITTER).actions
        and "answer" not in play.state_for(FITTER).actions
    )
    play.send("sign_off", "-", {"role": "fitter"})
    supervisor = play.state_for(frozenset({"supervisor"})).actions
    assert "sign_supervisor" in supervisor and "correct" not in supervisor


def code_bounds() -> dict[str, Any]:
    """Three codes bound one figure: one is struck, two hold."""
    document = small()
    document["sources"] = [
        {"id": "old", "by": "code", "says": {"at_most": "150 N·m"}, "valid_for": {"thread": "M20"}},
        {"id": "new", "by": "code", "says": {"at_most": "190 N·m"}},
        {"id": "house", "by": "code", "says": {"at_most": "210 N·m"}},
    ]
    return document


def test_every_bound_has_an_id_and_explains_its_own_value() -> None:
    group = compute(code_bounds()).groups[0]
    ids = [x.id for x in group.limits]
    assert len(ids) == len(set(ids))
    mine = [x for x in group.limits if x.code == "code_at_most"]
    assert [x.id for x in mine] == ["code_at_most:new", "code_at_most:house"]
    for limit in mine:
        last = working(code_bounds(), f"b/limit/{limit.id}").steps[-1]
        assert last.result.startswith(f"{limit.clamp_N / 1e3:.4g}"[:4]), (limit.id, last.result)
    # the torque put in is that of the source itself
    put_in = [working(code_bounds(), f"b/limit/{x.id}").steps[-1].inputs[0].value for x in mine]
    assert put_in == ["190 N·m", "210 N·m"]


@pytest.mark.parametrize(
    ("increment", "collars"),
    [("2 N·m", ["6", "8", "0", "2", "4"]), ("1 N·m", ["8", "9", "0", "1", "2"])],
)
def test_the_collar_steps_by_the_increment_of_its_scale(increment: str, collars: list[str]) -> None:
    document = small()
    document["tools"]["w"].update(mark="10 N·m", increment=increment)
    scale = compute(document).stages[0].passes[2].settings[0].scale
    assert scale is not None and (scale.main, scale.collar) == ("120", "0")
    assert sorted(scale.collars) == sorted(collars)
