"""Plans whose load is looked at, and what is read of their results."""

from __future__ import annotations

import copy
import math
from typing import Any

from orthotorq.core.forms.group import GroupOut, PreloadOut
from orthotorq.core.forms.result import FindingOut
from orthotorq.core.planning.compute import compute
from tests.plans import small

Raw = dict[str, Any]


STACK = [{"material": "carbon steel", "thickness": "60 mm", "outside": "60 mm"}]


ANGLED = [
    {"id": "snug", "do": "torque", "percent": 100},
    {"id": "turn", "do": "angle", "turn": "20 deg", "window": ["18 deg", "23 deg"]},
]


def plan(target: Raw | None = None, passes: list[Raw] | None = None, **group: Any) -> Raw:
    """The small plan with another target, other passes, other facts of its bolts; a wrench that
    shows every tenth."""
    document = small()
    document["groups"][0].update(group)
    document["tools"]["w"].update(range=["1 N·m", "900 N·m"], increment="0.1 N·m")
    if target is not None:
        document["targets"]["b"] = target
    if passes is not None:
        document["stages"][0]["passes"] = passes
    return document


def angled(torque: str = "60 N·m", angle: str = "20 deg", **more: Any) -> Raw:
    """Torque plus angle with a window that is wider to the far side."""
    return plan(
        {"kind": "torque+angle", "torque": torque, "angle": angle},
        copy.deepcopy(ANGLED),
        stack=copy.deepcopy(STACK),
        **more,
    )


def group(document: Raw) -> GroupOut:
    return compute(document).groups[0]


def load(document: Raw) -> PreloadOut:
    found = group(document).preload
    assert found is not None
    return found


def found(document: Raw, code: str) -> FindingOut:
    return next(f for f in compute(document).findings if f.code == code)


def codes(document: Raw) -> set[str]:
    return {f.code for f in compute(document).findings}


def k(mu: float, face: float = 20.0) -> float:
    """Torque per preload of M16 by hand."""
    return 2 / (2 * math.pi) + mu * 14.7010 / (2 * math.cos(math.pi / 6)) + mu * face / 2


def limit(mu: float, share: float = 1.0) -> float:
    """Load at yield with torsion of M16 8.8 by hand."""
    lead, flank = math.atan(2 / (math.pi * 14.7010)), math.atan(mu / math.cos(math.pi / 6))
    d0 = (14.7010 + 13.5463) / 2
    return (
        share
        * 640
        * math.pi
        / 4
        * d0**2
        / math.sqrt(1 + 3 * (1.5 * 14.7010 / d0 * math.tan(lead + flank)) ** 2)
    )


PAIR = {"torque": ["92 N·m", "86 ft·lbf"]}
