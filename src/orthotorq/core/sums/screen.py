"""How the quick sums are asked on the screen: title, at most five fields each, an example to begin
with; in their order."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, NamedTuple

from ..working_text import shown_figure


class Asked(NamedTuple):
    """Title, fields shown, example."""

    title: str
    fields: tuple[str, ...]
    begins: Mapping[str, str]


_M24, _GRADE = {"thread": "M24"}, {"grade": "ISO 898-1 8.8"}
ASKED: dict[str, Asked] = {
    "preload": Asked(
        "Torque → clamp load",
        ("thread", "torque", "mu-thread", "accuracy", "grade"),
        {**_M24, "torque": "430 N·m", "mu-thread": "0.10,0.12,0.16", "accuracy": "0.04", **_GRADE},
    ),
    "torque": Asked(
        "Clamp load → torque",
        ("thread", "preload", "mu-thread", "mu-bearing", "prevailing"),
        {**_M24, "preload": "120 kN", "mu-thread": "0.12"},
    ),
    "lubricant": Asked(
        "Another lubricant",
        ("thread", "torque", "from", "to"),
        {**_M24, "torque": "430 N·m", "from": "dry-steel", "to": "moly-paste"},
    ),
    "tool": Asked(
        "Adapter and multiplier",
        ("torque", "length", "adapter", "ratio", "efficiency"),
        {
            "torque": "1700 N·m",
            "length": "750 mm",
            "adapter": "90 mm",
            "ratio": "5",
            "efficiency": "0.9",
        },
    ),
    "scale": Asked(
        "Scale reading",
        ("torque", "mark", "increment"),
        {"torque": "316 N·m", "mark": "10 N·m", "increment": "2 N·m"},
    ),
    "limit": Asked(
        "Bolt capacity",
        ("thread", "grade", "mu-thread", "yield-fraction", "nu"),
        {**_M24, **_GRADE, "mu-thread": "0.10"},
    ),
    "angle": Asked(
        "Torque plus angle",
        ("thread", "grip", "snug", "angle", "mu-thread"),
        {
            "thread": "M16",
            **_GRADE,
            "grip": "60 mm",
            "snug": "40 N·m",
            "angle": "30",
            "mu-thread": "0.12",
        },
    ),
    "backoff": Asked(
        "Back-off",
        ("thread", "preload", "flats", "grip", "outer-diameter"),
        {"thread": "M30x1.5", "preload": "30 kN", "flats": "1", "grip": "60 mm"},
    ),
    "engagement": Asked(
        "Engaged thread",
        ("thread", "grade", "into", "length", "preload"),
        {"thread": "M16", **_GRADE, "into": "aluminium", "length": "24 mm"},
    ),
    "gasket": Asked(
        "Gasket stress",
        ("outside", "inside", "bolts", "preload", "pressure"),
        {"outside": "470 mm", "inside": "430 mm", "bolts": "16", "preload": "128 kN"},
    ),
    "working": Asked(
        "Loads at work",
        ("thread", "preload", "axial", "transverse", "slip-friction"),
        {
            "thread": "M16",
            **_GRADE,
            "preload": "55 kN",
            "axial": "12 kN",
            "delta-s": "2.4e-6 mm/N",
            "delta-p": "5.2e-7 mm/N",
            "introduction": "0.5",
            "transverse": "4 kN",
            "slip-friction": "0.15",
        },
    ),
    "flange": Asked(
        "Flange by component",
        ("bolts", "root-area", "gasket-area", "target-stress", "flange-max"),
        {
            "bolts": "16",
            "root-area": "324 mm²",
            "gasket-area": "282.7 cm²",
            "target-stress": "70 MPa",
            "seating-stress": "34 MPa",
            "operating-stress": "25 MPa",
            "pressure": "6 bar",
            "gasket-inside": "430 mm",
            "crush-stress": "130 MPa",
            "flange-max": "420 MPa",
        },
    ),
    "thermal": Asked(
        "Temperature",
        ("preload", "grip", "rise-bolt", "rise-parts", "alpha-parts"),
        {
            "preload": "60 kN",
            "grip": "60 mm",
            "delta-s": "2.4e-6 mm/N",
            "delta-p": "5.2e-7 mm/N",
            "alpha-bolt": "1.2e-5 1/K",
            "alpha-parts": "2.4e-5 1/K",
            "rise-bolt": "60 K",
            "rise-parts": "60 K",
        },
    ),
    "stripping": Asked(
        "Stripping",
        ("thread", "grade", "length", "shear-internal", "across-flats"),
        {
            "thread": "M16",
            **_GRADE,
            "length": "13 mm",
            "shear-internal": "290 MPa",
            "across-flats": "24 mm",
        },
    ),
    "friction": Asked(
        "Friction from own tests",
        ("thread", "torque", "preload", "thread-torque"),
        {"thread": "M20", "torque": "318 N·m", "preload": "98 kN"},
    ),
    "pair": Asked(
        "Compare two units", ("first", "second"), {"first": "250 N·m", "second": "148 ft·lbf"}
    ),
    "units": Asked("Units", ("first",), {"first": "355 ft-lb"}),
    "order": Asked(
        "Order", ("kind", "count", "start", "tools", "group"), {"kind": "cross", "count": "16"}
    ),
    "identify": Asked(
        "Identify a thread", ("flats", "outside", "ten"), {"flats": "30 mm", "ten": "25 mm"}
    ),
    "line": Asked(
        "A line of a manual",
        ("text",),
        {"text": "Torque to 120 N·m in a star pattern, recheck after 50 km"},
    ),
    "schedule": Asked(
        "Rechecks due",
        ("text", "reading", "per-day", "from"),
        {
            "text": "first 50 h, then every 500 h or 12 months",
            "reading": "12 h",
            "per-day": "8 h",
            "from": "2027-03-01",
        },
    ),
    "calibration": Asked(
        "Check of a wrench",
        ("setting", "readings", "class", "limit", "reference-uncertainty"),
        {
            "setting": "200 N·m",
            "readings": "198, 201, 203 N·m",
            "class": "II A",
            "reference-uncertainty": "1 %",
        },
    ),
    "thread": Asked("Thread", ("thread",), {"thread": "1-1/8-8"}),
    "grade": Asked("Grade", ("grade", "diameter"), {**_GRADE, "diameter": "24 mm"}),
}

#: figures that are a torque at the bolt, and sums whose own torque is one
_TORQUES = ("torque_Nm", "same_clamp_torque_Nm")
_OF_A_TORQUE = ("preload", "tool")


def carried(name: str, texts: Mapping[str, Any], figures: Mapping[str, Any]) -> str:
    """The torque at the bolt that a sum is about, to be carried into a plan; empty where it is
    about none."""
    for key in _TORQUES:
        if figures.get(key) is not None:
            return shown_figure(key, figures[key])[1]
    return str(texts.get("torque", "")) if name in _OF_A_TORQUE else ""
