"""Plans to begin from and methods to choose: every kind computes at once, every method fits the
layouts it can be used on."""

from __future__ import annotations

from typing import Any

import pytest

from orthotorq.core.documents.plan import JOINT_KINDS
from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.methods import METHODS, passes_of_method
from orthotorq.core.planning.templates import blank_plan
from orthotorq.core.running import Fact, state_of
from tests.core.play import Play
from tests.plans import small

LAYOUTS: dict[str, dict[str, Any]] = {
    "circle": {"kind": "circle", "count": 8, "diameter": "300 mm"},
    "row": {"kind": "row", "count": 7, "pitch": "80 mm"},
    "grid": {
        "kind": "grid",
        "rows": 3,
        "columns": 4,
        "row_pitch": "70 mm",
        "column_pitch": "70 mm",
    },
    "edge": {
        "kind": "grid",
        "rows": 3,
        "columns": 4,
        "row_pitch": "70 mm",
        "column_pitch": "70 mm",
        "perimeter": True,
    },
    "points": {
        "kind": "points",
        "points": [["0 mm", "0 mm"], ["90 mm", "10 mm"], ["40 mm", "120 mm"], ["-80 mm", "60 mm"]],
    },
}


@pytest.mark.parametrize("kind", JOINT_KINDS)
def test_a_plan_to_begin_from_computes_without_a_stop(kind: str) -> None:
    document = blank_plan(kind, "New", "a/b")
    result = compute(document)
    assert [f.text for f in result.findings if f.severity == "stop"] == []
    # each group is tightened when the joint is fitted, and each recheck has something to do
    assert {p.group for s in result.stages if "install" in s.occasions for p in s.passes} >= {
        g["id"] for g in document["groups"]
    }
    assert not {f.code for f in result.findings} & {
        "no_tool",
        "condition_not_named",
        "stage_order",
        "recheck_without_stages",
    }
    assert any(s.passes for s in result.stages)
    assert result.kit and result.minutes > 0
    state = state_of(result, [Fact(1, "s", "-", "start", {"occasion": "install"}, "x", "t")])
    assert state.instruction is not None and state.instruction.text


@pytest.mark.parametrize("kind", JOINT_KINDS)
def test_a_plan_to_begin_from_is_run_on_every_occasion_with_nothing_left_in(kind: str) -> None:
    document = blank_plan(kind, "New", "a/b")
    for occasion in ("install", "recheck", "dismantle"):
        play = Play(document, occasion=occasion)
        heard = play.finish()
        assert len(heard) > 3 and play.state.status == "finished"
        assert play.state.fitted == [] and play.codes == []


@pytest.mark.parametrize("method", sorted(METHODS))
@pytest.mark.parametrize("layout", sorted(LAYOUTS))
def test_every_method_is_expanded_on_every_layout_or_refused_by_its_order(
    method: str, layout: str
) -> None:
    document = small()
    document["groups"][0]["layout"] = LAYOUTS[layout]
    stage = document["stages"][0]
    del stage["passes"]
    stage["method"] = method
    result = compute(document)
    passes = result.stages[0].passes
    assert [p.id for p in passes] == [p["id"] for p in passes_of_method(method)]
    count = len(result.groups[0].places)
    for one in passes:
        if one.do != "wait":
            assert sorted(place for move in one.order for place in move) == sorted(
                p.id for p in result.groups[0].places
            )
            assert len(one.order) == count


def test_a_method_taken_over_can_be_edited_and_changes_no_template() -> None:
    mine = passes_of_method("rising_cross")
    mine[1]["percent"] = 40
    assert passes_of_method("rising_cross")[1]["percent"] == 35
    document = small()
    document["definitions"] = {"methods": {"ours": {"name": "Ours", "passes": mine}}}
    del document["stages"][0]["passes"]
    document["stages"][0]["method"] = "ours"
    assert [p.percent for p in compute(document).stages[0].passes if p.do == "torque"] == [
        40,
        70,
        100,
        100,
    ]


def test_an_unknown_method_is_refused_by_name_with_its_path() -> None:
    document = small()
    del document["stages"][0]["passes"]
    document["stages"][0]["method"] = "hammer"
    with pytest.raises(DocumentErrors) as caught:
        compute(document)
    assert [(e.pointer(), "hammer" in e.text) for e in caught.value.errors] == [
        ("stages/0/method", True)
    ]
