"""Sums about the joint: angle, back-off, gasket, orders."""

from __future__ import annotations

import math
from typing import Any

from ..errors import BadThread, Impossible, UnknownName
from ..mechanics import angle as ang
from ..mechanics import gasket as gas
from ..mechanics import preload as pre
from ..mechanics import stiffness as stiff
from ..mechanics.formula import Step, explain
from ..mechanics.strength import combined_preload
from ..messages import Message
from ..planning import layouts, orders
from ..tables import materials
from ..tables.hexagons import hexagon
from ..tables.threads import Thread
from .bolts import bracket_steps, joint_of, strength_in
from .fields import Answer


def _modulus(v: dict[str, Any]) -> float:
    if v["material_modulus"] is not None:
        return float(v["material_modulus"])
    if v["material"] is None:
        return stiff.STEEL
    found = materials.table().get(v["material"])
    if found is None:
        known = ", ".join(materials.table())
        raise UnknownName(
            Message.MATERIAL_UNKNOWN, ("material",), text=v["material"][:40], known=known
        )
    return found.modulus


def resiliences(v: dict[str, Any]) -> tuple[float, float, float, list[Step]]:
    """(delta_s, delta_p [mm/N], tan of the cone angle, steps) of a joint."""
    thread: Thread = v["thread"]
    head = hexagon(thread)
    face = (
        v["face_diameter"]
        if v["face_diameter"] is not None
        else head.face_diameter
        if head
        else None
    )
    hole = v["hole"] if v["hole"] is not None else head.hole if head else None
    if face is None or hole is None:
        raise BadThread(Message.HEXAGON_UNKNOWN, thread=thread.designation)
    part, tapped = _modulus(v), bool(v["tapped"])
    shank, outer = v["shank_length"] or 0.0, v["outer_diameter"] or 3 * face
    bolt = v["fastener_modulus"] or stiff.STEEL
    if shank > v["grip"]:
        raise Impossible(
            Message.OUT_OF_RANGE,
            ("shank-length",),
            value=f"{shank:g} mm",
            range=f"a shank of at most the grip ({v['grip']:g} mm)",
        )
    fastener = explain(
        stiff.fastener_resilience,
        diameter=thread.diameter,
        minor_area=thread.minor_area,
        grip=v["grip"],
        shank=shank,
        modulus=bolt,
        head=0.5,
        mate=0.33 if tapped else 0.4,
        mate_modulus=part if tapped else bolt,
        shank_area=math.pi / 4 * thread.diameter**2,
        engaged=0.5,
    )
    if outer <= face:
        raise Impossible(
            Message.OUT_OF_RANGE,
            ("outer-diameter",),
            value=f"{outer:g} mm",
            range=f"more than the bearing face ({face:g} mm)",
        )
    slope = explain(
        stiff.cone_slope_tapped if tapped else stiff.cone_slope_through,
        grip=v["grip"],
        face_diameter=face,
        outer_diameter=outer,
    )
    parts = stiff.parts_resilience(
        (stiff.Layer(v["grip"], part),), face, hole, outer, slope.value, tapped
    )
    return fastener.value, parts, slope.value, [fastener, slope]


def angle_sum(v: dict[str, Any]) -> Answer:
    """Preload after a snug torque and an angle, the torque reached, and whether the bolt yields."""
    thread: Thread = v["thread"]
    strength = strength_in(v["grade"], thread.diameter)
    delta_s, delta_p, slope, steps = resiliences(v)
    joint, seat = joint_of(v)
    k = joint.band_per_preload().typical
    snug = explain(
        pre.preload_from_torque, torque=v["snug"], per_preload=k, prevailing=joint.prevailing
    )
    gain = explain(
        ang.preload_gain, pitch=thread.pitch, turn=v["angle"], resilience=delta_s + delta_p
    )
    total = snug.value + gain.value
    mu = joint.thread_friction().typical
    full = explain(
        combined_preload,
        fraction=1.0,
        yield_strength=strength.yield_,
        stress_area=thread.stress_area,
        pitch=thread.pitch,
        pitch_diameter=thread.pitch_diameter,
        stress_diameter=thread.stress_diameter,
        mu_thread=mu,
    )
    yields = total > full.value
    end = pre.torque_from_preload(total, k, joint.prevailing) / 1e3
    notes = []
    if v["grip"] < 3 * thread.diameter:
        notes.append(f"Grip is {v['grip'] / thread.diameter:.1f} d: short, so settling costs much.")
    if yields:
        notes.append("The bolt yields on the way: beyond yield no figure is given.")
    return Answer(
        {
            "delta_s_mm_per_N": delta_s,
            "delta_p_mm_per_N": delta_p,
            "tan_phi": slope,
            "gain_N_per_deg": ang.preload_gain(thread.pitch, math.radians(1), delta_s + delta_p),
            "preload_snug_N": snug.value,
            "preload_N": None if yields else total,
            "torque_end_Nm": None if yields else end,
            "yields": yields,
        },
        (*steps, *bracket_steps(joint, seat), snug, gain, full),
        tuple(notes),
    )


def backoff_sum(v: dict[str, Any]) -> Answer:
    """What a back-off leaves: preload, or play."""
    thread: Thread = v["thread"]
    if (v["back"] is None) == (v["flats"] is None):
        raise Impossible(
            Message.BAD_VALUE, ("back",), reason="Give either --back in degrees or --flats"
        )
    turn = v["back"] if v["back"] is not None else v["flats"] * math.pi / 3
    delta_s, delta_p, _, steps = resiliences(v)
    elastic = explain(
        ang.angle_for_gain, gain=v["preload"], resilience=delta_s + delta_p, pitch=thread.pitch
    )
    left = explain(ang.preload_left, preload=v["preload"], turn=turn, elastic=elastic.value)
    play = explain(ang.end_play, pitch=thread.pitch, turn=turn, elastic=elastic.value)
    return Answer(
        {
            "elastic_angle_deg": math.degrees(elastic.value),
            "preload_left_N": left.value,
            "end_play_mm": play.value,
        },
        (*steps, elastic, left, play),
        ("Play for a rigid stack; the lock nut shifts it, so the measured play decides.",),
    )


def _code_loads(v: dict[str, Any], widths: gas.GasketWidths) -> tuple[Step | None, Step | None]:
    """What y asks for to seat the gasket, and m while it is under pressure."""
    shared = {"effective": widths.effective, "reaction_diameter": widths.reaction_diameter}
    seating = operating = None
    if v["y"] is not None:
        seating = explain(gas.seating_load, seating=v["y"], **shared)
    if v["m"] is not None and v["pressure"] is not None:
        operating = explain(gas.operating_load, factor=v["m"], pressure=v["pressure"], **shared)
    return seating, operating


def gasket_sum(v: dict[str, Any]) -> Answer:
    """Gasket widths, mean stress, and the loads that m and y ask for."""
    if v["inside"] >= v["outside"]:
        raise Impossible(
            Message.OUT_OF_RANGE,
            ("inside",),
            value=f"{v['inside']:g} mm",
            range=f"less than the outside ({v['outside']:g} mm)",
        )
    inch = v.get("units", {}).get("outside") in ("in", "ft")
    widths = gas.gasket_widths(v["outside"], v["inside"], inch)
    if v["bolts"] < 1:
        raise Impossible(Message.OUT_OF_RANGE, ("bolts",), value=v["bolts"], range="1 bolt or more")
    pressure = v["pressure"] or 0.0
    end = explain(gas.end_force, reaction_diameter=widths.reaction_diameter, pressure=pressure)
    area = widths.area
    still = explain(
        gas.gasket_stress, bolts=float(v["bolts"]), preload=v["preload"], end=0.0, area=area
    )
    service = explain(
        gas.gasket_stress, bolts=float(v["bolts"]), preload=v["preload"], end=end.value, area=area
    )
    seating, operating = _code_loads(v, widths)
    steps = [still, end, service, *(step for step in (seating, operating) if step)]
    notes = [
        "Flat faces; loads are for all bolts together.",
        f"b is b0 up to {'1/4 in' if inch else '6 mm'}. The code's SI edition rounds the "
        "factor 2.52 behind it to 2.5: "
        "0.8 % less.",
    ]
    if service.value <= 0 < pressure:
        notes.append(
            f"The joint opens: the pressure pulls with {end.value / 1e3:.4g} kN, the bolts hold "
            f"{v['bolts'] * v['preload'] / 1e3:.4g} kN."
        )
    return Answer(
        {
            "width_mm": widths.width,
            "b0_mm": widths.basic,
            "b_mm": widths.effective,
            "G_mm": widths.reaction_diameter,
            "area_mm2": area,
            "stress_MPa": still.value,
            "stress_service_MPa": service.value if v["pressure"] is not None else None,
            "seating_load_N": seating.value if seating else None,
            "operating_load_N": operating.value if operating else None,
        },
        tuple(steps),
        tuple(notes),
    )


def order_sum(v: dict[str, Any]) -> Answer:
    """A tightening order as place numbers; with several tools, the moves."""
    kind, count = v["kind"], v["count"]
    if kind == "grid":
        rows, columns = v["rows"], v["columns"]
        if rows is None or columns is None:
            raise Impossible(
                Message.BAD_VALUE, ("rows",), reason="A grid needs --rows and --columns"
            )
        if count is not None and rows * columns != count:
            raise Impossible(
                Message.BAD_VALUE, ("count",), reason=f"{rows} × {columns} is not {count} bolts"
            )
        return Answer({"order": layouts.grid_order(rows, columns)})
    if count is None:
        raise Impossible(Message.MISSING_FIELD, ("count",))
    if kind == "row":
        return Answer({"order": layouts.row_order(count)})
    group = v["group"] if v["group"] is not None else 1
    if kind == "circle":
        plain = orders.circle_order(count)
    else:
        plain = (
            orders.grouped_cross_order(count, group) if group != 1 else orders.cross_order(count)
        )
    begun = orders.turned(plain, v["start"] if v["start"] is not None else 1, "cw", count)
    if v["tools"] is not None:
        return Answer({"order": orders.tool_moves(count, v["tools"], begun)})
    stray, arc = orders.measures(begun, count)
    return Answer(
        {"order": begun},
        (),
        (
            f"To compare orders: after a pair the sum of directions strays {stray:.2f} bolts "
            "from the centre at the most; "
            f"when half are tight the largest stretch without one is {arc} of {count} pitches.",
        ),
    )
