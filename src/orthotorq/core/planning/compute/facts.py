"""The facts of one group: thread, strength, friction, seat, stiffness; everything that does not depend on its tools."""
from __future__ import annotations

import math
from dataclasses import dataclass

from ...documents.base import as_band
from ...documents.joint import ConeFace, FlatFace, Group
from ...documents.plan import Plan
from ...errors import BadThread, Impossible, UnknownName
from ...mechanics import preload as pre
from ...mechanics import stiffness as stiff
from ...mechanics.window import Joint
from ...messages import Message
from ...tables import lubricants, materials
from ...tables.grades import Strength, strength_of
from ...tables.hexagons import Hexagon, hexagon
from ...tables.lubricants import Band
from ...tables.materials import Material
from ...tables.threads import Thread, parse_thread
from .collect import Collector

_FLAT = Band(0.1, 0.1, 0.1)


@dataclass(frozen=True, slots=True)
class Friction:
    """Friction in use with its name and where its band comes from; `forbidden` names where it must not be."""

    lubricant: str | None
    name: str
    mu_thread: Band | None
    mu_bearing: Band | None
    nut_factor: Band | None
    dry: bool
    solid: bool
    forbidden: tuple[str, ...]
    source: str


@dataclass(frozen=True, slots=True)
class Stiffness:
    """Resilience of fastener and parts [mm/N], clamped length [mm], slope of the cone, layers as (thickness, modulus)."""

    fastener: float
    parts: float
    grip: float
    slope: float
    outside: float
    layers: tuple[stiff.Layer, ...]
    tapped: bool
    mate_modulus: float
    head: float
    shank: float

    @property
    def both(self) -> float:
        """Sum of the resiliences [mm/N]."""
        return self.fastener + self.parts


@dataclass(frozen=True, slots=True)
class Facts:
    """Everything about a group that does not depend on its target or tools (mm, N, MPa, N·mm)."""

    group: Group
    thread: Thread
    hexagon: Hexagon | None
    strength: Strength
    friction: Friction
    joint: Joint
    face_diameter: float | None
    hole: float | None
    stainless: bool
    stiffness: Stiffness | None


def material_of(plan: Plan, name: str) -> Material:
    """A material of the plan's own or of the table. Raises UnknownName."""
    own = plan.definitions.materials.get(name)
    if own is not None:
        shear = own.shear.base if own.shear else 0.6 * own.tensile.base
        bearing = own.bearing.base if own.bearing else own.tensile.base
        return Material(name, own.modulus.base, own.tensile.base, shear, bearing, "own entry")
    found = materials.table().get(name)
    if found is None:
        known = ", ".join([*plan.definitions.materials, *materials.table()])
        raise UnknownName(Message.MATERIAL_UNKNOWN, text=name[:60], known=known)
    return found


def _strength(plan: Plan, group: Group, thread: Thread) -> Strength:
    own = plan.definitions.grades.get(group.fastener.grade)
    if own is None:
        return strength_of(group.fastener.grade, thread.diameter)
    return Strength(group.fastener.grade, own.proof.base if own.proof else None, own.yield_strength.base,
                    own.tensile.base, "own entry", (), own.source)


def friction_of(plan: Plan, group: Group) -> Friction:
    """Friction of a group: entered bands first, then the plan's own entry, then the table. Raises UnknownName."""
    given, known = group.friction, lubricants.table()
    own = plan.definitions.lubricants.get(given.lubricant) if given.lubricant else None
    shipped = known.get(given.lubricant) if given.lubricant and own is None else None
    if given.lubricant and own is None and shipped is None:
        raise UnknownName(Message.LUBRICANT_UNKNOWN, ("lubricant",), text=given.lubricant)
    mu_t = as_band(given.mu_thread) if given.mu_thread else None
    mu_b = as_band(given.mu_bearing) if given.mu_bearing else None
    factor = as_band(given.nut_factor) if given.nut_factor else None
    measured = mu_t is not None or factor is not None
    name, dry, solid, source = "as entered", True, False, "entered in the plan"
    forbidden: tuple[str, ...] = ()
    if own is not None:
        name, dry, solid, source = own.name, own.dry, own.solid, own.source or "own entry of the plan"
        forbidden = ("friction hub", "gasket", "dry seat") if own.solid else () if own.dry else ("gasket", "dry seat")
        mu_t = mu_t or as_band(own.mu_thread)
        mu_b = mu_b or (as_band(own.mu_bearing) if own.mu_bearing else None)
        factor = factor or (as_band(own.nut_factor) if own.nut_factor and not given.mu_thread else None)
    elif shipped is not None:
        name, dry, solid, forbidden = shipped.name, shipped.dry, shipped.solid, shipped.forbidden
        source = "entered in the plan" if measured else f"typical band, table {shipped.id}"
        if factor is None:
            mu_t, mu_b = mu_t or shipped.mu_thread, mu_b or (shipped.mu_bearing if not measured else None)
    return Friction(given.lubricant, name, mu_t, mu_b or mu_t, factor, dry, solid, forbidden, source)


def _faces(group: Group, thread: Thread, hexa: Hexagon | None) -> tuple[float, float | None, float | None, float]:
    """(effective diameter, d_w, d_h, sin of the cone's half-angle) in mm."""
    face = group.fastener.face
    if isinstance(face, FlatFace):
        if face.hole.base < thread.minor_diameter:
            raise Impossible(Message.OUT_OF_RANGE, ("hole",), value=str(face.hole),
                             range=f"at least the thread's core ({thread.minor_diameter:.2f} mm)")
        found = pre.effective_diameter(face.face_diameter.base, face.hole.base)
        return found, face.face_diameter.base, face.hole.base, 1.0
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


def _modulus(name: str) -> float:
    """Modulus of a fastener [MPa]: stainless grades are a little softer than steel."""
    return 200_000.0 if is_stainless(name) else stiff.STEEL


def is_stainless(grade: str) -> bool:
    """Whether a grade is an austenitic stainless one."""
    return grade.startswith("ISO 3506") or "A193 B8" in grade


def _stiffness(plan: Plan, index: int, thread: Thread, strength: Strength, face: float | None, hole: float | None,
               collector: Collector) -> Stiffness | None:
    """Resiliences of a group whose stack is given; None where it is not, or where the seat is no flat face."""
    group = plan.groups[index]
    if not group.stack:
        return None
    path = ("groups", index, "stack")
    if face is None or hole is None:
        # a cone seat: the cone of pressure starts about at the hexagon's own face
        hexa = hexagon(thread, group.fastener.head)
        face, hole = (hexa.face_diameter, hexa.hole) if hexa else (1.5 * thread.diameter, 1.1 * thread.diameter)
    layers, outsides = [], []
    for j, layer in enumerate(group.stack):
        with collector.at(*path, j, "material"):
            layers.append(stiff.Layer(layer.thickness.base, material_of(plan, layer.material).modulus))
        outside = layer.outside.base if layer.outside else 3 * face
        if outside <= face:
            with collector.at(*path, j, "outside"):
                raise Impossible(Message.OUT_OF_RANGE, value=f"An outside diameter of {outside:g} mm",
                                 range=f"more than the bearing face ({face:g} mm)")
        outsides.append(outside)
    if len(layers) < len(group.stack) or min(outsides) <= face:
        return None
    return _resiliences(plan, index, thread, strength, tuple(layers), min(outsides), (face, hole), collector)


def _resiliences(plan: Plan, index: int, thread: Thread, strength: Strength, layers: tuple[stiff.Layer, ...], outside: float,
                 seat: tuple[float, float], collector: Collector) -> Stiffness | None:
    group = plan.groups[index]
    face, hole = seat
    grip = sum(layer.thickness for layer in layers)
    tapped = group.into is not None and group.into.kind == "tapped"
    modulus, mate = _modulus(strength.name), stiff.STEEL
    if group.into is not None and group.into.material is not None:
        with collector.at("groups", index, "into", "material"):
            mate = material_of(plan, group.into.material).modulus
    slope = (stiff.cone_slope_tapped if tapped else stiff.cone_slope_through)(grip, face, outside)
    shank = group.fastener.shank_length.base if group.fastener.shank_length else 0.0
    head = 0.4 if group.fastener.head == "socket head" else 0.5
    with collector.at("groups", index, "stack"):
        bolt = stiff.fastener_resilience(thread.diameter, thread.minor_area, grip, shank, modulus, head,
                                         0.33 if tapped else 0.4, mate if tapped else modulus)
        if slope <= 0.01:
            raise Impossible(Message.BAD_VALUE, reason="This stack is too short for a deformation cone")
        parts = stiff.parts_resilience(layers, face, hole, outside, slope, tapped)
        return Stiffness(bolt, parts, grip, slope, outside, layers, tapped, mate if tapped else modulus, head, shank)
    return None


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
        friction = friction_of(plan, group)
    with collector.at(*path, "fastener", "face"):
        effective, face_diameter, hole, sine = _faces(group, thread, hexa)
    if group.into is not None and group.into.material is not None:
        with collector.at(*path, "into", "material"):
            material_of(plan, group.into.material)
    if len(collector.errors) > before:
        return None
    joint = Joint(thread.diameter, thread.pitch, thread.pitch_diameter, effective, friction.mu_thread or _FLAT,
                  friction.mu_bearing or _FLAT, friction.nut_factor, sine, group.fastener.prevailing.base)
    stiffness = _stiffness(plan, index, thread, strength, face_diameter, hole, collector)
    if len(collector.errors) > before:
        return None
    return Facts(group, thread, hexa, strength, friction, joint, face_diameter, hole, is_stainless(strength.name), stiffness)
