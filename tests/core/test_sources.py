"""Sources: what is valid, what ranks first, pairs and which reading the rest supports, bounds; the
limits that hang on parts."""

from __future__ import annotations

import math
from typing import Any

import pytest

from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.forms.group import GroupOut
from orthotorq.core.mechanics.losses import ROUGHNESS, embedding
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.compute.load.tool_binding import BoundTool, bound_settings
from orthotorq.core.planning.compute.output.alternatives import alternatives
from orthotorq.core.planning.compute.output.working import working
from tests.core.test_compute import errors
from tests.plans import cover, small


def with_sources(*sources: dict[str, Any], target: dict[str, Any] | None = None) -> dict[str, Any]:
    document = small()
    document["sources"] = [{"id": f"s{i}", "groups": ["b"], **s} for i, s in enumerate(sources)]
    document["targets"]["b"] = target or {"kind": "ranked"}
    return document


def group(document: dict[str, Any]) -> GroupOut:
    return compute(document).groups[0]


def torque(document: dict[str, Any]) -> float:
    found = group(document).target
    assert found is not None
    return round(found.torque_Nm, 3)


def says(*torques: str) -> dict[str, Any]:
    return {"torque": list(torques)}


RANKS = ["equipment maker", "part maker", "standard", "site rule", "calculation"]


@pytest.mark.parametrize("first", range(len(RANKS)))
def test_the_highest_rank_is_taken_whatever_the_order(first: int) -> None:
    sources = [{"by": by, "says": says(f"{100 + i} N·m")} for i, by in enumerate(RANKS)][first:]
    assert torque(with_sources(*reversed(sources))) == 100 + first


@pytest.mark.parametrize(
    ("valid", "struck"),
    [
        ({"thread": "M16"}, False),
        ({"thread": "m16 x 2"}, False),
        ({"thread": "M20"}, True),
        ({"grade": "ISO 898-1 8.8"}, False),
        ({"grade": "ISO 898-1 10.9"}, True),
        ({"lubricant": "light-oil"}, False),
        ({"lubricant": "moly-paste"}, True),
        ({"count": 4}, False),
        ({"count": 6}, True),
        ({"gasket": "flat"}, True),
    ],
)
def test_validity_comes_before_rank(valid: dict[str, Any], struck: bool) -> None:
    document = with_sources(
        {"by": "equipment maker", "says": says("130 N·m"), "valid_for": valid},
        {"by": "site rule", "says": says("110 N·m")},
    )
    assert torque(document) == (110 if struck else 130)
    found = group(document).sources
    assert found[0].verdict == ("struck" if struck else "taken")
    assert bool(found[0].why) is struck


def test_a_range_gives_its_middle_and_places_the_first() -> None:
    assert (
        torque(with_sources({"by": "standard", "says": {"range": ["100 N·m", "120 N·m"]}})) == 110
    )
    places = {"places": [{"at": "p. 3", "torque": "105 N·m"}, {"at": "p. 8", "torque": "115 N·m"}]}
    assert torque(with_sources({"by": "standard", "says": places})) == 105


@pytest.mark.parametrize(
    ("pair", "rest", "taken"),
    [
        (("120 N·m", "75 ft·lbf"), "118 N·m", 120),
        (("120 N·m", "75 ft·lbf"), "100 N·m", 101.686),
        (("120 N·m", "89 ft·lbf"), "90 N·m", 120),
    ],
)
def test_the_rest_decides_between_two_units_that_disagree(
    pair: tuple[str, str], rest: str, taken: float
) -> None:
    document = with_sources(
        {"by": "equipment maker", "says": says(*pair)}, {"by": "site rule", "says": says(rest)}
    )
    assert torque(document) == pytest.approx(taken, abs=1e-3)


def test_shares_and_clamp_loads_of_sources_are_calculated() -> None:
    found = group(with_sources({"by": "standard", "says": {"yield_fraction": 0.5}}))
    assert found.target is not None and found.preload is not None
    assert found.target.calculated
    assert found.preload.typical_N == pytest.approx(0.5 * 640 * 156.67, rel=0.01)
    found = group(with_sources({"by": "standard", "says": {"preload": "50 kN"}}))
    assert found.preload is not None
    assert found.preload.typical_N == pytest.approx(50e3, rel=0.01)


@pytest.mark.parametrize(
    ("document", "path"),
    [
        (with_sources({"by": "standard", "says": {}}), "targets/b"),
        (
            with_sources({"by": "standard", "says": {}}, target={"kind": "torque", "source": "s0"}),
            "targets/b/source",
        ),
        (
            with_sources({"by": "standard", "says": {"torque": ["1 N·m"], "preload": "1 kN"}}),
            "sources/0/says/preload",
        ),
        (
            with_sources({"by": "standard", "says": {"range": ["120 N·m", "100 N·m"]}}),
            "sources/0/says/range",
        ),
        (with_sources({"by": "neighbour", "says": says("1 N·m")}), "sources/0/by"),
        (
            with_sources({"by": "standard", "says": says("1 N·m"), "valid_for": {"thread": "M17"}}),
            "sources/0/valid_for/thread",
        ),
        (
            with_sources(target={"kind": "torque+angle", "torque": "60 N·m", "angle": "60 deg"}),
            "groups/0/stack",
        ),
        (with_sources(target={"kind": "ranked"}), "targets/b"),
    ],
)
def test_sources_and_targets_that_cannot_be_are_refused_by_path(
    document: dict[str, Any], path: str
) -> None:
    assert path in errors(document)


def test_a_cone_seat_and_a_root_area_count_in_the_share() -> None:
    document = small()
    document["groups"][0]["limits"] = {"yield_fraction": 0.5, "area": "root"}
    share = next(x for x in group(document).limits if x.code == "share")
    assert share.clamp_N == pytest.approx(0.5 * 640 * math.pi / 4 * 13.546**2, rel=1e-4)


@pytest.mark.parametrize(
    ("faces", "joints", "micrometres"), [(2, 1, 11.0), (2, 0, 9.0), (1, 1, 8.0)]
)
def test_embedding_adds_up_over_its_faces(faces: int, joints: int, micrometres: float) -> None:
    assert embedding(ROUGHNESS["10 to 40 µm"], faces, joints) * 1e3 == pytest.approx(micrometres)


def test_losses_come_off_the_low_end_for_what_must_hold_in_service() -> None:
    document = small()
    low = group(document).preload
    assert low is not None
    document["groups"][0]["required_clamp"] = f"{low.low_N - 1000:.0f} N"
    assert group(document).window is not None
    assert group(document).window.verdict == "fine"  # type: ignore[union-attr]
    document["groups"][0]["stack"] = [
        {"material": "carbon steel", "thickness": "50 mm", "outside": "50 mm"}
    ]
    settled = group(document)
    assert settled.losses.embedding_N is not None and settled.losses.embedding_N > 1000
    assert settled.window is not None and settled.window.verdict == "tight"


def test_every_figure_on_the_bench_has_its_working() -> None:
    document = cover()
    found = group(document)
    names = [
        "torque",
        "preload",
        "stiffness",
        "losses",
        "teeth",
        "split",
        *(f"limit/{x.id}" for x in found.limits),
    ]
    for name in names:
        made = working(document, f"studs/{name}")
        assert made.steps or made.notes, name
        assert all(s.source for s in made.steps)
    stripping = next(x for x in found.limits if x.code == "stripping")
    assert any(
        s.result.startswith(f"{stripping.clamp_N / 1e3:.5g}")
        for s in working(document, "studs/limit/stripping").steps
    )


def test_another_lubricant_both_ways() -> None:
    document = cover()
    found = {
        a.lubricant: a
        for a in alternatives(document, "studs", ["light-oil", "moly-paste", "honey"])
    }
    assert set(found) == {"light-oil", "moly-paste"}
    oil = found["light-oil"]
    document["groups"][0]["friction"] = {"lubricant": "light-oil"}
    document["targets"]["studs"] = {"kind": "torque", "torque": f"{oil.same_clamp_Nm:.3f} N·m"}
    document["tools"]["w"].pop("increment")
    document["tools"]["w"].pop("mark")
    now, before = group(document).preload, group(cover()).preload
    assert now is not None and before is not None
    assert now.typical_N == pytest.approx(before.typical_N, rel=1e-4)
    with pytest.raises(LookupError):
        alternatives(cover(), "nobody", ["light-oil"])
    with pytest.raises(DocumentErrors):
        alternatives({}, "studs", ["light-oil"])


def test_settings_for_a_bound_tool_and_one_that_does_not_reach() -> None:
    from orthotorq.core.documents.read import read_plan
    from orthotorq.core.documents.tooling import Tool
    from orthotorq.core.errors import Impossible

    plan, result = read_plan(cover()), compute(cover())
    coarse = Tool.model_validate(
        {"kind": "click wrench", "range": ["100 N·m", "500 N·m"], "increment": "10 N·m"}
    )
    found = bound_settings(plan, result, {"w": BoundTool("TW-1", coarse)})
    assert [found[f"close/{p}/studs"][0].text for p in ("first", "second", "full")] == [
        "160 N·m",
        "320 N·m",
        "450 N·m",
    ]
    short = Tool.model_validate({"kind": "click wrench", "range": ["100 N·m", "400 N·m"]})
    with pytest.raises(Impossible, match="TW-2 goes from 100 to 400"):
        bound_settings(plan, result, {"w": BoundTool("TW-2", short)})
