"""Every bound of the clamp load of one bolt, and the window between them."""
from __future__ import annotations

from dataclasses import dataclass

from ...documents.joint import FlatFace, Gasket, Group
from ...documents.plan import Plan
from ...documents.result import LimitOut, LossOut, WindowOut
from ...mechanics import engagement as eng
from ...mechanics import gasket as gas
from ...mechanics import losses as loss
from ...mechanics import preload as pre
from ...mechanics import strength as lim
from ...mechanics.window import PreloadBand
from ...tables import gaskets
from ...tables.lubricants import Band
from .chosen import Chosen
from .facts import Facts, material_of


@dataclass(frozen=True, slots=True)
class Bound:
    """One bound: code, words, side, clamp load [N], the field that sets it."""

    code: str
    name: str
    upper: bool
    clamp: float
    input: str


@dataclass(frozen=True, slots=True)
class Teeth:
    """Threads in shear: areas [mm²], strengths [MPa], the weaker one, load it carries [N], length needed [mm], turns."""

    internal_area: float
    external_area: float
    internal_shear: float
    external_shear: float
    weaker: str
    carries: float
    required: float
    turns: float
    engaged: float


def teeth_of(plan: Plan, facts: Facts) -> Teeth | None:
    """Stripping of the engaged threads; None where no engaged length is given."""
    into, thread = facts.group.into, facts.thread
    if into is None or into.engaged is None:
        return None
    engaged = into.engaged.base - (into.spacer.base if into.spacer else 0.0)
    if engaged <= 0:
        return Teeth(0.0, 0.0, 0.0, 0.0, "internal", 0.0, 0.0, 0.0, 0.0)
    own = 0.6 * facts.strength.tensile
    # a nut without a named material is taken as matching its bolt
    mate = into.shear.base if into.shear else material_of(plan, into.material).shear if into.material else own
    inside = eng.internal_shear_area(thread.diameter, engaged, thread.pitch, thread.pitch_diameter)
    outside = eng.external_shear_area(thread.internal_minor_diameter, engaged, thread.pitch, thread.pitch_diameter)
    weaker = "internal" if mate * inside < own * outside else "external"
    carries = min(mate * inside, own * outside)
    breaks = facts.strength.tensile * thread.stress_area
    return Teeth(inside, outside, mate, own, weaker, carries, engaged * breaks / carries, engaged / thread.pitch, engaged)


def gasket_factors(gasket: Gasket) -> tuple[float | None, float | None, float]:
    """(m, y [MPa], creep share): the sheet's own, else the type's typical ones."""
    kind = gaskets.table().get(gasket.type) if gasket.type else None
    m = gasket.m if gasket.m is not None else kind.m if kind else None
    y = gasket.y.base if gasket.y is not None else kind.y if kind else None
    creep = gasket.creep if gasket.creep is not None else kind.creep if kind else 0.0
    return m, y, creep


def _bolt_bounds(facts: Facts) -> list[Bound]:
    group, thread, strength = facts.group, facts.thread, facts.strength
    base, limits = f"groups/{group.id}", group.limits
    mu = facts.friction.mu_thread
    out = []
    if limits.yield_fraction is not None:
        area = thread.root_area if limits.area == "root" else thread.stress_area
        out.append(Bound("share", f"{limits.yield_fraction * 100:g} % of yield", True,
                         lim.preload_at_fraction(limits.yield_fraction, strength.yield_, area), f"{base}/limits/yield_fraction"))
    if strength.proof is not None:
        out.append(Bound("proof", "proof load", True, strength.proof * thread.stress_area, f"{base}/fastener/grade"))
    if mu is not None:
        out.append(Bound("combined", "combined, at assembly", True,
                         lim.combined_preload(limits.nu, strength.yield_, thread.stress_area, thread.pitch,
                                              thread.pitch_diameter, thread.stress_diameter, mu.low), f"{base}/limits/nu"))
    return out


def softer_end(plan: Plan, group: Group) -> tuple[str, float]:
    """(name, bearing limit [MPa]) of the softer part that a face presses on; under a nut too, when the face is the table's."""
    ends = [group.stack[0]]
    if group.into is not None and group.into.kind == "nut" and not isinstance(group.fastener.face, FlatFace):
        ends.append(group.stack[-1])
    return min(((layer.name or layer.material, layer.limit.base if layer.limit
                 else material_of(plan, layer.material).bearing) for layer in ends), key=lambda end: end[1])


def _part_bounds(plan: Plan, facts: Facts) -> list[Bound]:
    group = facts.group
    base = f"groups/{group.id}"
    out = []
    teeth = teeth_of(plan, facts)
    if teeth is not None and teeth.carries > 0:
        out.append(Bound("stripping", f"{teeth.weaker} thread strips", True, teeth.carries, f"{base}/into/engaged"))
    if group.stack and facts.face_diameter is not None and facts.hole is not None:
        name, pressure = softer_end(plan, group)
        out.append(Bound("bearing", f"pressure on {name}", True,
                         lim.clamp_at_bearing_pressure(pressure, facts.face_diameter, facts.hole), f"{base}/stack/limit"))
    if group.limits.soft_part is not None:
        out.append(Bound("soft_part", "soft part", True, group.limits.soft_part.base, f"{base}/limits/soft_part"))
    if group.required_clamp is not None:
        out.append(Bound("required", "joint needs", False, group.required_clamp.base, f"{base}/required_clamp"))
    return out


def _gasket_bounds(facts: Facts) -> list[Bound]:
    """What gasket sheet (stress window) and code (m and y) ask of one bolt."""
    gasket, count = facts.group.gasket, facts.group.layout.count
    if gasket is None:
        return []
    base = f"groups/{facts.group.id}/gasket"
    widths = gas.gasket_widths(gasket.outside.base, gasket.inside.base)
    end = gas.end_force(widths.reaction_diameter, gasket.pressure.base) if gasket.pressure else 0.0
    kind = gaskets.table().get(gasket.type) if gasket.type else None
    out = []
    seating = gasket.seating.base if gasket.seating else kind.seating if kind else None
    damage = gasket.damage.base if gasket.damage else kind.damage if kind else None
    if seating is not None:
        out.append(Bound("gasket_seating", "gasket seats", False,
                         lim.clamp_at_gasket_stress(seating, widths.area, count), f"{base}/seating"))
    if gasket.service is not None:
        still = lim.clamp_at_gasket_stress(gasket.service.base, widths.area, count)
        out.append(Bound("gasket_service", "gasket in service", False, gas.clamp_with_end_force(still, end, count),
                         f"{base}/service"))
    if damage is not None:
        out.append(Bound("gasket_damage", "gasket damaged", True,
                         lim.clamp_at_gasket_stress(damage, widths.area, count), f"{base}/damage"))
    m, _, _ = gasket_factors(gasket)
    if gasket.y is not None:
        load = gas.seating_load(widths.effective, widths.reaction_diameter, gasket.y.base)
        out.append(Bound("gasket_y", "code, seating (y)", False, gas.share_of_bolt(load, count), f"{base}/y"))
    if m is not None and gasket.pressure is not None:
        load = gas.operating_load(widths.effective, widths.reaction_diameter, m, gasket.pressure.base)
        out.append(Bound("gasket_m", "code, operating (m)", False, gas.share_of_bolt(load, count), f"{base}/m"))
    return out


def _torque_bounds(chosen: Chosen, most: dict[str, float]) -> list[Bound]:
    """Bounds that are torques: of codes, and of what wrench and drive can give; as clamp at typical friction."""
    facts = chosen.facts
    k, prevailing = facts.joint.band_per_preload().typical, facts.joint.prevailing
    out = []
    for reading in chosen.sources.readings:
        says = reading.source.says
        for field, upper in (("at_most", True), ("at_least", False)):
            bound = getattr(says, field)
            if bound is not None and reading.struck is None and bound.base > prevailing:
                out.append(Bound(f"code_{field}", f"{reading.source.by}, {field.replace('_', ' ')}", upper,
                                 pre.preload_from_torque(bound.base, k, prevailing) + chosen.gain(),
                                 f"sources/{reading.source.id}"))
    for name, torque in most.items():
        if torque > prevailing:
            out.append(Bound(name, f"{name} at its limit", True,
                             pre.preload_from_torque(torque, k, prevailing) + chosen.gain(), f"tools/{name}"))
    return out


def bounds_of(plan: Plan, chosen: Chosen, most: dict[str, float] | None = None) -> list[Bound]:
    """Every bound of one bolt of a group; `most` holds the torques [N·mm] that wrench and drive can give."""
    facts = chosen.facts
    return [*_bolt_bounds(facts), *_part_bounds(plan, facts), *_gasket_bounds(facts), *_torque_bounds(chosen, most or {})]


def limit_outs(bounds: list[Bound], typical: float) -> list[LimitOut]:
    """Bounds with how far the typical preload uses each."""
    return [LimitOut(code=b.code, name=b.name, side="upper" if b.upper else "lower", clamp_N=b.clamp, use=typical / b.clamp,
                     input=b.input) for b in bounds]


def loss_of(facts: Facts) -> LossOut:
    """What settling of the faces and creep of the gasket take from one bolt."""
    group = facts.group
    embedding, per_face = None, None
    if facts.stiffness is not None:
        layers = len(group.stack)
        inner = layers if facts.stiffness.tapped else layers - 1
        per_face = loss.embedding(loss.ROUGHNESS[group.roughness], 1 if facts.stiffness.tapped else 2, max(0, inner))
        embedding = loss.embedding_loss(per_face, facts.stiffness.fastener, facts.stiffness.parts)
    creep = gasket_factors(group.gasket)[2] if group.gasket else 0.0
    return LossOut(embedding_N=embedding, embedding_mm=per_face, creep_share=creep)


def after_losses(load: float, losses: LossOut) -> float:
    """A load [N] less what embedding and creep take."""
    return float(max(0.0, (load - (losses.embedding_N or 0.0)) * (1 - losses.creep_share)))


#: lower bounds that must hold at assembly; the others must hold after losses
#: bounds of the torque, not of the load: they are shown, but scatter of friction does not pass them
OF_TORQUE = ("wrench", "drive", "code_at_most", "code_at_least")
AT_ASSEMBLY = ("gasket_seating", "gasket_y", "code_at_least")


def low_for(limit: LimitOut, band: PreloadBand, losses: LossOut) -> float:
    """The low end of the band that a lower bound is held against [N]."""
    return band.low if limit.code in AT_ASSEMBLY else after_losses(band.low, losses)


def window_of(limits: list[LimitOut], band: PreloadBand, losses: LossOut) -> WindowOut:
    """Needed and allowed clamp; fine when the whole worst-case band fits, tight when only its middle does."""
    limits = [x for x in limits if x.code not in OF_TORQUE]
    lower = max((x for x in limits if x.side == "lower"), key=lambda x: x.clamp_N, default=None)
    upper = min((x for x in limits if x.side == "upper"), key=lambda x: x.clamp_N, default=None)
    low, high = lower.clamp_N if lower else None, upper.clamp_N if upper else None
    if lower is None and upper is None:
        return WindowOut(lower_N=None, upper_N=None, verdict="unbounded", opens=None)
    misses_low = any(low_for(x, band, losses) < x.clamp_N for x in limits if x.side == "lower")
    misses_high = upper is not None and band.high > upper.clamp_N
    if not misses_low and not misses_high:
        return WindowOut(lower_N=low, upper_N=high, verdict="fine", opens=None)
    if lower is not None and upper is not None and lower.clamp_N >= upper.clamp_N:
        return WindowOut(lower_N=low, upper_N=high, verdict="impossible",
                         opens=f"“{lower.name}” lies above “{upper.name}”: one of the two inputs must change")
    middle = (lower is None or band.typical >= lower.clamp_N) and (upper is None or band.typical <= upper.clamp_N)
    spread = band.high / max(band.low, 1.0)
    need = (upper.clamp_N / lower.clamp_N) if lower and upper else None
    if need is not None and spread > need:
        opens = f"a narrower friction band: the load scatters 1 : {spread:.2f}, the window is 1 : {need:.2f} wide"
    else:
        opens = "a higher torque" if misses_low else "a lower torque"
    return WindowOut(lower_N=low, upper_N=high, verdict="tight" if middle else "impossible", opens=opens)


def mu_low(facts: Facts) -> float:
    """Low end of thread friction; nought in the short form, where it is unknown."""
    return (facts.friction.mu_thread or Band(0.0, 0.0, 0.0)).low
