"""Each finding of the table with a change of a small plan that brings it about."""

from __future__ import annotations

import copy
from collections.abc import Callable
from typing import Any

from orthotorq.core.planning.findings import Finding
from tests.plans import COLD

Doc = dict[str, Any]


HOT = {"pressure": "off", "temperature": "hot", "says": "after the first run"}


def put(path: str, value: Any) -> Callable[[Doc], None]:
    """A change of one field, made where parents are missing."""

    def change(document: Doc) -> None:
        at: Any = document
        *parents, last = [int(p) if p.isdigit() else p for p in path.split("/")]
        for part in parents:
            at = at.setdefault(part, {}) if isinstance(at, dict) else at[part]
        at[last] = value

    return change


def stage(**fields: Any) -> Callable[[Doc], None]:
    return lambda document: document["stages"].append(fields)


def first(**fields: Any) -> Callable[[Doc], None]:
    return lambda document: document["stages"].insert(0, fields)


def source(identifier: str, by: str, says: Doc, **more: Any) -> Callable[[Doc], None]:
    return lambda d: d.setdefault("sources", []).append(
        {"id": identifier, "groups": ["b"], "by": by, "says": says, **more}
    )


def both(*changes: Callable[[Doc], None]) -> Callable[[Doc], None]:
    def change(document: Doc) -> None:
        for one in changes:
            one(document)

    return change


def stretched(
    pressure: str, wanted: str | None = None, check: bool = True
) -> Callable[[Doc], None]:
    """The bolts stretched instead of pulled, to the load that is left unless another is wanted."""
    bar = float(pressure.split()[0])
    one = {
        "do": "stretch",
        "pressure": pressure,
        "area": "1530 mm²",
        "transfer": [1.25, 1.25, 1.25],
    }
    last = {"id": "p2", **one, "check": True, "order": {"kind": "circle"}}
    return both(
        put("targets/b", {"kind": "preload", "preload": wanted or f"{bar * 0.1224:.3f} kN"}),
        put("stages/0/passes", [{"id": "p1", **one}, *([last] if check else [])]),
    )


STEEL = [{"material": "carbon steel", "thickness": "60 mm", "outside": "60 mm"}]


GASKET = {"name": "g", "outside": "180 mm", "inside": "150 mm"}


LOCKER = {
    "id": "lock",
    "kind": "apply",
    "what": "Medium threadlocker",
    "groups": ["b"],
    "faces": ["thread"],
    "sets_in": "30 s",
}


AGAIN = {
    "id": "again",
    "kind": "tighten",
    "in": ["recheck"],
    "groups": ["b"],
    "chains": ["m"],
    "passes": [{"id": "c", "do": "torque", "percent": 100, "check": True}],
}


MULTIPLIER = ["w", {"multiplier": 4, "efficiency": [0.8, 0.9, 0.95], "arm": "400 mm"}]


SECOND = {
    "id": "c",
    "name": "More",
    "layout": {"kind": "circle", "count": 4, "diameter": "400 mm"},
    "fastener": {"thread": "M16", "grade": "ISO 898-1 8.8"},
    "friction": {"lubricant": "light-oil"},
}


TWO_GROUPS = both(
    lambda d: d["groups"].append(copy.deepcopy(SECOND)),
    put("targets/c", {"kind": "torque", "torque": "40 N·m"}),
    put("stages/0/groups", ["b", "c"]),
    put("tools/w/range", ["10 N·m", "150 N·m"]),
)


PRESET = {"kind": "preset driver", "range": ["80 N·m", "80 N·m"]}


INTO = "groups/0/into"


def work(**loads: Any) -> Callable[[Doc], None]:
    return both(put("groups/0/stack", STEEL), put("groups/0/work", loads))


def hot(material: str, bolt: str, parts: str) -> Callable[[Doc], None]:
    return both(
        put("groups/0/stack", [{**STEEL[0], "material": material}]),
        put("groups/0/at_work", {"bolt": bolt, "parts": parts}),
    )


def component(**figures: Any) -> Callable[[Doc], None]:
    return both(
        put("groups/0/gasket", GASKET),
        put("groups/0/component", {"target_stress": "20 MPa", **figures}),
    )


OWN_PROOF = both(
    put("groups/0/fastener/grade", "own"),
    put(
        "definitions/grades",
        {"own": {"yield_strength": "900 MPa", "tensile": "1000 MPa", "proof": "400 MPa"}},
    ),
)


WHEEL_ON: Doc = {"id": "on", "kind": "fit", "what": "wheel", "brings": ["wheel hanging"]}


CASES: list[tuple[Finding, Callable[[Doc], None]]] = [
    (Finding.YIELDS, put("targets/b/torque", "400 N·m")),
    (Finding.MAY_YIELD, put("targets/b/torque", "210 N·m")),
    (
        Finding.ANGLE_YIELDS,
        both(
            put("targets/b", {"kind": "torque+angle", "torque": "60 N·m", "angle": "200 deg"}),
            put("groups/0/stack", STEEL),
        ),
    ),
    (Finding.OVER_SHARE, put("groups/0/limits", {"yield_fraction": 0.2})),
    (Finding.MAY_EXCEED_SHARE, put("groups/0/limits", {"yield_fraction": 0.45})),
    (Finding.OVER_COMBINED, put("groups/0/limits", {"nu": 0.4})),
    (Finding.MAY_EXCEED_COMBINED, put("groups/0/limits", {"nu": 0.55})),
    (Finding.OVER_PUMPED, stretched("900 bar")),
    (Finding.MAY_EXCEED_PUMPED, stretched("585 bar")),
    (Finding.STRETCH_DIFFERS, stretched("300 bar", "20 kN")),
    (Finding.STRETCH_UNCHECKED, stretched("300 bar", check=False)),
    (
        Finding.ANGLE_MAY_YIELD,
        both(
            put("targets/b", {"kind": "torque+angle", "torque": "60 N·m", "angle": "34 deg"}),
            put("groups/0/stack", STEEL),
        ),
    ),
    (Finding.OVER_PROOF, both(put("targets/b/torque", "180 N·m"), OWN_PROOF)),
    (Finding.MAY_EXCEED_PROOF, both(put("targets/b/torque", "140 N·m"), OWN_PROOF)),
    (Finding.STRIPS, put(INTO, {"kind": "tapped", "material": "aluminium", "engaged": "4 mm"})),
    (
        Finding.MAY_STRIP,
        put(INTO, {"kind": "tapped", "material": "aluminium", "engaged": "6.5 mm"}),
    ),
    (
        Finding.STRIPS_FIRST,
        put(
            INTO,
            {"kind": "tapped", "material": "carbon steel", "engaged": "16 mm", "shear": "120 MPa"},
        ),
    ),
    (Finding.FEW_TURNS, put(INTO, {"kind": "tapped", "material": "grey iron", "engaged": "20 mm"})),
    (
        Finding.NO_THREAD,
        put(
            INTO,
            {"kind": "tapped", "material": "carbon steel", "engaged": "10 mm", "spacer": "12 mm"},
        ),
    ),
    (
        Finding.BOTTOMS,
        put(INTO, {"kind": "tapped", "engaged": "24 mm", "depth": "26 mm", "reach": "27 mm"}),
    ),
    (
        Finding.PRESSES_IN,
        put(
            "groups/0/stack", [{"material": "aluminium", "thickness": "60 mm", "limit": "150 MPa"}]
        ),
    ),
    (
        Finding.PRESSES_IN_BY_TABLE,
        both(
            put("targets/b/torque", "140 N·m"),
            put("groups/0/stack", [{"material": "cast aluminium", "thickness": "60 mm"}]),
        ),
    ),
    (
        Finding.MAY_PRESS_IN,
        put(
            "groups/0/stack", [{"material": "aluminium", "thickness": "60 mm", "limit": "330 MPa"}]
        ),
    ),
    (Finding.SOFT_PART_OVER, put("groups/0/limits/soft_part", "20 kN")),
    (Finding.MAY_EXCEED_SOFT_PART, put("groups/0/limits/soft_part", "50 kN")),
    (Finding.BELOW_REQUIRED, put("groups/0/required_clamp", "90 kN")),
    (Finding.MAY_FALL_BELOW_REQUIRED, put("groups/0/required_clamp", "40 kN")),
    (Finding.GASKET_TOO_LITTLE, put("groups/0/gasket", {**GASKET, "seating": "90 MPa"})),
    (Finding.GASKET_MAY_GET_TOO_LITTLE, put("groups/0/gasket", {**GASKET, "seating": "22 MPa"})),
    (Finding.GASKET_TOO_MUCH, put("groups/0/gasket", {**GASKET, "damage": "8 MPa"})),
    (Finding.GASKET_MAY_GET_TOO_MUCH, put("groups/0/gasket", {**GASKET, "damage": "28 MPa"})),
    (
        Finding.GALLING,
        both(
            put("groups/0/fastener/grade", "ISO 3506-1 A2-70"),
            put("groups/0/friction/lubricant", "dry-stainless"),
        ),
    ),
    (Finding.SEPARATES, work(axial="60 kN")),
    (Finding.MAY_SEPARATE, work(axial="38 kN")),
    (Finding.SLIPS, work(transverse="9 kN", slip_friction=0.15)),
    (Finding.MAY_SLIP, work(transverse="4.5 kN", slip_friction=0.15)),
    (Finding.LEAKS, work(pressure="40 MPa", sealed_diameter="120 mm")),
    (Finding.MAY_LEAK, work(pressure="13 MPa", sealed_diameter="120 mm")),
    (
        Finding.YIELDS_AT_WORK,
        both(put("targets/b/torque", "195 N·m"), work(axial="250 kN", introduction=1.0)),
    ),
    (
        Finding.MAY_YIELD_AT_WORK,
        both(put("targets/b/torque", "195 N·m"), work(axial="75 kN", introduction=1.0)),
    ),
    (Finding.FATIGUE, work(axial="30 kN", axial_low="-300 kN", introduction=1.0)),
    (Finding.NOTHING_LEFT, hot("carbon steel", "300 °C", "60 °C")),
    (
        Finding.YIELDS_HOT,
        both(put("targets/b/torque", "200 N·m"), hot("carbon steel", "400 °C", "400 °C")),
    ),
    (
        Finding.MAY_YIELD_HOT,
        both(put("targets/b/torque", "160 N·m"), hot("carbon steel", "400 °C", "400 °C")),
    ),
    (Finding.TEMPERATURE_TYPICAL, hot("carbon steel", "60 °C", "60 °C")),
    (Finding.COMPOUND_TOO_HOT, hot("carbon steel", "200 °C", "200 °C")),
    (
        Finding.GASKET_TOO_HOT,
        both(
            hot("carbon steel", "200 °C", "300 °C"),
            put("groups/0/gasket", {**GASKET, "type": "fibre-3"}),
        ),
    ),
    (Finding.COMPONENT_TOO_LITTLE, component(bolt_min="450 MPa")),
    (Finding.COMPONENT_MAY_GET_TOO_LITTLE, component(bolt_min="280 MPa")),
    (Finding.COMPONENT_TOO_MUCH, component(flange_max="280 MPa")),
    (Finding.COMPONENT_MAY_GET_TOO_MUCH, component(flange_max="360 MPa")),
    (Finding.COMPONENT_TARGET, component()),
    (Finding.COMPONENT_IMPOSSIBLE, component(bolt_min="420 MPa", bolt_max="400 MPa")),
    (Finding.COMPOUND_NOT_HERE, put("service", ["oxygen"])),
    (Finding.COMPOUND_UNNAMED, put("groups/0/friction", {"mu_thread": [0.1, 0.12, 0.14]})),
    (
        Finding.ALUMINIUM_DRY,
        both(
            put(
                "groups/0/stack",
                [{"material": "aluminium", "thickness": "60 mm", "limit": "800 MPa"}],
            ),
            put("groups/0/friction/lubricant", "dry-steel"),
        ),
    ),
    (Finding.DRY_SEAT_LUBRICATED, put("joint_kind", "wheel")),
    (
        Finding.PASTE_ON_HUB,
        both(put("joint_kind", "locking_hub"), put("groups/0/friction/lubricant", "moly-paste")),
    ),
    (
        Finding.HUB_NOT_OILED,
        both(put("joint_kind", "locking_hub"), put("groups/0/friction/lubricant", "dry-steel")),
    ),
    (
        Finding.WRONG_CONDITION,
        both(
            put("groups/0/must_be", "lubricated"), put("groups/0/friction/lubricant", "dry-steel")
        ),
    ),
    (
        Finding.COMPOUND_FORBIDDEN,
        both(
            put("joint_kind", "wheel"),
            first(
                id="p",
                kind="apply",
                what="paste",
                compound="moly-paste",
                groups=["b"],
                faces=["seat"],
            ),
        ),
    ),
    (
        Finding.COMPOUND_ON_GASKET,
        first(id="p", kind="apply", what="paste", groups=["b"], faces=["gasket"]),
    ),
    (
        Finding.COMPOUND_DIFFERS,
        first(id="p", kind="apply", what="moly paste", compound="moly-paste", groups=["b"]),
    ),
    (Finding.COMPOUND_NOT_APPLIED, put("groups/0/friction/lubricant", "engine-oil")),
    (Finding.SINGLE_USE_REUSED, put("groups/0/fastener/single_use", True)),
    (
        Finding.REUSED_TOO_OFTEN,
        both(put("groups/0/fastener/uses", 5), put("groups/0/fastener/max_uses", 5)),
    ),
    (
        Finding.LAST_USE,
        both(put("groups/0/fastener/uses", 4), put("groups/0/fastener/max_uses", 5)),
    ),
    (
        Finding.SHORT_GRIP,
        put("groups/0/stack", [{"material": "carbon steel", "thickness": "20 mm"}]),
    ),
    (Finding.FRICTION_TYPICAL, put("title", "as it is")),
    (Finding.FRICTION_UNKNOWN, put("groups/0/friction/lubricant", "rusty")),
    (Finding.STRENGTH_UNSURE, put("groups/0/fastener/grade", "ISO 3506-1 A4-100")),
    (Finding.STRENGTH_ASSUMED, put("groups/0/fastener/grade", "ASTM A307 A")),
    (Finding.HISTORY_UNKNOWN, put("groups/0/fastener/history", "unknown")),
    (Finding.CALCULATED, put("targets/b", {"kind": "preload", "preload": "40 kN"})),
    (
        Finding.SOURCE_STRUCK,
        source("s", "standard", {"torque": ["100 N·m"]}, valid_for={"thread": "M20"}),
    ),
    (Finding.SOURCE_RANGE, source("s", "standard", {"range": ["115 N·m", "125 N·m"]})),
    (
        Finding.SOURCE_TWO_FIGURES,
        source(
            "s",
            "standard",
            {"places": [{"at": "p. 2", "torque": "120 N·m"}, {"at": "p. 9", "torque": "130 N·m"}]},
        ),
    ),
    (Finding.SOURCE_SILENT, source("s", "standard", {})),
    (
        Finding.SOURCE_CONFLICT,
        both(
            source("s", "standard", {"torque": ["120 N·m"]}),
            source("r", "site rule", {"torque": ["100 N·m"]}),
        ),
    ),
    (
        Finding.STRUCK_SOURCE_TAKEN,
        both(
            source("s", "standard", {"torque": ["120 N·m"]}, valid_for={"count": 8}),
            put("targets/b", {"kind": "torque", "source": "s"}),
        ),
    ),
    (
        Finding.OVERRULED,
        both(
            source("s", "equipment maker", {"torque": ["110 N·m"]}),
            put("targets/b/reason", "new paste"),
        ),
    ),
    (Finding.OVERRULED_WITHOUT_REASON, source("s", "equipment maker", {"torque": ["110 N·m"]})),
    (Finding.BOUND_EXCEEDED, source("s", "code", {"at_most": "119 N·m"})),
    (Finding.BELOW_BOUND, source("s", "code", {"at_least": "121 N·m"})),
    (Finding.PAIR_UNDECIDED, source("s", "standard", {"torque": ["120 N·m", "75 ft·lbf"]})),
    (
        Finding.PAIR_MISMATCH,
        both(
            source("s", "standard", {"torque": ["120 N·m", "75 ft·lbf"]}),
            source("r", "site rule", {"torque": ["118 N·m"]}),
        ),
    ),
    (
        Finding.PAIR_DECIDED,
        source(
            "s",
            "standard",
            {"torque": ["120 N·m", "75 ft·lbf"]},
            holds="first",
            because="his letter",
        ),
    ),
    (
        Finding.OWN_FIGURE,
        both(
            source("s", "standard", {"torque": ["100 N·m"], "angle": "30 deg"}),
            put("groups/0/stack", STEEL),
            put(
                "targets/b",
                {"kind": "torque+angle", "torque": "60 N·m", "angle": "20 deg", "source": "s"},
            ),
        ),
    ),
    (Finding.PAIR_AGREES, source("s", "standard", {"torque": ["120 N·m", "89 ft·lbf"]})),
    (Finding.SIZES_OUT_OF_LINE, TWO_GROUPS),
    (Finding.NO_TOOL, put("stages/0/chains", [])),
    (Finding.TOOL_OVER_RANGE, put("tools/w/range", ["40 N·m", "110 N·m"])),
    (Finding.TOOL_UNDER_RANGE, put("tools/w/range", ["80 N·m", "200 N·m"])),
    (Finding.TOOL_UNDER_20, put("tools/w/range", ["40 N·m", "400 N·m"])),
    (Finding.TOOL_TOO_COARSE, put("tools/w/increment", "25 N·m")),
    (Finding.PRESET_OFF, put("tools/w", PRESET)),
    (Finding.SETTING_IMPOSSIBLE, put("tools/w/increment", "300 N·m")),
    (Finding.HAND_FORCE, put("tools/w/length", "250 mm")),
    (Finding.DRIVE_TOO_SMALL, put("tools/w/drive", "1/4 in")),
    (Finding.EFFICIENCY_TAKEN, put("chains/m", ["w", {"multiplier": 4}])),
    (
        Finding.TESTED_ELSEWHERE,
        both(
            put(
                "definitions/lubricants/rig",
                {
                    "name": "Rig paste",
                    "tests": [
                        {
                            "id": "a",
                            "thread": "M20",
                            "readings": ["0.15", "0.16", "0.15", "0.14", "0.15"],
                        }
                    ],
                },
            ),
            put("groups/0/friction", {"lubricant": "rig"}),
        ),
    ),
    (Finding.EXAMPLE_VALUES, put("examples", {"groups/b/fastener/grade": "ISO 898-1 8.8"})),
    (Finding.REACTION, put("chains/m", MULTIPLIER)),
    (Finding.REACTION_HIGH, put("chains/m", ["w", {"multiplier": 4, "arm": "30 mm"}])),
    (Finding.NO_CHECK_ROUND, put("stages/0/passes/3/check", False)),
    (Finding.ENDS_BELOW_FULL, lambda d: d["stages"][0].update(passes=d["stages"][0]["passes"][:2])),
    (Finding.ENDS_ABOVE_FULL, put("stages/0/passes/3/percent", 105)),
    (
        Finding.ANGLE_LEFT_OUT,
        source("s", "equipment maker", {"torque": ["120 N·m"], "angle": "30 deg"}),
    ),
    (Finding.PERCENT_FALLS, put("stages/0/passes/2/percent", 40)),
    (
        Finding.NO_RISING_PASSES,
        both(put("groups/0/gasket", GASKET), put("stages/0/passes/1/percent", 60)),
    ),
    (
        Finding.ANGLE_WITHOUT_SNUG,
        lambda d: d["stages"][0]["passes"].insert(0, {"id": "a", "do": "angle", "turn": "30 deg"}),
    ),
    (
        Finding.ANGLE_DIFFERS,
        both(
            put("targets/b", {"kind": "torque+angle", "torque": "60 N·m", "angle": "20 deg"}),
            put("groups/0/stack", STEEL),
        ),
    ),
    (Finding.NEVER_TIGHTENED, both(TWO_GROUPS, put("stages/0/groups", ["b"]))),
    (Finding.FIGURE_NOT_SET, lambda d: d["stages"][0].update(passes=[{"id": "h", "do": "hand"}])),
    (
        Finding.ENDS_BACKED_OFF,
        lambda d: d["stages"][0]["passes"].append({"id": "o", "do": "back_off", "turn": "1 flat"}),
    ),
    (Finding.PROVISIONAL, lambda d: d["stages"][0]["passes"].append({"id": "f", "do": "feel"})),
    (Finding.NO_COUNTER_HOLD, put(INTO, {"kind": "nut", "engaged": "14 mm"})),
    (Finding.SOCKET_ROOM, put("groups/0/layout/count", 24)),
    (
        Finding.BOLT_NOT_THERE,
        stage(
            id="g",
            kind="measure",
            condition=COLD,
            checks=[{"id": "c", "what": "Gap at bolt 9", "limit": {"max": "1 mm"}}],
        ),
    ),
    (
        Finding.SPREAD_OF_ONE,
        stage(
            id="g",
            kind="measure",
            condition=COLD,
            checks=[{"id": "c", "what": "Gap", "limit": {"max": "1 mm"}, "spread": "0.1 mm"}],
        ),
    ),
    (
        Finding.READING_NOT_BEFORE,
        both(
            first(
                id="f",
                kind="measure",
                condition=COLD,
                checks=[{"id": "c", "what": "Gap", "limit": {"max": "1 mm"}}],
            ),
            stage(
                id="g",
                kind="measure",
                condition=COLD,
                **{"in": ["recheck"]},
                checks=[
                    {
                        "id": "c",
                        "what": "Gap",
                        "change": {"since": "f/c", "limit": {"max": "0.1 mm"}},
                    }
                ],
            ),
        ),
    ),
    (Finding.STAGE_ORDER, first(id="early", kind="mark", what="line", after=["late"])),
    (Finding.TEMPORARY_STAYS, first(id="pin", kind="fit", what="pin", temporary=True)),
    (
        Finding.REMOVED_BEFORE_FITTED,
        both(
            first(id="pin", kind="fit", what="pin", temporary=True),
            first(id="out", kind="remove", fit="pin"),
        ),
    ),
    (Finding.STATE_NOT_BROUGHT, put("title", "as it is")),
    (Finding.STATE_FORBIDDEN, both(put("joint_kind", "wheel"), first(**WHEEL_ON))),
    (Finding.STATE_NOT_LEFT, both(put("joint_kind", "wheel"), first(**WHEEL_ON))),
    (
        Finding.WATCHED_LOCKED,
        both(
            first(id="w", kind="watch", what="marks"),
            first(
                id="s", kind="prepare", items=[{"id": "i", "text": "Lock"}], brings=["locked out"]
            ),
        ),
    ),
    (
        Finding.SAFEGUARD_UNNAMED,
        first(id="s", kind="prepare", items=[{"id": "i", "text": "Lock"}], cautions=["lockout"]),
    ),
    (Finding.BARE_FACES, put("title", "as it is")),
    (Finding.PART_STAYS_ON, stage(id="l", kind="loosen", groups=["b"], **{"in": ["dismantle"]})),
    (
        Finding.NOT_SEEN_EMPTY,
        both(
            stage(id="l", kind="loosen", groups=["b"], **{"in": ["dismantle"]}),
            stage(id="o", kind="remove", what="cover", **{"in": ["dismantle"]}),
        ),
    ),
    (Finding.CHECK_AFTER_SET, both(first(**LOCKER, before=["t"]), stage(**AGAIN, condition=COLD))),
    (Finding.SETS_TOO_SOON, first(**LOCKER, before=["t"])),
    (Finding.APPLIED_TOO_LATE, stage(**LOCKER)),
    (Finding.CONDITION_NOT_NAMED, stage(id="l", kind="loosen", groups=["b"])),
    (
        Finding.CONDITION_NOT_CHOSEN,
        put("stages/0/condition", {"pressure": "off", "says": "drained"}),
    ),
    (
        Finding.UNDER_PRESSURE,
        put("stages/0/condition", {"pressure": "on", "says": "line not drained"}),
    ),
    (Finding.HOT_RETIGHTENING, both(put("groups/0/gasket", GASKET), stage(**AGAIN, condition=HOT))),
    (
        Finding.RETIGHTENING_NOT_SAID,
        both(put("groups/0/gasket", GASKET), stage(**AGAIN, condition=COLD)),
    ),
    (Finding.NO_EARLY_RECHECK, put("title", "as it is")),
    (Finding.RECHECK_ODD, put("rechecks", [{"id": "r", "meter": "h", "at": ["100 h", "50 h"]}])),
    (Finding.RECHECK_WITHOUT_STAGES, put("rechecks", [{"id": "r", "meter": "h", "at": ["100 h"]}])),
]
