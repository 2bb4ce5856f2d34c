"""A line from a manual, taken over into a plan."""

from __future__ import annotations

from typing import Any

import pytest

from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.editing import edit
from orthotorq.core.planning.from_manual import propose
from orthotorq.core.planning.templates import begun_plan, blank_plan
from orthotorq.core.reading import read_line
from tests.core.test_reading import LINES


@pytest.mark.parametrize(("line", "wanted"), LINES, ids=[line for line, _ in LINES])
def test_what_a_line_says_is_taken_over_into_a_plan_that_still_computes(
    line: str, wanted: dict[str, Any]
) -> None:
    document = blank_plan("wheel", "New", "a/b")
    if sizes := {f.thread for f in read_line(line).figures if f.thread}:
        document["groups"][0]["fastener"]["thread"] = sizes.pop()
    found = propose(document, "bolts", line)
    assert found.left == []
    for item in found.items:
        assert item.says
        if item.act:
            document, _ = edit(document, item.act, item.params)
    said_figures = wanted.get("figures", [])
    assert len([i for i in found.items if i.act == "say_source"]) == len(
        [f for f in said_figures if any(f[:3])]
    )
    if any(f[4] for f in said_figures):
        # an angle wants to know what is clamped
        document["groups"][0]["stack"] = [{"material": "carbon steel", "thickness": "30 mm"}]
    result = compute(document)
    if wanted.get("percents"):
        stage = next(i.params["stage"] for i in found.items if i.act == "take_passes")
        passes = next(s for s in result.stages if s.id == stage).passes
        shares = [p.percent for p in passes if p.percent and not p.check]
        assert shares == pytest.approx(wanted["percents"], abs=0.05)
        assert any(p.check for p in passes) or not wanted.get("check_round")


def test_what_a_plan_has_no_place_for_is_told_without_an_act() -> None:
    items = propose(
        blank_plan("wheel", "New", "a/b"), "bolts", "Turn 90°; recheck every 3 months"
    ).items
    assert (
        [i.act for i in items] == ["", ""]
        and "write it in days" in items[1].says
        and "snug torque" in items[0].says
    )


def test_the_passes_of_a_manual_go_to_the_stage_with_the_full_torque_and_leave_its_check() -> None:
    document = begun_plan("wheel", "Fit it", "a/b")
    group = document["groups"][0]["id"]
    proposed = propose(document, group, "310 to 350 N·m crosswise in two passes")
    passes = next(p for p in proposed.items if p.act == "take_passes")
    out, _ = edit(document, "take_passes", dict(passes.params))
    full = next(s for s in out["stages"] if s["id"] == passes.params["stage"])
    assert [(p["do"], p.get("percent"), bool(p.get("check"))) for p in full["passes"]] == [
        ("torque", 50, False),
        ("torque", 100, False),
        ("torque", 100, True),
    ]
    assert "state_forbidden" not in {f.code for f in compute(out).findings}


def test_a_second_source_stands_beside_the_one_that_is_taken() -> None:
    document = begun_plan("wheel", "Fit it", "a/b")
    group = document["groups"][0]["id"]
    for line in ("310 to 350 N·m", "270 N·m"):
        found = propose(document, group, line).items[0]
        document, _ = edit(document, found.act, dict(found.params))
    assert [s["says"] for s in document["sources"]] == [
        {"range": ["310 N·m", "350 N·m"]},
        {"torque": ["270 N·m"]},
    ]
    assert document["targets"][group]["source"] == document["sources"][0]["id"]
    assert "source_conflict" in {f.code for f in compute(document).findings}
