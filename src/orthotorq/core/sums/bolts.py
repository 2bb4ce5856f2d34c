"""Sums about one bolt: thread, grade, torque, preload, limit, engagement."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from ..errors import BadThread, Impossible, OrthotorqError
from ..mechanics import preload as pre
from ..mechanics import strength as lim
from ..mechanics.formula import Step, explain
from ..mechanics.window import Joint, preload_band
from ..messages import Message
from ..tables import lubricants
from ..tables.grades import Strength, strength_of
from ..tables.hexagons import hexagon
from ..tables.lubricants import Band
from ..tables.threads import Thread
from ..thresholds import LONG_FORM_TO
from .fields import Answer


def thread_sum(v: dict[str, Any]) -> Answer:
    """Geometry and hexagon of a thread."""
    thread: Thread = v["thread"]
    head = hexagon(thread)
    notes: tuple[str, ...] = (f"{thread.designation}, {thread.series}",)
    if head is None:
        notes += ("No hexagon table covers this size; nothing is guessed.",)
    return Answer(
        {
            "diameter_mm": thread.diameter,
            "pitch_mm": thread.pitch,
            "pitch_diameter_mm": thread.pitch_diameter,
            "minor_diameter_mm": thread.minor_diameter,
            "stress_area_mm2": thread.stress_area,
            "root_area_mm2": thread.root_area,
            "across_flats_mm": head.across_flats if head else None,
            "face_diameter_mm": head.face_diameter if head else None,
            "hole_mm": head.hole if head else None,
        },
        (),
        notes,
    )


def strength_in(name: str, diameter: float) -> Strength:
    """Strength of a grade at a diameter [mm]; what is wrong with it stands at the field of the
    grade."""
    try:
        return strength_of(name, diameter)
    except OrthotorqError as error:
        error.path = ("grade",)
        raise


def grade_sum(v: dict[str, Any]) -> Answer:
    """Strength of a grade at a size."""
    found = strength_in(v["grade"], v["diameter"])
    notes = (f"{found.name}: {found.note}" if found.note else found.name,)
    return Answer(
        {
            "proof_MPa": found.proof,
            "yield_MPa": found.yield_,
            "tensile_MPa": found.tensile,
            "certainty": found.certainty,
            "assumed": list(found.assumed),
        },
        (),
        notes,
    )


@dataclass(frozen=True, slots=True)
class Seat:
    """The bearing face of a sum: effective diameter, d_w, d_h [mm]; None where it was not
    needed."""

    effective: float
    face: float | None
    hole: float | None
    steps: tuple[Step, ...]


def seat_of(v: dict[str, Any]) -> Seat:
    """Effective bearing diameter from what was given, else from the hexagon table. Raises when
    neither is there."""
    thread: Thread = v["thread"]
    if v.get("effective_diameter") is not None:
        if v["effective_diameter"] <= thread.minor_diameter:
            raise Impossible(
                Message.OUT_OF_RANGE,
                ("effective-diameter",),
                value=f"{v['effective_diameter']:g} mm",
                range=f"more than the thread's core ({thread.minor_diameter:.2f} mm)",
            )
        return Seat(v["effective_diameter"], v.get("face_diameter"), v.get("hole"), ())
    head = hexagon(thread)
    face, hole = v.get("face_diameter"), v.get("hole")
    if head is None and (face is None or hole is None):
        raise BadThread(Message.HEXAGON_UNKNOWN, thread=thread.designation)
    face = face if face is not None else (head.face_diameter if head else 0.0)
    hole = hole if hole is not None else (head.hole if head else 0.0)
    step = explain(pre.effective_diameter, face_diameter=face, hole=hole)
    return Seat(step.value, face, hole, (step,))


def joint_of(v: dict[str, Any]) -> tuple[Joint, Seat | None]:
    """Friction and seat of a sum; the short form needs no seat."""
    thread: Thread = v["thread"]
    prevailing = v.get("prevailing") or 0.0
    if v.get("k") is not None:
        if v.get("mu_thread") is not None or v.get("mu_bearing") is not None:
            raise Impossible(
                Message.BAD_VALUE, ("k",), reason="Give friction as --mu-thread or as --k, not both"
            )
        flat, head = Band(0.1, 0.1, 0.1), hexagon(thread)
        face = v.get("effective_diameter") or (
            pre.effective_diameter(head.face_diameter, head.hole) if head else 0.0
        )
        return Joint(
            thread.diameter,
            thread.pitch,
            thread.pitch_diameter,
            face,
            flat,
            flat,
            v["k"],
            1.0,
            prevailing,
        ), None
    if v.get("mu_thread") is None:
        raise Impossible(Message.FRICTION_NEEDED, ("mu-thread",))
    seat = seat_of(v)
    mu_b = v.get("mu_bearing") or v["mu_thread"]
    return Joint(
        thread.diameter,
        thread.pitch,
        thread.pitch_diameter,
        seat.effective,
        v["mu_thread"],
        mu_b,
        None,
        1.0,
        prevailing,
    ), seat


def bracket_steps(joint: Joint, seat: Seat | None, end: str = "typical") -> tuple[Step, ...]:
    """Steps up to the torque per preload; none in the short form."""
    if joint.nut_factor is not None:
        return ()
    return (
        *(seat.steps if seat else ()),
        explain(
            pre.torque_per_preload,
            pitch=joint.pitch,
            pitch_diameter=joint.pitch_diameter,
            mu_thread=getattr(joint.mu_thread, end),
            mu_bearing=getattr(joint.mu_bearing, end),
            bearing_diameter=joint.bearing_diameter,
        ),
    )


def torque_sum(v: dict[str, Any]) -> Answer:
    """Torque for a wanted preload, and where it goes."""
    joint, seat = joint_of(v)
    k = joint.band_per_preload().typical
    steps = bracket_steps(joint, seat)
    torque = explain(
        pre.torque_from_preload, preload=v["preload"], per_preload=k, prevailing=joint.prevailing
    )
    shares: dict[str, float | None] = {
        "share_pitch": None,
        "share_thread": None,
        "share_bearing": None,
    }
    if joint.nut_factor is None:
        split = pre.torque_split(
            joint.pitch,
            joint.pitch_diameter,
            joint.mu_thread.typical,
            joint.mu_bearing.typical,
            joint.bearing_diameter,
        )
        shares = {
            "share_pitch": split.pitch,
            "share_thread": split.thread,
            "share_bearing": split.bearing,
        }
    factor = explain(pre.nut_factor, per_preload=k, diameter=joint.diameter)
    return Answer(
        {"torque_Nm": torque.value / 1e3, "nut_factor": factor.value, **shares},
        (*steps, torque, factor),
        _exact_note(joint, torque.value, v["preload"]),
    )


def preload_sum(v: dict[str, Any]) -> Answer:
    """Preload that a torque gives, with its scatter."""
    joint, seat = joint_of(v)
    accuracy = v["accuracy"] or 0.0
    band, bounds = (
        preload_band(v["torque"], (accuracy,) if accuracy else (), joint),
        _bounds(v, joint),
    )
    steps = []
    for end, factor in (("typical", 1.0), ("high", 1 - accuracy), ("low", 1 + accuracy)):
        own = bracket_steps(joint, seat, end)
        k = getattr(joint.band_per_preload(), end)
        steps += [
            *own,
            explain(
                pre.preload_from_torque,
                torque=v["torque"] * factor,
                per_preload=k,
                prevailing=joint.prevailing,
            ),
        ]
    return Answer(
        {
            "preload_N": band.typical,
            "preload_low_N": band.low,
            "preload_high_N": band.high,
            "preload_low_rss_N": band.low_rss,
            "preload_high_rss_N": band.high_rss,
        },
        tuple(steps),
        (
            (
                "Worst case at the ends of the friction band and the tool's accuracy; rss is "
                "root-sum-square."
            ),
            *_bound_notes(bounds, band.typical, band.high),
            *_split_note(joint),
            *_exact_note(joint, v["torque"], band.typical),
        ),
        bounds,
    )


def _bounds(v: dict[str, Any], joint: Joint) -> tuple[tuple[str, str, float], ...]:
    """What the bolt allows, where its grade is given."""
    if v.get("grade") is None:
        return ()
    thread: Thread = v["thread"]
    strength = strength_in(v["grade"], thread.diameter)
    out = [("yield", "yield in tension", strength.yield_ * thread.stress_area)]
    if strength.proof is not None:
        out.append(("proof", "proof load", strength.proof * thread.stress_area))
    out.append(
        (
            "combined",
            "combined, at assembly",
            lim.combined_preload(
                0.9,
                strength.yield_,
                thread.stress_area,
                thread.pitch,
                thread.pitch_diameter,
                thread.stress_diameter,
                joint.thread_friction().low,
            ),
        )
    )
    return tuple(out)


def _split_note(joint: Joint) -> tuple[str, ...]:
    """What is assumed where a nut factor is given."""
    if joint.nut_factor is None:
        return ()
    return (
        f"The nut factor does not separate thread and face: both are taken alike, at "
        f"{joint.thread_friction().typical:.3g}.",
    )


def _bound_notes(
    bounds: tuple[tuple[str, str, float], ...], typical: float, high: float
) -> tuple[str, ...]:
    """Every bound, and what passes it."""
    out = []
    for _, words, load in bounds:
        beyond = (
            "; the typical load is above it"
            if typical > load
            else "; the high end is above it"
            if high > load
            else ""
        )
        out.append(f"{words[0].upper()}{words[1:]}: {load / 1e3:.5g} kN{beyond}.")
    return tuple(out)


def _exact_note(joint: Joint, torque: float, preload: float) -> tuple[str, ...]:
    """What the exact form gives where friction is too high for the long form's approximation."""
    if (
        joint.nut_factor is not None
        or max(joint.mu_thread.typical, joint.mu_bearing.typical) <= LONG_FORM_TO.value
    ):
        return ()
    exact = (
        pre.exact_torque(
            preload,
            joint.pitch,
            joint.pitch_diameter,
            joint.mu_thread.typical,
            joint.mu_bearing.typical / joint.cone,
            joint.bearing_diameter,
        )
        + joint.prevailing
    )
    return (
        f"Above a friction of {LONG_FORM_TO.value:g} the long form is too rough: with the "
        "exact tan(φ + ρ′) the same load "
        f"takes {exact / 1e3:.5g} N·m ({(exact / torque - 1) * 100:+.1f} %).",
    )


def limit_sum(v: dict[str, Any]) -> Answer:
    """Greatest assembly preload of a bolt and the torque for it, both at the low end of the
    friction."""
    thread: Thread = v["thread"]
    strength = strength_in(v["grade"], thread.diameter)
    joint, seat = joint_of(v)
    nu = v["nu"] if v["nu"] is not None else 0.9
    combined = explain(
        lim.combined_preload,
        fraction=nu,
        yield_strength=strength.yield_,
        stress_area=thread.stress_area,
        pitch=thread.pitch,
        pitch_diameter=thread.pitch_diameter,
        stress_diameter=thread.stress_diameter,
        mu_thread=joint.thread_friction().low,
    )
    steps = [combined]
    tension = None
    if v["yield_fraction"] is not None:
        area = thread.root_area if v["area"] == "root" else thread.stress_area
        steps.append(
            explain(
                lim.preload_at_fraction,
                fraction=v["yield_fraction"],
                yield_strength=strength.yield_,
                area=area,
            )
        )
        tension = steps[-1].value
    least = min(combined.value, tension) if tension is not None else combined.value
    steps += bracket_steps(joint, seat, "low")
    torque = explain(
        pre.torque_from_preload,
        preload=least,
        per_preload=joint.band_per_preload().low,
        prevailing=joint.prevailing,
    )
    where = "root area" if v["area"] == "root" else "tensile stress area"
    return Answer(
        {
            "combined_preload_N": combined.value,
            "tension_preload_N": tension,
            "torque_Nm": torque.value / 1e3,
        },
        (*steps, torque),
        (
            f"{strength.name}, {strength.certainty}; tension on the {where}.",
            (
                "Limit and torque at the low end of the friction: with more friction this torque "
                "gives less load."
            ),
            *_split_note(joint),
        ),
    )


def lubricant_sum(v: dict[str, Any]) -> Answer:
    """What another lubricant does at the same torque, and which torque keeps the clamp load."""
    thread: Thread = v["thread"]
    known = lubricants.table()
    seat = seat_of(v)
    before, after = (
        Joint(
            thread.diameter,
            thread.pitch,
            thread.pitch_diameter,
            seat.effective,
            known[one].mu_thread,
            known[one].mu_bearing,
        )
        for one in (v["from"], v["to"])
    )
    steps: list[Step] = []
    loads = []
    for joint in (before, after):
        k = bracket_steps(joint, seat if joint is before else None)
        loads.append(
            explain(
                pre.preload_from_torque, torque=v["torque"], per_preload=k[-1].value, prevailing=0.0
            )
        )
        steps += [*k, loads[-1]]
    torque = explain(
        pre.torque_from_preload,
        preload=loads[0].value,
        per_preload=after.band_per_preload().typical,
        prevailing=0.0,
    )
    return Answer(
        {
            "preload_before_N": loads[0].value,
            "preload_after_N": loads[1].value,
            "change_percent": (loads[1].value / loads[0].value - 1) * 100,
            "same_clamp_torque_Nm": torque.value / 1e3,
        },
        (*steps, torque),
        (
            (
                f"{known[v['from']].name}, then {known[v['to']].name}: typical bands, not a "
                "maker's figure."
            ),
        ),
    )
