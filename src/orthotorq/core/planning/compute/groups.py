"""One group of bolts: thread, strength, friction, target, preload band, limits, window."""
from __future__ import annotations

import math
from dataclasses import dataclass, replace

from ...documents.base import as_band
from ...documents.plan import ConeFace, FlatFace, Group, Plan, PreloadTarget, TorqueTarget, YieldTarget
from ...documents.result import LimitOut, PlacePoint, WindowOut
from ...errors import BadThread, Impossible, UnknownName
from ...mechanics import preload as pre
from ...mechanics import strength as lim
from ...mechanics.window import Joint, PreloadBand, preload_band
from ...messages import Message
from ...tables import lubricants
from ...tables.grades import Strength, strength_of
from ...tables.hexagons import Hexagon, hexagon
from ...tables.lubricants import Band
from ...tables.threads import Thread, parse_thread
from .collect import Collector
from .sources import torque_of_source


@dataclass(frozen=True, slots=True)
class Friction:
    """Friction in use with its name and where its band comes from."""

    lubricant: str | None
    name: str
    mu_thread: Band | None
    mu_bearing: Band | None
    nut_factor: Band | None
    dry: bool
    source: str


@dataclass(frozen=True, slots=True)
class Facts:
    """Everything about a group that does not depend on its tools (mm, N, MPa, N·mm)."""

    group: Group
    thread: Thread
    hexagon: Hexagon | None
    strength: Strength
    friction: Friction
    joint: Joint
    face_diameter: float | None
    hole: float | None
    torque: float
    calculated: bool
    why: str


def place_points(group: Group) -> list[PlacePoint]:
    """Places of a circle in mm, x to the right and y up, 0° at the top, seen from the turning side."""
    layout = group.layout
    radius, sign = layout.diameter.base / 2, 1 if layout.sense == "cw" else -1
    ox, oy = layout.origin[0].base, layout.origin[1].base
    out = []
    for i in range(layout.count):
        angle = layout.first_at.quantity.base + sign * 2 * math.pi * i / layout.count
        out.append(PlacePoint(id=f"{group.id}.{i + 1}", number=i + 1, x_mm=round(ox + radius * math.sin(angle), 4),
                              y_mm=round(oy + radius * math.cos(angle), 4),
                              angle_deg=round(math.degrees(angle) % 360, 4)))
    return out


def _strength(plan: Plan, group: Group, thread: Thread) -> Strength:
    own = plan.definitions.grades.get(group.fastener.grade)
    if own is None:
        return strength_of(group.fastener.grade, thread.diameter)
    return Strength(group.fastener.grade, own.proof.base if own.proof else None, own.yield_strength.base,
                    own.tensile.base, "own entry", (), own.source)


def _friction(plan: Plan, group: Group) -> Friction:
    given, known = group.friction, lubricants.table()
    own = plan.definitions.lubricants.get(given.lubricant) if given.lubricant else None
    shipped = known.get(given.lubricant) if given.lubricant and own is None else None
    if given.lubricant and own is None and shipped is None:
        raise UnknownName(Message.LUBRICANT_UNKNOWN, ("lubricant",), text=given.lubricant)
    mu_t = as_band(given.mu_thread) if given.mu_thread else None
    mu_b = as_band(given.mu_bearing) if given.mu_bearing else None
    factor = as_band(given.nut_factor) if given.nut_factor else None
    measured = mu_t is not None or factor is not None
    name, dry, source = "as entered", True, "entered in the plan"
    if own is not None:
        name, dry, source = own.name, own.dry, own.source or "own entry of the plan"
        mu_t = mu_t or as_band(own.mu_thread)
        mu_b = mu_b or (as_band(own.mu_bearing) if own.mu_bearing else None)
        factor = factor or (as_band(own.nut_factor) if own.nut_factor and not given.mu_thread else None)
    elif shipped is not None:
        name, dry = shipped.name, shipped.dry
        source = "entered in the plan" if measured else f"typical band, table {shipped.id}"
        if factor is None:
            mu_t, mu_b = mu_t or shipped.mu_thread, mu_b or (shipped.mu_bearing if not measured else None)
    return Friction(given.lubricant, name, mu_t, mu_b or mu_t, factor, dry, source)


def _faces(group: Group, thread: Thread, hexa: Hexagon | None) -> tuple[float, float | None, float | None, float]:
    """(effective diameter, d_w, d_h, sin of the cone's half-angle) in mm."""
    face = group.fastener.face
    if isinstance(face, FlatFace):
        if face.hole.base < thread.minor_diameter:
            raise Impossible(Message.OUT_OF_RANGE, ("hole",), value=str(face.hole),
                             range=f"a hole larger than the thread's core ({thread.minor_diameter:.2f} mm)")
        return (pre.effective_diameter(face.face_diameter.base, face.hole.base), face.face_diameter.base,
                face.hole.base, 1.0)
    if isinstance(face, ConeFace):
        sine = math.sin(face.half_angle.base)
        if face.effective_diameter is not None:
            if face.effective_diameter.base <= thread.minor_diameter:
                raise Impossible(Message.OUT_OF_RANGE, ("effective_diameter",), value=str(face.effective_diameter),
                                 range=f"more than the thread's core ({thread.minor_diameter:.2f} mm)")
            return face.effective_diameter.base, None, None, sine
        if hexa is None:
            raise BadThread(Message.HEXAGON_UNKNOWN, thread=thread.designation)
        return (hexa.hole + hexa.across_flats) / 2, None, None, sine
    if hexa is None:
        raise BadThread(Message.HEXAGON_UNKNOWN, thread=thread.designation)
    return pre.effective_diameter(hexa.face_diameter, hexa.hole), hexa.face_diameter, hexa.hole, 1.0


def _target(plan: Plan, group: Group, joint: Joint, thread: Thread, strength: Strength,
            collector: Collector) -> tuple[float, bool, str]:
    """(torque N·mm, whether it was calculated, why)."""
    target = plan.targets[group.id]
    k = joint.band_per_preload().typical
    if isinstance(target, TorqueTarget):
        if target.source is not None:
            source = next(s for s in plan.sources if s.id == target.source)
            return torque_of_source(source, group, collector)
        assert target.torque is not None
        if target.torque.base <= joint.prevailing:
            raise Impossible(Message.PREVAILING_EATS_TORQUE, ("torque",), torque=f"{target.torque.base / 1e3:g}",
                             prevailing=f"{joint.prevailing / 1e3:g}")
        return target.torque.base, False, target.reason or "entered by the planner"
    if isinstance(target, PreloadTarget):
        words = f"calculated for {target.preload} at typical friction"
        return pre.torque_from_preload(target.preload.base, k, joint.prevailing), True, words
    assert isinstance(target, YieldTarget)
    force = lim.preload_at_fraction(target.fraction, strength.yield_, thread.stress_area)
    words = f"calculated for {target.fraction * 100:g} % of yield on the tensile stress area at typical friction"
    return pre.torque_from_preload(force, k, joint.prevailing), True, words


def gather(plan: Plan, index: int, collector: Collector) -> Facts | None:
    """The facts of one group, or None when a field error keeps it from being computed."""
    group = plan.groups[index]
    path = ("groups", index)
    before = len(collector.errors)
    thread = parse_thread(group.fastener.thread)
    hexa = hexagon(thread, group.fastener.head)
    with collector.at(*path, "fastener", "grade"):
        strength = _strength(plan, group, thread)
    with collector.at(*path, "friction"):
        friction = _friction(plan, group)
    with collector.at(*path, "fastener", "face"):
        effective, face_diameter, hole, sine = _faces(group, thread, hexa)
    if len(collector.errors) > before:
        return None
    flat = Band(0.1, 0.1, 0.1)
    joint = Joint(thread.diameter, thread.pitch, thread.pitch_diameter, effective, friction.mu_thread or flat,
                  friction.mu_bearing or flat, friction.nut_factor, sine, group.fastener.prevailing.base)
    if group.id not in plan.targets:
        return None
    with collector.at("targets", group.id):
        torque, calculated, why = _target(plan, group, joint, thread, strength, collector)
        return Facts(group, thread, hexa, strength, friction, joint, face_diameter, hole, torque, calculated, why)
    return None


def band_of(facts: Facts, torque: float, accuracies: tuple[float, ...]) -> PreloadBand:
    """Preload band [N] of a torque [N·mm] at this group."""
    return preload_band(torque, accuracies, facts.joint)


def dry_joint(facts: Facts) -> Joint:
    """The same joint with dry steel, to show what lubricating it does."""
    dry = lubricants.table()["dry-steel"]
    return replace(facts.joint, mu_thread=dry.mu_thread, mu_bearing=dry.mu_bearing, nut_factor=None)


def limits_of(facts: Facts, typical: float) -> list[LimitOut]:
    """Every bound of the clamp load of one bolt, N."""
    group, thread, strength = facts.group, facts.thread, facts.strength
    base = f"groups/{group.id}"
    area = thread.stress_area
    mu_low = (facts.friction.mu_thread or Band(0.1, 0.1, 0.1)).low
    out: list[tuple[str, str, str, float, str]] = []
    if group.limits.yield_fraction is not None:
        share = group.limits.yield_fraction
        out.append(("share", f"{share * 100:g} % of yield", "upper",
                    lim.preload_at_fraction(share, strength.yield_, area), f"{base}/limits/yield_fraction"))
    if strength.proof is not None:
        out.append(("proof", "proof load", "upper", strength.proof * area, f"{base}/fastener/grade"))
    if facts.friction.mu_thread is not None:
        out.append(("combined", "combined, at assembly", "upper",
                    lim.combined_preload(group.limits.nu, strength.yield_, area, thread.pitch, thread.pitch_diameter,
                                         thread.stress_diameter, mu_low), f"{base}/limits/nu"))
    if group.required_clamp is not None:
        out.append(("required", "joint needs", "lower", group.required_clamp.base, f"{base}/required_clamp"))
    if group.gasket is not None:
        gasket, count = group.gasket, group.layout.count
        contact = lim.ring_area(gasket.outside.base, gasket.inside.base)
        for field, name, side in (("seating", "gasket seats", "lower"), ("service", "gasket in service", "lower"),
                                  ("damage", "gasket damaged", "upper")):
            stress = getattr(gasket, field)
            if stress is not None:
                out.append((f"gasket_{field}", name, side,
                            lim.clamp_at_gasket_stress(stress.base, contact, count), f"{base}/gasket/{field}"))
    return [LimitOut(code=c, name=n, side="lower" if s == "lower" else "upper", clamp_N=v, use=typical / v, input=i)
            for c, n, s, v, i in out]


def window_of(limits: list[LimitOut], band: PreloadBand) -> WindowOut:
    """Needed and allowed clamp; fine when the whole worst-case band fits, tight when only its middle does."""
    lower = max((x for x in limits if x.side == "lower"), key=lambda x: x.clamp_N, default=None)
    upper = min((x for x in limits if x.side == "upper"), key=lambda x: x.clamp_N, default=None)
    low, high = lower.clamp_N if lower else None, upper.clamp_N if upper else None
    if lower is None and upper is None:
        return WindowOut(lower_N=None, upper_N=None, verdict="unbounded", opens=None)
    misses_low = lower is not None and band.low < lower.clamp_N
    misses_high = upper is not None and band.high > upper.clamp_N
    if not misses_low and not misses_high:
        return WindowOut(lower_N=low, upper_N=high, verdict="fine", opens=None)
    if lower is not None and upper is not None and lower.clamp_N >= upper.clamp_N:
        return WindowOut(lower_N=low, upper_N=high, verdict="impossible",
                         opens=f"“{lower.name}” lies above “{upper.name}”: one of the two inputs must change")
    middle = (lower is None or band.typical >= lower.clamp_N) and (upper is None or band.typical <= upper.clamp_N)
    spread = band.high / band.low
    need = (upper.clamp_N / lower.clamp_N) if lower and upper else None
    if need is not None and spread > need:
        opens = f"a narrower friction band: the load scatters 1 : {spread:.2f}, the window is 1 : {need:.2f} wide"
    else:
        opens = "a higher torque" if misses_low else "a lower torque"
    return WindowOut(lower_N=low, upper_N=high, verdict="tight" if middle else "impossible", opens=opens)
