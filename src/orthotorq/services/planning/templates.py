"""Plans to begin from: a complete, computable document per kind of joint, to be changed by the planner."""
from __future__ import annotations

from typing import Any

from ...core.tables import EDITION

_CLICK = {"kind": "click wrench", "range": ["40 N·m", "240 N·m"], "increment": "2 N·m", "mark": "10 N·m", "accuracy": 0.04,
          "length": "600 mm", "drive": "1/2 in"}


def _pass(identifier: str, percent: float, kind: str, **more: Any) -> dict[str, Any]:
    return {"id": identifier, "do": "torque", "percent": percent, "order": {"kind": kind}, **more}


_CHECK = {"check": True, "rounds": {"until": "none_moves", "moved_above": "5 deg", "max": 3}}


def _cover() -> dict[str, Any]:
    return {
        "groups": [{
            "id": "bolts", "name": "Cover bolts",
            "layout": {"kind": "circle", "count": 12, "diameter": "400 mm"},
            "fastener": {"thread": "M20", "grade": "ISO 898-1 8.8", "head": "hex"},
            "friction": {"lubricant": "moly-paste"}, "limits": {"yield_fraction": 0.5}}],
        "targets": {"bolts": {"kind": "yield_fraction", "fraction": 0.4}},
        "tools": {"w": _CLICK}, "chains": {"main": ["w"]},
        "stages": [
            {"id": "safe", "kind": "prepare", "cautions": ["stored_pressure", "eye_hand"],
             "items": [{"id": "pressure", "text": "Pressure off, drained, cold, isolated and locked"}]},
            {"id": "lubricate", "kind": "apply", "what": "Moly paste", "groups": ["bolts"],
             "faces": ["thread", "under head"]},
            {"id": "close", "kind": "tighten", "title": "Close the joint", "condition": ["pressure off and cold"],
             "groups": ["bolts"], "chains": ["main"],
             "passes": [{"id": "hand", "do": "hand"}, _pass("first", 30, "cross"), _pass("second", 70, "cross"),
                        _pass("full", 100, "cross"), _pass("check", 100, "circle", **_CHECK)]}]}


def _wheel() -> dict[str, Any]:
    return {
        "positions": [{"id": "L", "name": "left"}, {"id": "R", "name": "right"}],
        "groups": [{
            "id": "nuts", "name": "Wheel nuts", "layout": {"kind": "circle", "count": 6, "diameter": "205 mm"},
            "fastener": {"thread": "M18x1.5", "grade": "ISO 898-1 8.8", "head": "hex",
                         "face": {"kind": "cone", "half_angle": "30 deg"}},
            "friction": {"lubricant": "dry-steel"}, "limits": {"yield_fraction": 0.6}}],
        "targets": {"nuts": {"kind": "yield_fraction", "fraction": 0.28}},
        "tools": {"w": _CLICK}, "chains": {"main": ["w"]},
        "stages": [
            {"id": "stand", "kind": "prepare", "cautions": ["supported_load"],
             "items": [{"id": "chock", "text": "On a stand, chocked, held still"}]},
            {"id": "snug", "kind": "tighten", "title": "Snug, hanging", "across": "all_positions_first",
             "condition": ["wheel hanging"], "groups": ["nuts"], "chains": ["main"], "impact": "run_down",
             "passes": [{"id": "hand", "do": "hand"}, _pass("snug", 50, "star")]},
            {"id": "full", "kind": "tighten", "title": "Full torque", "across": "all_positions_first",
             "condition": ["wheel touching"], "groups": ["nuts"], "chains": ["main"],
             "passes": [_pass("full", 100, "star"), _pass("again", 100, "star", **_CHECK)]}]}


def blank_plan(kind: str, title: str, joint: str) -> dict[str, Any]:
    """A computable plan document to begin from."""
    body = _wheel() if kind in ("wheel", "twin_wheel") else _cover()
    return {"format": "orthotorq.plan", "version": 1, "title": title, "joint_kind": kind, "joint": joint,
            "tables": EDITION, **body}
