"""Resiliences of a group whose clamped stack is given."""
from __future__ import annotations

from dataclasses import dataclass

from ...documents.plan import Plan
from ...errors import Impossible, UnknownName
from ...forms.errors import FieldErrors
from ...mechanics import stiffness as stiff
from ...messages import Message
from ...tables import materials
from ...tables.grades import Strength
from ...tables.hexagons import hexagon
from ...tables.materials import Material
from ...tables.threads import Thread

#: modulus of a fastener [MPa] by what it is made of: stainless is a little softer than steel
FASTENER_MODULUS = {"stainless": 200_000.0}


@dataclass(frozen=True, slots=True)
class Stiffness:
    """Resilience of fastener and parts [mm/N], clamped length [mm], slope of the cone, layers as (thickness, modulus), and the
    face and hole [mm] that the cone begins at."""

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
    face: float
    hole: float

    @property
    def both(self) -> float:
        """Sum of the resiliences [mm/N]."""
        return self.fastener + self.parts


def material_of(plan: Plan, name: str) -> Material:
    """A material of the plan's own or of the table. Raises UnknownName."""
    own = plan.definitions.materials.get(name)
    if own is not None:
        shear = own.shear.base if own.shear else 0.6 * own.tensile.base
        bearing = own.bearing.base if own.bearing else own.tensile.base
        return Material(name, own.modulus.base, own.tensile.base, shear, bearing, "own entry", own.family)
    found = materials.table().get(name)
    if found is None:
        known = ", ".join([*plan.definitions.materials, *materials.table()])
        raise UnknownName(Message.MATERIAL_UNKNOWN, text=name[:60], known=known)
    return found


def fastener_modulus(strength: Strength) -> float:
    """Modulus of a fastener [MPa]."""
    return FASTENER_MODULUS.get(strength.family, stiff.STEEL)


def stiffness_of(plan: Plan, index: int, thread: Thread, strength: Strength, face: float | None, hole: float | None,
               errors: FieldErrors) -> Stiffness | None:
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
        with errors.at(*path, j, "material"):
            layers.append(stiff.Layer(layer.thickness.base, material_of(plan, layer.material).modulus))
        outside = layer.outside.base if layer.outside else 3 * face
        if outside <= face:
            with errors.at(*path, j, "outside"):
                raise Impossible(Message.OUT_OF_RANGE, value=f"An outside diameter of {outside:g} mm",
                                 range=f"more than the bearing face ({face:g} mm)")
        outsides.append(outside)
    if len(layers) < len(group.stack) or min(outsides) <= face:
        return None
    return _resiliences(plan, index, thread, strength, tuple(layers), min(outsides), (face, hole), errors)


def _resiliences(plan: Plan, index: int, thread: Thread, strength: Strength, layers: tuple[stiff.Layer, ...], outside: float,
                 seat: tuple[float, float], errors: FieldErrors) -> Stiffness | None:
    group = plan.groups[index]
    face, hole = seat
    grip = sum(layer.thickness for layer in layers)
    tapped = group.into is not None and group.into.kind == "tapped"
    modulus, mate = fastener_modulus(strength), stiff.STEEL
    if group.into is not None and group.into.material is not None:
        with errors.at("groups", index, "into", "material"):
            mate = material_of(plan, group.into.material).modulus
    slope = (stiff.cone_slope_tapped if tapped else stiff.cone_slope_through)(grip, face, outside)
    shank = group.fastener.shank_length.base if group.fastener.shank_length else 0.0
    head = 0.4 if group.fastener.head == "socket head" else 0.5
    with errors.at("groups", index, "stack"):
        bolt = stiff.fastener_resilience(thread.diameter, thread.minor_area, grip, shank, modulus, head,
                                         0.33 if tapped else 0.4, mate if tapped else modulus)
        if slope <= 0.01:
            raise Impossible(Message.BAD_VALUE, reason="This stack is too short for a deformation cone")
        parts = stiff.parts_resilience(layers, face, hole, outside, slope, tapped)
        return Stiffness(bolt, parts, grip, slope, outside, layers, tapped, mate if tapped else modulus, head, shank, face, hole)
    return None
