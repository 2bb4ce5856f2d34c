"""Plans to begin from: a complete, computable document per kind of joint, to be changed by the planner."""
from __future__ import annotations

from typing import Any

from .methods import passes_of_method

Doc = dict[str, Any]
_ALWAYS = ["install", "dismantle", "recheck"]


def _circle(count: int, diameter: str) -> Doc:
    return {"kind": "circle", "count": count, "diameter": diameter}


_ONE: Doc = {"kind": "points", "points": [["0 mm", "0 mm"]]}


def _wrench(low: str, high: str, increment: str, length: str, drive: str, mark: str) -> Doc:
    return {"kind": "click wrench", "range": [low, high], "increment": increment, "mark": mark, "accuracy": 0.04,
            "length": length, "drive": drive}


_MIDDLE = _wrench("20 N·m", "200 N·m", "1 N·m", "600 mm", "1/2 in", "10 N·m")
_LARGE = _wrench("60 N·m", "420 N·m", "2 N·m", "1000 mm", "3/4 in", "20 N·m")
_SMALL = _wrench("4 N·m", "20 N·m", "0.2 N·m", "260 mm", "3/8 in", "1 N·m")


def _group(layout: Doc, thread: str, lubricant: str, share: float, **more: Any) -> Doc:
    fastener = {"thread": thread, "grade": "ISO 898-1 8.8", "head": "hex", **more.pop("fastener", {})}
    return {"id": "bolts", "name": "Bolts", "layout": layout, "fastener": fastener, "friction": {"lubricant": lubricant},
            "limits": {"yield_fraction": share}, **more}


def _tighten(identifier: str, title: str, condition: str, method: str, **more: Any) -> Doc:
    return {"id": identifier, "kind": "tighten", "title": title, "condition": [condition], "groups": ["bolts"],
            "chains": ["main"], "passes": passes_of_method(method), **more}


def _prepare(text: str, *cautions: str) -> Doc:
    return {"id": "safe", "kind": "prepare", "title": "Make safe", "in": _ALWAYS, "cautions": list(cautions),
            "items": [{"id": "safe", "text": text}]}


_LOCKED = "Drive locked out and tagged, tried to start"


def _apply(what: str = "light oil", group: str = "bolts") -> Doc:
    return {"id": "lubricate", "kind": "apply", "title": "Lubricate", "what": what, "compound": what.replace(" ", "-"),
            "groups": [group], "faces": ["thread", "under head"]}


def _share(fraction: float) -> Doc:
    return {"kind": "yield_fraction", "fraction": fraction}


def _wheel() -> Doc:
    face = {"kind": "cone", "half_angle": "30 deg"}
    snug = [{"id": "hand", "do": "hand", "order": {"kind": "star"}},
            {"id": "snug", "name": "Snug, 50 %", "do": "torque", "percent": 50, "order": {"kind": "star"}}]
    return {"positions": [{"id": "L", "name": "left"}, {"id": "R", "name": "right"}],
            "groups": [_group(_circle(6, "205 mm"), "M18x1.5", "dry-steel", 0.6, must_be="dry", fastener={"face": face})],
            "targets": {"bolts": _share(0.28)}, "tools": {"w": _LARGE},
            "stages": [_prepare("On a stand, chocked, held still", "supported_load"),
                       {**_tighten("snug", "Snug, hanging", "wheel hanging", "feel"), "passes": snug, "impact": "run_down",
                        "across": "all_positions_first"},
                       _tighten("full", "Full torque", "wheel touching", "wheel", across="all_positions_first"),
                       {**_tighten("again", "Recheck", "wheel standing", "wheel"), "in": ["recheck"]}],
            "rechecks": [{"id": "first", "meter": "km", "at": ["50 km"], "every": "1000 km"}]}


def _twin() -> Doc:
    wheel = _wheel()
    inner = {**wheel["groups"][0], "id": "inner", "name": "Inner wheel nuts", "layout": _circle(8, "275 mm")}
    hub = {"kind": "tapped", "material": "carbon steel", "engaged": "38 mm"}
    centre = {**_group(_ONE, "M30", "light-oil", 0.6, into=hub, fastener={"condition": "new", "single_use": True}),
              "id": "centre", "name": "Centre bolt of the outer wheel"}
    snug, full, again = ({**stage, "groups": ["inner"]} for stage in wheel["stages"][1:])
    gap = {"id": "between", "what": "gap between the tyres", "limit": {"min": "25 mm", "max": "60 mm"}}
    passes = [{"id": "half", "do": "torque", "percent": 50}, {"id": "full", "do": "torque", "percent": 100}]
    close = {**_tighten("close", "Close the outer wheel", "wheel touching", "wheel"), "groups": ["centre"], "passes": passes}
    return {**wheel, "groups": [inner, centre], "targets": {"inner": _share(0.28), "centre": _share(0.2)},
            "parts": [{"id": "bolt", "name": "centre bolt", "count": 1, "per": "position", "new": True}],
            "stages": [wheel["stages"][0], snug, full,
                       {"id": "drum", "kind": "fit", "what": "spacer drum and outer wheel, the faces clean"},
                       _apply(group="centre"), close,
                       {"id": "gap", "kind": "measure", "condition": ["wheel standing"], "checks": [gap]}, again]}


def _cover() -> Doc:
    paste = {**_apply("moly paste"), "keep_dry": "gasket and its faces"}
    loosen = {"id": "loosen", "kind": "loosen", "in": ["dismantle"], "condition": ["pressure off and cold"], "groups": ["bolts"],
              "cautions": ["stay_out_of_line"]}
    # not pulled again: that needs the gasket maker's word
    look = {"id": "look", "kind": "inspect", "title": "Look at it", "in": ["recheck"], "condition": ["pressure off and cold"],
            "checks": [{"id": "tight", "what": "No trace of a leak"}, {"id": "marks", "what": "Paint lines unbroken"}]}
    return {"groups": [_group(_circle(12, "400 mm"), "M20", "moly-paste", 0.5)], "targets": {"bolts": _share(0.34)},
            "tools": {"w": _MIDDLE},
            "stages": [_prepare("Pressure off, drained, cold, isolated and locked", "stored_pressure", "eye_hand"), loosen,
                       paste, {"id": "hold", "kind": "counter_hold", "what": "back nuts held"},
                       _tighten("close", "Close the joint", "pressure off and cold", "rising_cross"), look],
            "rechecks": [{"id": "heat", "meter": "cycles", "at": ["1 cycles"]}]}


def _mount() -> Doc:
    layout = {"kind": "grid", "rows": 2, "columns": 2, "row_pitch": "300 mm", "column_pitch": "420 mm"}
    return {"groups": [_group(layout, "M20", "light-oil", 0.6)], "targets": {"bolts": _share(0.45)}, "tools": {"w": _LARGE},
            "stages": [_prepare(_LOCKED, "lockout"), _apply(), {"id": "hold", "kind": "counter_hold", "what": "far side held"},
                       _tighten("full", "Tighten", "parts centred", "settle"),
                       {"id": "look", "kind": "inspect", "in": ["recheck"], "condition": ["machine held still"],
                        "checks": [{"id": "marks", "what": "Paint lines unbroken"}]}],
            "rechecks": [{"id": "early", "meter": "h", "at": ["24 h"], "every": "2000 h"}]}


def _row() -> Doc:
    return {"groups": [_group({"kind": "row", "count": 5, "pitch": "200 mm"}, "M24", "nickel-anti-seize", 0.62)],
            "targets": {"bolts": _share(0.45)},
            "tools": {"w": _wrench("100 N·m", "600 N·m", "2 N·m", "1400 mm", "3/4 in", "10 N·m")},
            "stages": [_prepare("Load off and secured", "lockout"), _apply("nickel anti-seize"),
                       _tighten("full", "Rising increments", "load off", "single_repeat")]}


def _hub() -> Doc:
    band = [0.11, 0.12, 0.14]
    group = _group(_circle(12, "150 mm"), "M10", "light-oil", 0.85, must_be="lightly oiled", fastener={
        "grade": "ISO 898-1 12.9", "head": "socket head"})
    group["friction"].update(mu_thread=band, mu_bearing=band)
    return {"groups": [group], "targets": {"bolts": {"kind": "torque", "torque": "72 N·m"}},
            "tools": {"w": _wrench("20 N·m", "120 N·m", "0.5 N·m", "480 mm", "1/2 in", "10 N·m")},
            "stages": [_prepare(_LOCKED, "lockout"), _apply(),
                       _tighten("draw", "Draw the hub", "parts centred", "over_torque_rounds",
                                watch_for="the line-up while tightening"),
                       {"id": "start", "kind": "watch", "what": "Marks at start-up", "if_moved": {"redo": "draw"}}]}


def _centre() -> Doc:
    stack = [{"material": "steel 42CrMo4 quenched and tempered", "thickness": "90 mm", "outside": "80 mm"}]
    group = _group(_ONE, "M24x2", "engine-oil", 0.85, stack=stack,
                   into={"kind": "tapped", "material": "carbon steel", "engaged": "36 mm"},
                   fastener={"grade": "ISO 898-1 10.9", "condition": "new", "single_use": True})
    return {"groups": [group], "targets": {"bolts": {"kind": "torque+angle", "torque": "120 N·m", "angle": "60 deg"}},
            "tools": {"w": _MIDDLE},
            "stages": [_prepare(_LOCKED, "lockout"), _apply("engine oil"),
                       {"id": "tool", "kind": "fit", "what": "locking tool", "temporary": True},
                       _tighten("tight", "Torque plus angle", "load off", "torque_angle"),
                       {"id": "untool", "kind": "remove", "fit": "tool"}]}


def _bearing() -> Doc:
    face = {"kind": "flat", "face_diameter": "56 mm", "hole": "42 mm"}
    group = _group(_ONE, "M40x1.5", "grease", 0.3, fastener={"grade": "shaft", "head": "other", "face": face})
    play = {"id": "play", "what": "End play after the lock nut", "limit": {"min": "0.03 mm", "max": "0.1 mm"}}
    return {"groups": [group], "definitions": {"grades": {"shaft": {"yield_strength": "400 MPa", "tensile": "600 MPa"}}},
            "targets": {"bolts": {"kind": "torque", "torque": "90 N·m"}}, "tools": {"w": _MIDDLE},
            "stages": [_prepare(_LOCKED, "lockout"), _apply("grease"),
                       _tighten("seat", "Seat and back off", "load off", "back_off"),
                       {"id": "tab", "kind": "lock", "what": "tab into a slot of the nut"},
                       {"id": "play", "kind": "measure", "condition": ["load off"], "checks": [play]}]}


def _axle() -> Doc:
    group = _group(_ONE, "M30", "light-oil", 0.6, fastener={"condition": "new", "single_use": True})
    passes = [{"id": "hand", "do": "hand"}, {"id": "full", "name": "Full, 100 %", "do": "torque", "percent": 100,
                                            "order": {"kind": "circle"}}]
    return {"groups": [group], "targets": {"bolts": {"kind": "torque", "torque": "380 N·m"}}, "tools": {"w": _LARGE},
            "stages": [_prepare(_LOCKED, "lockout"), _apply(),
                       {**_tighten("full", "Tighten", "shaft held", "wheel"), "passes": passes},
                       {"id": "pin", "kind": "lock", "what": "new pin", "by": "pin"}]}


def _soft() -> Doc:
    draw = passes_of_method("even_draw")
    draw[1].update(cap="15 N·m", stop_at="4 mm")
    group = _group(_circle(8, "330 mm"), "M12", "light-oil", 0.5)
    group["limits"]["soft_part"] = "12 kN"
    return {"groups": [group], "targets": {"bolts": {"kind": "torque", "torque": "15 N·m"}}, "tools": {"w": _SMALL},
            "stages": [_prepare("Pressure off, drained, cold", "stored_pressure"), _apply(),
                       {**_tighten("draw", "Even draw", "pressure off and cold", "even_draw"), "passes": draw}]}


def _fixture() -> Doc:
    layout = {"kind": "grid", "rows": 2, "columns": 4, "row_pitch": "60 mm", "column_pitch": "45 mm"}
    driver = {"kind": "preset driver", "name": "driver 8 N·m", "range": ["8 N·m", "8 N·m"], "accuracy": 0.06}
    return {"groups": [_group(layout, "M6", "light-oil", 0.8, fastener={"head": "socket head"})],
            "targets": {"bolts": {"kind": "torque", "torque": "8 N·m"}}, "tools": {"w": driver},
            "stages": [_prepare("Clamp air off and bled", "spring_energy"), _apply(),
                       _tighten("click", "One click", "parts at their stops", "preset")]}


def _studs() -> Doc:
    cover, circle = _cover(), _circle(12, "390 mm")
    into = {"kind": "tapped", "material": "grey iron", "engaged": "28 mm"}
    studs = _group(circle, "M16", "threadlocker-medium", 0.3, into=into, fastener={
        "condition": "new", "head": "other", "face": {"kind": "flat", "face_diameter": "17 mm", "hole": "14 mm"}})
    seat = {**_tighten("seat", "Seat the studs", "pressure off and cold", "preset"), "groups": ["studs"], "passes": [
        {"id": "hand", "do": "hand"}, {"id": "seat", "name": "Seat, 100 %", "do": "torque", "percent": 100}]}
    lock = {"id": "lock", "kind": "apply", "title": "Threadlocker", "what": "medium threadlocker",
            "compound": "threadlocker-medium", "groups": ["studs"], "faces": ["thread"], "sets_in": "15 min", "before": ["seat"]}
    clean = {"id": "clean", "kind": "clean", "items": [{"id": "holes", "text": "Holes and stud ends clean and dry"}]}
    safe, loosen, paste, _, close, look = cover["stages"]
    return {**cover, "groups": [{**studs, "id": "studs", "name": "Studs"},
                                {**_group(circle, "M16", "nickel-anti-seize", 0.6, into=into), "name": "Nuts"}],
            "targets": {"studs": {"kind": "torque", "torque": "40 N·m"}, "bolts": _share(0.4)},
            "tools": {"w": _wrench("20 N·m", "120 N·m", "0.5 N·m", "480 mm", "1/2 in", "10 N·m")},
            "stages": [safe, loosen, clean, lock, seat, {**paste, **_apply("nickel anti-seize")},
                       close, look]}


def _hung() -> Doc:
    return {**_mount(), "stages": [_prepare("Lifting plan read, second safeguard hung", "heavy_lift", "two_persons"),
                                   {"id": "spacer", "kind": "fit", "what": "temporary spacers", "temporary": True},
                                   *_mount()["stages"][1:4], {"id": "out", "kind": "remove", "fit": "spacer"}], "rechecks": []}


_BODIES = {"wheel": _wheel, "twin_wheel": _twin, "gasketed_cover": _cover, "machine_mount": _mount, "stud_row": _row,
           "locking_hub": _hub, "centre_bolt": _centre, "bearing_nut": _bearing, "axle_nut": _axle, "soft_clamp": _soft,
           "fixture": _fixture, "casting_studs": _studs, "hung_equipment": _hung}


def blank_plan(kind: str, title: str, joint: str) -> Doc:
    """A computable plan document to begin from."""
    return {"format": "orthotorq.plan", "version": 2, "title": title, "joint_kind": kind, "joint": joint,
            "chains": {"main": ["w"]}, **_BODIES[kind]()}
