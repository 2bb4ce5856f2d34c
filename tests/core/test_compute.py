"""From plan to result: figures, settings, findings, field errors."""

from __future__ import annotations

import json
from typing import Any

import pytest

from orthotorq.core.documents.read import canonical, document_hash, parse_json
from orthotorq.core.errors import BadDocument
from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.compute.output.working import working
from orthotorq.core.planning.findings import RULES, Finding
from tests.plans import cover, small, wheel


def codes(document: dict[str, Any]) -> set[str]:
    return {f.code for f in compute(document).findings}


def errors(document: Any) -> dict[str, str]:
    with pytest.raises(DocumentErrors) as caught:
        compute(document)
    return {e.pointer(): e.text for e in caught.value.errors}


def test_cover_figures() -> None:
    group = compute(cover()).groups[0]
    assert group.target.set_torque_Nm == 450
    # 450 N·m over k(0.11) of M24 with D_b 29.805: 127.96 kN (public case, mu 0.11)
    assert group.preload.typical_N == pytest.approx(127.96e3 * 450 / 450.06, rel=1e-4)
    assert group.preload.low_N < group.preload.low_rss_N < group.preload.typical_N
    share = next(x for x in group.limits if x.code == "share")
    assert share.clamp_N == pytest.approx(0.625 * 660 * 352.50, rel=1e-4)
    assert group.split is not None
    assert group.split.pitch + group.split.thread + group.split.bearing == pytest.approx(1)


@pytest.mark.parametrize(
    ("meter", "unit"),
    [("km", "km"), ("h", "h"), ("d", "d"), ("cycles", "cycles"), ("starts", "cycles")],
)
def test_rechecks_are_said_in_the_unit_of_their_meter_each_reading_once_and_rising(
    meter: str, unit: str
) -> None:
    at = [f"{n} {unit}".strip() for n in (100, 50, 100)]
    plan = {
        **cover(),
        "rechecks": [
            {"id": "r", "meter": meter, "at": at, "every": f"{250} {unit}".strip()},
            {"id": "s", "meter": meter, "at": at[:1]},
        ],
    }
    first, second = compute(plan).rechecks
    assert (first.at, first.every) == ([50, 100], 250)
    assert (second.at, second.every) == ([100], None)


def test_cover_passes_are_set_and_read_on_the_scale() -> None:
    stage = next(s for s in compute(cover()).stages if s.id == "close")
    assert [p.settings[0].text if p.settings else None for p in stage.passes] == [
        None,
        "158 N·m",
        "316 N·m",
        "450 N·m",
        "450 N·m",
    ]
    scale = stage.passes[1].settings[0].scale
    assert scale is not None
    assert (scale.main, scale.collar) == ("150", "8")
    assert stage.passes[1].order[:4] == [["studs.1"], ["studs.9"], ["studs.5"], ["studs.13"]]
    assert stage.passes[4].order == [[f"studs.{i}"] for i in range(1, 17)]


def test_places_are_drawn_from_the_top_in_the_sense_given() -> None:
    document = small(4)
    first, second = compute(document).groups[0].places[:2]
    assert (first.x_mm, first.y_mm) == (0, 100)
    assert (second.x_mm, second.y_mm) == (100, 0)
    document["groups"][0]["layout"]["sense"] = "ccw"
    assert compute(document).groups[0].places[1].x_mm == -100


def test_cone_seat_and_hanging_stage_at_all_positions() -> None:
    result = compute(wheel())
    assert [p.id for p in result.positions] == ["L", "R"]
    assert next(s for s in result.stages if s.id == "snug").across == "all_positions_first"
    # cone of 30°: bearing friction doubles
    k = result.groups[0].target.set_torque_Nm * 1e3 / result.groups[0].preload.typical_N
    assert k == pytest.approx(
        1.5 / 6.283185 + 0.16 * 17.025722 / 1.7320508 + 0.32 * 23.5 / 2, rel=1e-5
    )


@pytest.mark.parametrize(
    ("target", "torque"),
    [
        ({"kind": "preload", "preload": "60 kN"}, None),
        ({"kind": "yield_fraction", "fraction": 0.5}, None),
        ({"kind": "torque", "torque": "88.5 ft·lbf"}, 119.9898),
    ],
)
def test_targets(target: dict[str, Any], torque: float | None) -> None:
    document = small()
    document["targets"]["b"] = target
    result = compute(document)
    found = result.groups[0]
    assert found.target.calculated is (torque is None)
    assert ("calculated" in codes(document)) is (torque is None)
    if torque is not None:
        assert found.target.torque_Nm == pytest.approx(torque, rel=1e-5)
    elif target["kind"] == "preload":
        assert found.preload.typical_N == pytest.approx(60e3, rel=0.01)
    else:
        assert found.preload.typical_N <= 0.5 * 640 * 156.67 * 1.0001


def test_rounding_never_passes_the_chosen_share() -> None:
    document = small()
    document["groups"][0]["limits"] = {"yield_fraction": 0.5}
    document["targets"]["b"] = {"kind": "yield_fraction", "fraction": 0.5}
    document["tools"]["w"]["increment"] = "10 N·m"
    group = compute(document).groups[0]
    assert group.target.set_torque_Nm == pytest.approx(130)
    assert group.target.torque_Nm - 10 < group.target.set_torque_Nm <= group.target.torque_Nm


def change(document: dict[str, Any], path: str, value: Any) -> dict[str, Any]:
    at: Any = document
    *parents, last = [int(p) if p.isdigit() else p for p in path.split("/")]
    for part in parents:
        at = at[part]
    if value is None:
        del at[last]
    else:
        at[last] = value
    return document


@pytest.mark.parametrize(
    ("path", "value", "code"),
    [
        ("targets/b/torque", "400 N·m", "yields"),
        ("groups/0/limits", {"yield_fraction": 0.2}, "over_share"),
        ("groups/0/limits", {"yield_fraction": 0.45}, "may_exceed_share"),
        ("groups/0/required_clamp", "90 kN", "below_required"),
        ("groups/0/required_clamp", "40 kN", "may_fall_below_required"),
        ("groups/0/fastener/history", "unknown", "history_unknown"),
        ("stages/0/passes/3/check", False, "no_check_round"),
        ("stages/0/passes/2/percent", 40, "percent_falls"),
        ("stages/0/chains", [], "no_tool"),
        ("tools/w/range", ["40 N·m", "110 N·m"], "tool_over_range"),
        ("tools/w/range", ["80 N·m", "200 N·m"], "tool_under_range"),
        ("tools/w/range", ["40 N·m", "400 N·m"], "tool_under_20"),
        ("tools/w/increment", "25 N·m", "tool_too_coarse"),
        ("tools/w/increment", "300 N·m", "setting_impossible"),
        ("tools/w/length", "250 mm", "hand_force"),
        ("tools/w/drive", "1/4 in", "drive_too_small"),
        ("groups/0/layout/count", 24, "socket_room"),
        ("groups/0/friction", {"mu_thread": [0.1, 0.12, 0.14]}, "-friction_typical"),
        ("groups/0/fastener/grade", "ASTM A307 A", "strength_assumed"),
        ("joint_kind", "wheel", "dry_seat_lubricated"),
        (
            "chains/m",
            ["w", {"multiplier": 4, "efficiency": [0.8, 0.9, 0.95], "arm": "400 mm"}],
            "reaction",
        ),
        (
            "groups/0/gasket",
            {"name": "g", "outside": "180 mm", "inside": "150 mm", "seating": "90 MPa"},
            "gasket_too_little",
        ),
        (
            "groups/0/gasket",
            {"name": "g", "outside": "180 mm", "inside": "150 mm", "damage": "8 MPa"},
            "gasket_too_much",
        ),
    ],
)
def test_findings_appear_when_they_should(path: str, value: Any, code: str) -> None:
    wanted, name = not code.startswith("-"), code.removeprefix("-")
    assert (name in codes(small())) is not wanted
    assert (name in codes(change(small(), path, value))) is wanted


def test_a_pair_of_units_is_compared() -> None:
    document = cover()
    assert "pair_agrees" in codes(document)
    document["sources"][0]["says"]["torque"] = ["450 N·m", "266 ft·lbf"]
    # another source is far nearer to one of the two
    found = next(f for f in compute(document).findings if f.code == "pair_mismatch")
    assert (
        "-19.9 %" in found.text
        and "gasket maker, gasket sheet 12 (440 N·m) supports 450 N·m" in found.text
    )


def test_every_finding_has_its_row_with_a_remedy() -> None:
    assert set(RULES) == set(Finding)
    for code, rule in RULES.items():
        assert rule.text and rule.remedy, code
        assert rule.waivable == (rule.role is not None), code
        assert rule.waivable or rule.severity == "stop", code


def test_no_finding_repeats_another() -> None:
    for document in (cover(), wheel(), change(small(), "targets/b/torque", "400 N·m")):
        found = [(f.code, f.where, f.text) for f in compute(document).findings]
        assert len(found) == len(set(found))


@pytest.mark.parametrize(
    "figure",
    [
        "studs/torque",
        "studs/preload",
        "studs/limit/share",
        "studs/limit/combined",
        "studs/limit/proof",
        "studs/limit/required",
        "studs/limit/gasket_seating",
        "close/full/studs/setting/main",
    ],
)
def test_every_figure_has_its_working(figure: str) -> None:
    found = working(cover(), figure)
    assert found.steps or found.notes
    for step in found.steps:
        assert step.source and step.tex and step.inputs


def test_working_ends_at_the_figure_shown() -> None:
    group = compute(cover()).groups[0]
    results = [s.result for s in working(cover(), "studs/preload").steps]
    for value in (group.preload.typical_N, group.preload.low_N, group.preload.high_N):
        assert any(r.startswith(f"{value / 1e3:.5g}") for r in results)


@pytest.mark.parametrize(
    "figure",
    ["studs/nothing", "x", "nobody/torque", "close/full/studs/setting/other", "a/b/c/d/e/f"],
)
def test_a_figure_that_is_not_there_is_refused(figure: str) -> None:
    with pytest.raises(LookupError, match="figure"):
        working(cover(), figure)


def test_result_is_the_same_for_the_same_plan() -> None:
    assert (
        compute(cover()).model_dump_json()
        == compute(json.loads(json.dumps(cover()))).model_dump_json()
    )
    shuffled = dict(reversed(list(cover().items())))
    assert document_hash(shuffled) == document_hash(cover())
    assert json.loads(canonical(cover())) == cover()


@pytest.mark.parametrize(
    ("path", "value", "where"),
    [
        ("version", 4, "version"),
        ("format", "other", "format"),
        ("groups", [], "groups"),
        ("groups/0/layout/count", 401, "groups/0/layout/count"),
        ("groups/0/layout/count", 2.5, "groups/0/layout/count"),
        ("groups/0/layout/diameter", "20 mm", "groups/0/layout"),
        ("groups/0/fastener/thread", "M17", "groups/0/fastener/thread"),
        ("groups/0/fastener/grade", "8.9", "groups/0/fastener/grade"),
        ("groups/0/friction/lubricant", "honey", "groups/0/friction/lubricant"),
        ("groups/0/friction", {}, "groups/0/friction"),
        ("groups/0/friction", {"mu_thread": [0.2, 0.1, 0.3]}, "groups/0/friction/mu_thread"),
        ("groups/0/friction", {"mu_thread": [0, 0.1, 0.3]}, "groups/0/friction/mu_thread"),
        ("groups/0/friction", {"mu_thread": [0.1, 0.2, 1.3]}, "groups/0/friction/mu_thread"),
        (
            "groups/0/fastener/face",
            {"kind": "flat", "face_diameter": "20 mm", "hole": "22 mm"},
            "groups/0/fastener/face/hole",
        ),
        ("groups/0/fastener/face", {"kind": "round"}, "groups/0/fastener/face/kind"),
        ("groups/0/fastener/thread", "M90x6", "groups/0/fastener/face"),
        ("targets", {}, "targets"),
        ("targets/b/torque", "1,200 N·m", "targets/b/torque"),
        ("targets/b/torque", "-5 N·m", "targets/b/torque"),
        ("targets/b/torque", "0 N·m", "targets/b/torque"),
        ("targets/b/torque", 120, "targets/b/torque"),
        ("targets/b/source", "s9", "targets/b"),
        ("targets/z", {"kind": "torque", "torque": "1 N·m"}, "targets/z"),
        ("stages/0/passes/1/percent", 111, "stages/0/passes/1/percent"),
        ("stages/0/passes/1/percent", 0, "stages/0/passes/1/percent"),
        ("stages/0/passes/1/id", "full", "stages/0/passes/2/id"),
        ("stages/0/passes/1/id", "condition", "stages/0/passes/1/id"),
        ("stages/0/condition", [], "stages/0/condition"),
        ("stages/0/groups", ["x"], "stages/0/groups/0"),
        ("stages/0/chains", ["x"], "stages/0/chains/0"),
        ("stages/0/kind", "dance", "stages/0/kind"),
        ("stages/0/passes/3/order", {"kind": "circle", "start": 9}, "stages/0/passes/3/order"),
        ("stages/0/passes/3/order", {"kind": "cross", "tools": 3}, "stages/0/passes/3/order"),
        ("tools/w/range", ["200 N·m", "40 N·m"], "tools/w/range"),
        ("chains/m", ["x"], "chains/m/0"),
        ("chains/m", ["w", {"multiplier": 5}, {"adapter": "90 mm"}], "chains/m/2"),
        ("surprise", 1, "surprise"),
        ("groups/0/fastener/prevailing", "130 N·m", "targets/b/torque"),
    ],
)
def test_bad_fields_are_refused_at_their_path(path: str, value: Any, where: str) -> None:
    found = errors(change(small(), path, value))
    assert where in found, found
    assert len(found[where]) > 10


def test_all_errors_are_named_at_once() -> None:
    document = change(small(), "groups/0/layout/count", "x")
    document = change(document, "stages/0/passes/1/percent", 140)
    assert set(errors(change(document, "title", ""))) == {
        "groups/0/layout/count",
        "stages/0/passes/1/percent",
        "title",
    }


@pytest.mark.parametrize("document", [None, [], "text", 3, {}, {"format": "orthotorq.plan"}])
def test_what_is_no_plan_is_refused(document: Any) -> None:
    assert errors(document)


@pytest.mark.parametrize(
    "text",
    ["", "{", '{"a": "\\u0000"}', '{"a": "\\ud800"}', '{"a": NaN}', "[" * 100_000, " " * 3_000_000],
)
def test_what_is_no_json_is_refused(text: str) -> None:
    with pytest.raises(BadDocument):
        parse_json(text)


def test_writing_about_an_escape_is_no_escape() -> None:
    assert parse_json(r'{"a": "\\u0000 is NUL"}') == {"a": r"\u0000 is NUL"}
