"""Sums about the joint at work: working loads, flange by component, temperature, stripping with
dilation, own friction tests."""

from __future__ import annotations

from statistics import mean
from typing import Any

from ..errors import Impossible
from ..mechanics import engagement as eng
from ..mechanics import flange as fla
from ..mechanics import friction_tests as fri
from ..mechanics import strip_factors as strip
from ..mechanics import thermal as the
from ..mechanics import working_loads as work
from ..mechanics.formula import Step, explain
from ..messages import Message
from ..tables.threads import Thread
from .bolts import seat_of, strength_in
from .fields import Answer

_SEPARATES = (
    "The joint separates: no clamp is left and the bolt carries all of the axial load, not its "
    "share."
)
_BREAKS = (
    "The alternating stress is above the endurance limit of a rolled thread: the bolt breaks in "
    "time."
)
_SAFETY = "Safety against slip: 1.2 is wanted for a steady, 1.8 for an alternating load."


def _against_slip(v: dict[str, Any], residual: Step) -> tuple[Step | None, float | None]:
    """The clamp that keeps the parts from sliding, and the safety against it; none without a
    transverse load."""
    if v["transverse"] is None:
        return None, None
    needed = explain(
        work.clamp_against_slip,
        transverse=v["transverse"],
        faces=float(v["faces"] or 1),
        friction=v["slip_friction"],
    )
    if residual.value <= 0:
        return needed, 0.0
    return needed, explain(work.slip_safety, residual=residual.value, needed=needed.value).value


def _require_work(v: dict[str, Any], axial: float, low: float) -> None:
    """Raises Impossible for loads that do not belong together."""
    if low > axial:
        raise Impossible(
            Message.OUT_OF_RANGE,
            ("axial-low",),
            value=f"{low / 1e3:g} kN",
            range=f"at most the highest load ({axial / 1e3:g} kN)",
        )
    if (v["transverse"] is None) != (v["slip_friction"] is None):
        wanted = "slip-friction" if v["slip_friction"] is None else "transverse"
        raise Impossible(Message.MISSING_FIELD, (wanted,))


def working_sum(v: dict[str, Any]) -> Answer:
    """What an axial and a transverse load do to bolt and clamp."""
    thread: Thread = v["thread"]
    strength = strength_in(v["grade"], thread.diameter)
    axial, low = v["axial"], v["axial_low"] or 0.0
    _require_work(v, axial, low)
    factor = explain(
        work.load_factor, introduction=v["introduction"], fastener=v["delta_s"], parts=v["delta_p"]
    )
    extra = explain(work.bolt_extra, factor=factor.value, axial=axial)
    residual = explain(
        work.residual_clamp,
        preload=v["preload"],
        loss=v["loss"] or 0.0,
        factor=factor.value,
        axial=axial,
    )
    shared = {"high": axial, "low": low, "stress_area": thread.stress_area, "factor": factor.value}
    if residual.value <= 0:
        kept = {"preload": v["preload"], "loss": v["loss"] or 0.0}
        extra = explain(work.extra_once_separated, axial=axial, **kept)
        swing = explain(work.alternating_once_separated, **kept, **shared)
    else:
        swing = explain(work.alternating_stress, **shared)
    endurance = explain(work.endurance_limit, diameter=thread.diameter)
    needed, safety = _against_slip(v, residual)
    steps = [factor, extra, residual, swing, endurance, *([needed] if needed else [])]
    separates = residual.value <= 0
    full = strength.yield_ * thread.stress_area
    told = {
        _SEPARATES: separates,
        _BREAKS: swing.value > endurance.value,
        _SAFETY: safety is not None,
        f"Preload and load together are above yield ({full / 1e3:.4g} kN).": (
            v["preload"] + extra.value > full
        ),
    }
    begin = "; a load from zero where no lowest one is given" if not low else ""
    notes = [f"Preload at its low end{begin}.", *(note for note, holds in told.items() if holds)]
    return Answer(
        {
            "load_factor": factor.value,
            "bolt_extra_N": extra.value,
            "residual_clamp_N": residual.value,
            "separates": separates,
            "slip_safety": safety,
            "alternating_MPa": swing.value,
            "endurance_MPa": endurance.value,
        },
        tuple(steps),
        tuple(notes),
    )


def _flange_bounds(
    v: dict[str, Any],
) -> tuple[list[tuple[str, Step | float]], list[tuple[str, Step | float]]]:
    """(lower, upper) bounds of the bolt stress by name; those that are entered are figures."""
    shared = {
        "gasket_area": v["gasket_area"],
        "bolts": float(v["bolts"]),
        "root_area": v["root_area"],
    }
    lower: list[tuple[str, Step | float]] = []
    upper: list[tuple[str, Step | float]] = []
    if v["bolt_min"] is not None:
        lower.append(("bolt", v["bolt_min"]))
    if v["seating_stress"] is not None:
        lower.append(
            ("seating", explain(fla.bolt_stress_for, gasket_stress=v["seating_stress"], **shared))
        )
    if v["operating_stress"] is not None:
        if v["pressure"] is None or v["gasket_inside"] is None:
            raise Impossible(
                Message.MISSING_FIELD, ("pressure" if v["pressure"] is None else "gasket-inside",)
            )
        lower.append(
            (
                "operating",
                explain(
                    fla.bolt_stress_in_operation,
                    gasket_stress=v["operating_stress"],
                    pressure=v["pressure"],
                    inside=v["gasket_inside"],
                    relaxation=v["relaxation"] if v["relaxation"] is not None else fla.RELAXATION,
                    **shared,
                ),
            )
        )
    if v["bolt_max"] is not None:
        upper.append(("bolt", v["bolt_max"]))
    if v["flange_max"] is not None:
        upper.append(("flange", v["flange_max"]))
    if v["crush_stress"] is not None:
        upper.append(
            ("crush", explain(fla.bolt_stress_for, gasket_stress=v["crush_stress"], **shared))
        )
    if (
        v["gasket_rotation"] is not None
        and v["flange_rotation"] is not None
        and v["flange_max"] is not None
    ):
        upper.append(
            (
                "rotation",
                explain(
                    fla.bolt_stress_for_rotation,
                    flange=v["flange_max"],
                    gasket_rotation=v["gasket_rotation"],
                    flange_rotation=v["flange_rotation"],
                ),
            )
        )
    return lower, upper


def _figure(bound: Step | float) -> float:
    return bound.value if isinstance(bound, Step) else bound


def flange_sum(v: dict[str, Any]) -> Answer:
    """Bolt stress of a flange from what its gasket wants, between the bounds of bolt, flange and
    gasket."""
    selected = explain(
        fla.bolt_stress_for,
        gasket_stress=v["target_stress"],
        gasket_area=v["gasket_area"],
        bolts=float(v["bolts"]),
        root_area=v["root_area"],
    )
    lower, upper = _flange_bounds(v)
    least = max(lower, key=lambda b: _figure(b[1]), default=None)
    most = min(upper, key=lambda b: _figure(b[1]), default=None)
    load = explain(fla.bolt_load, stress=selected.value, root_area=v["root_area"])
    low, high = _figure(least[1]) if least else None, _figure(most[1]) if most else None
    good = (low is None or selected.value >= low) and (high is None or selected.value <= high)
    notes = [
        (
            "Stresses are for the bolt's root area. Figures of a flange come from its maker or a "
            "code calculation."
        )
    ]
    if low is not None and high is not None and low > high:
        notes.append(
            "The lower limit is above the upper limit: this joint has no bolt stress that "
            "satisfies all."
        )
    steps = tuple(s for _, s in (*lower, *upper) if isinstance(s, Step))
    return Answer(
        {
            "bolt_stress_MPa": selected.value,
            "lower_MPa": low,
            "upper_MPa": high,
            "governs_lower": least[0] if least else None,
            "governs_upper": most[0] if most else None,
            "ok": good,
            "bolt_load_N": load.value,
        },
        (*steps, selected, load),
        tuple(notes),
    )


def thermal_sum(v: dict[str, Any]) -> Answer:
    """What temperature leaves of a preload."""
    lost = explain(
        the.preload_lost,
        preload=v["preload"],
        grip=v["grip"],
        fastener=v["delta_s"],
        parts=v["delta_p"],
        bolt_growth=v["alpha_bolt"] * v["rise_bolt"],
        parts_growth=v["alpha_parts"] * v["rise_parts"],
        bolt_ratio=v["modulus_ratio_bolt"] or 1.0,
        parts_ratio=v["modulus_ratio_parts"] or 1.0,
    )
    hot = explain(the.preload_hot, preload=v["preload"], lost=lost.value)
    notes = [
        (
            "A change above zero is lost when hot, below zero gained. Steady temperatures; a "
            "start or a wash-down may be worse."
        )
    ]
    if hot.value <= 0:
        notes.append("Nothing is left of the preload: the joint is open when hot.")
    # a bolt pulls and never pushes
    return Answer(
        {"change_N": lost.value, "preload_hot_N": max(0.0, hot.value)}, (lost, hot), tuple(notes)
    )


def stripping_sum(v: dict[str, Any]) -> Answer:
    """Which thread strips, with strength ratio and nut dilation."""
    thread: Thread = v["thread"]
    strength, engaged = strength_in(v["grade"], thread.diameter), v["length"]
    inside, outside = eng.shear_areas(thread, engaged)
    own, mate = 0.6 * strength.tensile, v["shear_internal"]
    flats = v["across_flats"]
    if flats is not None and flats <= thread.diameter:
        raise Impossible(
            Message.OUT_OF_RANGE,
            ("across-flats",),
            value=f"{flats:g} mm",
            range=f"more than the thread ({thread.diameter:g} mm)",
        )
    found = strip.with_dilation((own, mate), (outside, inside), flats, thread.diameter)
    (external, internal), loads = found.factors, found.loads
    steps = [inside, outside, found.ratio, *([found.widens] if found.widens else [])]
    plain = min(own * outside.value, mate * inside.value)
    careful = "this form" if min(x.value for x in loads) < plain else "the plain form"
    return Answer(
        {
            "strength_ratio": found.ratio.value,
            "dilation": found.widens.value if found.widens else 1.0,
            "external_factor": external.value,
            "internal_factor": internal.value,
            "external_load_N": loads[0].value,
            "internal_load_N": loads[1].value,
        },
        (*steps, external, internal, *loads),
        (
            f"The plain form gives {plain / 1e3:.4g} kN; {careful} is the more cautious.",
            "No width across flats means a part that does not widen.",
        ),
    )


def _require_pairs(torques: list[float], loads: list[float], apart: list[float]) -> None:
    """Raises Impossible where the readings do not belong together."""
    for name, values in (("preload", loads), ("thread-torque", apart)):
        if len(values) != len(torques) and (values or name == "preload"):
            raise Impossible(
                Message.BAD_VALUE,
                (name,),
                reason=f"Give as many as torques ({len(torques)}), in the same order",
            )
    if not torques:
        raise Impossible(Message.MISSING_FIELD, ("torque",))


def friction_sum(v: dict[str, Any]) -> Answer:
    """Friction from own tests: torque and clamp load measured together."""
    thread: Thread = v["thread"]
    torques, loads, apart = v["torque"], v["preload"], v["thread_torque"]
    _require_pairs(torques, loads, apart)
    seat = seat_of(v)
    pairs = list(zip(torques, loads, strict=True))
    factors = [
        explain(fri.measured_nut_factor, torque=t, preload=f, diameter=thread.diameter)
        for t, f in pairs
    ]
    totals = [
        explain(
            fri.total_friction,
            torque=t,
            preload=f,
            pitch=thread.pitch,
            pitch_diameter=thread.pitch_diameter,
            bearing_diameter=seat.effective,
        )
        for t, f in pairs
    ]
    if min(x.value for x in totals) <= 0:
        raise Impossible(
            Message.BAD_VALUE,
            ("torque",),
            reason="This torque is less than the pitch alone takes for that load: "
            "check units and pairs",
        )
    figures: dict[str, Any] = {
        "nut_factor": mean(x.value for x in factors),
        "mu_total": mean(x.value for x in totals),
    }
    if apart:
        figures["mu_thread"] = mean(
            fri.thread_friction(t, f, thread.pitch, thread.pitch_diameter)
            for t, f in zip(apart, loads, strict=True)
        )
        figures["mu_bearing"] = mean(
            fri.bearing_friction(t, own, f, seat.effective)
            for (t, f), own in zip(pairs, apart, strict=True)
        )
    band = fri.tested_band([x.value for x in totals])
    note = (
        f"{len(pairs)} tests: mean and two-sided tolerance interval for 90 % of the population "
        "with 95 % confidence (normal)."
    )
    if band is None:
        note = (
            f"{len(pairs)} test{'' if len(pairs) == 1 else 's'}: under {fri.LEAST_TESTS} give no "
            "band; the typical one stays."
        )
    else:
        figures |= dict(zip(("low", "typical", "high"), band, strict=True))
    return Answer(figures, (*seat.steps, *factors[:1], *totals[:1]), (note,))
