"""Every finding that asks for something leads to a field that the plan has a place for."""

from __future__ import annotations

from typing import Any

import pytest

from orthotorq.core.documents.plan import Plan
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.finding_location import FIELDS, field_of
from orthotorq.core.planning.findings import RULES, Finding
from orthotorq.core.planning.outline import mended_in, outline
from tests.core.finding_cases import CASES
from tests.plans import small

SCHEMA = Plan.model_json_schema()


def _forms(form: dict[str, Any]) -> list[dict[str, Any]]:
    """A form with what it refers to, and each of its alternatives."""
    if "$ref" in form:
        return _forms(SCHEMA["$defs"][form["$ref"].rpartition("/")[2]])
    ways = [*form.get("anyOf", []), *form.get("oneOf", [])]
    return [one for way in ways for one in _forms(way)] if ways else [form]


def _stands(path: str) -> bool:
    """Whether the document has a place of that path."""
    at = [SCHEMA]
    for part in path.split("/"):
        found = []
        for form in (one for x in at for one in _forms(x)):
            if part.isdecimal() and "items" in form:
                found.append(form["items"])
            elif part in form.get("properties", {}):
                found.append(form["properties"][part])
            elif isinstance(form.get("additionalProperties"), dict):
                found.append(form["additionalProperties"])
        if not found:
            return False
        at = found
    return True


def test_every_finding_that_stops_or_warns_has_a_field() -> None:
    assert {code for code, rule in RULES.items() if rule.severity != "note"} <= set(FIELDS)


@pytest.mark.parametrize(("code", "change"), CASES, ids=[c.value for c, _ in CASES])
def test_it_is_a_place_of_the_document_in_a_section_of_the_bench(
    code: Finding, change: Any
) -> None:
    document = small()
    change(document)
    if code is Finding.STAGE_ORDER:
        document["stages"].append({"id": "late", "kind": "mark", "what": "dot", "after": []})
    result = compute(document)
    sections = outline(document, result)
    for finding in (f for f in result.findings if f.code == code and f.severity != "note"):
        mended = mended_in(finding, document, sections)
        assert _stands(mended.field), mended.field
        assert mended.section in {s.key for s in sections} or mended.field == "stages"


@pytest.mark.parametrize(
    ("target", "field"),
    [
        ({"kind": "torque", "torque": "9 N·m"}, "targets/b/torque"),
        ({"kind": "torque", "source": "s"}, "targets/b"),
        ({"kind": "ranked"}, "targets/b"),
        ({"kind": "preload", "preload": "9 kN"}, "targets/b/preload"),
        ({"kind": "yield_fraction", "fraction": 0.5}, "targets/b/fraction"),
    ],
)
def test_a_load_is_mended_where_the_figure_is_given(target: dict[str, Any], field: str) -> None:
    assert (
        field_of("yields", "groups/b", {"groups": [{"id": "b"}], "targets": {"b": target}}) == field
    )


def test_a_tool_is_mended_at_the_wrench_that_the_pass_pulls_with() -> None:
    document = small()
    document["tools"]["v"] = {"kind": "click wrench", "range": ["5 N·m", "25 N·m"]}
    document["chains"]["n"] = ["v", {"multiplier": 4}]
    assert field_of("tool_over_range", "stages/t", document) == "tools/w/range/1"
    document["stages"][0]["passes"][1]["chains"] = ["n"]
    assert field_of("tool_over_range", "stages/t", document) == "tools/v/range/1"
    assert field_of("efficiency_taken", "stages/t", document) == "chains/n/1/efficiency"


@pytest.mark.parametrize(
    "raw",
    [
        {},
        {"stages": "x", "groups": [3], "targets": [], "chains": []},
        {"stages": [{"passes": 3, "id": "t"}], "targets": [1]},
    ],
)
def test_a_document_that_is_wrong_still_leads_somewhere(raw: dict[str, Any]) -> None:
    for code in Finding:
        assert isinstance(field_of(code.value, "stages/t", raw), str)
        assert isinstance(field_of(code.value, "groups/b", raw), str)


def test_the_order_of_passes_is_mended_in_the_stage_that_tightens_the_group() -> None:
    document = small()
    document["stages"] = [
        {"id": "p", "kind": "prepare", "items": []},
        {"id": "first", "kind": "tighten", "groups": ["b"], "passes": [{}, {}, {}]},
        {"id": "w", "kind": "wait"},
        {"id": "second", "kind": "tighten", "groups": ["other"], "passes": [{}, {}]},
        {"id": "own", "kind": "tighten", "groups": ["third"], "method": "steps"},
    ]
    assert field_of("no_check_round", "groups/b", document) == "stages/1/passes/2/percent"
    assert field_of("no_check_round", "groups/other", document) == "stages/3/passes/1/percent"
    assert field_of("no_check_round", "groups/third", document) == "stages/4/method"
    assert field_of("no_check_round", "stages/second", document) == "stages/3/passes/1/percent"
    # a group that nothing tightens: the first stage that might
    assert field_of("no_check_round", "groups/none", document) == "stages/1/passes/2/percent"
    assert field_of("recheck_without_stages", "rechecks/r", document) == "stages/1/in"
    assert field_of("no_check_round", "groups/b", {"stages": document["stages"][:1]}) == "stages"
