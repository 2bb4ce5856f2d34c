"""Acts on a plan as typed, and the sections in which the Bench shows it."""

from __future__ import annotations

import copy
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from orthotorq.core.documents.joint import Group
from orthotorq.core.errors import OrthotorqError
from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.kinds.registry import PASS_KINDS
from orthotorq.core.kinds.stage_registry import STAGE_KINDS
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.editing import ACTS, edit
from orthotorq.core.planning.editing.group_parts import PARTS
from orthotorq.core.planning.editing.sources import SAYS
from orthotorq.core.planning.outline import outline
from orthotorq.demo.load import plan_document, plan_names
from tests.plans import COLD, small

Raw = dict[str, Any]


def done(document: Raw, act: str, **params: str) -> tuple[Raw, str]:
    """The document after an act; the one given stays as it was."""
    before = copy.deepcopy(document)
    out = edit(document, act, params)
    assert document == before
    return out


@pytest.mark.parametrize("name", plan_names())
def test_a_new_stage_of_any_kind_is_complete_in_any_plan(name: str) -> None:
    document = plan_document(name)
    for kind in STAGE_KINDS:
        document, opens = done(document, "add_stage", kind=kind, behind="")
        assert opens == f"stage-{document['stages'][-1]['id']}"
    assert [s.kind for s in compute(document).stages[-len(STAGE_KINDS) :]] == list(STAGE_KINDS)


def test_a_stage_comes_behind_the_one_that_is_open() -> None:
    first, _ = done(small(), "add_stage", kind="note", behind="")
    both, opens = done(first, "add_stage", kind="wait", behind="t")
    assert [s["kind"] for s in both["stages"]] == ["tighten", "wait", "note"]
    assert opens == f"stage-{both['stages'][1]['id']}"


def test_a_stage_moves_by_one_and_stays_at_the_ends() -> None:
    document, _ = done(small(), "add_stage", kind="note", behind="")
    note = document["stages"][1]["id"]
    earlier, opens = done(document, "move_stage", stage=note, by="earlier")
    assert [s["id"] for s in earlier["stages"]] == [note, "t"] and opens == f"stage-{note}"
    assert done(earlier, "move_stage", stage=note, by="earlier")[0] == earlier
    assert done(earlier, "move_stage", stage=note, by="later")[0]["stages"][1]["id"] == note
    assert done(document, "move_stage", stage=note, by="later")[0] == document


def test_what_is_taken_out_is_taken_out_of_all_that_names_it() -> None:
    document, _ = done(small(), "add_group")
    other = document["groups"][1]["id"]
    document["stages"][0].update(groups=["b", other], chain_for={other: "m"})
    document["sources"] = [
        {"id": "s", "by": "standard", "groups": ["b", other], "says": {"torque": ["100 N·m"]}}
    ]
    document["stages"].append(
        {
            "id": "c",
            "kind": "inspect",
            "condition": COLD,
            "after": ["t"],
            "checks": [{"id": "x", "what": "Gap", "per": other}],
        }
    )
    compute(document)
    less, _ = done(document, "drop_group", group=other)
    assert other not in str(less) and compute(less).groups[0].id == "b"
    gone, opens = done(less, "drop_stage", stage="t")
    assert opens == "" and gone["stages"][0]["after"] == []


def test_a_tool_goes_with_its_chains() -> None:
    document, opens = done(small(), "add_tool")
    assert opens == "tool-w2" and document["chains"]["c2"] == ["w2"]
    document["stages"][0].update(chains=["m", "c2"], chain_for={"b": "c2"})
    less, _ = done(document, "drop_tool", tool="w2")
    assert (
        less["stages"][0]["chains"] == ["m"]
        and less["stages"][0]["chain_for"] == {}
        and "w2" not in less["tools"]
    )


def test_links_stand_in_the_order_of_the_chain() -> None:
    document, _ = done(small(), "add_link", chain="m", kind="multiplier")
    document, opens = done(document, "add_link", chain="m", kind="adapter")
    links = [
        link if isinstance(link, str) else next(iter(link)) for link in document["chains"]["m"]
    ]
    assert links == ["w", "adapter", "multiplier"]
    assert opens == "tool-w"


@pytest.mark.parametrize("words", [words for kind in PASS_KINDS.values() for words in kind.listed])
def test_a_listed_pass_is_complete(words: str) -> None:
    document = small()
    steel = {"material": "carbon steel", "thickness": "40 mm"}
    document["groups"][0].update(stack=[steel], into={"kind": "nut", "engaged": "13 mm"})
    document, _ = done(document, "add_pass", stage="t", listed=words)
    assert compute(document).stages[0].passes[-1].do == document["stages"][0]["passes"][-1]["do"]


def test_a_pass_becomes_a_check_and_back() -> None:
    checked, _ = done(small(), "check_pass", stage="t", one="full", on="yes")
    full = checked["stages"][0]["passes"][2]
    assert full["check"] is True and full["rounds"]["until"] == "none_moves"
    assert done(checked, "check_pass", stage="t", one="full", on="")[0] == small()


@pytest.mark.parametrize(
    "kind", ["ranked", "source", "torque", "torque+angle", "preload", "yield_fraction"]
)
def test_a_target_of_any_kind_begins_with_what_there_is(kind: str) -> None:
    begun = small()
    begun["targets"] = {}
    document, _ = done(begun, "set_target", group="b", kind=kind, torque="90 N·m")
    if kind in ("torque", "source"):
        assert compute(document).groups[0].target.torque_Nm == pytest.approx(90)  # type: ignore[union-attr]
    assert document["targets"]["b"]["kind"] == ("torque" if kind == "source" else kind)


def test_a_waiver_takes_the_place_of_the_last_one() -> None:
    once, _ = done(small(), "waive", finding="x", where="groups/b", reason="first")
    twice, _ = done(once, "waive", finding="x", where="groups/b", reason="second")
    assert [w["reason"] for w in twice["waivers"]] == ["second"]


@settings(max_examples=150, deadline=None)
@given(
    act=st.sampled_from(sorted(ACTS)),
    params=st.dictionaries(
        st.sampled_from(
            [
                "stage",
                "group",
                "kind",
                "by",
                "on",
                "tool",
                "chain",
                "one",
                "listed",
                "method",
                "torque",
                "reason",
            ]
        ),
        st.sampled_from(["t", "b", "w", "m", "circle", "yes", "", "note", "nothing like it"]),
        max_size=3,
    ),
    broken=st.sampled_from(["", "stages", "groups", "tools", "targets"]),
)
def test_an_act_on_anything_works_or_says_why(
    act: str, params: dict[str, str], broken: str
) -> None:
    document = small()
    if broken:
        document[broken] = [7, {"id": "t"}, {"id": "b"}] if broken in ("stages", "groups") else {}
    try:
        out, opens = edit(document, act, params)
    except OrthotorqError as error:
        assert str(error)
    else:
        assert isinstance(out, dict) and isinstance(opens, str)


@pytest.mark.parametrize("name", plan_names())
def test_sections_stand_in_work_order_with_the_tools_before_the_first_tightening(name: str) -> None:
    document = plan_document(name)
    sections = outline(document, compute(document))
    kinds = [s.kind for s in sections]
    assert kinds[-1] == "back" and len({s.key for s in sections}) == len(sections)
    assert [s.id for s in sections if s.kind == "stage"] == [s["id"] for s in document["stages"]]
    if document.get("tools"):
        tighten = next(i for i, s in enumerate(document["stages"]) if s["kind"] == "tighten")
        assert kinds.index("tool") == kinds.index("stage") + tighten
    assert all(s.line for s in sections if s.kind in ("joint", "figure", "tool", "back"))


@pytest.mark.parametrize(
    ("path", "value", "key"),
    [
        (("groups", 0, "layout", "count"), 0, "joint-b"),
        (("groups", 0, "fastener", "thread"), "M7.3q", "joint-b"),
        (("targets", "b", "torque"), "much", "figure-b"),
        (("groups", 0, "friction", "lubricant"), "jam", "figure-b"),
        (("tools", "w", "range", 0), "x", "tool-w"),
        (("stages", 0, "passes", 1, "percent"), 900, "stage-t"),
    ],
)
def test_an_error_marks_its_section_alone(path: tuple[Any, ...], value: object, key: str) -> None:
    document: Any = small()
    part = document
    for name in path[:-1]:
        part = part[name]
    part[path[-1]] = value
    with pytest.raises(DocumentErrors) as wrong:
        compute(document)
    assert [s.key for s in outline(document, None, wrong.value.errors) if s.mark == "stop"] == [key]


def test_a_finding_marks_the_section_it_is_about() -> None:
    document = small()
    document["tools"]["w"]["length"] = "290 mm"
    marks = {s.key: s.mark for s in outline(document, compute(document))}
    assert marks["tool-w"] == "caution" and marks["joint-b"] == "good"


@pytest.mark.parametrize(
    "target",
    [
        {"kind": "yield_fraction", "fraction": 0.5},
        {"kind": "torque", "torque": "180 N·m", "reason": "so"},
        {"kind": "preload", "preload": "70 kN"},
    ],
)
def test_the_figure_of_a_remedy_replaces_any_kind_of_target(target: Raw) -> None:
    document = small()
    document["targets"]["b"], document["groups"][0]["limits"] = target, {"yield_fraction": 0.3}
    one = next(f for f in compute(document).findings if f.code == "over_share")
    after, opens = done(document, "take_remedy", **one.sets)
    assert opens == "figure-b" and after["targets"]["b"]["kind"] == "torque"
    assert after["targets"]["b"].get("reason") == target.get("reason")
    assert "over_share" not in {f.code for f in compute(after).findings}


def test_a_part_of_a_group_comes_and_goes_with_what_needs_it() -> None:
    document = small()
    for part in PARTS:
        document, _ = done(document, "set_part", group="b", part=part.name, on="yes")
        assert part.name in document["groups"][0]
    document["groups"][0]["stack"] = [{"material": "carbon steel", "thickness": "40 mm"}]
    compute(document)
    document, _ = done(document, "set_part", group="b", part="gasket", on="no")
    assert "component" not in document["groups"][0] and "work" in document["groups"][0]
    # every field that is offered is one of the document's
    for part in PARTS:
        form = Group.model_fields[part.name].annotation.__args__[0]
        assert {f.name for f in part.fields} <= set(form.model_fields), part.name


def test_a_copy_of_a_stage_stands_behind_it_and_computes() -> None:
    document = small()
    document["stages"][0]["title"] = "Tighten cold"
    out, opens = done(document, "copy_stage", stage="t")
    assert [s["title"] for s in out["stages"]] == ["Tighten cold", "Tighten cold, copy"]
    assert opens == f"stage-{out['stages'][1]['id']}"
    assert len(compute(out).stages) == 2
    out["stages"][1]["passes"][1]["percent"] = 40
    assert out["stages"][0]["passes"][1]["percent"] == 50


def test_ways_come_in_pairs_and_leave_no_trace() -> None:
    document, _ = done(small(), "add_way")
    assert [w["name"] for w in document["variants"]] == ["one way", "another way"]
    first, second = (w["id"] for w in document["variants"])
    document["stages"][0]["variants"] = [first]
    compute(document)
    third, _ = done(document, "add_way", choice="")
    assert len(third["variants"]) == 3
    gone, _ = done(document, "drop_way", way=first)
    assert "variants" not in gone["stages"][0] and [w["id"] for w in gone["variants"]] == [second]


@pytest.mark.parametrize("form", SAYS)
def test_a_source_says_one_thing_and_keeps_its_bounds(form: str) -> None:
    document, _ = done(small(), "add_source", group="b")
    document["sources"][0]["says"] = {"torque": ["90 N·m", "70 ft·lbf"], "at_most": "100 N·m"}
    document["sources"][0] |= {"holds": "first", "because": "asked"}
    out, _ = done(document, "source_says", source=document["sources"][0]["id"], form=form)
    says = out["sources"][0]["says"]
    assert says["at_most"] == "100 N·m" and "holds" not in out["sources"][0]
    assert {"torque", "range", "places", "preload", "yield_fraction"} & set(says) == (
        {form} - {"bound"}
    )


def test_a_choice_that_is_made_already_changes_nothing() -> None:
    document, _ = done(small(), "set_face", group="b", kind="flat")
    document["groups"][0]["fastener"]["face"] |= {"face_diameter": "26 mm", "hole": "13.5 mm"}
    assert done(document, "set_face", group="b", kind="flat")[0] == document
    assert done(document, "set_target", group="b", kind="torque")[0] == document
    gone, _ = done(document, "set_face", group="b", kind="table")
    assert "face" not in gone["groups"][0]["fastener"]


def test_a_flange_of_a_standard_fills_in_bolts_circle_and_gasket_and_is_not_yet_ones_own() -> None:
    document = small()
    document["groups"][0]["gasket"] = {"name": "g", "outside": "180 mm", "inside": "150 mm"}
    out, opens = done(document, "take_flange", group="b", flange="DN100 PN16")
    group = out["groups"][0]
    assert (group["layout"]["count"], group["layout"]["diameter"], group["fastener"]["thread"]) == (
        8,
        "180 mm",
        "M16",
    )
    assert (group["gasket"]["outside"], group["gasket"]["inside"], opens) == (
        "162 mm",
        "115 mm",
        "joint-b",
    )
    found = {f.code for f in compute(out).findings}
    assert "example_values" in found, "somebody has to compare it with the flange that is there"
    with pytest.raises(OrthotorqError):
        edit(document, "take_flange", {"group": "b", "flange": "DN7"})


def test_passes_of_a_manual_go_also_to_a_stage_that_is_only_done_at_a_recheck() -> None:
    document = small()
    document["stages"][0]["in"] = ["recheck"]
    out, _ = done(document, "take_passes", stage="t", percents="50 100")
    assert [p["do"] for p in out["stages"][0]["passes"]] == ["hand", "torque", "torque", "torque"]
