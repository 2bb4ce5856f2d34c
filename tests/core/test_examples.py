"""Values of the example a plan began from, and what differs between two versions of a plan."""

from __future__ import annotations

import copy
import random
from typing import Any

import pytest

from orthotorq.core.documents.plan import JOINT_KINDS
from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.differences import differences, taken_over
from orthotorq.core.planning.editing import edit
from orthotorq.core.planning.from_manual import propose
from orthotorq.core.planning.outline import mended_in, outline
from orthotorq.core.planning.templates import begun_plan, blank_plan
from orthotorq.core.planning.unconfirmed_defaults import examples_of, left_of, where_of
from orthotorq.demo.load import plan_document, plan_names

Doc = dict[str, Any]


def examples_in(document: Doc) -> list[Any]:
    return [f for f in compute(document).findings if f.code == "example_values"]


@pytest.mark.parametrize("kind", JOINT_KINDS)
def test_an_example_is_not_released_until_each_part_is_taken_on(kind: str) -> None:
    document = begun_plan(kind, "New", "a/b")
    found = examples_in(document)
    assert {"joint", "figure", "tools"} <= {f.where.partition("/")[0] for f in found}
    assert all(
        f.severity == "stop" and not f.waivable and f.act == "confirm_examples" for f in found
    )
    sections = outline(document, compute(document))
    assert all(mended_in(f, document, sections).section for f in found), (
        "every part has a section in which it is mended"
    )
    for finding in found:
        document, _ = edit(document, finding.act, finding.sets)
    assert examples_in(document) == [] and "examples" not in document
    assert document == blank_plan(kind, "New", "a/b")


@pytest.mark.parametrize("kind", JOINT_KINDS)
def test_an_empty_form_holds_no_value_of_the_example_and_names_every_field(kind: str) -> None:
    document = begun_plan(kind, "New", "a/b", empty=True)
    assert examples_of(document).keys() == {p for p, v in examples_of(document).items() if v == ""}
    with pytest.raises(DocumentErrors) as refused:
        compute(document)
    assert {e.pointer() for e in refused.value.errors} >= {
        "groups/0/fastener/thread",
        "groups/0/fastener/grade",
    }
    assert all("at least 1 characters" not in e.text for e in refused.value.errors)


def test_a_value_that_was_changed_is_the_planners_own() -> None:
    document = begun_plan("wheel", "New", "a/b")
    before = next(f for f in examples_in(document) if f.where == "joint/bolts")
    document["groups"][0]["fastener"]["thread"] = "M20x1.5"
    after = next(f for f in examples_in(document) if f.where == "joint/bolts")
    assert "M18x1.5" in before.text and "M18x1.5" not in after.text and "M20x1.5" not in after.text
    document["groups"][0]["fastener"]["thread"] = "M18x1.5"
    assert "M18x1.5" in next(f for f in examples_in(document) if f.where == "joint/bolts").text


def test_examples_are_found_by_id_wherever_they_stand_and_what_is_gone_is_gone() -> None:
    document = begun_plan("wheel", "New", "a/b")
    path = next(p for p in document["examples"] if p.startswith("stages/break/"))
    document["stages"].reverse()
    assert path in left_of(document)
    document["stages"] = [s for s in document["stages"] if s["id"] != "break"]
    assert path not in left_of(document)
    assert (
        where_of("chains/main/1/multiplier") == "chains/main"
        and where_of("sources/s/says/torque/0") == "figure/"
    )


def test_differences_are_told_in_the_words_of_the_bench() -> None:
    before = blank_plan("wheel", "New", "a/b")
    after = copy.deepcopy(before)
    full = next(s for s in after["stages"] if s["id"] == "full")
    full["passes"][0]["percent"] = 95
    after["groups"][0]["fastener"]["thread"] = "M20x1.5"
    after["rechecks"][0]["at"] = ["30 km"]
    after["stages"] = [s for s in after["stages"] if s["id"] != "paint"]
    told = [(d.what, d.before, d.after) for d in differences(before, after)]
    assert ("share of pass 1 of stage “Full torque”", "100 %", "95 %") in told
    assert ("thread of “Bolts”", "M18x1.5", "M20x1.5") in told
    assert ("first at of recheck", "50 km", "30 km") in told
    assert any(what.startswith("stage “Mark") and now is None for what, _, now in told)


def changed(document: Any, chance: random.Random) -> Any:
    """A document with some of its values, parts and orders changed."""
    if isinstance(document, dict):
        return {
            k: changed(v, chance)
            for k, v in document.items()
            if k == "id" or chance.random() > 0.02
        }
    if isinstance(document, list):
        out = [changed(v, chance) for v in document if chance.random() > 0.05]
        if chance.random() < 0.1:
            chance.shuffle(out)
        return out
    return f"{document}x" if isinstance(document, str) and chance.random() < 0.02 else document


@pytest.mark.parametrize("name", plan_names())
def test_all_that_differs_taken_over_makes_the_one_the_other(name: str) -> None:
    before = plan_document(name)
    for seed in range(8):
        after = changed(before, random.Random(seed))
        now = before
        for one in differences(before, after):
            assert one.what and one.before != one.after
            now = taken_over(now, after, one.path)
        assert differences(now, after) == []


@pytest.mark.parametrize(
    "path", ["", "nowhere", "groups/none/fastener", "stages/0/1/2/3", "title/x"]
)
def test_a_place_that_neither_has_changes_nothing(path: str) -> None:
    document = plan_document("trolley-wheel")
    assert differences(document, taken_over(document, plan_document("trolley-wheel"), path)) == []


ODD: list[Any] = [
    {},
    {"groups": None, "stages": None},
    {"groups": ["x"], "stages": [1, None, {"id": "a", "passes": ["x", {"id": "p"}]}]},
    {
        "stages": {"a": 1},
        "sources": [{"id": "s", "groups": 5, "says": []}],
        "targets": [],
        "tools": "none",
    },
    {
        "stages": [
            {
                "id": "a",
                "kind": "tighten",
                "groups": None,
                "in": None,
                "items": {"x": 1},
                "checks": [None],
            }
        ],
        "groups": [{}],
    },
]


@pytest.mark.parametrize("odd", ODD, ids=str)
def test_a_draft_as_odd_as_may_be_is_compared_and_read_into_without_a_fault(odd: Doc) -> None:
    plan = blank_plan("wheel", "New", "a/b")
    other_odd = {"stages": [{"id": "a", "title": "x", "passes": [{"id": "p", "do": 1}]}]}
    for one, other in ((plan, odd), (odd, plan), (odd, other_odd)):
        now = one
        for found in differences(one, other):
            assert found.what
            now = taken_over(now, other, found.path)
    if isinstance(odd.get("stages"), list):
        assert propose(odd, "bolts", "Torque to 40 N·m in three steps, star pattern").items
    assert left_of({**odd, "examples": {"stages/a/b": 1, "": 2}}) == {}
