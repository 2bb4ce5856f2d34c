"""Plan documents for tests."""

from __future__ import annotations

import copy
from typing import Any

from orthotorq.demo.load import plan_document

#: the condition in which a joint behind which there may be pressure is turned
COLD = {"pressure": "off", "temperature": "cold"}


def cover() -> dict[str, Any]:
    """The demo's evaporator cover."""
    return copy.deepcopy(plan_document("evaporator-cover"))


def wheel() -> dict[str, Any]:
    """The demo's trolley wheel with a torque wrench at hand, two positions."""
    document = copy.deepcopy(plan_document("trolley-wheel"))
    del document["variants"]
    document["stages"] = [s for s in document["stages"] if s.pop("variants", None) != ["roadside"]]
    return document


def small(count: int = 4, **stage: Any) -> dict[str, Any]:
    """The least plan that tightens something: hand, 50 %, 100 %, check round."""
    check = {"until": "none_moves", "max": 2}
    return {
        "format": "orthotorq.plan",
        "version": 3,
        "title": "Small",
        "joint_kind": "gasketed_cover",
        "groups": [
            {
                "id": "b",
                "name": "Bolts",
                "layout": {"kind": "circle", "count": count, "diameter": "200 mm"},
                "fastener": {"thread": "M16", "grade": "ISO 898-1 8.8"},
                "friction": {"lubricant": "light-oil"},
            }
        ],
        "targets": {"b": {"kind": "torque", "torque": "120 N·m"}},
        "tools": {
            "w": {"kind": "click wrench", "range": ["40 N·m", "200 N·m"], "increment": "1 N·m"}
        },
        "chains": {"m": ["w"]},
        "stages": [
            {
                "id": "t",
                "kind": "tighten",
                "condition": COLD,
                "groups": ["b"],
                "chains": ["m"],
                "passes": [
                    {"id": "h", "do": "hand"},
                    {"id": "half", "do": "torque", "percent": 50},
                    {"id": "full", "do": "torque", "percent": 100},
                    {
                        "id": "check",
                        "do": "torque",
                        "percent": 100,
                        "order": {"kind": "circle"},
                        "check": True,
                        "rounds": check,
                    },
                ],
                **stage,
            }
        ],
    }
