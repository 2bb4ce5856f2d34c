"""The schools of tightening as templates: named lists of passes that a plan may use by id, or take
over and edit.

Passes are JSON values of the plan document, so that what is offered, expanded and edited is one
thing.
"""

from __future__ import annotations

import copy
from typing import Any

_CHECK = {"check": True, "rounds": {"until": "none_moves", "moved_above": "5 deg", "max": 3}}


def _torque(identifier: str, name: str, percent: float, kind: str, **more: Any) -> dict[str, Any]:
    return {
        "id": identifier,
        "name": name,
        "do": "torque",
        "percent": percent,
        "order": {"kind": kind},
        **more,
    }


def _hand(kind: str = "circle") -> dict[str, Any]:
    return {"id": "hand", "name": "By hand", "do": "hand", "order": {"kind": kind}}


#: id -> (name, when it is used, passes)
METHODS: dict[str, tuple[str, str, list[dict[str, Any]]]] = {
    "rising_cross": (
        "Rising cross passes",
        "gasketed covers: rising shares in cross order, then a round that checks",
        [
            _hand("cross"),
            _torque("first", "First, 35 %", 35, "cross"),
            _torque("second", "Second, 70 %", 70, "cross"),
            _torque("full", "Full, 100 %", 100, "cross"),
            _torque("check", "Check round", 100, "circle", **_CHECK),
        ],
    ),
    "snug_steps_circle": (
        "Snug, steps, full, circle",
        "flat joints without a soft gasket",
        [
            _hand(),
            _torque("snug", "Snug, 25 %", 25, "cross"),
            _torque("step", "Step, 65 %", 65, "cross"),
            _torque("full", "Full, 100 %", 100, "cross"),
            _torque("round", "Full round in circle", 100, "circle", check=True),
        ],
    ),
    "wheel": (
        "Wheel: full and one check",
        "wheels, after snug in star order while hanging",
        [
            _torque("full", "Full, 100 %", 100, "star"),
            _torque("again", "One more round", 100, "star", **_CHECK),
        ],
    ),
    "over_torque_rounds": (
        "Over-torque rounds",
        "shaft locking hubs: a little over target until none moves, then at target",
        [
            _hand(),
            _torque("half", "Even start, 50 %", 50, "cross"),
            _torque(
                "over", "Rounds at 104 %", 104, "circle", rounds={"until": "none_moves", "max": 12}
            ),
            _torque(
                "check",
                "None may move at 100 %",
                100,
                "circle",
                check=True,
                rounds={"until": "none_moves", "max": 2},
                falls="over-torque rounds return to the target",
            ),
        ],
    ),
    "torque_angle": (
        "Torque plus angle",
        "single-use bolts: a snug torque, then an angle",
        [
            _hand(),
            _torque("snug", "Snug torque", 100, "cross"),
            {
                "id": "angle",
                "name": "Angle",
                "do": "angle",
                "turn": "50 deg",
                "within": "5 deg",
                "read_by": "angle disc",
                "order": {"kind": "cross"},
            },
        ],
    ),
    "back_off": (
        "Torque, back off, lock",
        "bearing nuts: seat while turning, back by flats, lock, measure",
        [
            _hand(),
            _torque("seat", "Seat while turning", 100, "circle"),
            {"id": "back", "name": "Back off", "do": "back_off", "turn": "1 flat"},
        ],
    ),
    "even_draw": (
        "Even draw",
        "soft parts: small turns all the way round, the gap decides",
        [
            _hand(),
            {
                "id": "draw",
                "name": "Even draw",
                "do": "gap_round",
                "turn": "30 deg",
                "max_spread": "0.5 mm",
                "stop_at": "2 mm",
                "max": 20,
            },
        ],
    ),
    "single_repeat": (
        "Single, repeat",
        "large studs: rising increments, then pulls until three in a row show no turn",
        [
            _torque("first", "35 %", 35, "middle_out"),
            _torque("second", "65 %", 65, "middle_out"),
            _torque(
                "full",
                "100 %, until three pulls show no turn",
                100,
                "middle_out",
                repeat={"still": 3, "max": 10},
                check=True,
            ),
        ],
    ),
    "settle": (
        "Settle and look again",
        "stacks that settle: full, wait, full again",
        [
            _hand(),
            _torque("half", "Half, 50 %", 50, "cross"),
            _torque("full", "Full, 100 %", 100, "cross"),
            {"id": "rest", "name": "Let it settle", "do": "wait", "for": "30 min"},
            _torque("again", "Full again", 100, "cross", **_CHECK),
        ],
    ),
    "preset": (
        "Preset driver",
        "small fasteners in a fixture: one torque, one click each",
        [_hand(), _torque("click", "One click", 100, "circle")],
    ),
    "feel": (
        "By feel",
        "roadside only: provisional, recheck with the right tool at once",
        [
            _hand("star"),
            {"id": "feel", "name": "As tight as you can", "do": "feel", "order": {"kind": "star"}},
        ],
    ),
}


def passes_of_method(identifier: str) -> list[dict[str, Any]]:
    """A fresh copy of a shipped method's passes. Raises KeyError for no such method.

    >>> [p["do"] for p in passes_of_method("torque_angle")]
    ['hand', 'torque', 'angle']
    """
    return copy.deepcopy(METHODS[identifier][2])
