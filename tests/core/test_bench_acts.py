"""What a planner does on the Bench: tools of a pass, names that follow the share, own grades,
sources, numbers of bolts."""

from __future__ import annotations

from typing import Any

import pytest

from orthotorq.core.errors import Impossible, OrthotorqError
from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.kinds.pass_kind import following
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.editing import edit
from orthotorq.core.planning.templates import blank_plan
from orthotorq.demo.load import plan_document, plan_names

Doc = dict[str, Any]


def wheel() -> Doc:
    return blank_plan("wheel", "New", "a/b")


def tighten(document: Doc, name: str = "full") -> Doc:
    return next(s for s in document["stages"] if s["id"] == name)


def errors_of(document: Doc) -> dict[str, str]:
    with pytest.raises(DocumentErrors) as refused:
        compute(document)
    return {e.pointer(): e.text for e in refused.value.errors}


def test_a_pass_has_a_wrench_of_its_own_where_one_is_named() -> None:
    document, _ = edit(wheel(), "add_tool", {})
    snug = next(p for p in tighten(document, "snug")["passes"] if p.get("percent"))
    snug["chains"] = ["c2"]
    result = compute(document)
    chains = {
        p.name: [s.chain for s in p.settings] for s in result.stages for p in s.passes if p.settings
    }
    assert chains["Snug, 45 %"] == ["c2"] and chains["Full, 100 %"] == ["main"]
    assert sum(k.kind == "wrench" for k in result.kit) == 2
    assert {t.id: t.groups for t in result.tools} == {"w": ["bolts"], "w2": ["bolts"]}
    # too small a wrench for a pass is told of that pass alone
    snug["percent"] = 110
    assert any(f.code == "tool_over_range" for f in compute(document).findings)
    document, _ = edit(document, "drop_tool", {"tool": "w2"})
    assert next(p for p in tighten(document, "snug")["passes"] if p.get("percent"))["chains"] == []
    snug["chains"] = ["nowhere"]
    document["stages"] = [*document["stages"]]
    tighten(document, "snug")["passes"][-1]["chains"] = ["nowhere"]
    assert any(
        path.endswith("/chains/0") or path.endswith("/chains") for path in errors_of(document)
    )


def test_the_name_of_a_pass_never_says_another_share() -> None:
    document = wheel()
    document["stages"][0:0] = []
    passes = tighten(document)["passes"]
    passes[0].update(name="Full, 100 %", percent=92.5)
    passes[1].update(name="Once more", percent=100)
    names = [p.name for s in compute(document).stages if s.id == "full" for p in s.passes]
    assert names[:2] == ["Full, 92.5 %", "Once more"]
    assert following("30 % first, not 30 %", 35) == "35 % first, not 35 %"


def test_passes_are_moved_and_stay_at_the_ends() -> None:
    document = wheel()
    first, second = (p["id"] for p in tighten(document)["passes"][:2])
    document, opens = edit(document, "move_pass", {"stage": "full", "one": first, "by": "later"})
    assert [p["id"] for p in tighten(document)["passes"][:2]] == [
        second,
        first,
    ] and opens == "stage-full"
    document, _ = edit(document, "move_pass", {"stage": "full", "one": second, "by": "earlier"})
    assert tighten(document)["passes"][0]["id"] == second


def test_the_window_of_an_angle_follows_the_angle_where_it_is_give_or_take() -> None:
    document = plan_document("agitator-coupling")
    turned = next(
        p for s in document["stages"] for p in s.get("passes") or [] if p["do"] == "angle"
    )
    turned.pop("window", None)
    turned.update(within="4 deg")
    for turn in (40, 62):
        turned["turn"] = f"{turn} deg"
        found = next(
            p
            for s in compute(document).stages
            for p in s.passes
            if p.turn_deg is not None and p.window_deg
        )
        assert found.window_deg == [turn - 4, turn + 4]
    turned["within"] = "70 deg"
    assert any("less than the turn" in text for text in errors_of(document).values())


@pytest.mark.parametrize(
    ("kind", "filled"),
    [
        ("grade", {"yield_strength": "560 MPa", "tensile": "700 MPa"}),
        ("material", {"modulus": "120 GPa", "tensile": "300 MPa"}),
        ("lubricant", {"mu_thread": [0.1, 0.12, 0.14]}),
    ],
)
def test_an_own_entry_begins_empty_and_counts_when_it_is_filled_in(kind: str, filled: Doc) -> None:
    document, _ = edit(wheel(), "add_own", {"kind": kind, "name": "Works 700", "group": "bolts"})
    where = f"{kind}s"
    ((name, body),) = document["definitions"][where].items()
    assert any(path.startswith(f"definitions/{where}/{name}/") for path in errors_of(document))
    body.update(filled)
    result = compute(document)
    assert kind != "grade" or result.groups[0].strength.yield_MPa == 560
    assert kind != "lubricant" or result.groups[0].friction.mu_thread == [0.1, 0.12, 0.14]
    with pytest.raises(Impossible):
        edit(document, "add_own", {"kind": kind, "name": "Works 700"})
    document, _ = edit(document, "drop_own", {"kind": kind, "name": name})
    assert document["definitions"][where] == {}


def test_another_target_or_layout_invents_no_figure() -> None:
    for kind, field in (
        ("preload", "preload"),
        ("yield_fraction", "fraction"),
        ("torque", "torque"),
        ("torque+angle", "angle"),
    ):
        other = {**wheel(), "targets": {"bolts": {"kind": "ranked"}}}
        document, _ = edit(other, "set_target", {"group": "bolts", "kind": kind})
        assert document["targets"]["bolts"][field] == "" and f"targets/bolts/{field}" in errors_of(
            document
        )
    document, _ = edit(wheel(), "set_layout", {"group": "bolts", "kind": "row"})
    assert document["groups"][0]["layout"] == {"kind": "row", "count": 6, "pitch": ""}
    document, _ = edit(wheel(), "set_face", {"group": "bolts", "kind": "flat"})
    assert document["groups"][0]["fastener"]["face"] == {
        "kind": "flat",
        "face_diameter": "",
        "hole": "",
    }


def test_what_an_act_begins_is_an_example_until_changed_and_gone_when_taken_out() -> None:
    document, _ = edit(wheel(), "add_group", {})
    assert any(p.startswith("groups/g2/") for p in document["examples"])
    document, _ = edit(document, "drop_group", {"group": "g2"})
    assert "examples" not in document


def test_a_second_source_is_added_and_taken_out() -> None:
    document, _ = edit(
        wheel(), "set_target", {"group": "bolts", "kind": "source", "torque": "300 N·m"}
    )
    document, _ = edit(document, "add_source", {"group": "bolts"})
    assert [s["says"]["torque"] for s in document["sources"]] == [["300 N·m"], [""]]
    document["sources"][1]["says"]["torque"] = ["310 N·m"]
    taken = document["targets"]["bolts"]["source"]
    assert len(compute(document).groups[0].sources) == 2
    document, _ = edit(document, "drop_source", {"source": taken})
    assert document["targets"]["bolts"] == {"kind": "ranked"} and len(document["sources"]) == 1
    assert compute(document).groups[0].target is not None


@pytest.mark.parametrize("name", plan_names())
def test_no_two_bolts_of_one_run_have_the_same_number(name: str) -> None:
    result = compute(plan_document(name))
    for one in result.groups:
        for other in result.groups:
            together = (
                not one.variants or not other.variants or set(one.variants) & set(other.variants)
            )
            if one.id < other.id and together and not {one.id, other.id} <= {"bolts", "narrow"}:
                assert not {p.label for p in one.places} & {p.label for p in other.places}, (
                    one.name,
                    other.name,
                )


def test_letters_are_initials_where_they_differ_else_in_order() -> None:
    document, _ = edit(wheel(), "add_group", {})
    labels = [g.places[0].label for g in compute(document).groups]
    assert labels == ["A1", "B1"]
    document["groups"][1]["name"] = "Guard screws"
    assert [g.places[0].label for g in compute(document).groups] == ["B1", "G1"]
    document["groups"][1]["layout"]["first_label"] = 7
    assert [g.places[0].label for g in compute(document).groups] == ["1", "7"]


@pytest.mark.parametrize(
    ("act", "params"),
    [
        ("add_own", {"kind": "grade", "name": " "}),
        ("add_own", {"kind": "tool", "name": "x"}),
        ("move_pass", {"stage": "full", "one": "none", "by": "later"}),
        ("take_order", {"stage": "full", "order": "zigzag"}),
        ("take_passes", {"stage": "full", "percents": "thirty"}),
        ("drop_own", {"kind": "x", "name": "y"}),
    ],
)
def test_an_act_that_does_not_fit_is_refused_and_changes_nothing(
    act: str, params: dict[str, str]
) -> None:
    document = wheel()
    with pytest.raises(OrthotorqError):
        edit(document, act, params)
    assert document == wheel()
