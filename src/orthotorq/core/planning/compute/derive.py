"""The steps behind the figures of a result: formula, numbers put in, result."""
from __future__ import annotations

from collections.abc import Callable

from ...documents.joint import ConeFace
from ...documents.passes import GapPass, TorquePass
from ...documents.plan import Plan
from ...documents.targets import PreloadTarget, YieldTarget
from ...mechanics import angle as ang
from ...mechanics import engagement as eng
from ...mechanics import gasket as gas
from ...mechanics import losses as loss
from ...mechanics import preload as pre
from ...mechanics import stiffness as stiff
from ...mechanics import strength as lim
from ...mechanics import tools as mech
from ...mechanics.formula import Step, explain
from ...tables import gaskets
from ...units import show, show_quantity
from .chosen import STIFFNESS_SCATTER, Chosen, area_words
from .facts import Facts
from .limits import gasket_factors, loss_of, mu_low, softer_end, teeth_of
from .settings import Chain, chain_of

Derived = tuple[list[Step], list[str]]


def bracket(facts: Facts, end: str) -> list[Step]:
    """The steps up to k at the low, typical or high end of the friction band."""
    joint = facts.joint
    if joint.nut_factor is not None:
        return []
    steps = []
    if facts.face_diameter is not None and facts.hole is not None:
        steps.append(explain(pre.effective_diameter, face_diameter=facts.face_diameter, hole=facts.hole))
    mu_t, mu_b = getattr(joint.mu_thread, end), getattr(joint.mu_bearing, end)
    face = facts.group.fastener.face
    if isinstance(face, ConeFace):
        steps.append(explain(pre.cone_friction, mu_bearing=mu_b, half_angle=face.half_angle.base))
        mu_b = steps[-1].value
    steps.append(explain(pre.torque_per_preload, pitch=joint.pitch, pitch_diameter=joint.pitch_diameter,
                         mu_thread=mu_t, mu_bearing=mu_b, bearing_diameter=joint.bearing_diameter))
    return steps


def _k(facts: Facts, steps: list[Step], end: str) -> float:
    value: float = steps[-1].value if steps else getattr(facts.joint.band_per_preload(), end)
    return value


def torque(plan: Plan, chosen: Chosen) -> Derived:
    """How the target's torque came to be."""
    facts = chosen.facts
    target = plan.targets[facts.group.id]
    notes = [f"Chosen because: {chosen.why}."]
    force: float | None = None
    steps: list[Step] = []
    if isinstance(target, YieldTarget):
        area = facts.thread.root_area if facts.group.limits.area == "root" else facts.thread.stress_area
        steps.append(explain(lim.preload_at_fraction, fraction=target.fraction, yield_strength=facts.strength.yield_, area=area))
        force = steps[0].value
        notes.append(f"Stress on the {area_words(facts)}.")
    elif isinstance(target, PreloadTarget):
        force = target.preload.base
    if force is None:
        return [], [*notes, "The figure is given, not calculated."]
    if facts.joint.nut_factor is not None:
        return [*steps, explain(pre.torque_from_nut_factor, preload=force, nut_factor=facts.joint.nut_factor.typical,
                                diameter=facts.thread.diameter)], notes
    inner = bracket(facts, "typical")
    last = explain(pre.torque_from_preload, preload=force, per_preload=_k(facts, inner, "typical"),
                   prevailing=facts.joint.prevailing)
    return [*steps, *inner, last], notes


def preload(chosen: Chosen, torque_at_bolt: float, accuracy: float) -> Derived:
    """The preload band: typical, low, high; with an angle, the load it adds."""
    facts = chosen.facts
    steps: list[Step] = []
    for end, factor in (("typical", 1.0), ("high", 1 - accuracy), ("low", 1 + accuracy)):
        inner = bracket(facts, end)
        steps += inner if end == "typical" else inner[-1:]
        steps.append(explain(pre.preload_from_torque, torque=torque_at_bolt * factor, per_preload=_k(facts, inner, end),
                             prevailing=facts.joint.prevailing))
    notes = [f"Typical first; then the low end (high friction, wrench {accuracy * 100:g} % low) and the high end "
             f"(low friction, wrench {accuracy * 100:g} % high): worst case.", f"Friction: {facts.friction.source}."]
    if chosen.angle and facts.stiffness is not None:
        stiff_steps, _ = stiffness(facts)
        gain = explain(ang.preload_gain, pitch=facts.thread.pitch, turn=chosen.angle, resilience=facts.stiffness.both)
        steps += [*stiff_steps, gain]
        notes.append(f"The angle adds {show_quantity(gain.value, 'force', 'kN')} to each, and scatters by "
                     f"{STIFFNESS_SCATTER * 100:g} % with the stiffness.")
    return steps, notes


def stiffness(facts: Facts) -> Derived:
    """Resiliences of fastener and parts."""
    s = facts.stiffness
    if s is None:
        return [], ["No clamped stack is given."]
    face = facts.face_diameter or (facts.hexagon.face_diameter if facts.hexagon else 1.5 * facts.thread.diameter)
    hole = facts.hole or (facts.hexagon.hole if facts.hexagon else 1.1 * facts.thread.diameter)
    slope = explain(stiff.cone_slope_tapped if s.tapped else stiff.cone_slope_through, grip=s.grip, face_diameter=face,
                    outer_diameter=s.outside)
    modulus = 200_000.0 if facts.stainless else stiff.STEEL
    bolt = explain(stiff.fastener_resilience, diameter=facts.thread.diameter, minor_area=facts.thread.minor_area, grip=s.grip,
                   shank=s.shank, modulus=modulus, head=s.head, mate=0.33 if s.tapped else 0.4, mate_modulus=s.mate_modulus)
    parts = stiff.explain_parts(s.layers, face, hole, s.outside, s.slope, s.tapped)
    return [bolt, slope, parts], ["The narrowest layer's outside diameter is taken for all."]


def losses(facts: Facts) -> Derived:
    """What settling takes."""
    out = loss_of(facts)
    steps: list[Step] = []
    notes = []
    if facts.stiffness is not None and out.embedding_mm is not None:
        steps.append(explain(loss.embedding_loss, amount=out.embedding_mm, fastener=facts.stiffness.fastener,
                             parts=facts.stiffness.parts))
        amount = f"{out.embedding_mm * 1e3:g} µm"
        notes.append(f"Faces of {facts.group.roughness} (R_z): {amount} over thread, bearing and joint faces.")
    else:
        notes.append("Embedding is not known without the clamped stack.")
    if out.creep_share:
        steps.append(explain(loss.creep_share, total=out.creep_share, hours=1000.0, reference=1000.0))
        notes.append(f"Gasket creep {out.creep_share * 100:g} % in the first 1000 h, in the logarithm of time.")
    return steps, notes


def _share(plan: Plan, chosen: Chosen) -> Derived | None:
    facts = chosen.facts
    fraction = facts.group.limits.yield_fraction
    if fraction is None:
        return None
    area = facts.thread.root_area if facts.group.limits.area == "root" else facts.thread.stress_area
    return [explain(lim.preload_at_fraction, fraction=fraction, yield_strength=facts.strength.yield_, area=area)], [
        f"Strength: {facts.strength.name}, {facts.strength.certainty}; stress on the {area_words(facts)}."]


def _proof(plan: Plan, chosen: Chosen) -> Derived | None:
    strength = chosen.facts.strength
    if strength.proof is None:
        return None
    return [explain(lim.preload_at_fraction, fraction=1.0, yield_strength=strength.proof,
                    area=chosen.facts.thread.stress_area)], [f"Proof strength of {strength.name} in place of yield."]


def _combined(plan: Plan, chosen: Chosen) -> Derived | None:
    facts = chosen.facts
    if facts.friction.mu_thread is None:
        return None
    return [explain(lim.combined_preload, fraction=facts.group.limits.nu, yield_strength=facts.strength.yield_,
                    stress_area=facts.thread.stress_area, pitch=facts.thread.pitch,
                    pitch_diameter=facts.thread.pitch_diameter, stress_diameter=facts.thread.stress_diameter,
                    mu_thread=mu_low(facts))], ["At the low end of the friction band: low friction gives the high preload."]


def _stripping(plan: Plan, chosen: Chosen) -> Derived | None:
    facts = chosen.facts
    teeth = teeth_of(plan, facts)
    if teeth is None or not teeth.engaged:
        return None
    thread = facts.thread
    inside = explain(eng.internal_shear_area, diameter=thread.diameter, engaged=teeth.engaged, pitch=thread.pitch,
                     pitch_diameter=thread.pitch_diameter)
    outside = explain(eng.external_shear_area, internal_minor=thread.internal_minor_diameter, engaged=teeth.engaged,
                      pitch=thread.pitch, pitch_diameter=thread.pitch_diameter)
    pairs = [(inside, explain(eng.stripping_load, shear=teeth.internal_shear, area=inside.value)),
             (outside, explain(eng.stripping_load, shear=teeth.external_shear, area=outside.value))]
    # the thread that gives way first comes last: a working ends at the figure
    pairs.sort(key=lambda pair: -pair[1].value)
    return [step for pair in pairs for step in pair], [
        f"The {teeth.weaker} thread gives way first. Add one pitch ({thread.pitch:g} mm) for incomplete threads."]


def _bearing(plan: Plan, chosen: Chosen) -> Derived | None:
    facts = chosen.facts
    if facts.face_diameter is None or facts.hole is None or not facts.group.stack:
        return None
    name, pressure = softer_end(plan, facts.group)
    return [explain(lim.clamp_at_bearing_pressure, pressure=pressure, face_diameter=facts.face_diameter, hole=facts.hole)], [
        f"The softer of the parts pressed on: {name}; the table's limit is typical unless the part's own is given."]


def _gasket_limit(plan: Plan, chosen: Chosen, field: str) -> Derived | None:
    gasket = chosen.facts.group.gasket
    if gasket is None:
        return None
    kind = gaskets.table().get(gasket.type) if gasket.type else None
    given = getattr(gasket, field)
    typical = {"seating": kind.seating, "damage": kind.damage}.get(field) if kind else None
    stress = given.base if given else typical
    if stress is None:
        return None
    area = explain(lim.ring_area, outside=gasket.outside.base, inside=gasket.inside.base)
    steps = [area, explain(lim.clamp_at_gasket_stress, stress=stress, contact_area=area.value,
                           bolts=float(chosen.facts.group.layout.count))]
    notes = ["Stress from the gasket's sheet." if given else f"Typical stress of the type “{kind.name if kind else ''}”."]
    if field == "service" and gasket.pressure is not None:
        widths = gas.gasket_widths(gasket.outside.base, gasket.inside.base)
        end = explain(gas.end_force, reaction_diameter=widths.reaction_diameter, pressure=gasket.pressure.base)
        steps += [end, explain(gas.clamp_with_end_force, stress_clamp=steps[-1].value, end=end.value,
                               bolts=float(chosen.facts.group.layout.count))]
    return steps, notes


def _gasket_code(plan: Plan, chosen: Chosen, factor: str) -> Derived | None:
    gasket = chosen.facts.group.gasket
    if gasket is None:
        return None
    widths = gas.gasket_widths(gasket.outside.base, gasket.inside.base)
    m, y, _ = gasket_factors(gasket)
    notes = [f"b is the effective seating width, {show(widths.effective, 4)} mm."]
    if factor == "y" and y is not None:
        load = explain(gas.seating_load, effective=widths.effective, reaction_diameter=widths.reaction_diameter, seating=y)
    elif factor == "m" and m is not None and gasket.pressure is not None:
        load = explain(gas.operating_load, effective=widths.effective, reaction_diameter=widths.reaction_diameter, factor=m,
                       pressure=gasket.pressure.base)
    else:
        return None
    return [load, explain(gas.share_of_bolt, load=load.value, bolts=float(chosen.facts.group.layout.count))], notes


def _said(words: str) -> Callable[[Plan, Chosen], Derived]:
    return lambda plan, chosen: ([], [words])


_LIMITS: dict[str, Callable[[Plan, Chosen], Derived | None]] = {
    "share": _share, "proof": _proof, "combined": _combined, "stripping": _stripping, "bearing": _bearing,
    "soft_part": _said("Entered by the planner: what the soft part bears."),
    "required": _said("Entered by the planner: what the joint needs."),
    "gasket_seating": lambda p, c: _gasket_limit(p, c, "seating"),
    "gasket_service": lambda p, c: _gasket_limit(p, c, "service"),
    "gasket_damage": lambda p, c: _gasket_limit(p, c, "damage"),
    "gasket_y": lambda p, c: _gasket_code(p, c, "y"), "gasket_m": lambda p, c: _gasket_code(p, c, "m"),
}


def _of_torque(chosen: Chosen, torque_at_bolt: float, words: str) -> Derived:
    inner = bracket(chosen.facts, "typical")
    steps = [*inner, explain(pre.preload_from_torque, torque=torque_at_bolt, per_preload=_k(chosen.facts, inner, "typical"),
                             prevailing=chosen.facts.joint.prevailing)]
    if chosen.angle and chosen.facts.stiffness is not None:
        gain = explain(ang.preload_gain, pitch=chosen.facts.thread.pitch, turn=chosen.angle,
                       resilience=chosen.facts.stiffness.both)
        steps += [gain, explain(ang.after_angle, snug=steps[-1].value, gain=gain.value)]
    return steps, [words]


def limit(plan: Plan, chosen: Chosen, code: str, most: dict[str, float]) -> Derived | None:
    """The derivation of one bound; None for a bound that is not there."""
    if code in most:
        return _of_torque(chosen, most[code], f"The clamp load at the most the {code} can give, at typical friction.")
    if code in ("code_at_most", "code_at_least"):
        field = code.removeprefix("code_")
        bound = next((b for r in chosen.sources.readings if (b := getattr(r.source.says, field)) is not None), None)
        return _of_torque(chosen, bound.base, "The clamp load at the bound, at typical friction.") if bound else None
    found = _LIMITS.get(code)
    return found(plan, chosen) if found else None


def setting(plan: Plan, one: TorquePass | GapPass, chosen: Chosen, name: str) -> Derived | None:
    """What is put on the wrench for one pass: a share of the target, or the cap of an even draw."""
    if isinstance(one, TorquePass):
        return chain_steps(chain_of(plan, name), chosen.torque, one.percent)
    return chain_steps(chain_of(plan, name), one.cap.base, 100.0) if one.cap else None


def chain_steps(chain: Chain, torque_at_bolt: float, percent: float) -> Derived:
    """From a share of the torque at the bolt through multipliers and adapter to the wrench."""
    steps: list[Step] = []
    drive = torque_at_bolt * percent / 100
    whole = show_quantity(torque_at_bolt, "torque", "N·m")
    notes = [f"{percent:g} % of {whole} is {show(drive / 1e3, 5)} N·m at the bolt."]
    for m in chain.multipliers:
        steps.append(explain(mech.multiplier_setting, torque=drive, ratio=m.multiplier, efficiency=m.efficiency[1]))
        drive = steps[-1].value
    if chain.multipliers:
        steps.append(explain(mech.reaction_torque, torque=torque_at_bolt * percent / 100, setting=drive))
    if chain.adapter is not None and chain.tool.length is not None:
        steps.append(explain(mech.adapter_setting, torque=drive, length=chain.tool.length.base,
                             adapter=chain.adapter.adapter.base, angle=chain.adapter.angle.base))
        drive = steps[-1].value
    if chain.tool.increment is not None:
        notes.append(f"Rounded to the wrench's increment of {chain.tool.increment}, nearest, half upwards: "
                     f"{show_quantity(mech.settable(drive, chain.tool.increment.base).value, 'torque', 'N·m')}.")
    if chain.tool.length is not None:
        steps.append(explain(mech.hand_force, setting=drive, length=chain.tool.length.base))
    return steps, notes


