"""The working of every figure of every demo plan ends at the very figure that stands on the
screen."""

from __future__ import annotations

from typing import Any

import pytest

from orthotorq.core.errors import UnknownName
from orthotorq.core.forms.group import GroupOut
from orthotorq.core.forms.result import Result
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.compute.output.working import WorkingOut, working
from orthotorq.core.units import parse
from orthotorq.demo.load import plan_document, plan_names
from tests.plans import small


def last(found: WorkingOut, kind: str) -> float:
    """Result of the last step in base units."""
    return parse(found.steps[-1].result, kind).base


def both(name: str) -> tuple[dict[str, Any], Result]:
    document = plan_document(name)
    return document, compute(document)


def targeted(result: Result) -> list[GroupOut]:
    return [g for g in result.groups if g.preload is not None]


@pytest.mark.parametrize("name", plan_names())
def test_the_working_of_the_preload_holds_all_three_figures(name: str) -> None:
    document, result = both(name)
    for group in targeted(result):
        assert group.preload is not None
        found = working(document, f"{group.id}/preload")
        forces = [
            parse(s.result, "force").base for s in found.steps if s.result.endswith((" N", " kN"))
        ]
        for wanted in (group.preload.typical_N, group.preload.low_N, group.preload.high_N):
            if not group.preload.beyond_yield and group.target and group.target.angle_deg is None:
                assert any(f == pytest.approx(wanted, rel=2e-4) for f in forces), (
                    group.id,
                    wanted,
                    forces,
                )


@pytest.mark.parametrize("name", plan_names())
def test_the_working_of_every_limit_ends_at_the_limit(name: str) -> None:
    document, result = both(name)
    for group in targeted(result):
        for limit in group.limits:
            found = working(document, f"{group.id}/limit/{limit.id}")
            assert found.steps or found.notes, limit.code
            if found.steps:
                assert last(found, "force") == pytest.approx(limit.clamp_N, rel=2e-4), (
                    group.id,
                    limit.code,
                )


@pytest.mark.parametrize("name", plan_names())
def test_the_working_of_every_setting_ends_at_what_is_set(name: str) -> None:
    document, result = both(name)
    for stage in result.stages:
        for one in stage.passes:
            for setting in one.settings:
                found = working(
                    document, f"{stage.id}/{one.id}/{one.group}/setting/{setting.chain}"
                )
                assert found.steps or found.notes
                wrench = [
                    s
                    for s in found.steps
                    if s.result.endswith("N·m") and "reaction" not in s.result_words
                ]
                if wrench:
                    assert parse(wrench[-1].result, "torque").base / 1e3 == pytest.approx(
                        setting.exact_Nm, rel=2e-4
                    )


@pytest.mark.parametrize("name", plan_names())
def test_stiffness_teeth_and_losses_have_a_working(name: str) -> None:
    document, result = both(name)
    for group in targeted(result):
        if group.stiffness is not None:
            assert working(document, f"{group.id}/stiffness").steps
        if group.teeth is not None:
            assert last(working(document, f"{group.id}/teeth"), "force") == pytest.approx(
                group.teeth.carries_N, rel=2e-4
            )
        for step in working(document, f"{group.id}/preload").steps:
            assert step.source and step.tex and step.inputs


def test_a_figure_that_is_not_there_is_refused_by_name() -> None:
    for figure in ("", "studs", "studs/limit/none", "close/none/studs/setting/main", "x/" * 40):
        with pytest.raises(UnknownName):
            working(plan_document("evaporator-cover"), figure)


def torque_working(**changes: Any) -> WorkingOut:
    document = small()
    group = document["groups"][0]
    document["targets"]["b"] = changes.pop("target")
    group.update(changes)
    return working(document, "b/torque")


@pytest.mark.parametrize(
    ("target", "steps"),
    [
        ({"kind": "torque", "torque": "120 N·m"}, 0),
        ({"kind": "preload", "preload": "50 kN"}, 3),
        ({"kind": "yield_fraction", "fraction": 0.5}, 4),
    ],
)
def test_a_torque_is_derived_from_what_it_was_chosen_by(target: dict[str, Any], steps: int) -> None:
    found = torque_working(target=target)
    assert len(found.steps) == steps
    assert any("Chosen because" in note for note in found.notes)
    if not steps:
        assert "not calculated" in " ".join(found.notes)
    else:
        document = {**small(), "targets": {"b": target}}
        wanted = compute(document).groups[0].target
        assert wanted is not None
        assert last(found, "torque") / 1e3 == pytest.approx(wanted.torque_Nm, rel=2e-4)


@pytest.mark.parametrize(
    ("area", "words"), [("root", "root area"), ("tensile", "tensile stress area")]
)
def test_the_working_says_on_which_area_a_stress_is(area: str, words: str) -> None:
    found = torque_working(
        target={"kind": "yield_fraction", "fraction": 0.5}, limits={"area": area}
    )
    assert any(words in note for note in found.notes)


def test_a_nut_factor_has_the_short_form_as_its_working() -> None:
    short = {"nut_factor": [0.14, 0.16, 0.2]}
    found = torque_working(target={"kind": "preload", "preload": "50 kN"}, friction=short)
    assert len(found.steps) == 1
    assert last(found, "torque") / 1e3 == pytest.approx(0.16 * 50 * 16, rel=2e-4)


def test_a_cone_seat_has_its_own_friction_in_the_working() -> None:
    face = {"kind": "cone", "half_angle": "30 deg", "effective_diameter": "24 mm"}
    fastener = {"thread": "M16", "grade": "ISO 898-1 8.8", "face": face}
    found = torque_working(target={"kind": "preload", "preload": "50 kN"}, fastener=fastener)
    assert any("sin" in step.tex for step in found.steps)


def test_without_a_stack_the_working_says_what_is_not_known() -> None:
    document = small()
    assert working(document, "b/stiffness").notes == ["No clamped stack is given."]
    assert "Embedding is not known" in working(document, "b/losses").notes[0]
