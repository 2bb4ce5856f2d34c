"""One group in several ways: six bolts or eight, this thread or that, chosen at the start of a
run."""

from __future__ import annotations

from typing import Any

import pytest

from orthotorq.core.documents.derived_groups import with_likes
from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.editing import edit
from orthotorq.core.planning.outline import outline
from orthotorq.core.running import choices_errors, choices_of, record_of
from orthotorq.demo.load import plan_document
from tests.core.play import Play
from tests.plans import COLD, small


def two_ways(**differs: Any) -> dict[str, Any]:
    document = small(8)
    document["groups"][0]["layout"]["diameter"] = "300 mm"
    document["variants"] = [
        {"id": "v8", "name": "eight", "choice": "n"},
        {"id": "v6", "name": "six", "choice": "n"},
    ]
    document["groups"][0]["variants"] = ["v8"]
    document["groups"].append(
        {
            "id": "six",
            "name": "Bolts",
            "like": "b",
            "variants": ["v6"],
            "layout": {"kind": "circle", "count": 6, "diameter": "200 mm"},
            **differs,
        }
    )
    document["stages"].append(
        {
            "id": "m",
            "kind": "measure",
            "condition": COLD,
            "checks": [{"id": "out", "what": "Stands out", "per": "b", "limit": {"max": "9 mm"}}],
        }
    )
    return document


@pytest.mark.parametrize(("way", "group", "count"), [("v8", "b", 8), ("v6", "six", 6)])
def test_a_run_has_the_bolts_of_its_way_and_no_others(way: str, group: str, count: int) -> None:
    play = Play(two_ways(), variants=[way])
    assert {b.place for b in play.state.bolts} == {f"{group}.{i}" for i in range(1, count + 1)}
    done = play.finish()
    half = next(p for p in play.result.stages[0].passes if p.id == "half" and p.group == group)
    assert [s.rpartition("/")[2] for s in done if "/half/" in s] == [move[0] for move in half.order]
    assert [s for s in done if s.startswith("-/m/")][1:] == [
        f"-/m/out{'' if group == 'b' else '-six'}/-/{group}.{i}" for i in range(1, count + 1)
    ]
    assert [len(t.rows) for t in record_of(play.result, play.facts).tables] == [count]
    assert play.state.status == "finished"


def test_what_differs_is_taken_and_everything_else_is_as_there() -> None:
    groups = {g.id: g for g in compute(two_ways(fastener={"thread": "M12"})).groups}
    assert groups["six"].thread.designation == "M12" and groups["b"].thread.designation == "M16"
    assert groups["six"].strength == groups["b"].strength and groups["six"].target is not None
    assert len(groups["six"].places) == 6 and groups["six"].variants == ["v6"]


def test_the_choice_is_asked_for_because_of_the_bolts() -> None:
    result = compute(two_ways())
    assert choices_of(result, "install") == ["n"]
    assert (
        choices_errors(result, "install", []) is not None
        and choices_errors(result, "install", ["v6"]) is None
    )


def test_a_choice_that_makes_no_difference_on_an_occasion_is_not_asked_for() -> None:
    result = compute(plan_document("twin-drive-wheel"))
    assert choices_of(result, "recheck") == [] and choices_of(result, "install") == [
        "helper",
        "wheels",
    ]
    assert choices_errors(result, "recheck", []) is None
    assert choices_errors(result, "recheck", ["two", "alone"]) is not None, (
        "two of one choice are wrong on any occasion"
    )


@pytest.mark.parametrize("like", ["nobody", "six"])
def test_a_group_like_none_names_what_is_wrong(like: str) -> None:
    document = two_ways()
    document["groups"][1]["like"] = like
    with pytest.raises(DocumentErrors):
        compute(document)


def test_an_unknown_variant_of_a_group_is_named() -> None:
    document = two_ways()
    document["groups"][0]["variants"] = ["v9"]
    with pytest.raises(DocumentErrors, match="v9"):
        compute(document)


def test_documents_without_likes_are_left_alone() -> None:
    document = small()
    assert with_likes(document) is document
    bare = {"id": "c", "like": "b"}
    for broken in (
        {"groups": None},
        {"groups": [1, {"like": "b"}, {"id": "b"}]},
        {"groups": [{"id": "b"}, bare]},
    ):
        assert isinstance(with_likes(broken), dict)


def test_the_planner_adds_a_way_and_takes_it_out_again() -> None:
    document = small()
    before = [dict(g) for g in document["groups"]]
    document, opened = edit(document, "vary_group", {"group": "b"})
    assert [g.get("like") for g in document["groups"]] == [
        None,
        "b",
    ] and opened == f"joint-{document['groups'][1]['id']}"
    assert len(document["variants"]) == 2 and len({v["choice"] for v in document["variants"]}) == 1
    result = compute(document)
    assert len(result.groups) == 2 and all(len(g.variants) == 1 for g in result.groups)
    kinds = [s.kind for s in outline(document, result)]
    assert kinds.count("like") == 1 and kinds.count("figure") == 1
    document, _ = edit(document, "drop_group", {"group": document["groups"][1]["id"]})
    assert document["groups"] == before and document["variants"] == []
