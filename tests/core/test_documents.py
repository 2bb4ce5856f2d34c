"""The plan document: own definitions, chains, orders, positions, and what the result says of
them."""

from __future__ import annotations

import json
import math
from typing import Any

import pytest
import rfc8785
from hypothesis import given, settings
from hypothesis import strategies as st

from orthotorq.core.documents.read import canonical, document_hash, parse_json, read_plan
from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.planning.compute import compute
from orthotorq.core.sums import answer
from orthotorq.demo.load import plan_document, plan_names
from tests.plans import cover, small, wheel


def first_setting(document: dict[str, Any], number: int = 2) -> Any:
    return compute(document).stages[0].passes[number].settings[0]


@pytest.mark.parametrize("make", [cover, wheel, small])
def test_a_plan_goes_through_the_model_and_back(make) -> None:
    document = make()
    again = json.loads(read_plan(document).model_dump_json(by_alias=True, exclude_unset=True))
    assert canonical(again) == canonical(document)
    assert document_hash(again) == document_hash(document)


def test_what_a_person_typed_is_kept_as_typed() -> None:
    document = small()
    document["targets"]["b"]["torque"] = "88,5 ft-lb"
    plan = read_plan(document)
    assert str(plan.targets["b"].torque) == "88,5 ft-lb"
    assert plan.model_dump()["targets"]["b"]["torque"] == "88,5 ft-lb"


def test_own_grade_and_own_friction_stand_in_the_plan() -> None:
    document = small()
    document["definitions"] = {
        "grades": {
            "Vellmark stud": {
                "yield_strength": "700 MPa",
                "tensile": "860 MPa",
                "source": "certificate 12",
            }
        },
        "lubricants": {
            "brine-wax": {"name": "Brine wax", "mu_thread": [0.09, 0.1, 0.11], "source": "measured"}
        },
    }
    document["groups"][0]["fastener"]["grade"] = "Vellmark stud"
    document["groups"][0]["friction"] = {"lubricant": "brine-wax"}
    group = compute(document).groups[0]
    assert (group.strength.yield_MPa, group.strength.certainty) == (700, "own entry")
    assert (group.friction.name, group.friction.source) == ("Brine wax", "measured")
    assert group.friction.mu_bearing == [0.09, 0.1, 0.11]


def test_a_nut_factor_uses_the_short_form() -> None:
    document = small()
    document["groups"][0]["friction"] = {"nut_factor": [0.15, 0.18, 0.22]}
    group = compute(document).groups[0]
    assert group.friction.form == "short"
    assert group.preload.typical_N == pytest.approx(120e3 / (0.18 * 16))
    assert group.split is None
    # K does not say where the torque goes: thread and face alike, at the low end of the band for
    # the high load
    mu = (0.15 * 16 - 2 / (2 * math.pi)) / (
        14.701 / (2 * math.cos(math.radians(30))) + group.thread.effective_diameter_mm / 2
    )
    d0, lead = (14.701 + 13.546) / 2, math.atan(2 / (math.pi * 14.701))
    torsion = 1.5 * 14.701 / d0 * math.tan(lead + math.atan(mu / math.cos(math.radians(30))))
    combined = next(x for x in group.limits if x.code == "combined")
    assert combined.clamp_N == pytest.approx(
        0.9 * 640 * 156.67 / math.sqrt(1 + 3 * torsion**2), rel=1e-4
    )


def test_a_chain_of_adapter_and_multiplier_is_the_quick_sum() -> None:
    document = small()
    document["targets"]["b"]["torque"] = "150 N·m"
    document["tools"]["w"].update(length="500 mm", range=["5 N·m", "25 N·m"], increment="0.5 N·m")
    document["chains"]["m"] = [
        "w",
        {"adapter": "80 mm", "angle": "0 deg"},
        {"multiplier": 6, "efficiency": [0.85, 0.9, 0.95], "arm": "300 mm"},
    ]
    found = first_setting(document)
    asked = answer(
        "tool",
        {
            "torque": "150 N·m",
            "length": "500 mm",
            "adapter": "80 mm",
            "ratio": ["6"],
            "efficiency": ["0.9"],
            "arm": "300 mm",
            "increment": "0.5 N·m",
        },
    ).figures
    assert found.exact_Nm == pytest.approx(asked["setting_Nm"])
    assert found.settable_Nm == pytest.approx(asked["settable_Nm"])
    assert found.error * 100 == pytest.approx(asked["error_percent"])
    # the reaction belongs to what is really set
    assert found.reaction_Nm == pytest.approx(
        asked["reaction_torque_Nm"] * (1 + found.error), rel=1e-9
    )


def test_the_efficiency_band_widens_the_window() -> None:
    plain, geared = small(), small()
    geared["tools"]["w"]["range"] = ["5 N·m", "40 N·m"]
    geared["chains"]["m"] = ["w", {"multiplier": 5, "efficiency": [0.8, 0.9, 1.0]}]
    a, b = (compute(d).groups[0].preload for d in (plain, geared))
    assert b.high_N / b.typical_N > a.high_N / a.typical_N * 1.05
    assert b.low_N / b.typical_N < a.low_N / a.typical_N * 0.95


@pytest.mark.parametrize(
    ("increment", "unit", "figure"),
    [
        ("0.5 N·m", ["40 N·m", "200 N·m"], "120.0"),
        ("5 N·m", ["40 N·m", "200 N·m"], "120"),
        ("1 ft·lbf", ["30 ft·lbf", "150 ft·lbf"], "89"),
        ("0.2 kgf·m", ["4 kgf·m", "20 kgf·m"], "12.2"),
    ],
)
def test_settings_are_written_in_the_unit_of_the_wrench(
    increment: str, unit: list[str], figure: str
) -> None:
    document = small()
    document["tools"]["w"].update(range=unit, increment=increment)
    found = first_setting(document)
    assert (found.figure, found.text.split(" ", 1)[1]) == (figure, unit[0].split(" ")[1])
    assert found.second.endswith("N·m" if "ft" in unit[0] else "ft·lbf")


@pytest.mark.parametrize(
    ("torque", "main", "collar"),
    [("120 N·m", "120", "0"), ("127 N·m", "120", "7"), ("139 N·m", "130", "9")],
)
def test_two_part_scales(torque: str, main: str, collar: str) -> None:
    document = small()
    document["tools"]["w"]["mark"] = "10 N·m"
    document["targets"]["b"]["torque"] = torque
    scale = first_setting(document).scale
    assert scale is not None
    assert (scale.main, scale.collar) == (main, collar)


def test_orders_of_passes_follow_their_fields() -> None:
    document = small(8)
    document["groups"][0]["layout"]["diameter"] = "400 mm"
    document["stages"][0]["passes"][1]["order"] = {"kind": "cross", "start": 3, "sense": "ccw"}
    document["stages"][0]["passes"][2]["order"] = {"kind": "star", "tools": 2}
    passes = compute(document).stages[0].passes
    assert passes[1].order[:2] == [["b.3"], ["b.7"]]
    assert passes[2].order == [["b.1", "b.5"], ["b.3", "b.7"], ["b.2", "b.6"], ["b.4", "b.8"]]


def test_several_groups_with_own_targets() -> None:
    document = small()
    document["groups"].append(
        {
            **document["groups"][0],
            "id": "c",
            "name": "Small ones",
            "fastener": {"thread": "M12", "grade": "ISO 898-1 8.8"},
            "layout": {"kind": "circle", "count": 6, "diameter": "300 mm"},
        }
    )
    document["targets"]["c"] = {"kind": "torque", "torque": "50 N·m"}
    document["stages"][0]["groups"] = ["b", "c"]
    result = compute(document)
    assert [(p.id, p.group, p.torque_Nm) for p in result.stages[0].passes[2:6]] == [
        ("half", "b", 60.0),
        ("half", "c", 25.0),
        ("full", "b", 120.0),
        ("full", "c", 50.0),
    ]
    assert [len(g.places) for g in result.groups] == [4, 6]


def test_a_measured_reading_keeps_its_limits_and_unit() -> None:
    stage = next(s for s in compute(cover()).stages if s.id == "gap")
    assert (
        stage.items[0].min,
        stage.items[0].max,
        stage.items[0].unit,
        stage.items[0].quantity,
    ) == (3.0, 3.6, "mm", "length")
    assert stage.items[0].limit_text == "at least 3.0 mm, at most 3.6 mm"


def test_a_window_says_whether_it_fits_and_what_opens_it() -> None:
    def verdict(**group: Any) -> Any:
        document = small()
        document["groups"][0].update(group)
        return compute(document).groups[0].window

    assert verdict(friction={"mu_thread": [0.11, 0.12, 0.13]}).verdict == "fine"
    tight = verdict(limits={"yield_fraction": 0.5})
    assert (tight.verdict, tight.opens) == ("tight", "a lower torque")
    impossible = verdict(required_clamp="90 kN", limits={"yield_fraction": 0.5})
    assert impossible.verdict == "impossible"
    assert "lies above" in impossible.opens
    scatter = verdict(required_clamp="42 kN", limits={"yield_fraction": 0.55})
    assert scatter.opens.startswith("a narrower friction band")


@pytest.mark.parametrize(
    ("path", "value"),
    [
        (("chains", "m"), [{"adapter": "90 mm"}]),
        (("chains", "m"), ["w", "w"]),
        (("chains", "m"), []),
        (("chains", "m"), ["w", {"multiplier": 1}]),
        (("chains", "m"), ["w", {"gear": 2}]),
        (("chains", "m"), ["w", {"multiplier": 5, "efficiency": [0.9, 1.2, 1.3]}]),
    ],
)
def test_chains_that_cannot_be(path: tuple[str, str], value: Any) -> None:
    document = small()
    document[path[0]][path[1]] = value
    with pytest.raises(DocumentErrors) as caught:
        compute(document)
    assert all(e.pointer().startswith("chains/m") for e in caught.value.errors)


def test_large_whole_numbers_and_deep_nesting_do_no_harm() -> None:
    document = small()
    document["title"] = "x" * 120
    document["stages"][0]["passes"][1]["percent"] = 10**300
    with pytest.raises(DocumentErrors):
        compute(document)
    deep: Any = "x"
    for _ in range(400):
        deep = [deep]
    document = small()
    document["groups"][0]["layout"] = deep
    with pytest.raises(DocumentErrors):
        compute(document)
    assert parse_json('{"a": 1}') == {"a": 1}


PLAIN = st.recursive(
    st.none()
    | st.booleans()
    | st.integers(-(2**60), 2**60)
    | st.floats()
    | st.text(max_size=12)
    | st.sampled_from(
        [
            "\u2028",
            "\x7f",
            "\x1f",
            '"\\',
            "é",
            "💥",
            3.0,
            1e-5,
            0.0001,
            1e16,
            0.1,
            -0.0,
            2**53 - 1,
            2**53,
        ]
    ),
    lambda inner: (
        st.lists(inner, max_size=4) | st.dictionaries(st.text(max_size=6), inner, max_size=4)
    ),
    max_leaves=15,
)


@settings(max_examples=400, deadline=None)
@given(PLAIN)
def test_the_canonical_text_is_the_librarys(value: Any) -> None:
    try:
        wanted: str | None = rfc8785.dumps(value).decode()
    except ValueError:
        wanted = None
    try:
        found: str | None = canonical(value)
    except ValueError:
        found = None
    assert found == wanted


@pytest.mark.parametrize("name", plan_names())
def test_the_canonical_text_of_every_plan_is_the_librarys(name: str) -> None:
    assert canonical(plan_document(name)) == rfc8785.dumps(plan_document(name)).decode()


@pytest.mark.parametrize(
    ("path", "text", "meant"),
    [
        ("groups/0/limits/yield_fraction", "65 %", 0.65),
        ("groups/0/limits/yield_fraction", "65", 0.65),
        ("groups/0/limits/yield_fraction", "0,65", 0.65),
        ("tools/w/accuracy", "4", 0.04),
        ("tools/w/accuracy", "± 4 %", 0.04),
        ("groups/0/friction/mu_thread", "0.10 – 0.12 – 0.14", [0.1, 0.12, 0.14]),
        ("groups/0/friction/mu_thread", "0.12 ± 0.02", [0.1, 0.12, 0.14]),
        ("stages/0/passes/1/percent", "50 %", 50.0),
    ],
)
def test_shares_percent_and_bands_are_read_as_people_write_them(
    path: str, text: str, meant: Any
) -> None:
    document = small()
    *parents, last = [int(p) if p.isdigit() else p for p in path.split("/")]
    at: Any = document
    for part in parents:
        at = at.setdefault(part, {}) if isinstance(at, dict) else at[part]
    at[last] = text
    read: Any = read_plan(document)
    for name in (*parents, last):
        read = read[name] if isinstance(read, list | dict) else getattr(read, name)
    assert read == pytest.approx(meant)


@pytest.mark.parametrize(("ratio", "meant"), [("3:1", 3.0), ("1 : 4", 4.0), ("3.5", 3.5), (5, 5.0)])
def test_a_ratio_is_read_either_way_round(ratio: Any, meant: float) -> None:
    document = small()
    document["chains"]["m"] = ["w", {"multiplier": ratio, "efficiency": "87 90 93 %"}]
    link: Any = read_plan(document).chains["m"][1]
    assert (link.multiplier, link.efficiency) == (meant, pytest.approx([0.87, 0.9, 0.93]))


@pytest.mark.parametrize(
    ("path", "text"),
    [
        ("groups/0/limits/yield_fraction", "half"),
        ("groups/0/limits/yield_fraction", "-5 %"),
        ("groups/0/friction/mu_thread", "low"),
        ("groups/0/friction/mu_thread", "0.1 0.2 0.3 0.4"),
        ("stages/0/passes/1/percent", "all"),
    ],
)
def test_what_is_no_share_or_band_is_named_at_its_field(path: str, text: str) -> None:
    document = small()
    *parents, last = [int(p) if p.isdigit() else p for p in path.split("/")]
    at: Any = document
    for part in parents:
        at = at.setdefault(part, {}) if isinstance(at, dict) else at[part]
    at[last] = text
    with pytest.raises(DocumentErrors) as refused:
        read_plan(document)
    assert path in {e.pointer() for e in refused.value.errors}
